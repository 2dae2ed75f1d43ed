"""Simulated rigs that live on for weeks, stop by stop, by a rule that decides each morning. Everything is invented."""

from collections.abc import Callable
from copy import deepcopy
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from itertools import pairwise
from typing import Any

import numpy as np

from bench.forecast.world import DRAINS, Maker, Tank

WARM_UP, DAYS = 24, 60
NOON = 12
_SERVICE = {
    "fresh": "water",
    "grey": "grey",
    "black": "black",
    "cassette": "black",
    "urine": "black",
    "solids": "solids",
    "gas": "gas",
    "fuel": "fuel",
    "supply": "supplies",
    "battery": "hookup",
}
_OFFERS = (
    ("water",),
    ("water", "grey", "black", "solids"),
    ("grey", "black", "solids"),
    ("fuel", "water", "grey", "black"),
    ("supplies", "solids"),
    ("gas", "fuel"),
    ("water", "grey", "black", "solids", "hookup", "gas"),
    ("water", "grey", "black", "hookup"),
)
_HOURS = (None, None, "Mo-Sa 08:00-18:00; Su off", "Mo-Fr 09:00-17:00")
ROAD, SPEED = 1.3, 50.0
# ways to places, from and to, and how many there are (0: all)
_DENSITIES = {"plentiful": (3.0, 25.0, 0), "sparse": (8.0, 50.0, 4), "far": (40.0, 110.0, 5)}
DENSITIES = tuple(_DENSITIES)
# Emptied on foot by everybody, whatever the rule, before it is full: it sends nobody away.
_HERE, _HERE_FROM = "urine", 0.5


@dataclass
class Tally:
    """What came of living by a rule."""

    lines: int = 0
    outings: int = 0
    stops: int = 0
    km: float = 0.0
    money: float = 0.0
    rig_days: int = 0
    passed_on: list[int] = field(default_factory=list)


@dataclass(frozen=True)
class Trip:
    """An outing that a rule decides on: at which local hour, to which places in order, which kinds of tanks are served
    at each."""

    hour: int
    calls: tuple[tuple[str, frozenset[str]], ...]


@dataclass
class Morning:
    """What a rule may look at: the file as it would be written, and the gauges as last read."""

    now: datetime
    day: int
    document: dict[str, Any]
    shown: dict[str, float]


Rule = Callable[["Life", Morning], list[Trip]]


@dataclass
class Life(Maker):
    """A rig with its places and its coming days, the same whatever rule it lives by."""

    seed: int
    density: str = "plentiful"
    hours: list[dict[str, np.ndarray]] = field(default_factory=list)

    def __post_init__(self) -> None:
        super().__init__(self.seed)
        self.n_days, self.gap, self.change_day, self.reads = WARM_UP + DAYS + 15, (-1, 0), 10**6, 0.9
        self.start = {tank.kind: tank.level for tank in self.tanks}
        self.weather: list[tuple[str, float, float]] = []
        for number in range(self.n_days):
            sky, low, high = self._weather(self.first + timedelta(days=number))
            self.weather.append((sky, low, high))
            on = self.first + timedelta(days=number)
            self.hours.append(
                {t.kind: self._hourly(t, number, on, sky, (low + high) / 2, self.people, 0.0) for t in self.tanks}
            )
        self.book = self._book()

    def _book(self) -> list[dict[str, Any]]:
        rng, book = np.random.default_rng([5, self.seed]), []
        near, far, few = _DENSITIES[self.density]
        # what there are few of are those that offer most: something serves every tank
        for number, offers in enumerate(_OFFERS if not few else _OFFERS[-few:]):
            km, bearing = float(rng.uniform(near, far)), float(rng.uniform(0, 2 * np.pi))
            services: dict[str, Any] = {each: {} for each in offers}
            if "hookup" in services:
                services["hookup"] = {"amps": 10, "price_night": float(rng.integers(10, 25))}
            if "gas" in services:
                services["gas"] = {"price_per_kg": round(float(rng.uniform(2, 3)), 2)}
            if "fuel" in services:
                services["fuel"] = {"price_per_l": round(float(rng.uniform(1.4, 1.8)), 2)}
            place = {
                "id": f"place-{number}",
                "name": f"Place {number}",
                "services": services,
                "lat": self.lat + km / 111 / ROAD * np.cos(bearing),
                "lon": self.lon + km / 111 / ROAD * np.sin(bearing) / np.cos(np.radians(self.lat)),
                "fee": float(rng.choice([0, 0, 0, 4])),
            }
            hours = _HOURS[int(rng.integers(len(_HOURS)))]
            book.append(place | ({"opening_hours": hours} if hours else {}))
        return book

    def place(self, id: str) -> dict[str, Any]:
        """A place of the book."""
        return next(each for each in self.book if each["id"] == id)

    def km(self, id: str, other: str | None = None) -> float:
        """The way to a place, from where the rig stands or from another one. [km]"""
        place = self.place(id)
        lat, lon = (self.lat, self.lon) if other is None else (self.place(other)["lat"], self.place(other)["lon"])
        north, east = place["lat"] - lat, (place["lon"] - lon) * np.cos(np.radians(self.lat))
        return float(111 * ROAD * np.hypot(north, east))

    def way(self, places: list[str]) -> float:
        """The way of an outing, out and back. [km]"""
        between = sum(self.km(b, a) for a, b in pairwise(places))
        return self.km(places[0]) + between + self.km(places[-1])

    def serves(self, id: str, kind: str) -> bool:
        """Whether a place serves a kind of tank."""
        return _SERVICE[kind] in self.place(id)["services"]

    def live(self, rule: Rule, watch: Callable[["Life", Morning, int], object] = lambda *each: None) -> Tally:
        """Live through all days by a rule; what comes of the days after the warm-up."""
        for tank in self.tanks:
            tank.level = self.start[tank.kind]
        self.rng = np.random.default_rng([9, self.seed])
        tally, past = Tally(rig_days=DAYS), set[str]()
        days: list[dict[str, Any]] = []
        shown: dict[str, float] = {}
        for number in range(WARM_UP + DAYS):
            on = self.first + timedelta(days=number)
            sky, low, high = self.weather[number]
            day: dict[str, Any] = {
                "date": on.isoformat(),
                "place": {"name": "Here", "lat": self.lat, "lon": self.lon},
                "sky": sky,
                "temp_min_c": round(low, 1),
                "temp_max_c": round(high, 1),
                "readings": [],
                "events": [],
            }
            morning = Morning(self._at(on, 8), number, self._file([*days, day], number), dict(shown))
            trips = (by_gauge if number < WARM_UP else rule)(self, morning)
            if number >= WARM_UP:
                watch(self, morning, number)
            before = tally if number >= WARM_UP else Tally()
            for hour in range(24):
                for trip in [each for each in trips if each.hour == hour]:
                    self._make(trip, day, on, before)
                for tank in self.tanks:
                    self._step(tank, self.hours[number][tank.kind][hour])
                for tank in self.at_stops:
                    self._count(tank, past, before, number)
                if hour == 19:
                    self._evening(day, on, number, shown)
                    self._on_foot(day, on)
            day["events"].sort(key=lambda each: each["at"])
            day["readings"].sort(key=lambda each: each["at"])
            days.append(day)
        return tally

    def _file(self, days: list[dict[str, Any]], number: int) -> dict[str, Any]:
        outlook = [
            {
                "date": (self.first + timedelta(days=n)).isoformat(),
                "sky": self._guess(self.weather[n][0]),
                "temp_min_c": round(self.weather[n][1], 1),
                "temp_max_c": round(self.weather[n][2], 1),
            }
            for n in range(number, number + 5)
        ]
        document = self._document(deepcopy(days[-60:]), outlook) | {"places": self.book}
        for day in document["days"]:
            for key in ("readings", "events"):
                if not day[key]:
                    del day[key]
        for store in document["rig"]["stores"]:
            if store["kind"] == _HERE:
                store["served"] = "here"
        if "sources" in document["rig"]:
            document["rig"]["sources"].append({"id": "post", "kind": "shore", "amps": 25})
        return document

    def _evening(self, day: dict[str, Any], on: Any, number: int, shown: dict[str, float]) -> None:
        plugged = any(event["type"] == "shore" for event in day["events"])
        for tank in self.tanks:
            if tank.kind == "battery" and plugged:
                shown[tank.kind] = 1.0  # on the charger its volts tell nothing: it is taken to be full
                continue
            before = len(day["readings"])
            self._read(tank, day, on, 19.9, number)
            if len(day["readings"]) > before:
                shown[tank.kind] = _share(tank, day["readings"][-1])

    @property
    def at_stops(self) -> list[Tank]:
        """The tanks that somebody has to go with the rig for."""
        return [tank for tank in self.tanks if tank.kind != _HERE]

    def _on_foot(self, day: dict[str, Any], on: Any) -> None:
        for tank in self.tanks:
            if tank.kind == _HERE and tank.level > _HERE_FROM * tank.capacity:
                self._serve(tank, on, 20, day)

    def _make(self, trip: Trip, day: dict[str, Any], on: Any, tally: Tally) -> None:
        km = self.way([place for place, _ in trip.calls])
        tally.outings += 1
        tally.km += km
        hours = km / SPEED
        day["events"].append(
            {"at": self._at(on, trip.hour).isoformat(), "type": "drive", "hours": round(hours, 2), "km": round(km)}
        )
        for tank in self.tanks:
            if tank.kind == "fuel":
                self._step(tank, -km * 0.115)
            if tank.kind == "battery":
                self._step(tank, 25 * 0.9 * hours)
        for place, kinds in trip.calls:
            self._call(self.place(place), kinds, trip.hour, day, on, tally)

    def _call(
        self, place: dict[str, Any], kinds: frozenset[str], hour: int, day: dict[str, Any], on: Any, tally: Tally
    ) -> None:
        tally.stops += 1
        tally.money += place.get("fee", 0.0)
        for tank in self.tanks:
            if tank.kind not in kinds:
                continue
            if tank.kind == "battery":
                tank.level = tank.capacity
                tally.money += place["services"]["hookup"]["price_night"]
                event = {"at": self._at(on, hour).isoformat(), "type": "shore", "hours": 10.0}
                day["events"].append(event)
            else:
                gone = tank.capacity - tank.level
                price = {"gas": "price_per_kg", "fuel": "price_per_l"}.get(tank.kind)
                tally.money += gone * place["services"][_SERVICE[tank.kind]].get(price, 0.0) if price else 0.0
                self._serve(tank, on, hour, day)

    def _count(self, tank: Tank, past: set[str], tally: Tally, number: int) -> None:
        share = tank.level / tank.capacity
        is_past = share <= tank.line if tank.kind in DRAINS else share >= tank.line
        if is_past and tank.kind not in past:
            tally.lines += 1
            tally.passed_on.append(number)
            past.add(tank.kind)
        elif not is_past:
            past.discard(tank.kind)

    def holds(self, number: int, days: float) -> bool:
        """Whether no line would be passed for so many days from a morning on, without any stop."""
        levels = {tank.kind: tank.level for tank in self.tanks}
        held = True
        for step in range(int(days * 24)):
            day, hour = divmod(8 + step, 24)
            for tank in self.at_stops:
                self._step(tank, self.hours[number + day][tank.kind][hour])
                share = tank.level / tank.capacity
                held &= not (share <= tank.line if tank.kind in DRAINS else share >= tank.line)
        for tank in self.tanks:
            tank.level = levels[tank.kind]
        return held


def _share(tank: Tank, reading: dict[str, Any]) -> float:
    """What a gauge shows, as a share."""
    match reading["method"]:
        case "uses" | "amount":
            return float(reading["value"] / tank.capacity)
        case "gross":
            return float((reading["value"] - 7.5) / tank.capacity)
        case "volts":
            return float(np.interp(reading["value"], [11.4, 12.1, 12.73], [0.0, 0.5, 1.0]))
        case _:
            return float(reading["value"])


def _to(life: Life, due: set[str], take: Callable[[str], bool]) -> list[Trip]:
    """One outing to the fewest places, nearest first, that serve what is due; at each everything that ``take`` says.
    Where waste is emptied comes before where water is taken in."""
    calls, left = [], set(due)
    while left:
        best = max(life.book, key=lambda p: (sum(life.serves(p["id"], kind) for kind in left), -life.km(p["id"])))
        got = {kind for kind in left if life.serves(best["id"], kind)}
        if not got:
            break
        every = {tank.kind for tank in life.at_stops if life.serves(best["id"], tank.kind) and take(tank.kind)}
        calls.append((best["id"], frozenset(got | every)))
        left -= got
    calls.sort(key=lambda call: "fresh" in call[1])
    return [Trip(NOON, tuple(calls))] if calls else []


def by_gauge(life: Life, morning: Morning) -> list[Trip]:
    """Goes when any gauge shows under 20 or over 80 %."""
    due = {
        kind
        for kind, share in morning.shown.items()
        if kind != _HERE and (share < max(0.2, _line(life, kind) + 0.05) if kind in DRAINS else share > 0.8)
    }
    return _to(life, due, lambda kind: kind in ("fresh", "grey", "black", "cassette", "solids"))


def _line(life: Life, kind: str) -> float:
    return next(tank.line for tank in life.tanks if tank.kind == kind) if kind == "battery" else 0.0


def every_days(n: int) -> Rule:
    """Goes every n days and has everything served."""
    return lambda life, morning: (
        _to(life, {tank.kind for tank in life.at_stops}, lambda kind: True) if (morning.day - WARM_UP) % n == 0 else []
    )
