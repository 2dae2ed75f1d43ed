"""Charging other than by the sun: when it ran, at what current, and what the bank took of it."""

from dataclasses import dataclass
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from lodeline.core.conditions import Conditions
from lodeline.core.energy import bank
from lodeline.core.energy.charging import SOURCE_OF_EVENT, charged_ah, source_amps
from lodeline.core.energy.solar import local_midnight
from lodeline.core.log import Log
from lodeline.core.rig import Rig, Store


@dataclass(frozen=True, slots=True)
class Charge:
    """One spell of charging."""

    start: datetime
    end: datetime
    amps: float


def charges(rig: Rig, store: Store, log: Log, days: dict[date, Conditions]) -> list[Charge]:
    """Every spell of charging that the log tells of, hookup days without an event included.

    On a day too cold for the cells a spell gives only the share of hours in which they may be charged.
    """
    found = []
    for day in log.days:
        allowed = _allowed(store, days.get(day.date))
        for event in day.events:
            amps = source_amps(rig, SOURCE_OF_EVENT[event.type]) if event.type in SOURCE_OF_EVENT else 0.0
            if amps * allowed > 0 and event.hours:
                found.append(Charge(event.at, event.at + timedelta(hours=event.hours), amps * allowed))
        if day.date in days and days[day.date].shore_h and (amps := source_amps(rig, "shore")):
            start = local_midnight(day.date, rig.timezone)
            found.append(Charge(start, start + timedelta(hours=24), amps * allowed))
    return found


def by_date(spells: list[Charge], rig: Rig) -> dict[date, list[Charge]]:
    """The spells that touch each local date."""
    zone = ZoneInfo(rig.timezone)
    found: dict[date, list[Charge]] = {}
    for spell in spells:
        on, last = spell.start.astimezone(zone).date(), spell.end.astimezone(zone).date()
        while on <= last:
            found.setdefault(on, []).append(spell)
            on += timedelta(days=1)
    return found


def _allowed(store: Store, day: Conditions | None) -> float:
    return float(bank.takes_charge(store, day.mean_c, day.min_c).mean()) if day else 1.0


def accepted_ah(store: Store, level_ah: float, spells: list[Charge], start: datetime, end: datetime) -> float:
    """What the bank takes between two times: the full current, then a taper toward full. [Ah]"""
    taken = 0.0
    for spell in spells:
        hours = (min(spell.end, end) - max(spell.start, start)).total_seconds() / 3600
        if hours > 0:
            taken += charged_ah(store, level_ah + taken, spell.amps, hours)
    return taken
