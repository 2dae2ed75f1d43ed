"""The book of places of a rig: put in, changed, taken out, brought in from a file; every change is kept."""

from collections import defaultdict
from collections.abc import Callable, Iterable
from datetime import date

from django.contrib.auth.models import User

from lodeline.core import problems as p
from lodeline.core.book import Spot
from lodeline.core.errors import Refused
from lodeline.core.values import dataclass
from lodeline.core.zone import Zone
from lodeline.formats import document as d
from lodeline.formats.convert import spot_to_core
from lodeline.formats.refusals import validated
from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services.changes import plain, writing
from lodeline.logbook.services.rows import Missing
from lodeline.text.logbook import Action

_SLUG = 60


def document_of(row: m.Spot) -> d.SpotDoc:
    """A place as the file has it."""
    return validated(d.SpotDoc, row.document)


def core_of(doc: d.SpotDoc) -> Spot:
    """A place's document as a core place."""
    return spot_to_core(doc)


def spot(rig: m.Rig, slug: str) -> Spot:
    """A place of the book.

    Raises
    ------
    Missing
        There is none of that id.
    """
    return spot_to_core(document_of(_row(rig, slug)))


def _row(rig: m.Rig, slug: str) -> m.Spot:
    row = m.Spot.objects.filter(rig=rig, slug=slug).first()
    if row is None:
        raise Missing("place")
    return row


def today_of(rig: m.Rig) -> date:
    """The local date."""
    return Zone(rig.timezone).date(clock.now())


def free_slug(name: str, taken: Iterable[str]) -> str:
    """An id for a name that is not taken yet."""
    kept = "".join(each if each.isascii() and each.isalnum() else "-" for each in name.lower()).strip("-")
    base = "-".join(part for part in kept.split("-") if part)[: _SLUG - 4] or "place"
    known, slug, n = set(taken), base, 2
    while slug in known:
        slug, n = f"{base}-{n}", n + 1
    return slug


def put(rig: m.Rig, doc: d.SpotDoc, *, by: User, is_new: bool) -> Spot:
    """Put a place into the book, or change it. What is said of it is known from today on.

    Raises
    ------
    Missing
        It is to be changed and is not there.
    Refused
        The book is full.
    """
    doc = doc.model_copy(update={"known_on": today_of(rig)})
    with writing(rig, by) as writer:
        if is_new:
            check_room(rig, 1)
            doc = doc.model_copy(update={"id": free_slug(doc.name, _slugs(rig))})
            m.Spot.objects.create(rig=rig, slug=doc.id, document=plain(doc))
            writer.note(Action.MADE, "spot", doc.id, new=doc)
        else:
            row = _row(rig, doc.id)
            old, row.document = row.document, plain(doc)
            row.save()
            writer.note(Action.CORRECTED, "spot", doc.id, old=old, new=doc)
    return spot_to_core(doc)


def _slugs(rig: m.Rig) -> list[str]:
    return list(m.Spot.objects.filter(rig=rig).values_list("slug", flat=True))


def check_room(rig: m.Rig, more: int) -> None:
    """Refuse more places than a book holds."""
    if m.Spot.objects.filter(rig=rig).count() + more > d.MOST_PLACES:
        raise Refused("places", p.BookIsFull(d.MOST_PLACES))


def remove(rig: m.Rig, slug: str, *, by: User) -> None:
    """Take a place out of the book, and the stops that were planned there."""
    with writing(rig, by) as writer:
        row = _row(rig, slug)
        writer.note(Action.REMOVED, "spot", slug, old=row.document)
        row.delete()
        m.PlannedStop.objects.filter(rig=rig, slug=slug).delete()


@dataclass(frozen=True, slots=True, kw_only=True)
class Brought:
    """What a file of places brought: new ones, and ones that stand in the book already at the same spot."""

    added: int
    known: int


def bring_in(rig: m.Rig, places: list[d.SpotDoc], *, by: User) -> Brought:
    """Add the places of a file; one of the same name at the same spot is left as it stands. All or nothing."""
    with writing(rig, by) as writer:
        rows = [document_of(row) for row in m.Spot.objects.filter(rig=rig)]
        is_known, taken, fresh, known = known_among(rows), [each.id for each in rows], [], 0
        for doc in places:
            if is_known(doc):
                known += 1
                continue
            slug = free_slug(doc.name, taken)
            taken.append(slug)
            fresh.append(doc.model_copy(update={"id": slug, "known_on": doc.known_on or today_of(rig)}))
        check_room(rig, len(fresh))
        m.Spot.objects.bulk_create(m.Spot(rig=rig, slug=each.id, document=plain(each)) for each in fresh)
        writer.note(Action.IMPORTED, "spots", rig.pk, new={"added": len(fresh), "known": known})
    return Brought(added=len(fresh), known=known)


# Places of one name within a hundredth of a degree are one.
_SAME_DEG = 0.01


def known_among(rows: Iterable[d.SpotDoc]) -> Callable[[d.SpotDoc], bool]:
    """What says whether a place stands among others already: one of its name at its spot."""
    by_name: dict[str, list[d.SpotDoc]] = defaultdict(list)
    for each in rows:
        by_name[each.name].append(each)
    return lambda doc: any(
        abs(each.lat - doc.lat) < _SAME_DEG and abs(each.lon - doc.lon) < _SAME_DEG
        for each in by_name.get(doc.name, ())
    )


def add_note(rig: m.Rig, slug: str, text: str, on: date) -> dict[str, object]:
    """Write down what was seen at a place; from then on it is known. Returns what stood before. The caller writes."""
    row = _row(rig, slug)
    old = dict(row.document)
    doc = document_of(row)
    note = d.VisitNoteDoc(on=on, text=text)
    known_on = max(on, doc.known_on) if doc.known_on else on
    doc = doc.model_copy(update={"notes": [*(doc.notes or []), note], "known_on": known_on})
    row.document = plain(doc)
    row.save()
    return old


def seen_again(rig: m.Rig, slug: str, on: date) -> None:
    """Somebody was there: what is known of it is as of that day. The caller writes."""
    row = m.Spot.objects.filter(rig=rig, slug=slug).first()
    if row is not None:
        doc = document_of(row)
        if doc.known_on is None or doc.known_on < on:
            row.document = plain(doc.model_copy(update={"known_on": on}))
            row.save()
