"""Which kinds of days the log lets one tell apart in water use, and how often each comes."""

from dataclasses import dataclass

from lodeline.core.log import Day, Log

# Days of a kind that must be logged before it gets a coefficient of its own (sim).
_ENOUGH = {"shower": 4, "laundry": 2, "weekend": 6, "hookup": 4, "moving": 6}
_RECENT_DAYS = 28
# Older days say nothing of how one lives now.
_LOOK_BACK_DAYS = 400


@dataclass(frozen=True, slots=True)
class DayKinds:
    """``told`` are the kinds with a coefficient of their own; ``per_day`` how often each comes in a day of late."""

    told: tuple[str, ...] = ()
    per_day: tuple[float, ...] = ()

    def usual(self, kind: str) -> float:
        """How often a kind comes in a day; 0 where it is not told apart."""
        return self.per_day[self.told.index(kind)] if kind in self.told else 0.0


NO_KINDS = DayKinds()


def day_kinds(log: Log) -> DayKinds:
    """What the log supports: a kind that was seen often enough, beside enough other days."""
    told = tuple(kind for kind in _ENOUGH if _supported(log, kind))
    recent = log.days[-_RECENT_DAYS:]
    return DayKinds(told, tuple(round(sum(_times(day, kind) for day in recent) / len(recent), 3) for kind in told))


def _times(day: Day, kind: str) -> float:
    """How often a kind came on a day."""
    match kind:
        case "weekend":
            return float(day.date.weekday() >= 5)
        case "hookup" | "moving":
            return float(day.status == kind)
        case _:
            return sum(event.count or 1 for event in day.events if event.type == kind)


def _supported(log: Log, kind: str) -> bool:
    """Whether enough days had a kind and enough had not; looks back only as far as it must."""
    with_it = without = 0
    for day in reversed(log.days[-_LOOK_BACK_DAYS:]):
        came = _times(day, kind) > 0
        with_it, without = with_it + came, without + (not came)
        if with_it >= _ENOUGH[kind] and without >= _ENOUGH[kind]:
            return True
    return False
