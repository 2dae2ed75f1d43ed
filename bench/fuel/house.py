"""A rig in the cold, in another form than the core's: a building of two nodes, a thermostat with its dead band.

Air with furniture is one node, walls the other; wind drives the air that comes in; a furnace goes off and on between two
temperatures, a diesel heater runs at its low rate or its high one, a stove burns loads of wood when somebody lights it.
Steps of five minutes. All numbers are made up.
"""

from dataclasses import dataclass, field
from datetime import UTC, date, datetime, timedelta
from typing import Any

import numpy as np

STEP_H = 1 / 12
AHEAD_DAYS = 21
START = date(2025, 11, 20)
_PLACE = {"name": "Upper meadow", "lat": 47.3, "lon": 11.2}
_UA = {"good": (35, 62), "fair": (55, 95), "poor": (90, 150)}
KINDS = ("gas", "diesel", "wood")
_KWH = {"gas": 12.85, "diesel": 9.95, "wood": 4.1}
_STORE = {"gas": "gas", "diesel": "diesel", "wood": "wood"}


@dataclass
class Weather:
    """Daily means and swings, with spells; ``snap``: a cold one right after the cut."""

    mean_c: np.ndarray
    swing_c: np.ndarray
    sun_w: np.ndarray
    wind: np.ndarray

    @classmethod
    def drawn(cls, rng: np.random.Generator, days: int, cut: int, snap: bool) -> "Weather":
        """Weather of so many days."""
        base = float(rng.uniform(-3, 7))
        mean, now = np.zeros(days), float(rng.normal(0, 4))
        for index in range(days):
            now = 0.8 * now + float(rng.normal(0, 2.4))
            mean[index] = base + now
        if snap:
            length = int(rng.integers(4, 9))
            mean[cut + 1 : cut + 1 + length] -= float(rng.uniform(7, 12))
        return cls(mean, rng.uniform(2, 6, days), rng.uniform(0, 1, days), rng.gamma(2.0, 0.5, days))

    def outside_c(self, day: int, hour: float) -> float:
        """A day's wave between its neighbours."""
        return float(self.mean_c[day] + self.swing_c[day] * np.cos(2 * np.pi * (hour - 14.5) / 24))


@dataclass
class House:
    """One rig: what it truly is, what its crew says of it, and how it lives."""

    rng: np.random.Generator
    kind: str
    grade: str = ""
    level: float = 0.0
    air_c: float = 15.0
    wall_c: float = 10.0
    on: bool = False
    load_left_kwh: float = 0.0
    said: dict[str, Any] = field(default_factory=dict)

    def __post_init__(self) -> None:
        rng = self.rng
        self.grade = str(rng.choice(list(_UA)))
        self.ua = float(rng.uniform(*_UA[self.grade]))
        self.air_wh, self.wall_wh = float(rng.uniform(90, 160)), float(rng.uniform(250, 600))
        self.between = self.ua * float(rng.uniform(5, 9))
        self.efficiency = {"gas": 0.76, "diesel": 0.79, "wood": 0.6}[self.kind] * float(rng.uniform(0.9, 1.1))
        self.day_c = float(rng.choice([17, 18, 19, 20, 21]))
        self.night_c = self.day_c - float(rng.choice([0, 2, 4, 6]))
        self.people = int(rng.integers(1, 4))
        self.full_kw = max(float(rng.choice([2.0, 2.5, 3.5, 4.5, 6.0])), self.ua * 0.03 / self.efficiency)
        self.full_kw = round(self.full_kw, 1)
        self.low_kw = round(self.full_kw * 0.3, 2)
        self.capacity = {
            "gas": float(rng.choice([22.0, 33.0, 48.0])),
            "diesel": float(rng.choice([60.0, 80.0, 120.0])),
            "wood": float(rng.choice([150.0, 250.0, 350.0])),
        }[self.kind]
        self.pick_up = 0.2 if self.kind == "diesel" else 0.0
        self.cooks_kwh = float(rng.uniform(0.8, 2.5)) * self.people if self.kind == "gas" else 0.0
        self.level = self.capacity * float(rng.uniform(0.6, 1.0))

    @property
    def end(self) -> float:
        """Contents at which the heater stops."""
        return self.pick_up * self.capacity

    def wanted_c(self, hour: float) -> float:
        """What the thermostat is set to."""
        return self.night_c if hour >= 22 or hour < 7 else self.day_c

    def burner_kw(self, hour: float) -> float:
        """What the heater burns now."""
        wanted = self.wanted_c(hour)
        if self.kind == "wood":
            return self._stove_kw(hour, wanted)
        if self.air_c < wanted - 0.8:
            self.on = True
        elif self.air_c > wanted + 0.8:
            self.on = False
        if self.kind == "gas":
            return self.full_kw if self.on else 0.0
        # diesel: high until it is warm, then low, out only when it is too warm on low
        return 0.0 if not self.on else self.full_kw if self.air_c < wanted - 0.4 else self.low_kw

    def _stove_kw(self, hour: float, wanted: float) -> float:
        if self.load_left_kwh <= 0 and self.air_c < wanted - 1.0 and 6.5 <= hour <= 23.5:
            self.load_left_kwh = float(self.rng.uniform(5, 9))
        burns = self.full_kw * 0.8 if self.load_left_kwh > 0 else 0.0
        self.load_left_kwh = max(0.0, self.load_left_kwh - burns * STEP_H)
        return burns

    def live(self, weather: Weather, day: int, until_h: float = 24.0, from_h: float = 0.0) -> list[float]:
        """Live a day; the level after each step."""
        levels, home = [], float(self.rng.uniform(0.3, 0.9))
        factor = float(self.rng.lognormal(0, 0.12))
        cooking = self.cooks_kwh * float(self.rng.lognormal(0, 0.3)) / 24
        for step in range(round(from_h / STEP_H), round(until_h / STEP_H)):
            hour = step * STEP_H
            outside = weather.outside_c(day, hour)
            air_ua = self.ua * 0.35 * (0.5 + 0.5 * weather.wind[day]) * factor
            kw = self.burner_kw(hour) if self.level > self.end else 0.0
            inside = 1.0 if hour >= 22 or hour < 7 else home
            gain = (
                75 * self.people * inside
                + 60
                + 900 * weather.sun_w[day] * max(0.0, np.sin(np.pi * (hour - 8) / 8)) * (8 < hour < 16) * 0.25
            )
            heat = 1000 * kw * self.efficiency + gain + 500 * cooking
            flow = self.between * (self.wall_c - self.air_c)
            self.air_c += STEP_H * (heat + flow - air_ua * (self.air_c - outside)) / self.air_wh
            self.wall_c += STEP_H * (-flow - 0.65 * self.ua * 1.12 * (self.wall_c - outside)) / self.wall_wh
            self.level = max(0.0, self.level - STEP_H * (kw + cooking) / _KWH[self.kind])
            levels.append(self.level)
        return levels


@dataclass(frozen=True)
class Lived:
    """A rig as a file, when it is cut, its store, the level then, and the days until the heater stops."""

    document: dict[str, Any]
    now: datetime
    store: str
    level: float
    days: float
    snap: bool
    kind: str
    end: float


def lived(seed: int) -> Lived:
    """One rig, lived for some weeks, cut on an evening, and lived on with nobody filling anything."""
    rng = np.random.default_rng([seed, 4711])
    kind, snap = KINDS[seed % 3], bool(seed // 3 % 2)
    house = House(rng, kind)
    cut = int(rng.integers(10, 45))
    weather = Weather.drawn(rng, cut + AHEAD_DAYS + 2, cut, snap)
    days: list[dict[str, Any]] = []
    before = house.level
    for day in range(cut + 1):
        events: list[dict[str, Any]] = []
        on = START + timedelta(days=day)
        use = max(0.0, before - house.level) or 0.03 * house.capacity
        if house.level - house.end < 2.5 * use:
            house.level = house.capacity
            full = {"type": "swap"} if kind == "gas" else {"type": "fill", "to": "full"}
            events.append({"at": _at(on, 10), **full, "store": _STORE[kind]})
        before = house.level
        house.live(weather, day, 10.0)
        house.live(weather, day, 20.0, 10.0)
        readings = [] if rng.random() < 0.2 and day < cut else [{"at": _at(on, 20), **_read(house, rng)}]
        entry = {
            "date": on.isoformat(),
            "place": _PLACE,
            "status": "parked",
            "crew_aboard": house.people,
            "temp_min_c": round(float(weather.mean_c[day] - weather.swing_c[day] + rng.normal(0, 0.5)), 1),
            "temp_max_c": round(float(weather.mean_c[day] + weather.swing_c[day] + rng.normal(0, 0.5)), 1),
            "events": events,
            "readings": readings,
        }
        days.append(entry)
        if day < cut:
            house.live(weather, day, 24.0, 20.0)
    level = house.level
    left = _left(house, weather, cut)
    document = {
        "format": "lodeline-logbook",
        "version": 1,
        "rig": _rig(house, rng),
        "days": days,
        "outlook": [_coming(weather, cut, ahead, rng) for ahead in range(1, 11)],
    }
    return Lived(
        document,
        datetime.fromisoformat(_at(START + timedelta(days=cut), 20)),
        _STORE[kind],
        level,
        left,
        snap,
        kind,
        house.end,
    )


def _left(house: House, weather: Weather, cut: int) -> float:
    """Days from eight in the evening until the heater stops."""
    passed = 0.0
    for ahead in range(AHEAD_DAYS + 1):
        for level in house.live(weather, cut + ahead, 24.0, 20.0 if ahead == 0 else 0.0):
            if level <= house.end:
                return passed / 24
            passed += STEP_H
    return float("inf")


def _coming(weather: Weather, cut: int, ahead: int, rng: np.random.Generator) -> dict[str, Any]:
    off = float(rng.normal(0, 0.6 + 0.3 * ahead))
    mean, swing = float(weather.mean_c[cut + ahead]) + off, float(weather.swing_c[cut + ahead])
    on = START + timedelta(days=cut + ahead)
    return {"date": on.isoformat(), "temp_min_c": round(mean - swing, 1), "temp_max_c": round(mean + swing, 1)}


def _read(house: House, rng: np.random.Generator) -> dict[str, Any]:
    store = _STORE[house.kind]
    if house.kind == "gas":
        return {"store": store, "method": "gross", "value": round(7.5 + max(0.0, house.level + rng.normal(0, 0.12)), 1)}
    if house.kind == "diesel":
        share = np.clip(round((house.level / house.capacity + rng.normal(0, 0.01)) / 0.05) * 0.05, 0, 1)
        return {"store": store, "method": "fraction", "value": round(float(share), 2)}
    counted = np.clip(house.level * (1 + rng.normal(0, 0.06)), 0, house.capacity)
    return {"store": store, "method": "amount", "value": round(float(counted))}


def _rig(house: House, rng: np.random.Generator) -> dict[str, Any]:
    kind = house.kind
    store: dict[str, Any] = {"id": _STORE[kind], "name": kind, "capacity": house.capacity}
    if kind == "gas":
        store |= {"kind": "gas", "fuel": "propane", "tare_kg": 7.5, "gauge": {"kind": "scale"}}
    elif kind == "diesel":
        store |= {"kind": "fuel", "fuel": "diesel", "gauge": {"kind": "sensor", "resolution": 0.05}, "pick_up": 0.2}
    else:
        store |= {"kind": "supply", "unit": "kg", "sense": "drains", "kwh_per_unit": 4.0}
    heater: dict[str, Any] = {
        "id": "heater",
        "name": "Heater",
        "store": store["id"],
        "kw": house.full_kw,
        "watts": 0,
        "kind": "stove" if kind == "wood" else "heater",
    }
    if kind == "diesel":
        heater["lowest_kw"] = house.low_kw
    burners = [heater]
    if kind == "gas":
        burners.append({"id": "cooker", "name": "Cooker", "kind": "cooker", "store": "gas"})
    return {
        "name": "Cold rig",
        "timezone": "Europe/Vienna",
        "units": "metric",
        "crew": {"adults": house.people},
        "stores": [store],
        "appliances": burners,
        "heat": {
            "body": str(rng.choice(["van", "motorhome"])),
            "insulation": house.grade,
            "day_c": house.day_c,
            "night_c": house.night_c,
        },
    }


def _at(on: date, hour: float) -> str:
    return (datetime(on.year, on.month, on.day, tzinfo=UTC) + timedelta(hours=hour - 1)).isoformat()
