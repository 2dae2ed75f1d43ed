"""Data of every released version comes up with a copy kept first; newer data is refused; copies go to and fro whole."""

import gzip
import os
import sqlite3
import stat
from contextlib import closing
from pathlib import Path

import pytest

from lodeline.site.backups import NoCopy, backup, check, restore
from lodeline.site.data import close_to_others
from tests.test_command_line import command

RELEASED = sorted((Path(__file__).parents[1] / "upgrades").glob("*.sql.gz"))
RIGS = ["Sandmartin", "Turnstone"]


def made(path: Path, dump: Path) -> Path:
    path.parent.mkdir(parents=True, exist_ok=True)
    with closing(sqlite3.connect(path)) as base:
        base.executescript(gzip.decompress(dump.read_bytes()).decode())
        base.commit()
    return path


def counts(path: Path) -> tuple[int, ...]:
    with closing(sqlite3.connect(path)) as base:
        return tuple(
            base.execute(f"select count(*) from {table}").fetchone()[0]
            for table in (
                "logbook_rig",
                "logbook_store",
                "logbook_day",
                "logbook_reading",
                "logbook_event",
                "accounts_membership",
            )
        )


@pytest.mark.parametrize("dump", RELEASED, ids=lambda path: path.name.removesuffix(".sql.gz"))
def test_a_database_of_each_released_version_comes_up(dump, tmp_path):
    base = made(tmp_path / "data" / "lodeline.sqlite3", dump)
    before = counts(base)
    out = tmp_path / "out.json"
    done = command(tmp_path, "export", 1, out)
    assert done.returncode == 0, done.stderr
    assert counts(base) == before
    kept = list((tmp_path / "data" / "backups").iterdir())
    assert len(kept) == 1
    assert str(kept[0]) in done.stderr
    check(kept[0])
    assert counts(kept[0]) == before
    forecast = command(tmp_path, "forecast", out)
    assert forecast.returncode == 0, forecast.stderr
    # once it is of this version, nothing more is kept
    assert command(tmp_path, "export", 2, tmp_path / "two.json").returncode == 0
    assert len(list((tmp_path / "data" / "backups").iterdir())) == 1


@pytest.mark.parametrize("dump", RELEASED[:1], ids=lambda path: path.name.removesuffix(".sql.gz"))
def test_a_copy_of_an_earlier_version_is_brought_up_before_it_is_put_in_place(dump, tmp_path):
    copy = made(tmp_path / "copy.sqlite3", dump)
    base = tmp_path / "data" / "lodeline.sqlite3"
    done = command(tmp_path, "restore", copy)
    assert (done.returncode, done.stderr) == (0, "")
    assert counts(base) == counts(copy)
    with closing(sqlite3.connect(base)) as read:
        revisions = read.execute(
            "select revision, document_revision, replaced_revision, stamp from logbook_rig"
        ).fetchall()
    # beyond what anybody can have seen, and all that stands was set there
    assert all(revision == document == replaced > 10**14 for revision, document, replaced, _ in revisions)
    assert len({stamp for *_, stamp in revisions}) == len(revisions)
    assert sorted(each.name for each in base.parent.glob(".*")) == []
    assert command(tmp_path, "export", 1, tmp_path / "out.json").returncode == 0


def test_newer_data_is_refused_in_one_line_and_left_alone(tmp_path):
    base = made(tmp_path / "data" / "lodeline.sqlite3", RELEASED[-1])
    with closing(sqlite3.connect(base)) as written:
        written.execute(
            "insert into django_migrations (app, name, applied) values ('logbook', '9999_later', '2030-01-01')"
        )
        written.commit()
    copy = tmp_path / "newer.sqlite3"
    backup(base, copy)
    for words in (("export", 1, "out.json"), ("account", "mira"), ("serve", "--port", 1), ("restore", copy)):
        done = command(tmp_path, *words, typed="a-long-word-9\n")
        assert done.returncode == 1
        assert done.stderr.count("\n") == 1
        assert "newer Lodeline" in done.stderr
        assert "9999_later" in done.stderr
    assert not (tmp_path / "data" / "backups").exists()
    assert not list((tmp_path / "data").glob("before-restore-*"))


def test_an_upgrade_that_cannot_keep_a_copy_changes_nothing(tmp_path):
    base = made(tmp_path / "data" / "lodeline.sqlite3", RELEASED[0])
    before = base.read_bytes()
    (tmp_path / "data" / "backups").write_text("a file where the folder should be")
    done = command(tmp_path, "export", 1, tmp_path / "out.json")
    assert done.returncode == 1
    assert "Traceback" not in done.stderr
    assert base.read_bytes() == before


@pytest.fixture
def base(tmp_path):
    return made(tmp_path / "lodeline.sqlite3", RELEASED[-1])


@pytest.mark.parametrize("name", ["copy #1.sqlite3", "50%25 ?x=y&z.sqlite3", "plain.sqlite3"])
def test_a_copy_goes_to_and_fro_under_any_name(base, tmp_path, name):
    copy, before = tmp_path / name, counts(base)
    backup(base, copy)
    assert stat.S_IMODE(copy.stat().st_mode) == 0o600
    with closing(sqlite3.connect(base)) as written:
        written.execute("delete from logbook_reading")
        written.commit()
    kept = restore(copy, base)
    assert counts(base) == before
    assert counts(kept)[3] == 0
    assert stat.S_IMODE(kept.stat().st_mode) == 0o600
    left = ["lodeline.sqlite3", "lodeline.sqlite3-turn", name, kept.name]
    assert sorted(each.name for each in tmp_path.iterdir()) == sorted(left)


@pytest.mark.parametrize("hurt", ["head", "middle", "empty", "text"])
def test_a_damaged_database_is_moved_aside_and_replaced(base, tmp_path, hurt):
    copy, before = tmp_path / "copy.sqlite3", counts(base)
    backup(base, copy)
    size = base.stat().st_size
    with base.open("r+b") as file:
        if hurt == "empty":
            file.truncate(0)
        elif hurt == "text":
            file.truncate(0)
            file.write(b"this is no database" * 500)
        else:
            file.seek(0 if hurt == "head" else size // 2)
            file.write(b"\xff" * (4096 if hurt == "head" else size // 4))
    damaged = base.read_bytes()
    kept = restore(copy, base)
    assert counts(base) == before
    assert kept.read_bytes() == damaged


def test_what_fails_leaves_nothing_behind(base, tmp_path):
    (tmp_path / "bad.sqlite3").write_bytes(b"nonsense" * 900)
    there = tmp_path / "there.sqlite3"
    there.write_text("mine")
    names = sorted(each.name for each in tmp_path.iterdir())
    for source, target, says in (
        (base, there, "exists already"),
        (tmp_path / "no.sqlite3", tmp_path / "new.sqlite3", "does not exist"),
        (tmp_path / "bad.sqlite3", tmp_path / "new.sqlite3", r"bad\.sqlite3 is damaged"),
        (base, tmp_path / "no such folder" / "new.sqlite3", "cannot be written"),
    ):
        with pytest.raises(NoCopy, match=says):
            backup(source, target)
    for bad in ("bad.sqlite3", "no.sqlite3"):
        with pytest.raises(NoCopy):
            restore(tmp_path / bad, base)
    assert sorted(each.name for each in tmp_path.iterdir()) == names
    assert there.read_text() == "mine"


def test_found_files_are_closed_to_others_and_a_folder_of_other_things_is_left(tmp_path):
    ours, home = tmp_path / "ours", tmp_path / "home"
    for folder in (ours, home):
        folder.mkdir()
        folder.chmod(0o755)
    for name in ("lodeline.sqlite3", "before-restore-1.sqlite3", "exports/rig.json", "notes.txt"):
        path = ours / name
        path.parent.mkdir(exist_ok=True)
        path.write_text("x")
        path.chmod(0o644)
    (home / "letter.txt").write_text("x")
    for folder in (ours, home):
        close_to_others(folder)

    def mode(path):
        return oct(stat.S_IMODE(os.stat(path).st_mode))

    assert [mode(ours), mode(ours / "lodeline.sqlite3"), mode(ours / "before-restore-1.sqlite3")] == [
        "0o700",
        "0o600",
        "0o600",
    ]
    assert [mode(ours / "exports"), mode(ours / "exports" / "rig.json")] == ["0o700", "0o600"]
    assert [mode(ours / "notes.txt"), mode(home)] == ["0o644", "0o755"]
