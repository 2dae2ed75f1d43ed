"""Times and numbers as people say them; readings and gauges in words; a sentence for every refusal."""

from dataclasses import replace
from datetime import UTC, datetime

import pytest

from lodeline.core import problems as p
from lodeline.core.catalogue import Chemistry, Method, System, VoltsState
from lodeline.core.checks import rig_checks
from lodeline.core.energy.bank import state_of_charge
from lodeline.core.reading import understand
from lodeline.core.rig import Layout, SolarArray
from lodeline.core.tracking.evidence import Evidence
from lodeline.core.tracking.gauges import LearnedGauge, PanelMark
from lodeline.core.zone import Zone
from lodeline.text import readings
from lodeline.text.display import METRIC, Display, counted
from lodeline.text.labels import label
from lodeline.text.problems import problem
from lodeline.text.rig import check, gauge
from lodeline.text.times import between, clock_on, days_words, hours_words
from tests.builders import BANK, FRESH, GAS, GREY, a_bank, a_powered_rig, a_reading, a_rig

NOW = datetime(2026, 9, 1, 20, tzinfo=UTC)  # a Tuesday
AMERICAN = Display(System.US, Zone("America/Denver"))


def on(day, hour):
    return datetime(2026, 9, day, hour, tzinfo=UTC)


@pytest.mark.parametrize(
    ("low", "high", "says"),
    [
        (on(3, 13), on(3, 22), "Thursday, some time between noon and midnight"),
        (on(2, 8), on(2, 11), "tomorrow morning"),
        (on(2, 8), on(4, 19), "between tomorrow morning and Friday evening"),
        (on(1, 21), on(1, 23), "this evening"),
        (on(9, 3), on(12, 15), "between Wednesday 9 September, before dawn and Saturday 12 September, afternoon"),
    ],
)
def test_a_range_is_said_as_people_say_it(low, high, says):
    assert between(low, high, NOW) == says


@pytest.mark.parametrize(
    ("days", "says"), [(0.05, "1 hour"), (0.5, "12 hours"), (1.0, "1 day"), (2.44, "2.4 days"), (8.6, "9 days")]
)
def test_spans_of_days(days, says):
    assert days_words(days) == says


@pytest.mark.parametrize(("hours", "says"), [(0, "0 min"), (0.02, "5 min"), (0.99, "1 h"), (2.5, "2 h 30 min")])
def test_spans_of_hours(hours, says):
    assert hours_words(hours) == says


def test_a_time_of_another_day_says_which():
    assert clock_on(on(1, 22), NOW) == "22:00 today"
    assert clock_on(on(3, 16), NOW) == "16:00 on Thursday"


def test_one_is_one_and_two_are_several():
    assert [counted(n, "entry", "entries") for n in (0, 1, 2)] == ["0 entries", "1 entry", "2 entries"]


def test_a_unit_is_the_users_own_and_small_numbers_have_a_decimal():
    assert METRIC.amount(3.24, "L") == "3.2 L"
    assert AMERICAN.amount(3.24, "L") == "0.9 gal"
    assert AMERICAN.span(-4.0, 10.0, "degC") == "25 to 50 °F"
    assert Display(System.UK, Zone("UTC")).amount(100.0, "km") == "62 mi"


@pytest.mark.parametrize(
    ("each", "says"),
    [
        (p.OverCapacity(500.0, FRESH), "132 gal is more than the 26 gal that Fresh water holds"),
        (p.OutOfRange(227.125, most=100.0, unit="L"), "60 gal must be at most 26.4 gal"),
        (p.UnderTare(5.0, 7.5), "11 lb is less than the empty bottle, 17 lb"),
        (p.NotUnderstood("lots", GREY), "a mark (0, 1/3, 2/3, 1), an amount, full or empty"),
        (p.NotUnderstood("lots", GAS), "lb (bottle and contents), 40%, full or dry"),
        (p.MarksInUse(1, 4), "1 reading shows one of 4 marks"),
        (p.StoreInUse("fresh", 1), "has 1 entry in the log"),
    ],
)
def test_a_refusal_says_what_would_be_right_in_the_users_units(each, says):
    assert says in problem(each, AMERICAN)


def test_a_place_is_named_by_the_label_beside_its_field():
    assert label("stores[2].capacity") == "Capacity"
    assert label("temp_min_c") == label("temp_min") == "Coldest"


def test_a_mark_is_said_back_as_the_span_that_it_means():
    assert readings.describe(GREY, understand(GREY, "1/3", System.METRIC), METRIC) == "mark 1/3: 26 to 54 L"


@pytest.mark.parametrize(
    ("volts", "state", "says"),
    [
        (14.2, None, "being charged"),
        (14.4, None, "absorption"),
        (12.1, VoltsState.LOAD, "means 47"),
        (12.1, None, "under a load"),
        (12.5, VoltsState.REST, "12.5 V at rest means about"),
    ],
)
def test_volts_are_said_as_what_they_mean(volts, state, says):
    assert says in readings.volts(state_of_charge(a_bank(Chemistry.AGM), volts, state))


def test_volts_that_are_no_level_say_so():
    text = readings.describe(BANK, understand(BANK, "12.9V load", System.METRIC), METRIC)
    assert "says little" in text
    assert understand(BANK, "14.2 V", System.METRIC).method is Method.VOLTS
    silent = readings.fit(BANK, Evidence(), a_reading(0, 13.0, Method.VOLTS, "house"), None, False, METRIC)
    assert silent.words == "Saved, but not used as a level."


def learned(n, error=None, bias=0.0, bias_sd=0.02, marks=()):
    return LearnedGauge(readings=n, assumed_error=0.04, error=error, bias=bias, bias_sd=bias_sd, marks=marks)


@pytest.mark.parametrize(
    ("each", "says"),
    [
        (learned(20, error=0.021), ["Error 2.1 % of capacity from 20 readings; 4.0 % was assumed."]),
        (learned(20, bias=-0.07), ["It reads about 7 % of capacity too low (±2)."]),
        (learned(20, bias=0.01), ["As assumed so far."]),
        (learned(6), ["Too few readings to judge: 6."]),
        (
            learned(
                30, marks=(PanelMark(painted=0.67, begins=0.58, sd=0.03), PanelMark(painted=0.33, begins=0.34, sd=0.03))
            ),
            ["The mark 67 % seems to begin at 58 % (±3)."],
        ),
        (learned(30, marks=(PanelMark(painted=1.0, begins=0.85, sd=0.03),)), ["As assumed so far."]),
    ],
    ids=["error", "bias", "nothing", "few", "a mark elsewhere", "the top mark, which shows early on every panel"],
)
def test_a_gauge_is_told_in_sentences(each, says):
    assert gauge(each) == says


def test_a_rig_says_what_series_and_parallel_make_and_what_does_not_fit():
    bank = replace(BANK, capacity=675.0, nominal_v=12.0, layout=Layout(6.0, 225.0, 2, 3), chemistry=Chemistry.FLOODED)
    lines = " ".join(check(each, METRIC) for each in rig_checks(a_rig(bank)))
    assert "675 Ah at 12 V hold 8.1 kWh" in lines
    assert "3 in parallel make 675 Ah. Units in series add volts, not amp-hours." in lines
    small = replace(a_powered_rig(), solar=(SolarArray("roof", 540.0, controller_amps=30.0),))
    warned = [check(each, METRIC) for each in rig_checks(small) if each.place == "solar.roof"]
    assert warned == ["540 W can push 39 A; the controller takes 30 A."]
    assert "lb. Check axles and tyres." in " ".join(check(each, AMERICAN) for each in rig_checks(a_rig(FRESH)))
