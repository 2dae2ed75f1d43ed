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
    handler.setStream(io.StringIO())

    def read() -> list[dict]:
        text = handler.stream.getvalue()
        handler.setStream(io.StringIO())
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
