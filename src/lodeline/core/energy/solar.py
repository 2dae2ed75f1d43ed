"""What the arrays offer on a clear day, hour by hour, and the yields by which arrays are judged."""

from datetime import UTC, date, datetime, time
from functools import lru_cache
from zoneinfo import ZoneInfo

import numpy as np

from lodeline.core.energy.figures import figure
from lodeline.core.energy.sun import Floats, clear_sky_plane_w_m2
from lodeline.core.log import Place
from lodeline.core.rig import Rig, SolarArray

# Where nothing was logged about the place.
UNKNOWN_PLACE = Place("unknown place", 40.0, 0.0)


def _utc_offset_h(on: date, timezone: str) -> float:
    noon = datetime.combine(on, time(12), tzinfo=ZoneInfo(timezone))
    offset = noon.utcoffset()
    return offset.total_seconds() / 3600 if offset is not None else 0.0


def air_c(mean_c: float, min_c: float) -> Floats:
    """Air temperature in each clock hour, a cosine with its top at three in the afternoon. Shape (24,). [degC]"""
    hours = np.arange(24) + 0.5
    wave: Floats = mean_c + (mean_c - min_c) * np.cos(2 * np.pi * (hours - 15.0) / 24.0)
    return wave


def clear_yield_wh(rig: Rig, place: Place | None, on: date, mean_c: float = 15.0, min_c: float = 10.0) -> Floats:
    """Clear-sky yield of all arrays in each local clock hour, before the learned factor. Shape (24,). [Wh]

    Plane irradiance times watts times what the system and warm cells leave, cut at what each controller passes.
    """
    where = place or UNKNOWN_PLACE
    offset_h = _utc_offset_h(on, rig.timezone)
    battery_v = next((store.volts for store in rig.stores if store.kind == "battery"), 12.0)
    spot = (round(where.lat, 1), round(where.lon, 1), on, offset_h)
    total = np.zeros(24)
    for array in rig.solar:
        total = total + _array_wh(array, spot, battery_v, round(mean_c), round(min_c))
    return total


@lru_cache(maxsize=4096)
def _plane(array: SolarArray, spot: tuple[float, float, date, float]) -> Floats:
    lat, lon, on, offset_h = spot
    plane = clear_sky_plane_w_m2(lat, lon, on, offset_h, array.tilt_deg, array.azimuth_deg, array.horizon_deg)
    plane.setflags(write=False)
    return plane


@lru_cache(maxsize=4096)
def _array_wh(
    array: SolarArray, spot: tuple[float, float, date, float], battery_v: float, mean_c: int, min_c: int
) -> Floats:
    power_w = array_power_w(_plane(array, spot), array.watts, air_c(mean_c, min_c))
    if array.controller_amps is not None:
        power_w = np.minimum(power_w, array.controller_amps * battery_v * figure("charging_v"))
    power_w.setflags(write=False)
    return power_w


def array_power_w(plane_w_m2: Floats, watts: float, air: Floats) -> Floats:
    """Power of an array, shape of ``plane_w_m2``. [W]

    Nameplate times irradiance, less 0.4 % a degree of the cells over 25 degrees C; cells stand over the air by the
    Ross coefficient times irradiance; then what the system leaves.
    """
    cell_c = air + figure("ross_c_m2_per_w") * plane_w_m2
    warm = 1 + figure("power_per_c") * (cell_c - 25.0)
    power: Floats = plane_w_m2 / 1000.0 * watts * warm * figure("system_share")
    return power


def reference_yield_h(rig: Rig, place: Place | None, on: date, share: float = 1.0) -> float:
    """Reference yield of a day: plane irradiation over 1 kW/m2 (IEC 61724-1), all arrays by their watts. [h]

    ``share`` is what the sky left of a clear day.
    """
    where = place or UNKNOWN_PLACE
    spot = (round(where.lat, 1), round(where.lon, 1), on, _utc_offset_h(on, rig.timezone))
    watts = sum(array.watts for array in rig.solar)
    if watts <= 0:
        return 0.0
    return share * sum(array.watts * float(_plane(array, spot).sum()) / 1000.0 for array in rig.solar) / watts


def final_yield_h(solar_wh: float, watts: float) -> float:
    """Final yield of a day: energy over nameplate (IEC 61724-1), kWh a kW. [h]"""
    return solar_wh / watts


def performance_ratio(final_h: float, reference_h: float) -> float:
    """Final yield over reference yield (IEC 61724-1)."""
    return final_h / reference_h


def local_midnight(on: date, timezone: str) -> datetime:
    """The local midnight that begins a date, in UTC."""
    return datetime.combine(on, time(0), tzinfo=ZoneInfo(timezone)).astimezone(UTC)
