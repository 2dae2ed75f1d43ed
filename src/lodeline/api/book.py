"""The book of places: the list and the sketch, one place, files in and out."""

from datetime import date
from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router
from pydantic import Field

from lodeline.api.moments import Moment, moment
from lodeline.api.out import Out
from lodeline.api.places import PlaceOut, place_out
from lodeline.api.who import Needs, display_of, rig_of, user_of
from lodeline.core.book import Spot, bearing_deg, fits, offered, rings, services_known, visits, way_h, way_km
from lodeline.core.catalogue import SERVICES
from lodeline.core.errors import Refused
from lodeline.core.log import Log, Place
from lodeline.core.problems import Plain
from lodeline.core.rig import Rig
from lodeline.core.stops.opening import from_plain, to_plain
from lodeline.formats import document as d
from lodeline.formats.places.files import (
    NAMES,
    TYPES,
    PlacesFormat,
    ReadPlaces,
    guess_format,
    read_places,
    write_places,
)
from lodeline.logbook import models as m
from lodeline.logbook.services import book, fuel, rows
from lodeline.logbook.services.derived import Derived, derived
from lodeline.text import fuel as fuel_text
from lodeline.text import stops as text
from lodeline.text.display import Display
from lodeline.text.problems import refusal

router = Router(tags=["places"])
_MOST_VISITS, _MOST_SHOWN, _MOST_OFFERED = 8, 12, 8
_DEG_DIGITS, _WAY_DIGITS = 1, 2


class OfferOut(Out):
    """A service of a place. ``matters``: it serves what runs out soonest."""

    id: str
    words: str
    matters: bool


class SpotOut(Out):
    """A place of the book, seen from where the rig stands. ``way`` is in the shown unit, for drawing."""

    id: str
    name: str
    lat: float
    lon: float
    way: float | None
    bearing: float | None
    words: str
    offers: list[OfferOut]
    opening: str
    limits: list[str]
    lets_in: str | None
    fits: bool
    age: str | None
    notes: list[str]
    visits: list[str]


class RingOut(Out):
    """A ring of equal way, in the shown unit, and what is written at it."""

    way: float
    words: str


class OfferedOut(Out):
    """Nights that were logged at a place that is not in the book."""

    words: str
    place: PlaceOut


class ServiceNameOut(Out):
    id: str
    name: str
    needed: bool


class BookOut(Out):
    """All places, the nearest first. ``rings``: of equal way; ``range``: how far the fuel goes; ``unit``: that ways
    are in."""

    revision: int
    now: Moment
    here: PlaceOut | None
    here_words: str
    unit: str
    units: str
    spots: list[SpotOut]
    rings: list[RingOut]
    range: RingOut | None
    offered: list[OfferedOut]
    services: list[ServiceNameOut]
    needs: list[str]


class PlainHours(d.Part):
    """The plain form of opening hours: a day of the week and when it is open."""

    day: Annotated[str, Field(pattern="^(Mo|Tu|We|Th|Fr|Sa|Su)$")]
    opens: Annotated[str, Field(pattern=r"^\d\d:\d\d$")]
    closes: Annotated[str, Field(pattern=r"^\d\d:\d\d$")]


class SpotForm(Out):
    """A place as its form has it: the document, and the plain form of its hours where there is one."""

    spot: d.SpotDoc
    plain: list[PlainHours] | None
    visits: list[str]
    notes: list[str]


class SpotIn(d.Part):
    """A place to keep. ``plain``: opening hours by the plain form, in place of those of the document."""

    spot: d.SpotDoc
    plain: Annotated[list[PlainHours], Field(max_length=7)] | None = None


class FileIn(d.Part):
    """A file of places, as text. ``format``: what it is, guessed where it is not said."""

    text: Annotated[str, Field(max_length=4_000_000)]
    format: Annotated[str, Field(pattern="^(geojson|gpx|csv)$")] | None = None


class PreviewLine(Out):
    name: str
    words: str
    known: bool


class PreviewOut(Out):
    """What a file of places would bring."""

    format: str
    words: str
    lines: list[PreviewLine]
    more: int
    skipped: list[str]


class BroughtOut(Out):
    words: str


class MadeOut(Out):
    id: str


@router.get("/{rig_id}/places", response=BookOut, operation_id="places")
def places(request: HttpRequest, rig_id: str) -> BookOut:
    """The book of places, seen from where the rig stands."""
    rig, display = rig_of(request, rig_id), display_of(request)
    known = derived(rig)
    here = next(iter(known.tracked.values())).conditions.place
    today = known.rig.zone.date(known.now)
    matters = _matters(known)
    spots = [_spot(known, spot, here, today, matters, display) for spot in known.book]
    spots.sort(key=lambda each: (each.way is None, each.way or 0.0, each.name))
    needed = {kind.id for kind in services_known(known.rig)}
    return BookOut(
        revision=known.revision,
        now=moment(known.now, display),
        here=place_out(here),
        here_words=here.name if here else "",
        unit=display.unit("km").unit,
        units=display.system,
        spots=spots,
        rings=_rings(spots, display),
        range=_range(known, display),
        offered=[
            OfferedOut(
                words=text.nights(each), place=PlaceOut(name=each.place.name, lat=each.place.lat, lon=each.place.lon)
            )
            for each in offered(known.log, known.book)[:_MOST_OFFERED]
        ],
        services=[ServiceNameOut(id=id, name=row.name, needed=id in needed) for id, row in SERVICES.items()],
        needs=sorted(matters),
    )


def _matters(known: Derived) -> frozenset[str]:
    """The services that serve what runs out first and second."""
    ids = [known.forecast.autonomy.store, known.forecast.second]
    stores = [store for id in ids if (store := known.rig.store(id)) is not None]
    found = {service.kind.id for spot in known.book for store in stores if (service := spot.service_for(store))}
    return frozenset(found)


def _spot(
    known: Derived, spot: Spot, here: Place | None, today: date, matters: frozenset[str], display: Display
) -> SpotOut:
    rig = known.rig
    km = way_km(rig, here, spot.place) if here is not None else None
    towards = bearing_deg(here, spot.place) if here is not None else None
    return SpotOut(
        id=spot.id,
        name=spot.name,
        lat=spot.lat,
        lon=spot.lon,
        words=text.seen(km, way_h(rig, km), towards, display) if km is not None and towards is not None else "",
        way=None if km is None else display.value(km, "km", _WAY_DIGITS),
        bearing=None if towards is None else round(towards, _DEG_DIGITS),
        offers=[
            OfferOut(id=id, words=text.service(each, display), matters=id in matters)
            for id, each in spot.services.items()
        ],
        opening=text.opening(spot.opening_hours),
        limits=text.limits(spot, display),
        lets_in=text.lets_in(fits(rig, spot), rig, spot),
        fits=fits(rig, spot),
        age=text.age(spot, today),
        notes=[text.note(each) for each in reversed(spot.notes)],
        visits=_visits(rig, spot, known.log, display),
    )


def _visits(rig: Rig, spot: Spot, log: Log, display: Display) -> list[str]:
    return [text.visit(rig, each, display) for each in visits(spot, log)[:_MOST_VISITS] if each.day.events]


def _range(known: Derived, display: Display) -> RingOut | None:
    """How far the fuel goes above what must stay: there, and not back."""
    reached = fuel.range_of(known)
    if reached is None:
        return None
    return RingOut(way=display.value(reached.p50, "km", _WAY_DIGITS), words=fuel_text.ring(reached, display))


def _rings(spots: list[SpotOut], display: Display) -> list[RingOut]:
    """Round distances that the places lie within."""
    ways = [each.way for each in spots if each.way is not None]
    return [RingOut(way=way, words=text.ring(way, display)) for way in rings(ways)]


@router.get("/{rig_id}/places/export", operation_id="export_places")
def export_places(request: HttpRequest, rig_id: str, format: Annotated[str, Query()] = "geojson") -> HttpResponse:
    """The book as a file."""
    rig = rig_of(request, rig_id)
    kind = next((each for each in PlacesFormat if each == format), PlacesFormat.GEOJSON)
    docs = [book.document_of(row) for row in m.Spot.objects.filter(rig=rig)]
    answer = HttpResponse(write_places(docs, kind), content_type=TYPES[kind])
    answer["Content-Disposition"] = f'attachment; filename="places.{kind}"'
    return answer


@router.post("/{rig_id}/places/preview", response=PreviewOut, operation_id="preview_places")
def preview_places(request: HttpRequest, rig_id: str, payload: FileIn) -> PreviewOut:
    """What a file of places would bring. Nothing is kept."""
    rig, display = rig_of(request, rig_id, needs=Needs.CREW), display_of(request)
    kind, read = _read(payload)
    is_known = book.known_among(book.document_of(row) for row in m.Spot.objects.filter(rig=rig))
    lines = [
        PreviewLine(
            name=doc.name, words=text.services(book.core_of(doc).services.values(), display), known=is_known(doc)
        )
        for doc in read.places
    ]
    known = sum(line.known for line in lines)
    book.check_room(rig, len(lines) - known)
    return PreviewOut(
        format=NAMES[kind],
        words=text.brought(len(lines) - known, known, len(read.skipped)),
        lines=lines[:_MOST_SHOWN],
        more=max(0, len(lines) - _MOST_SHOWN),
        skipped=[refusal(f"{where}, {refused.place}", refused.problem, display) for where, refused in read.skipped][
            :_MOST_SHOWN
        ],
    )


def _read(payload: FileIn) -> tuple[PlacesFormat, ReadPlaces]:
    data = payload.text.encode()
    kind = PlacesFormat(payload.format) if payload.format else guess_format(data)
    return kind, read_places(data, kind)


@router.post("/{rig_id}/places/import", response=BroughtOut, operation_id="import_places")
def import_places(request: HttpRequest, rig_id: str, payload: FileIn) -> BroughtOut:
    """Put the places of a file into the book."""
    rig = rig_of(request, rig_id, needs=Needs.CREW)
    _, read = _read(payload)
    brought = book.bring_in(rig, list(read.places), by=user_of(request))
    return BroughtOut(words=text.brought(brought.added, brought.known, len(read.skipped)))


@router.post("/{rig_id}/places", response=MadeOut, operation_id="add_place")
def add_place(request: HttpRequest, rig_id: str, payload: SpotIn) -> MadeOut:
    """Put a place into the book; its id is made of its name."""
    rig = rig_of(request, rig_id, needs=Needs.CREW)
    spot = book.put(rig, _with_hours(payload), by=user_of(request), is_new=True)
    return MadeOut(id=spot.id)


@router.get("/{rig_id}/places/{place_id}", response=SpotForm, operation_id="place")
def place(request: HttpRequest, rig_id: str, place_id: str) -> SpotForm:
    """One place, for its form."""
    rig, display = rig_of(request, rig_id), display_of(request)
    spot, core = book.spot(rig, place_id), rows.rig_rows(rig).core
    plain = to_plain(spot.opening_hours)
    return SpotForm(
        spot=book.document_of(m.Spot.objects.get(rig=rig, slug=place_id)),
        plain=None if plain is None else [PlainHours(day=day, opens=a, closes=b) for day, (a, b) in plain.items()],
        visits=_visits(core, spot, rows.core_log(rig), display),
        notes=[text.note(each) for each in spot.notes],
    )


@router.put("/{rig_id}/places/{place_id}", response=MadeOut, operation_id="change_place")
def change_place(request: HttpRequest, rig_id: str, place_id: str, payload: SpotIn) -> MadeOut:
    """Change a place."""
    rig = rig_of(request, rig_id, needs=Needs.CREW)
    if payload.spot.id != place_id:
        raise Refused("spot.id", Plain.IS_MISSING)
    spot = book.put(rig, _with_hours(payload), by=user_of(request), is_new=False)
    return MadeOut(id=spot.id)


def _with_hours(payload: SpotIn) -> d.SpotDoc:
    if payload.plain is None:
        return payload.spot
    hours = from_plain({each.day: (each.opens, each.closes) for each in payload.plain})
    return payload.spot.model_copy(update={"opening_hours": hours})


@router.delete("/{rig_id}/places/{place_id}", response={204: None}, operation_id="remove_place")
def remove_place(request: HttpRequest, rig_id: str, place_id: str) -> tuple[int, None]:
    """Take a place out of the book."""
    rig = rig_of(request, rig_id, needs=Needs.CREW)
    book.remove(rig, place_id, by=user_of(request))
    return 204, None
