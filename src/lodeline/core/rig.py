"""What is aboard: the rig, its stores with their two senses, and what charges and loads the bank."""

from dataclasses import dataclass, field
from enum import StrEnum

from lodeline.core.units import System


class Sense(StrEnum):
    """Whether life aboard empties a store or fills it."""

    DRAINS = "drains"
    FILLS = "fills"


class Kind(StrEnum):
    """What a store holds."""

    BATTERY = "battery"
    FRESH = "fresh"
    GREY = "grey"
    BLACK = "black"
    CASSETTE = "cassette"
    URINE = "urine"
    SOLIDS = "solids"
    GAS = "gas"
    FUEL = "fuel"
    SUPPLY = "supply"


class Chemistry(StrEnum):
    """Battery chemistry."""

    LFP = "lfp"
    AGM = "agm"
    GEL = "gel"
    FLOODED = "flooded"
    LEAD_CARBON = "lead-carbon"


WASTE = frozenset({Kind.GREY, Kind.BLACK, Kind.CASSETTE, Kind.URINE, Kind.SOLIDS})
FILLABLE = frozenset({Kind.FRESH, Kind.GAS, Kind.FUEL})
_UNITS = {Kind.BATTERY: "Ah", Kind.GAS: "kg", Kind.SOLIDS: "uses"}
_LIMITS = {
    Kind.FRESH: 0.05, Kind.GREY: 0.95, Kind.BLACK: 0.9, Kind.CASSETTE: 0.9, Kind.URINE: 0.9,
    Kind.SOLIDS: 1.0, Kind.GAS: 0.05, Kind.FUEL: 0.25,
}  # fmt: skip
_BATTERY_LIMITS = {
    Chemistry.LFP: 0.15, Chemistry.AGM: 0.5, Chemistry.GEL: 0.5, Chemistry.FLOODED: 0.5, Chemistry.LEAD_CARBON: 0.4,
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Gauge:
    """How a store is read. ``kind``: steps, sensor, sight, scale, shunt or none."""

    kind: str = "none"
    marks: tuple[float, ...] = ()
    resolution: float = 0.0


@dataclass(frozen=True, slots=True)
class Layout:
    """Battery units in series (volts add) and parallel strings (amp-hours add)."""

    unit_v: float
    unit_ah: float
    series: int = 1
    parallel: int = 1

    @property
    def bank_v(self) -> float:
        """Nominal volts of the bank."""
        return self.unit_v * self.series

    @property
    def bank_ah(self) -> float:
        """Amp-hours at the bank's nominal volts."""
        return self.unit_ah * self.parallel

    @property
    def bank_wh(self) -> float:
        """Watt-hours: amp-hours times nominal volts."""
        return self.bank_ah * self.bank_v


@dataclass(frozen=True, slots=True)
class Store:
    """Anything that runs down or fills up. Contents are in ``unit``; ``limit`` is the lode line as a fraction."""

    id: str
    kind: Kind
    name: str
    capacity: float
    limit: float | None = None
    gauge: Gauge = Gauge()
    reserve: float | None = None
    chemistry: Chemistry | None = None
    nominal_v: float | None = None
    layout: Layout | None = None
    fuel: str | None = None
    tare_kg: float | None = None
    kept_warm: bool = False
    own_unit: str | None = None
    own_sense: Sense | None = None

    @property
    def sense(self) -> Sense:
        """Whether use empties the store or fills it."""
        if self.kind is Kind.SUPPLY:
            return self.own_sense or Sense.DRAINS
        return Sense.FILLS if self.kind in WASTE else Sense.DRAINS

    @property
    def sign(self) -> float:
        """+1 when use raises the level, -1 when it lowers it."""
        return 1.0 if self.sense is Sense.FILLS else -1.0

    @property
    def unit(self) -> str:
        """Base unit of the contents."""
        return (self.own_unit or "units") if self.kind is Kind.SUPPLY else _UNITS.get(self.kind, "L")

    @property
    def line(self) -> float:
        """The lode line as a fraction of capacity: the store's own, or its kind's."""
        if self.limit is not None:
            return self.limit
        if self.kind is Kind.BATTERY:
            return _BATTERY_LIMITS[self.chemistry or Chemistry.AGM]
        if self.kind is Kind.SUPPLY:
            return 1.0 if self.sense is Sense.FILLS else 0.0
        return _LIMITS[self.kind]

    @property
    def line_level(self) -> float:
        """The lode line in contents."""
        return self.line * self.capacity

    @property
    def volts(self) -> float:
        """Nominal volts of a battery."""
        return self.nominal_v or (self.layout.bank_v if self.layout else 12.0)

    @property
    def capacity_wh(self) -> float:
        """Watt-hours that a battery holds."""
        return self.capacity * self.volts


@dataclass(frozen=True, slots=True)
class SolarArray:
    """A solar array on one controller; azimuth is clockwise from north.

    ``horizon_deg`` is the height of what stands around it: under it the sun is hidden.
    """

    id: str
    watts: float
    tilt_deg: float = 0.0
    azimuth_deg: float = 180.0
    controller_amps: float | None = None
    horizon_deg: float = 0.0


@dataclass(frozen=True, slots=True)
class Source:
    """Another way to charge: alternator, shore or generator."""

    id: str
    kind: str
    amps: float
    fuel_store: str | None = None
    fuel_l_per_h: float | None = None


@dataclass(frozen=True, slots=True)
class Inverter:
    """Makes mains from the bank. ``always_on``: it idles when nothing runs through it, too."""

    watts: float
    surge_watts: float | None = None
    idle_watts: float = 0.0
    efficiency: float = 0.9
    always_on: bool = False


@dataclass(frozen=True, slots=True)
class Load:
    """Something that draws from the bank. ``via``: dc or inverter; ``when``: day, night or any."""

    id: str
    name: str
    watts: float
    hours_per_day: float
    via: str = "dc"
    when: str = "any"


@dataclass(frozen=True, slots=True)
class Crew:
    """Who lives aboard as a rule."""

    adults: int = 1
    children: int = 0
    pets: int = 0

    @property
    def people(self) -> int:
        """Adults and children."""
        return self.adults + self.children


@dataclass(frozen=True, slots=True)
class Rig:
    """A whole rig."""

    name: str
    timezone: str
    units: System
    crew: Crew
    stores: tuple[Store, ...]
    solar: tuple[SolarArray, ...] = ()
    sources: tuple[Source, ...] = ()
    inverter: Inverter | None = None
    loads: tuple[Load, ...] = field(default=())

    def store(self, store_id: str) -> Store | None:
        """The store with this id, or None."""
        return next((store for store in self.stores if store.id == store_id), None)

    def first(self, kind: Kind) -> Store | None:
        """The first store of a kind, or None."""
        return next((store for store in self.stores if store.kind is kind), None)
