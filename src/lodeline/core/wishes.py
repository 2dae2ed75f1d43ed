"""What a crew has decided: levers that it agreed on, and stops that it planned by hand."""

from datetime import date, datetime

from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Agreed:
    """A lever that is pulled from a date through another."""

    lever: str
    since: date
    until: date


@dataclass(frozen=True, slots=True, kw_only=True)
class FixedStop:
    """A stop that is planned by hand: at a place of the book, arriving at a time; ``plug``: for a night plugged in."""

    spot: str
    arrive: datetime
    plug: bool = False
