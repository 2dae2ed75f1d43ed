"""An evening's round as one batch: how often something is derived, and how many queries it takes."""

import json
import logging
import os
from typing import Any
from uuid import uuid4

NOW = "2026-11-25T20:40:00+00:00"
VIEWS = ["horizon", "round", "energy", "log", "review", "gauges"]
# seven readings and two events, of stores that the demo's first rig has
ROUND = [
    *(
        {"reading": {"store": store, "text": text}}
        for store, text in (
            ("house", "75%"),
            ("fresh", "1/3"),
            ("grey", "30 L"),
            ("urine", "20%"),
            ("gas", "1/2"),
            ("diesel", "3/4"),
            ("solids", "37"),
        )
    ),
    {"event": {"type": "dump", "store": "urine"}},
    {"event": {"type": "shower", "count": 2}},
]


class _Count(logging.Handler):
    """How often something was derived."""

    def __init__(self) -> None:
        super().__init__(logging.INFO)
        self.n = 0

    def emit(self, record: logging.LogRecord) -> None:
        self.n += record.getMessage().startswith("derived")

    def take(self) -> int:
        """The count since it was last taken."""
        n, self.n = self.n, 0
        return n


def _demo() -> tuple[Any, int]:
    """A signed-in client and the id of the demo's first rig, on data that is thrown away."""
    os.environ |= {"DJANGO_SETTINGS_MODULE": "lodeline.site.settings_test", "LODELINE_NOW": NOW, "LODELINE_DEMO": "1"}
    import django

    django.setup()
    from django.core.management import call_command
    from django.test import Client

    from lodeline.demo.load import load_demo

    call_command("migrate", verbosity=0, interactive=False)
    load_demo()
    client = Client(HTTP_HOST="localhost")
    client.post("/api/account/demo", content_type="application/json")
    return client, client.get("/api/account/me").json()["rigs"][0]["id"]


def main() -> None:
    client, rig = _demo()
    from django.db import connection
    from django.test.utils import CaptureQueriesContext

    from lodeline.logbook.services import shared

    count = _Count()
    log = logging.getLogger(shared.__name__)
    log.addHandler(count)
    log.setLevel(logging.INFO)
    log.propagate = False
    client.get(f"/api/rigs/{rig}/round")
    count.take()
    writes = {"writes": [{"id": str(uuid4()), "add": entry} for entry in ROUND]}
    with CaptureQueriesContext(connection) as queries:
        answer = client.post(f"/api/rigs/{rig}/writes", json.dumps(writes), "application/json")
    if answer.status_code != 200:
        raise RuntimeError(answer.content.decode())
    n_queries, logged = len(queries), count.take()
    for view in VIEWS:
        client.get(f"/api/rigs/{rig}/{view}")
    first = count.take()
    for view in VIEWS:
        client.get(f"/api/rigs/{rig}/{view}")
    print(
        f"a round of seven readings and two events: {n_queries} queries, {logged} derivation; "
        f"{len(VIEWS)} views after it: {first} more; the same views again: {count.take()}"
    )
