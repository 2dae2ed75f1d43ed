"""Every sentence that the text package makes, of a rig with everything aboard: for checks that hold for all of them."""

import dataclasses
import types
import typing
from collections.abc import Iterator
from dataclasses import replace
from datetime import date
from enum import Enum
from itertools import product

from lodeline.accounts import problems as account_problems
from lodeline.core import problems as p
from lodeline.core.acts import acts
from lodeline.core.catalogue import APPLIANCE_KINDS, Caution, Chemistry, Effect, Method, Served, System, VoltsState
from lodeline.core.catalogue.appliances import APPLIANCES
from lodeline.core.checks import energy_checks, rig_checks
from lodeline.core.conditions import Conditions
from lodeline.core.energy.ageing import Holds
from lodeline.core.energy.bank import RatingUnit, state_of_charge
from lodeline.core.energy.loads import audit
from lodeline.core.energy.yields import WeakCause, Weakness
from lodeline.core.forecast import appliance as a
from lodeline.core.forecast.charge_time import how_long
from lodeline.core.forecast.energy_ahead import energy_ahead
from lodeline.core.forecast.forecast import Chore, ChoreKind, Forecast
from lodeline.core.forecast.known import Known
from lodeline.core.forecast.score import Issued, Notice, Outcome, OutcomeKind, RecordSummary
from lodeline.core.forecast.seen import SeenSummary
from lodeline.core.forecast.stop import next_stop
from lodeline.core.ledger import ledger
from lodeline.core.levers.agreed import all_together
from lodeline.core.levers.bank import what_helps
from lodeline.core.log import Event, Log, OutlookDay, Place
from lodeline.core.reasons import reasons
from lodeline.core.rig import Appliance, Inverter, Layout, Rig, Store
from lodeline.core.tracking.energy_past import bank_wear, energy_past, learned_load_wh, strengths, sun_days
from lodeline.core.tracking.evidence import Evidence, evidence
from lodeline.core.tracking.gauges import LearnedGauge, PanelMark
from lodeline.core.tracking.hypothesis import Doubt, DoubtKind
from lodeline.core.tracking.track import track
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.zone import City, Zone
from lodeline.text import acts as act_words
from lodeline.text import (
    answers,
    doubts,
    energy,
    horizon,
    labels,
    logbook,
    questions,
    readings,
    review,
    standing,
    times,
)
from lodeline.text import problems as problem_words
from lodeline.text import rig as rig_words
from lodeline.text import round as round_words
from lodeline.text.cautions import cautions, of_bank
from lodeline.text.display import Display
from lodeline.text.habits import Habits, read_by
from lodeline.text.levers import lever_words
from lodeline.text.places import place_words
from tests.builders import (
    BANK,
    FRESH,
    FUEL,
    GAS,
    GREY,
    a_fill,
    a_log,
    a_powered_rig,
    a_reading,
    a_source,
    a_store,
    at,
    bank_ahead,
    forecast,
    known_at,
)
from tests.text.walk_fuel import of_fuel
from tests.text.walk_stops import of_stops
from tests.text.walk_water import of_water

NOW = at(2, 21)
TOILET = a_store("solids", 70.0, "solids", served=Served.HERE)
STORES = (*a_powered_rig().stores, replace(FRESH, reserve=20.0), GREY, GAS, FUEL, TOILET)
RIG = replace(
    a_powered_rig(),
    stores=STORES,
    inverter=Inverter(1200.0, 2400.0, 10.0, 0.9),
    appliances=(
        Appliance("cooker", "Cooker", APPLIANCE_KINDS["cooker"], "gas"),
        Appliance("heater", "Heater", APPLIANCE_KINDS["heater"], "diesel", 4.0),
    ),
    sources=(
        a_source("shore", 30.0),
        a_source("generator", 40.0, "gen", fuel_l_per_h=1.2),
        a_source("alternator", 30.0),
    ),
)
LOG = a_log(
    a_fill(0),
    a_reading(1, 60.0),
    a_reading(2, 40.0),
    Event(at(0, 9), "dump", "grey"),
    a_reading(2, 0.5, "fraction", "diesel"),
    a_reading(2, 11.5, "gross", "gas"),
    a_reading(2, 0.33, "step", "grey"),
    a_reading(2, 20.0, "uses", "solids"),
    a_reading(1, 0.6, "fraction", "house"),
    a_reading(2, 12.9, "volts", "house"),
    a_reading(2, None, "full", "house", hour=14.0),
    Event(at(2, 8), "drive", hours=2.0, km=90.0),
    temp_min_c=-3.0,
    temp_max_c=6.0,
    solar_wh=800.0,
)
OUTLOOK = (OutlookDay(date=at(3).date()), OutlookDay(date=at(4).date(), hours={"shore": 3.0}))
# A class that was made anew with slots leaves its first self behind as a subclass: those in the module are the real ones.
PROBLEMS = [
    each
    for module in (p, account_problems)
    for each in vars(module).values()
    if isinstance(each, type) and issubclass(each, p.Detailed) and each is not p.Detailed
]


def display(system: System) -> Display:
    """A clock that is UTC, and the units of a system."""
    return Display(system, Zone("UTC"))


def everything(system: System) -> Iterator[str]:
    """Every sentence, in the units of a system."""
    shown, rig = display(system), replace(RIG, units=system)
    tracked, ahead = track(rig, LOG, NOW), forecast(rig, LOG, OUTLOOK, NOW)
    yield from _of_horizon(rig, tracked, ahead, shown)
    yield from _of_log(rig, tracked, shown)
    yield from _of_readings(shown)
    yield from _of_usual(shown)
    yield rig_words.copied("Heron")
    yield from _of_round(rig, shown)
    yield from _of_rig(rig, shown)
    yield from _of_energy(rig, tracked["house"], shown)
    yield from _of_questions(rig, tracked["house"], shown)
    yield from _of_review()
    known = Known(rig=rig, log=LOG, outlook=OUTLOOK, now=NOW, tracked=tracked)
    yield from of_stops(rig, known, ahead, shown)
    yield from of_water(system, shown)
    yield from of_fuel(system, shown)
    yield from (problem_words.problem(each, shown) for each in every_problem())
    yield problem_words.refusal("stores[0].capacity", p.Plain.NOT_FINITE, shown)
    yield from (labels.label("stores[0].capacity"), answers.defect("1f"), answers.wait(700), answers.still_working(0.4))
    yield from (answers.too_large(most) for most in (64 * 1024, 64 * 1024 * 1024))
    yield from (words(fault) for fault in answers.StorageFault for words in (answers.storage, answers.storage_line))
    yield from (logbook.file_size(size) for size in (1, 85_000, 1_400_000))
    with read_by(Habits(month_first=True, hours_24=False)):
        yield from (times.short_date(NOW.date()), times.weekday(NOW.date()), times.clock(NOW))


def _parts(each: typing.Any) -> Iterator[str]:
    """The texts of a result that holds several."""
    yield from (str(getattr(each, part.name) or "") for part in dataclasses.fields(each))


def _of_chores(ahead: Forecast, shown: Display) -> Iterator[str]:
    due = [
        Chore(store=store, kind=kind, p10_days=low, p50_days=low + 1, p90_days=None)
        for store in (FRESH, GREY)
        for kind in ChoreKind
        for low in (0.1, 9.0)
    ]
    yield from horizon.chores(replace(ahead, chores=tuple(due)), shown)
    for store in (FRESH, GAS):
        yield horizon.deadline(store, ahead.of(store.id), ahead, shown)
        yield horizon.deadline(store, replace(ahead.of(store.id), p10_days=None), ahead, shown)
    nothing = forecast(RIG, Log(), (), NOW, n_paths=200)
    yield from _parts(horizon.headline(nothing, shown, horizon.LastRead(at(0), 9.0)))
    yield from (
        place_words(place, city)
        for place in (None, Place("Old field", -37.31, 8.9))
        for city in (None, City("Lisbon", 38.7, -9.1))
    )


def _of_horizon(rig: Rig, tracked: dict[str, Tracked], ahead: Forecast, shown: Display) -> Iterator[str]:
    yield from _parts(horizon.headline(ahead, shown))
    for each in ahead.stores:
        yield from (horizon.first(each.store), horizon.lane(each, ahead, shown), *(horizon.level(each, shown) or ()))
        yield from (value for _, value in horizon.facts(each, ahead, shown))
        yield standing.left(each, ahead, shown) or "-"
        if facts := reasons(rig, tracked[each.store.id], each):
            yield from horizon.why(facts, shown)
    for kind in DoubtKind:
        for store in rig.stores:
            reading = a_reading(0, 0.5, "fraction", store.id)
            doubt = Doubt(at=NOW, store=store.id, kind=kind, reading=reading, expected=3.0, expected_sd=1.0, amount=2.0)
            yield doubts.doubt(store, doubt, shown)
            yield doubts.doubt(store, replace(doubt, event=a_fill(1, store.id, amount=9.0), since=at(0)), shown)
    yield from _of_chores(ahead, shown)
    yield from (horizon.need(need, shown) for need in next_stop(ahead))
    yield from (doubts.settles(effect) for effect in Effect)
    for day in (*LOG.days, *OUTLOOK):
        yield from (horizon.day(day, shown), horizon.temperatures(day, shown) or "")
    yield from (horizon.planned(day) or "" for day in OUTLOOK)


def _of_log(rig: Rig, tracked: dict[str, Tracked], shown: Display) -> Iterator[str]:
    for rows in ledger(tracked, rig.zone).values():
        yield from (part for row in rows for part in _parts(logbook.sums(row, shown)))
    for day in LOG.days:
        yield logbook.line(day, 0, shown)
        yield from (logbook.entry(rig, each, shown) for each in day.entries())
        yield from (logbook.stands(rig, each, shown) for each in (day, None, *day.entries()))
        yield logbook.earlier(len(day.entries()))
        if day.readings:
            yield logbook.near(
                rig, [(each, by) for each in day.readings for by in ("mira", None)], len(day.events), shown
            )
        yield logbook.change(
            rig, "mira", logbook.Action.CORRECTED, replace(day, water_l=30.0, temp_min_c=4.0), day, shown
        )
    old, new = a_reading(0, 40.0), a_reading(0, 60.0)
    yield from (logbook.change(rig, None, action, old, new, shown) for action in logbook.Action)
    yield from (logbook.contents(1, 1, 1, None, None), logbook.contents(2, 1, 0, at(0).date(), at(1).date()))


def _of_usual(shown: Display) -> Iterator[str]:
    for store in (FRESH, GREY, GAS, TOILET):
        for method in (Method.FRACTION, Method.VOLUME, Method.USES, Method.METER):
            last = a_reading(1, 0.5, method, store.id)
            yield readings.usual(store, store.capacity / 3, last, store.tare_kg, shown) or "-"


def _of_readings(shown: Display) -> Iterator[str]:
    for store in STORES:
        low, high = 0.2 * store.capacity, 0.5 * store.capacity
        yield from (readings.examples(store, shown), readings.example(store, shown))
        yield readings.expected(store, low, high, shown)
        level = a_reading(0, 0.4 * store.capacity, store.kind.amounts, store.id)
        for given, ranges in product((evidence(store, level), Evidence()), (None, (low, high), (0.0, low))):
            yield from (readings.fit(store, given, level, ranges, reached, shown).words for reached in (False, True))
        for method in store.kind.methods:
            if method is Method.STEP and not store.gauge.marks:
                continue
            value = store.gauge.marks[1] if store.gauge.marks else 8.0 if not store.is_bank else 12.9
            yield readings.describe(store, a_reading(0, value, method, store.id), shown)
    for store in (BANK, replace(BANK, chemistry=Chemistry.AGM)):
        for state in (None, *VoltsState):
            yield from (readings.volts(state_of_charge(store, v, state)) for v in (11.2, 12.3, 13.3, 14.4, 15.8))
    yield from (readings.mark_text(1 / 3), readings.mark_words(0.4), readings.volts_states())


def _of_round(rig: Rig, shown: Display) -> Iterator[str]:
    yield round_words.event(rig, Event(at(0), "move", source="fresh", target="grey", amount=9.0), shown)
    yield from (
        part
        for act in acts(rig)
        for part in (
            act_words.label(rig, act),
            act_words.question(rig, act, shown) or "",
            act_words.measured(act, shown) or "",
        )
    )
    yield from (round_words.worth(store, days) for store in STORES for days in (0.06, 0.3, 0.5, 1.4))


def _of_rig(rig: Rig, shown: Display) -> Iterator[str]:
    yield from (part for line in rig_words.sheet(rig, shown) for part in (line.name, line.words))
    yield from (
        words
        for _, words in rig_words.put_aboard(rig, ["stores.fresh.limit", "loads.fridge.watts", "solar.roof.tilt_deg"])
    )
    laid_out = replace(rig, stores=(replace(BANK, layout=Layout(6.0, 225.0, 2, 3)), FRESH))
    crowded = replace(
        rig, stores=(replace(BANK, capacity=20.0, chemistry=Chemistry.AGM, limit=0.2),), inverter=Inverter(4000.0)
    )
    for each in (rig, laid_out, crowded):
        yield from (rig_words.check(check, shown) for check in (*rig_checks(each), *energy_checks(each)))
    yield from cautions(list(Caution), shown)
    yield from (line for chemistry in Chemistry for line in of_bank(chemistry, shown))
    few = LearnedGauge(readings=1, assumed_error=0.02, error=None, bias=0.0, bias_sd=0.0)
    off = PanelMark(painted=0.33, begins=0.4, sd=0.02)
    for gauge in (few, replace(few, readings=40), replace(few, error=0.05, bias=0.1, bias_sd=0.01, marks=(off,))):
        yield from rig_words.gauge(gauge)
    yield rig_words.holds(Holds(0.84, 0.03, 22))
    yield from (rig_words.rating(500.0, unit, volts, 41.7, 12.0) for unit in RatingUnit for volts in (None, 3.7))


def _of_energy(rig: Rig, bank: Tracked, shown: Display) -> Iterator[str]:
    shared = bank_ahead(rig, bank, OUTLOOK, NOW, 1, 14, 200)
    ahead, past = energy_ahead(shared, bank), energy_past(rig, LOG, bank, NOW, 60)
    yield from (part for store in (None, BANK) for part in _parts(energy.no_bank(store)))
    whole = forecast(rig, LOG, OUTLOOK, NOW, n_paths=200)
    yield from _parts(energy.headline(rig, whole.of(BANK.id), whole, ahead, shown))
    yield energy.hours(ahead.low, (ahead.low, ahead.low_at), (ahead.high, ahead.high_at), BANK.line, shown)
    yield from (energy.turn("low", ahead.low, ahead.low_at, shown), energy.line(BANK), energy.night(NOW.date()))
    if energy.is_whole_hour(at(2, 20), shown):
        yield energy.start(at(2, 20), shown)
    yield from (energy.line_name(line) for line in audit(rig))
    for learned in ((300.0, 700.0, 900.0), (600.0, 700.0, 800.0), (100.0, 120.0, 140.0)):
        yield from (energy.audit(500.0, learned, assumed, shown) for assumed in (True, False))
    yield energy.accept(learned_load_wh(rig, bank)[1], shown)
    yield from energy.array(rig, strengths(bank), sun_days(past), shown)
    yield energy.weakness(Weakness(at(0).date(), 0.62, tuple(WeakCause)))
    if used := bank_wear(rig, bank):
        yield from energy.wear(BANK, used, at(9), True)
    yield from energy.cold(BANK, [Conditions(date=at(n).date(), mean_c=-7.0, min_c=-12.0) for n in range(6)])
    for each in past:
        yield from (energy.past_day(each, shown), *energy.past_cells(each, shown))
    for day in ahead.days:
        yield from (energy.coming_day(day, shown), *energy.coming_cells(day, None, shown), energy.offered(day, shown))


def _of_questions(rig: Rig, bank: Tracked, shown: Display) -> Iterator[str]:
    ahead = bank_ahead(rig, bank, OUTLOOK, NOW, 1, 14, 200)
    for each in APPLIANCES:
        verdict = a.can_run(ahead, bank, a.RunAsk(each.watts, each.minutes, None, each.via, each.surge, each.heats))
        yield from (questions.answer(verdict.answer), questions.verdict(verdict, NOW, shown))
        yield from (questions.why(why) for why in verdict.why)
        yield from (questions.way(way, NOW, shown) for way in verdict.ways)
    yield from (questions.way(a.WhileSun(at(n, 16)), NOW, shown) for n in (2, 3, 5))
    for source in rig.sources:
        for target in (0.9, 0.98):
            plans = how_long(ahead, bank, source, target, at(6).date())
            yield from (questions.source(source), *questions.charge(plans, shown), questions.sun_finishes(plans.sun))
            yield from (questions.plan(plan, shown) for plan in plans.plans)
    known = known_at(rig, LOG, NOW, {bank.store.id: bank}, outlook=OUTLOOK)
    for helped in what_helps(all_together(known, 1, 14, 200), bank.store.id):
        yield from (lever_words(rig, helped.lever, shown), *questions.helped(helped))


def _of_review() -> Iterator[str]:
    for decided, held in ((1, 1), (40, 32), (40, 12), (40, 40)):
        record = RecordSummary(decided=decided, held=held, still_open=1)
        for n in (0, 2, 40):
            seen = [SeenSummary(notice_days=days, n=n, held=n // 2, crps=0.05) for days in (1, 3)]
            yield from (*_parts(review.headline(seen, record)), review.held_of(record), review.seen_words(seen))
    yield from (review.spread(scale) for scale in (1.0, 1.3, 0.8))
    yield from (
        review.notice(Notice(notice_days=1, n=4, off_days=0.5, baseline_off_days=None)),
        review.off(None),
        review.off(0.5),
    )
    issued = Issued(store="fresh", at=NOW, p10_days=1.5, p50_days=2.0, p90_days=None)
    yield from (review.case(issued, Outcome(kind, 1.7)) for kind in OutcomeKind)


def every_problem() -> Iterator[p.Problem]:
    """One of every reason to refuse, and those whose words hold an amount in each unit."""
    yield from p.Plain
    for kind in PROBLEMS:
        wanted = typing.get_type_hints(kind)
        words = {"event": "dump"} if kind is p.NotDoneTo else {}
        yield kind(**{each.name: _example(wanted[each.name]) for each in dataclasses.fields(kind)} | words)
    yield from (p.WrongType(each) for each in list(p.JsonType)[1:])
    yield from (
        p.OverCapacity(500.0, FRESH),
        p.OutOfRange(227.125, most=100.0, unit="L"),
        p.UnderTare(5.0, 7.5),
        p.OutOfRange(-140.0, least=-90.0, unit="degC"),
        p.OutOfRange(9e9, most=5000.0, unit="km"),
        p.MeasuredDifferently(("L", "kg")),
        p.NotUnderstood("lots", GAS),
    )


def _example(wanted: typing.Any) -> typing.Any:
    """A value of a type."""
    origin = typing.get_origin(wanted)
    if origin in (typing.Union, types.UnionType):
        return _example(typing.get_args(wanted)[0])
    if origin is tuple:
        return (_example(typing.get_args(wanted)[0]),) * 2
    if isinstance(wanted, type) and issubclass(wanted, Enum):
        return next(iter(wanted))
    return {str: "fresh", float: 9.5, int: 3, bool: True, date: date(2026, 6, 1), Store: FRESH}[wanted]
