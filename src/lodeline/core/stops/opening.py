"""When a place is open: OpenStreetMap's opening-hours notation by a library, closed months, and a plain form of it."""

from collections.abc import Mapping
from datetime import date, datetime, time, timedelta
from functools import lru_cache

from opening_hours import OpeningHours, ParserError  # type: ignore[attr-defined]

from lodeline.core.book import Spot
from lodeline.core.errors import Refused
from lodeline.core.problems import NotOpeningHours

_WEEK = ("Mo", "Tu", "We", "Th", "Fr", "Sa", "Su")
_KEPT = 4096  # answers of the parser
# A week without anything special, by which weekly hours are told.
_A_MONDAY = date(2024, 1, 1)
_DAYS_OF_YEAR = 366
_BY_SUN = ("sunrise", "sunset", "dawn", "dusk")
# Where the notation says no time at all.
ALWAYS = "24/7"


def check_opening(text: str, place: str) -> None:
    """Refuse what is not in the notation.

    Raises
    ------
    Refused
        With where in the text it goes wrong.
    """
    try:
        _parsed(text)
    except ParserError as error:
        raise Refused(place, NotOpeningHours(text, _column(str(error)))) from None


def _column(message: str) -> int:
    """Where the library says that it went wrong: the first line is `... --> 1:4`."""
    head = message.split("\n", 1)[0].rsplit(":", 1)
    return int(head[-1]) if head[-1].strip().isdigit() else 1


@lru_cache(maxsize=_KEPT)
def _parsed(text: str) -> OpeningHours:
    return OpeningHours(text)


def is_open(spot: Spot, begins: datetime, ends: datetime) -> bool:
    """Whether a place is open from one local time through another. Both without a zone, as the clock there shows."""
    if begins.month in spot.closed_months or ends.month in spot.closed_months:
        return False
    if not spot.opening_hours:
        return True
    hours = _parsed(spot.opening_hours)
    if not hours.is_open(begins):
        return False
    change = hours.next_change(begins)
    return change is None or change >= ends or _opens_on(hours, change, ends)


def _opens_on(hours: OpeningHours, change: datetime, ends: datetime) -> bool:
    """Whether it goes on being open past a change that is one in words only."""
    return bool(hours.is_open(change)) and (hours.next_change(change) or ends) >= ends


def opens_on(spot: Spot, on: date) -> list[tuple[datetime, datetime]]:
    """The spans in which a place is open on a local date, without a zone."""
    if on.month in spot.closed_months:
        return []
    begins = datetime.combine(on, time())
    ends = begins + timedelta(days=1)
    if not spot.opening_hours:
        return [(begins, ends)]
    hours = _parsed(spot.opening_hours)
    spans: list[tuple[datetime, datetime]] = []
    for start, end, state, _ in hours.intervals(begins, ends):
        if str(state).endswith(("OPEN", "open")):
            spans.append((start, min(end, ends) if end is not None else ends))
    return spans


def from_plain(days: Mapping[str, tuple[str, str]]) -> str:
    """The notation of a plain form: for each day of the week that it is open, from when until when."""
    if not days:
        return "off"
    if len(days) == len(_WEEK) and set(days.values()) == {("00:00", "24:00")}:
        return ALWAYS
    runs: list[tuple[int, int, tuple[str, str]]] = []
    for index, day in enumerate(_WEEK):
        if (span := days.get(day)) is None:
            continue
        if runs and runs[-1][1] == index - 1 and runs[-1][2] == span:
            runs[-1] = (runs[-1][0], index, span)
        else:
            runs.append((index, index, span))
    return "; ".join(
        f"{_WEEK[first]}{'-' + _WEEK[last] if last > first else ''} {span[0]}-{span[1]}" for first, last, span in runs
    )


def to_plain(text: str | None) -> dict[str, tuple[str, str]] | None:
    """A plain form of the notation, where it is one span a day and the same every week; None where it is not."""
    if any(word in (text or "") for word in _BY_SUN):
        return None
    form: dict[str, tuple[str, str]] = {}
    spot = _hours_of(text or ALWAYS)
    for index, day in enumerate(_WEEK):
        spans = opens_on(spot, _A_MONDAY + timedelta(days=index))
        if len(spans) > 1:
            return None
        if spans:
            begins, ends = spans[0]
            until = f"{ends:%H:%M}" if ends.date() == begins.date() else "24:00"
            form[day] = (f"{begins:%H:%M}", until)
    plain = _hours_of(from_plain(form))
    year = [_A_MONDAY + timedelta(days=n) for n in range(_DAYS_OF_YEAR)]
    return form if all(opens_on(spot, on) == opens_on(plain, on) for on in year) else None


def _hours_of(text: str) -> Spot:
    return Spot(id="it", name="it", lat=0.0, lon=0.0, opening_hours=text)
