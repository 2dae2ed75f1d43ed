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
API = CORE.parent / "api"
PLAIN = {0, 1, 2, 0.5}  # counting, squares and halves


STATUSES = set(range(200, 600))  # of HTTP


def _numbers(tree):
    for node in ast.walk(tree):
        if isinstance(node, ast.Constant) and type(node.value) in (int, float) and node.value not in PLAIN:
            yield node


def _bare(file, kinds, besides=frozenset()):
    """Numbers with neither a reason beside them nor one in the comment over their block."""
    lines = file.read_text().splitlines()

    def has_reason(number):
        while number >= 0 and lines[number].strip() and not lines[number].startswith(("def ", "class ", "@")):
            if lines[number].startswith("# ") or "  # " in lines[number]:
                return True
            number -= 1
        return False

    parts = [node for node in ast.parse("\n".join(lines)).body if isinstance(node, kinds)]
    return [
        f"{node.lineno}: {lines[node.lineno - 1].strip()}"
        for part in parts
        for node in _numbers(part)
        if node.value not in besides and "  # " not in lines[node.lineno - 1]
        if isinstance(part, ast.FunctionDef | ast.ClassDef) or not has_reason(node.lineno - 1)
    ]


@pytest.mark.parametrize("file", FILES, ids=lambda path: str(path.relative_to(CORE)))
def test_a_number_has_a_name_on_a_sheet_or_its_reason_beside_it(file):
    # the sheets give each its source; of the catalogue's rows each part has a name
    if {"catalogue", "figures"} & set(file.parts):
        return
    assert _bare(file, ast.FunctionDef | ast.ClassDef | ast.Assign | ast.AnnAssign) == []


@pytest.mark.parametrize("file", sorted(API.glob("*.py")), ids=lambda path: path.name)
def test_no_number_is_worked_with_in_the_api(file):
    # how many are shown, and of how many digits, stands in a constant; what a number means is for the core
    if file.name in ("typed.py", "notation.py"):
        return
    assert _bare(file, ast.FunctionDef, STATUSES) == []


def test_what_a_kind_is_stands_in_its_row_and_not_in_a_word():
    # the demo's life knows its own rigs
    files = [file for file in CORE.parent.rglob("*.py") if "demo" not in file.parts]
    said = {file.name: re.findall(r"\bkind\.id (?:[=!]=|in) ?[\"'(_A-Z].*", file.read_text()) for file in files}
    assert {name: found for name, found in said.items() if found} == {}


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
        appliance.RunAsk,
        appliances.UsualAppliance,
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
aside_at made_at urlpatterns configuration Common _write_content close_if_unusable_or_obsolete ident sig frame parser_class channel_class instance __init_subclass__ delimiter
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


def test_a_word_has_one_meaning_in_the_glossary():
    lines = (CORE.parents[2] / "docs" / "glossary.md").read_text().splitlines()
    cells = [line.split("|")[1] for line in lines if line.startswith("| ")]
    terms = [term.strip() for cell in cells for term in cell.split(",") if term.strip() != "term"]
    assert {term for term in terms if terms.count(term) > 1} == set()


# a row and a part of the file have the name of what they keep
ROWS_AND_FILE = {"models.py", "document.py", "migrations"}


def test_a_name_means_one_thing():
    """No class has the name of another, and no parameter the name of what a loop goes through."""
    made, loose = {}, []
    for file in sorted(CORE.parent.rglob("*.py")):
        for node in ast.walk(ast.parse(file.read_text())):
            if isinstance(node, ast.ClassDef) and not ROWS_AND_FILE & set(file.parts):
                made.setdefault(node.name, []).append(f"{file.name}:{node.lineno}")
            if isinstance(node, ast.FunctionDef) and any(
                each.arg == "each" for each in (*node.args.args, *node.args.kwonlyargs)
            ):
                loose.append(f"{file.name}:{node.lineno} {node.name}")
    assert {name: places for name, places in made.items() if len(places) > 1} == {}
    assert loose == []
