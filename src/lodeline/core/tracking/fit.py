"""How well a reading fits what is believed, and what is believed after it."""

from math import exp, pi, sqrt
from typing import NamedTuple

import numpy as np

from lodeline.core.figures import Numeric, Readings, Tracking
from lodeline.core.statistics import Floats, uniform_sd
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.evidence import Evidence
from lodeline.core.tracking.hypothesis import Possible, as_one


class Level:
    """A level and the gauge's bias, as far as a reading sees them: enough to weigh a reading, without a whole belief.

    ``apart``: whether the level has nothing to do with what is believed of the bias.
    """

    __slots__ = ("_banded", "_belief", "_told", "apart", "mean", "variance")

    def __init__(self, belief: b.Belief) -> None:
        """The level of a belief."""
        self.mean, self.variance, self.apart = belief.level, belief.variance, False
        self._belief = belief
        self._told: dict[b.Shape, tuple[float, float, float]] = {}
        self._banded: dict[int, tuple[float, float, float]] = {}

    def _like(self, mean: float, variance: float, apart: bool) -> "Level":
        other = object.__new__(Level)
        other.mean, other.variance, other.apart = mean, variance, apart
        other._belief, other._told, other._banded = self._belief, self._told, {}
        return other

    def moved(self, mean: float, variance: float) -> "Level":
        """With so much more of both."""
        return self._like(self.mean + mean, self.variance + variance, self.apart)

    def at(self, mean: float, variance: float) -> "Level":
        """Another level that has nothing to do with this one."""
        return self._like(mean, variance, True)

    def bias(self, shape: b.Shape) -> tuple[float, float, float]:
        """The gauge's bias where it has a shape, its variance, and its covariance with the level."""
        if shape not in self._told:
            self._told[shape] = self._belief.biased(shape)
        return self._told[shape]

    def seen(self, shape: b.Shape) -> tuple[float, float]:
        """Mean and variance of what the gauge shows where its bias has a shape."""
        if shape == b.UNBIASED:
            return self.mean, self.variance
        bias, variance, cross = self.bias(shape)
        return self.mean + bias, self.variance + variance + (0.0 if self.apart else 2 * cross)

    def banded(self, given: Evidence) -> tuple[float, float, float]:
        """Mean, variance and chance of what the gauge shows, seen through a reading's bands."""
        found = self._banded.get(id(given))
        if found is None:
            mean, variance = self.seen(given.shape)
            found = b.band_posterior(mean, max(sqrt(max(variance, 0.0)), Numeric.small), given.bands)
            self._banded[id(given)] = found
        return found


def likelihood(level: Level, given: Evidence) -> float:
    """Density (a value, volts) or chance (a mark) of a reading under a level."""
    if given.value is not None:
        mean, variance = level.seen(given.shape)
        variance += given.sd**2
        return exp(-0.5 * (given.value - mean) ** 2 / variance) / sqrt(2 * pi * variance)
    if given.any_of:
        return sum(likelihood(level, each) for each in given.any_of)
    return level.banded(given)[2]


def _seen_row(belief: b.Belief, given: Evidence) -> Floats:
    """What a reading is of the state."""
    row = np.zeros(len(belief.mean))
    row[0] = 1.0
    row[b.BIAS] = given.shape
    return row


def believe(belief: b.Belief, given: Evidence, level: Level | None = None) -> b.Belief:
    """The belief after a reading that is taken at its word. ``level``: its own, if a reading was weighed by it."""
    if given.value is not None:
        return b.kalman_update(belief, _seen_row(belief, given), given.value, given.sd**2)
    level = level or Level(belief)
    if given.any_of:
        weights = [likelihood(level, each) for each in given.any_of]
        total = max(sum(weights), Numeric.log_floor)
        likely = [(w / total, each) for w, each in zip(weights, given.any_of, strict=True)]
        parts = [Possible(w, believe(belief, each, level)) for w, each in likely if w > Tracking.least_part]
        return as_one(tuple(parts)) if parts else belief
    centre, variance, _ = level.banded(given)
    return b.set_moments(belief, _seen_row(belief, given), centre, variance)


def first_level(belief: b.Belief, given: Evidence, capacity: float) -> b.Belief:
    """The level from a first reading alone: before it anything from empty to full was as likely."""
    if given.silent:
        return belief
    return b.cut_to_ends(_known(belief, given, capacity), capacity)


def _known(belief: b.Belief, given: Evidence, capacity: float) -> b.Belief:
    """What one reading alone says of the level, with the gauge's bias as it is known."""
    if given.any_of:
        shown = [(_shown(each.bands, capacity, 0.0), each.shape) for each in given.any_of]
        total = sum(each.mass for each, _ in shown)
        told = [(each.mass / total, Evidence(value=each.mean, sd=each.sd, shape=shape)) for each, shape in shown]
        return as_one(tuple(Possible(weight, _known(belief, each, capacity)) for weight, each in told))
    if given.value is None:
        told_by = _shown(given.bands, capacity, Readings.band_shown)
        # at its end a tank is surer than its gauge
        given = Evidence(value=told_by.mean, sd=told_by.sd, shape=b.UNBIASED if told_by.is_end else given.shape)
    bias, bias_sd = belief.bias(given.shape)
    known = b.reset_level(belief, (given.value or 0.0) - bias, float(np.hypot(given.sd, bias_sd)))
    known.cov[0, b.BIAS] = known.cov[b.BIAS, 0] = -np.array(given.shape) @ belief.cov[b.BIAS, b.BIAS]
    return known


class _Shown(NamedTuple):
    """Of bands in a tank where every level was as likely: mean and standard deviation, their weight times width, and
    whether they come to an end of the tank."""

    mean: float
    sd: float
    mass: float
    is_end: bool


def _shown(bands: b.Bands, capacity: float, share: float) -> _Shown:
    """What a first reading shows: the bands of a share of the best one's weight at least. What a gauge may show by
    mistake would otherwise be most of it."""
    least = share * max(weight for _, _, weight in bands)
    low, high, weights = np.array([band for band in bands if band[2] >= least]).T
    low, high = np.maximum(low, 0.0), np.minimum(high, capacity)
    weights, middles = weights * (high - low), (low + high) / 2
    mean = float(np.average(middles, weights=weights))
    variance = float(np.average((middles - mean) ** 2 + uniform_sd(1.0) ** 2 * (high - low) ** 2, weights=weights))
    return _Shown(mean, sqrt(variance), float(weights.sum()), bool(low[0] <= 0 or high[-1] >= capacity))


def score(expected: b.Belief, given: Evidence) -> float:
    """How far a reading of a value lies from what was expected before it, in standard deviations of both together."""
    mean, variance = Level(expected).seen(given.shape)
    return float(((given.value or 0.0) - mean) / sqrt(variance + given.sd**2))


def fits(expected: b.Belief, given: Evidence) -> bool:
    """Whether a reading lies within what was expected before it."""
    _, bias_sd = expected.bias(given.shape)
    reach = Readings.fits_sds * float((expected.sd**2 + given.sd**2 + bias_sd**2) ** 0.5)
    if given.value is not None:
        return abs(given.value - expected.level) <= reach
    low, high = given.span
    return low - reach <= expected.level <= high + reach
