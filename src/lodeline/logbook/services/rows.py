"""Rows to documents and core types."""

from collections import defaultdict
from collections.abc import Iterable
from datetime import date
from typing import Any
from zoneinfo import ZoneInfo

from lodeline.core.log import Day as CoreDay
from lodeline.core.log import Event as CoreEvent
from lodeline.core.log import Log, Place
from lodeline.core.log import OutlookDay as CoreOutlookDay
from lodeline.core.log import Reading as CoreReading
from lodeline.core.rig import Rig as CoreRig
from lodeline.formats import document as d
from lodeline.formats.convert import rig_to_core
from lodeline.logbook import models as m

STORE_FIELDS = tuple(name for name in d.StoreDoc.model_fields if name != "id")
ARRAY_FIELDS = tuple(name for name in d.ArrayDoc.model_fields if name != "id")
SOURCE_FIELDS = tuple(name for name in d.SourceDoc.model_fields if name != "id")
LOAD_FIELDS = tuple(name for name in d.LoadDoc.model_fields if name != "id")
FACT_FIELDS = ("sky", "temp_min_c", "temp_max_c", "status", "crew_aboard")
TOTAL_FIELDS = ("solar_wh", "load_wh", "water_l")
OUTLOOK_HOURS = ("drive_hours", "shore_hours", "generator_hours")
EVENT_FIELDS = ("to", "amount", "left", "source", "target", "hours", "km", "count")


def _fields(row: Any, names: Iterable[str]) -> dict[str, Any]:
    return {name: getattr(row, name) for name in names}


def _part(row: m.Part, names: Iterable[str]) -> dict[str, Any]:
    return {"id": row.slug} | _fields(row, names)


def rig_document(rig: m.Rig) -> d.RigDoc:
    """A rig's rows as a document."""
    return d.RigDoc.model_validate(
        {
            "name": rig.name, "timezone": rig.timezone, "units": rig.units,
            "crew": {"adults": rig.adults, "children": rig.children, "pets": rig.pets},
            "stores": [_part(row, STORE_FIELDS) for row in m.Store.objects.filter(rig=rig)],
            "solar": [_part(row, ARRAY_FIELDS) for row in m.Array.objects.filter(rig=rig)],
            "sources": [_part(row, SOURCE_FIELDS) for row in m.Source.objects.filter(rig=rig)],
            "inverter": rig.inverter,
            "loads": [_part(row, LOAD_FIELDS) for row in m.Load.objects.filter(rig=rig)],
        }
    )  # fmt: skip


def core_rig(rig: m.Rig) -> CoreRig:
    """A rig's rows as a core rig."""
    return rig_to_core(rig_document(rig))


def place_of(row: m.Facts) -> Place | None:
    """Where a day was spent."""
    if row.place_name is None or row.lat is None or row.lon is None:
        return None
    return Place(row.place_name, row.lat, row.lon)


def core_log(rig: m.Rig, since: date | None = None, until: date | None = None) -> Log:
    """The log between two dates, both included."""
    days = m.Day.objects.filter(rig=rig)
    if since is not None:
        days = days.filter(date__gte=since)
    if until is not None:
        days = days.filter(date__lte=until)
    rows = list(days)
    ids = {row.id for row in rows}
    readings: dict[int, list[CoreReading]] = defaultdict(list)
    events: dict[int, list[CoreEvent]] = defaultdict(list)
    span: dict[str, Any] = {"day__rig": rig}
    if since is not None:
        span["day__date__gte"] = since
    if until is not None:
        span["day__date__lte"] = until
    columns = ("day_id", "at", "store__slug", "method", "value", "state", "id")
    for day_id, at, slug, method, value, state, key in m.Reading.objects.filter(**span).values_list(*columns):
        readings[day_id].append(CoreReading(at, slug, method, value, state, key))
    for event in m.Event.objects.filter(**span).select_related("store"):
        events[event.day_id].append(core_event(event))
    assert ids >= set(readings) | set(events)
    return Log(
        tuple(
            CoreDay(
                row.date, place_of(row), **_fields(row, FACT_FIELDS), note=row.note or "", **_fields(row, TOTAL_FIELDS),
                readings=tuple(readings[row.id]), events=tuple(events[row.id]),
            )
            for row in rows
        )
    )  # fmt: skip


def core_event(row: m.Event) -> CoreEvent:
    """An event's row as a core event."""
    return CoreEvent(
        row.at, row.type, row.store.slug if row.store else None, row.to == "full", row.amount, row.left or 0.0,
        row.source, row.target, row.hours, row.km, row.count, row.id,
    )  # fmt: skip


def core_outlook(rig: m.Rig, since: date) -> tuple[CoreOutlookDay, ...]:
    """The outlook from a date on."""
    return tuple(
        CoreOutlookDay(row.date, place_of(row), **_fields(row, FACT_FIELDS), **_fields(row, OUTLOOK_HOURS))
        for row in m.OutlookDay.objects.filter(rig=rig, date__gte=since)
    )


def _facts(row: m.Facts, names: Iterable[str]) -> dict[str, Any]:
    place = place_of(row)
    return {
        "date": row.date, **_fields(row, names),
        "place": {"name": place.name, "lat": place.lat, "lon": place.lon} if place else None,
    }  # fmt: skip


def reading_fields(row: m.Reading, zone: ZoneInfo) -> dict[str, Any]:
    """A reading as the file has it."""
    return {
        "at": row.at.astimezone(zone), "store": row.store.slug, "method": row.method, "value": row.value,
        "state": row.state,
    }  # fmt: skip


def event_fields(row: m.Event, zone: ZoneInfo) -> dict[str, Any]:
    """An event as the file has it."""
    found: dict[str, Any] = {"at": row.at.astimezone(zone), "type": row.type}
    if row.store is not None:
        found["store"] = row.store.slug
    return found | {name: value for name in EVENT_FIELDS if (value := getattr(row, name)) is not None}


def day_fields(row: m.Day) -> dict[str, Any]:
    """A day's own facts as the file has them."""
    return _facts(row, (*FACT_FIELDS, *TOTAL_FIELDS, "note"))


def outlook_fields(row: m.OutlookDay) -> dict[str, Any]:
    """A coming day's facts as the file has them."""
    return _facts(row, (*FACT_FIELDS, *OUTLOOK_HOURS))


def logbook_document(rig: m.Rig) -> d.LogbookDoc:
    """Everything of a rig as one document."""
    zone = ZoneInfo(rig.timezone)
    days = []
    for row in m.Day.objects.filter(rig=rig).prefetch_related("readings__store", "events__store"):
        fields = day_fields(row)
        fields["readings"] = [reading_fields(each, zone) for each in row.readings.all()]
        fields["events"] = [event_fields(each, zone) for each in row.events.all()]
        days.append(fields)
    outlook = [outlook_fields(row) for row in m.OutlookDay.objects.filter(rig=rig)]
    return d.LogbookDoc.model_validate(
        {
            "format": "lodeline-logbook", "version": 1, "rig": rig_document(rig).model_dump(by_alias=True),
            "days": days, "outlook": outlook or None,
        }
    )  # fmt: skip


def core_log_exists_before(rig: m.Rig, on: date) -> bool:
    """Whether anything is logged before a date."""
    return m.Day.objects.filter(rig=rig, date__lt=on).exists()
