"""An older copy is restored while devices hold writes: numbers come again, names do not; what was seen is asked about."""

import sqlite3
from contextlib import closing
from uuid import uuid4

import pytest
from django.db import connection

from lodeline.logbook import models as m
from lodeline.logbook.services import derived, rows, writes
from lodeline.site.backups import backup, restore

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def base(rig, tmp_path):
    """The database as a file, so that it can be kept and replaced."""
    path, memory, named = tmp_path / "lodeline.sqlite3", connection.connection, connection.settings_dict["NAME"]
    memory.execute("vacuum into ?", [str(path)])
    connection.connection, connection.settings_dict["NAME"] = None, path
    yield path
    connection.close()
    connection.connection, connection.settings_dict["NAME"] = memory, named


def put_back(base, copy):
    connection.close()
    restore(copy, base)


def states(answer):
    return [each["state"] for each in answer.body["writes"]]


@pytest.fixture
def seen(base, owner, tmp_path):
    """What a device saw of a log, of which an older copy was then restored: its entries, and the revision."""
    old = owner.read("fresh", "2/3").body["entries"][0]
    owner.day("2026-09-05", sky="wet")
    owner.plan("2026-09-07", sky="wet")
    backup(base, tmp_path / "copy.sqlite3")
    new = owner.read("fresh", "1/3").body["entries"][0]
    number = m.Reading.objects.get(uuid=new["id"]).pk
    saw = owner.day("2026-09-05", sky="clear") and owner.get("/rigs/{rig}/revision").body["revision"]
    put_back(base, tmp_path / "copy.sqlite3")
    return {"old": old, "new": new, "number": number, "saw": saw}


def of(entry):
    return {"kind": entry["kind"], "id": entry["id"]}


def test_a_removal_that_waited_takes_out_nothing_that_somebody_else_logged(seen, owner):
    # numbers count on: not even one that an earlier version of the device named is of another entry
    other = owner.read("urine", "40%").body["entries"][0]
    waited = [
        {"remove": of(seen["new"]), "saw": seen["saw"]},
        {"remove": {"kind": "reading", "id": seen["number"], "sent": None}, "saw": seen["saw"]},
    ]
    assert states(owner.write(*waited)) == ["kept", "kept"]  # gone already, as it was wanted
    assert m.Reading.objects.filter(uuid=other["id"]).exists()


def test_what_was_seen_before_is_asked_about_for_every_kind_of_write(seen, owner):
    to = {"reading": {"store": "fresh", "text": "90 L"}}
    waited = [
        {"remove": of(seen["old"])},
        {"correct": {"entry": of(seen["old"]), "to": to}},
        {"correct": {"entry": of(seen["new"]), "to": to}},
        {"day": {"on": "2026-09-05", "facts": {"sky": "clear"}}},
        {"day": {"on": "2026-09-05", "facts": {"crew_aboard": 4}}},
        {"plan": {"on": "2026-09-07", "facts": {"sky": "clear"}}},
    ]
    answer = owner.write(*(each | {"saw": seen["saw"]} for each in waited))
    assert states(answer) == ["stale"] * 6
    stands = [each["stands"] for each in answer.body["writes"]]
    assert stands[2] is None or "taken out" in stands[2].lower()
    assert stands[0] == stands[1] != stands[2]
    # having seen what stands, one chooses
    again = [each | {"saw": answer.body["writes"][0]["revision"]} for each in waited]
    assert states(owner.write(*again)) == ["kept", "stale", "stale", "kept", "kept", "kept"]
    # what is new speaks of nothing that stood
    assert (
        states(owner.write({"add": to}, {"note": None, "add": {"event": {"type": "shower", "count": 1}}}))
        == ["kept"] * 2
    )


def test_the_parts_of_the_rig_and_imports_are_asked_about_too(seen, owner, rig):
    doc = owner.get("/rigs/{rig}").body["doc"]
    assert owner.put(f"/rigs/{{rig}}?saw={seen['saw']}", doc | {"name": "Heron"}).status_code == 409
    assert (
        owner.post(
            f"/rigs/{{rig}}/import?saw={seen['saw']}", owner.client.get(f"/api/rigs/{rig.pk}/export").content
        ).status_code
        == 409
    )


def test_what_its_own_device_logged_is_still_taken_back(base, owner, tmp_path):
    """Its name proves that what stands is what was seen."""
    id = str(uuid4())
    owner.write({"id": id, "add": {"reading": {"store": "fresh", "text": "2/3"}}})
    backup(base, tmp_path / "copy.sqlite3")
    put_back(base, tmp_path / "copy.sqlite3")
    take_back = {"remove": {"kind": "reading", "id": id}, "saw": 0, "after": [id]}
    assert states(owner.write(take_back)) == ["kept"]
    assert not m.Reading.objects.filter(uuid=id).exists()


@pytest.mark.parametrize("damaged", [False, True])
def test_numbers_count_on_from_what_stood(base, owner, tmp_path, damaged):
    backup(base, tmp_path / "copy.sqlite3")
    tables = ("logbook_rig", "logbook_reading", "logbook_event", "logbook_ticket", "accounts_invitation", "auth_user")

    def next_number(path, table):
        with closing(sqlite3.connect(path)) as read:
            return (read.execute("select seq from sqlite_sequence where name = ?", [table]).fetchone() or [0])[0]

    for _ in range(3):
        owner.read("fresh", "1/3")
        owner.post("/rigs/{rig}/invitations", {"role": "crew"})
    before = {table: next_number(base, table) for table in tables}
    connection.close()
    if damaged:
        for path in (base, base.with_name(f"{base.name}-wal")):
            if path.exists():
                path.write_bytes(b"nothing of a database" * 400)
    restore(tmp_path / "copy.sqlite3", base)
    assert all(next_number(base, table) >= number for table, number in before.items())


def test_levels_of_the_log_before_are_not_shown_while_new_ones_are_worked_out(base, owner, rig, tmp_path):
    before = derived.levels_here(m.Rig.objects.get(pk=rig.pk))
    backup(base, tmp_path / "copy.sqlite3")
    put_back(base, tmp_path / "copy.sqlite3")
    assert derived._standing(m.Rig.objects.get(pk=rig.pk), before) is None


def test_what_was_understood_by_a_rig_that_is_another_by_now_is_understood_anew(owner, rig):
    """The rig was read; then somebody changed its parts; then the turn came."""
    stands = rows.rig_rows(m.Rig.objects.get(pk=rig.pk))
    assert owner.change_rig(name="Heron").status_code == 200
    write = writes.Write(id=uuid4(), digest="x", saw=1, command=writes.SetDay(None, None))
    with pytest.raises(writes.RigChanged):
        writes.apply(stands, [write], by=None)
