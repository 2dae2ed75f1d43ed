"""The file whose lock is the turn to write: beside the database, for all processes of this machine."""

import fcntl
import os
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path


def turn_file(database: Path) -> Path:
    """Where a database's turn is kept."""
    return database.with_name(f"{database.name}-turn")


def taken(database: Path) -> int:
    """Wait for the turn to write, and take it. Returns what is closed to give it back.

    Raises
    ------
    OSError
        The disk takes no file.
    """
    handle = os.open(turn_file(database), os.O_RDWR | os.O_CREAT, 0o600)
    fcntl.flock(handle, fcntl.LOCK_EX)
    return handle


@contextmanager
def nobody_writes(database: Path) -> Iterator[None]:
    """Hold the turn to write, where the disk lets it be held."""
    handle = None
    with suppress(OSError):
        handle = taken(database)
    try:
        yield
    finally:
        if handle is not None:
            os.close(handle)
