"""Bottles and cans, the odometer, what must stay, engines: as the log says it."""

from dataclasses import replace
from datetime import timedelta

import pytest

from lodeline.core import carried
from lodeline.core.book import Service, Spot
from lodeline.core.catalogue import Effect, Method, System
from lodeline.core.checks import TankFills, rig_checks
from lodeline.core.energy import vapour
from lodeline.core.entries import check_reading
from lodeline.core.errors import Refused
from lodeline.core.figures import Fuel
from lodeline.core.fuel import cold, engines, lines
from lodeline.core.log import Event, Log, Reading
from lodeline.core.reading import understand
from lodeline.core.tracking.track import track
from lodeline.text.display import METRIC
from lodeline.text.rig import check
from tests.builders import a_source, at, forecast
from tests.winter import (
    BANK,
    BOTTLE,
    CAN,
    DAYS,
    DIESEL,
    NOW,
    SPARE,
    a_day,
    a_winter_rig,
    evening,
    frozen,
    known,
    with_events,
)

SMALL = replace(SPARE, holds=6.0, tare_kg=7.0)


def swap(day: float, source: str | None = None) -> Event:
    return Event(at(0, 24 * day), "swap", "gas", source=source)


def weighed(day: float, gross_kg: float) -> Reading:
    return Reading(at(0, 24 * day), "gas", Method.GROSS, gross_kg)


def only(*entries: Event | Reading) -> Log:
    return Log().with_entries(entries, a_winter_rig().zone)


def test_the_bottle_in_use_is_weighed_by_its_own_empty_weight():
    rig = a_winter_rig(spares=(SMALL,))
    log = only(swap(1, "second"), weighed(2, 12.0))
    tracked = track(rig, log, at(2, 1.0))["gas"]
    assert tracked.level == pytest.approx(5.0, abs=0.35)  # 12.0 - 7.0, and not 12.0 - 12.4
    assert tracked.reserve == pytest.approx(0.0)
    back = track(rig, only(swap(1, "second"), swap(3, "gas"), weighed(4, 23.0)), at(4, 1.0))["gas"]
    assert back.level == pytest.approx(10.6, abs=0.35)


def test_a_smaller_bottle_in_use_holds_what_it_holds_and_its_gauge_is_of_it():
    rig = a_winter_rig(spares=(SMALL,))
    begun = track(rig, only(swap(1, "second")), at(1, 1.0))["gas"]
    assert begun.level == pytest.approx(6.0, abs=0.4)
    half = [Reading(at(n), "gas", Method.FRACTION, 0.5) for n in (13, 14)]
    assert track(rig, only(swap(1, "second"), *half), at(14, 21))["gas"].level == pytest.approx(3.0, abs=0.6)


def test_swapping_refilling_and_pouring_move_what_is_carried():
    rig = a_winter_rig()
    before = {each.store.id: each for each in carried.standing(rig, Log())}
    assert [each.spare.id for each in (*before["gas"].spares, *before["diesel"].spares)] == ["second", "can"]
    assert before["gas"].n_full == 1
    log = only(
        swap(1, "second"),
        Event(at(2), "move", source="can", target="diesel", amount=12.0),
        Event(at(3), "move", source="outside", target="can", amount=5.0),
    )
    stands = {each.store.id: each for each in carried.standing(rig, log)}
    assert stands["gas"].in_use == SPARE
    assert stands["gas"].n_full == 0
    assert stands["gas"].own == 0.0
    assert stands["diesel"].spares[0].contents == pytest.approx(13.0)


def test_a_can_poured_in_raises_the_tank_and_one_of_other_fuel_is_no_reserve():
    rig = a_winter_rig()
    before = track(rig, frozen(), NOW)["diesel"].level
    log = with_events(frozen(), Event(at(DAYS, 19.9), "move", source="can", target="diesel", amount=15.0))
    after = track(rig, Log((*log.days[:-1], replace(log.days[-1], readings=()))), NOW)["diesel"]
    assert after.level > before + 8
    mixed = replace(CAN, contents="oil-mixed")
    assert not mixed.fits(DIESEL)
    assert track(a_winter_rig(spares=(mixed,)), frozen(), NOW)["diesel"].reserve == 0.0


def test_with_no_bottle_named_the_full_one_apart_comes_into_use():
    followed = carried.as_followed(a_winter_rig(), only(swap(1)))
    event = followed.days[0].events[0]
    assert (event.source, event.amount) == ("second", 11.0)
    empty = a_winter_rig(spares=(replace(SPARE, full=0.0),))
    event = carried.as_followed(empty, only(swap(1))).days[0].events[0]
    assert (event.source, event.amount) == (None, None)


def test_the_bottle_in_use_may_be_exchanged_where_it_stands():
    rig = a_winter_rig()
    log = only(swap(1, "second"), weighed(30, 14.0), swap(31, "second"), swap(60, "second"))
    events = [event for day in carried.as_followed(rig, log).days for event in day.events]
    assert [(each.source, each.amount) for each in events] == [("second", 11.0), ("gas", 11.0), ("gas", 11.0)]
    (stands, _) = sorted(carried.standing(rig, log), key=lambda each: each.store.id != "gas")
    assert stands.in_use == SPARE
    assert track(rig, log, at(60, 1.0))["gas"].level == pytest.approx(11.0, abs=0.5)


def test_between_two_odometer_readings_the_way_is_evening():
    rig = a_winter_rig()
    log = only(
        Event(at(0, 8), "odometer", km=10_000.0),
        Event(at(1, 10), "drive", hours=1.0),
        Event(at(2, 10), "drive", hours=3.0),
        Event(at(3, 8), "odometer", km=10_200.0),
        Event(at(5, 8), "odometer", km=10_260.0),
    )
    drives = [e for day in carried.as_followed(rig, log).days for e in day.events if e.row.effect is Effect.DRIVE]
    assert [each.km for each in drives] == [50.0, 150.0, 60.0]  # the last way was driven and not logged
    assert carried.as_followed(rig, only(Event(at(0, 8), "odometer", km=9.0))).days[0].events[0].km == 9.0


def a_pump(lat: float) -> Spot:
    from lodeline.core.catalogue import SERVICES

    return Spot(id="pump", name="Pump", lat=lat, lon=11.2, services={"fuel": Service(kind=SERVICES["fuel"])})


def test_the_way_to_the_next_pump_raises_the_line_and_lowers_it_only_where_the_crew_said_so():
    far, near = a_pump(48.9), a_pump(47.35)
    rig = a_winter_rig()
    tracked = track(rig, frozen(), NOW)["diesel"]
    high = lines.must_stay(rig, tracked, [a_day()], [far])
    # 1.6 deg of latitude x 111.2 km x 1.3
    assert high.pump_km == pytest.approx(1.6 * 111.2 * 1.3, rel=0.01)
    assert high.level == high.pump > high.own
    low = lines.must_stay(rig, tracked, [a_day()], [near])
    assert low.pump < low.own == low.level
    mine = a_winter_rig(stores=(BANK, replace(DIESEL, by_pump=True), BOTTLE))
    said = lines.must_stay(mine, track(mine, frozen(), NOW)["diesel"], [a_day()], [near])
    assert said.level == said.pump < said.own
    assert lines.must_stay(rig, tracked, [a_day()], []).pump is None


def test_days_without_supply_raise_the_line_by_what_they_take():
    buffered = a_winter_rig(stores=(BANK, DIESEL, replace(BOTTLE, buffer_days=14.0)))
    everything = known(buffered)
    stays = lines.lines(everything)
    gas = stays["gas"]
    assert gas.buffer == pytest.approx(14 * 0.2, rel=0.35)
    assert gas.level == pytest.approx(gas.own + gas.buffer)
    raised = lines.with_lines(everything.tracked, stays)
    assert raised["gas"].store.line_level == pytest.approx(gas.level)
    assert raised["house"].store.line_level == everything.tracked["house"].store.line_level


def test_a_planned_drive_burns_from_a_tank_whose_line_was_raised():
    buffered = a_winter_rig(stores=(BANK, replace(DIESEL, buffer_days=3.0), BOTTLE))
    everything = known(buffered)
    raised = lines.live(everything).tracked
    assert raised["diesel"].store is not buffered.store("diesel")

    def after_two_days(hours: float) -> float:
        outlook = tuple(replace(day, hours={"alternator": hours}) for day in everything.outlook[:1])
        ahead = forecast(buffered, everything.log, outlook, NOW, tracked=raised)
        return ahead.of("diesel").daily[2].p50

    # three hours of road at 55 km/h and 0.11 L/km
    assert after_two_days(0.0) - after_two_days(3.0) == pytest.approx(3 * 55 * 0.11, rel=0.4)


def test_the_range_is_what_lies_above_the_line_over_what_a_kilometre_takes():
    rig = a_winter_rig()
    tracked = track(rig, frozen(diesel=60.0), NOW)["diesel"]
    stays = lines.must_stay(rig, tracked, [a_day()], [])
    each = lines.burns_per_km(tracked)
    far = lines.range_km(tracked, stays)
    assert far.p50 == pytest.approx((tracked.level - 20.0) / each.p50)
    assert far.p10 < far.p50 < far.p90


def test_a_generator_burns_by_its_load():
    one = a_source("generator", 50.0, fuel_store="diesel", rated_w=2000.0, full_l_per_h=1.2, idle_l_per_h=0.4)
    # 50 A x 12 V of 2000 W is 0.3 of the way from no load to full
    assert one.l_per_h(12.0) == pytest.approx(0.4 + 0.8 * 0.3)
    assert a_source("generator", 50.0, fuel_l_per_h=0.7).l_per_h(12.0) == 0.7
    rig = a_winter_rig(sources=(one,))
    assert rig.burn_l_per_h(DIESEL, one.kind) == one.l_per_h(BANK.volts)


def test_what_a_generator_saved_is_told_beside_a_panel_and_more_amp_hours():
    one = a_source("generator", 40.0, fuel_store="diesel", fuel_l_per_h=0.5, oil_hours=4.0)
    rig = a_winter_rig(sources=(one,))
    runs = [Event(at(n, 17), "generator", hours=2.0) for n in (17, 19)]
    log = with_events(frozen(bank=0.35), *runs)
    everything = known(rig, log)
    days = [a_day(), replace(a_day(), date=a_day().date + timedelta(days=1))]
    (found,) = engines.generators(rig, log, list(everything.tracked.values()), days)
    assert (found.hours, found.runs, found.litres) == (4.0, 2, pytest.approx(2.0))
    assert found.nights >= 1
    assert 0 <= found.with_bank <= found.nights
    assert found.oil_h == 4.0 == found.oil_due_h
    oiled = with_events(log, Event(at(18), "oil"))
    assert engines.generators(rig, oiled, [], days)[0].oil_h == 2.0
    assert engines.generators(rig, frozen(), list(known(rig).tracked.values()), days)[0].nights == 0


def test_butane_stays_behind_in_the_cold_and_propane_does_not():
    butane, mix = replace(BOTTLE, fuel="butane"), replace(BOTTLE, fuel="mix", propane_share=0.3)
    assert vapour.locked_kg(butane, 5.0, -8.0) == 5.0
    assert vapour.locked_kg(butane, 5.0, 12.0) == 0.0
    assert vapour.locked_kg(BOTTLE, 5.0, -30.0) == 0.0
    some = vapour.locked_kg(mix, 11.0, -8.0)
    assert 0 < some < 11.0
    assert vapour.locked_kg(mix, 11.0, -15.0) > some
    # what is left of a mix is heavier
    assert vapour.share_left(0.3, 1.0) == pytest.approx(0.3, abs=1e-3)
    assert vapour.share_left(0.3, 0.2) < vapour.share_left(0.3, 0.6) < 0.3
    assert vapour.least_c(vapour.share_left(0.3, 0.4)) > vapour.least_c(0.3)


def test_a_small_cold_bottle_gives_less_than_a_large_furnace_wants():
    tracked = evening().tracked["gas"]
    furnace = a_winter_rig().appliances[0]
    large = cold.cold_bottle(tracked, (replace(furnace, store="gas", kw=12.0),), -15.0)
    assert large.burns
    assert large.is_weak
    assert not cold.cold_bottle(tracked, (replace(furnace, store="gas", kw=2.0),), -15.0).is_weak
    assert vapour.withdrawal_kg_per_h(BOTTLE, 9.0, 10.0) > vapour.withdrawal_kg_per_h(BOTTLE, 2.0, -15.0)


def test_a_fixed_tank_is_filled_to_four_fifths_and_told_in_litres():
    tank = replace(BOTTLE, tank_l=60.0)
    assert tank.filled_kg == pytest.approx(0.8 * 60 * Fuel.propane_kg_per_l)
    assert not [each for each in rig_checks(a_winter_rig(stores=(tank,))) if isinstance(each, TankFills)]
    over = replace(tank, capacity=30.0)
    (found,) = (each for each in rig_checks(a_winter_rig(stores=(over,))) if isinstance(each, TankFills))
    assert "60 L is filled to 80 %: 24 kg" in check(found, METRIC)
    assert vapour.litres(tank, 5.1) == pytest.approx(10.0)


def test_a_fixed_tanks_gauge_is_of_its_whole_volume():
    tank = replace(BOTTLE, tank_l=60.0, capacity=24.48, tare_kg=None)
    rig = a_winter_rig(stores=(BANK, DIESEL, tank), spares=())
    log = only(Reading(at(0), "gas", Method.FRACTION, 0.4), Reading(at(1), "gas", Method.FRACTION, 0.4))
    # 40 % of 60 L of 0.51 kg
    assert track(rig, log, at(1, 21))["gas"].level == pytest.approx(12.24, abs=0.8)


def test_a_lighter_bottle_in_its_place_may_be_weighed():
    store = replace(BOTTLE, other_tares_kg=(7.0,))
    assert understand(store, "9.5 kg", System.METRIC).method is Method.GROSS
    check_reading(Reading(at(0), "gas", Method.GROSS, 9.5), {"gas": store}, "here")
    with pytest.raises(Refused):
        check_reading(Reading(at(0), "gas", Method.GROSS, 9.5), {"gas": BOTTLE}, "here")
    litres = understand(store, "10 L", System.METRIC)
    assert (litres.method, litres.value) == (Method.MASS, pytest.approx(5.1))
