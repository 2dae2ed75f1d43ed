"""Where the sun stands, by sg2 (Blanc and Wald 2012), and what a clear sky then gives on a plane."""

from datetime import date, timedelta
from functools import lru_cache

import numpy as np
import sg2

from lodeline.core.energy import clear_sky
from lodeline.core.figures import Energy, Numeric
from lodeline.core.statistics import Floats
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS, Zone

_DAY_SAMPLES = int(HOURS) * Energy.sun_samples_per_hour
_EDGE_DEG = 90.0  # zenith angle of the horizon
_Instants = np.ndarray[tuple[int], np.dtype[np.datetime64]]


@dataclass(frozen=True, slots=True)
class Location:
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


def clear_plane_w_m2(spot: Location, on: date, tilt_deg: float, azimuth_deg: float, horizon_deg: float = 0.0) -> Floats:
    """Clear-sky irradiance on a plane, mean of each day hour of a local date. Shape (24,). [W/m2]

    Azimuth clockwise from north. Under ``horizon_deg`` of elevation all round the beam is hidden, and the sky's
    diffuse light is seen as cos2 of it (view factor of a level plane within a ring of that height).
    """
    block, row = divmod(on.toordinal(), Numeric.sun_block_days)
    plane: Floats = _plane(spot, block, tilt_deg, azimuth_deg, horizon_deg)[row]
    return plane


@lru_cache(maxsize=Numeric.cache_entries)
def _plane(spot: Location, block: int, tilt_deg: float, azimuth_deg: float, horizon_deg: float) -> Floats:
    """``clear_plane_w_m2`` of each date of a block. Shape (days, 24). [W/m2]"""
    sky = _sky(spot, block)
    seen = _EDGE_DEG - sky.zenith_deg >= horizon_deg
    beam = np.where(seen, sky.beam_w_m2, 0.0)
    diffuse = sky.diffuse_w_m2 * np.cos(np.radians(horizon_deg)) ** 2
    zenith, tilt = np.radians(sky.zenith_deg), np.radians(tilt_deg)
    aside = np.cos(np.radians(sky.azimuth_deg - azimuth_deg))
    towards = np.cos(zenith) * np.cos(tilt) + np.sin(zenith) * np.sin(tilt) * aside
    samples = clear_sky.on_plane(towards, sky.zenith_deg, beam, diffuse, sky.extra_w_m2, tilt_deg)
    hours: Floats = samples.reshape(len(samples), int(HOURS), Energy.sun_samples_per_hour).mean(axis=2)
    hours.setflags(write=False)
    return hours


@lru_cache(maxsize=Numeric.cache_entries)
def _sky(spot: Location, block: int) -> _Sky:
    """The sun over a block of dates."""
    first = date.fromordinal(block * Numeric.sun_block_days)
    dates = [first + timedelta(days=each) for each in range(Numeric.sun_block_days)]
    times = np.concatenate([_instants(spot.zone, on) for on in dates])
    names = ["topoc.gamma_S0", "topoc.alpha_S", "geoc.R"]
    placed = sg2.sun_position([[spot.lon, spot.lat, 0.0]], times, names)
    shape = (len(dates), _DAY_SAMPLES)
    up_deg = _refracted(np.degrees(placed.topoc.gamma_S0)).reshape(shape)
    extra = (Energy.solar_constant_w_m2 / np.asarray(placed.geoc.R) ** 2).reshape(shape)
    zenith, days = _EDGE_DEG - up_deg, np.array([[on.timetuple().tm_yday] for on in dates])
    beam, diffuse = clear_sky.ineichen(zenith, clear_sky.haze(spot.lat, spot.lon, days), extra)
    return _Sky(
        zenith_deg=zenith,
        azimuth_deg=np.degrees(placed.topoc.alpha_S).reshape(shape),
        beam_w_m2=beam,
        diffuse_w_m2=diffuse,
        extra_w_m2=extra,
    )


def _refracted(up_deg: Floats) -> Floats:
    """Apparent from true elevation, for the air at sea level at 10 degrees C. Saemundsson 1986. [degrees]"""
    held = np.maximum(up_deg, -1.0)  # below, nothing is seen
    arcmin = 1.02 / np.tan(np.radians(held + 10.3 / (held + 5.11)))  # as published
    return up_deg + arcmin / 60  # minutes of arc


def _instants(zone: Zone, on: date) -> _Instants:
    """The middles of a date's samples, equally many to each day hour, in UTC."""
    begins, ends = (np.datetime64(at.replace(tzinfo=None), "s") for at in zone.bounds(on))
    step = (ends - begins).astype("timedelta64[ms]") / _DAY_SAMPLES
    middles: _Instants = begins + step * (np.arange(_DAY_SAMPLES) + 0.5)
    return middles
