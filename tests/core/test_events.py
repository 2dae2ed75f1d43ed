"""Which stores an event moves, and on whose lanes it is drawn."""

from dataclasses import replace

import pytest

from lodeline.core.log import Event
from lodeline.core.tracking.events import concerns, drawn_on
from tests.builders import FRESH, FUEL, GAS, GREY, a_powered_rig, a_source, at

GENERATOR = a_source("generator", 30.0, fuel_store="diesel", fuel_l_per_h=0.6)
RIG = replace(a_powered_rig(), stores=(FRESH, GREY, GAS, FUEL, *a_powered_rig().stores), sources=(GENERATOR,))


@pytest.mark.parametrize(
    ("event", "moves", "drawn"),
    [
        (Event(at(0), "fill", "fresh", to_full=True), {"fresh"}, {"fresh"}),
        (Event(at(0), "move", source="fresh", target="grey", amount=5.0), {"fresh", "grey"}, {"fresh", "grey"}),
        (Event(at(0), "move", source="reserve", target="fresh", amount=5.0), {"fresh"}, {"fresh"}),
        (Event(at(0), "drive", hours=1.0), {"diesel"}, {"house", "diesel"}),
        (Event(at(0), "generator", hours=1.0), {"diesel"}, {"house"}),
        (Event(at(0), "shore", hours=1.0), set(), {"house"}),
        (Event(at(0), "shower", count=1), set(), {"fresh", "grey"}),
    ],
    ids=lambda each: each.type if isinstance(each, Event) else "",
)
def test_what_an_event_moves_and_where_it_is_drawn(event, moves, drawn):
    assert {store.id for store in RIG.stores if concerns(RIG, store, event)} == moves
    assert drawn_on(RIG, event) == drawn
