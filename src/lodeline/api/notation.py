"""The notation for the web, which understands it without the server: its words and figures, and the cases that both
sides are held to."""

import json
from itertools import product
from typing import Any

from lodeline.api.out import Out
from lodeline.core import reading as notation
from lodeline.core.catalogue import STORE_KINDS, UNITS, Chemistry, GaugeKind, Method, Sense, System
from lodeline.core.errors import Refused
from lodeline.core.figures import Readings
from lodeline.core.rig import Gauge, Store
from lodeline.core.zone import Zone
from lodeline.text.display import Display
from lodeline.text.problems import problem
from lodeline.text.readings import describe, examples, mark_words

_FIGURES = (
    "mark_taken_within",
    "top_mark_shows_from",
    "overfull",
    "overweight_kg",
    "likely_volts_low",
    "likely_volts_high",
    "least_volts",
    "most_volts",
    "read_alike",
    "full_gravity",
    "flat_gravity",
    "least_gravity",
    "most_gravity",
    "nearly",
)


class ReadsOut(Out):
    """What must be known of a store to understand a text that is typed for it. Amounts are in its base unit."""

    name: str
    amounts: str
    gauge: str
    marks: list[float]
    mark_words: list[str]
    capacity: float
    unit: str
    tare_kg: float | None
    lightest_kg: float
    heaviest_kg: float
    kg_per_l: float | None
    volts: float | None
    way: bool
    meter: bool
    acid: bool
    drains: bool
    examples: str


def reads(store: Store, display: Display) -> ReadsOut:
    """A store as its notation needs it."""
    return ReadsOut(
        name=store.name,
        amounts=store.kind.amounts,
        gauge=store.gauge.kind,
        marks=list(store.gauge.marks),
        mark_words=[mark_words(mark) for mark in store.gauge.marks],
        capacity=store.capacity,
        unit=store.unit,
        tare_kg=store.tare_kg,
        lightest_kg=store.lightest_kg,
        heaviest_kg=store.heaviest_kg,
        kg_per_l=store.liquid_kg_per_l if store.is_gas else None,
        volts=store.volts if store.is_bank else None,
        way=Method.RANGE in store.kind.reads,
        meter=Method.METER in store.kind.reads,
        acid=store.chemistry is Chemistry.FLOODED,
        drains=store.sense is Sense.DRAINS,
        examples=examples(store, display),
    )


def words() -> dict[str, Any]:
    """The words and figures of the notation."""
    return {
        "full": sorted(notation.FULL),
        "dry": sorted(notation.DRY),
        "shares": notation.SHARES,
        "signs": notation.SIGNS,
        "emptyish": sorted(notation.EMPTYISH),
        "fullish": sorted(notation.FULLISH),
        "lowLight": sorted(notation.LOW_LIGHT),
        "states": notation.STATES,
        "figures": {name: getattr(Readings, name) for name in _FIGURES},
        "units": {
            row.id: {
                "typed": dict(row.typed),
                "typedIn": {system: dict(each) for system, each in row.typed_in.items()},
                "shown": {
                    system: {"unit": how.unit, "factor": how.factor, "offset": how.offset, "decimals": how.decimals}
                    for system in System
                    for how in (row.shown(system),)
                },
            }
            for row in UNITS.values()
        },
    }


def words_as_typescript() -> str:
    """The same as a module of the web."""
    body = json.dumps(words(), indent=2, ensure_ascii=False)
    return (
        "// Written by ./lodeline generate from the core's notation; change it there.\n"
        f"export const WORDS = {body} as const;\n"
    )


def _store(kind: str, capacity: float, gauge: Gauge, **more: Any) -> Store:
    row = STORE_KINDS[kind]
    return Store(kind, row, more.pop("name", row.name), capacity, gauge=gauge, **more)


_PANEL = Gauge(GaugeKind.STEPS, (0.0, 0.33, 0.67, 1.0))
_STORES = (
    _store("fresh", 100.0, Gauge(GaugeKind.SIGHT)),
    _store("grey", 80.0, _PANEL),
    _store("fresh", 140.0, Gauge(GaugeKind.STEPS, (0.0, 0.5, 1.0)), name="Second tank"),
    _store("gas", 9.0, Gauge(GaugeKind.SCALE), fuel="propane", tare_kg=7.5),
    _store("gas", 11.0, Gauge()),
    _store("fuel", 85.0, Gauge(GaugeKind.SENSOR, (), 0.02), fuel="diesel"),
    _store("fuel", 100.0, Gauge(GaugeKind.SENSOR, (), 0.02), fuel="diesel"),
    _store("battery", 200.0, Gauge(GaugeKind.SHUNT), chemistry=Chemistry.LFP, nominal_v=12.8),
    _store("battery", 220.0, Gauge(), chemistry=Chemistry.AGM, nominal_v=12.0),
    _store("battery", 440.0, Gauge(), chemistry=Chemistry.FLOODED, nominal_v=24.0),
    _store("solids", 70.0, Gauge()),
    _store("supply", 10.0, Gauge(), name="Food", own_unit="days of food", own_sense=Sense.DRAINS),
    _store("gas", 11.0, Gauge(GaugeKind.SCALE), fuel="mix", tare_kg=12.0, other_tares_kg=(7.0,)),
)
_TEXTS = (
    "",
    " ",
    "72%",
    " 72 % ",
    "72",
    "72 per cent",
    "100%",
    "101%",
    "0",
    "0%",
    "1",
    "0.5",
    ".5",
    ",5",
    "12,5",
    "0,125",
    "1,250",
    "1,250 L",
    "1.250",
    "1250",
    "1 250",
    "1 250 Wh",
    "12 345 678",
    "1'250",
    "sg 1.25",
    "1.02",
    "1,25",
    "half",
    "a quarter",
    "two thirds",
    "2/3",
    "3 / 4",
    "3/2",
    "1/0",
    "½",
    "¾",
    "⅔",
    "3/4 tank",
    "half a tank",
    "1/2 full",
    "72% full",
    "~45 L",
    "≈ 45",
    "about 45 l",
    "ca. 45 L",
    "45 L",
    "45L",
    "45 ltr",
    "45ltr",
    "45 litres",
    "10 gal",
    "8 L",
    "10 gallons",
    "500 L",
    "101 L",
    "103 L",
    "3.5 kg",
    "11.2kg",
    "11.2 kgs",
    "25 lb",
    "40 kg",
    "500 g",
    "13.1V",
    "13,1 v",
    "13.1 V rest",
    "12.4 v under load",
    "14.2 volts charging",
    "13.1 V sunny",
    "13.1",
    "13",
    "12",
    "26",
    "25.6",
    "3 V",
    "90 V",
    "144 Ah",
    "1.28 kWh",
    "40",
    "60",
    "90",
    "120",
    "34 uses",
    "34 use",
    "6 days of food",
    "6 d",
    "full",
    "F",
    "E",
    "dry",
    "brim",
    "to the brim",
    "none",
    "lots",
    "12 furlongs",
    "-5",
    "5-",
    "1e3",
    "∞",
    "5 kg kg",
    "nearly empty",
    "Almost full",
    "between 1/3 and 2/3",
    "1/3 to 2/3",
    "between 20% and 60%",
    "empty to half",
    "half full",
    "2 lights",
    "no lights",
    "all lights",
    "9 lights",
    "reserve light on",
    "reserve",
    "300 km left",
    "180 miles left",
    "range 250 km",
    "meter 128",
    "counter 1234 L",
    "meter 30 gal",
    "meter 5 kg",
    "10,6 kg",
    "72.5%",
    "45.25 L",
    "1/3-2/3",
    "45 L.",
    "१२",
    "1/3 1/3",
    "%",
    "/",
    "L",
)


def cases() -> str:
    """What each text means for each store, as JSON: what is kept and how it is said, or why it is refused."""
    told = []
    for system in System:
        display = Display(system, Zone("UTC"))
        stores = [reads(store, display).model_dump() for store in _STORES]
        texts = _TEXTS if system is System.METRIC else [text for text in _TEXTS if text[-1:].isalnum()]
        outcomes = [
            [index, text, *_outcome(_STORES[index], text, display)]
            for index, text in product(range(len(_STORES)), texts)
        ]
        told.append({"system": system, "stores": stores, "cases": outcomes})
    return json.dumps(told, ensure_ascii=False, indent=None, separators=(",", ":")) + "\n"


def _outcome(store: Store, text: str, display: Display) -> tuple[Any, ...]:
    try:
        understood = notation.understand(store, text, display.system)
    except Refused as refused:
        return (problem(refused.problem, display),)
    # what volts mean takes a model of the bank, which only the server has
    said = None if understood.method is Method.VOLTS else describe(store, understood, display)
    return understood.method, understood.value, understood.state, said, understood.within
