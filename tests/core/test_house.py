"""Rules of the house that a reader of the core can count on."""

import ast
import dataclasses
import importlib
import pkgutil
import re
from pathlib import Path

import pytest

import lodeline.core
from lodeline.core import log, rig
from lodeline.core.catalogue import appliances, units
from lodeline.core.figures import SHEETS
from lodeline.core.forecast import appliance

CORE = Path(lodeline.core.__file__).parent
FILES = sorted(CORE.rglob("*.py"))
PLAIN = {0, 1, 2, 0.5}  # counting, squares and halves


def _numbers_in_functions(tree):
    for function in ast.walk(tree):
        if isinstance(function, ast.FunctionDef):
            for node in ast.walk(function):
                if isinstance(node, ast.Constant) and type(node.value) in (int, float) and node.value not in PLAIN:
                    yield node


@pytest.mark.parametrize("file", FILES, ids=lambda path: str(path.relative_to(CORE)))
def test_a_number_in_a_function_has_a_name_or_its_reason_beside_it(file):
    lines = file.read_text().splitlines()
    bare = {
        node.lineno
        for node in _numbers_in_functions(ast.parse("\n".join(lines)))
        if "  # " not in lines[node.lineno - 1]
    }
    assert not bare, [f"{number}: {lines[number - 1].strip()}" for number in sorted(bare)]


@pytest.mark.parametrize("file", FILES, ids=lambda path: str(path.relative_to(CORE)))
def test_the_core_makes_no_sentences(file):
    # the catalogue names its rows, and figures say what they mean; everything else is a fact
    if {"catalogue", "figures"} & set(file.parts):
        return
    tree = ast.parse(file.read_text())
    docs = {
        ast.get_docstring(node, clean=False)
        for node in ast.walk(tree)
        if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef)
    }
    raised = {
        constant.value
        for node in ast.walk(tree)
        if isinstance(node, ast.Raise)
        for constant in ast.walk(node)
        if isinstance(constant, ast.Constant)
    }
    texts = [node.value for node in ast.walk(tree) if isinstance(node, ast.Constant) and isinstance(node.value, str)]
    sentences = [
        text for text in texts if text not in docs | raised and re.search(r"[A-Za-z]{2,}( [a-z]{2,}){3}", text)
    ]
    assert not sentences


def _dataclasses():
    for info in pkgutil.walk_packages([str(CORE)], "lodeline.core."):
        for each in vars(importlib.import_module(info.name)).values():
            if isinstance(each, type) and dataclasses.is_dataclass(each) and each.__module__ == info.name:
                yield each


def test_a_result_of_more_than_three_fields_is_made_by_their_names():
    # what the user's own data and the catalogue's tables are made of is read like a line
    inputs = {
        rig.Store,
        rig.SolarArray,
        rig.Source,
        rig.Inverter,
        rig.Load,
        rig.Layout,
        rig.Appliance,
        log.Reading,
        log.Event,
        appliance.Run,
        appliances.Appliance,
        units.Shown,
    }
    loose = [
        each.__qualname__
        for each in _dataclasses()
        if each not in inputs and sum(not field.kw_only for field in dataclasses.fields(each)) > 3
    ]
    assert loose == []


def test_every_figure_has_a_unit_a_source_and_a_meaning():
    rows = [row for sheet in SHEETS for row in sheet.rows.values()]
    assert len(rows) > 150
    assert all(row.unit and row.source and row.meaning for row in rows)


# Found by name: by Django, by pydantic, by gunicorn and waitress.
_BY_NAME = """
Meta *Config Argon2 *_cost parallelism constraints default_auto_field init_commands AsOf Reader RequestLog ApiForm failed
handler* handle_exit maintenance to_response completed expect_continue connection_close will_close parse_body
aside_at made_at urlpatterns configuration ident sig frame parser_class channel_class instance __init_subclass__ delimiter
"""
# Read by their place in a pattern, by a name that is put together, or named by the catalogue's rows or by the file.
_BY_PLACE = "inverter_* low_* sun_* BULGE use_unit least_l *_cv gas_kg REFILL"
_DECORATED = ["@words.register", "@router.*", "@new_router.*", "@api.*", "@model_validator"]


def test_nothing_is_there_that_nothing_calls():
    """What vulture finds, but for the fields of answers, of the document and of rows, which the wire and the disk read."""
    from vulture.core import Vulture

    found = Vulture(ignore_names=[*_BY_NAME.split(), *_BY_PLACE.split()], ignore_decorators=_DECORATED)
    found.scavenge(["src", "bench"], exclude=["*/migrations/*", "*/settings*.py"])
    fields = ("/lodeline/api/", "/formats/document.py", "/logbook/models.py")
    left = [
        item.get_report()
        for item in found.get_unused_code()
        if not (item.typ in ("variable", "attribute") and any(each in str(item.filename.absolute()) for each in fields))
    ]
    assert left == []
