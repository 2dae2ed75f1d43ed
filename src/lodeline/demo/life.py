"""The demo's days: a hidden truth, lived hour by hour, and the log that a crew would have kept of it."""

from dataclasses import field
from datetime import date, datetime, time, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np

from lodeline.core.catalogue import SOURCE_KINDS, Role, Sense
from lodeline.core.energy import bank
from lodeline.core.energy.loads import audit_wh
from lodeline.core.energy.solar import clear_yield_wh
from lodeline.core.log import Place
from lodeline.core.rig import Rig, Store
from lodeline.core.tracking.use import WAKING_SHAPE
from lodeline.core.values import dataclass
from lodeline.demo.scenario import Scenario
from lodeline.formats.convert import rig_to_core
from lodeline.formats.document import RigDoc

DAYS = 60
_SKY = {"clear": (1.0, 0.06), "mixed": (0.66, 0.13), "overcast": (0.27, 0.08), "wet": (0.13, 0.05)}
# Under this share the pump draws air.
_DRAWS_AIR = 0.012
# When in the day each thing is washed.
_HOURS_OF = {"dishes": (13.6, 19.4), "navy": (18.4,), "laundry": (11.2,)}
_WARMEST_DAY = 205  # of the year
_FORGOTTEN_FILL_DAYS_AGO, _DOUBTFUL_DAYS_AGO, _GUEST_DAYS_AGO = 17, 4, (24, 25)


@dataclass
class Lived:
    """The document of the log, and the hidden levels by store at each local midnight and at the end."""

    document: dict[str, Any]
    truth: dict[str, list[tuple[datetime, float]]] = field(default_factory=dict)


def live(scenario: Scenario, now: datetime, seed: int, days: int = DAYS) -> Lived:
    """Live a scenario up to ``now`` and write its log. The same seed and time give the same document."""
    return _Life(scenario, now, np.random.default_rng(seed), days).run()


def lived_to_tell(scenario: Scenario, now: datetime, seed: int) -> Lived:
    """The first life from a seed on that stands in the end as its story wants: on any day of the year."""
    lives = (live(scenario, now, seed + each) for each in range(_MOST_LIVES))
    first = lived = next(lives)
    while not _is_told(scenario, lived):
        following = next(lives, None)
        if following is None:
            return first
        lived = following
    return lived


_MOST_LIVES = 60


def _is_told(scenario: Scenario, lived: Lived) -> bool:
    rig = rig_to_core(RigDoc.model_validate(scenario.rig))
    shares = {store.id: lived.truth[store.id][-1][1] / store.capacity for store in rig.stores}
    return all(low <= shares[id] <= high for id, (low, high) in scenario.story.ends.items())


class _Life:
    def __init__(self, scenario: Scenario, now: datetime, rng: np.random.Generator, n_days: int) -> None:
        self.scenario, self.rng, self.n_days = scenario, rng, n_days
        self.doc = RigDoc.model_validate(scenario.rig)
        self.rig: Rig = rig_to_core(self.doc)
        self.zone = ZoneInfo(self.rig.timezone)
        self.now = now.astimezone(self.zone)
        self.level = {s.id: s.capacity * (0.75 if s.sense is Sense.DRAINS else 0.15) for s in self.rig.stores}
        self.truth: dict[str, list[tuple[datetime, float]]] = {s.id: [] for s in self.rig.stores}
        self.place = 0
        self.bottle = ""
        self.heating = {heater.store for heater in self.rig.heaters}
        self.sky = "clear"
        self.bias = {s.id: rng.normal(0, 0.025) for s in self.rig.stores}

    def run(self) -> Lived:
        today = self.now.date()
        logged = [day for ago in range(self.n_days, -1, -1) if (day := self._day(today - timedelta(days=ago), ago))]
        for store_id, level in self.level.items():
            self.truth[store_id].append((self.now, level))
        document = {
            "format": "lodeline-logbook",
            "version": 1,
            "rig": self.scenario.rig,
            "days": logged,
            "outlook": self._outlook(today),
            "places": self.scenario.book,
        }
        return Lived(document, self.truth)

    def _at(self, on: date, hour: float) -> datetime:
        return datetime.combine(on, time(0), tzinfo=self.zone) + timedelta(minutes=round(hour * 60))

    def _weather(self, ago: int) -> tuple[str, float, float]:
        weights = self.scenario.sky_weights
        if self.rng.random() > 0.5:
            names = list(weights)
            self.sky = str(self.rng.choice(names, p=np.array([weights[n] for n in names]) / sum(weights.values())))
        on = self.now.date() - timedelta(days=ago)
        season = np.cos(2 * np.pi * (on.timetuple().tm_yday - _WARMEST_DAY) / 365.0)
        mean = self.scenario.mean_c + self.scenario.summer_c * season + self.rng.normal(0, 2.0)
        swing = {"clear": 7.0, "mixed": 5.5, "overcast": 3.5, "wet": 2.5}[self.sky]
        return self.sky, round(mean - swing, 1), round(mean + swing, 1)

    def _day(self, on: date, ago: int) -> dict[str, Any] | None:
        sky, low_c, high_c = self._weather(ago)
        until_h = (self.now - self._at(on, 0)).total_seconds() / 3600 if ago == 0 else 24.0
        events = self._stop(on, ago, until_h)
        moving = any(event["type"] == "drive" for event in events)
        guests = ago in _GUEST_DAYS_AGO and self.scenario.mishaps
        crew = self.rig.crew.people + (1 if guests else 0)
        self.poured = self._activities(on, until_h, events)
        self._run_generator(on, until_h, events)
        readings = self._hours(on, ago, until_h, sky, (low_c + high_c) / 2, crew, events)
        for store in self.rig.stores:
            self.truth[store.id].append((self._at(on, min(24.0, until_h)), self.level[store.id]))
        if not readings and not events and self.rng.random() < 0.6:
            return None
        forgotten = ago == _FORGOTTEN_FILL_DAYS_AGO and self.scenario.mishaps
        kept = [e for e in events if not (forgotten and e["type"] == "fill" and e["store"] == "fresh")]
        day: dict[str, Any] = {
            "date": on.isoformat(),
            "place": self.scenario.places[self.place % len(self.scenario.places)],
            "sky": sky,
            "temp_min_c": low_c,
            "temp_max_c": high_c,
            "status": "moving" if moving else "parked",
            "crew_aboard": crew,
            "readings": [_timed(r) for r in readings],
            "events": [_timed(e) for e in sorted(kept, key=lambda e: e["at"])],
        }
        if guests:
            day["note"] = "A friend stayed the night."
        if self.rig.store("house") and readings:
            day["solar_wh"] = round(self.yield_wh)
        return day

    def _stop(self, on: date, ago: int, until_h: float) -> list[dict[str, Any]]:
        """Move to another place when a store calls for it; empty, fill and buy on the way, then drive."""
        habits, rig = self.scenario.habits, self.rig
        due = [s for s in rig.stores if not s.is_bank and self._calls(s)]
        story = self.scenario.story
        last = ago == story.stopped_ago
        forced = last or (self.scenario.mishaps and ago == _FORGOTTEN_FILL_DAYS_AGO)
        events: list[dict[str, Any]] = []
        if until_h < 12:
            return []
        for store in rig.stores:
            if store.kind.id == "urine" and self._carries_away(store, ago):
                self.level[store.id] = 0.02 * store.capacity
                events.append({"at": self._at(on, 9.0), "type": "dump", "store": store.id})
        only_waste = ago == story.drained_ago
        if ago < story.stopped_ago and not only_waste:
            return events
        if not forced and not only_waste and not [s for s in due if s.kind.id in ("fresh", "grey", "black", "fuel")]:
            return events
        hour = 10.4
        for store in rig.stores:
            if store.kind.id in ("grey", "black") or (store.kind.id == "solids" and self._calls(store)):
                self.level[store.id] = max(0.0, float(self.rng.normal(0.01, 0.008))) * store.capacity
                events.append({"at": self._at(on, hour), "type": "dump", "store": store.id})
            elif only_waste:
                continue
            elif store.kind.id == "fresh":
                self.level[store.id] = store.capacity * float(self.rng.uniform(0.985, 1.0))
                events.append({"at": self._at(on, hour + 0.4), "type": "fill", "store": store.id, "to": "full"})
            elif store.kind.id == "gas" and self.level[store.id] < (0.6 if last else 0.14) * store.capacity:
                self.level[store.id] = store.capacity
                events += self._gas(on, hour, store)
            elif store.kind.id == "fuel" and self.level[store.id] < (0.9 if last else 0.45) * store.capacity:
                self.level[store.id] = store.capacity
                events.append({"at": self._at(on, hour + 1.1), "type": "fill", "store": store.id, "to": "full"})
        hours = round(float(self.rng.uniform(0.6, 1.9)), 1)
        self.drive = (12.0, hours)
        self.place = story.place if ago == story.last_ago else self.place + 1
        km = round(hours * float(self.rng.uniform(42, 62)))
        events.append({"at": self._at(on, 12.0), "type": "drive", "hours": hours, "km": km})
        fuel = rig.first(Role.VEHICLE_FUEL)
        if fuel:
            self.level[fuel.id] = max(0.0, self.level[fuel.id] - km * habits.km_l * float(self.rng.normal(1, 0.08)))
        return events

    def _carries_away(self, store: Store, ago: int) -> bool:
        """Whether the urine bottle is emptied on a day: as it fills, the last time so that it is due again tonight."""
        hours = self.now.hour + self.now.minute / 60
        last = 2 if hours > 17.4 else 3
        return ago == last or (ago > last and self._calls(store))

    def _gas(self, on: date, hour: float, store: Store) -> list[dict[str, Any]]:
        """Both bottles filled, or the other one brought into use and the empty one filled."""
        at = self._at(on, hour + 0.9)
        if not self.rig.spares_of(store):
            return [{"at": at, "type": "fill", "to": "full", "store": store.id}]
        spare = self.rig.spares_of(store)[0]
        self.bottle = store.id if self.bottle == spare.id else spare.id
        events: list[dict[str, Any]] = [{"at": at, "type": "swap", "store": store.id, "from": self.bottle}]
        if self.bottle == store.id:
            filled = {"type": "move", "from": "outside", "to": spare.id, "amount": spare.holds}
            events.append({"at": self._at(on, hour + 1.0), **filled})
        return events

    def _activities(self, on: date, until_h: float, events: list[dict[str, Any]]) -> dict[int, float]:
        """What the crew washes today, logged by a touch; the litres that it takes, by the hour."""
        poured: dict[int, float] = {}
        for activity, (often, litres) in self.scenario.habits.each.items():
            for hour in _HOURS_OF.get(activity, (18.4,)):
                times = int(self.rng.binomial(2, min(1.0, often / 2 / len(_HOURS_OF.get(activity, (0,))))))
                if not times or until_h < hour + 0.5:
                    continue
                events.append({"at": self._at(on, hour), "type": activity, "count": times})
                taken = times * litres * float(self.rng.lognormal(0, 0.2))
                poured[int(hour)] = poured.get(int(hour), 0.0) + taken
        return poured

    def _run_generator(self, on: date, until_h: float, events: list[dict[str, Any]]) -> None:
        """Where there is a generator and the bank is low in the afternoon, run it for two hours."""
        bank_ = self.rig.first(Role.BANK)
        has = any(s.kind.id == "generator" for s in self.rig.sources)
        if has and bank_ and until_h > 19 and self.level[bank_.id] < 0.66 * bank_.capacity:
            events.append({"at": self._at(on, 17.0), "type": "generator", "hours": 2.0})

    def _calls(self, store: Store) -> bool:
        share = self.level[store.id] / store.capacity
        if store.kind.id == "fuel":
            return share < 0.3
        if store.kind.id == "gas":
            return share < 0.1
        habits = self.scenario.habits
        if store.kind.id == "urine":
            return share > 0.5
        return share < habits.refill_below if store.sense is Sense.DRAINS else share > habits.empty_above

    def _hours(
        self, on: date, ago: int, until_h: float, sky: str, mean_c: float, crew: int, events: list[dict[str, Any]]
    ) -> list[dict[str, Any]]:
        """Live the day's hours; at eight in the evening somebody goes round, most days."""
        place = Place(**self.scenario.places[self.place % len(self.scenario.places)])
        day_use = {
            id: each
            * crew
            / self.rig.crew.people
            * float(self.rng.gamma(self.scenario.habits.spread[id] ** -2))
            * self.scenario.habits.spread[id] ** 2
            for id, each in self.scenario.habits.use.items()
        }
        share, spread = _SKY[sky]
        sun = (
            clear_yield_wh(self.rig, place, on)
            * self.scenario.habits.sun_factor
            * max(0.03, self.rng.normal(share, spread))
        )
        load = audit_wh(self.rig) * self.scenario.habits.load_factor * float(self.rng.lognormal(0, 0.13))
        cold_l = self.scenario.habits.heat_l_per_degree_day * max(0.0, 18 - mean_c) * float(self.rng.lognormal(0, 0.25))
        for heater in self.rig.heaters:
            fuel = self.rig.store(heater.store)
            if fuel is not None:
                runs = min(1.0, cold_l * fuel.kwh_per_unit / heater.full_kw / 24)
                load = load + (heater.watts or 0.0) * runs
        drive = next((e for e in events if e["type"] == "drive"), None)
        self.yield_wh = 0.0
        generator = next((e for e in events if e["type"] == "generator"), None)
        readings: list[dict[str, Any]] = []
        reads = self.rng.random() > self.scenario.habits.misses_evening or ago == _DOUBTFUL_DAYS_AGO
        for hour in range(24):
            part = min(1.0, max(0.0, until_h - hour))
            if part <= 0:
                break
            if hour == 20 and reads and until_h >= 20.6:
                readings = self._round(on, ago)
            for store in self.rig.stores:
                if store.is_bank:
                    amps = self.rig.source_amps(SOURCE_KINDS["alternator"])
                    driven = amps * min(1.0, max(0.0, 12 + drive["hours"] - hour)) if drive and hour >= 12 else 0.0
                    if generator and hour in (17, 18):
                        driven += self.rig.source_amps(SOURCE_KINDS["generator"])
                    self._charge(store, sun[hour] * part, load[hour] * part, driven)
                elif store.kind.id == "fuel":
                    burnt = cold_l if store.id in self.heating else 0.0
                    self.level[store.id] = max(0.0, self.level[store.id] - burnt / 24 * part)
                elif store.id in day_use:
                    if store.id in self.heating:
                        self.level[store.id] = max(0.0, self.level[store.id] - cold_l / 24 * part)
                    used = day_use[store.id] * WAKING_SHAPE[hour] * part * store.sign
                    washed = self.poured.get(hour, 0.0) * float(part == 1)
                    used += {"fresh": -washed, "grey": 0.94 * washed}.get(store.id, 0.0)
                    self.level[store.id] = float(np.clip(self.level[store.id] + used, 0, store.capacity))
        return readings

    def _charge(self, store: Store, sun_wh: float, load_wh: float, driven_ah: float) -> None:
        efficiency = bank.charge_efficiency(store)
        before = self.level[store.id]
        offered = (sun_wh / store.volts + driven_ah) * efficiency
        after = min(store.capacity, before + offered - load_wh / store.volts)
        taken = max(0.0, after - before + load_wh / store.volts) / efficiency
        self.yield_wh += min(sun_wh, max(0.0, taken - driven_ah) * store.volts)
        self.level[store.id] = max(0.0, after)

    def _round(self, on: date, ago: int) -> list[dict[str, Any]]:
        readings = []
        for number, store in enumerate(self.rig.stores):
            weekly = store.kind.id in ("gas", "fuel")
            planted = self.scenario.mishaps and ago == _DOUBTFUL_DAYS_AGO and store.is_bank
            if self.rng.random() < (0.55 if weekly else 0.06) and not planted:
                continue
            reading = self._read(store)
            if planted:
                reading = {"method": "fraction", "value": 0.07}
            readings.append({"at": self._at(on, 20.1 + number / 60), "store": store.id, **reading})
        return readings

    def _read(self, store: Store) -> dict[str, Any]:
        share = self.level[store.id] / store.capacity
        if store.kind.id == "fresh" and share < _DRAWS_AIR:
            return {"method": "dry"}
        if store.kind.id == "solids":
            return {"method": "uses", "value": float(round(self.level[store.id]))}
        if store.gauge.kind == "steps":
            shown = [m for m in store.gauge.marks if m <= share + 1e-9 and (m < 1 or share > 0.97)] or [0.0]
            if share >= 0.97:
                shown = [1.0]
            return {"method": "step", "value": shown[-1]}
        if store.kind.id == "gas" and store.tare_kg is not None:
            return {
                "method": "gross",
                "value": round(self._tare_kg(store) + max(0.0, self.level[store.id] + self.rng.normal(0, 0.1)), 1),
            }
        if store.is_bank and store.gauge.kind == "none":
            volts = bank.rest_volts(store, share) + self.rng.normal(0, 0.04)
            return {"method": "volts", "value": round(volts, 2), "state": "rest"}
        step = store.gauge.resolution or 0.01
        noise = {"sensor": 0.01, "sight": 0.03, "shunt": 0.008}.get(store.gauge.kind, 0.05)
        bias = self.bias[store.id] if store.gauge.kind == "sensor" else 0.0
        value = float(np.clip(round((share + bias + self.rng.normal(0, noise)) / step) * step, 0, 1))
        return {"method": "fraction", "value": round(value, 4)}

    def _tare_kg(self, store: Store) -> float:
        """The empty weight of the bottle in use."""
        spare = self.rig.spare(self.bottle)
        return (spare.tare_kg if spare is not None else store.tare_kg) or 0.0

    def _outlook(self, today: date) -> list[dict[str, Any]]:
        rows = []
        for ahead in range(1, 6):
            sky, low_c, high_c = self._weather(0)
            rows.append(
                {
                    "date": (today + timedelta(days=ahead)).isoformat(),
                    "sky": sky,
                    "temp_min_c": low_c,
                    "temp_max_c": high_c,
                    "crew_aboard": self.rig.crew.people,
                }
            )
        return rows


def _timed(entry: dict[str, Any]) -> dict[str, Any]:
    return entry | {"at": entry["at"].isoformat()}
