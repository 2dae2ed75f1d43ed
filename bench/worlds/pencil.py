"""What somebody with paper would say: the latest level over the last week's mean change, or over a smoothed one.

The level starts anew at each full fill, dump and swap; where no change was ever seen, common practice stands in.
"""

from datetime import datetime, timedelta
from typing import Any

import numpy as np

from bench.forecast.rivals import as_read, smoothed

HORIZON = 14.0
_DAY = timedelta(days=1)
# A person's day, or a rig's for gas and fuel.
_USUAL = {
    "fresh": 14.0,
    "grey": 10.0,
    "black": 6.0,
    "cassette": 3.5,
    "urine": 1.3,
    "solids": 1.0,
    "gas": 0.25,
    "fuel": 0.5,
}
_PLUGS = {"drive", "shore", "generator"}


def pencils(
    document: dict[str, Any], store: dict[str, Any], line: float, drains: bool, now: datetime
) -> tuple[float, float]:
    """Days left by the mean change of the last seven days, and by simple exponential smoothing."""
    sign, level, at, steps = (-1.0 if drains else 1.0), None, None, []
    rows = []
    for day in document["days"]:
        rows += [(datetime.fromisoformat(r["at"]), 0, r) for r in day.get("readings", []) if r["store"] == store["id"]]
        rows += [(datetime.fromisoformat(e["at"]), 1, e) for e in day.get("events", [])]
    for when, is_event, row in sorted(rows, key=lambda each: each[:2]):
        if when > now:
            break
        if not is_event:
            value = as_read(store, row)
            if level is not None and at is not None and (when - at) > 0.3 * _DAY:
                steps.append((sign * (value - level) / ((when - at) / _DAY), (when - at) / _DAY))
            level, at = value, when
        elif row.get("store") == store["id"] and row["type"] in ("fill", "dump", "swap"):
            full = row["type"] == "swap" or row.get("to") == "full"
            start = float(store["capacity"]) if full else row.get("left", 0.0) * store["capacity"]
            level, at = ((level or 0.0) + row["amount"], None) if "amount" in row else (start, when)
        elif row["type"] in _PLUGS and store["kind"] in ("battery", "fuel"):
            at = None
    if level is None:
        return HORIZON, HORIZON
    people = sum(document["rig"]["crew"].get(key, 0) for key in ("adults", "children"))
    usual = _USUAL.get(store["kind"], 0.0 if store["kind"] == "battery" else store["capacity"] / 10)
    usual *= 1 if store["kind"] in ("gas", "fuel", "supply") else max(1, people)
    rates, left = [], 7.0
    for rate, days in reversed(steps):
        rates.append((rate, days))
        left -= days
        if left <= 0:
            break
    mean = sum(r * d for r, d in rates) / sum(d for _, d in rates) if rates else usual
    smooth = smoothed(np.array([r for r, _ in steps])) if len(steps) > 3 else mean
    stale = (now - at) / _DAY if at is not None else 0.0
    return (_days(level, mean, usual, stale, store, line, sign), _days(level, smooth, usual, stale, store, line, sign))


def _days(
    level: float, rate: float, usual: float, stale: float, store: dict[str, Any], line: float, sign: float
) -> float:
    if rate <= 0 and store["kind"] != "battery":
        rate = usual
    now = min(float(store["capacity"]), max(0.0, level + sign * rate * stale))
    room = sign * (line * store["capacity"] - now)
    if room <= 0:
        return 0.0
    return min(HORIZON, room / rate) if rate > 1e-9 else HORIZON
