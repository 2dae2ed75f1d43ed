"""The master alone is killed, or told to end, while clients hold connections: how soon a server stands there again."""

import http.client
import os
import random
import signal
import tempfile
import time
from pathlib import Path
from statistics import median

from bench.safety.kills import Killable
from bench.safety.table import Row

KILLS, _WORKERS = 12, 2
_SEED, _MEDIAN_S, _WORST_S, _ENDED_S = 1, 2.0, 6.0, 1.0


def _held(server: Killable, count: int = 6) -> list[http.client.HTTPConnection]:
    """Connections that are kept alive after an answer."""
    held = []
    for _ in range(count):
        each = http.client.HTTPConnection("127.0.0.1", server.port, timeout=60)
        each.request("GET", "/api/health")
        each.getresponse().read()
        held.append(each)
    return held


def _blow(server: Killable, n: int, chance: random.Random) -> float:
    """Kill the master, a worker or all; returns how long it was until it answered again."""
    began = time.monotonic()
    match n % 3:
        case 0:
            os.kill(server.process.pid, signal.SIGKILL)
            server.process.wait()
            server.start()
        case 1:
            os.kill(chance.choice(server.workers()), signal.SIGKILL)
            for each in _held(server):
                each.close()
        case _:
            server.kill()
            server.start()
    return time.monotonic() - began


def rows(kills: int = KILLS) -> list[Row]:
    """How long it took."""
    chance, took, ended = random.Random(_SEED), [], []
    with tempfile.TemporaryDirectory(prefix="lodeline-") as folder:
        server = Killable(Path(folder))
        server.start(first=True)
        for n in range(kills):
            held = _held(server)
            took.append(_blow(server, n, chance))
            for each in held:
                each.close()
        while len(server.workers()) < _WORKERS:  # what is starting is not idle
            time.sleep(0.1)
        held = _held(server)
        began = time.monotonic()
        server.process.terminate()
        server.process.wait(60)
        ended.append(time.monotonic() - began)
        for each in held:
            each.close()
    masters = [each for n, each in enumerate(took) if n % 3 != 1]
    said = (
        f"median {median(took):.1f} s, worst {max(took):.1f} s; of a start anew alone: median {median(masters):.1f} s"
    )
    return [
        Row(
            f"{kills} SIGKILLs of master, worker or all: served again",
            said,
            median(took) <= _MEDIAN_S and max(took) <= _WORST_S,
        ),
        Row("SIGTERM with six idle connections", f"ended after {max(ended):.2f} s", max(ended) <= _ENDED_S),
    ]


if __name__ == "__main__":
    for row in rows():
        print("holds" if row.holds else "FAILS", "|", row.test, "|", row.outcome)
