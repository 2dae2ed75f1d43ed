"""Every write: raise the rig's revision and keep what stood before, in the same transaction."""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import field
from datetime import date, datetime
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.db import connection, transaction
from django.db.models import Count
from pydantic import BaseModel
from pydantic_core import to_jsonable_python

from lodeline.core.errors import Refused
from lodeline.core.log import Day, Event, OutlookDay, Reading
from lodeline.core.values import dataclass
from lodeline.formats import document as d
from lodeline.formats.convert import day_to_core, event_to_core, outlook_to_core, reading_to_core
from lodeline.formats.refusals import validated
from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services.rows import Missing
from lodeline.text.logbook import Action

_MOST_SHOWN = 200
_REF = 64


def plain(value: Any) -> Any:
    """A value as JSON holds it, without what is absent."""
    if isinstance(value, BaseModel):
        value = value.model_dump(by_alias=True)
    if isinstance(value, dict):
        value = {key: inner for key, inner in value.items() if inner is not None}
    return to_jsonable_python(value)


@dataclass
class Writer:
    """One write to a rig by somebody. Its change rows are written together at its end."""

    rig: m.Rig
    by: User
    notes: list[m.Change] = field(default_factory=list)

    def note(
        self, action: Action, kind: str, ref: object, *, on: date | None = None, old: Any = None, new: Any = None
    ) -> None:
        """Keep what stood before and what stands now."""
        name = ref.hex if isinstance(ref, UUID) else str(ref)
        self.notes.append(
            m.Change(
                rig=self.rig,
                at=clock.now(),
                by=self.by,
                action=action,
                kind=kind,
                ref=name[:_REF],
                date=on,
                old=plain(old) if old is not None else None,
                new=plain(new) if new is not None else None,
            )
        )


_KNOWN_ANEW = ("revision", "stamp", "document_revision", "replaced_revision")
_NEXT_REVISION = (
    f"UPDATE logbook_rig SET revision = revision + 1, stamp = %s WHERE id = %s RETURNING {', '.join(_KNOWN_ANEW)}"
)


@contextmanager
def writing(rig: m.Rig, by: User, *, within: bool = False) -> Iterator[Writer]:
    """A transaction that raises the rig's revision; the row that was handed in knows the new one, and that of its
    document and log.

    ``within``: a transaction is open already, which fails as a whole where this one does.

    Raises
    ------
    Missing
        The rig is gone.
    """
    with transaction.atomic(savepoint=not within):
        with connection.cursor() as cursor:
            cursor.execute(_NEXT_REVISION, [m.new_stamp(), rig.pk])
            found = cursor.fetchone()
        if found is None:
            raise Missing("rig")
        for name, value in zip(_KNOWN_ANEW, found, strict=True):
            setattr(rig, name, value)
        writer = Writer(rig, by)
        yield writer
        m.Change.objects.bulk_create(writer.notes)


@dataclass(frozen=True, slots=True, kw_only=True)
class LogChange:
    """What was changed about a date: by whom, when, and what stood before and after. Facts that are not the log's, or
    that cannot be read any more, are None."""

    at: datetime
    by: str | None
    action: Action
    old: Reading | Event | Day | OutlookDay | None
    new: Reading | Event | Day | OutlookDay | None


class _EventHolder(d.Part):
    event: d.EventDoc


def history(rig: m.Rig, on: date) -> list[LogChange]:
    """What was changed about a date, newest first."""
    rows = m.Change.objects.filter(rig=rig, date=on).select_related("by")[:_MOST_SHOWN]
    return [
        LogChange(
            at=row.at,
            by=row.by.username if row.by else None,
            action=Action(row.action),
            old=_facts(row.kind, row.old),
            new=_facts(row.kind, row.new),
        )
        for row in rows
    ]


def _facts(kind: str, fields: dict[str, Any] | None) -> Reading | Event | Day | OutlookDay | None:
    if fields is None:
        return None
    try:
        match kind:
            case "reading":
                return reading_to_core(validated(d.ReadingDoc, fields))
            case "event":
                return event_to_core(validated(_EventHolder, {"event": fields}).event)
            case "day":
                return day_to_core(validated(d.DayDoc, fields))
            case "outlook":
                return outlook_to_core(validated(d.OutlookDoc, fields))
    except Refused:
        pass
    return None


def counts(rig: m.Rig, first: date, last: date) -> dict[date, int]:
    """How many corrections each date between two has; first entries are not corrections."""
    rows = (
        m.Change.objects.filter(rig=rig, date__range=(first, last))
        .exclude(action=Action.LOGGED)
        .values_list("date")
        .annotate(n=Count("id"))
        .order_by()
    )
    return {on: n for on, n in rows if on is not None}
