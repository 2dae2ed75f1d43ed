"""What a word finds in a rig's log and book: notes, places, what was done."""

from datetime import date

from django.db.models import Q

from lodeline.core.book import Spot
from lodeline.core.catalogue import EVENT_TYPES
from lodeline.core.values import dataclass
from lodeline.logbook import models as m
from lodeline.logbook.services import rows

MOST = 8


@dataclass(frozen=True, slots=True, kw_only=True)
class SearchedDay:
    """A date of the log that a word was found in: its note and its place, and what was done, where that has it."""

    on: date
    note: str
    place: str
    did: tuple[str, ...] = ()


def days(rig: m.Rig, word: str) -> list[SearchedDay]:
    """The latest dates whose note or place has the word, or on which such a thing was done."""
    kinds = [row.id for row in EVENT_TYPES.values() if word.casefold() in f"{row.name} {row.did}".casefold()]
    of_day = Q(note__icontains=word) | Q(place_name__icontains=word)
    of_event = Q(events__type__in=kinds) | Q(events__store__document__name__icontains=word)
    found = m.Day.objects.filter(rig=rig).filter(of_day | of_event).distinct().order_by("-date")[:MOST]
    return [
        SearchedDay(
            on=day.date,
            note=day.note or "",
            place=day.place_name or "",
            did=tuple(sorted({EVENT_TYPES[each.type].did for each in day.events.all() if each.type in kinds})),
        )
        for day in found.prefetch_related("events")
    ]


def spots(rig: m.Rig, word: str) -> list[Spot]:
    """The places of the book whose name, note or services have the word."""

    def has(spot: Spot) -> bool:
        text = " ".join([spot.name, spot.note, *(each.kind.name for each in spot.services.values())])
        return word.casefold() in text.casefold()

    return [spot for spot in rows.core_book(rig) if has(spot)][:MOST]
