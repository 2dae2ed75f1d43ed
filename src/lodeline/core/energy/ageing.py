"""What a bank holds against its rating, as its own log shows it."""

from collections.abc import Iterable
from datetime import timedelta

import numpy as np

from lodeline.core.catalogue import Method
from lodeline.core.energy import bank
from lodeline.core.figures import Energy
from lodeline.core.log import Event, Log, Reading
from lodeline.core.rig import Store
from lodeline.core.statistics import Floats
from lodeline.core.values import dataclass

_DAY = timedelta(days=1)


@dataclass(frozen=True, slots=True)
class Holds:
    """Share of its rating that a bank holds, with its error, from so many days."""

    share: float
    sd: float
    days: int


def holds_share(store: Store, log: Log) -> Holds | None:
    """The share of its rating by the slope of what was measured over how the readings moved; None where that is unsure.

    Only days on which both what the array gave and what was drawn were logged, with readings about a day apart and
    nothing charged otherwise, and the bank not full: total least squares through the origin (Deming 1943), since both
    sides err alike.
    """
    moved, measured = _pairs(store, log)
    if len(moved) < Energy.ageing_days or np.square(measured).sum() < Energy.ageing_least**2 * len(measured):
        return None
    xx, yy, xy = float(measured @ measured), float(moved @ moved), float(measured @ moved)
    if xy <= 0:
        return None
    # the larger root of Deming's equation where both sides err alike
    slope = (yy - xx + np.sqrt((yy - xx) ** 2 + 4 * xy**2)) / (2 * xy)  # of a quadratic
    left = moved - slope * measured
    sd = float(np.sqrt(left @ left / (len(moved) - 1) / xx))
    share, error = 1 / slope, sd / slope**2
    if error > Energy.ageing_sd or not Energy.ageing_between[0] < share < Energy.ageing_between[1]:
        return None
    return Holds(float(share), float(error), len(moved))


def _pairs(store: Store, log: Log) -> tuple[Floats, Floats]:
    """Change of the state of charge as read, and net energy measured over the rating, a day each."""
    moved, measured = [], []
    before: Reading | None = None
    for day in log.days:
        reads = [each for each in day.readings if each.store == store.id and each.method is Method.FRACTION]
        last = reads[-1] if reads else None
        near = before is not None and last is not None and abs((last.at - before.at) / _DAY - 1) < Energy.ageing_near
        if near and day.solar_wh is not None and day.load_wh is not None and not _charged(day.events):
            assert before is not None
            assert last is not None
            was, now = before.value or 0.0, last.value or 0.0
            if max(was, now) < Energy.ageing_under:
                net = day.solar_wh - day.load_wh
                net *= bank.charge_efficiency(store) if net > 0 else 1.0
                moved.append(now - was)
                measured.append(net / store.capacity_wh)
        before = last
    return np.array(moved), np.array(measured)


def _charged(events: Iterable[Event]) -> bool:
    return any(event.hours for event in events)
