"""The Logbook: the days as a ledger, corrections and their history."""

from datetime import date, timedelta
from typing import Any

from django.http import HttpRequest
from ninja import Query, Router, Schema
from pydantic import Field

from lodeline.api.present import Eyes
from lodeline.api.round_ import Entry, entry_of
from lodeline.api.who import rig_of
from lodeline.core import words
from lodeline.core.ledger import ledger
from lodeline.core.log import Day
from lodeline.core.units import shown
from lodeline.formats.document import Date
from lodeline.logbook import clock
from lodeline.logbook.services import changes, rows
from lodeline.logbook.services.derived import tracked_to
from lodeline.logbook.services.record import local_date

router = Router(tags=["logbook"])


class SumOut(Schema):
    store: str
    name: str
    used: str
    moved: str | None
    off: str | None
    end: str
    open: bool


class DayOut(Schema):
    date: str
    logged: bool
    place: str | None
    sky: str | None
    temps: str | None
    temp_min: float | None
    temp_max: float | None
    status: str | None
    crew_aboard: int | None
    note: str | None
    solar_wh: float | None
    load_wh: float | None
    water: float | None
    entries: list[Entry]
    sums: list[SumOut]
    doubts: list[str]
    changes: int


class LogOut(Schema):
    rig: str
    temp_unit: str
    water_unit: str
    days: list[DayOut]
    older: str | None


class ChangeOut(Schema):
    at: str
    by: str | None
    action: str
    kind: str
    old: dict[str, Any] | None
    new: dict[str, Any] | None


class Page(Schema):
    before: Date | None = None
    days: int = Field(14, ge=1, le=60)


@router.get("/{rig_id}/log", response=LogOut, operation_id="log")
def log(request: HttpRequest, rig_id: str, page: Query[Page]) -> LogOut:
    """A page of the ledger, newest day first."""
    rig = rig_of(request, rig_id)
    now = clock.now()
    last = min(page.before - timedelta(days=1), local_date(rig, now)) if page.before else local_date(rig, now)
    first = last - timedelta(days=page.days - 1)
    core, tracked = tracked_to(rig, last, now)
    eyes = Eyes(core)
    sums = ledger(tracked, eyes.zone)
    logged = {day.date: day for day in rows.core_log(rig, since=first, until=last).days}
    doubts: dict[date, list[str]] = {}
    for each in tracked.values():
        for doubt in each.doubts:
            on = doubt.at.astimezone(eyes.zone).date()
            doubts.setdefault(on, []).append(words.doubt_sentence(each.store, doubt, eyes.system, eyes.zone))
    counts = _change_counts(rig, first, last)
    days = []
    for back in range(page.days):
        on = last - timedelta(days=back)
        if on in logged or sums.get(on):
            days.append(_day(on, logged.get(on), sums.get(on, []), doubts.get(on, []), counts.get(on, 0), eyes))
    older = rows.core_log_exists_before(rig, first)
    return LogOut(
        rig=core.name, temp_unit=shown("degC", eyes.system).unit, water_unit=shown("L", eyes.system).unit, days=days,
        older=first.isoformat() if older else None,
    )  # fmt: skip


def _change_counts(rig: Any, first: date, last: date) -> dict[date, int]:
    return changes.counts(rig, first, last)


def _day(on: date, day: Day | None, sums: list[Any], doubts: list[str], n_changes: int, eyes: Eyes) -> DayOut:
    temp, litre = shown("degC", eyes.system), shown("L", eyes.system)
    day_facts = day or Day(on)
    low, high = day_facts.temp_min_c, day_facts.temp_max_c
    temps = f"{temp.to_shown(low):.0f} to {temp.text(high)}" if low is not None and high is not None else None
    return DayOut(
        date=on.isoformat(), logged=day is not None, place=day_facts.place.name if day_facts.place else None,
        sky=day_facts.sky, temps=temps, temp_min=round(temp.to_shown(low), 1) if low is not None else None,
        temp_max=round(temp.to_shown(high), 1) if high is not None else None, status=day_facts.status,
        crew_aboard=day_facts.crew_aboard, note=day_facts.note or None, solar_wh=day_facts.solar_wh,
        load_wh=day_facts.load_wh,
        water=round(litre.to_shown(day_facts.water_l), 1) if day_facts.water_l is not None else None,
        entries=[entry_of(eyes.rig, item, eyes) for item in day_facts.entries()],
        sums=[_sum(row, eyes) for row in sums],
        doubts=doubts, changes=n_changes,
    )  # fmt: skip


def _sum(row: Any, eyes: Eyes) -> SumOut:
    unit = eyes.unit(row.store)

    def signed(value: float) -> str | None:
        small = abs(unit.to_shown(value)) < 0.05
        return None if small else f"{'+' if value > 0 else '−'}{unit.text(abs(value))}"

    return SumOut(
        store=row.store.id, name=row.store.name, used=unit.text(row.used), moved=signed(row.moved), off=signed(row.off),
        end=unit.text(row.end), open=row.open,
    )  # fmt: skip


@router.get("/{rig_id}/log/{on}/history", response=list[ChangeOut], operation_id="day_history")
def day_history(request: HttpRequest, rig_id: str, on: Date) -> list[ChangeOut]:
    """What was changed about a date: who, when, what stood before."""
    rig = rig_of(request, rig_id)
    eyes = Eyes(rows.core_rig(rig))
    return [
        ChangeOut(
            at=eyes.local(row.at), by=row.by.username if row.by else None, action=row.action, kind=row.kind,
            old=row.old, new=row.new,
        )
        for row in changes.history(rig, on)
    ]  # fmt: skip
