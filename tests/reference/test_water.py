"""Water against the outside: published floors, tables and definitions, a balance by hand, least squares.

Sources stand beside each check. Values from memory: Sphere Handbook 2018, FEMA, the US federal limit of shower heads and
WaterSense.
"""

from dataclasses import replace
from datetime import timedelta

import numpy as np
import pytest
import statsmodels.api as sm

from lodeline.core.catalogue import Toilet
from lodeline.core.figures import Use, Water
from lodeline.core.log import Log
from lodeline.core.rig import WaterGear
from lodeline.core.tracking.hypothesis import Cause, Point
from lodeline.core.water.balance import Went, balance
from lodeline.core.water.hot import heat_wh, hot_water, mixed_l, shower_l
from lodeline.core.water.jugs import by_hose, on_foot
from lodeline.core.water.learned import amounts
from lodeline.core.water.toilets import usual_uses
from tests.builders import START, a_store, at
from tests.water import CASSETTE, DRAIN, TANK, a_habit, a_water_rig, known, lived


def test_floors_are_those_that_are_published():
    # Sphere Handbook 2018 (memory): 2.5 to 3 L to drink and eat, 7.5 to 15 L for all basic needs; FEMA (memory): 1 gal
    assert (Water.survival_l, Water.survival_most_l) == (2.5, 3.0)
    assert (Water.basic_l, Water.basic_most_l) == (7.5, 15.0)
    assert pytest.approx(3.785411784) == Water.emergency_l  # NIST SP 811: the US gallon, exact
    assert Water.survival_l < Water.emergency_l < Water.basic_l


def test_a_tank_weighs_what_the_density_of_water_says():
    # 0.9982 kg/L at 20 degC (standard tables of the density of water)
    assert by_hose(120.0, 8.0).kg == pytest.approx(119.784)
    assert by_hose(120.0, 8.0).minutes == 15.0


def test_a_showers_litres_are_flow_times_minutes():
    # arithmetic; US federal limit 9.5 L/min and WaterSense 7.6 L/min (memory), five minutes
    assert shower_l(9.5, 5) == pytest.approx(47.5)
    assert shower_l(7.6, 5) == pytest.approx(38.0)
    # common practice: 15 L of hot water last about five minutes under a rig's head; a plain shower is 15 to 25 L
    assert 15 <= shower_l(Water.head_l_per_min, 4) <= 25


def test_mixed_water_is_the_balance_of_heat():
    # 10 L at 60 and so much at 15 degC make 18 L at 40: 10 x 60 + 8 x 15 = 18 x 40
    assert mixed_l(10.0, 60.0, 15.0, 40.0) == pytest.approx(18.0)
    assert mixed_l(10.0, 38.0, 15.0, 40.0) == 0.0
    # specific heat 4.187 kJ/kg K = 1.163 Wh/kg K: a litre by 50 K
    assert heat_wh(1.0, 15.0, 65.0) == pytest.approx(4187 * 50 / 3600, rel=1e-3)
    gear = WaterGear(heater_l=10.0, heater_c=65.0, heater_w=800.0, head_l_per_min=5.0, shower_min=3.0)
    found = hot_water(a_water_rig(water=gear))
    assert (found.tap_l, found.minutes, found.shower_l) == (pytest.approx(20.0), pytest.approx(4.0), 15.0)
    assert found.reheat_min == pytest.approx(60 * 581.5 / 800)


def test_trips_to_a_tap_by_hand():
    # 40 L, 20 L at once, 500 m away: two trips of 1 km at 4 km/h are 30 min, the tap 5 min, lids 5 min, pouring 6 min
    jugless = a_water_rig(jugs=())
    assert on_foot(jugless, 40.0, 0.5, 8.0).trips == 2
    assert on_foot(jugless, 40.0, 0.5, 8.0).minutes == pytest.approx(30 + 5 + 5 + 6)
    with_cart = a_water_rig(jugs=(), water=WaterGear(cart=True))
    assert on_foot(with_cart, 40.0, 0.5).trips == 1


def test_urine_is_within_the_clinical_range_and_uses_are_those_of_common_practice():
    # clinical reference range (memory): 0.8 to 2 L a day; common practice: four to five visits a day
    assert 0.8 <= Use.urine_l <= 2.0
    for kind in ("urine", "cassette", "black"):
        assert 4 <= usual_uses(a_store(kind, 20.0)) <= 5
    assert CASSETTE.kind.toilet is Toilet.CASSETTE


def _went(levels, acts, sd=1.0):
    """A history of levels at hours, with acts that move them between."""
    points = []
    for hour, level in levels:
        points.append(Point(at=at(0, hour), level=level, sd=sd, cause=Cause.USE))
        if hour in acts:
            points.append(Point(at=at(0, hour), level=acts[hour], sd=sd, cause=Cause.EVENT))
    return tuple(points)


def test_three_days_of_two_people_and_a_dog_by_hand():
    # by hand: fresh 120 to 60 L, then filled to 118, then to 98 L: 80 L drawn. Grey 4 to 40 L, emptied to 2, then to
    # 16 L: 50 L came. The crew drinks and cooks with 3.5 L each, of which 0.75 do not come back, and the dog has 1 L:
    # 6.25 L a day, 18.75 in all; of the 61.25 L left 6 in 100 dry: 3.7. So 80 - 50 - 18.75 - 3.7 = 7.6 L are left over.
    # The error of a sum of levels that are known to 1 L each is 2 L: the root of four of them.
    rig = a_water_rig(TANK, DRAIN)
    tracked = known(rig)
    fresh = replace(tracked["fresh"], history=_went([(8, 120), (44, 60), (80, 98)], {44: 118}))
    grey = replace(tracked["grey"], history=_went([(8, 4), (44, 40), (80, 16)], {44: 2}))
    found = balance(rig, Log(), {"fresh": fresh, "grey": grey}, (), at(0, 8), at(3, 8))
    parts = {part.went: part.amount for part in found.parts}
    assert (found.drawn.value, found.drawn.sd) == (80, pytest.approx(2.0))
    assert (found.filled_l, found.dumped_l) == (58, 38)
    assert parts[Went.GREY].value == 50
    assert parts[Went.DRUNK].value == pytest.approx(18.75)
    assert parts[Went.DRIED].value == pytest.approx(0.06 * 61.25)
    assert found.apart.value == pytest.approx(80 - 50 - 18.75 - 3.675)
    assert found.closes


@pytest.mark.parametrize("seed", [3, 5])
def test_learned_amounts_agree_with_least_squares_where_all_is_metered(seed):
    # statsmodels' ordinary least squares of the day's metered litres on the counts of the day
    log = lived(seed, metered=True, days=45)
    counts = {
        kind: [sum(e.count for e in day.events if e.type == kind) for day in log.days] for kind in ("dishes", "navy")
    }
    x = sm.add_constant(np.column_stack([counts["dishes"], counts["navy"]]))
    fit = sm.OLS([day.water_l for day in log.days], x).fit()
    rig = a_water_rig(habits=(a_habit("dishes", 1.5), a_habit("navy", 0.9)))
    at_end = replace(
        log, days=(*log.days, replace(log.days[-1], date=START + timedelta(days=45), events=(), readings=()))
    )
    found = {each.activity.id: each for each in amounts(rig, known(rig, Log(at_end.days[:45]))["fresh"])}
    for index, kind in enumerate(("dishes", "navy"), start=1):
        said = found[kind].each_l
        assert said.p50 == pytest.approx(fit.params[index], abs=0.15 * fit.params[index] + 2 * fit.bse[index])
        assert said.p10 < fit.params[index] + 2 * fit.bse[index]
        assert said.p90 > fit.params[index] - 2 * fit.bse[index]
