"""What the calendar says: planned stops, chores, the day on which the first line is expected."""

from dataclasses import replace
from datetime import datetime, timedelta

from lodeline.core.forecast.forecast import Forecast
from lodeline.core.rig import Rig
from lodeline.core.stops.plan import Plan
from lodeline.core.values import dataclass
from lodeline.text import horizon
from lodeline.text.display import Display
from lodeline.text.standing import line_met
from lodeline.text.stops import act, stop_does
from lodeline.text.times import clock, day_part

_BEFORE_LEAVING, _HOUR = timedelta(hours=2), timedelta(hours=1)


@dataclass(frozen=True, slots=True, kw_only=True)
class CalendarEntry:
    """Something in the calendar. ``uid``: the same as long as it is the same thing; ``alarm``: how long before its
    begin it is announced, or not at all."""

    uid: str
    begins: datetime
    ends: datetime
    title: str
    text: str
    place: str = ""
    position: tuple[float, float] | None = None
    alarm: timedelta | None = None


def without_position(entry: CalendarEntry) -> CalendarEntry:
    """The same for whoever need not know where."""
    return replace(entry, position=None)


def entries(rig: Rig, key: int, ahead: Forecast, plan: Plan | None, display: Display) -> list[CalendarEntry]:
    """Everything that a calendar shows of a rig."""
    found = _stops(key, plan, display) if plan is not None else []
    found += _first(rig, key, ahead, display)
    now = display.local(ahead.at)
    for chore in ahead.chores:
        due, words = ahead.when(chore.p10_days), horizon.chore(chore, ahead, display)
        if due is not None and words:
            found.append(
                CalendarEntry(
                    uid=f"rig-{key}-chore-{chore.store.id}-{chore.kind}",
                    begins=due,
                    ends=due + _HOUR,
                    title=words,
                    text=f"As known {day_part(now, now)} at {clock(now)}.",
                    alarm=_HOUR,
                )
            )
    return found


def _stops(key: int, plan: Plan, display: Display) -> list[CalendarEntry]:
    found = []
    for number, stop in enumerate(plan.stops, 1):
        lines = [act(each, display) for each in stop.acts]
        if number == 1 and plan.leave_by is not None:
            by = display.local(plan.leave_by)
            lines.insert(0, f"Leave by {clock(by)} on {by:%A} at the latest.")
        found.append(
            CalendarEntry(
                uid=f"rig-{key}-stop-{stop.spot.id}-{display.local(stop.arrive):%Y%m%d}",
                begins=stop.leave,
                ends=stop.depart,
                title=f"{stop.spot.name}: {stop_does(stop)}",
                text="\n".join(lines),
                place=stop.spot.name,
                position=(stop.spot.lat, stop.spot.lon),
                alarm=_BEFORE_LEAVING,
            )
        )
    return found


def _first(rig: Rig, key: int, ahead: Forecast, display: Display) -> list[CalendarEntry]:
    store = rig.store(ahead.autonomy.store)
    each = ahead.of(store.id) if store is not None else None
    at = ahead.when(each.p50_days) if each is not None else None
    if store is None or each is None or at is None:
        return []
    text = line_met(each, ahead, display)
    return [
        CalendarEntry(
            uid=f"rig-{key}-first-line",
            begins=at,
            ends=at + _HOUR,
            title=f"{store.name} {horizon.first(store)}",
            text=text,
            alarm=timedelta(days=1),
        )
    ]
