"""Small builders with defaults, so that a test says only what it is about."""

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from typing import Any

from lodeline.core.log import Day, Event, Log, Reading
from lodeline.core.rig import Chemistry, Crew, Gauge, Kind, Load, Rig, SolarArray, Source, Store
from lodeline.core.units import System

START = date(2026, 6, 1)
PANEL = Gauge("steps", (0.0, 0.33, 0.67, 1.0))
FRESH = Store("fresh", Kind.FRESH, "Fresh water", 100.0, gauge=Gauge("sight"))
GREY = Store("grey", Kind.GREY, "Grey tank", 80.0, gauge=PANEL)
GAS = Store("gas", Kind.GAS, "Gas bottle", 9.0, fuel="propane", tare_kg=7.5, gauge=Gauge("scale"))
FUEL = Store("diesel", Kind.FUEL, "Diesel", 80.0, fuel="diesel", gauge=Gauge("sensor", (), 0.02))
BANK = Store("house", Kind.BATTERY, "House bank", 200.0, chemistry=Chemistry.LFP, nominal_v=12.8, gauge=Gauge("shunt"))


def at(day: int, hour: float = 20.0) -> datetime:
    """A time on the n-th day of the log, counted from 0, in UTC."""
    return datetime.combine(START, datetime.min.time(), UTC) + timedelta(days=day, hours=hour)


def a_rig(*stores: Store, **changes: Any) -> Rig:
    rig = Rig("Test rig", "UTC", System.METRIC, Crew(2), stores or (FRESH,))
    return replace(rig, **changes)


def a_powered_rig(watts: float = 400.0) -> Rig:
    return a_rig(
        BANK,
        solar=(SolarArray("roof", watts),),
        sources=(Source("dcdc", "alternator", 30.0), Source("post", "shore", 30.0)),
        loads=(Load("fridge", "Fridge", 45.0, 10.0), Load("lights", "Lights", 20.0, 5.0, when="night")),
    )


def a_reading(
    day: int, value: float | None, method: str = "volume", store: str = "fresh", hour: float = 20.0
) -> Reading:
    return Reading(at(day, hour), store, method, value)


def a_fill(day: int, store: str = "fresh", hour: float = 10.0, amount: float | None = None) -> Event:
    return Event(at(day, hour), "fill", store, to_full=amount is None, amount=amount)


def a_log(*entries: Reading | Event, days: int = 0, **facts: Any) -> Log:
    """A log of the entries, each on its day; ``facts`` hold on every day."""
    last = max([days, *((entry.at.date() - START).days for entry in entries)])
    found = []
    for number in range(last + 1):
        on = START + timedelta(days=number)
        mine = [entry for entry in entries if entry.at.date() == on]
        found.append(
            Day(
                on,
                readings=tuple(e for e in mine if isinstance(e, Reading)),
                events=tuple(e for e in mine if isinstance(e, Event)),
                **facts,
            )
        )
    return Log(tuple(found))
