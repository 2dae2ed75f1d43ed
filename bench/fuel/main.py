"""``./lodeline bench fuel [--rigs N]``: nights of heat left on simulated rigs, against last reading over last week's use.

The truth is another's form: see ``house``. Days are clipped at the horizon. ``snap``: rigs with a cold spell in their
outlook, of which the pencil knows nothing.
"""

import json
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from datetime import datetime
from itertools import pairwise

import numpy as np

from bench.fuel.house import AHEAD_DAYS, KINDS, Lived, lived

HORIZON, _RIGS, _WEEK = 14.0, 120, 7


@dataclass(frozen=True)
class Case:
    """One rig: the truth and what was said, in days clipped at the horizon."""

    kind: str
    snap: bool
    truth: float
    ours: float
    pencil: float
    held: float
    ends: bool
    level_error: float


def pencil(rig: Lived) -> float:
    """The latest reading over the mean net loss of the last seven days, refills left out. [day]"""
    store = next(each for each in rig.document["rig"]["stores"] if each["id"] == rig.store)
    seen: list[tuple[datetime, float, bool]] = []
    refilled = False
    for day in rig.document["days"]:
        refilled |= bool(day["events"])
        for each in day["readings"]:
            value = each["value"]
            value = value * store["capacity"] if each["method"] == "fraction" else value
            value = value - store.get("tare_kg", 0.0) if each["method"] == "gross" else value
            seen.append((datetime.fromisoformat(each["at"]), value, refilled))
            refilled = False
    last = seen[-1]
    lost = days = 0.0
    for (at, value, _), (then, after, filled) in pairwise(seen):
        if (last[0] - at).days < _WEEK and not filled:
            lost += value - after
            days += (then - at).total_seconds() / 86400
    rate = lost / days if days else 0.0
    return float(np.clip((last[1] - rig.end) / rate, 0, HORIZON)) if rate > 0 else HORIZON


def case(seed: int) -> Case:
    """One rig."""
    from lodeline.core.figures import Heat
    from lodeline.core.fuel.nights import draw_heat, holds
    from lodeline.formats.command import known_of
    from lodeline.formats.logbook import read_logbook

    rig = lived(seed)
    book = read_logbook(json.dumps(rig.document).encode())
    known = known_of(book, rig.now)
    tracked = known.tracked
    drawn = draw_heat(known, known.ahead(AHEAD_DAYS, int(Heat.paths)))
    assert drawn is not None
    said = holds(book.rig, drawn)
    low, middle, high = (HORIZON if each is None else min(each, HORIZON) for each in said.ends)
    truth = min(rig.days, HORIZON)
    held = float(low <= truth <= high)
    return Case(
        kind=rig.kind,
        snap=rig.snap,
        truth=truth,
        ours=middle,
        pencil=pencil(rig),
        held=held,
        ends=rig.days < HORIZON,
        level_error=abs(tracked[rig.store].level - rig.level),
    )


def line(name: str, cases: list[Case]) -> str:
    """Errors in days, their ratio, and how many ranges held of truths within the horizon."""
    ours = float(np.mean([abs(each.ours - each.truth) for each in cases]))
    theirs = float(np.mean([abs(each.pencil - each.truth) for each in cases]))
    bias = float(np.mean([each.ours - each.truth for each in cases]))
    ends = [each for each in cases if each.ends]
    held = float(np.mean([each.held for each in ends])) if ends else float("nan")
    return (
        f"{name:12} {len(cases):4} rigs  error {ours:5.2f} d  pencil {theirs:5.2f} d  ratio {ours / theirs:4.2f}  "
        f"bias {bias:+5.2f} d  ranges hold {held:4.0%} of {len(ends)}"
    )


def main(words: list[str]) -> None:
    """Print the table."""
    n = int(words[1]) if words[:1] == ["--rigs"] else _RIGS
    first = int(words[3]) if words[2:3] == ["--seed"] else 0
    with ProcessPoolExecutor(2) as pool:
        cases = list(pool.map(case, range(first, first + n), chunksize=8))
    print(line("all", cases))
    for kind in KINDS:
        print(line(kind, [each for each in cases if each.kind == kind]))
    print(line("cold ahead", [each for each in cases if each.snap]))
    print(line("none ahead", [each for each in cases if not each.snap]))
