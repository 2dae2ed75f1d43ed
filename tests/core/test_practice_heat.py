"""Small logbooks of gas, heat and fuel with an answer that follows on paper."""

from dataclasses import replace
from datetime import date

import pytest
from CoolProp.CoolProp import PropsSI

from lodeline.core.catalogue import SkyWord
from lodeline.core.energy import heat, vapour
from lodeline.core.figures import Fuel
from lodeline.core.log import OutlookDay
from lodeline.core.stops.plan import Wanted
from lodeline.core.stops.planner import plan
from lodeline.core.warmth import HeatGear
from tests.builders import FUEL, GAS, a_log, a_reading, a_rig, at, forecast, known_at
from tests.stops import HERE, a_spot, together_of
from tests.winter import a_day, burner

TANK = replace(FUEL, capacity=200.0)
KWH_PER_L = TANK.kwh_per_unit


def burnt_a_day(celsius, *heaters, **more):
    """Litres a day of a rig in steady dull weather, by what is said to burn."""
    rig = a_rig(replace(TANK, **more.pop("tank", {})), appliances=heaters, **more)
    log = a_log(a_reading(0, 0.9, "fraction", "diesel"), temp_min_c=celsius, temp_max_c=celsius, sky=SkyWord.OVERCAST)
    ahead = tuple(
        OutlookDay(date=date(2026, 6, 1 + n), temp_min_c=celsius, temp_max_c=celsius, sky=SkyWord.OVERCAST)
        for n in range(1, 14)
    )
    return forecast(rig, log, ahead, at(0, 20)).of("diesel").rate_per_day


# ---- hours of a heater


@pytest.mark.parametrize(("kw", "hours"), [(2.0, 8.0), (2.0, 4.0), (4.0, 6.0), (3.0, 12.0)])
def test_hours_of_heating_are_those_of_a_day_of_frost(kw, hours):
    # 2 kW for 8 h are 16 kWh, over 9.9 kWh a litre 1.6 L, at 0 degC
    said = burner("heater", "diesel", kw=kw, hours_per_day=hours)
    assert burnt_a_day(0.0, said) == pytest.approx(kw * hours / KWH_PER_L, rel=0.12)


@pytest.mark.parametrize("hours", [8.0, 16.0, 24.0])
@pytest.mark.parametrize("celsius", [0.0, -15.0, -30.0])
def test_no_heater_burns_more_than_its_power_all_day(hours, celsius):
    # 2 kW x 24 h / 9.9 = 4.85 L
    said = burner("heater", "diesel", kw=2.0, hours_per_day=hours)
    assert burnt_a_day(celsius, said) <= 2.0 * 24 / KWH_PER_L + 0.01
    assert burnt_a_day(celsius - 5, said) >= burnt_a_day(celsius, said) - 0.01


# ---- the same van, however it is described


@pytest.mark.parametrize("celsius", [10.0, 5.0, 0.0])
def test_the_same_van_burns_the_same_whoever_described_it(celsius):
    # the plate of a heater is a limit and no measure: a van of fair insulation loses what it loses
    two, five = (burner("heater", "diesel", kw=kw) for kw in (2.5, 5.0))
    told = [burnt_a_day(celsius, two), burnt_a_day(celsius, five), burnt_a_day(celsius, five, heat=HeatGear())]
    assert told == pytest.approx([told[0]] * 3, rel=0.05)


def test_a_usual_van_at_freezing_by_hand():
    # 68 W/K by its usual size; 17.3 degC inside over 0, with 22 h of the day's gains of two people and light: some 3 L
    ua = heat.ua_w_per_k(HeatGear())
    rig = a_rig(TANK, appliances=(burner("heater", "diesel", kw=4.0),))
    day = a_day(0.0, min_c=0.0)
    wanted_wh = float(heat.needed(rig, day).given_w.sum())
    assert wanted_wh == pytest.approx(ua * 17.3 * 24 - heat.gains_w(rig, HeatGear(), day).sum(), rel=0.1)
    assert burnt_a_day(0.0, burner("heater", "diesel", kw=4.0)) == pytest.approx(
        wanted_wh / 1000 / 0.8 / KWH_PER_L, rel=0.1
    )


@pytest.mark.parametrize("held_c", [None, 5.0, 8.0])
def test_with_nobody_aboard_it_is_off_or_held_against_frost(held_c):
    # at -5 degC outside: off burns nothing; 5 degC inside is ten degrees of some 22 that people want
    rig = a_rig(TANK, appliances=(burner("heater", "diesel", kw=4.0),), heat=HeatGear(away_c=held_c))
    there, away = (heat.needed(rig, a_day(-5.0, people=people)).given_w.sum() for people in (2.0, 0.0))
    if held_c is None:
        assert away == 0.0
    else:
        assert away / there == pytest.approx((held_c + 5) / 24, abs=0.2)


# ---- gas in the cold


def bottle(fuel, *lows, **more):
    """A bottle outside with 7.2 kg, and the coming nights."""
    store = replace(GAS, fuel=fuel, outside=True, **more)
    log = a_log(a_reading(0, 14.7, "gross", "gas"), temp_min_c=lows[0], temp_max_c=lows[0] + 6)
    ahead = tuple(
        OutlookDay(date=date(2026, 6, 2 + n), temp_min_c=low, temp_max_c=low + 6) for n, low in enumerate(lows)
    )
    rig = a_rig(store, appliances=(burner("cooker", "gas"),))
    return forecast(rig, log, ahead, at(0, 20))


@pytest.mark.parametrize("low_c", [-3.0, -8.0, -20.0])
def test_butane_outside_in_the_frost_is_not_there_that_night(low_c):
    # butane boils at -0.5 degC; the coldest hour is nine hours away
    ahead = bottle("butane", *[low_c] * 10)
    assert ahead.of("gas").p50_days == pytest.approx(9 / 24, abs=0.01)
    assert ahead.autonomy.store == "gas"
    assert ahead.autonomy.p50_days == pytest.approx(9 / 24, abs=0.01)


@pytest.mark.parametrize("night", [1, 3, 5])
def test_a_frost_later_in_the_week_ends_a_mild_one(night):
    lows = [8.0] * 6
    lows[night] = -9.0
    assert bottle("butane", *lows).of("gas").p50_days == pytest.approx(night + 9 / 24, abs=0.01)


@pytest.mark.parametrize(
    ("fuel", "low_c", "inside"), [("propane", -20.0, False), ("butane", 6.0, False), ("butane", -8.0, True)]
)
def test_what_burns_in_the_cold_or_stands_warm_is_there(fuel, low_c, inside):
    more = {"outside": False} if inside else {}
    store = replace(GAS, fuel=fuel, **more)
    log = a_log(a_reading(0, 14.7, "gross", "gas"), temp_min_c=low_c, temp_max_c=low_c + 6)
    lows = tuple(OutlookDay(date=date(2026, 6, 2 + n), temp_min_c=low_c, temp_max_c=low_c + 6) for n in range(14))
    ahead = forecast(a_rig(store, appliances=(burner("cooker", "gas"),)), log, lows, at(0, 20)).of("gas")
    assert ahead.p50_days is None or ahead.p50_days > 10


def a_plan(fuel, kg, *lows):
    """What to do about a bottle outside with so much in it, where a shop nearby has gas."""
    rig = a_rig(replace(GAS, fuel=fuel, outside=True), appliances=(burner("cooker", "gas"),))
    logged = [a_reading(n, round(7.5 + kg + 0.1 * (3 - n), 1), "gross", "gas", hour=7.0) for n in range(4)]
    log = a_log(*logged, days=4, place=HERE, temp_min_c=8, temp_max_c=14)
    ahead = tuple(
        OutlookDay(date=date(2026, 6, 4 + n), temp_min_c=low, temp_max_c=low + 6) for n, low in enumerate(lows)
    )
    book = (a_spot("shop", "gas", prices={"gas": 3.0}),)
    joint = together_of(known_at(rig, log, at(3, 8), outlook=ahead, book=book), 7).joint
    return plan(joint, book, Wanted(days=7))


@pytest.mark.parametrize(
    ("fuel", "kg", "low_c", "stops", "helpless"),
    [
        # enough for 50 days, all of it there
        ("propane", 5.0, -8.0, 0, ()),
        ("mix", 5.0, 4.0, 0, ()),
        # 30 % propane: at -8 degC a full bottle burns, the last quarter of one does not; a full one is fetched before
        ("mix", 2.2, -8.0, 1, ()),
        # no bottle of butane burns then, a full one neither
        ("butane", 5.0, -8.0, 0, ("gas",)),
    ],
)
def test_the_plan_knows_what_the_cold_locks_in(fuel, kg, low_c, stops, helpless):
    made = a_plan(fuel, kg, 4.0, 4.0, 4.0, low_c, low_c, 4.0, 4.0)
    assert (len(made.stops), tuple(store.id for store in made.helpless)) == (stops, helpless)
    assert all(stop.arrive < at(7, 5) for stop in made.stops)
    if not helpless:
        assert made.p_crossed < 0.1


def test_a_mix_holds_out_longer_and_ends_as_butane():
    # 30 % propane: full it boils down to -21 degC, at the end near butane's
    share = Fuel.mix_propane
    assert vapour.least_c(share) == pytest.approx(-21, abs=1.5)
    assert vapour.line_in_cold(replace(GAS, fuel="mix"), -10.0) > vapour.line_in_cold(replace(GAS, fuel="mix"), -3.0)
    assert vapour.line_in_cold(replace(GAS, fuel="mix"), -30.0) == pytest.approx(GAS.capacity)
    assert vapour.line_in_cold(replace(GAS, fuel="butane"), 2.0) == pytest.approx(GAS.line_level)


# ---- vapour


@pytest.mark.parametrize("celsius", [-30, -10, 10, 30])
def test_vapour_pressure_lies_within_a_hundredth_of_fluid_data(celsius):
    # CoolProp's reference equations; Antoine's constants in use lie 2 to 3 % above them
    for mine, fluid in ((vapour.propane_bar, "Propane"), (vapour.butane_bar, "n-Butane")):
        assert mine(celsius) == pytest.approx(PropsSI("P", "T", celsius + 273.15, "Q", 1, fluid) / 1e5, rel=0.01)


def test_boiling_takes_its_heat():
    # 375 kJ/kg at 0 degC
    assert pytest.approx(375 / 3.6, rel=0.01) == Fuel.latent_wh_per_kg
