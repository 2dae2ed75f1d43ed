"""What was written down, and what is expected: days, readings, events, outlook."""

from bisect import bisect_left, bisect_right
from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import field, replace
from datetime import date, datetime, timedelta
from itertools import groupby
from typing import TypeVar
from uuid import UUID

from lodeline.core.catalogue import EVENT_TYPES, DayStatus, EventType, Method, SkyWord, VoltsState
from lodeline.core.values import dataclass
from lodeline.core.zone import Zone

# Words that a move may name in the place of a store.
RESERVE, OUTSIDE = "reserve", "outside"
APART = frozenset({RESERVE, OUTSIDE})


@dataclass(frozen=True, slots=True)
class Place:
    """Where the rig stood; degrees north and east, metres above the sea where that was said."""

    name: str
    lat: float
    lon: float
    elevation_m: float | None = field(default=None, kw_only=True)


@dataclass(frozen=True, slots=True)
class Reading:
    """Evidence about one store. ``value`` is in the base unit of its method; ``key`` names it for good, if it was kept.

    ``confirmed``: somebody was asked whether it is right, and said so. ``within``: how far from ``value`` it may be, of
    what was judged by eye (``nearly empty``, ``between 1/3 and 2/3``), in the value's unit; None where the method says.
    """

    at: datetime
    store: str
    method: Method
    value: float | None = None
    state: VoltsState | None = None
    key: UUID | None = None
    confirmed: bool = False
    within: float | None = None


@dataclass(frozen=True, slots=True)
class Event:
    """Something that was done; ``type`` is the id of its row in the catalogue. ``at`` is when it began."""

    at: datetime
    type: str
    store: str | None = None
    to_full: bool = False
    amount: float | None = None
    left: float = 0.0
    source: str | None = None
    target: str | None = None
    hours: float | None = None
    km: float | None = None
    count: int | None = None
    key: UUID | None = None

    @property
    def row(self) -> EventType:
        """What the catalogue says of its type."""
        return EVENT_TYPES[self.type]


@dataclass(frozen=True, slots=True)
class Visit:
    """A visit to a place of the book, by its id."""

    place: str
    arrived: datetime | None = None
    left: datetime | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class DayFacts:
    """What is known or expected of a date apart from entries."""

    date: date
    place: Place | None = None
    sky: SkyWord | None = None
    temp_min_c: float | None = None
    temp_max_c: float | None = None
    status: DayStatus | None = None
    crew_aboard: int | None = None
    panels_covered: bool | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Day(DayFacts):
    """One date of the log, in the rig's timezone. Totals are those of the day, on the last day so far."""

    note: str = ""
    solar_wh: float | None = None
    load_wh: float | None = None
    water_l: float | None = None
    visit: Visit | None = None
    readings: tuple[Reading, ...] = ()
    events: tuple[Event, ...] = ()

    @property
    def count(self) -> int:
        """How many readings and events it has."""
        return len(self.readings) + len(self.events)

    @property
    def has_total(self) -> bool:
        """Whether a total of it was written down."""
        return any(total is not None for total in (self.solar_wh, self.load_wh, self.water_l))

    def entries(self) -> "list[Reading | Event]":
        """Readings and events in time order; at the same instant, events come first. Who tracks a store looks which
        of the two a reading shows."""
        both: list[Reading | Event] = [*self.events, *self.readings]
        return sorted(both, key=lambda entry: entry.at)


@dataclass(frozen=True, slots=True, kw_only=True)
class OutlookDay(DayFacts):
    """What a coming day is expected to bring. ``hours`` of each way to charge, by the id of its row."""

    hours: Mapping[str, float] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Log:
    """The days in order."""

    days: tuple[Day, ...] = ()

    def until(self, now: datetime, zone: Zone) -> "Log":
        """The log as it stood at ``now``: nothing later is left in it."""
        today = zone.date(now)
        kept = self.days[: bisect_right(self.days, today, key=lambda day: day.date)]
        if kept and kept[-1].date == today:
            last = replace(
                kept[-1],
                readings=tuple(item for item in kept[-1].readings if item.at <= now),
                events=tuple(item for item in kept[-1].events if item.at <= now),
            )
            kept = (*kept[:-1], last)
        return Log(kept)

    def day(self, on: date) -> Day | None:
        """The day of a date, if it was logged."""
        index = self.first_from(on)
        return self.days[index] if index < len(self.days) and self.days[index].date == on else None

    def first_from(self, on: date) -> int:
        """Index of the first day that is not before a date."""
        return bisect_left(self.days, on, key=lambda day: day.date)

    def entries(self) -> Iterator[Reading | Event]:
        """Readings and events of all days in time order; at the same instant, events come first."""
        for day in self.days:
            yield from day.entries()

    def latest(self) -> datetime | None:
        """When the last reading or event was made."""
        return max((entry.at for entry in self.entries()), default=None)

    def latest_total(self) -> date | None:
        """The last day of which a total was written down."""
        return next((day.date for day in reversed(self.days) if day.has_total), None)

    def with_entries(self, entries: Iterable[Reading | Event], zone: Zone) -> "Log":
        """The log with more readings and events, each on its local date, in time order."""
        days = {day.date: day for day in self.days}
        dated = sorted(((zone.date(entry.at), entry) for entry in entries), key=lambda pair: pair[0])
        for on, group in groupby(dated, key=lambda pair: pair[0]):
            new = [entry for _, entry in group]
            day = days.get(on) or Day(date=on)
            days[on] = replace(
                day,
                readings=_in_order(day.readings, [each for each in new if isinstance(each, Reading)]),
                events=_in_order(day.events, [each for each in new if isinstance(each, Event)]),
            )
        return Log(tuple(days[on] for on in sorted(days)))


AnEntry = TypeVar("AnEntry", Reading, Event)


# Readings of one store so close together are of one look, or of two people's.
CLOSE = timedelta(minutes=10)


@dataclass(frozen=True, slots=True)
class Close:
    """What else was read of a store within minutes of a reading: the two nearest in time, and how many there are."""

    nearest: tuple[Reading, ...]
    count: int


_NEAREST = 2


def close_readings(readings: Iterable[Reading]) -> dict[UUID, Close]:
    """Readings of one store taken within minutes of each other, by the key of each. Looks at each once."""
    by_store: dict[str, list[Reading]] = defaultdict(list)
    for each in readings:
        by_store[each.store].append(each)
    close: dict[UUID, Close] = {}
    for of_store in by_store.values():
        of_store.sort(key=lambda each: each.at)
        first = after = 0
        for index, each in enumerate(of_store):
            while each.at - of_store[first].at > CLOSE:
                first += 1
            while after < len(of_store) and of_store[after].at - each.at <= CLOSE:
                after += 1
            if each.key is not None and after - first > 1:
                beside = range(max(first, index - _NEAREST), min(after, index + _NEAREST + 1))
                others = sorted((of_store[n] for n in beside if n != index), key=lambda other: abs(other.at - each.at))
                close[each.key] = Close(tuple(others[:_NEAREST]), after - first - 1)
    return close


def _in_order(before: tuple[AnEntry, ...], new: list[AnEntry]) -> tuple[AnEntry, ...]:
    return tuple(sorted(before + tuple(new), key=lambda entry: entry.at))
