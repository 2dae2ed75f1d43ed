"""A rig from ten answers; the rest by common practice, marked as assumed until changed."""

from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from lodeline.core.units import System, shown
from lodeline.formats import document as d

_MARKS = [0.0, 0.33, 0.67, 1.0]
_NOMINAL_V = {("lfp", 12): 12.8, ("lfp", 24): 25.6, ("lfp", 48): 51.2}


class Answers(d.Part):
    """The ten questions of the first visit, amounts in the user's own units. Zero means that there is none aboard."""

    name: d.Name
    timezone: Annotated[str, AfterValidator(d._zone)]
    units: Literal["metric", "us", "uk"]
    adults: Annotated[int, Field(ge=1, le=20)]
    children: Annotated[int, Field(ge=0, le=20)] = 0
    pets: Annotated[int, Field(ge=0, le=20)] = 0
    chemistry: Literal["lfp", "agm", "gel", "flooded", "lead-carbon"]
    battery_ah: d.AtLeastZero
    battery_v: Literal[12, 24, 48] = 12
    solar_watts: d.AtLeastZero
    fresh: d.AtLeastZero
    grey: d.AtLeastZero
    toilet: Literal["black", "cassette", "composting", "none"]
    gas: d.AtLeastZero
    fuel: d.AtLeastZero
    heater: Literal["diesel", "gas", "none"] = "none"


def rig_from(answers: Answers) -> tuple[d.RigDoc, list[str]]:
    """A whole rig, and the paths of what was assumed."""
    assumed: list[str] = []
    stores = _stores(_in_base_units(answers), assumed)
    doc = d.RigDoc(
        name=answers.name, timezone=answers.timezone, units=answers.units,
        crew=d.CrewDoc(adults=answers.adults, children=answers.children, pets=answers.pets),
        stores=stores, solar=_solar(answers, assumed), sources=_sources(answers, assumed),
        inverter=None, loads=_loads(answers, assumed),
    )  # fmt: skip
    return doc, assumed


def _in_base_units(answers: Answers) -> Answers:
    system = System(answers.units)
    litre, kg = shown("L", system), shown("kg", system)
    base = {name: round(litre.to_base(getattr(answers, name)), 2) for name in ("fresh", "grey", "fuel")}
    return answers.model_copy(update={**base, "gas": round(kg.to_base(answers.gas), 2)})


def _panel() -> d.StepsGauge:
    return d.StepsGauge(kind="steps", marks=_MARKS)


def _stores(answers: Answers, assumed: list[str]) -> list[d.StoreDoc]:
    found: list[d.StoreDoc] = []

    def add(store: d.StoreDoc, *guessed: str) -> None:
        found.append(store)
        assumed.extend(f"stores.{store.id}.{name}" for name in ("limit", *guessed))

    if answers.battery_ah:
        volts = _NOMINAL_V.get((answers.chemistry, answers.battery_v), float(answers.battery_v))
        gauge = d.PlainGauge(kind="shunt" if answers.chemistry == "lfp" else "none")
        add(d.StoreDoc(id="house", kind="battery", name="House bank", chemistry=answers.chemistry, nominal_v=volts,
                       capacity=answers.battery_ah, gauge=gauge), "gauge")  # fmt: skip
    if answers.fresh:
        add(d.StoreDoc(id="fresh", kind="fresh", name="Fresh water", capacity=answers.fresh, gauge=_panel()), "gauge")
    if answers.grey:
        add(d.StoreDoc(id="grey", kind="grey", name="Grey tank", capacity=answers.grey, gauge=_panel()), "gauge")
    if answers.toilet == "black":
        capacity = answers.grey or 80.0
        add(
            d.StoreDoc(id="black", kind="black", name="Black tank", capacity=capacity, gauge=_panel()),
            "gauge",
            "capacity",
        )
    if answers.toilet == "cassette":
        add(d.StoreDoc(id="cassette", kind="cassette", name="Cassette", capacity=19.0,
                       gauge=d.PlainGauge(kind="none")), "capacity")  # fmt: skip
    if answers.toilet == "composting":
        add(d.StoreDoc(id="urine", kind="urine", name="Urine bottle", capacity=8.0,
                       gauge=d.PlainGauge(kind="sight")), "capacity")  # fmt: skip
        add(d.StoreDoc(id="solids", kind="solids", name="Solids bin", capacity=70.0), "capacity")
    if answers.gas:
        add(d.StoreDoc(id="gas", kind="gas", name="Gas bottle", fuel="propane", capacity=answers.gas,
                       gauge=d.PlainGauge(kind="none")), "fuel", "gauge")  # fmt: skip
    if answers.fuel:
        add(d.StoreDoc(id="fuel", kind="fuel", name="Vehicle fuel", fuel="diesel", capacity=answers.fuel,
                       gauge=d.SensorGauge(kind="sensor", resolution=0.125)), "fuel", "gauge")  # fmt: skip
    if not found:
        found.append(d.StoreDoc(id="food", kind="supply", name="Food", capacity=10.0, unit="days of food"))
        assumed.append("stores.food.capacity")
    return found


def _solar(answers: Answers, assumed: list[str]) -> list[d.ArrayDoc]:
    if not answers.solar_watts:
        return []
    assumed += ["solar.roof.tilt_deg", "solar.roof.azimuth_deg"]
    return [d.ArrayDoc(id="roof", watts=answers.solar_watts)]


def _sources(answers: Answers, assumed: list[str]) -> list[d.SourceDoc]:
    if not answers.battery_ah:
        return []
    assumed += ["sources.alternator.amps", "sources.hookup.amps"]
    return [
        d.SourceDoc(id="alternator", kind="alternator", amps=25.0),
        d.SourceDoc(id="hookup", kind="shore", amps=25.0),
    ]


def _loads(answers: Answers, assumed: list[str]) -> list[d.LoadDoc]:
    if not answers.battery_ah:
        return []
    people = answers.adults + answers.children
    loads = [
        d.LoadDoc(id="fridge", name="Fridge", watts=45.0, hours_per_day=9.0),
        d.LoadDoc(id="lights", name="Lights and pump", watts=20.0, hours_per_day=4.0, when="night"),
        d.LoadDoc(id="chargers", name="Phones and laptops", watts=40.0 * people, hours_per_day=3.0),
    ]
    if answers.heater != "none":
        loads.append(d.LoadDoc(id="heater-fan", name="Heater fan", watts=25.0, hours_per_day=5.0, when="night"))
    assumed += [f"loads.{load.id}.{name}" for load in loads for name in ("watts", "hours_per_day")]
    return loads
