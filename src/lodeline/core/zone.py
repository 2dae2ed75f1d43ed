"""Time where the rig is: instants, local dates, the bounds of days, offsets. The one module that knows of clocks.

A day is the time between two local midnights; where the clocks change it has 23 or 25 hours. Computation divides every
day into 24 equal *day hours*, so that no hour is lost or counted twice; on an ordinary day they are the clock's hours.
"""

import datetime as dt
from dataclasses import dataclass
from datetime import UTC, datetime, time, timedelta
from functools import lru_cache
from zoneinfo import ZoneInfo

HOURS = 24.0
_DAY = timedelta(days=1)
_HOUR = timedelta(hours=1)
_NOON = time(12)
_ZONES_KEPT, _MIDNIGHTS_KEPT = 256, 65536


@dataclass(frozen=True, slots=True)
class Zone:
    """A timezone by its IANA name."""

    name: str

    def local(self, at: datetime) -> datetime:
        """An instant as the clock aboard shows it, with its offset."""
        return at.astimezone(_info(self.name))

    def date(self, at: datetime) -> dt.date:
        """The local date of an instant."""
        return self.local(at).date()

    def midnight(self, on: dt.date) -> datetime:
        """The instant at which a local date begins, in UTC; where that midnight is skipped, the first moment after."""
        return _midnight(on, self.name)

    def bounds(self, on: dt.date) -> tuple[datetime, datetime]:
        """The instants at which a local date begins and ends, in UTC."""
        return _midnight(on, self.name), _midnight(on + _DAY, self.name)

    def length_h(self, on: dt.date) -> float:
        """Hours of a local date: 24, or what a change of clocks makes of it. [h]"""
        begins, ends = self.bounds(on)
        return (ends - begins) / _HOUR

    def hour(self, on: dt.date, at: datetime) -> float:
        """Where an instant lies in a local date, in day hours; under 0 before it, over 24 after it."""
        begins, ends = self.bounds(on)
        elapsed_h = (at - begins) / _HOUR
        return elapsed_h if ends - begins == _DAY else elapsed_h * HOURS / ((ends - begins) / _HOUR)

    def at_hour(self, on: dt.date, hour: float) -> datetime:
        """The instant of a day hour of a local date, in UTC; hours over 24 run on into the next dates."""
        days, rest = divmod(hour, HOURS)
        begins, ends = self.bounds(on + timedelta(days=int(days)))
        return begins + timedelta(hours=rest * ((ends - begins) / _DAY))

    def instant(self, on: dt.date, clock: time) -> datetime:
        """The instant at which the clock aboard shows a time on a date, in UTC.

        A time that comes twice is the first one; a time that is skipped is taken as so long after the clocks changed.
        The instant is kept within the date.
        """
        at = datetime.combine(on, clock, tzinfo=_info(self.name)).astimezone(UTC)
        begins, ends = self.bounds(on)
        return min(max(at, begins), ends - timedelta(microseconds=1))

    def offset_h(self, on: dt.date) -> float:
        """Hours that the clock is ahead of UTC at noon of a date. [h]"""
        offset = datetime.combine(on, _NOON, tzinfo=_info(self.name)).utcoffset()
        return offset / _HOUR if offset is not None else 0.0


@lru_cache(maxsize=_ZONES_KEPT)
def _info(name: str) -> ZoneInfo:
    return ZoneInfo(name)


@lru_cache(maxsize=_MIDNIGHTS_KEPT)
def _midnight(on: dt.date, name: str) -> datetime:
    return datetime.combine(on, time(0), tzinfo=_info(name)).astimezone(UTC)
