"""Ranges in words, the sentence, the ledger, the checks of a rig."""

from dataclasses import replace
from datetime import UTC, datetime
from itertools import pairwise
from zoneinfo import ZoneInfo

import pytest

from lodeline.core.checks import rig_checks
from lodeline.core.forecast.forecast import forecast
from lodeline.core.ledger import ledger
from lodeline.core.rig import Layout, SolarArray
from lodeline.core.tracking.track import track
from lodeline.core.words import between, binding_sentence, days_words, doubt_sentence
from tests.builders import BANK, FRESH, GREY, a_fill, a_log, a_powered_rig, a_reading, a_rig, at

NOW = datetime(2026, 9, 1, 20, tzinfo=UTC)  # a Tuesday


def on(day, hour):
    return datetime(2026, 9, day, hour, tzinfo=UTC)


@pytest.mark.parametrize(
    ("low", "high", "says"),
    [
        (on(3, 13), on(3, 22), "Thursday, some time between noon and midnight"),
        (on(2, 8), on(2, 11), "tomorrow in the morning"),
        (on(2, 8), on(4, 19), "between tomorrow in the morning and Friday in the evening"),
        (on(1, 21), on(1, 23), "today in the evening"),
        (on(9, 3), on(12, 15), "between Wednesday 9 September before dawn and Saturday 12 September in the afternoon"),
    ],
)
def test_a_range_is_said_as_people_say_it(low, high, says):
    assert between(low, high, NOW) == says


@pytest.mark.parametrize(
    ("days", "says"), [(0.05, "1 hour"), (0.5, "12 hours"), (1.0, "1.0 day"), (2.44, "2.4 days"), (8.6, "9 days")]
)
def test_spans(days, says):
    assert days_words(days) == says


def test_the_sentence_names_what_binds_when_and_how_sure():
    log = a_log(a_fill(0), *(a_reading(day, 100 - 9.0 * day) for day in range(1, 8)))
    rig = a_rig(FRESH, GREY)
    said = binding_sentence(rig, forecast(rig, log, (), at(7)), 14)
    assert "Fresh water sends you away first" in said.headline
    assert "8 in 10" in said.detail
    assert "Grey tank" in said.detail  # not counted, as it was never read


def test_the_sentence_of_an_empty_log_says_how_to_begin():
    rig = a_rig(FRESH)
    said = binding_sentence(rig, forecast(rig, a_log(days=0), (), at(0)), 14)
    assert said.headline == "Nothing is known yet."
    assert "Round" in said.detail


def test_a_doubt_asks_what_would_settle_it():
    readings = [a_reading(day, 90.0 - 12 * day) for day in range(5)] + [a_reading(5, 95.0), a_reading(6, 84.0)]
    rig = a_rig(FRESH)
    doubt = track(rig, a_log(*readings), at(6))["fresh"].doubts[0]
    said = doubt_sentence(FRESH, doubt, rig.units, ZoneInfo("UTC"))
    assert said.startswith("Fresh water rose by about")
    assert said.endswith("with nothing logged for it. Filled?")


def test_the_ledger_closes_over_a_day():
    rig = a_rig(FRESH)
    log = a_log(a_reading(0, 60.0), a_fill(1, hour=12), a_reading(1, 95.0), a_reading(2, 80.0))
    rows = ledger(track(rig, log, at(2)), ZoneInfo("UTC"))
    days = sorted(rows)
    for earlier, later in pairwise(days):
        before, after = rows[earlier][0], rows[later][0]
        assert before.end - after.used + after.moved + after.off == pytest.approx(after.end, abs=1e-6)
    assert rows[days[1]][0].moved > 30


def test_a_rig_says_what_series_and_parallel_make():
    bank = replace(BANK, capacity=675.0, nominal_v=12.0, layout=Layout(6.0, 225.0, 2, 3))
    said = " ".join(check.words for check in rig_checks(a_rig(bank)))
    assert "675 Ah at 12 V hold 8.1 kWh" in said
    assert "3 in parallel make 675 Ah" in said


def test_a_controller_that_is_too_small_is_named():
    rig = replace(a_powered_rig(), solar=(SolarArray("roof", 540.0, controller_amps=30.0),))
    warned = [check.words for check in rig_checks(rig) if check.place == "solar.roof"]
    assert warned == ["540 W can push 39 A; the controller takes 30 A."]
