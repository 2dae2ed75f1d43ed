"""Entries: say back what a text means, keep readings and events as one batch, correct them, take them out."""

from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from lodeline.accounts.access import number
from lodeline.api.moments import Moment, moment
from lodeline.api.typed import DayIn, EntryIn, EventIn, ReadingIn, as_given, entry_of, facts_of, store_of
from lodeline.api.who import display_of, rig_of, user_of
from lodeline.core.errors import Refused
from lodeline.core.log import Event, Reading
from lodeline.core.problems import IsMissing
from lodeline.core.reading import understand
from lodeline.core.rig import Rig
from lodeline.core.tracking.evidence import evidence
from lodeline.core.tracking.track import Tracked
from lodeline.core.tracking.walk import fits
from lodeline.formats import document as d
from lodeline.logbook import clock
from lodeline.logbook.services import entries, rows
from lodeline.logbook.services.derived import known_levels, levels, levels_after
from lodeline.text.display import Display
from lodeline.text.logbook import entry as entry_words
from lodeline.text.readings import describe, fit

router = Router(tags=["entries"])


class Heard(Schema):
    """What was understood, and whether it fits. ``fits`` is null where nothing is known to fit it to."""

    words: str
    fits: bool | None
    fit_words: str


class EntryOut(Schema):
    """A line of the log. ``event``: as it would be sent; ``heard``: of a reading that was just logged."""

    id: int
    at: Moment
    kind: str
    store: str | None
    words: str
    event: EventIn | None = None
    heard: Heard | None = None


class BatchIn(d.Part):
    """Entries that are kept together, all or none."""

    entries: Annotated[list[EntryIn], Field(min_length=1, max_length=entries.MOST_ENTRIES)]


class BatchOut(Schema):
    entries: list[EntryOut]


def entry_out(rig: Rig, each: Reading | Event, display: Display, heard: Heard | None = None) -> EntryOut:
    """A reading or event as a line of the log."""
    event = as_given(rig, each, display) if isinstance(each, Event) else None
    return EntryOut(
        id=each.key or 0, at=moment(each.at, display), kind="reading" if event is None else "event", store=each.store,
        words=entry_words(rig, each, display), event=event, heard=heard,
    )  # fmt: skip


def _heard(tracked: Tracked, reading: Reading, display: Display) -> Heard:
    """Whether a logged reading fitted what was expected just before it."""
    store = tracked.store
    words = describe(store, reading, display)
    compared = next((each for each in tracked.compared if each.reading.key == reading.key), None)
    if compared is None:  # logged for a time before the window that is looked at
        return Heard(words=words, fits=None, fit_words="")
    low, high = compared.expected_range
    silent = evidence(store, reading).silent
    return Heard(words=words, fits=compared.fits, fit_words=fit(store, compared.fits, low, high, silent, display))


@router.post("/{rig_id}/understand", response=Heard, operation_id="understand")
def understand_text(request: HttpRequest, rig_id: str, payload: ReadingIn) -> Heard:
    """Say back what a text means for a store, without keeping it."""
    known = levels(rig_of(request, rig_id))
    display = display_of(request)
    store = store_of(known.rig, payload.store)
    understood = understand(store, payload.text, display.system)
    tracked = known.tracked[store.id]
    given = evidence(store, understood.at(known.now, store.id))
    unknown = given.silent or tracked.known_since is None
    does_fit = None if unknown else fits(tracked.belief, given)
    low, high = tracked.level_range
    return Heard(
        words=describe(store, understood, display), fits=does_fit,
        fit_words=fit(store, does_fit, low, high, given.silent, display),
    )  # fmt: skip


@router.post("/{rig_id}/entries", response=BatchOut, operation_id="add_entries")
def add_entries(request: HttpRequest, rig_id: str, payload: BatchIn) -> BatchOut:
    """Log readings and events, all or none; answers with what was understood and whether it fits."""
    row = rig_of(request, rig_id)
    rig, display, now, before = rows.rig_rows(row), display_of(request), clock.now(), known_levels(row)
    given = [entry_of(rig.core, each, display, now, f"entries[{index}]") for index, each in enumerate(payload.entries)]
    kept = entries.add(rig, given, by=user_of(request))
    after = levels_after(row, before, kept)
    return BatchOut(
        entries=[
            entry_out(
                rig.core, each, display,
                _heard(after.tracked[each.store], each, display) if isinstance(each, Reading) else None,
            )
            for each in kept
        ]
    )  # fmt: skip


@router.put("/{rig_id}/readings/{reading_id}", response=EntryOut, operation_id="correct_reading")
def correct_reading(request: HttpRequest, rig_id: str, reading_id: str, payload: EntryIn) -> EntryOut:
    """Correct a reading; what stood before is kept."""
    row, display = rig_of(request, rig_id), display_of(request)
    before = entries.reading_row(row, number(reading_id))
    if payload.reading is None:
        raise Refused("reading", IsMissing())
    rig = rows.rig_rows(row)
    new = entry_of(rig.core, payload, display, before.at)
    kept = entries.correct_reading(rig, before.pk, new, by=user_of(request))
    return entry_out(rig.core, kept, display, _heard(levels(row).tracked[kept.store], kept, display))


@router.delete("/{rig_id}/readings/{reading_id}", response={204: None}, operation_id="remove_reading")
def remove_reading(request: HttpRequest, rig_id: str, reading_id: str) -> tuple[int, None]:
    entries.remove_reading(rig_of(request, rig_id), number(reading_id), by=user_of(request))
    return 204, None


@router.put("/{rig_id}/events/{event_id}", response=EntryOut, operation_id="correct_event")
def correct_event(request: HttpRequest, rig_id: str, event_id: str, payload: EntryIn) -> EntryOut:
    """Correct an event; what stood before is kept."""
    row, display = rig_of(request, rig_id), display_of(request)
    before = entries.event_row(row, number(event_id))
    if payload.event is None:
        raise Refused("event", IsMissing())
    rig = rows.rig_rows(row)
    kept = entries.correct_event(rig, before.pk, entry_of(rig.core, payload, display, before.at), by=user_of(request))
    return entry_out(rig.core, kept, display)


@router.delete("/{rig_id}/events/{event_id}", response={204: None}, operation_id="remove_event")
def remove_event(request: HttpRequest, rig_id: str, event_id: str) -> tuple[int, None]:
    entries.remove_event(rig_of(request, rig_id), number(event_id), by=user_of(request))
    return 204, None


@router.put("/{rig_id}/days/{on}", response={204: None}, operation_id="set_day")
def set_day(request: HttpRequest, rig_id: str, on: d.Date, payload: DayIn) -> tuple[int, None]:
    """Change a day's own facts: only what is given."""
    rig = rig_of(request, rig_id)
    entries.set_day(rig, on, facts_of(d.DayFacts, payload, display_of(request)), by=user_of(request))
    return 204, None
