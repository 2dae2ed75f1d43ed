"""Writing the log: entries, days, outlook; each correction keeps what stood before. A batch is one transaction."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, time, timedelta
from typing import Any

from django.contrib.auth.models import User

from lodeline.core import problems as p
from lodeline.core.catalogue import SOURCE_KINDS, EventField
from lodeline.core.entries import check_event, check_reading
from lodeline.core.errors import Refused
from lodeline.core.log import Event, Reading
from lodeline.core.zone import Zone
from lodeline.formats import document as d
from lodeline.formats.checks import check_temperatures
from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services import rows
from lodeline.logbook.services.changes import Writer, writing
from lodeline.logbook.services.rows import RigRows
from lodeline.text.logbook import Action

MOST_ENTRIES = 200
_AHEAD_ALLOWED = timedelta(minutes=10)
_FIRST_YEAR, _LAST_YEAR = 1970, 2199
_TEXT = 80


class Missing(LookupError):
    """No such reading, event or day on this rig."""


@dataclass(frozen=True, slots=True)
class NewEntry:
    """A reading or event to keep. ``text``: as it was typed; ``place``: what is named where it is refused."""

    entry: Reading | Event
    text: str = ""
    place: str = ""


def _check(new: NewEntry, rig: RigRows) -> None:
    prefix = f"{new.place}." if new.place else ""
    if new.entry.at > clock.now() + _AHEAD_ALLOWED:
        raise Refused(f"{prefix}at", p.InTheFuture())
    if not _FIRST_YEAR <= new.entry.at.year <= _LAST_YEAR:
        raise Refused(f"{prefix}at", p.YearOutOfRange(_FIRST_YEAR, _LAST_YEAR))
    if isinstance(new.entry, Reading):
        check_reading(new.entry, rig.stores, f"{prefix}reading")
    else:
        check_event(new.entry, rig.stores, f"{prefix}event")


def _day_keys(rig: m.Rig, dates: Iterable[date]) -> dict[date, int]:
    """Keys of the rows of dates, made where they are not there."""
    wanted = set(dates)
    keys = dict(m.Day.objects.filter(rig=rig, date__in=wanted).values_list("date", "pk"))
    missing = sorted(wanted - set(keys))
    made = m.Day.objects.bulk_create(m.Day(rig=rig, date=on) for on in missing) if missing else []
    return keys | {row.date: row.pk for row in made}


def _reading_row(reading: Reading, rig: RigRows, day: int, text: str) -> m.Reading:
    return m.Reading(
        day_id=day, store_id=rig.keys[reading.store], at=reading.at, method=reading.method, value=reading.value,
        state=reading.state, text=text[:_TEXT],
    )  # fmt: skip


def _event_columns(event: Event, rig: RigRows) -> dict[str, Any]:
    """An event's columns; what its type does not carry stays empty."""
    fields = {name: getattr(event, name.value) for name in event.row.fields if name is not EventField.STORE}
    columns: dict[str, Any] = dict.fromkeys(("to", "amount", "left", "source", "target", "hours", "km", "count"))
    for name, value in fields.items():
        columns[rows.EVENT_COLUMNS.get(name, name.value)] = value
    if EventField.TO_FULL in fields:
        columns["to"] = "full" if event.to_full else None
    if not columns["left"]:
        columns["left"] = None
    return columns | {"store_id": rig.keys[event.store] if event.store else None}


def _document(entry: Reading | Event, zone: Zone) -> dict[str, Any]:
    """An entry as the file has it, for the record of changes."""
    if isinstance(entry, Reading):
        fields = {name: getattr(entry, name) for name in ("store", "method", "value", "state")}
        return {"at": zone.local(entry.at), **fields}
    names = {EventField.SOURCE: "from", EventField.TARGET: "to"}
    fields = {names.get(name, name.value): getattr(entry, name.value) for name in entry.row.fields}
    if fields.pop("to_full", False):
        fields["to"] = "full"
    if not fields.get("left"):
        fields.pop("left", None)
    return {"at": zone.local(entry.at), "type": entry.type, **fields}


def add(rig: RigRows, new: Sequence[NewEntry], *, by: User) -> list[Reading | Event]:
    """Log readings and events, all or none; answers them in order, each with the key of its row.

    Raises
    ------
    Refused
        The first that cannot be kept; then nothing is.
    """
    if len(new) > MOST_ENTRIES:
        raise Refused("entries", p.TooManyEntries(MOST_ENTRIES))
    for each in new:
        _check(each, rig)
    dates = [rig.zone.date(each.entry.at) for each in new]
    with writing(rig.row, by) as writer:
        days = _day_keys(rig.row, dates)
        made: dict[int, m.Reading | m.Event] = {}
        for index, (each, on) in enumerate(zip(new, dates, strict=True)):
            entry = each.entry
            if isinstance(entry, Reading):
                made[index] = _reading_row(entry, rig, days[on], each.text)
            else:
                columns = _event_columns(entry, rig)
                made[index] = m.Event(day_id=days[on], at=entry.at, type=entry.type, **columns)
        m.Reading.objects.bulk_create(row for row in made.values() if isinstance(row, m.Reading))
        m.Event.objects.bulk_create(row for row in made.values() if isinstance(row, m.Event))
        kept = [replace(each.entry, key=made[index].pk) for index, each in enumerate(new)]
        for entry, on in zip(kept, dates, strict=True):
            kind = "reading" if isinstance(entry, Reading) else "event"
            writer.note(Action.LOGGED, kind, entry.key, on=on, new=_document(entry, rig.zone))
    return kept


def reading_row(rig: m.Rig, key: int) -> m.Reading:
    """A reading of this rig."""
    row = m.Reading.objects.filter(pk=key, day__rig=rig).select_related("day", "store").first()
    if row is None:
        raise Missing("reading")
    return row


def event_row(rig: m.Rig, key: int) -> m.Event:
    """An event of this rig."""
    row = m.Event.objects.filter(pk=key, day__rig=rig).select_related("day", "store").first()
    if row is None:
        raise Missing("event")
    return row


def correct_reading(rig: RigRows, key: int, new: NewEntry, *, by: User) -> Reading:
    """Change a reading; what stood before is kept."""
    _check(new, rig)
    assert isinstance(new.entry, Reading)
    with writing(rig.row, by) as writer:
        row = reading_row(rig.row, key)
        old, was_on = rows.reading_fields(row, rig.zone), row.day.date
        on = rig.zone.date(new.entry.at)
        changed = _reading_row(new.entry, rig, _day_keys(rig.row, [on])[on], new.text)
        changed.pk = row.pk
        changed.save()
        _note_correction(writer, "reading", key, {was_on, on}, old, _document(new.entry, rig.zone))
    return replace(new.entry, key=key)


def correct_event(rig: RigRows, key: int, new: NewEntry, *, by: User) -> Event:
    """Change an event; what stood before is kept."""
    _check(new, rig)
    assert isinstance(new.entry, Event)
    with writing(rig.row, by) as writer:
        row = event_row(rig.row, key)
        old, was_on = rows.event_fields(row, rig.zone), row.day.date
        on = rig.zone.date(new.entry.at)
        columns = _event_columns(new.entry, rig)
        changed = m.Event(pk=key, day_id=_day_keys(rig.row, [on])[on], at=new.entry.at, type=new.entry.type, **columns)
        changed.save()
        _note_correction(writer, "event", key, {was_on, on}, old, _document(new.entry, rig.zone))
    return replace(new.entry, key=key)


def _note_correction(writer: Writer, kind: str, key: int, dates: set[date], old: Any, new: Any) -> None:
    for on in sorted(dates):
        writer.note(Action.CORRECTED, kind, key, on=on, old=old, new=new)


def remove_reading(rig: m.Rig, key: int, *, by: User) -> None:
    """Take a reading out of the log; the change keeps it."""
    with writing(rig, by) as writer:
        row = reading_row(rig, key)
        writer.note(Action.REMOVED, "reading", key, on=row.day.date, old=rows.reading_fields(row, Zone(rig.timezone)))
        row.delete()


def remove_event(rig: m.Rig, key: int, *, by: User) -> None:
    """Take an event out of the log; the change keeps it."""
    with writing(rig, by) as writer:
        row = event_row(rig, key)
        writer.note(Action.REMOVED, "event", key, on=row.day.date, old=rows.event_fields(row, Zone(rig.timezone)))
        row.delete()


def _set_facts(row: m.Facts, facts: d.Facts) -> None:
    """Put what was given on a row."""
    hour_keys = {kind.outlook_key: kind.id for kind in SOURCE_KINDS.values()}
    for name in facts.model_fields_set:
        value = getattr(facts, name)
        if name == "place":
            row.place_name = value.name if value else None
            row.lat, row.lon = (value.lat, value.lon) if value else (None, None)
        elif name in hour_keys and isinstance(row, m.OutlookDay):
            others = {id: hours for id, hours in row.hours.items() if id != hour_keys[name]}
            row.hours = others if value is None else others | {hour_keys[name]: value}
        else:
            setattr(row, name, value)


def set_day(rig: m.Rig, on: date, facts: d.DayFacts, *, by: User) -> m.Day:
    """Change a day's own facts: only what was given."""
    if on > Zone(rig.timezone).date(clock.now()):
        raise Refused("date", p.DayInTheFuture())
    with writing(rig, by) as writer:
        row = m.Day.objects.get_or_create(rig=rig, date=on)[0]
        old = rows.day_fields(row)
        _set_facts(row, facts)
        check_temperatures(rows.core_day(row), "day")
        row.save()
        writer.note(Action.CORRECTED, "day", on, on=on, old=old, new=rows.day_fields(row))
    return row


def set_outlook(rig: m.Rig, on: date, facts: d.OutlookFacts, *, by: User) -> m.OutlookDay:
    """Change what a coming day is expected to bring: only what was given."""
    if on < Zone(rig.timezone).date(clock.now()):
        raise Refused("date", p.DayIsPast())
    with writing(rig, by) as writer:
        row = m.OutlookDay.objects.get_or_create(rig=rig, date=on)[0]
        old = rows.outlook_fields(row)
        _set_facts(row, facts)
        check_temperatures(rows.core_outlook_day(row), "outlook")
        row.save()
        writer.note(Action.CORRECTED, "outlook", on, on=on, old=old, new=rows.outlook_fields(row))
    return row


def moment(zone: Zone, on: date | None, clock_time: time | None, at: datetime | None, otherwise: datetime) -> datetime:
    """When an entry was made: an instant, or a local date and time where the rig is, else ``otherwise``."""
    if at is not None:
        return at
    if on is None and clock_time is None:
        return otherwise
    local = zone.local(otherwise)
    return zone.instant(on or local.date(), clock_time or local.time())
