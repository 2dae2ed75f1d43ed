"""The sentences of the Horizon in each case that they know, and the words of doubts and lanes."""

from dataclasses import replace
from datetime import UTC, date, datetime
from zoneinfo import ZoneInfo

import pytest

from lodeline.core.explain import explain
from lodeline.core.forecast.forecast import Autonomy, Forecast, StoreForecast, forecast
from lodeline.core.log import Event
from lodeline.core.rig import Gauge, Load
from lodeline.core.tracking.belief import Belief
from lodeline.core.tracking.story import Doubt
from lodeline.core.tracking.track import track
from lodeline.core.units import System
from lodeline.core.words import binding_sentence, doubt_sentence, level_words, store_sentence
from tests.builders import (
    BANK,
    FRESH,
    FUEL,
    GAS,
    GREY,
    a_fill,
    a_log,
    a_powered_rig,
    a_reading,
    a_rig,
    at,
)  # fmt: skip

NOW = datetime(2026, 9, 1, 20, tzinfo=UTC)  # a Tuesday
RIG = a_rig(FRESH, GREY)
NO_TARE = replace(GAS, tare_kg=None, gauge=Gauge("none"))


def ahead(store, p10=None, p50=None, p90=None, p_first=0.0, **part):
    known = StoreForecast(store, True, False, 50.0, 45.0, 55.0, 10.0, p10, p50, p90, None, p_first)
    return replace(known, **part)


def told(*stores, first=None, second=None, stay=0.6):
    binds = next((each for each in stores if each.store.id == first), None)
    days = (binds.p10_days, binds.p50_days, binds.p90_days) if binds else (None, None, None)
    found = Forecast(NOW, 14, Autonomy(first, *days, None), stores, second, ((date(2026, 9, 15), stay),))
    return binding_sentence(RIG, found, 14)


UNREAD = replace(ahead(GREY), known=False)


def test_nothing_binds():
    said = told(ahead(FRESH), ahead(GREY))
    assert said.headline == "You can stay: nothing binds within 14 days."
    assert said.detail == ""


def test_nothing_binds_among_what_is_known_and_the_rest_is_named():
    assert told(ahead(FRESH), UNREAD).detail == "Not counted, as no reading was taken yet: Grey tank."


def test_one_that_may_bind_late_is_said_as_a_chance():
    said = told(ahead(FRESH, 9.0, 13.0, None, 0.4), first="fresh", stay=0.55)
    assert said.headline == "You may well stay 14 days; if anything, Fresh water sends you away."
    assert said.detail.startswith(
        "The chance that a line is reached within 14 days is 45 %, from Thursday 10 September"
    )


def test_a_line_that_is_passed_is_said_so_with_what_comes_next():
    said = told(ahead(FRESH, 0.0, 0.0, 0.0, 1.0), ahead(GREY, 2.0, 3.0, 4.0), first="fresh", second="grey")
    assert said.headline == "Fresh water is past its line now."
    assert said.detail == "Next: Grey tank, Friday in the evening."


@pytest.mark.parametrize(
    ("store", "p_first", "says"),
    [
        (FRESH, 0.95, "It reaches its line between Thursday in the evening and Saturday in the evening (8 in 10), almost surely the first."),
        (GREY, 0.62, "It is full to its line between Thursday in the evening and Saturday in the evening (8 in 10), first in 6 of 10 cases."),
        (BANK, 0.62, "It runs down to its line between"),
    ],
    ids=["drains", "fills", "bank"],
)  # fmt: skip
def test_what_binds_is_said_by_its_sense_with_how_sure(store, p_first, says):
    said = told(ahead(store, 2.0, 3.0, 4.0, p_first), first=store.id)
    assert said.headline == f"About 3 days left: {store.name} sends you away first."
    assert said.detail.startswith(says)


def test_an_assumed_use_is_said_to_be_assumed():
    said = told(ahead(FRESH, 2.0, 3.0, 4.0, 0.95, assumed=True), first="fresh")
    assert "Its use is still assumed, not logged." in said.detail


@pytest.mark.parametrize(
    ("each", "says"),
    [
        (UNREAD, "Not known yet: take a reading."),
        (ahead(FRESH, 0.0, 0.0, 0.0), "Past its line now."),
        (ahead(FRESH), "Not at its line within 14 days (9 in 10)."),
        (ahead(BANK, rate_per_day=-4.0), "Holds: the sun brings more than is used. Not at its line within 14 days."),
        (ahead(BANK, rate_per_day=4.0), "Not at its line within 14 days (9 in 10)."),
        (ahead(FRESH, 3.0, 9.0, None), "At its line from Friday in the evening on, or not within 14 days."),
        (ahead(FRESH, 1.0, 1.1, 1.15), "At its line tomorrow in the evening."),
    ],
)
def test_a_lane_is_said_in_one_sentence(each, says):
    assert store_sentence(RIG, each, NOW, 14) == says


def test_levels_are_said_in_the_units_that_people_think_in():
    found = track(a_rig(FRESH), a_log(a_reading(0, 60.0)), at(0, 20.1))["fresh"]
    assert level_words(found, 50.0, 70.0, System.METRIC) == "60 L, 8 in 10: 50 L to 70 L"
    assert level_words(found, 50.0, 70.0, System.US) == "16 gal, 8 in 10: 13 gal to 18 gal"


def doubt(kind, amount, store="fresh"):
    return Doubt(NOW, store, kind, a_reading(0, 50.0, store=store), 40.0, 3.0, amount)


@pytest.mark.parametrize(
    ("store", "kind", "amount", "says"),
    [
        (FRESH, "rise", 60.0, "Fresh water rose by about 60 L by Tuesday 1 September with nothing logged for it. Filled?"),
        (GREY, "rise", 30.0, "Was something poured in?"),
        (BANK, "rise", 60.0, "Charged?"),
        (FRESH, "fall", -60.0, "Fresh water fell by about 60 L by Tuesday 1 September, more than use explains. A leak, or a large use?"),
        (GREY, "fall", -50.0, "Dumped?"),
        (FRESH, "reading", 10.0, "hardly fits: 40 L was expected. It is kept but weighed down."),
        (FRESH, "stuck", 35.0, "use should have moved it by about 35 L. Has its gauge stuck?"),
        (GREY, "over", 12.0, "grows by about 12 L a day more than fresh water is used"),
    ],
)  # fmt: skip
def test_each_doubt_names_the_store_the_day_and_what_would_settle_it(store, kind, amount, says):
    said = doubt_sentence(store, doubt(kind, amount, store.id), System.METRIC, ZoneInfo("UTC"))
    assert says in said
    assert store.name in said
    assert "1 September" in said


def test_a_doubt_is_said_on_the_rigs_own_day():
    late = replace(doubt("rise", 60.0), at=datetime(2026, 9, 1, 23, 30, tzinfo=UTC))
    assert "Wednesday 2 September" in doubt_sentence(FRESH, late, System.METRIC, ZoneInfo("Europe/Berlin"))


def reasons(rig, log, store, now):
    return explain(rig, track(rig, log, now)[store], forecast(rig, log, (), now).of(store))


def test_fuel_is_explained_by_cold_and_distance():
    drives = [Event(at(day, 11), "drive", None, hours=1.0, km=60.0) for day in range(8)]
    log = a_log(a_reading(0, 0.9, "fraction", "diesel"), *drives, temp_min_c=2.0, temp_max_c=8.0)
    said = " ".join(reasons(a_rig(FUEL), log, "diesel", at(7, 21)))
    assert "a degree-day under 18 °C" in said
    assert "L per 100 km" in said


def test_a_bottle_that_is_the_widest_is_to_be_weighed():
    log = a_log(a_reading(0, 0.2, "fraction", "gas"), days=1)
    for store, advice in ((GAS, "Weigh the bottle tonight."), (NO_TARE, "One reading tonight would narrow it most.")):
        rig = a_rig(store)
        found, coming = track(rig, log, at(1, 8))["gas"], forecast(rig, log, (), at(1, 8)).of("gas")
        cov = found.belief.cov.copy()
        cov[1:, :] = cov[:, 1:] = 0.0
        sure_of_use = replace(found, belief=Belief(found.belief.mean, cov))
        assert explain(rig, sure_of_use, coming)[-1].endswith(f"come from how full it is now. {advice}")


def test_a_known_level_and_an_unknown_habit_ask_for_evenings_not_for_one_reading():
    said = reasons(a_rig(replace(FRESH, capacity=400.0)), a_log(a_fill(0), days=1), "fresh", at(1, 8))
    assert said[0].startswith("The level rests on: last filled on Mon 1 Jun.")
    assert "assumed from crew and kind; only" in said[1]
    assert said[2].endswith("A reading each evening for a few days would narrow it most.")


def test_a_bank_is_explained_by_its_loads_and_its_array():
    rig = replace(a_powered_rig(), loads=(Load("fridge", "Fridge", 50.0, 10.0),))
    log = a_log(*(a_reading(day, 0.7, "fraction", "house") for day in range(9)), sky="mixed", load_wh=400.0)
    said = reasons(rig, log, "house", at(8, 21))
    assert "Loads are taken as about 4" in said[1]
    assert "Wh a day, 8" in said[1]
    assert said[2] == "Most of the range comes from the sky."
