"""A bottle on a cold night: what of it cannot be used, and whether it gives enough."""

from lodeline.core.energy.vapour import least_c, locked_kg, propane_share, share_left, withdrawal_kg_per_h
from lodeline.core.rig import Appliance, Store
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass


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
