"""Many rigs on one server: an evening in which 50 of them write each minute, and all of them brought up to date.

``./lodeline bench many [RIGS ...]``. The rigs are the demo's crews under other seeds; each has an account of its own.
"""

import json
import os
import statistics
import subprocess
import sys
import tempfile
import threading
import time
from concurrent.futures import ThreadPoolExecutor
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any
from uuid import uuid4

from bench.goals import figure
from bench.server import ROOT, memory_mib, serving
from bench.server_speed import Client

NOW = "2026-11-25T20:40:00+00:00"
_A_MINUTE, _MINUTES, _SEEDS = 50, 2, 20


def make(n: int) -> None:
    """Put so many rigs into the data folder that the environment names; prints a session of each one's owner."""
    import django

    django.setup()
    from django.conf import settings
    from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY
    from django.contrib.auth.models import User
    from django.contrib.sessions.backends.db import SessionStore
    from django.db import transaction

    from lodeline.accounts.access import grant
    from lodeline.demo.life import live
    from lodeline.demo.scenario import SCENARIOS
    from lodeline.formats.logbook import read_logbook
    from lodeline.logbook.services import transfer
    from lodeline.site.data import DATABASE
    from lodeline.site.upgrade import upgrade

    upgrade(settings.LODELINE_DATA / DATABASE)
    now = datetime.fromisoformat(NOW) - timedelta(days=1)
    documents = [
        read_logbook(json.dumps(live(SCENARIOS[seed % 2], now, seed).document).encode()).doc for seed in range(_SEEDS)
    ]
    made = []
    for begin in range(0, n, 50):
        with transaction.atomic():
            for index in range(begin, min(n, begin + 50)):
                user = User.objects.create(username=f"crew-{index}")
                rig = transfer.import_new(documents[index % _SEEDS], by=user)
                grant(user, rig, "owner")
                session = SessionStore()
                session[SESSION_KEY] = str(user.pk)
                session[BACKEND_SESSION_KEY] = "django.contrib.auth.backends.ModelBackend"
                session[HASH_SESSION_KEY] = user.get_session_auth_hash()
                session.save()
                store = next(each.id for each in documents[index % _SEEDS].rig.stores if each.kind == "fresh")
                made.append((rig.pk, session.session_key, store))
    json.dump(made, sys.stdout)


def _environment(data: str) -> dict[str, str]:
    paths = {"PYTHONPATH": f"{ROOT / 'src'}:{ROOT}", "LODELINE_DATA": data, "LODELINE_NOW": NOW}
    return os.environ | paths | {"DJANGO_SETTINGS_MODULE": "lodeline.site.settings"}


class _Evening:
    """What crews do in an evening, and how long each answer took."""

    def __init__(self, address: str) -> None:
        self.address, self.times, self.kept, self.failed = address, list[float](), 0, list[str]()
        self.lock = threading.Lock()

    def crew(self, made: tuple[int, str, str], at: float) -> None:
        """Open the Horizon, write what is read, look again."""
        time.sleep(max(0.0, at - time.monotonic()))
        rig, session, store = made
        client = Client(self.address, session)
        writes = [
            {"id": str(uuid4()), "saw": 10**15, "add": {"reading": {"store": store, "text": text}}}
            for text in ("1/3", "2/3")
        ]
        asked: list[tuple[str, str, Any]] = [("GET", "horizon", None), ("POST", "writes", {"writes": writes})]
        for method, what, body in [*asked, ("GET", "revision", None), ("GET", "horizon", None)]:
            began = time.perf_counter()
            status, answer = client.send(method, f"/api/rigs/{rig}/{what}", body)
            took = time.perf_counter() - began
            with self.lock:
                self.times.append(took)
                if status not in (200, 202):
                    self.failed.append(f"{status} {method} {what} {answer[:200]!r}")
                if what == "writes" and status == 200:
                    self.kept += sum(each.get("entry") is not None for each in json.loads(answer)["writes"])
        client.close()


def _measure(n: int, turns: int) -> None:
    with tempfile.TemporaryDirectory(prefix="lodeline-", ignore_cleanup_errors=True) as data:
        environment = _environment(data)
        text = subprocess.run(
            [sys.executable, "-m", "bench.many", "make", str(n)],
            env=environment,
            capture_output=True,
            text=True,
            check=True,
        ).stdout
        rigs: list[tuple[int, str, str]] = json.loads(text)
        began = time.monotonic()
        subprocess.run([sys.executable, "-m", "lodeline.cli", "derive", "--all"], env=environment, check=True)
        took = time.monotonic() - began
        figure(f"derive --all, {n} rigs", took / n * 1000, "ms a rig")
        with serving("serve", Path(data), NOW, is_kept=False) as address:
            evening, start = _Evening(address), time.monotonic() + 0.5
            every = 60 / _A_MINUTE
            with ThreadPoolExecutor(_A_MINUTE) as crews:
                for index in range(turns):
                    crews.submit(evening.crew, rigs[index * 7 % n], start + index * every)
            memory = memory_mib(address)
            if evening.failed:
                print("failed:", *evening.failed[:5], sep="\n  ")
            times = sorted(evening.times)
            print(
                f"{n} rigs: {len(times)} answers, {evening.kept} of {2 * turns} readings kept, {len(evening.failed)} failed"
            )
            figure(f"{n} rigs, 50 writing a minute, median", statistics.median(times) * 1000, "ms")
            figure(f"{n} rigs, 50 writing a minute, p95", times[int(0.95 * (len(times) - 1))] * 1000, "ms", 500)
            figure(f"{n} rigs, readings lost", 2 * turns - evening.kept, "", 0)
            figure(f"{n} rigs, memory of the server", memory, "MiB", 2048)


def main(words: list[str], turns: int = _A_MINUTE * _MINUTES) -> int:
    for n in [int(word) for word in words] or [10, 100, 1000]:
        _measure(n, turns)
    return 0


if __name__ == "__main__":
    make(int(sys.argv[2]))
