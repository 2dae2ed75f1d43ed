"""Events and days as the screens say them, in the units that the rig's people think in."""

from dataclasses import replace

import pytest

from lodeline.api.present import Eyes, event_stores, in_base_units
from lodeline.api.round_ import DayIn
from lodeline.core.log import Event
from lodeline.core.units import System
from tests.builders import FRESH, FUEL, GAS, GREY, a_powered_rig, at

RIG = replace(a_powered_rig(), stores=(FRESH, GREY, GAS, FUEL, *a_powered_rig().stores))
US = replace(RIG, units=System.US)


@pytest.mark.parametrize(
    ("event", "says", "in_us"),
    [
        (Event(at(0), "fill", "fresh", to_full=True), "Fresh water filled to the brim", None),
        (Event(at(0), "fill", "fresh", amount=40.0), "Fresh water filled 40 L", "Fresh water filled 11 gal"),
        (Event(at(0), "dump", "grey"), "Grey tank emptied", None),
        (Event(at(0), "dump", "grey", left=0.1), "Grey tank emptied, 10 % left", None),
        (Event(at(0), "swap", "gas"), "Gas bottle swapped for a full one", None),
        (Event(at(0), "move", source="fresh", target="outside", amount=5.0), "5.0 L from Fresh water to outside", None),
        (
            Event(at(0), "move", source="reserve", target="fresh", amount=20.0),
            "20 L from the reserve to Fresh water",
            None,
        ),
        (Event(at(0), "drive", hours=1.5, km=80.0), "Drove 1.5 h, 80 km", "Drove 1.5 h, 50 mi"),
        (Event(at(0), "drive", hours=0.5), "Drove 0.5 h", None),
        (Event(at(0), "shore", hours=7.0), "On the post 7 h", None),
        (Event(at(0), "generator", hours=1.25), "Generator 1.25 h", None),
        (Event(at(0), "shower", count=2), "Shower, 2", None),
        (Event(at(0), "laundry", count=1), "Laundry, 1", None),
    ],
    ids=lambda each: each.type if isinstance(each, Event) else "",
)
def test_an_event_is_said_in_few_words(event, says, in_us):
    assert Eyes(RIG).event_words(event) == says
    if in_us:
        assert Eyes(US).event_words(event) == in_us


@pytest.mark.parametrize(
    ("event", "stores"),
    [
        (Event(at(0), "fill", "fresh", to_full=True), {"fresh"}),
        (Event(at(0), "move", source="fresh", target="grey", amount=5.0), {"fresh", "grey"}),
        (Event(at(0), "move", source="reserve", target="fresh", amount=5.0), {"fresh"}),
        (Event(at(0), "drive", hours=1.0), {"house", "diesel"}),
        (Event(at(0), "shore", hours=1.0), {"house"}),
        (Event(at(0), "shower", count=1), {"fresh", "grey"}),
    ],
    ids=lambda each: each.type if isinstance(each, Event) else "",
)
def test_an_event_is_drawn_on_the_lanes_that_it_moves(event, stores):
    assert event_stores(RIG, event) == stores


def test_only_what_was_given_of_a_day_is_turned_into_base_units():
    given = in_base_units(DayIn(temp_min=14.0, water=10.0, solar_wh=900), System.US)
    assert given == {"temp_min_c": pytest.approx(-10.0), "water_l": pytest.approx(37.854, abs=1e-3), "solar_wh": 900}
    assert in_base_units(DayIn(temp_min=None, sky="wet"), System.US) == {"temp_min_c": None, "sky": "wet"}


def test_times_are_told_with_the_rigs_offset():
    winter = replace(RIG, timezone="America/Denver")
    assert Eyes(winter).local(at(0, 20)) == "2026-06-01T14:00:00-06:00"
