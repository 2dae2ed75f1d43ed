"""Making and changing rigs."""

from datetime import datetime
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import Case, FloatField, Q, Value, When

from lodeline.core import problems as p
from lodeline.core.catalogue import Method
from lodeline.core.energy.loads import fitted_loads
from lodeline.core.errors import Refused
from lodeline.core.zone import Zone
from lodeline.formats import document as d
from lodeline.formats.checks import check_rig
from lodeline.formats.convert import load_to_document
from lodeline.logbook import models as m
from lodeline.logbook.services import chunks, rows
from lodeline.logbook.services.changes import Writer, writing
from lodeline.logbook.services.derived import Levels
from lodeline.text.logbook import Action
from lodeline.text.names import UNLISTED_LOAD

# What of a rig's document its row keeps as it is; the rest has columns or rows of its own.
_OWN = {"name", "timezone", "units", "stores"}
_PARTS = tuple(name for name in d.RigDoc.model_fields if name not in _OWN)


def set_rig(rig: m.Rig, doc: d.RigDoc) -> None:
    """Put the document's own fields on the row; the caller saves it."""
    fields = doc.model_dump(mode="json", by_alias=True, exclude_none=True)
    rig.name, rig.timezone, rig.units = doc.name, doc.timezone, doc.units
    rig.parts = {name: fields.get(name) for name in _PARTS}


def write_stores(rig: m.Rig, doc: d.RigDoc) -> None:
    """Make the rig's stores what the document says."""
    keep = [store.id for store in doc.stores]
    m.Store.objects.filter(rig=rig).exclude(slug__in=keep).delete()
    for position, store in enumerate(doc.stores):
        document = store.model_dump(mode="json", by_alias=True, exclude_none=True)
        m.Store.objects.update_or_create(rig=rig, slug=store.id, defaults={"document": document, "position": position})


@transaction.atomic
def create_rig(doc: d.RigDoc, *, by: User, assumed: list[str] | None = None) -> m.Rig:
    """Make a rig from a document."""
    check_rig(doc)
    rig = m.Rig(assumed=assumed or [])
    set_rig(rig, doc)
    rig.save()
    write_stores(rig, doc)
    writer = Writer(rig, by)
    writer.note(Action.MADE, "rig", rig.pk, new=doc)
    m.Change.objects.bulk_create(writer.notes)
    return rig


def stands_at(rig: m.Rig, place: d.PlaceDoc, now: datetime) -> None:
    """Write down where a new rig stands today."""
    on = Zone(rig.timezone).date(now)
    m.Day.objects.create(
        rig=rig, date=on, place_name=place.name, lat=place.lat, lon=place.lon, elevation_m=place.elevation_m
    )


class ChangedSince(Exception):
    """The document that was to be replaced is not the one that was seen."""


def check_seen(rig: m.Rig, saw: int) -> None:
    """Refuse to replace a document that was changed since it was seen."""
    if rig.document_revision > saw:
        raise ChangedSince


def seen_at(rig: m.Rig, known: Levels) -> int:
    """What who is shown something derived has seen: of older levels the parts aboard are nevertheless those of now."""
    return max(known.revision, rig.document_revision)


def update_rig(rig: m.Rig, doc: d.RigDoc, *, saw: int, by: User) -> m.Rig:
    """Change a rig to what the document says; what stood before is kept. ``saw``: the revision that it was made from.

    Raises
    ------
    ChangedSince
        Somebody changed it since; nothing is replaced.
    Refused
        A store that the log speaks of is missing from the document, or has become another kind.
    """
    doc = _built_anew(rows.rig_rows(rig).doc, doc)
    check_rig(doc)
    if rows.rig_rows(rig).doc == doc:
        return rig
    with writing(rig, by) as writer:
        rig.refresh_from_db()
        check_seen(rig, saw)
        old = rows.rig_rows(rig).doc
        _check_kept(rig, old, doc)
        _check_jugs_kept(rig, old, doc)
        zone_changed = rig.timezone != doc.timezone
        set_rig(rig, doc)
        rig.is_dated = rig.is_dated and not zone_changed
        rig.assumed = [path for path in rig.assumed if _at(old, path) == _at(doc, path)]
        rig.document_revision = rig.revision
        rig.save()
        _move_marks(rig, old, doc)
        write_stores(rig, doc)
        writer.note(Action.CORRECTED, "rig", rig.pk, old=old, new=doc)
    if zone_changed:
        chunks.put_on_dates(rig)
    return rig


def _built_anew(old: d.RigDoc, doc: d.RigDoc) -> d.RigDoc:
    """Of a rig that is built otherwise than was said, what the log taught of its loss holds no more."""
    before, heat = old.heat, doc.heat
    if before is None or heat is None or heat.ua_w_per_k != before.ua_w_per_k:
        return doc
    if (before.body, before.insulation) == (heat.body, heat.insulation):
        return doc
    return doc.model_copy(update={"heat": heat.model_copy(update={"ua_w_per_k": None})})


def confirm(rig: m.Rig, paths: list[str], *, by: User) -> m.Rig:
    """Take what was assumed at some paths as right."""
    with writing(rig, by) as writer:
        rig.refresh_from_db()
        before, rig.assumed = rig.assumed, [path for path in rig.assumed if path not in paths]
        rig.save()
        writer.note(Action.CORRECTED, "assumed", rig.pk, old={"assumed": before}, new={"assumed": rig.assumed})
    return rig


def delete_rig(rig: m.Rig) -> None:
    """Delete a rig with its log: from now on nobody has it. The caller keeps an export first."""
    with transaction.atomic():
        rig.memberships.all().delete()
        rig.invitations.all().delete()
        chunks.set_aside(rig, m.Rig.DELETED)
        rig.save(update_fields=["aside", "aside_at"])
    chunks.clear(rig)


def accept_loads(rig: m.Rig, learned_wh: float, *, saw: int, by: User) -> m.Rig:
    """Make the list of loads add up to what the log shows.

    Raises
    ------
    Refused
        The rig lists no loads.
    """
    whole = rows.rig_rows(rig)
    loads = [load_to_document(load) for load in fitted_loads(whole.core, learned_wh, UNLISTED_LOAD)]
    return update_rig(rig, whole.doc.model_copy(update={"loads": loads}), saw=saw, by=by)


def _at(doc: d.RigDoc, path: str) -> Any:
    """The value at a path such as ``stores.fresh.capacity``."""
    value: Any = doc
    for part in path.split("."):
        if isinstance(value, list):
            value = next((each for each in value if each.id == part), None)
        else:
            value = getattr(value, part, None)
        if value is None:
            return None
    return value


def _check_kept(rig: m.Rig, old: d.RigDoc, doc: d.RigDoc) -> None:
    kinds = {store.id: store.kind for store in doc.stores}
    for store in old.stores:
        if kinds.get(store.id) == store.kind:
            continue
        entries = m.Reading.objects.filter(store__rig=rig, store__slug=store.id).count()
        entries += m.Event.objects.filter(store__rig=rig, store__slug=store.id).count()
        if entries:
            raise Refused("stores", p.StoreInUse(store.id, entries))


def _check_jugs_kept(rig: m.Rig, old: d.RigDoc, doc: d.RigDoc) -> None:
    """Entries say the id of a jug, a bottle or a can: without it they would say nothing, and a file of the rig could
    not be read again."""
    kept = {each.id for each in (*(doc.jugs or ()), *(doc.spares or ()))}
    for jug in (*(old.jugs or ()), *(old.spares or ())):
        if jug.id in kept:
            continue
        events = m.Event.objects.filter(Q(source=jug.id) | Q(target=jug.id), day__rig=rig).count()
        if events:
            raise Refused("jugs" if isinstance(jug, d.JugDoc) else "spares", p.JugInUse(jug.name, events))


def _move_marks(rig: m.Rig, old: d.RigDoc, doc: d.RigDoc) -> None:
    """Where a panel's marks were found to sit elsewhere, its readings keep the mark that they showed."""
    before = {store.id: store.gauge for store in old.stores}
    for store in doc.stores:
        was = before.get(store.id)
        old_marks = was.marks if isinstance(was, d.StepsGauge) else []
        new_marks = store.gauge.marks if isinstance(store.gauge, d.StepsGauge) else []
        if old_marks == new_marks:
            continue
        readings = m.Reading.objects.filter(store__rig=rig, store__slug=store.id, method=Method.STEP)
        if len(old_marks) != len(new_marks) and readings.exists():
            raise Refused(f"stores.{store.id}.gauge", p.MarksInUse(readings.count(), len(old_marks)))
        moved = dict(zip(old_marks, new_marks, strict=False))
        # all that showed one value at once; what is moved first must not be moved again
        values = [value or 0.0 for value in readings.order_by().values_list("value", flat=True).distinct()]
        shows = {value: moved[min(old_marks, key=lambda mark: abs(mark - value))] for value in values}
        cases = [When(value=value, then=Value(to)) for value, to in shows.items()]
        if cases:
            readings.update(value=Case(*cases, output_field=FloatField()))
