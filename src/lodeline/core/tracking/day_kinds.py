"""Which kinds of days the log lets one tell apart in water use, and how often each comes."""

from collections import Counter
from collections.abc import Iterable

from lodeline.core.catalogue import DAY_KINDS, DayKind, ToldBy
from lodeline.core.conditions import SATURDAY
from lodeline.core.figures import Use, Water
from lodeline.core.log import Day, Log
from lodeline.core.rig import Habit
from lodeline.core.values import dataclass

_ROUNDED, _WEEK = 3, 7  # digits; days


@dataclass(frozen=True, slots=True, kw_only=True)
class KnownDayKinds:
    """``ids`` are the kinds with a coefficient of their own; ``per_day`` how often each comes in a day of late.

    ``not_on``: the weekdays on which a kind is done ashore; ``by_habit``: those that are done as the crew said, and not
    logged.
    """

    ids: tuple[str, ...] = ()
    per_day: tuple[float, ...] = ()
    not_on: tuple[frozenset[int], ...] = ()
    by_habit: frozenset[str] = frozenset()

    def usual(self, kind: str) -> float:
        """How often a kind comes in a day; 0 where it is not told apart."""
        return self.per_day[self.ids.index(kind)] if kind in self.ids else 0.0

    def usual_on(self, kind: str, weekday: int) -> float:
        """How often it comes on a weekday to come."""
        if kind not in self.ids:
            return 0.0
        off = self.not_on[self.ids.index(kind)] if self.not_on else frozenset()
        if weekday in off:
            return 0.0
        return self.usual(kind) * _WEEK / max(1, _WEEK - len(off))


NO_DAY_KINDS = KnownDayKinds()


def known_day_kinds(log: Log, habits: Iterable[Habit] = ()) -> KnownDayKinds:
    """What the log supports: a kind that was seen often enough, beside enough other days.

    What a crew said that it does is told apart where the log has most of it; else its days are like any other.
    """
    said = {each.activity.event: each for each in habits if each.activity.event}
    kinds = [kind for kind in DAY_KINDS.values() if _supported(log, kind) and _is_logged(log, kind, said.get(kind.id))]
    recent = log.days[-Use.kinds_recent_days :]
    often = [round(sum(_times(day, kind) for day in recent) / len(recent), _ROUNDED) for kind in kinds]
    # done ashore on some days, and not logged on the others: the weekdays tell those apart
    unlogged = [kind for kind in DAY_KINDS.values() if kind not in kinds and kind.id in said and said[kind.id].not_on]
    return KnownDayKinds(
        ids=tuple(kind.id for kind in (*kinds, *unlogged)),
        per_day=(*often, *(said[kind.id].usual_per_day for kind in unlogged)),
        not_on=tuple(said[kind.id].not_on if kind.id in said else frozenset() for kind in (*kinds, *unlogged)),
        by_habit=frozenset(kind.id for kind in unlogged),
    )


def _is_logged(log: Log, kind: DayKind, habit: Habit | None) -> bool:
    """Whether the log has enough of what a crew does by habit for the other days to be days without it."""
    if habit is None or habit.per_day <= 0:
        return True
    recent = log.days[-Use.kinds_recent_days :]
    return sum(_times(day, kind) for day in recent) / len(recent) >= Water.logged_share * habit.per_day


def _times(day: Day, kind: DayKind) -> float:
    """How often a kind came on a day."""
    match kind.told_by:
        case ToldBy.WEEKEND:
            return float(day.date.weekday() >= SATURDAY)
        case ToldBy.STATUS:
            return float(day.status is kind.status)
        case ToldBy.EVENTS:
            return sum(event.count or 1 for event in day.events if event.type == kind.event)


def _supported(log: Log, kind: DayKind) -> bool:
    """Whether enough days had a kind, and enough had it more or less often than most."""
    often: Counter[float] = Counter()
    for day in reversed(log.days[-Use.kinds_look_back_days :]):
        often[_times(day, kind)] += 1
        n = often.total()
        if n - often[0] >= kind.enough and n - often.most_common(1)[0][1] >= kind.enough:
            return True
    return False
