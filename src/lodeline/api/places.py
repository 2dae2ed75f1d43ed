"""Where the rig stands: its place, earlier places, and what stands in for one."""

from lodeline.api.out import Out
from lodeline.core.log import Place
from lodeline.core.zone import city_of
from lodeline.logbook.services.derived import Levels
from lodeline.text.places import place_words

_MOST_PLACES = 12


class PlaceOut(Out):
    """A place by its name, degrees north and east."""

    name: str
    lat: float
    lon: float


def place_out(place: Place | None) -> PlaceOut | None:
    """A place as it is sent."""
    return PlaceOut(name=place.name, lat=place.lat, lon=place.lon) if place else None


class WhereOut(Out):
    """Where the rig stands, as far as is known: ``words`` says it, and ``earlier`` places can be picked."""

    words: str
    now: PlaceOut | None
    earlier: list[PlaceOut]


def where(known: Levels) -> WhereOut:
    """Where the rig stands, and the places of the log, the latest first."""
    tracked = next(iter(known.tracked.values()))
    place = tracked.conditions.place
    earlier: dict[str, Place] = {}
    for day in reversed(known.log.days):
        if day.place is not None:
            earlier.setdefault(day.place.name, day.place)
    city = city_of(known.rig.timezone)
    return WhereOut(
        words=place_words(place, city),
        now=place_out(place),
        earlier=[PlaceOut(name=e.name, lat=e.lat, lon=e.lon) for e in list(earlier.values())[:_MOST_PLACES]],
    )
