"""The air's temperature through a day."""

import numpy as np

from lodeline.core.figures import Energy
from lodeline.core.statistics import Floats
from lodeline.core.zone import HOURS

_WAVE = np.cos(2 * np.pi * (np.arange(HOURS) + 0.5 - Energy.warmest_h) / HOURS)


def air_c(mean_c: float, min_c: float) -> Floats:
    """Air temperature in each day hour, a cosine with its top in the afternoon. Shape (24,). [degC]"""
    air: Floats = mean_c + (mean_c - min_c) * _WAVE
    return air
