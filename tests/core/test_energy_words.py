"""What the Energy view says, and where it says it."""

from dataclasses import replace
from datetime import date, datetime, timedelta

import pytest

from lodeline.core.checks import rig_checks
from lodeline.core.energy.figures import CELL_SOURCES, CELLS, FIGURES, as_markdown
from lodeline.core.energy.solar import air_c, array_power_w, reference_yield_h
from lodeline.core.energy.wear import Wear, wear
from lodeline.core.energy.yields import Weakness, YieldDay, offered_wh
from lodeline.core.energy_words import (
    array_words,
    audit_differs,
    audit_words,
    cautions,
    headline,
    weakness_words,
    wear_words,
)
from lodeline.core.forecast.energy_ahead import bank_ahead, energy_ahead
from lodeline.core.log import OutlookDay, Place
from lodeline.core.rig import Chemistry, Layout
from lodeline.core.tracking.track import track
from tests.builders import BANK, START, a_log, a_powered_rig, a_reading, at

RIG = a_powered_rig(350.0)
EVENING = a_log(a_reading(0, 0.7, "fraction", "house"), sky="clear", temp_min_c=10.0, temp_max_c=20.0)


def said(rig=RIG, log=EVENING, now=None, **outlook):
    now = now or at(0, 20.5)
    tracked = track(rig, log, now)["house"]
    days = tuple(OutlookDay(START + timedelta(days=n), **outlook) for n in range(1, 15)) if outlook else ()
    ahead = energy_ahead(bank_ahead(rig, tracked, days, now, 1, 14, 300), tracked)
    return headline(rig, rig.stores[0], ahead, now, 14)


def test_a_sunny_evening_is_told_by_the_low_the_high_and_both_autonomies():
    found = said(sky="clear")
    assert found.headline.startswith("Tonight's low: about ")
    assert "the line is at 15 %" in found.headline
    assert "Tomorrow it climbs to about" in found.detail
    assert "the bank holds for 14 days in" in found.detail
    assert "With no sun at all:" in found.detail
    assert "from full" in found.detail


def test_a_wet_week_falls_and_says_when_the_line_is_reached():
    found = said(replace(RIG, solar=(replace(RIG.solar[0], watts=60.0),)), sky="wet")
    assert "still falling" in found.headline
    assert "does not make up for the loads" in found.detail
    assert "the line is reached in about" in found.detail


def test_a_bank_past_its_line_and_a_rig_without_an_array_are_said_as_they_are():
    low = a_log(a_reading(0, 0.05, "fraction", "house"), sky="wet")
    assert "The bank is past its line." in said(log=low, sky="wet").detail
    dark = said(replace(RIG, solar=()))
    assert "climbs" not in dark.detail
    assert "overcast" not in dark.detail


def test_the_audit_is_told_by_how_much_it_is_off_and_only_when_it_is():
    assert "too little log" in audit_words(500, (300, 700, 900), True)
    assert audit_words(500, (600, 700, 800), False).endswith("Something is running that is not on the list.")
    assert "40 % more than listed" in audit_words(500, (600, 700, 800), False)
    assert "20 % less than listed" in audit_words(500, (350, 400, 450), False)
    for learned, listed in (((450, 560, 700), 500), ((505, 520, 540), 500)):
        assert audit_words(listed, learned, False).endswith("they agree.")
        assert not audit_differs(listed, learned, False)
    assert not audit_differs(500, (600, 700, 800), True)


def test_the_array_is_judged_on_a_clear_day_with_room():
    tracked = track(RIG, EVENING, at(0, 21))["house"]
    day = YieldDay(date(2026, 6, 2), "clear", "Old field", 2000.0, 7.0, 1715.0, False)
    found = array_words(RIG, tracked, [day, replace(day, date=date(2026, 6, 3), full=True)])
    assert "On Tuesday 2 June" in found[1]  # the full day after it does not count
    assert "final yield 4.9 kWh a kW, reference yield 7.0 h, performance ratio 0.70" in found[1]
    assert "On 1 of the last 2 days the bank was full" in found[2]
    assert array_words(replace(RIG, solar=()), tracked, []) == ["There is no array aboard."]


def test_a_weak_array_is_told_with_its_likely_causes():
    words = weakness_words(Weakness(date(2026, 6, 9), 0.62, ("shade at this place", "dirt")))
    assert words.startswith("Since Tuesday 9 June clear days give 62 %")
    assert words.endswith("Likely: shade at this place; dirt.")


def test_drift_is_told_of_a_shunt_that_was_not_full_for_long():
    used = Wear(30.0, 12.0, 0.3, 0.8, 1, at(0, 12))
    words = wear_words(BANK, used, at(10, 12))
    assert "12.0 equivalent full cycles" in words[0]
    assert "on 1 day" in words[0]
    assert "by 3 to 5 points since" in words[1]
    assert "has not been full in that time" in wear_words(BANK, replace(used, last_full=None), at(10, 12))[1]
    plain = replace(BANK, gauge=replace(BANK.gauge, kind="none"))
    assert len(wear_words(plain, used, at(10, 12))) == 1


def test_wear_needs_two_points():
    with pytest.raises(ValueError, match="two points"):
        wear([(datetime(2026, 6, 1), 50.0)], 100.0, 20.0)  # noqa: DTZ001


def test_cold_is_cautioned_for_the_cells_that_mind_it():
    assert "No charging of LFP cells below 0 °C." in cautions(BANK)
    assert not any("LFP" in each for each in cautions(replace(BANK, chemistry=Chemistry.AGM)))


def test_the_offered_sun_follows_word_and_strength():
    day = YieldDay(date(2026, 6, 2), "overcast", None, 2000.0, 7.0, None, False)
    strength = {"clear": 1.0, "mixed": 1.0, "overcast": 0.8, "wet": 1.0}
    assert offered_wh(day, strength, (0.25,) * 4) == pytest.approx(2000 * 0.25 * 0.8)
    unknown = replace(day, sky=None)
    assert offered_wh(unknown, strength, (0.0, 0.0, 1.0, 0.0)) == pytest.approx(2000 * 0.25 * 0.8)


def test_warm_cells_give_less_and_the_air_is_warmest_in_the_afternoon():
    cool, hot = (
        array_power_w(air_c(mean, mean - 5) * 0 + 800.0, 100.0, air_c(mean, mean - 5)).max() for mean in (5, 35)
    )
    # 0.4 % a degree (common practice): thirty degrees are about an eighth
    assert hot / cool == pytest.approx(1 - 0.12, abs=0.02)
    assert air_c(15.0, 10.0).argmax() in (14, 15)
    assert air_c(15.0, 10.0).max() <= 20.0


def test_the_reference_yield_weighs_arrays_by_their_watts():
    place = Place("Somewhere", 40.0, -3.0)
    flat = reference_yield_h(RIG, place, date(2026, 12, 21))
    tilted = replace(RIG, solar=(replace(RIG.solar[0], tilt_deg=60.0),))
    steep = reference_yield_h(tilted, place, date(2026, 12, 21))
    both = replace(RIG, solar=(*RIG.solar, replace(tilted.solar[0], id="two")))
    assert steep > 1.5 * flat
    assert reference_yield_h(both, place, date(2026, 12, 21)) == pytest.approx((flat + steep) / 2)


def test_every_figure_has_a_source_and_stands_in_the_table():
    table = as_markdown()
    for name, figure in FIGURES.items():
        assert f"| {name} | {figure.unit} | {figure.value:g} |" in table
        assert figure.source
    for cells in CELLS.values():
        assert set(CELL_SOURCES) == {name for name in type(cells).__dataclass_fields__}
    assert table.count("\n| ") >= len(FIGURES) + len(CELL_SOURCES)


def test_six_units_of_225_ah_in_strings_of_two_are_675_ah():
    layout = Layout(unit_v=6, unit_ah=225, series=2, parallel=3)
    store = replace(BANK, capacity=layout.bank_ah, nominal_v=12.0, layout=layout, chemistry=Chemistry.FLOODED)
    words = " ".join(check.words for check in rig_checks(replace(RIG, stores=(store,))))
    assert "675 Ah at 12 V hold 8.1 kWh" in words
    assert "add volts, not amp-hours" in words
