"""What a request may cost, in questions to the database and in derivations, not in seconds."""

from django.db import connection
from django.test.utils import CaptureQueriesContext

from lodeline.core.tracking.track import track


def questions(work) -> int:
    """How often the database is asked in doing something."""
    with CaptureQueriesContext(connection) as asked:
        work()
    return len(asked)


def test_a_poll_asks_who_and_which_revision_alone(owner):
    owner.get("/rigs/{rig}/revision")
    assert questions(lambda: owner.get("/rigs/{rig}/revision")) <= 3


def test_a_horizon_that_is_known_is_answered_without_the_log(owner):
    owner.get("/rigs/{rig}/horizon")
    assert questions(lambda: owner.get("/rigs/{rig}/horizon")) <= 5


def test_an_entry_is_kept_and_seen_in_so_many_questions_and_derived_once(owner, monkeypatch):
    owner.get("/rigs/{rig}/horizon")
    walks = []
    monkeypatch.setattr("lodeline.logbook.services.derived.track", lambda *given: walks.append(1) or track(*given))
    assert questions(lambda: owner.read("fresh", "1/3")) <= 14
    assert questions(lambda: owner.get("/rigs/{rig}/horizon")) <= 14
    assert len(walks) == 1
