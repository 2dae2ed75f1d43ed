"""A bank's own model: what the sun, cold and full days teach, the hours ahead, and the answers built on them."""

from dataclasses import replace
from datetime import timedelta

import numpy as np
import pytest

from lodeline.core.catalogue import Caution, Chemistry, SkyWord, Via
from lodeline.core.checks import ControllerSmall, energy_checks
from lodeline.core.energy.bank import takes_charge
from lodeline.core.energy.loads import FOUND_BY_LOG, audit, audit_wh, fitted_loads
from lodeline.core.energy.skies import WORDS, expected_words, sky_habit
from lodeline.core.energy.wear import wear
from lodeline.core.energy.yields import YieldDay, weakness
from lodeline.core.errors import Refused
from lodeline.core.forecast.appliance import Answer, LargerInverter, OverInverter, RunAsk, can_run
from lodeline.core.forecast.charge_time import how_long
from lodeline.core.forecast.energy_ahead import energy_ahead
from lodeline.core.levers.agreed import all_together
from lodeline.core.levers.bank import what_helps
from lodeline.core.log import Day, Log
from lodeline.core.rig import Inverter, Load
from lodeline.core.tracking.energy_past import bank_wear, energy_past, learned_load_wh, strengths
from lodeline.core.tracking.track import track
from lodeline.core.zone import Zone
from tests.builders import BANK, START, a_log, a_powered_rig, a_reading, a_source, at, bank_ahead, forecast, known_at

RIG = replace(
    a_powered_rig(300.0),
    inverter=Inverter(1200.0, 2400.0, 10.0, 0.9),
    sources=(
        a_source("alternator", 30.0, "dcdc"),
        a_source("generator", 40.0, "gen", fuel_store="diesel", fuel_l_per_h=0.6),
    ),
)
EVENINGS = a_log(
    *(a_reading(day, 0.6, "fraction", "house") for day in range(12)), sky=SkyWord.MIXED, temp_min_c=9.0, temp_max_c=19.0
)


def a_date(day):
    return at(day).date()


def ahead_of(rig=RIG, log=EVENINGS, outlook=(), now=None, n_paths=400):
    now = now or at(11, 20.5)
    tracked = track(rig, log, now)["house"]
    return bank_ahead(rig, tracked, outlook, now, 1, 10, n_paths), tracked


def helps(log=EVENINGS, now=None):
    """What would help the bank."""
    return what_helps(all_together(known_at(RIG, log, now or at(11, 20.5)), 1, 10, 400), "house")


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
    log = a_log(*(a_reading(day, 0.5, "fraction", "house") for day in range(20)), sky=SkyWord.CLEAR)
    roomy = replace(RIG, stores=(replace(BANK, capacity=900.0),))
    for factor in (0.7, 1.2):
        taught = with_yield(log, expected_wh(roomy, log, factor))
        known = strengths(track(roomy, taught, at(19, 21))["house"])
        assert known[SkyWord.CLEAR] == pytest.approx(factor, abs=0.06)
        assert known[SkyWord.OVERCAST] == pytest.approx(factor, abs=0.12)  # one word informs the others


def test_a_yield_on_a_full_day_is_a_lower_bound_and_never_a_weak_array():
    full = a_log(*(a_reading(day, 1.0, "fraction", "house", hour=17) for day in range(20)), sky=SkyWord.CLEAR)
    taught = with_yield(full, expected_wh(RIG, full, 0.4))
    assert strengths(track(RIG, taught, at(19, 21))["house"])[SkyWord.CLEAR] > 0.9
    room = a_log(*(a_reading(day, 0.5, "fraction", "house", hour=17) for day in range(20)), sky=SkyWord.CLEAR)
    taught = with_yield(room, expected_wh(RIG, room, 0.4))
    assert strengths(track(RIG, taught, at(19, 21))["house"])[SkyWord.CLEAR] < 0.6


def test_measured_loads_teach_the_audit():
    log = Log(tuple(replace(day, load_wh=900.0) for day in EVENINGS.days))
    low, middle, high = learned_load_wh(RIG, track(RIG, log, at(11, 21))["house"])
    assert low < 900 < high
    assert middle == pytest.approx(900, rel=0.12)


def test_accepting_more_adds_a_load_and_accepting_less_shortens_all():
    listed = float(audit_wh(RIG).sum())
    more = replace(RIG, loads=fitted_loads(RIG, listed + 240, "Not listed"))
    assert audit_wh(more).sum() == pytest.approx(listed + 240, abs=2)
    assert more.loads[-1].id == FOUND_BY_LOG
    again = replace(more, loads=fitted_loads(more, listed + 480, "Not listed"))
    assert len(again.loads) == len(more.loads)
    less = replace(RIG, loads=fitted_loads(RIG, 0.8 * listed, "Not listed"))
    assert audit_wh(less).sum() == pytest.approx(0.8 * listed, rel=0.01)
    with pytest.raises(Refused):
        fitted_loads(replace(RIG, loads=()), 500, "Not listed")


def test_the_audit_counts_the_inverters_loss_and_its_idle_draw():
    rig = replace(RIG, loads=(Load("net", "Internet", 45.0, 10.0, via=Via.INVERTER),))
    lines = {line.id: line.wh for line in audit(rig)}
    assert lines["net"] == pytest.approx(500)
    assert lines["inverter"] == pytest.approx(100)
    always = replace(rig, inverter=replace(RIG.inverter, always_on=True))
    assert {line.id: line.wh for line in audit(always)}["inverter"] == pytest.approx(240)


def test_an_lfp_bank_that_freezes_takes_no_charge_in_the_hours_ahead():
    cold = a_log(a_reading(0, 0.6, "fraction", "house"), sky=SkyWord.CLEAR, temp_min_c=-12.0, temp_max_c=-2.0)
    for warm in (False, True):
        rig = replace(RIG, stores=(replace(BANK, kept_warm=warm),))
        ahead, tracked = ahead_of(rig, cold, now=at(0, 20.5))
        summary = energy_ahead(ahead, tracked)
        assert (summary.high.p50 > summary.low.p50 + 0.05) is warm
        assert bool(takes_charge(rig.stores[0], -7.0, -12.0).any()) is warm


def test_tonights_low_lies_before_tomorrows_high_and_under_it():
    summary = energy_ahead(*ahead_of())
    assert summary.low_at < summary.high_at
    assert summary.low.p10 <= summary.low.p50 <= summary.low.p90 <= summary.high.p90
    assert summary.low.p50 < summary.high.p50
    assert summary.no_sun_days.p50 < summary.no_sun_full_days


@pytest.mark.parametrize("hour", [0.5, 6.0, 9.5, 10.9, 11.1, 13.7, 14.9, 15.1, 19.0, 21.5, 23.9])
def test_the_low_and_the_high_are_told_at_any_hour_of_the_day(hour):
    summary = energy_ahead(*ahead_of(now=at(11, hour), log=a_log(a_reading(9, 0.6, "fraction", "house"), days=11)))
    assert at(11, hour) <= summary.low_at <= at(12, 11.1)
    assert at(11, hour) <= summary.high_at <= at(12, 21.1)
    assert summary.low.p50 <= summary.high.p50 + 1e-6
    early = 6 <= hour < 15
    assert (summary.high_at.date() == at(11, hour).date()) is (hour < 15)
    assert (summary.low_at > summary.high_at) is (early and hour >= 11)


def test_what_finds_no_room_is_thrown_away_and_counted():
    big = replace(RIG, solar=(replace(RIG.solar[0], watts=3000.0),))
    high = a_log(*(a_reading(day, 0.95, "fraction", "house") for day in range(12)), sky=SkyWord.MIXED)
    summary = energy_ahead(*ahead_of(big, high))
    assert summary.days[2].wasted_wh > 0.5 * summary.days[2].taken_wh
    assert summary.hold > 0.95


def test_a_kettle_is_refused_by_a_small_inverter_and_carried_by_a_larger():
    kettle = RunAsk(1500.0, 5.0, heats=True)
    ahead, tracked = ahead_of()
    verdict = can_run(ahead, tracked, kettle)
    assert verdict.answer is Answer.NO
    assert verdict.why[0] == OverInverter(1500.0, 1200.0)
    assert LargerInverter(1800.0) in verdict.ways
    assert Caution.GAS_INDOORS in verdict.cautions  # a way leads to gas
    assert Caution.GENERATOR_OUTDOORS in verdict.cautions  # and one to a generator
    larger = replace(RIG, inverter=Inverter(2000.0, 4000.0))
    assert can_run(replace(ahead, rig=larger), tracked, kettle).answer is Answer.YES


def test_running_something_never_raises_the_low():
    ahead, tracked = ahead_of()
    for watts, minutes, hours in ((60, 480, 0), (800, 60, 3), (800, 120, 16)):
        known = can_run(ahead, tracked, RunAsk(watts, minutes, ahead.now + timedelta(hours=hours)))
        assert known.low_with.p10 <= known.low_without.p10 + 1e-9
        assert known.ah > 0


def test_a_start_beyond_two_days_is_refused():
    with pytest.raises(Refused):
        can_run(*ahead_of(), RunAsk(60, 30, at(11, 20.5) + timedelta(hours=60)))  # type: ignore[call-arg]


def test_longer_days_need_longer_charging_and_the_sun_finishes():
    sunny = replace(RIG, solar=(replace(RIG.solar[0], watts=600.0),))
    ahead, tracked = ahead_of(sunny, a_log(a_reading(0, 0.6, "fraction", "house"), sky=SkyWord.CLEAR), now=at(0, 20.5))
    half = how_long(ahead, tracked, RIG.sources[1], 0.7, a_date(5))
    most = how_long(ahead, tracked, RIG.sources[1], 0.95, a_date(5))
    assert 0 < half.reach.hours.p50 < most.reach.hours.p50
    assert half.reach.hours.p10 <= half.reach.hours.p50 <= half.reach.hours.p90
    assert half.reach.fuel_l == pytest.approx(0.6 * half.reach.hours.p50)
    assert half.sun.stop_at is not None
    assert 0 < half.sun.stop_at < 1


def test_a_bank_that_falls_needs_hours_to_hold():
    dark = a_log(a_reading(0, 0.5, "fraction", "house"), sky=SkyWord.WET)
    ahead, tracked = ahead_of(log=dark, now=at(0, 20.5))
    known = how_long(ahead, tracked, RIG.sources[1], 0.9, a_date(8))
    assert known.hold_daily.hours is not None
    assert known.hold_daily.hours.p50 > 0
    with pytest.raises(Refused):
        how_long(ahead, tracked, RIG.sources[1], 0.9, a_date(40))
    with pytest.raises(Refused):
        how_long(ahead, tracked, RIG.sources[1], 1.2, a_date(8))


def test_lead_is_faster_in_two_runs_than_in_one_to_full():
    lead = replace(BANK, chemistry=Chemistry.AGM, nominal_v=12.0, limit=0.3)
    rig = replace(RIG, stores=(lead,))
    ahead, tracked = ahead_of(rig)
    known = how_long(ahead, tracked, a_source("generator", 60.0, "big"), 0.98, a_date(15))
    assert known.two.hours.p50 < known.reach.hours.p50
    assert known.bulk is not None


def test_levers_help_and_never_hurt():
    known = {helped.lever.id: helped for helped in helps()}
    assert {
        "buy-panel",
        "buy-bank",
        "ice-at-night-fridge",
        "half-as-long-lights",
        "engine-hour-dcdc",
        "generator-hour-gen",
        "into-sun",
    } == set(known)
    for helped in known.values():
        assert helped.after.low.p50 >= helped.before.low.p50 - 1e-9
        assert helped.after.hold >= helped.before.hold - 1e-9
    assert known["ice-at-night-fridge"].after.low.p50 > known["ice-at-night-fridge"].before.low.p50
    assert known["buy-bank"].after.no_sun_days.p50 > known["buy-bank"].before.no_sun_days.p50


def test_without_a_lever_a_bank_stands_as_its_forecast_says():
    said = forecast(RIG, EVENINGS, (), at(11, 20.5), days=10, n_paths=400).of("house")
    (stands,) = {helped.before.p50_days for helped in helps()}
    assert stands == pytest.approx(said.p50_days, abs=0.01)


def test_a_bank_past_its_line_has_no_days_left_and_what_lifts_it_gives_some():
    low = a_log(a_reading(0, 0.05, "fraction", "house"), sky=SkyWord.WET)
    for helped in helps(log=low, now=at(0, 20.5)):
        assert helped.before.p50_days == 0
        assert replace(helped, after=replace(helped.after, p50_days=3.0)).has_effect
        assert not replace(helped, after=helped.before).has_effect


def test_a_controller_that_is_too_small_is_named():
    rig = replace(RIG, solar=(replace(RIG.solar[0], watts=540.0, controller_amps=30.0),))
    (check,) = [check for check in energy_checks(rig) if isinstance(check, ControllerSmall)]
    assert (check.watts, check.takes_a) == (540.0, 30.0)
    assert check.pushes_a == pytest.approx(540 / 13.825)
    assert not any(check.warns for check in energy_checks(RIG))
    tiny = replace(RIG, stores=(replace(BANK, capacity=40.0),))
    assert {check.place for check in energy_checks(tiny) if check.warns} >= {"sources.dcdc", "inverter"}


def clear_days(*shares: float, full: bool = False) -> list[YieldDay]:
    return [
        YieldDay(
            date=START + timedelta(days=n),
            sky=SkyWord.CLEAR,
            place="Old field",
            clear_wh=1000.0,
            reference_h=5.0,
            taken_wh=1000.0 * share,
            full=full,
        )
        for n, share in enumerate(shares)
    ]


def test_a_weak_array_is_said_since_when_it_is():
    known = weakness(clear_days(1.0, 0.95, 1.05, 1.0, 0.98, 0.6, 0.62, 0.58))
    assert known is not None
    assert known.since == START + timedelta(days=5)
    assert known.share == pytest.approx(0.6, abs=0.02)
    assert weakness(clear_days(1.0, 0.95, 1.05, 1.0, 0.98, 0.6, 1.0, 0.95)) is None  # one bad day is a day
    assert weakness(clear_days(1.0, 0.95, 1.05, 1.0, 0.98, 0.6, 0.62, 0.58, full=True)) is None


def test_skies_that_stay_and_come_are_learned():
    steady = sky_habit([SkyWord.WET] * 12 + [SkyWord.CLEAR] * 18)
    restless = sky_habit([SkyWord.WET, SkyWord.CLEAR] * 15)
    assert steady.stays > restless.stays
    assert steady.share > sky_habit([SkyWord.WET] * 30).share
    assert expected_words(SkyWord.WET, steady, 0)[WORDS.index(SkyWord.WET)] == 1
    near, far = (expected_words(SkyWord.WET, steady, days)[WORDS.index(SkyWord.WET)] for days in (1, 7))
    assert near > far > 0
    assert expected_words(None, steady, 3).sum() == pytest.approx(1)


def test_wear_counts_what_was_drawn_and_how_deep():
    points = [(at(day, hour), level) for day in range(4) for hour, level in ((7, 60.0), (16, 100.0))]
    known = wear(points, 100.0, 65.0, Zone("UTC"))
    assert known.cycles == pytest.approx(1.2)
    assert known.worst_depth == pytest.approx(0.4)
    assert known.below == 4
    assert known.last_full == at(3, 16)
    assert bank_wear(RIG, track(RIG, EVENINGS, at(11, 21))["house"]) is not None


def test_the_same_question_has_the_same_answer():
    first, second = (energy_ahead(*ahead_of()) for _ in range(2))
    assert first == second
    ahead, tracked = ahead_of()
    assert np.isfinite(energy_ahead(replace(ahead, seed=2), tracked).low.p50)


def test_an_unlogged_bank_has_no_past():
    nothing = Log((Day(date=START),))
    assert energy_past(RIG, nothing, track(RIG, nothing, at(0, 21))["house"], at(0, 21), 14) == []
