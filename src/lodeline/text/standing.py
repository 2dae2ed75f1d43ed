"""When a store meets its line, in words: every view that names a store's time takes it from here."""

from collections.abc import Callable
from datetime import datetime
from typing import assert_never

from lodeline.core.forecast.forecast import Forecast, Meets, StoreForecast
from lodeline.core.rig import Store
from lodeline.text.display import Display, counted
from lodeline.text.names import be, named
from lodeline.text.times import between, day_part, days_words, short_date, short_when


def middle(lane: StoreForecast, ahead: Forecast, display: Display) -> str | None:
    """By when it is met as likely as not: ``Monday evening``, or ``now``; None where not within the horizon."""
    if lane.is_past_line:
        return "now"
    at = ahead.when(lane.p50_days)
    return None if at is None else day_part(display.local(at), display.local(ahead.at))


def lasts(lane: StoreForecast, ahead: Forecast) -> str:
    """How long until then: ``about 2.4 days``."""
    match lane.meets:
        case Meets.PAST:
            return "no time: it is at its line"
        case Meets.AHEAD:
            return f"about {days_words(lane.p50_days or 0.0)}"
        case Meets.UNKNOWN | Meets.PERHAPS | Meets.HOLDS | Meets.FAR:
            return f"over {counted(ahead.horizon_days, 'day')}"
        case _:
            assert_never(lane.meets)


def counted_after(ahead: Forecast, wanted: Callable[[Store], bool] = lambda store: True) -> str | None:
    """That days are counted from when what is past its line is served; None where nothing ``wanted`` is."""
    due = [store for store in ahead.due if wanted(store)]
    return f"Counted from when {named(due)} {be(due)} served." if due else None


def line_met(lane: StoreForecast, ahead: Forecast, display: Display) -> str:
    """When its line is met, as a range in words."""
    now, days = display.local(ahead.at), counted(ahead.horizon_days, "day")
    low, high = ahead.when(lane.p10_days), ahead.when(lane.p90_days)
    match lane.meets:
        case Meets.UNKNOWN:
            return "Not known yet: take a reading."
        case Meets.PAST:
            return "Past its line now."
        case Meets.HOLDS:
            return f"Holds: the sun brings more than is used. Not at its line within {days}."
        case Meets.FAR:
            return f"Not at its line within {days} (9 in 10)."
        case Meets.AHEAD | Meets.PERHAPS:
            begins = display.local(low if low is not None else ahead.at)
            if high is None:
                return f"At its line from {day_part(begins, now)} on, or not within {days}."
            return f"At its line {between(begins, display.local(high), now)}."
        case _:
            assert_never(lane.meets)


def left(lane: StoreForecast, ahead: Forecast, display: Display, lost_since: datetime | None = None) -> str:
    """The same in two words: ``Mon evening``."""
    if lane.meets is Meets.UNKNOWN:
        return ""
    if lost_since is not None:
        return f"not known since {short_date(display.local(lost_since).date())}"
    if lane.meets is Meets.PAST:
        return "at its line now"
    at = ahead.when(lane.p50_days)
    return short_when(display.local(at)) if at is not None else f"over {counted(ahead.horizon_days, 'day')}"
