"""The Logbook's words: the ledger's sums, a day's line, and its history as sentences."""

from datetime import date
from enum import StrEnum
from typing import assert_never

from lodeline.core.catalogue import SOURCE_KINDS
from lodeline.core.ledger import LedgerRow
from lodeline.core.log import Day, DayFacts, Event, OutlookDay, Reading
from lodeline.core.rig import Rig
from lodeline.core.values import dataclass
from lodeline.text import names
from lodeline.text.display import MINUS, Display, counted, listed
from lodeline.text.habits import exact, figure
from lodeline.text.horizon import temperatures
from lodeline.text.labels import LABELS
from lodeline.text.readings import describe
from lodeline.text.round import event
from lodeline.text.times import clock, short_date

NOT_ADDING_UP = "doesn't add up"
NOT_LOGGED = "not logged; the levels are carried on"


@dataclass(frozen=True, slots=True, kw_only=True)
class SumWords:
    """One store's day: what was used, moved, corrected from readings, and the level at its end."""

    used: str
    moved: str | None
    corrected: str | None
    end: str


def sums(row: LedgerRow, display: Display) -> SumWords:
    """A row of the ledger in words."""
    unit = row.store.unit
    return SumWords(
        used=display.amount(row.used, unit),
        moved=_signed(row.moved, unit, display),
        corrected=_signed(row.corrected, unit, display),
        end=display.amount(row.end, unit),
    )


def _signed(base: float, unit: str, display: Display) -> str | None:
    if display.number(base, unit) == "0":
        return None
    return f"{'+' if base > 0 else MINUS}{display.amount(abs(base), unit)}"


def line(day: Day, changes: int, display: Display) -> str:
    """What a closed day says of itself."""
    parts = [
        day.place.name if day.place else None,
        temperatures(day, display),
        names.STATUSES[day.status] if day.status else None,
        counted(len(day.readings), "reading"),
        counted(len(day.events), "event"),
        f"{changes} corrected" if changes else None,
    ]
    return " · ".join(part for part in parts if part)


def entry(rig: Rig, entry: Reading | Event, display: Display) -> str:
    """A reading or event as a line of the log."""
    if isinstance(entry, Event):
        return event(rig, entry, display)
    store = rig.store(entry.store)
    return f"{store.name}: {describe(store, entry, display)}" if store else entry.store


def near(rig: Rig, others: list[tuple[Reading, str | None]], more: int, display: Display) -> str:
    """That one store was read again within minutes: ``Also read within ten minutes by mira: 45 L, 45 %, 20:12.``

    ``more``: how often besides.
    """
    said = []
    for reading, by in others:
        store = rig.store(reading.store)
        words = describe(store, reading, display) if store else reading.store
        said.append(f"{f'by {by}: ' if by else ''}{words}, {clock(display.local(reading.at))}")
    often = f"{'; '.join(said)}; and {counted(more, 'more time')}" if more else listed(said)
    which = "Both count" if len(others) + more == 1 else "All of them count"
    return f"Also read within ten minutes {often}. {which}; remove one if it was a slip."


def earlier(count: int) -> str:
    """That a day has more entries than are shown: ``120 earlier entries of today are in the Logbook.``"""
    are = "is" if count == 1 else "are"
    return f"{counted(count, 'earlier entry', 'earlier entries')} of today {are} in the Logbook."


def contents(days: int, readings: int, events: int, first: date | None, last: date | None) -> str:
    """What a logbook holds: ``60 days, 301 readings, 1 event, Fri 4 Sep to Mon 2 Nov``."""
    parts = [counted(days, "day"), counted(readings, "reading"), counted(events, "event")]
    if first and last:
        parts.append(f"{short_date(first)} to {short_date(last)}")
    return ", ".join(parts)


def file_size(size_bytes: int) -> str:
    """How large a file is: ``85 kB``, ``1.4 MB``."""
    if size_bytes < _MB:
        return f"{figure(max(1.0, size_bytes / _KB))} kB"
    return f"{figure(size_bytes / _MB, 1)} MB"


def stands(rig: Rig, there: "Facts | None", display: Display) -> str:
    """What is there now, where something else was to be put."""
    if there is None:
        return "It was taken out of the log."
    if isinstance(there, Reading | Event):
        return f"{entry(rig, there, display)}, {clock(display.local(there.at))}"
    known = [f"{name[:1].lower()}{name[1:]} {value}" for name, value in _fields(there, display).items()]
    return f"{short_date(there.date)}: {listed(known) or 'nothing'}"


class Action(StrEnum):
    """What was done to the log."""

    LOGGED = "logged"
    CORRECTED = "corrected"
    REMOVED = "removed"
    MADE = "made"
    IMPORTED = "imported"
    RESTORED = "restored"


_KB, _MB = 1000, 1_000_000
_REMOVED_ACCOUNT = "an account since removed"
Facts = Reading | Event | Day | OutlookDay


def change(rig: Rig, by: str | None, action: Action, old: Facts | None, new: Facts | None, display: Display) -> str:
    """Who changed what: ``mira corrected Diesel: 64 L, 75 % to Diesel: 70 L, 82 %``."""
    return f"{by or _REMOVED_ACCOUNT} {_change(rig, action, old, new, display)}"


def _change(rig: Rig, action: Action, old: Facts | None, new: Facts | None, display: Display) -> str:
    before, after = (_facts(rig, each, display) if each is not None else None for each in (old, new))
    if isinstance(new, DayFacts) and isinstance(old, DayFacts):
        return _day_change(old, new, display)
    match action:
        case Action.LOGGED:
            return f"logged {after}"
        case Action.CORRECTED:
            return f"corrected {before} to {after}" if before != after else f"corrected the time of {after}"
        case Action.REMOVED:
            return f"removed {before}"
        case Action.MADE:
            return f"made {after}"
        case Action.IMPORTED:
            return "imported a file"
        case Action.RESTORED:
            return "put back what an import had replaced"
        case _:
            assert_never(action)


def _facts(rig: Rig, facts: Facts, display: Display) -> str:
    return entry(rig, facts, display) if isinstance(facts, Reading | Event) else "the day"


def _day_change(old: DayFacts, new: DayFacts, display: Display) -> str:
    before, after = _fields(old, display), _fields(new, display)
    what = "the plan" if isinstance(new, OutlookDay) else "the day"
    changes = [
        f"{name} to {after.get(name, 'nothing')}, was {before.get(name, 'not known')}"
        for name in dict.fromkeys([*before, *after])
        if before.get(name) != after.get(name)
    ]
    return (
        f"changed {listed([each[:1].lower() + each[1:] for each in changes])}" if changes else f"kept {what} as it was"
    )


def _fields(day: DayFacts, display: Display) -> dict[str, str]:
    """What is known of a date, by label, in words."""
    fields: dict[str, str | None] = {
        "place": day.place.name if day.place else None,
        "sky": names.SKIES[day.sky] if day.sky else None,
        "temp_min_c": display.amount(day.temp_min_c, "degC") if day.temp_min_c is not None else None,
        "temp_max_c": display.amount(day.temp_max_c, "degC") if day.temp_max_c is not None else None,
        "status": names.STATUSES[day.status] if day.status else None,
        "crew_aboard": None if day.crew_aboard is None else counted(day.crew_aboard, "person", "people"),
    }
    if isinstance(day, Day):
        fields |= {
            "note": f'"{day.note}"' if day.note else None,
            "solar_wh": None if day.solar_wh is None else display.amount(day.solar_wh, "Wh"),
            "load_wh": None if day.load_wh is None else display.amount(day.load_wh, "Wh"),
            "water_l": None if day.water_l is None else display.amount(day.water_l, "L"),
        }
    if isinstance(day, OutlookDay):
        fields |= {
            row.outlook_key: f"{exact(day.hours[row.id])} h" for row in SOURCE_KINDS.values() if row.id in day.hours
        }
    return {LABELS[key]: value for key, value in fields.items() if value is not None}
