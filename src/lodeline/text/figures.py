"""Every figure that the computation starts from, as tables for the page on the method."""

from typing import Any

from lodeline.core.catalogue.chemistries import CELLS, FIGURE_NAMES, SOURCES
from lodeline.core.figures import SHEETS
from lodeline.core.figures.table import Sheet


def as_markdown() -> str:
    """All sheets, and the chemistries, each as a table."""
    return "\n\n".join([*(_sheet(sheet) for sheet in SHEETS), _chemistries()])


def _sheet(sheet: type[Sheet]) -> str:
    lines = [f"**{(sheet.__doc__ or '').strip().rstrip('.')}**", "", "| figure | unit | value | what | source |"]
    lines.append("|---|---|---|---|---|")
    lines += [f"| {name} | {f.unit} | {_value(f.value)} | {f.meaning} | {f.source} |" for name, f in sheet.rows.items()]
    return "\n".join(lines)


def _chemistries() -> str:
    names = [kind.value for kind in CELLS]
    lines = ["**Chemistries**", "", f"| figure | {' | '.join(names)} | source |", "|---|" + "---|" * (len(names) + 1)]
    for name in FIGURE_NAMES:
        values = [_value(getattr(cells, name)) for cells in CELLS.values()]
        lines.append(f"| {name} | {' | '.join(values)} | {SOURCES[name]} |")
    return "\n".join(lines)


def _value(value: Any) -> str:
    if value is None:
        return "none"
    if isinstance(value, tuple):
        return ", ".join(
            ": ".join(f"{x:g}" for x in each) if isinstance(each, tuple) else f"{each:g}" for each in value
        )
    return f"{value:g}"
