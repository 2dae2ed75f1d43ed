"""Hot water: what a heater gives at the tap, and how long a shower lasts."""

from lodeline.core.figures import Water
from lodeline.core.rig import Rig
from lodeline.core.values import dataclass
from lodeline.core.zone import MIN_PER_H


@dataclass(frozen=True, slots=True, kw_only=True)
class HotWater:
    """What a full heater gives. ``tap_l``: water at the temperature of a shower; ``minutes``: of shower; ``heat_wh``:
    what heating it takes; ``reheat_min``: by its element, None where nobody said. ``shower_l``: one shower by flow and
    minutes. [L, min, Wh]"""

    tap_l: float
    minutes: float
    heat_wh: float
    reheat_min: float | None
    shower_l: float


def mixed_l(heater_l: float, heater_c: float, cold_c: float, wanted_c: float) -> float:
    """Water at a wanted temperature from a heater's, mixed with cold: litres x (hot - cold) / (wanted - cold). [L]

    The balance of heat of two amounts of water; below the wanted temperature there is none.
    """
    return heater_l * (heater_c - cold_c) / (wanted_c - cold_c) if heater_c >= wanted_c else 0.0


def shower_l(l_per_min: float, minutes: float) -> float:
    """A shower's litres: flow times minutes with the water on. [L]"""
    return l_per_min * minutes


def heat_wh(litres: float, from_c: float, to_c: float) -> float:
    """Heat that warms water: litres x specific heat x difference. [Wh]"""
    return max(0.0, litres * Water.wh_per_l_degc * (to_c - from_c))


def hot_water(rig: Rig) -> HotWater | None:
    """What the rig's heater gives; None where there is none."""
    gear = rig.water
    if gear.heater_l is None:
        return None
    hot = gear.heater_c or Water.heater_c
    flow = gear.head_l_per_min or Water.head_l_per_min
    tap = mixed_l(gear.heater_l, hot, Water.cold_c, Water.hot_c)
    heat = heat_wh(gear.heater_l, Water.cold_c, hot)
    reheat = MIN_PER_H * heat / gear.heater_w if gear.heater_w else None
    return HotWater(
        tap_l=tap,
        minutes=tap / flow,
        heat_wh=heat,
        reheat_min=reheat,
        shower_l=shower_l(flow, gear.shower_min or Water.usual_minutes),
    )
