"""What the screens list: the catalogue's rows with their words, as the web is generated from it."""

import json
from typing import Any

from lodeline.core.catalogue import (
    APPLIANCE_KINDS,
    CELLS,
    EVENT_TYPES,
    GAUGES,
    LOAD_KINDS,
    OWN_LINE,
    SOURCE_KINDS,
    STORE_KINDS,
    SUPPLY_PRESETS,
    UNITS,
    Chemistry,
    DayStatus,
    Effect,
    Role,
    Sense,
    Served,
    SkyWord,
    StoreKind,
    System,
    Toilet,
    Via,
    When,
    shown,
)
from lodeline.core.energy.bank import RatingUnit
from lodeline.formats.fields import form_fields
from lodeline.formats.setup import Answers
from lodeline.text import names
from lodeline.text.labels import LABELS


def _store_kind(row: StoreKind) -> dict[str, Any]:
    return {
        "id": row.id,
        "name": row.name,
        "hue": row.hue,
        "unit": row.unit,
        "gauges": list(row.gauges),
        "asks": list(row.asks),
        "contents": [{"id": each.id, "name": each.name} for each in row.contents],
        "usualCapacity": row.usual_capacity,
        "usualGauge": row.usual_gauge,
        "usualResolution": row.usual_resolution,
        "usualLine": _usual_line(row),
        "apart": _apart(row),
        "spareTakesItsPlace": Effect.SWAP in row.offers or (row.sense is Sense.FILLS and not row.runs_over),
        "isBank": row.role is Role.BANK,
        "countsItself": row.unit is None,
        "fills": row.sense is Sense.FILLS,
        "isFuel": row.role is Role.VEHICLE_FUEL,
        "isGas": row.role is Role.GAS,
        "drains": row.role is Role.DRAIN,
        "freezes": row.role in (Role.WATER, Role.DRAIN, Role.FLUSHED, Role.GAS),
        "served": list(row.served),
        "usualServed": row.usual_served,
    }


def _apart(row: StoreKind) -> str | None:
    """What may be carried apart of it."""
    if row.sense is Sense.FILLS:
        return names.apart(row)
    return "reserve" if Effect.FILL in row.accepts else None


def _usual_line(row: StoreKind) -> float:
    """Where a store's line is drawn before anybody said."""
    if row.line is not None:
        return row.line
    if row.role is Role.BANK:
        return CELLS[Chemistry.LFP].line
    return OWN_LINE[row.sense or Sense.DRAINS]


def _usual(system: System) -> dict[str, int]:
    """What a new store of each kind holds, in whole shown units, where set-up asks for it."""
    asked = [row for row in STORE_KINDS.values() if row.id in Answers.model_fields]
    return {row.id: round(row.usual_capacity * shown(row.unit or "", system).factor) for row in asked}


def _choices(names_of: dict[Any, str]) -> list[dict[str, str]]:
    return [{"id": str(id), "name": name} for id, name in names_of.items()]


def catalogue() -> dict[str, Any]:
    """Every list that a screen shows."""
    return {
        "storeKinds": [_store_kind(row) for row in STORE_KINDS.values()],
        "sourceKinds": [
            {"id": row.id, "name": row.name, "planned": LABELS[row.outlook_key], "burns": row.burns}
            for row in SOURCE_KINDS.values()
        ],
        "eventTypes": [{"id": row.id, "effect": row.effect} for row in EVENT_TYPES.values()],
        "applianceKinds": [
            {"id": row.id, "name": row.name, "solid": row.solid, "changesOver": row.changes_over}
            for row in APPLIANCE_KINDS.values()
        ],
        "served": _choices({served: names.SERVED[served] for served in Served}),
        "outlets": _choices(names.OUTLETS),
        "bodies": _choices(names.BODIES),
        "insulations": _choices(names.INSULATIONS),
        "feeds": _choices(names.FEEDS),
        "supplies": [
            {
                "id": row.id,
                "name": row.name,
                "unit": row.unit,
                "sense": row.sense,
                "capacity": row.capacity,
                "kwhPerUnit": row.kwh_per_unit,
            }
            for row in SUPPLY_PRESETS.values()
        ],
        "loadKinds": _choices({row.id: row.name for row in LOAD_KINDS.values()}),
        "chemistries": [
            {"id": id, "name": row.name, "nominalBlockV": row.nominal_block_v} for id, row in CELLS.items()
        ],
        "gauges": _choices({row.id: row.name for row in GAUGES.values()}),
        "skies": _choices({sky: names.SKIES[sky] for sky in SkyWord}),
        "statuses": _choices({status: names.STATUSES[status] for status in DayStatus}),
        "systems": _choices({system: names.SYSTEMS[system] for system in System}),
        "via": _choices({via: names.VIA[via] for via in Via}),
        "when": _choices({when: names.WHEN[when] for when in When}),
        "toilets": _choices({toilet: names.TOILETS[toilet] for toilet in Toilet}),
        "heaters": _choices(names.HEATERS),
        "ratingUnits": _choices({unit: unit.value for unit in RatingUnit}),
        "usual": {system: _usual(system) for system in System},
        "shown": {system: {id: row.shown(system).unit for id, row in UNITS.items()} for system in System},
        "labels": LABELS,
    }


def fields_as_typescript() -> str:
    """What forms ask for, with the ends of each range, as a module of the web."""
    body = json.dumps(form_fields(), ensure_ascii=False)
    return (
        "// Written by ./lodeline generate from the document's models; change it there.\n"
        f"export const FIELDS = {body} as const;\n"
    )


def as_typescript() -> str:
    """The catalogue as a module of the web."""
    body = json.dumps(catalogue(), indent=2, ensure_ascii=False)
    return (
        "// Written by ./lodeline generate from the catalogue; change it there.\n"
        f"export const CATALOGUE = {body} as const;\n"
    )
