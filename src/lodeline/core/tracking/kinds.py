"""Which kinds of days the log lets one tell apart in water use, and how often each comes."""

from dataclasses import dataclass

from lodeline.core.log import Log

# Days of a kind that must be logged before it gets a coefficient of its own (sim).
_ENOUGH = {"shower": 4, "laundry": 2, "weekend": 6, "hookup": 4, "moving": 6}
_RECENT_DAYS = 28


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
    counts = {kind: [0.0] * len(log.days) for kind in _ENOUGH}
    for index, day in enumerate(log.days):
        for kind in ("shower", "laundry"):
            counts[kind][index] = sum(event.count or 1 for event in day.events if event.type == kind)
        counts["weekend"][index] = float(day.date.weekday() >= 5)
        counts["hookup"][index] = float(day.status == "hookup")
        counts["moving"][index] = float(day.status == "moving")
    told = [
        kind for kind, seen in counts.items()
        if sum(each > 0 for each in seen) >= _ENOUGH[kind] and sum(each == 0 for each in seen) >= _ENOUGH[kind]
    ]  # fmt: skip
    recent = {kind: counts[kind][-_RECENT_DAYS:] for kind in told}
    return DayKinds(tuple(told), tuple(round(sum(seen) / len(seen), 3) for seen in recent.values()))
