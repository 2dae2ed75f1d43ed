"""Export and import: whole documents, all or nothing, undone by importing the export that an import makes first."""

import os
from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from itertools import count
from pathlib import Path

from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction

from lodeline.formats import document as d
from lodeline.formats.convert import hours_of
from lodeline.formats.logbook import write_document
from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services import rows
from lodeline.logbook.services.changes import writing
from lodeline.logbook.services.rigs import ChangedSince, create_rig, set_rig, write_stores
from lodeline.logbook.services.rows import Missing
from lodeline.text.logbook import Action

_BATCH = 500


@dataclass(frozen=True, kw_only=True)
class Summary:
    """What a document holds."""

    name: str
    stores: list[str]
    days: int
    readings: int
    events: int
    first: date | None
    last: date | None


def summary(doc: d.LogbookDoc) -> Summary:
    """Count what a document would bring, or what a rig holds."""
    return Summary(
        name=doc.rig.name, stores=[store.name for store in doc.rig.stores], days=len(doc.days),
        readings=sum(len(day.readings) for day in doc.days), events=sum(len(day.events) for day in doc.days),
        first=doc.days[0].date if doc.days else None, last=doc.days[-1].date if doc.days else None,
    )  # fmt: skip


def export(rig: m.Rig) -> bytes:
    """The rig's file."""
    return write_document(rows.logbook_document(rig))


def import_new(doc: d.LogbookDoc, *, by: User, also: Callable[[m.Rig], object] = lambda rig: None) -> m.Rig:
    """A new rig from a document. ``also``: what is done with it in the same transaction."""
    with transaction.atomic():
        rig = create_rig(doc.rig, by=by)
        _write_log(rig, doc)
        also(rig)
    return rig


def import_over(rig: m.Rig, doc: d.LogbookDoc, *, saw: int, by: User) -> Path:
    """Replace a rig and its log by a document. Returns the export that was made first.

    Raises
    ------
    ChangedSince
        Something was written since the revision ``saw``, at which the person was shown what would be replaced.
    """
    kept = keep_export(rig, "import")
    with writing(rig, by) as writer:
        if rig.revision > saw + 1:
            raise ChangedSince
        before = summary(rows.logbook_document(rig))
        m.Day.objects.filter(rig=rig).delete()
        m.OutlookDay.objects.filter(rig=rig).delete()
        m.Store.objects.filter(rig=rig).delete()
        rig.refresh_from_db()
        set_rig(rig, doc.rig)
        rig.assumed = []
        rig.document_revision = rig.revision
        rig.save()
        write_stores(rig, doc.rig)
        _write_log(rig, doc)
        writer.note(Action.IMPORTED, "rig", rig.pk, old=vars(before) | {"export": kept.name}, new=vars(summary(doc)))
    return kept


def keep_export(rig: m.Rig, before: str) -> Path:
    """Write a rig's file beside the data, before something replaces it."""
    folder = Path(settings.LODELINE_DATA) / "exports"
    folder.mkdir(parents=True, exist_ok=True)
    stem = f"rig-{rig.pk}-before-{before}-{clock.now():%Y%m%dT%H%M%S}"
    for number in count():
        path = folder / f"{stem}-{number}.json"
        try:
            file = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
        except FileExistsError:
            continue
        with os.fdopen(file, "wb") as out:
            out.write(export(rig))
        return path
    raise AssertionError("unreachable")


_EVENT_COLUMNS = ("amount", "left", "source", "target", "hours", "km", "count")


def _write_log(rig: m.Rig, doc: d.LogbookDoc) -> None:
    stores = dict(m.Store.objects.filter(rig=rig).values_list("slug", "pk"))
    days, readings, events = [], [], []
    for each in doc.days:
        day = m.Day(rig=rig, touched=_touched(rig, each, rows.DAY_FIELDS), **_facts(each, rows.DAY_FIELDS))
        days.append(day)
        for reading in each.readings:
            fields = {"at": reading.at, "method": reading.method, "value": reading.value, "state": reading.state}
            store = stores[reading.store]
            readings.append(m.Reading(day=day, store_id=store, revision=rig.revision, **fields))
        for event in each.events:
            slug = getattr(event, "store", None)
            fields = {name: getattr(event, name, None) for name in _EVENT_COLUMNS}
            to = getattr(event, "to_full", None)
            fields |= {"store_id": stores[slug] if slug else None, "revision": rig.revision}
            events.append(m.Event(day=day, at=event.at, type=event.type, to=to, **fields))
    m.Day.objects.bulk_create(days, _BATCH)
    m.Reading.objects.bulk_create(readings, _BATCH)
    m.Event.objects.bulk_create(events, _BATCH)
    m.OutlookDay.objects.bulk_create(
        m.OutlookDay(
            rig=rig, touched=_touched(rig, each, rows.FACT_FIELDS), **_facts(each, rows.FACT_FIELDS),
            hours=hours_of(each),
        )
        for each in doc.outlook or []
    )  # fmt: skip


def _touched(rig: m.Rig, doc: d.DayDoc | d.OutlookDoc, names: tuple[str, ...]) -> dict[str, object]:
    """That a file set these facts; what was made before it is not put over them unseen."""
    return {name: [rig.revision, None] for name in names if getattr(doc, name) is not None}


def _facts(doc: d.DayDoc | d.OutlookDoc, names: tuple[str, ...]) -> dict[str, object]:
    fields: dict[str, object] = {"date": doc.date} | {name: getattr(doc, name) for name in names}
    if doc.place is not None:
        fields |= {"place_name": doc.place.name, "lat": doc.place.lat, "lon": doc.place.lon}
    return fields


def kept_export(rig: m.Rig, name: str) -> bytes:
    """An export of this rig that an import made first.

    Raises
    ------
    Missing
        There is none of that name.
    """
    folder = Path(settings.LODELINE_DATA) / "exports"
    path = folder / name
    if not name.startswith(f"rig-{rig.pk}-before-import-") or path.parent != folder or not path.is_file():
        raise Missing("export")
    return path.read_bytes()
