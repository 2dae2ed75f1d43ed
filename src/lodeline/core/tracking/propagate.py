"""How use, sun and chargers move a store's level through a part of a day, and what that leaves uncertain."""

from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np

from lodeline.core.energy import bank
from lodeline.core.figures import Numeric, Tracking
from lodeline.core.rig import Rig, Store
from lodeline.core.statistics import Floats, uniform_sd
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.bank_use import PLACE, SUN_AND_PLACE
from lodeline.core.tracking.charging import Charge, accepted_ah
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
        k, capacity = len(self.model.mean), self.store.capacity
        cov = np.zeros((k + 2, k + 2))
        cov[0, 0] = uniform_sd(capacity) ** 2
        cov[1 : k + 1, 1 : k + 1] = np.outer(self.model.sd, self.model.sd) * self.model.together
        cov[-1, -1] = (self.error.bias_sd * capacity) ** 2
        return b.Belief(np.concatenate([[capacity / 2], self.model.mean, [0.0]]), cov)


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
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


def step_of(
    context: StoreContext, influence: DayInfluence, from_h: float, until_h: float, span: tuple[datetime, datetime],
    charging: list[Charge],
) -> Step:  # fmt: skip
    """The part of a day between two of its hours."""
    share = hours_between(from_h, until_h)
    x = share @ influence.hourly
    day_cv = influence.cv if influence.cv is not None else context.model.day_cv
    return Step(
        start=span[0], end=span[1], x=x, moved=float(share @ influence.known),
        day_var=np.square(day_cv) * np.abs(x) * np.abs(influence.hourly.sum(axis=0)),
        measured_var=influence.known_sd**2 * (until_h - from_h) / HOURS, charging=charging,
    )  # fmt: skip


def move(context: StoreContext, hypothesis: Hypothesis, step: Step, is_known: bool) -> None:
    """Let use and what was measured move a hypothesis's level."""
    store, belief, x = context.store, hypothesis.belief, step.x
    coefficients, moved = belief.coefficients, step.moved
    variance = float(step.day_var @ np.square(coefficients)) * hypothesis.spread**2 + step.measured_var
    if step.charging:
        drawn = -float(x[~context.is_sun] @ coefficients[~context.is_sun])
        charged = accepted_ah(store, belief.level, step.charging, step.start, step.end, drawn)
        moved += charged
        variance += (Tracking.charged_cv * charged) ** 2
    mean = belief.mean.copy()
    mean[0] += float(x @ coefficients) + moved
    row = np.concatenate([[1.0], x, [0.0]])
    lost = _not_taken(context, hypothesis, step) if context.is_sun.any() else 0.0
    if lost > 0:
        # near full neither a stronger sun, nor loads that it serves, nor a lower start change the end by much
        mean[0] -= lost
        room = max(0.0, store.capacity - mean[0])
        variance += min(Tracking.taper_cv * lost, Tracking.taper_cv * room) ** 2
        row[1:-1] = 0.0
        row[0] = np.exp(-HOURS * step.days / bank.cells(store).taper_h)
    # only the level moves: the first row of the transition, the rest of it being the identity
    cov = belief.cov.copy()
    cov[0, :] = cov[:, 0] = through = belief.cov @ row
    cov[0, 0] = float(row @ through) + variance
    hypothesis.process_var += variance
    hypothesis.x_since = hypothesis.x_since + x
    hypothesis.days_since += float(np.abs(x).sum() > Numeric.tiny) * step.days
    after = b.Belief(mean, cov)
    if not is_known:
        after = b.unknown_level(after, store.capacity)
    # a bank runs over and stays full; a tank is served before it does
    ends = b.clip_to_ends if store.is_bank else b.cut_to_ends
    after = ends(b.keep_positive(after, context.floor), store.capacity)
    if is_known and not store.is_bank and (after.level - belief.level) * store.sign < 0:
        # cutting at an end moves the mean away from it; use does not run backwards
        after = b.Belief(np.concatenate([belief.mean[:1], after.mean[1:]]), after.cov)
    hypothesis.belief = after
    hypothesis.throttled |= hypothesis.belief.level > Tracking.throttled_from * store.capacity


def _not_taken(context: StoreContext, hypothesis: Hypothesis, step: Step) -> float:
    """Sun that a bank near full could not take in a step, beside what loads drew at once. [Ah]"""
    parts = step.x * hypothesis.belief.coefficients
    sun, loads = float(parts[context.is_sun].sum()), -float(parts[~context.is_sun].sum())
    room = max(0.0, context.store.capacity - hypothesis.belief.level)
    takes = room * (1 - np.exp(-HOURS * step.days / bank.cells(context.store).taper_h))
    lost = max(0.0, sun - loads - takes)
    hypothesis.throttled |= lost > Tracking.lost_from * sun
    return float(lost)


def drift(context: StoreContext, hypothesis: Hypothesis, days: float) -> None:
    """Let the coefficients and the gauge's bias wander for the day that begins."""
    belief, model = hypothesis.belief, context.model
    walk = model.drift * np.maximum(belief.coefficients, Tracking.drift_least * model.mean)
    cov = belief.cov.copy()
    cov[1:-1, 1:-1] += np.outer(walk, walk) * model.together * days
    mean = belief.mean.copy()
    if context.error.drift_sd:
        _drift_gauge(context, hypothesis, mean, cov, days)
    else:
        cov[-1, -1] += (context.error.bias_walk * context.store.capacity) ** 2 * days
    mean[-1] += hypothesis.drift.rate * context.store.capacity * days
    hypothesis.belief = b.Belief(mean, cov)


def _drift_gauge(context: StoreContext, hypothesis: Hypothesis, mean: Floats, cov: Floats, days: float) -> None:
    """A shunt errs the same way each day, so that its error grows by the day and not by the square root."""
    drift, capacity = hypothesis.drift, context.store.capacity
    if drift.rate_sd == 0:
        drift.rate_sd = context.error.drift_sd
    if hypothesis.throttled:
        # it was probably full yesterday, and the shunt set right though nobody read it then
        kept = 1 - Tracking.full_sets_right
        drift.days *= kept
        cov[-1, :] *= kept**0.5
        cov[:, -1] *= kept**0.5
        mean[-1] *= kept
    before, drift.days = drift.days, drift.days + days
    cov[-1, -1] += (drift.rate_sd * capacity) ** 2 * (drift.days**2 - before**2)


def set_right(context: StoreContext, hypothesis: Hypothesis) -> None:
    """A full charge sets a shunt right, and tells how it had drifted since the last one."""
    drift, belief, capacity = hypothesis.drift, hypothesis.belief, context.store.capacity
    if context.error.drift_sd and drift.days >= 1:
        told = float(belief.mean[-1]) / capacity / drift.days
        told_var = (max(float(belief.cov[-1, -1]), 0.0) / capacity**2 + context.error.sd**2) / drift.days**2
        share = drift.rate_sd**2 / (drift.rate_sd**2 + told_var) if told_var > 0 else 1.0
        drift.rate += share * told
        drift.rate_sd = max(drift.rate_sd * (1 - share) ** 0.5, Tracking.drift_told * context.error.drift_sd)
    drift.days = 0.0
    cov = belief.cov.copy()
    cov[-1, :] = cov[:, -1] = 0.0
    hypothesis.belief = b.Belief(np.concatenate([belief.mean[:-1], [0.0]]), cov)
