"""The logbook file as pydantic models: shapes, ranges and names. Checks between parts are in ``checks``."""

import re
import unicodedata
from datetime import date, datetime, time
from typing import TYPE_CHECKING, Annotated, Any, Literal, Union

from pydantic import (
    AfterValidator,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    FailFast,
    Field,
    PlainSerializer,
    WithJsonSchema,
    create_model,
)
from pydantic_core import PydanticCustomError

from lodeline.core import problems as p
from lodeline.core.catalogue import EVENT_TYPES, SOURCE_KINDS, EventField, EventType, Via, When
from lodeline.core.errors import Refused
from lodeline.core.stops.opening import check_opening
from lodeline.core.zone import known_zones
from lodeline.formats import words as w

_TIME = re.compile(r"\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d{1,6})?)?(Z|[+-]\d{2}:\d{2})")
_DATE = re.compile(r"\d{4}-\d{2}-\d{2}")
_CLOCK = re.compile(r"([01]\d|2[0-3]):[0-5]\d(:[0-5]\d)?")
YEARS = range(1970, 2101)
PROBLEM = "lodeline_problem"


def _refuse(problem: p.Problem) -> PydanticCustomError:
    return PydanticCustomError(PROBLEM, "refused", {"problem": problem})


def _checked_year(at: Any) -> Any:
    if at.year not in YEARS:
        raise _refuse(p.YearOutOfRange(YEARS[0], YEARS[-1]))
    return at


def _to_date(value: Any) -> Any:
    if isinstance(value, date) and not isinstance(value, datetime):
        return value
    if not isinstance(value, str) or not _DATE.fullmatch(value):
        raise _refuse(p.Plain.NOT_A_DATE)
    try:
        on = date.fromisoformat(value)
    except ValueError:
        raise _refuse(p.NoSuchMoment(value)) from None
    return _checked_year(on)


def _to_time(value: Any) -> Any:
    if isinstance(value, datetime):
        return value
    if not isinstance(value, str) or not _TIME.fullmatch(value):
        raise _refuse(p.Plain.NOT_A_TIME)
    try:
        at = datetime.fromisoformat(value)
    except ValueError:
        raise _refuse(p.NoSuchMoment(value)) from None
    return _checked_year(at)


def _to_clock(value: Any) -> Any:
    if isinstance(value, time):
        return value
    if not isinstance(value, str) or not _CLOCK.fullmatch(value):
        raise _refuse(p.Plain.NOT_A_CLOCK_TIME)
    return time.fromisoformat(value)


def _zone(value: str) -> str:
    if value not in known_zones():
        raise _refuse(p.NoTimezone(value))
    return value


Date = Annotated[
    date,
    BeforeValidator(_to_date),
    WithJsonSchema({"type": "string", "format": "date"}),
    PlainSerializer(lambda value: value.isoformat(), return_type=str),
]
Time = Annotated[
    datetime,
    BeforeValidator(_to_time),
    WithJsonSchema({"type": "string", "format": "date-time"}),
    PlainSerializer(lambda value: value.isoformat(), return_type=str),
]
ClockTime = Annotated[
    time,
    BeforeValidator(_to_clock),
    WithJsonSchema({"type": "string", "pattern": "^\\d{2}:\\d{2}(:\\d{2})?$"}),
    PlainSerializer(lambda value: value.isoformat("auto"), return_type=str),
]
TimezoneName = Annotated[str, AfterValidator(_zone)]


class UnitOf:
    """The base unit of a number, so that a refusal can be said in the user's own."""

    def __init__(self, unit: str) -> None:
        self.unit = unit


def _whole(value: Any) -> Any:
    return int(value) if isinstance(value, float) and value.is_integer() else value


# JSON has one kind of number: 2.0 is a whole one.
Whole = BeforeValidator(_whole)


_BREAKS = ("Cc", "Zl", "Zp")


def _one_line(value: Any) -> Any:
    """A name stands in one line, wherever it is written."""
    if not isinstance(value, str):
        return value
    return " ".join("".join(" " if unicodedata.category(char) in _BREAKS else char for char in value).split())


Slug = Annotated[str, Field(pattern=r"^[a-z0-9-]+$", max_length=60)]
Name = Annotated[str, Field(min_length=1, max_length=120), BeforeValidator(_one_line)]
Share = Annotated[float, Field(ge=0, le=1)]
MOST_AMOUNT = 1e7
Positive = Annotated[float, Field(gt=0, le=MOST_AMOUNT)]
AtLeastZero = Annotated[float, Field(ge=0, le=MOST_AMOUNT)]
Celsius = Annotated[float, Field(ge=-90, le=65), UnitOf("degC")]
Count = Annotated[int, Field(ge=1, le=100), Whole]
People = Annotated[int, Field(ge=0, le=100), Whole]
SpellHours = Annotated[float, Field(ge=0, le=168)]
DayHours = Annotated[float, Field(ge=0, le=24)]
Km = Annotated[float, Field(ge=0, le=5000), UnitOf("km")]
LPerH = Annotated[float, Field(ge=0, le=100)]
Kg = Annotated[float, Field(ge=0, le=1000), UnitOf("kg")]


class Part(BaseModel):
    """A strict part of the document: no unknown key, no guessed type."""

    model_config = ConfigDict(extra="forbid", strict=True, allow_inf_nan=False, populate_by_name=True, defer_build=True)


class StepsGauge(Part):
    kind: Literal["steps"]
    marks: Annotated[list[Share], Field(min_length=2, max_length=20)]


class SensorGauge(Part):
    kind: Literal["sensor"]
    resolution: Annotated[float, Field(gt=0, le=0.5)] = 0.02


class PlainGauge(Part):
    kind: Literal["sight", "scale", "shunt", "none"]


GaugeDoc = Annotated[StepsGauge | SensorGauge | PlainGauge, Field(discriminator="kind")]


class LayoutDoc(Part):
    unit_v: Annotated[float, Field(gt=0, le=100)]
    unit_ah: Positive
    series: Count = 1
    parallel: Count = 1


class StoreDoc(Part):
    id: Slug
    kind: w.StoreKindWord
    name: Name
    capacity: Positive | None = None
    limit: Share | None = None
    gauge: GaugeDoc | None = None
    reserve: AtLeastZero | None = None
    chemistry: w.ChemistryWord | None = None
    nominal_v: Annotated[float, Field(ge=1, le=1000)] | None = None
    layout: LayoutDoc | None = None
    fuel: w.ContentsWord | None = None
    tare_kg: Kg | None = None
    unit: Annotated[str, Field(min_length=1, max_length=30)] | None = None
    sense: w.SenseWord | None = None
    kept_warm: bool | None = None
    starter: bool | None = None
    served: w.ServedWord | None = None
    reserve_counts: bool | None = None
    heats: bool | None = None
    drives: bool | None = None
    generates: bool | None = None
    served_by: w.ServiceWord | None = None
    takes: Annotated[list[w.OutletWord], Field(max_length=10)] | None = None
    reads_from: Annotated[float, Field(ge=0, le=0.9)] | None = None
    outside: bool | None = None
    propane_share: Share | None = None
    changes_itself: bool | None = None
    tank_l: Annotated[float, Field(gt=0, le=5000), UnitOf("L")] | None = None
    pick_up: Annotated[float, Field(ge=0, le=0.9)] | None = None
    by_pump: bool | None = None
    kwh_per_unit: Annotated[float, Field(gt=0, le=20)] | None = None
    buffer_days: Annotated[float, Field(ge=0, le=60)] | None = None


class ArrayDoc(Part):
    id: Slug
    watts: AtLeastZero
    tilt_deg: Annotated[float, Field(ge=0, le=90)] = 0.0
    azimuth_deg: Annotated[float, Field(ge=0, le=360)] = 180.0
    controller_amps: Positive | None = None
    horizon_deg: Annotated[float, Field(ge=0, lt=90)] | None = None
    bank: Slug | None = None


class SourceDoc(Part):
    id: Slug
    kind: w.SourceKindWord
    amps: Annotated[float, Field(gt=0, le=2000)]
    fuel_store: Slug | None = None
    fuel_l_per_h: LPerH | None = None
    idle_l_per_h: LPerH | None = None
    full_l_per_h: LPerH | None = None
    rated_w: Positive | None = None
    oil_hours: Annotated[float, Field(ge=5, le=5000)] | None = None
    bank: Slug | None = None


class InverterDoc(Part):
    watts: Positive
    surge_watts: Positive | None = None
    idle_watts: AtLeastZero = 0.0
    efficiency: Annotated[float, Field(gt=0, le=1)] = 0.9
    always_on: bool | None = None


class LoadDoc(Part):
    id: Slug
    name: Name
    watts: AtLeastZero
    hours_per_day: DayHours
    via: w.ViaWord = Via.DC
    when: w.WhenWord = When.ANY
    kind: w.LoadKindWord | None = None
    bank: Slug | None = None


class ApplianceDoc(Part):
    id: Slug
    name: Name
    kind: w.ApplianceKindWord
    store: Slug
    kw: Annotated[float, Field(gt=0, le=100)] | None = None
    hours_per_day: DayHours | None = None
    when: w.ApplianceWhenWord | None = None
    lowest_kw: Annotated[float, Field(ge=0, le=100)] | None = None
    watts: Annotated[float, Field(ge=0, le=5000)] | None = None
    efficiency: Annotated[float, Field(gt=0, le=1)] | None = None
    driving_on: w.FeedWord | None = None
    plugged_on: w.FeedWord | None = None


class HabitDoc(Part):
    """How often a day the crew does something with water, all together."""

    activity: w.ActivityWord
    per_day: Annotated[float, Field(ge=0, le=100)]
    each_l: Annotated[float, Field(gt=0, le=500), UnitOf("L")] | None = None
    not_on: Annotated[list[Annotated[int, Field(ge=0, le=6), Whole]], Field(max_length=7)] | None = None


class JugDoc(Part):
    """A container of water that is carried."""

    id: Slug
    name: Name
    litres: Annotated[float, Field(gt=0, le=1000), UnitOf("L")]
    where: Annotated[str, Field(max_length=60)] | None = None
    drinkable: bool | None = None
    full: Share | None = None
    in_use: bool | None = None


Days = Annotated[float, Field(ge=1, le=4000)]
LPerMin = Annotated[float, Field(gt=0, le=200)]


class WaterGearDoc(Part):
    """What else of the water is aboard."""

    heater_l: Annotated[float, Field(gt=0, le=500), UnitOf("L")] | None = None
    heater_c: Annotated[float, Field(ge=20, le=99), UnitOf("degC")] | None = None
    heater_w: Positive | None = None
    head_l_per_min: LPerMin | None = None
    shower_min: Annotated[float, Field(gt=0, le=120)] | None = None
    filter_l: Annotated[float, Field(gt=0, le=1e6), UnitOf("L")] | None = None
    filter_days: Days | None = None
    disinfect_days: Days | None = None
    hose_l_per_min: LPerMin | None = None
    cart: bool | None = None
    heat_w: Positive | None = None


class SpareDoc(Part):
    """A bottle or can that is carried beside a store; ``holds`` in that store's unit."""

    id: Slug
    name: Name
    store: Slug
    holds: Positive
    tare_kg: Kg | None = None
    full: Share | None = None
    contents: w.ContentsWord | None = None
    where: Annotated[str, Field(max_length=60)] | None = None


Hour = Annotated[float, Field(ge=0, le=24)]
Inside = Annotated[float, Field(ge=0, le=35), UnitOf("degC")]


class HeatDoc(Part):
    """How the rig is built and kept warm. ``night_off``: the heating is off at night."""

    body: w.BodyWord | None = None
    insulation: w.InsulationWord | None = None
    living_m: Annotated[float, Field(ge=1, le=20), UnitOf("m")] | None = None
    glazing_m2: Annotated[float, Field(ge=0, le=60)] | None = None
    double_glazed: bool | None = None
    ua_w_per_k: Annotated[float, Field(ge=5, le=2000)] | None = None
    day_c: Inside | None = None
    night_c: Inside | None = None
    night_off: bool | None = None
    night_from_h: Hour | None = None
    night_until_h: Hour | None = None
    plugged: bool | None = None
    away_c: Inside | None = None


class QuietDoc(Part):
    """Hours in which no engine and no generator is run."""

    from_h: Hour
    until_h: Hour


class CrewDoc(Part):
    adults: People
    children: People = 0
    pets: People = 0


_MOST_STORES = 120
# What a rig says of itself apart from its lists; the core has the usual values.
Metres = Annotated[float, Field(gt=0, le=100), UnitOf("m")]
Hardship = Annotated[int, Field(ge=0, le=5), Whole]
# the code of a currency, ISO 4217
Currency = Annotated[str, Field(pattern="^[A-Z]{3}$")]
LeverId = Annotated[str, Field(pattern=r"^[a-z0-9-]+$", max_length=120)]


class RigDoc(Part):
    name: Name
    timezone: TimezoneName
    units: w.SystemWord
    crew: CrewDoc
    stores: Annotated[list[StoreDoc], Field(min_length=1, max_length=_MOST_STORES)]
    solar: Annotated[list[ArrayDoc], Field(max_length=30)] = []
    sources: Annotated[list[SourceDoc], Field(max_length=30)] = []
    inverter: InverterDoc | None = None
    loads: Annotated[list[LoadDoc], Field(max_length=200)] = []
    appliances: Annotated[list[ApplianceDoc], Field(max_length=60)] = []
    road_factor: Annotated[float, Field(ge=1, le=5)] | None = None
    road_km_per_h: Annotated[float, Field(ge=5, le=130)] | None = None
    after_stop: w.AfterStopWord | None = None
    length_m: Metres | None = None
    height_m: Metres | None = None
    currency: Currency | None = None
    payload_kg: Annotated[float, Field(gt=0, le=50_000), UnitOf("kg")] | None = None
    hardship: Annotated[dict[LeverId, Hardship | None], Field(max_length=200)] | None = None
    risk: Annotated[float, Field(ge=0.01, le=0.5)] | None = None
    habits: Annotated[list[HabitDoc], Field(max_length=20)] | None = None
    jugs: Annotated[list[JugDoc], Field(max_length=20)] | None = None
    water: WaterGearDoc | None = None
    spares: Annotated[list[SpareDoc], Field(max_length=40)] | None = None
    heat: HeatDoc | None = None
    quiet: QuietDoc | None = None


class PlaceDoc(Part):
    name: Name
    lat: Annotated[float, Field(ge=-90, le=90)]
    lon: Annotated[float, Field(ge=-180, le=180)]
    elevation_m: Annotated[float, Field(ge=-450, le=9000), UnitOf("m")] | None = None


class ReadingDoc(Part):
    at: Time
    store: Slug
    method: w.MethodWord
    value: Annotated[float, Field(ge=0, le=1e7)] | None = None
    state: w.VoltsStateWord | None = None
    confirmed: bool | None = None
    within: Annotated[float, Field(gt=0, le=1e7)] | None = None


class EventPart(Part):
    """What every event has; a model for each type is made of its row in the catalogue."""

    at: Time
    type: str


# How the file writes what an event may carry: the type of each field, and its key where that is another word.
_FIELDS: dict[EventField, tuple[Any, str | None]] = {
    EventField.STORE: (Slug, None),
    EventField.TO_FULL: (Literal["full"], "to"),
    EventField.AMOUNT: (Positive, None),
    EventField.LEFT: (Share, None),
    EventField.SOURCE: (Slug, "from"),
    EventField.TARGET: (Slug, "to"),
    EventField.HOURS: (SpellHours, None),
    EventField.KM: (Km, None),
    EventField.COUNT: (Count, None),
}


# A total and no way of a day.
_OF_TYPE: dict[tuple[str, EventField], tuple[Any, str | None]] = {
    ("odometer", EventField.KM): (Annotated[float, Field(gt=0, le=5e6), UnitOf("km")], None)
}


def _event_model(row: EventType) -> type[EventPart]:
    fields: dict[str, Any] = {"type": (Literal[row.id], ...)}
    for name in row.fields:
        kind, key = _OF_TYPE.get((row.id, name)) or _FIELDS[name]
        needed = name in row.needs
        fields[name.value] = (kind if needed else kind | None, Field(... if needed else None, alias=key))
    return create_model(f"{row.id.title()}Doc", __base__=EventPart, **fields)


EVENT_DOCS = {row.id: _event_model(row) for row in EVENT_TYPES.values()}
if TYPE_CHECKING:
    EventDoc = EventPart
else:
    EventDoc = Annotated[Union[tuple(EVENT_DOCS.values())], Field(discriminator="type")]  # noqa: UP007


class Facts(Part):
    """What is known or expected of a date."""

    place: PlaceDoc | None = None
    sky: w.SkyWordText | None = None
    temp_min_c: Celsius | None = None
    temp_max_c: Celsius | None = None
    status: w.StatusWord | None = None
    crew_aboard: People | None = None
    panels_covered: bool | None = None


class VisitDoc(Part):
    """A visit to a place of the book."""

    place: Slug
    arrived: Time | None = None
    left: Time | None = None


class DayFacts(Facts):
    """What a day's line says apart from its readings and events."""

    note: Annotated[str, Field(max_length=4000)] | None = None
    solar_wh: AtLeastZero | None = None
    load_wh: AtLeastZero | None = None
    water_l: AtLeastZero | None = None
    visit: VisitDoc | None = None


_MOST_COMING = 400


class DayDoc(DayFacts):
    date: Date
    readings: Annotated[list[ReadingDoc], FailFast()] = []
    events: Annotated[list[EventDoc], FailFast()] = []


_HOURS: dict[str, Any] = {row.outlook_key: (DayHours | None, None) for row in SOURCE_KINDS.values()}
if TYPE_CHECKING:
    OutlookFacts = Facts
else:
    OutlookFacts = create_model(
        "OutlookFacts", __base__=Facts, __doc__="What a coming day is expected to bring.", **_HOURS
    )


class OutlookDoc(OutlookFacts):
    date: Date


Price = Annotated[float, Field(ge=0, le=1e6)]


class WaterDoc(Part):
    l_per_min: Annotated[float, Field(gt=0, le=1000)] | None = None
    drinkable: bool | None = None
    hose: bool | None = None
    price: Price | None = None


class PricedDoc(Part):
    price: Price | None = None


class HookupDoc(Part):
    amps: Annotated[float, Field(gt=0, le=200)] | None = None
    volts: Annotated[float, Field(gt=0, le=1000)] | None = None
    price_night: Price | None = None


class GasDoc(Part):
    fuels: Annotated[list[w.ContentsWord], Field(max_length=10)] = []
    how: w.GasHowWord | None = None
    price_per_kg: Price | None = None


class FuelDoc(Part):
    fuels: Annotated[list[w.ContentsWord], Field(max_length=10)] = []
    price_per_l: Price | None = None


class ServicesDoc(Part):
    """What a place offers; a key that is there means that it is offered."""

    water: WaterDoc | None = None
    grey: PricedDoc | None = None
    black: PricedDoc | None = None
    solids: PricedDoc | None = None
    hookup: HookupDoc | None = None
    gas: GasDoc | None = None
    fuel: FuelDoc | None = None
    supplies: PricedDoc | None = None
    laundry: PricedDoc | None = None
    shower: PricedDoc | None = None


class VisitNoteDoc(Part):
    on: Date
    text: Annotated[str, Field(min_length=1, max_length=500)]


def _opening(value: str) -> str:
    try:
        check_opening(value, "opening_hours")
    except Refused as refused:
        raise _refuse(refused.problem) from None
    return value


OpeningText = Annotated[str, Field(min_length=1, max_length=300), AfterValidator(_opening)]
Month = Annotated[int, Field(ge=1, le=12), Whole]


class SpotDoc(Part):
    """A place of the book."""

    id: Slug
    name: Name
    lat: Annotated[float, Field(ge=-90, le=90)]
    lon: Annotated[float, Field(ge=-180, le=180)]
    services: ServicesDoc = Field(default_factory=ServicesDoc)
    opening_hours: OpeningText | None = None
    fee: Price | None = None
    note: Annotated[str, Field(max_length=4000)] | None = None
    max_nights: Annotated[int, Field(ge=0, le=1000), Whole] | None = None
    max_height_m: Metres | None = None
    max_length_m: Metres | None = None
    closed_months: Annotated[list[Month], Field(max_length=12)] | None = None
    known_on: Date | None = None
    notes: Annotated[list[VisitNoteDoc], Field(max_length=200)] | None = None


class AgreedDoc(Part):
    """A lever that the crew has agreed on, from a date through another."""

    lever: LeverId
    since: Date = Field(alias="from")
    until: Date


class PlannedStopDoc(Part):
    """A stop that is planned by hand: at a place of the book, arriving at a time."""

    place: Slug
    arrive: Time
    plug: bool | None = None


MOST_PLACES = 2000


class LogbookDoc(Part):
    """Lodeline logbook, version 1."""

    format: Literal["lodeline-logbook"]
    version: Annotated[Literal[1], BeforeValidator(lambda v: v if type(v) is int else repr(v))]
    rig: RigDoc
    days: Annotated[list[DayDoc], FailFast()]
    outlook: Annotated[list[OutlookDoc], Field(max_length=_MOST_COMING)] | None = None
    places: Annotated[list[SpotDoc], Field(max_length=MOST_PLACES)] | None = None
    agreed: Annotated[list[AgreedDoc], Field(max_length=200)] | None = None
    planned: Annotated[list[PlannedStopDoc], Field(max_length=100)] | None = None
