"""Can I run it: the limits of inverter and bank, the low with and without, what would make it possible."""

from dataclasses import replace
from datetime import timedelta

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lodeline.core.catalogue import Caution, Chemistry, SkyWord, Via
from lodeline.core.energy.bank import peukert_ah
from lodeline.core.forecast.appliance import (
    Answer,
    LargerInverter,
    LowAfter,
    MoreAboard,
    NoInverter,
    OverBank,
    OverSurge,
    RunAsk,
    RunSource,
    can_run,
    net_sun_ah,
)
from lodeline.core.log import OutlookDay
from lodeline.core.rig import Inverter
from lodeline.core.tracking.track import track
from tests.builders import BANK, START, a_log, a_powered_rig, a_reading, a_source, at, bank_ahead

RIG = replace(a_powered_rig(300.0), inverter=Inverter(1200.0, 2400.0, 10.0, 0.9), sources=())
POST, GENERATOR, ENGINE = (
    a_source("shore", 30.0, "post"),
    a_source("generator", 40.0, "gen"),
    a_source("alternator", 30.0, "dcdc"),
)


def asked(run, rig=RIG, share=0.8, now=None, sky=SkyWord.MIXED):
    now = now or at(0, 20.5)
    log = a_log(a_reading(0, share, "fraction", rig.stores[0].id, hour=7.0), sky=sky, temp_min_c=9.0, temp_max_c=19.0)
    outlook = tuple(OutlookDay(date=START.replace(day=2 + n), sky=sky) for n in range(9))
    tracked = track(rig, log, now)["house"]
    return can_run(bank_ahead(rig, tracked, outlook, now, 1, 10, 400), tracked, run)


def test_without_an_inverter_what_needs_one_cannot_run_and_what_does_not_can():
    bare = replace(RIG, inverter=None)
    refused = asked(RunAsk(60.0, 60.0), bare)
    assert refused.answer is Answer.NO
    assert refused.why == (NoInverter(),)
    assert refused.ways[0] == LargerInverter(100.0)
    assert asked(RunAsk(60.0, 60.0, via=Via.DC), bare).answer is Answer.YES


def test_a_motor_that_starts_too_hard_is_refused_for_its_surge_alone():
    started = asked(RunAsk(900.0, 20.0, surge=3.0))
    assert started.answer is Answer.NO
    assert started.why == (OverSurge(2700.0, 2400.0),)
    assert asked(RunAsk(900.0, 20.0, surge=2.0)).answer is Answer.YES


def test_a_surge_that_is_not_known_is_taken_as_no_more_than_the_inverter_gives():
    plain = replace(RIG, inverter=Inverter(1200.0))
    assert asked(RunAsk(700.0, 20.0, surge=2.0), plain).answer is Answer.NO
    assert asked(RunAsk(700.0, 20.0, surge=1.5), plain).answer is Answer.YES


def test_a_small_bank_does_not_give_what_a_large_inverter_could_and_gives_more_for_a_moment():
    lead = replace(BANK, capacity=100.0, chemistry=Chemistry.FLOODED, nominal_v=12.0, limit=0.3)
    rig = replace(RIG, stores=(lead,), inverter=Inverter(3000.0, 6000.0))
    long = asked(RunAsk(600.0, 60.0), rig)
    assert long.answer is Answer.NO
    assert isinstance(long.why[-1], OverBank)
    assert long.why[-1].minutes == 60
    assert asked(RunAsk(400.0, 5.0), rig, share=0.95).answer is not Answer.NO


def test_current_and_amp_hours_follow_from_watts_losses_and_peukert():
    verdict = asked(RunAsk(540.0, 60.0))
    assert verdict.current_a == pytest.approx(540 / 0.9 / 12.8)
    assert verdict.ah == pytest.approx(peukert_ah(BANK, verdict.current_a, 1.0))
    assert verdict.share == pytest.approx(verdict.ah / 200.0)
    through_dc = asked(RunAsk(540.0, 60.0, via=Via.DC))
    assert through_dc.current_a == pytest.approx(0.9 * verdict.current_a)


def test_a_run_that_takes_the_bank_under_its_line_is_refused_with_the_low_that_it_would_leave():
    verdict = asked(RunAsk(600.0, 240.0), share=0.5, sky=SkyWord.WET)
    assert verdict.answer is Answer.NO
    assert verdict.low_with.p50 < BANK.line < verdict.low_without.p50
    assert isinstance(verdict.why[-1], LowAfter)
    assert verdict.why[-1].low_p50 < verdict.why[-1].line == BANK.line


def test_between_yes_and_no_lies_tight_with_a_shorter_run_that_would_do():
    answers = [asked(RunAsk(400.0, minutes), share=0.7, sky=SkyWord.WET) for minutes in range(15, 360, 15)]
    order = [answer.answer for answer in answers]
    assert order == sorted(order, key=[Answer.YES, Answer.TIGHT, Answer.NO].index)
    assert set(order) == set(Answer)
    tight = next(answer for answer in answers if answer.answer is Answer.TIGHT)
    assert 0.5 < tight.why[-1].p_above < 1
    assert tight.ways


@pytest.mark.parametrize("source", [POST, GENERATOR, ENGINE], ids=["post", "generator", "engine"])
def test_each_source_aboard_is_a_way_and_says_for_how_long(source):
    verdict = asked(RunAsk(300.0, 240.0), replace(RIG, sources=(source,)), share=0.5, sky=SkyWord.WET)
    way = next(each for each in verdict.ways if isinstance(each, RunSource))
    assert way.kind is source.kind
    assert way.ah == pytest.approx(verdict.ah)
    assert way.hours * source.amps > 0.8 * verdict.ah
    assert (Caution.GENERATOR_OUTDOORS in verdict.cautions) == (source is GENERATOR)


def test_a_source_that_would_take_all_day_is_no_way():
    weak = a_source("alternator", 5.0, "dcdc")
    verdict = asked(RunAsk(600.0, 240.0), replace(RIG, sources=(weak,)), share=0.5, sky=SkyWord.WET)
    assert not any(isinstance(way, RunSource) for way in verdict.ways)


def test_without_sun_or_source_only_more_aboard_would_help():
    dark = replace(RIG, solar=())
    verdict = asked(RunAsk(600.0, 240.0), dark, share=0.16)
    assert verdict.latest_start is None
    assert verdict.ways == (MoreAboard(),)


def test_the_latest_start_leaves_sun_enough_and_comes_sooner_for_more():
    sunny = replace(RIG, solar=(replace(RIG.solar[0], watts=700.0),))
    morning = at(1, 6.0)
    small, large = (asked(RunAsk(watts, 60.0), sunny, now=morning, sky=SkyWord.CLEAR) for watts in (100.0, 900.0))
    assert morning <= large.latest_start < small.latest_start < at(1, 20)
    log = a_log(a_reading(0, 0.8, "fraction", "house", hour=7.0), sky=SkyWord.CLEAR)
    tracked = track(sunny, log, morning)["house"]
    net = net_sun_ah(bank_ahead(sunny, tracked, (), morning, 1, 10, 100), tracked)
    assert net.shape == (11, 24)
    assert np.all(net >= 0)
    assert net[1, 12] > net[1, 8] > net[1, 2] == 0


@pytest.mark.parametrize(
    ("run", "cautions"),
    [
        (RunAsk(60.0, 30.0, via=Via.DC), set()),
        (RunAsk(60.0, 30.0), {Caution.MAINS}),
        (RunAsk(1100.0, 5.0, heats=True), {Caution.MAINS, Caution.HOT_THINGS, Caution.CABLE_SIZE}),
    ],
    ids=["direct", "mains", "heat"],
)
def test_cautions_are_those_of_mains_heat_and_current(run, cautions):
    assert set(asked(run).cautions) & {Caution.MAINS, Caution.HOT_THINGS, Caution.CABLE_SIZE} == cautions


@settings(max_examples=25, deadline=None)
@given(st.floats(20, 900), st.floats(5, 300), st.floats(0, 24), st.sampled_from(list(Via)))
def test_a_longer_or_stronger_run_never_leaves_more(watts, minutes, hours, via):
    start = at(0, 20.5) + timedelta(hours=hours)
    once, more = asked(RunAsk(watts, minutes, start, via)), asked(RunAsk(watts * 1.3, minutes * 1.2, start, via))
    assert more.ah > once.ah
    for name in ("p10", "p50", "p90"):
        assert getattr(more.low_with, name) <= getattr(once.low_with, name) + 1e-6
        assert getattr(once.low_with, name) <= getattr(once.low_without, name) + 1e-6
