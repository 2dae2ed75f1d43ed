"""Against pvlib 0.16 (its own sun position, its second clear-sky model) and astral 3.2 (sunrise and sunset)."""

from datetime import UTC, date, datetime, timedelta

import astral
import astral.sun
import numpy as np
import pandas as pd
import pvlib
import pytest

from lodeline.core.energy.figures import figure
from lodeline.core.energy.sun import almanac, clear_sky_plane_w_m2, zenith_deg

PLACES = [
    ("south coast", 37.3, -8.9), ("high desert", 34.2, -113.4), ("fells", 54.5, -3.1), ("fjord", 58.9, 6.2),
    ("cape", -34.3, 18.9), ("plateau", -31.5, 145.8), ("lakes", -41.1, -71.4), ("gulf", 28.1, -97.0),
    ("steppe", 47.2, 66.7), ("equator", 0.2, 36.9),
]  # fmt: skip
DATES = [date(2026, 3, 20), date(2026, 6, 21), date(2026, 9, 22), date(2026, 12, 21)]


def _sun(place, on):
    _, lat, lon = place
    times = pd.date_range(f"{on} 00:00", periods=24 * 12, freq="5min", tz="UTC")
    return pvlib.solarposition.get_solarposition(times, lat, lon), pvlib.irradiance.get_extra_radiation(times)


def _ineichen(sun, extra):
    airmass = pvlib.atmosphere.get_relative_airmass(sun["apparent_zenith"])
    return pvlib.clearsky.ineichen(sun["apparent_zenith"], airmass, figure("linke_turbidity"), dni_extra=extra)


@pytest.mark.parametrize("place", PLACES, ids=lambda p: p[0])
@pytest.mark.parametrize("on", DATES, ids=str)
def test_clear_sky_day_total_is_within_3_percent_of_pvlib(place, on):
    # the same clear-sky model on pvlib's own sun position (NREL's algorithm, with refraction)
    theirs = _ineichen(*_sun(place, on))["ghi"].sum() / 12
    ours = clear_sky_plane_w_m2(place[1], place[2], on, 0.0, 0.0, 180.0).sum()
    assert ours == pytest.approx(theirs, rel=0.03)


@pytest.mark.parametrize("place", PLACES, ids=lambda p: p[0])
@pytest.mark.parametrize("on", DATES, ids=str)
def test_clear_sky_day_total_is_near_a_second_model(place, on):
    # simplified Solis (Ineichen 2008) of pvlib; the models part where the sun stays low and the air path is long
    sun, extra = _sun(place, on)
    theirs = pvlib.clearsky.simplified_solis(sun["apparent_elevation"], dni_extra=extra)["ghi"].sum() / 12
    ours = clear_sky_plane_w_m2(place[1], place[2], on, 0.0, 0.0, 180.0).sum()
    assert ours == pytest.approx(theirs, rel=0.05 if sun["elevation"].max() > 25 else 0.23)


def test_a_horizon_hides_the_beam_and_narrows_the_sky():
    # view factor of a level plane within a ring of height h: cos2 h (textbook geometry)
    on, lat, lon = date(2026, 12, 21), 37.3, -8.9
    hidden = clear_sky_plane_w_m2(lat, lon, on, 0.0, 0.0, 180.0, horizon_deg=60.0)
    sun, extra = _sun(("", lat, lon), on)
    diffuse = _ineichen(sun, extra)["dhi"].sum() / 12
    assert hidden.sum() == pytest.approx(diffuse * 0.25, rel=0.03)


@pytest.mark.parametrize("place", [p for p in PLACES if abs(p[1]) < 60], ids=lambda p: p[0])
@pytest.mark.parametrize("on", DATES, ids=str)
def test_the_sun_is_at_the_horizon_when_astral_says_it_rises_and_sets(place, on):
    _, lat, lon = place
    observer = astral.Observer(lat, lon)
    decl_deg, eot_h = almanac(on, lon)
    # astral's sunrise has the upper limb and refraction at zenith 90.833 degrees (NOAA)
    for theirs in (astral.sun.sunrise(observer, on, tzinfo=UTC), astral.sun.sunset(observer, on, tzinfo=UTC)):
        clock_h = (theirs - datetime.combine(on, datetime.min.time(), UTC)) / timedelta(hours=1)
        minutes = np.arange(-12, 12.01, 0.05)
        solar_h = clock_h + minutes / 60 + lon / 15 + eot_h
        best = minutes[np.argmin(np.abs(zenith_deg(lat, decl_deg, solar_h) - 90.833))]
        assert abs(best) <= 2


@pytest.mark.parametrize("tilt", [15.0, 50.0])
def test_a_tilted_plane_is_as_in_pvlib(tilt):
    on, lat, lon = date(2026, 12, 21), 37.3, -8.9
    sun, extra = _sun(("", lat, lon), on)
    sky = _ineichen(sun, extra)
    total = pvlib.irradiance.get_total_irradiance(
        tilt, 180, sun["apparent_zenith"], sun["azimuth"], sky["dni"], sky["ghi"], sky["dhi"], dni_extra=extra,
        albedo=figure("albedo"), model="haydavies",
    )  # fmt: skip
    ours = clear_sky_plane_w_m2(lat, lon, on, 0.0, tilt, 180.0).sum()
    assert ours == pytest.approx(total["poa_global"].sum() / 12, rel=0.03)
