"""What the file says of gas, heat and fuel: read, written back, refused with its place."""

import copy
import json
from pathlib import Path
from typing import Any

import pytest

from lodeline.core.catalogue import Body, Feed
from lodeline.core.errors import Refused
from lodeline.formats.logbook import read_logbook, write_document

EXAMPLE: dict[str, Any] = json.loads((Path(__file__).parents[2] / "docs" / "example.logbook.json").read_bytes())
SPARES = [
    {"id": "second", "name": "Second bottle", "store": "gas", "holds": 6, "tare_kg": 7.2, "where": "in the locker"},
    {"id": "can", "name": "Can", "store": "diesel", "holds": 20, "full": 0.5, "contents": "oil-mixed"},
]
HEAT = {"body": "bus", "insulation": "good", "day_c": 20, "night_off": True, "plugged": True}
BURNERS = [
    {"id": "heater", "name": "Heater", "kind": "heater", "store": "diesel", "kw": 2, "lowest_kw": 0.8, "watts": 20},
    {"id": "fridge", "name": "Fridge", "kind": "fridge", "store": "gas", "driving_on": "dc", "plugged_on": "mains"},
    {"id": "stove", "name": "Stove", "kind": "stove", "store": "wood"},
]
WOOD = {
    "id": "wood",
    "kind": "supply",
    "name": "Wood",
    "unit": "kg",
    "sense": "drains",
    "capacity": 60,
    "kwh_per_unit": 4,
}
EVENTS = [
    {"at": "2026-09-03T18:00:00+01:00", "type": "swap", "store": "gas", "from": "second"},
    {"at": "2026-09-03T18:10:00+01:00", "type": "move", "from": "outside", "to": "can", "amount": 5},
    {"at": "2026-09-03T18:20:00+01:00", "type": "odometer", "km": 183402},
    {"at": "2026-09-03T18:30:00+01:00", "type": "oil"},
]


def a_file(**changes: Any) -> dict[str, Any]:
    """The example with all that is said of gas, heat and fuel; changes by their path."""
    doc = copy.deepcopy(EXAMPLE)
    rig = doc["rig"]
    rig["stores"].append(copy.deepcopy(WOOD))
    stores = {store["id"]: store for store in rig["stores"]}
    stores["gas"] |= {"fuel": "mix", "propane_share": 0.4, "changes_itself": True, "buffer_days": 10, "tank_l": 30}
    stores["diesel"] |= {"pick_up": 0.22, "by_pump": True}
    rig |= copy.deepcopy(
        {"spares": SPARES, "heat": HEAT, "appliances": BURNERS, "quiet": {"from_h": 22, "until_h": 7.5}}
    )
    rig["sources"].append(
        {
            "id": "gen",
            "kind": "generator",
            "amps": 30,
            "fuel_store": "diesel",
            "rated_w": 1600,
            "full_l_per_h": 1,
            "idle_l_per_h": 0.3,
            "oil_hours": 80,
        }
    )
    doc["days"][0]["events"] = sorted(doc["days"][0]["events"] + EVENTS, key=lambda each: each["at"])
    for path, value in changes.items():
        place, _, key = path.partition("__")
        target: Any = {"rig": rig, "days": doc["days"][0], **stores}.get(place)
        if place.isdigit() or place in ("spare", "burner"):
            target = rig["spares"][0] if place == "spare" else rig["appliances"][0]
        target[key] = value
    return doc


def read(doc: dict[str, Any]):
    return read_logbook(json.dumps(doc).encode())


def test_all_of_it_is_read():
    rig = read(a_file()).rig
    gas, diesel = rig.store("gas"), rig.store("diesel")
    assert (gas.propane_share, gas.changes_itself, gas.buffer_days, gas.reserve, gas.reserve_counts) == (
        0.4,
        True,
        10.0,
        6.0,
        True,
    )
    assert (diesel.pick_up, diesel.by_pump, diesel.reserve) == (0.22, True, 0.0)  # the can holds another fuel
    assert (rig.heat.body, rig.heat.night_c, rig.heat.plugged) == (Body.BUS, None, True)
    assert rig.quiet.covers(23)
    assert [each.plugged_on for each in rig.appliances] == [Feed.FUEL, Feed.MAINS, Feed.FUEL]
    assert rig.store("wood").kwh_per_unit == 4.0
    assert rig.vessel("second").tare_kg == 7.2
    assert rig.sources[-1].l_per_h(12.8) == pytest.approx(0.3 + 0.7 * 30 * 12.8 / 1600)


def test_what_is_written_is_read_back_alike():
    book = read(a_file())
    again = read_logbook(write_document(book.doc))
    assert again.rig == book.rig
    assert again.log == book.log


@pytest.mark.parametrize(
    ("change", "place"),
    [
        ({"spare__store": "fresh"}, "rig.spares[0].store"),
        ({"spare__store": "nowhere"}, "rig.spares[0].store"),
        ({"spare__id": "gas"}, "rig.spares[0].id"),
        ({"spare__name": "Gas bottle"}, "rig.spares[0].name"),
        ({"spare__contents": "diesel"}, "rig.spares[0].contents"),
        ({"spare__holds": 0}, "rig.spares[0].holds"),
        ({"spare__holds": 11}, "rig.spares[0].holds"),
        ({"fresh__pick_up": 0.2}, "rig.stores[1].pick_up"),
        ({"gas__by_pump": True}, "rig.stores[4].by_pump"),
        ({"grey__buffer_days": 3}, "rig.stores[2].buffer_days"),
        ({"wood__kwh_per_unit": None}, "rig.appliances[2].store"),
        ({"burner__driving_on": "steam"}, "rig.appliances[0].driving_on"),
        ({"rig__heat": {"body": "boat"}}, "rig.heat.body"),
        ({"rig__quiet": {"from_h": 25, "until_h": 7}}, "rig.quiet.from_h"),
        (
            {"days__events": [{"at": "2026-09-03T18:00:00+01:00", "type": "swap", "store": "gas", "from": "can"}]},
            "days[0].events[0].from",
        ),
        ({"days__events": [{"at": "2026-09-03T18:00:00+01:00", "type": "odometer"}]}, "days[0].events[0].km"),
        (
            {
                "days__events": [
                    {"at": "2026-09-03T18:00:00+01:00", "type": "move", "from": "second", "to": "diesel", "amount": 2}
                ]
            },
            "days[0].events[0].to",
        ),
    ],
)
def test_what_cannot_be_is_refused_at_its_place(change: dict[str, Any], place: str):
    with pytest.raises(Refused) as refused:
        read(a_file(**change))
    assert refused.value.place == place


def test_a_file_without_any_of_it_means_what_it_meant():
    rig = read(copy.deepcopy(EXAMPLE)).rig
    assert (rig.heat, rig.quiet, rig.spares) == (None, None, ())
    assert rig.store("diesel").line == 0.25
