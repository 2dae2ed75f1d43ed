"""The sentences of the Horizon in each case that they know, and the words of lanes, reasons and entries to check."""

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta

import pytest

from lodeline.core.catalogue import SkyWord, System
from lodeline.core.forecast.forecast import Autonomy, Chore, ChoreKind, Forecast, StoreForecast
from lodeline.core.log import Event
from lodeline.core.reasons import reasons
from lodeline.core.rig import Gauge, Load
from lodeline.core.tracking.belief import Belief
from lodeline.core.tracking.hypothesis import Doubt, DoubtKind
from lodeline.core.tracking.track import track
from lodeline.core.zone import Zone
from lodeline.text import calendar, doubts, horizon
from lodeline.text.display import METRIC, Display
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
    a_store,
    at,
    forecast,
)

NOW = datetime(2026, 9, 1, 20, tzinfo=UTC)  # a Tuesday
NO_TARE = replace(GAS, tare_kg=None, gauge=Gauge())


def ahead(store, p10=None, p50=None, p90=None, p_first=0.0, **more):
    known = StoreForecast(
        store=store,
        known=True,
        assumed=False,
        level=50.0,
        level_p10=45.0,
        level_p90=55.0,
        rate_per_day=10.0,
        p10_days=p10,
        p50_days=p50,
        p90_days=p90,
        p_first=p_first,
    )
    return replace(known, **more)


def a_forecast(*stores, first=None, second=None, stay=0.6):
    soonest = next((each for each in stores if each.store.id == first), None)
    days = (soonest.p10_days, soonest.p50_days, soonest.p90_days) if soonest else (None, None, None)
    autonomy = Autonomy(store=first, p10_days=days[0], p50_days=days[1], p90_days=days[2], at=None)
    return Forecast(
        at=NOW, horizon_days=14, autonomy=autonomy, stores=stores, second=second, p_stay=((date(2026, 9, 15), stay),)
    )


def headline(*stores, **more):
    return horizon.headline(a_forecast(*stores, **more), METRIC)


UNREAD = replace(ahead(GREY), known=False)


def test_an_empty_log_says_how_to_begin():
    nothing = forecast(a_rig(FRESH), a_log(days=0), (), at(0))
    said = horizon.headline(nothing, METRIC)
    assert said.headline.startswith("Nothing logged yet. From full: about ")
    assert said.detail.startswith("Assumed from common practice")
    assert nothing.p_stay == ()
    assert "Round" in horizon.headline(nothing, METRIC).detail


def test_a_logged_rig_names_what_runs_out_first_when_and_how_sure():
    log = a_log(a_fill(0), *(a_reading(day, 100 - 9.0 * day) for day in range(1, 8)))
    sentence = horizon.headline(forecast(a_rig(FRESH, GREY), log, (), at(7)), METRIC)
    assert "Fresh water runs out first" in sentence.headline
    assert "8 in 10" in sentence.detail
    assert "Grey tank" in sentence.detail  # not counted, as it was never read


def test_nothing_runs_out():
    assert headline(ahead(FRESH), ahead(GREY)).headline == ("You can stay: nothing sends you away within 14 days.")
    assert headline(ahead(FRESH), ahead(GREY)).detail == ""


def test_nothing_runs_out_among_what_is_known_and_the_rest_is_named():
    assert headline(ahead(FRESH), UNREAD).detail == "Not counted, as no reading was taken yet: Grey tank."


def test_where_the_last_tenth_lies_beyond_the_horizon_the_middle_leads():
    sentence = headline(ahead(FRESH, 3.0, 5.0, None, 0.87), first="fresh", stay=0.13)
    assert sentence.headline == "About 5 days: Fresh water runs out first, Sunday evening."
    assert "from Friday evening on, in 1 of 10 cases not within 14 days" in sentence.detail


def test_where_the_middle_lies_beyond_it_the_chance_is_said():
    sentence = headline(ahead(FRESH, 9.0, None, None, 0.3), first="fresh", stay=0.7)
    assert sentence.headline == "Likely over 14 days: in 3 of 10 cases Fresh water runs out first before that."
    assert "within 14 days is 3 in 10, from Thursday 10 September, evening on" in sentence.detail
    assert headline(ahead(FRESH, None, None, None, 0.06), first="fresh", stay=0.94).headline == (
        "You can stay 14 days in 9 of 10 cases."
    )


def test_an_old_reading_is_said_to_be_old():
    old = horizon.headline(a_forecast(ahead(FRESH)), METRIC, horizon.LastRead(NOW - timedelta(days=21), 21.0))
    assert old.detail == "The last reading is 21 days old, of Tuesday 11 August."
    assert horizon.headline(a_forecast(ahead(FRESH)), METRIC, horizon.LastRead(NOW, 0.5)).detail == ""


def test_chores_stand_beside_with_their_own_time():
    urine, spare = a_store("urine", 8.0, "urine"), replace(GAS, reserve=9.0, reserve_counts=True)
    chores = (
        Chore(store=urine, kind=ChoreKind.SERVE, p10_days=3.6, p50_days=4.0, p90_days=4.4),
        Chore(store=spare, kind=ChoreKind.SWAP, p10_days=5.0, p50_days=8.0, p90_days=None, last=True),
        Chore(store=FRESH, kind=ChoreKind.POUR, p10_days=2.0, p50_days=2.4, p90_days=3.0, last=True),
        Chore(store=FRESH, kind=ChoreKind.SERVE, p10_days=None, p50_days=None, p90_days=None),
    )
    assert horizon.chores(replace(a_forecast(ahead(FRESH)), chores=chores), METRIC) == [
        "Empty Urine bottle by Saturday morning.",
        "Change Gas bottle for the full one about Wednesday 9 September, evening. It is the last.",
        "Pour the reserve into Fresh water about Friday before dawn. It is the last.",
    ]
    by = horizon.deadline(FRESH, ahead(FRESH, 1.5, 2.0, 2.6), a_forecast(ahead(FRESH)), METRIC)
    assert by == "No reserve for Fresh water: find water by Thursday morning."


def test_the_calendar_gives_each_chore_its_own_words_and_time():
    # the first may be due within the days shown, and has no likely time yet: it is not said, and shifts nothing
    unsaid = Chore(store=GREY, kind=ChoreKind.SERVE, p10_days=13, p50_days=None, p90_days=None)
    said = Chore(store=FRESH, kind=ChoreKind.POUR, p10_days=2, p50_days=3, p90_days=5)
    (entry,) = calendar.entries(
        a_rig(FRESH, GREY), 1, replace(a_forecast(ahead(FRESH)), chores=(unsaid, said)), None, METRIC
    )
    assert entry.title.startswith("Pour the reserve into Fresh water")
    assert entry.begins == NOW + timedelta(days=2)


def test_a_line_that_is_passed_is_said_so_with_what_comes_next():
    sentence = headline(ahead(FRESH, 0.0, 0.0, 0.0, 1.0), ahead(GREY, 2.0, 3.0, 4.0), first="fresh", second="grey")
    assert sentence.headline == "Fresh water is past its line now."
    assert sentence.detail == "Next: Grey tank, Friday evening."


@pytest.mark.parametrize(
    ("store", "p_first", "first", "says"),
    [
        (
            FRESH,
            0.95,
            "runs out first",
            "It runs out between Thursday evening and Saturday evening (8 in 10), almost surely the first.",
        ),
        (
            GREY,
            0.62,
            "is full first",
            "It is full between Thursday evening and Saturday evening (8 in 10), first in 6 of 10 cases.",
        ),
        (BANK, 0.62, "runs out first", "It is low between"),
    ],
    ids=["drains", "fills", "bank"],
)
def test_what_is_first_is_said_by_its_sense_with_how_sure(store, p_first, first, says):
    sentence = headline(ahead(store, 2.0, 3.0, 4.0, p_first), first=store.id)
    assert sentence.headline == f"About 3 days: {store.name} {first}, Friday evening."
    assert sentence.detail.startswith(says)


def test_an_assumed_use_is_said_to_be_assumed():
    sentence = headline(ahead(FRESH, 2.0, 3.0, 4.0, 0.95, assumed=True), first="fresh")
    assert "Its use is still assumed, not logged." in sentence.detail


@pytest.mark.parametrize(
    ("each", "says"),
    [
        (replace(UNREAD, level=None), "Not known yet: take a reading."),
        (ahead(FRESH, 0.0, 0.0, 0.0), "Past its line now."),
        (ahead(FRESH), "Not at its line within 14 days (9 in 10)."),
        (ahead(BANK, rate_per_day=-4.0), "Holds: the sun brings more than is used. Not at its line within 14 days."),
        (ahead(BANK, rate_per_day=4.0), "Not at its line within 14 days (9 in 10)."),
        (ahead(FRESH, 3.0, 9.0, None), "At its line from Friday evening on, or not within 14 days."),
        (ahead(FRESH, 1.0, 1.1, 1.15), "At its line tomorrow evening."),
    ],
)
def test_a_lane_is_said_in_one_sentence(each, says):
    assert horizon.lane(each, a_forecast(each), METRIC).endswith(says)


@pytest.mark.parametrize(
    ("each", "says"),
    [
        (
            ahead(FRESH, 1.0, 2.0, 3.0),
            "in 1 of 10 cases by Wed 2 Sep, 20:00; in 5 of 10 cases by Thu 3 Sep, 20:00; in 9 of 10 cases by Fri 4 Sep, 20:00",
        ),
        (ahead(FRESH, 1.0, None, None), "in 1 of 10 cases by Wed 2 Sep, 20:00; else not within 14 days"),
    ],
)
def test_when_a_line_is_reached_is_said_case_by_case(each, says):
    assert dict(horizon.facts(each, a_forecast(each), METRIC))["Line reached"] == says


def test_levels_are_said_in_the_units_that_people_think_in():
    each = replace(ahead(FRESH), level=60.0, level_p10=50.0, level_p90=70.0)
    assert horizon.level(each, METRIC) == ("60 L", "50 to 70 L")
    assert horizon.level(each, Display(System.US, Zone("UTC"))) == ("16 gal", "13 to 18 gal")


def a_doubt(store, kind, amount, when=NOW):
    reading = a_reading(0, 50.0, store=store.id)
    return Doubt(at=when, store=store.id, kind=kind, reading=reading, expected=40.0, expected_sd=3.0, amount=amount)


@pytest.mark.parametrize(
    ("store", "kind", "amount", "says"),
    [
        (
            FRESH,
            DoubtKind.RISE,
            60.0,
            "Fresh water rose by about 60 L by Tuesday 1 September, and nothing is logged for it. Filled?",
        ),
        (GREY, DoubtKind.RISE, 30.0, "Was something poured in?"),
        (BANK, DoubtKind.RISE, 60.0, "Charged?"),
        (
            FRESH,
            DoubtKind.FALL,
            -60.0,
            "Fresh water fell by about 60 L by Tuesday 1 September, more than usual use. A leak, or a large use?",
        ),
        (GREY, DoubtKind.FALL, -50.0, "Emptied?"),
        (FRESH, DoubtKind.READING, 10.0, "does not fit: about 40 L expected. It counts less"),
        (FRESH, DoubtKind.STUCK, 35.0, "use should have moved it by about 35 L. Is the gauge stuck?"),
        (GREY, DoubtKind.OVER, 12.0, "grows by about 12 L a day more than fresh water is used"),
    ],
)
def test_each_entry_to_check_names_the_store_the_day_and_what_would_settle_it(store, kind, amount, says):
    sentence = doubts.doubt(store, a_doubt(store, kind, amount), METRIC)
    assert says in sentence
    assert store.name in sentence
    assert "1 September" in sentence


def test_an_entry_to_check_is_dated_by_the_rigs_own_day():
    late = a_doubt(FRESH, DoubtKind.RISE, 60.0, datetime(2026, 9, 1, 23, 30, tzinfo=UTC))
    assert "Wednesday 2 September" in doubts.doubt(FRESH, late, Display(System.METRIC, Zone("Europe/Berlin")))


def why(rig, log, store, now, tracked=None):
    facts = reasons(rig, tracked or track(rig, log, now)[store], forecast(rig, log, (), now).of(store))
    return horizon.why(facts, Display.of(rig)) if facts else []


def test_reasons_name_readings_use_and_what_widens_most():
    down = a_log(a_fill(0, hour=20), *(a_reading(day, 100 - 16.0 * day) for day in range(1, 7)))
    lines = why(a_rig(FRESH), down, "fresh", at(5))
    assert "last filled on Mon 1 Jun" in lines[0]
    assert "learned from 5 days of log, recent days counting more" in lines[1]
    assert "of the range comes from" in lines[2]
    assert why(a_rig(FRESH), a_log(days=1), "fresh", at(1)) == []


def test_fuel_is_explained_by_cold_and_distance():
    drives = [Event(at(day, 11), "drive", None, hours=1.0, km=60.0) for day in range(8)]
    log = a_log(a_reading(0, 0.9, "fraction", "diesel"), *drives, temp_min_c=2.0, temp_max_c=8.0)
    metric = " ".join(why(a_rig(FUEL), log, "diesel", at(7, 21)))
    assert "a degree-day under 18 °C" in metric
    assert "L per 100 km" in metric
    american = " ".join(why(a_rig(FUEL, units=System.US), log, "diesel", at(7, 21)))
    assert "gal a degree-day under 64 °F" in american
    assert "gal per 100 mi" in american


def test_a_bottle_that_is_the_widest_is_to_be_weighed():
    log = a_log(a_reading(0, 0.2, "fraction", "gas"), days=1, temp_min_c=14.0, temp_max_c=22.0)
    for store, advice in ((GAS, "Weigh the bottle tonight."), (NO_TARE, "One reading tonight would narrow it most.")):
        rig = a_rig(store)
        known = track(rig, log, at(1, 8))["gas"]
        cov = known.belief.cov.copy()
        cov[1:, :] = cov[:, 1:] = 0.0
        sure_of_use = replace(known, belief=Belief(known.belief.mean, cov))
        assert why(rig, log, "gas", at(1, 8), sure_of_use)[-1].endswith(f"comes from how full it is now. {advice}")


def test_a_known_level_and_an_unknown_habit_ask_for_evenings_not_for_one_reading():
    lines = why(a_rig(replace(FRESH, capacity=400.0)), a_log(a_fill(0), days=1), "fresh", at(1, 8))
    assert lines[0].startswith("The level rests on: last filled on Mon 1 Jun.")
    assert lines[2].endswith("A reading each evening for a few days would narrow it most.")


def test_a_bank_is_explained_by_its_loads_and_its_array():
    rig = replace(a_powered_rig(), loads=(Load("fridge", "Fridge", 50.0, 10.0),))
    log = a_log(*(a_reading(day, 0.7, "fraction", "house") for day in range(9)), sky=SkyWord.MIXED, load_wh=400.0)
    lines = why(rig, log, "house", at(8, 21))
    assert "Loads are taken as about 4" in lines[1]
    assert "Wh a day, 8" in lines[1]
    assert lines[2] == "Most of the range comes from the sky."


def test_a_level_that_is_not_known_within_a_third_says_so():
    wide = a_log(a_reading(0, 60.0), days=4)
    near = a_log(a_fill(0), a_reading(1, 80.0))
    said = {
        name: horizon.lane(
            forecast(a_rig(), log, (), at(day, 21)).of("fresh"), forecast(a_rig(), log, (), at(day, 21)), METRIC
        )
        for name, log, day in (("wide", wide, 4), ("near", near, 1))
    }
    assert "not known within a third" in said["wide"]
    assert "not known within" not in said["near"]


def test_fresh_tanks_that_count_as_one_are_said_as_one():
    tanks = [a_store("fresh", 100.0, id, name=f"{id.capitalize()} tank") for id in ("front", "rear")]
    log = a_log(a_reading(0, None, "dry", "front"), a_fill(0, "rear"))
    full = forecast(a_rig(*tanks), log, (), at(0, 21))
    said = horizon.headline(full, METRIC)
    assert "Front tank and Rear tank together run out first, " in said.headline
    assert said.detail.startswith("What one has not got is drawn from the other: they count as one.")
    empty = forecast(a_rig(*tanks), a_log(*(a_reading(0, None, "dry", t.id) for t in tanks)), (), at(0, 21))
    assert horizon.headline(empty, METRIC).headline == "Front tank and Rear tank together are past their line now."
