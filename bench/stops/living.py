"""``./lodeline bench living [--rigs N] [--risk 0.1] [--places plentiful] [--world invented]``: rigs that live sixty days by
the plan, by the gauges, or every n days. ``--world``: ``invented``, ``diaries``, or the path of another's simulator.

A crew that asks each morning and goes on the last day on which the plan keeps the risk; one that goes when any gauge shows under 20
or over 80 %; one that goes every n days, with the n that would have been best for that rig. And of stays that were said
to be made in nine of ten cases, how many were.
"""

import json
import sys
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from datetime import time, timedelta
from functools import partial

import numpy as np

from bench.stops.lives import DAYS, MORNING, NOON, Life, Morning, Tally, Trip, by_gauge, every_days
from bench.stops.places import DENSITIES
from bench.stops.worlds import life
from lodeline.core.figures import Stops
from lodeline.core.forecast.known import Known
from lodeline.core.levers.agreed import Together, all_together
from lodeline.core.stops.plan import Stop, Wanted
from lodeline.core.stops.planner import Planner
from lodeline.core.tracking.checkpoints import Checkpoints
from lodeline.core.tracking.track import track
from lodeline.formats.logbook import read_logbook

PATHS, HORIZON, SURE, ASK_EVERY = 400, 10, 0.9, 6
EARLIEST = time(10)
EVERY = (2, 3, 4, 5, 6, 8, 10)


@dataclass
class Lived:
    """One rig by each rule."""

    seed: int
    plan: Tally
    gauge: Tally
    every: Tally
    promised: list[tuple[float, bool]] = field(default_factory=list)
    plans: int = 0
    over: Counter[str] = field(default_factory=Counter)
    windows: list[bool] = field(default_factory=list)


class _Asks:
    """A crew that asks each morning."""

    def __init__(self, risk: float) -> None:
        self.checkpoints, self.risk = Checkpoints(), risk
        self.together: Together | None = None
        self.promised: list[tuple[float, bool]] = []
        self.plans, self.over = 0, Counter[str]()
        self.asked: dict[int, float | None] = {}

    def _known(self, morning: Morning) -> Together:
        book = read_logbook(json.dumps(morning.document(), default=float).encode())
        tracked = track(book.rig, book.log, morning.now, self.checkpoints)
        known = Known(
            rig=book.rig, log=book.log, outlook=book.outlook, now=morning.now, tracked=tracked, book=book.book
        )
        self.book = book
        return all_together(known, 1, HORIZON, PATHS)

    def rule(self, life: Life, morning: Morning) -> list[Trip]:
        """Goes today where the plan's next stops are today."""
        self.together = self._known(morning)
        planner = Planner(self.together.joint, self.book.book, Wanted(days=HORIZON, risk=self.risk, others=False))
        found = planner.plan()
        self.plans += 1
        if not found.feasible:
            self.over[f"{found.breaks.kind.id}, which no plan keeps" if found.breaks else "?"] += 1
        for need in found.needs:
            self.over[f"{need.store.kind.id}: {need.why.value}"] += 1
        self.asked[morning.number] = found.p_crossed if found.feasible and not found.due and not found.needs else None
        zone, today = self.book.rig.zone, self.book.rig.zone.date(morning.now)
        # who can go tomorrow as well waits: the latest departure says so
        tomorrow = zone.instant(today + timedelta(days=1), EARLIEST)
        if found.leave_by is None or found.leave_by > tomorrow:
            return []
        trips = []
        for outing in found.outings:
            local = zone.local(outing.leave)
            if outing is found.outings[0] or local.date() == today:
                hour = max(local.hour, MORNING) if local.date() == today else NOON
                trips.append(Trip(hour, tuple(self._call(life, stop) for stop in outing.stops)))
        return trips

    @staticmethod
    def _call(life: Life, stop: Stop) -> tuple[str, frozenset[str]]:
        done = {act.store.id for act in stop.acts}
        taken = set()
        for each in life.at_stops:
            # what is free is done because one is there
            is_free = each.kind not in ("gas", "fuel", "battery")
            is_taken = is_free or each.id in done or (each.kind == "battery" and stop.plug)
            if is_taken and life.places.serves(stop.spot.id, each.kind):
                taken.add(each.id)
        return stop.spot.id, frozenset(taken)

    def watch(self, life: Life, morning: Morning) -> None:
        """Every few days: the longest stay that is promised, and whether it would have been made."""
        if morning.number % ASK_EVERY or self.together is None:
            return
        soonest = self.together.joint.soonest()
        for days in np.arange(HORIZON - 1, 0.4, -0.5):
            p = float((soonest > days).mean())
            if p >= SURE:
                if days < HORIZON - 1:
                    self.promised.append((p, life.would_hold(morning.number, float(days))))
                break


def run(seed: int, world: str = "invented", risk: float = Stops.risk, density: str = DENSITIES[0]) -> Lived:
    """One rig of a world by each rule. ``risk``: the chance of passing a line over the days of a plan that the crew accepts."""
    asks = _Asks(risk)
    made = partial(life, world, seed, density)
    by_plan = made().live_by(asks.rule, asks.watch)
    gauge = made().live_by(by_gauge)
    every = [(n, made().live_by(every_days(n))) for n in EVERY]
    _, best = min(every, key=lambda each: (each[1].lines, each[1].outings))
    return Lived(
        seed=seed,
        plan=by_plan,
        gauge=gauge,
        every=best,
        promised=asks.promised,
        plans=asks.plans,
        over=asks.over,
        windows=_windows(asks, by_plan),
    )


def _windows(asks: _Asks, lived: Tally) -> list[bool]:
    """Of spans of days that began with a plan that keeps the risk and nothing due: whether a line was passed."""
    starts = [day for day, p in asks.asked.items() if p is not None]
    found, until = [], -1
    for day in sorted(starts):
        if day >= until and day + HORIZON <= max(asks.asked):
            found.append(any(day <= passed < day + HORIZON for passed, _ in lived.passed_on))
            until = day + HORIZON
    return found


def report(lived: list[Lived], what: str) -> None:
    """The figures of all rigs."""
    print(f"{len(lived)} rigs, {DAYS} days each, {what}; in 100 rig-days")
    for name in ("plan", "gauge", "every"):
        tallies = [getattr(each, name) for each in lived]
        days = sum(each.rig_days for each in tallies)
        keys = ("lines", "outings", "stops", "km", "money")
        sums = [sum(getattr(each, key) for each in tallies) / days * 100 for key in keys]
        words = {"plan": "by the plan", "gauge": "by the gauges", "every": "every n days, best n"}[name]
        figures = "  ".join(f"{key} {value:7.2f}" for key, value in zip(keys, sums, strict=True))
        print(f"  {words:22s} {figures}")
        passed = Counter(kind for each in tallies for _, kind in each.passed_on)
        print("      lines of", ", ".join(f"{kind} {n / days * 100:.2f}" for kind, n in passed.most_common()))
    plans, over = sum(each.plans for each in lived), sum((each.over for each in lived), Counter[str]())
    print(f"  of {plans} mornings, no plan kept the risk, or something has no place:")
    for why, count in over.most_common():
        print(f"    {count:5d}  {why}")
    windows = [each for one in lived for each in one.windows]
    if windows:
        share = sum(windows) / len(windows)
        print(
            f"  spans of {HORIZON} days that began with a plan that keeps the risk: {len(windows)}, a line passed {share:.3f}"
        )
    promised = [pair for each in lived for pair in each.promised]
    if promised:
        made = sum(held for _, held in promised) / len(promised)
        said = float(np.mean([p for p, _ in promised]))
        print(f"  stays promised at 9 in 10 or little more: {len(promised)}, said {said:.3f}, made {made:.3f}")


def main(words: list[str] | None = None) -> None:
    """Run the bench on so many rigs."""
    words = sys.argv[1:] if words is None else words

    def said(key: str, otherwise: str) -> str:
        return words[words.index(key) + 1] if key in words else otherwise

    rigs, first, risk = int(said("--rigs", "100")), int(said("--seed", "1000")), float(said("--risk", str(Stops.risk)))
    densities = (said("--places", ""),) if "--places" in words else DENSITIES
    world = said("--world", "invented")
    with ProcessPoolExecutor(2) as pool:
        for density in densities:
            lived = pool.map(partial(run, world=world, risk=risk, density=density), range(first, first + rigs))
            report(list(lived), f"{world}, places {density}")
