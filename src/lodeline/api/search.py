"""Search over the log, its notes and the book of places."""

from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router

from lodeline.api.out import Out
from lodeline.api.who import display_of, rig_of
from lodeline.logbook.services import search as found
from lodeline.text import search as text

router = Router(tags=["logbook"])
_LONGEST = 60


class FoundLine(Out):
    """What was found: where it is opened, what it is called, and what of it has the word."""

    to: str
    title: str
    words: str


class SearchOut(Out):
    found: list[FoundLine]


Word = Annotated[str, Query(min_length=1, max_length=_LONGEST)]


@router.get("/{rig_id}/search", response=SearchOut, operation_id="search")
def search(request: HttpRequest, rig_id: str, word: Word) -> SearchOut:
    """What a word finds in the log and in the book."""
    rig, display, wanted = rig_of(request, rig_id), display_of(request), word.strip()
    days = [
        FoundLine(
            to=f"/log?day={each.on.isoformat()}",
            title=text.day(each.on),
            words=text.of_day(each.note, each.place, each.did),
        )
        for each in found.days(rig, wanted)
    ]
    spots = [
        FoundLine(to="/stops", title=each.name, words=text.of_spot(each, display)) for each in found.spots(rig, wanted)
    ]
    return SearchOut(found=[*days, *spots])
