"""A bank's logged days: what the sun offered and gave, what was charged otherwise and drawn, how the bank was used."""

from collections.abc import Mapping, Sequence
from datetime import date, datetime, timedelta

import numpy as np

from lodeline.core.catalogue import SkyWord
from lodeline.core.conditions import Conditions, logged
from lodeline.core.energy.banks import of_bank
from lodeline.core.energy.skies import WORDS
from lodeline.core.energy.solar import clear_yield_wh, reference_yield_h
from lodeline.core.energy.wear import Wear, wear
from lodeline.core.energy.yields import YieldDay, offered_wh
from lodeline.core.figures import Forecasting, Tracking, Use
from lodeline.core.log import Log
from lodeline.core.rig import Rig
from lodeline.core.statistics import Z90
from lodeline.core.tracking.bank_use import LOADS, PLACE, SUNS, listed_columns, load_columns
from lodeline.core.tracking.charging import charges
from lodeline.core.tracking.events import timed
from lodeline.core.tracking.hypothesis import smoothed
from lodeline.core.tracking.influence import hours_before
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass

_HOUR = timedelta(hours=1)


@dataclass(frozen=True, slots=True, kw_only=True)
class EnergyPast:
    """One date that has been. ``offered_wh`` by its sky and the learned strength; ``taken_wh`` as logged, None where
    it was not; ``load_wh`` as logged or, where ``load_logged`` is False, as learned."""

    sun: YieldDay
    offered_wh: float
    other_wh: float
    load_wh: float
    load_logged: bool


def strengths(tracked: Tracked) -> dict[SkyWord, float]:
    """The learned factor on the expected yield under each sky word, at the place where the rig stands."""
    coefficients = dict(zip(tracked.model.drivers, tracked.belief.coefficients, strict=True))
    here = float(coefficients[PLACE])
    return {word: max(0.0, float(coefficients[sun]) + here) for word, sun in zip(WORDS, SUNS, strict=True)}


@dataclass(frozen=True, slots=True, kw_only=True)
class LevelThen:
    """A bank's state of charge at a time that has been, as a share: the middle and the ends of 8 in 10."""

    at: datetime
    p10: float
    p50: float
    p90: float


def levels_since(tracked: Tracked, since: datetime) -> list[LevelThen]:
    """The drawn past from a time on."""
    capacity = tracked.store.capacity
    then = []
    for point in smoothed(tracked.history):
        if point.at >= since:
            low, high = point.level_range(capacity)
            middle = min(high, max(low, point.level))
            then.append(LevelThen(at=point.at, p10=low / capacity, p50=middle / capacity, p90=high / capacity))
    return then


def learned_load_wh(rig: Rig, tracked: Tracked) -> tuple[float, float, float]:
    """What the log shows the rig to draw on a mild day: p10, p50, p90. [Wh/day]"""
    rig = of_bank(rig, tracked.store)
    # any date on which it is neither cold nor hot, with the usual crew
    mild = Conditions(date=date.min, mean_c=Use.unknown_mean_c, people=max(1, rig.crew.people))
    x = listed_columns(rig, mild).sum(axis=0)
    n = len(LOADS)
    middle = float(x @ tracked.belief.coefficients[:n])
    sd = float(np.sqrt(x @ tracked.belief.cov[1 : n + 1, 1 : n + 1] @ x))
    return max(0.0, middle - Z90 * sd), middle, middle + Z90 * sd


def audit_differs(listed_wh: float, learned_wh: tuple[float, float, float], assumed: bool) -> bool:
    """Whether the list lies outside what the log shows, by enough that the learned figure is worth accepting."""
    low, middle, high = learned_wh
    apart = abs(middle - listed_wh) >= Forecasting.audit_apart * listed_wh
    return not assumed and not low <= listed_wh <= high and apart


def energy_past(rig: Rig, log: Log, tracked: Tracked, now: datetime, days: int) -> list[EnergyPast]:
    """The last days up to yesterday, oldest first; dates that nobody logged carry the last known conditions."""
    today = rig.zone.date(now)
    if not log.days:
        return []
    conditions, rig = logged(rig, log, today), of_bank(rig, tracked.store)
    charged = _charged_wh(rig, log, tracked, conditions)
    near_full = _near_full_dates(rig, tracked)
    strength, usual = strengths(tracked), tracked.usual_sky.chance
    skies = {day.date: day.sky for day in log.days}
    past = []
    for on in (today - timedelta(days=back) for back in range(days, 0, -1)):
        if on not in conditions:
            continue
        day = conditions[on]
        clear = float(clear_yield_wh(rig, day.place, on, day.mean_c, day.min_c).sum())
        sun = YieldDay(
            date=on,
            sky=skies.get(on),
            place=day.place.name if day.place else None,
            clear_wh=clear,
            reference_h=reference_yield_h(rig, day.place, on),
            taken_wh=day.solar_wh,
            full=on in near_full,
            mean_c=day.mean_c,
        )
        drawn = float(load_columns(rig, day).sum(axis=0) @ tracked.belief.coefficients[: len(LOADS)])
        past.append(
            EnergyPast(
                sun=sun,
                offered_wh=offered_wh(sun, strength, usual),
                other_wh=charged.get(on, 0.0),
                load_wh=day.load_wh if day.load_wh is not None else drawn,
                load_logged=day.load_wh is not None,
            )
        )
    return past


@dataclass(frozen=True, slots=True, kw_only=True)
class EnergySoFar:
    """Today up to now. ``taken_wh`` as logged, or what the sky's word leads one to expect. [Wh]"""

    offered_wh: float = 0.0
    taken_wh: float = 0.0
    other_wh: float = 0.0
    load_wh: float = 0.0


def energy_today(rig: Rig, log: Log, tracked: Tracked, now: datetime) -> EnergySoFar:
    """What today has brought so far."""
    day, rig = tracked.conditions, of_bank(rig, tracked.store)
    past = hours_before(tracked.hour)
    clear = float(clear_yield_wh(rig, day.place, day.date, day.mean_c, day.min_c) @ past)
    sun = YieldDay(
        date=day.date, sky=day.sky, place=None, clear_wh=clear, reference_h=0.0, taken_wh=day.solar_wh, full=False
    )
    offered = offered_wh(sun, strengths(tracked), tracked.usual_sky.chance)
    loads = past @ load_columns(rig, day) @ tracked.belief.coefficients[: len(LOADS)]
    other = _charged_wh(rig, log.until(now, rig.zone), tracked, {day.date: day}).get(day.date, 0.0)
    taken = day.solar_wh if day.solar_wh is not None else offered
    load = day.load_wh if day.load_wh is not None else float(loads)
    return EnergySoFar(offered_wh=offered, taken_wh=taken, other_wh=other, load_wh=load)


def _charged_wh(rig: Rig, log: Log, tracked: Tracked, conditions: Mapping[date, Conditions]) -> dict[date, float]:
    charged: dict[date, float] = {}
    for spell in charges(rig, tracked.store, timed(log), conditions):
        on = rig.zone.date(spell.start)
        hours = (spell.end - spell.start) / _HOUR
        charged[on] = charged.get(on, 0.0) + spell.amps * hours * tracked.store.volts
    return charged


def _near_full_dates(rig: Rig, tracked: Tracked) -> set[date]:
    """The dates on which the bank came near full, as is known by now: what was read since counts too."""
    near = Tracking.curtailed_from * tracked.store.capacity
    return {rig.zone.date(point.at) for point in smoothed(tracked.history) if point.level > near}


def bank_wear(rig: Rig, tracked: Tracked) -> Wear | None:
    """Cycles and depths over the days that the history reaches back; None where there are too few."""
    capacity = tracked.store.capacity
    points = [(point.at, min(capacity, max(0.0, point.level))) for point in smoothed(tracked.history)]
    least = timedelta(days=Forecasting.enough_log_days)
    if len(points) < 2 or points[-1][0] - points[0][0] < least:
        return None
    return wear(points, capacity, tracked.store.line_level, rig.zone)


def sun_days(past: Sequence[EnergyPast]) -> list[YieldDay]:
    """The days' sun alone."""
    return [each.sun for each in past]
