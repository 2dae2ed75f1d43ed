"""A bank's own model: what the sun, cold and full days teach, the hours ahead, and the answers built on them."""

from dataclasses import replace
from datetime import timedelta

import numpy as np
import pytest

from lodeline.core.checks import energy_checks
from lodeline.core.energy.loads import FOUND, audit, audit_wh, fitted_loads
from lodeline.core.energy.skies import WORDS, expected_words, sky_habit
from lodeline.core.energy.wear import wear
from lodeline.core.energy.yields import YieldDay, weakness
from lodeline.core.energy_words import cold_words
from lodeline.core.errors import Refused
from lodeline.core.forecast.appliance import Run, can_run
from lodeline.core.forecast.charge_time import how_long
from lodeline.core.forecast.energy_ahead import bank_ahead, energy_ahead
from lodeline.core.forecast.levers import levers
from lodeline.core.log import Day, Log
from lodeline.core.rig import Chemistry, Inverter, Load, Source
from lodeline.core.tracking.energy_past import bank_wear, energy_past, learned_load_wh, strengths
from lodeline.core.tracking.track import track
from tests.builders import BANK, START, a_log, a_powered_rig, a_reading, at

RIG = replace(
    a_powered_rig(300.0), inverter=Inverter(1200.0, 2400.0, 10.0, 0.9),
    sources=(Source("dcdc", "alternator", 30.0), Source("gen", "generator", 40.0, "diesel", 0.6)),
)  # fmt: skip
EVENINGS = a_log(
    *(a_reading(day, 0.6, "fraction", "house") for day in range(12)), sky="mixed", temp_min_c=9.0, temp_max_c=19.0
)


def ahead_of(rig=RIG, log=EVENINGS, outlook=(), now=None, n_paths=400):
    now = now or at(11, 20.5)
    tracked = track(rig, log, now)["house"]
    return bank_ahead(rig, tracked, outlook, now, 1, 10, n_paths), tracked


def with_yield(log: Log, wh_of_day) -> Log:
    return Log(tuple(replace(day, solar_wh=wh_of_day(day)) for day in log.days))


def expected_wh(rig, log, factor):
    """A yield of ``factor`` times the starting expectation on each day."""
    past = {
        each.sun.date: each.sun
        for each in energy_past(rig, log, track(rig, log, at(len(log.days)))["house"], at(60), 60)
    }
    return lambda day: factor * past[day.date].clear_wh if day.date in past else None


def test_a_strong_and_a_weak_array_are_told_apart_by_yields():
    log = a_log(*(a_reading(day, 0.5, "fraction", "house") for day in range(20)), sky="clear")
    roomy = replace(RIG, stores=(replace(BANK, capacity=900.0),))
    for factor in (0.7, 1.2):
        taught = with_yield(log, expected_wh(roomy, log, factor))
        found = strengths(track(roomy, taught, at(19, 21))["house"])
        assert found["clear"] == pytest.approx(factor, abs=0.06)
        assert found["overcast"] == pytest.approx(factor, abs=0.12)  # one word informs the others


def test_a_yield_on_a_full_day_is_a_lower_bound_and_never_a_weak_array():
    full = a_log(*(a_reading(day, 1.0, "fraction", "house", hour=17) for day in range(20)), sky="clear")
    taught = with_yield(full, expected_wh(RIG, full, 0.4))
    assert strengths(track(RIG, taught, at(19, 21))["house"])["clear"] > 0.9
    room = a_log(*(a_reading(day, 0.5, "fraction", "house", hour=17) for day in range(20)), sky="clear")
    taught = with_yield(room, expected_wh(RIG, room, 0.4))
    assert strengths(track(RIG, taught, at(19, 21))["house"])["clear"] < 0.6


def test_measured_loads_teach_the_audit():
    log = Log(tuple(replace(day, load_wh=900.0) for day in EVENINGS.days))
    low, middle, high = learned_load_wh(RIG, track(RIG, log, at(11, 21))["house"])
    assert low < 900 < high
    assert middle == pytest.approx(900, rel=0.12)


def test_accepting_more_adds_a_load_and_accepting_less_shortens_all():
    listed = float(audit_wh(RIG).sum())
    more = replace(RIG, loads=fitted_loads(RIG, listed + 240))
    assert audit_wh(more).sum() == pytest.approx(listed + 240, abs=2)
    assert more.loads[-1].id == FOUND
    again = replace(more, loads=fitted_loads(more, listed + 480))
    assert len(again.loads) == len(more.loads)
    less = replace(RIG, loads=fitted_loads(RIG, 0.8 * listed))
    assert audit_wh(less).sum() == pytest.approx(0.8 * listed, rel=0.01)
    with pytest.raises(ValueError, match="no list"):
        fitted_loads(replace(RIG, loads=()), 500)


def test_the_audit_counts_the_inverters_loss_and_its_idle_draw():
    rig = replace(RIG, loads=(Load("net", "Internet", 45.0, 10.0, via="inverter"),))
    lines = {line.id: line.wh for line in audit(rig)}
    assert lines["net"] == pytest.approx(500)
    assert lines["inverter"] == pytest.approx(100)
    always = replace(rig, inverter=replace(RIG.inverter, always_on=True))
    assert {line.id: line.wh for line in audit(always)}["inverter"] == pytest.approx(240)


def test_an_lfp_bank_that_freezes_takes_no_charge_in_the_hours_ahead():
    cold = a_log(a_reading(0, 0.6, "fraction", "house"), sky="clear", temp_min_c=-12.0, temp_max_c=-2.0)
    for warm in (False, True):
        rig = replace(RIG, stores=(replace(BANK, kept_warm=warm),))
        ahead, tracked = ahead_of(rig, cold, now=at(0, 20.5))
        told = energy_ahead(ahead, tracked)
        assert (told.high.p50 > told.low.p50 + 0.05) is warm
        assert (cold_words(rig.stores[0], ahead.days) == []) is warm


def test_tonights_low_lies_before_tomorrows_high_and_under_it():
    told = energy_ahead(*ahead_of())
    assert told.low_at < told.high_at
    assert told.low.p10 <= told.low.p50 <= told.low.p90 <= told.high.p90
    assert told.low.p50 < told.high.p50
    assert told.no_sun_days.p50 < told.no_sun_full_days


@pytest.mark.parametrize("hour", [0.5, 6.0, 9.5, 10.9, 11.1, 13.7, 14.9, 15.1, 19.0, 21.5, 23.9])
def test_the_low_and_the_high_are_told_at_any_hour_of_the_day(hour):
    told = energy_ahead(*ahead_of(now=at(11, hour), log=a_log(a_reading(9, 0.6, "fraction", "house"), days=11)))
    assert at(11, hour) <= told.low_at <= at(12, 11.1)
    assert at(11, hour) <= told.high_at <= at(12, 21.1)
    assert told.low.p50 <= told.high.p50 + 1e-6
    early = 6 <= hour < 15
    assert (told.high_at.date() == at(11, hour).date()) is (hour < 15)
    assert (told.low_at > told.high_at) is (early and hour >= 11)


def test_what_finds_no_room_is_thrown_away_and_counted():
    big = replace(RIG, solar=(replace(RIG.solar[0], watts=3000.0),))
    told = energy_ahead(*ahead_of(big))
    assert told.days[2].wasted_wh > 0.5 * told.days[2].taken_wh
    assert told.hold > 0.95


def test_a_kettle_is_refused_by_a_small_inverter_and_carried_by_a_larger():
    kettle = Run(1500.0, 5.0, 0.0, heats=True)
    ahead, tracked = ahead_of()
    verdict = can_run(ahead, tracked, kettle)
    assert verdict.answer == "no"
    assert "1,500 W" in verdict.why[0]
    assert any("inverter of" in way for way in verdict.ways)
    assert any("air the room" in caution for caution in verdict.cautions)  # a way leads to gas
    assert any("outdoors" in caution for caution in verdict.cautions)  # and one to a generator
    larger = replace(RIG, inverter=Inverter(2000.0, 4000.0))
    assert can_run(replace(ahead, rig=larger), tracked, kettle).answer == "yes"


def test_running_something_never_raises_the_low():
    ahead, tracked = ahead_of()
    for watts, minutes, start in ((60, 480, 0), (800, 60, 3), (800, 120, 16)):
        found = can_run(ahead, tracked, Run(watts, minutes, start))
        assert found.low_with.p10 <= found.low_without.p10 + 1e-9
        assert found.ah > 0


def test_a_start_beyond_two_days_is_refused():
    with pytest.raises(Refused):
        can_run(*ahead_of(), Run(60, 30, 60))


def test_longer_days_need_longer_charging_and_the_sun_finishes():
    sunny = replace(RIG, solar=(replace(RIG.solar[0], watts=600.0),))
    ahead, tracked = ahead_of(sunny, a_log(a_reading(0, 0.6, "fraction", "house"), sky="clear"), now=at(0, 20.5))
    half = how_long(ahead, tracked, RIG.sources[1], 0.7, at(5))
    most = how_long(ahead, tracked, RIG.sources[1], 0.95, at(5))
    assert 0 < half.reach.hours.p50 < most.reach.hours.p50
    assert half.reach.hours.p10 <= half.reach.hours.p50 <= half.reach.hours.p90
    assert half.reach.fuel_l == pytest.approx(0.6 * half.reach.hours.p50)
    assert half.sun_finishes_at is not None
    assert 0 < half.sun_finishes_at < 1


def test_a_bank_that_falls_needs_hours_to_hold():
    dark = a_log(a_reading(0, 0.5, "fraction", "house"), sky="wet")
    ahead, tracked = ahead_of(log=dark, now=at(0, 20.5))
    found = how_long(ahead, tracked, RIG.sources[1], 0.9, at(8))
    assert found.hold_daily.hours is not None
    assert found.hold_daily.hours.p50 > 0
    with pytest.raises(Refused):
        how_long(ahead, tracked, RIG.sources[1], 0.9, at(40))
    with pytest.raises(Refused):
        how_long(ahead, tracked, RIG.sources[1], 1.2, at(8))


def test_lead_is_faster_in_two_runs_than_in_one_to_full():
    lead = replace(BANK, chemistry=Chemistry.AGM, nominal_v=12.0, limit=0.3)
    rig = replace(RIG, stores=(lead,))
    ahead, tracked = ahead_of(rig)
    found = how_long(ahead, tracked, Source("big", "generator", 60.0), 0.98, at(15))
    assert found.two.hours.p50 < found.reach.hours.p50
    assert found.bulk is not None


def test_levers_help_and_never_hurt():
    ahead, tracked = ahead_of()
    found = {lever.id: lever for lever in levers(ahead, tracked)}
    assert {"panel", "bank", "fridge", "half", "source-dcdc", "source-gen"} <= set(found)
    for lever in found.values():
        assert lever.low_after >= lever.low_before - 1e-9
        assert lever.hold_after >= lever.hold_before - 1e-9
    assert found["fridge"].low_after > found["fridge"].low_before
    assert found["bank"].no_sun_after > found["bank"].no_sun_before


def test_a_bank_past_its_line_has_no_days_left_and_what_lifts_it_buys_some():
    low = a_log(a_reading(0, 0.05, "fraction", "house"), sky="wet")
    ahead, tracked = ahead_of(log=low, now=at(0, 20.5))
    for lever in levers(ahead, tracked):
        assert lever.days_before == 0
        assert replace(lever, days_after=3.0).buys
        assert not replace(lever, days_after=0.0, hold_after=lever.hold_before, low_after=lever.low_before).buys


def test_a_controller_that_is_too_small_is_named():
    rig = replace(RIG, solar=(replace(RIG.solar[0], watts=540.0, controller_amps=30.0),))
    assert any(check.words.startswith("540 W can push 39 A; the controller takes 30 A") for check in energy_checks(rig))
    assert not any(check.warns for check in energy_checks(RIG))
    tiny = replace(RIG, stores=(replace(BANK, capacity=40.0),))
    assert {check.place for check in energy_checks(tiny) if check.warns} >= {"sources.dcdc", "inverter"}


def clear_days(*shares: float, full: bool = False) -> list[YieldDay]:
    return [
        YieldDay(START + timedelta(days=n), "clear", "Old field", 1000.0, 5.0, 1000.0 * share, full)
        for n, share in enumerate(shares)
    ]


def test_a_weak_array_is_said_since_when_it_is():
    found = weakness(clear_days(1.0, 0.95, 1.05, 1.0, 0.98, 0.6, 0.62, 0.58))
    assert found is not None
    assert found.since == START + timedelta(days=5)
    assert found.share == pytest.approx(0.6, abs=0.02)
    assert weakness(clear_days(1.0, 0.95, 1.05, 1.0, 0.98, 0.6, 1.0, 0.95)) is None  # one bad day is a day
    assert weakness(clear_days(1.0, 0.95, 1.05, 1.0, 0.98, 0.6, 0.62, 0.58, full=True)) is None


def test_skies_that_stay_and_come_are_learned():
    steady = sky_habit(["wet"] * 12 + ["clear"] * 18)
    restless = sky_habit(["wet", "clear"] * 15)
    assert steady.stays > restless.stays
    assert steady.share > sky_habit(["wet"] * 30).share
    assert expected_words("wet", steady, 0)[WORDS.index("wet")] == 1
    near, far = (expected_words("wet", steady, days)[WORDS.index("wet")] for days in (1, 7))
    assert near > far > 0
    assert expected_words(None, steady, 3).sum() == pytest.approx(1)


def test_wear_counts_what_was_drawn_and_how_deep():
    points = [(at(day, hour), level) for day in range(4) for hour, level in ((7, 60.0), (16, 100.0))]
    found = wear(points, 100.0, 65.0)
    assert found.cycles == pytest.approx(1.2)
    assert found.worst_depth == pytest.approx(0.4)
    assert found.below == 4
    assert found.last_full == at(3, 16)
    assert bank_wear(track(RIG, EVENINGS, at(11, 21))["house"]) is not None


def test_the_same_question_has_the_same_answer():
    first, second = (energy_ahead(*ahead_of()) for _ in range(2))
    assert first == second
    ahead, tracked = ahead_of()
    assert np.isfinite(energy_ahead(replace(ahead, seed=2), tracked).low.p50)


def test_an_unlogged_bank_has_no_past():
    nothing = Log((Day(START),))
    assert energy_past(RIG, nothing, track(RIG, nothing, at(0, 21))["house"], at(0, 21), 14) == []
