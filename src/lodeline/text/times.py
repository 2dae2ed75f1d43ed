"""Times, days and spans as people say them. Times given here are local."""

from datetime import UTC, date, datetime, timedelta

from lodeline.core.zone import FIVE_MINUTES_H, to_five_minutes
from lodeline.text.display import counted
from lodeline.text.habits import exact, habits

_PARTS = ((6, "before dawn"), (12, "morning"), (18, "afternoon"), (24, "evening"))
_EDGES = ((0, "midnight"), (6, "dawn"), (12, "noon"), (18, "evening"), (24, "midnight"))
_WEEK = 7
# Beyond so many days a date carries its year; from so many on a month is enough.
_YEAR_BEYOND_DAYS, _MONTHS_FROM_DAYS = 300, 60
_FINE_BELOW_DAYS = 3
_MINUTES = 60
_NOON = 12
_HALF_FROM, _DAY_FROM, _TWO_FROM, _WEEKS_FROM = 0.35, 0.75, 1.5, 17.5
_QUARTER = timedelta(minutes=15)


def date_words(on: date) -> str:
    """A date in full: ``Thursday 3 December``, with its year where it is far."""
    year = _year(on)
    return f"{on:%A}, {on:%B} {on.day}{year}" if habits().month_first else f"{on:%A} {on.day} {on:%B}{year}"


def short_date(on: date) -> str:
    """A date in short: ``Thu 3 Dec``, with its year where it is far."""
    year = _year(on)
    return f"{on:%a}, {on:%b} {on.day}{year}" if habits().month_first else f"{on:%a} {on.day} {on:%b}{year}"


def weekday(on: date) -> str:
    """``Thu``, for a strip of days."""
    return f"{on:%a}"


def _year(on: date) -> str:
    """The year of a date that the reader may take for another one: beyond ten months either way."""
    today = habits().today
    if today is None or abs((on - today).days) <= _YEAR_BEYOND_DAYS:
        return ""
    return f", {on.year}" if habits().month_first else f" {on.year}"


def far_date(on: date, today: date) -> str:
    """A date that is not known to the day: ``about 20 December``, ``March``, ``January 2028``."""
    days = (on - today).days
    if days < _MONTHS_FROM_DAYS:
        return f"about {on:%B} {on.day}" if habits().month_first else f"about {on.day} {on:%B}"
    return f"{on:%B} {on.year}" if on.year != today.year or days > _YEAR_BEYOND_DAYS else f"{on:%B}"


def day_name(on: date, today: date) -> str:
    """A day as people name it from today: today, tomorrow, Thursday, Thursday 3 December."""
    ahead = (on - today).days
    if ahead == 0:
        return "today"
    if ahead == 1:
        return "tomorrow"
    return f"{on:%A}" if 0 < ahead < _WEEK else date_words(on)


def _part(at: datetime) -> str:
    return next(words for until, words in _PARTS if at.hour < until)


def short_when(at: datetime) -> str:
    """A day and the part of it in short: ``Mon evening``."""
    return f"{at:%a} {_part(at)}"


def day_part(at: datetime, now: datetime) -> str:
    """A day and the part of it, as short as it is said: ``Monday evening``, ``this afternoon``."""
    part = _part(at)
    days = (at.date() - now.date()).days
    if days == 0:
        return f"today {part}" if part.startswith("before") else f"this {part}"
    return f"{day_name(at.date(), now.date())} {part}" if days < _WEEK else f"{date_words(at.date())}, {part}"


def between(low: datetime, high: datetime, now: datetime) -> str:
    """A range of times in words, coarse as people speak."""
    if low.date() == high.date():
        day = day_name(low.date(), now.date())
        first, second = _part(low), _part(high)
        if first == second:
            return day_part(low, now)
        start = max(edge for edge in _EDGES if edge[0] <= low.hour)[1]
        end = min(edge for edge in _EDGES if edge[0] > high.hour)[1]
        return f"{day}, some time between {start} and {end}"
    return f"between {day_part(low, now)} and {day_part(high, now)}"


def clock(at: datetime) -> str:
    """The time of day: ``20:15``, or ``8:15 pm``."""
    if habits().hours_24:
        return f"{at:%H:%M}"
    return f"{at.hour % 12 or 12}:{at:%M} {'am' if at.hour < _NOON else 'pm'}"


def about_clock(at: datetime) -> str:
    """A time of day as it is said of what is not known to the minute: to quarter hours."""
    return clock(to_quarter(at))


def to_quarter(at: datetime) -> datetime:
    """The nearest quarter hour."""
    midnight = at.replace(hour=0, minute=0, second=0, microsecond=0)
    return midnight + round((at - midnight) / _QUARTER) * _QUARTER


def hour_clock(hour: float) -> str:
    """An hour of the day on the clock: ``22:00``, or ``10:00 pm``."""
    minutes = round(hour * 60) % (24 * 60)
    return clock(datetime(2000, 1, 1, minutes // 60, minutes % 60, tzinfo=UTC))


def clock_on(at: datetime, now: datetime) -> str:
    """A time of day on a day, always named: ``16:00 today``, ``16:00 tomorrow``, ``16:00 on Thursday``."""
    day = day_name(at.date(), now.date())
    return f"{clock(at)} {day}" if (at.date() - now.date()).days in (0, 1) else f"{clock(at)} on {day}"


def days_words(days: float) -> str:
    """A span in days, as people say it."""
    if days < 1:
        return counted(max(1, round(days * 24)), "hour")
    if days < _FINE_BELOW_DAYS:
        value = exact(round(days, 1))
        return f"{value} {'day' if value == '1' else 'days'}"
    return counted(round(days), "day")


def days_span(low: float, high: float | None) -> str:
    """A range of days with one unit where both ends have the same: ``4 to 8 days``."""
    first = days_words(low)
    if high is None:
        return f"{first} or more"
    last = days_words(high)
    if first == last:
        return last
    number, _, unit = first.partition(" ")
    return f"{number} to {last}" if unit and last.endswith(unit.removesuffix("s") + "s") else f"{first} to {last}"


def roughly(days: float) -> str:
    """A span that is hardly known: ``about half a day``, ``about a day``, ``about 5 weeks``."""
    if days < _HALF_FROM:
        return "a few hours"
    if days < _DAY_FROM:
        return "about half a day"
    if days < _TWO_FROM:
        return "about a day"
    return f"about {counted(round(days), 'day') if days < _WEEKS_FROM else counted(round(days / _WEEK), 'week')}"


def hours_words(hours: float) -> str:
    """Hours and minutes, to five minutes."""
    return spell_words(max(to_five_minutes(hours), FIVE_MINUTES_H) if hours > 0 else 0.0)


def spell_words(hours: float) -> str:
    """Hours and minutes as they were logged, to the minute: ``45 min``, ``1 h 20 min``, ``2 h``."""
    whole, minutes = divmod(round(hours * _MINUTES), _MINUTES)
    parts = [f"{whole} h"] * bool(whole) + [f"{minutes} min"] * bool(minutes or not whole)
    return " ".join(parts)
