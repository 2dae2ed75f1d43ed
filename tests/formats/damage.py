"""Kinds of damage to the example file: name, what is done, the place that must be named, what must be said."""

from collections.abc import Callable
from typing import Any

Damage = tuple[str, Callable[[Any], object], str, str]


def put(value: Any, *path: str | int) -> Callable[[Any], object]:
    """Put a value at a path."""

    def hurt(document: Any) -> None:
        inner = document
        for part in path[:-1]:
            inner = inner[part]
        inner[path[-1]] = value

    return hurt


def drop(*path: str | int) -> Callable[[Any], object]:
    """Take away what is at a path."""

    def hurt(document: Any) -> None:
        inner = document
        for part in path[:-1]:
            inner = inner[part]
        del inner[path[-1]]

    return hurt


STORES, DAY, EVENTS, READINGS = ("rig", "stores"), ("days", 0), ("days", 0, "events"), ("days", 0, "readings")
_AT = "2026-09-03T20:30:00+01:00"


def add_reading(**reading: Any) -> Callable[[Any], object]:
    return lambda document: document["days"][0]["readings"].append({"at": _AT} | reading)


def add_event(**event: Any) -> Callable[[Any], object]:
    return lambda document: document["days"][0]["events"].append({"at": _AT} | event)


NEW_READING, NEW_EVENT = "days[0].readings[3]", "days[0].events[3]"

DAMAGES: list[Damage] = [
    ("another format", put("boat-log", "format"), "format", "lodeline-logbook"),
    ("warmth for a tank", put(True, *STORES, 1, "kept_warm"), "rig.stores[1].kept_warm", "has no kept_warm"),
    ("a horizon overhead", put(95, "rig", "solar", 0, "horizon_deg"), "rig.solar[0].horizon_deg", "less than 90"),
    (
        "an inverter that is on perhaps",
        put("yes", "rig", "inverter", "always_on"),
        "rig.inverter.always_on",
        "true or false",
    ),
    ("a later version", put(2, "version"), "version", "must be 1"),
    ("a version that is true", put(True, "version"), "version", "must be 1"),
    ("no rig", drop("rig"), "rig", "is missing"),
    ("no days", drop("days"), "days", "is missing"),
    ("an unknown key on top", put(1, "colour"), "colour", "unknown key"),
    ("an unknown key deep down", put(1, *STORES, 1, "color"), "rig.stores[1].color", "unknown key"),
    ("no name", drop("rig", "name"), "rig.name", "is missing"),
    ("an empty name", put("", "rig", "name"), "rig.name", "must not be empty"),
    ("a timezone of nowhere", put("Europe/Atlantis", "rig", "timezone"), "rig.timezone", "no timezone"),
    ("a timezone that is a path", put("../../etc", "rig", "timezone"), "rig.timezone", "no timezone"),
    ("unknown units", put("imperial", "rig", "units"), "rig.units", "must be"),
    ("half an adult", put(1.5, "rig", "crew", "adults"), "rig.crew.adults", "whole number"),
    ("nobody aboard", put({"adults": 0}, "rig", "crew"), "rig.crew", "somebody"),
    ("no store", put([], *STORES), "rig.stores", "must not be empty"),
    ("an unknown kind", put("sauna", *STORES, 1, "kind"), "rig.stores[1].kind", "must be"),
    ("a capacity in text", put("140", *STORES, 1, "capacity"), "rig.stores[1].capacity", "must be a number"),
    ("a capacity of nothing", put(0, *STORES, 1, "capacity"), "rig.stores[1].capacity", "greater than 0"),
    ("no capacity", drop(*STORES, 1, "capacity"), "rig.stores[1].capacity", "is missing"),
    ("a line over full", put(1.2, *STORES, 1, "limit"), "rig.stores[1].limit", "at most 1"),
    ("an id with capitals", put("Fresh", *STORES, 1, "id"), "rig.stores[1].id", "a-z"),
    ("an id twice", put("grey", *STORES, 1, "id"), "rig.stores[2].id", "twice"),
    ("a battery of no chemistry", drop(*STORES, 0, "chemistry"), "rig.stores[0].chemistry", "is missing"),
    ("a battery of no volts", drop(*STORES, 0, "nominal_v"), "rig.stores[0].nominal_v", "is missing"),
    (
        "a bank added in series",
        put({"unit_v": 12.8, "unit_ah": 140, "series": 1, "parallel": 1}, *STORES, 0, "layout"),
        "rig.stores[0].capacity",
        "makes 140 Ah",
    ),
    ("chemistry of water", put("lfp", *STORES, 1, "chemistry"), "rig.stores[1].chemistry", "has no chemistry"),
    ("diesel in a gas bottle", put("diesel", *STORES, 4, "fuel"), "rig.stores[4].fuel", "propane, butane or mix"),
    ("an unknown gauge", put({"kind": "dial"}, *STORES, 1, "gauge"), "rig.stores[1].gauge.kind", "must be 'steps'"),
    (
        "marks that do not rise",
        put([0, 0.67, 0.33, 1], *STORES, 1, "gauge", "marks"),
        "rig.stores[1].gauge.marks[2]",
        "rise",
    ),
    (
        "a source that burns nothing aboard",
        put("kerosene", "rig", "sources", 0, "fuel_store"),
        "rig.sources[0].fuel_store",
        "no store",
    ),
    (
        "a load of 30 hours a day",
        put(30, "rig", "loads", 0, "hours_per_day"),
        "rig.loads[0].hours_per_day",
        "at most 24",
    ),
    ("a date that is none", put("2026-02-30", *DAY, "date"), "days[0].date", "there is no"),
    ("a date with a time", put("2026-09-03T00:00:00+01:00", *DAY, "date"), "days[0].date", "must be a date"),
    ("days out of order", lambda document: document["days"].reverse(), "days[1].date", "out of time order"),
    ("a date twice", put([], "days", 0), "days[0]", "must be an object"),
    ("an unknown sky", put("sunny", *DAY, "sky"), "days[0].sky", "must be"),
    ("a coldest above the warmest", put(30, *DAY, "temp_min_c"), "days[0].temp_min_c", "above"),
    ("a place off the earth", put(97.5, *DAY, "place", "lat"), "days[0].place.lat", "at most 90"),
    ("a time without its offset", put("2026-09-03T20:10:00", *READINGS, 0, "at"), "days[0].readings[0].at", "offset"),
    (
        "a reading of another day",
        put("2026-09-04T00:10:00+01:00", *READINGS, 2, "at"),
        "days[0].readings[2].at",
        "not on",
    ),
    ("readings out of order", put("2026-09-03T21:00:00+01:00", *READINGS, 0, "at"), "days[0].readings[1].at", "order"),
    ("events out of order", put("2026-09-03T12:00:00+01:00", *EVENTS, 0, "at"), "days[0].events[1].at", "order"),
    ("a store that is not aboard", put("gray", *READINGS, 1, "store"), "days[0].readings[1].store", 'no store "gray"'),
    ("an unknown method", put("guess", *READINGS, 0, "method"), "days[0].readings[0].method", "must be"),
    ("a mark that is not on the panel", put(0.5, *READINGS, 1, "value"), "days[0].readings[1].value", "marks"),
    ("a fraction of 94", put(94, *READINGS, 0, "value"), "days[0].readings[0].value", "between 0 and 1"),
    ("a value below nothing", put(-0.1, *READINGS, 0, "value"), "days[0].readings[0].value", "at least 0"),
    ("a reading of no value", drop(*READINGS, 0, "value"), "days[0].readings[0].value", "is missing"),
    ("a gross weight under the tare", put(7.0, *READINGS, 2, "value"), "days[0].readings[2].value", "empty bottle"),
    (
        "more water than the tank holds",
        add_reading(store="fresh", method="volume", value=143),
        f"{NEW_READING}.value",
        "more than",
    ),
    ("a dry with a value", add_reading(store="fresh", method="dry", value=0), f"{NEW_READING}.value", "no value"),
    (
        "volts of water",
        add_reading(store="fresh", method="volts", value=12),
        f"{NEW_READING}.method",
        "not read by volts",
    ),
    (
        "a state without volts",
        add_reading(store="house", method="fraction", value=0.5, state="rest"),
        f"{NEW_READING}.state",
        "volts",
    ),
    ("an unknown event", add_event(type="wash", count=1), f"{NEW_EVENT}.type", "must be 'fill'"),
    ("an event of no type", add_event(store="grey"), f"{NEW_EVENT}.type", "is missing"),
    ("a fill of waste", add_event(type="fill", store="grey", to="full"), f"{NEW_EVENT}.store", "cannot be filled"),
    ("a dump of drinking water", add_event(type="dump", store="fresh"), f"{NEW_EVENT}.store", "cannot be emptied"),
    ("a key of another event", add_event(type="swap", store="gas", amount=3), f"{NEW_EVENT}.amount", "unknown key"),
    (
        "a move from nowhere",
        add_event(**{"type": "move", "from": "tank", "to": "fresh", "amount": 5}),
        f"{NEW_EVENT}.from",
        "no store",
    ),
    (
        "a reserve that is not carried",
        add_event(**{"type": "move", "from": "reserve", "to": "diesel", "amount": 5}),
        f"{NEW_EVENT}.from",
        "no reserve",
    ),
    (
        "water poured into gas",
        add_event(**{"type": "move", "from": "fresh", "to": "gas", "amount": 1}),
        f"{NEW_EVENT}.to",
        "differently",
    ),
    ("a drive of no hours", add_event(type="drive"), f"{NEW_EVENT}.hours", "is missing"),
    (
        "a source that burns water",
        put("fresh", "rig", "sources", 0, "fuel_store"),
        "rig.sources[0].fuel_store",
        "not a fuel store",
    ),
    ("a store called outside", put("outside", *STORES, 1, "id"), "rig.stores[1].id", "choose another id"),
    (
        "a bank of neither capacity nor layout",
        drop(*STORES, 0, "capacity"),
        "rig.stores[0].capacity",
        "capacity or layout",
    ),
    (
        "units in series that make other volts",
        put({"unit_v": 12.8, "unit_ah": 280, "series": 2, "parallel": 1}, *STORES, 0, "layout"),
        "rig.stores[0].nominal_v",
        "makes 25.6 V",
    ),
    ("a full with a value", add_reading(store="fresh", method="full", value=1), f"{NEW_READING}.value", "no value"),
    ("a mark on a bottle", add_reading(store="gas", method="step", value=0.5), f"{NEW_READING}.method", "no panel"),
    (
        "litres of a bank",
        add_reading(store="house", method="volume", value=5),
        f"{NEW_READING}.method",
        "not read by volume",
    ),
    (
        "kilograms of water",
        add_reading(store="fresh", method="mass", value=5),
        f"{NEW_READING}.method",
        "not read by mass",
    ),
    (
        "more gas than a bottle holds",
        add_reading(store="gas", method="mass", value=40),
        f"{NEW_READING}.value",
        "more than",
    ),
    ("a gross weight of water", add_reading(store="fresh", method="gross", value=40), f"{NEW_READING}.method", "use"),
    (
        "a gross weight over bottle and gas",
        add_reading(store="gas", method="gross", value=60),
        f"{NEW_READING}.value",
        "bottle and contents",
    ),
    (
        "a plain amount of water",
        add_reading(store="fresh", method="amount", value=5),
        f"{NEW_READING}.method",
        "not read by amount",
    ),
    (
        "volts of twice the bank",
        add_reading(store="house", method="volts", value=40),
        f"{NEW_READING}.value",
        "cannot be right for",
    ),
    ("uses of water", add_reading(store="fresh", method="uses", value=4), f"{NEW_READING}.method", "not read by uses"),
    ("a battery filled", add_event(type="fill", store="house", to="full"), f"{NEW_EVENT}.store", "cannot be filled"),
    (
        "more filled than the tank holds",
        add_event(type="fill", store="fresh", amount=900),
        f"{NEW_EVENT}.amount",
        "more than",
    ),
    ("a grey tank swapped", add_event(type="swap", store="grey"), f"{NEW_EVENT}.store", "not swapped"),
    (
        "a drive on drinking water",
        add_event(type="drive", hours=1, store="fresh"),
        f"{NEW_EVENT}.store",
        "not a tank that a vehicle drives from",
    ),
    (
        "a move from a tank to itself",
        add_event(**{"type": "move", "from": "fresh", "to": "fresh", "amount": 5}),
        NEW_EVENT,
        "one store to another",
    ),
    (
        "a move from nowhere to nowhere",
        add_event(**{"type": "move", "from": "reserve", "to": "outside", "amount": 5}),
        NEW_EVENT,
        "one store to another",
    ),
    (
        "water poured into a battery",
        add_event(**{"type": "move", "from": "fresh", "to": "house", "amount": 5}),
        f"{NEW_EVENT}.to",
        "takes nothing that is poured",
    ),
    (
        "more moved than the tank holds",
        add_event(**{"type": "move", "from": "fresh", "to": "outside", "amount": 500}),
        f"{NEW_EVENT}.amount",
        "more than",
    ),
    (
        "a coming day colder than its warmest",
        put([{"date": "2026-09-05", "temp_min_c": 20, "temp_max_c": 10}], "outlook"),
        "outlook[0].temp_min_c",
        "above",
    ),
    ("an outlook date twice", put("2026-09-06", "outlook", 0, "date"), "outlook[1].date", "twice"),
    ("an unknown status", put("sailing", "outlook", 0, "status"), "outlook[0].status", "must be"),
]
