"""Every unit on screen is the user's own: a US rig is never told litres, kilograms, kilometres or Celsius."""

import re
from dataclasses import replace

import pytest

from lodeline.core import problems as p
from lodeline.core.catalogue import Caution, Method, System
from lodeline.core.checks import rig_checks
from lodeline.core.forecast.forecast import forecast
from lodeline.core.forecast.stop import next_stop
from lodeline.core.ledger import ledger
from lodeline.core.log import Event, OutlookDay
from lodeline.core.reasons import reasons
from lodeline.core.rig import Layout
from lodeline.core.tracking.hypothesis import Doubt, DoubtKind
from lodeline.core.tracking.track import track
from lodeline.core.zone import Zone
from lodeline.text import horizon, logbook, readings
from lodeline.text.cautions import cautions
from lodeline.text.display import Display
from lodeline.text.problems import problem
from lodeline.text.rig import check
from lodeline.text.round import acts, event
from tests.builders import BANK, FRESH, FUEL, GAS, GREY, a_fill, a_log, a_powered_rig, a_reading, a_rig, a_store, at

METRIC_UNITS = re.compile(r"(?<![A-Za-z])(L|kg|km|°C|L/h|litres?|kilograms?|kilomet\w+|Celsius)(?![A-Za-z])")
US_UNITS = re.compile(r"(?<![A-Za-z])(gal|lb|mi|°F)(?![A-Za-z])")
STORES = (*a_powered_rig().stores, replace(FRESH, reserve=20.0), GREY, GAS, FUEL, a_store("solids", 70.0, "solids"))
LOG = a_log(
    a_fill(0), a_reading(1, 60.0), a_reading(2, 40.0), Event(at(0, 9), "dump", "grey"),
    a_reading(2, 0.5, "fraction", "diesel"), a_reading(2, 11.5, "gross", "gas"),
    a_reading(2, 0.6, "fraction", "house"), Event(at(2, 8), "drive", hours=2.0, km=90.0), temp_min_c=-3.0, temp_max_c=6.0,
)  # fmt: skip


def display(system):
    return Display(system, Zone("UTC"))


def everything(system):
    """Every sentence that the text package makes of a rig with everything aboard."""
    rig = replace(a_powered_rig(), stores=STORES, units=system)
    shown, now = display(system), at(2, 21)
    tracked, ahead = track(rig, LOG, now), forecast(rig, LOG, (OutlookDay(date=at(3).date()),), now)
    yield from vars_of(horizon.headline(ahead, shown))
    for each in ahead.stores:
        yield horizon.lane(each, ahead, shown)
        yield from (value for _, value in horizon.facts(each, ahead, shown))
        if facts := reasons(rig, tracked[each.store.id], each):
            yield from horizon.why(facts, shown)
    for kind in DoubtKind:
        for store in rig.stores:
            reading = a_reading(0, 0.5, "fraction", store.id)
            yield horizon.doubt(
                store,
                Doubt(at=now, store=store.id, kind=kind, reading=reading, expected=3.0, expected_sd=1.0, amount=2.0),
                shown,
            )
    yield from (horizon.need(need, shown) for need in next_stop(ahead))
    yield from (str(vars_of(logbook.sums(row, shown))) for rows in ledger(tracked, rig.zone).values() for row in rows)
    for day in LOG.days:
        yield logbook.line(day, 0, shown)
        yield from (logbook.entry(rig, each, shown) for each in day.entries())
        yield logbook.change(rig, logbook.Action.CORRECTED, replace(day, water_l=30.0, temp_min_c=4.0), day, shown)
    yield event(rig, Event(at(0), "move", source="fresh", target="grey", amount=9.0), shown)
    for act in acts(rig, shown):
        yield f"{act.label} {act.question} {act.unit}"
    for store in rig.stores:
        yield readings.examples(store, shown)
        yield readings.expected(store, 0.2 * store.capacity, 0.5 * store.capacity, shown)
        yield readings.fit(store, False, 1.0, 2.0, False, shown)
    layout = Layout(6.0, 225.0, 2, 3)
    yield from (check(each, shown) for each in rig_checks(rig))
    yield from (check(each, shown) for each in rig_checks(a_rig(replace(BANK, layout=layout), FRESH)))
    yield from cautions(list(Caution), shown)


def problems():
    """One of every problem whose words hold an amount."""
    return [
        p.OverCapacity(500.0, FRESH), p.OutOfRange(227.125, most=100.0, unit="L"), p.UnderTare(5.0, 7.5),
        p.OutOfRange(-140.0, least=-90.0, unit="degC"), p.OutOfRange(9e9, most=5000.0, unit="km"),
        p.TooHeavy(40.0), p.MeasuredDifferently(("L", "kg")), p.NotUnderstood("lots", FRESH),
        p.NotUnderstood("lots", GAS), p.NotReadBy("fresh", Method.VOLTS, FRESH.kind.methods),
    ]  # fmt: skip


def vars_of(each):
    return [getattr(each, name) or "" for name in type(each).__dataclass_fields__]


@pytest.mark.parametrize("system", list(System))
def test_every_sentence_is_in_the_users_own_units(system):
    sentences = [*everything(system), *(problem(each, display(system)) for each in problems())]
    assert len(sentences) > 150
    metric = [text for text in sentences if METRIC_UNITS.search(text)]
    american = [text for text in sentences if US_UNITS.search(text)]
    match system:
        case System.US:
            assert metric == []
            assert len(american) > 40
        case System.METRIC:
            assert american == []
            assert len(metric) > 40
        case System.UK:
            assert not [text for text in metric if re.search(r"\d km\b", text)]
            assert not [text for text in american if re.search(r"\b(gal|lb|°F)\b", text)]


@pytest.mark.parametrize("system", list(System))
def test_no_sentence_counts_one_of_many(system):
    # "1 events", "1 days", "1.0 day"
    wrong = [text for text in everything(system) if re.search(r"(?<![\d.,])1 [a-z]+s\b(?<!uses)(?<!this)", text)]
    assert wrong == []
