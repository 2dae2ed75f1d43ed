"""The heat balance, what ends the heat, what levers buy, what one run takes."""

from dataclasses import replace

import numpy as np
import pytest

from lodeline.core.catalogue import LOAD_KINDS, Caution, Driver, Feed, Insulation, Method
from lodeline.core.checks import FanByCold, rig_checks
from lodeline.core.energy import heat
from lodeline.core.energy.loads import listed_wh
from lodeline.core.errors import Refused
from lodeline.core.forecast.appliance import Answer
from lodeline.core.forecast.charge_time import how_long
from lodeline.core.fuel import nights
from lodeline.core.fuel.burns import burns, fitted, held, learned_ua_w_per_k
from lodeline.core.fuel.cautions import cautions_of
from lodeline.core.fuel.run import BurnAsk, can_burn
from lodeline.core.levers.heat import heat_levers
from lodeline.core.levers.lever import Aboard
from lodeline.core.levers.nights import bought as bought_of
from lodeline.core.levers.nights import drawn_colder
from lodeline.core.log import Event, Log, Reading
from lodeline.core.rig import Load, WaterGear
from lodeline.core.tracking.track import track
from lodeline.core.warmth import HeatGear, Quiet
from tests.builders import a_rig, a_source, a_store, at
from tests.winter import (
    BANK,
    BOTTLE,
    COOKER,
    DAYS,
    DIESEL,
    GEAR,
    HEATER,
    NOW,
    a_day,
    a_winter_rig,
    burner,
    days_ahead,
    evening,
    frozen,
    heat_of,
    known,
)


def burnt(rig, day, **more):
    return float(heat.needed(rig, day, **more).given_w.sum())


def test_colder_warmer_inside_and_worse_insulation_each_ask_for_more_heat():
    rig, day = a_winter_rig(), a_day()
    usual = burnt(rig, day)
    assert burnt(rig, a_day(-9.0)) > usual
    assert burnt(replace(rig, heat=replace(GEAR, day_c=22.0)), day) > usual
    assert burnt(replace(rig, heat=replace(GEAR, insulation=Insulation.POOR)), day) > usual
    assert burnt(rig, a_day(sky=None, people=1.0)) > burnt(rig, a_day(sky=None, people=4.0))
    # with nobody aboard it is off, or held against frost as the crew says
    assert burnt(rig, a_day(people=0.0)) == 0.0
    assert 0.0 < burnt(replace(rig, heat=replace(GEAR, away_c=5.0)), a_day(people=0.0)) < usual


def test_a_heater_gives_no_more_than_its_power_and_says_where_that_does_not_reach():
    rig = a_winter_rig()
    deep = heat.needed(rig, a_day(-30.0))
    assert deep.falls_short
    assert deep.given_w.max() == pytest.approx(2500 * HEATER.useful)
    held_c = heat.coldest_held_c(rig, 18.0, a_day())
    assert heat.needed(replace(rig, heat=replace(GEAR, day_c=18.0, night_c=18.0)), a_day(held_c - 6)).falls_short
    warm = replace(rig, heat=replace(GEAR, day_c=18.0, night_c=18.0))
    assert not heat.needed(warm, a_day(held_c + 6.0, min_c=held_c + 1.0)).falls_short


def test_a_heater_that_does_not_go_off_burns_at_least_its_lowest_rate_until_it_is_too_warm():
    still = replace(HEATER, lowest_kw=1.6)
    rig, mild = a_winter_rig(appliances=(still,)), a_day(8.0)
    off_and_on = a_winter_rig(appliances=(replace(HEATER, lowest_kw=None),))
    more, less = heat.needed(rig, mild), heat.needed(off_and_on, mild)
    on = less.given_w > 0
    assert (more.given_w[on] >= less.given_w[on]).all()
    assert more.given_w.sum() > less.given_w.sum()
    # by no more than makes it a little too warm
    assert (more.given_w - less.given_w).max() <= 2.0 * more.ua_w_per_k + 1e-6


def test_plugged_in_nothing_is_burnt_where_mains_heats():
    rig = a_winter_rig(heat=replace(GEAR, plugged=True))
    assert burnt(rig, a_day(hours={"shore": 24.0})) == 0.0
    assert burnt(a_winter_rig(), a_day(hours={"shore": 24.0})) > 0.0


def test_a_rig_that_did_not_say_goes_by_the_common_base():
    rig = a_winter_rig(heat=None, appliances=())
    assert heat.degree_days(rig, a_day(-4.0)) == 22.0
    assert heat.degree_days_at(rig, a_day(-4.0), np.array([0.0, 30.0])).tolist() == [22.0, 0.0]


def test_with_the_heat_off_it_cools_towards_the_outside_and_never_past_it():
    rig, day = a_winter_rig(), a_day(-8.0, min_c=-8.0)
    late, early = heat.morning_c(rig, day, 19.0, 22.0, 7.0), heat.morning_c(rig, day, 19.0, 22.0, 2.0)
    assert -8.0 < late < early < 19.0
    assert heat.morning_c(replace(rig, heat=replace(GEAR, insulation=Insulation.GOOD)), day, 19.0, 22.0, 7.0) > late


def test_a_fan_draws_from_the_bank_by_the_cold_and_is_not_counted_twice():
    rig = a_winter_rig()
    assert heat.running_wh(rig, a_day(-8.0)).sum() > heat.running_wh(rig, a_day(6.0)).sum() > 0
    assert heat.running_wh(replace(rig, appliances=(replace(HEATER, watts=None),)), a_day()).sum() == 0.0
    fan = Load("fan", "Heater fan", 25.0, 8.0, kind=LOAD_KINDS["heating"])
    twice = replace(rig, loads=(*rig.loads, fan))
    assert listed_wh(twice) == listed_wh(rig)
    assert [each.names for each in rig_checks(twice) if isinstance(each, FanByCold)] == [("Heater fan",)]
    assert listed_wh(replace(twice, appliances=())) == pytest.approx(listed_wh(rig) + 200.0)


def test_the_log_teaches_what_the_rig_loses():
    worse, better = (known(log=frozen(each)) for each in (0.25, 0.12))
    at = worse.tracked["diesel"].model.drivers.index(Driver.DEGREE_DAYS)
    slopes = [each.tracked["diesel"].belief.coefficients[at] for each in (worse, better)]
    assert slopes[0] > 1.5 * slopes[1]
    losses = [learned_ua_w_per_k(each.rig, each.tracked["diesel"]) for each in (worse, better)]
    assert losses[0].p50 > losses[1].p50
    assert losses[1].p10 < losses[1].p50 < losses[1].p90


def test_of_diesel_gas_and_bank_it_says_which_ends_the_heat_and_colder_is_sooner():
    full = known(log=frozen(bank=0.95, diesel=24.0))
    short = heat_of(full)
    assert short.first.store.id == "diesel"
    assert short.draws
    colder = heat_of(full, 10.0)
    assert colder.ends[1] < short.ends[1]
    assert colder.nights.p50 <= short.nights.p50
    empty = heat_of(known(log=frozen(bank=0.27, diesel=70.0)))
    assert empty.first.store.id == "house"
    # a heater that needs no bank goes on without it
    still = a_winter_rig(appliances=(replace(HEATER, watts=0.0), COOKER))
    alone = heat_of(known(still, frozen(bank=0.27, diesel=70.0)))
    assert not alone.draws
    assert alone.first is None or alone.first.store.id == "diesel"


def test_a_stove_burns_wood_and_needs_no_bank():
    wood = a_store("supply", 60.0, "wood", name="Wood", own_unit="kg", own_kwh=4.0)
    rig = a_winter_rig(stores=(BANK, wood), appliances=(burner("stove", "wood"),), spares=())
    log = frozen(bank=0.3)
    fed = [Event(at(n, 9), "fill", "wood", amount=9.0) for n in range(1, DAYS + 1)]
    bare = [replace(day, readings=tuple(each for each in day.readings if each.store == "house")) for day in log.days]
    log = Log(tuple(bare)).with_entries([*fed, Reading(at(DAYS, 19), "wood", Method.AMOUNT, 40.0)], rig.zone)
    found = heat_of(known(rig, log))
    assert [each.store.id for each in found.needs] == ["wood"]
    assert not found.draws
    assert found.ends[1] is not None


def test_the_heater_stops_at_its_pick_up_above_the_bottom_of_the_tank():
    deep = known(a_winter_rig(stores=(BANK, replace(DIESEL, pick_up=0.0))), frozen(bank=0.95))
    high = known(a_winter_rig(stores=(BANK, replace(DIESEL, pick_up=0.3))), frozen(bank=0.95))
    assert heat_of(high).ends[1] < heat_of(deep).ends[1]


def test_nights_are_mornings_that_come_before_the_heat_ends():
    ahead = days_ahead(evening())
    assert ahead.hour == pytest.approx(20.0, abs=2.1)
    till_seven = (31 - ahead.hour) / 24
    count = nights.nights(ahead, np.full(100, till_seven + 0.01))
    assert (count.p10, count.p50, count.p90, count.beyond) == (1, 1, 1, False)
    assert nights.nights(ahead, np.full(100, till_seven - 0.01)).p50 == 0
    assert nights.nights(ahead, np.full(100, np.inf)).beyond


def test_what_a_lever_buys_is_reckoned_for_the_whole_rig():
    everything = evening()
    now = heat_of(everything)
    levers = {each.id: each for each in heat_levers(Aboard(known=everything, ahead=days_ahead(everything)))}
    assert {"heater-down", "heat-night-off", "heat-one-room", "heat-covers", "lower-ground", "heat-hookup"} <= set(
        levers
    )
    assert set(levers["heater-down"].changes) == {"diesel", "house"}
    bought = {
        each.lever.id: each.more_days
        for each in bought_of(everything, drawn_colder(everything, 1), list(levers.values()), now)
    }
    assert bought["heat-one-room"] > bought["heat-covers"] > 0
    assert bought["heater-down"] > 0
    assert "oven-less-gas" not in bought  # the gas does not heat
    assert levers["oven-less-gas"].touches[0].helps


def test_a_cold_spell_in_the_outlook_shortens_what_is_left():
    mild, cold = (heat_of(known(log=frozen(bank=0.95), mean_c=each)) for each in (3.0, -12.0))
    assert cold.ends[1] < 0.75 * mild.ends[1]
    assert cold.strip[1].burns["diesel"].p50 > 1.5 * mild.strip[1].burns["diesel"].p50


def test_what_changes_over_burns_nothing_while_it_is_plugged_in():
    fridge = burner("fridge", "gas", driving_on=Feed.DC, plugged_on=Feed.MAINS)
    rig = a_winter_rig(appliances=(COOKER, fridge))
    parked, plugged = (burns(rig, [each]) for each in (a_day(), a_day(hours={"shore": 24.0})))
    of = {each.appliance.id: each.per_day for each in parked}
    assert of["fridge"] == pytest.approx(0.17 * 24 / 12.9)
    assert {each.appliance.id: each.per_day for each in plugged}["fridge"] == 0.0
    assert heat.running_wh(rig, a_day(hours={"alternator": 2.0})).sum() == pytest.approx(340.0)
    assert Driver.CHANGES_OVER in track(rig, frozen(), NOW)["gas"].model.drivers


def test_the_list_is_held_against_the_log_and_can_be_made_what_it_shows():
    everything = known(log=frozen(0.3, days=8))
    days = [a_day(), a_day(-2.0)]
    found = held(everything.rig, everything.tracked["diesel"], days)
    assert found.is_apart
    assert found.times > 1.15
    after = fitted(everything.rig, everything.tracked["diesel"], days)
    assert after.heat.ua_w_per_k > heat.ua_w_per_k(GEAR)
    again = held(after, track(after, everything.log, NOW)["diesel"], days)
    assert abs(again.times - 1) < abs(found.times - 1)
    with pytest.raises(Refused):
        fitted(replace(everything.rig, appliances=()), everything.tracked["diesel"], days)


def test_one_run_says_what_it_takes_and_the_banks_share():
    everything = evening()
    ahead = days_ahead(everything)
    oven = can_burn(everything, ahead, BurnAsk(appliance=everything.rig.appliances[2], hours=1.5))
    assert oven.takes == pytest.approx(2.0 * 1.5 / 12.9)
    assert (oven.bank, oven.wh) == (None, 0.0)
    assert oven.water_l == pytest.approx(1.6 * oven.takes)
    night = can_burn(everything, ahead, BurnAsk(appliance=everything.rig.appliances[0], night_c=-8.0))
    assert 0.5 < night.takes < 4.0
    assert night.bank is not None
    deeper = can_burn(everything, ahead, BurnAsk(appliance=everything.rig.appliances[0], night_c=-14.0))
    assert deeper.takes > night.takes
    long = can_burn(everything, ahead, BurnAsk(appliance=everything.rig.appliances[0], hours=150.0))
    assert long.answer is Answer.NO
    with pytest.raises(Refused):
        can_burn(everything, ahead, BurnAsk(appliance=everything.rig.appliances[0]))


def test_what_has_no_flue_never_runs_through_a_night():
    rig = a_winter_rig(appliances=(burner("unvented-heater", "gas", kw=1.5),))
    everything = known(rig)
    ahead = days_ahead(everything)
    evening, night = (
        can_burn(everything, ahead, BurnAsk(appliance=rig.appliances[0], hours=each)) for each in (1.0, 9.0)
    )
    assert (evening.answer, evening.asleep) == (Answer.YES, False)
    assert (night.answer, night.asleep) == (Answer.NO, True)
    assert night.heats


ALWAYS = {Caution.CARBON_MONOXIDE, Caution.NO_COOKER_HEAT, Caution.ESTIMATE}
GENERATOR = a_source("generator", 40.0, fuel_store="diesel", fuel_l_per_h=0.5)
ALTERNATOR = a_source("alternator", 25.0)


@pytest.mark.parametrize(
    ("rig", "said"),
    [
        (a_rig(a_store("fresh", 80.0)), set()),
        (a_rig(BOTTLE), {Caution.GAS_AT_PUMP, Caution.GAS_LICENSED}),
        (a_rig(DIESEL, sources=(ALTERNATOR,)), {Caution.FUEL_OUTSIDE}),
        (a_rig(DIESEL, sources=(GENERATOR,)), {Caution.FUEL_OUTSIDE, Caution.GENERATOR_OUTDOORS}),
        (a_rig(DIESEL, appliances=(HEATER,)), {Caution.FUEL_OUTSIDE, Caution.EXHAUST_SNOW}),
    ],
)
def test_each_caution_is_said_where_what_it_is_about_is_aboard(rig, said):
    found = cautions_of(rig)
    assert set(found) == ALWAYS | said
    # what kills unseen is said first, and nothing twice
    assert (found[0], len(found)) == (Caution.CARBON_MONOXIDE, len(set(found)))


def test_hot_water_is_litres_by_the_heat_that_they_take():
    rig = a_winter_rig(
        appliances=(COOKER, burner("water-heater", "gas", efficiency=0.5)), water=WaterGear(heater_c=65.0)
    )
    everything = known(rig)
    ask = BurnAsk(appliance=rig.appliances[1], litres=24.0)
    found = can_burn(everything, days_ahead(everything), ask)
    # 24 L x 1.163 Wh x 50 K, over a half, over 12.9 kWh/kg
    assert found.takes == pytest.approx(24 * 1.163 * (65 - 15) / 1000 / 0.5 / 12.9)


def test_no_engine_and_no_generator_is_planned_in_quiet_hours():
    loud = a_winter_rig(sources=(a_source("generator", 40.0, fuel_store="diesel", fuel_l_per_h=0.5),))
    still = replace(loud, quiet=Quiet(from_h=17.0, until_h=10.0))
    assert Quiet(from_h=22.0, until_h=8.0).covers(23.5)
    assert not Quiet(from_h=22.0, until_h=8.0).covers(12.0)
    plans = []
    for rig in (loud, still):
        everything = known(rig, frozen(bank=0.3))
        ahead = days_ahead(everything)
        through = ahead.days[1].date
        plans.append(how_long(ahead, everything.tracked["house"], rig.sources[0], 0.9, through).hold_once.hours)
    # what was enough from five in the evening is not while it must stand still until ten
    assert plans[0].p50 > 0
    assert plans[1] is None or plans[1].p50 > plans[0].p50


def test_insulation_and_body_are_told_by_size():
    assert heat.ua_w_per_k(HeatGear(living_m=6.0)) > heat.ua_w_per_k(HeatGear(living_m=4.0))
    assert heat.ua_w_per_k(HeatGear(ua_w_per_k=61.0)) == 61.0
    assert heat.ua_w_per_k(HeatGear(double_glazed=True)) < heat.ua_w_per_k(HeatGear())
