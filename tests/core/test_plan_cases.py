"""The plan in the small cases that the file contract settles: each by its sentence there."""

from dataclasses import replace
from datetime import timedelta
from itertools import pairwise

import pytest

from lodeline.core.catalogue import AfterStop, GasHow
from lodeline.core.log import Event, OutlookDay, Place
from lodeline.core.rig import WaterGear
from lodeline.core.stops.onward import onward
from lodeline.core.stops.plan import NotServed, Wanted
from lodeline.core.stops.planner import Planner, plan
from lodeline.core.wishes import FixedStop
from tests.builders import FUEL, GAS, GREY, a_fill, a_log, a_reading, a_rig, a_store, at
from tests.stops import HERE, NOW, TANK, a_spot, known_of, lived_in, together_of

TAP = a_spot("tap", "water", north_km=4)
DRAIN = a_spot("drain", "grey", "black", north_km=7)
BOTH = a_spot("both", "water", "grey", north_km=18)
HOUR = timedelta(hours=1)


def planned(rig, log, *book, days=7, risk=0.1, n_paths=400, now=NOW, **more):
    known = replace(known_of(rig, log, *book, now=now), **more)
    return plan(together_of(known, days, n_paths).joint, book, Wanted(days=days, risk=risk))


def with_readings(log, *readings):
    return replace(log, days=(*log.days[:-1], replace(log.days[-1], readings=readings)))


def dry():
    rig, log = lived_in()
    return rig, with_readings(log, a_reading(9, 1.0, hour=6.0), a_reading(9, None, "dry", hour=7.0))


# ---- what is counted


def test_what_is_past_its_line_is_due_and_is_served_at_the_first_arrival_and_the_rest_keeps_its_number():
    rig, log = dry()
    answer = planned(rig, log, TAP, DRAIN)
    first = answer.outings[0]
    assert answer.due == ("fresh",)
    assert first.leave == answer.leave_by == NOW
    assert next(each for each in first.stops if "fresh" in each.serves).reasons[0].due
    assert answer.feasible
    assert 0 < answer.p_crossed <= 0.1


def test_with_something_due_after_dark_one_leaves_when_day_begins():
    rig, log = dry()
    late = NOW.replace(hour=21, minute=40)
    answer = planned(rig, log, TAP, DRAIN, now=late)
    assert answer.leave_by == answer.outings[0].leave == (late + timedelta(days=1)).replace(hour=6, minute=0)


def test_a_line_met_before_anybody_could_have_come_is_told_apart():
    # some 14 L of 160 are left, and 16 go a day
    rig, near = lived_in(replace(TANK, capacity=160.0), GREY)
    book = (replace(TAP, opening_hours="Th-Su 09:00-18:00"), DRAIN)
    answer = planned(rig, near, *book)
    # Wednesday, 8:00: in one night and day the tank is dry more often than not; on Thursday morning it is filled
    assert answer.due == ()
    assert answer.p_before > 0.2
    assert answer.p_crossed <= 0.1
    assert next(each for each in answer.stops if "fresh" in each.serves).arrive.strftime("%a %H") == "Thu 09"


def small():
    """A rig that fills its tank each morning, which lasts little more than a day."""
    tank = replace(TANK, capacity=20.0)
    entries = [entry for day in range(9) for entry in (a_fill(day, hour=7.0), a_reading(day, 12.0, hour=19.0))]
    drained = [Event(at(5, 7.0), "dump", "grey"), a_reading(8, 20.0, "volume", "grey", hour=19.0)]
    return a_rig(tank, GREY), a_log(*entries, *drained, days=9, place=HERE)


def test_what_needs_a_stop_nearly_every_day_is_still_served_in_time_and_the_rest_is_planned():
    rig, log = small()
    answer = planned(rig, log, TAP, DRAIN)
    assert tuple(store.id for store in answer.once) == ("fresh",)
    first = answer.outings[0]
    assert "fresh" in {store for stop in first.stops for store in stop.serves}
    reason = next(each for stop in first.stops for each in stop.reasons if each.store.id == "fresh")
    assert first.stops[0].arrive <= reason.p10 + HOUR
    assert answer.feasible
    assert len(answer.outings) < 7


def test_a_dry_tank_that_lasts_but_a_day_is_filled_at_once():
    rig, log = small()
    empty = with_readings(log, a_reading(9, 0.5, hour=6.0), a_reading(9, None, "dry", hour=7.0))
    answer = planned(rig, empty, TAP, DRAIN)
    assert (answer.due, answer.leave_by) == (("fresh",), NOW)
    assert answer.outings[0].leave == NOW


def test_plans_made_outing_by_outing_keep_what_is_planned_by_hand_and_leave_after_they_arrived():
    rig, log = lived_in(after_stop=AfterStop.STAY)
    joint = together_of(known_of(rig, log, TAP, DRAIN, BOTH), 7, 400).joint
    wished = (FixedStop(spot="drain", arrive=at(12, 12)),)
    routes = Planner(joint, (TAP, DRAIN, BOTH), Wanted(days=7, risk=0.1, wished=wished, others=False)).routes
    made = [part for first in (0.5, 0.1) for part in onward(routes, 14, first, 6)]
    assert made
    for part in made:
        assert sum(each.is_fixed for each in part.outings) == 1
        assert all(a.end_h <= b.leave_h for a, b in pairwise(part.outings))


def test_plans_made_outing_by_outing_are_not_far_from_the_best():
    rig, log = lived_in()
    joint = together_of(known_of(rig, log, TAP, DRAIN, BOTH), 7, 400).joint
    planner = Planner(joint, (TAP, DRAIN, BOTH), Wanted(days=7, risk=0.1, others=False))
    routes, best = planner.routes, planner.best
    assert best.exact
    made = [part for part in onward(routes, 14, 0.5, 6) if routes.keeps(routes.lost_of(part))]
    assert made
    n = min(routes.own(part) for part in made)
    assert len(best.outings) <= n <= len(best.outings) + 1
    for part in made:
        assert all(a.end_h <= b.leave_h for a, b in pairwise(part.outings))
        again = routes.whole(part.outings)
        assert (again.lost, again.since) == (part.lost, part.since)


@pytest.mark.parametrize("counts", [True, False])
def test_a_counted_spare_comes_back_at_every_service(counts):
    cassette = a_store("cassette", 20.0, "cassette", reserve=20.0, reserve_counts=counts)
    rig = a_rig(cassette)
    log = a_log(
        *(a_reading(day, (6.0 * day) % 18.0, "volume", "cassette", hour=19.0) for day in range(1, 9)),
        days=9,
        place=HERE,
    )
    answer = planned(rig, log, a_spot("point", "black", north_km=5), days=14, risk=0.2)
    # 6 L a day in 20: every third day, or with the spare every sixth
    assert (len(answer.outings) <= 4) == counts
    assert answer.feasible


def test_a_tank_is_not_passed_by_the_way_to_the_pump_that_fills_it():
    rig, log = lived_in(TANK, FUEL)
    log = with_readings(log, a_reading(9, 50.0, hour=6.5), a_reading(9, 0.14, "fraction", "diesel", hour=7.0))
    # 11 L are left, 4 over the line: the way of 60 km there takes 7
    answer = planned(rig, log, a_spot("pump", "fuel", "water", north_km=60, prices={"fuel": 1.6}))
    assert len(answer.outings) == 1
    assert answer.p_crossed <= 0.1


# ---- which plan


def test_water_here_and_drain_there_is_one_outing_and_waste_comes_before_fresh_water():
    rig, log = lived_in()
    answer = planned(rig, log, TAP, DRAIN, days=4)
    assert [[stop.spot.id for stop in outing.stops] for outing in answer.outings] == [["drain", "tap"]]
    # out 7 km, back 3, home 4
    assert answer.km == pytest.approx(14, rel=0.01)


def test_of_as_many_outings_the_one_with_fewer_stops_is_made_and_then_the_cheaper():
    rig, log = lived_in()
    far = replace(BOTH, lat=HERE.lat + 30 / 111.195)
    assert [stop.spot.id for stop in planned(rig, log, TAP, DRAIN, far, days=4).stops] == ["both"]
    paid = replace(BOTH, id="paid", fee=30.0, lat=HERE.lat + 1 / 111.195)
    answer = planned(rig, log, far, paid, days=4)
    # 78 km cost 19.50, by the price that is assumed; the fee is 30
    assert [stop.spot.id for stop in answer.stops] == ["both"]
    assert answer.price_assumed
    assert answer.cost == pytest.approx(2 * 39 * 0.25, rel=0.01)


def test_the_fuel_of_the_way_costs_what_the_book_says():
    rig, log = lived_in()
    pump = a_spot("pump", "fuel", north_km=90, prices={"fuel": 1.8})
    answer = planned(rig, log, BOTH, pump, days=4)
    assert not answer.price_assumed
    # 9 km a litre, where the rig has no tank that is logged
    assert answer.cost == pytest.approx(36 / 9 * 1.8, rel=0.01)


def test_departures_lie_by_day_at_full_quarters_and_arrivals_within_the_hours():
    rig, log = lived_in()
    book = (replace(TAP, opening_hours="Mo-Fr 07:10-08:20"), replace(DRAIN, opening_hours="Th,Fr 20:30-22:00"))
    answer = planned(rig, log, *book, days=9, risk=0.4)
    assert {stop.spot.id for stop in answer.stops} == {"tap", "drain"}
    for outing in answer.outings:
        assert outing.leave.minute % 15 == 0
        assert 6 <= outing.leave.hour + outing.leave.minute / 60 <= 21
        assert all(stop.open_then for stop in outing.stops)


def test_a_stop_on_the_way_of_a_day_on_which_the_rig_moves_costs_its_detour():
    rig, log = lived_in()
    there = Place("North", HERE.lat + 60 / 111.195, HERE.lon)
    days = tuple(OutlookDay(date=NOW.date() + timedelta(days=n), place=HERE if n < 1 else there) for n in range(6))
    tap = replace(TAP, lat=HERE.lat + 30 / 111.195)
    drain = replace(DRAIN, lat=HERE.lat + 29 / 111.195)
    answer = planned(rig, log, tap, drain, days=4, outlook=days)
    assert [outing.on_the_way for outing in answer.outings] == [True]
    assert answer.km == pytest.approx(0, abs=0.5)
    assert answer.outings[0].leave.date() == NOW.date() + timedelta(days=1)


def test_each_stop_saves_its_chance_and_says_what_for():
    rig, log = lived_in()
    answer = planned(rig, log, TAP, DRAIN, BOTH, days=10)
    assert answer.stops
    for stop in answer.stops:
        assert stop.serves
        assert set(stop.serves) | set(stop.beside) == {act.store.id for act in stop.acts}
        assert all(reason.p >= 0.02 for reason in stop.reasons)


def test_where_no_plan_keeps_the_risk_the_simplest_near_the_least_is_made():
    rig, log = lived_in()
    shut = (replace(BOTH, opening_hours="Sa 10:00-12:00"),)
    answer = planned(rig, log, *shut, risk=0.02)
    assert not answer.feasible
    assert len(answer.outings) == 1
    assert answer.breaks.id in ("fresh", "grey")


@pytest.mark.parametrize(("left", "swapped"), [(0.84, False), (0.5, False), (0.1, True)])
def test_a_bottle_is_swapped_when_it_is_low_and_never_near_full(left, swapped):
    rig, log = lived_in(TANK, GREY, GAS)
    days = [
        replace(
            day, readings=(*day.readings, a_reading(n, 7.5 + 9 * (left + 0.02 * (8 - n)), "gross", "gas", hour=18.0))
        )
        for n, day in enumerate(log.days[:-1])
        if n > 0
    ]
    log = replace(log, days=(log.days[0], *days, log.days[-1]))
    shop = a_spot("shop", "water", "grey", "gas", north_km=6)
    shop = replace(shop, services=shop.services | {"gas": replace(shop.services["gas"], how=GasHow.SWAP)})
    answer = planned(rig, log, shop, days=8)
    done = [act.store.id for stop in answer.stops for act in stop.acts]
    assert ("gas" in done) == swapped


def test_a_fill_that_would_pass_the_payload_is_filled_to_what_is_allowed():
    rig, log = lived_in(TANK, GREY, payload_kg=120.0)
    answer = planned(rig, log, BOTH, days=4)
    fill = next(act for stop in answer.stops for act in stop.acts if act.store.id == "fresh")
    assert fill.held_to == pytest.approx(120.0)
    assert fill.p90 < 120.0


def test_fresh_tanks_that_are_lived_from_together_are_one():
    second = replace(TANK, id="second", name="Second tank")
    rig, log = lived_in(TANK, GREY, second)
    full = Event(at(8, 7.0), "fill", "second", to_full=True)
    log = log.with_entries([full, a_reading(8, 198.0, "volume", "second", hour=18.0)], rig.zone)
    # 50 L of the one are 3 days, but 200 of the other stand beside it
    answer = planned(rig, log, TAP, DRAIN, days=5)
    assert not any("fresh" in stop.serves for stop in answer.stops)
    alone, log = lived_in()
    assert any("fresh" in stop.serves for stop in planned(alone, log, TAP, DRAIN, days=5).stops)


def test_where_the_risk_is_not_kept_the_habit_that_helps_most_is_named():
    rig, log = lived_in()
    book = (replace(BOTH, opening_hours="Sa 10:00-12:00"),)
    together = together_of(known_of(rig, log, *book), 14, 400)
    planner = Planner(together.joint, book, Wanted(days=14))
    made = planner.remedied(planner.plan(), together.levers)
    assert made.remedy.p_crossed <= made.p_crossed - 0.02
    assert any(touch.store == made.breaks.id for touch in made.remedy.lever.touches)
    kept = Planner(together.joint, (BOTH,), Wanted(days=3))
    assert kept.remedied(kept.plan(), together.levers).remedy is None


def test_water_that_is_not_for_drinking_is_planned_only_where_the_crew_filters():
    rig, log = lived_in()
    tap = replace(TAP, services={"water": replace(TAP.services["water"], drinkable=False)})
    answer = planned(rig, log, tap, DRAIN, days=5)
    assert [(need.store.id, need.why) for need in answer.needs] == [("fresh", NotServed.NOT_TO_DRINK)]
    assert [spot.id for spot in answer.not_to_drink] == ["tap"]
    filters = replace(rig, water=WaterGear(filter_l=3000.0))
    assert planned(filters, log, tap, DRAIN, days=5).needs == ()


def test_where_nobody_said_where_the_rig_stands_no_way_is_told():
    rig, log = lived_in()
    log = replace(log, days=tuple(replace(day, place=None) for day in log.days))
    answer = planned(rig, log, BOTH, days=5)
    assert answer.outings
    assert not answer.has_position


@pytest.mark.parametrize(
    ("changes", "rig_is", "why"),
    [
        ({"services": {}}, {}, NotServed.NO_PLACE),
        ({"closed_months": frozenset({6})}, {}, NotServed.CLOSED),
        ({"max_height_m": 2.5}, {"height_m": 3.0}, NotServed.TOO_HIGH),
        ({"max_length_m": 6.0}, {"length_m": 7.0}, NotServed.TOO_LONG),
        ({"lat": HERE.lat + 9}, {}, NotServed.TOO_FAR),
    ],
)
def test_what_no_place_serves_is_named_with_why(changes, rig_is, why):
    rig, log = lived_in(**rig_is)
    answer = planned(rig, log, TAP, replace(DRAIN, **changes))
    assert [(need.store.id, need.why) for need in answer.needs] == [("grey", why)]
    assert {stop.spot.id for stop in answer.stops} == {"tap"}
    assert answer.p_crossed <= 0.1


# ---- beside the plan


def test_where_the_place_is_closed_another_serves_what_made_the_stop_necessary():
    rig, log = lived_in()
    other = a_spot("other", "grey", north_km=30)
    answer = planned(rig, log, BOTH, other, TAP, days=4)
    assert answer.stops[0].spot.id == "both"
    served = {store for stop in answer.fallback.outing.stops for store in stop.stores}
    assert set(answer.stops[0].serves) <= served
    assert "both" not in {stop.spot.id for stop in answer.fallback.outing.stops}
    # 571 km are no answer
    far = replace(other, lat=HERE.lat + 4)
    none = planned(rig, log, BOTH, far, TAP, days=4).fallback
    assert (none.outing, none.closed.id) == (None, "both")


def test_other_plans_differ_in_kind_and_keep_nearly_as_much():
    rig, log = lived_in()
    dear = replace(BOTH, fee=25.0)
    answer = planned(rig, log, dear, TAP, DRAIN, days=7)
    assert 0 < len(answer.others) <= 2
    for each in answer.others:
        assert each.p_crossed <= answer.p_crossed + 0.05
        assert each.cost <= 0.8 * answer.cost or each.stops[0].spot != answer.stops[0].spot


def test_departures_stand_by_the_clock_aboard():
    rig, log = lived_in(timezone="Europe/Berlin")
    answer = planned(rig, log, TAP, DRAIN, days=5)
    zone = rig.zone
    assert all(zone.local(outing.leave).hour in (9, 12, 15, 18, 10) for outing in answer.outings)
