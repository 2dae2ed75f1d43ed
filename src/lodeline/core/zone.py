"""Time where the rig is: instants, local dates, the bounds of days, offsets. The one module that knows of clocks.

A day is the time between two local midnights; where the clocks change it has 23 or 25 hours. Computation divides every
day into 24 equal *day hours*, so that no hour is lost or counted twice; on an ordinary day they are the clock's hours.
"""

import datetime as dt
import re
from datetime import UTC, datetime, time, timedelta
from functools import lru_cache
from importlib.resources import files
from zoneinfo import ZoneInfo, available_timezones

from lodeline.core.values import dataclass

HOURS = 24.0  # of a day hour by hour
MIN_PER_H = 60.0  # by definition
_DAY = timedelta(days=1)
_HOUR = timedelta(hours=1)
_NOON = time(12)  # where a date has one clock
_ZONES_KEPT, _DAYS_KEPT = 256, 65536  # in memory


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
        return _bounds(on, self.name)[0]

    def bounds(self, on: dt.date) -> tuple[datetime, datetime]:
        """The instants at which a local date begins and ends, in UTC."""
        return _bounds(on, self.name)

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
        begins, ends = _bounds(on + timedelta(days=int(days)) if days else on, self.name)
        return begins + (ends - begins) * (rest / HOURS)

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


@dataclass(frozen=True, slots=True)
class City:
    """The place that a timezone is named for; degrees north and east."""

    name: str
    lat: float
    lon: float


def city_of(zone: str) -> City | None:
    """The city of a timezone by the IANA zone table; another name of the same clock has the same. None at sea."""
    return _cities().get(zone) or _cities_by_clock().get(_rules(zone))


@lru_cache(maxsize=1)
def _cities() -> dict[str, City]:
    text = (files("tzdata") / "zoneinfo" / "zone1970.tab").read_text(encoding="utf-8")
    text += (files("tzdata") / "zoneinfo" / "zone.tab").read_text(encoding="utf-8")
    cities: dict[str, City] = {}
    for line in text.splitlines():
        if not line.startswith("#"):
            _, coordinates, name, *_ = line.split("\t")
            match = _ISO_6709.fullmatch(coordinates)
            assert match is not None
            cities[name] = City(name.rsplit("/", 1)[-1].replace("_", " "), _degrees(match[1]), _degrees(match[2]))
    return cities


@lru_cache(maxsize=1)
def _cities_by_clock() -> dict[bytes, City]:
    return {_rules(name): city for name, city in reversed(_cities().items())}


def _rules(zone: str) -> bytes:
    """What a zone's clock does, as the table has it."""
    return files("tzdata").joinpath("zoneinfo", *zone.split("/")).read_bytes()


# Degrees with minutes, or with minutes and seconds, as ISO 6709 writes them.
_ISO_6709 = re.compile(r"([+-]\d+)([+-]\d+)")
_WITH_SECONDS, _SIXTY = 6, 60.0


def _degrees(text: str) -> float:
    sign, digits = -1.0 if text[0] == "-" else 1.0, text[1:]
    seconds = digits[-2:] if len(digits) >= _WITH_SECONDS else ""
    rest = digits[: len(digits) - len(seconds)]
    return sign * (int(rest[:-2]) + (int(rest[-2:]) + int(seconds or 0) / _SIXTY) / _SIXTY)


@lru_cache(maxsize=1)
def known_zones() -> frozenset[str]:
    """The names of all timezones that this machine knows."""
    return frozenset(available_timezones())


@lru_cache(maxsize=_ZONES_KEPT)
def _info(name: str) -> ZoneInfo:
    return ZoneInfo(name)


@lru_cache(maxsize=_DAYS_KEPT)
def _bounds(on: dt.date, name: str) -> tuple[datetime, datetime]:
    begins, ends = (datetime.combine(day, time(0), tzinfo=_info(name)).astimezone(UTC) for day in (on, on + _DAY))
    return begins, ends


# The least that somebody would write down. [h]
FIVE_MINUTES_H = 1 / 12


def to_five_minutes(hours: float) -> float:
    """Hours as somebody would write them down: to five minutes. [h]"""
    return round(hours / FIVE_MINUTES_H) * FIVE_MINUTES_H
