"""What the Energy view says, and the answers to its questions."""

from dataclasses import replace
from datetime import date, timedelta

import pytest

from lodeline.core.catalogue import Caution, Chemistry, GaugeKind, SkyWord, System
from lodeline.core.conditions import Conditions
from lodeline.core.energy.wear import Wear
from lodeline.core.energy.yields import WeakCause, Weakness, YieldDay
from lodeline.core.forecast import appliance as a
from lodeline.core.forecast.charge_time import ChargePlan, ChargeTime, Goal, SunFinishes
from lodeline.core.forecast.energy_ahead import energy_ahead
from lodeline.core.log import OutlookDay
from lodeline.core.statistics import Range
from lodeline.core.tracking.energy_past import audit_differs, strengths
from lodeline.core.tracking.track import track
from lodeline.core.zone import Zone
from lodeline.text import energy, questions
from lodeline.text.cautions import cautions, of_bank
from lodeline.text.display import METRIC, Display
from tests.builders import BANK, START, a_log, a_powered_rig, a_reading, a_source, at, bank_ahead, forecast

RIG = a_powered_rig(350.0)
EVENING = a_log(a_reading(0, 0.7, "fraction", "house"), sky=SkyWord.CLEAR, temp_min_c=10.0, temp_max_c=20.0)
AMERICAN = Display(System.US, Zone("UTC"))


def headline(rig=RIG, log=EVENING, **outlook):
    now = at(0, 20.5)
    tracked = track(rig, log, now)["house"]
    days = tuple(OutlookDay(date=START + timedelta(days=n), **outlook) for n in range(1, 15)) if outlook else ()
    ahead = energy_ahead(bank_ahead(rig, tracked, days, now, 1, 14, 300), tracked)
    whole = forecast(rig, log, days, now, n_paths=300)
    return energy.headline(rig, whole.of("house"), whole, ahead, METRIC)


def test_a_sunny_evening_is_told_by_the_low_the_high_and_both_autonomies():
    sentence = headline(sky=SkyWord.CLEAR)
    assert sentence.headline.startswith("Tonight's low: about ")
    assert "the line is at 15 %" in sentence.headline
    assert "Tomorrow it climbs to about" in sentence.detail
    assert "With the expected sky: Holds" in sentence.detail
    assert "With no sun at all:" in sentence.detail
    assert "from full" in sentence.detail


def test_a_wet_week_falls_and_says_when_the_line_is_reached():
    sentence = headline(replace(RIG, solar=(replace(RIG.solar[0], watts=60.0),)), sky=SkyWord.WET)
    assert "still falling" in sentence.headline
    assert "does not make up for the loads" in sentence.detail
    assert "With the expected sky: At its line between" in sentence.detail


def test_a_bank_past_its_line_and_a_rig_without_an_array_are_said_as_they_are():
    low = a_log(a_reading(0, 0.05, "fraction", "house"), sky=SkyWord.WET)
    past = headline(log=low, sky=SkyWord.WET).detail
    assert "Past its line now. With no sun at all: " in past
    assert "from now" not in past
    dark = headline(replace(RIG, solar=()))
    assert "climbs" not in dark.detail
    assert "overcast" not in dark.detail


def test_the_audit_is_told_by_how_much_it_is_off_and_only_when_it_is():
    def audit(listed, learned, assumed=False):
        return energy.audit(listed, learned, assumed, METRIC)

    assert "too little log" in audit(500, (300, 700, 900), True)
    assert audit(500, (600, 700, 800)).endswith("Something is running that is not on the list.")
    assert "40 % more than listed" in audit(500, (600, 700, 800))
    assert "20 % less than listed" in audit(500, (350, 400, 450))
    for learned, listed in (((450, 560, 700), 500), ((505, 520, 540), 500)):
        assert audit(listed, learned).endswith("they agree.")
        assert not audit_differs(listed, learned, False)
    assert not audit_differs(500, (600, 700, 800), True)


def test_the_array_is_judged_on_a_clear_day_with_room():
    strength = strengths(track(RIG, EVENING, at(0, 21))["house"])
    day = YieldDay(
        date=date(2026, 6, 2),
        sky=SkyWord.CLEAR,
        place="Old field",
        clear_wh=2000.0,
        reference_h=7.0,
        taken_wh=1715.0,
        full=False,
    )
    lines = energy.array(RIG, strength, [day, replace(day, date=date(2026, 6, 3), full=True)], METRIC)
    assert "On Tuesday 2 June" in lines[1]  # the full day after it does not count
    assert "final yield 4.9 kWh a kW, reference yield 7.0 h, performance ratio 0.70" in lines[1]
    assert lines[2] == "On 1 of the last 2 days the bank came near full: that yield is taken as a lower bound."
    assert energy.array(replace(RIG, solar=()), strength, [], METRIC) == ["There is no array aboard."]


def test_a_weak_array_is_told_with_its_likely_causes():
    words = energy.weakness(Weakness(date(2026, 6, 9), 0.62, (WeakCause.SHADE, WeakCause.DIRT)))
    assert words.startswith("Since Tuesday 9 June clear days give 62 %")
    assert words.endswith(
        "Likely: shade at this place: trees, a wall, another rig; dirt, leaves or salt: wash them early in the day."
    )


def test_drift_is_told_of_a_shunt_that_was_not_full_for_long():
    used = Wear(days=30.0, cycles=12.0, median_depth=0.3, worst_depth=0.8, below=1, last_full=at(0, 12))
    lines = energy.wear(BANK, used, at(10, 12), BANK.gauge.kind is GaugeKind.SHUNT)
    assert "12.0 equivalent full cycles" in lines[0]
    assert "on 1 day" in lines[0]
    assert "by 3 to 5 points since" in lines[1]
    assert (
        "has not been quite full in that time" in energy.wear(BANK, replace(used, last_full=None), at(10, 12), True)[1]
    )
    assert len(energy.wear(BANK, used, at(10, 12), False)) == 1


def test_days_too_cold_to_charge_are_named_with_their_hours():
    days = [Conditions(date=START + timedelta(days=n), mean_c=-7.0, min_c=-12.0) for n in range(6)]
    (line,) = energy.cold(replace(BANK, kept_warm=False), days)
    assert line.startswith("Too cold to be charged: Monday 1 June for 24 h")
    assert "Say on the Rig view where it sits." in energy.cold(BANK, days)[0]
    assert "and on days after" in line
    assert energy.cold(replace(BANK, kept_warm=True), days) == []


def test_cautions_are_those_of_the_cells_and_in_the_users_degrees():
    assert "Never charge LFP cells below 0 °C." in of_bank(Chemistry.LFP, METRIC)
    assert "Never charge LFP cells below 32 °F." in of_bank(Chemistry.LFP, AMERICAN)
    assert not any("LFP" in each for each in of_bank(Chemistry.AGM, METRIC))
    assert len(set(cautions(list(Caution), METRIC))) == len(Caution)


@pytest.mark.parametrize(
    ("each", "says"),
    [
        (a.NoInverter(), "There is no inverter aboard, and it needs one."),
        (a.OverInverter(1500.0, 1200.0), "It draws 1,500 W; the inverter gives 1,200 W."),
        (a.OverSurge(2700.0, 2400.0), "Starting takes about 2,700 W; the inverter's surge is 2,400 W."),
        (a.OverBank(90.0, 30.0, 60.0), "about the most that a bank of this kind and size should give for 60 minutes."),
        (a.LowAfter(0.999, 0.5, 0.3), "stays above the line of 30 % in 99 of 100 cases."),
        (a.LowAfter(0.6, 0.4, 0.3), "in only 60 of 100 cases."),
        (a.LowAfter(0.1, 0.2, 0.3), "The low would be about 20 %, under the line of 30 %."),
    ],
)
def test_each_reason_for_an_appliance_is_a_sentence(each, says):
    assert questions.why(each).endswith(says)


@pytest.mark.parametrize(
    ("kind", "says"), [("shore", "Plug in for 2 h"), ("generator", "Run the generator for"), ("alternator", "Drive")]
)
def test_each_source_is_a_way_that_says_for_how_long(kind, says):
    way = a.RunSource(a_source(kind, 30.0).kind, 2.0, 60.0)
    words = questions.way(way, at(0), METRIC)
    assert words.startswith(says)
    assert words.endswith("which puts the 60 Ah back.")


def test_each_plan_of_charging_says_hours_and_fuel_or_why_not():
    def plan(goal, hours, fuel_l=None, **more):
        return ChargePlan(goal=goal, hours=hours, fuel_l=fuel_l, **more)

    answer = ChargeTime(
        reach=plan(Goal.LEVEL, Range(p10=1.0, p50=2.0, p90=4.0), 3.785, level=0.8),
        bulk=None,
        two=plan(Goal.TWO_RUNS, None),
        hold_once=plan(Goal.HOLD_ONCE, None, through=date(2026, 6, 9)),
        hold_daily=plan(Goal.HOLD_DAILY, Range(p10=0.0, p50=0.0, p90=0.0), through=date(2026, 6, 9)),
        sun=SunFinishes(has_array=False),
    )
    assert questions.charge(answer, AMERICAN) == [
        "To 80 %: 2 h (1 h to 4 h), about 1.0 gal of fuel.",
        "The same in two runs, evening and morning: this source does not get there.",
        "Once tonight, to hold through Tuesday 9 June in 8 of 10 cases: not by this source alone.",
        "Each day, to hold through Tuesday 9 June in 8 of 10 cases: no run is needed.",
    ]
    assert "no array" in questions.sun_finishes(answer.sun)
    cold = plan(Goal.LEVEL, None, level=0.8, too_cold=True)
    assert (
        questions.plan(cold, METRIC)
        == "To 80 %: the cells are too cold to be charged tonight, and nothing would go in."
    )
