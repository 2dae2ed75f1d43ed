"""What arrays are judged by: yields offered, warm cells, the reference yield; and when wear can be counted."""

from dataclasses import replace
from datetime import date

import pytest

from lodeline.core.catalogue import SkyWord
from lodeline.core.energy.air import air_c
from lodeline.core.energy.solar import array_power_w, clear_yield_wh, reference_yield_h
from lodeline.core.energy.wear import wear
from lodeline.core.energy.yields import YieldDay, offered_wh
from lodeline.core.log import Place
from lodeline.core.zone import Zone
from tests.builders import a_powered_rig, at

RIG = a_powered_rig(350.0)
MIDWINTER = date(2026, 12, 21)


def test_wear_needs_two_points():
    with pytest.raises(ValueError, match="two points"):
        wear([(at(0), 50.0)], 100.0, 20.0, Zone("UTC"))


def test_the_offered_sun_follows_word_and_strength():
    day = YieldDay(
        date=date(2026, 6, 2),
        sky=SkyWord.OVERCAST,
        place=None,
        clear_wh=2000.0,
        reference_h=7.0,
        taken_wh=None,
        full=False,
    )
    strength = dict.fromkeys(SkyWord, 1.0) | {SkyWord.OVERCAST: 0.8}
    assert offered_wh(day, strength, (0.25,) * 4) == pytest.approx(2000 * 0.32 * 0.8)
    assert offered_wh(replace(day, sky=None), strength, (0.0, 0.0, 1.0, 0.0)) == pytest.approx(2000 * 0.32 * 0.8)


def test_warm_cells_give_less_and_the_air_is_warmest_in_the_afternoon():
    cool, hot = (
        array_power_w(air_c(mean, mean - 5) * 0 + 800.0, 100.0, air_c(mean, mean - 5)).max() for mean in (5, 35)
    )
    # 0.4 % a degree (common practice): thirty degrees are about an eighth
    assert hot / cool == pytest.approx(1 - 0.12, abs=0.02)
    assert air_c(15.0, 10.0).argmax() in (14, 15)
    assert air_c(15.0, 10.0).max() <= 20.0


def test_the_reference_yield_weighs_arrays_by_their_watts():
    place = Place("Somewhere", 40.0, -3.0)
    flat = reference_yield_h(RIG, place, MIDWINTER)
    tilted = replace(RIG, solar=(replace(RIG.solar[0], tilt_deg=60.0),))
    steep = reference_yield_h(tilted, place, MIDWINTER)
    both = replace(RIG, solar=(*RIG.solar, replace(tilted.solar[0], id="two")))
    assert steep > 1.5 * flat
    assert reference_yield_h(both, place, MIDWINTER) == pytest.approx((flat + steep) / 2)


@pytest.mark.parametrize("zone", ["America/Denver", "Asia/Kolkata", "Pacific/Auckland", "UTC"])
def test_where_no_place_was_logged_the_sun_is_highest_at_noon_aboard(zone):
    hourly = clear_yield_wh(replace(RIG, timezone=zone), None, MIDWINTER)
    assert hourly.argmax() in (11, 12, 13)  # Auckland's clock is ahead of its sun in summer


def test_a_controller_passes_no_more_than_it_can():
    small = replace(RIG, solar=(replace(RIG.solar[0], controller_amps=5.0),))
    assert clear_yield_wh(small, None, MIDWINTER).max() == pytest.approx(
        5.0 * (13.65 + 14.0) / 2
    )  # between LFP's float and absorption
