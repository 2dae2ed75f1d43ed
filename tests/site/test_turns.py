"""Who writes takes a turn; who reads may where the disk takes nothing, and then nobody writes meanwhile."""

import os
import sqlite3
import threading
from contextlib import contextmanager

import pytest
from django.db.utils import OperationalError

from lodeline.site.turns import base
from lodeline.site.undisturbed import GivenUp

OPTIONS = {"transaction_mode": "IMMEDIATE", "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL;"}


@pytest.fixture
def connect(tmp_path, django_db_blocker):
    """Connections to one database of its own, as each thread has one."""
    path = tmp_path / "a #1 ?.sqlite3"
    settings = {
        "ENGINE": "lodeline.site.turns",
        "NAME": path,
        "OPTIONS": OPTIONS,
        "TIME_ZONE": None,
        "CONN_MAX_AGE": 0,
        "CONN_HEALTH_CHECKS": False,
        "AUTOCOMMIT": True,
        "ATOMIC_REQUESTS": False,
        "USER": "",
        "PASSWORD": "",
        "HOST": "",
        "PORT": "",
        "TEST": {"NAME": None},
    }
    made = []

    def make():
        made.append(base.DatabaseWrapper(dict(settings), alias="other"))
        made[-1].inc_thread_sharing()
        return made[-1]

    with django_db_blocker.unblock():
        first = make()
        begin(first)
        with first.cursor() as cursor:
            cursor.execute("create table t (n integer)")
        end(first)
        first.close()
        yield make
        for each in made:
            each.close()


def count(connection):
    with connection.cursor() as cursor:
        return cursor.execute("select count(*) from t").fetchone()[0]


def begin(connection):
    connection.ensure_connection()
    connection.set_autocommit(False, force_begin_transaction_with_broken_autocommit=True)


def end(connection, how="commit"):
    getattr(connection, how)()
    connection.set_autocommit(True)


def test_writers_pass_one_after_the_other_and_all_that_they_write_is_there(connect):
    inside, most = 0, 0

    def write():
        nonlocal inside, most
        mine = connect()
        for _ in range(20):
            begin(mine)
            inside += 1
            most = max(most, inside)
            with mine.cursor() as cursor:
                cursor.execute("insert into t values (1)")
            inside -= 1
            end(mine)
        mine.close()

    threads = [threading.Thread(target=write) for _ in range(6)]
    for each in threads:
        each.start()
    for each in threads:
        each.join()
    assert most == 1
    assert count(connect()) == 120


@pytest.mark.parametrize("how", ["commit", "rollback", "close"])
def test_a_turn_is_given_back_however_it_ends(connect, how):
    one, other = connect(), connect()
    begin(one)
    if how == "close":
        one.close()
    else:
        end(one, how)
    begin(other)
    end(other)
    assert not other._has_turn


def test_who_waits_too_long_is_told_that_it_is_locked(connect, monkeypatch):
    monkeypatch.setattr(base, "_LONGEST_S", 0.05)
    one, other = connect(), connect()
    begin(one)
    with pytest.raises(OperationalError, match="locked"):
        begin(other)
    end(one)


@pytest.fixture
def full(monkeypatch):
    """The files beside the database cannot be made: the first way to open it fails as SQLite does then."""
    original = base.Sqlite.get_new_connection  # type: ignore[attr-defined]

    def opened(self, params):
        if "immutable" not in str(params["database"]):
            raise sqlite3.OperationalError("unable to open database file")
        return original(self, params)

    monkeypatch.setattr(base.Sqlite, "get_new_connection", opened)  # type: ignore[attr-defined]


def test_where_the_disk_takes_nothing_it_is_read_as_it_is(connect, full):
    reader = connect()
    assert count(reader) == 0
    with pytest.raises(OperationalError, match="readonly"), reader.cursor() as cursor:
        cursor.execute("insert into t values (1)")
    reader.close()
    assert reader._reading is None


def test_nobody_takes_a_turn_while_it_is_read_so(connect, full, monkeypatch):
    reader = connect()
    count(reader)
    monkeypatch.undo()
    wrote = threading.Event()

    def write():
        mine = connect()
        begin(mine)
        wrote.set()
        end(mine)

    writer = threading.Thread(target=write)
    writer.start()
    assert not wrote.wait(0.2)
    reader.close()
    assert wrote.wait(30)
    writer.join()


def test_a_log_that_is_not_written_into_the_database_is_not_read_over(connect, full):
    mine = connect()
    log = os.fspath(mine.settings_dict["NAME"]) + "-wal"
    with open(log, "wb") as file:
        file.write(b"what was written last")
    with pytest.raises(OperationalError):
        count(mine)


@pytest.mark.parametrize("how", ["commit", "rollback"])
def test_a_turn_is_given_back_by_who_is_given_up_at_the_door(connect, monkeypatch, how):
    writer = connect()
    begin(writer)
    assert base._in_process.locked()

    @contextmanager
    def given_up():
        raise GivenUp
        yield

    with monkeypatch.context() as at_the_door:
        at_the_door.setattr(base, "undisturbed", given_up)
        with pytest.raises(GivenUp):
            end(writer, how)
    assert not base._in_process.locked()
