"""Diaries whose crews log each shower, wash-up and flush, under gauges of four kinds; the truth is what each took."""

from collections import defaultdict
from dataclasses import dataclass
from datetime import date
from typing import Any

from bench.worlds.diary import Diary, Lived

GAUGES: dict[str, dict[str, Any] | None] = {
    "meter": {"kind": "steps", "marks": [0, 0.33, 0.67, 1]},
    "sight": {"kind": "sight"},
    "sensor": {"kind": "sensor", "resolution": 0.02},
    "panel": {"kind": "steps", "marks": [0, 0.33, 0.67, 1]},
}
_LARGER = 2.5
_LOGGED = ("shower", "dishes", "flush", "laundry")


@dataclass
class Activities:
    """A life, and what each activity took on average while it was logged. [L]"""

    lived: Lived
    each_l: dict[str, float]


class Logged(Diary):
    """Lives one rig; ``gauge``: how its tanks are read; ``logs``: whether activities are written down."""

    def __init__(self, seed: int, gauge: str, logs: bool = True, n_days: int = 42) -> None:
        super().__init__(seed, n_days, "evenings")
        self.gauge, self.logs = gauge, logs
        for name in ("fresh", "grey"):
            tank = self.tanks[name]
            # a tank that runs dry each day says nothing of what is wanted of it
            tank.capacity, tank.level = round(_LARGER * tank.capacity, 1), _LARGER * tank.level
            tank.doc |= {"gauge": GAUGES[gauge], "capacity": tank.capacity}
        self.took: dict[str, list[float]] = defaultdict(list)
        self.drawn_l: dict[date, float] = defaultdict(float)
        self.flushed: dict[date, int] = defaultdict(int)

    def _do(self, what: str, amount: float, on: date, hour: float, day: dict[str, Any] | None) -> None:
        if day is None:
            super()._do(what, amount, on, hour, day)
            return
        before, logged = self.tanks["fresh"].level, len(day["events"])
        super()._do(what, amount, on, hour, day)
        drawn = before - self.tanks["fresh"].level
        if what.startswith("serve "):
            return
        self.drawn_l[on] += max(0.0, drawn)
        del day["events"][logged:]
        name = "flush" if what == "visit" and drawn > 0 else what
        if name not in _LOGGED:
            return
        self.took[name].append(drawn)
        if self.logs and name == "flush":
            self.flushed[on] += 1
        elif self.logs:
            day["events"].append({"at": self._time(on, hour).isoformat(), "type": name, "count": 1})

    def _write(self, day: dict[str, Any], days: list[Any], is_last: bool) -> None:
        on = date.fromisoformat(day["date"])
        if self.gauge == "meter":
            day["water_l"] = round(self.drawn_l[on] * float(self.rng.normal(1, 0.02)), 1)
        if self.flushed[on]:
            at = self._time(on, self.evening_h).isoformat()
            day["events"].append({"at": at, "type": "flush", "count": self.flushed[on]})
        super()._write(day, days, is_last)


def activities(seed: int, gauge: str, logs: bool = True) -> Activities:
    """One rig's life and its truth."""
    made = Logged(seed, gauge, logs)
    lived = made.live()
    return Activities(lived, {name: sum(took) / len(took) for name, took in made.took.items() if len(took) > 3})
