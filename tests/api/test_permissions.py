"""Nobody sees or changes what is not theirs: one table over every route."""

import pytest
from django.contrib.auth.models import User
from django.db import transaction

from lodeline.accounts.access import grant
from lodeline.api.main import api
from lodeline.logbook.models import Reading, Rig
from lodeline.logbook.services.shared import forget
from tests.api.conftest import EXAMPLE

TEXT = {"store": "fresh", "text": "2/3"}
READING = {"reading": TEXT}
EVENT = {"event": {"type": "dump", "store": "grey"}}
WRITES = {
    "writes": [
        {"id": "01931d3c-0000-7000-8000-000000000001", "add": READING},
        {"id": "01931d3c-0000-7000-8000-000000000002", "add": EVENT},
    ]
}
# what a reader may not ask for although it is no owner's business
CREWS_OWN = {
    ("POST", "/rigs/{rig}/writes"),
    ("POST", "/rigs/{rig}/agreed"),
    ("POST", "/rigs/{rig}/agreed/end"),
    ("PUT", "/rigs/{rig}/hardship"),
    ("POST", "/rigs/{rig}/plan/stops"),
    ("POST", "/rigs/{rig}/plan/stops/on"),
    ("POST", "/rigs/{rig}/plan/stops/remove"),
    ("PUT", "/rigs/{rig}/plan/risk"),
    ("PUT", "/rigs/{rig}/plan/currency"),
    ("POST", "/rigs/{rig}/plan/ticket"),
    ("POST", "/rigs/{rig}/places"),
    ("POST", "/rigs/{rig}/places/preview"),
    ("POST", "/rigs/{rig}/places/import"),
    ("PUT", "/rigs/{rig}/places/nowhere"),
    ("DELETE", "/rigs/{rig}/places/nowhere"),
    ("POST", "/rigs/{rig}/tickets"),
    ("DELETE", "/rigs/{rig}/tickets/1"),
    ("POST", "/rigs/{rig}/water/ration/keep"),
}
A_PLACE = {"spot": {"id": "nowhere", "name": "Nowhere", "lat": 54.0, "lon": -2.0, "services": {"water": {}}}}
A_STOP = {"place": "nowhere", "arrive": "2026-09-07T12:00:00+01:00"}
A_FILE = {"text": "name,lat,lon,amenity\nTap,54.1,-2.1,drinking_water\n"}
A_LEVER = {"lever": "showers-ashore", "until": "2026-09-08"}

# method, path, body, and the statuses for owner, crew, stranger, nobody
TABLE = [
    ("GET", "/rigs/{rig}", None, 200, 200, 404, 401),
    ("PUT", "/rigs/{rig}?saw=99", "doc", 200, 403, 404, 401),
    ("POST", "/rigs/{rig}/confirm", {"paths": ["stores.fresh.capacity"]}, 200, 403, 404, 401),
    ("POST", "/rigs/{rig}/delete", {"name": "Sanderling"}, 204, 403, 404, 401),
    ("POST", "/rigs/{rig}/leave", None, 422, 204, 404, 401),
    ("POST", "/rigs/{rig}/invitations", {"role": "crew"}, 200, 403, 404, 401),
    ("GET", "/rigs/{rig}/invitations", None, 200, 403, 404, 401),
    ("DELETE", "/rigs/{rig}/invitations/1", None, 204, 403, 404, 401),
    ("PUT", "/rigs/{rig}/crew/crew", {"role": "reader"}, 200, 403, 404, 401),
    ("POST", "/rigs/{rig}/checks", "doc", 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/crew", None, 200, 200, 404, 401),
    ("DELETE", "/rigs/{rig}/crew/crew", None, 200, 403, 404, 401),
    ("GET", "/rigs/{rig}/horizon", None, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/horizon/seen", {"revision": 1}, 204, 204, 404, 401),
    ("GET", "/rigs/{rig}/revision", None, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/energy", None, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/energy/levers", None, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/energy/run", {"watts": 60, "minutes": 30, "via": "dc"}, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/energy/charge", {"source": "dcdc", "target": 90, "until": "2026-09-08"}, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/energy/accept-loads?saw=99", None, 422, 403, 404, 401),
    ("POST", "/rigs/{rig}/rating", {"amount": 1024, "unit": "Wh", "nominal_v": 12.8}, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/gauges", None, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/review", None, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/round", None, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/understand", TEXT, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/writes", WRITES, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/log", None, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/log/2026-09-04/history", None, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/export", None, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/import/preview", EXAMPLE, 200, 403, 404, 401),
    ("POST", "/rigs/{rig}/import?saw=99", EXAMPLE, 200, 403, 404, 401),
    ("POST", "/rigs/{rig}/import/undo?saw=99", None, 404, 403, 404, 401),
    ("GET", "/rigs/{rig}/kept", None, 200, 403, 404, 401),
    ("GET", "/rigs/{rig}/kept/nothing.json", None, 404, 403, 404, 401),
    ("GET", "/rigs/{rig}/levers", None, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/water", None, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/water/ration", {"until": "2026-09-08"}, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/water/ration/keep", {"until": "2026-09-08"}, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/fuel", None, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/fuel/run", {"appliance": "nothing", "hours": 1}, 422, 422, 404, 401),
    ("POST", "/rigs/{rig}/fuel/accept?saw=99", {"store": "gas"}, 422, 403, 404, 401),
    ("POST", "/rigs/{rig}/stay", {"until": "2026-09-08"}, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/agreed", A_LEVER, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/agreed/end", {"lever": "showers-ashore"}, 200, 200, 404, 401),
    ("PUT", "/rigs/{rig}/hardship", {"lever": "showers-ashore", "value": 3}, 204, 204, 404, 401),
    ("GET", "/rigs/{rig}/places", None, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/places", A_PLACE, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/places/export?format=gpx", None, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/places/preview", A_FILE, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/places/import", A_FILE, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/places/nowhere", None, 404, 404, 404, 401),
    ("PUT", "/rigs/{rig}/places/nowhere", A_PLACE, 404, 404, 404, 401),
    ("DELETE", "/rigs/{rig}/places/nowhere", None, 404, 404, 404, 401),
    ("GET", "/rigs/{rig}/plan", None, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/next", None, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/search?word=tap", None, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/plan/stops", {"stop": A_STOP}, 422, 422, 404, 401),
    (
        "POST",
        "/rigs/{rig}/plan/stops/on",
        {"place": "nowhere", "on": "2026-09-09", "time": "12:00"},
        422,
        422,
        404,
        401,
    ),
    ("POST", "/rigs/{rig}/plan/stops/remove", A_STOP, 204, 204, 404, 401),
    ("PUT", "/rigs/{rig}/plan/risk", {"risk": 0.2}, 204, 204, 404, 401),
    ("PUT", "/rigs/{rig}/plan/currency", {"currency": "EUR"}, 204, 204, 404, 401),
    ("POST", "/rigs/{rig}/plan/try", {"stop": A_STOP, "instead_of": A_STOP}, 200, 200, 404, 401),
    ("GET", "/rigs/{rig}/tickets", None, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/tickets", A_STOP, 422, 422, 404, 401),
    ("GET", "/rigs/{rig}/tickets/1", None, 404, 404, 404, 401),
    ("DELETE", "/rigs/{rig}/tickets/1", None, 404, 404, 404, 401),
    ("POST", "/rigs/{rig}/plan/ticket", {"id": 1}, 404, 404, 404, 401),
    ("GET", "/rigs/{rig}/calendar", None, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/calendar", {}, 200, 200, 404, 401),
    ("DELETE", "/rigs/{rig}/calendar", None, 204, 204, 404, 401),
    ("GET", "/rigs/{rig}/calendar.ics", None, 200, 200, 404, 401),
    ("POST", "/rigs/{rig}/copy", {}, 200, 403, 404, 401),
    ("GET", "/places/find?text=38.5,-8.9", None, 200, 200, 200, 401),
    ("POST", "/rigs/set-up", {}, 422, 422, 422, 401),
    ("POST", "/imports/preview", EXAMPLE, 200, 200, 200, 401),
    ("POST", "/imports", EXAMPLE, 200, 200, 200, 401),
    ("GET", "/account/me", None, 200, 200, 200, 200),
    ("POST", "/account/sign-out", None, 200, 200, 200, 401),
    ("POST", "/account/sign-in", {"username": "x", "password": "y"}, 422, 422, 422, 422),
    ("POST", "/account/password", {"password": "x", "new_password": "y"}, 422, 422, 422, 401),
    ("POST", "/account/delete", {"password": "x"}, 422, 422, 422, 401),
    ("POST", "/account/invited", {"token": "x"}, 404, 404, 404, 404),
    ("POST", "/account/accept", {"token": "x"}, 404, 404, 404, 401),
    ("POST", "/account/join", {"token": "x", "username": "x", "password": "y"}, 404, 404, 404, 404),
    ("POST", "/account/first", {"username": "x", "password": "y"}, 404, 404, 404, 404),
    ("POST", "/account/demo", None, 404, 404, 404, 404),
    ("GET", "/health", None, 200, 200, 200, 200),
]


WHO = ["nobody", "stranger", "crew", "owner"]


@pytest.mark.parametrize("row", TABLE, ids=lambda row: f"{row[0]} {row[1]}")
def test_who_may(row, as_user, rig):
    clients = {who: as_user(who) for who in WHO}
    method, path, body, *statuses = row
    if body == "doc":
        body = clients["owner"].get("/rigs/{rig}").body["doc"]
    allowed = dict(zip(["owner", "crew", "stranger", "nobody"], statuses, strict=True))
    before = Reading.objects.count(), rig.days.count()
    for who, client in clients.items():
        with transaction.atomic():
            answer = client.call(method, path, body)
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
    named = {
        "2026-09-04": "{on}",
        "nothing.json": "{name}",
        "nowhere": "{place_id}",
        "tickets/1": "tickets/{ticket_id}",
        "invitations/1": "invitations/{invitation_id}",
    }

    def as_route(path: str) -> str:
        path = path.replace("{rig}", "{rig_id}").partition("?")[0]
        path = path.replace("/crew/crew", "/crew/{username}")
        for text, name in named.items():
            path = path.replace(text, name)
        return path

    assert {(row[0], as_route(row[1])) for row in TABLE} == routes


@pytest.mark.parametrize("row", [row for row in TABLE if "{rig}" in row[1]], ids=lambda row: f"{row[0]} {row[1]}")
def test_a_reader_sees_and_cannot_change(row, owner, as_user, rig):
    reader = as_user("stranger")
    grant(User.objects.get(username="stranger"), rig, "reader")
    method, path, body, _owner, crew, *_ = row
    body = owner.get("/rigs/{rig}").body["doc"] if body == "doc" else body
    before = Reading.objects.count(), rig.days.count(), rig.revision
    answer = reader.call(method, path, body)
    rig.refresh_from_db()
    assert answer.status_code == (403 if (method, path) in CREWS_OWN else crew)
    assert (Reading.objects.count(), rig.days.count(), rig.revision) == before


def test_another_rigs_entries_cannot_be_reached_through_ones_own(owner, rig, as_user):
    stranger = as_user("stranger")
    stranger.rig = Rig.objects.get(pk=stranger.post("/imports", EXAMPLE).body["rig"])
    theirs = rig.days.get(date="2026-09-03").readings.first()
    ref = {"kind": "reading", "id": str(theirs.uuid)}
    corrected, removed = stranger.write({"correct": {"entry": ref, "to": READING}}, {"remove": ref}).body["writes"]
    assert corrected["state"] == "stale"
    assert corrected["stands"] == "It was taken out of the log."
    assert removed["state"] == "kept"  # nothing of that number is on that rig
    theirs.refresh_from_db()
    assert theirs.method == "fraction"


def test_a_write_from_another_page_is_refused(rig, django_user_model):
    from django.test import Client

    browser = Client(enforce_csrf_checks=True)
    browser.force_login(django_user_model.objects.get(username="owner"))
    answer = browser.post(f"/api/rigs/{rig.pk}/writes", WRITES, content_type="application/json")
    assert answer.status_code == 403


@pytest.mark.parametrize("rig_id", ["0", "999999", "abc", "-1", "1e3", "9" * 30, "%00", "1%20or%201"])
def test_an_unknown_rig_is_not_there(rig_id, owner):
    assert owner.get(f"/rigs/{rig_id}/horizon").status_code == 404
