"""A log of any size is followed at a bounded cost; what hands write is followed whole."""

from datetime import UTC, date, datetime, timedelta
from itertools import pairwise

import pytest

from lodeline.core.catalogue import Method
from lodeline.core.figures import Tracking
from lodeline.core.log import Day, Log, Reading
from lodeline.core.tracking.bounded import _cost, bounded

TODAY = date(2026, 11, 25)


def logged(stores: int, days: int, a_day: int) -> Log:
    out = []
    for back in range(days - 1, -1, -1):
        on = TODAY - timedelta(days=back)
        begin = datetime(on.year, on.month, on.day, tzinfo=UTC)
        readings = [
            Reading(begin + timedelta(minutes=n * (1400 // a_day)), f"s{store}", Method.FRACTION, 0.5)
            for n in range(a_day)
            for store in range(stores)
        ]
        out.append(Day(date=on, readings=tuple(readings)))
    return Log(tuple(out))


@pytest.mark.parametrize(("stores", "days", "a_day"), [(6, 120, 2), (8, 200, 1), (3, 120, 6), (1, 2000, 1)])
def test_what_hands_write_is_followed_whole(stores, days, a_day):
    log = logged(stores, days, a_day)
    assert bounded(stores, log, TODAY) is log


@pytest.mark.parametrize(
    ("stores", "days", "a_day"),
    [(60, 100, 3), (60, 1, 300), (6, 120, 200), (120, 120, 8), (2, 300, 300), (40, 3000, 1)],
)
def test_a_devices_log_is_followed_at_a_bounded_cost(stores, days, a_day):
    log = logged(stores, days, a_day)
    kept = bounded(stores, log, TODAY)
    assert _cost(stores, log) > Tracking.most_cost
    assert _cost(stores, kept) <= 1.2 * Tracking.most_cost
    assert kept.days[-1].date == TODAY
    assert len(kept.days) >= min(days, min(Tracking.window_days))
    last = {each.store: each.at for each in log.days[-1].readings}
    assert {each.store: each.at for each in kept.days[-1].readings} == last  # the last of each store is one of them


def test_those_that_are_kept_are_spread_over_the_day():
    day = bounded(20, logged(20, 30, 48), TODAY).days[-1]
    hours = [each.at.hour for each in day.readings if each.store == "s3"]
    assert 1 <= len(hours) <= max(Tracking.readings_a_day)
    assert hours == sorted(hours)
    if len(hours) > 2:
        gaps = [b - a for a, b in pairwise(hours)]
        assert max(gaps) - min(gaps) <= 1


def test_where_it_begins_does_not_move_every_day():
    starts = set()
    for back in range(5):
        today = TODAY - timedelta(days=back)
        log = Log(tuple(day for day in logged(60, 140, 1).days if day.date <= today))
        starts.add(bounded(60, log, today).days[0].date)
    assert len(starts) <= 2
