"""Times over the wire: an instant with the rig's offset, and the local date and time that it is aboard."""

from datetime import datetime

from ninja import Schema

from lodeline.text.display import Display
from lodeline.text.times import clock


class Moment(Schema):
    """An instant, for drawing, and the date and time that the clock aboard shows then."""

    at: str
    date: str
    time: str


def moment(at: datetime, display: Display) -> Moment:
    """An instant as it is sent."""
    local = display.local(at)
    return Moment(at=local.isoformat(), date=local.date().isoformat(), time=clock(local))


def maybe(at: datetime | None, display: Display) -> Moment | None:
    """An instant that there may not be."""
    return None if at is None else moment(at, display)
