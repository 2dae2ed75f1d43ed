"""Judging issued forecasts, and gauges learned."""

from dataclasses import replace

import pytest

from lodeline.core.forecast.score import Issued, OutcomeKind, baseline_days, held, judge
from lodeline.core.tracking.gauges import learned_gauge
from lodeline.core.tracking.track import track
from tests.builders import FRESH, PANEL, a_fill, a_log, a_reading, a_rig, at, forecast

RIG = a_rig(FRESH)


def issued(day, p10=2.0, p50=3.0, p90=4.0):
    return Issued(store="fresh", at=at(day), p10_days=p10, p50_days=p50, p90_days=p90)


def tracked(log, day, rig=RIG, store="fresh"):
    return track(rig, log, at(day, 21))[store]


DOWN = a_log(a_fill(0, hour=20), *(a_reading(day, 100 - 16.0 * day) for day in range(1, 7)))


def test_the_day_on_which_the_line_was_reached_is_found():
    dry = a_log(*(entry for day in DOWN.days for entry in day.entries()), a_reading(7, None, "dry"))
    outcome = judge(issued(2), tracked(dry, 7), at(7, 21))
    assert outcome.kind is OutcomeKind.REACHED
    assert outcome.days == pytest.approx(4.2, abs=0.9)


def test_a_stop_before_the_line_is_a_censored_observation():
    served = a_log(a_fill(0, hour=20), a_reading(1, 84.0), a_reading(2, 68.0), a_fill(3))
    outcome = judge(issued(1), tracked(served, 4), at(4, 21))
    assert outcome.kind is OutcomeKind.STOPPED
    assert held(issued(1, p90=1.0), outcome) is False  # the line came later than the range allowed
    assert held(issued(1, p90=4.0), outcome) is None


def test_what_is_not_over_is_open_and_what_never_came_is_beyond():
    full = a_log(a_fill(0, hour=20), days=0, crew_aboard=1)
    assert judge(issued(0), tracked(full, 1), at(1, 21)) is None
    quiet = replace(FRESH, id="fresh", capacity=100000.0)
    long = a_log(a_fill(0, hour=20), days=15)
    assert judge(issued(0), tracked(long, 15, a_rig(quiet)), at(15, 21)).kind is OutcomeKind.BEYOND


def test_a_wider_spread_widens_the_range():
    ranges = [
        forecast(RIG, DOWN, (), at(3), tracked=track(RIG, DOWN, at(3)), spread_scale={"fresh": factor}).of("fresh")
        for factor in (0.8, 1.4)
    ]
    assert ranges[1].p90_days - ranges[1].p10_days > ranges[0].p90_days - ranges[0].p10_days


def test_the_baseline_is_last_reading_over_last_weeks_use():
    # 100 - 16 * 5 = 20 L at the fifth day, the line at 5 L, 16 L a day
    assert baseline_days(tracked(DOWN, 5)) == pytest.approx(15 / 16, rel=0.01)


def test_a_mark_that_sits_elsewhere_than_painted_is_found():
    panel = replace(FRESH, gauge=PANEL)
    entries = []
    for cycle in range(14):
        entries.append(a_fill(7 * cycle, hour=20))
        for day in range(1, 7):
            level = 100 - 12.0 * day
            entries.append(a_reading(7 * cycle + day, 0.67 if level >= 52 else 0.33 if level >= 30 else 0.0, "step"))
    log = a_log(*entries, water_l=12.0)
    marks = {mark.painted: mark for mark in learned_gauge(tracked(log, 97, a_rig(panel))).marks}
    assert marks[0.67].begins < 0.62
    assert marks[0.33].begins == pytest.approx(0.33, abs=0.06)
