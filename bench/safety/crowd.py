"""Eight writers and four readers on one rig at once, all entries made now: how long each takes, and whether all was kept."""

import json
import threading
import time
import urllib.error
from collections import Counter
from itertools import cycle
from typing import Any
from uuid import uuid4

from bench.goals import note
from bench.safety.table import Row
from bench.server import demo_server
from bench.server_speed import NOW, Browser

SECONDS, WRITERS, READERS = 60, 8, 4
_P50_S, _P95_S, _LONGEST_S = 0.3, 1.0, 10.0
_VIEWS = ("horizon", "round", "log")


class Crowd:
    """What the writers and readers saw."""

    def __init__(self, address: str, rig: int, until: float) -> None:
        self.address, self.rig, self.until = address, rig, until
        self.writes: list[float] = []
        self.reads: list[float] = []
        self.older: list[bool] = []
        self.errors: Counter[str] = Counter()
        self.acknowledged: list[str] = []

    def write(self, n: int) -> None:
        """One writer, as fast as it is answered."""
        browser, count = Browser(self.address), 0
        while time.monotonic() < self.until:
            count += 1
            text = f"{10 + n}.{count:04d} L"
            began = time.monotonic()
            try:
                done = browser.call(
                    "POST",
                    f"/api/rigs/{self.rig}/writes",
                    {"writes": [{"id": str(uuid4()), "add": {"reading": {"store": "grey", "text": text}}}]},
                )
            except urllib.error.HTTPError as error:
                self.errors[str(error.code)] += 1
                continue
            except OSError as error:
                self.errors[type(error).__name__] += 1
                continue
            self.writes.append(time.monotonic() - began)
            if done["writes"][0]["state"] == "kept":
                self.acknowledged.append(text)

    def read(self) -> None:
        """One reader, of one view after the other."""
        browser = Browser(self.address)
        for view in cycle(_VIEWS):
            if time.monotonic() > self.until:
                return
            began = time.monotonic()
            try:
                self.older.append(browser.is_older(f"/api/rigs/{self.rig}/{view}"))
            except OSError as error:
                code = getattr(error, "code", type(error).__name__)
                self.errors[f"{view}: {code}"] += 1
                continue
            self.reads.append(time.monotonic() - began)


def _share(times: list[float], share: float) -> float:
    return sorted(times)[int(share * (len(times) - 1))] if times else float("inf")


def _kept(browser: Browser, rig: int) -> Counter[float]:
    book: dict[str, Any] = browser.call("GET", f"/api/rigs/{rig}/export")
    readings = [each for day in book["days"] for each in day.get("readings", []) if each["store"] == "grey"]
    return Counter(round(each["value"], 4) for each in readings if each["method"] == "volume")


def rows(seconds: int = SECONDS) -> list[Row]:
    """The crowd's figures."""
    with demo_server(NOW) as address:
        browser = Browser(address)
        rig = browser.call("GET", "/api/account/me")["rigs"][0]["id"]
        browser.patient("GET", f"/api/rigs/{rig}/horizon")
        crowd = Crowd(address, rig, time.monotonic() + seconds)
        threads = [threading.Thread(target=crowd.write, args=(n,)) for n in range(WRITERS)]
        threads += [threading.Thread(target=crowd.read) for _ in range(READERS)]
        for each in threads:
            each.start()
        for each in threads:
            each.join()
        kept = _kept(browser, rig)
    wanted = Counter(float(text.removesuffix(" L")) for text in crowd.acknowledged)
    lost, twice = sum((wanted - kept).values()), sum(n - 1 for value, n in kept.items() if value in wanted)
    p50, p95 = _share(crowd.writes, 0.5), _share(crowd.writes, 0.95)
    note(f"{WRITERS} writers and {READERS} readers, p95 of a write", p95, "s", 0.25)
    said = f"{len(crowd.writes)} writes, p50 {p50:.2f} s, p95 {p95:.2f} s"
    longest = max(crowd.reads, default=float("inf"))
    read = f"{len(crowd.reads)} views, p50 {_share(crowd.reads, 0.5):.2f} s, longest {longest:.2f} s"
    return [
        Row(f"{WRITERS} writers, {seconds} s: a write", said, p50 <= _P50_S and p95 <= _P95_S),
        Row(f"{READERS} readers meanwhile", f"{read}, {sum(crowd.older)} marked as older", longest < _LONGEST_S),
        Row(
            "errors, lost, kept twice",
            f"{dict(crowd.errors) or 0}, {lost}, {twice}",
            not crowd.errors and not lost and not twice,
        ),
    ]


if __name__ == "__main__":
    for row in rows(20):
        print(json.dumps(vars(row)))
