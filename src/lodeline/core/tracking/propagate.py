"""How use, sun and chargers move a store's level through a part of a day, and what that leaves uncertain."""

from datetime import date, datetime, timedelta
from math import exp

import numpy as np

from lodeline.core.catalogue import Driver
from lodeline.core.catalogue.stores import ServiceHabit
from lodeline.core.energy import bank
from lodeline.core.energy.banks import of_bank
from lodeline.core.figures import Energy, Numeric, Serving, Tracking, Use
from lodeline.core.rig import Rig, Store
from lodeline.core.statistics import Floats, Truths, uniform_sd
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.bank_use import PLACE, SUN_AND_PLACE
from lodeline.core.tracking.charging import Charge, offered_ah
from lodeline.core.tracking.day_kinds import KnownDayKinds
from lodeline.core.tracking.evidence import GaugeError, gauge_error
from lodeline.core.tracking.hypothesis import Hypothesis
from lodeline.core.tracking.influence import DayInfluence
from lodeline.core.tracking.model import UseModel
from lodeline.core.tracking.use import expected_use
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS

_HOUR = timedelta(hours=1)


@dataclass(frozen=True, slots=True, kw_only=True)
class StoreContext:
    """A store with what stays the same through its walk.

    ``floor``: coefficients do not fall under it, shape (k,). ``level_row``: picks the level of a state, shape (n,).
    ``drift`` and ``drift_least``: how coefficients wander, as shares of them or of these at least, shape (k,);
    ``diagonal``: where their variances lie in a covariance.
    """

    rig: Rig
    store: Store
    model: UseModel
    error: GaugeError
    floor: Floats
    is_sun: Truths
    level_row: Floats
    drift: Floats
    drift_least: Floats
    diagonal: slice

    @classmethod
    def of(cls, rig: Rig, store: Store, kinds: KnownDayKinds) -> "StoreContext":
        """The context of a store of a rig."""
        rig = of_bank(rig, store) if store.is_bank else rig
        model = expected_use(rig, store, kinds)
        is_sun = np.array([name in SUN_AND_PLACE for name in model.drivers])
        floor = Tracking.least_coefficient * model.mean
        floor[[name == PLACE for name in model.drivers]] = -np.inf
        floor[0] = max(floor[0], model.needed)
        k = len(model.mean)
        n = 1 + k + b.N_OTHERS
        return cls(
            rig=rig,
            store=store,
            model=model,
            error=gauge_error(store),
            floor=floor,
            is_sun=is_sun,
            level_row=np.eye(n)[0],
            drift=np.broadcast_to(model.drift, k),
            drift_least=Tracking.drift_least * model.mean,
            diagonal=slice(n + 1, (n + 1) * (k + 1), n + 1),
        )

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


class DayCourse:
    """A day of a store as its walk goes through it: what comes in each hour and has come by its end, by driver and, in
    the last column, as it was measured; shapes (24, k + 1) and (25, k + 1)."""

    __slots__ = ("_by_the_end", "_hourly", "_length_h", "_measured_var", "begins", "cv_square", "ends")

    def __init__(self, context: StoreContext, influence: DayInfluence, on: date) -> None:
        self.begins, self.ends = context.rig.zone.bounds(on)
        self._length_h = (self.ends - self.begins) / _HOUR
        self._hourly = np.concatenate([influence.hourly, influence.known[:, None]], axis=1)
        self._by_the_end = np.zeros((len(self._hourly) + 1, self._hourly.shape[1]))
        np.cumsum(self._hourly, axis=0, out=self._by_the_end[1:])
        self._measured_var = influence.known_sd**2
        day_cv = influence.cv if influence.cv is not None else context.model.day_cv
        self.cv_square = day_cv * day_cv * np.abs(self._by_the_end[-1, :-1])

    def at(self, hour: float) -> datetime:
        """The instant of one of its hours."""
        return self.begins + (self.ends - self.begins) * (hour / HOURS)

    def _until(self, hour: float) -> Floats:
        whole = int(hour)
        come: Floats = self._by_the_end[whole]
        return come if hour == whole else come + (hour - whole) * self._hourly[whole]

    def part(self, from_h: float, until_h: float, charging: list[Charge]) -> "PartOfDay":
        """What comes between two of its hours."""
        come = self._until(until_h) - self._until(from_h)
        x, size = come[:-1], np.abs(come[:-1])
        return PartOfDay(
            start=self.at(from_h) if charging else self.begins,
            end=self.at(until_h) if charging else self.ends,
            days=(until_h - from_h) / HOURS * self._length_h / HOURS,
            x=x,
            moves=sum(size.tolist()) > Numeric.tiny,
            moved=come.item(-1),
            day_var=self.cv_square * size,
            measured_var=self._measured_var * (until_h - from_h) / HOURS,
            charging=charging,
        )


@dataclass(slots=True, kw_only=True)
class PartOfDay:
    """A part of a day, ``days`` long.

    ``x``: the drivers in it, shape (k,); ``moves``: whether anything is used in it; ``moved``: what was measured;
    ``day_var``: the day's own variance of each driver, shape (k,); ``measured_var``: of what was measured;
    ``charging``: the spells of it, from ``start`` to ``end``.
    """

    start: datetime
    end: datetime
    days: float
    x: Floats
    moves: bool
    moved: float
    day_var: Floats
    measured_var: float
    charging: list[Charge]


def move(context: StoreContext, hypothesis: Hypothesis, step: PartOfDay, is_known: bool) -> None:
    """Let use and what was measured move a hypothesis's level. Its coefficients stay."""
    store, belief, x = context.store, hypothesis.belief, step.x
    coefficients, moved = belief.mean[b.COEFFICIENTS], step.moved
    variance = float(step.day_var.dot(coefficients * coefficients)) * hypothesis.days.ratio**2 + step.measured_var
    if step.charging:
        drawn = -float(x[~context.is_sun] @ coefficients[~context.is_sun])
        charged = Energy.source_share * offered_ah(store, step.charging, step.start, step.end, drawn)
        moved += charged
        variance += (Tracking.charged_cv * charged) ** 2
    change = float(x.dot(coefficients)) + moved
    row = context.level_row.copy()
    if store.is_bank:
        size = 1 + belief.mean.item(b.SIZE)
        row[b.COEFFICIENTS] = x * size
        row[b.SIZE] = change
        change, variance = size * change, size**2 * variance
    else:
        row[b.COEFFICIENTS] = x
    # only the level moves: the first row of the transition, the rest of it being the identity
    cov = belief.cov.copy()
    through = belief.cov.dot(row)
    cov[0, :] = cov[:, 0] = through
    cov[0, 0] = float(row.dot(through)) + variance
    hypothesis.process_var += variance
    hypothesis.x_since = hypothesis.x_since + x
    hypothesis.days_since += step.days if step.moves else 0.0
    hypothesis.days_passed += step.days
    after = b.with_level(b.Belief(belief.mean, cov), belief.level + change)
    if store.is_bank:
        with_before = belief.cov[0].copy()
        with_before[0] = through[0]
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
    left = exp(-HOURS * step.days / bank.cells(store).taper_h)
    held = after.level - left * before.level - (1 - left) * store.capacity
    row = after.cov[0] - left * through
    var = after.variance - 2 * left * through.item(0) + left**2 * before.variance
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
    belief, capacity = hypothesis.belief, context.store.capacity
    walk = context.drift * np.maximum(belief.mean[b.COEFFICIENTS], context.drift_least)
    cov, mean = belief.cov.copy(), belief.mean
    if context.model.correlation is None:
        cov.reshape(-1)[context.diagonal] += walk * walk * days
    else:
        cov[b.COEFFICIENTS, b.COEFFICIENTS] += walk[:, None] * walk * context.model.correlation * days
    if not context.store.is_bank:
        mean = _as_most_serve(context.store.kind.service, mean.copy(), cov, days)
    if context.error.drift_sd:
        mean = mean.copy()
        _drift_gauge(context, hypothesis, mean, cov, days)
        mean[b.OFFSET] += hypothesis.drift.rate * capacity * days
    else:
        cov[b.OFFSET, b.OFFSET] += (context.error.bias_walk * capacity) ** 2 * days
    hypothesis.belief = b.Belief(mean, cov)


def _as_most_serve(habit: ServiceHabit, mean: Floats, cov: Floats, days: float) -> Floats:
    """A margin wanders about what is usual and comes back to it (Ornstein and Uhlenbeck 1930). Where nothing but
    services is logged, only use over margin can be told; without a hold both would sink together, year by year."""
    kept = exp(-days / Serving.margin_holds_days)
    mean[b.MARGIN] = habit.margin + kept * (mean[b.MARGIN] - habit.margin)
    cov[b.MARGIN, :] *= kept
    cov[:, b.MARGIN] *= kept
    cov[b.MARGIN, b.MARGIN] += (1 - kept**2) * habit.margin_sd**2
    return mean


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
