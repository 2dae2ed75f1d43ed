"""Rows to documents and core types. A rig with its stores is read by two queries, a span of its log by three."""

from collections import defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import asdict
from datetime import date, datetime
from typing import Any
from uuid import UUID

from django.db.models import Q

from lodeline.core.book import Spot
from lodeline.core.catalogue import SOURCE_KINDS, DayStatus, EventField, Method, SkyWord, VoltsState
from lodeline.core.log import Day as CoreDay
from lodeline.core.log import Event as CoreEvent
from lodeline.core.log import Log, Place, Visit
from lodeline.core.log import OutlookDay as CoreOutlookDay
from lodeline.core.log import Reading as CoreReading
from lodeline.core.rig import Rig as CoreRig
from lodeline.core.rig import Store as CoreStore
from lodeline.core.values import dataclass
from lodeline.core.wishes import Agreed, FixedStop
from lodeline.core.zone import Zone
from lodeline.formats import document as d
from lodeline.formats.convert import FILE_KEYS, event_of, rig_to_core, spot_to_core, visit_to_core
from lodeline.formats.refusals import validated
from lodeline.logbook import models as m


class Missing(LookupError):
    """No such thing on this rig."""


FACT_FIELDS = ("sky", "temp_min_c", "temp_max_c", "status", "crew_aboard", "panels_covered")
DAY_FIELDS = (*FACT_FIELDS, "solar_wh", "load_wh", "water_l", "note")
# The columns of an event's row, but for its store's.
EVENT_COLUMNS = {name: "to" if name is EventField.TO_FULL else name.value for name in EventField}
del EVENT_COLUMNS[EventField.STORE]


@dataclass(frozen=True, slots=True)
class RigRows:
    """A rig as its rows say: the row, the document, the core's rig, and the key of each store's row."""

    row: m.Rig
    doc: d.RigDoc
    core: CoreRig
    keys: dict[str, int]

    @property
    def stores(self) -> dict[str, CoreStore]:
        """The stores by their ids."""
        return {store.id: store for store in self.core.stores}

    @property
    def zone(self) -> Zone:
        """Where the rig's days begin and end."""
        return self.core.zone


def rig_rows(rig: m.Rig) -> RigRows:
    """A rig with its stores."""
    stores = list(m.Store.objects.filter(rig=rig))
    fields = {"name": rig.name, "timezone": rig.timezone, "units": rig.units, **rig.parts}
    doc = validated(d.RigDoc, fields | {"stores": [row.document for row in stores]})
    return RigRows(rig, doc, rig_to_core(doc), {row.slug: row.pk for row in stores})


def _given(row: Any, names: Iterable[str]) -> dict[str, Any]:
    return {name: getattr(row, name) for name in names}


def place_of(row: m.Facts) -> Place | None:
    """Where a day was spent."""
    if row.place_name is None or row.lat is None or row.lon is None:
        return None
    return Place(row.place_name, row.lat, row.lon, elevation_m=row.elevation_m)


def _core_facts(row: m.Facts) -> dict[str, Any]:
    return {
        "date": row.date,
        "place": place_of(row),
        "sky": SkyWord(row.sky) if row.sky else None,
        "temp_min_c": row.temp_min_c,
        "temp_max_c": row.temp_max_c,
        "status": DayStatus(row.status) if row.status else None,
        "crew_aboard": row.crew_aboard,
        "panels_covered": row.panels_covered,
    }


def visit_of(row: m.Day) -> Visit | None:
    """A day's visit to a place of the book."""
    return visit_to_core(validated(d.VisitDoc, row.visit)) if row.visit else None


def core_day(row: m.Day, readings: Iterable[CoreReading] = (), events: Iterable[CoreEvent] = ()) -> CoreDay:
    """A day's row as a core day."""
    return CoreDay(
        **_core_facts(row),
        note=row.note or "",
        solar_wh=row.solar_wh,
        load_wh=row.load_wh,
        water_l=row.water_l,
        visit=visit_of(row),
        readings=tuple(readings),
        events=tuple(events),
    )


def core_log(rig: m.Rig, since: date | None = None, until: date | None = None) -> Log:
    """The log between two dates, both included."""
    days, span = m.Day.objects.filter(rig=rig), Q(day__rig=rig)
    if since is not None:
        days, span = days.filter(date__gte=since), span & Q(day__date__gte=since)
    if until is not None:
        days, span = days.filter(date__lte=until), span & Q(day__date__lte=until)
    readings: dict[int, list[CoreReading]] = defaultdict(list)
    events: dict[int, list[CoreEvent]] = defaultdict(list)
    columns = ("day_id", "at", "store__slug", "method", "value", "state", "uuid", "confirmed", "within")
    for day_id, at, slug, method, value, state, key, sure, within in m.Reading.objects.filter(span).values_list(
        *columns
    ):
        known = VoltsState(state) if state else None
        readings[day_id].append(CoreReading(at, slug, Method(method), value, known, key, sure, within))
    said_in = EVENT_COLUMNS.values()
    for day_id, at, type, slug, key, *rest in m.Event.objects.filter(span).values_list(
        "day_id", "at", "type", "store__slug", "uuid", *said_in
    ):
        said = dict(zip(EVENT_COLUMNS, rest, strict=True))
        events[day_id].append(event_of(at, type, said | {EventField.STORE: slug}, key))
    return Log(tuple(core_day(row, readings[row.pk], events[row.pk]) for row in days))


def core_reading(row: m.Reading) -> CoreReading:
    """A reading's row as a core reading."""
    state = VoltsState(row.state) if row.state else None
    return CoreReading(
        row.at, row.store.slug, Method(row.method), row.value, state, row.uuid, row.confirmed, row.within
    )


def core_event(row: m.Event) -> CoreEvent:
    """An event's row as a core event."""
    said = {name: getattr(row, column) for name, column in EVENT_COLUMNS.items()}
    return event_of(row.at, row.type, said | {EventField.STORE: row.store.slug if row.store else None}, row.uuid)


def core_outlook(rig: m.Rig, since: date) -> tuple[CoreOutlookDay, ...]:
    """The outlook from a date on."""
    return tuple(core_outlook_day(row) for row in m.OutlookDay.objects.filter(rig=rig, date__gte=since))


def core_outlook_day(row: m.OutlookDay) -> CoreOutlookDay:
    """A coming day's row as a core outlook day."""
    return CoreOutlookDay(**_core_facts(row), hours=row.hours)


def _facts(row: m.Facts, names: Iterable[str]) -> dict[str, Any]:
    place = place_of(row)
    return {"date": row.date, **_given(row, names), "place": asdict(place) if place else None}


Entries = Mapping[date, list[dict[str, Any]]]
_READING = ("day__date", "at", "store__slug", "method", "value", "state", "within", "confirmed")


def readings_by_date(rig: m.Rig, zone: Zone) -> Entries:
    """The readings by their dates, as the file has them."""
    found: dict[date, list[dict[str, Any]]] = defaultdict(list)
    names = ("store", *_READING[3:-1])
    for on, at, *rest, sure in m.Reading.objects.filter(day__rig=rig).values_list(*_READING).iterator():
        given = {name: value for name, value in zip(names, rest, strict=True) if value is not None}
        found[on].append({"at": zone.local(at).isoformat(), **given, **({"confirmed": True} if sure else {})})
    return found


def events_by_date(rig: m.Rig, zone: Zone) -> Entries:
    """The events by their dates, as the file has them."""
    found: dict[date, list[dict[str, Any]]] = defaultdict(list)
    names = ("store", *(FILE_KEYS.get(name, name.value) for name in EVENT_COLUMNS))
    columns = ("day__date", "at", "type", "store__slug", *EVENT_COLUMNS.values())
    rows = m.Event.objects.filter(day__rig=rig).values_list(*columns)
    for on, at, type, *rest in rows.iterator():
        given = {name: value for name, value in zip(names, rest, strict=True) if value is not None}
        found[on].append({"at": zone.local(at).isoformat(), "type": type, **given})
    return found


def day_fields(row: m.Day) -> dict[str, Any]:
    """A day's own facts as the file has them."""
    return _facts(row, DAY_FIELDS) | {"visit": row.visit}


def outlook_fields(row: m.OutlookDay) -> dict[str, Any]:
    """A coming day's facts as the file has them."""
    hours = {SOURCE_KINDS[id].outlook_key: value for id, value in row.hours.items()}
    return _facts(row, FACT_FIELDS) | hours


def agreed_fields(row: m.Agreed) -> dict[str, Any]:
    """An agreement as the file has it."""
    return {"lever": row.lever, "from": row.since, "until": row.until}


def planned_fields(row: m.PlannedStop, zone: Zone) -> dict[str, Any]:
    """A stop planned by hand as the file has it."""
    return {"place": row.slug, "arrive": zone.local(row.arrive), "plug": row.plug or None}


def core_book(rig: m.Rig) -> tuple[Spot, ...]:
    """The book of places."""
    return tuple(spot_to_core(validated(d.SpotDoc, row.document)) for row in m.Spot.objects.filter(rig=rig))


def core_agreed(rig: m.Rig, since: date) -> tuple[Agreed, ...]:
    """What is agreed on and not over before a date."""
    found = m.Agreed.objects.filter(rig=rig, until__gte=since)
    return tuple(Agreed(lever=row.lever, since=row.since, until=row.until) for row in found)


def core_planned(rig: m.Rig, since: datetime) -> tuple[FixedStop, ...]:
    """The stops that are planned by hand and not over yet."""
    found = m.PlannedStop.objects.filter(rig=rig, arrive__gte=since)
    return tuple(FixedStop(spot=row.slug, arrive=row.arrive, plug=row.plug) for row in found)


def logbook_document(rig: m.Rig) -> d.LogbookDoc:
    """Everything of a rig as one document, but for its readings and events, which may be very many."""
    whole = rig_rows(rig)
    outlook = [outlook_fields(row) for row in m.OutlookDay.objects.filter(rig=rig)]
    return validated(
        d.LogbookDoc,
        {
            "format": "lodeline-logbook",
            "version": 1,
            "rig": whole.doc.model_dump(by_alias=True),
            "days": [day_fields(row) for row in m.Day.objects.filter(rig=rig)],
            "outlook": outlook or None,
            "places": [row.document for row in m.Spot.objects.filter(rig=rig)] or None,
            "agreed": [agreed_fields(row) for row in m.Agreed.objects.filter(rig=rig)] or None,
            "planned": [planned_fields(row, whole.zone) for row in m.PlannedStop.objects.filter(rig=rig)] or None,
        },
    )


@dataclass(frozen=True, slots=True)
class EntryNote:
    """What a row says of its entry beside the entry itself: whose it is, and which write set it last."""

    by: str | None = None
    revision: int = 0
    sent: UUID | None = None
    device_at: datetime | None = None


def entry_notes(rig: m.Rig, first: date, last: date) -> dict[UUID, EntryNote]:
    """The notes of the entries between two dates, both included, by the entry."""
    columns = ("uuid", "by__username", "revision", "sent", "device_at")
    span = Q(day__rig=rig, day__date__range=(first, last))
    return {
        key: EntryNote(by, revision, sent, device_at)
        for model in (m.Reading, m.Event)
        for key, by, revision, sent, device_at in model._default_manager.filter(span).values_list(*columns)
    }


def is_logged_before(rig: m.Rig, on: date) -> bool:
    """Whether anything is logged before a date."""
    return m.Day.objects.filter(rig=rig, date__lt=on).exists()
