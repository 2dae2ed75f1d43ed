"""Doubt is spoken: readings that agree are heard, no level lies beyond what is known, evenings do not jump."""

from datetime import timedelta
from itertools import pairwise, product
from random import Random

import numpy as np
import pytest

from lodeline.core.catalogue import Chemistry, GaugeKind, Method, System, VoltsState
from lodeline.core.log import Event, Log, Reading
from lodeline.core.reading import understand
from lodeline.core.rig import Gauge, Load
from lodeline.core.tracking.belief import reset_level
from lodeline.core.tracking.branching import branches
from lodeline.core.tracking.day_kinds import NO_DAY_KINDS
from lodeline.core.tracking.evidence import evidence, gauge_error
from lodeline.core.tracking.hypothesis import DoubtKind, Hypothesis
from lodeline.core.tracking.propagate import StoreContext
from lodeline.core.tracking.track import track
from lodeline.core.tracking.volts import Around
from tests.builders import BANK, FRESH, GREY, PANEL, a_log, a_powered_rig, a_reading, a_rig, a_store, at, forecast

GAUGES = [Gauge(GaugeKind.SENSOR, (), 0.02), Gauge(GaugeKind.SENSOR, (), 0.125), Gauge(GaugeKind.SIGHT), Gauge()]


@pytest.mark.parametrize("gauge", GAUGES, ids=lambda each: f"{each.kind} {each.resolution}")
def test_readings_that_agree_against_the_estimate_are_followed_and_asked_about(gauge):
    # six evenings at 76 L, then 63, 63.5 and 64 L, and nobody logged a drive
    tank = a_store("fuel", 90.0, "fuel", fuel="diesel", gauge=gauge, heats=False)
    litres = [76.0] * 6 + [63.0, 63.5, 64.0]
    log = a_log(*(a_reading(n, each, Method.VOLUME, "fuel") for n, each in enumerate(litres)))
    after = track(a_rig(tank), log, at(8, 21))["fuel"]
    assert after.doubts
    assert after.level_range[0] <= 64.0
    assert after.level < 66.0


def test_readings_that_scatter_about_the_estimate_are_no_evidence_against_it():
    log = a_log(*(a_reading(n, each, Method.VOLUME) for n, each in enumerate((70, 58, 52, 34, 29, 11))), water_l=11.0)
    assert track(a_rig(FRESH), log, at(5, 21))["fresh"].doubts == ()


STORES = [
    a_store("battery", 300.0, "s", chemistry=Chemistry.LFP, nominal_v=12.8, gauge=Gauge(GaugeKind.SHUNT)),
    a_store("battery", 200.0, "s", chemistry=Chemistry.AGM, nominal_v=12.0),
    a_store("fresh", 100.0, "s", gauge=PANEL),
    a_store("grey", 80.0, "s", gauge=Gauge(GaugeKind.SENSOR, (), 0.02)),
    a_store("cassette", 19.0, "s"),
    a_store("gas", 9.0, "s", fuel="propane", tare_kg=7.5, gauge=Gauge(GaugeKind.SCALE)),
    a_store("fuel", 80.0, "s", fuel="diesel", gauge=Gauge(GaugeKind.SENSOR, (), 0.02)),
]


BY_EYE = "by eye"


def a_reading_of(store, when, method, share, chance):
    if method is BY_EYE:
        return Reading(when, "s", Method.FRACTION, share, within=chance.choice([0.05, 0.2]))
    value = {
        Method.FRACTION: share,
        Method.STEP: min(PANEL.marks, key=lambda mark: abs(mark - share)),
        Method.VOLUME: share * store.capacity,
        Method.MASS: share * store.capacity,
        Method.RANGE: share * store.capacity / 0.11,
        Method.GROSS: (store.tare_kg or 0.0) + share * store.capacity,
        Method.VOLTS: chance.choice([12.2, 12.5, 12.9, 13.3, 14.2]),
    }.get(method)
    state = chance.choice([None, VoltsState.REST, VoltsState.LOAD]) if method is Method.VOLTS else None
    return Reading(when, "s", method, value, state)


@pytest.mark.parametrize("store", STORES, ids=lambda each: f"{each.kind.id} {each.gauge.kind}")
def test_two_evidences_of_one_minute_stay_within_what_they_and_the_past_allow(store):
    chance = Random(1)
    rig = a_powered_rig() if store.is_bank else a_rig(store)
    rig = a_rig(store, solar=rig.solar, loads=rig.loads)
    methods = [BY_EYE, *(m for m in store.methods if m is not Method.STEP or store.gauge.marks)]
    for first, second in product(methods, methods):
        share = chance.random()
        near = min(1.0, max(0.0, share + chance.uniform(-0.3, 0.3)))
        begin = a_reading_of(store, at(0), Method.FRACTION, chance.random(), chance)
        pair = [a_reading_of(store, at(2), each, at_, chance) for each, at_ in ((first, share), (second, near))]
        prior = track(rig, a_log(begin, days=3), at(2))["s"].level
        level = track(rig, a_log(begin, *pair, days=3), at(2, 20.1))["s"].level
        allowed = [given.allows for reading in pair if not (given := evidence(store, reading)).silent]
        ends = [prior, *(end for span in allowed for end in span)]
        slack = 0.02 * store.capacity
        assert min(ends) - slack <= level <= max(ends) + slack, (first, second, prior, level, allowed)


@pytest.mark.parametrize("text", ["nearly empty", "almost full", "between 1/3 and 2/3", "between 1/4 and 1/2"])
def test_what_is_judged_by_eye_is_heard_at_its_place(text):
    reading = understand(FRESH, text, System.METRIC).at(at(0, 20), "fresh")
    given = evidence(FRESH, reading)
    edges = [given.bands[0][0], *(band[1] for band in given.bands)]
    assert edges == sorted(set(edges))
    assert [band[0] for band in given.bands[1:]] == edges[1:-1]
    assert (edges[0], edges[-1]) == (0.0, FRESH.capacity)
    after = track(a_rig(FRESH), a_log(reading, days=1), at(0, 20.1))["fresh"]
    low, high = given.span
    assert low <= after.level <= high


def evenings() -> Log:
    """Two tanks with panels of thirds, emptied and filled on the fourth evening; one day with a shower."""
    marks = [("full", "dry"), (0.67, 0.33), (0.67, 0.67), (0.33, "full"), ("full", 0.0), (0.67, 0.33), (0.67, 0.67)]
    entries = []
    for number, (fresh, grey) in enumerate(marks):
        if number == 4:
            entries += [Event(at(4, 19.5), "fill", "fresh", to_full=True), Event(at(4, 19.5), "dump", "grey")]
        for store, mark in (("fresh", fresh), ("grey", grey)):
            method = Method.STEP if isinstance(mark, float) else Method(mark)
            entries.append(a_reading(number, mark if isinstance(mark, float) else None, method, store))
    entries.append(Event(at(5, 20.5), "shower", count=1))
    return a_log(*entries)


def test_the_days_left_go_down_by_the_days_that_go_by():
    rig = a_rig(a_store("fresh", 110.0, "fresh", gauge=PANEL), GREY)
    left = []
    for number in (4, 5, 6):
        now = at(number, 21.5)
        log = evenings().until(now, rig.zone)
        left.append(forecast(rig, log, (), now, tracked=track(rig, log, now)).of("grey").p50_days)
    # told to go from 2.4 to 1.4 and then to 3.9 with more in it, while fresh taught grey all at once
    jumps = [abs(after - max(0.0, before - 1.0)) for before, after in pairwise(left)]
    assert max(jumps) < 0.8, left


def test_what_fresh_teaches_grey_grows_from_evening_to_evening():
    rig = a_rig(a_store("fresh", 110.0, "fresh", gauge=PANEL), GREY)
    rates = []
    for number in range(1, 7):
        now = at(number, 21.5)
        tracked = track(rig, evenings().until(now, rig.zone), now)["grey"]
        rates.append(float(tracked.model.usual_x @ tracked.belief.coefficients))
    steps = [abs(after / before - 1) for before, after in pairwise(rates)]
    assert max(steps) < 0.5, rates


def test_a_tank_that_is_read_as_a_range_knows_its_litres_by_what_a_way_burns():
    tank = a_store("fuel", 80.0, "fuel", fuel="diesel", gauge=Gauge())
    told = track(a_rig(tank), a_log(a_reading(0, 300.0, Method.RANGE, "fuel")), at(0) + timedelta(hours=1))["fuel"]
    assert told.level == pytest.approx(300 * 0.11, abs=4.0)  # L, at 0.11 L/km until the log teaches another
    low, high = told.level_range
    assert 15 < high - low < 50  # and that is not known well


def test_a_drive_of_which_the_way_alone_is_known_charges_too():
    rig = a_powered_rig()
    log = a_log(a_reading(0, 0.5, "fraction", "house"), Event(at(0, 21), "drive", km=100.0))
    timed = a_log(a_reading(0, 0.5, "fraction", "house"), Event(at(0, 21), "drive", hours=2.0, km=100.0))
    without = a_log(a_reading(0, 0.5, "fraction", "house"))
    levels = [track(rig, each, at(1, 4))["house"].level for each in (log, timed, without)]
    assert levels[0] == pytest.approx(levels[1], abs=8.0)  # at about 50 km/h
    assert levels[0] > levels[2] + 10


def _told(level: float, sd: float, value: float) -> float:
    """The log weight that a reading gives to a hypothesis of a fresh tank, all that may follow from it together."""
    context = StoreContext.of(a_rig(FRESH), FRESH, NO_DAY_KINDS)
    belief = reset_level(context.start(), level, sd)
    one = Hypothesis(belief=belief, x_since=np.zeros(len(context.model.mean)), days_seen=20.0)
    one.settle()
    reading = a_reading(0, value)
    given = evidence(FRESH, reading, Around())
    return float(np.logaddexp.reduce([each.log_weight for each in branches(FRESH, one, reading, given, ())]))


def test_a_reading_weighs_what_fits_it_as_it_weighs_what_does_not():
    # densities on paper: a normal's middle is by the ratio of the errors higher where it is narrower
    narrow, wide = _told(60.0, 3.0, 60.0), _told(60.0, 12.0, 60.0)
    gauge = np.hypot(
        evidence(FRESH, a_reading(0, 60.0)).sd, FRESH.capacity * np.hypot(*gauge_error(FRESH).bias_sds[:2])
    )
    seen = np.hypot([3.0, 12.0], gauge)
    assert narrow - wide == pytest.approx(np.log(seen[1] / seen[0]), abs=0.02)
    assert _told(60.0, 3.0, 60.0) > _told(45.0, 6.0, 60.0)


def test_a_fall_of_a_bank_is_sooner_more_use_than_something_forgotten():
    """A charge may be forgotten; nobody forgets to log that something was drawn."""
    rig = a_rig(BANK, loads=(Load("fridge", "Fridge", 40.0, 10.0),))
    fell = track(rig, a_log(a_reading(0, 0.9, "fraction", "house"), a_reading(1, 0.62, "fraction", "house")), at(1, 21))
    rose = track(rig, a_log(a_reading(0, 0.5, "fraction", "house"), a_reading(1, 0.78, "fraction", "house")), at(1, 21))
    kinds = [{doubt.kind for doubt in each["house"].doubts} for each in (fell, rose)]
    assert DoubtKind.FALL not in kinds[0]
    assert DoubtKind.RISE in kinds[1]
