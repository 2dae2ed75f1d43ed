"""While a helper derives, whoever asks is given the latest that is known and told so; nobody waits long for it."""

import multiprocessing
import sys
from contextlib import contextmanager
from pathlib import Path
from threading import Event, Thread
from typing import Any, cast

import pytest
from django.core.cache import cache

from lodeline.logbook.services import background, derived, deriving, plans, rigs, shared
from tests.api.test_deriving import VIEWS
from tests.api.test_stops import SITE

PATIENCE_S = 30
GAVE_WAY = 7
AS_OF, PROGRESS = "X-Lodeline-As-Of", "X-Lodeline-Progress"


class Slow:
    """A helper that derives when the test says so."""

    def __init__(self, rig):
        self.rig, self.asked, self.told = rig, [], {}

    def ask(self, rig, key):
        self.asked.append(key)
        return True

    ends = False

    def has_time(self):
        return True

    def done(self, what, rig):
        return self.told.get(what, "")

    def wait(self, what, rig, key, seconds):
        assert seconds <= derived._LONGEST_S
        return self.told.get(what) == key or self.told.get(background.OVER) == key

    def derives(self):
        """Now it derives what stands."""
        background._helper = None
        self.rig.refresh_from_db()
        known = derived.derived_here(self.rig)
        background._helper = self
        key = shared.key_of(self.rig, known.now)
        self.told = {"levels": key, "ahead": key}
        shared.AT_HAND.clear()  # it was another process


@pytest.fixture
def helper(rig, monkeypatch, owner):
    shared.forget()
    slow = Slow(rig)
    monkeypatch.setattr(background, "_helper", slow)
    yield slow
    shared.forget()


def test_where_nothing_is_known_yet_it_is_said_how_far_it_is(owner, rig, helper):
    with shared.alone(rig) as tell:
        tell(0.4)
        for view in ("horizon", "round", "energy", "gauges", "review"):
            answer = owner.get(f"/rigs/{{rig}}/{view}")
            assert answer.status_code == 202
            assert answer.body["problem"] == "The levels are being worked out: 40 % done."
            assert (answer.headers["Retry-After"], answer.headers[PROGRESS]) == ("1", "0.40")
    assert owner.get("/rigs/{rig}").status_code == 200
    helper.derives()
    assert owner.get("/rigs/{rig}/horizon").status_code == 200


def test_after_a_write_the_older_answer_stands_and_says_as_of_when(owner, helper):
    helper.derives()
    fresh = {view: owner.get(f"/rigs/{{rig}}/{view}") for view in VIEWS}
    assert not any(AS_OF in answer.headers for answer in fresh.values())
    written = owner.read("fresh", "1/3")
    assert written.status_code == 200
    assert written.body["entries"][0]["heard"] is None  # nobody waits for what is understood
    for view in ("horizon", "energy", "review"):
        older = owner.get(f"/rigs/{{rig}}/{view}")
        assert older.status_code == 200
        assert older.headers[AS_OF] == "2026-09-05T19:30:00+00:00"
        assert older.body == fresh[view].body
    # what was written is in the log and the Round at once, and corrected from the revision that it has
    for view in ("round", "log"):
        answer = owner.get(f"/rigs/{{rig}}/{view}")
        assert AS_OF in answer.headers
        assert answer.body["revision"] == fresh[view].body["revision"] + 1
    entry = owner.get("/rigs/{rig}/round").body["entries"][-1]
    assert owner.correct(entry, {"reading": {"store": "fresh", "text": "2/3"}})["words"].startswith(
        "Fresh water: mark 2/3"
    )
    helper.derives()
    again = owner.get("/rigs/{rig}/horizon")
    assert AS_OF not in again.headers
    assert again.body != fresh["horizon"].body


def test_a_forecast_of_before_a_write_is_not_kept_as_one_after_it(owner, helper):
    from lodeline.logbook.models import IssuedForecast

    helper.derives()
    owner.get("/rigs/{rig}/horizon")
    owner.read("fresh", "1/3")
    now = owner.get("/rigs/{rig}/revision").body["revision"]
    assert owner.post("/rigs/{rig}/horizon/seen", {"revision": now}).status_code == 204
    assert not IssuedForecast.objects.exists()


def test_what_was_known_of_other_parts_is_not_shown(owner, helper):
    helper.derives()
    owner.get("/rigs/{rig}/horizon")
    doc = owner.get("/rigs/{rig}").body
    doc["doc"]["stores"][1]["capacity"] = 70
    assert owner.put(f"/rigs/{{rig}}?saw={doc['revision']}", doc["doc"]).status_code == 200
    assert owner.get("/rigs/{rig}/horizon").status_code == 202


def test_what_fails_in_the_helper_is_told_to_who_asked(owner, rig, helper, monkeypatch):
    from lodeline.logbook import clock

    helper.told = {background.OVER: shared.key_of(rig, clock.now())}
    assert owner.get("/rigs/{rig}/horizon").status_code == 200  # here it goes well

    def broken(*_args, **_kwargs):
        raise ZeroDivisionError

    shared.forget()
    monkeypatch.setattr(derived, "track", broken)
    assert owner.get("/rigs/{rig}/horizon").status_code == 500


def test_the_helper_hears_asks_tells_what_is_done_and_says_when_it_ends():
    ours, theirs = multiprocessing.Pipe()
    ended = Event()
    helper = background.Helper(ours, ended.set)
    assert helper.ask(7, "a")
    assert helper.ask(7, "a")  # it is on its way
    assert not helper.ask(7, "b")  # something of this rig is being derived
    assert not helper.ask(7, "c")
    assert theirs.recv() == (7, "a")
    assert not helper.wait("levels", 7, "a", 0.0)
    heard = []
    waiting = Thread(target=lambda: heard.append(helper.wait("levels", 7, "a", PATIENCE_S)))
    waiting.start()
    theirs.send(("levels", 7, "a"))
    waiting.join()
    assert heard == [True]
    theirs.send((background.OVER, 7, "a"))
    assert theirs.recv() == (7, "c")  # the latest that is wanted, and nothing between
    theirs.send(("ahead", 7, "c"))
    theirs.send((background.OVER, 7, "c"))
    assert helper.wait("levels", 7, "c", PATIENCE_S)  # it is over, whatever came of it
    assert not theirs.poll(0)
    assert helper.ask(7, "d")
    theirs.close()
    assert ended.wait(PATIENCE_S)


def test_a_state_is_derived_at_once_where_only_the_plan_of_the_one_before_is_left():
    ours, theirs = multiprocessing.Pipe()
    helper = background.Helper(ours, lambda: None)
    assert helper.ask(7, "a")
    theirs.send(("ahead", 7, "a"))
    assert helper.wait("ahead", 7, "a", PATIENCE_S)
    assert helper.ask(7, "b")
    assert [theirs.recv(), theirs.recv()] == [(7, "a"), (7, "b")]
    theirs.send((background.OVER, 7, "a"))  # it gave way
    assert helper.wait(background.OVER, 7, "a", PATIENCE_S)
    assert helper.ask(7, "b")  # and is asked for once
    assert not helper.ask(7, "c")
    assert not theirs.poll(0)
    theirs.close()


@pytest.mark.parametrize("asked", [True, False])
def test_a_plan_is_given_up_whatever_it_is_at_when_something_is_asked_or_levels_come_from_elsewhere(asked, tmp_path):
    ours, theirs = multiprocessing.Pipe()
    levels, said = tmp_path / "levels", multiprocessing.Event()

    def plan_for_ever():
        try:
            with deriving._giving_way(theirs, levels.exists):
                said.set()
                while True:
                    pass
        except deriving.Stopped:
            sys.exit(GAVE_WAY)

    planning = multiprocessing.get_context("fork").Process(target=plan_for_ever, daemon=True)
    planning.start()
    assert said.wait(PATIENCE_S)
    if asked:
        ours.send((7, "a"))
    else:
        levels.touch()
    planning.join(PATIENCE_S)
    assert planning.exitcode == GAVE_WAY


def test_until_there_is_a_new_plan_the_last_one_stands_as_it_is_now(owner, rig, helper):
    background._helper = None
    assert owner.post("/rigs/{rig}/places", {"spot": {"id": "new"} | SITE}).status_code == 200
    first = owner.get("/rigs/{rig}/plan")
    assert first.body["stops"]
    assert AS_OF not in first.headers
    owner.day("2026-09-05", note="nothing that changes a level")
    background._helper = helper
    helper.derives()
    background._helper = None
    rig.refresh_from_db()
    assert plans.meanwhile_here(rig) is not None
    background._helper = helper
    helper.told[shared.MEANWHILE] = helper.told["levels"]
    stands = owner.get("/rigs/{rig}/plan")
    assert stands.headers[AS_OF] == "2026-09-05T19:30:00+00:00"
    assert [(stop["place"], stop["arrive"]) for stop in stands.body["stops"]] == [
        (stop["place"], stop["arrive"]) for stop in first.body["stops"]
    ]
    background._helper = None
    anew = owner.get("/rigs/{rig}/plan")
    assert AS_OF not in anew.headers
    assert (stands.body["stands"], anew.body["stands"]) == (True, False)
    assert "the last plan as it is now" in stands.body["detail"]


def test_what_cannot_be_read_of_what_was_kept_is_worked_out_anew(owner, rig):
    owner.get("/rigs/{rig}/horizon")
    shared.AT_HAND.clear()
    kept = cast(Any, cache)._key_to_file(shared.place("levels", rig))
    Path(kept).write_bytes(b"\x80\x04 of another version")
    assert owner.get("/rigs/{rig}/horizon").status_code == 200


def test_of_a_rig_that_is_deleted_nothing_derived_is_left(owner, rig):
    owner.get("/rigs/{rig}/horizon")
    places = [shared.place(what, rig) for what in ("levels", "ahead")]
    assert all(cache.has_key(each) for each in places)
    rigs.delete_rig(rig)
    assert not any(cache.has_key(each) or shared.AT_HAND.get(each) for each in places)


def test_who_gives_up_waiting_leaves_what_is_told_of_the_progress(rig):
    class Enough(Exception):
        pass

    @contextmanager
    def no_time():
        raise Enough
        yield

    with shared.alone(rig) as tell:
        tell(0.4)
        with pytest.raises(Enough), shared.alone(rig, while_waiting=no_time):
            pass
        assert shared.progress(rig) == 0.4


def test_what_was_derived_outlives_the_server_and_not_its_version(owner, rig):
    shared.forget()
    owner.get("/rigs/{rig}/horizon")
    shared.forget_other_versions()  # nothing says which version it was
    assert shared.latest("levels", rig) is None
    owner.get("/rigs/{rig}/horizon")
    shared.AT_HAND.clear()
    shared.forget_other_versions()  # as at a start
    assert shared.latest("levels", rig) is not None


def test_what_is_packed_is_unpacked_the_same(owner, rig):
    import pickle

    known = derived.levels_here(rig)
    assert pickle.loads(pickle.dumps(known.tracked["fresh"].history)) == known.tracked["fresh"].history
    assert pickle.loads(pickle.dumps(known.log)) == known.log


def test_who_waits_is_let_go_when_the_server_ends():
    ours, theirs = multiprocessing.Pipe()
    helper = background.Helper(ours, lambda: None)
    answers = []
    waiting = Thread(target=lambda: answers.append(helper.wait("plan", 1, "state", PATIENCE_S)))
    waiting.start()
    helper.end()
    waiting.join(PATIENCE_S / 2)
    assert answers == [False]
    theirs.close()
