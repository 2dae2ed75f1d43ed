"""A place is a name or a point: notations of RFC 5870, of ISO 6709's habits and of Open Location Code, towns of GeoNames."""

import pytest

from lodeline.formats.places.gazetteer import find, of_point, zone_at
from lodeline.formats.places.points import LatLon, point

SETUBAL = LatLon(38.5204, -8.8931)


@pytest.mark.parametrize(
    "text",
    [
        "38.5204, -8.8931",
        "38.5204 -8.8931",
        "38.5204;-8.8931",
        "38,5204 -8,8931",
        "+38.5204, −8.8931",
        "38.5204° N, 8.8931° W",
        "38.5204N 8.8931W",
        "38°31'13.4\"N 8°53'35.2\"W",
        "38° 31.224' N, 8° 53.586' W",
        "N 38 31 13.4, W 8 53 35.2",
        "8.8931 W, 38.5204 N",
        "geo:38.5204,-8.8931",
        "geo:38.5204,-8.8931;u=35",
        "  38.5204 ,  -8.8931  ",
    ],
)
def test_one_point_is_read_in_every_notation(text):
    assert point(text) == pytest.approx(SETUBAL, abs=2e-5)


def test_plus_codes_are_read_whole_and_by_a_town():
    # the example of the Open Location Code specification: 47.365590, 8.524997
    assert point("8FVC9G8F+6X") == pytest.approx(LatLon(47.365590, 8.524997), abs=1e-4)
    assert point("9G8F+6X Zürich", lambda name: LatLon(47.37, 8.54)) == pytest.approx(LatLon(47.3656, 8.525), abs=1e-3)
    assert point("9G8F+6X") is None


@pytest.mark.parametrize("text", ["", "Lisbon", "91, 10", "10, 181", "38.5", "12.5 V", "1,2,3,4", "N, W", "9" * 500])
def test_what_is_no_point_is_none(text):
    assert point(text) is None


def test_towns_are_found_as_one_types_without_marks_and_in_other_tongues():
    assert find("setub")[0].name == "Setúbal"
    assert find("Lissabon")[0].name == "Lisbon"
    assert {each.country for each in find("San Jose, Costa")} == {"Costa Rica"}
    assert len(find("san")) == 8
    assert find("s") == find("zzzzzz") == []


def test_a_point_has_its_timezone_and_is_named_by_the_town_that_is_near():
    found = of_point(SETUBAL)
    assert (found.name, found.country, found.timezone) == ("Near Setúbal", "Portugal", "Europe/Lisbon")
    # of the tz database's own table: zone.tab's coordinates of each
    assert zone_at(LatLon(39.7392, -104.9842)) == "America/Denver"
    assert zone_at(LatLon(-33.8667, 151.2167)) == "Australia/Sydney"
    assert of_point(LatLon(0.0, -140.0)).name == ""
