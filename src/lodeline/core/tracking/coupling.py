"""What a reading of the fresh tank says of the days of the grey one: what leaves the one mostly arrives in the other.

A reading tells by how much the days since the last one differed from the usual. The grey tank's days differed with
them, as closely as the two models say; its level follows at once, without a reading of its own.
"""

from collections.abc import Mapping
from datetime import date, datetime, timedelta

import numpy as np

from lodeline.core.catalogue import Role
from lodeline.core.figures import Numeric, Tracking, Use
from lodeline.core.habits import fresh_share
from lodeline.core.rig import Rig, Store
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.hypothesis import Hypothesis
from lodeline.core.tracking.model import UseModel
from lodeline.core.tracking.water_use import grey_from_fresh
from lodeline.core.values import dataclass

# A round is made in any order: what the fresh tank says is heard before a grey reading of the same half hour.
SAME_ROUND = timedelta(hours=Tracking.same_round_h)
SAME_MOMENT = timedelta(seconds=Tracking.same_moment_s)


@dataclass(frozen=True, slots=True, kw_only=True)
class UnusualDays:
    """How the days from ``since`` to ``at`` differed from a store's usual ones.

    ``moved``: what they changed the contents by, beyond what was expected, with ``variance``; ``usual_variance`` is
    what the day-to-day spread alone led one to expect of it.
    """

    since: datetime
    at: datetime
    moved: float
    variance: float
    usual_variance: float

    def part(self, share: float) -> tuple[float, float, float]:
        """The same of a part of the time: moved, variance, usual variance.

        Days are independent, so that a part of a known sum is known up to a bridge between its ends.
        """
        bridge = share * (1 - share) * self.usual_variance
        return share * self.moved, share**2 * self.variance + bridge, share * self.usual_variance


@dataclass(frozen=True, slots=True, kw_only=True)
class LearnedUse:
    """What a store is used for on a usual day, and its variance, as first learned at the end of a date; ``taught``: the
    share of it that the log has taught."""

    on: date
    mean: float
    variance: float
    taught: float = 1.0


def usual_use(model: UseModel, belief: b.Belief) -> tuple[float, float]:
    """Use on a usual day and its variance, of a store whose first driver is people."""
    x = model.usual_x
    return float(x @ belief.coefficients), float(x @ belief.cov[b.COEFFICIENTS, b.COEFFICIENTS] @ x)


@dataclass(frozen=True, slots=True)
class Neighbour:
    """What the fresh tank says, by local date, how closely this store's days go with it, and its use once learned."""

    days: Mapping[date, list[UnusualDays]]
    correlation: float
    learned: LearnedUse | None


def neighbour(
    rig: Rig, fresh: UseModel, grey: UseModel, unusual: list[UnusualDays], learned: LearnedUse | None
) -> Neighbour:
    """What one store says to the other, with the correlation that their models give their days."""
    by_date: dict[date, list[UnusualDays]] = {}
    for each in unusual:
        by_date.setdefault(rig.zone.date(each.at), []).append(each)
    return Neighbour(by_date, float(np.sqrt(fresh.shared * grey.shared)), learned)


def learned_of(on: date, model: UseModel, belief: b.Belief) -> LearnedUse | None:
    """What is known of a store's use, with the share of it that its log has taught beyond what was expected of it; None
    where that is nothing yet. It grows with each day: at no moment is it told all at once."""
    mean, variance = usual_use(model, belief)
    prior_variance = float(np.square(model.usual_x * model.sd).sum())
    taught = 1 - variance / max(prior_variance, Numeric.tiny_variance)
    if taught < Tracking.least_taught or mean <= 0:
        return None
    return LearnedUse(on=on, mean=mean, variance=variance, taught=taught)


def informed(
    rig: Rig, store: Store, model: UseModel, belief: b.Belief, fresh: LearnedUse, times: float = 1.0
) -> b.Belief:
    """What leaves the fresh tank mostly arrives in the grey one: a measurement of its rate by the fresh one's.

    ``times``: by how much the error of that is larger, where the same was heard before. Where the two contradict each
    other the log of either may be right, and the word of the fresh one counts for the less the further apart they are.
    """
    expected = grey_from_fresh(rig, store, fresh.mean / fresh_share(rig, rig.first(Role.WATER) or store))
    variance = (times * Use.grey_from_fresh_cv * expected) ** 2 + fresh.variance * (expected / fresh.mean) ** 2
    variance /= fresh.taught
    row = np.zeros(len(belief.mean))
    row[b.COEFFICIENTS] = model.usual_x
    mean, own = usual_use(model, belief)
    apart = (expected - mean) ** 2 / (variance + own)
    # the weight of a measurement under a distribution with four degrees of freedom
    variance *= max(1.0, (_DEGREES + apart) / (_DEGREES + 1))
    return b.kalman_update(belief, row, expected, variance)


_DEGREES = 4.0  # of freedom of the heavy tail


def unusual_days(since: datetime, at: datetime, before: b.Belief, after: b.Belief, process_var: float) -> UnusualDays:
    """What a reading says of the days before it: the share of its correction that the days' spread has in it.

    ``process_var``: the part of the level's variance ``before`` the reading that the days since the last one made.
    """
    share = min(1.0, process_var / max(before.cov[0, 0], Numeric.tiny_variance))
    narrowed = float(before.cov[0, 0] - after.cov[0, 0])
    variance = min(max(process_var - share**2 * narrowed, 0.0), process_var)
    return UnusualDays(
        since=since, at=at, moved=share * (after.level - before.level), variance=variance, usual_variance=process_var
    )


def hear(hypothesis: Hypothesis, unusual: UnusualDays, known_at: datetime, correlation: float, capacity: float) -> None:
    """Let a hypothesis of the grey tank follow what the fresh one's days were.

    ``known_at``: when the grey tank was last read or emptied; what lay before it is accounted for.
    """
    begin = max(unusual.since, known_at)
    share = (unusual.at - begin) / (unusual.at - unusual.since)
    span = unusual.at - known_at
    if share < Tracking.least_overlap or span <= timedelta(0):
        return
    moved, variance, usual = unusual.part(share)
    days = hypothesis.process_var * min(1.0, (unusual.at - begin) / span)
    ours = min(days, _own_variance(hypothesis.belief))
    if usual <= 0 or ours <= 0:
        return
    # fresh falls as grey rises; the normal regression of the one on the other
    slope = -correlation * float(np.sqrt(ours / usual))
    learned = slope**2 * (usual - variance)
    after = b.shift_level(hypothesis.belief, slope * moved, 0.0)
    after.cov[0, 0] -= learned
    hypothesis.process_var = max(hypothesis.process_var - learned, 0.0)
    hypothesis.belief = b.cut_to_ends(after, capacity)


def _own_variance(belief: b.Belief) -> float:
    """The part of the level's variance that neither rates nor a gauge's bias explain."""
    others = belief.cov[1:, 1:] + Numeric.tiny_variance * np.eye(len(belief.mean) - 1)
    return float(belief.cov[0, 0] - belief.cov[0, 1:] @ np.linalg.solve(others, belief.cov[1:, 0]))
