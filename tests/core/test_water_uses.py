"""What activities take, by habit and by log; several tanks; what is measured; a drained rig."""

from dataclasses import replace

import numpy as np
import pytest

from lodeline.core.acts import Deed, Stands, act_of, acts
from lodeline.core.catalogue import GaugeKind, Outlet
from lodeline.core.entries import check_event
from lodeline.core.forecast.forecast import ChoreKind
from lodeline.core.habits import taken_l, usual_activities
from lodeline.core.levers.lever import Aboard
from lodeline.core.levers.water import water_levers
from lodeline.core.log import Event
from lodeline.core.rig import Crew, Gauge, Jug
from lodeline.core.tracking.day_kinds import NO_DAY_KINDS, known_day_kinds
from lodeline.core.tracking.use import expected_use
from lodeline.core.water.learned import Told, amounts
from tests.builders import a_fill, a_reading, a_rig, a_store, at, forecast, known_at
from tests.water import (
    CASSETTE,
    DISHES_L,
    DRAIN,
    NAVY_L,
    NOW,
    TANK,
    a_habit,
    a_water_rig,
    ahead_of,
    known,
    lived,
    with_events,
)


def usual(store, rig=None, kinds=NO_DAY_KINDS):
    model = expected_use(rig or a_rig(store), store, kinds)
    return float(model.mean @ model.usual_x)


def by_id(rig, tracked):
    return {each.activity.id: each for each in amounts(rig, tracked["fresh"])}


def test_a_crew_that_says_how_it_lives_is_expected_to_use_that():
    # by hand: drinking 2 x 3.5, hands 2 x 3, the dog 1, dishes 1.5 x 5, navy 0.9 x 8, flush 2 x 2.0 into the cassette
    rig = a_water_rig()
    assert taken_l(rig) == pytest.approx(7 + 6 + 1 + 7.5 + 7.2 + 4)
    assert usual(TANK, rig) == pytest.approx(32.7)
    own = replace(rig, habits=(a_habit("navy", 1.0, each_l=5.0),))
    assert {each.activity.id: each.each_l for each in usual_activities(own)}["navy"] == 5.0


def test_what_is_logged_has_an_amount_of_its_own_that_the_prior_does_not_eat():
    rig = a_water_rig()
    found = by_id(rig, known(rig))
    assert found["dishes"].each_l.p50 == pytest.approx(DISHES_L, rel=0.25)
    assert found["navy"].each_l.p50 == pytest.approx(NAVY_L, rel=0.25)
    assert found["navy"].each_l.p10 < NAVY_L < found["navy"].each_l.p90
    assert (found["navy"].told, found["drink"].told) == (Told.LEARNED, Told.NOT_LOGGED)


def test_a_meter_tells_amounts_more_closely_than_a_gauge():
    rig = a_water_rig()
    by_meter, by_gauge = (by_id(rig, known(rig, lived(metered=metered)))["dishes"].each_l for metered in (True, False))
    assert by_meter.p50 == pytest.approx(DISHES_L, rel=0.1)
    assert by_meter.p90 - by_meter.p10 < by_gauge.p90 - by_gauge.p10


def test_what_always_comes_together_is_said_not_to_be_told_apart():
    rig, log = a_water_rig(habits=(a_habit("dishes", 1.0), a_habit("navy", 1.0))), lived()
    days = []
    for day in log.days:
        others = tuple(e for e in day.events if e.type not in ("dishes", "navy"))
        dishes = [e for e in day.events if e.type == "dishes"]
        twins = tuple(replace(e, type="navy") for e in dishes)
        days.append(replace(day, events=(*others, *dishes, *twins)))
    found = by_id(rig, known(rig, replace(log, days=tuple(days))))
    assert found["navy"].told is Told.ALIKE
    assert [each.id for each in found["navy"].alike] == ["dishes"]


def test_what_was_measured_for_one_use_moves_the_level_and_teaches_its_amount():
    rig, log = a_water_rig(), lived()
    measured = with_events(log, Event(at(30, 6), "navy", count=2, amount=11.0))
    before = known(rig, with_events(log, Event(at(30, 6), "filter")))
    after = known(rig, measured)
    moved = before["fresh"].belief.level - after["fresh"].belief.level
    assert moved == pytest.approx(11.0, abs=1.0)
    assert by_id(rig, after)["navy"].each_l.p50 < by_id(rig, before)["navy"].each_l.p50


def test_a_habit_that_is_logged_only_now_and_then_stays_part_of_the_usual_day():
    log = lived()
    few = replace(
        log,
        days=tuple(
            replace(day, events=tuple(e for e in day.events if e.type != "dishes" or number % 5 == 0))
            for number, day in enumerate(log.days)
        ),
    )
    habits = (a_habit("dishes", 1.5),)
    assert "dishes" in known_day_kinds(few).ids
    assert "dishes" not in known_day_kinds(few, habits).ids
    assert "dishes" in known_day_kinds(log, habits).ids


def test_two_fresh_tanks_share_the_crews_water_and_two_grey_ones_take_it_by_their_drains():
    large, small = a_store("fresh", 90.0, "a"), a_store("fresh", 60.0, "b")
    rig = a_rig(large, small, crew=Crew(2))
    assert usual(large, rig) + usual(small, rig) == pytest.approx(usual(a_store("fresh", 150.0)), rel=0.01)
    sink = a_store("grey", 40.0, "sink", takes=frozenset({Outlet.SINK}))
    shower = a_store("grey", 40.0, "shower", takes=frozenset({Outlet.SHOWER}))
    both = a_water_rig(TANK, sink, shower, habits=(a_habit("dishes", 1.0), a_habit("navy", 1.0)))
    # by hand: one navy shower of 8 L, 94 in 100 of it; the sink has the dishes and what is not drunk
    assert usual(shower, both) == pytest.approx(8 * 0.94)
    assert usual(sink, both) == pytest.approx(5 * 0.95 + 6 * 0.95 + 7 * 0.25)


def test_urine_plumbed_into_grey_and_a_tote_under_the_drain():
    plumbed = replace(DRAIN, takes=frozenset({Outlet.SINK, Outlet.SHOWER, Outlet.URINE}))
    rig = a_water_rig(TANK, plumbed)
    assert usual(plumbed, rig) - usual(DRAIN, a_water_rig(TANK, DRAIN)) == pytest.approx(2 * 1.4)
    tote = replace(DRAIN, reserve=30.0, reserve_counts=True)
    log = lived()
    plain, more = (
        forecast(each, log, (), NOW).of("grey") for each in (a_water_rig(TANK, DRAIN), a_water_rig(TANK, tote))
    )
    rate = plain.rate_per_day
    chore = forecast(a_water_rig(TANK, tote), log, (), NOW).chores[0]
    assert (chore.store.id, chore.kind) == ("grey", ChoreKind.CARRY)
    assert chore.p50_days == pytest.approx(plain.p50_days, rel=0.2)
    assert more.p50_days - plain.p50_days == pytest.approx(30.0 / rate, rel=0.25)
    carried = with_events(log, Event(at(30, 6), "move", source="grey", target="reserve", amount=12.0))
    assert known(a_water_rig(TANK, tote), carried)["grey"].reserve == 18.0
    emptied = with_events(
        carried, Event(at(30, 6.5), "move", source="reserve", target="outside", store="grey", amount=12)
    )
    check_event(emptied.days[-1].events[-1], a_water_rig(TANK, tote).vessels, "event")
    assert known(a_water_rig(TANK, tote), emptied)["grey"].reserve == 30.0


def test_a_second_cassette_takes_the_place_of_the_full_one():
    one = a_store("cassette", 19.0, "cassette")
    two = replace(one, reserve=19.0, reserve_counts=True)
    log = with_events(lived(), *(Event(at(number, 12), "dump", "cassette") for number in range(1, 30, 4)))
    alone, both = (forecast(a_water_rig(TANK, each), log, (), NOW) for each in (one, two))
    assert [(chore.store.id, chore.kind) for chore in both.chores] == [("cassette", ChoreKind.SWAP)]
    assert both.of("cassette").p50_days > 1.5 * alone.of("cassette").p50_days
    full = with_events(log, Event(at(30, 6), "move", source="cassette", target="reserve", amount=18.0))
    rig = a_water_rig(TANK, two)
    changed = known(rig, full)["cassette"]
    assert changed.reserve == 0.0  # the one spare stands there full, whatever was in it
    assert changed.level < 3.0
    left = forecast(rig, full, (), NOW)
    assert [(chore.store.id, chore.kind) for chore in left.chores] == [("cassette", ChoreKind.EMPTY)]
    offered = acts(rig, Stands.of(rig, full, known(rig, full)))
    assert act_of(left.chores[0], offered).deed is Deed.CARRIED
    assert next(act for act in offered if act.deed is Deed.CHANGED).rare
    done = with_events(
        full, Event(at(30, 6.5), "move", source="reserve", target="outside", store="cassette", amount=18)
    )
    assert known(a_water_rig(TANK, two), done)["cassette"].reserve == 19.0


def test_jugs_are_the_tanks_reserve_and_pouring_one_in_is_not_a_fill():
    rig = a_water_rig()
    poured = with_events(lived(), Event(at(30, 6), "move", source="jug-1", target="fresh", amount=10.0))
    before, after = known(rig, with_events(lived(), Event(at(30, 6), "filter"))), known(rig, poured)
    assert (before["fresh"].reserve, after["fresh"].reserve) == (20.0, 10.0)
    assert after["fresh"].belief.level - before["fresh"].belief.level == pytest.approx(10.0, abs=0.5)
    refilled = with_events(poured, Event(at(30, 6.5), "move", source="outside", target="jug-1", amount=10.0))
    assert known(rig, refilled)["fresh"].reserve == 20.0
    assert known(rig, with_events(poured, a_fill(30, hour=6.8)))["fresh"].reserve == 10.0


def test_jugs_that_are_the_whole_supply_are_the_tank_and_not_its_reserve():
    jugs = (Jug(id="a", name="A", litres=60.0, in_use=True), Jug(id="b", name="B", litres=10.0, drinkable=False))
    rig = a_water_rig(replace(TANK, reserve=0.0), jugs=jugs)
    quiet = with_events(lived(), Event(at(30, 6), "filter"))
    filled = with_events(quiet, Event(at(30, 6), "move", source="outside", target="a", amount=30.0))
    washed = with_events(quiet, Event(at(30, 6), "move", source="outside", target="b", amount=9.0))
    before, after, other = (known(rig, log)["fresh"] for log in (quiet, filled, washed))
    assert after.belief.level - before.belief.level == pytest.approx(30.0, abs=0.5)
    assert other.belief.level == pytest.approx(before.belief.level, abs=0.1)
    assert (before.reserve, after.reserve, other.reserve) == (0.0, 0.0, 0.0)


def test_a_drained_rig_asks_nothing_until_it_is_filled_again():
    rig = a_water_rig()
    drained = with_events(lived(), Event(at(29, 23.8), "drain"))
    tracked = known(rig, drained)
    ahead = forecast(rig, drained, (), NOW, tracked=tracked)
    assert tracked["fresh"].drained_since == at(29, 23.8)
    assert not ahead.of("fresh").known
    assert not ahead.of("grey").known
    assert ahead.autonomy.store in (None, "cassette")
    again = known(rig, with_events(drained, a_fill(30, hour=6.0, amount=60.0)))
    assert again["fresh"].drained_since is None
    assert again["fresh"].belief.level == pytest.approx(60.0, abs=6)


def test_a_fouled_gauge_is_read_with_its_floor():
    fouled = replace(DRAIN, reads_from=0.33)
    dumped = with_events(lived(), Event(at(30, 5), "dump", "grey"))
    day = dumped.days[-1]
    read = replace(
        dumped, days=(*dumped.days[:-1], replace(day, readings=(a_reading(30, 0.33, "fraction", "grey", 6),)))
    )
    by_floor, as_read = (known(a_water_rig(TANK, grey), read)["grey"].level for grey in (fouled, DRAIN))
    assert by_floor < 0.1 * DRAIN.capacity
    assert as_read > by_floor
    above = with_events(lived(), Event(at(30, 6), "filter"))
    assert known(a_water_rig(TANK, fouled), above)["grey"].level == pytest.approx(
        known(a_water_rig(), above)["grey"].level, abs=2
    )


def test_levers_spare_what_an_activity_takes_by_the_log():
    rig = a_water_rig()
    tracked = known(rig)
    levers = {
        each.id: each
        for each in water_levers(Aboard(known=known_at(rig, lived(), NOW, tracked), ahead=ahead_of(rig, tracked)))
    }
    assert "navy-showers" not in levers  # who showers navy already has nothing to spare there
    found = by_id(rig, tracked)
    fresh = {touch.store: touch.per_day for touch in levers["skip-showers"].touches}
    assert fresh["fresh"] == pytest.approx(0.85 * found["navy"].day_l.p50, rel=0.1)
    assert fresh["grey"] == pytest.approx(0.94 * fresh["fresh"], rel=0.3)
    often = found["dishes"].per_day
    once = {touch.store: touch.per_day for touch in levers["dishes-once"].touches}
    assert once["fresh"] == pytest.approx((often - 1) * found["dishes"].each_l.p50, rel=0.1)


def test_the_paths_ahead_leave_out_a_day_on_which_it_is_done_ashore():
    log = lived()
    off = a_water_rig(habits=(a_habit("dishes", 1.5), a_habit("navy", 0.9, not_on=frozenset({0, 1, 2, 3}))))
    kinds = known_day_kinds(log, off.habits)
    assert [kinds.usual_on("navy", day) for day in (0, 3)] == [0.0, 0.0]
    assert kinds.usual_on("navy", 5) == pytest.approx(kinds.usual("navy") * 7 / 3)
    assert np.isfinite(forecast(off, log, (), NOW).of("fresh").p50_days)


def test_a_mark_of_a_light_panel_over_a_floor_is_any_level_up_to_the_next():
    panel = replace(DRAIN, gauge=Gauge(GaugeKind.STEPS, (0.0, 0.33, 0.67, 1.0)), reads_from=0.33)
    log = with_events(lived(), Event(at(30, 5), "dump", "grey"))
    days = [replace(day, readings=tuple(r for r in day.readings if r.store != "grey")) for day in log.days]
    days[-1] = replace(days[-1], readings=(a_reading(30, 0.33, "step", "grey", 6),))
    assert known(a_water_rig(TANK, panel, CASSETTE), replace(log, days=tuple(days)))["grey"].level < 0.15 * 70
