"""SIGKILL of master or workers while four clients write: each acknowledged write is kept, each exactly once."""

import contextlib
import http.client
import os
import random
import signal
import subprocess
import sys
import tempfile
import threading
import time
import urllib.request
from collections import Counter
from pathlib import Path
from uuid import uuid4

from bench.safety.table import Row
from bench.server import ROOT, begin, free_port
from bench.server_speed import NOW, Browser

KILLS, WRITERS = 300, 4
_SEED, _LATEST_BLOW_S, _UP_S = 1, 0.6, 60


class Killable:
    """The server of the demo that can be hit anywhere, and started again on the same data."""

    def __init__(self, folder: Path) -> None:
        self.port, self.folder = free_port(), folder
        self.address = f"http://127.0.0.1:{self.port}"
        self.environment = os.environ | {
            "LODELINE_DATA": str(folder),
            "PYTHONPATH": str(ROOT / "src"),
            "LODELINE_DEMO": "1",
            "LODELINE_NOW": NOW,
            "DJANGO_SETTINGS_MODULE": "lodeline.site.settings",
        }
        self.log = folder / "server.log"

    def start(self, first: bool = False) -> None:
        """Serve, and wait until it answers; the first time the data is made, later the same server stands on it."""
        if first:
            begin(self.folder)
        command = [sys.executable, "-m", "lodeline.cli", "demo", "--port", str(self.port)]
        with self.log.open("ab") as out:
            self.process = subprocess.Popen(
                command, env=self.environment, stdout=out, stderr=out, start_new_session=True
            )
        end = time.monotonic() + _UP_S
        while time.monotonic() < end:
            with contextlib.suppress(OSError):
                urllib.request.urlopen(f"{self.address}/api/health", timeout=2)
                return
            time.sleep(0.05)
        raise RuntimeError(self.log.read_text()[-2000:])

    def workers(self) -> list[int]:
        """The processes that the master started."""
        found = subprocess.run(["pgrep", "-P", str(self.process.pid)], capture_output=True, text=True, check=False)
        return [int(each) for each in found.stdout.split()]

    def kill(self) -> None:
        """As by a cut of the power to all of it: no goodbye."""
        with contextlib.suppress(ProcessLookupError):
            os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait()


class Writer(threading.Thread):
    """Writes one value after the other, each under its id until it is answered as kept."""

    def __init__(self, server: Killable, n: int, rig: int) -> None:
        super().__init__(daemon=True)
        self.server, self.n, self.rig = server, n, rig
        self.acknowledged: list[float] = []
        self.ids: list[str] = []
        self.ended = False

    def run(self) -> None:
        browser: Browser | None = None
        count = 0
        while not self.ended:
            count += 1
            value, id = round(10 + self.n + count / 10_000, 4), str(uuid4())
            body = {"writes": [{"id": id, "add": {"reading": {"store": "grey", "text": f"{value} L"}}}]}
            while True:
                try:
                    browser = browser or Browser(self.server.address)
                    done = browser.call("POST", f"/api/rigs/{self.rig}/writes", body)
                    break
                except (OSError, http.client.HTTPException, ValueError):
                    browser = None
                    time.sleep(0.05)
            if done["writes"][0]["state"] == "kept":
                self.acknowledged.append(value)
                self.ids.append(id)


def _kept(browser: Browser, rig: int) -> Counter[float]:
    book = browser.call("GET", f"/api/rigs/{rig}/export")
    readings = [each for day in book["days"] for each in day.get("readings", []) if each["store"] == "grey"]
    return Counter(round(each["value"], 4) for each in readings if each["method"] == "volume")


def rows(kills: int = KILLS) -> list[Row]:
    """What is left after so many blows."""
    chance = random.Random(_SEED)
    with tempfile.TemporaryDirectory(prefix="lodeline-") as folder:
        server = Killable(Path(folder))
        server.start(first=True)
        browser = Browser(server.address)
        rig = browser.call("GET", "/api/account/me")["rigs"][0]["id"]
        before = _kept(browser, rig)
        writers = [Writer(server, n, rig) for n in range(WRITERS)]
        for each in writers:
            each.start()
        for n in range(kills):
            time.sleep(chance.random() * _LATEST_BLOW_S)
            workers = server.workers()
            if n % 3 and workers:
                os.kill(chance.choice(workers), signal.SIGKILL)
            else:
                server.kill()
                server.start()
        for each in writers:
            each.ended = True
        for each in writers:
            each.join(_UP_S)
        after = _kept(Browser(server.address), rig) - before
        server.kill()
    acknowledged = [value for each in writers for value in each.acknowledged]
    lost = sum(value not in after for value in acknowledged)
    twice = sum(count > 1 for count in after.values())
    said = f"{len(acknowledged)} acknowledged writes: {lost} lost, {twice} kept twice"
    return [Row(f"{kills} SIGKILLs of master or worker", said, not lost and not twice and len(acknowledged) > kills)]


if __name__ == "__main__":
    for row in rows(int(sys.argv[1]) if len(sys.argv) > 1 else 30):
        print("holds" if row.holds else "FAILS", "|", row.test, "|", row.outcome)
