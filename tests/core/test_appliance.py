"""Can I run it: the limits of inverter and bank, the low with and without, what would make it possible."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lodeline.core.energy.bank import peukert_ah
from lodeline.core.forecast.appliance import Run, can_run, net_sun_ah
from lodeline.core.forecast.energy_ahead import bank_ahead
from lodeline.core.log import OutlookDay
from lodeline.core.rig import Chemistry, Inverter, Source
from lodeline.core.tracking.track import track
from tests.builders import BANK, START, a_log, a_powered_rig, a_reading, at

RIG = replace(a_powered_rig(300.0), inverter=Inverter(1200.0, 2400.0, 10.0, 0.9), sources=())
POST, GENERATOR, ENGINE = (
    Source("post", "shore", 30.0),
    Source("gen", "generator", 40.0),
    Source("dcdc", "alternator", 30.0),
)


def asked(run, rig=RIG, share=0.8, now=None, sky="mixed"):
    now = now or at(0, 20.5)
    log = a_log(a_reading(0, share, "fraction", rig.stores[0].id, hour=7.0), sky=sky, temp_min_c=9.0, temp_max_c=19.0)
    outlook = tuple(OutlookDay(START.replace(day=2 + n), sky=sky) for n in range(9))
    tracked = track(rig, log, now)["house"]
    return can_run(bank_ahead(rig, tracked, outlook, now, 1, 10, 400), tracked, run)


def test_without_an_inverter_what_needs_one_cannot_run_and_what_does_not_can():
    bare = replace(RIG, inverter=None)
    refused = asked(Run(60.0, 60.0, 0.0), bare)
    assert refused.answer == "no"
    assert refused.why == ("There is no inverter aboard, and it needs one.",)
    assert refused.ways[0] == "An inverter of 100 W or more, its fuse and cable to match."
    assert asked(Run(60.0, 60.0, 0.0, via="dc"), bare).answer == "yes"


def test_a_motor_that_starts_too_hard_is_refused_for_its_surge_alone():
    started = asked(Run(900.0, 20.0, 0.0, surge=3.0))
    assert started.answer == "no"
    assert started.why == ("Starting takes about 2,700 W; the inverter's surge is 2,400 W.",)
    assert asked(Run(900.0, 20.0, 0.0, surge=2.0)).answer == "yes"


def test_a_surge_that_is_not_known_is_taken_as_no_more_than_the_inverter_gives():
    plain = replace(RIG, inverter=Inverter(1200.0))
    assert asked(Run(700.0, 20.0, 0.0, surge=2.0), plain).answer == "no"
    assert asked(Run(700.0, 20.0, 0.0, surge=1.5), plain).answer == "yes"


def test_a_small_bank_does_not_give_what_a_large_inverter_could_and_gives_more_for_a_moment():
    lead = replace(BANK, capacity=100.0, chemistry=Chemistry.FLOODED, nominal_v=12.0, limit=0.3)
    rig = replace(RIG, stores=(lead,), inverter=Inverter(3000.0, 6000.0))
    long = asked(Run(600.0, 60.0, 0.0), rig)
    assert long.answer == "no"
    assert "about the most that a bank of this kind and size should give for 60 minutes" in long.why[-1]
    assert asked(Run(400.0, 5.0, 0.0), rig, share=0.95).answer != "no"


def test_current_and_amp_hours_follow_from_watts_losses_and_peukert():
    found = asked(Run(540.0, 60.0, 0.0))
    assert found.current_a == pytest.approx(540 / 0.9 / 12.8)
    assert found.ah == pytest.approx(peukert_ah(BANK, found.current_a, 1.0))
    assert found.share == pytest.approx(found.ah / 200.0)
    through_dc = asked(Run(540.0, 60.0, 0.0, via="dc"))
    assert through_dc.current_a == pytest.approx(0.9 * found.current_a)


def test_a_run_that_takes_the_bank_under_its_line_is_refused_with_the_low_that_it_would_leave():
    found = asked(Run(600.0, 240.0, 0.0), share=0.5, sky="wet")
    assert found.answer == "no"
    assert found.low_with.p50 < BANK.line < found.low_without.p50
    assert found.why[-1].endswith(f"under the line of {BANK.line * 100:.0f} %.")


def test_between_yes_and_no_lies_tight_with_a_shorter_run_that_would_do():
    answers = [asked(Run(400.0, minutes, 0.0), share=0.7, sky="wet") for minutes in range(15, 360, 15)]
    order = [answer.answer for answer in answers]
    assert order == sorted(order, key=["yes", "tight", "no"].index)
    assert set(order) == {"yes", "tight", "no"}
    tight = next(answer for answer in answers if answer.answer == "tight")
    assert "in only" in tight.why[-1]
    assert tight.ways


@pytest.mark.parametrize(
    ("source", "way"),
    [(POST, "Plug in for"), (GENERATOR, "Run the generator for"), (ENGINE, "Drive")],
    ids=["post", "generator", "engine"],
)
def test_each_source_aboard_is_a_way_and_says_for_how_long(source, way):
    found = asked(Run(300.0, 240.0, 0.0), replace(RIG, sources=(source,)), share=0.5, sky="wet")
    said = next(each for each in found.ways if each.startswith(way))
    assert said.endswith(f"which puts the {found.ah:.0f} Ah back.")
    outdoors = any("outdoors" in caution for caution in found.cautions)
    assert outdoors == (source is GENERATOR)


def test_a_source_that_would_take_all_day_is_no_way():
    weak = Source("dcdc", "alternator", 5.0)
    found = asked(Run(600.0, 240.0, 0.0), replace(RIG, sources=(weak,)), share=0.5, sky="wet")
    assert not any(way.startswith("Drive") for way in found.ways)


def test_without_sun_or_source_only_more_aboard_would_help():
    dark = replace(RIG, solar=())
    found = asked(Run(600.0, 240.0, 0.0), dark, share=0.16)
    assert found.latest_start is None
    assert found.ways == ("A bigger bank or more panels; see what would help.",)


def test_the_latest_start_leaves_sun_enough_and_comes_sooner_for_more():
    sunny = replace(RIG, solar=(replace(RIG.solar[0], watts=700.0),))
    morning = at(1, 6.0)
    small, large = (asked(Run(watts, 60.0, 0.0), sunny, now=morning, sky="clear") for watts in (100.0, 900.0))
    assert morning <= large.latest_start < small.latest_start < at(1, 20)
    log = a_log(a_reading(0, 0.8, "fraction", "house", hour=7.0), sky="clear")
    tracked = track(sunny, log, morning)["house"]
    net = net_sun_ah(bank_ahead(sunny, tracked, (), morning, 1, 10, 100), tracked)
    assert net.shape == (11, 24)
    assert np.all(net >= 0)
    assert net[1, 12] > net[1, 8] > net[1, 2] == 0


@pytest.mark.parametrize(
    ("run", "says", "never"),
    [
        (Run(60.0, 30.0, 0.0, via="dc"), [], ["Mains", "heats", "Cable"]),
        (Run(60.0, 30.0, 0.0), ["Mains from an inverter can kill"], ["heats", "Cable"]),
        (Run(1100.0, 5.0, 0.0, heats=True), ["Mains", "never left on while asleep", "Cable and fuse"], ["Mains and"]),
    ],
    ids=["direct", "mains", "heat"],
)
def test_cautions_are_those_of_mains_heat_and_current(run, says, never):
    cautions = " ".join(asked(run).cautions)
    for words in says:
        assert words in cautions
    for words in never:
        assert words not in cautions


@settings(max_examples=25, deadline=None)
@given(st.floats(20, 900), st.floats(5, 300), st.floats(0, 24), st.sampled_from(["dc", "inverter"]))
def test_a_longer_or_stronger_run_never_leaves_more(watts, minutes, start, via):
    once, more = asked(Run(watts, minutes, start, via)), asked(Run(watts * 1.3, minutes * 1.2, start, via))
    assert more.ah > once.ah
    for name in ("p10", "p50", "p90"):
        assert getattr(more.low_with, name) <= getattr(once.low_with, name) + 1e-6
        assert getattr(once.low_with, name) <= getattr(once.low_without, name) + 1e-6
