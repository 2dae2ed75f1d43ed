"""A place is a name or a point: what a text may mean, with its timezone."""

from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router

from lodeline.api.out import Out
from lodeline.formats.places import gazetteer

router = Router(tags=["places"])
_LONGEST = 100


class FoundOut(Out):
    """A place: what it is called, with its country; degrees north and east; its timezone, where there is one."""

    name: str
    country: str
    lat: float
    lon: float
    timezone: str | None


class FoundListOut(Out):
    found: list[FoundOut]


@router.get("/find", response=FoundListOut, operation_id="find_place")
def find(request: HttpRequest, text: Annotated[str, Query(max_length=_LONGEST)]) -> FoundListOut:
    """Places by name, degrees in any common notation, a ``geo:`` link or a plus code."""
    return FoundListOut(
        found=[
            FoundOut(name=each.name, country=each.country, lat=each.lat, lon=each.lon, timezone=each.timezone)
            for each in gazetteer.find(text)
        ]
    )
