"""States kept at some midnights, so that a long past is walked once. May be thrown away at any time."""

from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from datetime import date, datetime, timedelta
from typing import TYPE_CHECKING

from lodeline.core.conditions import Conditions
from lodeline.core.figures import Tracking
from lodeline.core.log import Day, Event, Log, Reading
from lodeline.core.rig import Rig
from lodeline.core.tracking.coupling import LearnedUse
from lodeline.core.tracking.day_kinds import KnownDayKinds
from lodeline.core.tracking.events import Speed
from lodeline.core.tracking.hypothesis import Compared, Hypothesis

if TYPE_CHECKING:
    from lodeline.core.tracking.walk import Walk

_KEEP_HISTORY = timedelta(days=Tracking.checkpoint_history_days)
_DECEMBER = 12


@dataclass(frozen=True, slots=True, kw_only=True)
class StoreState:
    """One store's running state at a midnight."""

    hypotheses: tuple[Hypothesis, ...]
    known_since: datetime | None
    last_reset: datetime | None
    last_reading: Reading | None
    compared: tuple[Compared, ...]
    resets: int
    reserve: float
    reserve_used_at: datetime | None
    lost_since: datetime | None
    drained_since: datetime | None
    read_at: datetime | None
    past_line: float
    blank: int
    acts: tuple[Event, ...]
    services: int
    learned: LearnedUse | None
    speed: Speed


@dataclass
class Checkpoint:
    """All stores at one midnight, with the days that led to it and the conditions of the day before."""

    before: tuple[Day, ...]
    last: Conditions | None
    stores: dict[str, StoreState] = field(default_factory=dict)


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

    def save(self, on: date, log: Log, last: Conditions, store_id: str, walk: "Walk") -> None:
        """Keep one store's state at the midnight that begins a date."""
        if on not in self.kept:
            self.kept[on] = Checkpoint(tuple(day for day in log.days if day.date < on), last)
        self.kept[on].stores[store_id] = state_of(walk)


def _firsts(first: date, last: date) -> Iterator[date]:
    year, month = first.year, first.month
    while date(year, month, 1) <= last:
        yield date(year, month, 1)
        year, month = (year + 1, 1) if month == _DECEMBER else (year, month + 1)


def state_of(walk: "Walk") -> StoreState:
    """A walk's state, apart from what it does next."""
    return StoreState(
        hypotheses=tuple(_copied(each) for each in walk.hypotheses),
        known_since=walk.known_since,
        last_reset=walk.last_reset,
        last_reading=walk.last_reading,
        compared=tuple(walk.compared[-Tracking.checkpoint_readings :]),
        resets=walk.resets,
        reserve=walk.reserve,
        reserve_used_at=walk.reserve_used_at,
        lost_since=walk.lost_since,
        drained_since=walk.drained_since,
        read_at=walk.read_at,
        past_line=walk.past_line,
        blank=walk.blank,
        acts=tuple(walk.acts),
        services=walk.services.logged,
        learned=walk.learned,
        speed=replace(walk.speed),
    )


def restore(walk: "Walk", state: StoreState) -> None:
    """Put a kept state back."""
    walk.hypotheses = [_copied(each) for each in state.hypotheses]
    walk.known_since, walk.last_reset, walk.last_reading = state.known_since, state.last_reset, state.last_reading
    walk.compared, walk.resets = list(state.compared), state.resets
    walk.reserve, walk.reserve_used_at, walk.lost_since = state.reserve, state.reserve_used_at, state.lost_since
    walk.drained_since = state.drained_since
    walk.read_at, walk.past_line, walk.blank, walk.acts = state.read_at, state.past_line, state.blank, list(state.acts)
    walk.services.logged, walk.learned, walk.speed = state.services, state.learned, replace(state.speed)


def _copied(hypothesis: Hypothesis) -> Hypothesis:
    history = hypothesis.history
    if history and history[-1].at - history[0].at > _KEEP_HISTORY:
        since = history[-1].at - _KEEP_HISTORY
        history = [point for point in history if point.at >= since]
    return replace(hypothesis, history=list(history), drift=replace(hypothesis.drift))
