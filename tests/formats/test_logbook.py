"""The file contract: what is written is read back, and every kind of damage is refused with its place."""

import copy
import json
import sys
from datetime import datetime
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lodeline.core import problems as p
from lodeline.core.errors import Refused
from lodeline.demo.life import live
from lodeline.demo.scenario import SCENARIOS
from lodeline.formats.document import LogbookDoc
from lodeline.formats.logbook import read_logbook, write_document
from lodeline.formats.setup import Answers, rig_from
from lodeline.formats.strict_json import MOST_PARTS, read_json
from lodeline.text.problems import problem
from tests.formats.damage import DAMAGES

ROOT = Path(__file__).parents[2]
EXAMPLE = (ROOT / "docs" / "example.logbook.json").read_bytes()


def read_document(data: bytes) -> LogbookDoc:
    return read_logbook(data).doc


def test_the_example_is_read_as_it_stands():
    book = read_logbook(EXAMPLE)
    rig, log, outlook = book.rig, book.log, book.outlook
    assert [store.id for store in rig.stores] == ["house", "fresh", "grey", "urine", "gas", "diesel"]
    assert rig.store("house").line == 0.15
    assert rig.store("grey").line_level == pytest.approx(0.95 * 95)
    assert log.days[0].events[1].to_full
    assert log.latest() == datetime.fromisoformat("2026-09-04T20:17:00+01:00")
    assert [day.sky for day in outlook] == ["overcast", "wet"]


def test_the_example_survives_a_round_trip():
    doc = read_document(EXAMPLE)
    assert read_document(write_document(doc)) == doc
    written = json.loads(write_document(doc))
    assert written["days"][0]["readings"][1] == json.loads(EXAMPLE)["days"][0]["readings"][1]


@pytest.mark.parametrize("scenario", SCENARIOS, ids=lambda s: s.rig["name"])
@pytest.mark.parametrize("seed", [1, 2])
def test_lived_rigs_survive_a_round_trip(scenario, seed):
    now = datetime.fromisoformat("2026-11-25T20:40:00+00:00")
    book = read_logbook(json.dumps(live(scenario, now, seed).document).encode())
    assert read_logbook(write_document(book.doc)) == book


@settings(max_examples=40, deadline=None)
@given(
    st.builds(
        Answers,
        name=st.text(st.characters(codec="utf-8", exclude_characters="\0"), min_size=1, max_size=40).map("a".__add__),
        timezone=st.sampled_from(["UTC", "America/Denver", "Australia/Perth"]),
        units=st.sampled_from(["metric", "us", "uk"]),
        adults=st.integers(1, 5),
        children=st.integers(0, 4),
        pets=st.integers(0, 3),
        chemistry=st.sampled_from(["lfp", "agm", "gel", "flooded", "lead-carbon"]),
        battery_ah=st.integers(0, 900).map(float),
        battery_v=st.sampled_from([12, 24, 48]),
        solar_watts=st.integers(0, 2000).map(float),
        fresh=st.integers(0, 600).map(float),
        grey=st.integers(0, 300).map(float),
        toilet=st.sampled_from(["black", "cassette", "composting", "none"]),
        gas=st.integers(0, 40).map(float),
        fuel=st.integers(0, 200).map(float),
        heater=st.sampled_from(["diesel", "gas", "none"]),
    )
)
def test_any_ten_answers_make_a_rig_that_survives_a_round_trip(answers):
    rig, assumed = rig_from(answers)
    fields = {"format": "lodeline-logbook", "version": 1, "rig": rig.model_dump(exclude_none=True), "days": []}
    doc = read_document(json.dumps(fields).encode())
    assert doc.rig == rig
    assert read_document(write_document(doc)) == doc
    assert assumed


@pytest.mark.parametrize("damage", DAMAGES, ids=lambda d: d[0])
def test_damage_is_refused_with_its_place(damage):
    _, hurt, place, says = damage
    document: Any = copy.deepcopy(json.loads(EXAMPLE))
    hurt(document)
    with pytest.raises(Refused) as refused:
        read_document(json.dumps(document).encode())
    assert refused.value.place == place
    assert says in problem(refused.value.problem)


def example_with(old: bytes, new: bytes) -> bytes:
    assert old in EXAMPLE
    return EXAMPLE.replace(old, new, 1)


PETS = b'"pets": 1'
RAW = {
    "a key given twice": (b'{"format": "lodeline-logbook", "rig": {"name": "a", "name": "b"}}', "rig.name", "twice"),
    "a key given twice, others between": (b'[{"a": 1}, {"a": {"q": 1}, "b": 2, "a": 3}]', "[1].a", "twice"),
    "not a number": (b'{"format": "lodeline-logbook", "version": NaN}', "version", "finite"),
    "a number beyond all": (example_with(b'"value": 0.94', b'"value": 1e999'), "days[0].readings[0].value", "finite"),
    "minus infinity": (b'{"days": [-Infinity]}', "days[0]", "finite"),
    "not JSON": (b'{"format": ', "line 1, column 11", "not JSON: it ends in the middle"),
    "not UTF-8": (b'{"format": "\xff"}', "", "not UTF-8"),
    "half a character": (b'{"a": [1, {"format": "x\\ud800"}]}', "a[1].format", "not text"),
    "a NUL": (b'{"a": {"b": "x\\u0000"}}', "a.b", "not text"),
    "a NUL in a key": (b'{"a": {"b\\u0000": 1}}', "a", "not text"),
    "nested without end": (b"[" * 100_000, "line 1, column 202", "nested too deep"),
    "not an object": (b"[1, 2]", "document", "must be an object"),
    "an endless number": (b'{"rig": {"version": ' + b"9" * 5000 + b"}}", "rig.version", "too large"),
    "a number for all the pets there are": (example_with(PETS, b'"pets": ' + b"9" * 400), "rig.crew.pets", "too large"),
    "a year to come": (example_with(b'"date": "2026-09-03"', b'"date": "2101-09-03"'), "days[0].date", "1970 and 2100"),
}


@pytest.mark.parametrize("name", RAW)
def test_broken_text_is_refused(name):
    data, place, says = RAW[name]
    with pytest.raises(Refused) as refused:
        read_document(data)
    assert says in problem(refused.value.problem)
    assert refused.value.place == place or (not place and not refused.value.place)


def test_a_place_is_one_line_whatever_a_key_holds():
    document = json.loads(EXAMPLE)
    document["rig"]["a\nb\x1b" + "k" * 500] = 1
    with pytest.raises(Refused) as refused:
        read_document(json.dumps(document).encode())
    assert refused.value.place.startswith("rig.a\\nb\\x1bkkk")
    assert len(refused.value.place) < 80


def test_megabytes_of_nonsense_are_refused_as_fast_as_they_are_read():
    """Counted in work, not in time: a refusal looks at no value and no character by itself."""
    document = json.loads(EXAMPLE)
    document["days"] = [0] * 500_000
    calls = 0

    def count(_frame: Any, event: str, _arg: Any) -> None:
        nonlocal calls
        calls += event in ("call", "c_call")

    data = json.dumps(document).encode()
    sys.setprofile(count)
    try:
        with pytest.raises(Refused) as refused:
            read_document(data)
    finally:
        sys.setprofile(None)
    assert refused.value.place == "days[0]"
    assert calls < 5000


def test_what_people_and_devices_write_is_taken():
    document = json.loads(EXAMPLE)
    document["rig"]["name"] = "\u200fکاروان\u200cمن"
    document["rig"]["crew"]["adults"] = 2.0
    document["rig"]["solar"][0]["watts"] = 0
    spare = {"kind": "fresh", "name": "Can", "capacity": 10}
    document["rig"]["stores"] += [{"id": f"can-{n}"} | spare for n in range(95)]
    doc = read_document(json.dumps(document).encode())
    assert (doc.rig.name, doc.rig.crew.adults, len(doc.rig.stores)) == ("\u200fکاروان\u200cمن", 2, 101)
    assert "\\u0000 " in read_document(example_with(b'"name": "Sanderling"', b'"name": "a \\\\u0000 b"')).rig.name


def test_a_byte_order_mark_is_read_over():
    assert read_document(b"\xef\xbb\xbf" + EXAMPLE) == read_document(EXAMPLE)


def test_a_layout_gives_the_capacity_that_parallel_strings_make():
    document = json.loads(EXAMPLE)
    house = document["rig"]["stores"][0]
    del house["capacity"]
    house |= {
        "chemistry": "flooded",
        "nominal_v": 12,
        "layout": {"unit_v": 6, "unit_ah": 225, "series": 2, "parallel": 3},
    }
    rig = read_logbook(json.dumps(document).encode()).rig
    assert rig.store("house").capacity == 675
    assert rig.store("house").capacity_wh == 8100


def test_a_file_of_too_many_parts_is_refused_before_any_is_made_where_that_is_bounded():
    days = [{"date": f"{1970 + n // 365}-01-01"} for n in range(MOST_PARTS + 1)]
    with pytest.raises(Refused) as refused:
        read_logbook(json.dumps({"days": days}).encode(), MOST_PARTS)
    assert refused.value.problem == p.FileHoldsTooMuch(MOST_PARTS)
    with pytest.raises(Refused) as refused:  # neither many empty lists
        read_json(b"[" + b"[]," * 2_000_000 + b"[]]")
    assert refused.value.problem == p.FileHoldsTooMuch(MOST_PARTS)
