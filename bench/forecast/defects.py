"""Rows of their own: stores served at a stop alone, gaps in the log, gas that heats, no place, a habit that changes.

Each is a simulated rig of the same maker with one thing changed, so that a row says what that thing costs.
"""

import json
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from datetime import date, timedelta
from typing import Any

import numpy as np

from bench.forecast.world import Maker, World

_HORIZON = 14.0
Change = Callable[[int], World]
# Kinds that are emptied on the spot or on foot where the user says nothing else.
_HERE = {"urine"}


def _plain(seed: int) -> World:
    maker = Maker(seed)
    return maker.make()


def _long(seed: int) -> Maker:
    """A rig with a log of weeks."""
    maker = Maker(seed)
    maker.n_days = max(maker.n_days, 45)
    return maker


def _gap(days: int) -> Change:
    def make(seed: int) -> World:
        maker = _long(seed)
        maker.n_days = max(maker.n_days, days + 25)
        world = maker.make()
        last = date.fromisoformat(world.document["days"][-1]["date"])
        begins, ends = last - timedelta(days=days), last
        kept = [d for d in world.document["days"] if not begins <= date.fromisoformat(d["date"]) < ends]
        world.document["days"] = kept
        return world

    return make


def _gas_heats(seed: int) -> World:
    maker = _long(seed)
    for tank in maker.tanks:
        if tank.kind == "gas":
            tank.cold = float(maker.rng.uniform(0.03, 0.07))
    return maker.make()


def _no_place(seed: int) -> World:
    world = _plain(seed)
    for day in world.document["days"]:
        day.pop("place", None)
    return world


def _habit(seed: int) -> World:
    maker = _long(seed)
    maker.change_day, maker.change = maker.n_days - 4, float(maker.rng.choice([0.5, 2.0]))
    return maker.make()


ROWS: dict[str, tuple[Change, tuple[str, ...]]] = {
    "as they are": (_plain, ()),
    "gap of 7 days": (_gap(7), ()),
    "gap of 21 days": (_gap(21), ()),
    "gap of 60 days": (_gap(60), ()),
    "gas heats": (_gas_heats, ("gas",)),
    "place unknown": (_no_place, ("battery",)),
    "habit changed 4 days ago": (_habit, ("fresh", "grey")),
}


def run(job: tuple[str, int]) -> list[tuple[str, float, float, float, float, float]]:
    """Of each store, and of the headline: truth, middle, ends, and the chance of a line within the horizon."""
    from lodeline.core.levers.agreed import agreed_forecast
    from lodeline.formats.command import known_of
    from lodeline.formats.logbook import read_logbook

    name, seed = job
    world = ROWS[name][0](seed)
    for store in world.document["rig"]["stores"]:
        if store["kind"] in _HERE:
            store["served"] = "here"
    book = read_logbook(json.dumps(world.document).encode())
    ahead = agreed_forecast(known_of(book, world.now))
    found: list[tuple[str, float, float, float, float, float]] = []
    for each in ahead.stores:
        if each.known:
            found.append((each.store.kind.id, world.days_left[each.store.id], *_days(each), each.p_within or 0.0))
    known = [world.days_left[each.store.id] for each in ahead.stores if each.known and not each.store.is_served_here]
    if known:
        found.append(("headline", min(known), *_days(ahead.autonomy), ahead.p_line))
    return found


def _days(each: Any) -> tuple[float, float, float]:
    low, middle, high = (
        _HORIZON if d is None else min(_HORIZON, d) for d in (each.p10_days, each.p50_days, each.p90_days)
    )
    return low, middle, high


def main(seed: int = 1000, rigs: int = 200) -> None:
    from bench.forecast.score import fair_hold

    print(
        f"\nrows of their own, {rigs} rigs each, seed {seed}: error of the days left, share of ranges that hold (fairly)"
    )
    print(f"{'':28}{'headline':>10}{'range%':>8}{'stores':>10}{'range%':>8}")
    with ProcessPoolExecutor() as pool:
        for name, (_, kinds) in ROWS.items():
            jobs = [(name, each) for each in range(seed, seed + rigs)]
            cases = [case for found in pool.map(run, jobs, chunksize=8) for case in found]
            cells = []
            for wanted in (("headline",), kinds):
                mine = [c for c in cases if (c[0] in wanted if wanted else c[0] != "headline")]
                error = np.mean([abs(min(_HORIZON, c[1]) - c[3]) for c in mine])
                hold = np.mean([fair_hold(c[2], min(_HORIZON, c[1]), c[4], c[5]) for c in mine])
                cells.append(f"{error:10.2f}{100 * hold:8.0f}")
            print(f"{name:28}{''.join(cells)}  {', '.join(kinds)}")
