"""The state of one store and how evidence moves it: a Kalman filter with honest ends.

The state is (level, coefficient of each driver, the gauge's bias in three parts, the margin at which the store is
served). Likelihoods that are not Gaussian (a mark's span,
a reading that may be an outlier) are taken in by matching the first two moments of the exact posterior of the level;
the rest of the state follows through its covariance with the level, which is exact for a jointly Gaussian prior.
"""

from itertools import zip_longest
from math import erf, exp, pi, sqrt

import numpy as np

from lodeline.core.figures import Numeric, Tracking
from lodeline.core.statistics import Floats, normal_below, normal_density, range_80, uniform_sd
from lodeline.core.values import dataclass

Bands = tuple[tuple[float, float, float], ...]

_SQRT_2, _SQRT_2_PI, _FAR = sqrt(2), sqrt(2 * pi), Numeric.density_ends_sd

# What the state holds after the level and the coefficients: an offset, a bulge and a skew of the gauge, in contents,
# and how far down its way people let the store come before they serve it, as a share of the way to its line.
N_BIAS, MARGIN = 3, -1
N_OTHERS = N_BIAS + 1
COEFFICIENTS, BIAS = slice(1, -N_OTHERS), slice(-N_OTHERS, MARGIN)
OFFSET, BULGE, SKEW = -4, -3, -2
# A bank has no skew. There it holds by how much more an amp-hour moves it than its rating says: 1 over what is left of
# its capacity, less 1.
SIZE = SKEW


@dataclass(slots=True, eq=False)
class Belief:
    """Mean, shape (n,), and covariance, shape (n, n), of (level, coefficients, bias, margin).

    To be taken as a value: who changes one makes another, or has just made it.
    """

    mean: Floats
    cov: Floats

    @property
    def level(self) -> float:
        """Expected contents."""
        return self.mean.item(0)

    @property
    def variance(self) -> float:
        """Variance of the contents."""
        return self.cov.item(0)

    @property
    def sd(self) -> float:
        """Standard deviation of the contents."""
        return sqrt(max(self.cov.item(0), 0.0))

    @property
    def coefficients(self) -> Floats:
        """Expected coefficients of the drivers."""
        return self.mean[COEFFICIENTS]

    def coefficient(self, at: int) -> tuple[float, float]:
        """One of them, and its standard deviation."""
        return float(self.coefficients[at]), sqrt(max(float(self.cov[COEFFICIENTS, COEFFICIENTS][at, at]), 0.0))

    def level_range(self, capacity: float) -> tuple[float, float]:
        """The 8-in-10 range of the contents, kept within 0 to capacity."""
        return range_80(self.level, self.sd, capacity)

    def biased(self, shape: "Shape") -> tuple[float, float, float]:
        """The gauge's bias where it has a shape, its variance, and its covariance with the level."""
        if shape == UNBIASED:
            return 0.0, 0.0, 0.0
        at = np.array(shape)
        with_all = self.cov[:, BIAS].dot(at)
        return float(self.mean[BIAS].dot(at)), float(with_all[BIAS].dot(at)), with_all.item(0)

    def bias(self, shape: "Shape") -> tuple[float, float]:
        """The gauge's bias where it has a shape, and its standard deviation."""
        bias, variance, _ = self.biased(shape)
        return bias, sqrt(max(variance, 0.0))


# How much of each part of the bias is in a reading: all of the offset; of bulge and skew what its height leads to.
Shape = tuple[float, float, float]
UNBIASED: Shape = (0.0, 0.0, 0.0)
EVENLY: Shape = (1.0, 0.0, 0.0)


def _followed(belief: Belief, through: Floats, shift: float, shrink: float) -> Belief:
    """All states follow one of them, or a sum of them, through their covariance with it, shape (n,)."""
    # ``dot`` and not an outer product: of so few numbers it takes half the time, as it does beside ``@``
    return Belief(belief.mean + through * shift, belief.cov - through[:, None].dot((through * shrink)[None]))


def _sum(belief: Belief, row: Floats, noise: float = 0.0) -> tuple[Floats, float, float]:
    """``row @ state + noise``: its covariance with each state, shape (n,), its mean and its variance."""
    through = belief.cov.dot(row)
    return through, float(row.dot(belief.mean)), float(row.dot(through)) + noise


def kalman_update(belief: Belief, row: Floats, value: float, variance: float) -> Belief:
    """One scalar measurement ``value = row @ state + noise``.

    Parameters
    ----------
    belief : Belief
    row : ndarray, shape (n,)
    value, variance : float
        Measured value and the variance of its noise.
    """
    through, mean, spread = _sum(belief, row, variance)
    return _followed(belief, through, (value - mean) / spread, 1 / spread)


def robust_update(
    belief: Belief, row: Floats, value: float, variance: float, span: float, outlier: float = Tracking.total_outlier
) -> tuple[Belief, float]:
    """A measurement that may be an outlier: a Gaussian with chance 1 - outlier, else anything within ``span``.

    Returns the moment-matched posterior and the chance that the reading is good.
    """
    through, mean, spread = _sum(belief, row, variance)
    miss = value - mean
    good = (1 - outlier) * exp(-0.5 * miss**2 / spread) / sqrt(2 * pi * spread)
    trust = good / (good + outlier / span)
    if trust > 1 - Numeric.trusted:
        return _followed(belief, through, miss / spread, 1 / spread), trust
    # the moments of the two together
    shrink = trust / spread - trust * (1 - trust) * (miss / spread) ** 2
    return _followed(belief, through, trust * miss / spread, shrink), trust


def at_least_update(belief: Belief, row: Floats, bound: float, variance: float) -> Belief:
    """A measurement of which only a lower bound is known: ``row @ state + noise >= bound`` (a censored observation).

    The moments of the normal cut from below at the bound (Tobin 1958), carried to the state by its covariance.
    """
    through, mean, spread = _sum(belief, row, variance)
    sd = sqrt(spread)
    depth = (bound - mean) / sd
    if depth < -Numeric.bound_far_sd:
        return belief
    mass = 1 - normal_below(depth)
    ratio = normal_density(depth) / mass if mass > Numeric.tiny else depth + 1 / max(depth, 1.0)
    kept = min(max(1 - ratio * (ratio - depth), Numeric.bound_kept), 1.0)
    return _followed(belief, through, ratio / sd, (1 - kept) / spread)


def set_moments(belief: Belief, row: Floats, mean: float, variance: float) -> Belief:
    """Give ``row @ state`` a new marginal; all states follow through their covariance with it."""
    through, before, prior_var = _sum(belief, row)
    prior_var = max(prior_var, Numeric.tiny_variance)
    return _followed(belief, through, (mean - before) / prior_var, (prior_var - variance) / prior_var**2)


def less_likely_above(belief: Belief, row: Floats, const: float, variance: float, weight: float) -> Belief:
    """What is left after something that was ``weight`` times as likely where ``row @ state + const + noise`` is over 0.

    The moments of a normal whose part above 0 is weighed down, carried to the state by its covariance.
    """
    through, mean, spread = _sum(belief, row, variance)
    sd = sqrt(spread)
    if sd < Numeric.tiny:
        return belief
    depth = (mean + const) / sd
    if depth < -Numeric.bound_near_sd:
        return belief
    above, density = normal_below(depth), normal_density(depth)
    total = 1 - above + weight * above
    first = density * (weight - 1) / total
    second = (1 - above + depth * density + weight * (above - depth * density)) / total
    kept = min(max(second - first**2, Numeric.bound_kept), Numeric.bound_most)
    return _followed(belief, through, first / sd, (1 - kept) / sd**2)


def band_posterior(mean: float, sd: float, bands: Bands) -> tuple[float, float, float]:
    """Mean, variance and evidence of a Gaussian level seen through weighted bands that follow one another.

    The prior is cut to the bands' whole span. Sums of the moments of the normal between the edges (Johnson, Kotz and
    Balakrishnan 1994, ch. 13); far out in a tail on a grid instead.
    """
    sd = min(sd, Numeric.wide * (bands[-1][1] - bands[0][0]))
    total = first = second = most = 0.0
    z, below, density = _at_edge((bands[0][0] - mean) / sd)
    began = below
    for (_, edge, weight), (_, _, following) in zip_longest(bands, bands[1:], fillvalue=_AFTER_THE_LAST):
        if weight == following:
            # far from what was seen all bands are alike
            continue
        z_left, below_left, density_left = z, below, density
        z, below, density = _at_edge((edge - mean) / sd)
        mass = below - below_left
        total += weight * mass
        first += weight * (density_left - density)
        second += weight * (mass + z_left * density_left - z * density)
        if weight > most:
            most = weight
    span = below - began
    if span < Numeric.least_mass or total < Numeric.least_mass * span * most:
        return _band_posterior_on_grid(mean, sd, bands)
    first, second = first / total, second / total
    variance = max(second - first * first, Numeric.least_variance_share)
    return mean + sd * first, sd * sd * variance, total / span


_AFTER_THE_LAST = (0.0, 0.0, -1.0)


def _at_edge(z: float) -> tuple[float, float, float]:
    """Where a standard normal is cut: the place, the mass below it less a half, and the density there."""
    return z, 0.5 * erf(z / _SQRT_2), exp(-0.5 * z * z) / _SQRT_2_PI if -_FAR < z < _FAR else 0.0


def _band_posterior_on_grid(mean: float, sd: float, bands: Bands) -> tuple[float, float, float]:
    """The same by the trapezoid rule on a grid that follows the prior."""
    low_end, high_end = bands[0][0], bands[-1][1]
    low, high = max(low_end, mean - Numeric.grid_sd * sd), min(high_end, mean + Numeric.grid_sd * sd)
    if high - low < Numeric.tiny * (high_end - low_end):
        point = min(max(mean, low_end), high_end)
        low, high = max(low_end, point - Numeric.grid_edge_sd * sd), min(high_end, point + Numeric.grid_edge_sd * sd)
    edges = np.array([band[0] for band in bands[1:]])
    weights = np.array([band[2] for band in bands])
    grid = np.linspace(low, high, Numeric.grid_points)
    exponent = -0.5 * ((grid - mean) / sd) ** 2
    prior = np.exp(exponent - exponent.max())
    prior /= prior.sum()
    joint = prior * weights[np.searchsorted(edges, grid, side="right")]
    total = float(joint.sum())
    posterior = joint / total
    centre = float(posterior @ grid)
    within = uniform_sd((high - low) / Numeric.grid_points)
    return centre, float(posterior @ (grid - centre) ** 2) + within**2, total


def cut_moments(mean: float, sd: float, capacity: float) -> tuple[float, float]:
    """Mean and variance of a normal cut to 0 to capacity (the textbook moments of the truncated normal)."""
    low, high = -mean / sd, (capacity - mean) / sd
    mass = normal_below(high) - normal_below(low)
    if mass < Numeric.least_mass:
        centre, variance, _ = band_posterior(mean, sd, ((0.0, capacity, 1.0),))
        return centre, variance
    at_low, at_high = normal_density(low), normal_density(high)
    shift = (at_low - at_high) / mass
    narrowed = 1 + (low * at_low - high * at_high) / mass - shift**2
    return mean + sd * shift, sd**2 * max(narrowed, Numeric.least_variance_share)


def held_back(belief: Belief, held_row: Floats, held: float, held_var: float) -> tuple[Belief, float]:
    """The level after a step less what was held back of it, max(0, D), and the chance that D was over 0.

    ``held`` and ``held_var``: mean and variance of D; ``held_row``: its covariance with the state after the step.
    Variance of the rectified normal; covariances by Stein's lemma (Stein 1981): Cov(max(0, D), X) = P(D > 0) Cov(D, X).
    The level is the median of what is left and not its mean, which a wide spread draws away from full: readings would
    then teach, day by day, that use is less than it is.
    """
    sd = sqrt(max(held_var, Numeric.tiny_square))
    depth = held / sd
    if depth < -Numeric.clear_of_clipping_sd:
        return belief, 0.0
    chance, density = normal_below(depth), normal_density(depth)
    first = held * chance + sd * density
    variance = (held**2 + held_var) * chance + held * sd * density - first**2
    cov = belief.cov.copy()
    cov[0, 1:] -= chance * held_row[1:]
    cov[1:, 0] = cov[0, 1:]
    left = belief.variance - 2 * chance * held_row.item(0) + variance
    cov[0, 0] = max(left, Numeric.least_variance_share * belief.variance)
    return with_level(Belief(belief.mean, cov), belief.level - max(0.0, held)), chance


def cut_to_ends(belief: Belief, capacity: float) -> Belief:
    """Contents never leave 0 to capacity: cut the level's marginal there.

    Only the level moves. What was cut away says that the tank ran over or the array was curtailed, not that use
    was different, so the coefficients stay.
    """
    mean, sd = belief.level, belief.sd
    reach = Numeric.clear_of_ends_sd * sd
    if sd > 0 and mean - reach >= 0 and mean + reach <= capacity:
        return belief
    if sd < Numeric.tiny:
        return with_level(belief, min(max(mean, 0.0), capacity))
    centre, variance = cut_moments(mean, sd, capacity)
    cov = belief.cov.copy()
    cov[0, 1:] *= sqrt(variance) / sd
    cov[1:, 0] = cov[0, 1:]
    cov[0, 0] = variance
    return with_level(Belief(belief.mean, cov), centre)


def with_level(belief: Belief, level: float) -> Belief:
    """The belief with another mean of the level; the rest stays."""
    mean = belief.mean.copy()
    mean[0] = level
    return Belief(mean, belief.cov)


def reset_level(belief: Belief, level: float, sd: float) -> Belief:
    """Forget the level and start it anew, independent of all else (a fill, a dump, a swap)."""
    cov, mean = belief.cov.copy(), belief.mean.copy()
    cov[0, :] = cov[:, 0] = 0.0
    cov[0, 0], mean[0] = sd**2, level
    return Belief(mean, cov)


def unknown_level(belief: Belief, capacity: float) -> Belief:
    """Forget the level: anything from empty to full is as likely."""
    return reset_level(belief, capacity / 2, uniform_sd(capacity))


def lost_level(belief: Belief, line: float, good_end: float) -> Belief:
    """Forget the level of a store that somebody serves: anything between its line and its good end is as likely."""
    return reset_level(belief, (line + good_end) / 2, uniform_sd(abs(good_end - line)))


def shift_level(belief: Belief, amount: float, sd: float) -> Belief:
    """Add a known amount with its error."""
    cov = belief.cov.copy()
    cov[0, 0] += sd**2
    mean = belief.mean.copy()
    mean[0] += amount
    return Belief(mean, cov)


def keep_positive(belief: Belief, floor: Floats) -> Belief:
    """Hold the coefficients at or above a floor: nobody drinks a negative litre."""
    coefficients = belief.mean[COEFFICIENTS]
    if min((coefficients - floor).tolist()) >= 0:
        return belief
    mean = belief.mean.copy()
    mean[COEFFICIENTS] = np.maximum(coefficients, floor)
    return Belief(mean, belief.cov)
