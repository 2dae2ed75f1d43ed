"""What is aboard: the rig, its stores with their two senses, and what charges and loads the bank."""

from collections.abc import Callable, Mapping
from dataclasses import field, fields
from functools import cached_property
from typing import Any, TypeVar

from lodeline.core.catalogue import (
    CELLS,
    EFFECT_SENSE,
    LOAD_KINDS,
    OWN_LINE,
    STORE_KINDS,
    UNITS,
    Activity,
    AfterStop,
    ApplianceKind,
    ApplianceWhen,
    Burns,
    Chemistry,
    Effect,
    Feed,
    GaugeKind,
    LoadKind,
    Method,
    Outlet,
    Role,
    Sense,
    Served,
    SourceKind,
    StoreKind,
    System,
    Via,
    When,
    counts_days,
)
from lodeline.core.catalogue.levers import LeverKind
from lodeline.core.figures import Energy, Fuel, Readings, Stops, Use, Water
from lodeline.core.values import dataclass
from lodeline.core.warmth import HeatGear, Quiet
from lodeline.core.zone import Zone

COUNTED = "units"
_FRESH = "fresh"
_METHOD_OF_UNIT = {"kg": Method.MASS, "L": Method.VOLUME, "l": Method.VOLUME}


@dataclass(frozen=True, slots=True)
class Gauge:
    """How a store is read. ``marks``: of a light panel, as shares; ``resolution``: of a sensor."""

    kind: GaugeKind = GaugeKind.NONE
    marks: tuple[float, ...] = ()
    resolution: float = 0.0

    @property
    def shows(self) -> tuple[float, ...]:
        """The shares that it can show, where they are few: a panel's marks, the steps of a coarse sensor."""
        if self.kind is not GaugeKind.SENSOR or self.resolution < Readings.few_steps_from:
            return self.marks
        steps = round(1 / self.resolution)
        return tuple(step / steps for step in range(steps + 1))


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


@dataclass(frozen=True)
class Store:
    """Anything that runs down or fills up. Contents are in ``unit``; ``limit`` is its own lode line as a fraction.

    ``reserve``: carried apart; ``reserve_counts``: it is poured or swapped in once before anybody has to go. ``heats``,
    ``drives``, ``generates``: what burns from it; ``kept_warm``: whether a bank sits inside or heated; None where
    nobody said. ``served_by``: the service of a place that serves it, where that is not what its kind says.
    ``takes``: the outlets that drain into a grey tank; empty where nobody said. ``reads_from``: what its gauge shows
    when it is empty, as a share: a fouled sensor. ``outside``: whether it hangs in the frost, None where nobody said.
    Of gas: ``propane_share`` of a mix, by weight; ``changes_itself``: a spare takes over by itself; ``tank_l``: of a
    fixed tank, whose gauge and litres are of its whole volume. Of fuel: ``pick_up``: the share at which a heater's
    pick-up stops; ``by_pump``: the way to the next pump is its line, and no share of the tank. ``buffer_days``: days
    without supply that it is to sit out. ``own_kwh``: of a supply that is burnt, lower heating value of one
    unit. ``other_tares_kg``: empty weights of the bottles that may stand in its place. ``starter``: a battery that
    starts the engine.
    """

    id: str
    kind: StoreKind
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
    kept_warm: bool | None = None
    served: Served = Served.STOP
    reserve_counts: bool = False
    heats: bool | None = None
    drives: bool | None = None
    generates: bool | None = None
    own_unit: str | None = None
    own_sense: Sense | None = None
    served_by: str | None = None
    takes: frozenset[Outlet] = frozenset()
    reads_from: float = 0.0
    outside: bool | None = None
    propane_share: float | None = None
    changes_itself: bool = False
    tank_l: float | None = None
    pick_up: float | None = None
    by_pump: bool = False
    buffer_days: float = 0.0
    own_kwh: float | None = None
    other_tares_kg: tuple[float, ...] = ()
    starter: bool = False

    @property
    def lightest_kg(self) -> float:
        """The least empty weight of the bottles that may stand in its place."""
        return min((self.tare_kg or 0.0, *self.other_tares_kg))

    @property
    def heaviest_kg(self) -> float:
        """And the most."""
        return max((self.tare_kg or 0.0, *self.other_tares_kg))

    @cached_property
    def is_bank(self) -> bool:
        """Whether it is a battery, which has an hour-by-hour model."""
        return self.kind.role is Role.BANK

    @cached_property
    def sense(self) -> Sense:
        """Whether use empties the store or fills it."""
        return self.kind.sense or self.own_sense or Sense.DRAINS

    @cached_property
    def sign(self) -> float:
        """+1 when use raises the level, -1 when it lowers it."""
        return 1.0 if self.sense is Sense.FILLS else -1.0

    @cached_property
    def unit(self) -> str:
        """Base unit of the contents."""
        return self.kind.unit or self.own_unit or COUNTED

    @property
    def is_counted_in_days(self) -> bool:
        """Whether its own unit says that one of it is used up a day."""
        return self.kind.unit is None and self.sense is Sense.DRAINS and counts_days(self.unit)

    @property
    def is_counted(self) -> bool:
        """Whether it is a supply of single things: bags, cans."""
        return self.kind.unit is None and self.unit not in UNITS and not counts_days(self.unit)

    @cached_property
    def line(self) -> float:
        """The lode line as a fraction of capacity: the store's own, or its kind's."""
        if self.limit is not None:
            return self.limit
        if self.kind.line is not None:
            return self.kind.line
        return CELLS[self.chemistry or Chemistry.AGM].line if self.is_bank else OWN_LINE[self.sense]

    @property
    def sends_nobody(self) -> bool:
        """Whether nobody goes anywhere for it: it is served here, or starts the engine."""
        return self.is_served_here or self.starter

    @property
    def is_served_here(self) -> bool:
        """Whether it is emptied, swapped or topped up on the spot or on foot, so that nobody drives off for it."""
        return self.served is Served.HERE

    @property
    def is_poured(self) -> bool:
        """Whether a reserve is poured into it, and not swapped in as a bottle of its own."""
        return Effect.SWAP not in self.kind.offers

    @cached_property
    def good_end(self) -> float:
        """Its contents after a service: full, or empty where it fills up."""
        return self.capacity if self.sense is Sense.DRAINS else 0.0

    @cached_property
    def line_level(self) -> float:
        """The lode line in contents."""
        return self.line * self.capacity

    @cached_property
    def volts(self) -> float:
        """Nominal volts of a battery."""
        return self.nominal_v or (self.layout.bank_v if self.layout else Energy.bank_v)

    @property
    def capacity_wh(self) -> float:
        """Watt-hours that a battery holds."""
        return self.capacity * self.volts

    @property
    def kg_per_unit(self) -> float:
        """Weight of one unit of its contents. [kg]"""
        contents = next((each for each in self.kind.contents if each.id == self.fuel), None)
        return contents.kg_per_unit if contents else self.kind.kg_per_unit

    @cached_property
    def kwh_per_unit(self) -> float:
        """Lower heating value of one unit of its contents. [kWh]"""
        if not self.kind.contents:
            return self.own_kwh or 0.0
        contents = next((each for each in self.kind.contents if each.id == self.fuel), None) or self.kind.contents[0]
        return contents.kwh_per_unit

    @cached_property
    def burns(self) -> bool:
        """Whether its contents can be burnt."""
        return bool(self.kind.contents) or self.own_kwh is not None

    @cached_property
    def is_gas(self) -> bool:
        """Whether it is a bottle or tank of gas."""
        return self.kind.role is Role.GAS

    @cached_property
    def is_fuel(self) -> bool:
        """Whether it is a tank of fuel."""
        return self.kind.role is Role.VEHICLE_FUEL

    @property
    def filled_kg(self) -> float:
        """What a fixed tank of its volume may hold: 80 % of it. [kg]"""
        return Fuel.filled_to * (self.tank_l or 0.0) * self.liquid_kg_per_l

    @property
    def liquid_kg_per_l(self) -> float:
        """Weight of a litre of liquid gas. [kg/L]"""
        propane = Fuel.propane_kg_per_l
        share = {"butane": 0.0, "mix": Fuel.mix_propane if self.propane_share is None else self.propane_share}.get(
            self.fuel or "", 1.0
        )
        return share * propane + (1 - share) * Fuel.butane_kg_per_l

    @property
    def methods(self) -> tuple[Method, ...]:
        """Every method that it can be read by; a supply that counts kg or L also by weight or volume."""
        own = _METHOD_OF_UNIT.get(self.own_unit or "") if self.kind.unit is None else None
        return (*self.kind.methods, own) if own else self.kind.methods

    def accepts(self, effect: Effect) -> bool:
        """Whether an event of this effect can be done to it."""
        return effect in self.kind.accepts and EFFECT_SENSE.get(effect, self.sense) is self.sense

    def offers(self, effect: Effect) -> bool:
        """Whether the Round offers it."""
        return effect in self.kind.offers and self.accepts(effect)


@dataclass(frozen=True, slots=True)
class SolarArray:
    """A solar array on one controller; azimuth is clockwise from north.

    ``horizon_deg`` is the height of what stands around it: under it the sun is hidden; ``bank``: the battery that it
    charges, None for the house's.
    """

    id: str
    watts: float
    tilt_deg: float = 0.0
    azimuth_deg: float = 180.0  # south
    controller_amps: float | None = None
    horizon_deg: float = 0.0
    bank: str | None = None


@dataclass(frozen=True, slots=True)
class Source:
    """Another way to charge the bank. ``idle_l_per_h`` and ``full_l_per_h``: what a generator burns at no load and at
    its full one, ``rated_w``; ``oil_hours``: hours between changes of its oil; ``bank``: the battery that it charges,
    None for the house's."""

    id: str
    kind: SourceKind
    amps: float
    fuel_store: str | None = None
    fuel_l_per_h: float | None = None
    idle_l_per_h: float | None = None
    full_l_per_h: float | None = None
    rated_w: float | None = None
    oil_hours: float | None = None
    bank: str | None = None

    def l_per_h(self, volts: float) -> float | None:
        """What an hour burns: of an engine that idles, or between no load and full by what it gives, or as said; None
        where nobody said. [L/h]"""
        if self.kind.burns is Burns.NOTHING:
            return 0.0
        if self.kind.burns is Burns.ENGINE_IDLE:
            return Energy.engine_idle_l_per_h
        if self.full_l_per_h is None or not self.rated_w:
            return self.fuel_l_per_h
        idle = Fuel.idle_share * self.full_l_per_h if self.idle_l_per_h is None else self.idle_l_per_h
        return idle + (self.full_l_per_h - idle) * min(1.0, self.amps * volts / self.rated_w)


@dataclass(frozen=True, slots=True)
class Inverter:
    """Makes mains from the bank. ``always_on``: it idles when nothing runs through it, too."""

    watts: float
    surge_watts: float | None = None
    idle_watts: float = 0.0
    efficiency: float = 0.9  # common practice
    always_on: bool = False


@dataclass(frozen=True, slots=True)
class Load:
    """Something that draws from a battery: ``bank``, None for the house's."""

    id: str
    name: str
    watts: float
    hours_per_day: float
    via: Via = Via.DC
    when: When = When.ANY
    kind: LoadKind = LOAD_KINDS["other"]
    bank: str | None = None


@dataclass(frozen=True, slots=True)
class Appliance:
    """Something that burns from a store. ``kw`` and ``hours_per_day`` are None where its kind's usual ones stand in.

    ``lowest_kw``: a heater's lowest rate, None where it goes off and on; ``watts``: what its fan, pump and igniter draw
    from the bank while it runs, 0 where it needs none; ``driving_on`` and ``plugged_on``: what it lives off then.
    """

    id: str
    name: str
    kind: ApplianceKind
    store: str
    kw: float | None = None
    hours_per_day: float | None = None
    when: ApplianceWhen = ApplianceWhen.ALWAYS
    lowest_kw: float | None = None
    watts: float | None = None
    efficiency: float | None = None
    driving_on: Feed = Feed.FUEL
    plugged_on: Feed = Feed.FUEL

    @property
    def full_kw(self) -> float:
        """What it burns at its full rate. [kW]"""
        return self.kind.usual_kw if self.kw is None else self.kw

    @property
    def useful(self) -> float:
        """Part of what it burns that does what it is for."""
        return self.kind.efficiency if self.efficiency is None else self.efficiency

    @property
    def changes_over(self) -> bool:
        """Whether it lives off something else while the rig is driven or plugged in."""
        return self.driving_on is not Feed.FUEL or self.plugged_on is not Feed.FUEL

    @property
    def kwh_per_day(self) -> float:
        """What it burns on a day on which it is used as usual. [kWh/day]"""
        hours = self.kind.usual_hours if self.hours_per_day is None else self.hours_per_day
        return self.full_kw * hours


@dataclass(frozen=True, slots=True, kw_only=True)
class Habit:
    """How often a crew does something with water: so many times a day, all together.

    ``each_l``: what one takes, None where common practice stands in; ``not_on``: weekdays on which it is done ashore,
    Monday 0.
    """

    activity: Activity
    per_day: float
    each_l: float | None = None
    not_on: frozenset[int] = frozenset()

    @property
    def usual_per_day(self) -> float:
        """How often a day, over a whole week. [1/day]"""
        return self.per_day * (_WEEK_DAYS - len(self.not_on)) / _WEEK_DAYS


@dataclass(frozen=True, slots=True, kw_only=True)
class Jug:
    """A container of water that is carried. ``full``: the share that was in it when the log began.

    ``in_use``: water is used from it, so that it is part of the fresh store and not carried apart.
    """

    id: str
    name: str
    litres: float
    where: str = ""
    drinkable: bool = True
    full: float = 1.0
    in_use: bool = False

    @property
    def is_reserve(self) -> bool:
        """Whether what is in it may be poured into the fresh tank."""
        return self.drinkable and not self.in_use

    @property
    def as_store(self) -> "Store":
        """The jug as what water is moved from and to."""
        return Store(self.id, STORE_KINDS[_FRESH], self.name, self.litres)


@dataclass(frozen=True, slots=True, kw_only=True)
class Spare:
    """A bottle or can that is carried beside a store: ``holds`` in that store's unit, ``full`` the share that was in it
    when the log began. ``tare_kg``: the empty bottle; ``contents``: what is in a can, None for what its store holds.
    """

    id: str
    name: str
    store: str
    holds: float
    tare_kg: float | None = None
    full: float = 1.0
    contents: str | None = None
    where: str = ""

    def as_store(self, store: Store) -> Store:
        """The spare as what is moved from and to."""
        return Store(self.id, store.kind, self.name, self.holds, fuel=self.contents or store.fuel, tare_kg=self.tare_kg)

    def fits(self, store: Store) -> bool:
        """Whether what is in it may go into its store."""
        return self.contents is None or self.contents == (store.fuel or store.kind.contents[0].id)


@dataclass(frozen=True, slots=True, kw_only=True)
class WaterGear:
    """What else of the water is aboard; None where nobody said.

    ``heater_l`` with ``heater_c``: what a heater holds, and how hot; ``heater_w``: its element; ``head_l_per_min``
    with ``shower_min``: the shower; ``filter_l`` and ``filter_days``: what the filter is good for; ``hose_l_per_min``:
    flow of the usual tap; ``cart``: whether jugs are wheeled; ``heat_w``: what keeps the tank from freezing.
    """

    heater_l: float | None = None
    heater_c: float | None = None
    heater_w: float | None = None
    head_l_per_min: float | None = None
    shower_min: float | None = None
    filter_l: float | None = None
    filter_days: float | None = None
    disinfect_days: float = Water.disinfect_days
    hose_l_per_min: float | None = None
    cart: bool = False
    heat_w: float | None = None


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

    @property
    def adult_equivalents(self) -> float:
        """People by what they use, at least one adult."""
        return max(1.0, self.adults + Use.child * self.children)


_WEEK_DAYS = 7  # days of a week

T = TypeVar("T")
# Of a rig: the days that a server walks, those ahead, and some more.
_MOST_KEPT = 512


@dataclass(frozen=True, kw_only=True)
class Rig:
    """A whole rig.

    ``road_factor``: way by road over the great circle; ``payload_kg``: what may be loaded, water and all. ``hardship``:
    how hard each lever is for this crew by its id, 0 to 5, None where it is never pulled; ``risk``: the chance of
    passing a line that it accepts. ``habits``: what water is used for, as said; ``jugs``: what is carried apart;
    ``spares``: bottles and cans beside the stores; ``currency``: of all prices,
    an ISO 4217 code. ``heat``: how it is kept warm, None where nobody said.
    """

    name: str
    timezone: str
    units: System
    crew: Crew
    stores: tuple[Store, ...]
    solar: tuple[SolarArray, ...] = ()
    sources: tuple[Source, ...] = ()
    inverter: Inverter | None = None
    loads: tuple[Load, ...] = ()
    appliances: tuple[Appliance, ...] = ()
    road_factor: float = Stops.road_factor
    road_km_per_h: float = Stops.road_km_per_h
    after_stop: AfterStop = AfterStop.BACK
    length_m: float | None = None
    height_m: float | None = None
    payload_kg: float | None = None
    hardship: Mapping[str, int | None] = field(default_factory=dict)
    risk: float = Stops.risk
    habits: tuple[Habit, ...] = ()
    jugs: tuple[Jug, ...] = ()
    water: WaterGear = WaterGear()
    spares: tuple[Spare, ...] = ()
    currency: str | None = None
    heat: HeatGear | None = None
    quiet: Quiet | None = None

    @cached_property
    def zone(self) -> Zone:
        """The rig's timezone, where its days begin and end."""
        return Zone(self.timezone)

    @cached_property
    def _worked_out(self) -> dict[object, Any]:
        return {}

    def once(self, what: object, work_out: Callable[[], T]) -> T:
        """What follows of it and is asked for many times, by many threads: worked out once, and kept with it."""
        kept: T | None = self._worked_out.get(what)
        if kept is None:
            if len(self._worked_out) >= _MOST_KEPT:
                self._worked_out.clear()
            kept = self._worked_out[what] = work_out()
        return kept

    def __getstate__(self) -> dict[str, Any]:
        return {each.name: getattr(self, each.name) for each in fields(self)}

    def hardship_of(self, kind: LeverKind, lever: str) -> int | None:
        """How hard a lever is for this crew: as it said, else as its kind is; None where it never does it."""
        return self.hardship.get(lever, kind.hardship)

    @cached_property
    def batteries(self) -> tuple[Store, ...]:
        """All of its batteries."""
        return tuple(store for store in self.stores if store.is_bank)

    @cached_property
    def banks(self) -> tuple[Store, ...]:
        """The batteries that one lives off: all but starters, where there is another."""
        return tuple(store for store in self.batteries if not store.starter) or self.batteries

    def store(self, store_id: str | None) -> Store | None:
        """The store with this id, or None."""
        return next((store for store in self.stores if store.id == store_id), None)

    def first(self, role: Role) -> Store | None:
        """The first store of a role, or None."""
        return next((store for store in self.stores if store.kind.role is role), None)

    def is_first(self, role: Role, store: Store) -> bool:
        """Whether a store is the first of a role, whatever line it now has."""
        first = self.first(role)
        return first is not None and first.id == store.id

    def every(self, role: Role) -> tuple[Store, ...]:
        """Every store of a role."""
        return tuple(store for store in self.stores if store.kind.role is role)

    def jug(self, jug_id: str | None) -> Jug | None:
        """The jug with this id, or None."""
        return next((jug for jug in self.jugs if jug.id == jug_id), None)

    def vessel(self, id: str | None) -> Store | None:
        """The store, jug, bottle or can with this id, or None."""
        if (store := self.store(id)) is not None:
            return store
        return self.vessels.get(id or "")

    @property
    def vessels(self) -> dict[str, Store]:
        """Every store, jug, bottle and can, by its id."""
        stores = {store.id: store for store in self.stores}
        spares = {each.id: each.as_store(stores[each.store]) for each in self.spares}
        return stores | {jug.id: jug.as_store for jug in self.jugs} | spares

    def spare(self, spare_id: str | None) -> Spare | None:
        """The bottle or can with this id, or None."""
        return next((spare for spare in self.spares if spare.id == spare_id), None)

    def spares_of(self, store: Store) -> tuple[Spare, ...]:
        """The bottles or cans that are carried beside a store."""
        return tuple(spare for spare in self.spares if spare.store == store.id)

    @cached_property
    def heaters(self) -> tuple[Appliance, ...]:
        """What burns against the cold."""
        return tuple(each for each in self.appliances if each.kind.by_cold)

    def burners(self, store: Store) -> tuple[Appliance, ...]:
        """What is said to burn from a store."""
        return tuple(each for each in self.appliances if each.store == store.id)

    def kwh_per_day(self, appliance: Appliance) -> float:
        """What an appliance burns on a usual day of this crew: its kind's usual hours are those of two people.
        [kWh/day]"""
        is_usual = appliance.kind.by_people and appliance.kw is None and appliance.hours_per_day is None
        return appliance.kwh_per_day * (self.crew.adult_equivalents / Use.usual_people if is_usual else 1.0)

    @cached_property
    def driven_tank(self) -> Store | None:
        """The tank that the vehicle drives on, where a drive names none."""
        return next((store for store in self.stores if store.is_fuel and store.drives is not False), None)

    def heats_from(self, store: Store) -> bool | None:
        """Whether a heater burns from a store: as said, or as its appliances say; None where nobody said.

        Where the heaters of a rig are listed, no other store heats.
        """
        if store.heats is not None:
            return store.heats
        if not self.burners(store):
            return False if self.heaters else None
        return any(each.kind.by_cold for each in self.burners(store))

    def source_amps(self, kind: SourceKind) -> float:
        """What the sources of a kind give together. [A]"""
        return sum(source.amps for source in self.sources if source.kind is kind)

    def source_l_per_h(self, source: Source, volts: float) -> float | None:
        """What an hour of a source burns; None where nobody said, or no tank that it burns from is aboard. [L/h]"""
        is_engine = source.kind.burns is Burns.ENGINE_IDLE
        return None if is_engine and self.driven_tank is None else source.l_per_h(volts)

    def burn_l_per_h(self, store: Store, kind: SourceKind) -> float:
        """What the sources of a kind burn from a store in an hour, by a rate of their own. [L/h]"""
        if kind.burns is not Burns.OWN_RATE:
            return 0.0
        mine = [each for each in self.sources if each.kind is kind and each.fuel_store == store.id]
        volts = self.banks[0].volts if self.banks else Energy.bank_v
        return sum(each.l_per_h(volts) or 0.0 for each in mine)
