"""Every write: raise the rig's revision and keep what stood before, in the same transaction."""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import date
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import Count, F
from pydantic import BaseModel
from pydantic_core import to_jsonable_python

from lodeline.logbook import clock
from lodeline.logbook import models as m


def plain(value: Any) -> Any:
    """A value as JSON holds it, without what is absent."""
    if isinstance(value, BaseModel):
        value = value.model_dump(by_alias=True)
    if isinstance(value, dict):
        value = {key: inner for key, inner in value.items() if inner is not None}
    return to_jsonable_python(value)


@dataclass(frozen=True)
class Writer:
    """One write to a rig by somebody: leaves its change rows."""

    rig: m.Rig
    by: User

    def note(
        self, action: str, kind: str, ref: object, *, on: date | None = None, old: Any = None, new: Any = None
    ) -> None:
        """Keep what stood before and what stands now."""
        m.Change.objects.create(
            rig=self.rig, at=clock.now(), by=self.by, action=action, kind=kind, ref=str(ref)[:64], date=on,
            old=plain(old) if old is not None else None, new=plain(new) if new is not None else None,
        )  # fmt: skip


@contextmanager
def writing(rig: m.Rig, by: User) -> Iterator[Writer]:
    """A transaction that raises the rig's revision."""
    with transaction.atomic():
        m.Rig.objects.filter(pk=rig.pk).update(revision=F("revision") + 1)
        yield Writer(rig, by)


def history(rig: m.Rig, on: date) -> list[m.Change]:
    """What was changed about a date, newest first."""
    return list(m.Change.objects.filter(rig=rig, date=on).select_related("by")[:200])


def counts(rig: m.Rig, first: date, last: date) -> dict[date, int]:
    """How many corrections each date between two has; first entries are not corrections."""
    rows = (
        m.Change.objects.filter(rig=rig, date__range=(first, last)).exclude(action="logged").values_list("date")
        .annotate(n=Count("id")).order_by()
    )  # fmt: skip
    return {on: n for on, n in rows if on is not None}
