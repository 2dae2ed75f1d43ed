"""Places in and out: each format is read back by a library that is not ours; OpenStreetMap's tags are understood."""

import csv
import io
import json

import geojson
import gpxpy
import pytest

from lodeline.core.errors import Refused
from lodeline.demo.places import ROUND_SANDMARTIN, ROUND_TIN_LANTERN
from lodeline.formats import document as d
from lodeline.formats.places.files import PlacesFormat, read_places, write_places
from lodeline.formats.refusals import validated

BOOK = [validated(d.SpotDoc, each) for each in (*ROUND_SANDMARTIN, *ROUND_TIN_LANTERN)]
# what a file of another program has no place for
OURS = {"id", "known_on", "notes"}


def said(doc):
    fields = doc.model_dump(exclude=OURS, exclude_none=True)
    for service in fields["services"].values():
        service["fuels"] = sorted(service.get("fuels", ()))
    return fields | {"lat": round(doc.lat, 4), "lon": round(doc.lon, 4)}


@pytest.mark.parametrize("format", PlacesFormat)
def test_what_is_written_is_read_back_the_same(format):
    back = read_places(write_places(BOOK, format), format)
    assert back.skipped == ()
    assert [said(each) for each in back.places] == [said(each) for each in BOOK]


def test_geojson_is_read_by_the_geojson_library():
    whole = geojson.loads(write_places(BOOK, PlacesFormat.GEOJSON))
    assert whole.is_valid
    drain = next(each for each in whole.features if each.properties["name"] == "Municipal drain, Fundo")
    assert geojson.utils.coords(drain)
    assert drain.properties["amenity"] == "sanitary_dump_station"
    assert drain.properties["maxlength"] == "7"


def test_gpx_is_read_by_the_gpxpy_library():
    gpx = gpxpy.parse(write_places(BOOK, PlacesFormat.GPX).decode())
    assert [point.name for point in gpx.waypoints] == [each.name for each in BOOK]
    assert gpx.waypoints[0].latitude == pytest.approx(BOOK[0].lat)


def test_csv_is_read_by_the_csv_library_and_no_cell_is_a_formula():
    tricky = BOOK[0].model_copy(update={"name": "=HYPERLINK(1)", "note": 'One, "two"\nthree'})
    rows = list(csv.DictReader(io.StringIO(write_places([tricky], PlacesFormat.CSV).decode(), newline="")))
    assert rows[0]["name"] == "'=HYPERLINK(1)"
    assert rows[0]["description"] == 'One, "two"\nthree'


FORMULAS = ["=1+1", "@SUM(A1)", "+1+cmd|' /C calc'!A0", "-2+3", "\t=1", "\r=1", "  =1", "\u00a0=1", "\n@x"]


def test_nothing_that_a_spreadsheet_takes_for_a_formula_begins_a_cell_and_a_number_is_one():
    tricky = [BOOK[0].model_copy(update={"name": text, "note": text, "lon": -8.25}) for text in FORMULAS]
    written = write_places(tricky, PlacesFormat.CSV)
    for row in csv.DictReader(io.StringIO(written.decode(), newline="")):
        assert row["lon"] == "-8.250000"
        for head in ("name", "description"):
            assert row[head].startswith("'"), row[head]
    back = read_places(written, PlacesFormat.CSV)
    assert [each.name for each in back.places] == [" ".join(text.split()) for text in FORMULAS]


@pytest.mark.parametrize("format", PlacesFormat)
def test_a_name_stands_in_one_line(format):
    of_two_lines = BOOK[0].model_copy(update={"name": "Tap\r\nby the mill\x1b"})
    (back,) = read_places(write_places([of_two_lines], format).replace(b"\x1b", b" "), format).places
    assert back.name == "Tap by the mill"


def test_a_coordinate_of_many_digits_is_none():
    digits = 400
    whole = {"type": "FeatureCollection", "features": [feature(), feature(lon="MANY"), feature(lat="MANY")]}
    data = json.dumps(whole).replace('"MANY"', "9" * digits).encode()
    assert len(read_places(data, PlacesFormat.GEOJSON).places) == 1
    table = f"name,lat,lon\nTap,1,2\nOther,{'9' * digits},2\nThird,nan,inf\n".encode()
    read = read_places(table, PlacesFormat.CSV)
    assert (len(read.places), len(read.skipped)) == (1, 2)


def test_a_file_of_more_places_than_a_book_holds_is_refused_before_any_is_made():
    lines = "name,lat,lon\n" + "Tap,1,2\n" * 300_000
    points = '<gpx version="1.1" creator="x">' + '<wpt lat="1" lon="2"/>' * 100_000 + "</gpx>"
    few = {"type": "FeatureCollection", "features": [feature()] * 2001}
    for data in (lines.encode(), points.encode(), json.dumps(few).encode()):
        with pytest.raises(Refused) as refused:
            read_places(data)
        assert refused.value.place == "file"


def feature(name="Here", lon=8.0, lat=50.0, **tags):
    return {
        "type": "Feature",
        "geometry": {"type": "Point", "coordinates": [lon, lat]},
        "properties": {"name": name} | tags,
    }


def of(**tags):
    data = json.dumps({"type": "FeatureCollection", "features": [feature(**tags)]}).encode()
    return read_places(data, PlacesFormat.GEOJSON).places[0]


# keys and values as the OpenStreetMap wiki names them (from memory)
@pytest.mark.parametrize(
    ("tags", "offered"),
    [
        ({"amenity": "sanitary_dump_station"}, {"black", "grey"}),
        ({"amenity": "drinking_water"}, {"water"}),
        ({"amenity": "water_point", "drinking_water": "no"}, {"water"}),
        (
            {"tourism": "caravan_site", "power_supply": "yes", "sanitary_dump_station": "yes", "water_point": "yes"},
            {"hookup", "black", "grey", "water"},
        ),
        ({"amenity": "fuel", "fuel:diesel": "yes", "fuel:lpg": "yes"}, {"fuel", "gas"}),
        ({"amenity": "fuel", "fuel:diesel": "no"}, set()),
        ({"shop": "laundry"}, {"laundry"}),
        ({"shop": "supermarket"}, {"supplies"}),
        ({"tourism": "viewpoint"}, set()),
    ],
)
def test_tags_are_understood(tags, offered):
    assert set(of(**tags).services.model_dump(exclude_none=True)) == offered


def test_hours_fees_and_limits_are_understood_and_what_is_not_stands_in_the_note():
    place = of(
        amenity="fuel", opening_hours="Mo-Fr 08:00-18:00", fee="yes", charge="4 EUR", maxheight="3.2", maxlength="7 m"
    )
    assert (place.opening_hours, place.fee, place.max_height_m, place.max_length_m) == (
        "Mo-Fr 08:00-18:00",
        4.0,
        3.2,
        7.0,
    )
    strange = of(amenity="fuel", opening_hours="ask Jo", fee="yes", maxheight="10'6\"")
    assert (strange.opening_hours, strange.fee, strange.max_height_m) == (None, None, None)
    assert strange.note == "opening_hours=ask Jo; fee=yes"


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "first line"),
        (b"[1, 2]", "not an object"),
        (b'{"type": "FeatureCollection", "features": 3}', "no list"),
        (b'{"type": "FeatureCollection", "features": [{"type": "Feature", "geometry": null}]}', "none of its features"),
        (b"<gpx><wpt lat='x'/></gpx>", ""),
        (b"<!DOCTYPE a [<!ENTITY b 'c'>]><gpx>&b;</gpx>", "entities"),
        (b"\xff\xfe\x00", "UTF-8"),
        (b"a,b\n1,2\n", "first line"),
        (b'<gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1"></gpx>', "holds none"),
    ],
)
def test_a_file_that_holds_no_places_is_refused_with_why(data, says):
    with pytest.raises(Refused) as refused:
        read_places(data)
    assert says in refused.value.problem.said


def test_a_line_that_is_no_place_is_named_and_the_others_are_read():
    table = b"name;latitude;longitude\nOne;50,5;8\nTwo;here;8\nThree;95;8\n"
    read = read_places(table)
    assert [(each.name, each.lat) for each in read.places] == [("One", 50.5)]
    assert [where for where, _ in read.skipped] == ["line 3", "line 4"]


def test_an_area_is_a_place_in_its_middle():
    ring = [[[8.0, 50.0], [8.2, 50.0], [8.2, 50.2], [8.0, 50.2]]]
    data = {"type": "Feature", "geometry": {"type": "Polygon", "coordinates": ring}, "properties": {"name": "Field"}}
    place = read_places(json.dumps(data).encode()).places[0]
    assert (place.lat, place.lon) == pytest.approx((50.1, 8.1))
