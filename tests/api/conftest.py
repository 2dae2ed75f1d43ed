"""Accounts, a rig with a little log, and clients that are signed in."""

import json
from collections.abc import Callable
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest
from django.contrib.auth.models import User
from django.test import Client

from lodeline.accounts.access import grant
from lodeline.formats.logbook import read_logbook
from lodeline.logbook.models import Rig
from lodeline.logbook.services import transfer
from lodeline.logbook.services.shared import forget

EXAMPLE = (Path(__file__).parents[2] / "docs" / "example.logbook.json").read_bytes()
NOW = "2026-09-05T20:30:00+01:00"


class Api:
    """A client that speaks JSON and knows its rig."""

    def __init__(self, rig: Rig, user: User | None = None) -> None:
        self.rig, self.client = rig, Client()
        if user is not None:
            self.client.force_login(user)

    def call(self, method: str, path: str, body: Any = None) -> Any:
        data = body if isinstance(body, bytes) else json.dumps(body).encode() if body is not None else b""
        answer = self.client.generic(method, f"/api{path.format(rig=self.rig.pk)}", data, "application/json")
        is_json = "json" in answer.headers.get("Content-Type", "") and answer.content
        answer.body = json.loads(answer.content) if is_json else None  # type: ignore[attr-defined]
        return answer

    def get(self, path: str) -> Any:
        return self.call("GET", path)

    def post(self, path: str, body: Any = None) -> Any:
        return self.call("POST", path, body)

    def put(self, path: str, body: Any) -> Any:
        return self.call("PUT", path, body)

    def delete(self, path: str) -> Any:
        return self.call("DELETE", path)

    def write(self, *writes: dict[str, Any]) -> Any:
        """Send writes, each with an id where it has none; all but new entries are made from what stands now."""
        saw = Rig.objects.get(pk=self.rig.pk).revision
        return self.post(
            "/rigs/{rig}/writes",
            {"writes": [{"id": str(uuid4())} | ({} if "add" in each else {"saw": saw}) | each for each in writes]},
        )

    def log(self, *entries: dict[str, Any]) -> Any:
        """Log entries together; the answer's ``entries`` are what was kept."""
        answer = self.write(*({"add": entry} for entry in entries))
        if answer.status_code == 200:
            answer.body["entries"] = [each["entry"] for each in answer.body["writes"]]
        return answer

    def correct(self, entry: dict[str, Any], to: dict[str, Any]) -> Any:
        """Correct an entry that was answered; answers what it then is."""
        ref = {"kind": entry["kind"], "id": entry["id"]}
        return self.write({"correct": {"entry": ref, "to": to}}).body["writes"][0]["entry"]

    def remove(self, entry: dict[str, Any]) -> Any:
        """Take an entry out."""
        return self.write({"remove": {"kind": entry["kind"], "id": entry["id"]}})

    def day(self, on: str, **facts: Any) -> dict[str, Any]:
        """Set facts of a day; what came of it."""
        return self.write({"day": {"on": on, "facts": facts}}).body["writes"][0]

    def plan(self, on: str, **facts: Any) -> dict[str, Any]:
        """Set facts of a coming day; what came of it."""
        return self.write({"plan": {"on": on, "facts": facts}}).body["writes"][0]

    def change_rig(self, **changes: Any) -> Any:
        """Change the rig's document from what stands now."""
        now = self.get("/rigs/{rig}").body
        return self.put(f"/rigs/{{rig}}?saw={now['revision']}", now["doc"] | changes)

    def read(self, store: str, text: str, **when: str) -> Any:
        """Log a reading."""
        return self.log({"reading": {"store": store, "text": text}, **when})

    def do(self, type: str, **event: Any) -> Any:
        """Log an event, made now."""
        return self.log({"event": {"type": type, **event}})


@pytest.fixture(autouse=True)
def _evening(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("LODELINE_NOW", NOW)
    forget()


@pytest.fixture
def rig(db: None) -> Rig:
    owner = User.objects.create_user("owner", password="a-long-word-9")
    made = transfer.import_new(read_logbook(EXAMPLE).doc, by=owner)
    grant(owner, made, "owner")
    return made


@pytest.fixture
def as_user(rig: Rig) -> Callable[[str], Api]:
    """A client for: owner, crew, stranger or nobody."""

    def make(who: str) -> Api:
        if who == "nobody":
            return Api(rig)
        user, made = User.objects.get_or_create(username=who)
        if made and who == "crew":
            grant(user, rig, "crew")
        return Api(rig, user)

    return make


@pytest.fixture
def owner(as_user: Callable[[str], Api]) -> Api:
    return as_user("owner")
