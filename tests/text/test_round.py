"""Events and acts as the Round says them, in the units that the rig's people think in."""

from dataclasses import replace

import pytest

from lodeline.core.catalogue import System
from lodeline.core.log import Event
from lodeline.core.rig import Jug
from lodeline.text.display import Display
from lodeline.text.round import acts, event
from tests.builders import FRESH, FUEL, GAS, GREY, a_powered_rig, a_store, at

RIG = replace(a_powered_rig(), stores=(FRESH, GREY, GAS, FUEL, *a_powered_rig().stores))
US = replace(RIG, units=System.US)


@pytest.mark.parametrize(
    ("each", "says", "in_us"),
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
        (Event(at(0), "shore", hours=7.0), "Plugged in 7 h", None),
        (Event(at(0), "generator", hours=1.25), "Ran the generator 1.25 h", None),
        (Event(at(0), "shower", count=2), "2 showers", None),
        (Event(at(0), "laundry", count=1), "1 load of laundry", None),
    ],
    ids=lambda each: each.type if isinstance(each, Event) else "",
)
def test_an_event_is_said_in_few_words(each, says, in_us):
    assert event(RIG, each, Display.of(RIG)) == says
    if in_us:
        assert event(US, each, Display.of(US)) == in_us


def test_what_can_be_logged_follows_from_what_is_aboard():
    every = acts(RIG, Display.of(RIG))
    assert [act.label for act in every if not act.rare] == [
        "Filled Fresh water", "Emptied Grey tank", "Filled Gas bottle", "Swapped Gas bottle", "Filled Diesel", "Drove",
        "Plugged in", "Showered", "Did laundry",
    ]  # fmt: skip
    assert [act.label for act in every if act.rare] == [
        "Water used elsewhere",
        "Disinfected the tank",
        "Drained tanks and lines",
    ]
    carried = replace(RIG, stores=(replace(FRESH, reserve=20.0),), sources=())
    assert [act.label for act in acts(carried, Display.of(US)) if not act.rare] == [
        "Filled Fresh water", "Reserve into Fresh water", "Filled the reserve of Fresh water", "Drove", "Showered", "Did laundry",
    ]  # fmt: skip
    assert acts(carried, Display.of(US))[1].question == "Reserve into Fresh water: how much (gal)"
    tote = replace(RIG, stores=(FRESH, replace(GREY, reserve=20.0)), jugs=(Jug(id="jug", name="Jug", litres=10.0),))
    labels = [act.label for act in acts(tote, Display.of(RIG))]
    assert {"Grey tank into its tote", "Emptied the tote of Grey tank", "Jug into Fresh water", "Filled Jug"} <= set(
        labels
    )
    assert "Reserve into Fresh water" not in labels
    spare = a_store("cassette", 19.0, "cassette", reserve=19.0)
    two = replace(RIG, stores=(FRESH, spare))
    changed = next(act for act in acts(two, Display.of(RIG)) if act.label == "Cassette changed for its spare")
    assert (changed.source, changed.target) == ("cassette", "reserve")
    into = Event(at(0), "move", source="cassette", target="reserve", amount=18.0)
    assert event(two, into, Display.of(RIG)) == "18 L from Cassette to its spare"
    out = Event(at(0), "move", source="reserve", target="outside", store="cassette", amount=18.0)
    assert event(two, out, Display.of(RIG)) == "Spare of Cassette emptied, 18 L"
