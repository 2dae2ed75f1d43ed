"""Requests that cost little to send: how long each holds the server, and what all its processes hold of memory meanwhile."""

import http.client
import json
import re
import subprocess
import tempfile
import threading
import time
import urllib.error
from collections.abc import Callable
from datetime import date, timedelta
from pathlib import Path
from typing import Any

from bench.safety.kills import Killable
from bench.safety.table import Row
from bench.server import ROOT
from bench.server_speed import Browser
from lodeline.api.limits import patience_s
from lodeline.formats.document import MOST_PLACES
from lodeline.formats.strict_json import MOST_PARTS

_MOST_MIB, _LONGEST_S = 700, 10.0
_SIGN_INS, _AT_ONCE = 40, 8
_PSS = re.compile(r"^Pss:\s+(\d+)", re.MULTILINE)


def _held_mib(group: int) -> float:
    """What the processes of a group hold together; what they share counts once."""
    found = subprocess.run(["pgrep", "-g", str(group)], capture_output=True, text=True, check=False).stdout.split()
    total = 0
    for pid in found:
        try:
            total += int(_PSS.search(Path(f"/proc/{pid}/smaps_rollup").read_text())[1])  # type: ignore[index]
        except (OSError, TypeError):
            continue
    return total / 1024


class _Watch(threading.Thread):
    """Notes the most that was held."""

    def __init__(self, group: int) -> None:
        super().__init__(daemon=True)
        self.group, self.most, self.ended = group, 0.0, False

    def run(self) -> None:
        while not self.ended:
            self.most = max(self.most, _held_mib(self.group))
            time.sleep(0.2)


def _log_of(days: int, per_day: int) -> bytes:
    """A logbook file of so many days from 1970 on, each with so many readings."""
    book = json.loads((ROOT / "docs" / "example.logbook.json").read_text())
    book.pop("outlook", None)
    book["rig"]["timezone"] = "UTC"
    store = book["rig"]["stores"][0]["id"]

    def readings(on: str) -> list[dict[str, Any]]:
        times = [f"{on}T{n // 60:02d}:{n % 60:02d}:00+00:00" for n in range(per_day)]
        return [{"at": at, "store": store, "method": "fraction", "value": 0.5} for at in times]

    dates = [(date(1970, 1, 1) + timedelta(days=n % 40_000)).isoformat() for n in range(days)]
    book["days"] = [{"date": on, "readings": readings(on)} for on in dates]
    return json.dumps(book).encode()


def _asked(browser: Browser, method: str, path: str, body: bytes) -> str:
    try:
        browser.send(method, path, body)
    except urllib.error.HTTPError as error:
        return str(error.code)
    except (OSError, http.client.HTTPException) as error:
        return type(error).__name__
    return "200"


def _sign_in(address: str, n: int) -> str:
    browser = Browser(address, door=False)
    return _asked(
        browser, "POST", "/api/account/sign-in", json.dumps({"username": f"x{n}", "password": "x" * 20}).encode()
    )


def rows(share: int = 1) -> list[Row]:
    """What each kind of request costs. ``share``: the files are so many times smaller."""
    with tempfile.TemporaryDirectory(prefix="lodeline-") as folder:
        server = Killable(Path(folder))
        server.start(first=True)
        try:
            return _rows(server, share)
        finally:
            server.kill()


def _rows(server: Killable, share: int) -> list[Row]:
    browser = Browser(server.address)
    rig = browser.call("GET", "/api/account/me")["rigs"][0]["id"]
    for view in ("horizon", "energy", "plan", "water", "fuel", "log"):
        browser.patient("GET", f"/api/rigs/{rig}/{view}")
    places = json.dumps({"text": "name,lat,lon\n" + "Tap,1,2\n" * 300_000}).encode()
    at_most = json.dumps({"text": "name,lat,lon\n" + "".join(f"T{n},1,2\n" for n in range(MOST_PLACES))}).encode()
    large, most = _log_of(1_000_000 // share, 0), _log_of(2_000 // share, MOST_PARTS // 2_000 - 2)
    kinds: list[tuple[str, int, Callable[[int], str]]] = [
        ("at rest", 1, lambda n: _asked(browser, "GET", "/api/health", b"")),
        (f"{_SIGN_INS} sign-ins at once, no account", _SIGN_INS, lambda n: _sign_in(server.address, n)),
        (
            "previews of a log of 1,000,000 days at once",
            4,
            lambda n: _asked(Browser(server.address), "POST", "/api/imports/preview", large),
        ),
        (
            f"previews of a log of {MOST_PARTS} parts at once",
            4,
            lambda n: _asked(Browser(server.address), "POST", "/api/imports/preview", most),
        ),
        ("an import of as much", 1, lambda n: _asked(browser, "POST", "/api/imports", most)),
        (
            "previews of 300,000 places at once",
            _AT_ONCE,
            lambda n: _asked(Browser(server.address), "POST", f"/api/rigs/{rig}/places/preview", places),
        ),
        (
            f"previews of {MOST_PLACES} places at once",
            _AT_ONCE,
            lambda n: _asked(Browser(server.address), "POST", f"/api/rigs/{rig}/places/preview", at_most),
        ),
        (
            "exports at once of all that was imported",
            _AT_ONCE,
            lambda n: _asked(Browser(server.address), "GET", f"/api/rigs/{rig + 2}/export", b""),
        ),
    ]
    # one that goes over a whole log has longer, one at a time: so the limits say
    lines = {name: patience_s("/api/imports") if "import of" in name else _LONGEST_S for name, _, _ in kinds}
    return [_row(server, name, count, ask, lines[name]) for name, count, ask in kinds]


def _row(server: Killable, name: str, count: int, ask: Callable[[int], str], longest_s: float) -> Row:
    watch, took, said = _Watch(server.process.pid), [0.0] * count, [""] * count

    def one(n: int) -> None:
        began = time.monotonic()
        said[n] = ask(n)
        took[n] = time.monotonic() - began

    threads = [threading.Thread(target=one, args=(n,)) for n in range(count)]
    watch.start()
    for each in threads:
        each.start()
    for each in threads:
        each.join()
    watch.ended = True
    watch.join()
    outcome = f"{watch.most:.0f} MiB held together, longest {max(took):.1f} s, {sorted(set(said))}"
    return Row(f"{name} ({count})", outcome, watch.most < _MOST_MIB and max(took) < longest_s)


if __name__ == "__main__":
    for row in rows():
        print("holds" if row.holds else "FAILS", "|", row.test, "|", row.outcome, flush=True)
