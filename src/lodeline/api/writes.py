"""The log's one way in: a list of writes, each with an id made on the device, each kept exactly once."""

import hashlib
import json
import logging
from collections.abc import Sequence
from datetime import datetime, timedelta
from enum import StrEnum
from typing import Annotated, Any
from urllib.parse import unquote
from uuid import UUID

from django.http import HttpRequest
from ninja import Router
from ninja.errors import AuthenticationError
from pydantic import Field, model_validator

from lodeline.api.entries import EntryOut, entry_out, heard
from lodeline.api.moments import maybe
from lodeline.api.out import Out, Revision
from lodeline.api.typed import DayIn, EntryIn, OutlookIn, becomes, entry_of, facts_of
from lodeline.api.who import Needs, display_of, rig_of, user_of
from lodeline.core.errors import Refused
from lodeline.core.log import Reading
from lodeline.core.problems import Plain
from lodeline.core.rig import Rig
from lodeline.formats import document as d
from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services import rows, writes
from lodeline.logbook.services.derived import Levels, levels_before, levels_soon
from lodeline.logbook.services.writes import (
    Add,
    Command,
    Correct,
    Kept,
    NoteSpot,
    Outcome,
    Ref,
    Remove,
    SetDay,
    SetPlan,
    Stale,
)
from lodeline.text.display import Display
from lodeline.text.labels import label
from lodeline.text.logbook import stands as standing_words
from lodeline.text.problems import problem

_log = logging.getLogger(__name__)
router = Router(tags=["writes"])
# A device's clock that is off by more is not believed without asking.
_CLOCK_DOUBTED = timedelta(minutes=10)
ACCOUNT_HEADER = "X-Lodeline-Account"
_SAYS = ("add", "correct", "remove", "day", "plan", "note")
_LONGEST_AGO_S = 10 * 366 * 86_400


class EntryRef(d.Part):
    """An entry: by the id of the write that made it, or by its ``number``, as earlier versions of this program do."""

    kind: Annotated[str, Field(pattern="^(reading|event)$")]
    # written as those versions wrote them: a write that they sent is known again by its digest
    id: UUID | None = Field(None, strict=False, serialization_alias="sent")
    number: Annotated[int, Field(ge=1, le=2**53)] | None = Field(None, serialization_alias="id")

    @model_validator(mode="before")
    @classmethod
    def _of_earlier(cls, given: Any) -> Any:
        if isinstance(given, dict) and ("sent" in given or isinstance(given.get("id"), int)):
            return {"kind": given.get("kind"), "id": given.get("sent"), "number": given.get("id")}
        return given


class CorrectIn(d.Part):
    """What an entry becomes; with a time alone, it is moved."""

    entry: EntryRef
    to: EntryIn


class DayWriteIn(d.Part):
    """Facts of a day that is over or under way."""

    on: d.Date
    facts: DayIn


class PlanWriteIn(d.Part):
    """Facts of a coming day."""

    on: d.Date
    facts: OutlookIn


class NoteIn(d.Part):
    """What was different at a place of the book."""

    place: d.Slug
    on: d.Date
    text: Annotated[str, Field(min_length=1, max_length=500)]


class WriteIn(d.Part):
    """One write; exactly one of ``add``, ``correct``, ``remove``, ``day``, ``plan``, ``note`` says what.

    ``id``: made on the device, a UUID of version 7. ``made_at``: by the device's clock; ``ago_s``: how long ago that
    is when it is sent, by the same clock. ``saw``: the rig's revision on the screen where it was made, for all but
    ``add``. ``after``: writes of this device that stood on that screen too.
    """

    id: UUID = Field(strict=False)
    made_at: d.Time | None = None
    ago_s: Annotated[float, Field(ge=-_LONGEST_AGO_S, le=_LONGEST_AGO_S)] = 0.0
    saw: Revision | None = None
    after: Annotated[list[Annotated[UUID, Field(strict=False)]], Field(max_length=writes.MOST_WRITES)] = []
    add: EntryIn | None = None
    correct: CorrectIn | None = None
    remove: EntryRef | None = None
    day: DayWriteIn | None = None
    plan: PlanWriteIn | None = None
    note: NoteIn | None = None


class WritesIn(d.Part):
    """Writes in the order in which they were made."""

    writes: Annotated[list[WriteIn], Field(min_length=1, max_length=writes.MOST_WRITES)]


class WriteState(StrEnum):
    """What came of a write."""

    KEPT = "kept"
    REFUSED = "refused"
    STALE = "stale"


class WriteOut(Out):
    """What came of a write.

    ``stands``: what is there now, in words, where another hand changed it meanwhile, and its ``revision``, to be
    named by who puts something over it.
    """

    id: UUID
    state: WriteState
    place: str = ""
    label: str = ""
    problem: str = ""
    stands: str | None = None
    revision: int = 0
    entry: EntryOut | None = None


class WritesOut(Out):
    revision: int
    stamp: str
    writes: list[WriteOut]


class RevisionOut(Out):
    """Whether anything was written: another ``stamp`` says so."""

    revision: int
    stamp: str


@router.get("/{rig_id}/revision", response=RevisionOut, operation_id="revision")
def revision(request: HttpRequest, rig_id: str) -> RevisionOut:
    """Which state of the rig this is. Cheap: it is asked every few seconds."""
    rig = rig_of(request, rig_id)
    return RevisionOut(revision=rig.revision, stamp=rig.stamp)


@router.post("/{rig_id}/writes", response=WritesOut, operation_id="write")
def write(request: HttpRequest, rig_id: str, payload: WritesIn) -> WritesOut:
    """Keep writes, each exactly once whatever is sent again; says of each what came of it."""
    _check_account(request)
    while True:
        try:
            return _written(request, rig_of(request, rig_id, needs=Needs.CREW), payload)
        except writes.RigChanged:  # by somebody else, just now: what was typed is understood by what stands
            continue


def _written(request: HttpRequest, row: m.Rig, payload: WritesIn) -> WritesOut:
    rig, display, now, before = rows.rig_rows(row), display_of(request), clock.now(), levels_before(row)
    given = [_write(rig.core, each, display, now) for each in payload.writes]
    outcomes = writes.apply(rig, given, by=user_of(request))
    known = _levels(row, before, payload.writes, outcomes)
    answers = [
        _answer(each.id, outcome, rig, known, display) for each, outcome in zip(payload.writes, outcomes, strict=True)
    ]
    return WritesOut(revision=row.revision, stamp=row.stamp, writes=answers)


def _check_account(request: HttpRequest) -> None:
    """What waited on a device is its maker's: not written by whoever is signed in there now."""
    maker = request.headers.get(ACCOUNT_HEADER)
    if maker is not None and unquote(maker) != user_of(request).username:
        raise AuthenticationError


def _write(rig: Rig, given: WriteIn, display: Display, now: datetime) -> writes.Write:
    at, device_at = _made(given, now)
    said = given.model_dump(mode="json", include=set(_SAYS), by_alias=True)
    digest = hashlib.sha256(json.dumps(said, sort_keys=True).encode()).hexdigest()
    return writes.Write(
        id=given.id,
        digest=digest,
        command=_command(rig, given, display, at),
        saw=given.saw,
        after=frozenset(given.after),
        device_at=device_at,
    )


def _made(given: WriteIn, now: datetime) -> tuple[datetime, datetime | None]:
    """When a write was made by the server's clock, and by the device's where the two do not agree.

    How long ago it was is right also on a device whose clock is off, unless that was set meanwhile.
    """
    at = now - timedelta(seconds=max(0.0, given.ago_s))
    says_itself = given.add is not None and given.add.time is not None
    off = given.made_at is not None and abs(given.made_at - at) > _CLOCK_DOUBTED
    return at, given.made_at if off and given.add is not None and not says_itself else None


def _command(rig: Rig, given: WriteIn, display: Display, at: datetime) -> Command | Refused:
    """What a write says to do, found out before the database is held."""
    try:
        return _understood(rig, given, display, at)
    except Refused as refused:
        return refused


def _understood(rig: Rig, given: WriteIn, display: Display, at: datetime) -> Command:
    match [name for name in _SAYS if getattr(given, name) is not None]:
        case ["add"]:
            assert given.add is not None
            return Add(entry_of(rig, given.add, display, at))
        case ["correct"]:
            assert given.correct is not None
            return Correct(_ref(given.correct.entry), becomes(rig, given.correct.to, display, at))
        case ["remove"]:
            assert given.remove is not None
            return Remove(_ref(given.remove))
        case ["day"]:
            assert given.day is not None
            return SetDay(given.day.on, facts_of(d.DayFacts, given.day.facts, display))
        case ["plan"]:
            assert given.plan is not None
            return SetPlan(given.plan.on, facts_of(d.OutlookFacts, given.plan.facts, display))
        case ["note"]:
            assert given.note is not None
            return NoteSpot(given.note.place, given.note.on, given.note.text)
        case _:
            raise Refused("add", Plain.IS_MISSING)


def _ref(given: EntryRef) -> Ref:
    return Ref(given.kind, given.id, given.number)


def _levels(row: m.Rig, before: Levels | None, given: Sequence[WriteIn], outcomes: Sequence[Outcome]) -> Levels | None:
    """The levels as they then are, where somebody waits for what was understood."""
    kept = [each for each in outcomes if isinstance(each, Kept)]
    if not any(isinstance(each.entry, Reading) for each in kept):
        return None
    new = [each.entry for each in kept if each.entry is not None and not each.again]
    try:
        only_new = all(each.add is not None for each in given) and len(new) == len(kept)
        return levels_soon(row, before, new if only_new else None)
    except Exception:
        # it is kept, and must be answered as kept: else the device would send it for ever
        _log.exception("levels after a write")
        return None


def _answer(id: UUID, outcome: Outcome, rows_of: rows.RigRows, known: Levels | None, display: Display) -> WriteOut:
    rig = rows_of.core
    match outcome:
        case Kept(entry=None):
            return WriteOut(id=id, state=WriteState.KEPT)
        case Kept(entry=entry, device_at=device_at):
            assert entry is not None
            tracked = known.tracked.get(entry.store) if known and isinstance(entry, Reading) else None
            line = entry_out(
                rig,
                entry,
                display,
                heard(tracked, entry, display) if tracked is not None and isinstance(entry, Reading) else None,
            )
            line.sent, line.device_at = id, maybe(device_at, display)
            return WriteOut(id=id, state=WriteState.KEPT, entry=line)
        case Stale(stands=stands):
            words = standing_words(rig, stands, display)
            return WriteOut(id=id, state=WriteState.STALE, stands=words, revision=rows_of.row.revision)
        case Refused():
            return WriteOut(
                id=id,
                state=WriteState.REFUSED,
                place=outcome.place,
                label=label(outcome.place),
                problem=problem(outcome.problem, display),
            )
