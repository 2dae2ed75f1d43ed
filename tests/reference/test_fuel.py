"""Gas, heat and fuel against the outside: fuels' heat and weight, vapour pressure, degree-days, a small van by hand.

Sources stand beside each check. From memory: NFPA 58 annex, the US EIA's unit converters, GREET's lower heating values.
"""

from dataclasses import replace

import numpy as np
import pytest
from CoolProp.CoolProp import PropsSI

from lodeline.core.catalogue import APPLIANCE_KINDS, STORE_KINDS, Body, Insulation
from lodeline.core.conditions import Conditions
from lodeline.core.energy import heat, vapour
from lodeline.core.figures import Fuel, Heat
from lodeline.core.fuel import engines
from lodeline.core.fuel.burns import burns
from lodeline.core.log import Event, Log
from lodeline.core.warmth import HeatGear
from tests.builders import FUEL, START, at
from tests.winter import BOTTLE, GEAR, a_day, a_winter_rig, burner

KJ_PER_BTU, KWH_PER_BTU = 1.055056, 0.000293071
L_PER_GAL, KG_PER_LB = 3.785411784, 0.45359237
ROOM = {each.id: each for kind in ("gas", "fuel") for each in STORE_KINDS[kind].contents}


def test_heating_values_are_those_of_the_tables():
    # NFPA 58 annex (memory): 91,502 Btu a US gallon of propane, 4.20 lb/gal: upper value; the lower is 0.921 of it
    # (hydrogen of C3H8: 0.182 x 8.94 kg of water a kg, at 2.44 MJ/kg, of 50.3 MJ/kg)
    upper = 91_502 * KWH_PER_BTU / (4.20 * KG_PER_LB)
    assert upper == pytest.approx(14.0, rel=0.02)
    assert ROOM["propane"].kwh_per_unit == pytest.approx(upper * (1 - 0.182 * 8.94 * 2.44 / 50.3), rel=0.02)
    # EIA (memory): diesel 137,381, petrol 120,214 Btu/gal, upper; GREET (memory): lower 128,450 and 113,602
    for fuel, lower, whole in (("diesel", 128_450, 137_381), ("petrol", 113_602, 120_214)):
        assert ROOM[fuel].kwh_per_unit == pytest.approx(lower * KWH_PER_BTU / L_PER_GAL, rel=0.02)
        assert ROOM[fuel].kwh_per_unit < whole * KWH_PER_BTU / L_PER_GAL
    # butane: 45.7 MJ/kg lower (common tables, memory)
    assert ROOM["butane"].kwh_per_unit == pytest.approx(45.7 / 3.6, rel=0.02)


def test_liquid_gas_weighs_what_the_tables_say():
    # NFPA 58 annex (memory): 4.20 lb/gal at 60 degF; and a thermophysical library at 15.6 degC
    assert pytest.approx(4.20 * KG_PER_LB / L_PER_GAL, rel=0.02) == Fuel.propane_kg_per_l
    assert pytest.approx(PropsSI("D", "T", 288.7, "Q", 0, "Propane") / 1000, rel=0.02) == Fuel.propane_kg_per_l
    assert pytest.approx(PropsSI("D", "T", 288.7, "Q", 0, "n-Butane") / 1000, rel=0.02) == Fuel.butane_kg_per_l
    # the "20 lb" bottle: 47.6 lb of water x 0.42 (NFPA 58, memory), which is about 80 % of the volume
    tank = replace(BOTTLE, tank_l=47.6 * KG_PER_LB)
    assert tank.filled_kg == pytest.approx(20 * KG_PER_LB, rel=0.05)


@pytest.mark.parametrize("celsius", [-40, -20, 0, 20])
def test_vapour_pressure_is_that_of_a_thermophysical_library(celsius):
    # CoolProp: Lemmon and others 2009 (propane), Buecker and Wagner 2006 (n-butane)
    for mine, fluid in ((vapour.propane_bar, "Propane"), (vapour.butane_bar, "n-Butane")):
        assert mine(celsius) == pytest.approx(PropsSI("P", "T", celsius + 273.15, "Q", 0, fluid) / 1e5, rel=0.006)


def test_gas_stops_where_it_boils():
    # normal boiling points, CoolProp: propane -42.1, n-butane -0.5 degC
    for share, fluid in ((1.0, "Propane"), (0.0, "n-Butane")):
        boils = PropsSI("T", "P", 101325, "Q", 0, fluid) - 273.15
        assert vapour.least_c(share) == pytest.approx(boils, abs=0.6)
    # heat that boils propane, at 0 degC
    latent = PropsSI("H", "T", 273.15, "Q", 1, "Propane") - PropsSI("H", "T", 273.15, "Q", 0, "Propane")
    assert pytest.approx(latent / 3600, rel=0.01) == Fuel.latent_wh_per_kg


def test_burnt_propane_makes_water_by_its_formula():
    # C3H8 + 5 O2 -> 3 CO2 + 4 H2O: 4 x 18.015 over 44.097
    assert pytest.approx(4 * 18.015 / 44.097, rel=0.03) == Heat.water_kg_per_kg


def test_degree_days_of_a_week_by_hand():
    # ASHRAE's definition: (base - mean) where positive; base 18 degC; a listed week
    means = [3.0, -2.5, 0.0, 18.0, 21.0, 11.5, 17.0]
    days = [Conditions(date=START, mean_c=each) for each in means]
    assert sum(day.degree_days for day in days) == pytest.approx(15 + 20.5 + 18 + 0 + 0 + 6.5 + 1)


def test_a_flame_of_12000_btu_an_hour_empties_a_small_bottle_in_nine_hours():
    # 1.2 US gal x 91,502 Btu (upper value, as such flames are rated) over 12,000 Btu/h = 9.15 h: arithmetic; this core
    # has the lower value, so a flame of the same draught burns 0.921 of the rating in it
    kg = 1.2 * 4.20 * KG_PER_LB
    rated = 12_000 * KWH_PER_BTU * ROOM["propane"].kwh_per_unit / 14.0
    flame = burner("cooker", "gas", kw=rated, hours_per_day=1.0)
    (found,) = burns(a_winter_rig(appliances=(flame,), stores=(replace(BOTTLE, capacity=kg),)), [a_day()])
    assert kg / found.per_hour == pytest.approx(9.1, rel=0.02)


def test_appliances_lie_in_the_ranges_of_common_practice():
    # common practice: two rings and two cooked meals make 9 kg last six to eight weeks; a fridge 0.27 to 0.38 kg a day
    def a_day_of(kind: str) -> float:
        each = APPLIANCE_KINDS[kind]
        return each.usual_kw * each.usual_hours / 12.9

    assert 42 <= 9.0 / a_day_of("cooker") <= 56
    assert 0.27 <= a_day_of("fridge") <= 0.38
    # diesel heaters 0.1 to 0.5 L/h: of 1 to 4.5 kW; petrol about 0.17 L/h at full in a small van
    assert [0.1 <= kw / ROOM["diesel"].kwh_per_unit <= 0.5 for kw in (1.0, 2.0, 4.5)] == [True] * 3
    assert 0.17 * ROOM["petrol"].kwh_per_unit == pytest.approx(1.5, abs=0.1)
    # a heater of 2 kW, 0.2 L/h: a 20 L can is four days and a bit
    assert 4 <= 20 * ROOM["diesel"].kwh_per_unit / (2.0 * 24) <= 4.5


def test_a_small_van_loses_what_a_hand_reckons():
    # 5.0 x 1.8 x 1.9 m inside, 2.0 m2 of single glass, fairly insulated:
    # envelope 2 (5.0 x 1.8 + 5.0 x 1.9 + 1.8 x 1.9) = 43.84 m2; walls 41.84 x 1.5 = 62.8; glass 2.0 x 5.5 = 11.0;
    # air 17.1 m3 x 1.2 /h x 0.33 = 6.8; together 80.5 W/K
    gear = HeatGear(body=Body.VAN, insulation=Insulation.FAIR, living_m=5.0, glazing_m2=2.0)
    assert heat.ua_w_per_k(gear) == pytest.approx(80.5, abs=0.2)
    # at 20 inside and 0 outside all day, with nobody and nothing on: 80.5 x 20 x 24 = 38.6 kWh, 4.9 L at 0.8 of 9.9
    flat = replace(gear, day_c=20.0, night_c=20.0, away_c=20.0)
    empty = a_winter_rig(
        heat=flat, loads=(replace(a_winter_rig().loads[0], watts=0.0),), crew=replace(a_winter_rig().crew, adults=1)
    )
    day = a_day(0.0, min_c=0.0, people=0.0)
    gains = heat.gains_w(empty, flat, day).sum()
    wanted = heat.needed(replace(empty, appliances=()), day).wanted_w.sum()
    assert wanted + gains == pytest.approx(80.5 * 20 * 24, rel=0.01)
    each = heat.per_degree_day(empty, empty.appliances[0], 9.9)
    assert each * 20 == pytest.approx(80.5 * 20 * 24 / 1000 / 0.8 / 9.9, rel=0.01)


def test_kilometres_a_litre_and_range_by_hand():
    # 420 km between two fills to the brim, 46.2 L: 9.09 km/L, 11 L per 100 km; 30 L above what must stay go 273 km
    log = Log().with_entries(
        (
            Event(at(0, 9), "fill", "diesel", to_full=True),
            Event(at(1, 10), "drive", hours=3.0, km=260.0),
            Event(at(2, 10), "drive", hours=2.0, km=160.0),
            Event(at(3, 9), "fill", "diesel", amount=46.2),
            Event(at(3, 9.01), "fill", "diesel", to_full=True),
        ),
        a_winter_rig().zone,
    )
    ways = engines.full_to_full(log, FUEL, heats=False)
    assert [each.km_per_l for each in ways.spans] == [pytest.approx(420 / 46.2)]
    assert ways.spans[0].km_per_h == pytest.approx(84.0)
    assert ways.fast_km_per_l == pytest.approx(9.09, abs=0.01)
    assert 30 * ways.spans[0].km_per_l == pytest.approx(272.7, abs=0.1)
    assert engines.full_to_full(log, FUEL, heats=True).spans == ()


def test_cooling_is_newtons_law():
    # dT/dt = -(T - T_rest) UA / C, by the closed form over nine hours
    rig, day = a_winter_rig(), a_day(-8.0, min_c=-8.0, sky=None)
    ua, held = heat.ua_w_per_k(GEAR), Heat.held_wh_per_m2k * heat.envelope_m2(GEAR)
    rest = -8.0 + float(heat.gains_w(rig, GEAR, day)[0]) / ua
    expected = rest + (19.0 - rest) * np.exp(-9 * ua / held)
    assert heat.morning_c(rig, day, 19.0, 22.0, 7.0) == pytest.approx(expected, abs=0.1)
