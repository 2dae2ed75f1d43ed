"""The commands that keep data safe, as a person would type them: most run in a process of their own."""

import json
import os
import shutil
import sqlite3
import subprocess
import sys
from functools import partial
from pathlib import Path

import pytest

from lodeline import cli

ROOT = Path(__file__).resolve().parents[1]
EXAMPLE = ROOT / "docs" / "example.logbook.json"


def command(folder, *words, typed=""):
    """Run a command on the data of a folder."""
    environment = os.environ | {"LODELINE_DATA": str(folder / "data"), "PYTHONPATH": str(ROOT / "src")}
    environment["DJANGO_SETTINGS_MODULE"] = "lodeline.site.settings"
    line = [sys.executable, "-m", "lodeline.cli", *map(str, words)]
    return subprocess.run(line, env=environment, input=typed, capture_output=True, text=True, timeout=120, check=False)


@pytest.fixture
def lodeline(tmp_path):
    """Run a command on a data folder of its own."""
    return partial(command, tmp_path)


@pytest.fixture(scope="module")
def made(tmp_path_factory):
    """A data folder with one account and the example as its rig, made once."""
    folder = tmp_path_factory.mktemp("made")
    account = command(folder, "account", "mira", typed="a-long-word-9\na-long-word-9\n")
    assert account.returncode == 0, account.stderr
    assert command(folder, "import", EXAMPLE, "mira").returncode == 0
    return folder


@pytest.fixture
def kept(made, tmp_path):
    """A copy of that folder, for one test to change."""
    shutil.copytree(made / "data", tmp_path / "data")
    return tmp_path


def rigs_in(path: Path) -> list[str]:
    with sqlite3.connect(path) as base:
        return [name for (name,) in base.execute("select name from logbook_rig order by id")]


def test_there_is_nothing_to_keep_before_there_is_anything(lodeline, tmp_path):
    done = lodeline("backup", tmp_path / "copy.sqlite3")
    assert done.returncode == 1
    assert "nothing to keep yet" in done.stderr
    assert not (tmp_path / "copy.sqlite3").exists()


def test_an_export_reads_back_as_the_same_forecast(lodeline, kept):
    out = kept / "out.json"
    assert lodeline("export", 1, out).returncode == 0
    lines = [json.loads(line) for line in lodeline("forecast", EXAMPLE, out).stdout.splitlines()]
    assert lines[0] | {"file": ""} == lines[1] | {"file": ""}


def test_a_back_up_is_put_back_and_what_stood_there_is_kept(lodeline, kept):
    copy, data = kept / "copy.sqlite3", kept / "data"
    assert lodeline("backup", copy).returncode == 0
    assert oct(copy.stat().st_mode & 0o777) == "0o600"
    again = lodeline("backup", copy)
    assert again.returncode == 1
    assert "exists already" in again.stderr
    assert lodeline("import", EXAMPLE, "mira").returncode == 0
    assert len(rigs_in(data / "lodeline.sqlite3")) == 2
    assert lodeline("restore", copy).returncode == 0
    assert len(rigs_in(data / "lodeline.sqlite3")) == 1
    before = list(data.glob("before-restore-*.sqlite3"))
    assert len(before) == 1
    assert len(rigs_in(before[0])) == 2


def test_what_is_no_back_up_is_refused_and_changes_nothing(lodeline, kept):
    bad = kept / "bad.sqlite3"
    bad.write_bytes(b"not a database at all" * 100)
    done = lodeline("restore", bad)
    assert done.returncode == 1
    assert "is not a Lodeline back-up" in done.stderr
    assert "Traceback" not in done.stderr
    assert len(rigs_in(kept / "data" / "lodeline.sqlite3")) == 1


@pytest.mark.parametrize(
    ("words", "status", "line"),
    [
        (("export", "7", "out.json"), 1, "There is no rig 7"),
        (("export", "one", "out.json"), 2, "usage"),
        (("import", "missing.json", "mira"), 1, "cannot be read"),
        (("import", str(EXAMPLE), "nobody"), 1, "There is no account nobody"),
        (("backup",), 2, "usage"),
        (("sail",), 2, "no command sail"),
    ],
)
@pytest.mark.django_db
def test_a_wrong_command_says_what_would_be_right(capsys, words, status, line):
    assert cli.main(list(words)) == status
    assert line in capsys.readouterr().err


def test_a_log_level_that_is_none_is_refused_with_those_there_are(lodeline, monkeypatch):
    monkeypatch.setenv("LODELINE_LOG", "loud")
    done = lodeline("account", "mira", typed="a-long-word-9\n")
    assert done.returncode == 1
    assert done.stderr == "lodeline: LODELINE_LOG is LOUD; it has to be one of DEBUG, INFO, WARNING, ERROR.\n"
