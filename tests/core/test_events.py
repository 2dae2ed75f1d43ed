"""Which stores an event moves, and on whose lanes it is drawn."""

from dataclasses import replace
from datetime import timedelta

import pytest

from lodeline.core.catalogue import Method
from lodeline.core.log import Event
from lodeline.core.tracking.events import concerns, drawn_on
from lodeline.core.tracking.track import track
from tests.builders import FRESH, FUEL, GAS, GREY, a_log, a_powered_rig, a_reading, a_rig, a_source, at

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


@pytest.mark.parametrize("earlier_s", [0, 1])
@pytest.mark.parametrize("shown", [55.0, 2.0], ids=["what was there before", "what is there after"])
def test_a_reading_of_the_moment_of_a_dump_may_show_either(shown, earlier_s):
    # a file tells minutes; of two touches one after the other the clocks do not tell which was first
    readings = [a_reading(number, 10.0 + 15.0 * number, Method.VOLUME, "grey") for number in range(3)]
    last = a_reading(3, shown, Method.VOLUME, "grey")
    log = a_log(*readings, last, Event(last.at - timedelta(seconds=earlier_s), "dump", "grey"), days=4)
    after = track(a_rig(FRESH, GREY), log, at(3, 20.6))["grey"]
    assert after.level < 5.0
    assert after.doubts == ()
