"""The demo: what its mess is, and that the estimate stays near the hidden truth."""

import json
from datetime import datetime
from functools import cache

import pytest

from lodeline.core.tracking.hypothesis import DoubtKind
from lodeline.core.tracking.track import track
from lodeline.demo.life import live
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
    return live(SCENARIOS[scenario], NOW, seed)


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
    assert 9 <= (NOW - rises[-1].at).days <= 12
    assert len(rises) <= 2  # sixty days may hold two false doubts: one in thirty
    outliers = [doubt for doubt in known["house"].doubts if doubt.reading.value == 0.07]
    assert [doubt.kind for doubt in outliers] == [DoubtKind.READING]


def test_the_same_seed_and_time_give_the_same_document():
    again = live(SCENARIOS[1], NOW, SEEDS[1]).document
    assert again == lived(1, SEEDS[1]).document
    assert again != live(SCENARIOS[1], NOW, 6).document
