"""Events and acts as the Round says them, in the units that the rig's people think in."""

from dataclasses import replace

import pytest

from lodeline.core.acts import Deed, Stands, acts
from lodeline.core.catalogue import Ask, System
from lodeline.core.log import Event
from lodeline.core.rig import Jug, Spare
from lodeline.text.acts import label, question
from lodeline.text.display import Display
from lodeline.text.round import event
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
        (Event(at(0), "drive", hours=1.5, km=80.0), "Drove 1 h 30 min, 80 km", "Drove 1 h 30 min, 50 mi"),
        (Event(at(0), "drive", hours=0.5), "Drove 30 min", None),
        (Event(at(0), "drive", km=80.0), "Drove 80 km", "Drove 50 mi"),
        (Event(at(0), "shore", hours=7.0), "Plugged in 7 h", None),
        (Event(at(0), "generator", hours=1.25), "Ran the generator 1 h 15 min", None),
        (Event(at(0), "shower", count=2), "2 showers", None),
        (Event(at(0), "laundry", count=1), "1 load of laundry", None),
    ],
    ids=lambda each: each.type if isinstance(each, Event) else "",
)
def test_an_event_is_said_in_few_words(each, says, in_us):
    assert event(RIG, each, Display.of(RIG)) == says
    if in_us:
        assert event(US, each, Display.of(US)) == in_us


def labels(rig, *, rare=False, aboard=None):
    return [label(rig, act) for act in acts(rig, aboard) if act.rare == rare]


def test_what_can_be_logged_follows_from_what_is_aboard():
    assert labels(RIG) == [
        "Filled Fresh water",
        "Emptied Grey tank",
        "Exchanged Gas bottle for a full one",
        "Filled Diesel",
        "Drove",
        "Plugged in",
        "Showered",
        "Did laundry",
    ]
    assert labels(RIG, rare=True) == [
        "Filled Gas bottle",
        "Water used elsewhere",
        "Disinfected the tank",
        "Drained tanks and lines",
    ]
    carried = replace(RIG, stores=(replace(FRESH, reserve=20.0),), sources=())
    assert labels(carried) == ["Filled Fresh water", "Reserve into Fresh water", "Drove", "Showered", "Did laundry"]
    poured = next(act for act in acts(carried) if act.deed is Deed.POURED)
    says = "Reserve into Fresh water: how much (gal); empty means all of it, 5.3 gal"
    assert question(carried, poured, Display.of(US)) == says
    tote = replace(RIG, stores=(FRESH, replace(GREY, reserve=20.0)), jugs=(Jug(id="jug", name="Jug", litres=10.0),))
    assert {"Grey tank into its tote", "Jug into Fresh water"} <= set(labels(tote))
    assert {"Emptied the tote of Grey tank", "Filled Jug"} <= set(labels(tote, rare=True))
    assert "Reserve into Fresh water" not in labels(tote) + labels(tote, rare=True)


def test_a_spare_is_changed_and_carried_away_by_one_touch_each():
    two = replace(RIG, stores=(FRESH, a_store("cassette", 19.0, "cassette", reserve=19.0)))
    changed = next(act for act in acts(two) if act.deed is Deed.CHANGED)
    assert label(two, changed) == "Cassette changed for its spare"
    assert (changed.source, changed.target, changed.whole, changed.asks) == ("cassette", "reserve", 19.0, Ask.NOTHING)
    into = Event(at(0), "move", source="cassette", target="reserve", amount=18.0)
    assert event(two, into, Display.of(RIG)) == "Cassette changed for its spare"
    carried = next(act for act in acts(two, Stands(reserve={"cassette": 0.0})) if act.deed is Deed.CARRIED)
    assert (carried.rare, carried.asks, carried.names_store) == (False, Ask.NOTHING, True)
    out = Event(at(0), "move", source="reserve", target="outside", store="cassette", amount=18.0)
    assert event(two, out, Display.of(RIG)) == "Spare of Cassette emptied"


def test_what_is_full_in_use_or_empty_is_not_offered_as_if_it_were_not():
    red, blue = (Spare(id=name.lower(), name=name, store="gas", holds=11.0) for name in ("Red", "Blue"))
    rig = replace(RIG, spares=(red, blue))
    aboard = Stands(contents={"red": 11.0, "blue": 0.0}, in_use={"gas": "red"})
    often = labels(rig, aboard=aboard)
    every = often + labels(rig, rare=True, aboard=aboard)
    assert "Red in use now" not in every
    assert "Filled Red" not in every
    assert "Filled Blue" in often
    assert "Blue in use now" not in often
