"""That somebody served a store, or did not, says how far it had come; and what else a log without gauges tells."""

from dataclasses import replace

import pytest

from lodeline.core.log import Event
from lodeline.core.rig import Gauge
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.belief import MARGIN
from lodeline.core.tracking.service import ServiceRecord
from lodeline.core.tracking.track import track
from tests.builders import FRESH, FUEL, GREY, a_fill, a_log, a_reading, a_rig, a_store, at, forecast

CASSETTE = a_store("cassette", 19.0, "cassette")
UNREAD = replace(FRESH, gauge=Gauge())


def known(rig, log, when, store):
    return track(rig, log, when)[store]


def rate(rig, log, when, store):
    tracked = known(rig, log, when, store)
    return float(tracked.model.usual_x @ tracked.belief.coefficients)


def dumps(every, until, store="cassette", hour=9.0):
    """So many dumps, each a number of days after the one before."""
    days, day = [], 0.0
    while day <= until:
        days.append(Event(at(int(day), hour + 24 * (day % 1)), "dump", store))
        day += every
    return days


@pytest.mark.parametrize("every", [3.0, 5.0, 8.0])
def test_a_cassette_that_nobody_reads_fills_in_about_the_days_between_its_dumps(every):
    log = a_log(*dumps(every, 12 * every))
    learned = rate(a_rig(CASSETTE), log, at(int(12 * every), 21), "cassette")
    # two adults would fill one in two and a half; a long way to a dump is believed in part
    assert 0.45 * 19 / every < learned < 1.4 * 19 / every


def test_filling_up_at_every_tap_is_not_drinking_that_much():
    # a tank of 300 L that one topped up every second day, beside the other errands
    rig = a_rig(replace(UNREAD, capacity=300.0), GREY)
    errands = [entry for day in range(0, 30, 2) for entry in (a_fill(day), Event(at(day, 11), "dump", "grey"))]
    often = rate(rig, a_log(*errands), at(29, 21), "fresh")
    assert often < 1.3 * rate(rig, a_log(errands[0]), at(0, 21), "fresh")


def test_a_crew_that_serves_early_is_known_by_its_gauge():
    # filled at half, again and again: 10 L a day read on a sight line
    cycle = [
        entry
        for day in range(0, 40, 5)
        for entry in (a_fill(day), *(a_reading(day + n, 100.0 - 10 * n) for n in range(5)))
    ]
    early = known(a_rig(), a_log(*cycle), at(39, 21), "fresh").belief
    assert early.mean[MARGIN] < 0.7
    assert early.cov[MARGIN, MARGIN] < 0.1**2


def test_a_long_way_to_a_dump_speaks_for_less_use_each_time_more():
    def learned(n):
        others = [a_reading(day, 90.0 - 4 * (day % 12)) for day in range(12 * n)]
        fills = [a_fill(day) for day in range(0, 12 * n, 12)]
        return rate(a_rig(FRESH, CASSETTE), a_log(*others, *fills, *dumps(12, 12 * n)), at(12 * n, 21), "cassette")

    # two adults fill one in three days; these take twelve, and no service of theirs was ever forgotten
    assert learned(6) < learned(1)
    assert learned(6) < 4.5


def test_what_was_filled_in_found_room():
    rig, readings = a_rig(UNREAD), [a_reading(0, 60.0)]
    roomy = known(rig, a_log(*readings, a_fill(1, amount=55.0, hour=9)), at(1, 9.5), "fresh")
    assert roomy.level <= 100
    before = known(rig, a_log(*readings), at(1, 8.9), "fresh").level
    assert roomy.level - 55 < before


def test_nobody_drives_on_nothing():
    start = [a_reading(0, 0.25, "fraction", "diesel"), a_reading(0, 0.25, "fraction", "diesel", hour=21)]
    far = a_log(*start, Event(at(1, 9), "drive", hours=6.0, km=420.0))
    left = known(a_rig(FUEL), far, at(1, 16), "diesel")
    # 46 L were burnt out of 20: it was filled up, and nobody knows how far
    assert left.level_range[1] > 25


def test_the_speed_of_a_rig_is_its_own():
    slow = [Event(at(day, 9), "drive", hours=2.0, km=60.0) for day in range(6)]
    assert known(a_rig(FUEL), a_log(*slow), at(6, 21), "diesel").km_per_h == pytest.approx(36, abs=3)


def test_a_coarse_sensor_read_again_says_no_more():
    coarse = replace(FUEL, gauge=replace(FUEL.gauge, resolution=0.25))
    rig = a_rig(coarse)
    again = a_log(*(a_reading(day, 0.5, "fraction", "diesel") for day in range(7)), temp_min_c=19.0, temp_max_c=21.0)
    low, high = known(rig, again, at(6, 21), "diesel").level_range
    assert high - low > 0.15 * coarse.capacity


def test_a_sensor_that_bulges_half_way_is_learned_by_level():
    # a tank of 80 L, 8 L a day from the brim, read 6 points too high half way and right at both ends
    sensed = replace(FUEL, id="fresh", kind=FRESH.kind, fuel=None, capacity=100.0)
    entries = []
    for start in range(0, 60, 10):
        entries.append(a_fill(start, hour=8.0))
        for n in range(10):
            share = 1 - 0.09 * (n + 0.5)
            shown = share + 0.06 * 4 * share * (1 - share)
            entries.append(a_reading(start + n, round(min(1.0, shown) * 50) / 50, "fraction"))
    belief = known(a_rig(sensed), a_log(*entries), at(59, 21), "fresh").belief
    half_way, _ = belief.bias((1.0, 1.0, 0.0))
    near_full, _ = belief.bias((1.0, 0.19, 0.0))
    assert half_way > 3.0
    assert near_full < 0.6 * half_way


def test_a_range_past_the_line_is_still_a_range():
    # full to the line by the best estimate of a tank that nobody reads
    log = a_log(Event(at(0, 9), "dump", "cassette"), days=3)
    ahead = forecast(a_rig(CASSETTE), log, (), at(3, 21)).of("cassette")
    assert ahead.p10_days == 0
    assert ahead.p90_days is None or ahead.p90_days > 0.1


def test_the_services_whose_need_was_known_tell_what_the_others_were_for():
    store, start = FRESH, known(a_rig(), a_log(a_fill(0), a_reading(0, 90.0)), at(0, 21), "fresh").belief

    def learned(level, sd, trust):
        record = ServiceRecord()
        for _ in range(8):
            record.learn(store, b.reset_level(start, level, sd), trust)
        return record.by_need(store)

    assert learned(90.0, 4.0, 0.02) < 0.3
    assert learned(15.0, 4.0, 0.9) > 0.75
    # at half it may be that the margin is another; where the level was not known, nothing is told
    assert learned(50.0, 4.0, 0.1) == learned(90.0, 25.0, 0.02) == ServiceRecord().by_need(store) == 0.7
