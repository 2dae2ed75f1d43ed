"""Data kept by an earlier version is the same rig and the same forecasts afterwards."""

from datetime import UTC, datetime
from uuid import uuid4

import pytest
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

BEFORE = [("logbook", "0003_bank_and_horizon"), ("accounts", "0001_initial")]
AFTER = [("logbook", "0004_parts_hours_issued")]


def migrate(targets):
    executor = MigrationExecutor(connection)
    executor.migrate(targets)
    return MigrationExecutor(connection).loader.project_state(targets).apps


@pytest.mark.django_db(transaction=True)
def test_parts_hours_and_forecasts_are_brought_over():
    old = migrate(BEFORE)
    rig = old.get_model("logbook", "Rig").objects.create(
        name="Wren", timezone="UTC", units="us", adults=2, pets=1, inverter={"watts": 900.0, "efficiency": 0.9}
    )
    fresh = old.get_model("logbook", "Store").objects.create(
        rig=rig, slug="fresh", kind="fresh", name="Water", capacity=90.0, reserve=10.0
    )
    old.get_model("logbook", "Array").objects.create(rig=rig, slug="roof", watts=300.0, horizon_deg=12.0)
    old.get_model("logbook", "Source").objects.create(rig=rig, slug="gen", kind="generator", amps=40.0)
    for slug, name in (("cold", "Fridge-freezer"), ("net", "Satellite dish"), ("fan", "Roof fan")):
        old.get_model("logbook", "Load").objects.create(
            rig=rig, slug=slug, name=name, watts=40.0, hours_per_day=8.0, via="dc", when="any"
        )
    old.get_model("logbook", "OutlookDay").objects.create(rig=rig, date="2026-09-06", drive_hours=2.0, shore_hours=0.0)
    shown = old.get_model("logbook", "ShownForecast")
    # one a local date it was: around a midnight there may be two within an hour, and the later stands
    for date, minute in (("2026-09-05", 5), ("2026-09-06", 40)):
        at = datetime(2026, 9, 5, 20, minute, tzinfo=UTC)
        shown.objects.create(store=fresh, date=date, at=at, p10_days=1.0, p50_days=2.0, pencil_days=float(minute))
    migrate(AFTER)
    migrate([node for node in MigrationExecutor(connection).loader.graph.leaf_nodes() if node[0] != "auth"])
    from lodeline.logbook import models as m
    from lodeline.logbook.services import rows

    whole = rows.rig_rows(m.Rig.objects.get())
    core, doc = whole.core, whole.doc.model_dump(exclude_none=True)
    assert (core.crew.adults, core.crew.pets, core.inverter.watts) == (2, 1, 900.0)
    assert doc["stores"] == [{"id": "fresh", "kind": "fresh", "name": "Water", "capacity": 90.0, "reserve": 10.0}]
    assert (core.solar[0].watts, core.solar[0].horizon_deg, core.sources[0].kind.id) == (300.0, 12.0, "generator")
    assert [load.kind.id for load in core.loads] == ["fridge", "internet", "other"]
    assert m.OutlookDay.objects.get().hours == {"alternator": 2.0, "shore": 0.0}
    kept = m.IssuedForecast.objects.get()
    assert (kept.hour, kept.baseline_days) == (datetime(2026, 9, 5, 20, tzinfo=UTC), 40.0)


@pytest.mark.django_db(transaction=True)
def test_entries_are_named_by_the_write_that_made_them():
    old = migrate([("logbook", "0009_within"), ("accounts", "0001_initial")])
    get, at = old.get_model, datetime(2026, 9, 5, 20, tzinfo=UTC)
    rig = get("logbook", "Rig").objects.create(name="Wren", timezone="UTC", units="us")
    store = get("logbook", "Store").objects.create(rig=rig, slug="fresh")
    day = get("logbook", "Day").objects.create(rig=rig, date="2026-09-05")
    added, corrected = uuid4(), uuid4()
    rows = [
        get("logbook", "Reading").objects.create(day=day, store=store, at=at, method="share", value=0.5) for _ in "ab"
    ]
    event = get("logbook", "Event").objects.create(day=day, at=at, type="shower")
    for sent, kind, key in ((added, "reading", rows[1].pk), (corrected, "reading", rows[1].pk), (uuid4(), "day", None)):
        get("logbook", "Receipt").objects.create(rig=rig, sent=sent, at=at, digest="x", kind=kind, key=key)
    get("logbook", "Change").objects.create(rig=rig, at=at, action="logged", kind="reading", ref=str(rows[1].pk))
    migrate([node for node in MigrationExecutor(connection).loader.graph.leaf_nodes() if node[0] != "auth"])
    from lodeline.logbook import models as m

    assert m.Reading.objects.get(pk=rows[1].pk).uuid == added
    assert [row.entry for row in m.Receipt.objects.order_by("pk")] == [added, added, None]
    assert m.Change.objects.get().ref == added.hex
    names = {m.Reading.objects.get(pk=rows[0].pk).uuid, m.Event.objects.get(pk=event.pk).uuid, added}
    assert len(names) == 3
