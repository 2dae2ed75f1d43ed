"""*Stay until*: a day that may be asked for, and what it is in days and hours from now."""

from datetime import date, timedelta

from lodeline.core import problems as p
from lodeline.core.errors import Refused
from lodeline.core.figures import Stops
from lodeline.core.forecast.paths import Ahead
from lodeline.core.zone import HOURS
from lodeline.logbook.services.derived import Derived

# One leaves in the morning, unless a time is said.
LEAVE_H = 10.0
_USUAL_DAYS = 2


def until_date(known: Derived, asked: date | None, *, soonest: int = 1) -> date:
    """The day that was asked for. ``soonest``: a stay ends tomorrow at the soonest; what is agreed on may end today.

    Raises
    ------
    Refused
        It lies before that, or further than is looked.
    """
    today = known.rig.zone.date(known.now)
    until = asked or today + timedelta(days=_USUAL_DAYS)
    if not soonest <= (until - today).days <= Stops.most_days:
        raise Refused("until", p.UntilOutOfRange(Stops.most_days))
    return until


def dates(known: Derived) -> tuple[date, date]:
    """The first and the last day that may be asked for."""
    today = known.rig.zone.date(known.now)
    return today + timedelta(days=1), today + timedelta(days=Stops.most_days)


def days_of(known: Derived, until: date) -> int:
    """The days of a stay until a day, today and that day among them."""
    return (until - known.rig.zone.date(known.now)).days + 1


def days_to(known: Derived, until: date) -> int:
    """The days ahead that are looked at for a stay until a day: never fewer than the forecast's."""
    return max(known.forecast.horizon_days, days_of(known, until))


def until_h(ahead: Ahead, until: date) -> float:
    """The hours from now until one leaves on a day."""
    return HOURS * (until - ahead.days[0].date).days + LEAVE_H - ahead.hour
