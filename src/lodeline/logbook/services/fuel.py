"""Gas, heat and fuel of what is derived, and what is said and accepted of them."""

from datetime import timedelta
from typing import Any

from django.contrib.auth.models import User

from lodeline.core import carried
from lodeline.core import problems as p
from lodeline.core.conditions import Conditions, logged
from lodeline.core.energy import heat
from lodeline.core.errors import Refused
from lodeline.core.figures import Fuel, Heat
from lodeline.core.forecast.forecast import StoreForecast
from lodeline.core.fuel import burns, engines, lines, nights, run
from lodeline.core.fuel.cold import ColdBottle, cold_bottle
from lodeline.core.rig import Appliance, Rig, Store
from lodeline.core.statistics import Range
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass
from lodeline.core.warmth import HeatGear
from lodeline.formats import document as d
from lodeline.logbook import models as m
from lodeline.logbook.services import rigs, rows
from lodeline.logbook.services.derived import Derived


def late_days(known: Derived) -> list[Conditions]:
    """The days of late, as they were."""
    today = known.rig.zone.date(known.now)
    since = today - timedelta(days=int(Fuel.list_days))
    every = logged(known.rig, known.log, today)
    return [day for on, day in every.items() if since <= on < today] or list(every.values())[-1:]


def held(known: Derived) -> tuple[burns.Held, ...]:
    """The list against the log, store by store."""
    days = late_days(known)
    found = (burns.held(known.rig, each, days) for each in known.tracked.values())
    return tuple(each for each in found if each is not None)


def cold_bottles(known: Derived, low_c: float) -> tuple[ColdBottle, ...]:
    """The gas bottles that stand in the cold on a night."""
    return tuple(
        cold_bottle(each, known.rig.burners(each.store), low_c)
        for each in known.tracked.values()
        if each.store.is_gas and each.known_since is not None and each.store.outside is not False
    )


def learned_loss(known: Derived) -> Range | None:
    """The rig's loss as the log of the largest told heating store shows it."""
    found = (burns.learned_ua_w_per_k(known.rig, each) for each in nights.heating_stores(known))
    return next((each for each in found if each is not None), None)


def cooking(known: Derived) -> StoreForecast | None:
    """The gas that cooks and does not heat."""
    gas = (each for each in known.stores.values() if each.store.is_gas and not nights.heats(known.rig, each))
    found = next(gas, None)
    return known.forecast.of(found.store.id) if found is not None else None


def is_frozen(known: Derived, low_c: float) -> bool:
    """Whether the bottle that cooks does not burn on such a night."""
    gas = cooking(known)
    return gas is not None and any(
        not each.burns for each in cold_bottles(known, low_c) if each.store.id == gas.store.id
    )


def most_drawn(known: Derived, night: nights.ColdNight) -> Store:
    """The store that gives most of a night's heat."""
    stores = (each.store for each in nights.heating_stores(known))
    return max(stores, key=lambda store: night.burns[store.id].p50 * store.kwh_per_unit)


def unheated(known: Derived) -> tuple[float, float | None]:
    """How cold it is in the morning where the heat goes off in the night, and the coldest that the heater holds the
    day's wish to, None where nobody said what is kept warm. [degrees C]"""
    rig, today, day_c = known.rig, known.days(1)[0], wished_c(known)
    held_c = heat.coldest_held_c(rig, day_c, today) if rig.heat is not None else None
    return heat.morning_c(rig, today, day_c, Heat.off_at_h, Heat.morning_h), held_c


def wished_c(known: Derived) -> float:
    """What is wished by day. [degrees C]"""
    return (known.rig.heat or HeatGear()).day_c


@dataclass(frozen=True, slots=True, kw_only=True)
class Asks:
    """What can be asked of an appliance. ``unread``: its store, where that has to be read before."""

    appliance: Appliance
    by: tuple[str, ...]
    unread: Store | None


def asks(known: Derived) -> tuple[Asks, ...]:
    """What can be asked of each appliance: hours always, a night of what the cold drives, litres of what heats them."""
    return tuple(_asks(known, each) for each in known.rig.appliances)


def _asks(known: Derived, appliance: Appliance) -> Asks:
    ways = (("hours", True), ("night", appliance.kind.by_cold), ("litres", appliance.kind.by_litre))
    tracked = known.tracked.get(appliance.store)
    unread = tracked.store if tracked is not None and tracked.known_since is None else None
    return Asks(appliance=appliance, by=tuple(way for way, holds in ways if holds), unread=unread)


def driven(known: Derived) -> Tracked | None:
    """What is known of the tank that the vehicle drives on."""
    return known.store(known.rig.driven_tank.id) if known.rig.driven_tank is not None else None


def range_of(known: Derived) -> Range | None:
    """How far the vehicle gets above what must stay. [km]"""
    tracked = driven(known)
    return None if tracked is None else lines.range_km(tracked, known.lines[tracked.store.id])


def generators(known: Derived) -> tuple[engines.Worth, ...]:
    """Every generator over the season."""
    days = logged(known.rig, known.log, known.rig.zone.date(known.now))
    return engines.generators(known.rig, known.log, list(known.tracked.values()), list(days.values()))


def standing(known: Derived) -> tuple[carried.Standing, ...]:
    """What is in bottles and cans."""
    return carried.standing(known.rig, known.log)


def appliance_of(rig: Rig, id: str) -> Appliance:
    """A listed appliance.

    Raises
    ------
    Refused
        There is no such one.
    """
    found = next((each for each in rig.appliances if each.id == id), None)
    if found is None:
        raise Refused("appliance", p.NoSuchAppliance(id))
    return found


def can_burn(known: Derived, seed: int, ask: run.BurnAsk) -> run.BurnVerdict:
    """Whether it can run, and what is left.

    Raises
    ------
    Refused
        Nothing is known of the store that it burns from.
    """
    found = run.can_burn(known, known.ahead(int(Heat.horizon_days), int(Heat.paths), seed), ask)
    if found is None:
        store = known.rig.store(ask.appliance.store)
        raise Refused("appliance", p.NeverRead(store.name if store else ask.appliance.store))
    return found


def accept(rig: m.Rig, known: Derived, store: str, *, saw: int, by: User) -> m.Rig:
    """Make the list of what burns from a store what the log shows.

    Raises
    ------
    Refused
        Nothing is listed to burn from it, or the log does not tell yet.
    """
    tracked = known.tracked.get(store)
    if tracked is None:
        raise Refused("store", p.NoStore(store, tuple(known.tracked)))
    if tracked.assumed:
        raise Refused("store", p.Plain.TOO_LITTLE_LOG)
    fitted = burns.fitted(known.rig, tracked, late_days(known))
    doc = rows.rig_rows(rig).doc
    after = {each.id: each for each in fitted.appliances}
    appliances = [
        each.model_copy(update={"kw": after[each.id].kw, "hours_per_day": after[each.id].hours_per_day})
        for each in doc.appliances
    ]
    change: dict[str, Any] = {"appliances": appliances}
    if fitted.heat is not None and fitted.heat != known.rig.heat:
        change["heat"] = (doc.heat or d.HeatDoc()).model_copy(update={"ua_w_per_k": fitted.heat.ua_w_per_k})
    return rigs.update_rig(rig, doc.model_copy(update=change), saw=saw, by=by)


def loss_of(known: Derived) -> float:
    """The rig's loss as it is reckoned. [W/K]"""
    return heat.ua_w_per_k(known.rig.heat or HeatGear())
