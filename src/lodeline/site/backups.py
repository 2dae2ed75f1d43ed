"""Copies of the database: made while it is in use, checked by opening them, and put back also where it is damaged."""

import contextlib
import os
import sqlite3
from collections.abc import Callable, Iterator
from datetime import datetime
from pathlib import Path
from time import time

from lodeline.site.turns.file import nobody_writes

_ASIDE = ("", "-wal", "-shm")
_ROWS = "select count(*) from logbook_rig"
_TABLE = "select name from django_migrations limit 1"
_DAMAGED = ("SQLITE_CORRUPT", "SQLITE_NOTADB")
# A restored copy counts on from the second at which it was restored, times so many writes.
_EPOCH_BITS = 18
# Rows that were made since the copy, at most, where what stood cannot say.
_MOST_SINCE = 1_000_000


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
            for ending in (*_ASIDE, "-journal", "-turn"):
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
        There is nothing to copy, it is damaged, the target is there already, or it cannot be written.
    """
    if not source.exists():
        raise NoCopy(f"There is nothing to keep yet: {source} does not exist.")
    if target.exists():
        raise NoCopy(f"{target} exists already; choose another name.")
    with _part(target) as part:
        try:
            _copied(_in_use(source), part)
            check(part)
        except (NoCopy, sqlite3.DatabaseError) as error:
            if isinstance(error, NoCopy) or getattr(error, "sqlite_errorname", "").startswith(_DAMAGED):
                raise NoCopy(f"{source} is damaged; no copy of it was made.") from None
            raise
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


def restore(source: Path, target: Path, prepare: Callable[[Path], object] = lambda part: None) -> Path | None:
    """Put a copy in the place of the database. Returns where what stood there is kept, if anything did.

    A database that can be read is replaced in one transaction, also while it is served; one that cannot is moved aside
    as it is, with what belongs to it. Nobody writes from before it is kept until it is replaced. ``prepare``: what is
    done to the copy first.

    Raises
    ------
    NoCopy
        The copy is not sound, or cannot be written; what stood before stands.
    """
    check(source)
    with _part(target) as part:
        _copied(opened(source), part)
        prepare(part)
        with nobody_writes(target):
            return _put(part, target)


def _put(part: Path, target: Path) -> Path | None:
    kept = _aside(target) if target.exists() else None
    if kept is not None and _is_sound(target):
        backup(target, kept)
        _count_on(part, kept)
        _copied(sqlite3.connect(part), target)
    else:
        _count_on(part, None)
        for ending in _ASIDE:
            if kept is not None and Path(f"{target}{ending}").exists():
                os.replace(f"{target}{ending}", f"{kept}{ending}")
        os.replace(part, target)
    return kept


_SET_REVISION = """
    update logbook_rig set revision = :at, document_revision = :at, replaced_revision = :at,
    stamp = lower(hex(randomblob(8)))
"""


def _next_revision(base: sqlite3.Connection) -> int:
    (after,) = base.execute("select coalesce(max(revision), 0) + 1 from logbook_rig").fetchone()
    return int(after)


def _count_on(part: Path, stood: Path | None) -> None:
    """Have a copy count its revisions and rows on from where nobody has seen any, so that what was seen before is known
    to be old, and no number names something else than it did. ``stood``: the database that it replaces, where it can be
    read."""
    with contextlib.closing(sqlite3.connect(part)) as copy, copy:
        at, last = max(int(time()) << _EPOCH_BITS, _next_revision(copy)), {}
        if stood is not None:
            with contextlib.closing(opened(stood)) as before:
                last = dict(before.execute("select name, seq from sqlite_sequence"))
                at = max(at, _next_revision(before))
        copy.execute(_SET_REVISION, {"at": at})
        since = 0 if stood is not None else _MOST_SINCE
        here = dict(copy.execute("select name, seq from sqlite_sequence"))
        counted = copy.execute("select name from sqlite_master where type = 'table' and sql like '%AUTOINCREMENT%'")
        rows = [(name, max(here.get(name, 0) + since, last.get(name, 0))) for (name,) in counted]
        copy.execute("delete from sqlite_sequence")
        copy.executemany("insert into sqlite_sequence (name, seq) values (?, ?)", rows)


def _is_sound(path: Path) -> bool:
    """Whether a database that may be in use can be read as it should."""
    try:
        with contextlib.closing(sqlite3.connect(path)) as base:
            base.execute(_ROWS).fetchone()
            return bool(base.execute("pragma quick_check(1)").fetchone()[0] == "ok")
    except sqlite3.Error:
        return False
