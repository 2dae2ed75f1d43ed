"""The forecast: when each store meets its line, which is first, and the fan of levels on the way."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime, timedelta

import numpy as np

from lodeline.core.conditions import coming
from lodeline.core.energy.sun import Floats
from lodeline.core.forecast.bank_paths import simulate_bank
from lodeline.core.forecast.paths import Ahead, Paths, Singles, look_ahead, simulate_plain
from lodeline.core.log import Log, OutlookDay
from lodeline.core.rig import Kind, Rig, Store
from lodeline.core.tracking.track import Tracked, track

N_PATHS = 2000
_Z90 = 1.2815515655446004
_FAN_STEP_H = 3


@dataclass(frozen=True, slots=True)
class Band:
    """Contents at one time: the 10, 50 and 90 % quantiles."""

    at: datetime
    p10: float
    p50: float
    p90: float


@dataclass(frozen=True, slots=True)
class DayBand:
    """Contents at the local midnight that ends a date."""

    date: date
    p10: float
    p50: float
    p90: float


@dataclass(frozen=True, slots=True)
class StoreForecast:
    """What is expected of one store. Times are days from now, None beyond the horizon or before it is known."""

    store: Store
    known: bool
    assumed: bool
    level: float | None
    level_p10: float | None
    level_p90: float | None
    rate_per_day: float | None
    p10_days: float | None
    p50_days: float | None
    p90_days: float | None
    p_within: float | None
    p_first: float
    daily: tuple[DayBand, ...] = ()
    fan: tuple[Band, ...] = ()


@dataclass(frozen=True, slots=True)
class Autonomy:
    """The first line reached by any store; ``store`` is the likeliest to be it."""

    store: str | None
    p10_days: float | None
    p50_days: float | None
    p90_days: float | None
    at: datetime | None


@dataclass(frozen=True, slots=True)
class Forecast:
    """A whole forecast. ``p_stay`` is the chance that no line is reached before each midnight of the horizon."""

    at: datetime
    horizon_days: int
    autonomy: Autonomy
    stores: tuple[StoreForecast, ...]
    second: str | None
    p_stay: tuple[tuple[date, float], ...]

    def of(self, store_id: str) -> StoreForecast:
        """The forecast of one store."""
        return next(each for each in self.stores if each.store.id == store_id)


def forecast(
    rig: Rig, log: Log, outlook: tuple[OutlookDay, ...], now: datetime, seed: int = 1, days: int = 14,
    tracked: Mapping[str, Tracked] | None = None, n_paths: int = N_PATHS, widen: Mapping[str, float] | None = None,
) -> Forecast:  # fmt: skip
    """Forecast every store over ``days`` days from ``now``.

    Nobody fills, dumps, swaps, drives, plugs in or runs a generator unless the outlook says so; use goes on as usual
    past a line. ``widen`` scales a store's spread by its record (``score.spread_factor``).
    The same log, outlook, time and seed give the same answer.
    """
    tracked = tracked if tracked is not None else track(rig, log, now)
    any_tracked = next(iter(tracked.values()))
    ahead_days = coming(rig, outlook, any_tracked.conditions, days)
    ahead = look_ahead(rig, now, any_tracked.hour, ahead_days, n_paths, seed)
    known = {id: each for id, each in tracked.items() if each.known_since is not None}
    paths = {id: simulate(ahead, each, (widen or {}).get(id, 1.0)) for id, each in known.items()}
    times = {id: _times(known[id], paths[id]) for id in known}
    first, second = _who_binds(times)
    stores = tuple(
        _of_store(tracked[s.id], paths[s.id], times[s.id], first.get(s.id, 0.0), now, ahead_days[0].date)
        if s.id in known else _unknown(tracked[s.id])
        for s in rig.stores
    )  # fmt: skip
    soonest = np.min(list(times.values()), axis=0) if times else np.full(n_paths, np.inf)
    midnight_days = [(24 * (i + 1) - ahead.hour) / 24 for i in range(days)]
    p_stay = tuple(
        (ahead_days[0].date + timedelta(days=i), float((soonest > at).mean())) for i, at in enumerate(midnight_days)
    )
    return Forecast(now, days, _autonomy(first, soonest, now), stores, second, p_stay)


def simulate(ahead: Ahead, tracked: Tracked, widen: float = 1.0) -> Paths:
    """Paths of one store: a bank hour by hour, others by day sums."""
    if tracked.store.kind is Kind.BATTERY:
        return simulate_bank(ahead, tracked, widen)
    return simulate_plain(ahead, tracked, widen)


def _times(tracked: Tracked, paths: Paths) -> Floats:
    """Line times of the paths; all zero where the best estimate is past the line."""
    store = tracked.store
    past = (tracked.belief.level - store.line_level) * store.sign >= 0
    return np.zeros_like(paths.reached_days) if past else paths.reached_days


def _who_binds(times: dict[str, Floats]) -> tuple[dict[str, float], str | None]:
    """Chance of each store to be the first within the horizon, and the likeliest second."""
    if not times:
        return {}, None
    ids = list(times)
    table = np.stack([times[id] for id in ids])
    columns = np.arange(table.shape[1])
    soonest = table.argmin(axis=0)
    met = np.isfinite(table[soonest, columns])
    first = {id: float(((soonest == i) & met).mean()) for i, id in enumerate(ids)}
    if len(ids) < 2:
        return first, None
    binds = max(first, key=lambda id: first[id])
    table[soonest, columns] = np.inf
    then = table.argmin(axis=0)
    met = np.isfinite(table[then, columns])
    second = {id: float(((then == i) & met).mean()) + first[id] for i, id in enumerate(ids) if id != binds}
    likeliest = max(second, key=lambda id: second[id])
    return first, likeliest if second[likeliest] > 0.1 else None


def quantile_days(times: Floats, *shares: float) -> tuple[float | None, ...]:
    """Times by which each share of the paths has met the line; None where that lies beyond the horizon. [day]"""
    ordered = np.sort(times)
    values = [float(ordered[int(np.ceil(share * len(times))) - 1]) for share in shares]
    return tuple(value if np.isfinite(value) else None for value in values)


def _autonomy(first: dict[str, float], soonest: Floats, now: datetime) -> Autonomy:
    binds = max(first, key=lambda id: first[id]) if first and max(first.values()) > 0 else None
    p10, p50, p90 = quantile_days(soonest, 0.1, 0.5, 0.9)
    return Autonomy(binds, p10, p50, p90, now + timedelta(days=p50) if p50 is not None else None)


def _unknown(tracked: Tracked) -> StoreForecast:
    return StoreForecast(tracked.store, False, True, None, None, None, None, None, None, None, None, 0.0)


def level_range(tracked: Tracked) -> tuple[float, float]:
    """The 8-in-10 range of the contents, kept within 0 to capacity."""
    half = _Z90 * tracked.belief.sd
    return max(0.0, tracked.belief.level - half), min(tracked.store.capacity, tracked.belief.level + half)


def _of_store(
    tracked: Tracked, paths: Paths, times: Floats, p_first: float, now: datetime, today: date
) -> StoreForecast:
    low, high = level_range(tracked)
    p10, p50, p90 = quantile_days(times, 0.1, 0.5, 0.9)
    midnight = quantiles(paths.midnight)
    daily = tuple(DayBand(today + timedelta(days=i), *row) for i, row in enumerate(midnight))
    return StoreForecast(
        tracked.store, True, tracked.assumed, tracked.belief.level, low, high, paths.rate_per_day, p10, p50, p90,
        float(np.isfinite(times).mean()), p_first, daily, _fan(tracked, paths, midnight, now),
    )  # fmt: skip


def quantiles(contents: Floats | Singles) -> list[tuple[float, float, float]]:
    """p10, p50 and p90 of each row of shape (n_rows, n_paths)."""
    ordered = np.sort(contents, axis=1)
    n = contents.shape[1]
    low, middle, high = (ordered[:, int(q * (n - 1))].tolist() for q in (0.1, 0.5, 0.9))
    return list(zip(low, middle, high, strict=True))


def _fan(tracked: Tracked, paths: Paths, midnight: list[tuple[float, float, float]], now: datetime) -> tuple[Band, ...]:
    """The fan for drawing: a battery every few hours, other stores at midnights."""
    low, high = level_range(tracked)
    start = Band(now, low, tracked.belief.level, high)
    if paths.bank is not None:
        within = int(np.searchsorted(paths.bank.hours_ahead, 24 * len(midnight), side="right"))
        rows = slice(_FAN_STEP_H - 1, within, _FAN_STEP_H)
        at_h, bands = paths.bank.hours_ahead[rows].tolist(), quantiles(paths.bank.hourly[rows])
        return (start, *(Band(now + timedelta(hours=h), *band) for h, band in zip(at_h, bands, strict=True)))
    return (
        start,
        *(Band(now + timedelta(hours=24 * (i + 1) - tracked.hour), *band) for i, band in enumerate(midnight)),
    )
