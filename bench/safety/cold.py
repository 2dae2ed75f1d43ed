"""A start on ten years of six stores: how soon there is an answer, and how soon a fresh one."""

import json
import shutil
import tempfile
import time
from datetime import datetime, timedelta
from http import HTTPStatus
from pathlib import Path
from typing import Any

from bench.safety.table import Row
from bench.server import serving
from bench.server_speed import NOW, Browser
from lodeline.demo.life import live
from lodeline.demo.scenario import SANDMARTIN

_YEARS_DAYS, _TANKS, _LATER = 3652, 60, "2026-11-26T07:10:00+00:00"
_ANSWER_S, _LIMIT_S = 2.0, 5.0


def _first(browser: Browser, path: str) -> tuple[str, float, float]:
    """What came first and when, and when a fresh answer came."""
    began, first = time.monotonic(), ""
    first_s = 0.0
    while True:
        status, body, head = browser.send("GET", path, b"")
        is_older = "X-Lodeline-As-Of" in head or status == HTTPStatus.ACCEPTED
        what = "an older answer, marked" if is_older else "a fresh answer"
        if status == HTTPStatus.ACCEPTED:
            what = json.loads(body)["problem"]
        if not first:
            first, first_s = what, time.monotonic() - began
        if not is_older:
            return first, first_s, time.monotonic() - began
        time.sleep(0.1)


def _dense(tanks: int) -> dict[str, Any]:
    """As much as a file may hold: sixty stores with 18,000 readings in the days that are looked at."""
    start = datetime.fromisoformat(NOW).date() - timedelta(days=99)
    stores = [{"id": f"tank-{n}", "kind": "fresh", "name": f"Tank {n}", "capacity": 100} for n in range(tanks)]
    days = [
        {
            "date": str(on),
            "readings": [
                {
                    "at": f"{on}T{6 + 6 * turn:02d}:00:00+00:00",
                    "store": each["id"],
                    "method": "fraction",
                    "value": ((n * 7 + turn * 3 + index) % 80 + 10) / 100,
                }
                for turn in range(3)
                if on < datetime.fromisoformat(NOW).date() or turn < 2
                for index, each in enumerate(stores)
            ],
        }
        for n, on in enumerate(start + timedelta(days=n) for n in range(100))
    ]
    rig = {"name": "Many tanks", "timezone": "UTC", "units": "metric", "crew": {"adults": 2}, "stores": stores}
    return {"format": "lodeline-logbook", "version": 1, "rig": rig, "days": days}


def _started(what: str, data: Path, rig: int) -> Row:
    """What comes first after a start."""
    with serving("demo", data, _LATER) as address:
        first, first_s, fresh_s = _first(Browser(address), f"/api/rigs/{rig}/horizon")
    said = f"after {first_s:.1f} s: {first}; fresh after {fresh_s:.1f} s"
    return Row(what, said, first_s <= _ANSWER_S)


def rows(days: int = _YEARS_DAYS, tanks: int = _TANKS) -> list[Row]:
    """Starts of several kinds."""
    found = []
    book = live(SANDMARTIN, datetime.fromisoformat(NOW), 22, days).document
    with tempfile.TemporaryDirectory(prefix="lodeline-") as folder:
        data = Path(folder)
        with serving("demo", data, NOW) as address:
            browser = Browser(address)
            began = time.monotonic()
            rig = browser.call("POST", "/api/imports", book)["rig"]
            imported_s = time.monotonic() - began
            first, first_s, fresh_s = _first(browser, f"/api/rigs/{rig}/horizon")
            found.append(
                Row(
                    "ten years, just imported",
                    f"imported in {imported_s:.1f} s; after {first_s:.1f} s: {first}; fresh after {fresh_s:.1f} s",
                    first_s <= _ANSWER_S,
                )
            )
            dense = browser.call("POST", "/api/imports", _dense(tanks))["rig"]
            _, _, dense_s = _first(browser, f"/api/rigs/{dense}/horizon")
            found.append(Row("18,000 readings on 60 stores", f"fresh after {dense_s:.1f} s", dense_s <= _LIMIT_S))
        found.append(_started("started again the next morning", data, rig))
        for cache in (data / "demo" / "cache", data / "cache"):
            shutil.rmtree(cache, ignore_errors=True)
        found.append(_started("started with nothing derived, as after an upgrade", data, rig))
    return found


if __name__ == "__main__":
    for row in rows():
        print("holds" if row.holds else "FAILS", "|", row.test, "|", row.outcome)
