"""What the core may cost, in calls and not in seconds: who makes one of these worse is told so.

Calls of Python functions are counted, which are the same on every machine; each budget is what was counted when it was
set, and a tenth more.
"""

import json
import sys
from datetime import datetime, timedelta

import pytest

from lodeline.core.forecast.forecast import forecast
from lodeline.core.forecast.known import Known
from lodeline.core.tracking.checkpoints import Checkpoints
from lodeline.core.tracking.track import track
from lodeline.demo.life import live
from lodeline.demo.scenario import SANDMARTIN
from lodeline.formats.logbook import read_logbook

NOW = datetime.fromisoformat("2026-11-25T20:40:00+00:00")
_SPARE = 1.1


def calls(work) -> int:
    """How often Python functions are called in doing something, once what is cached is cached."""
    work()
    count = 0

    def one(_frame, event, _arg):
        nonlocal count
        count += event == "call"

    sys.setprofile(one)
    try:
        work()
    finally:
        sys.setprofile(None)
    return count


@pytest.fixture(scope="module")
def book():
    return read_logbook(json.dumps(live(SANDMARTIN, NOW, 22).document).encode())


def test_sixty_days_of_seven_stores_are_tracked_in_so_many_calls(book):
    assert calls(lambda: track(book.rig, book.log, NOW)) < BUDGET["tracking"] * _SPARE


def test_a_past_that_was_seen_is_not_walked_again(book):
    checkpoints = Checkpoints()
    track(book.rig, book.log, NOW - timedelta(days=1), checkpoints)
    assert calls(lambda: track(book.rig, book.log, NOW, checkpoints)) < BUDGET["tracking once seen"] * _SPARE


def test_a_forecast_is_made_in_so_many_calls(book):
    known = Known(rig=book.rig, log=book.log, now=NOW, tracked=track(book.rig, book.log, NOW), outlook=book.outlook)
    assert calls(lambda: forecast(known, known.ahead())) < BUDGET["forecast"] * _SPARE


# Counted on 2026-12-02, on the life that the demo then told.
BUDGET = {"tracking": 293_200, "tracking once seen": 17_050, "forecast": 7_792}
