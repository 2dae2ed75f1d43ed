"""How long to charge: hours of generator, engine or post to a level or to hold until a date, and the fuel for it."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np

from lodeline.core.energy import bank
from lodeline.core.energy.charging import hours_to_reach, hours_words
from lodeline.core.energy.figures import figure
from lodeline.core.energy.loads import NIGHT_HOURS
from lodeline.core.errors import Refused
from lodeline.core.forecast.appliance import net_sun_ah
from lodeline.core.forecast.bank_paths import Extra, simulate_bank
from lodeline.core.forecast.energy_ahead import Range
from lodeline.core.forecast.paths import Ahead
from lodeline.core.rig import Source, Store
from lodeline.core.tracking.bank_use import load_columns
from lodeline.core.tracking.track import Tracked

# To hold means that this share of cases stays above the line.
HOLD_SURE = 0.8
_Z90 = 1.2815515655446004
_LONGEST_H = 24.0
_STEPS = 7


@dataclass(frozen=True, slots=True)
class Plan:
    """Hours to run a source, and the fuel. ``hours`` is None where no run of a day does it."""

    hours: Range | None
    fuel_l: float | None
    words: str


@dataclass(frozen=True, slots=True)
class ChargeTime:
    """``reach``: to the wanted level. ``bulk``: to the end of the bulk part. ``two``: the same in two runs, total
    hours. ``hold_once`` and ``hold_daily``: hours tonight, or each day, to stay above the line until a date.
    ``sun_finishes_at``: the level, as a share, from which tomorrow's expected sun fills the rest."""

    reach: Plan
    bulk: Plan | None
    two: Plan
    hold_once: Plan
    hold_daily: Plan
    sun_finishes_at: float | None
    sun_words: str


def how_long(
    ahead: Ahead, tracked: Tracked, source: Source, target: float, until: datetime, widen: float = 1.0
) -> ChargeTime:
    """Answer for one source; ``bulk`` is None where the wanted level lies within the bulk part.

    Parameters
    ----------
    target : float
        Wanted level as a share of capacity.
    until : datetime
        To hold until then, within the horizon.

    Raises
    ------
    Refused
        A target over 1, or a date beyond the horizon.
    """
    if not 0 < target <= 1:
        raise Refused("target", "must be over 0 and at most 100 %")
    if not ahead.now < until or (until - ahead.now).total_seconds() > 86400 * ahead.n_days:
        raise Refused("until", f"must lie within the coming {ahead.n_days} days")
    store = tracked.store
    target_ah = min(target, 0.995) * store.capacity
    load_a = _evening_load_a(ahead, tracked)
    amps = max(0.0, source.amps - load_a / bank.charge_efficiency(store))
    reach = _reach(store, tracked, target_ah, amps)
    bulk_ah = min(bank.cells(store).bulk_to, target) * store.capacity
    finishing, words = _sun_finishes(ahead, tracked)
    once, daily = _hold(ahead, tracked, source, until, widen)
    bulk = _reach(store, tracked, bulk_ah, amps) if bulk_ah < target_ah else None
    return ChargeTime(
        _plan(source, reach, f"to {target * 100:.0f} %"),
        _plan(source, bulk, f"to {bulk_ah / store.capacity * 100:.0f} %, still at full current") if bulk else None,
        _plan(source, _two_runs(ahead, tracked, target_ah, amps), "the same in two runs, evening and morning"),
        once, daily, finishing, words,
    )  # fmt: skip


def _evening_load_a(ahead: Ahead, tracked: Tracked) -> float:
    """Mean draw now, taken from the charger before the bank gets any. [A]"""
    columns = load_columns(ahead.rig, ahead.days[0])
    n = columns.shape[1]
    hour = int(ahead.hour) % 24
    return float(columns[hour] @ tracked.belief.coefficients[:n]) / tracked.store.volts


def _reach(store: Store, tracked: Tracked, target_ah: float, amps: float) -> Range | None:
    level, sd = tracked.belief.level, tracked.belief.sd
    levels = [min(store.capacity, max(0.0, level + z * sd)) for z in (_Z90, 0.0, -_Z90)]
    hours = [hours_to_reach(store, each, target_ah, amps) for each in levels]
    return Range(*hours) if np.isfinite(hours).all() else None


def _two_runs(ahead: Ahead, tracked: Tracked, target_ah: float, amps: float) -> Range | None:
    """The same amp-hours put in by two runs with a night's draw between them."""
    store = tracked.store
    wanted = target_ah - tracked.belief.level
    if wanted <= 0:
        return Range(0.0, 0.0, 0.0)
    first = hours_to_reach(store, tracked.belief.level, tracked.belief.level + wanted / 2, amps)
    night = _night_ah(ahead, tracked)
    start = max(0.0, tracked.belief.level + wanted / 2 - night)
    second = hours_to_reach(store, start, min(start + wanted / 2, 0.995 * store.capacity), amps)
    total = first + second
    return Range(total, total, total) if np.isfinite(total) else None


def _night_ah(ahead: Ahead, tracked: Tracked) -> float:
    columns = load_columns(ahead.rig, ahead.days[min(1, ahead.n_days)])
    n = columns.shape[1]
    hourly = columns @ tracked.belief.coefficients[:n] / tracked.store.volts
    return float(sum(hourly[hour] for hour in NIGHT_HOURS))


def _fuel_l(source: Source, hours: float) -> float | None:
    """Fuel burnt in a run. [L]"""
    if source.kind == "generator":
        return hours * source.fuel_l_per_h if source.fuel_l_per_h is not None else None
    return hours * figure("engine_idle_l_per_h") if source.kind == "alternator" else 0.0


def _plan(source: Source, hours: Range | None, what: str) -> Plan:
    if hours is None:
        return Plan(None, None, f"{what[0].upper()}{what[1:]}: this source does not get there.")
    if hours.p50 <= 0:
        done = "no run is needed" if "hold" in what else "it is there already"
        return Plan(hours, 0.0, f"{what[0].upper()}{what[1:]}: {done}.")
    fuel = _fuel_l(source, hours.p50)
    spread = "" if hours.p90 - hours.p10 < 0.25 else f" ({hours_words(hours.p10)} to {hours_words(hours.p90)})"
    burnt = f", about {fuel:.1f} L of fuel" if fuel else ""
    return Plan(hours, fuel, f"{what[0].upper()}{what[1:]}: {hours_words(hours.p50)}{spread}{burnt}.")


def _sun_finishes(ahead: Ahead, tracked: Tracked) -> tuple[float | None, str]:
    """The level at which to stop tonight, because tomorrow's expected sun fills the rest."""
    store = tracked.store
    if not ahead.rig.solar or ahead.n_days < 1:
        return None, "There is no array aboard, so the sun does not finish a charge."
    # a bank near full takes the last part slowly: a tenth is left to the taper
    surplus = 0.9 * float(net_sun_ah(ahead, tracked)[1].sum())
    night = _night_ah(ahead, tracked)
    stop = (store.capacity - surplus + night) / store.capacity
    if stop >= 1:
        return None, (
            f"Tomorrow's sun is expected to leave {surplus:.0f} Ah over the loads of the day, less than the night's "
            f"{night:.0f} Ah: it will not finish a charge."
        )
    stop = max(stop, 0.0)
    return stop, (
        f"Stop at {stop * 100:.0f} %: the night takes about {night:.0f} Ah, and tomorrow's sun is expected to put "
        f"{surplus:.0f} Ah in."
    )


def _hold(ahead: Ahead, tracked: Tracked, source: Source, until: datetime, widen: float) -> tuple[Plan, Plan]:
    """Hours tonight, or each day from 17:00, such that the bank stays above its line until a date."""
    days = (until - ahead.now).total_seconds() / 86400

    def sure(hours: float, daily: bool) -> float:
        push = np.zeros((len(ahead.days), 24))
        for index in range(len(ahead.days) if daily else 1):
            start = max(ahead.hour, 17.0) if index == 0 else 17.0
            _lay(push, index, start, hours, source.amps)
        extra = Extra(np.zeros_like(push), push)
        return float((simulate_bank(ahead, tracked, widen, extra).reached_days > days).mean())

    last = (until - timedelta(seconds=1)).astimezone(ZoneInfo(ahead.rig.timezone))
    said = f"to hold through {last:%A} {last.day} {last:%B} in {HOLD_SURE * 10:.0f} of 10 cases"
    return _search(source, lambda h: sure(h, False), f"once tonight, {said}"), _search(
        source, lambda h: sure(h, True), f"each day, {said}"
    )


def _lay(push: np.ndarray, index: int, start_h: float, hours: float, amps: float) -> None:
    """Put a run on the clock; what reaches past midnight goes on."""
    flat = push.reshape(-1)
    begin = 24 * index + start_h
    clock = np.arange(len(flat))
    flat += amps * np.clip(np.minimum(clock + 1, begin + hours) - np.maximum(clock, begin), 0.0, 1.0)


def _search(source: Source, sure: Callable[[float], float], what: str) -> Plan:
    if sure(0.0) >= HOLD_SURE:
        return _plan(source, Range(0.0, 0.0, 0.0), what)
    longest = _LONGEST_H if "once" in what else _LONGEST_H / 2
    if sure(longest) < HOLD_SURE:
        return Plan(None, None, f"{what[0].upper()}{what[1:]}: not by this source alone.")
    low, high = 0.0, longest
    for _ in range(_STEPS):
        middle = (low + high) / 2
        low, high = (low, middle) if sure(middle) >= HOLD_SURE else (middle, high)
    return _plan(source, Range(high, high, high), what)
