"""Making and changing rigs."""

from dataclasses import asdict
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction

from lodeline.core.energy.loads import fitted_loads
from lodeline.core.errors import Refused
from lodeline.formats import document as d
from lodeline.formats.checks import check_rig
from lodeline.logbook import models as m
from lodeline.logbook.services import rows
from lodeline.logbook.services.changes import Writer, writing
from lodeline.logbook.services.record import day_row, local_date

_LISTS: tuple[tuple[str, type[m.Part], tuple[str, ...]], ...] = (
    ("stores", m.Store, rows.STORE_FIELDS),
    ("solar", m.Array, rows.ARRAY_FIELDS),
    ("sources", m.Source, rows.SOURCE_FIELDS),
    ("loads", m.Load, rows.LOAD_FIELDS),
)


def set_rig(rig: m.Rig, doc: d.RigDoc) -> None:
    """Put the document's own fields on the row; the caller saves it."""
    rig.name, rig.timezone, rig.units = doc.name, doc.timezone, doc.units
    rig.adults, rig.children, rig.pets = doc.crew.adults, doc.crew.children, doc.crew.pets
    rig.inverter = doc.inverter.model_dump() if doc.inverter else None


def _column(value: Any) -> Any:
    return value.model_dump() if isinstance(value, d.Part) else value


def write_parts(rig: m.Rig, doc: d.RigDoc) -> None:
    """Make the rig's lists what the document says."""
    for name, model, fields in _LISTS:
        wanted = getattr(doc, name)
        keep = [each.id for each in wanted]
        model._default_manager.filter(rig=rig).exclude(slug__in=keep).delete()
        for position, each in enumerate(wanted):
            values = {field: _column(getattr(each, field)) for field in fields}
            model._default_manager.update_or_create(rig=rig, slug=each.id, defaults={**values, "position": position})


@transaction.atomic
def create_rig(doc: d.RigDoc, *, by: User, assumed: list[str] | None = None) -> m.Rig:
    """Make a rig from a document."""
    check_rig(doc)
    rig = m.Rig(assumed=assumed or [])
    set_rig(rig, doc)
    rig.save()
    write_parts(rig, doc)
    Writer(rig, by).note("made", "rig", rig.pk, new=doc)
    return rig


def update_rig(rig: m.Rig, doc: d.RigDoc, *, by: User) -> m.Rig:
    """Change a rig to what the document says; what stood before is kept.

    Raises
    ------
    Refused
        A store that the log speaks of is missing from the document, or has become another kind.
    """
    check_rig(doc)
    with writing(rig, by) as writer:
        old = rows.rig_document(rig)
        _check_kept(rig, old, doc)
        zone_changed = rig.timezone != doc.timezone
        rig.refresh_from_db()
        set_rig(rig, doc)
        rig.assumed = [path for path in rig.assumed if _at(old, path) == _at(doc, path)]
        rig.save()
        write_parts(rig, doc)
        _move_marks(rig, old, doc)
        if zone_changed:
            _rehome(rig)
        writer.note("corrected", "rig", rig.pk, old=old, new=doc)
    return rig


def accept_loads(rig: m.Rig, learned_wh: float, *, by: User) -> m.Rig:
    """Make the list of loads add up to what the log shows.

    Raises
    ------
    Refused
        The rig lists no loads.
    """
    core = rows.core_rig(rig)
    try:
        fitted = fitted_loads(core, learned_wh)
    except ValueError as error:
        raise Refused("loads", str(error)) from error
    doc = rows.rig_document(rig)
    loads = [d.LoadDoc.model_validate(asdict(load)) for load in fitted]
    return update_rig(rig, doc.model_copy(update={"loads": loads}), by=by)


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
        entries = m.Reading.objects.filter(store__rig=rig, store__slug=store.id).count()
        entries += m.Event.objects.filter(store__rig=rig, store__slug=store.id).count()
        if entries and kinds.get(store.id) != store.kind:
            raise Refused(
                "stores",
                f'"{store.id}" has {entries} entries in the log, so it can be neither removed nor made another kind; '
                "add a new store beside it",
            )


def _move_marks(rig: m.Rig, old: d.RigDoc, doc: d.RigDoc) -> None:
    """Where a panel's marks were found to sit elsewhere, its readings keep the mark that they showed."""
    before = {store.id: store.gauge for store in old.stores}
    for store in doc.stores:
        was = before.get(store.id)
        old_marks = was.marks if isinstance(was, d.StepsGauge) else []
        new_marks = store.gauge.marks if isinstance(store.gauge, d.StepsGauge) else []
        if old_marks == new_marks:
            continue
        readings = m.Reading.objects.filter(store__rig=rig, store__slug=store.id, method="step")
        if len(old_marks) != len(new_marks) and readings.exists():
            raise Refused(
                f"stores.{store.id}.gauge",
                f"{readings.count()} readings show one of {len(old_marks)} marks; the panel must keep as many",
            )
        moved = dict(zip(old_marks, new_marks, strict=False))
        for row in readings:
            distances = [abs(mark - (row.value or 0.0)) for mark in old_marks]
            row.value = moved[old_marks[distances.index(min(distances))]]
            row.save(update_fields=["value"])


def _rehome(rig: m.Rig) -> None:
    """After a change of timezone an entry may belong to another date."""
    for model in (m.Reading, m.Event):
        for row in model._default_manager.filter(day__rig=rig).select_related("day"):
            on = local_date(rig, row.at)
            if row.day.date != on:
                row.day = day_row(rig, on)
                row.save(update_fields=["day"])
