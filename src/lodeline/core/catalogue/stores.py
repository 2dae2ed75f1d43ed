"""Kinds of stores: a row says all that is true of a kind."""

from dataclasses import field
from typing import Any, ClassVar, TypedDict

from lodeline.core.catalogue.row import Row
from lodeline.core.catalogue.terms import (
    Caution,
    Driver,
    Effect,
    GaugeKind,
    Hue,
    Method,
    Pattern,
    Role,
    Sense,
    Served,
    StoreField,
    Toilet,
)
from lodeline.core.figures import Serving, Use
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Prior:
    """What is expected of one driver's coefficient before the log says, in the store's unit each of the driver.

    ``sd``: its error; ``day_cv``: how one day differs from another. For people the mean is an adult's. ``whoever``:
    the part of people's use that does not depend on who is aboard. ``other``: where a store of this role is aboard it
    may serve the same need, and the error is less.
    """

    driver: Driver
    mean: float
    sd: float
    day_cv: float
    source: str
    whoever: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class UseSpec:
    """How expected use is put together. ``shared``: part of the day-to-day spread in common with the other stores."""

    pattern: Pattern = Pattern.BY_DRIVERS
    priors: tuple[Prior, ...] = ()
    shared: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ServiceHabit:
    """When people serve a kind of store, before the log says. ``margin``: how far on its way from its good end to its
    line they let it come; ``margin_sd``: how rigs differ in that; ``by_need``: chance that a service alone is for need
    and not because the occasion was there."""

    margin: float = Serving.margin
    margin_sd: float = Serving.margin_sd
    by_need: float = Serving.by_need


@dataclass(frozen=True, slots=True, kw_only=True)
class Contents:
    """What a store of gas or fuel may hold. ``kg_per_unit``: weight of one unit of it; ``kwh_per_unit``: lower heating
    value."""

    id: str
    name: str
    kg_per_unit: float
    kwh_per_unit: float


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class StoreKind(Row):
    """A kind of store.

    ``sense``, ``unit`` and ``line`` are None where the store itself says (a supply), and ``line`` where the chemistry
    does (a bank). ``line``: the usual lode line as a share of capacity. ``amounts``: the method of an amount in the
    store's unit. ``reads``: the other methods that it can be read by. ``accepts``: what may be done to it; ``offers``:
    what the Round offers. ``asks``: what only such a store says of itself. ``usual_capacity`` and ``usual_gauge``: what
    a new one is given until somebody says otherwise (common practice); ``toilet``: the one that it comes with;
    ``by_hand``: what is in it can be carried away on foot, ``anywhere``: and needs no place for it; ``bought``: it is
    what a crew buys, of its own naming;
    ``visit_cv``: how one person's day differs from another, beside what all have in common.
    """

    table: ClassVar[dict[str, Any]] = {}

    name: str
    hue: Hue
    sense: Sense | None
    unit: str | None
    line: float | None
    amounts: Method
    use: UseSpec
    usual_capacity: float
    usual_gauge: GaugeKind = GaugeKind.NONE
    usual_resolution: float = 0.02
    toilet: Toilet | None = None
    by_hand: bool = False
    anywhere: bool = False
    bought: bool = False
    visit_cv: float = 0.0
    role: Role = Role.PLAIN
    reads: tuple[Method, ...] = (Method.FRACTION, Method.STEP, Method.DRY, Method.FULL)
    gauges: tuple[GaugeKind, ...] = (GaugeKind.STEPS, GaugeKind.SENSOR, GaugeKind.SIGHT, GaugeKind.NONE)
    accepts: tuple[Effect, ...] = ()
    offers: tuple[Effect, ...] = ()
    asks: tuple[StoreField, ...] = ()
    contents: tuple[Contents, ...] = ()
    kg_per_unit: float = 0.0
    served: tuple[Served, ...] = (Served.STOP, Served.HERE)
    usual_served: Served = Served.STOP
    service: ServiceHabit = ServiceHabit()
    cautions: tuple[Caution, ...] = field(default=())

    @property
    def methods(self) -> tuple[Method, ...]:
        """Every method that such a store can be read by."""
        return (*self.reads, self.amounts) if self.amounts not in self.reads else self.reads

    @property
    def runs_over(self) -> bool:
        """Whether what is carried apart of it is a tote that it runs over into; of a cassette or a bottle it is a
        spare that takes its place."""
        return self.role in (Role.DRAIN, Role.FLUSHED)


def _from_sheet(driver: Driver, mean: str, sd: str, day_cv: str, **more: Any) -> Prior:
    """A prior whose figures stand on the sheet of use; the error as it stands there."""
    rows = Use.rows
    values = {"mean": rows[mean].value, "sd": rows[sd].value, "day_cv": rows[day_cv].value}
    return Prior(driver=driver, source=rows[mean].source, **values, **more)


def _people(mean: str, cv: str, day_cv: str, **more: Any) -> Prior:
    """What an adult does, its error as a share."""
    rows = Use.rows
    each = rows[mean].value
    return Prior(
        driver=Driver.PEOPLE,
        mean=each,
        sd=each * rows[cv].value,
        day_cv=rows[day_cv].value,
        source=rows[mean].source,
        **more,
    )


def _toilet(mean: str, cv: str, day_cv: str) -> UseSpec:
    return UseSpec(priors=(_people(mean, cv, day_cv),), shared=Use.toilet_shared)


# What is carried out by hand is carried when it is nearly full.
_WHEN_FULL = ServiceHabit(by_need=Serving.near_full)
_WHEN_EMPTY = ServiceHabit(margin=Serving.bottle_margin, margin_sd=Serving.bottle_margin_sd, by_need=Serving.near_full)
_IN_PASSING = ServiceHabit(margin=Serving.fuel_margin, margin_sd=Serving.fuel_margin_sd, by_need=Serving.fuel_by_need)


class _Waste(TypedDict):
    sense: Sense
    accepts: tuple[Effect, ...]
    offers: tuple[Effect, ...]
    cautions: tuple[Caution, ...]


_WASTE = _Waste(
    sense=Sense.FILLS, accepts=(Effect.EMPTY, Effect.MOVE), offers=(Effect.EMPTY,), cautions=(Caution.DUMP_ALLOWED,)
)
_FILLED = (Effect.FILL, Effect.SWAP, Effect.MOVE)

_ROWS = (
    StoreKind(
        usual_capacity=100.0,
        id="battery",
        name="House bank",
        hue=Hue.AMBER,
        sense=Sense.DRAINS,
        unit="Ah",
        line=None,
        role=Role.BANK,
        amounts=Method.FRACTION,
        reads=(Method.FRACTION, Method.STEP, Method.VOLTS, Method.DRY, Method.FULL),
        gauges=(GaugeKind.SHUNT, GaugeKind.SENSOR, GaugeKind.STEPS, GaugeKind.NONE),
        accepts=(Effect.SWAP,),
        asks=(StoreField.CHEMISTRY, StoreField.NOMINAL_V, StoreField.LAYOUT, StoreField.KEPT_WARM),
        use=UseSpec(pattern=Pattern.BANK),
        served=(Served.STOP,),
        cautions=(Caution.LICENSED,),
    ),
    StoreKind(
        usual_capacity=100.0,
        usual_gauge=GaugeKind.STEPS,
        id="fresh",
        name="Fresh water",
        hue=Hue.SEA,
        sense=Sense.DRAINS,
        unit="L",
        line=0.05,
        role=Role.WATER,
        amounts=Method.VOLUME,
        reads=(Method.FRACTION, Method.STEP, Method.METER, Method.DRY, Method.FULL),
        accepts=_FILLED,
        offers=(Effect.FILL,),
        kg_per_unit=1.0,
        use=UseSpec(pattern=Pattern.WATER, shared=Use.water_shared),
        cautions=(Caution.DRINKING_HOSE,),
    ),
    StoreKind(
        usual_capacity=80.0,
        usual_gauge=GaugeKind.STEPS,
        id="grey",
        name="Grey tank",
        hue=Hue.SLATE,
        unit="L",
        line=0.95,
        role=Role.DRAIN,
        amounts=Method.VOLUME,
        kg_per_unit=1.0,
        use=UseSpec(pattern=Pattern.DRAIN, shared=Use.water_shared),
        **_WASTE,
    ),
    StoreKind(
        usual_capacity=80.0,
        usual_gauge=GaugeKind.STEPS,
        toilet=Toilet.BLACK,
        visit_cv=Use.visit_cv,
        id="black",
        name="Black tank",
        hue=Hue.PLUM,
        unit="L",
        line=0.9,
        role=Role.FLUSHED,
        amounts=Method.VOLUME,
        kg_per_unit=1.0,
        use=_toilet("black_l", "black_cv", "black_day_cv"),
        **_WASTE,
    ),
    StoreKind(
        usual_capacity=19.0,
        toilet=Toilet.CASSETTE,
        visit_cv=Use.visit_cv,
        id="cassette",
        by_hand=True,
        name="Cassette",
        hue=Hue.PLUM,
        unit="L",
        line=0.9,
        amounts=Method.VOLUME,
        kg_per_unit=1.0,
        use=_toilet("cassette_l", "cassette_cv", "cassette_day_cv"),
        service=_WHEN_FULL,
        **_WASTE,
    ),
    StoreKind(
        usual_capacity=8.0,
        usual_gauge=GaugeKind.SIGHT,
        toilet=Toilet.COMPOSTING,
        usual_served=Served.HERE,
        visit_cv=Use.urine_visit_cv,
        id="urine",
        by_hand=True,
        anywhere=True,
        name="Urine bottle",
        hue=Hue.STRAW,
        unit="L",
        line=0.9,
        amounts=Method.VOLUME,
        kg_per_unit=1.0,
        use=_toilet("urine_l", "urine_cv", "urine_day_cv"),
        service=_WHEN_FULL,
        **_WASTE,
    ),
    StoreKind(
        usual_capacity=70.0,
        toilet=Toilet.COMPOSTING,
        visit_cv=Use.solids_visit_cv,
        id="solids",
        by_hand=True,
        name="Solids bin",
        hue=Hue.UMBER,
        unit="uses",
        line=1.0,
        amounts=Method.USES,
        gauges=(GaugeKind.NONE, GaugeKind.SIGHT, GaugeKind.STEPS),
        use=_toilet("solids_uses", "solids_cv", "solids_day_cv"),
        service=_WHEN_FULL,
        **_WASTE,
    ),
    StoreKind(
        usual_capacity=9.0,
        id="gas",
        name="Gas bottle",
        hue=Hue.RUST,
        sense=Sense.DRAINS,
        unit="kg",
        line=0.05,
        role=Role.GAS,
        amounts=Method.MASS,
        reads=(Method.FRACTION, Method.STEP, Method.GROSS, Method.DRY, Method.FULL),
        gauges=(GaugeKind.SCALE, GaugeKind.SENSOR, GaugeKind.STEPS, GaugeKind.SIGHT, GaugeKind.NONE),
        accepts=_FILLED,
        offers=(Effect.FILL, Effect.SWAP),
        asks=(
            StoreField.FUEL,
            StoreField.TARE_KG,
            StoreField.PROPANE_SHARE,
            StoreField.CHANGES_ITSELF,
            StoreField.TANK_L,
            StoreField.HEATS,
            StoreField.GENERATES,
        ),
        kg_per_unit=1.0,
        contents=(
            Contents(id="propane", name="propane", kg_per_unit=1.0, kwh_per_unit=12.9),
            Contents(id="butane", name="butane", kg_per_unit=1.0, kwh_per_unit=12.7),
            Contents(id="mix", name="butane and propane mixed", kg_per_unit=1.0, kwh_per_unit=12.75),
        ),
        use=UseSpec(
            priors=(
                _people("gas_kg", "gas_cv", "gas_day_cv", whoever=Use.gas_whoever),
                _from_sheet(Driver.DEGREE_DAYS, "gas_kg_per_degree_day", "gas_heat_sd", "gas_heat_day_cv"),
            )
        ),
        service=_WHEN_EMPTY,
        cautions=(Caution.GAS_INDOORS, Caution.GAS_WHILE_DRIVING),
    ),
    StoreKind(
        usual_capacity=80.0,
        usual_gauge=GaugeKind.SENSOR,
        usual_resolution=0.125,
        id="fuel",
        name="Vehicle fuel",
        hue=Hue.MOSS,
        sense=Sense.DRAINS,
        unit="L",
        line=0.25,
        role=Role.VEHICLE_FUEL,
        amounts=Method.VOLUME,
        reads=(Method.FRACTION, Method.STEP, Method.RANGE, Method.DRY, Method.FULL),
        accepts=_FILLED,
        offers=(Effect.FILL,),
        asks=(
            StoreField.FUEL,
            StoreField.HEATS,
            StoreField.DRIVES,
            StoreField.GENERATES,
            StoreField.PICK_UP,
            StoreField.BY_PUMP,
        ),
        kg_per_unit=1.0,
        contents=(
            Contents(id="diesel", name="diesel", kg_per_unit=0.84, kwh_per_unit=9.9),
            Contents(id="petrol", name="petrol", kg_per_unit=0.74, kwh_per_unit=8.9),
            Contents(id="oil-mixed", name="petrol with oil mixed in", kg_per_unit=0.75, kwh_per_unit=8.9),
            Contents(id="paraffin", name="paraffin", kg_per_unit=0.80, kwh_per_unit=9.6),
        ),
        use=UseSpec(
            priors=(
                _from_sheet(Driver.DEGREE_DAYS, "fuel_l_per_degree_day", "fuel_heat_sd", "fuel_heat_day_cv"),
                _from_sheet(Driver.KM, "fuel_l_per_km", "fuel_km_sd", "fuel_km_day_cv"),
            )
        ),
        service=_IN_PASSING,
        cautions=(Caution.FUEL_OUTSIDE,),
    ),
    StoreKind(
        usual_capacity=10.0,
        id="supply",
        by_hand=True,
        bought=True,
        name="Supply",
        hue=Hue.INDIGO,
        sense=None,
        unit=None,
        line=None,
        amounts=Method.AMOUNT,
        accepts=(Effect.FILL, Effect.SWAP, Effect.EMPTY, Effect.MOVE),
        offers=(Effect.FILL, Effect.EMPTY),
        asks=(StoreField.UNIT, StoreField.SENSE, StoreField.KWH_PER_UNIT),
        use=UseSpec(pattern=Pattern.OWN_RATE),
    ),
)

STORE_KINDS: dict[str, StoreKind] = StoreKind.table
STORE_KINDS.update({row.id: row for row in _ROWS})

# Where an effect needs a sense: a tank that fills up is not filled, one that runs down is not emptied.
EFFECT_SENSE: dict[Effect, Sense] = {Effect.FILL: Sense.DRAINS, Effect.SWAP: Sense.DRAINS, Effect.EMPTY: Sense.FILLS}
# The line of a supply, which says its own sense.
OWN_LINE: dict[Sense, float] = {Sense.DRAINS: 0.0, Sense.FILLS: 1.0}
