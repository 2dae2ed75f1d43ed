"""A bank's logged days: what the sun offered and gave, what was charged otherwise and drawn, how the bank was used."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np

from lodeline.core.conditions import Conditions, logged
from lodeline.core.energy.loads import audit_wh
from lodeline.core.energy.skies import WORDS
from lodeline.core.energy.solar import clear_yield_wh, reference_yield_h
from lodeline.core.energy.wear import Wear, wear
from lodeline.core.energy.yields import YieldDay, offered_wh
from lodeline.core.log import Log
from lodeline.core.rig import Rig
from lodeline.core.tracking.bank_use import LOADS, load_columns
from lodeline.core.tracking.charging import charges
from lodeline.core.tracking.story import smoothed
from lodeline.core.tracking.track import Tracked
from lodeline.core.tracking.walk import THROTTLED_FROM

_Z90 = 1.2815515655446004


@dataclass(frozen=True, slots=True)
class EnergyPast:
    """One date that has been. ``offered_wh`` by its sky and the learned strength; ``taken_wh`` as logged, None where
    it was not; ``load_wh`` as logged or, where ``load_logged`` is False, as learned."""

    sun: YieldDay
    offered_wh: float
    other_wh: float
    load_wh: float
    load_logged: bool


def strengths(tracked: Tracked) -> dict[str, float]:
    """The learned factor on the expected yield under each sky word."""
    found = dict(zip(tracked.model.drivers, tracked.belief.coefficients, strict=True))
    return {word: float(found[word]) for word in WORDS}


def learned_load_wh(rig: Rig, tracked: Tracked) -> tuple[float, float, float]:
    """What the log shows the rig to draw on a mild day: p10, p50, p90. [Wh/day]"""
    day = Conditions(date(2000, 1, 1))
    x = load_columns(rig, day).sum(axis=0)
    n = len(LOADS)
    middle = float(x @ tracked.belief.coefficients[:n])
    sd = float(np.sqrt(x @ tracked.belief.cov[1 : n + 1, 1 : n + 1] @ x))
    return max(0.0, middle - _Z90 * sd), middle, middle + _Z90 * sd


def energy_past(rig: Rig, log: Log, tracked: Tracked, now: datetime, days: int) -> list[EnergyPast]:
    """The last days up to yesterday, oldest first; dates that nobody logged carry the last known conditions."""
    zone = ZoneInfo(rig.timezone)
    today = now.astimezone(zone).date()
    if not log.days:
        return []
    conditions = logged(rig, log, today)
    charged = _charged_wh(rig, log, tracked, conditions, zone)
    full = _full_dates(tracked, zone)
    strength, usual = strengths(tracked), tracked.usual_sky.chance
    skies = {day.date: day.sky for day in log.days}
    found = []
    for on in (today - timedelta(days=back) for back in range(days, 0, -1)):
        if on not in conditions:
            continue
        day = conditions[on]
        clear = float(clear_yield_wh(rig, day.place, on, day.mean_c, day.min_c).sum())
        sun = YieldDay(
            on, skies.get(on), day.place.name if day.place else None, clear, reference_yield_h(rig, day.place, on),
            day.solar_wh, on in full, day.mean_c,
        )  # fmt: skip
        drawn = float(load_columns(rig, day).sum(axis=0) @ tracked.belief.coefficients[: len(LOADS)])
        found.append(
            EnergyPast(
                sun, offered_wh(sun, strength, usual), charged.get(on, 0.0),
                day.load_wh if day.load_wh is not None else drawn, day.load_wh is not None,
            )
        )  # fmt: skip
    return found


@dataclass(frozen=True, slots=True)
class EnergySoFar:
    """Today up to now. ``taken_wh`` as logged, or what the sky's word leads one to expect. [Wh]"""

    offered_wh: float
    taken_wh: float
    other_wh: float
    load_wh: float


def energy_today(rig: Rig, log: Log, tracked: Tracked, now: datetime) -> EnergySoFar:
    """What today has brought so far."""
    day = tracked.conditions
    past = np.clip(tracked.hour - np.arange(24), 0.0, 1.0)
    clear = float(clear_yield_wh(rig, day.place, day.date, day.mean_c, day.min_c) @ past)
    sun = YieldDay(day.date, day.sky, None, clear, 0.0, day.solar_wh, False)
    offered = offered_wh(sun, strengths(tracked), tracked.usual_sky.chance)
    loads = past @ load_columns(rig, day) @ tracked.belief.coefficients[: len(LOADS)]
    zone = ZoneInfo(rig.timezone)
    other = _charged_wh(rig, log.until(now, rig.timezone), tracked, {day.date: day}, zone).get(day.date, 0.0)
    taken = day.solar_wh if day.solar_wh is not None else offered
    return EnergySoFar(offered, taken, other, day.load_wh if day.load_wh is not None else float(loads))


def _charged_wh(
    rig: Rig, log: Log, tracked: Tracked, conditions: Mapping[date, Conditions], zone: ZoneInfo
) -> dict[date, float]:
    found: dict[date, float] = {}
    for spell in charges(rig, tracked.store, log, dict(conditions)):
        on = spell.start.astimezone(zone).date()
        hours = (spell.end - spell.start) / timedelta(hours=1)
        found[on] = found.get(on, 0.0) + spell.amps * hours * tracked.store.volts
    return found


def _full_dates(tracked: Tracked, zone: ZoneInfo) -> set[date]:
    capacity = tracked.store.capacity
    return {p.at.astimezone(zone).date() for p in tracked.history if p.level > THROTTLED_FROM * capacity}


def bank_wear(tracked: Tracked) -> Wear | None:
    """Cycles and depths over the days that the history reaches back; None where there are too few."""
    points = [(point.at, min(tracked.store.capacity, max(0.0, point.level))) for point in smoothed(tracked.history)]
    if len(points) < 2 or points[-1][0] - points[0][0] < timedelta(days=1):
        return None
    return wear(points, tracked.store.capacity, tracked.store.line_level)


def listed_wh(rig: Rig) -> float:
    """What the list of loads adds up to. [Wh/day]"""
    return float(audit_wh(rig).sum())


def sun_days(past: Sequence[EnergyPast]) -> list[YieldDay]:
    """The days' sun alone."""
    return [each.sun for each in past]
