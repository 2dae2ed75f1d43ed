"""What a store's gauge has been found to be worth: its error, its lasting bias, where its marks really sit."""

import numpy as np

from lodeline.core.catalogue import GaugeKind, Method
from lodeline.core.figures import Numeric, Readings
from lodeline.core.rig import Store
from lodeline.core.statistics import LOGISTIC_SLOPE, MAD_TO_SD
from lodeline.core.tracking.belief import EVENLY
from lodeline.core.tracking.evidence import gauge_error
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True)
class PanelMark:
    """Where a mark of a light panel is painted, and where it seems to begin, as shares of capacity."""

    painted: float
    begins: float
    sd: float

    @property
    def is_elsewhere(self) -> bool:
        """Whether it begins so far from where it is painted that it is worth saying; the top light always does."""
        apart = abs(self.begins - self.painted)
        return self.painted < 1 and apart > max(Readings.bias_told_sds * self.sd, Readings.mark_told_from)


@dataclass(frozen=True, slots=True, kw_only=True)
class LearnedGauge:
    """Shares of capacity; the bias half way up. ``error`` is None until enough readings were compared."""

    readings: int
    assumed_error: float
    error: float | None
    bias: float
    bias_sd: float
    marks: tuple[PanelMark, ...] = ()

    @property
    def is_biased(self) -> bool:
        """Whether it reads too high or too low by more than chance."""
        told_from = max(Readings.bias_told_sds * self.bias_sd, Readings.bias_told_from)
        return self.bias_sd > 0 and abs(self.bias) > told_from

    @property
    def enough(self) -> bool:
        """Whether there were readings enough to judge it."""
        return self.readings >= Readings.gauge_readings


def learned_gauge(tracked: Tracked) -> LearnedGauge:
    """What the log says of a store's gauge, from readings against what was expected before each."""
    store, belief = tracked.store, tracked.belief
    compared = [each for each in tracked.compared if each.expected_sd < Readings.gauge_compared_sd * store.capacity]
    values = [each for each in compared if each.method is Method.FRACTION and each.value is not None]
    error = None
    if len(values) >= Readings.gauge_readings:
        misses = np.array([(each.value or 0.0) - each.expected for each in values])
        expected_var = float(np.median([each.expected_sd**2 for each in values]))
        # a median keeps outliers out
        spread = MAD_TO_SD * float(np.median(np.abs(misses - np.median(misses))))
        least = (Readings.gauge_least_error * store.capacity) ** 2
        error = float(np.sqrt(max(spread**2 - expected_var, least))) / store.capacity
    half_way = (1.0, 1.0, 0.0) if gauge_error(store).bias_sds[1] else EVENLY
    bias, bias_sd = belief.bias(half_way)
    return LearnedGauge(
        readings=len(tracked.compared),
        assumed_error=gauge_error(store).sd,
        error=error,
        bias=bias / store.capacity,
        bias_sd=bias_sd / store.capacity,
        marks=_marks(store, tracked),
    )


def _marks(store: Store, tracked: Tracked) -> tuple[PanelMark, ...]:
    """The level from which each mark shows, by the likelihood of all readings on a grid around the painted mark."""
    if store.gauge.kind is not GaugeKind.STEPS:
        return ()
    shows = [each for each in tracked.compared if each.method is Method.STEP and each.mark is not None]
    reach, least, contrary = Readings.mark_reach, Readings.mark_least_sd, Readings.mark_contrary
    marks = []
    for painted in store.gauge.marks[1:]:
        centre = painted if painted < 1 else Readings.top_mark_shows_from
        grid = np.linspace(max(least, centre - reach), min(1.0, centre + reach), Readings.mark_grid_points)
        log_p = -0.5 * ((grid - centre) / Readings.mark_prior_sd) ** 2
        for each in shows:
            sd = max(each.expected_sd / store.capacity, least)
            above = 1 / (1 + np.exp(-LOGISTIC_SLOPE * (each.expected / store.capacity - grid) / sd))
            is_above = (each.mark or 0.0) >= painted - Numeric.tiny
            log_p += np.log(contrary + (1 - 2 * contrary) * (above if is_above else 1 - above))
        p = np.exp(log_p - log_p.max())
        p /= p.sum()
        mean = float(p @ grid)
        marks.append(PanelMark(painted, mean, float(np.sqrt(p @ (grid - mean) ** 2))))
    return tuple(marks)
