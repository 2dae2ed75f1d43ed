"""Duffie and Beckman, Solar Engineering of Thermal Processes, chapter 1 examples (figures from memory)."""

from datetime import date

import pytest

from lodeline.core.energy.sun import (
    azimuth_from_south_deg,
    declination_cooper_deg,
    extraterrestrial_day_mj_m2,
    zenith_deg,
)

FEB_13, APR_15, JUL_1 = (date(2023, *md).timetuple().tm_yday for md in ((2, 13), (4, 15), (7, 1)))


@pytest.mark.parametrize(
    ("day", "solar_h", "zenith", "azimuth"), [(FEB_13, 9.5, 66.5, -40.0), (JUL_1, 18.5, 79.6, 112.0)]
)
def test_sun_position_at_43_north(day, solar_h, zenith, azimuth):
    assert float(zenith_deg(43.0, declination_cooper_deg(day), solar_h)) == pytest.approx(zenith, abs=0.1)
    assert float(azimuth_from_south_deg(43.0, declination_cooper_deg(day), solar_h)) == pytest.approx(azimuth, abs=0.5)


def test_extraterrestrial_day_total_at_43_north():
    assert extraterrestrial_day_mj_m2(43.0, APR_15) == pytest.approx(33.8, abs=0.05)
