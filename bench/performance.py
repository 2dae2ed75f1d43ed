"""``./lodeline bench performance``: every figure with its goal, as the table of ``docs/performance.md``."""

import os
from collections.abc import Callable
from datetime import UTC, datetime
from functools import partial
from pathlib import Path

from bench import core_speed, long, many, phone, server_speed, size
from bench.goals import MEASURED
from bench.safety import crowd

_DOCUMENT = Path(__file__).resolve().parents[1] / "docs" / "performance.md"
_CROWD_S = 30
_BEGINS, _ENDS = "<!-- figures -->", "<!-- end of figures -->"


def table() -> str:
    """The figures that were measured, a row each."""
    rows = ["| figure | measured | goal | |", "|---|---|---|---|"]
    for each in MEASURED:
        goal = "" if each.goal is None else f"{each.goal:g} {each.unit}".strip()
        rows.append(f"| {each.what} | {each.said} | {goal} | {each.verdict} |")
    return "\n".join(rows)


def _write() -> None:
    text = _DOCUMENT.read_text()
    head, rest = text.split(_BEGINS)
    _, tail = rest.split(_ENDS)
    when = f"Measured on {datetime.now(UTC).date().isoformat()} on {len(os.sched_getaffinity(0))} cores."
    _DOCUMENT.write_text(f"{head}{_BEGINS}\n\n{when}\n\n{table()}\n\n{_ENDS}{tail}")


def main() -> None:
    parts: list[Callable[[], object]] = [
        partial(core_speed.main, files=40),
        size.main,
        phone.main,
        server_speed.main,
        partial(crowd.rows, _CROWD_S),
        long.main,
        *(partial(many.main, [str(n)]) for n in (10, 100, 1000)),
    ]
    for each in parts:
        each()
        _write()  # as it goes: the last parts take long
    print(f"Wrote {_DOCUMENT.name}.")
