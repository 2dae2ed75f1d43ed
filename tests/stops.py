"""Places, known stores and paths for the tests of stops and levers."""

from collections.abc import Mapping
from dataclasses import replace
from datetime import datetime
from typing import Any

from lodeline.core.book import Service, Spot
from lodeline.core.catalogue import SERVICES
from lodeline.core.forecast.known import Known
from lodeline.core.levers.agreed import Together, all_together
from lodeline.core.log import Event, Log, Place
from lodeline.core.rig import Rig
from lodeline.core.tracking.track import track
from lodeline.core.wishes import Agreed
from tests.builders import FRESH, GREY, a_fill, a_log, a_reading, a_rig, at

HERE = Place("Old field", 50.0, 8.0)
NOW = at(9, 8)


def a_spot(
    id: str, *offers: str, north_km: float = 5.0, prices: Mapping[str, float] | None = None, **more: Any
) -> Spot:
    """A place so far north of where the rig stands that serves what is named."""
    services = {}
    for each in offers:
        kind, price = SERVICES[each], (prices or {}).get(each)
        per_unit = price if each in ("gas", "fuel") else None
        night = price if each == "hookup" else None
        flat = None if per_unit or night else price
        services[each] = Service(kind=kind, price=flat, price_per_unit=per_unit, price_night=night)
    degrees = north_km / 111.195 / 1.3
    return Spot(id=id, name=id.title(), lat=HERE.lat + degrees, lon=HERE.lon, services=services, **more)


TANK = replace(FRESH, capacity=200.0)
_DUMPED = 5


def lived_in(*stores: Any, **changes: Any) -> tuple[Rig, Log]:
    """A rig that takes some 16 L a day of 200, and its log of nine days: 50 L are left, and 40 L of grey are there."""
    rig = a_rig(*(stores or (TANK, GREY)), **changes)
    fresh = next((store for store in rig.stores if store.id == "fresh"), TANK)
    entries: list[Any] = [a_fill(0, hour=7.0), Event(at(_DUMPED, 7.0), "dump", "grey")]
    for day in range(1, 9):
        entries.append(a_reading(day, fresh.capacity - 16.0 * (day + 0.5), hour=19.0))
        entries.append(a_reading(day, 9.2 * ((day - _DUMPED) % 9 + 0.5) % 80, "volume", "grey", hour=19.0))
    known = {store.id for store in rig.stores}
    return rig, a_log(*(each for each in entries if each.store in known), days=9, place=HERE)


def known_of(rig: Rig, log: Log, *book: Spot, agreed: tuple[Agreed, ...] = (), now: datetime = NOW) -> Known:
    """What is known of a rig, on the tenth morning where nothing else is said."""
    return Known(rig=rig, log=log, outlook=(), now=now, tracked=track(rig, log, now), book=book, agreed=agreed)


def together_of(known: Known, days: int = 14, n_paths: int = 400) -> Together:
    """The paths of a rig's stores with the levers, few of them."""
    return all_together(known, 1, days, n_paths)
