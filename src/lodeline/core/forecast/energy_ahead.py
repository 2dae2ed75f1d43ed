"""What the hours ahead bring a bank: tonight's low, tomorrow's high, days without sun, energy thrown away."""

from collections.abc import Iterable
from datetime import date, datetime

import numpy as np
from numpy.typing import NDArray

from lodeline.core.catalogue import SkyWord
from lodeline.core.energy import bank
from lodeline.core.energy.skies import SHARES, WORDS
from lodeline.core.figures import Forecasting, Numeric
from lodeline.core.forecast.bank_paths import simulate_bank
from lodeline.core.forecast.change import NO_CHANGE, Change
from lodeline.core.forecast.paths import Ahead, BankPaths, Paths, quantile_days
from lodeline.core.statistics import P50, Floats, Range, Singles, ranged
from lodeline.core.tracking.bank_use import day_cold_share
from lodeline.core.tracking.energy_past import EnergySoFar
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS

Rows = NDArray[np.bool_]


@dataclass(frozen=True, slots=True, kw_only=True)
class EnergyDay:
    """A coming date: sun offered, taken and thrown away, other charging and loads. Means. [Wh]"""

    date: date
    offered_wh: Range
    taken_wh: float
    wasted_wh: float
    load_wh: float
    other_wh: float = 0.0

    def with_past(self, gone: EnergySoFar) -> "EnergyDay":
        """The whole of today: what is to come and what has been."""
        offered = self.offered_wh
        return EnergyDay(
            date=self.date,
            offered_wh=Range(*(each + gone.offered_wh for each in (offered.p10, offered.p50, offered.p90))),
            taken_wh=gone.taken_wh + self.taken_wh,
            wasted_wh=self.wasted_wh,
            load_wh=gone.load_wh + self.load_wh,
            other_wh=gone.other_wh + self.other_wh,
        )


@dataclass(frozen=True, slots=True, kw_only=True)
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


def energy_ahead(ahead: Ahead, tracked: Tracked, change: Change = NO_CHANGE, spread_scale: float = 1.0) -> EnergyAhead:
    """Simulate a bank and say what comes."""
    return summary(ahead, tracked, simulate_bank(ahead, tracked, spread_scale, change))


@dataclass(frozen=True, slots=True, kw_only=True)
class _Turns:
    """The night's low and the day's high: contents of each path, shape (n_paths,), and when the middle is there."""

    low: Floats | Singles
    low_h: float
    high: Singles
    high_h: float
    evening: Singles
    before: float


def _turns(ahead: Ahead, paths: Paths, drawn: BankPaths) -> _Turns:
    clock_h = ahead.hour + drawn.hours_ahead
    # at midday the night to come is meant, not the level now
    by_day = Forecasting.low_until_h <= ahead.hour < Forecasting.night_from_h
    low_rows = clock_h <= _next_hour(ahead.hour, Forecasting.low_until_h)
    if by_day:
        low_rows &= clock_h >= Forecasting.night_from_h
    day0 = 0.0 if ahead.hour < Forecasting.afternoon_h else HOURS
    low, low_h = _lowest(drawn, low_rows, None if by_day else paths.start)
    # in the evening the low comes first, at midday the day's high does
    high_until_h = day0 + Forecasting.high_until_h
    low_first = ahead.hour + low_h < high_until_h
    high_from_h = max(day0 + Forecasting.high_from_h, ahead.hour + low_h if low_first else ahead.hour)
    high, high_h = _highest(drawn, (clock_h >= high_from_h) & (clock_h <= high_until_h))
    return _Turns(
        low=low,
        low_h=low_h,
        high=high,
        high_h=high_h,
        evening=drawn.hourly[np.flatnonzero(clock_h <= high_until_h)[-1]],
        before=float(np.median(low if low_first else paths.start)),
    )


def summary(ahead: Ahead, tracked: Tracked, paths: Paths) -> EnergyAhead:
    """What a bank's paths say."""
    store, drawn = tracked.store, paths.bank
    assert drawn is not None
    turns = _turns(ahead, paths, drawn)
    today = ahead.days[0]
    lasting = day_cold_share(store, today)
    usable = lasting * np.maximum(paths.start - store.line_level, 0.0)
    full = lasting * (store.capacity - store.line_level)
    daily = float(np.mean(drawn.full_day))
    times = np.zeros(1) if tracked.is_past_line else paths.reached_days
    return EnergyAhead(
        low=ranged(turns.low).over(store.capacity),
        low_at=ahead.at(turns.low_h),
        high=ranged(turns.high).over(store.capacity),
        high_at=ahead.at(turns.high_h),
        evening=ranged(turns.evening).over(store.capacity),
        rises=float(np.median(turns.high)) > turns.before + Forecasting.rises_by * store.capacity,
        hold=float((~np.isfinite(times)).mean()),
        p50_days=quantile_days(times, P50)[0],
        no_sun_days=ranged(usable / np.maximum(drawn.full_day, Numeric.tiny)),
        no_sun_full_days=bank.days_of_autonomy(full, daily),
        dull_days=bank.days_of_autonomy(full, daily - _dull_ah(tracked, drawn.offered)),
        load_wh_per_day=daily * store.volts,
        days=tuple(_days(ahead, tracked, drawn)),
        hours=tuple(_hours(ahead, tracked, drawn)),
    )


def _next_hour(hour: float, until_h: int) -> float:
    return until_h if hour < until_h else HOURS + until_h


def _lowest(drawn: BankPaths, rows: Rows, start: Floats | None) -> tuple[Floats | Singles, float]:
    """The lowest contents of each path within rows, and the hour at which the middle path is there."""
    within = drawn.hourly[rows]
    at = float(drawn.hours_ahead[rows][int(np.argmin(np.median(within, axis=1)))])
    lows: Singles = within.min(axis=0)
    return lows if start is None else np.minimum(lows, start), at


def _highest(drawn: BankPaths, rows: Rows) -> tuple[Singles, float]:
    """The highest contents of each path within rows, and the hour at which the middle path is there."""
    within = drawn.hourly[rows]
    highs: Singles = within.max(axis=0)
    return highs, float(drawn.hours_ahead[rows][int(np.argmax(np.median(within, axis=1)))])


def _dull_ah(tracked: Tracked, offered: Floats) -> float:
    """What an overcast day gives, from the coming days' expected sun. [Ah]"""
    weights = np.array(tracked.usual_sky.chance)
    usual = float(weights @ SHARES)
    mean = float(offered[1:].mean()) if len(offered) > 1 else float(offered.mean())
    return mean * float(SHARES[WORDS.index(SkyWord.OVERCAST)]) / usual


def _days(ahead: Ahead, tracked: Tracked, drawn: BankPaths) -> Iterable[EnergyDay]:
    store = tracked.store
    to_wh = store.volts
    for index, day in enumerate(ahead.days[: ahead.n_days]):
        offered, wasted = drawn.offered[index] * to_wh, drawn.wasted[index] * to_wh
        yield EnergyDay(
            date=day.date,
            offered_wh=ranged(offered),
            taken_wh=float((offered - wasted).mean()),
            wasted_wh=float(wasted.mean()),
            load_wh=float(drawn.drawn[index].mean()) * store.volts,
        )


def _hours(ahead: Ahead, tracked: Tracked, drawn: BankPaths) -> Iterable[tuple[datetime, Range]]:
    """The level hour by hour for the coming days, as shares of capacity."""
    shown = slice(Forecasting.hours_shown)
    for row, hours in zip(drawn.hourly[shown], drawn.hours_ahead[shown], strict=True):
        yield ahead.at(float(hours)), ranged(row).over(tracked.store.capacity)
