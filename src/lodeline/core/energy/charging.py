"""What a bank takes from a charger: bulk current, then a falling one."""

import numpy as np

from lodeline.core.energy import bank
from lodeline.core.rig import Store


def hours_to_reach(store: Store, level_ah: float, target_ah: float, amps: float) -> float:
    """Hours that a charger needs to a level; inf where it never gets there. [h]

    The charger's current or the most that the cells accept, times the coulombic efficiency, until the room left over
    the taper's time constant is less; from there an exponential approach to full.
    """
    kind = bank.cells(store)
    current = min(amps, kind.accepts_c * store.capacity) * kind.coulombic
    wanted = target_ah - level_ah
    if wanted <= 0:
        return 0.0
    if current <= 0 or target_ah >= store.capacity:
        return float("inf")
    room = store.capacity - level_ah
    bulk_h = max(0.0, (room - current * kind.taper_h) / current)
    if wanted <= current * bulk_h:
        return wanted / current
    left = room - current * bulk_h
    return float(bulk_h + kind.taper_h * np.log(left / (store.capacity - target_ah)))
