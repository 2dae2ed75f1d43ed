"""What a person with paper and a mean would say: the latest level as read over a mean or a smoothed use."""

import warnings
from typing import Any

import numpy as np

from bench.forecast.banks import table_v

_HORIZON = 14.0


def as_read(store: dict[str, Any], reading: dict[str, Any]) -> float:
    """Contents as a reading has them, at its word."""
    method, value, capacity = reading["method"], reading.get("value", 0.0), float(store["capacity"])
    match method:
        case "fraction" | "step":
            return float(value) * capacity
        case "gross":
            return float(value) - float(store["tare_kg"])
        case "volts":
            shares, volts = table_v(store["chemistry"])
            return float(np.interp(value * (1 if store["nominal_v"] < 20 else 0.5), volts, shares)) * capacity
        case "dry":
            return 0.0
        case "full":
            return capacity
    return float(value)


def series(document: dict[str, Any], store: dict[str, Any]) -> tuple[float | None, list[tuple[int, float]]]:
    """The latest level as read, and net change a day between readings with no event between, by day number."""
    latest: float | None = None
    before: tuple[int, float] | None = None
    changes = []
    for day in document["days"]:
        number = int(np.datetime64(day["date"]).astype(int))
        touched = any(
            event.get("store") == store["id"] or (event["type"] == "drive" and store["kind"] in ("fuel", "battery"))
            for event in day["events"]
        )
        if touched:
            before = None
        for reading in day["readings"]:
            if reading["store"] != store["id"]:
                continue
            level = as_read(store, reading)
            if before is not None and number > before[0]:
                each = (level - before[1]) / (number - before[0])
                changes += [(n, each) for n in range(before[0] + 1, number + 1)]
            latest, before = level, (number, level)
    return latest, changes


def _days(latest: float | None, rate: float | None, store: dict[str, Any], line: float, drains: bool) -> float:
    if latest is None or rate is None:
        return _HORIZON
    room = latest - line * store["capacity"] if drains else line * store["capacity"] - latest
    speed = -rate if drains else rate
    if room <= 0:
        return 0.0
    return min(_HORIZON, room / speed) if speed > 1e-9 else _HORIZON


def baseline(document: dict[str, Any], store: dict[str, Any], line: float, drains: bool) -> tuple[float, float]:
    """Days left by the mean net change of the last seven days, and by simple exponential smoothing (statsmodels)."""
    latest, changes = series(document, store)
    if not changes:
        return _days(latest, None, store, line, drains), _days(latest, None, store, line, drains)
    newest = max(number for number, _ in changes)
    week = [change for number, change in changes if number > newest - 7]
    mean = _days(latest, float(np.mean(week)), store, line, drains)
    values = np.array([change for _, change in changes])
    if len(values) < 4:
        return mean, mean
    return mean, _days(latest, smoothed(values), store, line, drains)


def smoothed(values: np.ndarray) -> float:
    """The next value by simple exponential smoothing (statsmodels)."""
    from statsmodels.tsa.holtwinters import SimpleExpSmoothing

    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        np.seterr(all="ignore")
        return float(SimpleExpSmoothing(values, initialization_method="estimated").fit().forecast(1)[0])


def smoothed_and_mean(level: float | None, changes: list[tuple[int, float]], line: float) -> tuple[float, float]:
    """The same two for a bank whose level and net changes are shares of capacity."""
    if level is None or not changes:
        return _HORIZON, _HORIZON
    store = {"capacity": 1.0}
    newest = max(number for number, _ in changes)
    mean = _days(level, float(np.mean([c for n, c in changes if n > newest - 7])), store, line, True)
    values = np.array([change for _, change in changes])
    return mean, _days(level, smoothed(values), store, line, True) if len(values) >= 4 else mean
