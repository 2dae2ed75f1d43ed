"""What a part of a day does to a level, and what crew and rig lead one to expect of it: against sums done by hand."""

from dataclasses import replace
from datetime import timedelta

import numpy as np
import pytest

from lodeline.core.catalogue import DayStatus, Sense
from lodeline.core.log import Event
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.bank_use import SUN_AND_PLACE
from lodeline.core.tracking.charging import Charge
from lodeline.core.tracking.day_kinds import NO_DAY_KINDS
from lodeline.core.tracking.hypothesis import Hypothesis
from lodeline.core.tracking.propagate import PartOfDay, StoreContext, move
from lodeline.core.tracking.track import track
from lodeline.core.tracking.use import expected_use
from tests.builders import BANK, FRESH, a_log, a_powered_rig, a_reading, a_rig, a_store, at

LFP_TAPER_H = 0.3


def moved(rig, level, hours=3.0, charging=(), is_known=True, **drivers):
    """A bank's hypothesis after hours in which drivers gave so many amp-hours each."""
    context = StoreContext.of(rig, BANK, NO_DAY_KINDS)
    start = context.start()
    mean = np.concatenate([[level], start.mean[1:]])
    mean[b.SIZE] = 0.0
    belief = b.Belief(mean, np.zeros_like(start.cov))
    hypothesis = Hypothesis(belief=belief, x_since=np.zeros(len(context.model.mean)))
    x = np.array([drivers.get(name.replace("-", "_"), 0.0) for name in context.model.drivers])
    begin = at(0, 12)
    step = PartOfDay(
        start=begin,
        end=begin + timedelta(hours=hours),
        days=hours / 24,
        moves=bool(x.any()),
        x=x / np.where(context.model.mean == 0, 1.0, context.model.mean),
        moved=0.0,
        day_var=np.zeros(len(x)),
        measured_var=0.0,
        charging=list(charging),
    )
    move(context, hypothesis, step, is_known)
    return hypothesis


def test_the_sun_lifts_a_bank_with_room_by_what_it_gives_and_loads_lower_it():
    assert moved(a_powered_rig(), 100.0, sun_clear=30.0).belief.level == pytest.approx(130)
    assert moved(a_powered_rig(), 100.0, sun_clear=30.0, load_by_day=-10.0).belief.level == pytest.approx(120)


def test_a_bank_near_full_takes_what_the_taper_lets_in():
    # the room closes with the taper's time constant: 20 Ah of room, an hour
    room = 20 * np.exp(-1 / LFP_TAPER_H)
    near = moved(a_powered_rig(), 180.0, hours=1.0, sun_clear=60.0)
    # nobody saw it full: it is taken to be a little under what the sums say
    assert 200 - room - 8 < near.belief.level < 200 - room
    assert near.curtailed
    assert not moved(a_powered_rig(), 100.0, hours=1.0, sun_clear=60.0).curtailed


def test_a_charger_gives_its_current_and_leaves_some_doubt():
    spell = Charge(at(0, 12), at(0, 15), 20.0)
    charged, idle = moved(a_powered_rig(), 80.0, charging=[spell]), moved(a_powered_rig(), 80.0)
    assert charged.belief.level - idle.belief.level == pytest.approx(60 * 0.99 * 0.92, rel=0.05)
    assert charged.process_var > idle.process_var
    assert idle.process_var == 0


def test_a_day_plugged_in_charges_all_day_without_an_event():
    rig = a_powered_rig(watts=0.1)
    start = a_reading(0, 0.2, "fraction", "house", 1)
    hookup = track(rig, a_log(start, status=DayStatus.HOOKUP), at(0, 4))["house"].belief.level
    event = track(rig, a_log(start, Event(at(0, 1), "shore", hours=3.0)), at(0, 4))["house"].belief.level
    assert hookup == pytest.approx(event, abs=0.5)
    assert hookup > 40 + 60


def test_a_black_tank_aboard_is_flushed_with_fresh_water():
    roomy = replace(FRESH, capacity=600.0)  # nobody is careful
    dry, flushed = (expected_use(a_rig(roomy, *more), roomy).mean[0] for more in ((), (a_store("black", 80.0),)))
    assert flushed / dry == pytest.approx((13 + 3) / 13)  # litres of an adult, as the sheet of use has them


def test_a_supply_that_does_not_count_days_lasts_the_usual_while():
    wood = a_store("supply", 30.0, own_unit="kg of firewood", own_sense=Sense.DRAINS)
    food = a_store("supply", 30.0, own_unit="days of food", own_sense=Sense.DRAINS)
    of_wood, of_food = (expected_use(a_rig(each), each) for each in (wood, food))
    assert of_food.mean[0] == 1
    assert of_wood.sd[0] / of_wood.mean[0] > of_food.sd[0] / of_food.mean[0]
    assert of_wood.mean[0] == pytest.approx(30 / 14)


def test_the_sun_is_told_from_the_loads():
    context = StoreContext.of(a_powered_rig(), BANK, NO_DAY_KINDS)
    assert [name for name, sun in zip(context.model.drivers, context.is_sun, strict=True) if sun] == list(SUN_AND_PLACE)
