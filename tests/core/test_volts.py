"""Terminal volts: a level at rest, a bound under a load, a stage on charge; and never a certainty."""

from dataclasses import replace

import pytest

from lodeline.core.catalogue import Chemistry, Method, SkyWord, VoltsState
from lodeline.core.forecast.bank_paths import simulate_bank
from lodeline.core.log import Event, OutlookDay, Reading
from lodeline.core.rig import Gauge
from lodeline.core.tracking.track import track
from tests.builders import BANK, a_log, a_powered_rig, a_reading, at, bank_ahead


def bank(chemistry=Chemistry.AGM):
    return replace(BANK, gauge=Gauge(), chemistry=chemistry, nominal_v=12.8 if chemistry is Chemistry.LFP else 12.0)


def volts(volts_v, state=None, day=0, hour=20.0):
    return Reading(at(day, hour), "house", Method.VOLTS, volts_v, state)


def level(*readings, chemistry=Chemistry.AGM, hour=20.1, day=0, events=()):
    rig = replace(a_powered_rig(), stores=(bank(chemistry),))
    return track(rig, a_log(*readings, *events), at(day, hour))["house"]


def test_a_lead_bank_at_12_9_under_its_evening_lights_is_full():
    assert level(volts(12.9, VoltsState.LOAD)).level > 0.8 * 200
    assert level(volts(12.9)).level > 0.75 * 200


def test_12_2_under_a_load_is_no_full_bank_and_no_empty_one():
    low, high = level(volts(12.2, VoltsState.LOAD), chemistry=Chemistry.FLOODED).level_range
    assert 0.4 * 200 < low < 0.65 * 200
    assert high < 0.95 * 200


@pytest.mark.parametrize("volts_v", [11.9, 12.2, 12.5])
def test_under_a_load_a_bank_holds_more_than_the_same_volts_at_rest_say(volts_v):
    loaded, rest = (level(volts(volts_v, state)) for state in (VoltsState.LOAD, VoltsState.REST))
    assert loaded.level > rest.level + 5


def test_a_bank_that_takes_charge_at_13_2_is_not_full_and_one_at_absorption_is_nearer():
    bulk, absorption = (level(volts(each, VoltsState.CHARGE)) for each in (13.1, 14.4))
    assert bulk.level_range[1] < 0.97 * 200
    assert absorption.level > bulk.level + 20


@pytest.mark.parametrize("chemistry", [Chemistry.AGM, Chemistry.LFP, Chemistry.FLOODED])
@pytest.mark.parametrize("state", [None, *VoltsState])
@pytest.mark.parametrize("volts_v", [11.5, 12.1, 12.6, 13.0, 13.4, 14.2])
def test_volts_are_never_a_point(volts_v, state, chemistry):
    many = [volts(volts_v, state, day, hour) for day in range(6) for hour in (7.0, 20.0)]
    low, high = level(*many, chemistry=chemistry, day=5).level_range
    assert high - low > 0.02 * 200


def test_mornings_at_rest_teach_the_sag_of_the_evenings():
    # this rig sags by 0.3 V in the evening; its bank is steady at 12.5 V at rest
    both = [
        each
        for day in range(14)
        for each in (volts(12.5, VoltsState.REST, day, 7.0), volts(12.25, VoltsState.LOAD, day, 20.0))
    ]
    evening_only = [volts(12.25, VoltsState.LOAD, day, 20.0) for day in range(14)]
    rig = replace(a_powered_rig(watts=1.0), stores=(bank(),), loads=())
    taught, untaught = (
        track(rig, a_log(*each), at(13, 20.1))["house"].belief.bias((0.0, 1.0, 0.0))[0] for each in (both, evening_only)
    )
    assert taught < untaught - 2


def test_after_a_charge_lead_stands_higher_than_it_is():
    after = Event(at(0, 14), "shore", hours=4.0)
    charged = level(volts(12.6, VoltsState.REST), events=(after,), chemistry=Chemistry.FLOODED)
    rested = level(volts(12.6, VoltsState.REST, hour=6.0), hour=6.1, chemistry=Chemistry.FLOODED)
    assert charged.level < rested.level


def test_a_day_that_is_driven_may_end_under_trees():
    rig = a_powered_rig()
    log = a_log(*(a_reading(day, 0.6, "fraction", "house") for day in range(6)), sky=SkyWord.CLEAR)
    tracked = track(rig, log, at(5, 21))["house"]
    stays, drives = (
        simulate_bank(
            bank_ahead(rig, tracked, (OutlookDay(date=at(6).date(), hours=hours),), at(5, 21), 1, 7, 800), tracked
        )
        for hours in ({}, {"alternator": 0.1})
    )
    offered_staying, offered_driving = (each.bank.offered[3] for each in (stays, drives))
    assert offered_driving.std() > 1.05 * offered_staying.std()
    assert offered_driving.mean() < offered_staying.mean()
