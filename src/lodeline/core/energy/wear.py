"""How a bank has been used: full cycles, how deep, how often below its line, how long since it was full."""

from collections.abc import Sequence
from datetime import date, datetime, timedelta
from itertools import pairwise

import numpy as np

from lodeline.core.figures import Energy
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS, Zone


@dataclass(frozen=True, slots=True, kw_only=True)
class Wear:
    """``cycles``: amp-hours drawn over capacity. ``depths``: the deepest discharge of each day as a share of
    capacity, its median and worst. ``below``: days on which the level went under the line."""

    days: float
    cycles: float
    median_depth: float
    worst_depth: float
    below: int
    last_full: datetime | None


def wear(points: Sequence[tuple[datetime, float]], capacity: float, line_ah: float, zone: Zone) -> Wear:
    """Count from the level as tracked, (time, Ah) in order.

    Raises
    ------
    ValueError
        Fewer than two points.
    """
    if len(points) < 2:
        raise ValueError("two points at least")
    drawn = sum(max(0.0, a[1] - b[1]) for a, b in pairwise(points))
    lows: dict[date, float] = {}
    for at, level in points:
        # a night belongs to the day that it follows
        on = zone.date(at - timedelta(hours=HOURS / 2))
        lows[on] = min(lows.get(on, level), level)
    depths = [1 - low / capacity for low in lows.values()]
    full = [at for at, level in points if level >= Energy.full_from * capacity]
    return Wear(
        days=(points[-1][0] - points[0][0]) / timedelta(days=1),
        cycles=drawn / capacity,
        median_depth=float(np.median(depths)),
        worst_depth=max(depths),
        below=sum(low <= line_ah for low in lows.values()),
        last_full=max(full, default=None),
    )
