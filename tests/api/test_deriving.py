"""What views and rounds cost: derivations, queries, and who writes."""

import logging
from concurrent.futures import ThreadPoolExecutor

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from lodeline.logbook import models as m
from lodeline.logbook.services import derived, plans, shared

ROUND = [
    {"reading": {"store": "house", "text": "80%"}},
    {"reading": {"store": "fresh", "text": "1/3"}},
    {"reading": {"store": "grey", "text": "2/3"}},
    {"reading": {"store": "urine", "text": "20%"}},
    {"reading": {"store": "gas", "text": "10.9 kg"}},
    {"reading": {"store": "diesel", "text": "60%"}},
    {"reading": {"store": "house", "text": "79%"}},
    {"event": {"type": "dump", "store": "urine"}},
    {"event": {"type": "shower", "count": 2}},
]
VIEWS = ["horizon", "round", "energy", "log", "review", "gauges"]


@pytest.fixture
def derivations(caplog):
    """How often something was derived since the last look."""
    caplog.set_level(logging.INFO, logger=shared.__name__)

    def count() -> int:
        n = sum(record.message.startswith("derived") for record in caplog.records)
        caplog.clear()
        return n

    return count


def test_an_evenings_round_is_one_batch_that_costs_little(owner, derivations):
    owner.get("/rigs/{rig}/round")  # as the page did on which it was typed
    derivations()
    with CaptureQueriesContext(connection) as queries:
        answer = owner.log(*ROUND)
    assert answer.status_code == 200
    assert len(answer.body["entries"]) == 9
    assert len(queries) <= 15, [query["sql"] for query in queries]
    for view in VIEWS:
        owner.get(f"/rigs/{{rig}}/{view}")
    assert derivations() <= 2
    for view in VIEWS:
        owner.get(f"/rigs/{{rig}}/{view}")
    assert derivations() == 0


def test_another_worker_takes_what_the_first_one_derived(owner, derivations):
    first = owner.get("/rigs/{rig}/horizon").body
    assert derivations() == 2
    shared.AT_HAND.clear()  # as a process that was not there
    assert owner.get("/rigs/{rig}/horizon").body == first
    assert derivations() == 0


def test_a_batch_gives_the_levels_that_the_whole_log_gives(owner, rig):
    owner.get("/rigs/{rig}/round")
    owner.log(*ROUND)
    rig.refresh_from_db()
    quick = derived.levels(rig)
    shared.forget()
    whole = derived.levels(rig)
    for store, known in whole.tracked.items():
        assert quick.tracked[store].belief.level == known.belief.level
        assert (quick.tracked[store].belief.cov == known.belief.cov).all()
    assert quick.log == whole.log


@pytest.mark.parametrize("view", [*VIEWS, "energy/levers", "log/2026-09-04/history", "crew", "revision", "", "export"])
def test_a_view_never_writes(owner, view):
    with CaptureQueriesContext(connection) as queries:
        assert owner.get(f"/rigs/{{rig}}/{view}".rstrip("/")).status_code == 200
    written = [query["sql"] for query in queries if not query["sql"].startswith("SELECT")]
    assert written == []


def test_a_forecast_is_kept_when_it_was_shown_and_once_an_hour(owner, monkeypatch):
    def seen():
        return owner.post("/rigs/{rig}/horizon/seen", {"revision": owner.get("/rigs/{rig}/horizon").body["revision"]})

    owner.get("/rigs/{rig}/horizon")
    assert not m.IssuedForecast.objects.exists()
    assert seen().status_code == 204
    stores = m.IssuedForecast.objects.count()
    assert stores > 3
    owner.read("fresh", "1/3")
    monkeypatch.setenv("LODELINE_NOW", "2026-09-05T20:45:00+01:00")
    seen()
    assert m.IssuedForecast.objects.count() == stores
    monkeypatch.setenv("LODELINE_NOW", "2026-09-05T21:05:00+01:00")
    seen()
    assert m.IssuedForecast.objects.count() == 2 * stores


def test_a_forecast_that_is_no_more_is_not_kept(owner):
    old = owner.get("/rigs/{rig}/horizon").body["revision"]
    owner.read("fresh", "1/3")
    owner.post("/rigs/{rig}/horizon/seen", {"revision": old})
    assert not m.IssuedForecast.objects.exists()


def test_many_requests_at_once_derive_once_and_other_rigs_do_not_wait(derivations, tmp_path, settings):
    settings.LODELINE_DATA = tmp_path
    shared.forget()
    rigs = [m.Rig(pk=pk, timezone="UTC") for pk in (901, 902)]

    def ask(rig):
        return shared.kept("levels", rig, derived.clock.now(), lambda _tell: f"of {rig.pk}")  # type: ignore[attr-defined]

    with ThreadPoolExecutor(8) as pool:
        answers = list(pool.map(ask, rigs * 8))
    assert answers == ["of 901", "of 902"] * 8
    assert derivations() == 2
    with shared.alone(rigs[0]):
        assert ask(m.Rig(pk=903, timezone="UTC")) == "of 903"


def test_a_revision_that_comes_twice_does_not_bring_back_what_was_derived_of_the_other(owner, rig):
    """As after a restore: an older database, and then another write at a revision that was there before."""
    owner.read("fresh", "1/3")
    before = owner.get("/rigs/{rig}/round").body
    m.Reading.objects.latest("pk").delete()
    rig.save(update_fields=["revision"])  # back to what it was
    owner.read("fresh", "1")
    after = owner.get("/rigs/{rig}/round").body
    assert after["revision"] == before["revision"]
    assert [each["words"] for each in after["entries"]] != [each["words"] for each in before["entries"]]


def test_an_older_answer_does_not_stand_for_a_log_that_has_its_revision_by_chance(owner, rig):
    """While a restored rig is worked out, what is shown is of before; its log is the one that stands now."""
    owner.read("fresh", "1/3")
    rig.refresh_from_db()
    before = derived.derived(rig)
    m.Reading.objects.latest("pk").delete()
    m.Rig.objects.update(stamp=m.new_stamp())
    rig.refresh_from_db()
    today = before.rig.zone.date(before.now)
    assert rig.revision == before.revision
    stands = derived.log_of(rig, before, today, today).day(today)
    assert len(stands.readings) == len(before.log.day(today).readings) - 1


def test_what_levers_bring_is_worked_out_once_while_what_is_known_stands(owner, monkeypatch):
    asked = []
    together_of = plans.together_of
    monkeypatch.setattr(plans, "together_of", lambda *given: asked.append(given) or together_of(*given))
    stay = {"until": "2026-09-08", "sure": 0.9}
    first = owner.get("/rigs/{rig}/levers").body, owner.post("/rigs/{rig}/stay", stay).body
    n = len(asked)
    assert (owner.get("/rigs/{rig}/levers").body, owner.post("/rigs/{rig}/stay", stay).body) == first
    assert len(asked) == n
    owner.post("/rigs/{rig}/stay", stay | {"sure": 0.8})  # another question
    assert len(asked) > n
    n = len(asked)
    owner.read("grey", "2/3")
    assert owner.get("/rigs/{rig}/levers").body != first[0]
    assert len(asked) > n
