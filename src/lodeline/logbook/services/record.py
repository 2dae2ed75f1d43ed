"""Writing the log: readings, events, days, outlook; each correction keeps what stood before."""

from datetime import date, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from django.contrib.auth.models import User

from lodeline.core.errors import Refused
from lodeline.formats import document as d
from lodeline.formats.checks import check_event, check_reading, check_temperatures
from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services import rows
from lodeline.logbook.services.changes import Writer, writing

_AHEAD_ALLOWED = timedelta(minutes=10)


class Missing(LookupError):
    """No such reading, event or day on this rig."""


def _stores(rig: m.Rig) -> dict[str, d.StoreDoc]:
    return {store.id: store for store in rows.rig_document(rig).stores}


def _checked_time(at: datetime) -> None:
    if at > clock.now() + _AHEAD_ALLOWED:
        raise Refused("at", "lies in the future; the log holds what has happened")
    if at.year < 1970:
        raise Refused("at", "the year must lie between 1970 and 2199")


def local_date(rig: m.Rig, at: datetime) -> date:
    """The date of a time where the rig is."""
    return at.astimezone(ZoneInfo(rig.timezone)).date()


def day_row(rig: m.Rig, on: date) -> m.Day:
    """The row of a date, made if it is not there."""
    return m.Day.objects.get_or_create(rig=rig, date=on)[0]


def add_reading(rig: m.Rig, doc: d.ReadingDoc, *, by: User, text: str = "") -> m.Reading:
    """Log a reading."""
    _checked_time(doc.at)
    check_reading(doc, _stores(rig), "reading")
    with writing(rig, by) as writer:
        day = day_row(rig, local_date(rig, doc.at))
        store = m.Store.objects.get(rig=rig, slug=doc.store)
        row = m.Reading.objects.create(
            day=day, store=store, at=doc.at, method=doc.method, value=doc.value, state=doc.state, text=text[:80]
        )
        writer.note("logged", "reading", row.pk, on=day.date, new=doc)
    return row


def add_event(rig: m.Rig, doc: d.EventDoc, *, by: User) -> m.Event:
    """Log an event."""
    _checked_time(doc.at)
    check_event(doc, _stores(rig), "event")
    with writing(rig, by) as writer:
        row = m.Event(day=day_row(rig, local_date(rig, doc.at)))
        _fill_event(row, rig, doc)
        writer.note("logged", "event", row.pk, on=row.day.date, new=doc)
    return row


def _fill_event(row: m.Event, rig: m.Rig, doc: d.EventDoc) -> None:
    row.at, row.type = doc.at, doc.type
    slug = getattr(doc, "store", None)
    row.store = m.Store.objects.get(rig=rig, slug=slug) if slug else None
    for name in rows.EVENT_FIELDS:
        setattr(row, name, getattr(doc, name, None))
    row.save()


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


def correct_reading(rig: m.Rig, key: int, doc: d.ReadingDoc, *, by: User, text: str = "") -> m.Reading:
    """Change a reading; what stood before is kept."""
    _checked_time(doc.at)
    check_reading(doc, _stores(rig), "reading")
    with writing(rig, by) as writer:
        row = reading_row(rig, key)
        old, was_on = rows.reading_fields(row, ZoneInfo(rig.timezone)), row.day.date
        row.day = day_row(rig, local_date(rig, doc.at))
        row.store = m.Store.objects.get(rig=rig, slug=doc.store)
        row.at, row.method, row.value, row.state, row.text = doc.at, doc.method, doc.value, doc.state, text[:80]
        row.save()
        _note_correction(writer, "reading", key, was_on, row.day.date, old, doc)
    return row


def correct_event(rig: m.Rig, key: int, doc: d.EventDoc, *, by: User) -> m.Event:
    """Change an event; what stood before is kept."""
    _checked_time(doc.at)
    check_event(doc, _stores(rig), "event")
    with writing(rig, by) as writer:
        row = event_row(rig, key)
        old, was_on = rows.event_fields(row, ZoneInfo(rig.timezone)), row.day.date
        row.day = day_row(rig, local_date(rig, doc.at))
        _fill_event(row, rig, doc)
        _note_correction(writer, "event", key, was_on, row.day.date, old, doc)
    return row


def _note_correction(writer: Writer, kind: str, key: int, was_on: date, now_on: date, old: Any, new: Any) -> None:
    for on in {was_on, now_on}:
        writer.note("corrected", kind, key, on=on, old=old, new=new)


def remove_reading(rig: m.Rig, key: int, *, by: User) -> None:
    """Take a reading out of the log; the change keeps it."""
    with writing(rig, by) as writer:
        row = reading_row(rig, key)
        writer.note("removed", "reading", key, on=row.day.date, old=rows.reading_fields(row, ZoneInfo(rig.timezone)))
        row.delete()


def remove_event(rig: m.Rig, key: int, *, by: User) -> None:
    """Take an event out of the log; the change keeps it."""
    with writing(rig, by) as writer:
        row = event_row(rig, key)
        writer.note("removed", "event", key, on=row.day.date, old=rows.event_fields(row, ZoneInfo(rig.timezone)))
        row.delete()


def _set_facts(row: m.Facts, facts: d.Part) -> None:
    for name in facts.model_fields_set:
        if name == "place":
            place = getattr(facts, "place", None)
            row.place_name = place.name if place else None
            row.lat = place.lat if place else None
            row.lon = place.lon if place else None
        else:
            setattr(row, name, getattr(facts, name))


def set_day(rig: m.Rig, on: date, facts: d.DayFacts, *, by: User) -> m.Day:
    """Change a day's own facts: only what was given."""
    if on > local_date(rig, clock.now()):
        raise Refused("date", "lies in the future; coming days belong to the outlook")
    with writing(rig, by) as writer:
        row = day_row(rig, on)
        old = rows.day_fields(row)
        _set_facts(row, facts)
        check_temperatures(row, "day")
        row.save()
        writer.note("corrected", "day", on, on=on, old=old, new=rows.day_fields(row))
    return row


def set_outlook(rig: m.Rig, on: date, facts: d.OutlookFacts, *, by: User) -> m.OutlookDay:
    """Change what a coming day is expected to bring: only what was given."""
    if on < local_date(rig, clock.now()):
        raise Refused("date", "is past; past days are in the logbook")
    with writing(rig, by) as writer:
        row, _ = m.OutlookDay.objects.get_or_create(rig=rig, date=on)
        old = rows.outlook_fields(row)
        _set_facts(row, facts)
        check_temperatures(row, "outlook")
        row.save()
        writer.note("corrected", "outlook", on, on=on, old=old, new=rows.outlook_fields(row))
    return row
