"""What burns aboard: each appliance's part, how long a bottle lasts it, and the list held against the log."""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from lodeline.core.catalogue import Driver
from lodeline.core.conditions import Conditions
from lodeline.core.energy.heat import degree_days, fed_share, per_degree_day, ua_w_per_k, warmth
from lodeline.core.errors import Refused
from lodeline.core.figures import Fuel, Numeric
from lodeline.core.problems import NothingBurnsListed
from lodeline.core.rig import Appliance, Rig, Store
from lodeline.core.statistics import Z90, Range
from lodeline.core.tracking.belief import COEFFICIENTS
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass
from lodeline.core.warmth import HeatGear
from lodeline.core.zone import HOURS

_HOUR_DIGITS, _UA_DIGITS, _LEAST_UA = 2, 0, 5.0  # as the file takes them


@dataclass(frozen=True, slots=True, kw_only=True)
class Burn:
    """What one appliance burns, by the list. In its store's unit: ``per_hour`` at its full rate, ``per_day`` on such
    days; ``share`` of all that its store burns; ``days_of_full``: a full bottle or tank for it alone; ``wh_per_day``:
    what it draws from the bank."""

    appliance: Appliance
    store: Store
    per_hour: float
    per_day: float
    share: float
    days_of_full: float | None
    wh_per_day: float


def listed_per_day(rig: Rig, appliance: Appliance, store: Store, days: Sequence[Conditions]) -> float:
    """What an appliance burns a day on such days, by the list. [unit/day]"""
    if appliance.kind.by_cold:
        cold = float(np.mean([degree_days(rig, day) for day in days]))
        return per_degree_day(rig, appliance, store.kwh_per_unit) * cold
    fed = float(np.mean([fed_share(appliance, day) for day in days])) if appliance.changes_over else 1.0
    return rig.kwh_per_day(appliance) * fed / store.kwh_per_unit


def burns(rig: Rig, days: Sequence[Conditions]) -> tuple[Burn, ...]:
    """Every appliance by the list, those of one store together, the largest first."""
    found: list[Burn] = []
    for store in rig.stores:
        mine = [(each, listed_per_day(rig, each, store, days)) for each in rig.burners(store)]
        whole = sum(amount for _, amount in mine)
        for each, amount in sorted(mine, key=lambda pair: -pair[1]):
            lasts = store.capacity / amount if amount > Numeric.small else np.inf
            hours = amount * store.kwh_per_unit / each.full_kw if each.full_kw else 0.0
            found.append(
                Burn(
                    appliance=each,
                    store=store,
                    per_hour=each.full_kw / store.kwh_per_unit,
                    per_day=amount,
                    share=amount / whole if whole > 0 else 0.0,
                    days_of_full=float(lasts) if lasts < Fuel.bottle_days_most else None,
                    wh_per_day=(each.watts or 0.0) * hours,
                )
            )
    return tuple(found)


@dataclass(frozen=True, slots=True, kw_only=True)
class Held:
    """The list against the log of one store on the days of late. ``listed`` and ``logged`` a day, in its unit;
    ``heat`` and ``rest``: what the log makes of the listed part for heat and of the rest, None where there is none or
    the log does not tell them."""

    store: Store
    listed: float
    logged: Range
    heat: float | None
    rest: float | None
    days: int
    told: bool

    @property
    def times(self) -> float:
        """The logged over the listed."""
        return self.logged.p50 / max(self.listed, Numeric.tiny)

    @property
    def is_apart(self) -> bool:
        """Whether they differ by more than is worth saying, and more than the log is uncertain."""
        sure = not self.logged.p10 <= self.listed <= self.logged.p90
        return self.told and sure and abs(self.times - 1) > Fuel.list_apart


def held(rig: Rig, tracked: Tracked, days: Sequence[Conditions]) -> Held | None:
    """The list against the log of one store; None where nothing is listed or known of it."""
    store, model, belief = tracked.store, tracked.model, tracked.belief
    mine = rig.burners(store)
    if not mine or tracked.known_since is None or not days:
        return None
    x = np.zeros(len(model.drivers))
    for index, name in enumerate(model.drivers):
        if name == Driver.PEOPLE:
            aboard = np.mean([day.people for day in days]) / max(1, rig.crew.people)
            x[index] = model.whoever + (1 - model.whoever) * float(aboard)
        elif name == Driver.DEGREE_DAYS:
            x[index] = float(np.mean([degree_days(rig, day) for day in days]))
        elif name == Driver.CHANGES_OVER:
            changing = [each for each in mine if each.changes_over]
            x[index] = float(np.mean([fed_share(each, day) for each in changing for day in days]))
    mean = float(x @ belief.coefficients)
    sd = float(np.sqrt(max(float(x @ belief.cov[COEFFICIENTS, COEFFICIENTS] @ x), 0.0)))
    listed = sum(listed_per_day(rig, each, store, days) for each in mine)
    return Held(
        store=store,
        listed=listed,
        logged=Range(max(0.0, mean - Z90 * sd), mean, mean + Z90 * sd),
        heat=_multiplier(tracked, Driver.DEGREE_DAYS),
        rest=_multiplier(tracked, Driver.PEOPLE),
        days=len(days),
        told=not tracked.assumed,
    )


def _multiplier(tracked: Tracked, driver: Driver) -> float | None:
    """What the log makes of a listed part; None where it has not told it better than the list did."""
    model, found = tracked.model, tracked.coefficient(driver)
    if found is None:
        return None
    at, (mean, sd) = model.drivers.index(driver), found
    if model.mean[at] < Numeric.small or sd > _TOLD * model.sd[at]:
        return None
    return mean / float(model.mean[at])


def heat_times(tracked: Tracked) -> float | None:
    """What the log makes of the listed heat of a store, None where it has not told."""
    return _multiplier(tracked, Driver.DEGREE_DAYS)


# The log has told a part where its error is less than so much of what it was.
_TOLD = 0.8


def learned_ua_w_per_k(rig: Rig, tracked: Tracked) -> Range | None:
    """The rig's loss as the log shows it by one store's burn a degree-day; None without heaters or a told slope. [W/K]

    The heaters are taken to make of their fuel what the list says.
    """
    times, found = heat_times(tracked), tracked.coefficient(Driver.DEGREE_DAYS)
    if times is None or found is None or (gear := warmth(rig)) is None:
        return None
    mean, sd = found
    listed = ua_w_per_k(gear) * times
    return Range(listed * max(0.0, 1 - Z90 * sd / mean), listed, listed * (1 + Z90 * sd / mean))


def fitted(rig: Rig, tracked: Tracked, days: Sequence[Conditions]) -> Rig:
    """The rig with a list that adds up to what the log shows of one store: hours of what burns for people and of steady
    things, the rig's loss, or a heater's hours.

    Raises
    ------
    Refused
        Nothing is listed to burn from it, or nothing is known of it.
    """
    found = held(rig, tracked, days)
    if found is None or found.listed <= 0:
        raise Refused("appliances", NothingBurnsListed(tracked.store.id))
    rest = found.rest if found.rest is not None else found.times
    heat = found.heat if found.heat is not None else found.times
    changed = []
    for each in rig.appliances:
        if each.store != tracked.store.id or each.kind.by_cold:
            changed.append(each)
            continue
        hours = rig.kwh_per_day(each) / each.full_kw * rest
        changed.append(replace(each, kw=each.full_kw, hours_per_day=round(min(hours, HOURS), _HOUR_DIGITS)))
    gear = rig.heat
    if any(each.kind.by_cold for each in rig.burners(tracked.store)):
        gear = warmth(rig) or HeatGear()
        gear = replace(gear, ua_w_per_k=max(_LEAST_UA, round(ua_w_per_k(gear) * heat, _UA_DIGITS)))
    return replace(rig, appliances=tuple(changed), heat=gear)
