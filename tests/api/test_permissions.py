"""Nobody sees or changes what is not theirs: one table over every route."""

import pytest
from django.db import transaction

from lodeline.api.main import api
from lodeline.logbook.models import Reading, Rig
from lodeline.logbook.services.derived import forget
from tests.api.conftest import EXAMPLE

TEXT = {"store": "fresh", "text": "2/3"}
READING = {"reading": TEXT}
EVENT = {"event": {"type": "dump", "store": "grey"}}

# method, path, body, and the statuses for owner, crew, stranger, nobody
TABLE = [
    ("GET", "/rigs/{rig}", None, 200, 200, 404, 401),
    ("PUT", "/rigs/{rig}", "doc", 200, 403, 404, 401),
    ("POST", "/rigs/{rig}/checks", "doc", 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/crew", None, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/crew", {"username": "friend"}, 200, 403, 404, 401),
    ("DELETE", "/rigs/{rig}/crew/crew", None, 200, 403, 404, 401),
    ("GET", "/rigs/{rig}/horizon", None, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/horizon/seen", {"revision": 1}, 204, 204, 404, 401),
    ("PUT", "/rigs/{rig}/outlook/2026-09-07", {"sky": "clear"}, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/energy", None, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/energy/levers", None, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/energy/run", {"watts": 60, "minutes": 30, "via": "dc"}, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/energy/charge", {"source": "dcdc", "target": 90, "until": "2026-09-08"}, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/energy/accept-loads", None, 422, 403, 404, 401),
    ("POST", "/rigs/{rig}/rating", {"amount": 1024, "unit": "Wh", "nominal_v": 12.8}, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/gauges", None, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/review", None, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/round", None, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/understand", TEXT, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/entries", {"entries": [READING, EVENT]}, 200, 200, 404, 401),
    ("PUT", "/rigs/{rig}/readings/{reading}", READING, 200, 200, 404, 401),
    ("DELETE", "/rigs/{rig}/readings/{reading}", None, 204, 204, 404, 401),
    ("PUT", "/rigs/{rig}/events/{event}", EVENT, 200, 200, 404, 401),
    ("DELETE", "/rigs/{rig}/events/{event}", None, 204, 204, 404, 401),
    ("PUT", "/rigs/{rig}/days/2026-09-05", {"sky": "wet"}, 204, 204, 404, 401),
    ("GET", "/rigs/{rig}/log", None, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/log/2026-09-04/history", None, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/export", None, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/import/preview", EXAMPLE, 200, 403, 404, 401),
    ("POST", "/rigs/{rig}/import", EXAMPLE, 200, 403, 404, 401),
    ("GET", "/rigs/{rig}/kept/nothing.json", None, 404, 403, 404, 401),
    ("POST", "/rigs/set-up", {}, 422, 422, 422, 401),
    ("POST", "/imports/preview", EXAMPLE, 200, 200, 200, 401),
    ("POST", "/imports", EXAMPLE, 200, 200, 200, 401),
    ("GET", "/account/me", None, 200, 200, 200, 200),
    ("POST", "/account/sign-out", None, 200, 200, 200, 401),
    ("POST", "/account/sign-in", {"username": "x", "password": "y"}, 422, 422, 422, 422),
    ("POST", "/account/first", {"username": "x", "password": "y"}, 404, 404, 404, 404),
    ("POST", "/account/demo", None, 404, 404, 404, 404),
    ("GET", "/health", None, 200, 200, 200, 200),
]


def fill_in(path: str, rig: Rig) -> str:
    day = rig.days.get(date="2026-09-03")
    reading, event = day.readings.first(), day.events.first()
    return path.replace("{reading}", str(reading.pk)).replace("{event}", str(event.pk))


WHO = ["nobody", "stranger", "crew", "owner"]


@pytest.mark.parametrize("row", TABLE, ids=lambda row: f"{row[0]} {row[1]}")
def test_who_may(row, as_user, rig, django_user_model):
    django_user_model.objects.create_user("friend")
    clients = {who: as_user(who) for who in WHO}
    method, path, body, *statuses = row
    if body == "doc":
        body = clients["owner"].get("/rigs/{rig}").body["doc"]
    allowed = dict(zip(["owner", "crew", "stranger", "nobody"], statuses, strict=True))
    before = Reading.objects.count(), rig.days.count()
    for who, client in clients.items():
        with transaction.atomic():
            answer = client.call(method, fill_in(path, rig), body)
            assert answer.status_code == allowed[who], (who, answer.content)
            if answer.status_code in (401, 403, 404):
                assert (Reading.objects.count(), rig.days.count()) == before
            transaction.set_rollback(True)  # the next one finds the rig as it was
        forget()


def test_the_table_has_every_route():
    routes = {
        (method.upper(), path.removeprefix("/api"))
        for path, item in api.get_openapi_schema(path_prefix="/api/")["paths"].items()
        for method in item
    }
    named = {"2026-09-07": "{on}", "2026-09-05": "{on}", "2026-09-04": "{on}", "nothing.json": "{name}"}

    def as_route(path: str) -> str:
        path = path.replace("{rig}", "{rig_id}").replace("{reading}", "{reading_id}").replace("{event}", "{event_id}")
        path = path.replace("/crew/crew", "/crew/{username}")
        for text, name in named.items():
            path = path.replace(text, name)
        return path

    assert {(row[0], as_route(row[1])) for row in TABLE} == routes


def test_another_rigs_entries_cannot_be_reached_through_ones_own(owner, rig, as_user):
    stranger = as_user("stranger")
    stranger.post("/imports", EXAMPLE)
    own = Rig.objects.exclude(pk=rig.pk).get()
    theirs = rig.days.get(date="2026-09-03").readings.first()
    for method, body in (("PUT", READING), ("DELETE", None)):
        assert stranger.call(method, f"/rigs/{own.pk}/readings/{theirs.pk}", body).status_code == 404
    theirs.refresh_from_db()
    assert theirs.method == "fraction"


def test_a_write_from_another_page_is_refused(rig, django_user_model):
    from django.test import Client

    browser = Client(enforce_csrf_checks=True)
    browser.force_login(django_user_model.objects.get(username="owner"))
    answer = browser.post(f"/api/rigs/{rig.pk}/entries", {"entries": [READING]}, content_type="application/json")
    assert answer.status_code == 403


@pytest.mark.parametrize("rig_id", ["0", "999999", "abc", "-1", "1e3", "9" * 30, "%00", "1%20or%201"])
def test_an_unknown_rig_is_not_there(rig_id, owner):
    assert owner.get(f"/rigs/{rig_id}/horizon").status_code == 404
