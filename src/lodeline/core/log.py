"""What was written down, and what is expected: days, readings, events, outlook."""

from bisect import bisect_left, bisect_right
from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import date, datetime
from zoneinfo import ZoneInfo


@dataclass(frozen=True, slots=True)
class Place:
    """Where the rig stood; degrees north and east."""

    name: str
    lat: float
    lon: float


@dataclass(frozen=True, slots=True)
class Reading:
    """Evidence about one store. ``value`` is in the base unit of its method; ``key`` names its row, if it has one."""

    at: datetime
    store: str
    method: str
    value: float | None = None
    state: str | None = None
    key: int | None = None


@dataclass(frozen=True, slots=True)
class Event:
    """Something that was done. ``at`` is when it began."""

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
    key: int | None = None


@dataclass(frozen=True, slots=True)
class Day:
    """One date of the log, in the rig's timezone."""

    date: date
    place: Place | None = None
    sky: str | None = None
    temp_min_c: float | None = None
    temp_max_c: float | None = None
    status: str | None = None
    crew_aboard: int | None = None
    note: str = ""
    solar_wh: float | None = None
    load_wh: float | None = None
    water_l: float | None = None
    readings: tuple[Reading, ...] = ()
    events: tuple[Event, ...] = ()

    def entries(self) -> "list[Reading | Event]":
        """Readings and events in time order; at the same instant, events come first."""
        both: list[Reading | Event] = [*self.events, *self.readings]
        return sorted(both, key=lambda entry: entry.at)


@dataclass(frozen=True, slots=True)
class OutlookDay:
    """What a coming day is expected to bring."""

    date: date
    place: Place | None = None
    sky: str | None = None
    temp_min_c: float | None = None
    temp_max_c: float | None = None
    status: str | None = None
    crew_aboard: int | None = None
    drive_hours: float | None = None
    shore_hours: float | None = None
    generator_hours: float | None = None


@dataclass(frozen=True, slots=True)
class Log:
    """The days in order."""

    days: tuple[Day, ...] = ()

    def until(self, now: datetime, timezone: str) -> "Log":
        """The log as it stood at ``now``: nothing later is left in it."""
        today = now.astimezone(ZoneInfo(timezone)).date()
        kept = self.days[: bisect_right(self.days, today, key=lambda day: day.date)]
        if kept and kept[-1].date == today:
            last = replace(
                kept[-1],
                readings=tuple(item for item in kept[-1].readings if item.at <= now),
                events=tuple(item for item in kept[-1].events if item.at <= now),
            )
            kept = (*kept[:-1], last)
        return Log(kept)

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
