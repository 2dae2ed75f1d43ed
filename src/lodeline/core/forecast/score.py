"""How forecasts that were shown turned out: what came true, how far off, and what that says of the spread."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import pairwise
from statistics import NormalDist

import numpy as np

from lodeline.core.energy.sun import Floats
from lodeline.core.rig import Sense
from lodeline.core.tracking.track import Tracked

HORIZON_DAYS = 14.0
# Worth of common sense, in outcomes, before a rig's own record moves its spread.
_PRIOR_OUTCOMES = 20.0
_WANTED = 0.8
_EASED = 0.12


@dataclass(frozen=True, slots=True)
class Shown:
    """A forecast as it was shown. Days from ``at``; None lies beyond the horizon."""

    store: str
    at: datetime
    p10_days: float | None
    p50_days: float | None
    p90_days: float | None
    pencil_days: float | None = None


@dataclass(frozen=True, slots=True)
class Outcome:
    """What came true. ``kind``: reached (the line), stopped (served before it: later than ``days``) or beyond."""

    kind: str
    days: float


def judge(shown: Shown, tracked: Tracked, now: datetime) -> Outcome | None:
    """The outcome of a shown forecast from what is known by now, or None while it is open.

    A stop that served the store before its line says only that the line would have come later (a censored
    observation).
    """
    store = tracked.store
    end = shown.at + timedelta(days=HORIZON_DAYS)
    before = None
    for point in tracked.history:
        if point.at <= shown.at:
            before = point
            continue
        days = (point.at - shown.at) / timedelta(days=1)
        if point.at > end:
            return Outcome("beyond", HORIZON_DAYS)
        served = before is not None and (before.level - point.level) * store.sign > 0.1 * store.capacity
        if point.cause == "event" and served:
            return Outcome("stopped", days)
        if (point.level - store.line_level) * store.sign >= 0:
            return Outcome("reached", days)
        before = point
    return Outcome("beyond", HORIZON_DAYS) if now > end else None


def held(shown: Shown, outcome: Outcome) -> bool | None:
    """Whether the 8-in-10 range held; None where the outcome does not decide it."""
    low = shown.p10_days if shown.p10_days is not None else HORIZON_DAYS
    high = shown.p90_days if shown.p90_days is not None else HORIZON_DAYS
    if outcome.kind == "reached":
        return low <= outcome.days <= high
    if outcome.kind == "beyond":
        return high >= HORIZON_DAYS
    return False if outcome.days > high else None


def spread_factor(record: Sequence[tuple[Shown, Outcome]]) -> float:
    """How much wider or narrower the ranges of a rig's store should be by its record, cautiously.

    The share that held, drawn toward 8 in 10 by twenty outcomes of common sense, as a ratio of normal half-widths.
    """
    decided = [kept for shown, outcome in record if (kept := held(shown, outcome)) is not None]
    share = (_PRIOR_OUTCOMES * _WANTED + sum(decided)) / (_PRIOR_OUTCOMES + len(decided))
    share = float(np.clip(share, _WANTED - _EASED, _WANTED + _EASED))
    half = NormalDist().inv_cdf((1 + share) / 2)
    return NormalDist().inv_cdf((1 + _WANTED) / 2) / half


def pinball(share: float, quantile: float, truth: float) -> float:
    """Pinball loss of a quantile (Gneiting and Raftery 2007)."""
    return float((share - (truth < quantile)) * (truth - quantile))


def crps(draws: Floats, truth: float) -> float:
    """Continuous ranked probability score of draws, shape (n,).

    E|X - y| - E|X - X'| / 2 (Gneiting and Raftery 2007).
    """
    ordered = np.sort(draws)
    n = len(ordered)
    spread = 2 * float(np.sum((2 * np.arange(1, n + 1) - n - 1) * ordered)) / n**2
    return float(np.mean(np.abs(ordered - truth))) - spread / 2


def pencil_days(tracked: Tracked) -> float | None:
    """What last reading over last week's use would say. None without two readings or without use. [day]"""
    store = tracked.store
    readings = [p for p in tracked.seen if p.value is not None]
    if not readings:
        return None
    last = readings[-1]
    recent = [p for p in readings if last.at - p.at <= timedelta(days=7)]
    used, days = 0.0, 0.0
    for earlier, later in pairwise(recent):
        if later.resets == earlier.resets and later.value is not None and earlier.value is not None:
            used += (later.value - earlier.value) * store.sign
            days += (later.at - earlier.at) / timedelta(days=1)
    room = (store.line_level - (last.value or 0.0)) * (1 if store.sense is Sense.FILLS else -1)
    if days < 0.5 or used <= 0:
        return None
    return max(0.0, room) / (used / days)
