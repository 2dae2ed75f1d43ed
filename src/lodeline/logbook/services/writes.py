"""Every write to the log: kept exactly once under the id that its device gave it, whatever is sent again.

A list of writes is one transaction. Each is kept, refused, or stale: what it would replace was changed meanwhile by
another hand. One that is not kept does not stop the others.
"""

from collections.abc import Sequence
from dataclasses import field, replace
from datetime import date, datetime
from typing import Any, assert_never
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction

from lodeline.core import problems as p
from lodeline.core.catalogue import SOURCE_KINDS
from lodeline.core.errors import Refused
from lodeline.core.log import Day, Event, OutlookDay, Reading
from lodeline.core.values import dataclass
from lodeline.core.zone import Zone
from lodeline.formats import document as d
from lodeline.formats.checks import check_temperatures, check_visit
from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services import book, entries, rows
from lodeline.logbook.services.changes import Writer, plain, writing
from lodeline.logbook.services.entries import Becomes, NewEntry
from lodeline.logbook.services.rows import RigRows
from lodeline.text.logbook import Action

MOST_WRITES = 200
Standing = Reading | Event | Day | OutlookDay


@dataclass(frozen=True, slots=True)
class Ref:
    """An entry that a write is about. ``number``: of its row, by which earlier versions named it."""

    kind: str
    key: UUID | None = None
    number: int | None = None


@dataclass(frozen=True, slots=True)
class Add:
    """A reading or event to log."""

    new: NewEntry


@dataclass(frozen=True, slots=True)
class Correct:
    """Change an entry."""

    ref: Ref
    to: Becomes


@dataclass(frozen=True, slots=True)
class Remove:
    """Take an entry out of the log; the change keeps it."""

    ref: Ref


@dataclass(frozen=True, slots=True)
class SetDay:
    """Change a day's own facts: only what is given."""

    on: date
    facts: d.DayFacts


@dataclass(frozen=True, slots=True)
class NoteSpot:
    """Write down what was different at a place of the book, or that somebody was there."""

    spot: str
    on: date
    text: str


@dataclass(frozen=True, slots=True)
class SetPlan:
    """Change what a coming day is expected to bring: only what is given."""

    on: date
    facts: d.OutlookFacts


Command = Add | Correct | Remove | SetDay | SetPlan | NoteSpot


@dataclass(frozen=True, slots=True, kw_only=True)
class Write:
    """One write of a device.

    ``digest`` tells it from another under the same id. ``saw``: the rig's revision on the screen where it was made;
    ``after``: writes made before it on that device, which its maker had seen too. ``device_at``: the device's time,
    where that is doubted. ``command``: what to do, or why that is refused.
    """

    id: UUID
    digest: str
    command: Command | Refused
    saw: int | None = None
    after: frozenset[UUID] = frozenset()
    device_at: datetime | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Kept:
    """It is in the log. ``entry``: as it stands, where it is one that is still there. ``again``: it was kept before."""

    entry: Reading | Event | None = None
    device_at: datetime | None = None
    again: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Stale:
    """Somebody else changed it meanwhile. ``stands``: what is there now; None where it was taken out."""

    stands: Standing | None


Outcome = Kept | Stale | Refused


class RigChanged(Exception):
    """The rig's document is not the one any more by which the writes were understood; nothing was kept."""


class _Stale(Exception):
    def __init__(self, stands: Standing | None) -> None:
        super().__init__("stale")
        self.stands = stands


def apply(rig: RigRows, writes: Sequence[Write], *, by: User) -> list[Outcome]:
    """Keep what can be kept of a list of writes, in their order; says of each what came of it.

    Raises
    ------
    RigChanged
        They are to be understood anew.
    """
    with transaction.atomic():
        known = {each.sent: each for each in m.Receipt.objects.filter(rig=rig.row, sent__in=[w.id for w in writes])}
        commands: dict[UUID, Command] = {}
        outcomes: dict[int, Outcome] = {}
        for index, write in enumerate(writes):
            if write.id in known or write.id in commands:
                continue
            if isinstance(write.command, Refused):
                outcomes[index] = write.command
            else:
                commands[write.id] = write.command
        if commands:
            understood_at = rig.row.document_revision
            with writing(rig.row, by, within=True) as writer:
                if rig.row.document_revision != understood_at:
                    raise RigChanged
                _Run(rig, writer, known, outcomes).all(writes, commands)
        first = {write.id: index for index, write in reversed(list(enumerate(writes)))}
        for index, write in enumerate(writes):
            if index not in outcomes:  # kept before, or twice in this list
                again = write.id in known
                outcomes[index] = _replayed(rig, write, known[write.id]) if again else outcomes[first[write.id]]
    return [outcomes[index] for index in range(len(writes))]


def _replayed(rig: RigRows, write: Write, receipt: m.Receipt) -> Outcome:
    """What was answered to a write that was kept already; the same, from what stands."""
    if receipt.digest != write.digest:
        return Refused("id", p.Plain.ID_USED)
    row = _row(rig, Ref(receipt.kind, receipt.entry))
    return Kept(entry=_core(row), device_at=row.device_at, again=True) if row else Kept(again=True)


def _row(rig: RigRows, ref: Ref) -> m.Reading | m.Event | None:
    if ref.key is None and ref.number is None:
        return None
    model: type[m.Reading] | type[m.Event] = m.Reading if ref.kind == "reading" else m.Event
    named = {"uuid": ref.key} if ref.key is not None else {"pk": ref.number}
    return model._default_manager.filter(day__rig=rig.row, **named).select_related("day", "store").first()


def _core(row: m.Reading | m.Event) -> Reading | Event:
    return rows.core_reading(row) if isinstance(row, m.Reading) else rows.core_event(row)


def _kind(entry: Reading | Event) -> str:
    return "reading" if isinstance(entry, Reading) else "event"


@dataclass
class _Run:
    """One list of writes under way. New entries are kept together, before the next write that may speak of them."""

    rig: RigRows
    writer: Writer
    known: dict[UUID, m.Receipt]
    outcomes: dict[int, Outcome]
    added: list[tuple[int, Write, NewEntry]] = field(default_factory=list)
    receipts: list[m.Receipt] = field(default_factory=list)

    def all(self, writes: Sequence[Write], commands: dict[UUID, Command]) -> None:
        """Take each in turn."""
        for index, write in enumerate(writes):
            command = commands.pop(write.id, None)
            if command is None:
                continue
            try:
                if isinstance(command, Add):
                    self._add(index, write, command)
                elif isinstance(command, NoteSpot):
                    self.outcomes[index] = self._note_spot(write, command)
                else:
                    self._put_added()
                    with transaction.atomic():
                        self.outcomes[index] = self._change(write, command)
            except Refused as refused:
                self.outcomes[index] = refused
            except _Stale as stale:
                self.outcomes[index] = Stale(stands=stale.stands)
        self._put_added()
        m.Receipt.objects.bulk_create(self.receipts)

    def _add(self, index: int, write: Write, command: Add) -> None:
        if isinstance(command.new.entry, Event) and command.new.entry.hours is not None:
            self._put_added()  # the day's hours are counted with those before it
        entries.check(command.new, self.rig)
        self.added.append((index, write, command.new))

    def _put_added(self) -> None:
        if not self.added:
            return
        added, self.added = self.added, []
        dates = [self.rig.zone.date(new.entry.at) for _, _, new in added]
        days = entries.day_keys(self.rig.row, dates)
        made = [self._made(write, new, days[on]) for (_, write, new), on in zip(added, dates, strict=True)]
        m.Reading.objects.bulk_create(row for row in made if isinstance(row, m.Reading))
        m.Event.objects.bulk_create(row for row in made if isinstance(row, m.Event))
        for (index, write, new), row, on in zip(added, made, dates, strict=True):
            entry = replace(new.entry, key=row.uuid)
            self.outcomes[index] = Kept(entry=entry, device_at=write.device_at)
            self._receive(write, _kind(entry), row.uuid)
            document = entries.as_document(entry, self.rig.zone)
            self.writer.note(Action.LOGGED, _kind(entry), row.uuid, on=on, new=document)

    def _made(self, write: Write, new: NewEntry, day: int) -> m.Reading | m.Event:
        of_write = {
            "uuid": new.entry.key or write.id,
            "by": self.writer.by,
            "revision": self.rig.row.revision,
            "sent": write.id,
            "device_at": write.device_at,
        }
        entry = new.entry
        if isinstance(entry, Reading):
            return m.Reading(day_id=day, **entries.reading_columns(entry, self.rig, new.text), **of_write)
        columns = entries.event_columns(entry, self.rig)
        return m.Event(day_id=day, at=entry.at, type=entry.type, **columns, **of_write)

    def _receive(self, write: Write, kind: str, entry: UUID | None) -> None:
        receipt = m.Receipt(
            rig=self.rig.row, sent=write.id, at=clock.now(), digest=write.digest, kind=kind, entry=entry
        )
        self.receipts.append(receipt)
        self.known[write.id] = receipt

    def _change(self, write: Write, command: Correct | Remove | SetDay | SetPlan) -> Outcome:
        if write.saw is None:
            raise Refused("saw", p.Plain.IS_MISSING)
        match command:
            case Correct():
                return self._correct(write, command)
            case Remove():
                return self._remove(write, command)
            case SetDay():
                return self._set_day(write, command)
            case SetPlan():
                return self._set_plan(write, command)
            case _:
                assert_never(command)

    def _seen(self, row: m.Reading | m.Event, write: Write) -> None:
        """Refuse to replace what somebody else has set since it was seen, and what was seen of a log that is another
        one now."""
        if self._set_at(row.revision) > (write.saw or 0) and row.sent not in write.after:
            raise _Stale(_core(row))

    def _correct(self, write: Write, command: Correct) -> Kept:
        row = _row(self.rig, command.ref)
        if row is None:
            raise _Stale(None)
        self._seen(row, write)
        before = _core(row)
        new = command.to.of(before, self.rig.zone)
        new = replace(new, entry=replace(new.entry, key=row.uuid))
        if _kind(before) != _kind(new.entry):
            raise Refused(_kind(before), p.Plain.IS_MISSING)
        entries.check(new, self.rig)
        was_on, on = row.day.date, self.rig.zone.date(new.entry.at)
        changed = self._made(write, new, entries.day_keys(self.rig.row, [on])[on])
        changed.pk, changed.by = row.pk, row.by
        changed.save(force_update=True)
        documents = [entries.as_document(each, self.rig.zone) for each in (before, new.entry)]
        for each in sorted({was_on, on}):
            self.writer.note(Action.CORRECTED, _kind(before), row.uuid, on=each, old=documents[0], new=documents[1])
        self._receive(write, _kind(before), row.uuid)
        return Kept(entry=new.entry)

    def _remove(self, write: Write, command: Remove) -> Kept:
        row = _row(self.rig, command.ref)
        if row is not None:
            self._seen(row, write)
            entry = _core(row)
            document = entries.as_document(entry, self.rig.zone)
            self.writer.note(Action.REMOVED, _kind(entry), row.uuid, on=row.day.date, old=document)
            row.delete()
        # what is gone already is as it was wanted
        self._receive(write, command.ref.kind, None)
        return Kept()

    def _set_day(self, write: Write, command: SetDay) -> Kept:
        if command.on > self._today():
            raise Refused("date", p.Plain.DAY_IN_THE_FUTURE)
        if command.facts.visit is not None:
            known = set(m.Spot.objects.filter(rig=self.rig.row).values_list("slug", flat=True))
            check_visit(command.facts.visit, known, "visit")
            book.seen_again(self.rig.row, command.facts.visit.place, command.on)
        row = m.Day.objects.get_or_create(rig=self.rig.row, date=command.on)[0]
        old = rows.day_fields(row)
        self._set_facts(row, command.facts, write, rows.core_day(row))
        check_temperatures(rows.core_day(row), "day")
        row.save()
        self.writer.note(Action.CORRECTED, "day", command.on, on=command.on, old=old, new=rows.day_fields(row))
        self._receive(write, "day", None)
        return Kept()

    def _set_plan(self, write: Write, command: SetPlan) -> Kept:
        if command.on < self._today():
            raise Refused("date", p.Plain.DAY_IS_PAST)
        row = m.OutlookDay.objects.get_or_create(rig=self.rig.row, date=command.on)[0]
        old = rows.outlook_fields(row)
        self._set_facts(row, command.facts, write, rows.core_outlook_day(row))
        check_temperatures(rows.core_outlook_day(row), "outlook")
        row.save()
        self.writer.note(Action.CORRECTED, "outlook", command.on, on=command.on, old=old, new=rows.outlook_fields(row))
        self._receive(write, "plan", None)
        return Kept()

    def _note_spot(self, write: Write, command: NoteSpot) -> Kept:
        try:
            old = book.add_note(self.rig.row, command.spot, command.text, command.on)
        except rows.Missing:
            raise Refused("place", p.NoSpot(command.spot)) from None
        self.writer.note(Action.CORRECTED, "spot", command.spot, old=old, new={"note": command.text})
        self._receive(write, "spot", None)
        return Kept()

    def _set_at(self, revision: int) -> int:
        """The revision at which something came to stand as it does: that of a whole log that replaced another too."""
        return max(revision, self.rig.row.replaced_revision)

    def _today(self) -> date:
        return Zone(self.rig.row.timezone).date(clock.now())

    def _set_facts(self, row: m.Facts, facts: d.Facts, write: Write, stands: Day | OutlookDay) -> None:
        """Put what was given on a row, unless another hand has set one of its fields since it was seen."""
        for name in sorted(facts.model_fields_set):
            before = _fact(row, name)
            _put_fact(row, name, getattr(facts, name))
            if _fact(row, name) == before:
                continue
            revision, sent = row.touched.get(name, (0, None))
            if self._set_at(revision) > (write.saw or 0) and not (sent and UUID(sent) in write.after):
                raise _Stale(stands)
            row.touched[name] = [self.rig.row.revision, str(write.id)]


_HOUR_KEYS = {kind.outlook_key: kind.id for kind in SOURCE_KINDS.values()}


def _fact(row: m.Facts, name: str) -> Any:
    if name == "place":
        return row.place_name, row.lat, row.lon, row.elevation_m
    if name in _HOUR_KEYS and isinstance(row, m.OutlookDay):
        return row.hours.get(_HOUR_KEYS[name])
    return getattr(row, name)


def _put_fact(row: m.Facts, name: str, value: Any) -> None:
    if name == "visit" and isinstance(row, m.Day):
        row.visit = plain(value) if value else None
    elif name == "place":
        row.place_name = value.name if value else None
        row.lat, row.lon = (value.lat, value.lon) if value else (None, None)
        row.elevation_m = value.elevation_m if value else None
    elif name in _HOUR_KEYS and isinstance(row, m.OutlookDay):
        others = {id: hours for id, hours in row.hours.items() if id != _HOUR_KEYS[name]}
        row.hours = others if value is None else others | {_HOUR_KEYS[name]: value}
    else:
        setattr(row, name, value)
