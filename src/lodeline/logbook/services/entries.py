"""Entries of the log as rows: what they must be, and how they are kept. ``writes`` puts them there."""

from collections.abc import Iterable
from dataclasses import replace
from datetime import date, datetime, time, timedelta
from typing import Any

from django.db.models import Sum

from lodeline.core import problems as p
from lodeline.core.entries import check_day_hours, check_event, check_reading
from lodeline.core.errors import Refused
from lodeline.core.log import Event, Reading
from lodeline.core.values import dataclass
from lodeline.core.zone import Zone
from lodeline.formats.convert import FILE_KEYS, said_of
from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services import rows
from lodeline.logbook.services.rows import RigRows

_AHEAD_ALLOWED = timedelta(minutes=10)
_FIRST_YEAR, _LAST_YEAR = 1970, 2199
_TEXT = 80


@dataclass(frozen=True, slots=True)
class NewEntry:
    """A reading or event to keep. ``text``: as it was typed."""

    entry: Reading | Event
    text: str = ""


def check(new: NewEntry, rig: RigRows) -> None:
    """Refuse what cannot be kept: by its time, its store, its value, its day."""
    if new.entry.at > clock.now() + _AHEAD_ALLOWED:
        raise Refused("at", p.Plain.IN_THE_FUTURE)
    if not _FIRST_YEAR <= new.entry.at.year <= _LAST_YEAR:
        raise Refused("at", p.YearOutOfRange(_FIRST_YEAR, _LAST_YEAR))
    if isinstance(new.entry, Reading):
        check_reading(new.entry, rig.stores, "reading")
    else:
        check_event(new.entry, rig.core.vessels, "event")
        if new.entry.hours is not None:
            _check_hours(new.entry, rig)


def _check_hours(event: Event, rig: RigRows) -> None:
    """A day has so many hours of one thing."""
    same = m.Event.objects.filter(day__rig=rig.row, day__date=rig.zone.date(event.at), type=event.type)
    if event.key is not None:
        same = same.exclude(uuid=event.key)
    others = same.aggregate(Sum("hours"))["hours__sum"] or 0.0
    check_day_hours(event, others, "event")


def day_keys(rig: m.Rig, dates: Iterable[date]) -> dict[date, int]:
    """Keys of the rows of dates, made where they are not there."""
    wanted = set(dates)
    keys = dict(m.Day.objects.filter(rig=rig, date__in=wanted).values_list("date", "pk"))
    missing = sorted(wanted - set(keys))
    made = m.Day.objects.bulk_create(m.Day(rig=rig, date=on) for on in missing) if missing else []
    return keys | {row.date: row.pk for row in made}


def reading_columns(reading: Reading, rig: RigRows, text: str) -> dict[str, Any]:
    """A reading's columns."""
    return {
        "store_id": rig.keys[reading.store],
        "at": reading.at,
        "method": reading.method,
        "value": reading.value,
        "state": reading.state,
        "text": text[:_TEXT],
        "confirmed": reading.confirmed,
        "within": reading.within,
    }


def event_columns(event: Event, rig: RigRows) -> dict[str, Any]:
    """An event's columns; what its type does not carry stays empty."""
    said = said_of(event)
    columns = {column: said.get(name) for name, column in rows.EVENT_COLUMNS.items()}
    return columns | {"store_id": rig.keys[event.store] if event.store else None}


def as_document(entry: Reading | Event, zone: Zone) -> dict[str, Any]:
    """An entry as the file has it, for the record of changes."""
    at = zone.local(entry.at)
    if isinstance(entry, Event):
        return {"at": at, "type": entry.type} | {
            FILE_KEYS.get(name, name.value): value for name, value in said_of(entry).items()
        }
    fields = {name: getattr(entry, name) for name in ("store", "method", "value", "state")}
    more = ({"confirmed": True} if entry.confirmed else {}) | ({"within": entry.within} if entry.within else {})
    return {"at": at, **fields} | more


@dataclass(frozen=True, slots=True)
class Becomes:
    """What an entry becomes: another one where ``new`` is given, else the same at another time, or confirmed. Its time
    is the old one where neither date nor time is given."""

    new: NewEntry | None = None
    on: date | None = None
    clock_time: time | None = None
    confirmed: bool | None = None

    def of(self, before: Reading | Event, zone: Zone) -> NewEntry:
        """The entry that it becomes."""
        new = self.new or NewEntry(before)
        entry = replace(new.entry, at=moment(zone, self.on, self.clock_time, before.at))
        if self.new is None and self.confirmed is not None and isinstance(entry, Reading):
            entry = replace(entry, confirmed=self.confirmed)
        return replace(new, entry=entry)


def moment(zone: Zone, on: date | None, clock_time: time | None, otherwise: datetime) -> datetime:
    """When an entry was made: a local date and time where the rig is, else ``otherwise``."""
    if on is None and clock_time is None:
        return otherwise
    local = zone.local(otherwise)
    return zone.instant(on or local.date(), clock_time or local.time())
