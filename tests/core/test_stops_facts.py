"""Opening hours, whom a place serves, and the ticket of a stop."""

from dataclasses import replace
from datetime import date, datetime, timedelta

import pytest

from lodeline.core.book import NightsAt, bearing_deg, fits, offered, rings, visits
from lodeline.core.catalogue import Caution, Sense, StopAct
from lodeline.core.errors import Refused
from lodeline.core.log import Event, Visit
from lodeline.core.stops.opening import check_opening, from_plain, is_open, opens_on, to_plain
from lodeline.core.stops.plan import PlannedOuting, Stop, StopWork
from lodeline.core.stops.ticket import TaskKind, done_by, ticket
from tests.builders import BANK, FRESH, FUEL, GAS, GREY, a_powered_rig, a_rig, a_source, a_store, at
from tests.stops import HERE, a_spot, lived_in

BLACK = a_store("black", 60.0, "black")
EVERY = a_spot("every", "water", "grey", "black", "solids", "hookup", "gas", "fuel", "supplies", "laundry", "shower")
HOUR = timedelta(hours=1)


def clock(*parts):
    """What the clock at a place shows."""
    return datetime(*parts)  # noqa: DTZ001


@pytest.mark.parametrize(
    "text", ["Mo-Fr 08:00-18:00; Sa 09:00-12:00", "24/7", "Tu,Th 10:00-12:00", "Mo-Su 06:00-24:00"]
)
def test_the_plain_form_says_the_same_as_the_notation(text):
    form = to_plain(text)
    spots = [replace(EVERY, opening_hours=each) for each in (text, from_plain(form))]
    week = [date(2026, 6, 1) + timedelta(days=n) for n in range(7)]
    assert [opens_on(spots[0], on) for on in week] == [opens_on(spots[1], on) for on in week]


@pytest.mark.parametrize(
    "text", ["Mo-Fr 08:00-12:00,14:00-18:00", "Apr-Oct 08:00-18:00", "sunrise-sunset", "We[1] 10:00-11:00"]
)
def test_hours_that_no_plain_form_says_keep_their_notation(text):
    assert to_plain(text) is None


@pytest.mark.parametrize("text", ["whenever", "Mo-Xx 08:00", "25:00-26:00", ""])
def test_what_is_no_notation_is_refused_with_where_it_goes_wrong(text):
    with pytest.raises(Refused) as refused:
        check_opening(text, "opening_hours")
    assert refused.value.problem.column >= 1


def test_a_place_is_open_through_the_whole_stay_or_not_at_all():
    spot = replace(EVERY, opening_hours="Mo-Fr 08:00-18:00", closed_months=frozenset({2}))
    tuesday = clock(2026, 6, 2, 17, 30)
    assert is_open(spot, tuesday, tuesday + HOUR / 2)
    assert not is_open(spot, tuesday, tuesday + HOUR)
    assert not is_open(spot, clock(2026, 2, 3, 10), clock(2026, 2, 3, 11))
    assert not is_open(spot, clock(2026, 6, 6, 10), clock(2026, 6, 6, 11))


def test_a_store_is_served_by_what_fits_it():
    rubbish, food = a_store("supply", 3.0, "bags", own_sense=Sense.FILLS), a_store("supply", 9.0, "food")
    served = {
        store.id: EVERY.service_for(store).kind.id for store in (FRESH, GREY, BLACK, GAS, FUEL, BANK, rubbish, food)
    }
    assert served == {
        "fresh": "water",
        "grey": "grey",
        "black": "black",
        "gas": "gas",
        "diesel": "fuel",
        "house": "hookup",
        "bags": "solids",
        "food": "supplies",
    }
    clean = replace(food, served_by="laundry")
    assert EVERY.service_for(clean).kind.id == "laundry"
    petrol = replace(EVERY, services={"fuel": replace(EVERY.services["fuel"], fuels=("petrol",))})
    assert petrol.service_for(FUEL) is None


def test_a_rig_fits_by_its_length_and_height_where_it_says_them():
    low = a_spot("low", "water", max_length_m=7.0, max_height_m=3.0)
    assert fits(a_rig(), low)
    assert fits(a_rig(length_m=6.9, height_m=2.9), low)
    assert not fits(a_rig(length_m=7.1), low)
    assert not fits(a_rig(height_m=3.2), low)


def test_bearings_are_those_of_the_compass():
    north = a_spot("north", "water", north_km=10).place
    assert bearing_deg(HERE, north) == pytest.approx(0.0, abs=0.01)
    assert bearing_deg(HERE, replace(HERE, lon=HERE.lon + 0.1)) == pytest.approx(90.0, abs=0.1)


@pytest.mark.parametrize(
    ("ways", "expected"),
    [
        ([], []),
        ([0.0], []),
        ([0.3], [1, 2, 3]),
        ([4.0, 8.0, 30.0], [5, 10, 15]),  # one that is far away stands at the rim
        ([90.0], [30, 60, 90]),
        # half the earth's circumference by the largest factor of a way that a rig can say
        ([20_015.0 * 5], [50_000, 100_000, 150_000]),
    ],
)
def test_rings_are_round_and_reach_three_quarters_of_the_places(ways, expected):
    assert rings(ways) == expected


def test_nights_of_the_log_are_offered_and_visits_are_found_again():
    rig, log = lived_in()
    assert offered(log, ()) == [NightsAt(place=HERE, nights=10, last=date(2026, 6, 10))]
    here = replace(a_spot("here", "water"), lat=HERE.lat, lon=HERE.lon)
    assert offered(log, (here,)) == []
    away = a_spot("away", "water", north_km=30)
    assert visits(away, log) == []
    logged = replace(log, days=(replace(log.days[0], visit=Visit("away")), *log.days[1:]))
    assert [each.on for each in visits(away, logged)] == [date(2026, 6, 1)]
    assert rig.crew.people == 2


def a_stop(*stores, spot=EVERY, plug=False):
    acts = tuple(
        StopWork(
            store=store,
            service=spot.service_for(store),
            p10=10.0,
            p50=20.0,
            p90=30.0,
            minutes=8.0,
            cost=0.0,
            act=StopAct.CHARGE if store.is_bank else StopAct.EMPTY if store.sense is Sense.FILLS else StopAct.FILL,
        )
        for store in stores
    )
    arrive = at(3, 10)
    stop = Stop(
        spot=spot,
        outing=0,
        leave=arrive - HOUR,
        arrive=arrive,
        depart=arrive + (14 * HOUR if plug else HOUR),
        minutes=60.0,
        km=40.0,
        cost=0.0,
        acts=acts,
        is_fixed=False,
        open_then=True,
        stores=frozenset(store.id for store in stores if not store.is_bank),
        plug=plug,
    )
    return an_outing(stop)


def an_outing(*stops):
    return PlannedOuting(
        leave=stops[0].leave,
        back=stops[-1].arrive + 3 * HOUR,
        stops=stops,
        km=80.0,
        back_km=40.0,
        cost=0.0,
        on_the_way=False,
        is_fixed=False,
    )


def kinds(written):
    return [task.kind for task in written.tasks]


def test_waste_comes_before_water_and_hands_are_washed_between():
    rig = a_rig(FRESH, GREY, BLACK, GAS)
    order = kinds(ticket(rig, a_stop(BLACK, GREY, FRESH, GAS), {}))
    wanted = [
        TaskKind.TAKE_OUT,
        TaskKind.GAS_OFF,
        TaskKind.DRIVE,
        TaskKind.EMPTY,
        TaskKind.RINSE,
        TaskKind.EMPTY,
        TaskKind.VALVES,
        TaskKind.HANDS,
        TaskKind.CLEAN_HOSE,
        TaskKind.FILL,
    ]
    assert order[: len(wanted)] == wanted
    assert order[-1] is TaskKind.GAS_ON


def test_the_black_tank_is_emptied_before_the_grey_one_that_rinses_the_hose():
    tasks = ticket(a_rig(FRESH, GREY, BLACK), a_stop(BLACK, GREY, FRESH), {}).tasks
    assert [task.store for task in tasks if task.kind is TaskKind.EMPTY] == ["black", "grey"]


def test_where_no_hose_reaches_it_is_trips_with_jugs():
    spout = replace(EVERY, services={"water": replace(EVERY.services["water"], hose=False)})
    jug = replace(FRESH, reserve=15.0)
    tasks = ticket(a_rig(jug), a_stop(jug, spot=spout), {}).tasks
    fill = next(task for task in tasks if task.kind is TaskKind.JUGS)
    assert (fill.trips, fill.jug, fill.event) == (2, 15.0, "fill")
    assert TaskKind.CLEAN_HOSE not in [task.kind for task in tasks]


def test_a_post_is_held_against_what_the_charger_draws():
    # a generator takes nothing from a post
    rig = replace(a_powered_rig(), sources=(a_source("shore", 60.0), a_source("generator", 25.0)))
    post = replace(EVERY, services={"hookup": replace(EVERY.services["hookup"], amps=4.0, volts=230.0)})
    plug = next(t for t in ticket(rig, a_stop(BANK, spot=post, plug=True), {}).tasks if t.kind is TaskKind.PLUG_IN)
    # 60 A at some 14 V through a charger that passes 85 %, from 230 V
    assert plug.draw_a == pytest.approx(60 * 14.0 / 0.85 / 230, rel=0.08)
    assert (plug.post_a, plug.event, plug.hours) == (4.0, "shore", 14.0)


def test_full_tanks_are_weighed_against_the_payload():
    rig = a_rig(FRESH, GREY, payload_kg=150.0)
    weight = ticket(rig, a_stop(FRESH, GREY), {"fresh": 20.0, "grey": 70.0}).weight
    assert (weight.stores_kg, weight.left_kg) == (100.0, 50.0)
    assert ticket(a_rig(FRESH), a_stop(FRESH), {}).weight.left_kg is None


def test_a_dump_always_says_that_local_rules_decide():
    assert Caution.DUMP_ALLOWED in ticket(a_rig(GREY), a_stop(GREY), {}).cautions
    assert Caution.DUMP_ALLOWED not in ticket(a_rig(FRESH), a_stop(FRESH), {}).cautions


def test_a_task_is_done_by_the_event_that_says_so():
    tasks = {task.id: task for task in ticket(a_rig(FRESH, GREY), a_stop(GREY, FRESH), {}).tasks}
    dump, out = Event(at(3, 10), "dump", "grey"), Event(at(3, 9), "drive", hours=1.0)
    assert done_by(tasks["empty-grey"], [out, dump]) is dump
    assert done_by(tasks["fill-fresh"], [out, dump]) is None
    assert (done_by(tasks["drive"], [out, dump]), done_by(tasks["back"], [out, dump])) == (out, None)
    assert done_by(tasks["valves"], [out, dump]) is None
