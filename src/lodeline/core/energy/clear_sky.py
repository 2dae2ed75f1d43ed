"""What a clear sky gives: on the beam, from all round, and on a tilted plane. Arrays of any one shape; in W/m2.

Clear sky: Ineichen and Perez 2002 at sea level, whose coefficients stand here as published; transposition: Hay and
Davies 1980.
"""

from datetime import date
from functools import lru_cache
from pathlib import Path

import numpy as np

from lodeline.core.figures import Energy
from lodeline.core.statistics import Floats

# Linke turbidity in tenths, by month and quarter of a degree: strips of ten degrees of latitude from the north on, each
# from 180 W on. Shape of a strip (12, 40, 1440).
_MAP = Path(__file__).with_name("haze.npz")
_OF_HAZE, _A_DEGREE, _STRIP_DEG = 10, 4, 10
_MID_MONTHS = np.array([date(2001, month, 15).timetuple().tm_yday for month in range(1, 13)])  # of a common year
_YEAR_DAYS = 365
_HIGHEST_HORIZON_COS = 0.01745  # 89 degrees: below, the sky round the sun has no direction (Hay and Davies)


@lru_cache(maxsize=2)  # a rig stays in one or two
def _strip(number: int) -> np.ndarray[tuple[int, ...], np.dtype[np.uint8]]:
    with np.load(_MAP) as held:
        return np.asarray(held[str(number)], dtype=np.uint8)


def haze(lat: float, lon: float, day_of_year: Floats) -> Floats:
    """Linke turbidity (air masses of clean dry air) of a place and day of the year, between the middles of the months.

    Monthly climatology: SoDa, Remund 2003, in means of a quarter of a degree. Shape of ``day_of_year``.
    """
    row = min(int((90 - lat) * _A_DEGREE), 180 * _A_DEGREE - 1)  # from pole to pole
    column = int((lon + 180) * _A_DEGREE) % (360 * _A_DEGREE)  # 180 E is 180 W
    strip, row = divmod(row, _STRIP_DEG * _A_DEGREE)
    values = _strip(strip)[:, row, column].astype(float) / _OF_HAZE
    return np.interp(day_of_year, _MID_MONTHS, values, period=_YEAR_DAYS)


def air_mass(zenith_deg: Floats) -> Floats:
    """Relative optical air mass at an apparent zenith angle; nan below the horizon. Kasten and Young 1989, eq. 3."""
    up = np.where(zenith_deg < 90, 90 - zenith_deg, np.nan)  # a right angle
    mass: Floats = 1 / (np.sin(np.radians(up)) + 0.50572 * (up + 6.07995) ** -1.6364)  # as published
    return mass


def ineichen(zenith_deg: Floats, haze: Floats, extra_w_m2: Floats) -> tuple[Floats, Floats]:
    """Beam on its normal and diffuse on the level at sea level, by apparent zenith angle and Linke turbidity."""
    up, mass = np.cos(np.radians(zenith_deg)), air_mass(zenith_deg)
    is_up = ~np.isnan(mass)
    up, mass = np.where(is_up, up, 1.0), np.where(is_up, mass, 1.0)
    level = 0.868 * extra_w_m2 * up * np.exp(-0.0387 * mass * haze)  # eq. 7 at sea level
    by_air = 0.827 * extra_w_m2 * np.exp(-0.09 * mass * (haze - 1))  # eq. 8: 0.664 + 0.163
    by_level = level * np.maximum(1 - (0.1 - 0.2 * np.exp(-haze)) / 0.982, 0) / up  # eq. 9: 0.1 + 0.882
    beam = np.where(is_up, np.minimum(by_air, by_level), 0.0)
    return beam, np.where(is_up, level - beam * up, 0.0)


def on_plane(
    towards: Floats, zenith_deg: Floats, beam_w_m2: Floats, diffuse_w_m2: Floats, extra_w_m2: Floats, tilt_deg: float
) -> Floats:
    """On a plane of a tilt. ``towards``: cosine of the angle between the sun and the plane's normal."""
    towards, up = np.maximum(towards, 0.0), np.maximum(np.cos(np.radians(zenith_deg)), 0.0)
    sees = (1 + np.cos(np.radians(tilt_deg))) / 2
    round_sun = beam_w_m2 / extra_w_m2
    sky = diffuse_w_m2 * (round_sun * towards / np.maximum(up, _HIGHEST_HORIZON_COS) + (1 - round_sun) * sees)
    ground = (beam_w_m2 * up + diffuse_w_m2) * Energy.albedo * (1 - sees)
    total: Floats = beam_w_m2 * towards + sky + ground
    return total
