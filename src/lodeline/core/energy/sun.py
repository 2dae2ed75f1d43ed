"""Where the sun stands and what a clear sky gives on a plane, by pvlib.

Position: pvlib's ephemeris, with refraction. Clear sky: Ineichen and Perez 2002, with the haze of place and month;
transposition: Hay and Davies 1980.
"""

from dataclasses import dataclass
from datetime import date, timedelta
from functools import lru_cache
from typing import TYPE_CHECKING

import numpy as np

from lodeline.core.figures import Energy, Numeric
from lodeline.core.statistics import Floats
from lodeline.core.zone import HOURS, Zone

if TYPE_CHECKING:
    from pandas import DatetimeIndex

_DAY_SAMPLES = int(HOURS) * Energy.sun_samples_per_hour
_EDGE_DEG = 90.0


@dataclass(frozen=True, slots=True)
class Spot:
    """Where on the earth, and whose days. Latitude and longitude in degrees, north and east positive."""

    lat: float
    lon: float
    zone: Zone


@dataclass(frozen=True, slots=True, kw_only=True)
class _Sky:
    """The sun and a clear sky over some days, each of shape (days, samples of a day)."""

    zenith_deg: Floats
    azimuth_deg: Floats
    beam_w_m2: Floats
    diffuse_w_m2: Floats
    extra_w_m2: Floats


def clear_plane_w_m2(spot: Spot, on: date, tilt_deg: float, azimuth_deg: float, horizon_deg: float = 0.0) -> Floats:
    """Clear-sky irradiance on a plane, mean of each day hour of a local date. Shape (24,). [W/m2]

    Azimuth clockwise from north. Under ``horizon_deg`` of elevation all round the beam is hidden, and the sky's
    diffuse light is seen as cos2 of it (view factor of a level plane within a ring of that height).
    """
    block, row = divmod(on.toordinal(), Numeric.sun_block_days)
    plane: Floats = _plane(spot, block, tilt_deg, azimuth_deg, horizon_deg)[row]
    return plane


@lru_cache(maxsize=Numeric.cache_entries)
def _plane(spot: Spot, block: int, tilt_deg: float, azimuth_deg: float, horizon_deg: float) -> Floats:
    """``clear_plane_w_m2`` of each date of a block. Shape (days, 24). [W/m2]"""
    from pvlib import irradiance

    sky = _sky(spot, block)
    seen = _EDGE_DEG - sky.zenith_deg >= horizon_deg
    diffuse = sky.diffuse_w_m2 * np.cos(np.radians(horizon_deg)) ** 2
    beam = np.where(seen, sky.beam_w_m2, 0.0)
    level = beam * np.maximum(np.cos(np.radians(sky.zenith_deg)), 0.0) + diffuse
    planes = irradiance.get_total_irradiance(
        tilt_deg,
        azimuth_deg,
        sky.zenith_deg,
        sky.azimuth_deg,
        beam,
        level,
        diffuse,
        dni_extra=sky.extra_w_m2,
        albedo=Energy.albedo,
        model="haydavies",
    )
    samples = np.maximum(np.nan_to_num(np.asarray(planes["poa_global"], dtype=float)), 0.0)
    hours: Floats = samples.reshape(len(samples), int(HOURS), Energy.sun_samples_per_hour).mean(axis=2)
    hours.setflags(write=False)
    return hours


@lru_cache(maxsize=Numeric.cache_entries)
def _sky(spot: Spot, block: int) -> _Sky:
    """The sun over a block of dates; many at once, for pvlib takes its time whatever it is asked."""
    from pandas import DatetimeIndex
    from pvlib import atmosphere, clearsky, irradiance, solarposition  # slow to load: only who needs the sun waits

    first = date.fromordinal(block * Numeric.sun_block_days)
    dates = [first + timedelta(days=each) for each in range(Numeric.sun_block_days)]
    times = DatetimeIndex(np.concatenate([_instants(spot.zone, on) for on in dates])).tz_localize("UTC")
    sun = solarposition.ephemeris(times, spot.lat, spot.lon)
    shape = (len(dates), _DAY_SAMPLES)
    zenith, azimuth = (sun[name].to_numpy().reshape(shape) for name in ("apparent_zenith", "azimuth"))
    days_of_year = np.array([[on.timetuple().tm_yday] for on in dates])
    extra = np.broadcast_to(irradiance.get_extra_radiation(days_of_year), shape)
    airmass = atmosphere.get_relative_airmass(np.where(zenith < _EDGE_DEG, zenith, np.nan))
    with np.errstate(divide="ignore", invalid="ignore"):  # below the horizon there is no air to look through
        clear = clearsky.ineichen(zenith, airmass, _haze(times, spot).reshape(shape), dni_extra=extra)
    return _Sky(
        zenith_deg=zenith,
        azimuth_deg=azimuth,
        beam_w_m2=np.nan_to_num(clear["dni"]),
        diffuse_w_m2=np.nan_to_num(clear["dhi"]),
        extra_w_m2=extra,
    )


def _haze(times: "DatetimeIndex", spot: Spot) -> Floats:
    """Linke turbidity by place and month, from the map that pvlib ships (SoDa, Remund 2003). Shape of ``times``."""
    from pvlib import clearsky

    return np.asarray(clearsky.lookup_linke_turbidity(times, spot.lat, spot.lon), dtype=float)


def _instants(zone: Zone, on: date) -> np.ndarray[tuple[int], np.dtype[np.datetime64]]:
    """The middles of a date's samples, equally many to each day hour, in UTC."""
    begins, ends = (np.datetime64(at.replace(tzinfo=None), "s") for at in zone.bounds(on))
    step = (ends - begins).astype("timedelta64[ms]") / _DAY_SAMPLES
    middles: np.ndarray[tuple[int], np.dtype[np.datetime64]] = begins + step * (np.arange(_DAY_SAMPLES) + 0.5)
    return middles
