"""Where the sun stands, and what a clear sky gives on a plane.

Position: Duffie and Beckman, Solar Engineering of Thermal Processes, chapter 1 (equations from memory).
Clear sky: Ineichen and Perez 2002; transposition: Hay and Davies 1980; both by pvlib.
"""

from datetime import date

import numpy as np
from numpy.typing import NDArray

from lodeline.core.figures import Energy

Floats = NDArray[np.float64]

SOLAR_CONSTANT_W_M2 = 1367.0
_SAMPLES = 4


def declination_cooper_deg(day_of_year: int) -> float:
    """Declination by Cooper's equation (1.6.1a), as in the book's worked examples. [deg]"""
    return 23.45 * float(np.sin(np.radians(360.0 * (284 + day_of_year) / 365.0)))


def almanac(on: date, lon_deg: float) -> tuple[float, float]:
    """Declination and equation of time at solar noon of a date and longitude.

    The Astronomical Almanac's low-precision formulae as in Michalsky (1988), good to 0.01 degrees to 2050
    (from memory).

    Returns
    -------
    decl_deg : float
        Declination. [deg]
    eot_h : float
        Solar time minus mean time. [h]
    """
    days = (on - date(2000, 1, 1)).days - lon_deg / 360.0
    mean_longitude = np.radians((280.460 + 0.9856474 * days) % 360.0)
    anomaly = np.radians((357.528 + 0.9856003 * days) % 360.0)
    ecliptic = mean_longitude + np.radians(1.915 * np.sin(anomaly) + 0.020 * np.sin(2 * anomaly))
    obliquity = np.radians(23.439 - 0.0000004 * days)
    ascension = np.arctan2(np.cos(obliquity) * np.sin(ecliptic), np.cos(ecliptic))
    turn = np.degrees(mean_longitude - ascension)
    eot_h = ((turn + 180.0) % 360.0 - 180.0) / 15.0
    return float(np.degrees(np.arcsin(np.sin(obliquity) * np.sin(ecliptic)))), float(eot_h)


def zenith_deg(lat_deg: float, decl_deg: float, solar_time_h: Floats | float) -> Floats:
    """Zenith angle of the sun (1.6.5), shape of ``solar_time_h``. [deg]"""
    hour_angle = np.radians(15.0 * (np.asarray(solar_time_h, dtype=float) - 12.0))
    lat, decl = np.radians(lat_deg), np.radians(decl_deg)
    cosine = np.cos(lat) * np.cos(decl) * np.cos(hour_angle) + np.sin(lat) * np.sin(decl)
    zenith: Floats = np.degrees(np.arccos(np.clip(cosine, -1.0, 1.0)))
    return zenith


def azimuth_from_south_deg(lat_deg: float, decl_deg: float, solar_time_h: Floats | float) -> Floats:
    """Solar azimuth, zero at south, west positive (1.6.6), shape of ``solar_time_h``. [deg]"""
    time_h = np.asarray(solar_time_h, dtype=float)
    zenith = np.radians(zenith_deg(lat_deg, decl_deg, time_h))
    lat, decl = np.radians(lat_deg), np.radians(decl_deg)
    cosine = (np.cos(zenith) * np.sin(lat) - np.sin(decl)) / np.maximum(np.sin(zenith) * np.cos(lat), 1e-9)
    azimuth: Floats = np.where(time_h >= 12.0, 1.0, -1.0) * np.degrees(np.arccos(np.clip(cosine, -1.0, 1.0)))
    return azimuth


def lifted_deg(zenith: Floats) -> Floats:
    """Zenith angle as refraction lifts the sun, shape of ``zenith``; Saemundsson 1986 (from memory). [deg]"""
    elevation = 90.0 - zenith
    high = np.maximum(elevation, -1.0)
    lift = 1.02 / 60.0 / np.tan(np.radians(high + 10.3 / (high + 5.11)))
    lifted: Floats = zenith - np.where(elevation > -1.0, lift, 0.0)
    return lifted


def extraterrestrial_day_mj_m2(lat_deg: float, day_of_year: int) -> float:
    """Day total on the horizontal above the atmosphere (1.10.3). [MJ/m2]"""
    lat, decl = np.radians(lat_deg), np.radians(declination_cooper_deg(day_of_year))
    sunset = np.arccos(np.clip(-np.tan(lat) * np.tan(decl), -1.0, 1.0))
    swing = 1 + 0.033 * np.cos(np.radians(360.0 * day_of_year / 365.0))
    shape = np.cos(lat) * np.cos(decl) * np.sin(sunset) + sunset * np.sin(lat) * np.sin(decl)
    return float(24 * 3600 * SOLAR_CONSTANT_W_M2 / np.pi * swing * shape / 1e6)


def clear_sky_plane_w_m2(
    lat_deg: float,
    lon_deg: float,
    on: date,
    utc_offset_h: float,
    tilt_deg: float,
    azimuth_deg: float,
    horizon_deg: float = 0.0,
) -> Floats:
    """Clear-sky irradiance on a plane, mean of each local clock hour. Shape (24,). [W/m2]

    Azimuth clockwise from north. Under ``horizon_deg`` of elevation all round the beam is hidden, and the sky's
    diffuse light is seen as cos2 of it (view factor of a level plane within a ring of that height).
    """
    from pvlib import atmosphere, clearsky, irradiance  # slow to load: only those who need the sun wait for it

    decl_deg, eot_h = almanac(on, lon_deg)
    clock_h = (np.arange(24 * _SAMPLES) + 0.5) / _SAMPLES
    solar_time_h = np.mod(clock_h - utc_offset_h + lon_deg / 15.0 + eot_h, 24.0)
    zenith = lifted_deg(zenith_deg(lat_deg, decl_deg, solar_time_h))
    azimuth = azimuth_from_south_deg(lat_deg, decl_deg, solar_time_h) + 180.0
    extra = SOLAR_CONSTANT_W_M2 * (1 + 0.033 * np.cos(np.radians(360.0 * on.timetuple().tm_yday / 365.0)))
    airmass = atmosphere.get_relative_airmass(np.where(zenith < 90.0, zenith, np.nan))
    with np.errstate(divide="ignore", invalid="ignore"):  # below the horizon there is no air to look through
        sky = clearsky.ineichen(zenith, airmass, Energy.linke_turbidity, dni_extra=extra)
    seen = 90.0 - zenith >= horizon_deg
    diffuse = np.nan_to_num(sky["dhi"]) * np.cos(np.radians(horizon_deg)) ** 2
    beam = np.where(seen, np.nan_to_num(sky["dni"]), 0.0)
    level = beam * np.maximum(np.cos(np.radians(zenith)), 0.0) + diffuse
    found = irradiance.get_total_irradiance(
        tilt_deg, azimuth_deg, zenith, azimuth, beam, level, diffuse, dni_extra=extra, albedo=Energy.albedo,
        model="haydavies",
    )  # fmt: skip
    return _hourly(np.maximum(np.nan_to_num(np.asarray(found["poa_global"], dtype=float)), 0.0))


def _hourly(samples: Floats) -> Floats:
    hours: Floats = samples.reshape(24, _SAMPLES).mean(axis=1)
    return hours
