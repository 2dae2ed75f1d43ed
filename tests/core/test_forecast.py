"""The days that are left: order, direction, reproducibility, and what the outlook changes."""

from dataclasses import replace
from datetime import timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lodeline.core.catalogue import DayStatus, SkyWord, StopAct
from lodeline.core.forecast.stop import next_stop
from lodeline.core.log import Event, Log, OutlookDay
from lodeline.core.rig import Load
from tests.builders import FRESH, FUEL, GREY, START, a_fill, a_log, a_powered_rig, a_reading, a_rig, at, forecast

RIG = a_rig(FRESH, GREY)
STEADY = a_log(
    a_fill(0, hour=20), Event(at(0, 9), "dump", "grey"), *(a_reading(day, 100 - 9.0 * day) for day in range(1, 6))
)


def days_ahead(first, n=14, **facts):
    return tuple(OutlookDay(date=START + timedelta(days=first + i), **facts) for i in range(n))


def test_a_steady_log_gives_the_days_that_arithmetic_gives():
    ahead = forecast(RIG, STEADY, (), at(5)).of("fresh")
    assert ahead.p50_days == pytest.approx((55 - 5) / 9.0, rel=0.15)
    assert ahead.rate_per_day == pytest.approx(9.0, rel=0.15)


def test_the_same_log_time_and_seed_give_the_same_answer_and_another_seed_nearly():
    first, again, other = (forecast(RIG, STEADY, (), at(5), seed) for seed in (7, 7, 8))
    assert first == again
    assert first.of("fresh").p50_days != other.of("fresh").p50_days
    assert first.of("fresh").p50_days == pytest.approx(other.of("fresh").p50_days, rel=0.05)


def test_nothing_logged_after_the_time_of_the_forecast_is_looked_at():
    later = a_log(
        a_fill(0, hour=20),
        Event(at(0, 9), "dump", "grey"),
        *(a_reading(day, 100 - 9.0 * day) for day in range(1, 6)),
        a_fill(6),
        a_reading(7, 3.0),
    )
    assert forecast(RIG, later, (), at(5)) == forecast(RIG, STEADY, (), at(5))


def test_a_store_that_was_never_read_takes_no_part():
    ahead = forecast(RIG, Log(STEADY.days[1:]), (), at(5))
    grey = ahead.of("grey")
    assert (grey.level, grey.p50_days, grey.p_within, grey.p_first, grey.daily) == (None, None, None, 0.0, ())
    assert ahead.autonomy.store == "fresh"


def test_a_store_past_its_line_has_no_days_left():
    ahead = forecast(RIG, a_log(a_reading(0, None, "dry")), (), at(0, 21))
    fresh = ahead.of("fresh")
    assert (fresh.p10_days, fresh.p50_days, fresh.p90_days) == (0, 0, 0)
    assert ahead.autonomy.store == "fresh"
    assert ahead.autonomy.at == at(0, 21)


def test_what_lies_beyond_the_horizon_is_null():
    diesel = a_rig(FUEL)
    ahead = forecast(
        diesel,
        a_log(a_fill(0, "diesel"), temp_min_c=20, temp_max_c=30),
        days_ahead(1, temp_min_c=20, temp_max_c=30),
        at(0, 12),
    )
    assert ahead.autonomy.store is None
    assert ahead.of("diesel").p50_days is None
    assert ahead.of("diesel").p_within < 0.05


def test_midnights_start_with_the_one_that_ends_the_day():
    ahead = forecast(RIG, STEADY, (), at(5), days=5).of("fresh")
    assert [day.date for day in ahead.daily] == [START + timedelta(days=5 + i) for i in range(5)]
    assert ahead.daily[0].p50 > ahead.daily[-1].p50


def test_the_first_to_bind_shares_add_up_to_the_chance_that_any_does():
    ahead = forecast(RIG, STEADY, (), at(5))
    bound = 1 - ahead.p_stay[-1][1]
    assert sum(each.p_first for each in ahead.stores) >= bound - 1e-9
    assert sum(each.p_first for each in ahead.stores) <= 1 + 1e-9


def test_guests_shorten_and_an_empty_rig_lengthens_the_days():
    p50 = [
        forecast(RIG, STEADY, days_ahead(5, crew_aboard=people), at(5)).of("fresh").p50_days or 99
        for people in (1, 2, 4)
    ]
    assert p50[0] > p50[1] > p50[2]


def test_a_planned_drive_charges_the_bank_and_burns_fuel():
    rig = replace(a_powered_rig(watts=50), stores=(*a_powered_rig().stores, FUEL))
    log = a_log(a_reading(0, 0.4, "fraction", "house"), a_fill(0, "diesel"))
    stay, drive = (forecast(rig, log, plan, at(0, 21)) for plan in ((), days_ahead(1, 3, hours={"alternator": 3.0})))
    assert (drive.of("house").p50_days or 99) > (stay.of("house").p50_days or 99)
    assert drive.of("diesel").daily[3].p50 < stay.of("diesel").daily[3].p50 - 20


def test_a_post_keeps_the_bank_up():
    rig = a_powered_rig(watts=50)
    log = a_log(a_reading(0, 0.5, "fraction", "house"))
    ahead = forecast(rig, log, days_ahead(0, 16, status=DayStatus.HOOKUP), at(0, 21)).of("house")
    assert ahead.p_within == 0
    assert ahead.daily[5].p50 > 190


def test_sun_carries_a_bank_in_summer_and_not_under_lasting_rain():
    rig = a_powered_rig(watts=400)
    log = a_log(a_reading(0, 0.8, "fraction", "house"), sky=SkyWord.CLEAR)
    clear = forecast(rig, log, days_ahead(1, sky=SkyWord.CLEAR), at(0, 21)).of("house")
    rain = forecast(rig, log, days_ahead(1, sky=SkyWord.WET), at(0, 21)).of("house")
    assert clear.p_within < 0.05
    assert rain.p50_days is not None
    assert rain.p50_days < 11  # an expected word comes true less often than not, far ahead


def test_the_fan_of_a_bank_shows_day_and_night():
    rig = a_powered_rig(watts=400)
    ahead = forecast(rig, a_log(a_reading(0, 0.6, "fraction", "house"), sky=SkyWord.MIXED), (), at(0, 21)).of("house")
    levels = [band.p50 for band in ahead.fan[1:17]]
    assert max(levels) - min(levels) > 10
    assert levels != sorted(levels)
    assert levels != sorted(levels, reverse=True)


def test_the_next_stop_empties_and_fills_and_names_what_is_due():
    needs = next_stop(forecast(RIG, STEADY, (), at(5)))
    assert [need.act for need in needs] == [StopAct.EMPTY, StopAct.FILL]
    assert sum(need.due for need in needs) == 1


@settings(max_examples=25, deadline=None)
@given(
    start=st.floats(10, 100),
    use=st.floats(1, 30),
    hour=st.floats(0, 23.9),
    seed=st.integers(0, 5),
    panel=st.booleans(),
    aboard=st.integers(1, 6),
)
def test_quantiles_are_in_order_and_levels_stay_in_the_tank(start, use, hour, seed, panel, aboard):
    readings = [a_reading(day, max(0.0, start - use * day), hour=hour) for day in range(3)]
    ahead = forecast(RIG, a_log(*readings), days_ahead(2, crew_aboard=aboard), at(2, hour), seed, n_paths=300)
    for each in (ahead.of("fresh"), ahead.autonomy):
        known = [value for value in (each.p10_days, each.p50_days, each.p90_days) if value is not None]
        assert known == sorted(known)
        assert not (each.p10_days is None and each.p50_days is not None)
    for day in ahead.of("fresh").daily:
        assert 0 <= day.p10 <= day.p50 <= day.p90 <= 100


@settings(max_examples=25, deadline=None)
@given(people=st.integers(1, 5), more=st.integers(1, 4), watts=st.floats(5, 200), share=st.floats(0.3, 1.0))
def test_more_use_never_lengthens_autonomy(people, more, watts, share):
    def left(ahead, store):
        return [value if value is not None else 99.0 for value in (ahead.of(store).p10_days, ahead.of(store).p50_days)]

    few, many = (
        forecast(RIG, STEADY, days_ahead(5, crew_aboard=n), at(5), n_paths=300) for n in (people, people + more)
    )
    assert left(many, "fresh") <= left(few, "fresh")
    rig = a_powered_rig()
    hungry = replace(rig, loads=(*rig.loads, Load("extra", "Extra", watts, 6.0)))
    log = a_log(a_reading(0, share, "fraction", "house"))
    lean, fat = (forecast(each, log, (), at(0, 20.1), n_paths=300) for each in (rig, hungry))
    assert left(fat, "house") <= left(lean, "house")
