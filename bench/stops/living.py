"""``./lodeline bench living [--rigs N] [--risk 0.1]``: rigs that live sixty days by the plan, by the gauges, or every n days.

A crew that asks each morning and goes on the last day on which the plan keeps the risk; one that goes when any gauge shows under 20
or over 80 %; one that goes every n days, with the n that would have been best for that rig. And of stays that were said
to be made in nine of ten cases, how many were.
"""

import json
import sys
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from datetime import time, timedelta
from functools import partial

import numpy as np

from bench.stops.lives import DAYS, NOON, Life, Morning, Tally, Trip, by_gauge, every_days
from lodeline.core.figures import Stops
from lodeline.core.forecast.known import Known
from lodeline.core.levers.agreed import Together, all_together
from lodeline.core.stops.plan import Wanted
from lodeline.core.stops.planner import plan
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
    over_risk: int = 0


class _Asks:
    """A crew that asks each morning."""

    def __init__(self, risk: float) -> None:
        self.checkpoints, self.risk = Checkpoints(), risk
        self.together: Together | None = None
        self.promised: list[tuple[float, bool]] = []
        self.plans = self.over = 0

    def _known(self, morning: Morning) -> Together:
        book = read_logbook(json.dumps(morning.document).encode())
        tracked = track(book.rig, book.log, morning.now, self.checkpoints)
        known = Known(
            rig=book.rig, log=book.log, outlook=book.outlook, now=morning.now, tracked=tracked, book=book.book
        )
        self.book = book
        return all_together(known, 1, HORIZON, PATHS)

    def rule(self, life: Life, morning: Morning) -> list[Trip]:
        """Goes today where the plan's next stops are today."""
        self.together = self._known(morning)
        found = plan(self.together.joint, self.book.book, Wanted(days=HORIZON, risk=self.risk, others=False))
        self.plans += 1
        self.over += not found.feasible
        zone, trips = self.book.rig.zone, []
        today = zone.date(morning.now)
        # who can go tomorrow as well waits: the latest departure says so
        tomorrow = zone.instant(today + timedelta(days=1), EARLIEST)
        if found.leave_by is None or found.leave_by > tomorrow:
            return []
        for stop in found.stops:
            local = zone.local(stop.arrive)
            if stop is found.stops[0] or local.date() == today:
                kinds = {tank.kind for tank in life.at_stops if life.serves(stop.spot.id, tank.kind)}
                bank = {"battery"} if any(act.store.is_bank for act in stop.acts) else set()
                due = {act.store.id for act in stop.acts}
                free = {kind for kind in kinds if kind not in ("battery", "gas", "fuel")}
                hour = local.hour if local.date() == today else NOON
                trips.append(Trip(stop.spot.id, hour, frozenset(free | bank | (due & kinds))))
        return trips

    def watch(self, life: Life, morning: Morning, number: int) -> None:
        """Every few days: the longest stay that is promised, and whether it would have been made."""
        if number % ASK_EVERY or self.together is None:
            return
        soonest = self.together.joint.soonest()
        for days in np.arange(HORIZON - 1, 0.4, -0.5):
            p = float((soonest > days).mean())
            if p >= SURE:
                if days < HORIZON - 1:
                    self.promised.append((p, life.holds(number, float(days))))
                break


def run(seed: int, risk: float = Stops.risk) -> Lived:
    """One rig by each rule. ``risk``: the chance of passing a line over the days of a plan that the crew accepts."""
    asks = _Asks(risk)
    by_plan = Life(seed).live(asks.rule, asks.watch)
    gauge = Life(seed).live(by_gauge)
    every = [(n, Life(seed).live(every_days(n))) for n in EVERY]
    _, best = min(every, key=lambda each: (each[1].lines, each[1].stops))
    return Lived(
        seed=seed, plan=by_plan, gauge=gauge, every=best, promised=asks.promised, plans=asks.plans, over_risk=asks.over
    )


def report(lived: list[Lived]) -> None:
    """The figures of all rigs."""
    print(f"{len(lived)} rigs, {DAYS} days each; lines passed, stops, km and money in 100 rig-days")
    for name in ("plan", "gauge", "every"):
        tallies = [getattr(each, name) for each in lived]
        days = sum(each.rig_days for each in tallies)
        sums = [sum(getattr(each, key) for each in tallies) / days * 100 for key in ("lines", "stops", "km", "money")]
        words = {"plan": "by the plan", "gauge": "by the gauges", "every": "every n days, best n"}[name]
        print(f"  {words:22s} lines {sums[0]:6.2f}  stops {sums[1]:6.1f}  km {sums[2]:6.0f}  money {sums[3]:6.0f}")
    plans, over = sum(each.plans for each in lived), sum(each.over_risk for each in lived)
    print(f"  mornings on which no plan kept the risk: {over} of {plans}")
    promised = [pair for each in lived for pair in each.promised]
    if promised:
        made = sum(held for _, held in promised) / len(promised)
        said = float(np.mean([p for p, _ in promised]))
        print(f"  stays promised at 9 in 10 or little more: {len(promised)}, said {said:.3f}, made {made:.3f}")


def main(words: list[str] | None = None) -> None:
    """Run the bench on so many rigs."""
    words = sys.argv[1:] if words is None else words
    rigs = int(words[words.index("--rigs") + 1]) if "--rigs" in words else 200
    first = int(words[words.index("--seed") + 1]) if "--seed" in words else 1000
    risk = float(words[words.index("--risk") + 1]) if "--risk" in words else Stops.risk
    with ProcessPoolExecutor(2) as pool:
        report(list(pool.map(partial(run, risk=risk), range(first, first + rigs))))
