"""What is worth asking about a log: the few questions whose answers would change most, each once."""

from collections.abc import Iterable, Mapping
from datetime import date, datetime, timedelta
from itertools import pairwise

from lodeline.core.catalogue import Effect
from lodeline.core.figures import Forecasting, Tracking
from lodeline.core.forecast.forecast import Forecast
from lodeline.core.log import Log
from lodeline.core.rig import Store
from lodeline.core.tracking.hypothesis import Cause, Doubt, DoubtKind
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass
from lodeline.core.zone import Zone

_DAY = timedelta(days=1)
# What was forgotten lies before the reading that shows it.
_BEFORE = timedelta(minutes=1)
_STEPS = frozenset({DoubtKind.RISE, DoubtKind.FALL, DoubtKind.READING, DoubtKind.AGAINST})


def open_questions(
    tracked: Mapping[str, Tracked], ahead: Forecast, log: Log, zone: Zone, since: datetime
) -> list[Doubt]:
    """At most three doubts, the most useful first. ``since``: older ones are left alone.

    What does not fit right after days of which nothing was logged is one question, about those days.
    """
    doubts = [each for store in tracked.values() for each in store.doubts if each.at >= since]
    gap = last_gap(log, zone, ahead.at)
    if gap is not None:
        begins, ends = gap
        after = [each for each in doubts if ends <= each.at <= ends + _DAY and each.kind in _STEPS]
        first = min(after, key=lambda each: each.at, default=None)
        was_lost = [s.id for s in (t.store for t in tracked.values()) if _was_lost(tracked[s.id], begins, ends)]
        if first is not None or was_lost:
            doubts = [each for each in doubts if each not in after]
            store = first.store if first is not None else was_lost[0]
            doubts.append(Doubt(at=ends, store=store, kind=DoubtKind.GAP, since=begins))
    ranked = sorted(_once(doubts), key=lambda each: -_useful(each, tracked[each.store], ahead))
    return ranked[: Forecasting.most_questions]


def _was_lost(tracked: Tracked, begins: datetime, ends: datetime) -> bool:
    return any(point.cause is Cause.LOST and begins <= point.at <= ends for point in tracked.history)


def last_gap(log: Log, zone: Zone, now: datetime) -> tuple[datetime, datetime] | None:
    """The last run of dates of which nothing was logged, where it is over and not long ago."""
    written = [day.date for day in log.days if day.readings or day.events]
    oldest = zone.date(now) - timedelta(days=Tracking.gap_back_days)
    for before, after in reversed(list(pairwise(written))):
        if after < oldest:
            return None
        if (after - before).days > Tracking.gap_days:
            return zone.midnight(before + _DAY), _first_entry(log, after, zone)
    return None


def _first_entry(log: Log, on: date, zone: Zone) -> datetime:
    day = log.day(on)
    return min((entry.at for entry in day.entries()), default=zone.midnight(on)) if day else zone.midnight(on)


def _once(doubts: Iterable[Doubt]) -> list[Doubt]:
    """Of each store and kind the latest."""
    latest: dict[tuple[str, DoubtKind], Doubt] = {}
    for each in sorted(doubts, key=lambda doubt: doubt.at):
        latest[each.store, each.kind] = each
    return list(latest.values())


def _useful(doubt: Doubt, tracked: Tracked, ahead: Forecast) -> float:
    """How much an answer may change: more for what runs out first, for a larger step, for what is recent."""
    first = Forecasting.question_least + ahead.of(doubt.store).p_first
    size = min(1.0, abs(doubt.amount) / tracked.store.capacity) if doubt.kind is not DoubtKind.GAP else 1.0
    days_ago = (ahead.at - doubt.at) / _DAY
    return (
        doubt.weight
        * first
        * (Forecasting.question_least + size)
        / (1 + max(0.0, days_ago) / Forecasting.question_days)
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Forgotten:
    """Something that was done and not logged, and the latest time at which it can have been."""

    effect: Effect
    at: datetime


def forgotten(store: Store, doubt: Doubt) -> Forgotten | None:
    """What somebody may have done and not logged, such that it would explain a step; None where nothing would."""
    match doubt.kind:
        case DoubtKind.FALL if store.accepts(Effect.EMPTY):
            return Forgotten(effect=Effect.EMPTY, at=doubt.at - _BEFORE)
        case DoubtKind.RISE if store.accepts(Effect.FILL):
            return Forgotten(effect=Effect.FILL, at=doubt.at - _BEFORE)
        case _:
            return None
