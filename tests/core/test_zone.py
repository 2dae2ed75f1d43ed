"""Days and clocks: five zones through a year, and both changes of clocks."""

from datetime import UTC, date, datetime, time, timedelta
from itertools import pairwise
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lodeline.core.zone import Zone

# west, east, southern, half-hour, no change of clocks
ZONES = ["America/Denver", "Asia/Tokyo", "Pacific/Auckland", "Australia/Adelaide", "Europe/Berlin", "UTC"]
DATES = st.dates(date(2024, 1, 1), date(2028, 12, 31))
zones = st.sampled_from([Zone(name) for name in ZONES])


@given(zones, DATES, st.floats(0, 23.999))
def test_an_hour_of_a_day_is_an_instant_within_it_and_back(zone, on, hour):
    at = zone.at_hour(on, hour)
    assert zone.date(at) == on
    assert zone.hour(on, at) == pytest.approx(hour, abs=1e-6)


@given(zones, DATES)
def test_days_follow_each_other_without_gap_and_have_24_equal_day_hours(zone, on):
    begins, ends = zone.bounds(on)
    assert zone.bounds(on + timedelta(days=1))[0] == ends
    assert zone.length_h(on) in (23, 23.5, 24, 24.5, 25)
    hours = [zone.at_hour(on, hour) for hour in range(25)]
    assert hours[0] == begins
    assert hours[24] == ends
    assert {later - earlier for earlier, later in pairwise(hours)} == {(ends - begins) / 24}


@given(zones, DATES, st.times())
def test_a_clock_time_is_an_instant_of_its_date_that_the_clock_shows(zone, on, clock):
    at = zone.instant(on, clock)
    assert zone.date(at) == on
    shown = zone.local(at).replace(tzinfo=None)
    skipped = zone.length_h(on) < 24 and shown != datetime.combine(on, clock)
    # only a time that the clocks skip is shown as another
    assert shown == datetime.combine(on, clock) or (skipped and shown.date() == on)


@given(zones, st.integers(0, 5 * 365 * 24 * 3600))
def test_the_date_of_an_instant_is_that_of_the_standard_library(zone, seconds):
    at = datetime(2024, 1, 1, tzinfo=UTC) + timedelta(seconds=seconds)
    assert zone.date(at) == at.astimezone(ZoneInfo(zone.name)).date()
    begins, ends = zone.bounds(zone.date(at))
    assert begins <= at < ends


@pytest.mark.parametrize(
    ("zone", "on", "hours"),
    [
        ("Europe/Berlin", date(2026, 3, 29), 23),
        ("Europe/Berlin", date(2026, 10, 25), 25),
        ("America/Denver", date(2026, 3, 8), 23),
        ("America/Denver", date(2026, 11, 1), 25),
        ("Pacific/Auckland", date(2026, 9, 27), 23),
        ("Pacific/Auckland", date(2026, 4, 5), 25),
        ("Australia/Adelaide", date(2026, 10, 4), 23),
        ("Asia/Tokyo", date(2026, 3, 29), 24),
        ("Australia/Lord_Howe", date(2026, 10, 4), 23.5),
    ],
)
def test_the_days_on_which_clocks_change(zone, on, hours):
    assert Zone(zone).length_h(on) == hours


def test_a_time_that_is_skipped_or_comes_twice_stays_on_its_date():
    berlin = Zone("Europe/Berlin")
    assert berlin.instant(date(2026, 3, 29), time(2, 30)) == datetime(2026, 3, 29, 1, 30, tzinfo=UTC)  # shown 03:30
    assert berlin.instant(date(2026, 10, 25), time(2, 30)) == datetime(2026, 10, 25, 0, 30, tzinfo=UTC)  # the first
    # where clocks change at midnight, the day begins with the first moment that there is
    assert Zone("America/Santiago").midnight(date(2026, 9, 6)) == datetime(2026, 9, 6, 4, tzinfo=UTC)
