"""Every unit on screen is the user's own: a US rig is never told litres, kilograms, kilometres or Celsius."""

import inspect
import pkgutil
import re
import sys
from importlib import import_module

import pytest

import lodeline.text
from lodeline.core.catalogue import System
from lodeline.text.problems import problem
from tests.text.walk import display, every_problem, everything

METRIC_UNITS = re.compile(r"(?<![A-Za-z])(L|kg|km|°C|L/h|litres?|kilograms?|kilomet\w+|Celsius)(?![A-Za-z])")
US_UNITS = re.compile(r"(?<![A-Za-z])(gal|lb|mi|°F)(?![A-Za-z])")
# Not sentences of a rig: the page on the method, and checks of the words themselves.
NOT_WALKED = {"lodeline.text.figures.as_markdown"}


@pytest.fixture(scope="module")
def walked():
    """Every sentence by units, and the code that says them."""
    called = set()
    sys.setprofile(lambda frame, event, _: called.add(frame.f_code) if event == "call" else None)
    try:
        american = list(everything(System.US))
    finally:
        sys.setprofile(None)
    others = (each for each in System if each is not System.US)
    return {System.US: american} | {system: list(everything(system)) for system in others}, called


@pytest.fixture(scope="module")
def sentences(walked):
    return walked[0]


@pytest.mark.parametrize("system", list(System))
def test_every_sentence_is_in_the_users_own_units(sentences, system):
    metric = [text for text in sentences[system] if METRIC_UNITS.search(text)]
    american = [text for text in sentences[system] if US_UNITS.search(text)]
    match system:
        case System.US:
            assert metric == []
            assert len(american) > 60
        case System.METRIC:
            assert american == []
            assert len(metric) > 60
        case System.UK:
            assert not [text for text in metric if re.search(r"\d km\b", text)]
            assert not [text for text in american if re.search(r"\b(gal|lb|°F)\b", text)]


def test_no_text_function_is_left_out_of_that_walk(walked):
    modules = [import_module(each.name) for each in pkgutil.iter_modules(lodeline.text.__path__, "lodeline.text.")]
    public = {
        function.__code__: f"{module.__name__}.{name}"
        for module in modules
        for name, function in inspect.getmembers(module, inspect.isfunction)
        if function.__module__ == module.__name__ and not name.startswith("_")
    }
    assert {name for code, name in public.items() if code not in walked[1]} == NOT_WALKED


@pytest.mark.parametrize("system", list(System))
def test_no_sentence_counts_one_of_many(sentences, system):
    # "1 events", "1 days", "1.0 day"
    wrong = [text for text in sentences[system] if re.search(r"(?<![\d.,])1 [a-z]+s\b(?<!uses)(?<!this)", text)]
    assert wrong == []


def test_no_sentence_has_a_hole(sentences):
    # what a name of the code, an empty list or a number that is none leaves behind
    holes = re.compile(r"\bnan\b|\binf\b|[A-Z]\w+\.[A-Z_]{2,}|  | ,| \.|<|\bNone\b|\[\]|\{\}")
    assert [text for text in sentences[System.METRIC] if holes.search(text)] == []


def test_every_reason_to_refuse_has_words_of_its_own():
    words = [problem(each, display(System.METRIC)) for each in every_problem()]
    assert len(set(words)) == len(words) > 70
