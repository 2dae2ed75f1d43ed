"""What people type, and what is understood of it."""

from datetime import UTC, datetime, timedelta
from random import Random
from uuid import uuid4

import pytest

from lodeline.core import problems as p
from lodeline.core.catalogue import Chemistry, GaugeKind, Method, Sense, System
from lodeline.core.errors import Refused
from lodeline.core.log import CLOSE, Reading, close_readings
from lodeline.core.reading import understand
from lodeline.core.rig import Gauge
from tests.builders import BANK, FRESH, FUEL, GAS, GREY, a_bank, a_store

SOLIDS = a_store("solids", 70.0)
FOOD = a_store("supply", 10.0, name="Food", own_unit="days of food", own_sense=Sense.DRAINS)
ACID = a_bank(Chemistry.FLOODED, 200.0)
LEAD = a_bank(Chemistry.AGM, 200.0)
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
        (FUEL, "90", METRIC, "fraction", 0.9),
        (FRESH, "½", METRIC, "fraction", 0.5),
        (GREY, "⅔", METRIC, "step", 0.67),
        (FUEL, "3/4 tank", METRIC, "fraction", 0.75),
        (FUEL, "half a tank", METRIC, "fraction", 0.5),
        (FRESH, "45ltr", METRIC, "volume", 45.0),
        (FRESH, "~45 L", METRIC, "volume", 45.0),
        (FRESH, "about 45 l", METRIC, "volume", 45.0),
        (BANK, "1 280 Wh", METRIC, "fraction", 0.5),
        (FRESH, "F", METRIC, "full", None),
        (FRESH, "E", METRIC, "dry", None),
        (ACID, "1.250", METRIC, "fraction", 0.897),
        (ACID, "1250", METRIC, "fraction", 0.897),
        (ACID, "sg 1,120", METRIC, "fraction", 0.0),
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
    understood = understand(store, text, system)
    assert understood.method == method
    assert understood.value == (pytest.approx(value) if value is not None else None)


@pytest.mark.parametrize(
    ("store", "text", "problem"),
    [
        (BANK, "", p.Plain.NOTHING_TYPED),
        (BANK, "lots", p.NotUnderstood("lots", BANK)),
        (BANK, "120%", p.OverTheWhole("120%")),
        (BANK, "3 V", p.ImpossibleVolts(3.0, 12.8)),
        (BANK, "13.1 V sunny", p.NotABankState("sunny")),
        (FRESH, "13.1V", p.NotUnderstood("13.1V", FRESH)),
        (FRESH, "3/2", p.NotAShare("3/2")),
        (FRESH, "1/0", p.NotAShare("1/0")),
        (FRESH, "500 L", p.OverCapacity(500.0, FRESH)),
        (GAS, "40 kg", p.TooHeavy(40.0)),
        (FRESH, "12 furlongs", p.NotUnderstood("12 furlongs", FRESH)),
        (FUEL, "40", p.MayBeEither("40", ("40%", "40 L"))),
        (BANK, "13", p.MayBeEither("13", ("13 V", "13%"))),
        (ACID, "1.02", p.ImpossibleGravity(1.02)),
        (FRESH, "1,250 L", p.MayBeTwo("1,250", "1250", "1.25")),
    ],
)
def test_what_is_not_understood_is_refused_for_what_is_wrong_with_it(store, text, problem):
    with pytest.raises(Refused) as refused:
        understand(store, text, METRIC)
    assert refused.value.problem == problem
    assert refused.value.place == "text"


@pytest.mark.parametrize(("text", "litres"), [("12,5", 12.5), ("0,125", 0.125), ("12.345", 12.345), ("1,25 L", 1.25)])
def test_a_decimal_comma_is_a_decimal_comma_where_it_can_be_nothing_else(text, litres):
    assert understand(FRESH, text, METRIC).value == pytest.approx(litres)


def test_a_panel_without_that_mark_takes_the_share_as_a_guess():
    halves = a_store("fresh", 100.0, gauge=Gauge(GaugeKind.STEPS, (0.0, 0.5, 1.0)))
    assert understand(halves, "2/3", METRIC).method is Method.FRACTION


def test_what_is_close_to_a_reading_is_counted_as_by_looking_at_every_pair():
    chance, start = Random(4), datetime(2026, 9, 5, 20, tzinfo=UTC)
    readings = [
        Reading(
            start + timedelta(seconds=chance.randrange(7200)), chance.choice("ab"), Method.FRACTION, 0.5, key=uuid4()
        )
        for _ in range(300)
    ]
    close = close_readings(readings)
    for each in readings:
        others = [r for r in readings if r.store == each.store and r is not each and abs(r.at - each.at) <= CLOSE]
        others.sort(key=lambda other: abs(other.at - each.at))
        if not others:
            assert each.key not in close
            continue
        assert close[each.key].count == len(others)
        gaps = [abs(other.at - each.at) for other in close[each.key].nearest]
        assert gaps == [abs(other.at - each.at) for other in others[:2]]
