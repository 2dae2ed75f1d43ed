"""Every sentence about levers, places, plans and tickets."""

from collections.abc import Iterator
from dataclasses import replace
from datetime import date, timedelta

from lodeline.core.book import NightsAt, PastVisit, Service, Spot, VisitNote
from lodeline.core.catalogue import GasHow
from lodeline.core.catalogue.terms import Thing
from lodeline.core.figures import Levers
from lodeline.core.forecast.forecast import Forecast
from lodeline.core.forecast.known import Known
from lodeline.core.levers.agreed import all_together
from lodeline.core.levers.kept import HowKept, KeptHow, KeptUse
from lodeline.core.levers.stay import AddedLever, Stay
from lodeline.core.levers.weigh import weigh
from lodeline.core.log import Day, Event
from lodeline.core.rig import Rig
from lodeline.core.stops.plan import Fallback, Moved, NotServed, Plan, Unserved, Wanted, WhyServed
from lodeline.core.stops.planner import plan
from lodeline.core.stops.ticket import StopWeight, Task, TaskKind, ticket
from lodeline.core.wishes import Agreed
from lodeline.text import calendar, chances, levers, search, stops
from lodeline.text import ticket as ticket_words
from lodeline.text.display import Display
from lodeline.text.times import clock_on
from tests.builders import BANK, FRESH, GREY, at
from tests.stops import HERE, a_spot
from tests.text.walk_next import of_next


def of_stops(rig: Rig, known: Known, ahead: Forecast, shown: Display) -> Iterator[str]:
    """The sentences of a rig with levers and a book."""
    yield from _of_levers(rig, known, shown)
    book = (
        a_spot("every", "water", "grey", "gas", "fuel", "hookup", "supplies", "laundry", "shower"),
        a_spot("far", "water", "grey", north_km=40),
    )
    planned = _a_plan(rig, known, book)
    yield from of_next(rig, ahead, planned, all_together(known, 1, 10, 50).levers[0], shown)
    yield from _of_plan(planned, shown)
    yield from _of_places(rig, book, shown)
    yield from _of_ticket(rig, planned, shown)
    for each in map(calendar.without_position, calendar.entries(rig, 1, ahead, planned, shown)):
        yield from (each.title, each.text)
    yield from (search.day(at(1).date()), search.of_spot(book[0], shown))
    yield from (search.of_day(note, "Old field", ("Did laundry",)) for note in ("", "Busy.", "Busy day, " * 14))
    for days in (0, 1, 3):
        yield clock_on(at(2 + days, 16), at(2))


def _a_plan(rig: Rig, known: Known, book: tuple[Spot, ...]) -> Plan:
    here = {id: replace(each, conditions=replace(each.conditions, place=HERE)) for id, each in known.tracked.items()}
    joint = all_together(replace(known, tracked=here, book=book), 1, 10, 300).joint
    return plan(joint, book, Wanted(days=10))


def _of_levers(rig: Rig, known: Known, shown: Display) -> Iterator[str]:
    rig = replace(rig, hardship={})
    together = all_together(known, 1, 14, 200)
    ranked = weigh(together.joint, together.levers, 3.0)
    for each in ranked:
        yield from (
            levers.lever_words(rig, each.lever, shown),
            levers.both_sides(rig, each.lever, shown),
            levers.gain(rig, each),
            levers.gain(rig, replace(each, idle_for="fresh")),
        )
    yield from (levers.hardship(value) for value in (*range(Levers.most_hardship + 1), None))
    agreed = Agreed(lever="x", since=at(0).date(), until=at(3).date())
    yield levers.agreed("Shower ashore", agreed)
    brought = KeptUse(store=FRESH, before=19.0, during=14.0, expected=6.0)
    for verdict in KeptHow:
        how = HowKept(agreed=agreed, days=3, verdict=verdict, brought=(brought,))
        yield levers.how_kept("Shower ashore", how, shown)
    steps = tuple(AddedLever(each.lever, 0.8) for each in ranked[:2])
    for needs in ((), steps[:1], steps):
        for feasible in (True, False):
            yield levers.stay_answer(Stay(p_stay=0.4, needs=needs, p_stay_with=0.93, feasible=feasible), 0.9)


def _of_plan(planned: Plan, shown: Display) -> Iterator[str]:
    for each in planned.stops:
        yield from (stops.stop_closed(replace(each, open_then=False)) or "", stops.to_pay(each.cost, shown))
    fewer = replace(planned, outings=planned.outings[:1], others=(), cost=planned.cost + 4, km=planned.km + 20)
    first = planned.stops[0]
    act = first.acts[0]
    later = planned.at + timedelta(days=2)
    when = WhyServed(store=act.store, due=False, p=0.9, p10=planned.at + timedelta(days=1), p50=later, p90=None)
    missing = [Unserved(store=store, why=why, reason=when) for store in (FRESH, GREY, BANK) for why in NotServed]
    for each in (
        planned,
        fewer,
        replace(planned, stands=True),
        replace(planned, outings=(), stands=True),
        replace(planned, outings=(), needs=tuple(missing)),
        replace(planned, helpless=(FRESH,)),
        replace(planned, once=(FRESH,)),
        replace(planned, needs=tuple(missing[:1])),
        replace(planned, has_position=False),
        replace(planned, feasible=False, breaks=FRESH, p_crossed=0.3),
        replace(planned, cost=0.0, p_crossed=0.0),
    ):
        yield from stops.plan_headline(each, shown)
        yield levers.stop_instead(each, "Sunday 29 November", shown)
    for store in (FRESH, GREY, BANK):
        for due, p, p50 in ((True, 1.0, None), (False, 0.9, later), (False, 0.2, None), (False, 0.0, None)):
            why = replace(when, store=store, due=due, p=p, p50=p50)
            yield stops.reason(why, planned.at, shown)
            due_first = replace(first, reasons=(why,))
            alone = replace(planned, outings=(replace(planned.outings[0], stops=(due_first,)),))
            yield from stops.plan_headline(alone, shown)
            yield levers.stop_first(alone, 0.7, "Sunday 29 November", shown)
    yield stops.remedy("Navy showers", 0.2)
    for breaks in (None, GREY):
        yield stops.tried(Moved(p_crossed=0.2, feasible=breaks is None, breaks=breaks, lanes=()))
    yield from (chances.in_ten(p) for p in (0.0, 0.004, 0.04, 0.5, 0.94, 0.96, 1.0))
    instead = Fallback(closed=first.spot, stores=(FRESH, GREY))
    yield stops.fallback(instead, planned.at, shown)
    for km, cost in ((12.0, 3.0), (-12.0, -3.0), (0.0, 0.0)):
        found = replace(instead, outing=planned.outings[0], more_km=km, more_cost=cost)
        yield stops.fallback(found, planned.at, shown)
    yield stops.other(fewer, planned, shown)
    for outing in planned.outings:
        yield from (
            stops.outing(one, planned.at, shown)
            for one in (
                outing,
                replace(outing, on_the_way=True),
                replace(outing, back=None),
                replace(outing, back=later),
            )
        )
    held = replace(first, acts=(replace(act, held_to=40.0), *first.acts[1:]))
    for stop in (*planned.stops, held):
        night = replace(stop, plug=True, depart=stop.arrive + timedelta(hours=15))
        yield from (stops.stop(stop, planned.at, shown), stops.stop(night, planned.at, shown), stops.stop_does(stop))
        yield stops.stop_why(stop, planned.at, shown)
        yield from (stops.act(act, shown) for act in stop.acts)


def _of_places(rig: Rig, book: tuple[Spot, ...], shown: Display) -> Iterator[str]:
    rich = Service(
        kind=book[0].services["gas"].kind,
        fuels=("propane",),
        how=GasHow.SWAP,
        price_per_unit=2.4,
        price=0.0,
        l_per_min=8.0,
        drinkable=False,
        hose=False,
        amps=10.0,
        price_night=14.0,
    )
    yield from (
        stops.service(each, shown) for each in (rich, replace(rich, how=GasHow.REFILL, drinkable=True, price=3.0))
    )
    yield from (stops.services([rich, rich], shown), stops.services([], shown), stops.ring(20.0, shown))
    yield from (
        stops.way(12.0, 0.3, shown),
        stops.seen(12.0, 0.3, 45.0, shown),
        *(stops.direction(deg) for deg in (0, 100, 359)),
        replace(shown, currency="EUR").money(4.5),
        replace(shown, currency="EUR").about(57.71),
    )
    strict = replace(
        book[0], closed_months=frozenset({1, 12}), max_length_m=7.0, max_height_m=3.0, max_nights=2, fee=3.0
    )
    yield from stops.limits(strict, shown)
    yield from stops.limits(replace(strict, max_nights=0), shown)
    yield from (stops.lets_in(fits, rig, strict) or "-" for fits in (True, False))
    for known_on in (None, date(2026, 5, 1), date(2024, 5, 1)):
        yield stops.age(replace(strict, known_on=known_on), date(2026, 6, 1)) or "-"
    yield from (stops.opening(text) for text in (None, "Mo-Fr 08:00-18:00"))
    yield stops.note(VisitNote(on=at(0).date(), text="Tap ran dry"))
    day = Day(date=at(0).date(), events=(Event(at(0), "dump", "grey"),), note="Busy")
    yield from (stops.visit(rig, PastVisit(on=day.date, day=each), shown) for each in (day, replace(day, events=())))
    yield stops.nights(NightsAt(place=HERE, nights=3, last=at(2).date()))
    yield from (stops.brought(added, 2, 1) for added in (0, 1, 3))


def _of_ticket(rig: Rig, planned: Plan, shown: Display) -> Iterator[str]:
    for outing in planned.outings:
        for task in ticket(rig, outing, {}).tasks:
            yield from _of_task(rig, task, shown)
    base = Task(
        id="one",
        kind=TaskKind.PLUG_IN,
        store="house",
        event="shore",
        low=10.0,
        high=40.0,
        hours=9.0,
        km=12.0,
        minutes=10.0,
        cost=4.5,
        trips=2,
        jug=20.0,
        things=tuple(Thing),
        draw_a=6.0,
    )
    for changes in ({}, {"post_a": 4.0}, {"post_a": 10.0}, {"event": None}, *({"kind": kind} for kind in TaskKind)):
        yield from _of_task(rig, replace(base, **changes), shown)
    yield from (ticket_words.weight(StopWeight(stores_kg=120.0, left_kg=left), shown) for left in (None, 80.0, -30.0))
    yield from (ticket_words.sums(75.0, cost, shown) for cost in (0.0, 12.5))
    for over, gone, changed in ((False, True, False), (False, False, True), (True, True, True)):
        yield ticket_words.changed(over, gone, changed) or "-"
    yield ticket_words.done(Event(at(0), "dump", "grey"), rig, shown)


def _of_task(rig: Rig, task: Task, shown: Display) -> Iterator[str]:
    yield from (ticket_words.task(rig, task, shown), ticket_words.beside(task, shown) or "-", ticket_words.did(task))
