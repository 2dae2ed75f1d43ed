"""Levers of the whole rig: what each touches and brings, the smallest set that reaches a day, what is agreed on."""

from dataclasses import replace
from datetime import timedelta
from itertools import combinations

import numpy as np
import pytest

from lodeline.core.catalogue import APPLIANCE_KINDS, LOAD_KINDS, Served
from lodeline.core.forecast.forecast import forecast
from lodeline.core.ledger import ledger
from lodeline.core.levers.agreed import agreed_changes, agreed_forecast
from lodeline.core.levers.kept import KeptHow, how_kept
from lodeline.core.levers.lever import Aboard
from lodeline.core.levers.stay import stay
from lodeline.core.levers.weigh import standing, weigh
from lodeline.core.rig import Appliance, Load
from lodeline.core.wishes import Agreed
from lodeline.core.zone import HOURS
from tests.builders import GAS, GREY, START, a_powered_rig, a_reading, a_source, a_store, at
from tests.stops import NOW, TANK, a_spot, known_of, lived_in, together_of

URINE = a_store("urine", 8.0, "urine", served=Served.STOP)


def weighed(known, until_days=None, days=14):
    together = together_of(known, days)
    return together, {each.lever.id: each for each in weigh(together.joint, together.levers, until_days)}


def test_a_shower_ashore_saves_fresh_grey_and_the_gas_that_heats_it():
    rig, log = lived_in(TANK, GREY, GAS)
    rig = replace(rig, appliances=(Appliance("boiler", "Boiler", APPLIANCE_KINDS["water-heater"], "gas"),))
    log = replace(log, days=(*log.days[:-1], replace(log.days[-1], readings=(a_reading(9, 5.0, "mass", "gas", 7.0),))))
    _, levers = weighed(known_of(rig, log))
    touched = {touch.store: touch.per_day for touch in levers["showers-ashore"].lever.touches}
    assert set(touched) == {"fresh", "grey", "gas"}
    assert touched["grey"] < touched["fresh"]
    assert all(amount > 0 for amount in touched.values())


def test_an_hour_of_the_generator_brings_the_bank_and_costs_its_fuel():
    rig, log = lived_in(*a_powered_rig().stores, TANK, a_store("fuel", 20.0, "can", fuel="petrol"))
    rig = replace(rig, sources=(a_source("generator", 40.0, "gen", fuel_store="can", fuel_l_per_h=0.9),))
    more = (a_reading(9, 0.7, "fraction", "house", 7.0), a_reading(9, 15.0, "volume", "can", 7.0))
    log = replace(log, days=(*log.days[:-1], replace(log.days[-1], readings=more)))
    together, levers = weighed(known_of(rig, log))
    lever = levers["generator-hour-gen"].lever
    assert {touch.store: touch.per_day for touch in lever.touches} == {"house": 40.0, "can": -0.9}
    with_it, without = (
        together.joint.draws["can"].paths(change).midnight[9].mean()
        for change in (lever.changes["can"], replace(lever.changes["can"], flow=None))
    )
    assert without - with_it == pytest.approx(0.9 * 10, abs=0.5)


def test_what_helps_a_store_that_does_not_run_out_first_brings_nothing_and_stands_last():
    rig, log = lived_in(replace(TANK, capacity=600.0), GREY)
    known = known_of(rig, log)
    together = together_of(known)
    ranked = weigh(together.joint, together.levers, None)
    jug = next(each for each in ranked if each.lever.id == "buy-jug")
    assert jug.idle_for == "grey"
    assert standing(together.joint, None).first == "grey"
    idle = [each.idle_for is not None for each in ranked]
    assert idle == sorted(idle)
    assert ranked[0].gained_days > 0.3


def test_a_lever_alone_is_what_the_forecast_says_with_it_agreed():
    rig, log = lived_in()
    known = known_of(rig, log)
    _, levers = weighed(known)
    alone = levers["showers-ashore"]
    agreed = replace(known, agreed=(Agreed(lever="showers-ashore", since=NOW.date(), until=at(60).date()),))
    paths = agreed.ahead(14, 400)
    ahead = forecast(agreed, paths, agreed_changes(Aboard(known=agreed, ahead=paths)))
    assert ahead.autonomy.p50_days == pytest.approx(alone.p50_days)
    assert ahead.autonomy.store == alone.first


def test_what_is_agreed_holds_on_its_dates_alone():
    rig, log = lived_in()
    plain, agreed = (
        agreed_forecast(known_of(rig, log, agreed=wish))
        for wish in ((), (Agreed(lever="showers-ashore", since=at(10).date(), until=at(10).date()),))
    )
    used = [np.diff([50.0, *(day.p50 for day in each.of("fresh").daily)]) for each in (plain, agreed)]
    spared = used[1] - used[0]
    assert spared[0] == pytest.approx(0.0, abs=0.02)
    assert spared[1] > 1.0
    assert spared[2] == pytest.approx(0.0, abs=0.2)
    assert agreed.of("fresh").p50_days > plain.of("fresh").p50_days


def everything(known, until_days, wanted):
    """The least hardship of all sets of up to three that reach the chance, by looking at each whole forecast."""
    together = together_of(known)
    able = [lever for lever in together.levers if not lever.kind.bought and lever.hardship is not None]
    found = []
    for n in range(4):
        for each in combinations(able, n):
            groups = [lever.kind.group for lever in each if lever.kind.group]
            p = float((together.joint.soonest(each) > until_days).mean())
            if p >= wanted and len(groups) == len(set(groups)):
                found.append((sum(lever.hardship for lever in each), len(each), -p))
    return min(found, default=None)


@pytest.mark.parametrize("until_days", [2.5, 3.4, 4.2, 5.0])
def test_the_set_is_the_smallest_of_all(until_days):
    rig, log = lived_in(replace(TANK, reserve=15.0), GREY, URINE, hardship={"flush-less": None})
    log = replace(
        log, days=(*log.days[:-1], replace(log.days[-1], readings=(a_reading(9, 2.0, "volume", "urine", 7.0),)))
    )
    known = known_of(rig, log)
    together = together_of(known)
    answer = stay(together.joint, together.levers, until_days * HOURS, 0.9)
    best = everything(known, until_days, 0.9)
    if best is None:
        assert not answer.feasible or len(answer.needs) > 3
    else:
        hardship = sum(step.lever.hardship for step in answer.needs)
        assert answer.feasible
        assert (hardship, len(answer.needs), -answer.p_stay_with) == pytest.approx(best)
    chances = [answer.p_stay, *(step.p_stay for step in answer.needs)]
    assert chances == sorted(chances)


def test_what_the_crew_never_does_and_what_must_be_bought_is_in_no_set():
    rig, log = lived_in(hardship={"showers-ashore": None, "skip-showers": None})
    together = together_of(known_of(rig, log))
    answer = stay(together.joint, together.levers, 6 * HOURS, 0.9)
    chosen = {step.lever.id for step in answer.needs}
    assert chosen
    assert not chosen & {"showers-ashore", "skip-showers", "buy-jug"}


@pytest.mark.parametrize(("until_days", "wanted"), [(5, 0.99), (8, 0.9), (12, 0.9), (13, 0.99)])
def test_a_stay_is_asked_of_a_bank_hour_by_hour(until_days, wanted):
    rig = replace(
        a_powered_rig(watts=60.0),
        loads=(*a_powered_rig().loads, Load("net", "Internet", 50.0, 20.0, kind=LOAD_KINDS["internet"])),
    )
    _, log = lived_in()
    days = [
        replace(d, readings=(a_reading(n, 0.95 - 0.03 * n, "fraction", "house", 19.0),))
        for n, d in enumerate(log.days[:-1])
    ]
    known = known_of(rig, replace(log, days=(*days, log.days[-1])))
    together = together_of(known)
    answer = stay(together.joint, together.levers, until_days * HOURS, wanted)
    assert answer.p_stay == pytest.approx(float((together.joint.soonest() > until_days).mean()), abs=0.01)
    steps = [step.lever for step in answer.needs]
    whole = float((together.joint.soonest(steps) > until_days).mean())
    assert answer.p_stay_with == pytest.approx(whole, abs=0.01)
    best = everything(known, until_days, wanted)
    assert answer.feasible is (best is not None)
    if best is not None:
        assert (sum(lever.hardship for lever in steps), len(steps)) == best[:2]


def test_a_trip_for_a_jug_needs_a_tap_within_a_walk():
    rig, log = lived_in()
    for km, there in ((0.8, True), (3.0, False)):
        _, levers = weighed(known_of(rig, log, a_spot("tap", "water", north_km=km)))
        assert ("jug-trip" in levers) is there


def test_an_agreement_is_kept_where_the_log_shows_less_use():
    agreed = Agreed(lever="showers-ashore", since=START + timedelta(days=5), until=START + timedelta(days=20))
    rig, log = lived_in()
    known = known_of(rig, log)
    rows = ledger(known.tracked, rig.zone)
    today = NOW.date()
    same = how_kept(agreed, {"fresh": 2.0}, rows, today)
    assert same.verdict is KeptHow.NOT_SEEN
    less = how_kept(
        agreed,
        {"fresh": 3.0},
        {on: [replace(row, used=row.used - 3.0 * (on >= agreed.since)) for row in day] for on, day in rows.items()},
        today,
    )
    assert less.verdict is KeptHow.KEPT
    assert less.brought[0].spared == pytest.approx(3.0, abs=1.5)
    assert how_kept(replace(agreed, since=today), {"fresh": 2.0}, rows, today).verdict is KeptHow.TOO_EARLY
