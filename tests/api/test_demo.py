"""The demo: what its mess is, and that the estimate stays near the hidden truth."""

import json
from datetime import datetime, timedelta
from functools import cache, partial

import pytest

from lodeline.core.deriving import ahead as derive
from lodeline.core.forecast.known import Known
from lodeline.core.levers.agreed import all_together
from lodeline.core.next_step import Does, next_step
from lodeline.core.questions import open_questions
from lodeline.core.stops.plan import Wanted
from lodeline.core.stops.planner import Planner
from lodeline.core.tracking.hypothesis import DoubtKind
from lodeline.core.tracking.track import track
from lodeline.demo.life import live, lived_to_tell
from lodeline.demo.load import SEEDS, load_demo
from lodeline.demo.scenario import SCENARIOS
from lodeline.formats.logbook import read_logbook
from lodeline.logbook.models import Reading, Rig

NOW = datetime.fromisoformat("2026-11-25T20:40:00+00:00")


def test_the_demo_is_loaded_once_and_lives_up_to_now(db):
    load_demo()
    count = Reading.objects.count()
    load_demo()
    assert (Rig.objects.count(), Reading.objects.count()) == (2, count)
    assert count > 300
    assert set(Rig.objects.values_list("units", flat=True)) == {"metric", "us"}


@cache
def lived(scenario, seed):
    return lived_to_tell(SCENARIOS[scenario], NOW, seed)


@cache
def book_of(scenario, seed):
    return read_logbook(json.dumps(lived(scenario, seed).document).encode())


@pytest.mark.parametrize(("scenario", "seed"), list(enumerate(SEEDS)))
def test_levels_are_near_the_hidden_truth(scenario, seed):
    book = book_of(scenario, seed)
    for store_id, known in track(book.rig, book.log, NOW).items():
        truth = lived(scenario, seed).truth[store_id][-1][1]
        assert abs(known.belief.level - truth) < max(3.5 * known.belief.sd, 0.04 * known.store.capacity), store_id


def test_the_planted_mess_is_found_and_asked_about():
    book = book_of(0, SEEDS[0])
    known = track(book.rig, book.log, NOW)
    rises = [doubt for doubt in known["fresh"].doubts if doubt.kind is DoubtKind.RISE]
    assert 15 <= (NOW - rises[-1].at).days <= 18
    assert len(rises) <= 2  # sixty days may hold two false doubts: one in thirty
    outliers = [doubt for doubt in known["house"].doubts if doubt.reading.value == 0.07]
    assert [doubt.kind for doubt in outliers] == [DoubtKind.READING]


def test_the_same_seed_and_time_give_the_same_document():
    again = lived_to_tell(SCENARIOS[1], NOW, SEEDS[1]).document
    assert again == lived(1, SEEDS[1]).document
    assert again != live(SCENARIOS[1], NOW, 6).document


def planned(known):
    return Planner(all_together(known, 1, 7, 300).joint, known.book, Wanted(days=7, others=False)).plan()


@pytest.mark.parametrize("now", ["2027-01-15T20:30:00+00:00", "2027-07-20T14:00:00+00:00"])
def test_the_demo_tells_a_story_on_any_day_of_the_year(now):
    at = datetime.fromisoformat(now)
    said = []
    for scenario, seed in zip(SCENARIOS, SEEDS, strict=True):
        book = read_logbook(json.dumps(lived_to_tell(scenario, at, seed).document).encode())
        tracked = track(book.rig, book.log, at)
        whole = derive(Known(rig=book.rig, log=book.log, now=at, tracked=tracked, book=book.book), (), 1)
        asked = open_questions(tracked, whole.forecast, book.log, book.rig.zone, at - timedelta(days=14))
        said.append((next_step(whole.known, whole.forecast, partial(planned, whole.known)), whole.forecast, asked))
    (chore, well, questions), (pour, _, _) = said
    assert (chore.does, chore.stores[0].id) == (Does.CHORE, "urine")
    assert well.due == ()
    assert 2 < well.autonomy.p50_days < 6
    assert "house" in [each.store for each in questions]
    assert (pour.does, len(pour.acts)) == (Does.ABOARD, 2)
