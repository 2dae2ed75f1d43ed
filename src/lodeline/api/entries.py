"""Entries as lines of the log, and what a text means before it is kept."""

from collections.abc import Sequence
from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from lodeline.api.moments import Moment, maybe, moment
from lodeline.api.out import Out
from lodeline.api.typed import EventIn, EventUnits, ReadingIn, as_given, store_of, units_of
from lodeline.api.who import display_of, rig_of
from lodeline.core.log import Event, Reading, close_readings
from lodeline.core.reading import understand
from lodeline.core.rig import Rig
from lodeline.core.tracking.events import l_per_km
from lodeline.core.tracking.evidence import evidence
from lodeline.core.tracking.fit import fits
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.tracking.volts import Around
from lodeline.logbook.services.derived import levels
from lodeline.logbook.services.rows import EntryNote
from lodeline.text.display import Display
from lodeline.text.logbook import entry as entry_words
from lodeline.text.logbook import near as near_words
from lodeline.text.readings import describe, fit

router = Router(tags=["entries"])


class Heard(Out):
    """What was understood, and whether it fits. ``fits`` is null where that can be told neither way."""

    words: str
    fits: bool | None
    fit_words: str


class EntryOut(Out):
    """A line of the log.

    ``event``: as it would be sent, with the units of its numbers; ``heard``: of a reading that was just logged; ``by``:
    whose it is; ``revision``: at which it was last set; ``sent``: the id under which; ``device_at``: what the clock of
    the device said, where it was doubted; ``near``: that another reading of the store was taken within minutes.
    """

    id: UUID
    at: Moment
    kind: str
    store: str | None
    words: str
    event: EventIn | None = None
    units: EventUnits | None = None
    heard: Heard | None = None
    by: str | None = None
    revision: int = 0
    sent: UUID | None = None
    device_at: Moment | None = None
    near: str | None = None


def key_of(entry: Reading | Event) -> UUID:
    """What names an entry of the log."""
    assert entry.key is not None
    return entry.key


def entry_out(rig: Rig, entry: Reading | Event, display: Display, heard: Heard | None = None) -> EntryOut:
    """A reading or event as a line of the log."""
    event = as_given(rig, entry, display) if isinstance(entry, Event) else None
    return EntryOut(
        id=key_of(entry),
        at=moment(entry.at, display),
        kind="reading" if event is None else "event",
        store=entry.store,
        words=entry_words(rig, entry, display),
        event=event,
        heard=heard,
        units=units_of(rig, entry, display) if isinstance(entry, Event) else None,
    )


def day_entries(
    rig: Rig, entries: Sequence[Reading | Event], notes: dict[UUID, EntryNote], display: Display, most: int
) -> list[EntryOut]:
    """The lines of one day, each with whose it is, and with the readings that were taken close to it. Of more than
    ``most`` the latest."""
    close = close_readings(each for each in entries if isinstance(each, Reading))
    lines = []
    for each in entries[-most:]:
        line = entry_out(rig, each, display)
        note = notes.get(line.id, EntryNote())
        line.by, line.revision, line.sent = note.by, note.revision, note.sent
        line.device_at = maybe(note.device_at, display)
        if isinstance(each, Reading) and (others := close.get(line.id)) is not None:
            by = [notes.get(key_of(other), EntryNote()).by for other in others.nearest]
            nearest = list(zip(others.nearest, by, strict=True))
            line.near = near_words(rig, nearest, others.count - len(nearest), display)
        lines.append(line)
    return lines


def heard(tracked: Tracked, reading: Reading, display: Display) -> Heard:
    """Whether a logged reading fitted what was expected just before it."""
    store = tracked.store
    words = describe(store, reading, display)
    compared = next((each for each in tracked.compared if each.reading.key == reading.key), None)
    if compared is None:  # logged for a time before the window that is looked at
        return Heard(words=words, fits=None, fit_words="")
    expected = None if compared.fits is None else compared.expected_range
    given = evidence(store, reading, _around(tracked))
    told = fit(store, given, reading, expected, bool(compared.fits), display)
    return Heard(words=words, fits=told.fits, fit_words=told.words)


def _around(tracked: Tracked) -> Around:
    """What is known beside a reading: how far a litre goes."""
    return Around(l_per_km=l_per_km(tracked.model, tracked.belief))


@router.post("/{rig_id}/understand", response=Heard, operation_id="understand")
def understand_text(request: HttpRequest, rig_id: str, payload: ReadingIn) -> Heard:
    """Say back what a text means for a store, without keeping it."""
    known = levels(rig_of(request, rig_id))
    display = display_of(request)
    store = store_of(known.rig, payload.store)
    understood = understand(store, payload.text, display.system)
    tracked = known.tracked[store.id]
    given = evidence(store, understood.at(known.now, store.id), _around(tracked))
    expected = None if tracked.known_since is None else tracked.level_range
    told = fit(store, given, understood, expected, fits(tracked.belief, given), display)
    return Heard(words=describe(store, understood, display), fits=told.fits, fit_words=told.words)
