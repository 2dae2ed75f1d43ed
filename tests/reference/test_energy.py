"""Energy arithmetic: IEEE 1013 and 1562, IEC 61724-1 terms, ratings, and one winter day worked by hand."""

from dataclasses import replace
from datetime import UTC, date, datetime

import numpy as np
import pytest
from scipy import stats

from lodeline.core.catalogue import CELLS, Chemistry, SkyWord, When
from lodeline.core.conditions import Conditions
from lodeline.core.energy import bank
from lodeline.core.energy.bank import RatingUnit
from lodeline.core.energy.charging import hours_to_reach
from lodeline.core.energy.skies import SHARES, SkyHabit
from lodeline.core.energy.solar import clear_yield_wh, final_yield_h, performance_ratio
from lodeline.core.figures import SHEETS
from lodeline.core.forecast.bank_paths import simulate_bank
from lodeline.core.forecast.paths import look_ahead
from lodeline.core.log import Log, Place
from lodeline.core.rig import Load
from lodeline.core.tracking.belief import COEFFICIENTS, Belief, at_least_update
from lodeline.core.tracking.hypothesis import Possible
from lodeline.core.tracking.track import track
from tests.builders import a_bank, a_log, a_powered_rig


def test_days_of_autonomy():
    # IEEE 1013 and 1562: usable capacity over daily load, no sun. 2 x 110 Ah of lead at 12 V, half usable, 440 Wh a day
    assert bank.days_of_autonomy(220 * 12 * 0.5, 440) == pytest.approx(3.0)


@pytest.mark.parametrize(
    ("amount", "unit", "nominal_v", "cell_v", "ah"),
    [
        (20_000, RatingUnit.MAH, 12.0, 3.7, 6.17),  # a power bank: 74 Wh, whatever its print says
        (1024, RatingUnit.WH, 12.8, None, 80.0),  # a power station
        (2.4, RatingUnit.KWH, 24.0, None, 100.0),
        (225, RatingUnit.AH, 12.0, 6.0, 112.5),  # amp-hours at 6 V are half as many at 12 V
    ],
)
def test_ratings_are_compared_by_watt_hours(amount, unit, nominal_v, cell_v, ah):
    assert bank.rating_ah(amount, unit, nominal_v, cell_v) == pytest.approx(ah, abs=0.005)


def test_yields_of_a_day_by_their_definitions():
    # IEC 61724-1: 1,350 Wh from 540 W on a day of 3.6 kWh/m2 on the plane
    final = final_yield_h(1350, 540)
    assert final == pytest.approx(2.5)
    assert performance_ratio(final, 3.6) == pytest.approx(0.694, abs=0.0005)


def test_a_heavy_draw_costs_lead_more_than_its_amp_hours():
    # Peukert 1897: 100 Ah at 20 h, k 1.25, 40 A for half an hour: t = 20 (100/800)^1.25 = 1.487 h; 0.5 / 1.487 of 100 Ah
    store = a_bank(Chemistry.FLOODED)
    assert bank.peukert_ah(store, 40.0, 0.5) == pytest.approx(33.6, abs=0.1)
    assert bank.peukert_ah(store, 4.0, 0.5) == pytest.approx(2.0)


@pytest.mark.parametrize("chemistry", [Chemistry.AGM, Chemistry.FLOODED, Chemistry.GEL])
@pytest.mark.parametrize("amps", [25.0, 60.0])
def test_the_last_fifth_of_a_lead_bank_takes_three_to_four_hours_whatever_the_charger(chemistry, amps):
    # common practice; "full" is taken as 98.5 %
    store = a_bank(chemistry)
    assert 3.0 <= hours_to_reach(store, 80.0, 98.5, amps) <= 4.2


def test_charging_for_the_hours_to_a_level_gets_there():
    store = a_bank(Chemistry.AGM, 200.0)
    cells, step_h = bank.cells(store), 1e-3
    for target in (90.0, 150.0, 185.0):
        level = 80.0
        # a charger step by step: its current, or what the room left takes over the taper's time constant
        for _ in range(round(hours_to_reach(store, level, target, 30.0) / step_h)):
            level += step_h * min(30.0 * cells.coulombic, (store.capacity - level) / cells.taper_h)
        assert level == pytest.approx(target, abs=0.1)
    assert hours_to_reach(store, 80.0, 200.0, 30.0) == float("inf")


@pytest.mark.parametrize(("celsius", "low", "high"), [(0.0, 0.80, 0.85), (-18.0, 0.60, 0.60)])
def test_lead_in_the_cold(celsius, low, high):
    # common practice: 80 to 85 % at 0 degrees C, 60 % at -18
    store = a_bank(Chemistry.AGM)
    assert low - 1e-9 <= bank.cold_share(store, celsius) <= high + 1e-9


def test_lfp_in_the_cold():
    # common practice: 80 % at -10 degrees C, and no charge below 0
    store = a_bank(Chemistry.LFP, volts=12.8)
    assert bank.cold_share(store, -10.0) == pytest.approx(0.8)
    outside = replace(store, kept_warm=False)
    assert bank.takes_charge(outside, -6.0, -10.0).sum() == 0
    assert 0 < bank.takes_charge(store, -6.0, -10.0).sum() < 24  # nobody said where it sits
    assert bank.takes_charge(store, 6.0, 2.0).sum() == 24
    assert bank.takes_charge(replace(store, kept_warm=True), -6.0, -10.0).sum() == 24


def test_every_figure_has_a_source_and_every_chemistry_its_cells():
    assert all(each.source and each.meaning for sheet in SHEETS for each in sheet.rows.values())
    assert set(CELLS) == set(Chemistry)


def test_a_winter_day_hour_by_hour_by_hand():
    """200 Ah of LFP at 12.8 V from 60 % at midnight: 20 W all day, 60 W from 18 to 23, an overcast December sky.

    By hand, hour by hour, in Ah: level += sun - load, and 0.95 of what is left over. The sun is the clear hour x 0.32; at
    5 degrees C, five under the mild range, every load is 5 % more: its coefficient is 1 here. What never sleeps is 0.02 A
    at 12.8 V and 2.5 % of 2,560 Wh in a month, 0.256 and 0.089 W. Kept at 10 degrees C the cells give 95 % of their
    capacity, so that what is drawn takes so much more of it.
    """
    loads = (Load("fridge", "Fridge", 20.0, 24.0), Load("lights", "Lights", 60.0, 13.0, when=When.NIGHT))
    rig = replace(a_powered_rig(300.0), loads=loads, sources=())
    rig = replace(rig, stores=(replace(rig.stores[0], kept_warm=True),))
    on, place = date(2026, 12, 21), Place("Somewhere", 45.0, 0.0)
    clear = clear_yield_wh(rig, place, on, 5.0, 2.0)
    level, expected = 120.0, []
    for hour in range(24):
        load_wh = 1.05 * (20.0 + 0.345 + (60.0 if hour >= 18 or hour < 7 else 0.0))
        net_wh = 0.32 * clear[hour] - load_wh
        level += (0.95 * net_wh if net_wh > 0 else net_wh) / 12.8 / 0.95
        expected.append(level)
    now = datetime(2026, 12, 21, tzinfo=UTC)
    tracked = track(rig, Log((*a_log().days[:0],)), now)["house"]
    mean = np.zeros(len(tracked.belief.mean))
    mean[0], mean[COEFFICIENTS] = 120.0, 1.0
    mean[COEFFICIENTS.stop - 1] = 0.0  # the place adds nothing
    belief = Belief(mean, np.eye(len(mean)) * 1e-12)
    sure = replace(
        tracked,
        belief=belief,
        parts=(Possible(1.0, belief),),
        known_since=now,
        sky_spread=1e-6,
        spread=1e-6,
        usual_sky=SkyHabit((0.0, 0.0, 1.0, 0.0), 0.5, 1e9),
        hour=0.0,
        model=replace(tracked.model, drift=0.0),
        conditions=Conditions(date=on, place=place, sky=SkyWord.OVERCAST, mean_c=5.0, min_c=2.0, people=2.0),
    )
    day = Conditions(date=on, place=place, mean_c=5.0, min_c=2.0, people=2.0)
    paths = simulate_bank(look_ahead(rig, now, 0.0, [day, day], 50, 1), sure).bank
    assert paths is not None
    assert np.median(paths.hourly[:24], axis=1) == pytest.approx(np.array(expected), abs=0.02)
    assert SHARES[2] == 0.32


@pytest.mark.parametrize("bound", [2.0, 10.0, 16.0])
def test_a_yield_that_is_only_a_lower_bound_is_the_truncated_posterior(bound):
    # one coefficient c ~ N(1, 0.2), y = 10 c + noise (sd 1), y >= bound: moments of c by integration over scipy's normals
    prior = Belief(np.array([0.0, 1.0, 0.0]), np.diag([1.0, 0.04, 0.0]))
    after = at_least_update(prior, np.array([0.0, 10.0, 0.0]), bound, 1.0)
    grid = np.linspace(-0.5, 2.5, 40_001)
    weight = stats.norm.pdf(grid, 1.0, 0.2) * stats.norm.sf(bound, 10 * grid, 1.0)
    weight /= weight.sum()
    mean = weight @ grid
    assert after.mean[1] == pytest.approx(mean, abs=1e-3)
    assert after.cov[1, 1] == pytest.approx(weight @ (grid - mean) ** 2, rel=0.01)
