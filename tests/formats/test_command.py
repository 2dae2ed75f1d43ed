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
