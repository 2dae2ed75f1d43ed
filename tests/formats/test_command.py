"""The command line's forecast: one line a file, exit status, reproducibility."""

import json
from pathlib import Path

import pytest

from lodeline.formats.command import main

EXAMPLE = Path(__file__).parents[2] / "docs" / "example.logbook.json"


def run(capsys, *words):
    status = main([str(word) for word in words])
    captured = capsys.readouterr()
    return status, [json.loads(line) for line in captured.out.splitlines()], captured.err


def test_one_line_a_file_in_order(capsys):
    status, lines, errors = run(capsys, EXAMPLE, EXAMPLE)
    assert (status, errors) == (0, "")
    assert [line["file"] for line in lines] == [str(EXAMPLE)] * 2
    assert lines[0] == lines[1]


def test_the_line_says_what_the_contract_says(capsys):
    _, (line,), _ = run(capsys, EXAMPLE)
    assert line["at"] == "2026-09-04T20:17:00+01:00"
    assert line["horizon_days"] == 14
    assert set(line["autonomy"]) == {"store", "p10_days", "p50_days", "p90_days", "at"}
    by_id = {store["id"]: store for store in line["stores"]}
    assert line["autonomy"]["store"] == max(line["stores"], key=lambda s: s["p_first"])["id"]
    assert by_id["house"]["unit"] == "Ah"
    assert 0.85 * 280 < by_id["house"]["level"] < 0.9 * 280
    assert by_id["diesel"] | {"unit": 0, "capacity": 0, "limit": 0} == {
        "id": "diesel",
        "unit": 0,
        "capacity": 0,
        "limit": 0,
        "level": None,
        "level_p10": None,
        "level_p90": None,
        "rate_per_day": None,
        "p10_days": None,
        "p50_days": None,
        "p90_days": None,
        "p_within_horizon": None,
        "p_first": 0.0,
        "daily": [],
    }
    assert [day["date"] for day in by_id["grey"]["daily"]][:2] == ["2026-09-04", "2026-09-05"]
    assert len(by_id["grey"]["daily"]) == 14
    # a practised eye: two adults and a child fill an 8 L urine bottle that is at 60 % within about a day
    assert 0.4 < by_id["urine"]["p50_days"] < 1.5
    assert by_id["grey"]["p50_days"] < by_id["fresh"]["p50_days"]


def test_options(capsys):
    _, (line,), _ = run(capsys, EXAMPLE, "--at", "2026-09-03T21:00:00+01:00", "--days", "5", "--seed", "9")
    assert line["at"] == "2026-09-03T21:00:00+01:00"
    assert line["horizon_days"] == 5
    by_id = {store["id"]: store for store in line["stores"]}
    assert by_id["urine"]["level"] is None  # first read a day later
    assert len(by_id["fresh"]["daily"]) == 5


def test_a_refused_file_is_named_and_the_good_ones_are_answered(capsys, tmp_path):
    bad = tmp_path / "bad.json"
    bad.write_text(EXAMPLE.read_text().replace('"store": "grey", "method"', '"store": "gray", "method"'))
    status, lines, errors = run(capsys, bad, EXAMPLE, tmp_path / "missing.json")
    assert status == 2
    assert len(lines) == 1
    first, second = errors.splitlines()
    assert first.startswith(f'{bad}: days[1].readings[2].store: no store "gray"')
    assert second.startswith(f"{tmp_path / 'missing.json'}: file: cannot be read")


def test_a_file_with_nothing_logged_needs_a_time(capsys, tmp_path):
    empty = json.loads(EXAMPLE.read_text()) | {"days": []}
    path = tmp_path / "empty.json"
    path.write_text(json.dumps(empty))
    status, lines, errors = run(capsys, path)
    assert (status, lines) == (2, [])
    assert "--at" in errors
    status, lines, _ = run(capsys, path, "--at", "2026-09-04T20:00:00+01:00")
    assert status == 0
    assert lines[0]["autonomy"] == {"store": None, "p10_days": None, "p50_days": None, "p90_days": None, "at": None}


@pytest.mark.parametrize("words", [["--days", "0"], ["--days", "x"], ["--at", "tomorrow"], ["--seed", "-1"]])
def test_options_that_are_none(words, capsys):
    with pytest.raises(SystemExit) as stopped:
        main([str(EXAMPLE), *words])
    assert stopped.value.code == 2


def written(tmp_path, stores, days, **rig):
    """A logbook file of a rig for two in UTC."""
    said = {"name": "Two", "timezone": "UTC", "units": "metric", "crew": {"adults": 2, "children": 0, "pets": 0}}
    document = {"format": "lodeline-logbook", "version": 1, "rig": said | {"stores": stores} | rig, "days": days}
    path = tmp_path / "small.logbook.json"
    path.write_text(json.dumps(document))
    return path


TANK = {"id": "fresh", "kind": "fresh", "name": "Fresh water", "capacity": 100}
FILLED = {"at": "2026-05-04T20:00:00+00:00", "type": "fill", "store": "fresh", "to": "full"}


@pytest.mark.parametrize(("litres", "left"), [(15, 23), (10, 48), (18, 8)])
def test_a_log_of_totals_alone_is_looked_at_at_the_end_of_its_last_day(capsys, tmp_path, litres, left):
    # filled on the evening of the fourth; five days of so many litres, told for their end
    days = [{"date": "2026-05-04", "events": [FILLED]}]
    days += [{"date": f"2026-05-0{day}", "water_l": litres} for day in range(5, 10)]
    _, (line,), _ = run(capsys, written(tmp_path, [TANK], days))
    assert line["at"] == "2026-05-10T00:00:00+00:00"
    assert line["stores"][0]["level"] == pytest.approx(98 - 5 * litres - 3, abs=4)
    assert left == pytest.approx(98 - 5 * litres, abs=1)


def test_a_total_beside_a_later_reading_is_of_the_day_so_far(capsys, tmp_path):
    reading = {"at": "2026-05-05T18:00:00+00:00", "store": "fresh", "method": "volume", "value": 80}
    days = [{"date": "2026-05-04", "events": [FILLED]}, {"date": "2026-05-05", "water_l": 12, "readings": [reading]}]
    _, (line,), _ = run(capsys, written(tmp_path, [TANK], days))
    assert line["at"] == "2026-05-05T18:00:00+00:00"


def test_what_the_file_may_say_since_is_understood(capsys, tmp_path):
    bank = {"kind": "battery", "chemistry": "agm", "nominal_v": 12, "capacity": 100}
    stores = [TANK, {"id": "start", "name": "Starter", "starter": True} | bank, {"id": "house", "name": "House"} | bank]
    more = {"to": "full", "amount": 30, "at": "2026-05-05T10:00:00+00:00"}
    meter = {"at": "2026-05-05T20:00:00+00:00", "store": "fresh", "method": "meter", "value": 40}
    volts = [
        {"at": "2026-05-05T20:01:00+00:00", "store": id, "method": "volts", "value": 12.7, "state": "rest"}
        for id in ("start", "house")
    ]
    drive = {"at": "2026-05-05T11:00:00+00:00", "type": "drive", "km": 55}
    days = [
        {"date": "2026-05-04", "events": [FILLED]},
        {"date": "2026-05-05", "events": [FILLED | more, drive], "readings": [meter, *volts]},
    ]
    load = {"id": "fridge", "name": "Fridge", "watts": 45, "hours_per_day": 10, "bank": "house"}
    source = {"id": "dcdc", "kind": "alternator", "amps": 20, "bank": "house"}
    array = {"id": "roof", "watts": 50, "bank": "house"}
    status, (line,), errors = run(
        capsys, written(tmp_path, stores, days, loads=[load], sources=[source], solar=[array])
    )
    assert (status, errors) == (0, "")
    by_id = {store["id"]: store for store in line["stores"]}
    assert by_id["start"]["p_first"] == 0
    assert by_id["start"]["rate_per_day"] < 1 < by_id["house"]["rate_per_day"]
    for part, place in ((load, "loads"), (source, "sources"), (array, "solar")):
        for wrong, says in (("nowhere", "no store"), ("fresh", "is not a battery")):
            path = written(tmp_path, stores, days, **{place: [part | {"bank": wrong}]})
            status, _, errors = run(capsys, path)
            assert status == 2
            assert f"rig.{place}[0].bank: " in errors
            assert says in errors
