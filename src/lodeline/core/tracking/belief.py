"""The state of one store and how evidence moves it: a Kalman filter with honest ends.

The state is (level, coefficient of each driver, gauge bias). Likelihoods that are not Gaussian (a mark's span,
a reading that may be a slip) are taken in by matching the first two moments of the exact posterior of the level;
the rest of the state follows through its covariance with the level, which is exact for a jointly Gaussian prior.
"""

from dataclasses import dataclass, replace
from math import erf, exp, pi, sqrt

import numpy as np

from lodeline.core.energy.sun import Floats

# Chance that a reading is grossly wrong before it is looked at (common practice: a slip in fifty).
SLIP = 0.02
_GRID = 241


@dataclass(frozen=True, slots=True)
class Belief:
    """Mean, shape (n,), and covariance, shape (n, n), of (level, coefficients, bias)."""

    mean: Floats
    cov: Floats

    @property
    def level(self) -> float:
        """Expected contents."""
        return float(self.mean[0])

    @property
    def sd(self) -> float:
        """Standard deviation of the contents."""
        return float(np.sqrt(max(self.cov[0, 0], 0.0)))

    @property
    def coefficients(self) -> Floats:
        """Expected coefficients of the drivers."""
        return self.mean[1:-1]


def kalman_update(belief: Belief, row: Floats, value: float, variance: float) -> Belief:
    """One scalar measurement ``value = row @ state + noise``, in Joseph form.

    Parameters
    ----------
    belief : Belief
    row : ndarray, shape (n,)
    value, variance : float
        Measured value and the variance of its noise.
    """
    spread = float(row @ belief.cov @ row) + variance
    gain = belief.cov @ row / spread
    keep = np.eye(len(row)) - np.outer(gain, row)
    cov = keep @ belief.cov @ keep.T + variance * np.outer(gain, gain)
    return Belief(belief.mean + gain * (value - float(row @ belief.mean)), (cov + cov.T) / 2)


def robust_update(belief: Belief, row: Floats, value: float, variance: float, span: float) -> tuple[Belief, float]:
    """A measurement that may be a slip: a Gaussian with chance 1 - SLIP, else anything within ``span``.

    Returns the moment-matched posterior and the chance that the reading is good.
    """
    spread = float(row @ belief.cov @ row) + variance
    miss = value - float(row @ belief.mean)
    good = (1 - SLIP) * np.exp(-0.5 * miss**2 / spread) / np.sqrt(2 * np.pi * spread)
    trust = float(good / (good + SLIP / span))
    updated = kalman_update(belief, row, value, variance)
    if trust > 1 - 1e-3:
        return updated, trust
    shift = updated.mean - belief.mean
    cov = trust * updated.cov + (1 - trust) * belief.cov + trust * (1 - trust) * np.outer(shift, shift)
    return Belief(belief.mean + trust * shift, cov), trust


def at_least_update(belief: Belief, row: Floats, bound: float, variance: float) -> Belief:
    """A measurement of which only a lower bound is known: ``row @ state + noise >= bound`` (a censored observation).

    The moments of the normal cut from below at the bound (Tobin 1958), carried to the state by its covariance.
    """
    spread = float(row @ belief.cov @ row) + variance
    sd = sqrt(spread)
    depth = (bound - float(row @ belief.mean)) / sd
    if depth < -4:
        return belief
    density = exp(-0.5 * depth * depth) / sqrt(2 * pi)
    mass = 0.5 * (1 - erf(depth / sqrt(2)))
    ratio = density / mass if mass > 1e-9 else depth + 1 / max(depth, 1.0)
    gain = belief.cov @ row / spread
    kept = min(max(1 - ratio * (ratio - depth), 1e-3), 1.0)
    cov = belief.cov - np.outer(gain, gain) * spread * (1 - kept)
    return Belief(belief.mean + gain * sd * ratio, (cov + cov.T) / 2)


def set_level_moments(belief: Belief, mean: float, variance: float) -> Belief:
    """Give the level a new marginal; the other states follow through their covariance with it."""
    prior_var = max(belief.cov[0, 0], 1e-12)
    gain = belief.cov[:, 0] / prior_var
    cov = belief.cov - np.outer(gain, gain) * (prior_var - variance)
    return Belief(belief.mean + gain * (mean - belief.mean[0]), (cov + cov.T) / 2)


def band_posterior(mean: float, sd: float, bands: tuple[tuple[float, float, float], ...]) -> tuple[float, float, float]:
    """Mean, variance and evidence of a Gaussian level seen through weighted bands that cover 0 to capacity.

    The prior is cut to the bands' whole span; moments by the trapezoid rule on a grid that follows the prior.
    """
    low_end, high_end = bands[0][0], bands[-1][1]
    sd = min(sd, 1e3 * (high_end - low_end))
    low, high = max(low_end, mean - 6 * sd), min(high_end, mean + 6 * sd)
    if high - low < 1e-9 * (high_end - low_end):
        point = min(max(mean, low_end), high_end)
        low, high = max(low_end, point - 3 * sd), min(high_end, point + 3 * sd)
    edges = np.array([band[0] for band in bands[1:]])
    weights = np.array([band[2] for band in bands])
    grid = np.linspace(low, high, _GRID)
    exponent = -0.5 * ((grid - mean) / sd) ** 2
    prior = np.exp(exponent - exponent.max())
    prior /= prior.sum()
    joint = prior * weights[np.searchsorted(edges, grid, side="right")]
    total = float(joint.sum())
    posterior = joint / total
    centre = float(posterior @ grid)
    return centre, float(posterior @ (grid - centre) ** 2) + ((high - low) / _GRID) ** 2 / 12, total


def cut_moments(mean: float, sd: float, capacity: float) -> tuple[float, float]:
    """Mean and variance of a normal cut to 0 to capacity (the textbook moments of the truncated normal)."""
    low, high = -mean / sd, (capacity - mean) / sd
    mass = 0.5 * (erf(high / sqrt(2)) - erf(low / sqrt(2)))
    if mass < 1e-5:
        centre, variance, _ = band_posterior(mean, sd, ((0.0, capacity, 1.0),))
        return centre, variance
    at_low, at_high = (exp(-0.5 * z * z) / sqrt(2 * pi) for z in (low, high))
    shift = (at_low - at_high) / mass
    narrowed = 1 + (low * at_low - high * at_high) / mass - shift**2
    return mean + sd * shift, sd**2 * max(narrowed, 1e-6)


def clipped_moments(mean: float, sd: float, capacity: float) -> tuple[float, float]:
    """Mean and variance of min(capacity, max(0, X)) for a normal X: what runs over or is not there piles up at the
    ends (the textbook moments of the rectified normal)."""
    low, high = -mean / sd, (capacity - mean) / sd
    below, above = 0.5 * (1 + erf(low / sqrt(2))), 0.5 * (1 - erf(high / sqrt(2)))
    at_low, at_high = (exp(-0.5 * z * z) / sqrt(2 * pi) if abs(z) < 38 else 0.0 for z in (low, high))
    inside = 1 - below - above
    first = mean * inside + sd * (at_low - at_high) + capacity * above
    second = (mean**2 + sd**2) * inside + sd * mean * (at_low - at_high) + capacity**2 * above
    second += sd * (-capacity * at_high)
    return first, max(second - first**2, 1e-6 * sd**2)


def clip_to_ends(belief: Belief, capacity: float) -> Belief:
    """The level after a step that may have run over or run dry; only the level moves, as in ``cut_to_ends``."""
    mean, sd = belief.level, belief.sd
    if sd < 1e-9 or (mean - 3 * sd >= 0 and mean + 3 * sd <= capacity):
        return cut_to_ends(belief, capacity)
    centre, variance = clipped_moments(mean, sd, capacity)
    scale = np.ones(len(belief.mean))
    scale[0] = np.sqrt(variance) / sd
    return Belief(np.concatenate([[centre], belief.mean[1:]]), belief.cov * np.outer(scale, scale))


def cut_to_ends(belief: Belief, capacity: float) -> Belief:
    """Contents never leave 0 to capacity: cut the level's marginal there.

    Only the level moves. What was cut away says that the tank ran over or the array was throttled, not that use
    was different, so the coefficients stay.
    """
    mean, sd = belief.level, belief.sd
    if sd > 0 and mean - 2.5 * sd >= 0 and mean + 2.5 * sd <= capacity:
        return belief
    if sd < 1e-9:
        return Belief(np.concatenate([[min(max(mean, 0.0), capacity)], belief.mean[1:]]), belief.cov)
    centre, variance = cut_moments(mean, sd, capacity)
    scale = np.ones(len(belief.mean))
    scale[0] = np.sqrt(variance) / sd
    cov = belief.cov * np.outer(scale, scale)
    return Belief(np.concatenate([[centre], belief.mean[1:]]), cov)


def reset_level(belief: Belief, level: float, sd: float) -> Belief:
    """Forget the level and start it anew, independent of all else (a fill, a dump, a swap)."""
    cov = belief.cov.copy()
    cov[0, :] = cov[:, 0] = 0.0
    cov[0, 0] = sd**2
    return Belief(np.concatenate([[level], belief.mean[1:]]), cov)


def shift_level(belief: Belief, amount: float, sd: float) -> Belief:
    """Add a known amount with its error."""
    cov = belief.cov.copy()
    cov[0, 0] += sd**2
    mean = belief.mean.copy()
    mean[0] += amount
    return Belief(mean, cov)


def keep_positive(belief: Belief, floor: Floats) -> Belief:
    """Hold the coefficients at or above a floor: nobody drinks a negative litre."""
    coefficients = belief.mean[1:-1]
    if (coefficients >= floor).all():
        return belief
    return replace(belief, mean=np.concatenate([belief.mean[:1], np.maximum(coefficients, floor), belief.mean[-1:]]))
