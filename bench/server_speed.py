"""The Horizon request on the running server: 60 days and ten years logged, beside the server's empty request."""

import http
import http.client
import http.cookiejar
import json
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
from datetime import datetime
from email.message import Message
from pathlib import Path
from typing import Any
from uuid import uuid4

from bench.goals import figure, note
from bench.server import demo_server, serving
from lodeline.demo.life import live
from lodeline.demo.scenario import SANDMARTIN

NOW = "2026-11-25T20:40:00+00:00"
RUNS = 40
_PLANS = 6
_LIBRARIES = """
import gc; gc.disable()
import django
from django.conf import settings
settings.configure(SECRET_KEY="x" * 50, DATABASES={"default": {"ENGINE": "django.db.backends.sqlite3"}},
    INSTALLED_APPS=["django.contrib.auth", "django.contrib.contenttypes", "django.contrib.sessions"])
django.setup()
import gunicorn.app.wsgiapp, ninja, numpy, structlog, waitress
"""


class Browser:
    """A signed-in client that keeps its connection's cookies."""

    def __init__(self, address: str, *, door: bool = True) -> None:
        """``door``: whether to come in by the demo's."""
        self.address = address
        self.jar = http.cookiejar.CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))
        self.call("GET", "/api/account/me")
        if door:
            self.call("POST", "/api/account/demo")

    def call(self, method: str, path: str, body: Any = None) -> Any:
        """Ask, and read the answer."""
        text, _ = self.ask(method, path, body)
        return json.loads(text) if text else None

    def patient(self, method: str, path: str, body: Any = None) -> Any:
        """Ask until what is asked for has been worked out."""
        data = json.dumps(body).encode() if body is not None else b""
        while True:
            status, text, _ = self.send(method, path, data)
            if status != http.HTTPStatus.ACCEPTED:
                return json.loads(text) if text else None
            time.sleep(0.1)

    def is_older(self, path: str) -> bool:
        """Whether an answer says that it was made of something older."""
        status, _, head = self.send("GET", path, b"")
        return status == http.HTTPStatus.ACCEPTED or "X-Lodeline-As-Of" in head

    def ask(self, method: str, path: str, body: Any = None) -> tuple[bytes, Message]:
        """Ask; the answer's body and head."""
        return self.send(method, path, json.dumps(body).encode() if body is not None else b"")[1:]

    def send(self, method: str, path: str, data: bytes) -> tuple[int, bytes, Message]:
        """Send bytes; the answer's status, body and head."""
        token = next((cookie.value for cookie in self.jar if cookie.name == "csrftoken"), "")
        headers = {"X-CSRFToken": token or "", "Content-Type": "application/json"}
        sent = data if method != "GET" else None
        request = urllib.request.Request(self.address + path, sent, headers, method=method)
        with self.opener.open(request, timeout=120) as answer:
            return answer.status, answer.read(), answer.headers


class Client:
    """A signed-in client that keeps its connection open, as browsers do."""

    def __init__(self, address: str, session: str) -> None:
        self._connection = http.client.HTTPConnection(address.split("//")[1], timeout=120)
        token = "a" * 32
        self._head = {
            "Cookie": f"sessionid={session}; csrftoken={token}",
            "X-CSRFToken": token,
            "Content-Type": "application/json",
        }

    def send(self, method: str, path: str, body: Any = None) -> tuple[int, bytes]:
        """Ask; the answer's status and body."""
        self._connection.request(method, path, json.dumps(body) if body is not None else None, self._head)
        answer = self._connection.getresponse()
        return answer.status, answer.read()

    def close(self) -> None:
        """Leave."""
        self._connection.close()


def _timed(call: Any) -> float:
    start = time.perf_counter()
    call()
    return (time.perf_counter() - start) * 1000


def _figures(name: str, times: list[float]) -> float:
    times = sorted(times)
    median = statistics.median(times)
    print(f"{name:58} median {median:7.1f} ms   p95 {times[int(0.95 * (len(times) - 1))]:7.1f} ms")
    return median


def _measure(browser: Browser, rig: int, label: str, runs: int) -> tuple[float, float]:
    """Medians of the Horizon as kept, and of the Horizon computed anew after a reading."""
    path = f"/api/rigs/{rig}"

    def write(**what: Any) -> Any:
        """One write, under an id of its own."""
        return browser.call("POST", f"{path}/writes", {"writes": [{"id": str(uuid4()), "saw": 10**15, **what}]})

    kept, anew = [], []
    for _ in range(3):
        browser.patient("GET", f"{path}/horizon")
    for _ in range(runs):
        kept.append(_timed(lambda: browser.call("GET", f"{path}/horizon")))
    for _ in range(runs // 2):
        entry = write(add={"reading": {"store": "fresh", "text": "2/3"}})["writes"][0]["entry"]
        anew.append(_timed(lambda: browser.call("GET", f"{path}/horizon")))
        write(remove={"kind": "reading", "id": entry["id"]})
    revision = _figures(
        f"revision, {label}", [_timed(lambda: browser.call("GET", f"{path}/revision")) for _ in range(runs)]
    )
    note(f"revision poll, {label}", revision, "ms", 5)
    fresh = []
    for _ in range(max(1, runs // 4)):
        began = time.perf_counter()
        entry = write(add={"reading": {"store": "fresh", "text": "2/3"}})["writes"][0]["entry"]
        while browser.is_older(f"{path}/horizon"):
            time.sleep(0.005)
        fresh.append((time.perf_counter() - began) * 1000)
        write(remove={"kind": "reading", "id": entry["id"]})
        browser.patient("GET", f"{path}/horizon")
    note(f"a reading to a fresh Horizon, {label}", _figures(f"a reading to a fresh Horizon, {label}", fresh), "ms", 80)
    _plan_again(browser, path, write, label)
    return _figures(f"Horizon, {label}, nothing new", kept), _figures(f"Horizon, {label}, after a new reading", anew)


def _plan_again(browser: Browser, path: str, write: Any, label: str) -> None:
    """How soon after a fresh Horizon the last plan stands as it is now, and the new one, where a reading was as
    expected."""
    stands, anew = [], []
    for _ in range(_PLANS):
        browser.patient("GET", f"{path}/plan")
        while browser.is_older(f"{path}/plan"):
            time.sleep(0.05)
        lane = next(each for each in browser.call("GET", f"{path}/horizon")["lanes"] if each["id"] == "fresh")
        entry = write(add={"reading": {"store": "fresh", "text": lane["level"]}})["writes"][0]
        while browser.is_older(f"{path}/horizon"):
            time.sleep(0.005)
        began = time.perf_counter()
        browser.patient("GET", f"{path}/plan")
        stands.append((time.perf_counter() - began) * 1000)
        while browser.is_older(f"{path}/plan"):
            time.sleep(0.02)
        anew.append((time.perf_counter() - began) * 1000)
        write(remove={"kind": "reading", "id": entry["entry"]["id"]})
        browser.patient("GET", f"{path}/horizon")
    note(
        f"the last plan as it stands now, {label}",
        _figures(f"the last plan as it stands now, {label}", stands),
        "ms",
        300,
    )
    note(f"a plan looked for anew, {label}", _figures(f"a plan looked for anew, {label}", anew), "ms")


def _start() -> None:
    """How soon a server that was stopped answers, and what its libraries alone take."""
    with tempfile.TemporaryDirectory(prefix="lodeline-") as folder:
        times = []
        for _ in range(4):  # the first makes the database
            began = time.perf_counter()
            with serving("serve", Path(folder)):
                times.append(time.perf_counter() - began)
        figure("first answer after a start", min(times[1:]), "s", 1)
    floor = min(_timed(lambda: subprocess.run([sys.executable, "-c", _LIBRARIES], check=True)) for _ in range(3))
    figure("floor of it: Python and the libraries, set up without a line of ours", floor / 1000, "s")


def main(n_days: int = 3652, runs: int = RUNS) -> None:
    now = datetime.fromisoformat(NOW)
    _start()
    with demo_server(NOW) as address:
        browser = Browser(address)
        kept = Client(address, next(cookie.value or "" for cookie in browser.jar if cookie.name == "sessionid"))
        empty = _figures("empty request", [_timed(lambda: browser.call("GET", "/api/health")) for _ in range(runs)])
        open_ = _figures(
            "empty request, connection kept", [_timed(lambda: kept.send("GET", "/api/health")) for _ in range(runs)]
        )
        note("empty request", open_, "ms", 1.5)
        documents = {
            "60 days": live(SANDMARTIN, now, 22, 60).document,
            "ten years": live(SANDMARTIN, now, 22, n_days).document,
        }
        medians = {}
        for label, document in documents.items():
            rig = browser.call("POST", "/api/imports", document)["rig"]
            medians[label] = _measure(browser, rig, label, runs)
    for index, what in enumerate(("nothing new", "after a new reading")):
        ratio = medians["ten years"][index] / medians["60 days"][index]
        over = medians["60 days"][index] / empty
        print(f"{what}: ten years / 60 days = {ratio:.2f}; 60 days / empty request = {over:.1f}")
