"""A van in the frost, shared by tests of heat: diesel that heats, gas that cooks, a bank that turns the fan."""

from dataclasses import replace
from datetime import timedelta
from functools import cache
from typing import Any

from lodeline.core.catalogue import APPLIANCE_KINDS, Chemistry, DayStatus, GaugeKind, SkyWord
from lodeline.core.conditions import Conditions
from lodeline.core.figures import Heat
from lodeline.core.forecast.known import Known
from lodeline.core.forecast.paths import Ahead
from lodeline.core.fuel.nights import HeatAhead, holds
from lodeline.core.levers.nights import drawn_colder
from lodeline.core.log import Day, Event, Log, OutlookDay, Place
from lodeline.core.rig import Appliance, Crew, Gauge, Load, Rig, Spare
from lodeline.core.tracking.track import track
from lodeline.core.warmth import HeatGear
from tests.builders import FUEL, GAS, START, a_reading, a_rig, a_source, a_store, at

HERE = Place("Upper meadow", 47.3, 11.2)
BANK = a_store(
    "battery",
    200.0,
    "house",
    name="House bank",
    chemistry=Chemistry.LFP,
    nominal_v=12.8,
    kept_warm=True,
    limit=0.2,
    gauge=Gauge(GaugeKind.SHUNT),
)
DIESEL = replace(FUEL, pick_up=0.2, drives=True)
BOTTLE = replace(GAS, capacity=11.0, tare_kg=12.4)
SPARE = Spare(id="second", name="Second bottle", store="gas", holds=11.0, tare_kg=12.0)
CAN = Spare(id="can", name="Diesel can", store="diesel", holds=20.0)
DAYS = 21
NOW = at(DAYS, 20)


def burner(kind: str, store: str, id: str = "", **more: Any) -> Appliance:
    return Appliance(id or kind, (id or kind).capitalize(), APPLIANCE_KINDS[kind], store, **more)


HEATER = burner("heater", "diesel", kw=2.5, lowest_kw=0.9, watts=25.0)
COOKER = burner("cooker", "gas")
OVEN = burner("oven", "gas")
LIGHTS = Load("lights", "Lights", 20.0, 5.0)
GEAR = HeatGear(living_m=4.2)


def a_winter_rig(**changes: Any) -> Rig:
    said: dict[str, Any] = {
        "timezone": "Europe/Vienna",
        "crew": Crew(2),
        "loads": (LIGHTS,),
        "appliances": (HEATER, COOKER, OVEN),
        "heat": GEAR,
        "spares": (SPARE, CAN),
        "sources": (a_source("alternator", 25.0), a_source("shore", 20.0)),
    }
    return a_rig(BANK, DIESEL, BOTTLE, **(said | changes))


def a_day(mean_c: float = -4.0, **more: Any) -> Conditions:
    said: dict[str, Any] = {"place": HERE, "sky": SkyWord.OVERCAST, "min_c": mean_c - 4, "people": 2.0}
    return Conditions(date=START, mean_c=mean_c, **(said | more))


def frozen(l_per_degree_day: float = 0.15, days: int = DAYS, bank: float = 0.6, diesel: float = 30.0) -> Log:
    """Days of hard frost that end with so much diesel and so full a bank; what heating burns goes by the cold."""
    logged = []
    burnt = [l_per_degree_day * (18 - mean_of(n)) for n in range(days + 1)]
    left = diesel + sum(burnt)
    gas = 5.5 + 0.2 * days
    for number in range(days + 1):
        left, gas = left - burnt[number], gas - 0.2
        readings = [
            a_reading(number, round(left / DIESEL.capacity, 3), "fraction", "diesel"),
            a_reading(number, round(12.4 + gas, 2), "gross", "gas"),
        ]
        if number >= days - 2:
            share = bank + 0.1 * (days - number)
            readings.append(a_reading(number, round(min(1.0, share), 2), "fraction", "house"))
        logged.append(
            Day(
                date=START + timedelta(days=number),
                place=HERE,
                sky=SkyWord.OVERCAST,
                status=DayStatus.PARKED,
                temp_min_c=mean_of(number) - 4,
                temp_max_c=mean_of(number) + 4,
                crew_aboard=2,
                readings=tuple(sorted(readings, key=lambda each: each.at)),
            )
        )
    return Log(tuple(logged))


def mean_of(number: int) -> float:
    """A mean temperature that comes and goes."""
    return (-2.0, 3.0, -5.0, -1.0, 1.0, -4.0)[number % 6]


def colder_outlook(mean_c: float = -4.0, days: int = 10) -> tuple[OutlookDay, ...]:
    return tuple(
        OutlookDay(date=START + timedelta(days=DAYS + n), temp_min_c=mean_c - 4, temp_max_c=mean_c + 4)
        for n in range(1, days + 1)
    )


def known(rig: Rig | None = None, log: Log | None = None, mean_c: float = -4.0, **more: Any) -> Known:
    rig, log = rig or a_winter_rig(), log or frozen()
    return Known(rig=rig, log=log, outlook=colder_outlook(mean_c), now=NOW, tracked=track(rig, log, NOW), **more)


def days_ahead(known: Known, colder_c: float = 0.0) -> Ahead:
    """The days that heat is looked ahead for."""
    return known.ahead(int(Heat.horizon_days), int(Heat.paths), 1, colder_c)


def heat_of(known: Known, colder_c: float = 0.0) -> HeatAhead:
    """How the heat holds."""
    return holds(known.rig, drawn_colder(known, 1, colder_c))


@cache
def evening() -> Known:
    """The usual evening, followed once."""
    return known()


def with_events(log: Log, *events: Event) -> Log:
    return log.with_entries(events, a_winter_rig().zone)
