"""What is wrong with the disk or the database, told from the errors that they raise."""

import errno
import os
import sqlite3

from django.conf import settings
from django.db import DatabaseError

from lodeline.text.answers import StorageFault

# What SQLite says, in the order in which it is looked for.
_SAID = (
    ("is full", StorageFault.FULL),
    ("readonly", StorageFault.READ_ONLY),
    ("locked", StorageFault.BUSY),
    ("malformed", StorageFault.DAMAGED),
    ("not a database", StorageFault.DAMAGED),
    ("no such table", StorageFault.DAMAGED),
    ("i/o error", StorageFault.UNREADABLE),
    ("unable to open", StorageFault.UNREADABLE),
)
_ERRNO = {
    errno.ENOSPC: StorageFault.FULL,
    errno.EDQUOT: StorageFault.FULL,
    errno.EROFS: StorageFault.READ_ONLY,
    errno.EACCES: StorageFault.READ_ONLY,
    errno.EPERM: StorageFault.READ_ONLY,
    errno.EIO: StorageFault.UNREADABLE,
}


# With less room than this SQLite cannot open its log beside the database. [bytes]
_LEAST_ROOM = 128 * 1024


def fault_of(error: BaseException) -> StorageFault | None:
    """The fault behind an error, None where it is something else."""
    fault = _said_of(error)
    # on a full disk the database is opened to read alone
    is_full = fault in (StorageFault.READ_ONLY, StorageFault.UNREADABLE) and _has_no_room()
    return StorageFault.FULL if is_full else fault


def _has_no_room() -> bool:
    try:
        disk = os.statvfs(settings.LODELINE_DATA)
    except OSError:
        return False
    return not disk.f_flag & os.ST_RDONLY and disk.f_bavail * disk.f_frsize < _LEAST_ROOM


def _said_of(error: BaseException) -> StorageFault | None:
    if isinstance(error, OSError):
        return _ERRNO.get(error.errno or 0)
    if isinstance(error, DatabaseError | sqlite3.Error):
        said = str(error).lower()
        return next((fault for words, fault in _SAID if words in said), None)
    return None
