"""How well a reading fits what is believed, and what is believed after it."""

from dataclasses import dataclass, replace
from math import exp, pi, sqrt

import numpy as np

from lodeline.core.figures import Numeric, Readings, Tracking
from lodeline.core.statistics import Floats
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.evidence import Evidence
from lodeline.core.tracking.hypothesis import Possible, as_one


@dataclass(frozen=True, slots=True, kw_only=True)
class Level:
    """A level and the gauge's bias, as far as a reading sees them: enough to weigh a reading, without a whole belief.

    ``cross``: covariance of the level with the bias, shape (3,); None where they are independent.
    """

    mean: float
    variance: float
    bias: Floats
    bias_cov: Floats
    cross: Floats | None = None

    @classmethod
    def of(cls, belief: b.Belief) -> "Level":
        """The level of a belief."""
        mean, cov = belief.mean, belief.cov
        return cls(
            mean=float(mean[0]),
            variance=float(cov[0, 0]),
            bias=mean[b.BIAS],
            bias_cov=cov[b.BIAS, b.BIAS],
            cross=cov[0, b.BIAS],
        )

    def moved(self, mean: float, variance: float) -> "Level":
        """With so much more of both."""
        return replace(self, mean=self.mean + mean, variance=self.variance + variance)

    def at(self, mean: float, variance: float) -> "Level":
        """Another level that has nothing to do with this one."""
        return replace(self, mean=mean, variance=variance, cross=None)

    def seen(self, shape: b.Shape) -> tuple[float, float]:
        """Mean and variance of what the gauge shows where its bias has a shape."""
        if not any(shape):
            return self.mean, self.variance
        at = np.array(shape)
        variance = self.variance + float(at @ self.bias_cov @ at)
        if self.cross is not None:
            variance += 2 * float(at @ self.cross)
        return self.mean + float(at @ self.bias), variance


def likelihood(level: Level, given: Evidence) -> float:
    """Density (a value, volts) or chance (a mark) of a reading under a level."""
    if given.any_of:
        return sum(likelihood(level, each) for each in given.any_of)
    mean, variance = level.seen(given.shape)
    if given.bands:
        return b.band_posterior(mean, max(sqrt(max(variance, 0.0)), Numeric.small), given.bands)[2]
    variance += given.sd**2
    return exp(-0.5 * ((given.value or 0.0) - mean) ** 2 / variance) / sqrt(2 * pi * variance)


def _seen_row(belief: b.Belief, given: Evidence) -> Floats:
    """What a reading is of the state."""
    row = np.zeros(len(belief.mean))
    row[0] = 1.0
    row[b.BIAS] = given.shape
    return row


def believe(belief: b.Belief, given: Evidence) -> b.Belief:
    """The belief after a reading that is taken at its word."""
    if given.any_of:
        level = Level.of(belief)
        weights = [likelihood(level, each) for each in given.any_of]
        total = max(sum(weights), Numeric.log_floor)
        likely = [(w / total, each) for w, each in zip(weights, given.any_of, strict=True)]
        parts = [Possible(w, believe(belief, each)) for w, each in likely if w > Tracking.least_part]
        return as_one(tuple(parts)) if parts else belief
    row = _seen_row(belief, given)
    if given.bands:
        mean, variance = Level.of(belief).seen(given.shape)
        centre, after, _ = b.band_posterior(mean, max(sqrt(max(variance, 0.0)), Numeric.small), given.bands)
        return b.set_moments(belief, row, centre, after)
    return b.kalman_update(belief, row, given.value or 0.0, given.sd**2)


def first_level(belief: b.Belief, given: Evidence, capacity: float) -> b.Belief:
    """The level from a first reading alone: before it anything from empty to full was as likely."""
    if given.silent:
        return belief
    if given.any_of:
        return b.cut_to_ends(believe(b.unknown_level(belief, capacity), given), capacity)
    if given.value is None:
        # a prior far wider than the tank
        centre, variance, _ = b.band_posterior(capacity / 2, Numeric.flat * capacity, given.bands)
        given = Evidence(value=centre, sd=float(np.sqrt(variance)), shape=given.shape)
    bias, bias_sd = belief.bias(given.shape)
    known = b.reset_level(belief, (given.value or 0.0) - bias, float(np.hypot(given.sd, bias_sd)))
    known.cov[0, b.BIAS] = known.cov[b.BIAS, 0] = -np.array(given.shape) @ belief.cov[b.BIAS, b.BIAS]
    return b.cut_to_ends(known, capacity)


def fits(expected: b.Belief, given: Evidence) -> bool:
    """Whether a reading lies within what was expected before it."""
    _, bias_sd = expected.bias(given.shape)
    reach = Readings.fits_sds * float((expected.sd**2 + given.sd**2 + bias_sd**2) ** 0.5)
    if given.value is not None:
        return abs(given.value - expected.level) <= reach
    low, high = given.span
    return low - reach <= expected.level <= high + reach
