"""The plan as an iCalendar file (RFC 5545, by the icalendar library): stops, chores, the first line.

The same thing keeps its identifier from one fetch to the next, so that a calendar changes it and does not add another.
"""

from collections.abc import Iterable
from datetime import datetime, timedelta

from icalendar import Alarm, Calendar, Event

from lodeline.text.calendar import CalendarEntry

_PRODUCT = "-//Lodeline//Plan//EN"
_REFRESH = "PT1H"


def calendar(name: str, entries: Iterable[CalendarEntry], now: datetime, host: str = "lodeline") -> bytes:
    """A calendar of entries, times in UTC."""
    whole = Calendar()
    whole.add("prodid", _PRODUCT)
    whole.add("version", "2.0")
    whole.add("method", "PUBLISH")
    whole.add("x-wr-calname", name)
    whole["refresh-interval;value=duration"] = _REFRESH
    for each in entries:
        event = Event()
        event.add("uid", f"{each.uid}@{host}")
        event.add("dtstamp", now)
        event.add("dtstart", each.begins)
        event.add("dtend", max(each.ends, each.begins + timedelta(minutes=1)))
        event.add("summary", each.title)
        event.add("description", each.text)
        if each.place:
            event.add("location", each.place)
        if each.position is not None:
            event.add("geo", each.position)
        if each.alarm is not None:
            alarm = Alarm()
            alarm.add("action", "DISPLAY")
            alarm.add("description", each.title)
            alarm.add("trigger", -each.alarm)
            event.add_component(alarm)
        whole.add_component(event)
    body: bytes = whole.to_ical()
    return body
