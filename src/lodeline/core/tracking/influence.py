"""What moves a store in one day, hour by hour."""

from dataclasses import dataclass

import numpy as np

from lodeline.core.energy.sun import Floats


@dataclass(frozen=True, slots=True)
class DayInfluence:
    """What moves a store in one day, hour by hour, signed (a drain is negative).

    ``hourly`` is per unit of each driver's coefficient, shape (24, k); ``known`` is what was measured, shape (24,),
    with ``known_sd`` for the whole day; ``cv`` the day-to-day spread of each driver on
    this day where it differs from the model's, shape (k,).
    """

    hourly: Floats
    known: Floats
    known_sd: float
    cv: Floats | None = None


def hours_before(until_h: float) -> Floats:
    """Share of each clock hour that lies before ``until_h``. Shape (24,)."""
    return np.clip(until_h - np.arange(24), 0.0, 1.0)


def spread(amount: float, shape: Floats) -> Floats:
    """An amount over the hours, by their shape. Shape (24,)."""
    total = shape.sum()
    return amount * shape / total if total > 0 else np.full(24, amount / 24.0)
