"""What the API answers where a request is not about a field: nobody signed in, nothing there, a defect."""

from enum import StrEnum
from typing import assert_never

from lodeline.text.display import counted


class StorageFault(StrEnum):
    """What can be wrong with the disk or the database."""

    FULL = "full"
    READ_ONLY = "read-only"
    BUSY = "busy"
    DAMAGED = "damaged"
    UNREADABLE = "unreadable"


class Work(StrEnum):
    """What is worked out while somebody waits."""

    LEVELS = "levels"
    PLAN = "plan"


_CAUSES = {
    StorageFault.FULL: "The server's disk is full.",
    StorageFault.READ_ONLY: "The server may not write to its data folder.",
    StorageFault.BUSY: "The server is busy with a long write.",
    StorageFault.DAMAGED: "The server's database is damaged.",
    StorageFault.UNREADABLE: "The server cannot read its data.",
}
_REMEDIES = {
    StorageFault.FULL: "Free some space on it.",
    StorageFault.READ_ONLY: "Make the folder and its disk writable.",
    StorageFault.BUSY: "Try again in a moment.",
    StorageFault.DAMAGED: "Put a back-up in its place with the command lodeline restore.",
    StorageFault.UNREADABLE: "Look at its disk, its data folder and their permissions.",
}


def storage(fault: StorageFault) -> str:
    """What is wrong with the server's disk or database and what to do, for a person far from it."""
    return f"{_CAUSES[fault]} Nothing was changed; what was typed stays on its device. {_REMEDIES[fault]}"


def storage_line(fault: StorageFault) -> str:
    """The same on the server's own command line."""
    return f"{_CAUSES[fault]} {_REMEDIES[fault]}"


def still_working(progress: float, what: Work = Work.LEVELS) -> str:
    """That what is asked for is being worked out, and how far it is."""
    done = f"{round(progress * 100)} % done."
    match what:
        case Work.LEVELS:
            return f"The levels are being worked out: {done}"
        case Work.PLAN:
            return f"The plan is being worked out: {done}"
        case _:
            assert_never(what)


def wait(wait_s: int) -> str:
    """That passwords were guessed at, and how long to wait."""
    return f"Too many wrong passwords. Wait {counted(max(1, round(wait_s / 60)), 'minute')}, then try again."


NOT_THERE = "There is no such thing here."
NOT_SIGNED_IN = "Sign in first."
NOT_YOURS = "Only the rig's owner can do this."
ONLY_READS = "You can see this rig, but not change it; ask its owner."
NOT_A_REQUEST = "This is not a request that can be read."
BUSY_READING = "The server reads or writes another whole log. Try again in a moment."
MANY_SIGN_IN = "Many sign in just now. Try again in a moment."
TOOK_TOO_LONG = "This took too long, and was given up. What was typed stays on its device. Try again in a moment."
NOT_JSON = "Only JSON can be sent here, as application/json."
NOT_THIS_WAY = "This address cannot be used in this way."
STALE_PAGE = "This page is out of date. Load it again."


def too_large(most_bytes: int) -> str:
    """A body over the limit of its address."""
    kib = most_bytes // 1024
    most = f"{kib} kB" if kib < 1024 else f"{kib // 1024} MB"
    return f"This is too large: at most {most} can be sent here. Nothing was kept."


def defect(request_number: str) -> str:
    """A defect, with the number under which the server's log has it."""
    where = f"In the server's log: request {request_number}."
    return f"Lodeline failed here. Load the page again to see what was saved. {where}"
