"""What stores say of each other, kinds of days, stuck gauges, the smoothed past."""

from dataclasses import replace
from datetime import timedelta

import numpy as np
import pytest

from lodeline.core.forecast.forecast import forecast
from lodeline.core.log import Event, OutlookDay
from lodeline.core.rig import Gauge
from lodeline.core.tracking.kinds import day_kinds
from lodeline.core.tracking.story import Point, smoothed
from lodeline.core.tracking.track import track
from lodeline.core.words import doubt_sentence
from tests.builders import FRESH, FUEL, GREY, START, a_fill, a_log, a_reading, a_rig, at

BIG = replace(FRESH, capacity=400.0)


def test_fresh_use_informs_a_grey_tank_that_nobody_reads():
    rig = a_rig(BIG, GREY)
    known = [a_reading(day, 390.0 - 6.0 * day) for day in range(20)]
    dumped = Event(at(0, 9), "dump", "grey")
    found = track(rig, a_log(*known, dumped), at(19, 21))["grey"]
    alone = track(a_rig(GREY), a_log(dumped, days=19), at(19, 21))["grey"]
    assert found.belief.coefficients[0] < alone.belief.coefficients[0]
    assert np.sqrt(found.belief.cov[1, 1]) < np.sqrt(alone.belief.cov[1, 1])


def test_grey_that_grows_faster_than_fresh_is_used_is_asked_about():
    rig = a_rig(BIG, replace(GREY, gauge=Gauge("sight"), capacity=600.0))
    entries = [a_reading(day, 390.0 - 8.0 * day) for day in range(25)]
    entries += [a_reading(day, 10.0 + 20.0 * day, store="grey") for day in range(25)]
    doubts = track(rig, a_log(*entries), at(24, 21))["grey"].doubts
    assert [doubt.kind for doubt in doubts] == ["over"]


def test_a_gauge_that_has_stuck_is_asked_about():
    rig = a_rig(replace(BIG, gauge=Gauge("sensor", (), 0.02)))
    entries = [a_fill(0), *(a_reading(day, 0.6, "fraction") for day in range(4, 14, 2))]
    found = track(rig, a_log(*entries), at(13))["fresh"]
    stuck = [doubt for doubt in found.doubts if doubt.kind == "stuck"]
    assert len(stuck) == 1
    from zoneinfo import ZoneInfo

    assert "stuck" in doubt_sentence(BIG, stuck[0], rig.units, ZoneInfo("UTC"))
    diesel = a_log(*(a_reading(day, 0.6, "fraction", "diesel") for day in range(10)), temp_min_c=20, temp_max_c=25)
    assert not track(a_rig(FUEL), diesel, at(9, 21))["diesel"].doubts


def test_shower_days_are_told_apart_where_the_log_supports_it():
    rig = a_rig(BIG)
    entries, level = [], 390.0
    for day in range(24):
        showers = 2 if day % 3 == 0 else 0
        if showers:
            entries.append(Event(at(day, 18), "shower", count=showers))
        level -= 6.0 + 8.0 * showers
        entries.append(a_reading(day, max(level, 0.0)))
    log = a_log(*entries)
    assert "shower" in day_kinds(log).told
    found = track(rig, log, at(23, 21))["fresh"]
    learned = dict(zip(found.model.drivers, found.belief.coefficients, strict=True))
    assert learned["shower"] == pytest.approx(8.0, abs=2.5)
    assert learned["people"] == pytest.approx(6.0, abs=3.0)
    assert "shower" not in day_kinds(a_log(*entries[:4])).told


def test_week_ends_to_come_use_what_week_ends_used():
    # START is a Monday; four weeks of quiet work days and thirsty week-ends
    rig, entries, level = a_rig(BIG), [], 395.0
    for day in range(28):
        level -= 22.0 if day % 7 >= 5 else 5.0
        entries.append(a_reading(day, max(level, 0.0), hour=23.5))
    entries.append(a_fill(28, hour=1))
    plan = tuple(OutlookDay(START + timedelta(days=28 + i)) for i in range(14))
    found = forecast(rig, a_log(*entries), plan, at(28, 2)).of("fresh")
    levels = [400.0, *(day.p50 for day in found.daily)]
    used = [levels[i] - levels[i + 1] for i in range(7)]
    assert np.mean(used[5:7]) > 1.6 * np.mean(used[1:5])


def test_the_drawn_past_bends_to_later_readings_but_not_through_a_fill():
    def point(day, level, sd, cause="use"):
        return Point(at(day), level, sd, cause)

    history = (
        point(0, 50.0, 1.0), point(1, 90.0, 1.0, "event"), point(2, 80.0, 5.0), point(3, 70.0, 8.0),
        point(3, 60.0, 2.0, "reading"),
    )  # fmt: skip
    found = smoothed(history)
    assert found[0] == history[0]  # before the fill nothing later speaks
    assert found[2].level == pytest.approx(80.0 - 10.0 * 25 / 64)  # gain = 5^2 / 8^2
    assert found[2].sd < history[2].sd
    assert found[3].level == found[4].level == 60.0
