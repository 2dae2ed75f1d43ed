"""The Logbook: the days as a ledger, corrections and their history."""

from datetime import date, timedelta
from itertools import accumulate

from django.http import HttpRequest
from ninja import Query, Router, Schema
from pydantic import Field

from lodeline.api.entries import EntryOut, day_entries
from lodeline.api.moments import Moment, moment
from lodeline.api.out import Out
from lodeline.api.round import DayFactsOut, day_facts
from lodeline.api.who import display_of, rig_of
from lodeline.core.ledger import LedgerRow, ledger
from lodeline.core.log import Day
from lodeline.formats.document import Date
from lodeline.logbook import clock
from lodeline.logbook.services import changes, rows
from lodeline.logbook.services.derived import Levels, levels_to
from lodeline.text import logbook as text
from lodeline.text.display import Display
from lodeline.text.doubts import doubt as doubt_words

router = Router(tags=["logbook"])
# What an answer holds: entries, and of a day what does not add up.
_MOST_ENTRIES, _MOST_DOUBTS = 2000, 10


class SumOut(Out):
    """One store's day. ``note``: that it doesn't add up, where it does not."""

    store: str
    name: str
    used: str
    moved: str | None
    corrected: str | None
    end: str
    note: str | None


class DayOut(Out):
    """A day of the ledger. ``line``: what it says of itself when closed; ``note``: that it doesn't add up; ``earlier``:
    how many entries of it are not among these."""

    date: str
    logged: bool
    line: str
    note: str | None
    place: str | None
    facts: DayFactsOut
    entries: list[EntryOut]
    earlier: int
    sums: list[SumOut]
    doubts: list[str]


class LogOut(Out):
    rig: str
    revision: int
    temp_unit: str
    water_unit: str
    crew: int
    today: str
    days: list[DayOut]
    older: str | None


class ChangeOut(Out):
    at: Moment
    words: str


class Page(Schema):
    """``all``: days too on which nothing was logged; ``entries``: at most so many of each day, the latest."""

    before: Date | None = None
    days: int = Field(14, ge=1, le=60)
    all: bool = False
    entries: int = Field(100, ge=1, le=_MOST_ENTRIES)


@router.get("/{rig_id}/log", response=LogOut, operation_id="log")
def log(request: HttpRequest, rig_id: str, page: Query[Page]) -> LogOut:
    """A page of the ledger, newest day first."""
    rig, display = rig_of(request, rig_id), display_of(request)
    today = display.zone.date(clock.now())
    last = min(page.before - timedelta(days=1), today) if page.before else today
    first = last - timedelta(days=page.days - 1)
    known = levels_to(rig, first, last)
    sums = ledger(known.tracked, known.rig.zone)
    logged = {day.date: day for day in rows.core_log(rig, since=first, until=last).days}
    doubts = _doubts(known, display)
    corrected, notes = changes.counts(rig, first, last), rows.entry_notes(rig, first, last)
    dates = [
        on
        for on in (last - timedelta(days=back) for back in range(page.days))
        if on in logged or sums.get(on) or page.all
    ]
    shown = _bounded(dates, logged, page.entries)
    days = [
        _day(
            on,
            logged.get(on),
            sums.get(on, []),
            doubts.get(on, []),
            text.line(logged[on], corrected.get(on, 0), display) if on in logged else text.NOT_LOGGED,
            day_entries(known.rig, logged[on].entries() if on in logged else [], notes, display, page.entries),
            display,
        )
        for on in shown
    ]
    if shown != dates:
        first = shown[-1]
    return LogOut(
        rig=known.rig.name,
        revision=rig.revision,
        temp_unit=display.unit("degC").unit,
        water_unit=display.unit("L").unit,
        crew=known.rig.crew.people,
        today=today.isoformat(),
        days=days,
        older=first.isoformat() if rows.is_logged_before(rig, first) else None,
    )


def _bounded(dates: list[date], logged: dict[date, Day], most: int) -> list[date]:
    """As many days as an answer holds; one at least. The next page goes on from there."""
    lines = accumulate(min(most, logged[on].count if on in logged else 0) for on in dates)
    return [on for n, (on, so_far) in enumerate(zip(dates, lines, strict=True)) if n == 0 or so_far <= _MOST_ENTRIES]


def _doubts(known: Levels, display: Display) -> dict[date, list[str]]:
    by_date: dict[date, list[str]] = {}
    for each in known.tracked.values():
        for doubt in each.doubts:
            of_day = by_date.setdefault(known.rig.zone.date(doubt.at), [])
            if len(of_day) < _MOST_DOUBTS:
                of_day.append(doubt_words(each.store, doubt, display))
    return by_date


def _day(
    on: date,
    logged: Day | None,
    sums: list[LedgerRow],
    doubts: list[str],
    line: str,
    entries: list[EntryOut],
    display: Display,
) -> DayOut:
    day = logged or Day(date=on)
    is_open = bool(doubts) or any(row.open for row in sums)
    return DayOut(
        date=on.isoformat(),
        logged=logged is not None,
        line=line,
        note=text.NOT_ADDING_UP if is_open else None,
        place=day.place.name if day.place else None,
        facts=day_facts(day, display),
        entries=entries,
        earlier=day.count - len(entries),
        sums=[_sum(row, display) for row in sums],
        doubts=doubts,
    )


def _sum(row: LedgerRow, display: Display) -> SumOut:
    words = text.sums(row, display)
    return SumOut(
        store=row.store.id,
        name=row.store.name,
        used=words.used,
        moved=words.moved,
        corrected=words.corrected,
        end=words.end,
        note=text.NOT_ADDING_UP if row.open else None,
    )


@router.get("/{rig_id}/log/{on}/history", response=list[ChangeOut], operation_id="day_history")
def day_history(request: HttpRequest, rig_id: str, on: Date) -> list[ChangeOut]:
    """What was changed about a date: who, when, what stood before."""
    rig, display = rig_of(request, rig_id), display_of(request)
    core = rows.rig_rows(rig).core
    return [
        ChangeOut(
            at=moment(each.at, display), words=text.change(core, each.by, each.action, each.old, each.new, display)
        )
        for each in changes.history(rig, on)
    ]
