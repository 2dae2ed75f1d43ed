"""Rations kept: crews that use what the ration says, day by day, and whether they reach the day."""

import json
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from datetime import datetime, time, timedelta
from typing import Any

import numpy as np

from bench.water.logged import GAUGES, Logged
from lodeline.core.water.learned import amounts
from lodeline.core.water.ration import ration
from lodeline.formats.command import known_of
from lodeline.formats.logbook import read_logbook

LEAVE_H, SURE, KEEPS_CV, MORNING = 10.0, 0.9, 0.08, 7
STAYS = (4, 6, 9)
# What is done first of what a ration leaves.
LOGGED = ("flush", "dishes", "shower")


@dataclass
class Kept:
    """One stay: whether both lines held, the least ration for one person, what was left over in the tank as a share."""

    made: bool
    least_l: float
    spare: float
    cut: float


class _Crew:
    """A crew that asks each morning how much it may use until a day, and uses that."""

    def __init__(self, seed: int, gauge: str) -> None:
        self.life = Logged(seed, gauge)
        self.lived = self.life.live()
        self.rng = np.random.default_rng([77, seed])
        for id in ("fresh", "grey"):
            self.life.tanks[id].level = self.lived.level[id]
        self.document: dict[str, Any] = self.lived.document
        self.people = sum(person.share for person in self.life.people)
        took, days = self.life.took, max(1, len(self.life.drawn_l))
        self.each_l = {name: sum(took[name]) / len(took[name]) for name in LOGGED if took.get(name)}
        self.usual = {name: len(took[name]) / days for name in self.each_l}
        washed = sum(self.each_l[name] * self.usual[name] for name in self.each_l)
        self.base_l = max(2.0 * self.people, sum(self.life.drawn_l.values()) / days - washed)

    def stay(self, days: int) -> Kept | None:
        """Try to stay so many days; None where nothing has to be saved, or too little is left to live on."""
        now = self.lived.now
        until = now.date() + timedelta(days=days)
        fresh, grey = self.life.tanks["fresh"], self.life.tanks["grey"]
        least, made, cut = np.inf, True, 1.0
        for k in range(days):
            morning = datetime.combine(now.date() + timedelta(days=k + 1), time(MORNING), tzinfo=now.tzinfo)
            if morning.date() >= until:
                break
            a_day, usual = self._asked(morning, until)
            if k == 0 and (a_day >= usual or a_day < 3 * self.people):
                return None
            cut = min(cut, a_day / usual)
            counts, use = self._within(min(a_day, 1.3 * usual))
            use *= float(self.rng.normal(1, KEEPS_CV))
            least = min(least, a_day / self.people)
            drunk = min(use, 2.0 * self.people)
            self._live(morning, use, 0.93 * (use - drunk), counts)
            made &= fresh.level >= 0.05 * fresh.capacity and grey.level <= 0.95 * grey.capacity
        return Kept(made, float(least), fresh.level / fresh.capacity, cut)

    def _within(self, ration_l: float) -> tuple[dict[str, int], float]:
        """What is done within a ration: drinking and hands, then the toilet, dishes, showers; and what that takes."""
        counts: dict[str, int] = {}
        left = ration_l - self.base_l
        for name in self.each_l:
            most = round(self.usual[name] + self.rng.uniform(-0.5, 0.5))
            counts[name] = max(0, min(most, int(left / self.each_l[name])))
            left -= counts[name] * self.each_l[name]
        return counts, ration_l - max(0.0, left) if left > 0 else ration_l

    def _asked(self, at: datetime, until: Any) -> tuple[float, float]:
        book = read_logbook(json.dumps(self.document).encode())
        known = known_of(book, at)
        tracked = known.tracked
        ahead = known.ahead((until - at.date()).days, 1000)
        learned = amounts(book.rig, tracked["fresh"])
        used = -sum(
            after.level - before.level
            for before, after in zip(tracked["fresh"].history, tracked["fresh"].history[1:], strict=False)
            if after.at.astimezone(at.tzinfo).date() == at.date() and after.cause == "use"
        )
        found = ration(known, ahead, learned, until, LEAVE_H, SURE, used)
        assert found is not None
        return found.a_day_l, found.usual_l

    def _live(self, morning: datetime, use: float, drains: float, counts: dict[str, int]) -> None:
        """A day on the ration, and what its evening's round shows."""
        fresh, grey = self.life.tanks["fresh"], self.life.tanks["grey"]
        fresh.level, grey.level = max(0.0, fresh.level - use), min(grey.capacity, grey.level + drains)
        at = morning.replace(hour=20)
        readings = [
            {"at": at.isoformat(), "store": tank.kind} | reading
            for tank in (fresh, grey)
            if (reading := self.life._reading(tank))
        ]
        noon = morning.replace(hour=13).isoformat()
        events = [{"at": noon, "type": name, "count": n} for name, n in counts.items() if n]
        day: dict[str, Any] = {"date": at.date().isoformat(), "readings": readings, "events": events}
        if self.life.gauge == "meter":
            day["water_l"] = round(use * float(self.rng.normal(1, 0.02)), 1)
        self.document["days"].append(day)


def _job(job: tuple[int, str, int]) -> Kept | None:
    seed, gauge, days = job
    return _Crew(seed, gauge).stay(days)


def main(n: int, seed: int = 8000) -> None:
    """Print how many stays were made, by gauge."""
    print(f"\nRations kept to, 9 in 10, {n} rigs, stays of {STAYS} days")
    with ProcessPoolExecutor() as pool:
        for gauge in GAUGES:
            jobs = [(seed + i, gauge, days) for i in range(n) for days in STAYS]
            kept = [each for each in pool.map(_job, jobs) if each is not None]
            if kept:
                print(
                    f"{gauge:8}{len(kept):4d} stays, made {100 * np.mean([k.made for k in kept]):3.0f} %, "
                    f"ration over usual {np.median([k.cut for k in kept]):.2f}, left over {np.median([k.spare for k in kept]):.2f} of the tank"
                )
