"""What people type, and what is understood of it."""

import pytest

from lodeline.core.errors import Refused
from lodeline.core.reading import understand
from lodeline.core.rig import Gauge, Kind, Store
from lodeline.core.units import System
from tests.builders import BANK, FRESH, FUEL, GAS, GREY

SOLIDS = Store("solids", Kind.SOLIDS, "Solids bin", 70.0)
FOOD = Store("food", Kind.SUPPLY, "Food", 10.0, own_unit="days of food")
LEAD = Store("lead", Kind.BATTERY, "Bank", 200.0, nominal_v=12.0)
METRIC, US, UK = System.METRIC, System.US, System.UK


@pytest.mark.parametrize(
    ("store", "text", "system", "method", "value"),
    [
        (BANK, "72%", METRIC, "fraction", 0.72),
        (BANK, " 72 % ", METRIC, "fraction", 0.72),
        (BANK, "72", METRIC, "fraction", 0.72),
        (BANK, "144 Ah", METRIC, "fraction", 0.72),
        (BANK, "1.28 kWh", METRIC, "fraction", 0.5),
        (BANK, "13.1V", METRIC, "volts", 13.1),
        (BANK, "13,1 v", METRIC, "volts", 13.1),
        (LEAD, "12.4", METRIC, "volts", 12.4),
        (GREY, "2/3", METRIC, "step", 0.67),
        (GREY, "0", METRIC, "step", 0.0),
        (GREY, "half", METRIC, "fraction", 0.5),
        (GREY, "45 L", METRIC, "volume", 45.0),
        (GREY, "10 gal", US, "volume", 37.85411784),
        (GREY, "10 gal", UK, "volume", 45.4609),
        (GREY, "10", US, "volume", 37.85411784),
        (FUEL, "3/4", METRIC, "fraction", 0.75),
        (FUEL, "60", METRIC, "fraction", 0.6),
        (FRESH, "60", METRIC, "volume", 60.0),
        (FRESH, "dry", METRIC, "dry", None),
        (FRESH, "FULL", METRIC, "full", None),
        (GAS, "11.2kg", METRIC, "gross", 11.2),
        (GAS, "3.5 kg", METRIC, "mass", 3.5),
        (GAS, "25 lb", US, "gross", 11.33980925),
        (SOLIDS, "34", METRIC, "uses", 34.0),
        (SOLIDS, "34 uses", METRIC, "uses", 34.0),
        (FOOD, "6 days of food", METRIC, "amount", 6.0),
    ],
)
def test_notations_are_understood(store, text, system, method, value):
    said = understand(store, text, system)
    assert said.method == method
    assert said.value == (pytest.approx(value) if value is not None else None)


@pytest.mark.parametrize(
    ("store", "text", "says"),
    [
        (BANK, "", "nothing was typed"),
        (BANK, "lots", "not understood"),
        (BANK, "120%", "over 100"),
        (BANK, "3 V", "cannot be right"),
        (BANK, "13.1 V sunny", "not a state"),
        (FRESH, "13.1V", "not understood"),
        (FRESH, "3/2", "not a share"),
        (FRESH, "1/0", "not a share"),
        (FRESH, "500 L", "more than"),
        (GAS, "40 kg", "more than bottle"),
        (FRESH, "12 furlongs", "not understood"),
        (FRESH, "1,250 L", "may be 1250 or 1.25"),
    ],
)
def test_what_is_not_understood_says_what_would_be_right(store, text, says):
    with pytest.raises(Refused, match=says):
        understand(store, text, METRIC)


@pytest.mark.parametrize(("text", "litres"), [("12,5", 12.5), ("0,125", 0.125), ("12.345", 12.345), ("1,25 L", 1.25)])
def test_a_decimal_comma_is_a_decimal_comma_where_it_can_be_nothing_else(text, litres):
    assert understand(FRESH, text, METRIC).value == pytest.approx(litres)


def test_volts_on_charge_are_kept_but_say_nothing_of_the_level():
    said = understand(BANK, "14.2 V", METRIC)
    assert said.method == "volts"
    assert "being charged" in said.words
    assert "says nothing about the level" in understand(BANK, "12.9V load", METRIC).words.replace("say ", "says ")


def test_a_mark_is_said_back_as_the_span_that_it_means():
    assert understand(GREY, "1/3", METRIC).words == "mark 1/3: between 26 L and 54 L"


def test_a_panel_without_that_mark_takes_the_share_as_a_guess():
    halves = Store("fresh", Kind.FRESH, "Fresh", 100.0, gauge=Gauge("steps", (0.0, 0.5, 1.0)))
    assert understand(halves, "2/3", METRIC).method == "fraction"
