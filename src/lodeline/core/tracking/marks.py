"""States at day marks, so that a long past is walked once. Handed in by the caller; may be thrown away at any time."""

from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from datetime import date, datetime, timedelta
from typing import TYPE_CHECKING

from lodeline.core.conditions import Conditions
from lodeline.core.log import Day, Log, Reading
from lodeline.core.rig import Rig
from lodeline.core.tracking.kinds import DayKinds
from lodeline.core.tracking.story import Seen, Story

if TYPE_CHECKING:
    from lodeline.core.tracking.walk import Walk

# Days back from today at whose midnights a state is kept, besides the first of each month.
_BACK = (0, 1, 2, 3, 5, 8, 14, 21)
_KEEP_HISTORY = timedelta(days=200)


@dataclass(frozen=True)
class Snapshot:
    """One store's running state at a midnight."""

    stories: tuple[Story, ...]
    known_since: datetime | None
    last_reset: datetime | None
    last_reading: Reading | None
    seen: tuple[Seen, ...]
    resets: int


@dataclass
class Mark:
    """All stores at one midnight, with the days that led to it and the conditions of the day before."""

    before: tuple[Day, ...]
    last: Conditions | None
    stores: dict[str, Snapshot] = field(default_factory=dict)


@dataclass
class Marks:
    """What one rig's walks left behind."""

    rig: Rig | None = None
    kinds: DayKinds | None = None
    kept: dict[date, Mark] = field(default_factory=dict)

    def resume(self, rig: Rig, log: Log, kinds: DayKinds, today: date) -> tuple[date, Mark] | None:
        """The latest mark whose past is the log's past; a corrected day drops the marks after it."""
        if rig != self.rig or self.kinds is None or kinds.told != self.kinds.told:
            self.rig, self.kinds, self.kept = rig, kinds, {}
        for on in sorted((on for on in self.kept if on <= today), reverse=True):
            mark = self.kept[on]
            n = len(mark.before)
            same_past = log.days[:n] == mark.before and (len(log.days) == n or log.days[n].date >= on)
            if same_past and len(mark.stores) == len(rig.stores):
                return on, mark
            del self.kept[on]
        return None

    def dates(self, first: date, today: date) -> set[date]:
        """The midnights at which states are to be kept."""
        wanted = {today - timedelta(days=back) for back in _BACK}
        wanted |= {on for on in _firsts(first, today)}
        return {on for on in wanted if first < on <= today} - set(self.kept)

    def save(self, on: date, log: Log, last: Conditions, store_id: str, walk: "Walk") -> None:
        """Keep one store's state at the midnight that begins a date."""
        if on not in self.kept:
            self.kept[on] = Mark(tuple(day for day in log.days if day.date < on), last)
        self.kept[on].stores[store_id] = snapshot(walk)


def _firsts(first: date, last: date) -> Iterator[date]:
    year, month = first.year, first.month
    while date(year, month, 1) <= last:
        yield date(year, month, 1)
        year, month = (year + 1, 1) if month == 12 else (year, month + 1)


def snapshot(walk: "Walk") -> Snapshot:
    """A walk's state, apart from what it does next."""
    stories = tuple(_copied(story) for story in walk.stories)
    return Snapshot(stories, walk.known_since, walk.last_reset, walk.last_reading, tuple(walk.seen[-400:]), walk.resets)


def restore(walk: "Walk", kept: Snapshot) -> None:
    """Put a kept state back."""
    walk.stories = [_copied(story) for story in kept.stories]
    walk.known_since, walk.last_reset, walk.last_reading = kept.known_since, kept.last_reset, kept.last_reading
    walk.seen, walk.resets = list(kept.seen), kept.resets


def _copied(story: Story) -> Story:
    history = story.history
    if history and history[-1].at - history[0].at > _KEEP_HISTORY:
        since = history[-1].at - _KEEP_HISTORY
        history = [point for point in history if point.at >= since]
    return replace(story, history=list(history))
