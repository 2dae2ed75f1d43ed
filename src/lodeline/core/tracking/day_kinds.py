"""Which kinds of days the log lets one tell apart in water use, and how often each comes."""

from dataclasses import dataclass

from lodeline.core.catalogue import DAY_KINDS, DayKind, ToldBy
from lodeline.core.conditions import SATURDAY
from lodeline.core.figures import Use
from lodeline.core.log import Day, Log

_ROUNDED = 3


@dataclass(frozen=True, slots=True)
class KnownDayKinds:
    """``ids`` are the kinds with a coefficient of their own; ``per_day`` how often each comes in a day of late."""

    ids: tuple[str, ...] = ()
    per_day: tuple[float, ...] = ()

    def usual(self, kind: str) -> float:
        """How often a kind comes in a day; 0 where it is not told apart."""
        return self.per_day[self.ids.index(kind)] if kind in self.ids else 0.0


NO_DAY_KINDS = KnownDayKinds()


def known_day_kinds(log: Log) -> KnownDayKinds:
    """What the log supports: a kind that was seen often enough, beside enough other days."""
    kinds = [kind for kind in DAY_KINDS.values() if _supported(log, kind)]
    recent = log.days[-Use.kinds_recent_days :]
    often = (round(sum(_times(day, kind) for day in recent) / len(recent), _ROUNDED) for kind in kinds)
    return KnownDayKinds(tuple(kind.id for kind in kinds), tuple(often))


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
    """Whether enough days had a kind and enough had not; looks back only as far as it must."""
    with_it = without = 0
    for day in reversed(log.days[-Use.kinds_look_back_days :]):
        came = _times(day, kind) > 0
        with_it, without = with_it + came, without + (not came)
        if with_it >= kind.enough and without >= kind.enough:
            return True
    return False
