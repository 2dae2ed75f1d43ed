"""States kept at some midnights, so that a long past is walked once. May be thrown away at any time."""

from collections.abc import Iterator
from dataclasses import field
from datetime import date, timedelta

from lodeline.core.conditions import Conditions
from lodeline.core.figures import Tracking
from lodeline.core.log import Day, Log
from lodeline.core.rig import Rig
from lodeline.core.tracking.day_kinds import KnownDayKinds
from lodeline.core.tracking.state import State
from lodeline.core.values import dataclass

_DECEMBER = 12  # the last month


@dataclass
class Checkpoint:
    """All stores at one midnight, with the days that led to it and the conditions of the day before."""

    before: tuple[Day, ...]
    last: Conditions | None
    stores: dict[str, State] = field(default_factory=dict)


@dataclass
class Checkpoints:
    """What one rig's walks left behind."""

    rig: Rig | None = None
    kinds: KnownDayKinds | None = None
    kept: dict[date, Checkpoint] = field(default_factory=dict)

    def resume(self, rig: Rig, log: Log, kinds: KnownDayKinds, today: date) -> tuple[date, Checkpoint] | None:
        """The latest checkpoint whose past is the log's past; a corrected day drops those after it."""
        if rig != self.rig or self.kinds is None or kinds.ids != self.kinds.ids:
            self.rig, self.kinds, self.kept = rig, kinds, {}
        for on in sorted((on for on in self.kept if on <= today), reverse=True):
            checkpoint = self.kept[on]
            n = len(checkpoint.before)
            same_past = log.days[:n] == checkpoint.before and (len(log.days) == n or log.days[n].date >= on)
            if same_past and len(checkpoint.stores) == len(rig.stores):
                return on, checkpoint
            del self.kept[on]
        return None

    def dates(self, first: date, today: date) -> set[date]:
        """The midnights at which states are to be kept."""
        wanted = {today - timedelta(days=back) for back in Tracking.checkpoint_days_back}
        wanted |= set(_firsts(first, today))
        return {on for on in wanted if first < on <= today} - set(self.kept)

    def save(self, on: date, log: Log, last: Conditions, store_id: str, state: State) -> None:
        """Keep one store's state at the midnight that begins a date."""
        if on not in self.kept:
            self.kept[on] = Checkpoint(tuple(day for day in log.days if day.date < on), last)
        self.kept[on].stores[store_id] = state.copy()


def _firsts(first: date, last: date) -> Iterator[date]:
    year, month = first.year, first.month
    while date(year, month, 1) <= last:
        yield date(year, month, 1)
        year, month = (year + 1, 1) if month == _DECEMBER else (year, month + 1)
