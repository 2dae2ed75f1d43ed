"""How use, sun and chargers move a store's level through a part of a day, and what that leaves uncertain."""

from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np

from lodeline.core.catalogue import Driver
from lodeline.core.energy import bank
from lodeline.core.figures import Energy, Numeric, Serving, Tracking, Use
from lodeline.core.rig import Rig, Store
from lodeline.core.statistics import Floats, uniform_sd
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.bank_use import PLACE, SUN_AND_PLACE
from lodeline.core.tracking.charging import Charge, offered_ah
from lodeline.core.tracking.day_kinds import KnownDayKinds
from lodeline.core.tracking.evidence import GaugeError, gauge_error
from lodeline.core.tracking.hypothesis import Hypothesis
from lodeline.core.tracking.influence import DayInfluence, hours_between
from lodeline.core.tracking.model import UseModel
from lodeline.core.tracking.use import expected_use
from lodeline.core.zone import HOURS

_DAY = timedelta(days=1)


@dataclass(frozen=True, slots=True, kw_only=True)
class StoreContext:
    """A store with what stays the same through its walk. ``floor``: coefficients do not fall under it, shape (k,)."""

    rig: Rig
    store: Store
    model: UseModel
    error: GaugeError
    floor: Floats
    is_sun: "np.ndarray[tuple[int, ...], np.dtype[np.bool_]]"

    @classmethod
    def of(cls, rig: Rig, store: Store, kinds: KnownDayKinds) -> "StoreContext":
        """The context of a store of a rig."""
        model = expected_use(rig, store, kinds)
        is_sun = np.array([name in SUN_AND_PLACE for name in model.drivers])
        floor = Tracking.least_coefficient * model.mean
        floor[[name == PLACE for name in model.drivers]] = -np.inf
        return cls(rig=rig, store=store, model=model, error=gauge_error(store), floor=floor, is_sun=is_sun)

    def start(self) -> b.Belief:
        """What is believed before anything was logged."""
        n, capacity, habit = 1 + len(self.model.mean) + b.N_OTHERS, self.store.capacity, self.store.kind.service
        cov = np.zeros((n, n))
        cov[0, 0] = uniform_sd(capacity) ** 2
        cov[b.COEFFICIENTS, b.COEFFICIENTS] = np.outer(self.model.sd, self.model.sd) * self.model.together
        cov[b.BIAS, b.BIAS] = np.diag(np.square(self.error.bias_sds)) * capacity**2
        cov[b.MARGIN, b.MARGIN] = habit.margin_sd**2
        mean = np.array([capacity / 2, *self.model.mean, *[0.0] * b.N_BIAS, habit.margin])
        if self.store.is_bank:
            kind = bank.cells(self.store)
            mean[b.SIZE], cov[b.SIZE, b.SIZE] = kind.aged, kind.aged_sd**2
        return b.Belief(mean, cov)

    def starts(self) -> list[tuple[float, b.Belief]]:
        """What may be so before anything was logged, each with its chance: a second tank may heat, or nothing."""
        start = self.start()
        if not self.model.may_not_heat:
            return [(1.0, start)]
        idle = b.Belief(start.mean.copy(), start.cov.copy())
        at = b.COEFFICIENTS.start + self.model.drivers.index(Driver.DEGREE_DAYS)
        idle.mean[at] = self.floor[at - b.COEFFICIENTS.start]
        idle.cov[at, :] = idle.cov[:, at] = 0.0
        return [(1 - Use.other_tank_heats, idle), (Use.other_tank_heats, start)]


@dataclass(frozen=True, slots=True, kw_only=True)
class PartOfDay:
    """A part of a day.

    ``x``: the drivers in it, shape (k,); ``moved``: what was measured; ``day_var``: the day's own variance of each
    driver, shape (k,); ``measured_var``: of what was measured; ``charging``: the spells of it.
    """

    start: datetime
    end: datetime
    x: Floats
    moved: float
    day_var: Floats
    measured_var: float
    charging: list[Charge]

    @property
    def days(self) -> float:
        """How long it is. [day]"""
        return (self.end - self.start) / _DAY

    @property
    def moves(self) -> bool:
        """Whether anything is used in it."""
        return float(np.abs(self.x).sum()) > Numeric.tiny


def step_of(
    context: StoreContext,
    influence: DayInfluence,
    from_h: float,
    until_h: float,
    span: tuple[datetime, datetime],
    charging: list[Charge],
) -> PartOfDay:
    """The part of a day between two of its hours."""
    share = hours_between(from_h, until_h)
    x = share @ influence.hourly
    day_cv = influence.cv if influence.cv is not None else context.model.day_cv
    return PartOfDay(
        start=span[0],
        end=span[1],
        x=x,
        moved=float(share @ influence.known),
        day_var=np.square(day_cv) * np.abs(x) * np.abs(influence.hourly.sum(axis=0)),
        measured_var=influence.known_sd**2 * (until_h - from_h) / HOURS,
        charging=charging,
    )


def move(context: StoreContext, hypothesis: Hypothesis, step: PartOfDay, is_known: bool) -> None:
    """Let use and what was measured move a hypothesis's level."""
    store, belief, x = context.store, hypothesis.belief, step.x
    coefficients, moved = belief.coefficients, step.moved
    variance = float(step.day_var @ (coefficients * coefficients)) * hypothesis.spread**2 + step.measured_var
    if step.charging:
        drawn = -float(x[~context.is_sun] @ coefficients[~context.is_sun])
        charged = Energy.source_share * offered_ah(store, step.charging, step.start, step.end, drawn)
        moved += charged
        variance += (Tracking.charged_cv * charged) ** 2
    mean = belief.mean.copy()
    change = float(x @ coefficients) + moved
    row = np.zeros(len(mean))
    row[0] = 1.0
    row[b.COEFFICIENTS] = x
    if store.is_bank:
        size = 1 + float(belief.mean[b.SIZE])
        row[b.COEFFICIENTS] *= size
        row[b.SIZE] = change
        change, variance = size * change, size**2 * variance
    mean[0] += change
    # only the level moves: the first row of the transition, the rest of it being the identity
    cov = belief.cov.copy()
    through = belief.cov @ row
    cov[0, :] = cov[:, 0] = through
    cov[0, 0] = float(row @ through) + variance
    hypothesis.process_var += variance
    hypothesis.x_since = hypothesis.x_since + x
    hypothesis.days_since += step.days if step.moves else 0.0
    hypothesis.days_passed += step.days
    after = b.keep_positive(b.Belief(mean, cov), context.floor)
    if store.is_bank:
        with_before = np.concatenate([[through[0]], belief.cov[0, 1:]])
        known = _of_bank(hypothesis, belief, after, with_before, step, store) if is_known else None
        hypothesis.belief = known or b.unknown_level(after, store.capacity)
        return
    after = b.cut_to_ends(after, store.capacity)
    if is_known and (after.level - belief.level) * store.sign < 0:
        # cutting at an end moves the mean away from it; use does not run backwards
        after.mean[0] = belief.mean[0]
    hypothesis.belief = after


def _of_bank(
    hypothesis: Hypothesis, before: b.Belief, after: b.Belief, through: Floats, step: PartOfDay, store: Store
) -> b.Belief:
    """A bank after a step: it takes no more than its taper lets it, and stays full while more is offered.

    What is held back is D = level after - left * level before - (1 - left) * capacity, where ``left`` is the share of
    the room that the taper leaves open in the step's time. ``through``: covariance of the level before with the state
    after.
    """
    left = float(np.exp(-HOURS * step.days / bank.cells(store).taper_h))
    held = after.level - left * before.level - (1 - left) * store.capacity
    row = after.cov[:, 0] - left * through
    var = float(after.cov[0, 0]) - 2 * left * float(through[0]) + left**2 * float(before.cov[0, 0])
    ended, full = b.held_back(after, row, held, var)
    near = float(ended.level > Tracking.curtailed_from * store.capacity)
    hypothesis.curtailed = max(hypothesis.curtailed, full, Tracking.near_curtailed * near)
    if full:
        # how full a bank is that ought to be full: the last of it takes hours, and nobody saw it
        room = max(0.0, store.capacity - ended.level)
        short = Tracking.taper_cv * min(max(after.level - ended.level, 0.0), room)
        ended.cov[0, 0] += full * (short**2 + (1 - left) * (Tracking.full_sd * store.capacity) ** 2)
    return b.cut_to_ends(ended, store.capacity)


def drift(context: StoreContext, hypothesis: Hypothesis, days: float) -> None:
    """Let the coefficients and the gauge's bias wander for the day that begins."""
    belief, model = hypothesis.belief, context.model
    walk = model.drift * np.maximum(belief.coefficients, Tracking.drift_least * model.mean)
    cov = belief.cov.copy()
    cov[b.COEFFICIENTS, b.COEFFICIENTS] += np.outer(walk, walk) * model.together * days
    mean = belief.mean.copy()
    if context.error.drift_sd:
        _drift_gauge(context, hypothesis, mean, cov, days)
    else:
        cov[b.OFFSET, b.OFFSET] += (context.error.bias_walk * context.store.capacity) ** 2 * days
    mean[b.OFFSET] += hypothesis.drift.rate * context.store.capacity * days
    cov[b.MARGIN, b.MARGIN] += Serving.margin_walk**2 * days
    hypothesis.belief = b.Belief(mean, cov)


def _drift_gauge(context: StoreContext, hypothesis: Hypothesis, mean: Floats, cov: Floats, days: float) -> None:
    """A shunt errs the same way each day, so that its error grows by the day and not by the square root."""
    drift, capacity = hypothesis.drift, context.store.capacity
    if drift.rate_sd == 0:
        drift.rate_sd = context.error.drift_sd
    if hypothesis.curtailed > Tracking.full_from:
        # it was probably full yesterday, and the shunt set right though nobody read it then
        kept = 1 - Tracking.full_sets_right
        drift.days *= kept
        cov[b.OFFSET, :] *= kept**0.5
        cov[:, b.OFFSET] *= kept**0.5
        mean[b.OFFSET] *= kept
    before, drift.days = drift.days, drift.days + days
    cov[b.OFFSET, b.OFFSET] += (drift.rate_sd * capacity) ** 2 * (drift.days**2 - before**2)


def set_right(context: StoreContext, hypothesis: Hypothesis) -> None:
    """A full charge sets a shunt right, and tells how it had drifted since the last one."""
    drift, belief, capacity = hypothesis.drift, hypothesis.belief, context.store.capacity
    if context.error.drift_sd and drift.days >= 1:
        told = float(belief.mean[b.OFFSET]) / capacity / drift.days
        told_var = (max(float(belief.cov[b.OFFSET, b.OFFSET]), 0.0) / capacity**2 + context.error.sd**2) / drift.days**2
        share = drift.rate_sd**2 / (drift.rate_sd**2 + told_var) if told_var > 0 else 1.0
        drift.rate += share * told
        drift.rate_sd = max(drift.rate_sd * (1 - share) ** 0.5, Tracking.drift_told * context.error.drift_sd)
    drift.days = 0.0
    cov = belief.cov.copy()
    cov[b.OFFSET, :] = cov[:, b.OFFSET] = 0.0
    mean = belief.mean.copy()
    mean[b.OFFSET] = 0.0
    hypothesis.belief = b.Belief(mean, cov)
