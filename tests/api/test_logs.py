"""What the server logs: JSON, the number of the request on each line, nothing that somebody typed."""

import io
import json
import logging
from logging.config import dictConfig

import pytest
from django.conf import settings

from lodeline.logbook.services import derived
from lodeline.site.logs import HEADER, configuration


@pytest.fixture
def lines():
    """What was logged since the last look, as the lines of the console."""
    dictConfig(configuration("INFO"))
    handler = logging.getLogger().handlers[0]
    handler.setStream(io.StringIO())  # type: ignore[attr-defined]

    def read() -> list[dict]:
        text = handler.stream.getvalue()  # type: ignore[attr-defined]
        handler.setStream(io.StringIO())  # type: ignore[attr-defined]
        return [json.loads(line) for line in text.splitlines()]

    yield read
    dictConfig(settings.LOGGING)


def test_each_line_has_the_number_of_its_request(owner, lines):
    first = owner.get("/rigs/{rig}/horizon?word=private")
    second = owner.get("/rigs/{rig}/round")
    logged = lines()
    assert [line["event"] for line in logged] == ["derived levels", "derived ahead", "answered", "answered"]
    assert [line["request_id"] for line in logged] == [first[HEADER]] * 3 + [second[HEADER]]
    assert logged[2]["path"] == f"/api/rigs/{owner.rig.pk}/horizon"
    assert "private" not in json.dumps(logged)


def test_what_somebody_typed_is_not_logged(owner, lines):
    owner.log({"reading": {"store": "fresh", "text": "a private word"}})
    assert "private" not in json.dumps(lines())


def test_a_defect_answers_with_the_number_under_which_the_log_has_it(owner, lines, monkeypatch):
    monkeypatch.setattr(derived, "track", lambda *given: 1 // 0)
    answer = owner.get("/rigs/{rig}/horizon")
    assert answer.status_code == 500
    assert answer[HEADER] in answer.body["problem"]
    defect = next(line for line in lines() if line["level"] == "error")
    assert defect["request_id"] == answer[HEADER]
    assert "ZeroDivisionError" in defect["exception"]


def test_secrets_in_addresses_and_names_of_accounts_are_in_no_line(owner, lines):
    secret = owner.post("/rigs/{rig}/calendar", {}).body["path"].split("/")[-1]
    for path in (f"/calendar/{secret}", f"/calendar/{secret[:-1]}", "/calendar/wrong-secret.ics"):
        owner.client.get(path).close()
    owner.put("/rigs/{rig}/crew/someone-aboard", {"role": "reader"})
    owner.delete("/rigs/{rig}/crew/someone%20aboard")
    for name in ("django.request", "waitress", "lodeline.site.watchdog", "some.library"):
        logging.getLogger(name).error("at /calendar/%s", secret, extra={"path": f"/calendar/{secret}"})
    try:
        raise ValueError(f"/calendar/{secret}")
    except ValueError:
        logging.getLogger("django.request").exception("failed")
    told = lines()
    text = json.dumps(told)
    assert len(told) >= 10
    assert secret.removesuffix(".ics") not in text
    assert "wrong-secret" not in text
    assert "someone" not in text
    assert "/calendar/(secret)" in text


def test_a_wrong_host_is_one_line(owner, lines):
    assert owner.client.get("/api/health", HTTP_HOST="else.example").status_code == 400
    logged = [line for line in lines() if line["event"] != "answered"]
    assert len(logged) == 1
    assert "exception" not in logged[0]


def test_what_is_private_is_kept_by_no_cache(owner):
    for path in ("/rigs/{rig}/round", "/rigs/{rig}/export", "/rigs/{rig}/calendar.ics", "/account/me", "/nothing"):
        assert owner.get(path)["Cache-Control"] == "no-store", path
    assert owner.client.get("/api/rigs/999/round")["Cache-Control"] == "no-store"
