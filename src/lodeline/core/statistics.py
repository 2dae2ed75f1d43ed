"""Numbers of probability theory that more than one module needs, each once."""

from math import ceil, erf, exp, pi, sqrt
from statistics import NormalDist

import numpy as np
from numpy.typing import NDArray

from lodeline.core.values import dataclass

Floats = NDArray[np.float64]
Singles = NDArray[np.float32]
Truths = NDArray[np.bool_]

# The quantiles that a range of 8 in 10 is told by.
P10, P50, P90 = 0.1, 0.5, 0.9
# Standard deviations from the middle to the end of such a range, for a normal.
Z90 = NormalDist().inv_cdf(P90)
# A median absolute deviation times this is the standard deviation of a normal (Rousseeuw and Croux 1993).
MAD_TO_SD = 1.4826
# The logistic curve with this slope is the normal's distribution to within 0.01 (Lord and Novick 1968, from memory).
LOGISTIC_SLOPE = 1.702
_SQRT_2, _SQRT_12, _SQRT_2_PI = sqrt(2), sqrt(12), sqrt(2 * pi)
_REACH_SD, _STEPS, _LEAST_SD, _NEAR = 6.0, 100, 1e-9, 1e-12


@dataclass(frozen=True, slots=True)
class Range:
    """The 10, 50 and 90 % quantiles."""

    p10: float
    p50: float
    p90: float

    def over(self, whole: float) -> "Range":
        """The range as shares of a whole."""
        return Range(self.p10 / whole, self.p50 / whole, self.p90 / whole)


def ranged(values: Floats | Singles) -> Range:
    """Quantiles of draws, shape (n,)."""
    low, middle, high = np.quantile(values, (P10, P50, P90))
    return Range(float(low), float(middle), float(high))


def reached_by(values: Floats, *shares: float) -> tuple[float, ...]:
    """The least of the values that each share of them does not pass, shape (n,); values may be inf."""
    ordered = np.sort(values)
    return tuple(float(ordered[max(0, ceil(share * len(ordered)) - 1)]) for share in shares)


def range_80(level: float, sd: float, capacity: float) -> tuple[float, float]:
    """The 8-in-10 range of contents that are normal about a level, kept within 0 to capacity."""
    half = Z90 * sd
    return min(capacity, max(0.0, level - half)), max(0.0, min(capacity, level + half))


def mixture_quantile(weights: Floats, means: Floats, sds: Floats, share: float) -> float:
    """Quantile of a mixture of normals, all of shape (n,), by Newton's method within a span that holds it."""
    if len(means) == 1:
        return float(means[0] + NormalDist().inv_cdf(share) * sds[0])
    parts = list(zip(weights.tolist(), means.tolist(), np.maximum(sds, _LEAST_SD).tolist(), strict=True))
    reach = _REACH_SD * float(sds.max())
    low, high = float(means.min()) - reach, float(means.max()) + reach
    at = (low + high) / 2
    for _ in range(_STEPS):
        below = sum(w * normal_below((at - m) / s) for w, m, s in parts)
        low, high = (at, high) if below < share else (low, at)
        density = sum(w * normal_density((at - m) / s) / s for w, m, s in parts)
        # Newton's step, where it stays between the ends that are known; else halve
        following = at + (share - below) / density if density > 0 else low
        before, at = at, following if low < following < high else (low + high) / 2
        if abs(at - before) <= _NEAR * (high - low) + _LEAST_SD * _NEAR:
            break
    return at


def uniform_sd(width: float) -> float:
    """Standard deviation of a uniform distribution of a width."""
    return width / _SQRT_12


def normal_density(z: float) -> float:
    """Density of the standard normal."""
    return exp(-0.5 * z * z) / _SQRT_2_PI


def normal_below(z: float) -> float:
    """Chance that a standard normal lies below ``z``."""
    return 0.5 * (1 + erf(z / _SQRT_2))
