"""The forecast: when each store meets its line, which is first, and the fan of levels on the way."""

from collections.abc import Mapping
from dataclasses import field, replace
from datetime import date, datetime, timedelta
from enum import StrEnum

import numpy as np

from lodeline.core.catalogue import Sense
from lodeline.core.figures import Forecasting
from lodeline.core.forecast.bank_paths import simulate_bank
from lodeline.core.forecast.change import NO_CHANGE, Change
from lodeline.core.forecast.known import Known
from lodeline.core.forecast.paths import Ahead, Paths, days_left, reserve_room, simulate_tank
from lodeline.core.forecast.pool import pool_of, pooled
from lodeline.core.forecast.supposed import from_good_end
from lodeline.core.forecast.worth import worth_days
from lodeline.core.rig import Store
from lodeline.core.statistics import P10, P50, P90, Floats, Singles
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS


@dataclass(frozen=True, slots=True, kw_only=True)
class Band:
    """Contents at one time: the 10, 50 and 90 % quantiles."""

    at: datetime
    p10: float
    p50: float
    p90: float


@dataclass(frozen=True, slots=True, kw_only=True)
class DayBand:
    """Contents at the local midnight that ends a date."""

    date: date
    p10: float
    p50: float
    p90: float


class Meets(StrEnum):
    """How a store stands to its line: it is not known; past it; as likely as not within the horizon; less likely than
    that; never, as it gains; hardly ever."""

    UNKNOWN = "unknown"
    PAST = "past"
    AHEAD = "ahead"
    PERHAPS = "perhaps"
    HOLDS = "holds"
    FAR = "far"


@dataclass(frozen=True, slots=True, kw_only=True)
class StoreForecast:
    """What is expected of one store: the one summary of it, from which every view takes what it says.

    Times are days from now, None beyond the horizon or before it is known.
    """

    store: Store
    known: bool
    assumed: bool = True
    level: float | None = None
    level_p10: float | None = None
    level_p90: float | None = None
    rate_per_day: float | None = None
    p10_days: float | None = None
    p50_days: float | None = None
    p90_days: float | None = None
    p_within: float | None = None
    p_first: float = 0.0
    daily: tuple[DayBand, ...] = ()
    fan: tuple[Band, ...] = ()

    @property
    def meets(self) -> Meets:
        """How it stands to its line."""
        if not self.known:
            return Meets.UNKNOWN
        if self.p50_days is not None:
            return Meets.PAST if self.p50_days == 0 else Meets.AHEAD
        if self.p10_days is not None:
            return Meets.PERHAPS
        return Meets.HOLDS if self.holds else Meets.FAR

    @property
    def is_past_line(self) -> bool:
        """Whether the line is met already."""
        return self.meets is Meets.PAST

    @property
    def is_vague(self) -> bool:
        """Whether the level is not known within a third of the capacity."""
        known = self.level_p10 is not None and self.level_p90 is not None
        return known and (self.level_p90 or 0.0) - (self.level_p10 or 0.0) > Forecasting.vague * self.store.capacity

    @property
    def holds(self) -> bool:
        """Whether a bank gains more than is drawn."""
        return self.store.is_bank and (self.rate_per_day or 0) <= 0


class ChoreKind(StrEnum):
    """What is done without driving off: a store served on the spot; a reserve poured in or swapped in; a tote that
    waste water runs over into, carried away; a spare that stands full beside its store, emptied."""

    SERVE = "serve"
    POUR = "pour"
    SWAP = "swap"
    CARRY = "carry"
    EMPTY = "empty"


@dataclass(frozen=True, slots=True, kw_only=True)
class Chore:
    """Something to do here, and by when. ``last``: whether nothing is left apart after it. Days from now."""

    store: Store
    kind: ChoreKind
    p10_days: float | None
    p50_days: float | None
    p90_days: float | None
    last: bool = False

    @property
    def is_due(self) -> bool:
        """Whether it may have to be done within a day."""
        return self.p10_days is not None and self.p10_days < 1


@dataclass(frozen=True, slots=True, kw_only=True)
class Autonomy:
    """The first line reached by any store that is served at a stop; ``store`` is the likeliest to be it."""

    store: str | None
    p10_days: float | None
    p50_days: float | None
    p90_days: float | None
    at: datetime | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Forecast:
    """A whole forecast.

    ``p_stay`` is the chance that no line of a store that is served at a stop is reached before each midnight of the
    horizon, empty where nothing is known; ``supposed``: what common practice says of such a rig from full, where
    nothing is known. ``worth_days``: by how much a reading of each store now would narrow the days left; ``pool``: the
    fresh tanks that count as one, empty where that is none. [day]
    """

    at: datetime
    horizon_days: int
    autonomy: Autonomy
    stores: tuple[StoreForecast, ...]
    second: str | None
    p_stay: tuple[tuple[date, float], ...]
    chores: tuple[Chore, ...] = ()
    supposed: "Forecast | None" = None
    worth_days: Mapping[str, float] = field(default_factory=dict)
    pool: tuple[Store, ...] = ()

    def of(self, store_id: str) -> StoreForecast:
        """The forecast of one store."""
        return next(each for each in self.stores if each.store.id == store_id)

    @property
    def p_line(self) -> float:
        """The chance that any line is reached within the horizon."""
        return 1 - self.p_stay[-1][1] if self.p_stay else 0.0

    @property
    def unknown(self) -> tuple[Store, ...]:
        """The stores of which nothing is known yet."""
        return tuple(each.store for each in self.stores if not each.known)

    @property
    def due(self) -> tuple[Store, ...]:
        """The stores past their line for which somebody would have to go."""
        return tuple(each.store for each in self.stores if each.is_past_line and not each.store.sends_nobody)

    def when(self, days: float | None) -> datetime | None:
        """The instant so many days from the forecast, None where there is none."""
        return None if days is None else self.at + timedelta(days=days)


def forecast(known: Known, ahead: Ahead, changes: Mapping[str, Change] | None = None) -> Forecast:
    """Forecast every store over the days ahead.

    Nobody fills, dumps, swaps, drives, plugs in or runs a generator unless the outlook says so; use goes on as usual
    past a line. ``changes``: what is agreed on for the days ahead, by store.
    The same log, outlook, time and seed give the same answer.
    """
    stores = known.stores
    whole = _of_known(ahead, stores, known.spread_scale, changes or {})
    if stores:
        return whole
    supposed = {id: from_good_end(each) for id, each in known.tracked.items()}
    return replace(whole, p_stay=(), supposed=_of_known(ahead, supposed, {}, {}))


def _of_known(
    ahead: Ahead, known: Mapping[str, Tracked], scale: Mapping[str, float], changes: Mapping[str, Change]
) -> Forecast:
    """The forecast of the stores that are known."""
    paths = {id: simulate(ahead, each, scale.get(id, 1.0), changes.get(id, NO_CHANGE)) for id, each in known.items()}
    times = {id: paths[id].reached_days for id in known}
    sends_away = {id: each for id, each in times.items() if not known[id].store.sends_nobody}
    sends_away = pooled(ahead.rig, known, sends_away, ahead.n_days)
    first, second = who_is_first(sends_away)
    stores = tuple(
        _of_store(ahead, known[s.id], paths[s.id], times[s.id], first.get(s.id, 0.0))
        if s.id in known
        else StoreForecast(store=s, known=False)
        for s in ahead.rig.stores
    )
    soonest = np.min(list(sends_away.values()), axis=0) if sends_away else np.full(ahead.n_paths, np.inf)
    midnight_days = [(HOURS * (i + 1) - ahead.hour) / HOURS for i in range(ahead.n_days)]
    p_stay = tuple(
        (ahead.days[0].date + timedelta(days=i), float((soonest > at).mean())) for i, at in enumerate(midnight_days)
    )
    return Forecast(
        at=ahead.now,
        horizon_days=ahead.n_days,
        autonomy=_autonomy(ahead, first, soonest),
        stores=stores,
        second=second,
        p_stay=p_stay,
        chores=tuple(_chores(ahead, known, paths, times)),
        worth_days=worth_days(ahead, known, paths, soonest) if sends_away else {},
        pool=pool_of(ahead.rig, known),
    )


def _chores(
    ahead: Ahead, known: Mapping[str, Tracked], paths: Mapping[str, Paths], times: Mapping[str, Floats]
) -> list[Chore]:
    """What is to be done here, the soonest first."""
    chores = []
    for id, each in known.items():
        if _stands_full(each):
            # there must be one to change to when the one in use is full
            low, middle, high = days_left(ahead, paths[id].first_days)
            chores.append(Chore(store=each.store, kind=ChoreKind.EMPTY, p10_days=low, p50_days=middle, p90_days=high))
        if each.store.is_served_here:
            low, middle, high = days_left(ahead, times[id])
            chores.append(Chore(store=each.store, kind=ChoreKind.SERVE, p10_days=low, p50_days=middle, p90_days=high))
        elif reserve_room(each) > 0:
            low, middle, high = days_left(ahead, paths[id].first_days)
            kind = _way_apart(each.store)
            chores.append(Chore(store=each.store, kind=kind, p10_days=low, p50_days=middle, p90_days=high, last=True))
    return sorted(chores, key=lambda chore: np.inf if chore.p50_days is None else chore.p50_days)


def _stands_full(tracked: Tracked) -> bool:
    """Whether the spare of a cassette or waste bottle was changed for and stands there full."""
    store = tracked.store
    spare = store.sense is Sense.FILLS and not store.kind.runs_over and bool(store.reserve)
    return spare and tracked.reserve < (store.reserve or 0.0)


def _way_apart(store: Store) -> ChoreKind:
    """How what is carried apart of a store comes to its aid."""
    if store.sense is Sense.FILLS:
        return ChoreKind.CARRY if store.kind.runs_over else ChoreKind.SWAP
    return ChoreKind.POUR if store.is_poured else ChoreKind.SWAP


def simulate(ahead: Ahead, tracked: Tracked, spread_scale: float = 1.0, change: Change = NO_CHANGE) -> Paths:
    """Paths of one store: a bank hour by hour, others by day sums."""
    if tracked.store.is_bank:
        return simulate_bank(ahead, tracked, spread_scale, change)
    return simulate_tank(ahead, tracked, spread_scale, change)


def who_is_first(times: dict[str, Floats]) -> tuple[dict[str, float], str | None]:
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
    likeliest_first = max(first, key=lambda id: first[id])
    table[soonest, columns] = np.inf
    then = table.argmin(axis=0)
    met = np.isfinite(table[then, columns])
    second = {id: float(((then == i) & met).mean()) + first[id] for i, id in enumerate(ids) if id != likeliest_first}
    likeliest = max(second, key=lambda id: second[id])
    return first, likeliest if second[likeliest] > Forecasting.second_from else None


def _autonomy(ahead: Ahead, first: dict[str, float], soonest: Floats) -> Autonomy:
    likeliest = max(first, key=lambda id: first[id]) if first and max(first.values()) > 0 else None
    p10, p50, p90 = days_left(ahead, soonest)
    at = ahead.now + timedelta(days=p50) if p50 is not None else None
    return Autonomy(store=likeliest, p10_days=p10, p50_days=p50, p90_days=p90, at=at)


def _of_store(ahead: Ahead, tracked: Tracked, paths: Paths, times: Floats, p_first: float) -> StoreForecast:
    low, high = tracked.level_range
    p10, p50, p90 = days_left(ahead, times)
    midnight = quantiles(paths.midnight)
    daily = tuple(
        DayBand(date=day.date, p10=row[0], p50=row[1], p90=row[2])
        for day, row in zip(ahead.days, midnight, strict=False)
    )
    return StoreForecast(
        store=tracked.store,
        known=True,
        assumed=tracked.assumed,
        level=tracked.level,
        level_p10=low,
        level_p90=high,
        rate_per_day=paths.rate_per_day,
        p10_days=p10,
        p50_days=p50,
        p90_days=p90,
        p_within=float(np.isfinite(times).mean()),
        p_first=p_first,
        daily=daily,
        fan=_fan(ahead, tracked, paths, midnight),
    )


def _band(at: datetime, levels: tuple[float, float, float]) -> Band:
    return Band(at=at, p10=levels[0], p50=levels[1], p90=levels[2])


def quantiles(contents: Floats | Singles) -> list[tuple[float, float, float]]:
    """p10, p50 and p90 of each row of shape (n_rows, n_paths)."""
    ordered = np.sort(contents, axis=1)
    n = contents.shape[1]
    low, middle, high = (ordered[:, int(q * (n - 1))].tolist() for q in (P10, P50, P90))
    return list(zip(low, middle, high, strict=True))


def _fan(ahead: Ahead, tracked: Tracked, paths: Paths, midnight: list[tuple[float, float, float]]) -> tuple[Band, ...]:
    """The fan for drawing: a battery every few hours, other stores at midnights."""
    low, high = tracked.level_range
    start = Band(at=ahead.now, p10=low, p50=tracked.level, p90=high)
    if paths.bank is not None:
        within = int(np.searchsorted(paths.bank.hours_ahead, HOURS * len(midnight), side="right"))
        rows = slice(Forecasting.fan_step_h - 1, within, Forecasting.fan_step_h)
        at_h, bands = paths.bank.hours_ahead[rows].tolist(), quantiles(paths.bank.hourly[rows])
        return (start, *(_band(ahead.at(h), band) for h, band in zip(at_h, bands, strict=True)))
    midnights = (HOURS * (i + 1) - ahead.hour for i in range(len(midnight)))
    return (start, *(_band(ahead.at(h), band) for h, band in zip(midnights, midnight, strict=True)))
