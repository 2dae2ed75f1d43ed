"""Charging other than by the sun: when it ran, at what current, and what the bank took of it."""

from collections.abc import Mapping
from dataclasses import field
from datetime import date, datetime, timedelta

from lodeline.core.catalogue import SOURCE_KINDS, source_of_event
from lodeline.core.conditions import Conditions
from lodeline.core.energy import bank
from lodeline.core.energy.banks import of_bank
from lodeline.core.log import Log
from lodeline.core.rig import Rig, Store
from lodeline.core.values import dataclass
from lodeline.core.zone import Zone

_HOUR = timedelta(hours=1)


@dataclass(frozen=True, slots=True)
class Charge:
    """One spell of charging. ``allowed``: share of it in which the cells may be charged; else it carries loads
    alone."""

    start: datetime
    end: datetime
    amps: float
    allowed: float = field(default=1.0, kw_only=True)


def charges(rig: Rig, store: Store, log: Log, days: Mapping[date, Conditions]) -> list[Charge]:
    """Every spell of charging that the log tells of, days plugged in without an event included.

    On a day too cold for the cells a spell carries the loads in the hours in which they may not be charged.
    """
    rig, spells = of_bank(rig, store), []
    for day in log.days:
        conditions = days.get(day.date)
        allowed = _allowed(store, conditions)
        for event in day.events:
            source = source_of_event(event.type)
            amps = rig.source_amps(source) if source else 0.0
            if amps > 0 and event.hours:
                spells.append(Charge(event.at, event.at + event.hours * _HOUR, amps, allowed=allowed))
        for source in SOURCE_KINDS.values():
            if conditions and conditions.hours_of(source) and (amps := rig.source_amps(source)):
                spells.append(Charge(*rig.zone.bounds(day.date), amps, allowed=allowed))
    return spells


def by_date(spells: list[Charge], zone: Zone) -> dict[date, list[Charge]]:
    """The spells that touch each local date."""
    dated: dict[date, list[Charge]] = {}
    for spell in spells:
        on, last = zone.date(spell.start), zone.date(spell.end)
        while on <= last:
            dated.setdefault(on, []).append(spell)
            on += timedelta(days=1)
    return dated


def _allowed(store: Store, day: Conditions | None) -> float:
    return float(bank.takes_charge(store, day.mean_c, day.min_c).mean()) if day else 1.0


def offered_ah(store: Store, spells: list[Charge], start: datetime, end: datetime, drawn_ah: float = 0.0) -> float:
    """What spells would bring a bank between two times if it never came near full. [Ah]

    ``drawn_ah``: what loads draw meanwhile; mains and engine carry it also while the cells are too cold to be charged.
    """
    kind, taken, whole_h = bank.cells(store), 0.0, (end - start) / _HOUR
    for spell in spells:
        hours = (min(spell.end, end) - max(spell.start, start)) / _HOUR
        if hours > 0:
            full = min(spell.amps, kind.accepts_c * store.capacity) * kind.coulombic * hours
            carried = min(drawn_ah * hours / whole_h, spell.amps * hours)
            taken += spell.allowed * full + (1 - spell.allowed) * carried
    return taken
