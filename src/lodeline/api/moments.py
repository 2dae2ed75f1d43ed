"""Times over the wire: an instant with the rig's offset, and the local date and time that it is aboard."""

from datetime import datetime

from lodeline.api.out import Out
from lodeline.text.display import Display


class Moment(Out):
    """An instant, for drawing, and the date and time that the clock aboard shows then."""

    at: str
    date: str
    time: str


def aboard(local: datetime) -> str:
    """The time of day as a field takes it: ``20:15``."""
    return f"{local:%H:%M}"


def moment(at: datetime, display: Display) -> Moment:
    """An instant as it is sent."""
    local = display.local(at)
    return Moment(at=local.isoformat(), date=local.date().isoformat(), time=aboard(local))


def maybe(at: datetime | None, display: Display) -> Moment | None:
    """An instant that there may not be."""
    return None if at is None else moment(at, display)
