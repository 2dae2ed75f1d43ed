"""How long to charge: hours of generator, engine or hookup to a level or to hold until a date, and the fuel for it."""

from collections.abc import Callable
from dataclasses import replace
from datetime import date, datetime, timedelta
from enum import StrEnum

import numpy as np

from lodeline.core.catalogue import Burns
from lodeline.core.energy import bank
from lodeline.core.energy.banks import of_bank
from lodeline.core.energy.charging import hours_to_reach
from lodeline.core.energy.loads import NIGHT
from lodeline.core.errors import Refused
from lodeline.core.figures import Energy, Forecasting
from lodeline.core.forecast.appliance import net_sun_ah
from lodeline.core.forecast.bank_paths import simulate_bank
from lodeline.core.forecast.change import Change
from lodeline.core.forecast.paths import Ahead
from lodeline.core.problems import Plain, UntilOutOfRange
from lodeline.core.rig import Rig, Source, Store
from lodeline.core.statistics import Floats, Range
from lodeline.core.tracking.bank_use import load_columns
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS

_DAY = timedelta(days=1)


class Goal(StrEnum):
    """What a run of a source is for."""

    LEVEL = "level"
    BULK = "bulk"
    TWO_RUNS = "two-runs"
    HOLD_ONCE = "hold-once"
    HOLD_DAILY = "hold-daily"

    @property
    def holds(self) -> bool:
        """Whether it is to stay above the line until a date."""
        return self in (Goal.HOLD_ONCE, Goal.HOLD_DAILY)


@dataclass(frozen=True, slots=True, kw_only=True)
class ChargePlan:
    """Hours to run a source, and the fuel. ``hours`` is None where no run of a day does it.

    ``level``: the wanted one, as a share; ``through``: the last date to hold; ``too_cold``: the cells take no charge.
    """

    goal: Goal
    hours: Range | None
    fuel_l: float | None
    level: float | None = None
    through: date | None = None
    too_cold: bool = False

    @property
    def needs_none(self) -> bool:
        """Whether no run is needed."""
        return self.hours is not None and self.hours.p50 <= 0

    @property
    def is_wide(self) -> bool:
        """Whether the range of hours is worth saying."""
        return self.hours is not None and self.hours.p90 - self.hours.p10 >= Forecasting.range_told_h


@dataclass(frozen=True, slots=True, kw_only=True)
class SunFinishes:
    """Whether tomorrow's expected sun finishes a charge. ``stop_at``: the level, as a share, at which to stop tonight;
    None where it does not. ``surplus_ah``: what it is expected to leave over the loads; ``night_ah``: the night's draw.
    """

    has_array: bool
    stop_at: float | None = None
    surplus_ah: float = 0.0
    night_ah: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ChargeTime:
    """``reach``: to the wanted level. ``bulk``: to the end of the bulk part. ``two``: the same in two runs, total
    hours. ``hold_once`` and ``hold_daily``: hours tonight, or each day, to stay above the line until a date."""

    reach: ChargePlan
    bulk: ChargePlan | None
    two: ChargePlan
    hold_once: ChargePlan
    hold_daily: ChargePlan
    sun: SunFinishes

    @property
    def plans(self) -> tuple[ChargePlan, ...]:
        """The plans that there are, in the order in which they are said."""
        return tuple(each for each in (self.reach, self.bulk, self.two, self.hold_once, self.hold_daily) if each)


def how_long(
    ahead: Ahead, tracked: Tracked, source: Source, target: float, through: date, spread_scale: float = 1.0
) -> ChargeTime:
    """Answer for one source; ``bulk`` is None where the wanted level lies within the bulk part.

    Parameters
    ----------
    target : float
        Wanted level as a share of capacity.
    through : date
        The last local date to hold, within the horizon.

    Raises
    ------
    Refused
        A target over 1, or a date beyond the horizon.
    """
    until = ahead.rig.zone.bounds(through)[1]
    if not 0 < target <= 1:
        raise Refused("target", Plain.TARGET_OUT_OF_RANGE)
    if not ahead.now < until or through >= ahead.days[0].date + ahead.n_days * _DAY:
        raise Refused("until", UntilOutOfRange(ahead.n_days))
    store = tracked.store
    l_per_h = ahead.rig.source_l_per_h(source, store.volts)
    target_ah = min(target, Forecasting.charge_to) * store.capacity
    load_a = _evening_load_a(ahead, tracked)
    allowed = _allowed(ahead, store)
    amps = max(0.0, Energy.source_share * source.amps - load_a / bank.amps_as_wh(store)) * allowed
    bulk_ah = min(bank.cells(store).bulk_to, target) * store.capacity
    bulk = None
    if bulk_ah < target_ah and (reach := _reach(store, tracked, bulk_ah, amps)):
        bulk = _plan(l_per_h, Goal.BULK, reach, level=bulk_ah / store.capacity)
    return ChargeTime(
        reach=replace(
            _plan(l_per_h, Goal.LEVEL, _reach(store, tracked, target_ah, amps), level=target), too_cold=not allowed
        ),
        bulk=bulk,
        two=replace(_plan(l_per_h, Goal.TWO_RUNS, _two_runs(ahead, tracked, target_ah, amps)), too_cold=not allowed),
        hold_once=_hold(ahead, tracked, source, Goal.HOLD_ONCE, through, until, spread_scale),
        hold_daily=_hold(ahead, tracked, source, Goal.HOLD_DAILY, through, until, spread_scale),
        sun=_sun_finishes(ahead, tracked),
    )


def _allowed(ahead: Ahead, store: Store) -> float:
    """The chance that the cells may be charged tonight: none, where it is too cold for them, as in the forecast."""
    hours = np.concatenate([bank.takes_charge(store, day.mean_c, day.min_c) for day in ahead.days[:2]])
    begin = int(ahead.hour)
    return float(hours[begin : begin + Forecasting.evening_h].mean())


def _evening_load_a(ahead: Ahead, tracked: Tracked) -> float:
    """Mean draw now, taken from the charger before the bank gets any. [A]"""
    columns = load_columns(of_bank(ahead.rig, tracked.store), ahead.days[0])
    hour = int(ahead.hour) % int(HOURS)
    return float(columns[hour] @ tracked.belief.coefficients[: columns.shape[1]]) / tracked.store.volts


def _reach(store: Store, tracked: Tracked, target_ah: float, amps: float) -> Range | None:
    low, high = tracked.level_range
    hours = [hours_to_reach(store, each, target_ah, amps) for each in (high, tracked.level, low)]
    return Range(*hours) if np.isfinite(hours).all() else None


def _two_runs(ahead: Ahead, tracked: Tracked, target_ah: float, amps: float) -> Range | None:
    """The same amp-hours put in by two runs with a night's draw between them."""
    store, level = tracked.store, tracked.level
    wanted = target_ah - level
    if wanted <= 0:
        return Range(0.0, 0.0, 0.0)
    first = hours_to_reach(store, level, level + wanted / 2, amps)
    start = max(0.0, level + wanted / 2 - _night_ah(ahead, tracked))
    second = hours_to_reach(store, start, min(start + wanted / 2, Forecasting.charge_to * store.capacity), amps)
    total = first + second
    return Range(total, total, total) if np.isfinite(total) else None


def _night_ah(ahead: Ahead, tracked: Tracked) -> float:
    columns = load_columns(of_bank(ahead.rig, tracked.store), ahead.days[min(1, ahead.n_days)])
    hourly: Floats = columns @ tracked.belief.coefficients[: columns.shape[1]] / tracked.store.volts
    return float(hourly @ NIGHT)


def _plan(
    l_per_h: float | None, goal: Goal, hours: Range | None, level: float | None = None, through: date | None = None
) -> ChargePlan:
    """A run and its fuel; no fuel is known where the rate is not."""
    fuel_l = None if hours is None else 0.0 if hours.p50 <= 0 else None if l_per_h is None else l_per_h * hours.p50
    return ChargePlan(goal=goal, hours=hours, fuel_l=fuel_l, level=level, through=through)


def _sun_finishes(ahead: Ahead, tracked: Tracked) -> SunFinishes:
    """The level at which to stop tonight, because tomorrow's expected sun fills the rest."""
    store = tracked.store
    if not ahead.rig.solar or ahead.n_days < 1:
        return SunFinishes(has_array=False)
    surplus = Forecasting.sun_left_to_taper * float(net_sun_ah(ahead, tracked)[1].sum())
    night = _night_ah(ahead, tracked)
    stop = (store.capacity - surplus + night) / store.capacity
    return SunFinishes(
        has_array=True, stop_at=None if stop >= 1 else max(stop, 0.0), surplus_ah=surplus, night_ah=night
    )


def _hold(
    ahead: Ahead, tracked: Tracked, source: Source, goal: Goal, through: date, until: datetime, spread_scale: float
) -> ChargePlan:
    """Hours tonight, or each day from the source's usual hour, such that the bank stays above its line until then."""
    days = (until - ahead.now) / _DAY
    daily = goal is Goal.HOLD_DAILY

    def sure(hours: float) -> float:
        push = np.zeros((len(ahead.days), int(HOURS)))
        for index in range(len(ahead.days) if daily else 1):
            start = max(ahead.hour, Forecasting.run_from_h) if index == 0 else Forecasting.run_from_h
            _lay(push, index, start, hours, source.amps, quiet=_quiet_hours(ahead.rig, source))
        change = Change(push=push)
        return float((simulate_bank(ahead, tracked, spread_scale, change).reached_days > days).mean())

    longest = Forecasting.longest_charge_h / (2 if daily else 1)
    return _plan(ahead.rig.source_l_per_h(source, tracked.store.volts), goal, _search(sure, longest), through=through)


def _quiet_hours(rig: Rig, source: Source) -> Floats:
    """1 in the hours of the clock in which a source is not run, as the crew set them, shape (24,). A post is silent."""
    quiet = rig.quiet if source.kind.burns is not Burns.NOTHING else None
    return np.array([float(quiet is not None and quiet.covers(hour)) for hour in range(int(HOURS))])


def _lay(push: Floats, index: int, start_h: float, hours: float, amps: float, quiet: Floats) -> None:
    """Put a run on the clock; what reaches past midnight goes on. In quiet hours it stands still and goes on after."""
    flat = push.reshape(-1)
    begin = HOURS * index + start_h
    clock = np.arange(len(flat))
    open_h = np.clip(clock + 1 - np.maximum(clock, begin), 0.0, 1.0) * (1 - quiet[clock % int(HOURS)])
    done = np.cumsum(open_h)
    flat += amps * np.clip(hours - (done - open_h), 0.0, open_h)


def _search(sure: Callable[[float], float], longest_h: float) -> Range | None:
    """The shortest run that holds, by halving; None where the longest does not."""
    if sure(0.0) >= Forecasting.held:
        return Range(0.0, 0.0, 0.0)
    if sure(longest_h) < Forecasting.held:
        return None
    low, high = 0.0, longest_h
    for _ in range(Forecasting.search_steps):
        middle = (low + high) / 2
        low, high = (low, middle) if sure(middle) >= Forecasting.held else (middle, high)
    return Range(high, high, high)
