"""A rig from ten answers; the rest by common practice, marked as assumed until changed."""

from typing import Annotated, Any, Literal

from pydantic import Field

from lodeline.core.catalogue import (
    APPLIANCE_KINDS,
    CELLS,
    SOURCE_KINDS,
    STORE_KINDS,
    USUAL_LOADS,
    Body,
    Chemistry,
    Feed,
    GaugeKind,
    Role,
    Served,
    StoreField,
    StoreKind,
    Toilet,
    shown,
)
from lodeline.core.errors import Refused
from lodeline.core.problems import OutOfRange
from lodeline.formats import document as d
from lodeline.formats import words as w

_MARKS = [0.0, 0.33, 0.67, 1.0]
_BLOCK_V = 12
_STARTER = "Starter battery"
# The words of a question that are no row of the catalogue.
HeaterWord = Literal["diesel", "gas", "none"]
FridgeWord = Literal["bank", "gas", "changes", "none"]
FuelWord = Literal["diesel", "petrol"]
ToiletWord = Annotated[Toilet, w.terms(Toilet)]
_AMOUNT_DIGITS, _VOLT_DIGITS = 2, 1
_TOWED_AMPS = 10.0
# Names of what the answers put aboard where the kind's own name would not do.
_IDS = {"battery": "house"}


class Answers(d.Part):
    """The questions of the first visit, amounts in the user's own units. Zero means that there is none aboard; of a
    toilet's parts and of a heater, that it is of the usual size. ``fridge``: what it runs on; ``changes``: gas, the
    bank while driving, mains while plugged in; None: as ``gas_burns`` says."""

    name: d.Name
    timezone: d.TimezoneName
    units: w.SystemWord
    adults: Annotated[int, Field(ge=1, le=20), d.Whole]
    children: Annotated[int, Field(ge=0, le=20), d.Whole] = 0
    pets: Annotated[int, Field(ge=0, le=20), d.Whole] = 0
    chemistry: w.ChemistryWord
    battery_ah: d.AtLeastZero
    battery_v: Literal[12, 24, 48] = 12
    starter_ah: d.AtLeastZero = 0
    solar_watts: d.AtLeastZero
    fresh: d.AtLeastZero
    grey: d.AtLeastZero
    toilet: ToiletWord
    gas: d.AtLeastZero
    fuel: d.AtLeastZero
    heater: HeaterWord = "none"
    gas_burns: Annotated[list[w.ApplianceKindWord], Field(max_length=6)] = []
    cassette: d.AtLeastZero = 0
    black: d.AtLeastZero = 0
    urine: d.AtLeastZero = 0
    solids: d.AtLeastZero = 0
    heater_kw: Annotated[float, Field(ge=0, le=30)] = 0
    fridge: FridgeWord | None = None
    fuel_kind: FuelWord = "diesel"
    body: w.BodyWord | None = None
    spare_urine: bool = False
    spare_solids: bool = False
    spare_cassette: bool = False
    spare_bottle: bool = False
    kept_warm: bool | None = None
    place: d.PlaceDoc | None = None


class _Aboard:
    """The stores as they are put together, and the paths of what was assumed of them."""

    def __init__(self) -> None:
        self.stores: list[d.StoreDoc] = []
        self.assumed: list[str] = []

    def add(self, kind: StoreKind, capacity: float | None = None, **fields: Any) -> None:
        """Put a store aboard as its kind's row has it; without a capacity the usual one is assumed."""
        id = fields.pop("id", _IDS.get(kind.id, kind.id))
        gauge = fields.pop("gauge", kind.usual_gauge)
        if StoreField.FUEL in kind.asks:
            fields.setdefault("fuel", kind.contents[0].id)
        given = {"name": kind.name, "capacity": capacity or kind.usual_capacity, **fields}
        store: dict[str, Any] = {"id": id, "kind": kind.id, **given}
        if gauge is not GaugeKind.NONE or kind.role is Role.BANK:
            store["gauge"] = _gauge(gauge, kind)
        self.stores.append(d.StoreDoc.model_validate(store))
        if kind.usual_served is not Served.STOP:
            self.stores[-1] = self.stores[-1].model_copy(update={"served": kind.usual_served})
            self.assumed.append(f"stores.{id}.served")
        guessed = ["limit", "gauge", *(["capacity"] if capacity is None else []), *(["fuel"] if kind.contents else [])]
        self.assumed += [f"stores.{id}.{name}" for name in guessed]


def _gauge(kind: GaugeKind, row: StoreKind) -> dict[str, Any]:
    """A gauge as the file has it."""
    if kind is GaugeKind.STEPS:
        return {"kind": kind.value, "marks": _MARKS}
    if kind is GaugeKind.SENSOR:
        return {"kind": kind.value, "resolution": row.usual_resolution}
    return {"kind": kind.value}


def rig_from(answers: Answers) -> tuple[d.RigDoc, list[str]]:
    """A whole rig, and the paths of what was assumed.

    Raises
    ------
    Refused
        An amount that is too large once it is in its base unit.
    """
    aboard = _stores(answers)
    assumed = list(aboard.assumed)
    doc = d.RigDoc(
        name=answers.name,
        timezone=answers.timezone,
        units=answers.units,
        crew=d.CrewDoc(adults=answers.adults, children=answers.children, pets=answers.pets),
        stores=aboard.stores,
        solar=_solar(answers, assumed),
        sources=_sources(answers, assumed),
        inverter=None,
        loads=_loads(answers, assumed),
        appliances=_appliances(answers, aboard, assumed),
        heat=_heat(answers, assumed),
    )
    return doc, assumed


def _heat(answers: Answers, assumed: list[str]) -> d.HeatDoc | None:
    if answers.body is None or answers.heater == "none":
        return None
    assumed.append("heat.insulation")
    return d.HeatDoc(body=answers.body)


def _base(answers: Answers, name: str) -> float | None:
    """An amount that was answered, in the base unit of the kind; None for none aboard."""
    kind = STORE_KINDS[name]
    toilet = {"cassette": answers.cassette, "black": answers.black, "urine": answers.urine, "solids": answers.solids}
    given = toilet[name] if name in toilet else getattr(answers, name)
    amount = round(shown(kind.unit or "", answers.units).to_base(given), _AMOUNT_DIGITS)
    if amount > d.MOST_AMOUNT:
        raise Refused(name, OutOfRange(amount, most=d.MOST_AMOUNT, unit=kind.unit))
    return amount or None


def _stores(answers: Answers) -> _Aboard:
    aboard = _Aboard()
    if answers.battery_ah:
        cells = CELLS[answers.chemistry]
        volts = round(cells.nominal_block_v * answers.battery_v / _BLOCK_V, _VOLT_DIGITS)
        aboard.add(
            STORE_KINDS["battery"],
            answers.battery_ah,
            chemistry=answers.chemistry.value,
            nominal_v=volts,
            gauge=cells.usual_gauge,
            **({} if answers.kept_warm is None else {"kept_warm": answers.kept_warm}),
        )
    if answers.starter_ah:
        # as they mostly are, under the bonnet or the seat; its volts are read now and then
        aboard.add(
            STORE_KINDS["battery"],
            answers.starter_ah,
            id="starter",
            name=_STARTER,
            chemistry=Chemistry.AGM.value,
            nominal_v=float(_BLOCK_V),
            gauge=CELLS[Chemistry.AGM].usual_gauge,
            starter=True,
        )
        aboard.assumed += ["stores.starter.chemistry", "stores.starter.nominal_v"]
    for name in ("fresh", "grey"):
        if capacity := _base(answers, name):
            aboard.add(STORE_KINDS[name], capacity)
    spares = {"cassette": answers.spare_cassette, "urine": answers.spare_urine, "solids": answers.spare_solids}
    for kind in STORE_KINDS.values():
        if kind.toilet is answers.toilet:
            size = _base(answers, kind.id)
            has_spare = spares.get(kind.id, False)
            aboard.add(kind, size, **(_spare(size or kind.usual_capacity) if has_spare else {}))
    for name, heater in (("gas", "gas"), ("fuel", "diesel")):
        if capacity := _base(answers, name):
            more = _spare(capacity) if name == "gas" and answers.spare_bottle else {}
            more |= {"fuel": answers.fuel_kind} if name == "fuel" else {}
            aboard.add(STORE_KINDS[name], capacity, heats=answers.heater == heater, **more)
    if not aboard.stores:
        aboard.add(STORE_KINDS["supply"], None, id="food", name="Food", unit="days of food")
    return aboard


def _spare(holds: float) -> dict[str, Any]:
    """A second one that takes the place of the first: whoever carries it uses it before they go."""
    return {"reserve": holds, "reserve_counts": True}


def _solar(answers: Answers, assumed: list[str]) -> list[d.ArrayDoc]:
    if not answers.solar_watts:
        return []
    assumed += ["solar.roof.tilt_deg", "solar.roof.azimuth_deg"]
    return [d.ArrayDoc(id="roof", watts=answers.solar_watts)]


def _sources(answers: Answers, assumed: list[str]) -> list[d.SourceDoc]:
    if not answers.battery_ah:
        return []
    # a trailer is charged by its car through a thin cable
    towed = answers.body is Body.TRAILER
    sources = [
        d.SourceDoc(id=row.id, kind=row.id, amps=_TOWED_AMPS if towed and row.drives else row.usual_amps)
        for row in SOURCE_KINDS.values()
        if row.usual_amps
    ]
    assumed += [f"sources.{source.id}.amps" for source in sources]
    return sources


def _appliances(answers: Answers, aboard: _Aboard, assumed: list[str]) -> list[d.ApplianceDoc]:
    """What was said to burn gas, as such things usually do; the heater by what it burns."""
    gas = next((store.id for store in aboard.stores if store.kind == "gas"), None)
    fuel = next((store.id for store in aboard.stores if store.kind == "fuel"), None)
    listed = [*answers.gas_burns, *(["fridge"] if _burns_fridge(answers) else [])]
    burns = [(kind, gas) for kind in dict.fromkeys(listed) if not APPLIANCE_KINDS[kind].by_cold]
    burns = [(kind, store) for kind, store in burns if kind != "fridge" or _burns_fridge(answers)]
    burns.append(("heater", {"gas": gas, "diesel": fuel, "none": None}[answers.heater]))
    kinds = [(kind, store) for kind, store in burns if store is not None]
    said_kw = {"heater": answers.heater_kw or None}
    assumed += [f"appliances.{kind}.kw" for kind, _ in kinds if said_kw.get(kind) is None]
    return [
        d.ApplianceDoc(
            id=kind,
            name=APPLIANCE_KINDS[kind].name.capitalize(),
            kind=kind,
            store=store,
            kw=said_kw.get(kind),
            **(_CHANGES_OVER if kind == "fridge" and answers.fridge == "changes" else {}),
        )
        for kind, store in kinds
    ]


_CHANGES_OVER: dict[str, Any] = {"driving_on": Feed.DC, "plugged_on": Feed.MAINS}


def _burns_fridge(answers: Answers) -> bool:
    """Whether there is a fridge that burns gas."""
    return answers.fridge in ("gas", "changes") or (answers.fridge is None and "fridge" in answers.gas_burns)


def _draws(answers: Answers, burnt: str) -> bool:
    """Whether something draws from the bank, as nothing that burns gas does the same."""
    if burnt == "fridge":
        return answers.fridge != "none" and not _burns_fridge(answers)
    return burnt not in answers.gas_burns


def _loads(answers: Answers, assumed: list[str]) -> list[d.LoadDoc]:
    if not answers.battery_ah:
        return []
    people = answers.adults + answers.children
    loads = [
        d.LoadDoc(
            id=usual.id,
            name=usual.name,
            kind=usual.kind,
            hours_per_day=usual.hours_per_day,
            when=usual.when,
            watts=usual.watts * (people if usual.each_person else 1),
        )
        for usual in USUAL_LOADS
        if (answers.heater != "none" or not usual.with_heater) and _draws(answers, usual.unless_burnt)
    ]
    assumed += [f"loads.{load.id}.{name}" for load in loads for name in ("watts", "hours_per_day")]
    return loads
