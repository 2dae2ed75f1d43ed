"""Export and import: whole documents, all or nothing.

An import is first written beside what stands, in chunks, and then takes its place in one short transaction. What stood
is set aside as it was, so that an import can be undone, and undone again.
"""

import os
import re
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from datetime import UTC, date, datetime
from itertools import count
from pathlib import Path

from django.conf import settings
from django.contrib.auth.models import User
from django.db import DatabaseError, transaction
from django.db.models import Count, Max, Min

from lodeline.core.values import dataclass
from lodeline.core.zone import Zone
from lodeline.formats import document as d
from lodeline.formats.convert import hours_of
from lodeline.formats.logbook import read_logbook, write_document
from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services import chunks, rows
from lodeline.logbook.services.changes import Writer, plain, writing
from lodeline.logbook.services.rigs import ChangedSince, set_rig, write_stores
from lodeline.logbook.services.rows import Missing
from lodeline.text.logbook import Action

_STAMP = "%Y%m%dT%H%M%S"


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
        name=doc.rig.name,
        stores=[store.name for store in doc.rig.stores],
        days=len(doc.days),
        readings=sum(len(day.readings) for day in doc.days),
        events=sum(len(day.events) for day in doc.days),
        first=doc.days[0].date if doc.days else None,
        last=doc.days[-1].date if doc.days else None,
    )


def summary_of(rig: m.Rig) -> Summary:
    """Count what a rig holds."""
    days = m.Day.objects.filter(rig=rig).aggregate(count=Count("pk"), first=Min("date"), last=Max("date"))
    return Summary(
        name=rig.name,
        stores=[store.name for store in rows.rig_rows(rig).doc.stores],
        days=days["count"],
        readings=m.Reading.objects.filter(day__rig=rig).count(),
        events=m.Event.objects.filter(day__rig=rig).count(),
        first=days["first"],
        last=days["last"],
    )


def export(rig: m.Rig) -> bytes:
    """The rig's file."""
    zone = Zone(rig.timezone)
    doc, readings, events = rows.logbook_document(rig), rows.readings_by_date(rig, zone), rows.events_by_date(rig, zone)
    return write_document(doc, lambda on: {"readings": readings.get(on, []), "events": events.get(on, [])})


def import_new(doc: d.LogbookDoc, *, by: User, also: Callable[[m.Rig], object] = lambda rig: None) -> m.Rig:
    """A new rig from a document. ``also``: what is done with it in the transaction in which it comes to be."""
    with _staged(doc, revision=1) as rig, transaction.atomic():
        rig.aside, rig.aside_at = "", None
        rig.save()
        writer = Writer(rig, by)
        writer.note(Action.MADE, "rig", rig.pk, new=doc.rig)
        m.Change.objects.bulk_create(writer.notes)
        also(rig)
    return rig


def copy(rig: m.Rig, name: str, *, by: User) -> m.Rig:
    """A rig with all that is known of it, under another name."""
    doc = read_logbook(export(rig)).doc
    return import_new(doc.model_copy(update={"rig": doc.rig.model_copy(update={"name": name})}), by=by)


@contextmanager
def _staged(doc: d.LogbookDoc, *, revision: int) -> Iterator[m.Rig]:
    """A document as a rig that nobody has yet, written a chunk at a time; gone where that, or what follows, fails."""
    rig = m.Rig(revision=revision)
    set_rig(rig, doc.rig)
    chunks.set_aside(rig, m.Rig.STAGED)
    rig.save()
    try:
        write_stores(rig, doc.rig)
        _write_log(rig, doc)
        yield rig
    except BaseException:
        with suppress(DatabaseError):
            chunks.clear(rig)
        raise


def import_over(rig: m.Rig, doc: d.LogbookDoc, *, saw: int, by: User) -> Path:
    """Replace a rig and its log by a document. Returns the export that was made first.

    Raises
    ------
    ChangedSince
        Something was written since the revision ``saw``, at which the person was shown what would be replaced.
    """
    if rig.revision > saw:
        raise ChangedSince
    kept = keep_export(rig, "import")
    note = (vars(summary_of(rig)) | {"export": kept.name}, vars(summary(doc)))
    with _staged(doc, revision=rig.revision + 1) as staged:
        _put_in_place(rig, staged, Action.IMPORTED, note, saw=saw, by=by)
    return kept


def undo_import(rig: m.Rig, *, saw: int, by: User) -> Path:
    """Put back what the last import replaced, as it was. Returns the export of what stood until now.

    Raises
    ------
    Missing
        There is nothing to put back.
    ChangedSince
        Something was written since the revision ``saw``.
    """
    replaced = m.Rig.objects.filter(aside_of=rig, aside=m.Rig.REPLACED).order_by("pk").last()
    if replaced is None:
        raise Missing("import")
    if rig.revision > saw:
        raise ChangedSince
    kept = keep_export(rig, "import")
    _put_in_place(rig, replaced, Action.RESTORED, ({"export": kept.name}, {}), saw=saw, by=by)
    return kept


def can_undo_import(rig: m.Rig) -> bool:
    """Whether there is something that an import replaced."""
    return m.Rig.objects.filter(aside_of=rig, aside=m.Rig.REPLACED).exists()


_OWN = ("name", "timezone", "units", "parts", "assumed", "is_dated")


def _put_in_place(
    rig: m.Rig, other: m.Rig, action: Action, note: tuple[dict[str, object], dict[str, object]], *, saw: int, by: User
) -> None:
    """Exchange a rig's document and log for those of one that was set aside, which then holds what stood before."""
    with writing(rig, by) as writer:
        rig.refresh_from_db()
        if rig.revision > saw + 1:
            raise ChangedSince
        aside = m.Rig(aside_of=rig, **{name: getattr(rig, name) for name in _OWN})
        chunks.set_aside(aside, m.Rig.REPLACED)
        aside.save()
        for kind in (m.Store, m.Day, m.OutlookDay, m.Spot, m.Agreed, m.PlannedStop):
            kind._default_manager.filter(rig=rig).update(rig=aside)
            kind._default_manager.filter(rig=other).update(rig=rig)
        for name in _OWN:
            setattr(rig, name, getattr(other, name))
        rig.document_revision = rig.replaced_revision = rig.revision
        rig.save()
        writer.note(action, "rig", rig.pk, old=note[0], new=note[1])
    with suppress(DatabaseError):  # it is done; what cannot be cleared now is cleared the next time
        other.delete()
        for older in m.Rig.objects.filter(aside_of=rig).exclude(pk=aside.pk):
            chunks.clear(older)


def keep_export(rig: m.Rig, before: str) -> Path:
    """Write a rig's file beside the data, before something replaces it."""
    folder = _exports()
    folder.mkdir(mode=0o700, exist_ok=True)
    stem = f"rig-{rig.pk}-before-{before}-{clock.now().astimezone(UTC):{_STAMP}}"
    for number in count():
        path = folder / f"{stem}-{number}.json"
        try:
            file = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
        except FileExistsError:
            continue
        try:
            with os.fdopen(file, "wb") as out:
                out.write(export(rig))
                out.flush()
                os.fsync(out.fileno())
        except BaseException:
            path.unlink(missing_ok=True)
            raise
        return path
    raise AssertionError("unreachable")


_Columns = dict[str, object]


def _write_log(rig: m.Rig, doc: d.LogbookDoc) -> None:
    chunks.create(
        m.Day,
        (
            {"rig_id": rig.pk, "touched": _touched(rig, each, rows.DAY_FIELDS)} | _facts(each, rows.DAY_FIELDS)
            for each in doc.days
        ),
    )
    stores = dict(m.Store.objects.filter(rig=rig).values_list("slug", "pk"))
    days = dict(m.Day.objects.filter(rig=rig).values_list("date", "pk"))
    chunks.create(m.Reading, _readings(rig, doc, days, stores))
    chunks.create(m.Event, _events(rig, doc, days, stores))
    coming = (
        {"rig_id": rig.pk, "touched": _touched(rig, each, rows.FACT_FIELDS), "hours": hours_of(each)}
        | _facts(each, rows.FACT_FIELDS)
        for each in doc.outlook or []
    )
    chunks.create(m.OutlookDay, coming)
    write_book(rig, doc)


def write_book(rig: m.Rig, doc: d.LogbookDoc) -> None:
    """The book of places, what is agreed and what is planned by hand, of a new rig."""
    chunks.create(m.Spot, ({"rig_id": rig.pk, "slug": each.id, "document": plain(each)} for each in doc.places or []))
    chunks.create(
        m.Agreed, ({"rig_id": rig.pk, "lever": a.lever, "since": a.since, "until": a.until} for a in doc.agreed or [])
    )
    stops = ({"rig_id": rig.pk, "slug": s.place, "arrive": s.arrive, "plug": bool(s.plug)} for s in doc.planned or [])
    chunks.create(m.PlannedStop, stops)


def _readings(rig: m.Rig, doc: d.LogbookDoc, days: dict[date, int], stores: dict[str, int]) -> Iterator[_Columns]:
    for day in doc.days:
        for each in day.readings:
            yield {
                "day_id": days[day.date],
                "store_id": stores[each.store],
                "revision": rig.revision,
                "at": each.at,
                "method": each.method,
                "value": each.value,
                "state": each.state,
                "confirmed": bool(each.confirmed),
                "within": each.within,
            }


def _events(rig: m.Rig, doc: d.LogbookDoc, days: dict[date, int], stores: dict[str, int]) -> Iterator[_Columns]:
    for day in doc.days:
        for each in day.events:
            slug = getattr(each, "store", None)
            yield {
                "day_id": days[day.date],
                "at": each.at,
                "type": each.type,
                "store_id": stores[slug] if slug else None,
                "revision": rig.revision,
                **{column: getattr(each, name.value, None) for name, column in rows.EVENT_COLUMNS.items()},
            }


def _touched(rig: m.Rig, doc: d.DayDoc | d.OutlookDoc, names: tuple[str, ...]) -> dict[str, object]:
    """That a file set these facts; what was made before it is not put over them unseen."""
    return {name: [rig.revision, None] for name in names if getattr(doc, name) is not None}


def _facts(doc: d.DayDoc | d.OutlookDoc, names: tuple[str, ...]) -> dict[str, object]:
    fields: dict[str, object] = {"date": doc.date} | {name: getattr(doc, name) for name in names}
    if isinstance(doc, d.DayDoc) and doc.visit is not None:
        fields["visit"] = plain(doc.visit)
    if doc.place is not None:
        place = doc.place
        fields |= {"place_name": place.name, "lat": place.lat, "lon": place.lon, "elevation_m": place.elevation_m}
    return fields


_MOST_LISTED = 100
_KEPT = re.compile(r"rig-(\d+)-before-import-(\d{8}T\d{6})-(\d+)\.json")


def _exports() -> Path:
    return Path(settings.LODELINE_DATA) / "exports"


@dataclass(frozen=True, slots=True)
class KeptExport:
    """An export that was made before an import: its file, when, and its size."""

    name: str
    at: datetime
    size_bytes: int


def kept_exports(rig: m.Rig) -> list[KeptExport]:
    """The exports of a rig that are kept, newest first."""
    found: list[tuple[int, KeptExport]] = []
    for path in _exports().glob(f"rig-{rig.pk}-before-import-*.json"):
        named = _KEPT.fullmatch(path.name)
        if named is not None:
            at = datetime.strptime(named[2], _STAMP).replace(tzinfo=UTC)
            found.append((int(named[3]), KeptExport(path.name, at, path.stat().st_size)))
    found.sort(key=lambda each: (each[1].at, each[0]), reverse=True)
    return [each for _, each in found[:_MOST_LISTED]]


def kept_export(rig: m.Rig, name: str) -> bytes:
    """An export of this rig that an import made first.

    Raises
    ------
    Missing
        There is none of that name.
    """
    named = _KEPT.fullmatch(name)
    path = _exports() / name
    if named is None or int(named[1]) != rig.pk or not path.is_file():
        raise Missing("export")
    return path.read_bytes()
