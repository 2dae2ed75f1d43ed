"""Many files are shared out among cores, and told as one after the other."""

import json
from pathlib import Path

from lodeline.formats.command import main

EXAMPLE = Path(__file__).parents[2] / "docs" / "example.logbook.json"


def test_many_files_are_told_in_their_order_and_a_bad_one_stops_none(tmp_path, capfd, monkeypatch):
    monkeypatch.setattr("os.sched_getaffinity", lambda _pid: {0, 1})
    document = json.loads(EXAMPLE.read_text())
    paths = []
    for index in range(6):
        path = tmp_path / f"{index}.json"
        document["rig"]["name"] = f"Rig {index}"
        path.write_text("{" if index == 3 else json.dumps(document))
        paths.append(str(path))
    assert main(paths) == 2
    out, refused = capfd.readouterr()
    told = [json.loads(line) for line in out.splitlines()]
    assert [Path(line["file"]).name for line in told] == ["0.json", "1.json", "2.json", "4.json", "5.json"]
    assert refused.startswith(f"{paths[3]}: ")
    # one alone says the same
    assert main(paths[:1]) == 0
    assert json.loads(capfd.readouterr().out) == told[0]
