"""Small logbooks of water with an answer that follows on paper: showers ashore, tanks that count as one, one laundry."""

from dataclasses import replace

import numpy as np
import pytest

from lodeline.core.catalogue import ACTIVITIES, DAY_KINDS
from lodeline.core.figures import Water
from lodeline.core.forecast.pool import pool_of, pooled
from lodeline.core.levers.agreed import all_together
from lodeline.core.log import Event
from lodeline.core.rig import Habit
from lodeline.core.tracking.track import track
from tests.builders import FRESH, a_fill, a_log, a_reading, a_rig, a_store, at, forecast, known_at

TANK = replace(FRESH, capacity=400.0)
FRONT, REAR = (a_store("fresh", 100.0, id, name=f"{id.capitalize()} tank") for id in ("front", "rear"))


def showering(*not_on, per_day=2.0):
    """A crew that showers aboard on the other weekdays, and its dishes."""
    return (
        Habit(activity=ACTIVITIES["shower"], per_day=per_day, each_l=20.0, not_on=frozenset(not_on)),
        Habit(activity=ACTIVITIES["dishes"], per_day=1.0, each_l=5.0),
    )


# ---- showers ashore


@pytest.mark.parametrize("not_on", [(0, 2, 4), (5, 6), (0, 1, 2, 3, 4)])
def test_showers_ashore_spare_their_days_before_any_is_logged(not_on):
    # two showers of 20 L on the other days: on those ashore 40 L less go
    rig = a_rig(TANK, habits=showering(*not_on))
    ahead = forecast(rig, a_log(a_fill(0, hour=20)), (), at(0, 20), days=8).of("fresh")
    left = [band.p50 for band in ahead.daily]
    used = {band.date.weekday(): before - band.p50 for before, band in zip(left, ahead.daily[1:], strict=False)}
    ashore = [used[day] for day in used if day in not_on]
    aboard = [used[day] for day in used if day not in not_on and used[day] > 0]
    assert np.mean(ashore) == pytest.approx(np.mean(aboard) - 40, abs=6)


@pytest.mark.parametrize(("not_on", "share"), [((), 1.0), ((0, 2, 4), 4 / 7), ((6,), 6 / 7)])
def test_a_week_with_showers_ashore_takes_less_by_those_days(not_on, share):
    # drinking 7, hands 6, dishes 5 and 40 L of showers on so many of seven days
    rig = a_rig(TANK, habits=showering(*not_on))
    rate = forecast(rig, a_log(a_fill(0, hour=20)), (), at(0, 20)).of("fresh").rate_per_day
    assert rate == pytest.approx(18 + 40 * share, rel=0.06)


def test_a_shower_that_is_logged_on_a_day_ashore_counts():
    rig = a_rig(TANK, habits=showering(0))
    wet, dry = (
        track(rig, a_log(a_fill(0, hour=9), *showers), at(0, 23))["fresh"].level
        for showers in ((Event(at(0, 18), "shower", count=1),), ())
    )
    # the first of June 2026 is a Monday
    assert wet == pytest.approx(dry - 20, abs=3)


# ---- tanks as one


@pytest.mark.parametrize("litres", [(100.0, 100.0), (60.0, 100.0), (100.0, 30.0)])
def test_two_tanks_last_as_long_as_one_of_their_size(litres):
    # what one has not got is drawn from the other: 100 and 60 L last as 160 L in one of 200
    log = a_log(a_reading(0, litres[0], store="front"), a_reading(0, litres[1], store="rear"))
    both = forecast(a_rig(FRONT, REAR), log, (), at(0, 20))
    one = forecast(a_rig(replace(FRESH, capacity=200.0)), a_log(a_reading(0, sum(litres))), (), at(0, 20))
    assert both.autonomy.p50_days == pytest.approx(one.autonomy.p50_days, rel=0.12)
    assert both.autonomy.p10_days == pytest.approx(one.autonomy.p10_days, rel=0.2)
    assert [store.id for store in both.pool] == ["front", "rear"]
    assert (both.of("front").p_first > 0.9, both.of("rear").p_first) == (True, 0.0)


def test_one_that_is_dry_sends_nobody_away_while_the_other_is_full():
    log = a_log(a_reading(0, None, "dry", "front"), a_fill(0, "rear"))
    ahead = forecast(a_rig(FRONT, REAR), log, (), at(0, 20))
    assert ahead.of("front").is_past_line
    assert ahead.autonomy.p10_days > 1
    # levers are weighed on the same
    known = known_at(a_rig(FRONT, REAR), log, at(0, 20))
    together = all_together(known, 1)
    assert np.median(together.joint.soonest()) == pytest.approx(ahead.autonomy.p50_days, rel=0.05)


def test_a_tank_alone_is_no_pool_and_a_small_one_that_flushes_is_none_of_it():
    cassette, flush = a_store("cassette", 18.0, "wc"), a_store("fresh", 15.0, "flush")
    log = a_log(a_fill(0, "front"), a_fill(0, "flush"))
    rig = a_rig(FRONT, flush, cassette)
    tracked = track(rig, log, at(0, 20))
    assert pool_of(rig, tracked) == ()
    times = {"front": np.array([3.0, 4.0]), "flush": np.array([1.0, np.inf])}
    assert pooled(rig, tracked, times, 14) == times


def test_the_pool_by_hand():
    # a tank of 2 days and one of 6, drawn from alike: 4 days; one beyond the horizon is taken to last half as long again
    rig = a_rig(FRONT, REAR)
    tracked = track(rig, a_log(a_fill(0, "front"), a_fill(0, "rear")), at(0, 20))
    times = {
        "front": np.array([2.0, 2.0, 12.0]),
        "rear": np.array([6.0, 6.0, np.inf]),
        "gas": np.array([1.0, 1.0, 1.0]),
    }
    found = pooled(rig, tracked, times, 14)
    assert set(found) == {"front", "gas"}
    assert sorted(found["front"]) == pytest.approx([4.0, 4.0, np.inf])


# ---- one figure for one thing


def test_a_load_of_laundry_is_one_figure():
    # common practice: 13 L in a small washer, more by hand
    kind, activity = DAY_KINDS["laundry"], ACTIVITIES["laundry"]
    assert kind.each_l == activity.each_l == Water.laundry_l
    assert kind.each_sd_l == activity.each_sd_l
    assert 13 <= Water.laundry_l <= 25
