"""Small builders with defaults, so that a test says only what it is about."""

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from typing import Any

from lodeline.core.catalogue import (
    LOAD_KINDS,
    SOURCE_KINDS,
    STORE_KINDS,
    Chemistry,
    GaugeKind,
    Method,
    StoreKind,
    System,
    When,
)
from lodeline.core.figures import Forecasting
from lodeline.core.forecast import forecast as core_forecast
from lodeline.core.forecast.forecast import Forecast
from lodeline.core.forecast.known import Known
from lodeline.core.forecast.paths import Ahead
from lodeline.core.log import Day, Event, Log, OutlookDay, Reading
from lodeline.core.rig import Crew, Gauge, Load, Rig, SolarArray, Source, Store
from lodeline.core.tracking.track import track
from lodeline.core.tracking.tracked import Tracked

START = date(2026, 6, 1)
PANEL = Gauge(GaugeKind.STEPS, (0.0, 0.33, 0.67, 1.0))


def a_store(kind: str | StoreKind, capacity: float, id: str = "one", **more: Any) -> Store:
    row = kind if isinstance(kind, StoreKind) else STORE_KINDS[kind]
    return Store(id, row, more.pop("name", row.name), capacity, **more)


def a_bank(chemistry: Chemistry = Chemistry.AGM, capacity_ah: float = 100.0, volts: float = 12.0) -> Store:
    return a_store("battery", capacity_ah, "b", name="B", chemistry=chemistry, nominal_v=volts)


FRESH = a_store("fresh", 100.0, "fresh", gauge=Gauge(GaugeKind.SIGHT))
GREY = a_store("grey", 80.0, "grey", gauge=PANEL)
GAS = a_store("gas", 9.0, "gas", fuel="propane", tare_kg=7.5, gauge=Gauge(GaugeKind.SCALE))
FUEL = a_store("fuel", 80.0, "diesel", name="Diesel", fuel="diesel", gauge=Gauge(GaugeKind.SENSOR, (), 0.02))
BANK = a_store("battery", 200.0, "house", chemistry=Chemistry.LFP, nominal_v=12.8, gauge=Gauge(GaugeKind.SHUNT))


def at(day: int, hour: float = 20.0) -> datetime:
    """A time on the n-th day of the log, counted from 0, in UTC."""
    return datetime.combine(START, datetime.min.time(), UTC) + timedelta(days=day, hours=hour)


def a_rig(*stores: Store, **changes: Any) -> Rig:
    rig = Rig(name="Test rig", timezone="UTC", units=System.METRIC, crew=Crew(2), stores=stores or (FRESH,))
    return replace(rig, **changes)


def a_source(kind: str, amps: float, id: str = "", **more: Any) -> Source:
    return Source(id or kind, SOURCE_KINDS[kind], amps, **more)


def known_at(rig: Rig, log: Log, now: datetime, tracked: dict[str, Tracked] | None = None, **more: Any) -> Known:
    """What a log tells of a rig at a time."""
    return Known(rig=rig, log=log, now=now, tracked=tracked if tracked is not None else track(rig, log, now), **more)


def forecast(
    rig: Rig,
    log: Log,
    outlook: tuple[OutlookDay, ...],
    now: datetime,
    seed: int = 1,
    days: int = Forecasting.horizon_days,
    tracked: dict[str, Tracked] | None = None,
    n_paths: int = Forecasting.paths,
    **more: Any,
) -> Forecast:
    """The forecast of a rig with nothing agreed."""
    known = known_at(rig, log, now, tracked, outlook=outlook, **more)
    return core_forecast.forecast(known, known.ahead(days, n_paths, seed))


def bank_ahead(
    rig: Rig, tracked: Tracked, outlook: tuple[OutlookDay, ...], now: datetime, seed: int, days: int, n_paths: int
) -> Ahead:
    """What the paths of a bank alone need."""
    known = known_at(rig, Log(), now, {tracked.store.id: tracked}, outlook=outlook)
    return known.ahead(days, n_paths, seed)


def a_powered_rig(watts: float = 400.0) -> Rig:
    return a_rig(
        BANK,
        solar=(SolarArray("roof", watts),),
        sources=(a_source("alternator", 30.0, "dcdc"), a_source("shore", 30.0, "post")),
        loads=(
            Load("fridge", "Fridge", 45.0, 10.0, kind=LOAD_KINDS["fridge"]),
            Load("lights", "Lights", 20.0, 5.0, when=When.NIGHT),
        ),
    )


def a_reading(
    day: int, value: float | None, method: str = "volume", store: str = "fresh", hour: float = 20.0
) -> Reading:
    return Reading(at(day, hour), store, Method(method), value)


def a_fill(day: int, store: str = "fresh", hour: float = 10.0, amount: float | None = None) -> Event:
    return Event(at(day, hour), "fill", store, to_full=amount is None, amount=amount)


def a_log(*entries: Reading | Event, days: int = 0, **facts: Any) -> Log:
    """A log of the entries, each on its day; ``facts`` hold on every day."""
    last = max([days, *((entry.at.date() - START).days for entry in entries)])
    logged = []
    for number in range(last + 1):
        on = START + timedelta(days=number)
        mine = [entry for entry in entries if entry.at.date() == on]
        readings = tuple(each for each in mine if isinstance(each, Reading))
        events = tuple(each for each in mine if isinstance(each, Event))
        logged.append(Day(date=on, readings=readings, events=events, **facts))
    return Log(tuple(logged))
