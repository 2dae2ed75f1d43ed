"""Answers that somebody who lives aboard would not dispute: silence, acts and readings, what sends away, frost."""

from dataclasses import replace
from datetime import timedelta
from itertools import pairwise

import numpy as np
import pytest

from lodeline.core.catalogue import APPLIANCE_KINDS, Chemistry, GaugeKind, Method, Served, SkyWord, VoltsState
from lodeline.core.conditions import coming
from lodeline.core.energy.ageing import holds_share
from lodeline.core.energy.bank import blocks_of_12_v
from lodeline.core.energy.loads import audit_wh
from lodeline.core.forecast.energy_ahead import energy_ahead
from lodeline.core.forecast.forecast import ChoreKind
from lodeline.core.forecast.stop import next_stop
from lodeline.core.log import Day, Event, Log, OutlookDay, Place, Reading
from lodeline.core.questions import open_questions
from lodeline.core.reasons import reasons
from lodeline.core.rig import Appliance, Gauge, Inverter
from lodeline.core.tracking.belief import EVENLY
from lodeline.core.tracking.energy_past import strengths
from lodeline.core.tracking.hypothesis import DoubtKind
from lodeline.core.tracking.track import track
from lodeline.core.tracking.use import expected_use
from lodeline.core.zone import city_of
from tests.builders import (
    BANK,
    FRESH,
    FUEL,
    GAS,
    GREY,
    PANEL,
    START,
    a_fill,
    a_log,
    a_powered_rig,
    a_reading,
    a_rig,
    a_store,
    at,
    bank_ahead,
    forecast,
)

SENSED = replace(FRESH, gauge=Gauge(GaugeKind.SENSOR, (), 0.01))
GREY_SENSED = replace(GREY, gauge=Gauge(GaugeKind.SENSOR, (), 0.01))
URINE = a_store("urine", 8.0, "urine", gauge=Gauge(GaugeKind.SIGHT), served=Served.HERE)


def known(rig, log, now, store="fresh"):
    return track(rig, log, now)[store]


def kinds(rig, log, now, store="fresh"):
    return [doubt.kind for doubt in known(rig, log, now, store).doubts]


# ---- what sends away, and what is a chore


def test_what_is_served_here_is_a_chore_and_never_sends_away():
    log = a_log(a_fill(0), a_reading(1, 85.0), a_reading(2, 70.0), a_reading(2, 0.7, "fraction", "urine"))
    ahead = forecast(a_rig(FRESH, URINE), log, (), at(2, 21))
    assert (ahead.autonomy.store, ahead.of("urine").p_first) == ("fresh", 0.0)
    assert ahead.of("urine").p50_days < ahead.autonomy.p50_days
    (chore,) = ahead.chores
    assert (chore.store.id, chore.kind, chore.p50_days) == ("urine", ChoreKind.SERVE, ahead.of("urine").p50_days)
    assert [need.store.id for need in next_stop(ahead)] == ["fresh"]


def test_a_counted_reserve_is_swapped_in_once_and_only_what_comes_after_sends_away():
    spare = replace(GAS, reserve=9.0, reserve_counts=True)
    readings = (a_reading(day, 7.5 + 1.8 - 0.2 * day, "gross", "gas") for day in range(6))
    log = a_log(*readings)
    ahead = forecast(a_rig(spare), log, (), at(5, 21), days=60)
    alone = forecast(a_rig(replace(spare, reserve_counts=False)), log, (), at(5, 21), days=60)
    assert alone.autonomy.p50_days < 3
    # 9 kg less what stays in a bottle at its line, 0.45 kg, at about 0.2 kg a day
    assert ahead.autonomy.p50_days == pytest.approx(alone.autonomy.p50_days + 8.55 / 0.2, rel=0.25)
    (chore,) = ahead.chores
    assert chore.kind is ChoreKind.SWAP
    assert chore.p50_days == pytest.approx(alone.autonomy.p50_days, abs=0.2)
    swapped = a_log(*log.entries(), Event(at(5, 20.5), "swap", "gas"))
    assert known(a_rig(spare), swapped, at(5, 21), "gas").reserve == 0
    filled = a_log(*swapped.entries(), a_fill(6, "gas"))
    assert known(a_rig(spare), filled, at(6, 21), "gas").reserve == 9
    bought = Event(at(6), "move", "gas", source="outside", target="reserve", amount=9.0)
    apart = known(a_rig(spare), a_log(*swapped.entries(), bought), at(6, 21), "gas")
    assert apart.reserve == 9
    assert apart.level < 9


def test_a_jug_that_was_poured_in_is_a_deadline():
    jug = replace(FRESH, reserve=20.0)
    log = a_log(a_reading(0, 10.0), Event(at(0, 20.5), "move", source="reserve", target="fresh", amount=20.0))
    poured = known(a_rig(jug), log, at(0, 21))
    assert poured.reserve == 0
    assert poured.reserve_used_at == at(0, 20.5)
    assert poured.level == pytest.approx(30, abs=3)


def test_with_nothing_known_common_practice_answers_from_full_and_no_chance_is_claimed():
    ahead = forecast(a_rig(FRESH, GREY), Log((Day(date=START),)), (), at(0))
    assert ahead.p_stay == ()
    assert ahead.autonomy.store is None
    assert 1.5 < ahead.supposed.autonomy.p50_days < 8


def test_black_is_emptied_before_grey_and_fresh_is_filled_last():
    black = a_store("black", 60.0, "black", gauge=PANEL)
    log = a_log(a_reading(0, 30.0), a_reading(0, 0.67, "step", "grey"), a_reading(0, 0.67, "step", "black"))
    ahead = forecast(a_rig(FRESH, GREY, black), log, (), at(0, 21))
    assert [need.store.id for need in next_stop(ahead)] == ["black", "grey", "fresh"]


# ---- silence


def before_silence():
    for day in range(10):
        yield a_reading(day, 100.0 - 12 * (day % 7))
        yield a_reading(day, 0.1 + 0.11 * (day % 7), "fraction", "grey")
    yield from (a_fill(7, hour=10), Event(at(7, 9), "dump", "grey"))


def test_nobody_sits_three_weeks_beside_an_empty_tank():
    rig = a_rig(SENSED, GREY_SENSED)
    log = a_log(*before_silence(), days=9)
    for store in ("fresh", "grey"):
        silent = known(rig, log, at(30, 21), store)
        assert silent.lost_since == at(9)
        assert not silent.is_past_line
        low, high = silent.level_range
        assert high - low > 0.5 * silent.store.capacity
    ahead = forecast(rig, log, (), at(30, 21))
    assert ahead.autonomy.p50_days > 0


def test_one_reading_after_a_silence_sets_the_store_and_one_question_is_asked():
    rig = a_rig(SENSED, GREY_SENSED)
    back = (a_reading(30, 70.0), a_reading(30, 0.33, "fraction", "grey"))
    log = a_log(*before_silence(), *back)
    log = Log(tuple(day for day in log.days if day.readings or day.events))
    tracked = track(rig, log, at(30, 21))
    assert tracked["fresh"].level == pytest.approx(70, abs=4)
    assert tracked["grey"].level == pytest.approx(0.33 * 80, abs=5)
    ahead = forecast(rig, log, (), at(30, 21), tracked=tracked)
    (question,) = open_questions(tracked, ahead, log, rig.zone, at(10))
    assert (question.kind, question.since) == (DoubtKind.GAP, at(10, 0))


def test_questions_are_three_at_most_and_none_twice():
    stores = [replace(SENSED, id=f"tank-{n}") for n in range(5)]
    entries = [a_reading(day, 0.9 - 0.06 * day, "fraction", s.id) for s in stores for day in range(9)]
    odd = [a_reading(day, 0.2, "fraction", s.id, hour=21) for s in stores for day in (7, 8)]
    rig, log = a_rig(*stores), a_log(*entries, *odd)
    tracked = track(rig, log, at(8, 22))
    asked = open_questions(tracked, forecast(rig, log, (), at(8, 22), tracked=tracked), log, rig.zone, at(0))
    assert sum(len(each.doubts) for each in tracked.values()) > 3
    assert len(asked) == 3
    assert len({(each.store, each.kind) for each in asked}) == 3


def test_an_unread_tank_never_fills_by_itself():
    levels = [known(a_rig(FRESH), a_log(a_reading(0, 9.0)), at(day, 21)).level for day in range(3)]
    assert all(later <= earlier + 1e-9 for earlier, later in pairwise(levels))


# ---- what a reading is worth


def test_what_the_pump_proved_stands_against_three_marks():
    panel = replace(FRESH, gauge=PANEL)
    marks = (a_reading(day, 0.67, "step") for day in (1, 2, 3))
    dry = known(a_rig(panel), a_log(a_reading(0, None, "full"), *marks, a_reading(4, None, "dry")), at(4, 21))
    assert dry.level < 5
    assert dry.level_range[1] < 10


def test_volts_on_charge_do_not_make_a_bank_known_as_a_point():
    lead = a_store("battery", 200.0, "b", chemistry=Chemistry.AGM, nominal_v=12.0)
    charging = a_log(Reading(at(0, 12), "b", Method.VOLTS, 14.2, VoltsState.CHARGE))
    bank = known(a_rig(lead), charging, at(0, 13), "b")
    assert not bank.is_past_line
    assert bank.level_range[1] - bank.level_range[0] > 60


@pytest.mark.parametrize(("chemistry", "volts_v"), [(Chemistry.LFP, 13.4), (Chemistry.AGM, 12.9)])
def test_unstated_volts_at_noon_in_the_sun_may_be_a_chargers(chemistry, volts_v):
    store = replace(BANK, gauge=Gauge(), chemistry=chemistry, nominal_v=12.8 if chemistry is Chemistry.LFP else 12.0)
    rig = replace(a_powered_rig(), stores=(store,))

    def low(hour, state=None):
        read = a_log(Reading(at(0, hour), "house", Method.VOLTS, volts_v, state))
        return known(rig, read, at(0, hour + 0.1), "house").level_range[0]

    assert low(12) + 20 < low(22)
    # LFP stands near these volts over most of its range; AGM is full there
    assert low(12, VoltsState.REST) > (0.6 if chemistry is Chemistry.LFP else 0.7) * 200


def test_an_act_beside_a_reading_that_shows_its_result_comes_before_it():
    rising = [a_reading(day, 0.15 * day, "fraction", "grey") for day in range(5)]
    shown = a_log(*rising, a_reading(5, 0.01, "fraction", "grey"), Event(at(5, 20.1), "dump", "grey"))
    assert kinds(a_rig(GREY_SENSED), shown, at(5, 21), "grey") == []
    assert known(a_rig(GREY_SENSED), shown, at(5, 21), "grey").level < 4
    # what was read before it stays what was read before it
    first = a_log(*rising, a_reading(5, 0.75, "fraction", "grey"), Event(at(5, 20.1), "dump", "grey"))
    assert kinds(a_rig(GREY_SENSED), first, at(5, 21), "grey") == []
    assert known(a_rig(GREY_SENSED), first, at(5, 21), "grey").level < 4


def test_no_question_remains_after_the_act_that_answers_it():
    falling = [a_reading(day, 1 - 0.12 * day, "fraction") for day in range(1, 7)]
    rose = [a_fill(0), *falling, a_reading(7, 0.97, "fraction")]
    assert kinds(a_rig(SENSED), a_log(*rose), at(7, 21)) == [DoubtKind.RISE]
    assert kinds(a_rig(SENSED), a_log(*rose, a_fill(7, hour=19.9)), at(7, 21)) == []


def test_a_swapped_digit_draws_no_level_between_the_two_and_stands_once_it_is_confirmed():
    entries = [a_fill(0), *(a_reading(day, 1 - 0.07 * day, "fraction") for day in range(1, 4))]
    rig, wrong = a_rig(SENSED), a_reading(4, 0.27, "fraction")
    doubted = known(rig, a_log(*entries, wrong), at(4, 21))
    assert doubted.level > 65
    assert [doubt.kind for doubt in doubted.doubts] == [DoubtKind.READING]
    ahead = forecast(rig, a_log(*entries, wrong), (), at(4, 21), n_paths=4000)
    between = [band for band in ahead.of("fresh").daily[:1] if 35 < band.p50 < 55]
    assert between == []
    sure = known(rig, a_log(*entries, replace(wrong, confirmed=True)), at(4, 21))
    assert sure.level == pytest.approx(27, abs=3)
    assert sure.doubts == ()


LEARNED = [a_fill(0, hour=8), *(a_reading(day, 0.97 - 0.08 * day, "fraction") for day in range(9))]


def test_a_doubled_act_is_recognised():
    twice = [a_fill(9, hour=10.0, amount=30.0), a_fill(9, hour=10.1, amount=30.0)]
    log = a_log(*LEARNED, *twice, a_reading(9, 0.55, "fraction"))
    assert DoubtKind.TWICE in kinds(a_rig(SENSED), log, at(9, 21))
    assert known(a_rig(SENSED), log, at(9, 21)).level == pytest.approx(55, abs=4)


@pytest.mark.parametrize(("typed", "truly"), [(13.0, 49.2), (56.8, 15.0)])
def test_an_amount_in_the_wrong_unit_is_recognised_with_what_it_would_be(typed, truly):
    log = a_log(*LEARNED, a_fill(9, hour=10, amount=typed), a_reading(9, (25 + truly) / 100, "fraction"))
    doubts = known(a_rig(SENSED), log, at(9, 21)).doubts
    (unit,) = [doubt for doubt in doubts if doubt.kind is DoubtKind.UNIT]
    assert unit.amount == pytest.approx(truly, rel=0.01)


def test_an_act_on_the_wrong_day_is_recognised():
    rising = [a_reading(day, 0.05 + 0.1 * day, "fraction", "grey") for day in range(8)]
    log = a_log(
        *rising,
        Event(at(7, 22), "dump", "grey"),
        a_reading(8, 0.85, "fraction", "grey"),
        a_reading(9, 0.1, "fraction", "grey"),
    )
    assert DoubtKind.NOT_THEN in kinds(a_rig(GREY_SENSED), log, at(9, 21), "grey")
    assert known(a_rig(GREY_SENSED), log, at(9, 21), "grey").level < 14


def test_a_shunts_error_grows_by_the_day_and_a_full_charge_sets_it_anew():
    rig = a_powered_rig(watts=150.0)

    def spread(days):
        steady = a_log(*(a_reading(day, 0.67, "fraction", "house") for day in range(days)))
        return known(rig, steady, at(days - 1, 21), "house").belief.bias(EVENLY)[1] / BANK.capacity

    assert spread(30) == pytest.approx(0.003 * 30, rel=0.35)
    assert spread(30) > 2.5 * spread(8)
    full = [a_reading(day, 0.67, "fraction", "house") for day in range(30)]
    anew = known(rig, a_log(*full, a_reading(30, None, "full", "house")), at(30, 21), "house").belief
    assert anew.bias(EVENLY)[1] < 0.5


# ---- habits and what burns


@pytest.mark.parametrize("seed", range(4))
def test_when_a_habit_halves_three_days_move_the_rate_most_of_the_way(seed):
    rng, level, entries = np.random.default_rng(seed), 100.0, []
    for day in range(24):
        use = (16.0 if day < 20 else 8.0) * rng.normal(1, 0.05)
        if level - use < 15:
            entries.append(a_fill(day, hour=20.4))
            entries.append(a_reading(day, max(0.0, level - use) / 100, "fraction"))
            level = 100.0
            continue
        level -= use
        entries.append(a_reading(day, level / 100, "fraction"))
    log, rig = a_log(*entries), a_rig(SENSED)
    before, after = (
        forecast(rig, log.until(at(day, 21), rig.zone), (), at(day, 21)).of("fresh").rate_per_day for day in (19, 22)
    )
    assert (before - after) / (before - 8.0) >= 2 / 3


def test_a_bottle_that_heats_is_believed_at_its_second_weighing():
    weighed = a_log(
        a_reading(0, 16.5, "gross", "gas"), a_reading(3, 11.7, "gross", "gas"), temp_min_c=-8.0, temp_max_c=2.0
    )
    for store in (GAS, replace(GAS, heats=True)):
        bottle = known(a_rig(store), weighed, at(3, 21), "gas")
        assert bottle.level == pytest.approx(4.2, abs=0.4)
        assert bottle.doubts == ()
        ahead = forecast(a_rig(store), weighed, (), at(3, 21)).of("gas")
        # 4.8 kg in three days; a usual rig with its heat on would take twice that, and one weighing says less than all
        assert ahead.rate_per_day == pytest.approx(1.6, abs=0.7)


def test_a_can_for_the_generator_loses_nothing_while_it_stands():
    can = a_store("fuel", 10.0, "can", fuel="petrol")
    log = a_log(a_reading(0, 1.0, "fraction", "can"), temp_min_c=-2.0, temp_max_c=4.0, days=20)
    stands = known(a_rig(FUEL, can), log, at(20, 21), "can")
    # it may feed a heater, which the range says
    assert stands.level > 7.5
    assert stands.level_range[1] > 9
    assert known(a_rig(replace(FUEL, heats=False)), log, at(20), "diesel").model.drivers == ("km",)


def test_what_burns_is_what_is_expected():
    burners = tuple(Appliance(kind, kind, APPLIANCE_KINDS[kind], "gas") for kind in ("cooker", "fridge"))
    cooker, both = (expected_use(replace(a_rig(GAS), appliances=some), GAS) for some in (burners[:1], burners))
    # common practice: 9 kg last two people six to eight weeks; an absorption fridge takes 0.27 to 0.38 kg a day
    assert 9 / 56 <= cooker.mean[0] <= 9 / 42
    assert 0.27 <= both.mean[0] - cooker.mean[0] <= 0.38
    assert cooker.drivers == ("people",)


# ---- where and when


def test_a_timezones_city_stands_in_for_a_place():
    assert (round(city_of("America/Denver").lat), round(city_of("America/Denver").lon)) == (40, -105)
    assert city_of("Australia/Sydney").lat < -33
    assert city_of("US/Mountain").name == city_of("America/Denver").name
    assert city_of("Etc/GMT+3") is None


def test_a_place_that_is_not_known_widens_the_range():
    rig = replace(a_powered_rig(300.0), timezone="America/Denver")
    clear = tuple(OutlookDay(date=START + timedelta(days=n), sky=SkyWord.CLEAR) for n in range(1, 4))
    widths = []
    for place in (None, Place("Here", 39.7, -105.0)):
        log = a_log(a_reading(0, 0.4, "fraction", "house"), place=place)
        tracked = known(rig, log, at(0, 21), "house")
        offered = energy_ahead(bank_ahead(rig, tracked, clear, at(0, 21), 1, 3, 4000), tracked).days[1].offered_wh
        widths.append(offered.p90 - offered.p10)
        assert (reasons(rig, tracked, forecast(rig, log, clear, at(0, 21)).of("house")).stands_in is None) == bool(
            place
        )
    assert widths[0] > 1.15 * widths[1]


def test_what_was_logged_of_today_is_used_today():
    rig = a_powered_rig()
    day = Day(date=START, sky=SkyWord.WET, crew_aboard=4, readings=(a_reading(0, 0.5, "fraction", "house", hour=8),))
    tracked = known(rig, Log((day,)), at(0, 9), "house")
    today, tomorrow, *_ = coming(rig, (), tracked.conditions, 3)
    assert (today.sky, today.people) == (SkyWord.WET, 4)
    assert (tomorrow.sky, tomorrow.people) == (None, 2)
    wet, clear = (
        energy_ahead(
            bank_ahead(rig, known(rig, Log((replace(day, sky=sky),)), at(0, 9), "house"), (), at(0, 9), 1, 3, 500),
            known(rig, Log((replace(day, sky=sky),)), at(0, 9), "house"),
        )
        .days[0]
        .offered_wh.p50
        for sky in (SkyWord.WET, SkyWord.CLEAR)
    )
    assert wet < 0.35 * clear


def test_shade_stays_behind_and_strength_comes_along():
    from lodeline.core.conditions import Conditions
    from lodeline.core.energy.solar import clear_yield_wh

    rig = a_powered_rig(100.0)
    woods, open_field = Place("Woods", 45.0, 5.0), Place("Field", 45.2, 5.0)

    def day(n, place, share):
        on = START + timedelta(days=n)
        usual = Conditions(date=on, place=place, mean_c=15.0, min_c=10.0)
        taken = share * float(clear_yield_wh(rig, place, on, usual.mean_c, usual.min_c).sum())
        read = (a_reading(n, 0.5, "fraction", "house"),)
        return Day(
            date=on, place=place, sky=SkyWord.CLEAR, temp_min_c=10.0, temp_max_c=20.0, solar_wh=taken, readings=read
        )

    shaded = [day(n, woods, 0.31) for n in range(12)]
    there = strengths(known(rig, Log(tuple(shaded)), at(11, 21), "house"))[SkyWord.CLEAR]
    assert there < 0.4
    moved = known(rig, Log((*shaded, Day(date=START + timedelta(days=12), place=open_field))), at(12, 6), "house")
    assert strengths(moved)[SkyWord.CLEAR] > 0.75
    good = known(rig, Log((*shaded, day(12, open_field, 0.95))), at(12, 21), "house")
    assert strengths(good)[SkyWord.CLEAR] == pytest.approx(0.93, abs=0.08)


def test_snow_on_the_panels_is_a_state_of_the_day():
    rig, cold = a_powered_rig(400.0), {"temp_min_c": -9.0, "temp_max_c": -3.0, "sky": SkyWord.CLEAR}
    read = a_reading(0, 0.5, "fraction", "house", hour=8)
    covered, bare = (
        forecast(rig, a_log(read, panels_covered=is_covered, **cold), (), at(0, 9)).of("house")
        for is_covered in (True, None)
    )
    assert covered.daily[0].p50 < bare.daily[0].p50 - 20
    # it stays while it does not thaw, and goes when it does
    thaw = OutlookDay(date=START + timedelta(days=3), temp_min_c=3.0, temp_max_c=9.0)
    days = coming(rig, (thaw,), known(rig, a_log(read, panels_covered=True, **cold), at(0, 9), "house").conditions, 5)
    assert [day.covered for day in days] == [True, True, True, False, False, False]


def test_a_december_that_nobody_measured_is_cold_in_the_north_and_warm_in_the_south():
    def mean(zone, month):
        rig = replace(a_rig(GAS), timezone=zone)
        on = START.replace(month=month)
        return track(rig, Log((Day(date=on),)), at(0).replace(month=month))["gas"].conditions

    assert mean("Europe/Berlin", 12).mean_c < 5 < 12 < mean("Europe/Berlin", 7).mean_c
    assert mean("Australia/Sydney", 12).mean_c > mean("Australia/Sydney", 7).mean_c + 5
    assert mean("Europe/Berlin", 12).air_sd_c > 4


# ---- the bank


def test_on_hookup_in_frost_the_posts_charger_carries_the_loads():
    rig = replace(a_powered_rig(1.0), stores=(replace(BANK, kept_warm=False),))
    log = a_log(a_reading(0, 0.5, "fraction", "house"), temp_min_c=-12.0, temp_max_c=-4.0)
    outlook = tuple(
        OutlookDay(date=START + timedelta(days=n), temp_min_c=-12.0, temp_max_c=-4.0, hours={"shore": 24.0})
        for n in range(16)
    )
    plugged = forecast(rig, log, outlook, at(0, 21)).of("house")
    assert plugged.p10_days is None
    assert plugged.daily[10].p50 == pytest.approx(plugged.daily[0].p50, abs=2)  # held, and nothing put into the cells
    assert forecast(rig, log, (), at(0, 21)).of("house").p50_days < 6


def test_where_a_bank_sits_is_a_spread_while_nobody_says():
    def ends(kept_warm):
        rig = replace(a_powered_rig(300.0), stores=(replace(BANK, kept_warm=kept_warm),), sources=())
        log = a_log(a_reading(0, 0.5, "fraction", "house"), temp_min_c=-12.0, temp_max_c=-4.0, sky=SkyWord.CLEAR)
        outlook = tuple(
            OutlookDay(date=START + timedelta(days=n), temp_min_c=-12.0, temp_max_c=-4.0, sky=SkyWord.CLEAR)
            for n in range(8)
        )
        band = forecast(rig, log, outlook, at(0, 21), days=7).of("house").daily[6]
        return band.p10, band.p90

    (cold_low, cold_high), (warm_low, warm_high), (low, high) = ends(False), ends(True), ends(None)
    assert warm_high > cold_high + 20
    assert high - low > max(cold_high - cold_low, warm_high - warm_low)


def test_one_derating_for_cold_is_that_of_ieee_1013():
    # capacity x share x (1 - line): AGM at -18 degrees C gives 60 %
    lead = a_store("battery", 200.0, "house", chemistry=Chemistry.AGM, nominal_v=12.0, kept_warm=False)
    rig = replace(a_powered_rig(1.0), stores=(lead,), sources=())
    log = a_log(a_reading(0, None, "full", "house"), temp_min_c=-18.0, temp_max_c=-18.0)
    still = tuple(OutlookDay(date=START + timedelta(days=n), temp_min_c=-18.0, temp_max_c=-18.0) for n in range(15))
    tracked = known(rig, log, at(0, 20.1), "house")
    energy = energy_ahead(bank_ahead(rig, tracked, still, at(0, 20.1), 1, 14, 2000), tracked)
    by_hand = 200 * 0.6 * 0.5 * 12.0 / energy.load_wh_per_day
    assert energy.no_sun_full_days == pytest.approx(by_hand, rel=0.03)
    assert energy.no_sun_days.p50 == pytest.approx(by_hand, rel=0.1)
    assert forecast(rig, log, still, at(0, 20.1), tracked={"house": tracked}).of("house").p50_days == pytest.approx(
        by_hand, rel=0.25
    )  # the evening's draw comes first


def test_an_inverter_that_is_never_off_draws_though_nothing_runs_through_it():
    rig = replace(a_powered_rig(), inverter=Inverter(1000.0, idle_watts=12.0, always_on=True))
    assert audit_wh(rig).sum() - audit_wh(a_powered_rig()).sum() == pytest.approx(12 * 24)


def test_six_people_use_more_than_two():
    log = a_log(a_reading(0, 0.9, "fraction", "house"))
    few, many = (
        forecast(
            a_powered_rig(1.0),
            log,
            tuple(OutlookDay(date=START + timedelta(days=n), crew_aboard=crew) for n in range(15)),
            at(0, 21),
        )
        .of("house")
        .p50_days
        for crew in (2, 6)
    )
    assert many < 0.75 * few


@pytest.mark.parametrize(
    ("chemistry", "volts", "blocks"),
    [
        (Chemistry.FLOODED, 6.0, 0.5),
        (Chemistry.FLOODED, 8.0, 2 / 3),
        (Chemistry.LFP, 25.6, 2.0),
        (Chemistry.NMC, 11.1, 1.0),
        (Chemistry.NMC, 48.1, 13 / 3),
    ],
)
def test_a_bank_is_read_by_its_own_cells(chemistry, volts, blocks):
    store = a_store("battery", 100.0, "b", chemistry=chemistry, nominal_v=volts)
    assert blocks_of_12_v(store) == pytest.approx(blocks)


def test_a_cassette_is_flushed_from_fresh_water_or_from_a_tank_of_its_own():
    cassette = a_store("cassette", 19.0, "cassette")
    flush = replace(FRESH, id="flush", capacity=15.0)
    roomy = replace(FRESH, capacity=500.0)
    plain, fed, apart = (
        expected_use(a_rig(roomy, *more), roomy).mean[0] for more in ((), (cassette,), (cassette, flush))
    )
    assert fed > plain == apart
    assert expected_use(a_rig(roomy, cassette, flush), flush).mean[0] == pytest.approx(2 * 2.0)


@pytest.mark.parametrize("share", [1.0, 0.84])
def test_a_bank_that_holds_less_than_its_rating_is_found(share):
    rng, level, days = np.random.default_rng(5), 0.55, []
    for n in range(30):
        load = float(rng.uniform(500, 800))
        # a crew that draws less as the bank falls
        sun = load + (0.55 - level) * 800 + float(rng.uniform(-450, 450))
        net = sun - load
        level = float(np.clip(level + (0.95 * net if net > 0 else net) / (200 * 12.8 * share), 0.15, 0.92))
        read = (a_reading(n, round(level + float(rng.normal(0, 0.006)), 3), "fraction", "house"),)
        days.append(Day(date=START + timedelta(days=n), readings=read, solar_wh=sun, load_wh=load))
    held = holds_share(BANK, Log(tuple(days)))
    assert held.share == pytest.approx(share, abs=0.06)
    assert holds_share(BANK, Log(tuple(days[:6]))) is None


def test_a_temperature_that_nobody_logged_is_said():
    log = a_log(a_reading(0, 12.0, "gross", "gas"))
    rig = a_rig(replace(GAS, heats=True))
    assert reasons(rig, known(rig, log, at(0, 21), "gas"), forecast(rig, log, (), at(0, 21)).of("gas")).air_c > 10
    told = a_log(a_reading(0, 12.0, "gross", "gas"), temp_min_c=4.0, temp_max_c=9.0)
    assert reasons(rig, known(rig, told, at(0, 21), "gas"), forecast(rig, told, (), at(0, 21)).of("gas")).air_c is None


def test_a_supply_counted_in_kg_takes_a_weight():
    from lodeline.core.catalogue import Sense
    from lodeline.core.entries import check_reading

    flour = a_store("supply", 10.0, "flour", own_unit="kg", own_sense=Sense.DRAINS)
    check_reading(a_reading(0, 4.0, "mass", "flour"), {"flour": flour}, "reading")
    assert known(a_rig(flour), a_log(a_reading(0, 4.0, "mass", "flour")), at(0, 21), "flour").level == pytest.approx(
        4, abs=0.2
    )
