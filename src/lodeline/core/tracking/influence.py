"""What moves a store in one day, hour by hour."""

import numpy as np

from lodeline.core.statistics import Floats
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS

CLOCK: Floats = np.arange(HOURS)


@dataclass(frozen=True, slots=True, kw_only=True)
class DayInfluence:
    """What moves a store in one day, hour by hour, signed (a drain is negative).

    ``hourly`` is per unit of each driver's coefficient, shape (24, k), where ``known`` does not take its place: what
    was measured, shape (24,), with ``known_sd`` for the whole day. ``expected``: ``hourly`` as if nothing had been
    measured. ``cv`` the day-to-day spread of each driver on this day where it differs from the model's, shape (k,).
    """

    hourly: Floats
    expected: Floats
    known: Floats
    known_sd: float
    cv: Floats | None = None


def hours_before(until_h: float) -> Floats:
    """Share of each day hour that lies before ``until_h``. Shape (24,)."""
    return np.clip(until_h - CLOCK, 0.0, 1.0)


def hours_between(from_h: float, until_h: float) -> Floats:
    """Share of each day hour that lies between two. Shape (24,)."""
    share: Floats = np.clip(np.minimum(CLOCK + 1, until_h) - np.maximum(CLOCK, from_h), 0.0, 1.0)
    return share


def over_hours(amount: float, shape: Floats) -> Floats:
    """An amount over the hours, by their shape. Shape (24,)."""
    total = shape.sum()
    return amount * shape / total if total > 0 else np.full(len(CLOCK), amount / HOURS)
