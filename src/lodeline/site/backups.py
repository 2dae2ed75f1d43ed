"""Copies of the database: made while it is in use, checked by opening them, and put back also where it is damaged."""

import contextlib
import os
import sqlite3
from collections.abc import Iterator
from datetime import datetime
from pathlib import Path

_ASIDE = ("", "-wal", "-shm")
_ROWS = "select count(*) from logbook_rig"
_TABLE = "select name from django_migrations limit 1"


class NoCopy(Exception):
    """A copy that cannot be made or read; the message is one line."""


def opened(path: Path) -> sqlite3.Connection:
    """A database that is only read, whatever characters its path has. A copy that nobody writes needs no lock."""
    alone = "" if Path(f"{path}-wal").exists() else "&immutable=1"
    return sqlite3.connect(f"{path.absolute().as_uri()}?mode=ro{alone}", uri=True)


def check(path: Path) -> None:
    """Open a copy, look through it, and read what it holds.

    Raises
    ------
    NoCopy
        It is not a sound database of Lodeline.
    """
    try:
        if not path.is_file():
            raise NoCopy(f"{path} is not there.")
        with contextlib.closing(opened(path)) as copy:
            copy.execute(_ROWS).fetchone()
            copy.execute(_TABLE).fetchone()
            if copy.execute("pragma quick_check(1)").fetchone()[0] != "ok":
                raise NoCopy(f"{path} is damaged.")
    except (sqlite3.Error, OSError) as error:
        raise NoCopy(f"{path} is not a Lodeline back-up: {error}.") from None


@contextlib.contextmanager
def _part(target: Path) -> Iterator[Path]:
    """A file beside the target, for its owner only, that is gone where what is written to it fails."""
    part = target.with_name(f".{target.name}.part")
    try:
        os.close(os.open(part, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600))
        yield part
    except (sqlite3.Error, OSError) as error:
        reason = error.strerror if isinstance(error, OSError) and error.strerror else str(error)
        raise NoCopy(f"{target} cannot be written: {reason}.") from None
    finally:
        with contextlib.suppress(OSError):
            for ending in (*_ASIDE, "-journal"):
                Path(f"{part}{ending}").unlink(missing_ok=True)


def _in_use(source: Path) -> sqlite3.Connection:
    """A database that may be in use; on a disk that takes nothing more it is read as it is."""
    here = sqlite3.connect(source)
    try:
        here.execute("select 1 from sqlite_master").fetchone()
    except sqlite3.OperationalError:
        here.close()
        log = Path(f"{source}-wal")
        if log.exists() and log.stat().st_size > 0:
            raise
        return opened(source)
    return here


def _copied(here: sqlite3.Connection, part: Path) -> None:
    with contextlib.closing(here), contextlib.closing(sqlite3.connect(part)) as there:
        here.backup(there)
    with part.open("rb") as file:
        os.fsync(file.fileno())


def backup(source: Path, target: Path) -> None:
    """Copy a database, also while it is in use, and check the copy; nothing is left where it fails.

    Raises
    ------
    NoCopy
        There is nothing to copy, the target is there already, or it cannot be written.
    """
    if not source.exists():
        raise NoCopy(f"There is nothing to keep yet: {source} does not exist.")
    if target.exists():
        raise NoCopy(f"{target} exists already; choose another name.")
    with _part(target) as part:
        _copied(_in_use(source), part)
        check(part)
        _named(part, target)


def _named(part: Path, target: Path) -> None:
    """Give a copy its name, and never that of another file."""
    try:
        os.link(part, target)
    except FileExistsError:
        raise
    except OSError:  # a disk whose files have one name each, as many sticks
        if target.exists():
            raise
        os.rename(part, target)


def _aside(target: Path) -> Path:
    """A name beside the database that nothing has."""
    stem, n = f"before-restore-{datetime.now():%Y%m%dT%H%M%S}", 0  # noqa: DTZ005
    while (kept := target.with_name(f"{stem}{f'-{n}' if n else ''}.sqlite3")).exists():
        n += 1
    return kept


def restore(source: Path, target: Path) -> Path | None:
    """Put a copy in the place of the database. Returns where what stood there is kept, if anything did.

    A database that can be read is replaced in one transaction, also while it is served; one that cannot is moved aside
    as it is, with what belongs to it.

    Raises
    ------
    NoCopy
        The copy is not sound, or cannot be written; what stood before stands.
    """
    check(source)
    kept = _aside(target) if target.exists() else None
    with _part(target) as part:
        _copied(opened(source), part)
        if kept is not None and _is_sound(target):
            backup(target, kept)
            _copied(sqlite3.connect(part), target)
            return kept
        for ending in _ASIDE:
            if kept is not None and Path(f"{target}{ending}").exists():
                os.replace(f"{target}{ending}", f"{kept}{ending}")
        os.replace(part, target)
    return kept


def _is_sound(path: Path) -> bool:
    """Whether a database that may be in use can be read as it should."""
    try:
        with contextlib.closing(sqlite3.connect(path)) as base:
            base.execute(_ROWS).fetchone()
            return bool(base.execute("pragma quick_check(1)").fetchone()[0] == "ok")
    except sqlite3.Error:
        return False
