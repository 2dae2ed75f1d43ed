"""What went through a tank in a span of time, with its error: between acts the level tells it, at both ends."""

from datetime import datetime
from itertools import pairwise

import numpy as np

from lodeline.core.tracking.hypothesis import Cause, Point
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True)
class Estimate:
    """A best estimate and its standard error. [L]"""

    value: float
    sd: float

    def __add__(self, other: "Estimate") -> "Estimate":
        return Estimate(self.value + other.value, float(np.hypot(self.sd, other.sd)))

    def __sub__(self, other: "Estimate") -> "Estimate":
        return Estimate(self.value - other.value, float(np.hypot(self.sd, other.sd)))


NOTHING = Estimate(0.0, 0.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Through:
    """What use moved through a store in a span, toward its line; and what acts put in (+) or took out (-). [unit]

    ``days``: how much of the span it was known. [day]
    """

    used: Estimate
    put_in: float
    taken_out: float
    days: float


def through(tracked: Tracked, since: datetime, until: datetime) -> Through | None:
    """What went through a store between two times; None where it was not known then.

    Use is the difference of the levels between acts, what readings corrected included; its error is that of the levels
    at both ends.
    """
    points = _between(tracked.history, since, until)
    if len(points) < 2:
        return None
    sign = tracked.store.sign
    used, variance, put_in, taken_out = 0.0, points[0].sd ** 2, 0.0, 0.0
    for before, after in pairwise(points):
        moved = after.level - before.level
        if after.cause is Cause.EVENT and after.at == before.at:
            variance += before.sd**2 + after.sd**2 if abs(moved) > _MOVED else 0.0
            put_in, taken_out = put_in + max(moved, 0.0), taken_out + max(-moved, 0.0)
        elif after.cause is not Cause.LOST:
            used += moved * sign
    variance += points[-1].sd ** 2
    days = (points[-1].at - points[0].at).total_seconds() / _DAY_S
    return Through(used=Estimate(used, float(np.sqrt(variance))), put_in=put_in, taken_out=taken_out, days=days)


# An act that moved less than this moved nothing. [unit]
_MOVED, _DAY_S = 1e-6, 86400.0


def _between(history: tuple[Point, ...], since: datetime, until: datetime) -> list[Point]:
    """The points of a span, begun by the level as it was known at its start."""
    inside = [point for point in history if since < point.at <= until]
    before = next((point for point in reversed(history) if point.at <= since), None)
    return inside if before is None else [before, *inside]
