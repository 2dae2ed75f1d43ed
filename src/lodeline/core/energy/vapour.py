"""Gas in the cold: vapour pressure, what of a bottle cannot be used, and how fast a cold bottle gives gas.

Vapour pressure by Wagner's equation, ln p/pc = (a t + b t^1.5 + c t^3 + d t^6) Tc/T with t = 1 - T/Tc (Wagner 1973);
of a mix by Raoult's law. The lighter part boils off first (Rayleigh distillation), so that a mixed bottle ends as
butane.
"""

from functools import lru_cache
from math import exp

import numpy as np

from lodeline.core.figures import Fuel, Numeric
from lodeline.core.rig import Store
from lodeline.core.statistics import Floats

_ZERO_K = 273.15  # of the Celsius scale
# where a boiling point is looked for, by so many halvings
_COLDEST_C, _WARMEST_C, _STEPS = -60.0, 50.0, 60


def _wagner_bar(constants: tuple[float, ...], celsius: float) -> float:
    critical_k, critical_bar, *factors = constants
    reduced = min(1.0, (celsius + _ZERO_K) / critical_k)
    tau = 1 - reduced
    terms = zip(factors, _POWERS, strict=True)
    return critical_bar * exp(sum(factor * tau**power for factor, power in terms) / reduced)


_POWERS = (1.0, 1.5, 3.0, 6.0)  # of Wagner's equation


def propane_bar(celsius: float) -> float:
    """Vapour pressure of propane. [bar]"""
    return _wagner_bar(Fuel.propane_wagner, celsius)


def butane_bar(celsius: float) -> float:
    """Vapour pressure of n-butane. [bar]"""
    return _wagner_bar(Fuel.butane_wagner, celsius)


def mix_bar(propane_share: float, celsius: float) -> float:
    """Vapour pressure of a mix with such a share of propane (Raoult; shares by weight for those by moles). [bar]"""
    return propane_share * propane_bar(celsius) + (1 - propane_share) * butane_bar(celsius)


def least_c(propane_share: float, over_bar: float = 0.0) -> float:
    """The temperature under which such a mix gives no vapour over the air's pressure. [degC]"""
    low, high = _COLDEST_C, _WARMEST_C
    for _ in range(_STEPS):
        middle = (low + high) / 2
        low, high = (low, middle) if mix_bar(propane_share, middle) > Fuel.air_bar + over_bar else (middle, high)
    return high


def _share_to_burn(celsius: float) -> float:
    """The least share of propane that still gives vapour; over 1 where none does."""
    heavy, light = butane_bar(celsius), propane_bar(celsius)
    share: float = (Fuel.air_bar - heavy) / (light - heavy)
    return share


def _left_at(share: float, start: float, celsius: float) -> float:
    """Part of a full bottle that is left once its share of propane has fallen from ``start`` (Rayleigh, constant
    relative volatility)."""
    alpha = propane_bar(celsius) / butane_bar(celsius)
    share = float(np.clip(share, Numeric.small, start))
    log_left = (np.log(share / start) + alpha * np.log((1 - start) / (1 - share))) / (alpha - 1)
    return float(np.exp(log_left))


def share_left(start: float, left: float, celsius: float = Fuel.drawn_at_c) -> float:
    """Share of propane in what is left of a mixed bottle. ``left``: part of the full contents."""
    if start <= 0 or start >= 1:
        return start
    low, high = 0.0, start
    for _ in range(_STEPS):
        middle = (low + high) / 2
        low, high = (low, middle) if _left_at(middle, start, celsius) > left else (middle, high)
    return (low + high) / 2


def propane_share(store: Store) -> float:
    """Share of propane in a bottle when it was filled."""
    contents = store.fuel or store.kind.contents[0].id
    if contents == "mix":
        return Fuel.mix_propane if store.propane_share is None else store.propane_share
    return float(contents == "propane")


def locked_kg(store: Store, contents_kg: float, celsius: float) -> float:
    """What of a bottle's contents cannot be used at a temperature: all of it, or what is left when its propane is gone.
    [kg]"""
    start = propane_share(store)
    now = share_left(start, min(1.0, contents_kg / store.capacity))
    needs = _share_to_burn(celsius)
    if needs <= 0:
        return 0.0
    if needs >= now:
        return contents_kg
    if start >= 1:
        return 0.0
    rest = _left_at(needs, start, celsius) / max(_left_at(now, start, celsius), Numeric.tiny)
    return float(min(1.0, rest)) * contents_kg


def stands_in_frost(store: Store) -> bool:
    """Whether a bottle's contents may be locked in by the cold: it stands outside, or nobody said where, and not all of
    it is propane."""
    return store.is_gas and store.outside is not False and propane_share(store) < 1


def line_in_cold(store: Store, celsius: Floats) -> Floats:
    """Contents at which a bottle that stands at a temperature gives no more than its line leaves, any shape. [kg]"""
    start = propane_share(store)
    shares = np.array([_line_share(start, store.fuel or "", store.line, float(each)) for each in _COLD_C])
    found: Floats = np.interp(celsius, _COLD_C, shares) * store.capacity
    return found


@lru_cache(maxsize=Numeric.cache_days)
def _line_share(start: float, fuel: str, line: float, celsius: float) -> float:
    """The same as a share of a full bottle: the largest of which what can be used is no more than its line leaves."""
    needs = _share_to_burn(celsius)
    if needs <= 0:
        return line
    if needs >= start:
        return 1.0
    for left in np.linspace(1.0, line, _STEPS):
        rest = _left_at(needs, start, celsius) / max(_left_at(share_left(start, left), start, celsius), Numeric.tiny)
        if left * (1 - min(1.0, rest)) <= line:
            return float(left)
    return line


_COLD_C = np.linspace(-45.0, 5.0, 101)  # half degrees, from where propane boils to where butane does


def withdrawal_kg_per_h(store: Store, contents_kg: float, celsius: float) -> float:
    """How fast a bottle can boil off gas for long: heat through its wetted wall from the air over what boiling takes.
    Common practice: a cold or nearly empty bottle gives less. [kg/h]"""
    boils_c = least_c(share_left(propane_share(store), min(1.0, contents_kg / store.capacity)), Fuel.frost_bar)
    wet = _BOTTOM + (1 - _BOTTOM) * contents_kg / store.capacity
    wall: float = Fuel.wall_m2_per_kg * store.capacity**_SURFACE * wet
    return max(0.0, Fuel.wall_w_per_m2k * wall * (celsius - boils_c) / Fuel.latent_wh_per_kg)


# The bottom of a bottle is wet to the end.
_BOTTOM = 0.25
# Wall goes by the volume to the two thirds.
_SURFACE = 2 / 3


def litres(store: Store, kg: float) -> float:
    """Liquid gas by volume, of a fixed tank. [L]"""
    return kg / store.liquid_kg_per_l
