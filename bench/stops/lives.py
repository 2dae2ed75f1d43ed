"""Rigs that live on for weeks, hour by hour and stop by stop, by a rule that decides each morning."""

from abc import ABC, abstractmethod
from collections.abc import Callable
from copy import deepcopy
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from functools import partial
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np

from bench.stops.places import SERVICE, Places

WARM_UP, DAYS = 24, 60
MORNING, NOON, EVENING, MIDNIGHT = 8, 12, 19, 24
PLUGGED_FROM, PLUGGED_UNTIL = 15, 24 + 10
_KEPT_DAYS = 60  # of a log, which is more than is asked of it
_DRAINS = {"battery", "fresh", "gas", "fuel", "supply"}
# Emptied on foot by everybody, whatever the rule, before it is full: it sends nobody away.
_HERE, _HERE_FROM = "urine", 0.5
_FULL_V, _HALF_V, _EMPTY_V = 12.73, 12.1, 11.4


@dataclass
class Tally:
    """What came of living by a rule."""

    lines: int = 0
    outings: int = 0
    stops: int = 0
    km: float = 0.0
    money: float = 0.0
    rig_days: int = 0
    passed_on: list[tuple[int, str]] = field(default_factory=list)


@dataclass(frozen=True)
class Trip:
    """An outing that a rule decides on: at which local hour, to which places in order, which stores are served at each."""

    hour: int
    calls: tuple[tuple[str, frozenset[str]], ...]


@dataclass
class Morning:
    """What a rule may look at: the file as it would be written, and the gauges as last read."""

    now: datetime
    number: int
    document: Callable[[], dict[str, Any]]
    shown: dict[str, float]


@dataclass(frozen=True)
class Kept:
    """A store whose line is watched: its document, and its line as a share."""

    doc: dict[str, Any]
    line: float

    @property
    def id(self) -> str:
        """What it is called in the file."""
        return str(self.doc["id"])

    @property
    def kind(self) -> str:
        """What it is."""
        return str(self.doc["kind"])

    @property
    def drains(self) -> bool:
        """Whether it is used up, or fills."""
        return self.kind in _DRAINS

    def is_past(self, share: float) -> bool:
        """Whether a share is at or past its line."""
        return share <= self.line if self.drains else share >= self.line

    def shown(self, reading: dict[str, Any]) -> float:
        """What a reading says to somebody who looks at the gauge, as a share."""
        value, capacity = reading.get("value", 0.0), float(self.doc.get("capacity") or 1.0)
        match reading["method"]:
            case "uses" | "amount" | "volume" | "mass":
                return float(value / capacity)
            case "gross":
                return float((value - self.doc.get("tare_kg", 0.0)) / capacity)
            case "volts":
                usual = value * 12.0 / round(float(self.doc.get("nominal_v", 12.0)) / 12.0) / 12.0
                return float(np.interp(usual, [_EMPTY_V, _HALF_V, _FULL_V], [0.0, 0.5, 1.0]))
            case "dry" | "full":
                return float(reading["method"] == "full")
            case _:
                return float(value)


Rule = Callable[["Life", Morning], list[Trip]]


class Life(ABC):
    """A rig with its places and its coming days, the same whatever rule it lives by."""

    zone: ZoneInfo
    first: date

    def __init__(self, seed: int, density: str, lat: float, lon: float, kept: list[Kept]) -> None:
        self.places = Places(seed, density, lat, lon)
        self.kept = {each.id: each for each in kept}
        self.days: list[dict[str, Any]] = []
        self.plugged_until = -1  # in hours of its whole life

    @abstractmethod
    def open_day(self, number: int) -> None:
        """A day begins: what is used in each of its hours is drawn."""

    @abstractmethod
    def hour(self, number: int, hour: int, *, plugged: bool) -> None:
        """Live through an hour."""

    @abstractmethod
    def share(self, id: str) -> float:
        """What is truly in a store, as a share of its capacity."""

    @abstractmethod
    def serve(self, id: str, number: int, hour: int) -> None:
        """Fill, empty or swap a store, and log it or forget it."""

    @abstractmethod
    def drive(self, km: float, number: int, hour: int) -> None:
        """Drive so far, and log it."""

    @abstractmethod
    def plug(self, number: int, hour: int, hours: int) -> None:
        """Log a night plugged in; that it charges is lived in its hours."""

    @abstractmethod
    def look(self, number: int) -> list[dict[str, Any]]:
        """The readings of an evening, which are logged."""

    @abstractmethod
    def close_day(self, number: int) -> None:
        """The day is over: it is in the log."""

    @abstractmethod
    def document(self, number: int) -> dict[str, Any]:
        """The file as it would be written that morning."""

    def at(self, number: int, hour: float) -> datetime:
        """A local time of a day."""
        on = self.first + timedelta(days=number)
        return datetime(on.year, on.month, on.day, tzinfo=self.zone) + timedelta(minutes=round(hour * 60))

    @property
    def at_stops(self) -> list[Kept]:
        """The stores that somebody has to go with the rig for."""
        return [each for each in self.kept.values() if each.kind != _HERE]

    def live_by(self, rule: Rule, watch: Callable[["Life", Morning], object] = lambda *each: None) -> Tally:
        """Live through all days by a rule; what comes of the days after the warm-up."""
        tally, past, shown = Tally(rig_days=DAYS), set[str](), dict[str, float]()
        for number in range(WARM_UP + DAYS):
            counted = tally if number >= WARM_UP else Tally()
            self.open_day(number)
            for hour in range(MORNING):
                self._hour(number, hour, past, counted)
            shown |= {id: self.share(id) for id in past}  # what is past its line is noticed by everybody
            morning = Morning(self.at(number, MORNING), number, partial(self.file, number), dict(shown))
            trips = (by_gauge if number < WARM_UP else rule)(self, morning)
            if number >= WARM_UP:
                watch(self, morning)
            for hour in range(MORNING, MIDNIGHT):
                for trip in trips:
                    if trip.hour == hour:
                        self._make(trip, number, counted, shown)
                self._hour(number, hour, past, counted)
                if hour == EVENING:
                    shown |= self._evening(number)
            self.close_day(number)
        return tally

    def file(self, number: int) -> dict[str, Any]:
        """The file with the book of places, and the posts that charge."""
        document = self.document(number) | {"places": self.places.book}
        document["days"] = deepcopy(document["days"][-_KEPT_DAYS:])
        for day in document["days"]:
            for key in ("readings", "events"):
                if key in day and not day[key]:
                    del day[key]
        for store in document["rig"]["stores"]:
            if store["kind"] == _HERE:
                store["served"] = "here"
        return document

    def _hour(self, number: int, hour: int, past: set[str], tally: Tally) -> None:
        self.hour(number, hour, plugged=number * MIDNIGHT + hour < self.plugged_until)
        for each in self.at_stops:
            is_past = each.is_past(self.share(each.id))
            if is_past and each.id not in past:
                tally.lines += 1
                tally.passed_on.append((number, each.kind))
            (past.add if is_past else past.discard)(each.id)

    def _evening(self, number: int) -> dict[str, float]:
        plugged = number * MIDNIGHT + EVENING < self.plugged_until
        found = {}
        for reading in self.look(number):
            each = self.kept[reading["store"]]
            # on the charger a bank's volts tell nothing: it is taken to be full by the morning
            found[each.id] = 1.0 if plugged and each.kind == "battery" else each.shown(reading)
        for each in self.kept.values():
            if each.kind == _HERE and self.share(each.id) > _HERE_FROM:
                self.serve(each.id, number, EVENING + 1)
        return found

    def _make(self, trip: Trip, number: int, tally: Tally, shown: dict[str, float]) -> None:
        km = self.places.way([place for place, _ in trip.calls])
        tally.outings += 1
        tally.km += km
        self.drive(km, number, trip.hour)
        for id, wanted in trip.calls:
            place = self.places.place(id)
            tally.stops += 1
            tally.money += place.get("fee", 0.0)
            for each in self.at_stops:
                if each.id not in wanted:
                    continue
                shown[each.id] = float(each.drains)
                service = place["services"][SERVICE[each.kind]]
                if each.kind == "battery":
                    begins = max(trip.hour, PLUGGED_FROM)
                    self.plugged_until = number * MIDNIGHT + PLUGGED_UNTIL
                    self.plug(number, begins, PLUGGED_UNTIL - begins)
                    tally.money += service["price_night"]
                    continue
                gone = (1 - self.share(each.id)) * float(each.doc.get("capacity") or 0.0)
                tally.money += gone * (service.get("price_per_kg") or service.get("price_per_l") or 0.0)
                self.serve(each.id, number, trip.hour)

    def would_hold(self, number: int, days: float) -> bool:
        """Whether no line would be passed for so many days from a morning on, without any stop."""
        other = deepcopy(self)
        left, hour = int(days * MIDNIGHT), MORNING
        while left > 0:
            other.hour(number, hour, plugged=False)
            if any(each.is_past(other.share(each.id)) for each in other.at_stops):
                return False
            left, hour = left - 1, hour + 1
            if hour == MIDNIGHT:
                other.close_day(number)
                number, hour = number + 1, 0
                other.open_day(number)
        return True


def _to(life: Life, due: set[str], take: Callable[[str], bool]) -> list[Trip]:
    """One outing to the fewest places, nearest first, that serve what is due; at each everything that ``take`` says.
    Where waste is emptied comes before where water is taken in."""
    places, kind = life.places, {each.id: each.kind for each in life.at_stops}
    calls, left = [], set(due)
    while left:
        best = max(
            places.book, key=lambda p: (sum(places.serves(p["id"], kind[id]) for id in left), -places.km(p["id"]))
        )
        got = {id for id in left if places.serves(best["id"], kind[id])}
        if not got:
            break
        every = {id for id, of in kind.items() if places.serves(best["id"], of) and take(of)}
        calls.append((best["id"], frozenset(got | every)))
        left -= got
    calls.sort(key=lambda call: any(kind[id] == "fresh" for id in call[1]))
    return [Trip(NOON, tuple(calls))] if calls else []


def by_gauge(life: Life, morning: Morning) -> list[Trip]:
    """Goes when any gauge shows under 20 or over 80 %."""
    due = set()
    for each in life.at_stops:
        share = morning.shown.get(each.id, 0.5)
        low = max(0.2, each.line + 0.05) if each.kind == "battery" else 0.2
        if share < low if each.drains else share > 0.8:
            due.add(each.id)
    return _to(life, due, lambda kind: kind in ("fresh", "grey", "black", "cassette", "solids"))


def every_days(n: int) -> Rule:
    """Goes every n days and has everything served."""
    return lambda life, morning: (
        _to(life, {each.id for each in life.at_stops}, lambda kind: True) if (morning.number - WARM_UP) % n == 0 else []
    )
