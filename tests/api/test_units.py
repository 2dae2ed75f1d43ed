"""Every answer for a rig in US units is in US units: views, what is logged, and refusals."""

from uuid import uuid4

import pytest

from tests.api.test_permissions import TABLE
from tests.text.test_units import METRIC_UNITS, US_UNITS


def writes(*given):
    """A request of writes from what stands now."""
    return {"writes": [{"id": str(uuid4()), "saw": 99} | each for each in given]}


DRIVE = {"event": {"type": "drive", "hours": 1, "distance": 40}}
MORE = [
    ("POST", "/rigs/{rig}/writes", writes({"add": DRIVE}, {"add": {"reading": {"store": "gas", "text": "24 lb"}}})),
    ("POST", "/rigs/{rig}/writes", writes({"add": {"event": {"type": "fill", "store": "fresh", "amount": 60}}})),
    ("POST", "/rigs/{rig}/understand", {"store": "fresh", "text": "20"}),
    ("POST", "/rigs/{rig}/understand", {"store": "grey", "text": "90 gal"}),
    ("POST", "/rigs/{rig}/understand", {"store": "gas", "text": "5"}),
    ("POST", "/rigs/{rig}/understand", {"store": "gas", "text": "much"}),
    ("POST", "/rigs/{rig}/writes", writes({"day": {"on": "2026-09-05", "facts": {"temp_min": -200}}})),
    ("POST", "/rigs/{rig}/writes", writes({"day": {"on": "2026-09-05", "facts": {"temp_min": 80, "temp_max": 60}}})),
    ("POST", "/rigs/{rig}/writes", writes({"day": {"on": "2026-09-05", "facts": {"water": 999999}}})),
    ("GET", "/rigs/{rig}/log", None),
    ("GET", "/rigs/{rig}/log/2026-09-05/history", None),
    ("GET", "/rigs/{rig}/horizon", None),
]


def texts(value, path=""):
    """Every text in an answer with its path; ``doc`` is the file's own and ``reads`` the parser's: both are in base units."""
    if isinstance(value, dict):
        for key, inner in value.items():
            if key not in ("doc", "reads", "path", "code"):
                yield from texts(inner, f"{path}.{key}")
    elif isinstance(value, list):
        for inner in value:
            yield from texts(inner, path)
    elif isinstance(value, str):
        yield path, value


@pytest.fixture
def american(owner):
    assert owner.change_rig(units="us").status_code == 200
    return owner


def test_no_answer_for_a_us_rig_has_a_metric_unit(american):
    asked = [row[:3] for row in TABLE if "{rig}" in row[1] and "export" not in row[1] and "kept" not in row[1]]
    seen = 0
    for method, path, body in [*MORE, *asked]:
        if "import" in path or "crew/crew" in path or method == "DELETE" or path.endswith(("/delete", "/leave")):
            continue
        if body == "doc":
            body = american.get("/rigs/{rig}").body["doc"]
        answer = american.call(method, path, body)
        for place, text in texts(answer.body):
            assert not METRIC_UNITS.search(text), (method, path, place, text)
            seen += bool(US_UNITS.search(text))
    assert seen > 60
