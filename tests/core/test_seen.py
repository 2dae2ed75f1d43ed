"""Readings held against the forecasts before them, and what that does to the spread of use."""

from dataclasses import replace

import numpy as np
import pytest

from lodeline.core.forecast.seen import (
    IssuedLevels,
    LevelAhead,
    Seen,
    by_notice_seen,
    issued_levels,
    seen,
    spread_scale,
)
from lodeline.core.log import Event
from lodeline.core.tracking.track import track
from tests.builders import FRESH, GREY, PANEL, a_fill, a_log, a_reading, a_rig, at, forecast

STEADY = [a_fill(0, hour=20), *(a_reading(day, 100 - 9.0 * day) for day in range(1, 9))]


def held_against(entries, issued_on, store=FRESH, until=9):
    """What is seen of the forecast of one evening by another."""
    rig = a_rig(store)
    then = a_log(*(each for each in entries if each.at <= at(issued_on)))
    ahead = forecast(rig, then, (), at(issued_on), n_paths=2000)
    said = IssuedLevels(at=at(issued_on), levels=issued_levels(ahead.of(store.id), at(issued_on)))
    return seen(said, track(rig, a_log(*entries), at(until))[store.id])


def test_a_steady_tank_lies_within_at_every_notice_that_a_reading_came_to():
    found = held_against(STEADY, 3)
    assert [each.notice_days for each in found] == [1, 3]
    assert all(each.held for each in found)
    assert found[1].of_use > found[0].of_use


def test_a_stop_in_between_is_taken_out_and_the_use_across_it_compared():
    served = [*STEADY[:5], a_fill(5, hour=10), a_reading(5, 95.0), a_reading(6, 86.0)]
    (one,) = held_against(served, 4, until=6)[:1]
    assert one.held
    twice = [*STEADY[:5], a_fill(5, hour=10), a_reading(5, 55.0)]
    assert not any(each.held for each in held_against(twice, 4, until=5))


def test_a_guest_who_drinks_twice_as_much_is_under_what_was_expected():
    more = [*STEADY[:5], a_reading(5, 20.0)]
    found = held_against(more, 4, until=5)
    assert not found or found[0].pit < 0.1


def test_a_mark_is_held_against_the_chances_of_all_marks():
    panel = replace(FRESH, gauge=PANEL)
    entries = [a_fill(0, hour=20), *(a_reading(day, 0.67 if day < 4 else 0.33, "step") for day in range(1, 7))]
    found = held_against(entries, 2, panel, until=6)
    assert found
    assert all(0 < each.pit < 1 and each.crps < 0.4 for each in found)


def test_nothing_is_seen_where_the_forecast_piles_up_at_an_end():
    full = [Event(at(0), "dump", "grey"), a_reading(0, 0.0, "step", "grey"), a_reading(1, 0.0, "step", "grey")]
    said = IssuedLevels(at=at(0), levels=tuple(LevelAhead(days=n, p10=0.0, p50=n / 2, p90=2.0 * n) for n in (0.0, 1.0)))
    assert seen(said, track(a_rig(GREY), a_log(*full), at(2))["grey"]) == []


def cases(scores, of_use=1.0):
    from statistics import NormalDist

    return [
        Seen(notice_days=1, at=at(0), pit=NormalDist().cdf(float(z)), crps=0.0, of_use=of_use, weight=1.0)
        for z in scores
    ]


def test_the_record_widens_and_narrows_the_spread_of_use_slowly():
    right = np.random.default_rng(3).standard_normal(400)
    assert spread_scale([]) == 1.0
    assert spread_scale(cases(right)) == pytest.approx(1.0, abs=0.06)
    assert spread_scale(cases(1.5 * right)) == pytest.approx(1.4, abs=0.12)
    assert spread_scale(cases(0.5 * right)) == 0.7
    assert 1.0 < spread_scale(cases([2.0])) < 1.1  # one case is not a record
    assert spread_scale(cases([2.5] * 4000)) == 1.6
    # what lies in the level or the gauge cannot be mended by the spread of use
    assert spread_scale(cases(1.5 * right, of_use=0.2)) < spread_scale(cases(1.5 * right))
    # windows of a week overlap
    assert spread_scale([replace(each, weight=1 / 7) for each in cases([2.0] * 30)]) < spread_scale(cases([2.0] * 30))


def test_readings_are_counted_by_notice():
    first, *others = by_notice_seen(cases([0.0, 0.5, -0.2, 2.5, 1.0]))
    assert (first.notice_days, first.n, first.held, first.should) == (1, 5, 4, 4)
    assert all(each.n == 0 for each in others)
