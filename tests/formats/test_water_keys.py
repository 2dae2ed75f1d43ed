"""What the file says of water: read, written back, refused with its place."""

import copy
import json
from pathlib import Path
from typing import Any

import pytest

from lodeline.core.catalogue import Outlet
from lodeline.core.errors import Refused
from lodeline.formats.logbook import read_logbook, write_document

EXAMPLE: dict[str, Any] = json.loads((Path(__file__).parents[2] / "docs" / "example.logbook.json").read_bytes())
HABITS = [{"activity": "dishes", "per_day": 2}, {"activity": "navy", "per_day": 0.5, "each_l": 7, "not_on": [2]}]
JUGS = [
    {"id": "jug-1", "name": "Blue jug", "litres": 10, "where": "in the boot"},
    {"id": "pond", "name": "Pond can", "litres": 5, "drinkable": False, "full": 0.5},
]
EVENTS = [
    {"at": "2026-09-03T18:00:00+01:00", "type": "navy", "count": 2, "amount": 13},
    {"at": "2026-09-03T19:00:00+01:00", "type": "move", "from": "jug-1", "to": "fresh", "amount": 4},
    {"at": "2026-09-03T19:05:00+01:00", "type": "move", "from": "outside", "to": "pond", "amount": 2},
    {"at": "2026-09-03T19:10:00+01:00", "type": "filter"},
    {"at": "2026-09-03T19:20:00+01:00", "type": "drain"},
]


def a_file(**changes: Any) -> dict[str, Any]:
    """The example with water said, and changes by their path: ``rig.jugs``, ``grey.takes``."""
    doc = copy.deepcopy(EXAMPLE)
    doc["rig"] |= {
        "habits": copy.deepcopy(HABITS),
        "jugs": copy.deepcopy(JUGS),
        "water": {"heater_l": 10, "cart": True},
    }
    grey = next(store for store in doc["rig"]["stores"] if store["id"] == "grey")
    grey |= {"takes": ["sink", "urine"], "reads_from": 0.33, "outside": True, "reserve": 20, "reserve_counts": True}
    doc["days"][0]["events"] = sorted(doc["days"][0]["events"] + EVENTS, key=lambda each: each["at"])
    for path, value in changes.items():
        place, key = path.split("__")
        target = {
            "rig": doc["rig"],
            "grey": grey,
            "fresh": next(s for s in doc["rig"]["stores"] if s["id"] == "fresh"),
        }[place]
        target[key] = value
    return doc


def read(doc: dict[str, Any]):
    return read_logbook(json.dumps(doc).encode())


def test_what_is_said_of_water_is_read_and_written_back():
    book = read(a_file())
    rig = book.rig
    assert [(habit.activity.id, habit.per_day, habit.each_l) for habit in rig.habits] == [
        ("dishes", 2.0, None),
        ("navy", 0.5, 7.0),
    ]
    assert rig.habits[1].not_on == {2}
    assert [(jug.id, jug.is_reserve, jug.full) for jug in rig.jugs] == [("jug-1", True, 1.0), ("pond", False, 0.5)]
    assert rig.store("fresh").reserve == 10.0  # the jugs for drinking, whatever it had
    assert rig.store("grey").takes == {Outlet.SINK, Outlet.URINE}
    assert (rig.store("grey").reads_from, rig.store("grey").outside, rig.water.cart) == (0.33, True, True)
    assert read_logbook(write_document(book.doc)) == book
    again = json.loads(write_document(book.doc))
    assert again["rig"]["habits"] == HABITS
    assert again["rig"]["jugs"] == JUGS


def test_a_file_without_them_means_what_it_meant():
    rig = read(EXAMPLE).rig
    assert (rig.habits, rig.jugs) == ((), ())
    assert rig.store("fresh").reserve == 20.0
    written = json.loads(write_document(read(EXAMPLE).doc))
    assert not {"habits", "jugs", "water"} & set(written["rig"])


@pytest.mark.parametrize(
    ("change", "place"),
    [
        ({"rig__habits": [HABITS[0], HABITS[0]]}, "rig.habits[1].activity"),
        ({"rig__habits": [{"activity": "swimming", "per_day": 1}]}, "rig.habits[0].activity"),
        ({"rig__habits": [{"activity": "navy", "per_day": -1}]}, "rig.habits[0].per_day"),
        ({"rig__habits": [{"activity": "navy", "per_day": 1, "not_on": [7]}]}, "rig.habits[0].not_on[0]"),
        ({"rig__jugs": [JUGS[0], JUGS[0]]}, "rig.jugs[1].id"),
        ({"rig__jugs": [JUGS[0] | {"id": "outside"}]}, "rig.jugs[0].id"),
        ({"rig__jugs": [JUGS[0] | {"id": "grey"}]}, "rig.jugs[0].id"),
        ({"rig__jugs": [JUGS[0] | {"litres": 0}]}, "rig.jugs[0].litres"),
        ({"rig__jugs": [JUGS[0]]}, "days[0].events"),  # the pond can that an event fills is gone
        ({"rig__water": {"heater": 10}}, "rig.water.heater"),
        ({"grey__takes": ["bath"]}, "rig.stores[2].takes[0]"),
        ({"fresh__takes": ["sink"]}, "rig.stores[1].takes"),
        ({"grey__reads_from": 1.0}, "rig.stores[2].reads_from"),
        ({"fresh__reads_from": 0.2}, "rig.stores[1].reads_from"),
        ({"rig__jugs": [JUGS[0], JUGS[1] | {"name": "Blue jug"}]}, "rig.jugs[1].name"),
        ({"rig__jugs": [JUGS[0] | {"name": "Fresh water"}, JUGS[1]]}, "rig.jugs[0].name"),
        ({"rig__water": {"heater_c": 120}}, "rig.water.heater_c"),
    ],
    ids=lambda each: each if isinstance(each, str) else "",
)
def test_what_does_not_fit_is_refused_with_its_place(change, place):
    with pytest.raises(Refused) as refused:
        read(a_file(**change))
    assert refused.value.place.startswith(place)


@pytest.mark.parametrize(
    ("event", "key"),
    [
        ({"type": "navy"}, "count"),
        ({"type": "navy", "count": 1, "amount": 0}, "amount"),
        ({"type": "dishes", "count": 1, "amount": 5000}, "amount"),
        ({"type": "filter", "store": "fresh"}, "store"),
        ({"type": "move", "from": "jug-9", "to": "fresh", "amount": 1}, "from"),
        ({"type": "move", "from": "outside", "to": "jug-1", "amount": 11}, "amount"),
        ({"type": "move", "from": "reserve", "to": "outside", "amount": 1}, ""),
    ],
)
def test_an_event_that_cannot_be_is_refused(event, key):
    doc = a_file()
    doc["days"][0]["events"].append({"at": "2026-09-03T20:30:00+01:00"} | event)
    with pytest.raises(Refused) as refused:
        read(doc)
    assert refused.value.place.startswith(f"days[0].events[{len(doc['days'][0]['events']) - 1}]")
    assert refused.value.place.endswith(key)
