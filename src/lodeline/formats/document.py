"""The logbook file as pydantic models: shapes, ranges and names. Checks between parts are in ``checks``."""

import re
from datetime import date, datetime
from typing import Annotated, Any, Literal
from zoneinfo import ZoneInfo, available_timezones

from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, Field, PlainSerializer, WithJsonSchema

_TIME = re.compile(r"\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d{1,6})?)?(Z|[+-]\d{2}:\d{2})")
_DATE = re.compile(r"\d{4}-\d{2}-\d{2}")
_YEARS = range(1970, 2200)


def _to_date(value: Any) -> Any:
    if isinstance(value, datetime) or not isinstance(value, str | date):
        raise ValueError("must be a date such as 2026-09-04")
    if isinstance(value, date):
        return value
    if not _DATE.fullmatch(value):
        raise ValueError("must be a date such as 2026-09-04")
    try:
        found = date.fromisoformat(value)
    except ValueError:
        raise ValueError(f"there is no date {value}") from None
    if found.year not in _YEARS:
        raise ValueError("the year must lie between 1970 and 2199")
    return found


def _to_time(value: Any) -> Any:
    if isinstance(value, datetime):
        return value
    if not isinstance(value, str) or not _TIME.fullmatch(value):
        raise ValueError("must be a time with its offset, such as 2026-09-04T20:15:00+01:00")
    try:
        found = datetime.fromisoformat(value)
    except ValueError:
        raise ValueError(f"there is no time {value}") from None
    if found.year not in _YEARS:
        raise ValueError("the year must lie between 1970 and 2199")
    return found


def _zone(value: str) -> str:
    try:
        ZoneInfo(value)
    except (KeyError, ValueError, OSError):
        raise ValueError(f'no timezone "{value}"; use an IANA name such as Europe/Lisbon') from None
    if value not in available_timezones():
        raise ValueError(f'no timezone "{value}"; use an IANA name such as Europe/Lisbon')
    return value


Date = Annotated[
    date, BeforeValidator(_to_date), WithJsonSchema({"type": "string", "format": "date"}),
    PlainSerializer(lambda value: value.isoformat(), return_type=str),
]  # fmt: skip
Time = Annotated[
    datetime, BeforeValidator(_to_time), WithJsonSchema({"type": "string", "format": "date-time"}),
    PlainSerializer(lambda value: value.isoformat(), return_type=str),
]  # fmt: skip
Slug = Annotated[str, Field(pattern=r"^[a-z0-9-]+$", max_length=60)]
Name = Annotated[str, Field(min_length=1, max_length=120)]
Share = Annotated[float, Field(ge=0, le=1)]
Positive = Annotated[float, Field(gt=0, le=1e7)]
AtLeastZero = Annotated[float, Field(ge=0, le=1e7)]
Celsius = Annotated[float, Field(ge=-90, le=65)]
Count = Annotated[int, Field(ge=1, le=100)]
People = Annotated[int, Field(ge=0, le=100)]
SpellHours = Annotated[float, Field(ge=0, le=168)]
DayHours = Annotated[float, Field(ge=0, le=24)]
SkyWord = Literal["clear", "mixed", "overcast", "wet"]
Status = Literal["parked", "moving", "hookup"]


class Part(BaseModel):
    """A strict part of the document: no unknown key, no guessed type."""

    model_config = ConfigDict(extra="forbid", strict=True, allow_inf_nan=False, populate_by_name=True)


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
    kind: Literal["battery", "fresh", "grey", "black", "cassette", "urine", "solids", "gas", "fuel", "supply"]
    name: Name
    capacity: Positive | None = None
    limit: Share | None = None
    gauge: GaugeDoc | None = None
    reserve: AtLeastZero | None = None
    chemistry: Literal["lfp", "agm", "gel", "flooded", "lead-carbon"] | None = None
    nominal_v: Annotated[float, Field(ge=1, le=1000)] | None = None
    layout: LayoutDoc | None = None
    fuel: Literal["propane", "butane", "diesel", "petrol"] | None = None
    tare_kg: Annotated[float, Field(ge=0, le=1000)] | None = None
    unit: Annotated[str, Field(min_length=1, max_length=30)] | None = None
    sense: Literal["drains", "fills"] | None = None
    kept_warm: bool | None = None


class ArrayDoc(Part):
    id: Slug
    watts: Positive
    tilt_deg: Annotated[float, Field(ge=0, le=90)] = 0.0
    azimuth_deg: Annotated[float, Field(ge=0, le=360)] = 180.0
    controller_amps: Positive | None = None
    horizon_deg: Annotated[float, Field(ge=0, lt=90)] | None = None


class SourceDoc(Part):
    id: Slug
    kind: Literal["alternator", "shore", "generator"]
    amps: Annotated[float, Field(gt=0, le=2000)]
    fuel_store: Slug | None = None
    fuel_l_per_h: Annotated[float, Field(ge=0, le=100)] | None = None


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
    via: Literal["dc", "inverter"] = "dc"
    when: Literal["day", "night", "any"] = "any"


class CrewDoc(Part):
    adults: People
    children: People = 0
    pets: People = 0


class RigDoc(Part):
    name: Name
    timezone: Annotated[str, AfterValidator(_zone)]
    units: Literal["metric", "us", "uk"]
    crew: CrewDoc
    stores: Annotated[list[StoreDoc], Field(min_length=1, max_length=60)]
    solar: Annotated[list[ArrayDoc], Field(max_length=30)] = []
    sources: Annotated[list[SourceDoc], Field(max_length=30)] = []
    inverter: InverterDoc | None = None
    loads: Annotated[list[LoadDoc], Field(max_length=200)] = []


class PlaceDoc(Part):
    name: Name
    lat: Annotated[float, Field(ge=-90, le=90)]
    lon: Annotated[float, Field(ge=-180, le=180)]


class ReadingDoc(Part):
    at: Time
    store: Slug
    method: Literal["fraction", "step", "volume", "mass", "amount", "gross", "volts", "uses", "dry", "full"]
    value: Annotated[float, Field(ge=0, le=1e7)] | None = None
    state: Literal["rest", "load", "charge"] | None = None


class FillDoc(Part):
    at: Time
    type: Literal["fill"]
    store: Slug
    to: Literal["full"] | None = None
    amount: Positive | None = None


class DumpDoc(Part):
    at: Time
    type: Literal["dump"]
    store: Slug
    left: Share | None = None


class SwapDoc(Part):
    at: Time
    type: Literal["swap"]
    store: Slug


class MoveDoc(Part):
    at: Time
    type: Literal["move"]
    source: Annotated[Slug, Field(alias="from")]
    target: Annotated[Slug, Field(alias="to")]
    amount: Positive


class DriveDoc(Part):
    at: Time
    type: Literal["drive"]
    hours: SpellHours
    km: Annotated[float, Field(ge=0, le=5000)] | None = None
    store: Slug | None = None


class ChargeDoc(Part):
    at: Time
    type: Literal["shore", "generator"]
    hours: SpellHours


class CountDoc(Part):
    at: Time
    type: Literal["shower", "laundry"]
    count: Count


EventDoc = Annotated[
    FillDoc | DumpDoc | SwapDoc | MoveDoc | DriveDoc | ChargeDoc | CountDoc, Field(discriminator="type")
]


class DayFacts(Part):
    """What a day's line says apart from its readings and events."""

    place: PlaceDoc | None = None
    sky: SkyWord | None = None
    temp_min_c: Celsius | None = None
    temp_max_c: Celsius | None = None
    status: Status | None = None
    crew_aboard: People | None = None
    note: Annotated[str, Field(max_length=4000)] | None = None
    solar_wh: AtLeastZero | None = None
    load_wh: AtLeastZero | None = None
    water_l: AtLeastZero | None = None


class DayDoc(DayFacts):
    date: Date
    readings: list[ReadingDoc] = []
    events: list[EventDoc] = []


class OutlookFacts(Part):
    """What a coming day is expected to bring."""

    place: PlaceDoc | None = None
    sky: SkyWord | None = None
    temp_min_c: Celsius | None = None
    temp_max_c: Celsius | None = None
    status: Status | None = None
    crew_aboard: People | None = None
    drive_hours: DayHours | None = None
    shore_hours: DayHours | None = None
    generator_hours: DayHours | None = None


class OutlookDoc(OutlookFacts):
    date: Date


class LogbookDoc(Part):
    """Lodeline logbook, version 1."""

    format: Literal["lodeline-logbook"]
    version: Annotated[Literal[1], BeforeValidator(lambda v: v if type(v) is int else repr(v))]
    rig: RigDoc
    days: list[DayDoc]
    outlook: list[OutlookDoc] | None = None
