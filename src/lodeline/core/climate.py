"""What the air is like at a latitude on a date, where nobody wrote it down.

A year's mean by latitude and a yearly wave, coldest a month after the shortest day. Invented, mild, after what
sea-level
places commonly have; height, sea and continent are not in it, so that its error is wide.
"""

from datetime import date

import numpy as np

from lodeline.core.figures import Climate, Heat
from lodeline.core.values import dataclass

_YEAR_DAYS = 365.25  # mean, with leap years


@dataclass(frozen=True, slots=True)
class UsualAir:
    """A day's mean, and half of its swing. [degC]"""

    mean_c: float
    half_swing_c: float


def usual_air(lat: float, on: date, elevation_m: float = 0.0) -> UsualAir:
    """The usual mean and swing at a latitude and a height above the sea on a date. [degC]"""
    year_c = Climate.pole_c + (Climate.equator_c - Climate.pole_c) * float(np.cos(np.radians(lat))) ** 2
    north = lat >= 0
    wave_c = (Climate.wave_c_per_deg_north if north else Climate.wave_c_per_deg_south) * abs(lat)
    warmest = Climate.warmest_day if north else Climate.warmest_day - _YEAR_DAYS / 2
    phase = 2 * np.pi * (on.timetuple().tm_yday - warmest) / _YEAR_DAYS
    colder_c = Heat.c_per_m * max(0.0, elevation_m)
    return UsualAir(year_c + wave_c * float(np.cos(phase)) - colder_c, Climate.half_swing_c)
