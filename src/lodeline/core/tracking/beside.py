"""What a reading of the fresh tank says of the days of the grey one: what leaves the one mostly arrives in the other.

A reading tells by how much the days since the last one differed from the usual. The grey tank's days differed with
them, as closely as the two models say; its level follows at once, without a reading of its own.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np

from lodeline.core.rig import Rig
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.model import UseModel
from lodeline.core.tracking.story import Story

# A round is made in any order: what the fresh tank said is heard before a grey reading of the same half hour.
SAME_ROUND = timedelta(minutes=30)
_LEAST_OVERLAP = 0.02


@dataclass(frozen=True, slots=True)
class Apart:
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


@dataclass(frozen=True, slots=True)
class Beside:
    """What the fresh tank tells, by local date, and how closely this store's days go with it."""

    told: Mapping[date, list[Apart]]
    correlation: float


def beside(rig: Rig, fresh: UseModel, grey: UseModel, told: list[Apart]) -> Beside:
    """What one store tells the other, with the correlation that their models give their days."""
    by_date: dict[date, list[Apart]] = {}
    for each in told:
        by_date.setdefault(each.at.astimezone(ZoneInfo(rig.timezone)).date(), []).append(each)
    return Beside(by_date, float(np.sqrt(fresh.shared * grey.shared)))


def apart(since: datetime, at: datetime, before: b.Belief, after: b.Belief, process_var: float) -> Apart:
    """What a reading says of the days before it: the share of its correction that the days' spread has in it.

    ``process_var``: the part of the level's variance ``before`` the reading that the days since the last one made.
    """
    share = min(1.0, process_var / max(before.cov[0, 0], 1e-12))
    narrowed = float(before.cov[0, 0] - after.cov[0, 0])
    variance = min(max(process_var - share**2 * narrowed, 0.0), process_var)
    return Apart(since, at, share * (after.level - before.level), variance, process_var)


def hear(story: Story, told: Apart, known_at: datetime, correlation: float, capacity: float) -> None:
    """Let an account of the grey tank follow what was told of the fresh one's days.

    ``known_at``: when the grey tank was last read or emptied; what lay before it is accounted for.
    """
    begin = max(told.since, known_at)
    share = (told.at - begin) / (told.at - told.since)
    span = told.at - known_at
    if share < _LEAST_OVERLAP or span <= timedelta(0):
        return
    moved, variance, usual = told.part(share)
    ours = min(story.process_var * min(1.0, (told.at - begin) / span), _own_variance(story.belief))
    if usual <= 0 or ours <= 0:
        return
    # fresh falls as grey rises; the normal regression of the one on the other
    slope = -correlation * float(np.sqrt(ours / usual))
    learned = slope**2 * (usual - variance)
    after = b.shift_level(story.belief, slope * moved, 0.0)
    after.cov[0, 0] -= learned
    story.process_var = max(story.process_var - learned, 0.0)
    story.belief = b.cut_to_ends(after, capacity)


def _own_variance(belief: b.Belief) -> float:
    """The part of the level's variance that neither rates nor a gauge's bias explain."""
    others = belief.cov[1:, 1:] + 1e-12 * np.eye(len(belief.mean) - 1)
    return float(belief.cov[0, 0] - belief.cov[0, 1:] @ np.linalg.solve(others, belief.cov[1:, 0]))
