"""Imports in chunks, undone as it was; kept exports; what is left half done; a changed timezone; a deleted rig."""

import fcntl
import json
from datetime import timedelta
from pathlib import Path

import pytest
from django.conf import settings
from django.db import connection
from django.test.utils import CaptureQueriesContext

from lodeline.core.zone import Zone
from lodeline.formats.logbook import read_logbook
from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services import chunks, rigs, shared, transfer
from tests.api.conftest import EXAMPLE

OTHER = EXAMPLE.replace(b'"name": "Sanderling"', b'"name": "Heron"').replace(b'"capacity": 140', b'"capacity": 90')


def whole(rig):
    """All that a rig has: its rows as they are, but for whose they are."""
    kinds = {
        m.Store: {"rig": rig},
        m.Day: {"rig": rig},
        m.OutlookDay: {"rig": rig},
        m.Reading: {"day__rig": rig},
        m.Event: {"day__rig": rig},
        m.IssuedForecast: {"store__rig": rig},
    }
    held = {kind.__name__: list(kind.objects.filter(**which).order_by("pk").values()) for kind, which in kinds.items()}  # type: ignore[attr-defined]
    row = m.Rig.objects.get(pk=rig.pk)
    return held | {"rig": (row.name, row.timezone, row.units, row.parts, row.assumed)}


@pytest.fixture
def lived_in(owner, rig):
    """A rig with what no file carries: typed texts, forecasts that were shown, what was assumed."""
    rig.assumed = ["stores.fresh.capacity"]
    rig.save()
    owner.read("fresh", "1/3")
    owner.post("/rigs/{rig}/horizon/seen", {"revision": owner.get("/rigs/{rig}/horizon").body["revision"]})
    assert m.IssuedForecast.objects.exists()
    assert m.Reading.objects.exclude(text="").exists()
    return rig


def revision(owner):
    return owner.get("/rigs/{rig}/revision").body["revision"]


def test_an_import_is_undone_as_it_was_and_again(owner, lived_in):
    before = whole(lived_in)
    saw = revision(owner)
    assert owner.post(f"/rigs/{{rig}}/import?saw={saw}", OTHER).status_code == 200
    imported = whole(lived_in)
    assert imported["rig"][0] == "Heron"
    assert not imported["IssuedForecast"]
    listed = owner.get("/rigs/{rig}/kept").body
    assert listed["can_undo"]
    undone = owner.post(f"/rigs/{{rig}}/import/undo?saw={listed['revision']}")
    assert undone.status_code == 200
    assert whole(lived_in) == before
    assert owner.get("/rigs/{rig}").body["doc"]["name"] == "Sanderling"
    assert owner.get("/rigs/{rig}/horizon").status_code == 200
    owner.post(f"/rigs/{{rig}}/import/undo?saw={revision(owner)}")
    assert whole(lived_in) == imported
    assert m.Rig.objects.filter(aside_of=lived_in).count() == 1  # one that can be put back, and no more


def test_what_was_written_meanwhile_is_not_replaced_unseen(owner, lived_in):
    saw = revision(owner)
    owner.post(f"/rigs/{{rig}}/import?saw={saw}", OTHER)
    imported = revision(owner)
    owner.read("fresh", "2/3")
    for path, body in ((f"import/undo?saw={imported}", None), (f"import?saw={imported}", EXAMPLE)):
        assert owner.post(f"/rigs/{{rig}}/{path}", body).status_code == 409
    assert whole(lived_in)["rig"][0] == "Heron"


def test_a_day_set_from_a_screen_before_an_import_was_undone_is_stale(owner, lived_in):
    owner.day("2026-09-04", sky="overcast")
    owner.post(f"/rigs/{{rig}}/import?saw={revision(owner)}", OTHER)
    on_screen = revision(owner)
    owner.post(f"/rigs/{{rig}}/import/undo?saw={on_screen}")
    answer = owner.write({"saw": on_screen, "day": {"on": "2026-09-04", "facts": {"sky": "wet"}}}).body["writes"][0]
    assert answer["state"] == "stale"


def test_kept_exports_are_listed_with_their_dates_and_can_be_had(owner, as_user, lived_in):
    owner.post(f"/rigs/{{rig}}/import?saw={revision(owner)}", OTHER)
    owner.post(f"/rigs/{{rig}}/import?saw={revision(owner)}", EXAMPLE)
    listed = owner.get("/rigs/{rig}/kept").body["exports"]
    own = [each for each in listed if each["at"]["date"] == "2026-09-05"]
    assert len(own) >= 2
    assert own[0]["at"]["time"] == "20:30"
    assert own[0]["size"].endswith("kB")
    book = json.loads(owner.get(f"/rigs/{{rig}}/kept/{own[0]['name']}").content)
    assert book["rig"]["name"] == "Heron"
    assert as_user("crew").get("/rigs/{rig}/kept").status_code == 403


def test_an_import_that_fails_half_way_leaves_nothing(owner, rig, monkeypatch):
    before, rigs_before = whole(rig), m.Rig.objects.count()

    def fail(kind, made):
        if kind is m.Event:
            raise OSError(28, "No space left on device")
        return create(kind, made)

    create = chunks.create
    monkeypatch.setattr(chunks, "create", fail)
    assert owner.post("/rigs/{rig}/import?saw=99", OTHER).status_code == 507
    assert owner.post("/imports", OTHER).status_code == 507
    assert whole(rig) == before
    assert m.Rig.objects.count() == rigs_before


def test_no_transaction_of_an_import_writes_more_than_a_chunk(owner, rig, monkeypatch):
    monkeypatch.setattr(chunks, "ROWS", 2)
    made = []

    def count(execute, sql, params, many, context):
        if many:
            made.append(len(params))
        return execute(sql, params, many, context)

    with connection.execute_wrapper(count):
        assert owner.post("/imports", EXAMPLE).status_code == 200
    assert made
    assert max(made) <= 2


def test_what_was_left_half_done_is_finished(owner, rig):
    doc = read_logbook(transfer.export(rig)).doc
    with transfer._staged(doc, revision=1) as staged, transfer._staged(doc, revision=1) as young:
        pass
    staged.aside_at = clock.now() - timedelta(hours=2)
    staged.save()
    day = m.Day.objects.filter(rig=rig).first()
    m.Reading.objects.filter(day=day).update(day=m.Day.objects.filter(rig=rig).last())
    m.Rig.objects.filter(pk=rig.pk).update(is_dated=False)
    chunks.finish()
    assert not m.Rig.objects.filter(pk=staged.pk).exists()
    assert m.Rig.objects.filter(pk=young.pk).exists()  # another process may be writing it
    for reading in m.Reading.objects.filter(day__rig=rig).select_related("day"):
        assert reading.day.date == Zone(rig.timezone).date(reading.at)
    assert owner.get("/rigs/{rig}/horizon").status_code == 200


@pytest.mark.parametrize("timezone", ["Pacific/Auckland", "America/Denver", "UTC"])
def test_after_a_change_of_timezone_every_entry_is_on_its_date(owner, rig, timezone, monkeypatch):
    monkeypatch.setattr(chunks, "ROWS", 2)
    stamp = rig.stamp
    doc = owner.get("/rigs/{rig}").body["doc"] | {"timezone": timezone}
    assert owner.put(f"/rigs/{{rig}}?saw={revision(owner)}", doc).status_code == 200
    for kind in (m.Reading, m.Event):
        for entry in kind.objects.filter(day__rig=rig).select_related("day"):
            assert entry.day.date == Zone(timezone).date(entry.at)
    rig.refresh_from_db()
    assert rig.is_dated
    assert rig.stamp != stamp


def test_a_change_of_timezone_writes_only_what_moves(owner, rig):
    doc = owner.get("/rigs/{rig}").body["doc"] | {"timezone": "Europe/London"}  # the same time at another place
    with CaptureQueriesContext(connection) as queries:
        owner.put(f"/rigs/{{rig}}?saw={revision(owner)}", doc)
    assert not [query for query in queries if "SET day_id" in query["sql"]]


def test_a_deleted_rig_is_nobodys_before_it_is_gone(owner, rig, monkeypatch):
    monkeypatch.setattr(chunks, "clear", lambda rig: None)  # as where the server is stopped there
    transfer.keep_export(rig, "delete")
    rigs.delete_rig(rig)
    assert owner.get("/rigs/{rig}/round").status_code == 404
    assert owner.get("/account/me").body["rigs"] == []
    row = m.Rig.objects.get(pk=rig.pk)
    assert row.aside == m.Rig.DELETED


def test_a_rig_and_who_has_it_come_to_be_together(owner, monkeypatch):
    def fail(*_args):
        raise OSError(28, "No space left on device")

    before = set(m.Rig.objects.filter(aside="").values_list("pk", flat=True))
    monkeypatch.setattr("lodeline.api.transfer.grant", fail)
    monkeypatch.setattr("lodeline.api.rigs.access.grant", fail)
    answers = {
        "name": "Heron",
        "timezone": "Europe/Lisbon",
        "units": "us",
        "adults": 2,
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
    assert owner.post("/imports", EXAMPLE).status_code == 507
    assert owner.post("/rigs/set-up", answers).status_code == 507
    assert set(m.Rig.objects.filter(aside="").values_list("pk", flat=True)) == before


def test_one_large_file_is_read_at_a_time(owner, monkeypatch):
    """Also by another process, which has the file's lock."""
    monkeypatch.setattr("lodeline.api.transfer.MOST_BODY", 100)
    monkeypatch.setattr(shared, "_PATIENCE_S", 0.01)
    assert owner.post("/imports/preview", EXAMPLE).status_code == 200
    with shared.whole_log():
        busy = owner.post("/imports/preview", EXAMPLE)
        assert (busy.status_code, owner.get("/rigs/{rig}/export").status_code) == (503, 503)
        assert "another whole log" in busy.body["problem"]
    with (Path(settings.LODELINE_DATA) / "locks" / "whole-log").open() as other:
        fcntl.flock(other, fcntl.LOCK_EX)
        assert owner.post("/imports/preview", EXAMPLE).status_code == 503
    assert owner.post("/imports/preview", b"{}" + b" " * 200).status_code == 422
    assert owner.post("/imports/preview", EXAMPLE).status_code == 200
