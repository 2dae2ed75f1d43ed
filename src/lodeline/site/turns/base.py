"""Django's SQLite, where who wants to write waits in line, and who reads may do so though the disk takes nothing.

SQLite itself has whoever finds the database locked try again after ever longer pauses: with many writers some wait for
seconds while others pass. A lock of this process and a file's lock between processes are handed on in order.

Its write-ahead log needs two files beside the database, also to read. Where they cannot be made, on a disk that is full
or read-only, the database is read as it is; while somebody does, nobody takes a turn to write.
"""

import fcntl
import os
import sqlite3
from contextlib import suppress
from pathlib import Path
from threading import Lock
from typing import Any

from django.db.backends.sqlite3.base import DatabaseWrapper as Sqlite
from django.db.utils import OperationalError

from lodeline.site.turns.file import taken, turn_file
from lodeline.site.undisturbed import undisturbed

_LONGEST_S = 8
# As long as SQLite itself lets its log become. [bytes]
_LONG_LOG = 4 * 1024 * 1024
_in_process = Lock()


def _file_of(path: str | Path) -> tuple[int, int] | None:
    """Which file has a name now."""
    try:
        found = os.stat(path)
    except OSError:
        return None
    return found.st_dev, found.st_ino


class DatabaseWrapper(Sqlite):
    """A connection that takes its turn before a transaction and gives it back after."""

    _turn: int | None = None
    _has_turn = False
    _reading: int | None = None
    _opened: tuple[int, int] | None = None

    def get_new_connection(self, conn_params: dict[str, Any]) -> Any:
        """Open the database, to read alone where nothing else can be done."""
        try:
            opened = super().get_new_connection(conn_params)
            self._opened = _file_of(self.settings_dict["NAME"])
            return opened
        except sqlite3.OperationalError:
            path = Path(self.settings_dict["NAME"])
            log = path.with_name(f"{path.name}-wal")
            turn = turn_file(path)
            somebody_may_write = os.access(path.parent, os.W_OK)
            if not path.is_file() or (log.exists() and log.stat().st_size > 0):
                raise
            if somebody_may_write and not turn.is_file():
                raise
            self._reading = self._shared_turn(turn if turn.is_file() else path)
            self.init_commands: list[str] = []
            return super().get_new_connection(
                conn_params | {"database": f"{path.absolute().as_uri()}?mode=ro&immutable=1"}
            )

    @staticmethod
    def _shared_turn(path: Path) -> int:
        handle = os.open(path, os.O_RDONLY)
        fcntl.flock(handle, fcntl.LOCK_SH)
        return handle

    def close_if_unusable_or_obsolete(self) -> None:
        """Between requests: also where another file was put in its place, or it was opened to read alone."""
        opened = self.connection is not None and not self.in_atomic_block
        if opened and (self._reading is not None or self._opened != _file_of(self.settings_dict["NAME"])):
            self.close()
        super().close_if_unusable_or_obsolete()

    def _start_transaction_under_autocommit(self) -> None:
        self._take_turn()
        try:
            super()._start_transaction_under_autocommit()  # type: ignore[misc]
        except BaseException:
            self._give_turn()
            raise

    def _commit(self) -> Any:
        try:
            done = super()._commit()  # type: ignore[misc]
        finally:
            self._give_turn()
        self._shorten_log()
        return done

    def _shorten_log(self) -> None:
        """Bring a long log into the database: after the turn, since it takes long and stops nobody."""
        if self.connection is None or self.is_in_memory_db():
            return
        log = Path(f"{self.settings_dict['NAME']}-wal")
        with suppress(OSError, sqlite3.OperationalError):
            if log.stat().st_size > _LONG_LOG:
                self.connection.execute("PRAGMA wal_checkpoint(PASSIVE)")

    def _rollback(self) -> Any:
        try:
            return super()._rollback()  # type: ignore[misc]
        finally:
            self._give_turn()

    def _close(self) -> Any:
        try:
            return super()._close()  # type: ignore[misc]
        finally:
            self._give_turn()
            if self._reading is not None:
                os.close(self._reading)
                self._reading = None

    def _take_turn(self) -> None:
        with undisturbed():
            self._take()

    def _take(self) -> None:
        if self._has_turn or self._reading is not None or self.is_in_memory_db():
            return
        if not _in_process.acquire(timeout=_LONGEST_S):
            raise OperationalError("database is locked") from sqlite3.OperationalError("database is locked")
        self._has_turn = True
        try:
            self._turn = taken(Path(self.settings_dict["NAME"]))
        except OSError:
            return  # a disk that takes no file: SQLite's own lock is enough
        if self._opened != _file_of(self.settings_dict["NAME"]):
            # another file was put in its place meanwhile: what is written to this one, nobody would find again
            self._give()
            raise OperationalError("database is locked") from sqlite3.OperationalError("database is locked")

    def _give_turn(self) -> None:
        try:
            with undisturbed():
                self._give()
        finally:
            self._give()  # also where this is given up at the door

    def _give(self) -> None:
        if not self._has_turn:
            return
        self._has_turn = False
        turn, self._turn = self._turn, None
        if turn is not None:
            os.close(turn)
        _in_process.release()
