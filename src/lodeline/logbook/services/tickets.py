"""Tickets as they were written: opened for a stop, the same until it is over, ticked off by what the log says."""

from collections.abc import Mapping
from dataclasses import asdict, fields
from datetime import datetime, timedelta
from typing import Any

from django.contrib.auth.models import User

from lodeline.core import problems as p
from lodeline.core.catalogue import Caution
from lodeline.core.catalogue.terms import Thing
from lodeline.core.errors import Refused
from lodeline.core.log import Event
from lodeline.core.rig import Rig
from lodeline.core.stops.plan import PlannedOuting
from lodeline.core.stops.ticket import StopWeight, Task, TaskKind, done_by, ticket
from lodeline.core.values import dataclass
from lodeline.core.wishes import FixedStop
from lodeline.core.zone import Zone
from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services import plans, rows
from lodeline.logbook.services.changes import Writer, plain
from lodeline.logbook.services.derived import Derived
from lodeline.logbook.services.rows import Missing
from lodeline.text.logbook import Action

_MOST_LISTED = 20
_MOVED = timedelta(hours=1)  # a ticket that leaves by less at another time is the same
# What was done just before the ticket was written is done.
_JUST_BEFORE = timedelta(minutes=15)


@dataclass(frozen=True, slots=True, kw_only=True)
class Written:
    """A ticket that was written, with what is done of it. ``done``: the events by the ids of their tasks; ``places``:
    in their order; ``is_gone``: whether the last plan has no such stop any more; ``has_changed``: whether it has
    another one in its place."""

    key: int
    opened_at: datetime
    spot: str
    spot_name: str
    places: tuple[str, ...]
    leave: datetime
    arrive: datetime
    tasks: tuple[Task, ...]
    done: Mapping[str, Event]
    weight: StopWeight
    cautions: tuple[Caution, ...]
    over: bool
    is_gone: bool = False
    has_changed: bool = False

    @property
    def begun(self) -> bool:
        """Whether anything of it is logged."""
        return bool(self.done)

    @property
    def left(self) -> int:
        """Tasks that write to the log and are not done yet."""
        return sum(1 for task in self.tasks if task.event and not task.optional and task.id not in self.done)


def open_ticket(rig: m.Rig, known: Derived, stop: FixedStop, *, by: User) -> int:
    """Write the ticket of a stop; the same stop opened twice is one ticket. Returns its key.

    Raises
    ------
    Refused
        There is no such place, or the stop lies outside what is planned for.
    """
    standing = m.Ticket.objects.filter(rig=rig, slug=stop.spot, body__arrive=stop.arrive.isoformat())
    if (row := standing.first()) is not None:
        return row.pk
    if stop.spot not in {spot.id for spot in known.book}:
        raise Refused("place", p.NoSpot(stop.spot))
    found = plans.planned_with(rig, stop)
    made = found or plans.outing_at(rig, known, stop)
    if made is None:
        raise Refused("arrive", p.UntilOutOfRange(known.forecast.horizon_days))
    row = m.Ticket.objects.create(
        rig=rig, opened_at=clock.now(), slug=stop.spot, body=_body(known, made, stop, planned=found is not None)
    )
    _note(rig, by, Action.MADE, row)
    return row.pk


def _body(known: Derived, made: PlannedOuting, stop: FixedStop, *, planned: bool) -> dict[str, Any]:
    contents = {each.store.id: each.level for each in known.forecast.stores if each.level is not None}
    written = ticket(known.rig, made, contents)
    mine = next((each for each in made.stops if each.spot.id == stop.spot), made.stops[0])
    return {
        "name": mine.spot.name,
        "places": [each.spot.name for each in made.stops],
        "planned": planned,
        "leave": made.leave.isoformat(),
        "arrive": stop.arrive.isoformat(),
        "tasks": [plain(_given(task)) for task in written.tasks],
        "weight": asdict(written.weight),
        "cautions": [each.value for each in written.cautions],
    }


def rewrite(rig: m.Rig, known: Derived, key: int, *, by: User) -> None:
    """Write a ticket anew as the last plan has it; what was ticked of it is in the log, and stays done.

    Raises
    ------
    Missing
        There is none.
    Refused
        It was begun, or the plan has no such stop any more.
    """
    row = m.Ticket.objects.filter(rig=rig, pk=key).first()
    if row is None:
        raise Missing("ticket")
    arrive = datetime.fromisoformat(row.body["arrive"])
    made = plans.standing_for(rig, row.slug, arrive)
    if made is None:
        raise Refused("ticket", p.Plain.NOT_IN_THE_PLAN)
    if _written(rig, row).begun:
        raise Refused("ticket", p.Plain.TICKET_BEGUN)
    mine = next(each for each in made.stops if each.spot.id == row.slug)
    row.body = _body(known, made, FixedStop(spot=row.slug, arrive=mine.arrive), planned=True)
    row.save()
    _note(rig, by, Action.CORRECTED, row)


def _note(rig: m.Rig, by: User, action: Action, row: m.Ticket) -> None:
    """Keep that a ticket was written or thrown away. The forecast does not depend on it: the revision stays."""
    writer = Writer(rig, by)
    writer.note(action, "ticket", row.pk, new={"place": row.slug, "arrive": row.body["arrive"]})
    m.Change.objects.bulk_create(writer.notes)


def _given(task: Task) -> dict[str, Any]:
    return {each.name: value for each in fields(Task) if (value := getattr(task, each.name)) is not None}


def _task(given: Mapping[str, Any]) -> Task:
    things = tuple(Thing(each) for each in given.get("things", ()))
    return Task(**{**given, "kind": TaskKind(given["kind"]), "things": things})


def written(rig: m.Rig, key: int) -> Written:
    """A ticket.

    Raises
    ------
    Missing
        There is none.
    """
    row = m.Ticket.objects.filter(rig=rig, pk=key).first()
    if row is None:
        raise Missing("ticket")
    return _written(rig, row)


def core_rig(rig: m.Rig) -> Rig:
    """The rig that a ticket speaks of."""
    return rows.rig_rows(rig).core


def open_by_stop(rig: m.Rig) -> dict[tuple[str, str], int]:
    """The tickets that were written, by their place and when one arrives there."""
    return {(row.slug, row.body["arrive"]): row.pk for row in m.Ticket.objects.filter(rig=rig)[:_MOST_LISTED]}


def tickets(rig: m.Rig) -> list[Written]:
    """The latest tickets, the newest first."""
    return [_written(rig, row) for row in m.Ticket.objects.filter(rig=rig)[:_MOST_LISTED]]


def _written(rig: m.Rig, row: m.Ticket) -> Written:
    zone = Zone(rig.timezone)
    log = rows.core_log(rig, since=zone.date(row.opened_at))
    events = [event for day in log.days for event in day.events if event.at >= row.opened_at - _JUST_BEFORE]
    tasks = tuple(_task(each) for each in row.body["tasks"])
    visits = (day.visit for day in log.days if day.visit is not None)
    arrive = datetime.fromisoformat(row.body["arrive"])
    planned, done = plans.standing_for(rig, row.slug, arrive), _done(tasks, events)
    over = any(each.place == row.slug and each.left is not None and each.left >= row.opened_at for each in visits)
    return Written(
        key=row.pk,
        opened_at=row.opened_at,
        spot=row.slug,
        spot_name=row.body["name"],
        leave=datetime.fromisoformat(row.body["leave"]),
        arrive=arrive,
        places=tuple(row.body.get("places", (row.body["name"],))),
        tasks=tasks,
        done=done,
        weight=StopWeight(**row.body["weight"]),
        cautions=tuple(Caution(each) for each in row.body["cautions"]),
        over=over,
        # one that was written beside the plan, or is begun, goes by no plan
        is_gone=bool(row.body.get("planned")) and not done and planned is None,
        has_changed=planned is not None and not done and not _is_as_written(row, planned),
    )


def _is_as_written(row: m.Ticket, planned: PlannedOuting) -> bool:
    places = [each.spot.name for each in planned.stops]
    leave = datetime.fromisoformat(row.body["leave"])
    return row.body.get("places") == places and abs(planned.leave - leave) < _MOVED


def _done(tasks: tuple[Task, ...], events: list[Event]) -> dict[str, Event]:
    drives = sum(1 for task in tasks if task.kind is TaskKind.DRIVE)
    return {task.id: event for task in tasks if (event := done_by(task, events, drives)) is not None}


def remove(rig: m.Rig, key: int, *, by: User) -> None:
    """Throw a ticket away; what was logged stays."""
    row = m.Ticket.objects.filter(rig=rig, pk=key).first()
    if row is None:
        raise Missing("ticket")
    _note(rig, by, Action.REMOVED, row)
    row.delete()
