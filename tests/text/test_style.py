"""Every sentence against what docs/writing.md asks and a test can tell."""

import re

import pytest

from lodeline.core.catalogue import System
from lodeline.text import energy, heat, horizon, next_step, stops, water
from tests.text.walk import everything

LONGEST = 90
# Sentences that say all that may be wrong, or all that is allowed, at once.
LISTS = (
    "Likely: ",
    "bottles swapped",
    "would be full",
    "may be read",
    "all of them count",
    "Also read within ten minutes",
)


@pytest.fixture(scope="module")
def sentences():
    return list(dict.fromkeys(everything(System.METRIC)))


def breaking(sentences, pattern):
    return [each for each in sentences if re.search(pattern, each)]


@pytest.mark.parametrize(
    "pattern",
    [
        # a part of a day is said with its day
        r"\b(today|tomorrow) in the\b|\bday in the (morning|afternoon|evening)\b|\bon (today|tomorrow)\b",
        # a chance of nothing or of all is a word
        r"(?<![\d.,])(0|100) in 100\b|(?<![\d.,])(0|10) in 10\b|\b(is|are|then|now:|cases:) (0|100) %",
        # nobody says please or shouts
        r"!(?!=)|\bplease\b",
        # how the program works, and where its figures come from
        r"degree-days under|from memory|Sphere|FEMA|sums close|margin and all|worth nothing|nothing is left apart",
        # one of many, and verbs that do not agree
        r"\b1 (are|were|have)\b|\band [A-Z]\w+( \w+)? (is|comes|runs|was) (due|at|past|served|first)\b",
        r"\bboth bottles (is|runs|comes|was)\b",
        # more digits than anybody can know
        r"\b[1-9]\d*\.\d{3,} (?!\w+ must)|\b\d{1,3},\d\d[1-9] (km|ft|mi)\b",
        r"give or take|[a-z]  [a-z]",
    ],
)
def test_no_sentence_says(sentences, pattern):
    assert breaking(sentences, pattern) == []


def test_a_first_line_is_short(sentences, monkeypatch):
    heads = []

    def hearing(module, name, of):
        made = getattr(module, name)

        def heard(*given, **more):
            said = made(*given, **more)
            heads.append(of(said))
            return said

        monkeypatch.setattr(module, name, heard)

    hearing(horizon, "headline", lambda said: said.headline)
    hearing(water, "headline", lambda said: said.headline)
    hearing(stops, "plan_headline", lambda said: said[0])
    hearing(energy, "headline", lambda said: said.headline)
    hearing(heat, "headline", lambda said: said)
    hearing(next_step, "step", lambda said: said)
    list(everything(System.METRIC))
    assert len(set(heads)) > 30
    assert [each for each in heads if len(each) > LONGEST] == []


def test_no_sentence_is_a_lecture(sentences):
    parts = [part for each in sentences for part in re.split(r"(?<=[.?]) ", each)]
    long = [part for part in parts if len(part.split()) > 45 and not any(word in part for word in LISTS)]
    assert long == []


def test_a_chance_is_told_in_tenths(sentences):
    assert breaking(sentences, r"chance[^.]*\d %") == []
