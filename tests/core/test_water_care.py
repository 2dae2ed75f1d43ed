"""Jugs, what is due, frost, toilets, fouled gauges, balances that do not close."""

from dataclasses import replace
from datetime import timedelta

import pytest

from lodeline.core.book import Service
from lodeline.core.catalogue import SERVICES, Outlet
from lodeline.core.conditions import coming
from lodeline.core.log import Event, OutlookDay, Visit
from lodeline.core.rig import WaterGear
from lodeline.core.water.balance import Reason, Went, balance, by_stretch
from lodeline.core.water.care import Care, due
from lodeline.core.water.frost import AtRisk, frost
from lodeline.core.water.jugs import carried_l, in_jugs, last_poured, payload_after
from lodeline.core.water.learned import amounts
from lodeline.core.water.toilets import fouled, toilets
from tests.builders import START, a_fill, a_reading, a_store, at, forecast
from tests.stops import a_spot
from tests.water import DAYS, DRAIN, NOW, TANK, a_water_rig, known, lived, with_events


def a_move(day, source, target, amount, hour=6.0):
    return Event(at(day, hour), "move", source=source, target=target, amount=amount)


def test_jugs_hold_what_was_filled_less_what_was_poured_and_used():
    log = with_events(
        lived(),
        a_move(28, "jug-1", "fresh", 4.0),
        a_move(29, "jug-1", "outside", 9.0),
        a_move(29, "outside", "jug-2", 3.0),
    )
    first, second = in_jugs(a_water_rig(), log)
    assert (first.litres, second.litres) == (0.0, 10.0)  # no less than nothing, no more than it holds
    assert carried_l((first, second)) == 10.0
    assert last_poured((first, second)) is None
    empty = in_jugs(a_water_rig(), with_events(log, a_move(30, "jug-2", "fresh", 10.0)))
    assert last_poured(empty) == at(30, 6)
    assert payload_after(a_water_rig(payload_kg=300.0), {"fresh": 100.0}, 50.0) == 150.0


def by_care(rig, log, book=()):
    return {each.care: each for each in due(rig, log, known(rig, log), book, NOW)}


def test_a_filter_is_due_by_litres_or_days_whichever_is_first_and_anew_once_it_is_changed():
    rig = a_water_rig(water=WaterGear(filter_l=200.0, filter_days=300.0))
    found = by_care(rig, lived())[Care.FILTER]
    assert found.is_due
    assert found.litres == pytest.approx(DAYS * 27, rel=0.25)
    changed = by_care(rig, with_events(lived(), Event(at(28), "filter")))[Care.FILTER]
    assert not changed.is_due
    assert changed.due_on == at(328).date()
    assert Care.FILTER not in by_care(a_water_rig(), lived())


def test_water_from_a_doubtful_tap_is_named_until_the_tank_was_disinfected():
    pond = replace(a_spot("pond"), services={"water": Service(kind=SERVICES["water"], drinkable=False)})
    log = with_events(lived(), a_fill(30, hour=5.0))
    log = replace(log, days=(*log.days[:-1], replace(log.days[-1], visit=Visit("pond"))))
    assert by_care(a_water_rig(), log, (pond,))[Care.DOUBTFUL].place == pond.name
    clean = with_events(log, Event(at(30, 6.5), "disinfect"))
    assert Care.DOUBTFUL not in by_care(a_water_rig(), clean, (pond,))
    assert by_care(a_water_rig(), lived())[Care.DISINFECT].share == pytest.approx(DAYS / 120, rel=0.05)
    assert by_care(a_water_rig(), lived())[Care.SEAL].event == "seal"


def nights(low_c, rig=None):
    outlook = tuple(
        OutlookDay(date=START + timedelta(days=DAYS + n), temp_min_c=low_c, temp_max_c=low_c + 8) for n in range(3)
    )
    rig = rig or a_water_rig()
    days = coming(rig, outlook, next(iter(known(rig).values())).conditions, 3)
    return frost(rig, days, 2)


def test_frost_takes_the_hose_first_then_what_hangs_outside_then_the_lines():
    outside = a_water_rig(replace(TANK, outside=False), replace(DRAIN, outside=True))
    assert nights(5.0) == ()
    light, hard = nights(-2.0, outside)[0], nights(-9.0, outside)[0]
    assert light.at_risk == (AtRisk.HOSE, AtRisk.TANK, AtRisk.VALVE)
    assert [tank.id for tank in light.tanks] == ["grey"]
    assert AtRisk.LINES in hard.at_risk
    assert hard.hours > light.hours
    assert nights(-2.0)[0].at_risk == (AtRisk.HOSE,)  # nobody said where the tanks hang; light frost does not reach in
    # by hand: 40 W through 4 h under freezing for one tank
    assert light.heat_wh == pytest.approx(40 * 4)


def test_a_cassette_is_good_for_so_many_uses_and_less_with_a_guest():
    rig = a_water_rig()
    log = with_events(lived(), *(Event(at(n, 9), "dump", "cassette") for n in range(1, 30, 2)))
    tracked = known(rig, log)
    found = next(each for each in toilets(rig, tracked, forecast(rig, log, (), NOW, tracked=tracked)))
    assert found.uses.p10 < found.uses.p50 < found.uses.p90
    # by hand: 17.1 L to its line, what came in a day and ten uses of two people a day
    assert found.uses.p50 == pytest.approx((17.1 - tracked["cassette"].level) / found.use_unit, rel=0.01)
    assert found.guest_days == pytest.approx(found.p50_days * 2 / 3)
    spare = replace(a_store("cassette", 19.0, "cassette"), reserve=19.0)
    two = a_water_rig(TANK, DRAIN, spare)
    assert toilets(two, known(two, log), forecast(two, log, (), NOW))[0].spares == 1


def test_a_third_shown_right_after_a_dump_is_fouled_and_what_use_has_filled_since_is_not():
    dumped = with_events(lived(), Event(at(30, 3), "dump", "grey"))

    def found(share, hour, store=DRAIN):
        last = dumped.days[-1]
        log = replace(
            dumped, days=(*dumped.days[:-1], replace(last, readings=(a_reading(30, share, "fraction", "grey", hour),)))
        )
        rig = a_water_rig(TANK, store)
        return fouled([known(rig, log)["grey"]], log)

    assert found(0.33, 4)[0].shown == 0.33
    assert found(0.02, 4) == ()
    assert found(0.33, 4, replace(DRAIN, reads_from=0.33)) == ()
    late = with_events(lived(), Event(at(28, 3), "dump", "grey"))
    assert fouled([known(a_water_rig(), late)["grey"]], late) == ()  # read at 23:30, after a day's use


def balanced(log, rig=None, days=10):
    rig = rig or a_water_rig()
    tracked = known(rig, log)
    return balance(rig, log, tracked, amounts(rig, tracked["fresh"]), NOW - timedelta(days=days), NOW)


def _used(log, days=10):
    """What was really used in the last days, by the meter."""
    return sum(day.water_l for day in log.days[-days:])


def test_sums_close_on_a_plain_log_and_do_not_where_half_the_waste_went_elsewhere():
    plain = balanced(lived())
    assert plain.closes
    assert plain.drawn.value == pytest.approx(_used(lived(metered=True)), abs=2 * plain.drawn.sd)
    leaking = lived()
    thrown = replace(
        leaking,
        days=tuple(
            replace(
                day,
                readings=tuple(
                    replace(r, value=round(r.value * 0.3, 2)) if r.store == "grey" else r for r in day.readings
                ),
            )
            for day in leaking.days
        ),
    )
    found = balanced(thrown)
    assert not found.closes
    assert found.apart.value > 0
    assert Reason.THROWN_OUT in found.reasons


def test_without_a_grey_tank_what_is_not_drunk_went_outside_and_nothing_is_said_not_to_close():
    found = balanced(lived(), a_water_rig(TANK))
    assert found.closes
    assert {part.went for part in found.parts} == {Went.DRUNK, Went.UNTOLD}
    assert sum(part.amount.value for part in found.parts) == pytest.approx(found.drawn.value)


def test_what_was_used_outside_is_drawn_and_told_and_a_toilet_plumbed_into_grey_is_not_told_twice():
    log = with_events(lived(), a_move(29, "fresh", "outside", 12.0, 15.0))
    elsewhere = next(part for part in balanced(log).parts if part.went is Went.ELSEWHERE)
    assert elsewhere.amount.value == 12.0
    plumbed = replace(DRAIN, takes=frozenset({Outlet.SINK, Outlet.SHOWER, Outlet.TOILET}))
    rig = a_water_rig(TANK, plumbed, a_store("cassette", 19.0, "cassette"))
    assert all(part.went is not Went.TOILET for part in balanced(lived(), rig).parts)


def test_nothing_is_said_of_a_span_in_which_nothing_was_known():
    assert balanced(replace(lived(), days=())) is None


def test_use_by_week_and_month_is_a_person_a_day():
    rig, log = a_water_rig(), lived()
    used = {START + timedelta(days=n): 20.0 for n in range(30)}
    weeks = by_stretch(rig, log, used, False, START + timedelta(days=29))
    assert [each.per_person for each in weeks] == [10.0] * len(weeks)
    assert len(by_stretch(rig, log, used, True, START + timedelta(days=29))) == 1
