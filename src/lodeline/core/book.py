"""The book of places: what each offers, to whom, when, and what is known of it by visits."""

from collections.abc import Mapping, Sequence
from dataclasses import field
from datetime import date, timedelta

import numpy as np

from lodeline.core.catalogue import SERVICES, GasHow, Sense, ServiceKind, StopAct
from lodeline.core.conditions import km_between
from lodeline.core.figures import Stops
from lodeline.core.log import Day, Log, Place
from lodeline.core.rig import Rig, Store
from lodeline.core.values import dataclass

_TURN_DEG = 360.0  # degrees of a turn


@dataclass(frozen=True, slots=True, kw_only=True)
class Service:
    """What a place offers of one kind. Prices are in the rig's money, which has no unit; None where nobody said.

    ``price``: of the whole; ``price_per_unit``: of a litre or kilogram; ``price_night``: of a night plugged in;
    ``hose``: whether one reaches the rig.
    """

    kind: ServiceKind
    l_per_min: float | None = None
    drinkable: bool | None = None
    hose: bool | None = None
    price: float | None = None
    price_per_unit: float | None = None
    price_night: float | None = None
    amps: float | None = None
    volts: float | None = None
    fuels: tuple[str, ...] = ()
    how: GasHow | None = None

    @property
    def is_paid(self) -> bool:
        """Whether it is known to cost anything."""
        return any(each for each in (self.price, self.price_per_unit, self.price_night))


@dataclass(frozen=True, slots=True, kw_only=True)
class VisitNote:
    """What was different at a place from what was thought, or is worth knowing, and when that was seen."""

    on: date
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Spot:
    """A place of the book. ``fee``: for entering; ``known_on``: when it was last seen or said to be so."""

    id: str
    name: str
    lat: float
    lon: float
    services: Mapping[str, Service] = field(default_factory=dict)
    opening_hours: str | None = None
    fee: float | None = None
    note: str = ""
    max_nights: int | None = None
    max_height_m: float | None = None
    max_length_m: float | None = None
    closed_months: frozenset[int] = frozenset()
    known_on: date | None = None
    notes: tuple[VisitNote, ...] = ()

    @property
    def place(self) -> Place:
        """Where it is."""
        return Place(self.name, self.lat, self.lon)

    def is_old(self, today: date) -> bool:
        """Whether nobody has seen or said anything of it for long."""
        return self.known_on is not None and today - self.known_on > timedelta(days=Stops.old_days)

    def service_for(self, store: Store) -> Service | None:
        """What serves a store here; of gas and fuel only what the store holds."""
        for service in self.services.values():
            if not serves(service.kind, store):
                continue
            contents = [each.id for each in store.kind.contents]
            if contents and service.fuels and (store.fuel or contents[0]) not in service.fuels:
                continue
            return service
        return None


def serves(kind: ServiceKind, store: Store) -> bool:
    """Whether such a service serves a store: by what the store says itself, else by its kind and sense."""
    if store.served_by is not None:
        return kind.id == store.served_by
    return store.kind.id in kind.serves and kind.sense in (None, store.sense)


def act_of(service: Service, store: Store) -> StopAct:
    """What is done with the store."""
    if store.is_bank:
        return StopAct.CHARGE
    if store.sense is Sense.FILLS:
        return StopAct.EMPTY
    return StopAct.SWAP if service.how is GasHow.SWAP else StopAct.FILL


def services_known(rig: Rig) -> tuple[ServiceKind, ...]:
    """The services that some store of a rig needs, and those that are always worth knowing."""
    return tuple(
        kind for kind in SERVICES.values() if not kind.serves or any(serves(kind, store) for store in rig.stores)
    )


def fits(rig: Rig, spot: Spot) -> bool:
    """Whether the rig is let in by its length and height; where it has not said how long it is, nobody knows."""
    too_long = rig.length_m is not None and spot.max_length_m is not None and rig.length_m > spot.max_length_m
    too_high = rig.height_m is not None and spot.max_height_m is not None and rig.height_m > spot.max_height_m
    return not (too_long or too_high)


def way_km(rig: Rig, a: Place, b: Place) -> float:
    """Way by road: great circle times a factor. [km]"""
    return km_between(a, b) * rig.road_factor


def way_h(rig: Rig, km: float) -> float:
    """Hours on such a way. [h]"""
    return km / rig.road_km_per_h


def bearing_deg(a: Place, b: Place) -> float:
    """Direction from one place to another, clockwise from north (initial bearing of the great circle)."""
    lat_a, lat_b, lon = np.radians([a.lat, b.lat, b.lon - a.lon])
    east = np.sin(lon) * np.cos(lat_b)
    north = np.cos(lat_a) * np.sin(lat_b) - np.sin(lat_a) * np.cos(lat_b) * np.cos(lon)
    return float(np.degrees(np.arctan2(east, north)) % _TURN_DEG)


def rings(ways: Sequence[float]) -> list[float]:
    """Round distances that most of the places lie within, in the unit of their ways; further ones stand at the rim."""
    ordered = sorted(ways)
    if not ordered or ordered[-1] <= 0:
        return []
    reached = max(ordered[int(_RINGED * (len(ordered) - 1))], _LEAST_RINGED)
    step = next(n for n in _RING_STEPS if n * _RINGS >= reached)
    return [float(step * n) for n in range(1, _RINGS + 1)]


# so many rings, which reach so many of the places, and a way of one at the least; the last step reaches round the earth
# by the longest way that a rig can say
_RINGS, _RINGED, _LEAST_RINGED = 3, 0.75, 1.0
_RING_STEPS = (1, 2, 5, 10, 15, 20, 30, 50, 100, 200, 500, 1000, 2000, 5000, 10000, 20000, 50000)


def spot_at(book: tuple[Spot, ...], place: Place | None) -> Spot | None:
    """The place of the book where somebody stands."""
    if place is None or not book:
        return None
    nearest = min(book, key=lambda each: km_between(each.place, place))
    return nearest if km_between(nearest.place, place) <= Stops.near_km else None


@dataclass(frozen=True, slots=True, kw_only=True)
class NightsAt:
    """A place where nights were logged that is not in the book yet."""

    place: Place
    nights: int
    last: date


def offered(log: Log, book: tuple[Spot, ...]) -> list[NightsAt]:
    """Places of the log that are not in the book, the latest first."""
    found: dict[tuple[float, float], list[Day]] = {}
    for day in log.days:
        if day.place is not None and spot_at(book, day.place) is None:
            near = next(
                (key for key in found if km_between(found[key][0].place or day.place, day.place) <= Stops.near_km),
                (day.place.lat, day.place.lon),
            )
            found.setdefault(near, []).append(day)
    nights = [
        NightsAt(place=days[-1].place, nights=len(days), last=days[-1].date)
        for days in found.values()
        if days[-1].place is not None
    ]
    return sorted(nights, key=lambda each: each.last, reverse=True)


@dataclass(frozen=True, slots=True, kw_only=True)
class PastVisit:
    """What was done at a place on a day: the events of its stores."""

    on: date
    day: Day


def visits(spot: Spot, log: Log) -> list[PastVisit]:
    """The days on which the log says that somebody was there, the latest first."""
    mine = [
        day
        for day in log.days
        if (day.visit is not None and day.visit.place == spot.id) or (day.place and spot_at((spot,), day.place))
    ]
    return [PastVisit(on=day.date, day=day) for day in reversed(mine)]
