"""Against pvlib 0.16 (NREL's position, a second clear-sky model) and astral 3.2 (sunrise and sunset)."""

from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from zoneinfo import ZoneInfo

import astral
import astral.sun
import h5py
import numpy as np
import pandas as pd
import pvlib
import pytest
from scipy.optimize import brentq

from lodeline.core.energy import clear_sky
from lodeline.core.energy.sun import Location, clear_plane_w_m2
from lodeline.core.figures import Energy
from lodeline.core.zone import Zone

UTC_DAYS = Zone("UTC")
PLACES = [
    ("south coast", 37.3, -8.9),
    ("high desert", 34.2, -113.4),
    ("fells", 54.5, -3.1),
    ("fjord", 58.9, 6.2),
    ("cape", -34.3, 18.9),
    ("plateau", -31.5, 145.8),
    ("lakes", -41.1, -71.4),
    ("gulf", 28.1, -97.0),
    ("steppe", 47.2, 66.7),
    ("equator", 0.2, 36.9),
]
DATES = [date(2026, 3, 20), date(2026, 6, 21), date(2026, 9, 22), date(2026, 12, 21)]


def _sun(place, on):
    _, lat, lon = place
    times = pd.date_range(f"{on} 00:00", periods=24 * 12, freq="5min", tz="UTC")
    return pvlib.solarposition.spa_python(times, lat, lon), pvlib.irradiance.get_extra_radiation(times)


def _ineichen(place, on):
    sun, extra = _sun(place, on)
    airmass = pvlib.atmosphere.get_relative_airmass(sun["apparent_zenith"])
    haze = clear_sky.haze(place[1], place[2], sun.index.dayofyear.to_numpy())
    return pvlib.clearsky.ineichen(sun["apparent_zenith"], airmass, haze, dni_extra=extra)


def test_the_map_of_haze_is_that_of_pvlib_in_quarters_of_a_degree():
    with h5py.File(Path(pvlib.__file__).parent / "data" / "LinkeTurbidities.h5") as file:
        fine = file["LinkeTurbidity"][:]
    mean = np.moveaxis(fine.reshape(720, 3, 1440, 3, 12).mean(axis=(1, 3)), 2, 0)  # in twentieths
    ours = np.concatenate([clear_sky._strip(number) for number in range(18)], axis=1)
    assert np.array_equal((mean / 2).round(), ours)


# among high mountains a quarter of a degree says less
@pytest.mark.parametrize(
    ("lat", "lon", "within"),
    [(90, 180, 0.1), (-90, -180, 0.1), (0, 0, 0.1), (46.62, 7.62, 0.5), (-33.9, 151.2, 0.2), (37.3, -8.9, 0.2)],
)
def test_haze_goes_from_month_to_month_as_in_pvlib(lat, lon, within):
    days = pd.date_range("2026-01-01 12:00", "2026-12-31 12:00", tz="UTC")
    theirs = pvlib.clearsky.lookup_linke_turbidity(days, lat, lon)
    assert clear_sky.haze(lat, lon, days.dayofyear.to_numpy()) == pytest.approx(theirs.to_numpy(), abs=within)


def test_the_air_below_the_horizon_has_no_mass_and_above_it_that_of_pvlib():
    zenith = np.array([0.0, 45.0, 80.0, 89.9, 90.0, 120.0])
    theirs = pvlib.atmosphere.get_relative_airmass(np.where(zenith < 90, zenith, np.nan), "kastenyoung1989")
    assert clear_sky.air_mass(zenith) == pytest.approx(theirs, rel=1e-6, nan_ok=True)


def _ours(place, on, tilt=0.0, **more):
    return clear_plane_w_m2(Location(place[1], place[2], UTC_DAYS), on, tilt, 180.0, **more)


@pytest.mark.parametrize("place", PLACES, ids=lambda p: p[0])
@pytest.mark.parametrize("on", DATES, ids=str)
def test_clear_sky_by_the_hour_is_that_on_the_position_of_another_algorithm(place, on):
    # NREL's algorithm (Reda and Andreas 2004) at five-minute steps; ours is another at fifteen
    theirs = _ineichen(place, on)["ghi"].fillna(0).to_numpy().reshape(24, 12).mean(axis=1)
    assert _ours(place, on) == pytest.approx(theirs, abs=12)
    assert _ours(place, on).sum() == pytest.approx(theirs.sum(), rel=0.01)


@pytest.mark.parametrize("place", PLACES, ids=lambda p: p[0])
@pytest.mark.parametrize("on", DATES, ids=str)
def test_clear_sky_day_total_is_near_a_second_model(place, on):
    # simplified Solis (Ineichen 2008) of pvlib, with the dust that makes this haze at air mass 2 and 1 cm of water
    # (Kasten 1996); the models part where the sun stays low and the air path is long
    sun, extra = _sun(place, on)
    haze = float(clear_sky.haze(place[1], place[2], sun.index.dayofyear.to_numpy()).mean())
    least = pvlib.atmosphere.kasten96_lt(2.0, 1.0, 0.0)
    dust = 0.0 if haze < least else brentq(lambda aod: pvlib.atmosphere.kasten96_lt(2.0, 1.0, aod) - haze, 0.0, 1.0)
    solis = pvlib.clearsky.simplified_solis(sun["apparent_elevation"], dust, 1.0, dni_extra=extra)
    theirs = solis["ghi"].sum() / 12
    assert _ours(place, on).sum() == pytest.approx(theirs, rel=0.07 if sun["elevation"].max() > 32 else 0.28)


def test_a_horizon_hides_the_beam_and_narrows_the_sky():
    # view factor of a level plane within a ring of height h: cos2 h (textbook geometry)
    place, on = PLACES[0], date(2026, 12, 21)
    diffuse = _ineichen(place, on)["dhi"].sum() / 12
    assert _ours(place, on, horizon_deg=60.0).sum() == pytest.approx(diffuse * 0.25, rel=0.01)


@pytest.mark.parametrize("zone", ["America/Denver", "Asia/Kolkata", "Australia/Adelaide"])
@pytest.mark.parametrize("on", [DATES[1], DATES[3]], ids=str)
def test_light_comes_between_the_sunrise_and_sunset_of_astral_on_the_clock_aboard(zone, on):
    # the middle of the rig's timezone; astral has the upper limb and refraction at zenith 90.833 degrees (NOAA)
    clock = Zone(zone)
    spot = Location(35.0, 15 * clock.offset_h(on), clock)
    light = clear_plane_w_m2(spot, on, 0.0, 180.0)
    observer = astral.Observer(spot.lat, spot.lon)
    rise, set_ = (each(observer, on, tzinfo=ZoneInfo(zone)) for each in (astral.sun.sunrise, astral.sun.sunset))
    hours = [int(clock.hour(on, each)) for each in (rise, set_)]
    bright = np.flatnonzero(light)
    assert abs(bright[0] - hours[0]) <= 1
    assert abs(bright[-1] - hours[1]) <= 1
    assert light[bright[0] : bright[-1] + 1].min() > 0


@pytest.mark.parametrize(("on", "hours"), [(date(2026, 3, 29), 23), (date(2026, 10, 25), 25)])
def test_a_day_whose_clocks_change_has_the_sun_of_its_own_hours(on, hours):
    # the same sun as on the neighbours: what the day hours lack in number they have in length
    clock = Zone("Europe/Berlin")
    spot = Location(48.0, 13.0, clock)
    totals = [
        clear_plane_w_m2(spot, on + timedelta(days=step), 0.0, 180.0).sum()
        * clock.length_h(on + timedelta(days=step))
        / 24
        for step in (-1, 0, 1)
    ]
    assert clock.length_h(on) == hours
    assert totals[1] == pytest.approx((totals[0] + totals[2]) / 2, rel=0.005)
    noon = datetime.combine(on, datetime.min.time(), UTC) + timedelta(hours=12 - 13 / 15)
    assert int(np.argmax(clear_plane_w_m2(spot, on, 0.0, 180.0))) == pytest.approx(clock.hour(on, noon), abs=1)


@pytest.mark.parametrize("tilt", [15.0, 50.0])
def test_a_tilted_plane_is_as_in_pvlib(tilt):
    place, on = PLACES[0], date(2026, 12, 21)
    sun, extra = _sun(place, on)
    sky = _ineichen(place, on)
    total = pvlib.irradiance.get_total_irradiance(
        tilt,
        180,
        sun["apparent_zenith"],
        sun["azimuth"],
        sky["dni"],
        sky["ghi"],
        sky["dhi"],
        dni_extra=extra,
        albedo=Energy.albedo,
        model="haydavies",
    )
    assert _ours(place, on, tilt).sum() == pytest.approx(total["poa_global"].sum() / 12, rel=0.01)
