"""What a rig's own surprises say of the errors that are claimed: readings that fell outside widen them, and readings
that fit tightly narrow them."""

from collections.abc import Collection, Sequence
from dataclasses import replace
from math import sqrt

from lodeline.core.figures import Tracking
from lodeline.core.log import Reading
from lodeline.core.tracking.belief import Belief
from lodeline.core.tracking.hypothesis import Compared, Possible


def width(compared: Sequence[Compared], doubted: Collection[Reading | None]) -> float:
    """True errors over claimed ones, by the last readings: the root of the mean squared score, cautiously.

    Some readings' worth of honest errors stand against it; a reading that is doubted says nothing of errors.
    """
    scores = [each.score for each in compared if each.score is not None and each.reading not in doubted]
    last = scores[-Tracking.surprise_readings :]
    prior = Tracking.surprise_prior
    squared = (prior + sum(min(each**2, Tracking.surprise_most) for each in last)) / (prior + len(last))
    return min(Tracking.surprise_widest, max(Tracking.surprise_narrowest, sqrt(squared)))


def widened(parts: tuple[Possible, ...], by: float) -> tuple[Possible, ...]:
    """What may be true, with errors so many times as large."""
    return tuple(replace(each, belief=Belief(each.belief.mean, by**2 * each.belief.cov)) for each in parts)
