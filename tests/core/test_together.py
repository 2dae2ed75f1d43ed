"""What stores say of each other, kinds of days, stuck gauges, the smoothed past."""

from dataclasses import replace
from datetime import timedelta

import numpy as np
import pytest

from lodeline.core.catalogue import GaugeKind
from lodeline.core.log import Event, OutlookDay
from lodeline.core.rig import Gauge
from lodeline.core.tracking.belief import Belief
from lodeline.core.tracking.day_kinds import known_day_kinds
from lodeline.core.tracking.hypothesis import Cause, Doubt, DoubtKind, Hypothesis, Point, believed_doubts, smoothed
from lodeline.core.tracking.track import track
from tests.builders import FRESH, FUEL, GREY, START, a_fill, a_log, a_reading, a_rig, at, forecast

BIG = replace(FRESH, capacity=400.0)


def test_fresh_use_informs_a_grey_tank_that_nobody_reads():
    rig = a_rig(BIG, GREY)
    readings = [a_reading(day, 390.0 - 6.0 * day) for day in range(20)]
    dumped = Event(at(0, 9), "dump", "grey")
    known = track(rig, a_log(*readings, dumped), at(19, 21))["grey"]
    alone = track(a_rig(GREY), a_log(dumped, days=19), at(19, 21))["grey"]
    assert known.belief.coefficients[0] < alone.belief.coefficients[0]
    assert np.sqrt(known.belief.cov[1, 1]) < np.sqrt(alone.belief.cov[1, 1])


def _six_evenings(
    *last: float, grey_first: bool = False, totals: tuple[float | None, ...] = (), until_h: float = 21.0
) -> float:
    """Level of a grey tank read last on the third evening, after fresh readings up to the sixth."""
    rig = a_rig(BIG, replace(GREY, gauge=Gauge(GaugeKind.SIGHT), capacity=400.0))
    minute = -1 / 60 if grey_first else 1 / 60
    fresh = [a_reading(day, 390.0 - 25.0 * day) for day in range(4)]
    fresh += [a_reading(4 + day, value) for day, value in enumerate(last)]
    grey = [a_reading(day, 20.0 + 20.0 * day, store="grey", hour=20.0 + minute) for day in range(4)]
    log = a_log(*fresh, *grey, days=5)
    days = [replace(day, water_l=litres) for day, litres in zip(log.days[4:], totals, strict=False)]
    log = replace(log, days=(*log.days[:4], *(days or log.days[4:])))
    return track(rig, log, at(5, until_h))["grey"].belief.level


def test_a_thirsty_day_of_the_fresh_tank_fills_the_grey_one_that_nobody_read():
    usual, thirsty, thrifty = _six_evenings(290.0, 265.0), _six_evenings(270.0, 225.0), _six_evenings(310.0, 305.0)
    assert thrifty + 8 < usual < thirsty - 8
    assert thirsty - usual < 40  # never by more than fresh differed


def test_the_order_of_a_round_is_of_no_matter():
    assert _six_evenings(270.0, 225.0) == pytest.approx(_six_evenings(270.0, 225.0, grey_first=True), abs=1.0)


def test_a_measured_day_of_water_tells_as_much_as_a_reading():
    assert _six_evenings(totals=(60.0, 60.0)) > _six_evenings(totals=(25.0, 25.0)) + 15


def test_an_outlier_in_a_days_total_does_not_fill_the_grey_tank():
    assert _six_evenings(totals=(25.0, 2500.0)) < 150  # of 300 L


def test_a_total_of_a_day_that_is_not_over_is_measured_by_its_hours():
    # by noon about two fifths of a day's 25 L are drawn: such a total is nothing unusual
    untold = _six_evenings(290.0, until_h=12.0)
    assert _six_evenings(290.0, totals=(None, 10.0), until_h=12.0) == pytest.approx(untold, abs=9.0)


def test_a_fresh_reading_that_is_doubted_tells_nothing():
    # a fall to a twentieth is an outlier or a leak, not a day's washing; the evening after shows it for an outlier
    assert _six_evenings(19.0, 265.0) == pytest.approx(_six_evenings(290.0, 265.0), abs=6.0)


def test_grey_that_grows_faster_than_fresh_is_used_is_asked_about():
    rig = a_rig(BIG, replace(GREY, gauge=Gauge(GaugeKind.SIGHT), capacity=600.0))
    entries = [a_reading(day, 390.0 - 8.0 * day) for day in range(25)]
    entries += [a_reading(day, 10.0 + 20.0 * day, store="grey") for day in range(25)]
    doubts = track(rig, a_log(*entries), at(24, 21))["grey"].doubts
    assert [doubt.kind for doubt in doubts] == [DoubtKind.OVER]


def test_a_gauge_that_has_stuck_is_asked_about():
    rig = a_rig(replace(BIG, gauge=Gauge(GaugeKind.SENSOR, (), 0.02)))
    entries = [a_fill(0), *(a_reading(day, 0.6, "fraction") for day in range(4, 14, 2))]
    known = track(rig, a_log(*entries), at(13))["fresh"]
    stuck = [doubt for doubt in known.doubts if doubt.kind is DoubtKind.STUCK]
    assert len(stuck) == 1
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
    assert "shower" in known_day_kinds(log).ids
    known = track(rig, log, at(23, 21))["fresh"]
    learned = dict(zip(known.model.drivers, known.belief.coefficients, strict=True))
    assert learned["shower"] == pytest.approx(8.0, abs=2.5)
    assert learned["people"] == pytest.approx(6.0, abs=3.0)
    assert "shower" not in known_day_kinds(a_log(*entries[:4])).ids


def test_a_doubt_is_told_by_the_weight_of_all_who_have_it_and_in_the_words_of_the_likeliest():
    reading, other = a_reading(3, 80.0), a_reading(5, 20.0)

    def doubt(kind, reading, expected, amount):
        return Doubt(
            at=reading.at, store="fresh", kind=kind, reading=reading, expected=expected, expected_sd=3.0, amount=amount
        )

    rise, outlier = (doubt(kind, reading, 40.0, 40.0) for kind in (DoubtKind.RISE, DoubtKind.READING))
    fall = doubt(DoubtKind.FALL, other, 60.0, -40.0)
    sure = Belief(np.array([50.0, 12.0, 0.0]), np.eye(3))

    def one(share, *doubts):
        return Hypothesis(belief=sure, x_since=np.zeros(1), log_weight=float(np.log(share)), doubts=doubts)

    several = [one(0.6), one(0.2, rise), one(0.12, outlier, fall), one(0.08, rise, fall)]
    assert believed_doubts(several, lambda doubt: 0.15) == (rise, fall)  # 0.4 and 0.2 of the weight
    assert believed_doubts(several, lambda doubt: 0.5 if doubt.kind is DoubtKind.FALL else 0.15) == (rise,)
    assert believed_doubts(several, lambda doubt: 0.45) == ()


def test_week_ends_to_come_use_what_week_ends_used():
    # START is a Monday; four weeks of quiet work days and thirsty week-ends
    rig, entries, level = a_rig(BIG), [], 395.0
    for day in range(28):
        level -= 22.0 if day % 7 >= 5 else 5.0
        entries.append(a_reading(day, max(level, 0.0), hour=23.5))
    entries.append(a_fill(28, hour=1))
    plan = tuple(OutlookDay(date=START + timedelta(days=28 + i)) for i in range(14))
    known = forecast(rig, a_log(*entries), plan, at(28, 2)).of("fresh")
    levels = [400.0, *(day.p50 for day in known.daily)]
    used = [levels[i] - levels[i + 1] for i in range(7)]
    assert np.mean(used[5:7]) > 1.6 * np.mean(used[1:5])


def test_the_drawn_past_bends_to_later_readings_but_not_through_a_fill():
    def point(day, level, sd, cause=Cause.USE):
        return Point(at=at(day), level=level, sd=sd, cause=cause)

    history = (
        point(0, 50.0, 1.0),
        point(1, 90.0, 1.0, Cause.EVENT),
        point(2, 80.0, 5.0),
        point(3, 70.0, 8.0),
        point(3, 60.0, 2.0, Cause.READING),
    )
    known = smoothed(history)
    assert known[0] == history[0]  # before the fill nothing later speaks
    assert known[2].level == pytest.approx(80.0 - 10.0 * 25 / 64)  # gain = 5^2 / 8^2
    assert known[2].sd < history[2].sd
    assert known[3].level == known[4].level == 60.0
