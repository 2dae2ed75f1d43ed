"""What the arrays yield under a clear sky, hour by hour, and the terms in which arrays are judged."""

from datetime import date
from functools import lru_cache

import numpy as np

from lodeline.core.energy import bank
from lodeline.core.energy.air import air_c
from lodeline.core.energy.sun import Location, clear_plane_w_m2
from lodeline.core.figures import Energy, Numeric, Use
from lodeline.core.log import Place
from lodeline.core.rig import Rig, SolarArray
from lodeline.core.statistics import Floats
from lodeline.core.zone import HOURS, city_of

# Places within a tenth of a degree have the same sun.
_PLACE_DIGITS = 1
# Irradiance of standard test conditions. [W/m2]
RATED_W_M2 = 1000.0
DEG_PER_HOUR = 15.0


def spot_of(rig: Rig, place: Place | None, on: date) -> Location:
    """Where a day was spent; where nothing was logged, the city of the rig's timezone."""
    if place is None and (city := city_of(rig.timezone)) is not None:
        return Location(round(city.lat, _PLACE_DIGITS), round(city.lon, _PLACE_DIGITS), rig.zone)
    if place is None:
        return Location(Energy.unknown_lat, rig.zone.offset_h(on) * DEG_PER_HOUR, rig.zone)
    return Location(round(place.lat, _PLACE_DIGITS), round(place.lon, _PLACE_DIGITS), rig.zone)


def clear_yield_wh(
    rig: Rig,
    place: Place | None,
    on: date,
    mean_c: float = Use.unknown_mean_c,
    min_c: float = Use.unknown_mean_c - Use.half_swing_c,
) -> Floats:
    """Clear-sky yield of all arrays in each day hour, before the learned factor. Shape (24,). [Wh]

    Plane irradiance times watts times what the system and warm cells leave, cut at what each controller passes.
    """
    charging_v = bank.charging_volts(rig.banks[0]) if rig.banks else Energy.charging_v
    spot = spot_of(rig, place, on)
    total = np.zeros(int(HOURS))
    for array in rig.solar:
        total = total + _array_wh(array, spot, on, charging_v, round(mean_c), round(min_c))
    return total


def _plane(array: SolarArray, spot: Location, on: date) -> Floats:
    return clear_plane_w_m2(spot, on, array.tilt_deg, array.azimuth_deg, array.horizon_deg)


@lru_cache(maxsize=Numeric.cache_days)
def _array_wh(array: SolarArray, spot: Location, on: date, charging_v: float, mean_c: int, min_c: int) -> Floats:
    power_w = array_power_w(_plane(array, spot, on), array.watts, air_c(mean_c, min_c))
    if array.controller_amps is not None:
        power_w = np.minimum(power_w, array.controller_amps * charging_v)
    yield_wh: Floats = power_w * _day_hour_h(spot, on)
    yield_wh.setflags(write=False)
    return yield_wh


def _day_hour_h(spot: Location, on: date) -> float:
    """Length of a day hour: 1, but where the clocks change. [h]"""
    return spot.zone.length_h(on) / HOURS


def array_power_w(plane_w_m2: Floats, watts: float, air: Floats) -> Floats:
    """Power of an array, shape of ``plane_w_m2``. [W]

    Nameplate times irradiance, less 0.4 % a degree of the cells over 25 degrees C; cells stand over the air by the
    Ross coefficient times irradiance; then what the system leaves.
    """
    cell_c = air + Energy.ross_c_m2_per_w * plane_w_m2
    warm = 1 + Energy.power_per_c * (cell_c - Energy.cell_rated_c)
    power: Floats = plane_w_m2 / RATED_W_M2 * watts * warm * Energy.system_share
    return power


def reference_yield_h(rig: Rig, place: Place | None, on: date, share: float = 1.0) -> float:
    """Reference yield of a day: plane irradiation over 1 kW/m2 (IEC 61724-1), all arrays by their watts. [h]

    ``share`` is what the sky left of a clear day.
    """
    spot = spot_of(rig, place, on)
    watts = sum(array.watts for array in rig.solar)
    if watts <= 0:
        return 0.0
    weighted = sum(array.watts * float(_plane(array, spot, on).sum()) for array in rig.solar) / watts
    return share * weighted * _day_hour_h(spot, on) / RATED_W_M2


def final_yield_h(solar_wh: float, watts: float) -> float:
    """Final yield of a day: energy over nameplate (IEC 61724-1), kWh a kW. [h]"""
    return solar_wh / watts


def performance_ratio(final_h: float, reference_h: float) -> float:
    """Final yield over reference yield (IEC 61724-1)."""
    return final_h / reference_h
