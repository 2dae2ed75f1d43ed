"""A day's sums: they add up, and the day is the rig's own."""

from dataclasses import replace
from datetime import date, timedelta
from itertools import pairwise

import pytest

from lodeline.core.catalogue import Method
from lodeline.core.ledger import ledger
from lodeline.core.log import Event, Log, Reading
from lodeline.core.tracking.track import track
from tests.builders import FRESH, a_fill, a_log, a_reading, a_rig, at

RIG = a_rig(FRESH)


def test_the_ledger_adds_up_over_a_day():
    log = a_log(a_reading(0, 60.0), a_fill(1, hour=12), a_reading(1, 95.0), a_reading(2, 80.0))
    rows = ledger(track(RIG, log, at(2)), RIG.zone)
    days = sorted(rows)
    for earlier, later in pairwise(days):
        before, after = rows[earlier][0], rows[later][0]
        assert before.end - after.used + after.moved + after.corrected == pytest.approx(after.end, abs=1e-6)
    assert rows[days[1]][0].moved > 30


@pytest.mark.parametrize("zone", ["America/Denver", "Pacific/Auckland", "Asia/Kolkata", "UTC"])
def test_an_evenings_reading_and_fill_belong_to_the_day_aboard(zone):
    # in Denver 21:00 is the next date in UTC; in Auckland it is the one before
    rig = replace(RIG, timezone=zone)
    on = date(2026, 6, 3)

    def evening(day, hour):
        return rig.zone.at_hour(day, hour)

    entries = [Reading(evening(on - timedelta(days=n), 20), "fresh", Method.VOLUME, 20.0 + 10 * n) for n in (3, 2, 1)]
    entries += [
        Event(evening(on, 20.5), "fill", "fresh", to_full=True),
        Reading(evening(on, 21), "fresh", Method.VOLUME, 97.0),
    ]
    log = Log().with_entries(entries, rig.zone)
    row = ledger(track(rig, log, evening(on, 23)), rig.zone)[on][0]
    assert row.moved > 70
    assert row.end == pytest.approx(97.0, abs=4)


def test_a_day_without_a_reading_is_not_corrected():
    log = a_log(a_reading(0, 60.0), days=2)
    row = ledger(track(RIG, log, at(2)), RIG.zone)[date(2026, 6, 2)][0]
    assert (row.moved, row.corrected) == (0.0, 0.0)
    assert row.used > 0
