"""What is wrong with the disk or the database, told from the errors that they raise."""

import errno
import sqlite3

from django.db import DatabaseError

from lodeline.text.answers import StorageFault

# What SQLite says, in the order in which it is looked for.
_SAID = (
    ("full", StorageFault.FULL),
    ("readonly", StorageFault.READ_ONLY),
    ("locked", StorageFault.BUSY),
    ("malformed", StorageFault.DAMAGED),
    ("not a database", StorageFault.DAMAGED),
    ("no such table", StorageFault.DAMAGED),
    ("i/o error", StorageFault.UNREADABLE),
    ("unable to open", StorageFault.UNREADABLE),
)
_ERRNO = {
    errno.ENOSPC: StorageFault.FULL, errno.EDQUOT: StorageFault.FULL, errno.EROFS: StorageFault.READ_ONLY,
    errno.EACCES: StorageFault.READ_ONLY, errno.EPERM: StorageFault.READ_ONLY, errno.EIO: StorageFault.UNREADABLE,
}  # fmt: skip


def fault_of(error: BaseException) -> StorageFault | None:
    """The fault behind an error, None where it is something else."""
    if isinstance(error, OSError):
        return _ERRNO.get(error.errno or 0)
    if isinstance(error, DatabaseError | sqlite3.Error):
        said = str(error).lower()
        return next((fault for words, fault in _SAID if words in said), None)
    return None
