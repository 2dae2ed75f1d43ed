"""What may have happened to a store. Where a reading does not fit, hypotheses are kept until the log tells."""

import math
from collections.abc import Callable
from dataclasses import field, replace
from datetime import datetime
from enum import StrEnum
from typing import NamedTuple

import numpy as np

from lodeline.core.catalogue import Method
from lodeline.core.figures import Numeric, Tracking
from lodeline.core.log import Event, Reading
from lodeline.core.statistics import Floats, mixture_quantile, range_80
from lodeline.core.tracking import belief as b
from lodeline.core.values import dataclass


class Cause(StrEnum):
    """What moved a level; ``lost``: nothing that is known, only that it can no longer be told."""

    USE = "use"
    READING = "reading"
    EVENT = "event"
    LOST = "lost"


class DoubtKind(StrEnum):
    """What does not fit: a reading; a rise or a fall with nothing logged; a gauge that does not move; waste water that
    grows faster than fresh water is used; an act that what was read after it does not bear out, that was logged twice,
    or whose amount is in another unit; readings that agree with each other and not with what is made of them; days of
    which nothing was logged."""

    READING = "reading"
    RISE = "rise"
    FALL = "fall"
    STUCK = "stuck"
    OVER = "over"
    NOT_THEN = "not-then"
    TWICE = "twice"
    UNIT = "unit"
    AGAINST = "against"
    GAP = "gap"


class Point(NamedTuple):
    """The level as known at one time, and what moved it there.

    A reading or an event leaves two points at the same time, before and after it.
    """

    at: datetime
    level: float
    sd: float
    cause: Cause = Cause.USE

    def level_range(self, capacity: float) -> tuple[float, float]:
        """The 8-in-10 range of the contents, kept within 0 to capacity."""
        return range_80(self.level, self.sd, capacity)


@dataclass(frozen=True, slots=True, kw_only=True)
class Doubt:
    """Something in the log that does not fit; ``amount`` in the store's unit.

    It is about a reading, an act, or the days since ``since``; ``weight``: the chance that it is so.
    """

    at: datetime
    store: str
    kind: DoubtKind
    reading: Reading | None = None
    expected: float = 0.0
    expected_sd: float = 0.0
    amount: float = 0.0
    event: Event | None = None
    since: datetime | None = None
    weight: float = field(default=1.0, compare=False)

    @property
    def about(self) -> "Reading | Event | datetime":
        """What it is about: an act, a reading, or, of a gauge that does not move, the time since when."""
        if self.kind is DoubtKind.STUCK and self.since is not None:
            return self.since
        return self.event or self.reading or self.at


class Compared(NamedTuple):
    """A reading against what was expected before it, in contents. ``resets`` counts the fills and dumps before it.

    ``fits`` is None where the reading says nothing, or nothing was known before it. ``expected_range``: the 8-in-10
    range of what was expected, within the store; ``bias``: of the gauge, as it was known before; ``score``: how far it
    lay from what was expected, in the standard deviations that were claimed, None where that is no number.
    """

    at: datetime
    method: Method
    expected: float
    expected_sd: float
    value: float | None
    mark: float | None
    resets: int
    reading: Reading
    expected_range: tuple[float, float] = (0.0, 0.0)
    fits: bool | None = None
    bias: float = 0.0
    score: float | None = None


@dataclass(slots=True, eq=False, kw_only=True)
class LastAct:
    """The last act on a store, and the level before and after it; ``twice``: the same had just been logged."""

    event: Event
    before: float
    before_sd: float
    after: float
    twice: bool


@dataclass(slots=True)
class Drift:
    """How a shunt drifts: the bias that a day adds, as a share of capacity, and the days since it was set right."""

    rate: float = 0.0
    rate_sd: float = 0.0
    days: float = 0.0


@dataclass(slots=True, eq=False)
class Streak:
    """Readings in a row that speak for another habit: the Bayes factor of use as usual, how many they are, by how much
    the contents changed over them, and what usual use would have made of that."""

    factor: float = 1.0
    length: int = 0
    changed: float = field(default=0.0, kw_only=True)
    usual: float = field(default=0.0, kw_only=True)

    def after(self, factor: float, changed: float, usual: float) -> "Streak":
        """With one more reading of a Bayes factor; one that speaks for use as usual ends a run."""
        together = min(1.0, self.factor) * factor
        if together >= 1:
            return Streak(together)
        return Streak(together, self.length + 1, changed=self.changed + changed, usual=self.usual + usual)

    @property
    def ratio(self) -> float:
        """Use over these readings against the usual."""
        low, high = Tracking.habit_between
        return min(high, max(low, self.changed / self.usual)) if self.usual else 1.0

    @property
    def has_turned(self) -> bool:
        """Whether they say so: some in a row with some weight, or fewer with much."""
        long = self.length >= Tracking.habit_run
        return self.factor < (Tracking.habit_factor if long else Tracking.habit_factor_at_once)


class Spread(NamedTuple):
    """How much days differ against the usual, as misses tell it: a sum of squares over its weight, kept between two."""

    least: float
    most: float
    total: float = Tracking.spread_prior
    weight: float = Tracking.spread_prior

    @property
    def ratio(self) -> float:
        """The spread over the usual one."""
        return min(self.most, max(self.least, math.sqrt(self.total / self.weight)))

    def after(self, squared: float, own: float, expected: float = 1.0) -> "Spread":
        """With one more squared miss over its variance; ``own``: the days' share of that variance, ``expected``: the
        ratio that it was reckoned with."""
        weight = own**2
        told = weight * min(squared, Tracking.squared_miss_most) * expected**2
        return self._replace(total=self.total + told, weight=self.weight + weight)


_DAYS = Spread(Tracking.spread_least, Tracking.spread_most)
_SKIES = Spread(Tracking.sky_spread_least, Tracking.sky_spread_most)


class Unmoved(NamedTuple):
    """Readings in a row that show the same: when the first of them was and what was believed at it, what each driver
    has moved since, shape (k,), with the days' variance, and the log of how much likelier they are of a gauge that has
    stuck; ``is_stuck``: whether it is taken to have."""

    since: datetime
    belief: b.Belief
    x: Floats
    variance: float = 0.0
    log_factor: float = 0.0
    is_stuck: bool = False


@dataclass(slots=True, kw_only=True)
class Hypothesis:
    """A running hypothesis: the belief, and what it takes for granted.

    ``log_weight`` is its log probability, up to a constant shared by all of a store's hypotheses; ``x_since`` what each
    driver has moved since the last reading that was believed, shape (k,). ``days``, ``skies`` and ``totals``: how much
    days differ, yields under one sky word, and what a meter counted. ``more`` and ``less``: cumulative Bayes
    factors of use as usual against more and less of it; ``anchor``: the contents when it was last known, with what was
    filled or taken out since, and ``anchor_var`` its variance; ``curtailed``: the chance that the array was held back
    today; ``began``: the level at the day's beginning; ``unmoved``: the run of readings that show the same.
    """

    belief: b.Belief
    x_since: Floats
    log_weight: float = 0.0
    doubts: tuple[Doubt, ...] = ()
    history: list[Point] = field(default_factory=list)
    days: Spread = _DAYS
    skies: Spread = _SKIES
    totals: Spread = _DAYS._replace(least=Tracking.total_spread_least)
    process_var: float = 0.0
    days_since: float = 0.0
    days_passed: float = 0.0
    days_seen: float = 0.0
    curtailed: float = 0.0
    began: float = 0.0
    anchor: float = 0.0
    anchor_var: float = 0.0
    act: LastAct | None = None
    drift: Drift = field(default_factory=Drift)
    unmoved: Unmoved | None = None
    more: Streak = field(default_factory=Streak)
    less: Streak = field(default_factory=Streak)

    def write_down(self, at: datetime, cause: Cause = Cause.USE) -> None:
        """Add the level to the history."""
        self.history.append(Point(at, self.belief.level, self.belief.sd, cause))

    def weigh(self, log_chance: float) -> "Hypothesis":
        """Itself, so much less likely."""
        self.log_weight += log_chance
        return self

    def branch(self, log_chance: float, belief: b.Belief, doubt: Doubt | None = None) -> "Hypothesis":
        """Another hypothesis that shares the past of this one."""
        other = object.__new__(Hypothesis)
        for name in Hypothesis.__slots__:
            setattr(other, name, getattr(self, name))
        other.belief = belief
        other.doubts = (*self.doubts, doubt) if doubt else self.doubts
        other.history, other.drift = list(self.history), replace(self.drift)
        return other.weigh(log_chance)

    @property
    def uncut_level(self) -> float:
        """What use as expected would have made of the contents since they were known, without regard to the ends."""
        return self.anchor + self.usual_change

    @property
    def usual_change(self) -> float:
        """What use as expected has changed the contents by since they were known."""
        return float(self.x_since.dot(self.belief.mean[b.COEFFICIENTS]))

    def uncut(self, sign: float) -> b.Belief:
        """The belief as it is, or where it was cut at the end toward which use goes, with the level as use would have
        made it: the sum of what it was and of what was used, of which the first is taken to have nothing to do with the
        rest. ``sign``: of use."""
        if (self.uncut_level - self.belief.level) * sign <= Tracking.agree_sds * self.belief.sd:
            return self.belief
        x, mean, cov = self.x_since, self.belief.mean.copy(), self.belief.cov.copy()
        through = cov[:, b.COEFFICIENTS].dot(x)
        through[0] = self.anchor_var + float(through[b.COEFFICIENTS].dot(x)) + self.process_var
        mean[0], cov[0, :], cov[:, 0] = self.uncut_level, through, through
        return b.Belief(mean, cov)

    def settle(self) -> None:
        """A reading was believed, or the level set anew: what lay before it is accounted for."""
        self.x_since = np.zeros(len(self.x_since))
        self.anchor, self.anchor_var = self.belief.level, self.belief.variance
        self.process_var = 0.0
        self.days_since = self.days_passed = 0.0


def prune(hypotheses: list[Hypothesis]) -> list[Hypothesis]:
    """The likeliest hypotheses, the best first, with weights relative to it; those that agree by now are one."""
    ordered = sorted(hypotheses, key=lambda each: -each.log_weight)
    best, drop = ordered[0].log_weight, math.log(Tracking.too_unlikely)
    kept: list[Hypothesis] = []
    for each in ordered:
        if best - each.log_weight >= drop:
            break
        like = next((other for other in kept if _agree(other.belief, each.belief)), None)
        if like is not None:
            _merge(like, each)
        elif len(kept) < Tracking.most_hypotheses:
            kept.append(each)
    kept.sort(key=lambda each: -each.log_weight)
    best = kept[0].log_weight
    for each in kept:
        each.log_weight -= best
    return kept


def _agree(one: b.Belief, other: b.Belief) -> bool:
    """Whether two beliefs say the same of level and use, to a part of their errors."""
    near = Tracking.agree_sds**2
    # mostly the levels tell
    if (one.level - other.level) ** 2 > near * one.variance:
        return False
    n = len(one.mean) - b.N_OTHERS
    apart = one.mean[:n] - other.mean[:n]
    variance, others = one.cov.diagonal()[:n], other.cov.diagonal()[:n]
    return bool(
        (apart * apart <= near * variance).all()
        and (np.abs(variance - others) <= Tracking.agree_variance * variance).all()
    )


def _merge(kept: Hypothesis, other: Hypothesis) -> None:
    """Take another hypothesis into one that agrees with it; what either doubts is doubted by their chances."""
    log_weight = float(np.logaddexp(kept.log_weight, other.log_weight))
    shares = (math.exp(kept.log_weight - log_weight), math.exp(other.log_weight - log_weight))
    if kept.doubts != other.doubts:
        doubts: dict[Reading | Event | datetime, Doubt] = {}
        for share, each in zip(shares, (kept, other), strict=True):
            for doubt in each.doubts:
                before = doubts.get(doubt.about)
                weight = share * doubt.weight + (before.weight if before else 0.0)
                doubts[doubt.about] = replace(before or doubt, weight=weight)
        kept.doubts = tuple(each for each in doubts.values() if each.weight > Tracking.least_doubt)
    kept.log_weight = log_weight


def weights_of(hypotheses: list[Hypothesis]) -> Floats:
    """The hypotheses' probabilities, shape (n,)."""
    weights: Floats = np.exp([each.log_weight for each in hypotheses])
    weights /= weights.sum()
    return weights


@dataclass(slots=True, eq=False)
class Possible:
    """One of the things that may be true of a store: its chance, and what is believed under it."""

    weight: float
    belief: b.Belief


def possible(hypotheses: list[Hypothesis]) -> tuple[Possible, ...]:
    """The hypotheses by their chance, the likeliest first."""
    return tuple(Possible(float(w), each.belief) for w, each in zip(weights_of(hypotheses), hypotheses, strict=True))


def level_quantiles(parts: tuple[Possible, ...], capacity: float, *shares: float) -> tuple[float, ...]:
    """Quantiles of the contents over all that may be true, within 0 to capacity."""
    weights = np.array([each.weight for each in parts])
    means, sds = np.array([each.belief.level for each in parts]), np.array([each.belief.sd for each in parts])
    return tuple(min(capacity, max(0.0, mixture_quantile(weights, means, sds, share))) for share in shares)


def blended(hypotheses: list[Hypothesis]) -> b.Belief:
    """One belief with the mean and covariance of all hypotheses together."""
    return hypotheses[0].belief if len(hypotheses) == 1 else as_one(possible(hypotheses))


def as_one(parts: tuple[Possible, ...]) -> b.Belief:
    """One belief with the mean and covariance of all that may be true."""
    if len(parts) == 1:
        return parts[0].belief
    weights = np.array([each.weight for each in parts])
    means, covs = np.array([each.belief.mean for each in parts]), np.array([each.belief.cov for each in parts])
    mean = weights.dot(means)
    apart, n = means - mean, len(mean)
    return b.Belief(mean, weights.dot(covs.reshape(-1, n * n)).reshape(n, n) + (apart.T * weights).dot(apart))


def believed_doubts(hypotheses: list[Hypothesis], share: Callable[[Doubt], float]) -> tuple[Doubt, ...]:
    """What does not fit, in time order: each reading that hypotheses with enough of the weight doubt.

    ``share`` says how much of the weight is enough for a doubt.
    Where hypotheses differ on what happened, the likeliest of those that doubt it speaks.
    """
    first: dict[Reading | Event | datetime, Doubt] = {}
    weight: dict[Reading | Event | datetime, float] = {}
    for w, each in zip(weights_of(hypotheses), hypotheses, strict=True):
        for doubt in each.doubts:
            if doubt.at > first.setdefault(doubt.about, doubt).at:
                first[doubt.about] = doubt
            weight[doubt.about] = weight.get(doubt.about, 0.0) + float(w) * doubt.weight
    believed = (replace(d, weight=weight[about]) for about, d in first.items() if weight[about] >= share(d))
    return tuple(sorted(believed, key=lambda doubt: doubt.at))


def smoothed(history: tuple[Point, ...], since: datetime | None = None) -> tuple[Point, ...]:
    """The past as it looks with what was read later: a backward pass over the level alone.

    ``since``: only back to the last point before a time.

    Rauch, Tung and Striebel's smoother for a level that moves by independent steps: what a later reading corrected
    goes back in the ratio of the variances. It stops at fills and dumps, before which nothing later says anything.
    """
    if not history:
        return ()
    least = Numeric.tiny_variance
    bent = [history[-1]]
    for index in range(len(history) - 2, -1, -1):
        point, following, later = history[index], history[index + 1], bent[-1]
        if since is not None and later.at < since:
            break
        if following.cause in (Cause.EVENT, Cause.LOST):
            bent.append(point)
        elif following.cause is Cause.READING:
            bent.append(point._replace(level=later.level, sd=later.sd))
        else:
            gain = min(1.0, point.sd**2 / max(following.sd**2, least))
            variance = point.sd**2 + gain**2 * (later.sd**2 - following.sd**2)
            level = point.level + gain * (later.level - following.level)
            bent.append(point._replace(level=level, sd=math.sqrt(max(variance, least))))
    return tuple(reversed(bent))
