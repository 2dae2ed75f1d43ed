"""Small logbooks with an answer that follows on paper: what a gauge, a fill and a counter say of level and use."""

from dataclasses import replace

import numpy as np
import pytest

from bench.worlds.lengths import Way, live
from lodeline.core.catalogue import Chemistry, GaugeKind, Method, VoltsState
from lodeline.core.log import Event, Reading
from lodeline.core.rig import Gauge
from lodeline.core.tracking.hypothesis import DoubtKind
from lodeline.core.tracking.surprise import width
from lodeline.core.tracking.track import track
from tests.builders import FRESH, FUEL, PANEL, a_bank, a_fill, a_log, a_reading, a_rig, a_store, at, forecast

BARE = replace(FRESH, gauge=Gauge())
SENSED = replace(FRESH, gauge=Gauge(GaugeKind.SENSOR, (), 0.02))
LIT = replace(FRESH, gauge=PANEL)


def known(store, *entries, now, days=0, **facts):
    """A store of a rig with nothing else, at a time."""
    return track(a_rig(store), a_log(*entries, days=days, temp_min_c=18.0, temp_max_c=18.0, **facts), now)[store.id]


def use_of(tracked):
    return float(tracked.belief.coefficients[0])


# ---- a gauge that is right stays right


@pytest.mark.parametrize(
    ("gauge", "kind", "by_need", "n_days"),
    [
        ("sensor", "fresh", False, 120),
        ("sensor", "grey", True, 120),
        ("coarse", "grey", True, 200),
        ("sight", "fresh", False, 60),
    ],
)
def test_a_true_gauge_is_not_taught_away(gauge, kind, by_need, n_days):
    # 18 L a day of fresh water, 14 of grey, days that differ by 30 %; the truth is what was poured and drained
    outcomes = [live(Way(gauge, kind, (0.0, 0.0, 0.0), by_need), n_days, seed) for seed in range(12)]
    assert abs(np.mean([each.error for each in outcomes])) < 0.03
    assert np.mean([each.use for each in outcomes]) == pytest.approx(1.0, abs=0.1)
    assert sum(each.held for each in outcomes) >= 8


@pytest.mark.parametrize("gaps", [(2, 2, 1, 2, 3), (2, 1, 1, 2, 4), (3, 4, 2, 3)])
def test_what_only_services_tell_of_does_not_sink_over_the_months(gaps):
    # 8 L, emptied at about 0.8 of the 7.2 L to its line, by the mean of so many days: the same in summer as in spring
    store = a_store("urine", 8.0, "urine", gauge=Gauge())
    days = [sum(gaps[:n]) for n in range(len(gaps))]
    dumps = [Event(at(days[n % len(gaps)] + sum(gaps) * (n // len(gaps)), 9.0), "dump", "urine") for n in range(120)]
    mean = sum(gaps) / len(gaps)
    for months in (2, 4, 7):
        until = at(30 * months)
        told = known(store, *(each for each in dumps if each.at < until), now=until, days=30 * months)
        assert use_of(told) == pytest.approx(0.8 * 7.2 / mean, rel=0.55), months


# ---- litres that went in, and no gauge


@pytest.mark.parametrize(("every", "litres"), [(3, 60.0), (2, 40.0), (4, 72.0)])
@pytest.mark.parametrize("says_full", [True, False])
def test_use_is_what_went_in_over_the_days_between(every, litres, says_full):
    # 60 L each third day, 40 each second, 72 each fourth: 20, 20 and 18 L a day, whether or not somebody says to the brim
    fills = [Event(at(every * n, 10), "fill", "fresh", to_full=says_full, amount=litres) for n in range(1, 9)]
    after = known(BARE, a_fill(0), *fills, now=at(8 * every, 10.5))
    assert use_of(after) == pytest.approx(litres / every, rel=0.07)
    assert after.level_range[1] > 97


def test_more_fills_never_make_it_worse():
    # 60 L each third day for 25 times: 20 L a day, as after eight
    fills = [a_fill(3 * n, amount=60.0) for n in range(1, 26)]
    assert use_of(known(BARE, a_fill(0), *fills, now=at(75, 10.5))) == pytest.approx(20.0, rel=0.06)


def test_a_full_reading_after_an_amount_says_that_it_was_all_that_was_missing():
    fills = [e for n in range(1, 9) for e in (a_fill(3 * n, amount=60.0), a_reading(3 * n, None, "full", hour=10.2))]
    after = known(BARE, a_fill(0), *fills, now=at(24, 10.5))
    assert use_of(after) == pytest.approx(20.0, rel=0.04)


def test_a_can_poured_in_fills_nothing_up():
    # 20 L from a can each second day into a tank read at 40 L: 10 L a day, and never near full
    cans = [a_fill(2 * n, amount=20.0) for n in range(1, 8)]
    looks = [a_reading(2 * n, 40.0) for n in range(8)]
    after = known(FRESH, *cans, *looks, now=at(14, 21))
    assert after.level == pytest.approx(40.0, abs=5.0)
    assert use_of(after) == pytest.approx(10.0, rel=0.15)


# ---- a gauge that does not move


@pytest.mark.parametrize("n", [6, 10, 20])
def test_a_stuck_sensor_says_less_with_each_day_and_one_question_asks(n):
    # two people drink and eat 5 L a day at least: after n days at 62 % that cannot be so
    stuck = known(SENSED, a_fill(0), *(a_reading(2 + day, 0.62, "fraction") for day in range(n)), now=at(1 + n, 21))
    low, high = stuck.level_range
    assert low < max(20.0, 62 - 5.0 * (n - 1))
    assert use_of(stuck) >= 5.0
    assert [doubt.kind for doubt in stuck.doubts] == [DoubtKind.STUCK]
    assert high - low > 25


def test_a_panel_that_shows_two_thirds_for_three_weeks_is_asked_about_and_for_three_days_is_not():
    def shown(n):
        return known(LIT, a_fill(0), *(a_reading(1 + day, 0.67, "step") for day in range(n)), now=at(n, 21))

    assert [doubt.kind for doubt in shown(20).doubts] == [DoubtKind.STUCK]
    assert shown(20).level_range[0] < 33
    assert shown(3).doubts == ()


def test_a_sensor_that_has_stuck_at_full_from_the_first_look_on_is_asked_about():
    # twelve days of 5 L at least leave no more than 45
    stuck = known(SENSED, *(a_reading(day, 1.0, "fraction") for day in range(12)), now=at(11, 21))
    assert [doubt.kind for doubt in stuck.doubts] == [DoubtKind.STUCK]
    assert stuck.level_range[0] < 45


def test_a_gauge_that_stands_still_while_nobody_is_aboard_is_right():
    readings = [a_reading(2 + day, 0.62, "fraction") for day in range(10)]
    away = known(SENSED, a_reading(1, 0.62, "fraction"), *readings, now=at(11, 21), crew_aboard=0)
    assert away.doubts == ()
    assert away.level == pytest.approx(62.0, abs=3.0)


def test_a_gauge_that_moves_again_is_believed_again():
    stuck = [a_reading(2 + day, 0.62, "fraction") for day in range(6)]
    moves = [a_fill(8), *(a_reading(8 + day, 0.95 - 0.15 * day, "fraction") for day in range(4))]
    after = known(SENSED, a_fill(0), *stuck, *moves, now=at(11, 21))
    assert after.level == pytest.approx(50.0, abs=6.0)


# ---- the first look


@pytest.mark.parametrize(
    ("share", "low", "high"),
    [(0.0, 0.0, 5.0), (0.125, 5.0, 15.0), (0.25, 15.0, 25.0), (0.75, 55.0, 65.0), (1.0, 75.0, 80.0)],
)
def test_the_first_look_at_a_gauge_in_eighths_is_that_eighth(share, low, high):
    # of 80 L an eighth is 10: a quarter is shown from 15 to 25 L, empty to 5, full from 75
    tank = a_store("fresh", 80.0, "fresh", gauge=Gauge(GaugeKind.SENSOR, (), 0.125))
    seen = known(tank, a_reading(0, share, "fraction"), now=at(0, 20))
    assert low <= seen.level <= high
    assert low - 2.5 <= seen.level_range[0]
    assert seen.level_range[1] <= high + 2.5


def test_the_top_light_of_a_panel_is_full():
    # it shows from 97 % on
    low, high = known(LIT, a_reading(0, 1.0, "step"), now=at(0, 20)).level_range
    assert low >= 97
    assert high <= 100


# ---- what is counted, drained, metered


@pytest.mark.parametrize(("unit", "a_day"), [("bags", 2.0), ("cans", 3.0), ("doses", 1.0)])
def test_what_is_counted_is_known_after_four_days(unit, a_day):
    # 40, 38, 36, 34 bags are two a day; likewise three and one
    bags = a_store("supply", 40.0, "bags", own_unit=unit)
    counted = known(bags, *(a_reading(day, 40.0 - a_day * day, "amount", "bags") for day in range(4)), now=at(3, 20))
    assert counted.level == pytest.approx(40 - 3 * a_day, abs=0.4)
    assert use_of(counted) == pytest.approx(a_day, rel=0.22)


@pytest.mark.parametrize(("days", "litres"), [(1, 60.0), (10, 60.0), (30, 25.0)])
def test_what_was_drained_stays_empty_until_it_is_filled(days, litres):
    # nothing is in it, so that what goes in is all there is
    after = known(
        FRESH, a_fill(0), Event(at(1, 10), "drain"), a_fill(1 + days, hour=19, amount=litres), now=at(1 + days, 19.1)
    )
    assert after.level == pytest.approx(litres, abs=1.5)


@pytest.mark.parametrize("litres", [12.0, 15.0, 22.0])
def test_a_counter_tells_use_and_by_the_last_fill_the_level(litres):
    # filled at 20:00, then so many litres a day by the counter at 20:00: 100 less four days of it
    looks = [Reading(at(day), "fresh", Method.METER, litres * day) for day in range(5)]
    after = known(BARE, a_fill(0, hour=20), *looks, now=at(4, 20))
    assert use_of(after) == pytest.approx(litres, rel=0.12)
    assert after.level == pytest.approx(98.4 - 4 * litres, abs=4.0)


def test_a_counter_that_shows_less_was_zeroed_meanwhile():
    # 15, 30, then zeroed: 15, 30 again
    shows = (0.0, 15.0, 30.0, 15.0, 30.0)
    looks = [Reading(at(day), "fresh", Method.METER, value) for day, value in enumerate(shows)]
    # the fourth look counts 15 since it was zeroed, the fifth 15 more: 60 in four days
    assert use_of(known(BARE, a_fill(0, hour=20), *looks, now=at(4, 20))) == pytest.approx(15.0, rel=0.12)


# ---- drives


@pytest.mark.parametrize(("km", "l_per_km"), [(400.0, 0.10), (300.0, 0.12), (240.0, 0.08)])
def test_a_long_drive_tells_what_a_way_burns_by_a_gauge_in_eighths(km, l_per_km):
    # from 80 L, 400 km at 0.10 leave 40, which eighths show as a half; 300 at 0.12 leave 44, a half; 240 at 0.08 leave 61
    tank = replace(FUEL, gauge=Gauge(GaugeKind.SENSOR, (), 0.125), heats=False)
    left = 80.0 - km * l_per_km
    after = known(
        tank,
        a_fill(0, "diesel", hour=8),
        Event(at(0, 9), "drive", hours=km / 70, km=km),
        a_reading(0, round(left / 10) / 8, "fraction", "diesel"),
        now=at(0, 20),
    )
    assert use_of(after) == pytest.approx(l_per_km, abs=0.015)


@pytest.mark.parametrize("said", [{"km": 110.0}, {"hours": 2.0}, {"km": 110.0, "hours": 2.0}])
def test_a_drive_is_understood_by_its_way_its_hours_or_both(said):
    # 110 km at 0.11 L are 12 L; two hours at 55 km/h are 110 km
    drive = Event(at(0, 9), "drive", **said)
    after = known(replace(FUEL, heats=False), a_fill(0, "diesel", hour=8), drive, now=at(0, 20))
    assert after.level == pytest.approx(79.0 - 12.1, abs=1.0)
    bank = a_store("battery", 200.0, "house", chemistry=Chemistry.LFP, nominal_v=12.8)
    assert forecast(a_rig(bank, FUEL), a_log(drive), (), at(0, 20)).horizon_days == 14


# ---- volts at rest


@pytest.mark.parametrize(
    ("volts", "percent"), [(12.0, 9), (12.5, 14), (12.8, 17), (12.9, 20), (13.3, 90), (13.4, 99), (13.6, 100)]
)
def test_lithium_at_rest_is_what_its_table_says_where_that_is_steep(volts, percent):
    # the rows of the table in common use, four cells
    bank = a_bank(Chemistry.LFP, 100.0, 12.8)
    rest = Reading(at(0, 21), "b", Method.VOLTS, volts, VoltsState.REST)
    seen = known(bank, rest, now=at(0, 21))
    assert seen.level == pytest.approx(percent, abs=6.0)
    assert seen.level_range[0] - 1 <= percent <= seen.level_range[1] + 1


@pytest.mark.parametrize("volts", [13.1, 13.2])
def test_lithium_in_the_flat_middle_stays_wide(volts):
    bank = a_bank(Chemistry.LFP, 100.0, 12.8)
    low, high = known(bank, Reading(at(0, 21), "b", Method.VOLTS, volts, VoltsState.REST), now=at(0, 21)).level_range
    assert high - low > 22


# ---- surprises


@pytest.mark.parametrize(("noise_l", "is_wider"), [(0.0, False), (9.0, True), (14.0, True)])
def test_a_rigs_own_surprises_widen_its_ranges_or_narrow_them(noise_l, is_wider):
    # a sight line is taken to err by 3.5 L of 100, and days of 20 L by some 8: what never misses has narrower ranges, what
    # misses by more than both has wider ones
    rng = np.random.default_rng(4)
    tank = replace(FRESH, capacity=500.0)
    exact = [a_reading(day, 480.0 - 20.0 * day) for day in range(21)]
    noisy = [replace(each, value=each.value + 5 * noise_l * float(rng.choice([-1, 1]))) for each in exact]
    by = width(known(tank, *noisy, now=at(20, 21)).compared, set())
    assert by == pytest.approx(1.0, abs=0.21) if noise_l == 0.0 else by > 1.1
    assert (by > 1) is is_wider
