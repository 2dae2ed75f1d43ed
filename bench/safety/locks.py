"""Large writes on one rig, and how long small writes on another have to wait meanwhile."""

import threading
import time
import urllib.error
from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any
from uuid import uuid4

from bench.safety.table import Row
from bench.server import demo_server
from bench.server_speed import NOW, Browser

_DAYS, _A_DAY = 1000, 100
# A write's own time beside the wait, on a machine that is busy with the large one.
_WAIT_S = 1.0


def _book(n_days: int) -> dict[str, Any]:
    """100,000 readings of one tank."""
    last = datetime.fromisoformat(NOW).date() - timedelta(days=1)
    days = []
    for back in range(n_days - 1, -1, -1):
        on = last - timedelta(days=back)
        at = [f"{on}T{n * 14 // 60:02d}:{n * 14 % 60:02d}:00+00:00" for n in range(_A_DAY)]
        days.append(
            {
                "date": str(on),
                "readings": [{"at": each, "store": "tank", "method": "fraction", "value": 0.5} for each in at],
            }
        )
    stores = [{"id": "tank", "kind": "fresh", "name": "Tank", "capacity": 100}]
    rig = {"name": "Logger", "timezone": "UTC", "units": "metric", "crew": {"adults": 2}, "stores": stores}
    return {"format": "lodeline-logbook", "version": 1, "rig": rig, "days": days}


def _meanwhile(address: str, rig: int, work: Callable[[], Any]) -> tuple[Any, float, float]:
    """What a large write answers, how long it took, and the longest that a small one took while it went on."""
    waits: list[float] = []
    over = threading.Event()

    def small() -> None:
        browser = Browser(address)
        while not over.is_set():
            began = time.monotonic()
            browser.call(
                "POST",
                f"/api/rigs/{rig}/writes",
                {"writes": [{"id": str(uuid4()), "add": {"event": {"type": "shower", "full": False, "amount": 1}}}]},
            )
            waits.append(time.monotonic() - began)
            time.sleep(0.02)

    writer = threading.Thread(target=small)
    writer.start()
    began = time.monotonic()
    try:
        answer = work()
    finally:
        over.set()
        writer.join()
    return answer, time.monotonic() - began, max(waits, default=0.0)


def rows(days: int = _DAYS) -> list[Row]:
    """An import, a change of timezone, an import over it, its undoing, and a deletion."""
    found = []
    with demo_server(NOW) as address:
        browser = Browser(address)
        small = browser.call("GET", "/api/account/me")["rigs"][0]["id"]
        browser.patient("GET", f"/api/rigs/{small}/horizon")
        made, took, wait = _meanwhile(address, small, lambda: browser.call("POST", "/api/imports", _book(days)))
        rig = made["rig"]
        steps: dict[str, Callable[[], Any]] = {
            "its timezone changed": lambda: browser.call(
                "PUT",
                f"/api/rigs/{rig}?saw=1",
                browser.call("GET", f"/api/rigs/{rig}")["doc"] | {"timezone": "Pacific/Auckland"},
            ),
            "another file imported over it": lambda: browser.call(
                "POST", f"/api/rigs/{rig}/import?saw=99", _book(days)
            ),
            "that undone": lambda: browser.call("POST", f"/api/rigs/{rig}/import/undo?saw=99"),
            "deleted": lambda: browser.call("POST", f"/api/rigs/{rig}/delete", {"name": "Logger"}),
        }
        found.append(
            Row(
                "100,000 readings imported", f"{took:.1f} s; a small write waited at most {wait:.2f} s", wait <= _WAIT_S
            )
        )
        for name, step in steps.items():
            try:
                _, took, wait = _meanwhile(address, small, step)
            except urllib.error.HTTPError as error:
                found.append(Row(name, f"{error.code} {error.read()[:80]!r}", False))
                continue
            found.append(Row(name, f"{took:.1f} s; a small write waited at most {wait:.2f} s", wait <= _WAIT_S))
    return found


if __name__ == "__main__":
    for row in rows():
        print("holds" if row.holds else "FAILS", "|", row.test, "|", row.outcome)
