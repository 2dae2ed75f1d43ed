"""The rigs of other benches as lives: the project's own simulator, the diaries, and another hand's simulator by its path."""

import importlib.util
import random
import sys
from datetime import timedelta
from pathlib import Path
from types import ModuleType
from typing import Any

import numpy as np

from bench.forecast.world import Maker
from bench.stops.lives import DAYS, EVENING, WARM_UP, Kept, Life
from bench.stops.places import SPEED
from bench.worlds.diary import Diary

_ALL_DAYS = WARM_UP + DAYS + 15
_AHEAD = 5  # days of an outlook
_POST_A, _ENGINE_A, _CHARGED = 25.0, 25.0, 0.88
_L_PER_KM = 0.115
_POST_H = 0.2


class InventedLife(Life, Maker):
    """A rig of the project's own simulator."""

    def __init__(self, seed: int, density: str) -> None:
        Maker.__init__(self, seed)
        kept = [Kept(tank.doc, tank.line) for tank in self.tanks]
        Life.__init__(self, seed, density, self.lat, self.lon, kept)
        self.n_days, self.gap, self.change_day, self.reads = _ALL_DAYS, (-1, 0), 10**6, 0.9
        self.weather, self.hours = [], []
        for number in range(self.n_days):
            on = self.first + timedelta(days=number)
            sky, low, high = self._weather(on)
            self.weather.append((sky, low, high))
            drawn = {t.kind: self._hourly(t, number, on, sky, (low + high) / 2, self.people, 0.0) for t in self.tanks}
            self.hours.append(drawn)
        self.by_id = {tank.kind: tank for tank in self.tanks}
        self.rng = np.random.default_rng([9, seed])

    def open_day(self, number: int) -> None:
        on = self.first + timedelta(days=number)
        sky, low, high = self.weather[number]
        self.day: dict[str, Any] = {
            "date": on.isoformat(),
            "place": {"name": "Here", "lat": self.lat, "lon": self.lon},
            "sky": sky,
            "temp_min_c": round(low, 1),
            "temp_max_c": round(high, 1),
            "readings": [],
            "events": [],
        }

    def hour(self, number: int, hour: int, *, plugged: bool) -> None:
        for tank in self.tanks:
            self._step(tank, self.hours[number][tank.kind][hour])
            if plugged and tank.kind == "battery":
                self._step(tank, _POST_A * _CHARGED)

    def share(self, id: str) -> float:
        return float(self.by_id[id].level / self.by_id[id].capacity)

    def serve(self, id: str, number: int, hour: int) -> None:
        self._serve(self.by_id[id], self.first + timedelta(days=number), hour, self.day)

    def drive(self, km: float, number: int, hour: int) -> None:
        at, hours = self.at(number, hour).isoformat(), km / SPEED
        self.day["events"].append({"at": at, "type": "drive", "hours": round(hours, 2), "km": round(km)})
        for kind, change in (("fuel", -km * _L_PER_KM), ("battery", _ENGINE_A * _CHARGED * hours)):
            if kind in self.by_id:
                self._step(self.by_id[kind], change)

    def plug(self, number: int, hour: int, hours: int) -> None:
        self.day["events"].append({"at": self.at(number, hour).isoformat(), "type": "shore", "hours": float(hours)})

    def look(self, number: int) -> list[dict[str, Any]]:
        for tank in self.tanks:
            self._read(tank, self.day, self.first + timedelta(days=number), EVENING + 0.9, number)
        return list(self.day["readings"])

    def close_day(self, number: int) -> None:
        for key in ("readings", "events"):
            self.day[key].sort(key=lambda each: each["at"])
        self.days.append(self.day)

    def document(self, number: int) -> dict[str, Any]:
        outlook = [
            {
                "date": (self.first + timedelta(days=n)).isoformat(),
                "sky": self._guess(self.weather[n][0]),
                "temp_min_c": round(self.weather[n][1], 1),
                "temp_max_c": round(self.weather[n][2], 1),
            }
            for n in range(number, number + _AHEAD)
        ]
        document = self._document([*self.days, self.day], outlook)
        if "sources" in document["rig"]:
            document["rig"]["sources"].append({"id": "post", "kind": "shore", "amps": _POST_A})
        return document


class DiaryLife(Life, Diary):
    """A rig of the diaries, that logs its evenings."""

    def __init__(self, seed: int, density: str) -> None:
        Diary.__init__(self, seed, _ALL_DAYS, "evenings")
        self.seed, self.rhythm, self.leaves_child, self.day = seed, 0.0, 10**6, dict[str, Any]()
        # a line is where its reading is
        kept = [Kept(tank.doc, _diary_line(tank)) for tank in self.tanks.values()]
        Life.__init__(self, seed, density, self.lat, self.lon, kept)
        self.acts: dict[int, list[tuple[float, str, float]]] = {}

    def open_day(self, number: int) -> None:
        on = self.first + timedelta(days=number)
        self.rng = np.random.default_rng([37, self.seed, number])
        self.day = self._blank(on)
        self.acts = {}
        for act in sorted([*self._acts(on), *self._power_acts(on), *self._heat_acts(on)]):
            self.acts.setdefault(int(min(max(act[0], 0.0), 23.0)), []).append(act)

    def hour(self, number: int, hour: int, *, plugged: bool) -> None:
        on = self.first + timedelta(days=number)
        for at_h, what, amount in self.acts.get(hour, []):
            self._do(what, amount, on, at_h, self.day)
        if plugged:
            self._do("plugged", 1.0, on, hour, self.day)

    def share(self, id: str) -> float:
        return float(self.tanks[id].level / self.tanks[id].capacity)

    def serve(self, id: str, number: int, hour: int) -> None:
        self._serve(self.tanks[id], self.first + timedelta(days=number), hour + _POST_H, self.day)

    def drive(self, km: float, number: int, hour: int) -> None:
        hours, shade = km / SPEED, self.shade
        event = {"at": self.at(number, hour).isoformat(), "type": "drive", "hours": round(hours, 2), "km": round(km)}
        self.day["events"].append(event)
        self._do("drive", hours, self.first + timedelta(days=number), hour, self.day)
        self.shade = shade  # it comes back to where it stood

    def plug(self, number: int, hour: int, hours: int) -> None:
        self.day["events"].append({"at": self.at(number, hour).isoformat(), "type": "shore", "hours": float(hours)})

    def look(self, number: int) -> list[dict[str, Any]]:
        self._read_all(self.first + timedelta(days=number), self.day)
        return list(self.day["readings"])

    def close_day(self, number: int) -> None:
        self._write(self.day, self.days, is_last=False)

    def document(self, number: int) -> dict[str, Any]:
        held, outlook = self.rng, []
        for n in range(number, number + _AHEAD):
            self.rng = np.random.default_rng([37, self.seed, n])
            blank = self._blank(self.first + timedelta(days=n))
            outlook.append({key: blank[key] for key in ("date", "sky", "temp_min_c", "temp_max_c")})
        self.rng = np.random.default_rng([41, self.seed])
        document = self._document(list(self.days), outlook)
        self.rng = held
        if not document["days"]:
            document["days"] = [self.day]
        return document


def _diary_line(tank: Any) -> float:
    # its need is one at the line, and grows evenly
    before, tank.level = tank.level, tank.capacity
    full = tank.need
    tank.level = 0.0
    empty = tank.need
    tank.level = before
    return float((1 - empty) / (full - empty))


class OtherLife(Life):
    """A rig of another hand's simulator, whose truth stays in it."""

    def __init__(self, seed: int, density: str, module: ModuleType) -> None:
        self.sim = sim = module.Sim(seed // 1000, seed % 1000)
        self.seed, self.zone, self.first = seed, sim.zone, sim.first
        sim.n_all, sim.cut = _ALL_DAYS, 10**6
        sim.weather.n = _ALL_DAYS + 1
        sim.weather.grow(sim.rng)
        sim.people += [list(sim.people[-1]) for _ in range(_ALL_DAYS)]
        sim.__dict__.update(outlook_rows=None)
        self.readings: list[dict[str, Any]] = []
        self.events: list[dict[str, Any]] = []
        kept = [Kept(store, sim.hid[store["id"]]["limit"]) for store in sim.stores]
        kept = [each for each in kept if each.kind in _KINDS]
        lat, lon = sim.site["lat"], sim.site["lon"]
        Life.__init__(self, seed, density, lat, lon, kept)

    def _rng(self, number: int, what: str) -> random.Random:
        return random.Random(f"{self.seed}/{number}/{what}")

    def open_day(self, number: int) -> None:
        self.sim.rng = self._rng(number, "day")
        self.sim.start_day(number)
        self.sim.rng = self._rng(number, "log")
        self.readings, self.events = [], []

    def hour(self, number: int, hour: int, *, plugged: bool) -> None:
        sim = self.sim
        ends = [*sim.slots[1:], sim.day_end]
        for index, (begin, end) in enumerate(zip(sim.slots, ends, strict=True)):
            if sim.hours[index] == hour:
                sim.advance(begin, end, index)

    def share(self, id: str) -> float:
        return float(self.sim.frac(id))

    def _log(self, entry: dict[str, Any], number: int, hour: float) -> None:
        self.events.append({"at": self.sim.stamp(number, hour), **entry})

    def serve(self, id: str, number: int, hour: int) -> None:
        sim, kept = self.sim, self.kept[id]
        act, entry = sim.dump(id) if not kept.drains else sim.swap() if kept.kind == "gas" else sim.fill(id)
        act()
        self._log(entry, number, hour + _POST_H)

    def drive(self, km: float, number: int, hour: int) -> None:
        hours = round(km / self.sim.h["speed"], 2)
        self.sim.window("drive", self.sim.stamp(number, hour), hours)
        self._log({"type": "drive", "hours": hours, "km": round(km)}, number, hour)

    def plug(self, number: int, hour: int, hours: int) -> None:
        self.sim.window("shore", self.sim.stamp(number, hour), hours)
        self._log({"type": "shore", "hours": hours}, number, hour)

    def look(self, number: int) -> list[dict[str, Any]]:
        self.sim.session(self.sim.stamp(number, EVENING + 1), self.readings)
        return [each for each in self.readings if each["store"] in self.kept]

    def close_day(self, number: int) -> None:
        at = self.sim.day_end
        self.sim.windows = [each for each in self.sim.windows if each["to"] > at]
        self.sim.write_day(number, "parked", self.readings, self.events, False, False)
        self.days = self.sim.days

    def document(self, number: int) -> dict[str, Any]:
        sim, rng = self.sim, self._rng(number, "outlook")
        document: dict[str, Any] = sim.logbook()
        if not document["days"]:
            document["days"] = [{"date": sim.date(number).isoformat()}]
        outlook = []
        for n in range(number, number + _AHEAD):
            weather = sim.weather.days[n]
            low, high = sorted(round(weather[key] + rng.uniform(-2, 2)) for key in ("tmin", "tmax"))
            sky = weather["sky"] if rng.random() < 0.75 else rng.choice(["clear", "mixed", "overcast", "wet"])
            outlook.append({"date": sim.date(n).isoformat(), "sky": sky, "temp_min_c": low, "temp_max_c": high})
        return document | {"outlook": outlook}


_KINDS = {"fresh", "grey", "black", "cassette", "urine", "solids", "gas", "fuel", "supply", "battery"}


def other(path: Path) -> ModuleType:
    """Another hand's simulator: a module with a class ``Sim`` of ``(seed, index)``."""
    spec = importlib.util.spec_from_file_location("other_world", path)
    assert spec is not None
    assert spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    sys.modules[spec.name] = module
    spec.loader.exec_module(module)
    return module


def life(world: str, seed: int, density: str) -> Life:
    """A rig of a world: ``invented``, ``diaries``, or the path of another's simulator."""
    match world:
        case "invented":
            return InventedLife(seed, density)
        case "diaries":
            return DiaryLife(seed, density)
        case path:
            return OtherLife(seed, density, other(Path(path)))
