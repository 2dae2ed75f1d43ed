"""A disk that is full or read-only, and bodies that are not what they should be: said in the API's form, on every route."""

import json

import pytest
from django.core.cache import cache
from django.db import connection

from lodeline.api.limits import MOST_BODY
from lodeline.logbook.models import Reading
from lodeline.logbook.services import shared
from tests.api.conftest import EXAMPLE, Api
from tests.api.test_permissions import TABLE

READING = {"add": {"reading": {"store": "fresh", "text": "2/3"}}}
VIEWS = ["", "horizon", "round", "energy", "log", "review", "gauges", "revision", "crew", "export"]
WRITES = [row for row in TABLE if row[0] != "GET" and row[2] is not None]


def pragma(words):
    with connection.cursor() as cursor:
        cursor.execute(f"PRAGMA {words}")
        return cursor.fetchone()


@pytest.fixture
def full(owner):
    (pages,) = pragma("page_count")
    pragma("page_size")
    pragma(f"max_page_count = {pages}")
    yield
    pragma("max_page_count = 4294967294")


@pytest.fixture
def read_only(owner):
    pragma("query_only = ON")
    yield
    pragma("query_only = OFF")


@pytest.fixture
def no_files(monkeypatch):
    """Nothing beside the database can be written either."""

    def refuse(*_args, **_kwargs):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(cache, "set", refuse)
    monkeypatch.setattr(shared.os, "open", refuse)  # type: ignore[attr-defined]


@pytest.mark.django_db(transaction=True)
@pytest.mark.usefixtures("full", "no_files")
def test_on_a_full_disk_reads_go_on_and_a_write_says_what_to_do(owner):
    shared.forget()
    assert {owner.get(f"/rigs/{{rig}}/{view}".rstrip("/")).status_code for view in VIEWS} == {200}
    before, kept, refused = Reading.objects.count(), 0, None
    for _ in range(200):  # the pages that are there may hold some more
        answer = owner.write(READING)
        if answer.status_code != 200:
            refused = answer
            break
        kept += 1
    assert refused is not None
    assert refused.status_code == 507
    assert refused.body["place"] == ""
    assert refused.body["problem"].startswith("The server's disk is full. Nothing was changed")
    assert Reading.objects.count() == before + kept
    pragma("max_page_count = 4294967294")
    assert owner.write(READING).status_code == 200


@pytest.mark.django_db(transaction=True)
@pytest.mark.usefixtures("read_only")
def test_where_nothing_may_be_written_reads_go_on(owner):
    assert {owner.get(f"/rigs/{{rig}}/{view}".rstrip("/")).status_code for view in VIEWS} == {200}
    answer = owner.write(READING)
    assert answer.status_code == 503
    assert "may not write to its data folder" in answer.body["problem"]


@pytest.mark.django_db(transaction=True)
@pytest.mark.usefixtures("read_only")
def test_a_fault_outside_the_routes_is_said_in_the_same_form(owner):
    """As where Django itself cannot keep a session."""
    owner.client.raise_request_exception = False
    session = owner.client.session
    answer = owner.post("/account/sign-out")
    assert answer.status_code == 503
    assert answer.body["problem"]
    assert session.session_key


BROKEN = {
    b'{"a": {"b": NaN}}': ("a.b", "finite"),
    b'{"a": 1, "a": 2}': ("a", "twice"),
    b'{"a": ["x\\u0000"]}': ("a[0]", "not text"),
    b'{"a": {"b": "\\ud800"}}': ("a.b", "not text"),
    b"[" * 5000: ("line 1, column 202", "nested too deep"),
    b'{"a": ' + b"9" * 5000 + b"}": ("a", "too large"),
    b'{"a": ': ("line 1, column 6", "it ends in the middle"),
    b'"\xff"': ("", "not UTF-8"),
}


@pytest.mark.parametrize("row", WRITES, ids=lambda row: f"{row[0]} {row[1]}")
def test_every_route_names_the_place_of_what_is_broken(row, owner):
    for body, (place, says) in BROKEN.items():
        answer = owner.call(row[0], row[1], body)
        assert answer.status_code == 422, body[:20]
        assert (answer.body["place"], says in answer.body["problem"]) == (place, True)


@pytest.mark.parametrize("row", WRITES, ids=lambda row: f"{row[0]} {row[1]}")
def test_every_route_has_its_limit_and_wants_json(row, owner):
    answer = owner.call(row[0], row[1], b" " * (MOST_BODY + 1))
    takes_more = "import" in row[1] or row[2] == "doc" or row[1].endswith("/places/preview")
    assert answer.status_code == (422 if takes_more else 413)
    assert answer.body["problem"]
    path = f"/api{row[1].format(rig=owner.rig.pk)}"
    form = owner.client.generic(row[0], path, b"a=1", "application/x-www-form-urlencoded")
    multi = owner.client.generic(row[0], path, b"a=1", "multipart/form-data")
    assert (form.status_code, multi.status_code) == (415, 415)
    assert "JSON" in json.loads(multi.content)["problem"]


@pytest.mark.parametrize(
    ("method", "path", "status"),
    [("GET", "/nothing", 404), ("DELETE", "/rigs/{rig}/round", 405), ("PATCH", "/account/me", 405)],
)
def test_what_is_not_there_is_told_in_the_same_form(owner, method, path, status):
    answer = owner.call(method, path)
    assert answer.status_code == status
    assert answer.body.keys() == {"place", "label", "problem"}


@pytest.mark.parametrize("units", ["metric", "us", "uk"])
@pytest.mark.parametrize("name", ["fresh", "grey", "gas", "fuel", "battery_ah", "solar_watts"])
def test_set_up_takes_or_refuses_any_amount_by_its_name(owner, units, name):
    answers = {
        "name": "Heron",
        "timezone": "Europe/Lisbon",
        "units": units,
        "adults": 2.0,
        "chemistry": "agm",
        "battery_ah": 220,
        "solar_watts": 300,
        "fresh": 40,
        "grey": 30,
        "toilet": "black",
        "gas": 20,
        "fuel": 25,
        "heater": "gas",
    }
    for amount in (0, 1e-300, 0.12, 1e6, 9.9e6, 1e7, 1e8, 1e300):
        answer = owner.post("/rigs/set-up", answers | {name: amount})
        assert answer.status_code in ((200,) if amount <= 1e6 else (200, 422))
        if answer.status_code == 422:
            assert answer.body["place"] == name
            assert "at most" in answer.body["problem"]


def test_numbers_beyond_all_use_are_refused_in_any_units(owner, rig):
    doc = owner.get("/rigs/{rig}").body["doc"] | {"units": "us"}
    revision = owner.get("/rigs/{rig}").body["revision"]
    for huge in (1e7, 1e8, 1e308, 10**15, 10**16):
        doc["stores"][1]["capacity"] = huge
        answer = owner.put(f"/rigs/{{rig}}?saw={revision}", doc)
        assert answer.status_code in (200, 422)
        revision = answer.body.get("revision", revision)
        assert owner.get("/rigs/{rig}/horizon").status_code == 200
    for text in ("1e300 gal", "9" * 60 + " gal", "-1 gal", "1e9 gal", "inf gal", "nan"):
        assert owner.post("/rigs/{rig}/understand", {"store": "fresh", "text": text}).status_code == 422
    assert owner.post("/rigs/{rig}/energy/run", {"watts": 1e300, "minutes": 1e300, "via": "dc"}).status_code == 422


@pytest.mark.parametrize("year", ["1969", "2101", "0001", "9999"])
def test_a_year_that_no_log_has_is_refused_on_every_way_in(owner, year):
    on = f"{year}-07-01"
    book = json.loads(EXAMPLE)
    book["days"][0]["date"] = on
    answers = [
        owner.write({"add": {"reading": {"store": "fresh", "text": "1/3"}, "on": on, "time": "20:00"}}),
        owner.write({"day": {"on": on, "facts": {"sky": "clear"}}}),
        owner.write({"plan": {"on": on, "facts": {"sky": "clear"}}}),
        owner.get(f"/rigs/{{rig}}/log?before={on}"),
        owner.get(f"/rigs/{{rig}}/log/{on}/history"),
        owner.post("/imports", book),
    ]
    for answer in answers:
        said = answer.body if answer.status_code == 422 else answer.body["writes"][0]
        assert "1970 and 2100" in said["problem"], said


def test_a_stranger_is_told_nothing_of_a_large_body(rig):
    stranger = Api(rig)
    assert stranger.post("/imports", b" " * 200_000).status_code == 401


HUGE = "<huge>"
LARGE = ("9" * 400, "-" + "9" * 400, "9" * 5000, "1e308", "1e999", "0." + "1" * 5000)


def with_huge(value, at):
    """A document with one of its numbers, the ``at``-th, put aside for a huge one; how many numbers it has."""
    count = 0

    def walk(each):
        nonlocal count
        if isinstance(each, dict):
            return {key: walk(inner) for key, inner in each.items()}
        if isinstance(each, list):
            return [walk(inner) for inner in each]
        if isinstance(each, bool) or not isinstance(each, int | float):
            return each
        count += 1
        return HUGE if count - 1 == at else each

    return walk(value), count


@pytest.mark.parametrize(("method", "path", "body"), [row[:3] for row in WRITES], ids=lambda each: str(each)[:60])
def test_every_number_is_bounded_where_it_is_read(owner, method, path, body):
    if body == "doc":
        body = owner.get("/rigs/{rig}").body["doc"]
    elif isinstance(body, bytes):
        body = json.loads(body)
        body["days"] = body["days"][:1]
    _, count = with_huge(body, -1)
    for at in range(count):
        changed, _ = with_huge(body, at)
        for number in LARGE if at == 0 else LARGE[:1]:
            answer = owner.call(method, path, json.dumps(changed).replace(f'"{HUGE}"', number).encode())
            assert answer.status_code < 500, (path, at, number[:10], answer.body)


@pytest.mark.parametrize(
    "path",
    [
        "/rigs/{rig}/log?days=9",
        "/rigs/{rig}/tickets/9",
        "/rigs/9/round",
        "/rigs/{rig}?saw=9",
        "/rigs/{rig}/invitations/9",
        "/rigs/{rig}/log?entries=9",
    ],
)
def test_every_number_of_an_address_is_bounded_too(owner, path):
    for number in LARGE:
        for method in ("GET", "PUT", "DELETE"):
            assert owner.call(method, path.replace("9", number), {}).status_code < 500


def test_every_number_that_is_typed_is_bounded(owner):
    for number in (
        "9" * 60,
        "9" * 400,
        "1e400",
        "-" + "9" * 50,
        "0." + "0" * 60 + "1",
        "1/" + "9" * 60,
        "9" * 60 + "/1",
    ):
        for unit in ("", " L", " %", " V", " kg", " gal", " Ah"):
            for store in ("fresh", "house", "gas"):
                assert owner.post("/rigs/{rig}/understand", {"store": store, "text": number + unit}).status_code < 500
