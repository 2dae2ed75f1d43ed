"""What the hours ahead bring a bank: tonight's low, tomorrow's high, days without sun, energy thrown away."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime, timedelta

import numpy as np
from numpy.typing import NDArray

from lodeline.core.conditions import coming
from lodeline.core.energy import bank
from lodeline.core.energy.skies import SHARES, WORDS
from lodeline.core.energy.sun import Floats
from lodeline.core.forecast.bank_paths import Extra, simulate_bank
from lodeline.core.forecast.paths import Ahead, Paths, Singles, look_ahead
from lodeline.core.log import OutlookDay
from lodeline.core.rig import Rig
from lodeline.core.tracking.track import Tracked

# The night's low is looked for until this hour; the day's high from and until these.
_LOW_UNTIL_H, _NIGHT_FROM_H, _HIGH_FROM_H, _HIGH_UNTIL_H = 11, 18, 8, 21
_AFTERNOON_H = 15.0


Rows = NDArray[np.bool_]


@dataclass(frozen=True, slots=True)
class Range:
    """The 10, 50 and 90 % quantiles."""

    p10: float
    p50: float
    p90: float


@dataclass(frozen=True, slots=True)
class EnergyDay:
    """A coming date: sun offered, taken and thrown away, and loads. Means at the array and at the loads. [Wh]"""

    date: date
    offered_wh: Range
    taken_wh: float
    wasted_wh: float
    load_wh: float


@dataclass(frozen=True, slots=True)
class EnergyAhead:
    """A bank's outlook.

    Levels as shares of capacity; ``evening`` is that after the high; ``rises`` whether the sun is expected to lift
    the bank at all. ``hold`` is the chance that the line is not met
    within the horizon; days without sun from the level now and from a full bank (IEEE 1013 and 1562); ``dull_days``
    the days that a full bank lasts under overcast sky, inf where even that covers the loads.
    """

    low: Range
    low_at: datetime
    high: Range
    high_at: datetime
    evening: Range
    rises: bool
    hold: float
    p50_days: float | None
    no_sun_days: Range
    no_sun_full_days: float
    dull_days: float
    load_wh_per_day: float
    days: tuple[EnergyDay, ...]
    hours: tuple[tuple[datetime, Range], ...]


def ranged(values: Floats) -> Range:
    """Quantiles of draws, shape (n,)."""
    low, middle, high = np.quantile(values, (0.1, 0.5, 0.9))
    return Range(float(low), float(middle), float(high))


def bank_ahead(
    rig: Rig, tracked: Tracked, outlook: tuple[OutlookDay, ...], now: datetime, seed: int, days: int, n_paths: int
) -> Ahead:
    """What the paths of a bank alone need."""
    return look_ahead(rig, now, tracked.hour, coming(rig, outlook, tracked.conditions, days), n_paths, seed)


def energy_ahead(ahead: Ahead, tracked: Tracked, extra: Extra | None = None, widen: float = 1.0) -> EnergyAhead:
    """Simulate a bank and tell what comes."""
    return told(ahead, tracked, simulate_bank(ahead, tracked, widen, extra))


def told(ahead: Ahead, tracked: Tracked, paths: Paths) -> EnergyAhead:
    """What a bank's paths say."""
    store, found = tracked.store, paths.bank
    assert found is not None
    clock_h = ahead.hour + found.hours_ahead
    # at midday the night to come is meant, not the level now
    by_day = _LOW_UNTIL_H <= ahead.hour < _NIGHT_FROM_H
    low_rows = clock_h <= _next_hour(ahead.hour, _LOW_UNTIL_H)
    if by_day:
        low_rows &= clock_h >= _NIGHT_FROM_H
    day0 = 0.0 if ahead.hour < _AFTERNOON_H else 24.0
    low, low_h = _lowest(found.hourly, found.hours_ahead, low_rows, None if by_day else paths.start)
    # in the evening the low comes first, at midday the day's high does
    low_first = ahead.hour + low_h < day0 + _HIGH_UNTIL_H
    high_from_h = max(day0 + _HIGH_FROM_H, ahead.hour + low_h if low_first else ahead.hour)
    high_rows = (clock_h >= high_from_h) & (clock_h <= day0 + _HIGH_UNTIL_H)
    before = float(np.median(low if low_first else paths.start))
    evening = found.hourly[np.flatnonzero(clock_h <= day0 + _HIGH_UNTIL_H)[-1]]
    high, high_h = _highest(found.hourly, found.hours_ahead, high_rows)
    lasting = bank.cold_share(store, float(bank.bank_c(store, ahead.days[0].mean_c, ahead.days[0].min_c).mean()))
    usable = np.maximum(paths.start - store.line_level - (1 - lasting) * store.capacity, 0.0)
    full = max(store.capacity * lasting - store.line_level, 0.0)
    daily = float(np.mean(found.full_day))
    past = tracked.belief.level <= store.line_level
    times = np.zeros(1) if past else paths.reached_days
    dull_ah = _dull_ah(ahead, tracked, found.offered)
    return EnergyAhead(
        low=_share(ranged(low), store.capacity),
        low_at=ahead.now + timedelta(hours=low_h),
        high=_share(ranged(high), store.capacity),
        high_at=ahead.now + timedelta(hours=high_h),
        evening=_share(ranged(evening), store.capacity),
        rises=float(np.median(high)) > before + 0.01 * store.capacity,
        hold=float((~np.isfinite(times)).mean()),
        p50_days=_middle(times),
        no_sun_days=ranged(usable / np.maximum(found.full_day, 1e-9)),
        no_sun_full_days=bank.days_of_autonomy(full, daily),
        dull_days=bank.days_of_autonomy(full, daily - dull_ah),
        load_wh_per_day=daily * store.volts,
        days=tuple(_days(ahead, tracked, paths)),
        hours=tuple(_hours(ahead, tracked, paths)),
    )


def _next_hour(hour: float, until_h: int) -> float:
    return until_h if hour < until_h else 24.0 + until_h


def _lowest(hourly: Singles, hours: Floats, rows: Rows, start: Floats | None) -> tuple[Floats, float]:
    """The lowest contents of each path within rows, and the hour at which the middle path is there."""
    within = hourly[rows]
    at = float(hours[rows][int(np.argmin(np.median(within, axis=1)))])
    lows: Floats = within.min(axis=0)
    return lows if start is None else np.minimum(lows, start), at


def _highest(hourly: Singles, hours: Floats, rows: Rows) -> tuple[Floats, float]:
    """The highest contents of each path within rows, and the hour at which the middle path is there."""
    within = hourly[rows]
    return within.max(axis=0), float(hours[rows][int(np.argmax(np.median(within, axis=1)))])


def _share(found: Range, capacity: float) -> Range:
    return Range(found.p10 / capacity, found.p50 / capacity, found.p90 / capacity)


def _middle(times: Floats) -> float | None:
    value = float(np.sort(times)[int(np.ceil(0.5 * len(times))) - 1])
    return value if np.isfinite(value) else None


def _dull_ah(ahead: Ahead, tracked: Tracked, offered: Floats) -> float:
    """What an overcast day gives, from the coming days' expected sun. [Ah]"""
    weights = np.array(tracked.usual_sky.chance)
    usual = float(weights @ SHARES)
    mean = float(offered[1:].mean()) if len(offered) > 1 else float(offered.mean())
    return mean * float(SHARES[WORDS.index("overcast")]) / usual


def _days(ahead: Ahead, tracked: Tracked, paths: Paths) -> Iterable[EnergyDay]:
    found, store = paths.bank, tracked.store
    assert found is not None
    to_wh = store.volts / bank.charge_efficiency(store)
    for index, day in enumerate(ahead.days[: ahead.n_days]):
        offered, wasted = found.offered[index] * to_wh, found.wasted[index] * to_wh
        yield EnergyDay(
            day.date, ranged(offered), float((offered - wasted).mean()), float(wasted.mean()),
            float(found.drawn[index].mean()) * store.volts,
        )  # fmt: skip


def _hours(ahead: Ahead, tracked: Tracked, paths: Paths) -> Iterable[tuple[datetime, Range]]:
    """The level hour by hour for the coming two days, as shares of capacity."""
    found, capacity = paths.bank, tracked.store.capacity
    assert found is not None
    for row, hours in zip(found.hourly[:48], found.hours_ahead[:48], strict=True):
        yield ahead.now + timedelta(hours=float(hours)), _share(ranged(row), capacity)
