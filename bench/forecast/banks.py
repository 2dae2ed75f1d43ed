"""Simulated banks: sun, weather, loads and charging by the hour, apart from the core. Everything is invented."""

from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np

SKIES = ("clear", "mixed", "overcast", "wet")
_SHARE = (1.0, 0.63, 0.28, 0.13)
_SHARE_CV = (0.07, 0.24, 0.38, 0.45)
_PLACES = {
    "Europe/Lisbon": (38.5, -8.5),
    "Europe/Berlin": (50.5, 10.0),
    "America/Denver": (36.0, -109.0),
    "Australia/Perth": (-32.0, 117.0),
    "Pacific/Auckland": (-42.0, 172.0),
    "America/Phoenix": (33.0, -112.5),
}
_VOLTS = {
    "flooded": (
        (0.0, 11.4),
        (0.1, 11.51),
        (0.2, 11.66),
        (0.3, 11.81),
        (0.4, 11.96),
        (0.5, 12.1),
        (0.6, 12.24),
        (0.7, 12.37),
        (0.8, 12.5),
        (0.9, 12.62),
        (1.0, 12.73),
    ),
    "lfp": (
        (0.0, 10.0),
        (0.09, 12.0),
        (0.14, 12.5),
        (0.17, 12.8),
        (0.2, 12.9),
        (0.3, 13.0),
        (0.4, 13.1),
        (0.7, 13.2),
        (0.9, 13.3),
        (0.99, 13.4),
        (1.0, 13.6),
    ),
}
AHEAD = 15


def table_v(chemistry: str) -> tuple[list[float], list[float]]:
    """Shares and volts at rest of a 12 V bank."""
    rows = _VOLTS["lfp" if chemistry == "lfp" else "flooded"]
    lift = 0.0 if chemistry in ("lfp", "flooded") else 0.1
    return [soc for soc, _ in rows], [volts + lift * soc for soc, volts in rows]


@dataclass
class Bank:
    """The file that the rig would write at ``now``, and the truth after it. Levels as shares of capacity."""

    document: dict[str, Any]
    now: datetime
    level: float
    days_left: float
    low: float
    last_low: float
    sun_share: float
    sun_share_today: float
    by_volts: bool
    surplus: bool
    chemistry: str
    logs_yield: bool


class BankMaker:
    """Makes one bank from a seed."""

    def __init__(self, seed: int) -> None:
        self.rng = rng = np.random.default_rng([4242, seed])
        self.zone = ZoneInfo(str(rng.choice(list(_PLACES))))
        self.lat, self.lon = _PLACES[self.zone.key]
        self.chemistry = str(rng.choice(["lfp", "lfp", "agm", "gel", "flooded", "lead-carbon"]))
        self.lead = self.chemistry != "lfp"
        self.first = date(2025, 1, 1) + timedelta(days=int(rng.integers(0, 365)))
        self.n_days = int(rng.choice([5, 10, 20, 30, 45, 60]))
        self.load_wh = float(rng.lognormal(np.log(1100), 0.45))
        self.load_cv = float(rng.uniform(0.1, 0.3))
        self.night = float(rng.uniform(0.4, 0.7))
        self.volts = 12.0 if self.lead else 12.8
        self.usable = 0.5 if self.lead else 0.8
        self.capacity = round(float(rng.uniform(1.2, 4.5)) * self.load_wh / self.volts / self.usable)
        self.performance = float(np.clip(rng.normal(0.74, 0.08), 0.5, 0.9))
        self.tilt = 0.0 if rng.random() < 0.8 else float(rng.uniform(10, 35))
        self.efficiency = float(np.clip(rng.normal(0.95 if not self.lead else 0.83, 0.03), 0.7, 0.98))
        self.persists = float(rng.uniform(0.25, 0.65))
        self.weights = rng.dirichlet([3.0, 3.5, 2.0, 1.2])
        self.sky = int(rng.choice(4, p=self.weights))
        self.mean_c = float(rng.uniform(6, 18))
        self.warm = rng.random() < 0.6
        mid = self.first + timedelta(days=self.n_days)
        usual = float(self.weights @ np.array(_SHARE))
        ratio = float(rng.lognormal(np.log(0.95), 0.5))
        self.watts = round(
            ratio * self.load_wh / max(0.3, self._sun_h(mid).sum() * self.performance * usual * self.efficiency)
        )
        self.watts = int(np.clip(self.watts, 50, 3000))
        self.by_volts = rng.random() < (0.5 if self.lead else 0.12)
        self.reads = float(rng.uniform(0.55, 0.97))
        self.mornings = rng.random() < 0.25
        self.logs_yield, self.logs_load = rng.random() < 0.55, rng.random() < 0.2
        self.change_day = int(rng.integers(4, 60)) if rng.random() < 0.2 else 10**6
        self.change = float(rng.choice([0.7, 1.4]))
        self.drives = float(rng.uniform(0.0, 0.25))
        self.generator = rng.random() < 0.3
        self.level = float(rng.uniform(0.5, 1.0))
        self.drift, self.line = 0.0, {"lfp": 0.15, "lead-carbon": 0.4}.get(self.chemistry, 0.5)

    # ---- the sun and the weather ------------------------------------------------------------------------------------

    def _sun_h(self, on: date) -> np.ndarray:
        """Clear-sky kWh/m2 on the plane in each local clock hour."""
        offset = datetime(on.year, on.month, on.day, 12, tzinfo=self.zone).utcoffset()
        assert offset is not None
        hours = np.arange(24 * 6) / 6 + 1 / 12
        solar = hours - offset.total_seconds() / 3600 + self.lon / 15
        decl = np.radians(23.45 * np.sin(np.radians(360 * (284 + on.timetuple().tm_yday) / 365)))
        lat, turn = np.radians(self.lat), np.radians(15 * (solar - 12))
        cos_z = np.sin(lat) * np.sin(decl) + np.cos(lat) * np.cos(decl) * np.cos(turn)
        up = np.maximum(cos_z, 0.02)
        level = np.where(cos_z > 0.02, 1098 * up * np.exp(-0.059 / up), 0.0)
        if self.tilt:
            # toward the equator: the latitude as seen by the plane
            seen = lat - np.sign(self.lat) * np.radians(self.tilt)
            on_plane = np.sin(seen) * np.sin(decl) + np.cos(seen) * np.cos(decl) * np.cos(turn)
            level = level * (0.15 + 0.85 * np.clip(np.maximum(on_plane, 0) / up, 0, 3))
        hourly: np.ndarray = level.reshape(24, 6).mean(axis=1) / 1000
        return hourly

    def clear_h(self, on: date) -> np.ndarray:
        """What a clear day gives in each hour. [kWh/m2]"""
        return self._sun_h(on)

    def _weather(self, on: date) -> tuple[int, float, float, float]:
        if self.rng.random() > self.persists:
            self.sky = int(self.rng.choice(4, p=self.weights))
        season = np.cos(2 * np.pi * (on.timetuple().tm_yday - 200) / 365) * np.sign(self.lat)
        mean = self.mean_c + 8 * season + float(self.rng.normal(0, 2.5))
        swing = (7.0, 5.5, 3.5, 2.5)[self.sky]
        share = max(0.02, _SHARE[self.sky] * float(self.rng.normal(1, _SHARE_CV[self.sky])))
        return self.sky, share, mean, mean - swing

    def _word(self, sky: int, wrong: float) -> str:
        if self.rng.random() < wrong:
            sky += int(self.rng.choice([-1, 1]))
        return SKIES[min(3, max(0, sky))]

    # ---- living -----------------------------------------------------------------------------------------------------

    def make(self) -> Bank:
        rng, last = self.rng, self.n_days - 1
        hour_now = float(rng.uniform(18.5, 21.5)) if rng.random() < 0.75 else float(rng.uniform(11, 15))
        now = self._at(self.first + timedelta(days=last), hour_now)
        self.truth: list[tuple[float, float]] = []
        self.sun_shares: dict[int, float] = {}
        days, outlook = [], []
        tells = rng.random() < 0.7
        planned = {last + int(rng.integers(1, 6)) for _ in range(2)} if rng.random() < 0.4 else set()
        for number in range(self.n_days + AHEAD):
            on = self.first + timedelta(days=number)
            sky, share, mean_c, min_c = self._weather(on)
            self.sun_shares[number] = share * float(self._sun_h(on).sum() / max(1e-6, self.clear_h(on).sum()))
            hours = self._hours(number, on, share, mean_c, min_c, number <= last)
            if number <= last:
                until = hour_now if number == last else 24.0
                days.append(self._log(number, on, sky, mean_c, min_c, hours, until))
            else:
                plan = self._planned(hours) if number in planned else {}
                for hour in range(24):
                    self._step(hours, hour, 1.0, number + (hour + 1) / 24)
                if tells and number - last <= 5:
                    outlook.append(
                        plan
                        | {
                            "date": on.isoformat(),
                            "sky": self._word(sky, 0.25 + 0.06 * (number - last)),
                            "temp_min_c": round(min_c, 1),
                            "temp_max_c": round(2 * mean_c - min_c, 1),
                        }
                    )
                elif plan:
                    outlook.append(plan | {"date": on.isoformat()})
        return self._as_bank(now, last + hour_now / 24, last, days, outlook)

    def _as_bank(self, now: datetime, at: float, last: int, days: list[Any], outlook: list[Any]) -> Bank:
        after = [(t - at, level) for t, level in self.truth if t > at]
        before = [level for t, level in self.truth if last - 0.4 <= t <= last + 11 / 24]
        level_now = min(((abs(t - at), level) for t, level in self.truth), key=lambda each: each[0])[1]
        left = (
            0.0 if level_now <= self.line else next((t - 0.5 / 24 for t, v in after if v <= self.line + 1e-9), np.inf)
        )
        until = (11 / 24 if at % 1 < 11 / 24 else 1 + 11 / 24) - at % 1
        low = min([level_now, *(v for t, v in after if t <= until)])
        sunny = self.watts * self.performance * self.clear_h(now.date()).sum()
        return Bank(
            self._document(days, outlook),
            now,
            level_now,
            left,
            low,
            min(before, default=level_now),
            self.sun_shares[last + 1],
            self.sun_shares[last],
            self.by_volts,
            sunny * float(self.weights @ np.array(_SHARE)) * self.efficiency > self.load_wh,
            self.chemistry,
            self.logs_yield,
        )

    def _hours(self, number: int, on: date, share: float, mean_c: float, min_c: float, logged: bool) -> dict[str, Any]:
        rng = self.rng
        factor = float(rng.gamma(self.load_cv**-2) * self.load_cv**2) * (
            self.change if number >= self.change_day else 1
        )
        factor *= 1 + 0.012 * max(0.0, 9 - mean_c) + 0.012 * max(0.0, mean_c - 23)
        night = np.array([1.0] * 7 + [0.0] * 11 + [1.6] * 5 + [1.0])
        day = np.array([0.0] * 7 + [1.0] * 11 + [0.0] * 6)
        load = self.load_wh * factor * (self.night * night / night.sum() + (1 - self.night) * day / day.sum())
        other, events = np.zeros(24), []
        low = self.level < self.line + 0.1
        if logged and rng.random() < (0.6 if low else self.drives):
            hours = round(float(rng.uniform(0.5, 3.0)), 1)
            other[12:15] += 25 * np.clip(hours - np.arange(3), 0, 1)
            events.append(
                {"at": self._at(on, 12).isoformat(), "type": "drive", "hours": hours, "km": round(50 * hours)}
            )
        if logged and self.generator and self.level < self.line + 0.12:
            other[17:19] += 40
            events.append({"at": self._at(on, 17).isoformat(), "type": "generator", "hours": 2.0})
        sun = self._sun_h(on) * self.watts * self.performance * share
        cold = not self.lead and not self.warm and mean_c < 0
        return {"load": load, "other": other, "sun": sun, "events": events, "cold": cold, "taken": 0.0, "drawn": 0.0}

    def _planned(self, hours: dict[str, Any]) -> dict[str, Any]:
        """A drive from eleven or the generator from five, as the outlook has it."""
        if self.rng.random() < 0.6:
            hours["other"][11:13] += 25
            return {"drive_hours": 2.0}
        hours["other"][17:19] += 40
        return {"generator_hours": 2.0}

    def _step(self, hours: dict[str, Any], hour: int, part: float, at: float) -> None:
        wh = self.capacity * self.volts
        load, sun, other = (
            hours["load"][hour] * part,
            hours["sun"][hour] * part,
            hours["other"][hour] * self.volts * part,
        )
        if hours["cold"]:
            sun = other = 0.0
        knee = 0.8 if self.lead else 0.96
        most = 0.22 if self.lead else 0.5
        room = 1.0 if self.level < knee else max(0.0, (1 - self.level) / (1 - knee))
        into = max(0.0, (sun + other) * self.efficiency - load)
        taken = min(into, most * room * wh * part, (1 - self.level) * wh)
        lost = (into - taken) / self.efficiency
        hours["taken"] += max(0.0, sun - lost)
        hours["drawn"] += load
        net = taken if into > 0 else (sun + other) * self.efficiency - load
        self.level = min(1.0, max(0.0, self.level + net / wh))
        self.truth.append((at, self.level))

    def _log(
        self, number: int, on: date, sky: int, mean_c: float, min_c: float, hours: dict[str, Any], until: float
    ) -> dict[str, Any]:
        rng = self.rng
        self.drift += float(rng.normal(0, 0.004))
        last = until < 24.0
        reads = {float(rng.uniform(18.5, 21.5))} if rng.random() < self.reads and not last else set()
        if self.mornings and rng.random() < 0.6:
            reads.add(float(rng.uniform(6.5, 8.5)))
        reads = {h for h in reads if h < until} | ({until} if last else set())
        readings = []
        for hour in range(24):
            inside = sorted(h for h in reads if int(h) == hour)
            begun = 0.0
            for h in inside:
                self._step(hours, hour, h - hour - begun, number + h / 24)
                begun = h - hour
                reading = self._read(h)
                readings.append({"at": self._at(on, h).isoformat(), "store": "bank", **reading})
                if last and h == until:
                    totals = dict(hours)
            self._step(hours, hour, 1 - begun, number + (hour + 1) / 24)
        totals = totals if last else hours
        events = [e for e in hours["events"] if datetime.fromisoformat(e["at"]) <= self._at(on, until)]
        day: dict[str, Any] = {
            "date": on.isoformat(),
            "place": {"name": "Somewhere", "lat": self.lat, "lon": self.lon},
            "readings": readings,
            "events": events,
        }
        if rng.random() < 0.88:
            day["sky"] = self._word(sky, 0.12)
        if rng.random() < 0.8:
            day |= {"temp_min_c": round(min_c, 1), "temp_max_c": round(2 * mean_c - min_c, 1)}
        if self.logs_yield and (readings or rng.random() < 0.7):
            day["solar_wh"] = round(totals["taken"])
        if self.logs_load and readings:
            day["load_wh"] = round(totals["drawn"])
        return day

    def _read(self, hour: float) -> dict[str, Any]:
        if self.by_volts:
            shares, volts = table_v(self.chemistry)
            seen = float(np.interp(self.level, shares, volts)) + float(self.rng.normal(0, 0.05))
            return {"method": "volts", "value": round(seen, 2), "state": "rest"}
        if self.level > 0.985:
            self.drift = 0.0
        seen = self.level + self.drift + float(self.rng.normal(0, 0.006))
        return {"method": "fraction", "value": round(float(np.clip(seen, 0, 1)), 2)}

    def _at(self, on: date, hour: float) -> datetime:
        return datetime(on.year, on.month, on.day, tzinfo=self.zone) + timedelta(minutes=round(hour * 60))

    def _document(self, days: list[Any], outlook: list[Any]) -> dict[str, Any]:
        listed = self.load_wh * float(np.clip(self.rng.normal(1.0, 0.25), 0.5, 1.6))
        store: dict[str, Any] = {
            "id": "bank",
            "kind": "battery",
            "name": "Bank",
            "chemistry": self.chemistry,
            "nominal_v": self.volts,
            "capacity": self.capacity,
            "limit": self.line,
            "gauge": {"kind": "none" if self.by_volts else "shunt"},
        }
        if self.warm and not self.lead:
            store["kept_warm"] = True
        azimuth = 180.0 if self.lat > 0 else 0.0
        rig = {
            "name": "Simulated",
            "timezone": self.zone.key,
            "units": "metric",
            "crew": {"adults": 2, "children": 0, "pets": 0},
            "stores": [store],
            "solar": [{"id": "roof", "watts": self.watts, "tilt_deg": round(self.tilt, 1), "azimuth_deg": azimuth}],
            "sources": [
                {"id": "dcdc", "kind": "alternator", "amps": 25},
                {"id": "gen", "kind": "generator", "amps": 40},
            ],
            "loads": [
                {
                    "id": "day",
                    "name": "By day",
                    "watts": round(0.45 * listed / 8, 1),
                    "hours_per_day": 8,
                    "when": "day",
                },
                {
                    "id": "night",
                    "name": "By night",
                    "watts": round(0.55 * listed / 8, 1),
                    "hours_per_day": 8,
                    "when": "night",
                },
            ],
        }
        return {"format": "lodeline-logbook", "version": 1, "rig": rig, "days": days, "outlook": outlook}
