"""Simulated rigs: what is aboard, how they live, what they log. Apart from the core; everything is invented."""

from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np

START = date(2025, 1, 6)
AHEAD = 15
SKIES = ("clear", "mixed", "overcast", "wet")
_SHARE = {"clear": 1.0, "mixed": 0.62, "overcast": 0.27, "wet": 0.12}
DRAINS = {"battery", "fresh", "gas", "fuel", "supply"}
_LINE = {
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


@dataclass
class Tank:
    """One store and its hidden ways."""

    doc: dict[str, Any]
    kind: str
    capacity: float
    line: float
    use: float
    cv: float
    level: float
    refill_at: float
    bend: float = 0.0
    noise: float = 0.0
    outlier: float = 0.0
    read_chance: float = 0.9
    cold: float = 0.0
    seen: bool = False


@dataclass
class World:
    """A simulated rig: the file it would write at ``now``, and the truth after it."""

    document: dict[str, Any]
    now: datetime
    level: dict[str, float]
    days_left: dict[str, float]
    kinds: dict[str, str]
    capacity: dict[str, float]
    planted: list[tuple[str, str, datetime]] = field(default_factory=list)
    logged_days: int = 0


def _panel(rng: np.random.Generator) -> dict[str, Any]:
    marks = [[0, 0.33, 0.67, 1], [0, 0.25, 0.5, 0.75, 1], [0, 0.33, 0.67, 1]][int(rng.integers(3))]
    return {"kind": "steps", "marks": marks}


def _water_gauge(rng: np.random.Generator) -> dict[str, Any]:
    pick = rng.random()
    if pick < 0.5:
        return _panel(rng)
    if pick < 0.8:
        return {"kind": "sensor", "resolution": float(rng.choice([0.01, 0.02, 0.05]))}
    return {"kind": "sight"}


class Maker:
    """Makes one world from a seed; ``n_days`` of log may be given."""

    def __init__(self, seed: int, n_days: int | None = None) -> None:
        self.rng = rng = np.random.default_rng([77, seed])
        self.zone = ZoneInfo(str(rng.choice(["Europe/Lisbon", "America/Denver", "Australia/Perth"])))
        self.lat, self.lon = {
            "Europe/Lisbon": (38.0, -8.6),
            "America/Denver": (35.0, -110.0),
            "Australia/Perth": (-32.0, 117.0),
        }[self.zone.key]
        self.adults = int(rng.choice([1, 2, 2, 2, 3]))
        self.children = int(rng.choice([0, 0, 0, 1, 2]))
        self.people = self.adults + self.children
        drawn = int(rng.choice([4, 8, 15, 30, 45, 60, 75], p=[0.08, 0.1, 0.15, 0.2, 0.17, 0.2, 0.1]))
        self.n_days = n_days or drawn
        self.first = START + timedelta(days=int(rng.integers(0, 365)))
        self.reads = float(rng.uniform(0.5, 0.97))
        self.care = float(rng.lognormal(0, 0.35))
        self.week_end = float(rng.choice([1.0, 1.0, 1.5]))
        self.change_day = int(rng.integers(5, 70)) if rng.random() < 0.3 else 10**6
        self.change = float(rng.choice([0.5, 0.6, 1.6, 2.0]))
        self.gap = (
            (int(rng.integers(0, max(1, self.n_days - 9))), int(rng.integers(3, 9))) if rng.random() < 0.2 else (-1, 0)
        )
        self.sky = 1
        self.washed, self.spills = 1.0, 0.2
        self.served: set[str] = set()
        self.planted: list[tuple[str, str, datetime]] = []
        self.tanks = self._tanks()

    def _tanks(self) -> list[Tank]:
        rng, people, care = self.rng, self.people, self.care
        tanks = []

        def add(kind: str, capacity: float, use: float, cv: float, gauge: dict[str, Any], **more: Any) -> None:
            extra = more.pop("doc", {})
            doc = {
                "id": kind,
                "kind": kind,
                "name": kind.title(),
                "capacity": round(capacity, 1),
                "gauge": gauge,
            } | extra
            line = float(extra.get("limit", _LINE[kind]))
            bend = float(rng.normal(0, 0.05)) if gauge["kind"] == "sensor" else 0.0
            noise = {"sensor": 0.012, "sight": 0.04, "steps": 0.015, "scale": 0.0, "none": 0.06, "shunt": 0.01}[
                gauge["kind"]
            ]
            level = capacity * rng.uniform(0.3, 1.0) if kind in DRAINS else capacity * rng.uniform(0, 0.6)
            refill = rng.uniform(line, line + 0.25) if kind in DRAINS else rng.uniform(0.65, line)
            tanks.append(Tank(doc, kind, round(capacity, 1), line, use, cv, level, float(refill), bend, noise, **more))

        fresh_use = people * rng.uniform(8, 22) * care
        add("fresh", float(rng.uniform(2.0, 9.0)) * fresh_use, fresh_use, rng.uniform(0.2, 0.5), _water_gauge(rng))
        if rng.random() < 0.85:
            add(
                "grey",
                float(rng.uniform(1.5, 8.0)) * fresh_use,
                fresh_use * rng.uniform(0.6, 0.9),
                rng.uniform(0.25, 0.5),
                _water_gauge(rng),
            )
        toilet = rng.choice(["black", "cassette", "compost", "none"])
        if toilet == "black":
            add("black", rng.uniform(60, 160), people * rng.uniform(3, 8), rng.uniform(0.2, 0.4), _panel(rng))
        if toilet == "cassette":
            add("cassette", rng.uniform(17, 21), people * rng.uniform(2.5, 5), 0.25, {"kind": "none"})
        if toilet == "compost":
            add("urine", rng.uniform(6, 10), people * rng.uniform(0.8, 1.9), 0.18, {"kind": "sight"})
            add("solids", float(rng.integers(50, 80)), people * rng.uniform(0.9, 1.9), 0.4, {"kind": "none"})
        if rng.random() < 0.8:
            weighed = rng.random() < 0.6
            doc = {"fuel": "propane"} | ({"tare_kg": 7.5} if weighed else {})
            heats = rng.random() < 0.4
            gauge = {"kind": "scale"} if weighed else {"kind": "sensor", "resolution": 0.05}
            add(
                "gas",
                rng.uniform(5, 19),
                people / 2 * rng.uniform(0.08, 0.3) + 0.02,
                0.4,
                gauge,
                doc=doc,
                cold=rng.uniform(0.01, 0.04) if heats else 0.0,
                read_chance=0.5,
            )
        if rng.random() < 0.7:
            gauge = {"kind": "sensor", "resolution": float(rng.choice([0.02, 0.125]))}
            add(
                "fuel",
                rng.uniform(50, 120),
                0.0,
                0.4,
                gauge,
                doc={"fuel": "diesel"},
                cold=rng.uniform(0.05, 0.25) if rng.random() < 0.5 else 0.0,
                read_chance=0.6,
            )
        if rng.random() < 0.25:
            capacity = float(rng.integers(7, 21))
            add(
                "supply",
                capacity,
                rng.uniform(0.7, 1.2),
                0.25,
                {"kind": "none"},
                doc={"unit": "days of food", "sense": "drains"},
                read_chance=0.5,
            )
        if rng.random() < 0.8:
            self._battery(add)
        return tanks

    def _battery(self, add: Any) -> None:
        rng = self.rng
        chemistry = str(rng.choice(["lfp", "lfp", "agm", "flooded"]))
        lead = chemistry != "lfp"
        load_wh = self.people * rng.uniform(250, 600) + 400
        amp_hours = load_wh / 12.5 * rng.uniform(1.2, 4.0)
        self.listed = float(np.clip(rng.normal(1.0, 0.25), 0.5, 1.6))
        self.watts = float(rng.uniform(0.1, 0.5) * load_wh)
        self.performance = float(np.clip(rng.normal(0.72, 0.08), 0.5, 0.88))
        gauge = {"kind": "none"} if lead and rng.random() < 0.5 else {"kind": "shunt"}
        doc = {"chemistry": chemistry, "nominal_v": 12.0 if lead else 12.8, "limit": 0.5 if lead else 0.15}
        add("battery", amp_hours, load_wh, 0.18, gauge, doc=doc)

    # ---- living -------------------------------------------------------------------------------------------------

    def make(self) -> World:
        days, truth_after = [], {t.kind: [t.level] for t in self.tanks}
        hour_now = float(self.rng.uniform(18.5, 21.5))
        last = self.n_days - 1
        now = self._at(self.first + timedelta(days=last), hour_now)
        outlook = []
        level_now: dict[str, float] = {}
        left: dict[str, float] = {}
        for number in range(self.n_days + AHEAD):
            on = self.first + timedelta(days=number)
            sky, low, high = self._weather(on)
            people = self.people + (int(self.rng.integers(1, 3)) if self.rng.random() < 0.04 else 0)
            day: dict[str, Any] = {
                "date": on.isoformat(),
                "place": {"name": "Somewhere", "lat": self.lat, "lon": self.lon},
                "sky": sky,
                "temp_min_c": round(low, 1),
                "temp_max_c": round(high, 1),
                "crew_aboard": people,
                "readings": [],
                "events": [],
            }
            self.served = set()
            stop = self._stop(on, day) if number <= last else 0.0
            read_h = hour_now if number == last else float(self.rng.uniform(18.5, 21.5))
            reads = number == last or (self.rng.random() < self.reads and not self.gap[0] <= number < sum(self.gap))
            for tank in self.tanks:
                hourly = self._hourly(tank, number, on, sky, (low + high) / 2, people, stop)
                for hour in range(24):
                    if hour == 10 and number <= last and tank.kind in self.served:
                        self._serve(tank, on, 10.0, day)
                    if number == last and hour == int(hour_now):
                        part = hour_now - hour
                        self._step(tank, hourly[hour] * part)
                        level_now[tank.kind] = tank.level
                        self._crossed(tank, left, 0.0)
                        self._step(tank, hourly[hour] * (1 - part))
                        self._crossed(tank, left, (1 - part) / 24)
                        continue
                    if number < last and hour == int(read_h) and reads:
                        self._read(tank, day, on, read_h, number)
                    self._step(tank, hourly[hour])
                    if number > last or (number == last and hour > hour_now):
                        self._crossed(tank, left, number - last + (hour + 1 - hour_now) / 24)
            if number == last:
                held = {t.kind: t.level for t in self.tanks}
                for tank in self.tanks:
                    tank.level = level_now[tank.kind]
                    self._read(tank, day, on, hour_now, number)
                    tank.level = held[tank.kind]
            if number <= last:
                day["readings"].sort(key=lambda r: r["at"])
                day["events"].sort(key=lambda e: e["at"])
                if day["readings"] or day["events"] or self.rng.random() < 0.3:
                    self._drop_some(day)
                    days.append(day)
            elif number - last <= 6 and self.rng.random() < 0.6:
                outlook.append(
                    {
                        "date": day["date"],
                        "sky": self._guess(sky),
                        "temp_min_c": day["temp_min_c"],
                        "temp_max_c": day["temp_max_c"],
                        "crew_aboard": people,
                    }
                )
        del truth_after
        first = {t.kind: left.get(t.kind, np.inf) for t in self.tanks}
        return World(
            self._document(days, outlook),
            now,
            level_now,
            first,
            {t.kind: t.kind for t in self.tanks},
            {t.kind: t.capacity for t in self.tanks},
            self.planted,
            len(days),
        )

    def _document(self, days: list[Any], outlook: list[Any]) -> dict[str, Any]:
        stores = [t.doc for t in self.tanks]
        rig: dict[str, Any] = {
            "name": "Simulated",
            "timezone": self.zone.key,
            "units": "metric",
            "crew": {"adults": self.adults, "children": self.children, "pets": 0},
            "stores": stores,
        }
        if any(t.kind == "battery" for t in self.tanks):
            rig["solar"] = [{"id": "roof", "watts": round(self.watts)}]
            rig["sources"] = [{"id": "dcdc", "kind": "alternator", "amps": 25}]
            listed = next(t.use for t in self.tanks if t.kind == "battery") * self.listed
            rig["loads"] = [{"id": "all", "name": "All", "watts": round(listed / 10, 1), "hours_per_day": 10}]
        return {"format": "lodeline-logbook", "version": 1, "rig": rig, "days": days, "outlook": outlook}

    def _at(self, on: date, hour: float) -> datetime:
        return datetime(on.year, on.month, on.day, tzinfo=self.zone) + timedelta(minutes=round(hour * 60))

    def _weather(self, on: date) -> tuple[str, float, float]:
        if self.rng.random() < 0.5:
            self.sky = int(self.rng.choice(4, p=[0.35, 0.35, 0.18, 0.12]))
        season = np.cos(2 * np.pi * (on.timetuple().tm_yday - 200) / 365) * (1 if self.lat > 0 else -1)
        mean = 13 + 8 * season + self.rng.normal(0, 2.5)
        swing = [7, 5.5, 3.5, 2.5][self.sky]
        return SKIES[self.sky], mean - swing, mean + swing

    def _guess(self, sky: str) -> str:
        index = SKIES.index(sky) + int(self.rng.choice([-1, 0, 0, 0, 1]))
        return SKIES[min(3, max(0, index))]

    def _stop(self, on: date, day: dict[str, Any]) -> float:
        """Serve what is due; the hours driven."""
        due = [t for t in self.tanks if t.kind != "battery" and self._due(t)]
        bank = next((t for t in self.tanks if t.kind == "battery"), None)
        flat = bank is not None and bank.level < (bank.line + 0.08) * bank.capacity
        if not due and not flat and self.rng.random() > 0.03:
            return 0.0
        served = due if self.rng.random() < 0.4 else self.tanks
        for tank in served:
            if tank.kind == "battery" or (tank.kind in ("gas", "supply", "fuel", "solids") and tank not in due):
                continue
            self.served.add(tank.kind)
        hours = float(self.rng.uniform(0.5, 3.0))
        day["events"].append(
            {"at": self._at(on, 12).isoformat(), "type": "drive", "hours": round(hours, 1), "km": round(50 * hours)}
        )
        return hours

    def _due(self, tank: Tank) -> bool:
        share = tank.level / tank.capacity
        return share < tank.refill_at if tank.kind in DRAINS else share > tank.refill_at

    def _serve(self, tank: Tank, on: date, hour: float, day: dict[str, Any]) -> None:
        before = tank.level
        event: dict[str, Any] = {"at": self._at(on, hour).isoformat(), "store": tank.kind}
        if tank.kind in DRAINS:
            if self.rng.random() < 0.15 and tank.kind in ("fresh", "fuel"):
                amount = (tank.capacity - tank.level) * float(self.rng.uniform(0.4, 0.9))
                event |= {"type": "fill", "amount": round(amount * float(self.rng.normal(1, 0.03)), 1)}
                tank.level += amount
                if event["amount"] <= 0.5:
                    return
            else:
                event |= {"type": "swap"} if tank.kind == "gas" else {"type": "fill", "to": "full"}
                tank.level = tank.capacity * float(self.rng.uniform(0.98, 1.0))
        else:
            event |= {"type": "dump"}
            tank.level = tank.capacity * abs(float(self.rng.normal(0, 0.012)))
        if self.rng.random() < 0.03 and tank.seen and abs(tank.level - before) > 0.25 * tank.capacity:
            self.planted.append((tank.kind, "forgotten", self._at(on, hour)))
        else:
            day["events"].append(event)

    def _hourly(
        self, tank: Tank, number: int, on: date, sky: str, mean_c: float, people: int, drove: float
    ) -> np.ndarray:
        """Signed change in each hour, in the tank's unit."""
        rng = self.rng
        change = self.change if number >= self.change_day else 1.0
        factor = float(rng.gamma(tank.cv**-2) * tank.cv**2)
        if tank.kind == "fresh":
            self.washed = factor
        if tank.kind == "grey":
            # a day's waste water is that day's fresh water, less what is drunk, cooked and spilt
            factor = self.washed * float(rng.lognormal(-0.5 * self.spills**2, self.spills))
        if tank.kind == "battery":
            return self._bank_hours(tank, on, sky, factor, drove)
        amount = tank.use * factor * people / self.people
        if tank.kind in ("fresh", "grey"):
            amount *= change * (self.week_end if on.weekday() >= 5 else 1.0)
        if tank.kind == "fuel" and drove:
            burnt = np.zeros(24)
            burnt[12] = -50 * drove * 0.115 * float(rng.normal(1, 0.1))
            return burnt - tank.cold * max(0.0, 18 - mean_c) / 24 * float(rng.lognormal(0, 0.3))
        amount += tank.cold * max(0.0, 18 - mean_c) * float(rng.lognormal(0, 0.3))
        shape = np.array([0.3] * 6 + [2.5, 3, 2] + [1.5] * 9 + [3, 3, 2.5, 2, 1, 0.5])
        return (-1 if tank.kind in DRAINS else 1) * amount * shape / shape.sum()

    def _bank_hours(self, tank: Tank, on: date, sky: str, factor: float, drove: float) -> np.ndarray:
        day = on.timetuple().tm_yday
        decl = np.radians(23.45 * np.sin(np.radians(360 * (284 + day) / 365)))
        lat = np.radians(self.lat)
        hours = np.arange(24) + 0.5
        cos_z = np.sin(lat) * np.sin(decl) + np.cos(lat) * np.cos(decl) * np.cos(np.radians(15 * (hours - 12.5)))
        ghi = np.where(cos_z > 0, 1098 * np.maximum(cos_z, 0.01) * np.exp(-0.057 / np.maximum(cos_z, 0.01)), 0)
        cloud = float(np.clip(self.rng.normal(_SHARE[sky], 0.12 * _SHARE[sky] + 0.03), 0.03, 1.1))
        volts = tank.doc["nominal_v"]
        efficiency = {"lfp": 0.95, "agm": 0.85, "flooded": 0.78}[tank.doc["chemistry"]]
        sun = ghi / 1000 * self.watts * self.performance * cloud * efficiency / volts
        load = tank.use * factor / volts * np.array([0.7] * 7 + [1.0] * 11 + [1.6] * 5 + [0.9]) / 25.8
        drive = np.zeros(24)
        # by the hours that are logged: the last of them in part
        drive[12:16] = 25 * efficiency * np.clip(round(drove, 1) - np.arange(4), 0, 1)
        return sun - load + drive

    def _step(self, tank: Tank, change: float) -> None:
        tank.level = min(tank.capacity, max(0.0, tank.level + change))

    def _crossed(self, tank: Tank, left: dict[str, float], days: float) -> None:
        share = tank.level / tank.capacity
        past = share <= tank.line + 1e-9 if tank.kind in DRAINS else share >= tank.line - 1e-9
        if past and tank.kind not in left:
            left[tank.kind] = max(0.0, days - (0.5 / 24 if days > 0 else 0.0))

    # ---- reading ------------------------------------------------------------------------------------------------

    def _read(self, tank: Tank, day: dict[str, Any], on: date, hour: float, number: int) -> None:
        rng = self.rng
        if rng.random() > tank.read_chance:
            return
        tank.seen = True
        share = tank.level / tank.capacity
        at = self._at(on, hour - 0.02 * self.tanks.index(tank) / len(self.tanks))
        reading: dict[str, Any] = {"at": at.isoformat(), "store": tank.kind}
        gauge = tank.doc["gauge"]
        if tank.kind == "solids":
            reading |= {"method": "uses", "value": float(round(tank.level))}
        elif tank.kind == "supply":
            reading |= {"method": "amount", "value": float(np.clip(round(tank.level * 2) / 2, 0, tank.capacity))}
        elif gauge["kind"] == "steps":
            reading |= {"method": "step", "value": self._mark(gauge["marks"], share + float(rng.normal(0, tank.noise)))}
        elif gauge["kind"] == "scale":
            gross = 7.5 + max(0.0, tank.level + float(rng.normal(0, 0.12)))
            reading |= {"method": "gross", "value": round(gross, 1)}
        elif tank.kind == "battery" and gauge["kind"] == "none":
            reading |= self._volts(tank, share, hour)
        else:
            seen = share + tank.bend * 4 * share * (1 - share) + float(rng.normal(0, tank.noise))
            step = gauge.get("resolution", 0.01 if gauge["kind"] == "shunt" else 0.05)
            reading |= {"method": "fraction", "value": round(float(np.clip(round(seen / step) * step, 0, 1)), 4)}
        if reading["method"] == "fraction" and number > 1 and rng.random() < 0.012:
            wrong = float(np.clip(reading["value"] + rng.choice([-1, 1]) * rng.uniform(0.35, 0.7), 0.01, 1))
            if abs(wrong - reading["value"]) > 0.3:
                reading["value"] = round(wrong, 2)
                self.planted.append((tank.kind, "typo", at))
        day["readings"].append(reading)

    def _mark(self, marks: list[float], share: float) -> float:
        index = max(i for i, mark in enumerate(marks) if mark <= max(share, 0) and (mark < 1 or share >= 0.97))
        if self.rng.random() < 0.05:
            index = int(np.clip(index + self.rng.choice([-1, 1]), 0, len(marks) - 1))
        return float(marks[index])

    def _volts(self, tank: Tank, share: float, hour: float) -> dict[str, Any]:
        table_v = [11.4, 11.51, 11.66, 11.81, 11.96, 12.10, 12.24, 12.37, 12.50, 12.62, 12.73]
        shift = 0.1 * share if tank.doc["chemistry"] == "agm" else 0.0
        volts = float(np.interp(share, np.linspace(0, 1, 11), table_v)) + shift + float(self.rng.normal(0, 0.05))
        return {"method": "volts", "value": round(volts, 2), "state": "rest"}

    def _drop_some(self, day: dict[str, Any]) -> None:
        for key, chance in (("sky", 0.15), ("temp_min_c", 0.2), ("crew_aboard", 0.3)):
            if self.rng.random() < chance:
                day.pop(key)
        if "temp_min_c" not in day:
            day.pop("temp_max_c", None)
