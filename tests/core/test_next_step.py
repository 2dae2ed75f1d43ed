"""What to do next: the situations in which somebody opens the application, each with the one thing that it says."""

from dataclasses import replace
from datetime import timedelta

import pytest

from lodeline.core.catalogue import Chemistry, DayStatus, Served
from lodeline.core.deriving import ahead as derive
from lodeline.core.log import Event, OutlookDay
from lodeline.core.next_step import Does, next_step
from lodeline.core.rig import Jug, Spare
from lodeline.core.stops.plan import Remedy, Wanted
from lodeline.core.stops.planner import Planner
from lodeline.core.warmth import Quiet
from lodeline.text.display import Display
from lodeline.text.next_step import step
from tests.builders import BANK, GAS, GREY, START, a_fill, a_log, a_reading, a_rig, a_source, a_store, at
from tests.stops import NOW, TANK, a_spot, known_of, lived_in, together_of

TAP = a_spot("tap", "water", north_km=4)
BOTH = a_spot("site", "water", "grey", north_km=5)
GAS_SHOP = a_spot("shop", "gas", north_km=6)
POST = a_spot("post", "hookup", north_km=8, prices={"hookup": 12})
SHUT = replace(BOTH, closed_months=frozenset(range(1, 13)))
JUGS = tuple(Jug(id=id, name=name, litres=10.0) for id, name in (("one", "Jug 1"), ("two", "Jug 2")))
URINE = a_store("urine", 9.0, "urine", served=Served.HERE)
CASSETTE = a_store("cassette", 20.0, "cassette", reserve=20.0)
LEAD = a_store("battery", 200.0, "house", chemistry=Chemistry.AGM, nominal_v=12.0)
COLD = replace(BANK, kept_warm=False)
GENERATOR = a_source("generator", 40.0, fuel_store=None)
FREEZES = tuple(OutlookDay(date=START + timedelta(days=day), temp_min_c=-6, temp_max_c=1) for day in range(9, 15))


def plugged(status):
    return tuple(OutlookDay(date=START + timedelta(days=day), status=status) for day in range(9, 24))


def low(rig_stores, *entries, **rig):
    """A rig and its log of nine days with readings of the morning of the tenth."""
    made, log = lived_in(*rig_stores, **rig)
    last = log.days[-1]
    readings = tuple(each for each in entries if not isinstance(each, Event))
    events = tuple(each for each in entries if isinstance(each, Event))
    return made, replace(log, days=(*log.days[:-1], replace(last, readings=readings, events=events)))


def said(store, value, method="volume", hour=7.0):
    return a_reading(9, value, method, store, hour=hour)


DRY = said("fresh", None, "dry")
FULL_GREY = said("grey", None, "full")
WELL = (said("fresh", 180.0), said("grey", 5.0))
EMPTY_BANK = said("house", 0.05, "fraction")
NEARLY_EMPTY = said("house", 0.72, "fraction")
GOOD_BANK = said("house", 0.9, "fraction")


def cans(name):
    return Spare(id="second", name=name, store="gas", holds=9.0, full=1.0)


def situation(made, *book, now=NOW, outlook=()):
    """What is said of a rig with its log: the step, the line, and why."""
    rig, log = made
    known = replace(known_of(rig, log, *book, now=now), outlook=outlook)
    if not known.stores:
        return next_step(known, derive(known, (), 1).forecast, lambda: pytest.fail("no plan is needed")), known, None
    whole = derive(known, (), 1)
    asked = []

    def plan():
        asked.append(True)
        together = together_of(whole.known, 14)
        planner = Planner(together.joint, whole.known.book, Wanted(days=14))
        return planner.remedied(planner.plan(), together.levers)

    return next_step(whole.known, whole.forecast, plan), known, whole.forecast


CASES = {
    "all well": (lambda: (low((TANK, GREY), *WELL), BOTH), Does.WAIT, "Nothing to do until"),
    "all well for long": (
        lambda: (low((replace(TANK, capacity=2000.0),), said("fresh", 2000.0)), TAP),
        Does.WAIT,
        "Nothing to do for 14 days.",
    ),
    "due, with jugs": (
        lambda: (low((TANK, GREY), DRY, jugs=JUGS), BOTH),
        Does.ABOARD,
        "Pour Jug 1 and Jug 2 into Fresh water now: about",
    ),
    "due, one jug poured already": (
        lambda: (
            low((TANK, GREY), DRY, Event(at(9, 7.5), "move", source="one", target="fresh", amount=10.0), jugs=JUGS),
            BOTH,
        ),
        Does.GO,
        "Leave by",
    ),
    "due, without": (lambda: (low((TANK, GREY), DRY), BOTH), Does.GO, "Go now to Site, 5"),
    "due at night": (
        lambda: (low((TANK, GREY), DRY, said("fresh", None, "dry", 21.0)), BOTH),
        Does.GO,
        "tomorrow for Site",
    ),
    "due, no place in the book": (lambda: (low((TANK, GREY), DRY),), Does.FIND, "none is in your book"),
    "due, all closed": (lambda: (low((TANK, GREY), DRY), SHUT), Does.FIND, "closed"),
    "due, the place is for another": (
        lambda: (low((TANK, GREY), FULL_GREY), TAP),
        Does.FIND,
        "Find a place for Grey tank",
    ),
    "two due": (
        lambda: (low((TANK, GREY), DRY, FULL_GREY), BOTH),
        Does.GO,
        "Go now to Site, 5 km: empty Grey tank and fill Fresh water.",
    ),
    "two due, jugs for one, a stop for both": (
        lambda: (low((TANK, GREY), DRY, FULL_GREY, jugs=JUGS), BOTH),
        Does.GO,
        "Go now",
    ),
    "two due, jugs for one, no stop": (
        lambda: (low((TANK, GREY), DRY, FULL_GREY, jugs=JUGS),),
        Does.ABOARD,
        "Pour Jug 1 and Jug 2",
    ),
    "a cassette full, a spare aboard": (
        lambda: (low((TANK, CASSETTE), said("cassette", 20.0), WELL[0]), TAP),
        Does.ABOARD,
        "Change Cassette for its spare",
    ),
    "a bottle empty, a full one aboard": (
        lambda: (low((TANK, GAS), said("gas", 0.0, "fraction"), WELL[0], spares=(cans("Second bottle"),)), TAP),
        Does.ABOARD,
        "Change Gas bottle for Second bottle now",
    ),
    "a bottle empty, none aboard": (
        lambda: (low((TANK, GAS), said("gas", 0.0, "fraction"), WELL[0]), TAP, GAS_SHOP),
        Does.GO,
        "Gas bottle",
    ),
    "a reading missing for nine days": (
        lambda: (low((TANK, GREY)), BOTH),
        Does.READ,
        "Read the panels first: nothing was read for 10",
    ),
    "nothing logged": (lambda: ((a_rig(TANK, GREY), a_log()), BOTH), Does.START, "Take one reading of each store"),
    "only a chore": (
        lambda: (low((TANK, URINE), WELL[0], said("urine", 9.0)), TAP),
        Does.CHORE,
        "Empty Urine bottle now.",
    ),
    "a chore tonight": (
        lambda: (low((TANK, URINE), WELL[0], said("urine", 6.5)), TAP),
        Does.CHORE,
        "Empty Urine bottle this afternoon.",
    ),
    "due, and a chore": (lambda: (low((TANK, URINE), DRY, said("urine", 9.0)), TAP), Does.GO, "Go now to Tap"),
    "frost tonight, water in the lines": (
        lambda: (low((TANK, GREY), *WELL), BOTH),
        Does.FROST,
        "Frost tonight, about −6 °C: heat or drain",
    ),
    "frost tonight, all drained": (lambda: (low((TANK, GREY), *WELL, Event(at(9, 7.5), "drain")), BOTH), Does.WAIT, ""),
    "the bank low, a generator aboard": (
        lambda: (low((TANK, LEAD), WELL[0], EMPTY_BANK, sources=(GENERATOR,)), TAP, POST),
        Does.CHARGE,
        "Run the generator now: House",
    ),
    "the same in the quiet hours": (
        lambda: (
            low((TANK, LEAD), WELL[0], EMPTY_BANK, sources=(GENERATOR,), quiet=Quiet(from_h=20.0, until_h=9.0)),
            TAP,
        ),
        Does.CHARGE,
        "Run the generator from 09:00 on",
    ),
    "the bank low, a post near": (
        lambda: (low((TANK, LEAD), WELL[0], EMPTY_BANK, sources=(a_source("shore", 30.0),)), TAP, POST),
        Does.GO,
        "charge House bank",
    ),
    "the bank low, plugged in": (
        lambda: (low((TANK, LEAD), WELL[0], EMPTY_BANK, sources=(a_source("shore", 30.0),)), TAP),
        Does.STAY_PLUGGED,
        "Stay plugged in: House bank is low and charging.",
    ),
    "the bank low, only the engine": (
        lambda: (low((TANK, LEAD), WELL[0], EMPTY_BANK, sources=(a_source("alternator", 30.0),)), TAP),
        Does.CHARGE,
        "Drive a while now",
    ),
    "the bank low within a day, only the engine": (
        lambda: (low((TANK, LEAD), WELL[0], NEARLY_EMPTY, sources=(a_source("alternator", 30.0),)), TAP),
        Does.CHARGE,
        "Drive a while by",
    ),
    "cells too cold to charge": (
        lambda: (low((TANK, COLD), WELL[0], EMPTY_BANK, sources=(GENERATOR,)), TAP),
        Does.WARM,
        "Warm House bank before you charge",
    ),
    "a stop before tomorrow": (lambda: (low((TANK, GREY), said("fresh", 22.0), WELL[1]), BOTH), Does.GO, "Leave by"),
    "days left, no place in the book": (
        lambda: (low((TANK, GREY), said("fresh", 60.0), WELL[1]),),
        Does.WAIT,
        "then Fresh water may be at the line",
    ),
    "a day left, no place in the book": (
        lambda: (low((TANK, GREY), said("fresh", 15.0), WELL[1]),),
        Does.FIND,
        "Find a place for Fresh water",
    ),
    "somebody else has just done it": (
        lambda: (low((TANK, GREY), DRY, said("grey", 5.0), a_fill(9, hour=7.5)), BOTH),
        Does.WAIT,
        "Nothing to do until",
    ),
}
OUTLOOKS = {
    "frost tonight, water in the lines": FREEZES,
    "frost tonight, all drained": FREEZES,
    "cells too cold to charge": FREEZES,
    "the bank low, plugged in": plugged(DayStatus.HOOKUP),
}
TIMES = {
    "due at night": NOW.replace(hour=22),
    "a reading missing for nine days": at(18, 8.0),
    "frost tonight, water in the lines": NOW.replace(hour=20),
    "frost tonight, all drained": NOW.replace(hour=20),
}


@pytest.mark.parametrize("name", CASES)
def test_there_is_one_thing_to_do_next(name):
    build, does, fragment = CASES[name]
    made, *book = build()
    found, known, ahead = situation(made, *book, now=TIMES.get(name, NOW), outlook=OUTLOOKS.get(name, ()))
    assert found.does is does, found
    if ahead is not None:
        line = step(found, known.rig, ahead, Display.of(known.rig))
        assert fragment in line
        assert len(line) <= 90


def test_where_no_stop_alone_keeps_the_risk_a_habit_is_next():
    rig, log = low((TANK, GREY), said("fresh", 60.0), WELL[1])
    whole = derive(known_of(rig, log, BOTH), (), 1)
    together = together_of(whole.known, 14)
    plan = Planner(together.joint, whole.known.book, Wanted(days=14)).plan()
    lever = next(each for each in together.levers if each.hardship is not None)
    tight = replace(
        plan, feasible=False, breaks=TANK, leave_by=None, outings=(), remedy=Remedy(lever=lever, p_crossed=0.2)
    )
    found = next_step(whole.known, whole.forecast, lambda: tight)
    assert (found.does, found.lever, found.stores) == (Does.LEVER, lever, (TANK,))


def test_what_needs_no_plan_does_not_wait_for_one():
    def never():
        raise AssertionError

    for made in (low((TANK, GREY), DRY, jugs=JUGS), low((TANK, URINE), WELL[0], said("urine", 9.0))):
        whole = derive(known_of(*made, BOTH), (), 1)
        assert next_step(whole.known, whole.forecast, never).acts
