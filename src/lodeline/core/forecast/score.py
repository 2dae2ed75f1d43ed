"""How forecasts that were shown turned out: what came true, how far off, and what that says of the spread."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from enum import StrEnum
from itertools import pairwise
from statistics import mean

from lodeline.core.catalogue import Sense
from lodeline.core.figures import Forecasting
from lodeline.core.tracking.hypothesis import Cause
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass

_DAY = timedelta(days=1)
HORIZON_DAYS = float(Forecasting.horizon_days)


@dataclass(frozen=True, slots=True, kw_only=True)
class Issued:
    """A forecast as it was shown. Days from ``at``; None lies beyond the horizon. ``baseline_days``: what last reading
    over last week's use said."""

    store: str
    at: datetime
    p10_days: float | None
    p50_days: float | None
    p90_days: float | None
    baseline_days: float | None = None


class OutcomeKind(StrEnum):
    """What came true: the line was reached; a stop served the store before it; neither within the horizon."""

    REACHED = "reached"
    STOPPED = "stopped"
    BEYOND = "beyond"


@dataclass(frozen=True, slots=True)
class Outcome:
    """What came true, and when. A stop says only that the line would have come later than ``days``."""

    kind: OutcomeKind
    days: float


Record = Sequence[tuple[Issued, Outcome]]


def judge(issued: Issued, tracked: Tracked, now: datetime) -> Outcome | None:
    """The outcome of a shown forecast from what is known by now, or None while it is open.

    A stop that served the store before its line says only that the line would have come later (a censored
    observation).
    """
    store = tracked.store
    end = issued.at + timedelta(days=HORIZON_DAYS)
    before = None
    for point in tracked.history:
        if point.at <= issued.at:
            before = point
            continue
        days = (point.at - issued.at) / _DAY
        if point.at > end:
            return Outcome(OutcomeKind.BEYOND, HORIZON_DAYS)
        if point.cause is Cause.LOST:
            return Outcome(OutcomeKind.STOPPED, 0.0)
        moved = (before.level - point.level) * store.sign if before is not None else 0.0
        if point.cause is Cause.EVENT and moved > Forecasting.served * store.capacity:
            return Outcome(OutcomeKind.STOPPED, days)
        if (point.level - store.line_level) * store.sign >= 0:
            return Outcome(OutcomeKind.REACHED, days)
        before = point
    return Outcome(OutcomeKind.BEYOND, HORIZON_DAYS) if now > end else None


def held(issued: Issued, outcome: Outcome) -> bool | None:
    """Whether the 8-in-10 range held; None where the outcome does not decide it."""
    low = issued.p10_days if issued.p10_days is not None else HORIZON_DAYS
    high = issued.p90_days if issued.p90_days is not None else HORIZON_DAYS
    match outcome.kind:
        case OutcomeKind.REACHED:
            return low <= outcome.days <= high
        case OutcomeKind.BEYOND:
            return high >= HORIZON_DAYS
        case OutcomeKind.STOPPED:
            return False if outcome.days > high else None


def decided(record: Record) -> list[bool]:
    """Whether each range held whose end is known."""
    return [each for issued, outcome in record if (each := held(issued, outcome)) is not None]


class Judgement(StrEnum):
    """What a record says of the ranges."""

    TOO_FEW = "too-few"
    FITTING = "fitting"
    NARROW = "narrow"
    WIDE = "wide"


@dataclass(frozen=True, slots=True, kw_only=True)
class RecordSummary:
    """A record in figures: ranges decided, how many of them held, forecasts still open."""

    decided: int
    held: int
    still_open: int

    @property
    def share(self) -> float:
        """Share of the decided ranges that held."""
        return self.held / self.decided if self.decided else 0.0

    @property
    def judgement(self) -> Judgement:
        """What that says of the ranges."""
        if self.decided < Forecasting.judged_from:
            return Judgement.TOO_FEW
        if Forecasting.judged_narrow <= self.share <= Forecasting.judged_wide:
            return Judgement.FITTING
        return Judgement.NARROW if self.share < Forecasting.judged_narrow else Judgement.WIDE


def summed(record: Record, still_open: int) -> RecordSummary:
    """Count a record."""
    known = decided(record)
    return RecordSummary(decided=len(known), held=sum(known), still_open=still_open)


@dataclass(frozen=True, slots=True, kw_only=True)
class Notice:
    """How far off the days were at about so many days' notice, where the line was reached. [day]"""

    notice_days: int
    n: int
    off_days: float | None
    baseline_off_days: float | None


def by_notice(record: Record) -> list[Notice]:
    """The misses by how long before the line the forecast was shown."""
    return [_notice(days, low, high, record) for days, low, high in Forecasting.notices]


def _notice(days: int, low: float, high: float, record: Record) -> Notice:
    reached = [(i, o) for i, o in record if o.kind is OutcomeKind.REACHED and low < o.days <= high]
    ours = [abs((i.p50_days if i.p50_days is not None else HORIZON_DAYS) - o.days) for i, o in reached]
    baseline = [abs(min(HORIZON_DAYS, i.baseline_days) - o.days) for i, o in reached if i.baseline_days is not None]
    return Notice(
        notice_days=days,
        n=len(ours),
        off_days=mean(ours) if ours else None,
        baseline_off_days=mean(baseline) if baseline else None,
    )


def baseline_days(tracked: Tracked) -> float | None:
    """What last reading over last week's use would say. None without two readings or without use. [day]"""
    store = tracked.store
    readings = [each for each in tracked.compared if each.value is not None]
    if not readings:
        return None
    last = readings[-1]
    recent = [each for each in readings if last.at - each.at <= timedelta(days=Forecasting.baseline_days)]
    used, days = 0.0, 0.0
    for earlier, later in pairwise(recent):
        if later.resets == earlier.resets and later.value is not None and earlier.value is not None:
            used += (later.value - earlier.value) * store.sign
            days += (later.at - earlier.at) / _DAY
    room = (store.line_level - (last.value or 0.0)) * (1 if store.sense is Sense.FILLS else -1)
    if days < 0.5 or used <= 0:
        return None
    return max(0.0, room) / (used / days)
