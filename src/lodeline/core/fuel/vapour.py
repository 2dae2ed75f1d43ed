"""Gas in the cold: vapour pressure, what of a bottle cannot be used, and how fast a cold bottle gives gas.

Vapour pressure by Antoine's equation, log10 p = A - B / (T + C); of a mix by Raoult's law. The lighter part boils off
first (Rayleigh distillation), so that a mixed bottle ends as butane.
"""

import numpy as np

from lodeline.core.figures import Fuel, Numeric
from lodeline.core.rig import Appliance, Store
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass

_ZERO_K = 273.15  # of the Celsius scale
# where a boiling point is looked for, by so many halvings
_COLDEST_C, _WARMEST_C, _STEPS = -60.0, 50.0, 60


def _antoine_bar(constants: tuple[float, float, float], kelvin: float) -> float:
    a, b, c = constants
    return float(10 ** (a - b / (kelvin + c)))  # the equation is in decimal logarithms


def propane_bar(celsius: float) -> float:
    """Vapour pressure of propane. [bar]"""
    kelvin = celsius + _ZERO_K
    is_cold = kelvin < Fuel.propane_parts_k
    return _antoine_bar(Fuel.propane_antoine_cold if is_cold else Fuel.propane_antoine, kelvin)


def butane_bar(celsius: float) -> float:
    """Vapour pressure of n-butane. [bar]"""
    kelvin = celsius + _ZERO_K
    is_cold = kelvin < Fuel.butane_parts_k
    return _antoine_bar(Fuel.butane_antoine_cold if is_cold else Fuel.butane_antoine, kelvin)


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


@dataclass(frozen=True, slots=True, kw_only=True)
class ColdBottle:
    """A bottle on a cold night. ``locked_kg``: cannot be used at ``low_c``; ``gives_kg_per_h`` for long, against
    ``wants_kg_per_h``, what all that burns from it takes at its full rate; ``least_c``: what is in it burns down to."""

    store: Store
    low_c: float
    contents_kg: float
    locked_kg: float
    least_c: float
    gives_kg_per_h: float
    wants_kg_per_h: float

    @property
    def burns(self) -> bool:
        """Whether anything of it burns that night."""
        return self.locked_kg < self.contents_kg

    @property
    def is_weak(self) -> bool:
        """Whether it gives less than what burns from it wants."""
        return self.burns and self.gives_kg_per_h < self.wants_kg_per_h


def cold_bottle(tracked: Tracked, burners: tuple[Appliance, ...], low_c: float) -> ColdBottle:
    """A bottle that stands in the cold at a night's lowest; inside it is as warm as the rig."""
    store, level = tracked.store, tracked.level
    heaters = [each for each in burners if each.kind.by_cold] or list(burners)
    wants = max((each.full_kw for each in heaters), default=0.0) / store.kwh_per_unit
    return ColdBottle(
        store=store,
        low_c=low_c,
        contents_kg=level,
        locked_kg=locked_kg(store, level, low_c),
        least_c=least_c(share_left(propane_share(store), min(1.0, level / store.capacity))),
        gives_kg_per_h=withdrawal_kg_per_h(store, level, low_c),
        wants_kg_per_h=wants,
    )


def litres(store: Store, kg: float) -> float:
    """Liquid gas by volume, of a fixed tank. [L]"""
    return kg / store.liquid_kg_per_l
