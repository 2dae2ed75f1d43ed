"""One line of the table: what was tried, what came of it, and whether that is what is wanted."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Row:
    """A test and its outcome."""

    test: str
    outcome: str
    holds: bool
