"""The third world: rigs lived event by event, from time-use diaries. Nothing of the forecast was set by it.

People wake, wash, cook, go to the toilet, shower and do the laundry at times of their own; each act takes a little out of
one store and puts a little into another. Loads are appliances that are switched on; the sun and the air are measured
years (TMY3, see ``bench.forecast.skies``). Everything else is invented.
"""

from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np

from bench.forecast.skies import measured

AHEAD = 15
DILIGENCE = ("evenings", "twice a week", "at services")
_LINES = {
    "battery": 0.2,
    "fresh": 0.05,
    "grey": 0.95,
    "black": 0.9,
    "cassette": 0.9,
    "urine": 0.9,
    "solids": 1.0,
    "gas": 0.05,
    "fuel": 0.25,
    "supply": 0.0,
}
_FILLS = {"grey", "black", "cassette", "urine", "solids"}
_SKIES = ("clear", "mixed", "overcast", "wet")
_WORDS = (0.78, 0.45, 0.2)
_VOLTS = (11.3, 11.55, 11.75, 11.9, 12.02, 12.15, 12.27, 12.38, 12.5, 12.62, 12.75)


@dataclass
class Lived:
    """The file that a rig would write, and the truth after it: contents now, and days to each line (inf: beyond)."""

    document: dict[str, Any]
    now: datetime
    level: dict[str, float]
    days_left: dict[str, float]


@dataclass
class Person:
    """Somebody aboard and their ways."""

    share: float
    away_days: frozenset[int]
    leaves_h: float
    back_h: float
    shower_every: float
    shower_l: float
    clean: float = 0.0


@dataclass
class Tank:
    """A store: its document, what is in it, at which need it is served."""

    doc: dict[str, Any]
    kind: str
    capacity: float
    level: float
    serve_at: float
    wrong: tuple[float, float]
    reached: float | None = None

    @property
    def need(self) -> float:
        """How far it has come on the way to its line."""
        share = self.level / self.capacity
        line = float(self.doc.get("limit", _LINES[self.kind]))
        return share / line if self.kind in _FILLS else (1 - share) / (1 - line)

    def take(self, amount: float) -> float:
        """Take out of it or put into it; what it gave or took."""
        before = self.level
        move = amount if self.kind in _FILLS else -amount
        self.level = min(self.capacity, max(0.0, self.level + move))
        return abs(self.level - before)


class Diary:
    """Lives one rig from a seed; ``n_days`` of log and ``diligence`` may be given."""

    def __init__(self, seed: int, n_days: int | None = None, diligence: str | None = None) -> None:
        self.rng = rng = np.random.default_rng([31, seed])
        self.zone_name = str(rng.choice(["America/Anchorage", "America/New_York"]))
        self.zone = ZoneInfo(self.zone_name)
        self.ghi, self.air, self.lat, self.lon, self.standard_h = measured(self.zone_name)
        self.first = date(2025, 1, 6) + timedelta(days=int(rng.integers(0, 365)))
        drawn = int(rng.choice([7, 14, 28, 45, 60]))
        self.n_days = n_days or drawn
        picked = str(rng.choice(DILIGENCE, p=[0.6, 0.25, 0.15]))
        self.diligence = diligence or picked
        self.evening_h = float(rng.uniform(18.5, 21.5))
        self.town_day = int(rng.integers(0, 7))
        self.rhythm = float(rng.uniform(0.0, 0.7))
        self.forgets = float(rng.uniform(0.0, 0.12))
        self.people = [self._person(1.0) for _ in range(int(rng.choice([1, 2, 2, 3])))]
        self.people += [self._person(0.6) for _ in range(int(rng.choice([0, 0, 0, 1, 2])))]
        self.saves = float(rng.uniform(0.55, 1.0))
        self.tanks: dict[str, Tank] = {}
        self._stores()
        self._power()
        self.leaves_child = int(rng.integers(5, 60)) if len(self.people) > 2 and rng.random() < 0.3 else 10**6

    def _person(self, share: float) -> Person:
        rng = self.rng
        works = rng.random() < 0.4
        away = frozenset(rng.choice(7, size=int(rng.integers(2, 6)), replace=False).tolist()) if works else frozenset()
        return Person(
            share,
            away,
            float(rng.uniform(7, 10)),
            float(rng.uniform(15, 19)),
            float(rng.choice([1, 2, 3, 5])),
            float(rng.choice([4, 7, 9, 14, 18])),
            float(rng.uniform(0, 3)),
        )

    def _add(self, kind: str, capacity: float, gauge: dict[str, Any] | None, **doc: Any) -> None:
        rng = self.rng
        fills = kind in _FILLS
        level = capacity * float(rng.uniform(0, 0.5) if fills else rng.uniform(0.5, 1))
        serve = float(np.clip(rng.beta(6, 2), 0.3, 1.0)) if kind != "gas" else float(rng.uniform(0.9, 1.04))
        body = {"id": kind, "kind": kind, "name": kind.title(), "capacity": round(capacity, 1)} | doc
        if gauge is not None:
            body["gauge"] = gauge
        wrong = (float(rng.normal(0, 0.045)), float(rng.normal(0, 0.015)))
        self.tanks[kind] = Tank(body, kind, round(capacity, 1), level, serve, wrong)

    def _gauge(self, *also: dict[str, Any] | None) -> dict[str, Any] | None:
        rng = self.rng
        choices: list[dict[str, Any] | None] = [
            {"kind": "steps", "marks": [0, 0.33, 0.67, 1]},
            {"kind": "steps", "marks": [0, 0.25, 0.5, 0.75, 1]},
            {"kind": "sensor", "resolution": float(rng.choice([0.02, 0.05, 0.1]))},
            {"kind": "sight"},
            None,
            *also,
        ]
        return choices[int(rng.integers(0, len(choices)))]

    def _stores(self) -> None:
        rng, n = self.rng, sum(p.share for p in self.people)
        fresh = float(rng.uniform(55, 150)) * np.sqrt(n)
        self._add("fresh", fresh, self._gauge())
        self._add("grey", fresh * float(rng.uniform(0.5, 1.0)), self._gauge(None))
        self.toilet = str(rng.choice(["black", "cassette", "dry"]))
        self.flush_l = float(rng.uniform(0.4, 1.6)) if self.toilet == "black" else float(rng.uniform(0.15, 0.4))
        if self.toilet == "dry":
            self._add("urine", float(rng.choice([6, 8, 10])), {"kind": "sight"} if rng.random() < 0.6 else None)
            self._add("solids", float(rng.choice([30, 45, 60])), None)
        else:
            capacity = float(rng.uniform(70, 150)) if self.toilet == "black" else float(rng.choice([17, 18, 20]))
            self._add(self.toilet, capacity, self._gauge(None))
        self.has_gas = rng.random() < 0.8
        if self.has_gas:
            size = float(rng.choice([5, 6, 9, 11]))
            pick = rng.random()
            if pick < 0.45:
                self._add("gas", size, {"kind": "scale"}, fuel="propane", tare_kg=round(size * 1.1 + 1, 1))
            else:
                gauge = {"kind": "sensor", "resolution": 0.1} if pick < 0.6 else None
                self._add("gas", size, gauge, fuel="propane")
        self.heats = str(rng.choice(["gas", "fuel", "none"])) if self.has_gas else str(rng.choice(["fuel", "none"]))
        self.heat_w_per_c = float(rng.uniform(35, 110))
        self.heat_to_c = float(rng.uniform(14, 20))
        self._add(
            "fuel",
            float(rng.uniform(60, 110)),
            {"kind": "sensor", "resolution": float(rng.choice([0.05, 0.125]))},
            fuel="diesel",
        )
        self.km_l = float(rng.uniform(0.085, 0.15))
        if rng.random() < 0.2:
            self._add("supply", float(rng.choice([7, 10, 14])), None, unit="days of food", sense="drains")

    def _power(self) -> None:
        rng = self.rng
        self.lead = rng.random() < 0.45
        big = float(rng.uniform(0.8, 2.2))
        self.appliances = {
            "fridge": (45.0, 10.0),
            "lights": (float(rng.uniform(8, 25)), 4.0),
            "laptop": (55.0, float(rng.uniform(1, 6))),
            "fan": (18.0, float(rng.uniform(0, 6))),
            "router": (12.0, float(rng.choice([0, 8, 24]))),
        }
        self.truly = {name: float(rng.lognormal(0.05, 0.3)) * big for name in self.appliances}
        self.always_w = float(rng.gamma(2, 4))
        usual = sum(w * h * self.truly[k] for k, (w, h) in self.appliances.items()) + 24 * self.always_w
        volts = 12.0 if self.lead else 12.8
        capacity = float(rng.uniform(1.2, 4)) * usual / volts / (0.5 if self.lead else 0.8)
        self.holds = float(rng.uniform(0.7, 1.0) if self.lead else rng.uniform(0.88, 1.0))
        by_volts = self.lead and rng.random() < 0.6
        chemistry = str(rng.choice(["agm", "flooded", "gel"])) if self.lead else "lfp"
        gauge = {"kind": "none"} if by_volts else {"kind": "shunt"}
        self._add("battery", capacity, gauge, chemistry=chemistry, nominal_v=volts, limit=0.5 if self.lead else 0.2)
        self.tanks["battery"].level = self.tanks["battery"].capacity * float(rng.uniform(0.7, 1))
        self.shunt_drift = float(rng.normal(0, 0.002))
        self.shunt = 0.0
        month = (self.first + timedelta(days=self.n_days)).timetuple().tm_yday
        mean_kwh = float(np.roll(self.ghi, 20 - month, axis=0)[:40].sum(axis=1).mean())
        self.watts = round(float(np.clip(rng.lognormal(-0.1, 0.5) * usual / max(0.4, mean_kwh * 0.72), 60, 2000)))
        self.performance = float(rng.uniform(0.62, 0.84))
        self.shade = self._new_shade()
        self.amps = float(rng.choice([20, 30, 40]))
        self.logs_yield = rng.random() < 0.5

    def _new_shade(self) -> float:
        return float(self.rng.uniform(0.35, 0.8)) if self.rng.random() < 0.25 else float(self.rng.uniform(0.88, 1.0))

    # ---- living --------------------------------------------------------------------------------------------------

    def live(self) -> Lived:
        days: list[dict[str, Any]] = []
        outlook: list[dict[str, Any]] = []
        level_now: dict[str, float] = {}
        last, now = self.n_days - 1, self._time(self.first + timedelta(days=self.n_days - 1), self.evening_h)
        for number in range(self.n_days + AHEAD):
            on, past = self.first + timedelta(days=number), number <= last
            if number == self.leaves_child and past:
                self.people.pop()
            day = self._blank(on)
            acts = [*self._acts(on), *self._power_acts(on), *self._heat_acts(on)]
            if past:
                acts += self._errands(on, day)
            acts.append((self.evening_h, "read", 1.0))
            for hour, what, amount in sorted(acts, key=lambda act: act[0]):
                if number > last or (number == last and hour > self.evening_h):
                    self._do(what, amount, on, hour, None)
                    self._note((self._time(on, hour) - now) / timedelta(days=1))
                else:
                    self._do(what, amount, on, hour, day)
                if number == last and what == "read":
                    level_now = {kind: tank.level for kind, tank in self.tanks.items()}
                    self._note(0.0)
            if past:
                self._write(day, days, number == last)
            elif number - last <= 4 and self.rng.random() < 0.6:
                outlook.append({key: day[key] for key in ("date", "sky", "temp_min_c", "temp_max_c")})
        left = {kind: np.inf if tank.reached is None else tank.reached for kind, tank in self.tanks.items()}
        return Lived(self._document(days, outlook), now, level_now, left)

    def _note(self, days: float) -> None:
        for tank in self.tanks.values():
            if tank.reached is None and tank.need >= 1 - 1e-9:
                tank.reached = max(0.0, days)

    def _time(self, on: date, hour: float) -> datetime:
        return datetime(on.year, on.month, on.day, tzinfo=self.zone) + timedelta(minutes=round(hour * 60))

    def _row(self, on: date) -> int:
        return min(on.timetuple().tm_yday, 365) - 1

    def _blank(self, on: date) -> dict[str, Any]:
        air, row = self.air[self._row(on)], self._row(on)
        around = self.ghi[(row + np.arange(-12, 13)) % 365].sum(axis=1)
        share = float(self.ghi[row].sum() / max(1e-6, np.quantile(around, 0.92)))
        sky = next((i for i, least in enumerate(_WORDS) if share >= least), len(_WORDS))
        if self.rng.random() < 0.15:
            sky = min(3, max(0, sky + int(self.rng.choice([-1, 1]))))
        return {
            "date": on.isoformat(),
            "place": {"name": "Somewhere", "lat": self.lat, "lon": self.lon},
            "sky": _SKIES[sky],
            "temp_min_c": round(float(air.min()), 1),
            "temp_max_c": round(float(air.max()), 1),
            "readings": [],
            "events": [],
        }

    def _acts(self, on: date) -> list[tuple[float, str, float]]:
        """What people do in a day: (hour, what, how much)."""
        rng, acts = self.rng, []
        home = [p for p in self.people if on.weekday() not in p.away_days]
        guests = 1 if rng.random() < 0.03 else 0
        for person in self.people:
            there = person in home
            hours = [h for h in rng.uniform(6.5, 23, size=rng.poisson(5.2 * person.share**0.3))]
            for hour in hours:
                if there or not person.leaves_h < hour < person.back_h:
                    acts += [(hour, "visit", 1.0), (hour + 0.03, "hands", float(rng.uniform(0.2, 0.7)) * self.saves)]
            if rng.random() < 0.85:
                acts.append((float(rng.normal(7.8, 0.7)), "solid", 1.0))
            acts.append((float(rng.normal(7.4, 0.5)), "hands", float(rng.uniform(0.8, 2.5)) * self.saves))
            acts += [
                (h, "drink", 0.4 * person.share) for h in (8.0, 10.5, 13.0, 16.0, 19.5) if there or h < 9 or h > 17
            ]
            person.clean -= 1
            if person.clean <= 0:
                person.clean += max(1.0, person.shower_every + float(rng.choice([-1, 0, 0, 1])))
                acts.append((float(rng.choice([7.9, 18.2])), "shower", person.shower_l * float(rng.lognormal(0, 0.25))))
        for meal, chance, minutes in ((8.1, 0.9, 6.0), (12.8, 0.6, 12.0), (18.8, 0.95, 28.0)):
            if rng.random() < chance and (home or meal != 12.8):
                eaters = len(home) + guests if meal == 12.8 else len(self.people) + guests
                acts.append((meal, "cook", minutes * float(rng.lognormal(0, 0.4)) * eaters**0.4))
                acts.append((meal + 0.5, "dishes", float(rng.uniform(1.0, 3.0)) * eaters**0.6 * self.saves))
                acts.append((meal, "eat", eaters / 3 / max(1, len(self.people))))
        if on.weekday() == (self.town_day + 3) % 7 and rng.random() < 0.25:
            acts.append((10.5, "laundry", float(rng.uniform(15, 35))))
        return acts

    def _power_acts(self, on: date) -> list[tuple[float, str, float]]:
        rng, row = self.rng, self._row(on)
        offset = datetime(on.year, on.month, on.day, 12, tzinfo=self.zone).utcoffset()
        assert offset is not None
        shift = round(offset.total_seconds() / 3600) - self.standard_h
        sun = np.roll(self.ghi[row], shift) * self.watts * self.performance * self.shade
        air = np.roll(self.air[row], shift)
        draw = np.full(24, self.always_w)
        draw += 45 * 10 / 24 * self.truly["fridge"] * np.clip(1 + 0.03 * (air - 19), 0.4, 2)
        for name, hours in (("lights", range(18, 24)), ("laptop", range(8, 23)), ("fan", range(11, 22))):
            watts, usual_h = self.appliances[name]
            on_h = rng.poisson(usual_h * (np.clip((air.max() - 12) / 10, 0, 2) if name == "fan" else 1.0))
            for hour in rng.choice(list(hours), size=min(on_h, len(list(hours))), replace=False):
                draw[hour] += watts * self.truly[name]
        draw += 12 * self.appliances["router"][1] / 24 * self.truly["router"]
        if self.heats != "none":
            draw += 22 * np.clip((self.heat_to_c - air) / 15, 0, 1)
        return [(h + 0.5, "power", float(s) - float(d)) for h, (s, d) in enumerate(zip(sun, draw, strict=True))]

    def _heat_acts(self, on: date) -> list[tuple[float, str, float]]:
        if self.heats == "none":
            return []
        cold = np.maximum(0.0, self.heat_to_c - self.air[self._row(on)]) * float(self.rng.lognormal(0, 0.2))
        return [(h + 0.4, "heat", self.heat_w_per_c * float(c) / 1000) for h, c in enumerate(cold) if c > 0]

    def _do(self, what: str, amount: float, on: date, hour: float, day: dict[str, Any] | None) -> None:
        tanks = self.tanks
        match what:
            case "hands" | "dishes" | "shower" | "laundry":
                tanks["grey"].take(self._water(amount, day) * 0.93)
                if day is not None and what in ("shower", "laundry") and self.rng.random() < 0.4:
                    day["events"].append({"at": self._time(on, hour).isoformat(), "type": what, "count": 1})
            case "drink":
                tanks["fresh"].take(amount)
            case "visit" if self.toilet == "dry":
                tanks["urine"].take(0.27)
            case "visit":
                flush = self.flush_l if self.toilet == "cassette" else self._water(self.flush_l, day)
                tanks[self.toilet].take(0.27 + flush)
            case "solid":
                if self.toilet == "dry":
                    tanks["solids"].take(1.0)
                else:
                    tanks[self.toilet].take(0.25 + self.flush_l)
            case "cook" if self.has_gas:
                tanks["gas"].take(amount / 60 * 2.0 / 12.9)
            case "eat" if "supply" in tanks:
                tanks["supply"].take(amount)
            case "heat":
                tanks[self.heats].take(amount / (12.9 if self.heats == "gas" else 9.9) / 0.8)
            case "power":
                self._charge(amount)
            case "drive":
                tanks["fuel"].take(amount * 52 * self.km_l)
                self._charge(self.amps * 12.6 * 0.85 * amount)
                self.shade = self._new_shade() if self.rng.random() < 0.6 else self.shade
            case "plugged":
                self._charge(30 * 12.6 * 0.9)
            case "read" if day is not None:
                self._read_all(on, day)
            case _ if what.startswith("serve ") and day is not None:
                self._serve(tanks[what.removeprefix("serve ")], on, hour, day)
            case _:
                pass

    def _water(self, amount: float, day: dict[str, Any] | None) -> float:
        """Water drawn; after the log's end use goes on past an empty tank, as forecasts have it."""
        drawn = self.tanks["fresh"].take(amount)
        return drawn if day is not None else amount

    def _charge(self, wh: float) -> None:
        bank = self.tanks["battery"]
        volts, share = bank.doc["nominal_v"], bank.level / bank.capacity
        if wh > 0:
            most = bank.capacity * self.holds * (0.25 * min(1.0, max(0.03, (1 - share) / 0.2)) if self.lead else 0.5)
            wh = min(wh * (0.82 if self.lead else 0.95), most * volts)
        bank.level = min(bank.capacity, max(0.0, bank.level + wh / volts / self.holds))
        self.shunt = 0.0 if bank.level > 0.99 * bank.capacity else self.shunt + self.shunt_drift / 24

    def _errands(self, on: date, day: dict[str, Any]) -> list[tuple[float, str, float]]:
        """A stop: by need, or as it is the day for it; what is served there, in time order."""
        rng = self.rng
        due = [t for t in self.tanks.values() if t.kind not in ("battery", "urine") and t.need >= t.serve_at]
        flat = self.tanks["battery"].need > 0.85
        acts: list[tuple[float, str, float]] = []
        if (urine := self.tanks.get("urine")) and urine.need >= urine.serve_at:
            acts.append((9.0, "serve urine", 0.0))
        town = on.weekday() == self.town_day and rng.random() < self.rhythm
        if not due and not flat and not town:
            return acts
        hour, hours = 10.0, round(float(rng.uniform(0.25, 2.5)), 2)
        event = {"at": self._time(on, hour).isoformat(), "type": "drive", "hours": hours}
        if rng.random() < 0.6:
            event["km"] = round(hours * 52)
        day["events"].append(event)
        acts.append((hour, "drive", hours))
        hour += hours
        for tank in self.tanks.values():
            worth = tank.need > 0.35 and tank.kind not in ("gas", "solids", "battery", "urine", "supply")
            if tank in due or (worth and rng.random() < 0.5):
                hour += 0.2
                acts.append((hour, f"serve {tank.kind}", 0.0))
        if flat and rng.random() < 0.8:
            day["events"].append({"at": self._time(on, 15.0).isoformat(), "type": "shore", "hours": 8})
            acts += [(15.2 + h, "plugged", 1.0) for h in range(8)]
        return acts

    def _serve(self, tank: Tank, on: date, hour: float, day: dict[str, Any]) -> None:
        rng, event = self.rng, {"at": self._time(on, hour).isoformat(), "store": tank.kind}
        if tank.kind in _FILLS:
            event["type"] = "dump"
            tank.level = tank.capacity * abs(float(rng.normal(0, 0.015)))
        elif tank.kind == "gas":
            event["type"] = "swap"
            tank.level = tank.capacity * float(rng.uniform(0.96, 1.0))
        else:
            event |= {"type": "fill", "to": "full"}
            tank.level = tank.capacity * float(rng.uniform(0.97, 1.0))
        if rng.random() >= self.forgets:
            day["events"].append(event)

    # ---- the log -------------------------------------------------------------------------------------------------

    def _read_all(self, on: date, day: dict[str, Any]) -> None:
        rng = self.rng
        is_last = (on - self.first).days == self.n_days - 1
        reads = {"evenings": 0.85, "twice a week": 0.3, "at services": 0.0}[self.diligence]
        if rng.random() > reads and not is_last:
            return
        for index, tank in enumerate(self.tanks.values()):
            if self.diligence == "at services" and tank.kind != "battery":
                continue
            chance = 0.4 if tank.kind in ("gas", "supply") else 0.9
            if rng.random() < chance and (reading := self._reading(tank)):
                at = self._time(on, self.evening_h) - timedelta(seconds=20 * (len(self.tanks) - index))
                day["readings"].append({"at": at.isoformat(), "store": tank.kind} | reading)

    def _reading(self, tank: Tank) -> dict[str, Any] | None:
        rng, share = self.rng, tank.level / tank.capacity
        gauge = tank.doc.get("gauge", {"kind": "none"})
        seen = share + tank.wrong[0] * 4 * share * (1 - share) + tank.wrong[1] + float(rng.normal(0, 0.012))
        if rng.random() < 0.012:
            seen = float(rng.random())
        match gauge["kind"]:
            case "steps":
                marks = gauge["marks"]
                return {"method": "step", "value": max(m for m in marks if m <= max(0.0, seen) + 0.02)}
            case "sensor":
                step = gauge["resolution"]
                return {"method": "fraction", "value": round(float(np.clip(round(seen / step) * step, 0, 1)), 4)}
            case "sight":
                return {
                    "method": "fraction",
                    "value": round(float(np.clip(share + rng.normal(0, 0.04), 0, 1)) * 20) / 20,
                }
            case "scale":
                return {
                    "method": "gross",
                    "value": round(tank.doc["tare_kg"] + tank.level + abs(float(rng.normal(0, 0.1))), 1),
                }
            case "shunt":
                return {"method": "fraction", "value": round(float(np.clip(share + self.shunt, 0, 1)), 2)}
        if tank.kind == "battery":
            volts = float(np.interp(share, np.linspace(0, 1, 11), _VOLTS)) - 0.1 + float(rng.normal(0, 0.05))
            said = {"state": "load"} if rng.random() < 0.4 else {}
            return {"method": "volts", "value": round(volts, 2)} | said
        return {"method": "uses", "value": float(round(tank.level))} if tank.kind == "solids" else None

    def _write(self, day: dict[str, Any], days: list[Any], is_last: bool) -> None:
        rng = self.rng
        day["readings"].sort(key=lambda each: each["at"])
        now = self._time(date.fromisoformat(day["date"]), self.evening_h).isoformat()
        day["events"] = sorted((e for e in day["events"] if not is_last or e["at"] <= now), key=lambda each: each["at"])
        if not day["readings"] and not day["events"] and rng.random() < 0.6 and not is_last:
            return
        for key, chance in (("sky", 0.2), ("temp_min_c", 0.2)):
            if rng.random() < chance:
                day.pop(key)
        if "temp_min_c" not in day:
            day.pop("temp_max_c", None)
        days.append(day)

    def _document(self, days: list[Any], outlook: list[Any]) -> dict[str, Any]:
        rng = self.rng
        adults = sum(p.share == 1.0 for p in self.people)
        loads = [
            {"id": name, "name": name.title(), "watts": round(watts, 1), "hours_per_day": round(hours, 1)}
            for name, (watts, hours) in self.appliances.items()
            if hours > 0 and rng.random() < 0.9
        ]
        rig = {
            "name": "A diary",
            "timezone": self.zone_name,
            "units": "metric",
            "crew": {"adults": adults, "children": len(self.people) - adults, "pets": 0},
            "stores": [tank.doc for tank in self.tanks.values()],
            "solar": [{"id": "roof", "watts": self.watts}],
            "sources": [
                {"id": "dcdc", "kind": "alternator", "amps": self.amps},
                {"id": "post", "kind": "shore", "amps": 30},
            ],
            "loads": loads,
        }
        return {"format": "lodeline-logbook", "version": 1, "rig": rig, "days": days, "outlook": outlook}
