"""A bank's paths: what comes in, goes out and is thrown away adds up; lines are met when they are; the outlook counts."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lodeline.core.catalogue import Chemistry, DayStatus, SkyWord
from lodeline.core.energy.charging import hours_to_reach
from lodeline.core.energy.loads import NIGHT
from lodeline.core.energy.skies import WORDS, SkyHabit, draw_chances, mixture_spread
from lodeline.core.forecast.bank_paths import simulate_bank
from lodeline.core.forecast.change import Change
from lodeline.core.forecast.paths import Ahead, look_ahead, simulate_tank
from lodeline.core.log import OutlookDay
from lodeline.core.tracking.belief import SIZE, Belief
from lodeline.core.tracking.hypothesis import Possible
from lodeline.core.tracking.track import track
from tests.builders import (
    BANK,
    FRESH,
    START,
    a_bank,
    a_log,
    a_powered_rig,
    a_reading,
    a_rig,
    a_source,
    at,
    bank_ahead,
    forecast,
)

RIG = replace(a_powered_rig(350.0), sources=(*a_powered_rig().sources, a_source("generator", 40.0, "gen")))
LOG = a_log(
    *(a_reading(day, 0.6, "fraction", "house") for day in range(6)), sky=SkyWord.MIXED, temp_min_c=9.0, temp_max_c=19.0
)
NOW = at(5, 20.5)


def _new(tracked):
    """A bank that holds what is printed on it."""
    mean, cov = tracked.belief.mean.copy(), tracked.belief.cov.copy()
    mean[SIZE] = cov[SIZE, :] = cov[:, SIZE] = 0.0
    belief = Belief(mean, cov)
    return replace(tracked, belief=belief, parts=(Possible(1.0, belief),))


def setting(rig=RIG, log=LOG, outlook=(), now=NOW, n_paths=300, days=7) -> tuple[Ahead, object]:
    tracked = _new(track(rig, log, now)["house"])
    return bank_ahead(rig, tracked, outlook, now, 1, days, n_paths), tracked


def an_outlook(**facts) -> tuple[OutlookDay, ...]:
    return tuple(OutlookDay(date=START.fromordinal(START.toordinal() + 6 + n), **facts) for n in range(7))


def test_what_comes_in_less_what_goes_out_is_what_is_left():
    ahead, tracked = setting()
    paths = simulate_bank(ahead, tracked)
    inside = (paths.bank.hourly.min(axis=0) > 1) & (paths.start > 1)
    assert inside.sum() > 100
    left = paths.start + (paths.bank.offered - paths.bank.wasted - paths.bank.drawn).sum(axis=0)
    # but for what charging loses: 5 % of what is not used at once
    lost = left[inside] - paths.bank.hourly[-1][inside]
    assert (lost > 0).all()
    assert (lost < 0.05 * paths.bank.offered.sum(axis=0)[inside] + 0.05).all()
    assert (paths.bank.wasted >= 0).all()
    assert (paths.bank.wasted <= paths.bank.offered + 1e-3).all()


def test_contents_stay_between_empty_and_full():
    for watts in (0.0, 100.0, 4000.0):
        rig = replace(RIG, solar=(replace(RIG.solar[0], watts=max(watts, 1.0)),))
        hourly = simulate_bank(*setting(rig)).bank.hourly
        assert hourly.min() >= 0
        assert hourly.max() <= BANK.capacity * (1 + 1e-6)


def test_the_line_is_met_in_the_hour_in_which_the_contents_pass_it():
    dark = an_outlook(sky=SkyWord.WET)
    ahead, tracked = setting(outlook=dark)
    paths = simulate_bank(ahead, tracked)
    met = np.isfinite(paths.reached_days)
    assert met.mean() > 0.5
    line = BANK.line_level
    for path in np.flatnonzero(met)[:60]:
        row = int(np.argmax(paths.bank.hourly[:, path] <= line))
        hours = paths.reached_days[path] * 24
        assert paths.bank.hours_ahead[row] - 1 - 1e-6 <= hours <= paths.bank.hours_ahead[row] + 1e-6
        assert row == 0 or paths.bank.hourly[row - 1, path] > line
    assert (paths.bank.hourly[:, ~met][: 24 * ahead.n_days].min(axis=0) > line).all()


def test_midnights_are_rows_of_the_hours():
    ahead, tracked = setting()
    paths = simulate_bank(ahead, tracked)
    assert paths.midnight.shape == (ahead.n_days, ahead.n_paths)
    first = round(24 - ahead.hour + 0.5) - 1
    assert (paths.midnight[0] == paths.bank.hourly[first]).all()
    assert (paths.midnight[1] == paths.bank.hourly[first + 24]).all()


@pytest.mark.parametrize(
    "facts", [{"hours": {"shore": 5.0}}, {"hours": {"generator": 1.5}}, {"status": DayStatus.HOOKUP}]
)
def test_planned_charging_lifts_the_bank_and_never_lowers_it(facts):
    plain, charged = (simulate_bank(*setting(outlook=an_outlook(sky=SkyWord.OVERCAST, **more))) for more in ({}, facts))
    assert (charged.bank.hourly >= plain.bank.hourly - 1e-3).all()
    assert charged.midnight[2].mean() > plain.midnight[2].mean() + 5


def test_a_run_tried_out_is_the_run_that_the_outlook_plans():
    ahead, tracked = setting(outlook=an_outlook(sky=SkyWord.OVERCAST))
    push = np.zeros((len(ahead.days), 24))
    push[1:, 17:19] = 40.0
    tried = simulate_bank(ahead, tracked, change=Change(push=push))
    planned = simulate_bank(*setting(outlook=an_outlook(sky=SkyWord.OVERCAST, hours={"generator": 2.0})))
    assert tried.bank.hourly == pytest.approx(planned.bank.hourly, abs=0.01)


def test_a_cloudier_outlook_and_colder_days_never_give_more():
    rows = [simulate_bank(*setting(outlook=an_outlook(sky=word))).midnight[4].mean() for word in WORDS]
    assert rows == sorted(rows, reverse=True)
    mild, cold = (
        simulate_bank(
            *setting(outlook=an_outlook(sky=SkyWord.MIXED, temp_min_c=low, temp_max_c=low + 8))
        ).bank.full_day.mean()
        for low in (10.0, -5.0)
    )
    # of its loads none is a heater's fan: what cold adds is what the cells give less of
    assert cold > mild


def test_a_wider_record_widens_the_range_of_days():
    narrow, wide = (
        forecast(RIG, LOG, an_outlook(sky=SkyWord.WET), NOW, days=14, spread_scale={"house": factor}).of("house")
        for factor in (0.7, 1.4)
    )
    assert wide.p90_days is None or wide.p90_days - wide.p10_days > narrow.p90_days - narrow.p10_days


def test_the_same_chance_falls_on_a_changed_rig():
    ahead, tracked = setting()
    more = replace(ahead, rig=replace(RIG, solar=(*RIG.solar, replace(RIG.solar[0], id="two", watts=100.0))))
    plain, changed = simulate_bank(ahead, tracked), simulate_bank(more, tracked)
    assert (changed.bank.hourly >= plain.bank.hourly - 1e-3).all()
    assert changed.bank.drawn == pytest.approx(plain.bank.drawn)


@settings(max_examples=40, deadline=None)
@given(st.floats(0.05, 0.6), st.floats(0.05, 0.35), st.floats(5, 200))
def test_more_current_is_never_slower_and_a_higher_level_never_sooner(start, step, amps):
    store = a_bank(Chemistry.AGM, 200.0)
    level, target = start * 200, (start + step) * 200
    assert hours_to_reach(store, level, target, amps + 5) <= hours_to_reach(store, level, target, amps) + 1e-9
    assert hours_to_reach(store, level, target + 5, amps) > hours_to_reach(store, level, target, amps)


def test_chances_are_drawn_around_the_habit_and_tighter_with_more_days():
    rng = np.random.default_rng(3)
    few, many = (draw_chances(SkyHabit((0.5, 0.3, 0.15, 0.05), 0.5, days), 4000, rng) for days in (10.0, 1000.0))
    assert few.sum(axis=0) == pytest.approx(np.ones(4000))
    assert few.mean(axis=1) == pytest.approx([0.5, 0.3, 0.15, 0.05], abs=0.02)
    assert many[0].std() < 0.3 * few[0].std()


def test_the_spread_of_a_mixture_is_that_of_draws():
    # by drawing: a word by its chance, then its share with its own spread
    rng = np.random.default_rng(5)
    chance, shares, spreads = (
        np.array([0.4, 0.3, 0.2, 0.1]),
        np.array([1.0, 0.65, 0.25, 0.13]),
        np.array([0.1, 0.3, 0.4, 0.5]),
    )
    words = rng.choice(4, 400_000, p=chance)
    drawn = shares[words] * (1 + spreads[words] * rng.standard_normal(400_000))
    assert mixture_spread(chance, shares, spreads) == pytest.approx(drawn.std(), rel=0.01)


def test_a_store_that_moves_one_way_meets_its_line_by_its_sums():
    rig = a_rig(FRESH)
    log = a_log(*(a_reading(day, 90.0 - 8 * day) for day in range(6)))
    tracked = track(rig, log, at(5, 20.0))["fresh"]
    ahead = look_ahead(rig, at(5, 20.0), tracked.hour, bank_days(rig, tracked), 400, 1)
    paths = simulate_tank(ahead, tracked)
    for path in range(0, 400, 20):
        met = paths.reached_days[path]
        after = [24 - ahead.hour + 24 * index for index in range(ahead.n_days)]
        below = [
            hour / 24
            for hour, level in zip(after, paths.midnight[:, path], strict=True)
            if level <= FRESH.line_level + 1e-3
        ]
        if np.isfinite(met) and below:
            assert met <= below[0] + 1e-6
            assert met > below[0] - 1 - 1e-6


def bank_days(rig, tracked):
    from lodeline.core.conditions import coming

    return coming(rig, (), tracked.conditions, 14)


def test_night_has_thirteen_hours():
    assert NIGHT.sum() == 13
