"""Large writes in pieces, so that nobody waits for the database; what was left half done is finished later."""

from collections.abc import Callable, Iterable, Mapping
from datetime import UTC, date, timedelta
from itertools import islice
from typing import Any

from django.db import connection, models, transaction

from lodeline.core.zone import Zone
from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services.shared import drop

# Rows that are written or deleted while nobody else can write: a few hundredths of a second.
ROWS = 500
# What another process may still be writing is not taken for left behind.
_UNDER_WAY = timedelta(hours=1)


def create(kind: type[models.Model], made: Iterable[Mapping[str, Any]]) -> None:
    """Write rows, a chunk at a time, each given by the names of its columns; what is not given is as the model has it.

    What is written is made ready before the database is held.
    """
    fields = [field for field in kind._meta.local_concrete_fields if not field.primary_key]
    columns, marks = ", ".join(f'"{field.column}"' for field in fields), ", ".join("%s" for _ in fields)
    insert = f'INSERT INTO "{kind._meta.db_table}" ({columns}) VALUES ({marks})'
    ways = [(field.attname, field.get_default, _as_stored(field)) for field in fields]
    rest = iter(made)
    while chunk := list(islice(rest, ROWS)):
        ready = [[stored(row[name] if name in row else default()) for name, default, stored in ways] for row in chunk]
        with transaction.atomic(), connection.cursor() as cursor:
            cursor.executemany(insert, ready)


_AS_IT_IS = (models.CharField, models.FloatField, models.IntegerField, models.BooleanField, models.ForeignKey)


def _as_stored(field: "models.Field[Any, Any]") -> Callable[[Any], Any]:
    """How the database has a field's value; the plain ways without asking the field each time."""
    if isinstance(field, _AS_IT_IS):
        return lambda value: value
    if isinstance(field, models.DateTimeField):
        return lambda at: None if at is None else str(at.astimezone(UTC).replace(tzinfo=None))
    return lambda value: field.get_db_prep_save(value, connection)


def clear(rig: m.Rig) -> None:
    """Delete a rig that nobody has any more, a chunk at a time."""
    for rows in (
        m.Reading.objects.filter(day__rig=rig),
        m.Event.objects.filter(day__rig=rig),
        m.IssuedForecast.objects.filter(store__rig=rig),
        m.Change.objects.filter(rig=rig),
        m.Receipt.objects.filter(rig=rig),
        m.OutlookDay.objects.filter(rig=rig),
        m.Day.objects.filter(rig=rig),
    ):
        _delete(rows)
    for replaced in m.Rig.objects.filter(aside_of=rig):
        clear(replaced)
    drop(rig)
    rig.delete()


def _delete(rows: "models.QuerySet[Any]") -> None:
    """Delete rows that no other row speaks of any more, a chunk at a time."""
    some, which = rows.order_by().values("pk")[:ROWS].query.sql_with_params()
    deleted = ROWS
    while deleted == ROWS:
        with transaction.atomic(), connection.cursor() as cursor:
            cursor.execute(f'DELETE FROM "{rows.model._meta.db_table}" WHERE id IN ({some})', which)
            deleted = cursor.rowcount


def set_aside(rig: m.Rig, why: str) -> None:
    """Say of a rig that it is none that somebody has; the caller saves it."""
    rig.aside, rig.aside_at = why, clock.now()


def put_on_dates(rig: m.Rig) -> None:
    """After a change of timezone an entry may belong to another date: move those that do."""
    zone = Zone(rig.timezone)
    for kind in (m.Reading, m.Event):
        rows = kind._default_manager.filter(day__rig=rig).order_by().values_list("pk", "at", "day__date")
        moved = iter([(pk, on) for pk, at, was in rows if (on := zone.date(at)) != was])
        while chunk := list(islice(moved, ROWS)):
            _move(rig, kind, chunk)
    rig.is_dated, rig.stamp = True, m.new_stamp()
    rig.save(update_fields=["is_dated", "stamp"])


@transaction.atomic
def _move(rig: m.Rig, kind: type[m.Reading] | type[m.Event], chunk: list[tuple[int, date]]) -> None:
    dates = {on for _, on in chunk}
    m.Day.objects.bulk_create((m.Day(rig=rig, date=on) for on in dates), ignore_conflicts=True)
    days = dict(m.Day.objects.filter(rig=rig, date__in=dates).values_list("date", "pk"))
    with connection.cursor() as cursor:
        cursor.executemany(
            f"UPDATE {kind._meta.db_table} SET day_id = %s WHERE id = %s", [(days[on], pk) for pk, on in chunk]
        )


def finish() -> None:
    """Finish what was left half done."""
    for rig in m.Rig.objects.filter(aside="", is_dated=False):
        put_on_dates(rig)
    left = m.Rig.objects.filter(aside__in=(m.Rig.STAGED, m.Rig.DELETED), aside_at__lt=clock.now() - _UNDER_WAY)
    for rig in left:
        clear(rig)
