"""Can I run it? What an appliance asks of inverter, cable and bank, and what it does to tonight's low."""

from datetime import datetime
from enum import StrEnum

import numpy as np

from lodeline.core.catalogue import Caution, SourceKind, Via
from lodeline.core.energy import bank
from lodeline.core.errors import Refused
from lodeline.core.figures import Forecasting
from lodeline.core.forecast.bank_paths import simulate_bank
from lodeline.core.forecast.change import Change
from lodeline.core.forecast.paths import Ahead, Paths
from lodeline.core.problems import StartTooFar
from lodeline.core.rig import Rig, Store
from lodeline.core.statistics import Floats, Range, ranged
from lodeline.core.tracking.bank_use import bank_day
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS, MIN_PER_H


@dataclass(frozen=True, slots=True)
class RunAsk:
    """An appliance: ``watts`` while it runs, ``surge`` its starting draw over that, from ``start`` on."""

    watts: float
    minutes: float
    start: datetime | None = None
    via: Via = Via.INVERTER
    surge: float = 1.0
    heats: bool = False

    @property
    def surge_watts(self) -> float:
        """What starting takes. [W]"""
        return self.watts * self.surge


class Answer(StrEnum):
    """Whether it can run."""

    YES = "yes"
    TIGHT = "tight"
    NO = "no"


# Why: each a fact about the run; those that block come before what the bank says.
@dataclass(frozen=True, slots=True)
class NoInverter:
    """It needs an inverter and there is none."""


@dataclass(frozen=True, slots=True)
class OverInverter:
    """It draws more than the inverter gives. [W]"""

    watts: float
    inverter_watts: float


@dataclass(frozen=True, slots=True)
class OverSurge:
    """Starting takes more than the inverter's surge. [W]"""

    surge_watts: float
    inverter_surge_watts: float


@dataclass(frozen=True, slots=True)
class InverterCarries:
    """The inverter carries it. [W]"""

    watts: float
    inverter_watts: float


@dataclass(frozen=True, slots=True)
class OverBank:
    """More current than such a bank should give for so long. [A], [min]"""

    current_a: float
    most_a: float
    minutes: float


@dataclass(frozen=True, slots=True)
class LowAfter:
    """The low after it: the chance that it stays above the line, and its middle, both shares of capacity."""

    p_above: float
    low_p50: float
    line: float

    @property
    def is_sure(self) -> bool:
        """Whether it stays above the line nearly always."""
        return self.p_above >= Forecasting.sure


Why = NoInverter | OverInverter | OverSurge | InverterCarries | OverBank | LowAfter


# Ways: what would make it possible.
@dataclass(frozen=True, slots=True)
class LargerInverter:
    """An inverter of so many watts. [W]"""

    watts: float


@dataclass(frozen=True, slots=True)
class WeakerOrGas:
    """A weaker model, or the same on gas."""


@dataclass(frozen=True, slots=True)
class PastInverter:
    """Straight from mains that the sources aboard give."""

    kinds: tuple[SourceKind, ...]


@dataclass(frozen=True, slots=True)
class ShorterRun:
    """A shorter run. [min]"""

    minutes: int


@dataclass(frozen=True, slots=True)
class WhileSun:
    """While the sun is up, by a time."""

    by: datetime


@dataclass(frozen=True, slots=True)
class RunSource:
    """A source for so long, which puts the draw back. [h], [Ah]"""

    kind: SourceKind
    hours: float
    ah: float


@dataclass(frozen=True, slots=True)
class MoreAboard:
    """Only a larger bank or more panels."""


Way = LargerInverter | WeakerOrGas | PastInverter | ShorterRun | WhileSun | RunSource | MoreAboard


@dataclass(frozen=True, slots=True, kw_only=True)
class RunVerdict:
    """The answer with its reasons and ways; lows are shares of capacity."""

    answer: Answer
    current_a: float
    ah: float
    share: float
    low_without: Range
    low_with: Range
    low_at: datetime
    latest_start: datetime | None
    why: tuple[Why, ...]
    ways: tuple[Way, ...]
    cautions: tuple[Caution, ...]


def can_run(ahead: Ahead, tracked: Tracked, run: RunAsk, spread_scale: float = 1.0) -> RunVerdict:
    """Answer for one run of an appliance.

    Raises
    ------
    Refused
        The start lies outside the coming two days.
    """
    rig, store = ahead.rig, tracked.store
    start_h = _start_h(ahead, run)
    efficiency = rig.inverter.efficiency if run.via is Via.INVERTER and rig.inverter else 1.0
    current = run.watts / efficiency / store.volts
    ah = bank.peukert_ah(store, current, run.minutes / MIN_PER_H)
    until_h = start_h + Forecasting.look_h
    without, _ = _lows(simulate_bank(ahead, tracked, spread_scale), until_h)
    change = Change(draw=_draw(ahead, run, start_h, ah))
    lows, low_h = _lows(simulate_bank(ahead, tracked, spread_scale, change), until_h)
    before, after = ranged(without / store.capacity), ranged(lows / store.capacity)
    limits = _limits(rig, store, run, current)
    blocked = not all(isinstance(each, InverterCarries) for each in limits)
    low = LowAfter(float((lows > store.line_level).mean()), after.p50, store.line)
    answer = Answer.NO if blocked or low.low_p50 <= low.line else Answer.YES if low.is_sure else Answer.TIGHT
    latest = latest_start(ahead, tracked, ah)
    ways = _ways_round(rig, run) if blocked else _ways_back(rig, tracked, run, ah, answer, before, latest)
    return RunVerdict(
        answer=answer,
        current_a=current,
        ah=ah,
        share=ah / store.capacity,
        low_without=before,
        low_with=after,
        low_at=ahead.at(low_h),
        latest_start=latest,
        why=tuple(limits if blocked else [*limits, low]),
        ways=tuple(ways),
        cautions=_cautions(run, ways),
    )


def _start_h(ahead: Ahead, run: RunAsk) -> float:
    """Day hours until the start; a start within the last half hour is now."""
    if run.start is None:
        return 0.0
    hours = ahead.rig.zone.hour(ahead.days[0].date, run.start) - ahead.hour
    if not -0.5 < hours <= Forecasting.ask_within_h:
        raise Refused("start", StartTooFar(Forecasting.ask_within_h))
    return max(0.0, hours)


def _draw(ahead: Ahead, run: RunAsk, start_h: float, ah: float) -> Floats:
    """The run's amp-hours over the day hours that it covers, shape (n_dates, 24)."""
    begin = ahead.hour + start_h
    end = begin + run.minutes / MIN_PER_H
    hours = np.arange(HOURS * len(ahead.days))
    covered = np.clip(np.minimum(hours + 1, end) - np.maximum(hours, begin), 0.0, None)
    total = covered.sum()
    spread: Floats = (ah * covered / total if total else covered).reshape(len(ahead.days), int(HOURS))
    return spread


def _lows(paths: Paths, until_h: float) -> tuple[Floats, float]:
    """The lowest contents of each path until some hours from now, shape (n_paths,), and when the middle is there."""
    assert paths.bank is not None
    rows = paths.bank.hours_ahead <= until_h
    within = paths.bank.hourly[rows]
    at = float(paths.bank.hours_ahead[rows][int(np.argmin(np.median(within, axis=1)))])
    return np.minimum(within.min(axis=0), paths.start), at


def _limits(rig: Rig, store: Store, run: RunAsk, current_a: float) -> list[Why]:
    """What inverter and bank say of the draw; all but the inverter that carries it block the run."""
    limits: list[Why] = []
    inverter = rig.inverter
    if run.via is Via.INVERTER:
        if inverter is None:
            return [NoInverter()]
        if run.watts > inverter.watts:
            limits.append(OverInverter(run.watts, inverter.watts))
        surge = inverter.surge_watts or inverter.watts
        if run.surge_watts > surge:
            limits.append(OverSurge(run.surge_watts, surge))
        if not limits:
            limits.append(InverterCarries(run.watts, inverter.watts))
    short = run.minutes <= Forecasting.short_run_min
    most_a = bank.cells(store).most_draw_c * store.capacity * (Forecasting.short_run_factor if short else 1.0)
    if current_a > most_a:
        limits.append(OverBank(current_a, most_a, run.minutes))
    return limits


def net_sun_ah(ahead: Ahead, tracked: Tracked) -> Floats:
    """Expected sun less loads in each hour of each date where sun leads, shape (n_dates, 24). [Ah]"""
    coefficients = tracked.belief.coefficients
    rows = []
    for index, day in enumerate(ahead.days):
        influence = bank_day(ahead.rig, tracked.store, tracked.model, day, tracked.usual_sky, 0.0, index)
        rows.append(influence.hourly @ coefficients)
    return np.maximum(np.stack(rows), 0.0)


def latest_start(ahead: Ahead, tracked: Tracked, ah: float) -> datetime | None:
    """The latest start, today or tomorrow, after which that day's expected sun still puts the draw back."""
    net = net_sun_ah(ahead, tracked)
    for index, day in enumerate(ahead.days[:2]):
        left = np.cumsum(net[index][::-1])[::-1]
        hours = [h for h in range(int(HOURS)) if left[h] >= ah and (index > 0 or h >= ahead.hour)]
        if hours:
            return max(ahead.now, ahead.rig.zone.at_hour(day.date, max(hours)))
    return None


def _ways_round(rig: Rig, run: RunAsk) -> list[Way]:
    """What would make a run possible that inverter or bank cannot carry."""
    ways: list[Way] = []
    if run.via is Via.INVERTER and (rig.inverter is None or run.watts > rig.inverter.watts):
        step = Forecasting.inverter_step_w
        ways.append(LargerInverter(float(np.ceil(run.watts * Forecasting.inverter_margin / step) * step)))
    ways.append(WeakerOrGas())
    mains = tuple(dict.fromkeys(source.kind for source in rig.sources if source.kind.mains))
    if mains:
        ways.append(PastInverter(mains))
    return ways


def _ways_back(
    rig: Rig, tracked: Tracked, run: RunAsk, ah: float, answer: Answer, low: Range, latest: datetime | None
) -> list[Way]:
    """What would keep the low above the line."""
    if answer is Answer.YES:
        return []
    store, ways, step = tracked.store, list[Way](), Forecasting.run_step_min
    spare = max(0.0, (low.p10 - store.line) * store.capacity)
    minutes = int(run.minutes * min(1.0, spare / ah) // step * step) if ah > 0 else 0
    if minutes >= step:
        ways.append(ShorterRun(minutes))
    if latest is not None:
        ways.append(WhileSun(latest))
    for source in rig.sources:
        hours = ah / (source.amps * bank.cells(store).coulombic)
        if hours <= Forecasting.longest_way_h:
            ways.append(RunSource(source.kind, hours, ah))
    return ways or [MoreAboard()]


def _cautions(run: RunAsk, ways: list[Way]) -> tuple[Caution, ...]:
    """What is said with the answer: of mains and heat, and of gas and generator where a way leads there."""
    cautions: list[Caution] = []
    if any(isinstance(way, WeakerOrGas) for way in ways):
        cautions.append(Caution.GAS_INDOORS)
    kinds = [way.kind for way in ways if isinstance(way, RunSource)]
    kinds += [kind for way in ways if isinstance(way, PastInverter) for kind in way.kinds]
    if any(Caution.GENERATOR_OUTDOORS in kind.cautions for kind in kinds):
        cautions.append(Caution.GENERATOR_OUTDOORS)
    if run.via is Via.INVERTER:
        cautions.append(Caution.MAINS)
    if run.heats:
        cautions.append(Caution.HOT_THINGS)
    if run.watts > Forecasting.big_w:
        cautions.append(Caution.CABLE_SIZE)
    return tuple(cautions)
