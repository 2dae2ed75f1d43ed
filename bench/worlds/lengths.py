"""True and biased gauges over logs of a month to a year: does a gauge that is right stay right?

One tank with a constant mean use, days that differ, and services on irregular days. Everything is invented; the
answer is known: the level, and the use a day. Nothing of the forecast was set by it.
"""

from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from itertools import product
from typing import Any

import numpy as np

from lodeline.core.catalogue import STORE_KINDS, GaugeKind, Method, System
from lodeline.core.log import Day, Event, Log, Reading
from lodeline.core.rig import Crew, Gauge, Rig, Store
from lodeline.core.tracking.coupling import usual_use
from lodeline.core.tracking.track import track

LENGTHS = (30, 60, 120, 200, 400)
_FIRST = date(2025, 1, 6)
_MARKS = (0.0, 0.33, 0.67, 1.0)
_NOISE = {"sensor": 0.012, "coarse": 0.012, "sight": 0.035, "panel": 0.015, "scale": 0.1}
_STEP = {"sensor": 0.02, "coarse": 0.1, "sight": 0.05}


@dataclass(frozen=True)
class Way:
    """What is read and how it errs: ``bias``: offset, bulge and skew as shares of capacity."""

    gauge: str
    kind: str
    bias: tuple[float, float, float]
    by_need: bool


@dataclass(frozen=True)
class Outcome:
    """Error of the level as a share of capacity, whether its 8-in-10 range held, use told over true use."""

    error: float
    held: bool
    use: float


def _store(way: Way) -> Store:
    capacity = {"fresh": 120.0, "grey": 90.0, "gas": 9.0}[way.kind]
    gauge = {
        "sensor": Gauge(GaugeKind.SENSOR, (), 0.02),
        "coarse": Gauge(GaugeKind.SENSOR, (), 0.1),
        "none": Gauge(),
        "sight": Gauge(GaugeKind.SIGHT),
        "panel": Gauge(GaugeKind.STEPS, _MARKS),
        "scale": Gauge(GaugeKind.SCALE),
    }[way.gauge]
    more: dict[str, Any] = {"fuel": "propane", "tare_kg": 7.5} if way.kind == "gas" else {}
    return Store("one", STORE_KINDS[way.kind], "One", capacity, gauge=gauge, **more)


def _reading(way: Way, store: Store, at: datetime, level: float, rng: np.random.Generator) -> Reading:
    share = level / store.capacity
    offset, bulge, skew = way.bias
    seen = share + offset + bulge * 4 * share * (1 - share) + skew * np.sin(2 * np.pi * share)
    if way.gauge == "scale":
        gross = 7.5 + max(0.0, level + offset + float(rng.normal(0, _NOISE["scale"])))
        return Reading(at, store.id, Method.GROSS, round(gross, 1))
    seen = float(np.clip(seen + rng.normal(0, _NOISE[way.gauge]), 0, 1))
    if way.gauge == "panel":
        return Reading(at, store.id, Method.STEP, max(m for m in _MARKS if m <= seen and (m < 1 or seen >= 0.97)))
    step = _STEP[way.gauge]
    return Reading(at, store.id, Method.FRACTION, min(1.0, round(seen / step) * step))


def live(way: Way, n_days: int, seed: int) -> Outcome:
    """One tank through so many days."""
    rng, store = np.random.default_rng([9, seed, n_days]), _store(way)
    use = {"fresh": 18.0, "grey": 14.0, "gas": 0.3}[way.kind]
    fills = store.sense.value == "fills"
    level, sign = (0.0, 1) if fills else (store.capacity, -1)
    days, wait = [], 0
    for number in range(n_days):
        on = _FIRST + timedelta(days=number)
        midnight = datetime(on.year, on.month, on.day, tzinfo=UTC)
        # people wash and cook by day: a third before the stop, half of it between that and the evening's reading
        day_use = sign * use * float(rng.gamma(1 / 0.09) * 0.09)
        level = float(np.clip(level + 0.32 * day_use, 0, store.capacity))
        need = abs(level - store.good_end) / store.capacity
        wait -= 1
        due = need > 0.75 if way.by_need else wait < 0
        events = []
        if due or need > 0.8 or number == 0:
            wait = int(rng.integers(2, 6))
            level = (
                store.capacity * abs(float(rng.normal(0, 0.012)))
                if fills
                else store.capacity * float(rng.uniform(0.98, 1))
            )
            events = [
                Event(midnight + timedelta(hours=10), "dump", store.id)
                if fills
                else Event(
                    midnight + timedelta(hours=10),
                    "swap" if way.kind == "gas" else "fill",
                    store.id,
                    to_full=way.kind != "gas",
                )
            ]
        level = float(np.clip(level + 0.5 * day_use, 0, store.capacity))
        at = midnight + timedelta(hours=20)
        is_read = rng.random() < (0.5 if way.kind == "gas" else 0.9) or number == n_days - 1
        readings = [_reading(way, store, at, level, rng)] if is_read and way.gauge != "none" else []
        days.append(Day(date=on, temp_min_c=18, temp_max_c=18, readings=tuple(readings), events=tuple(events)))
        now, level_now = at, level
        level = float(np.clip(level + 0.18 * day_use, 0, store.capacity))
    rig = Rig(name="L", timezone="UTC", units=System.METRIC, crew=Crew(2), stores=(store,))
    tracked = track(rig, Log(tuple(days)), now)["one"]
    low, high = tracked.level_range
    near = 0.005 * store.capacity
    told, _ = usual_use(tracked.model, tracked.belief)
    miss = (tracked.level - level_now) / store.capacity
    return Outcome(miss, low - near <= level_now <= high + near, told / use)


def ways() -> list[Way]:
    """Every gauge on what it reads, right and wrong, served by need and on irregular days."""
    gauges = (*product(("sensor", "coarse", "panel"), ("fresh", "grey")), ("sight", "fresh"))
    wrong = {"true": (0.0, 0.0, 0.0), "bulged": (0.0, 0.06, 0.0), "low": (-0.02, -0.04, 0.01)}
    found = [
        Way(gauge, kind, bias, by_need)
        for (gauge, kind), bias, by_need in product(gauges, wrong.values(), (False, True))
    ]
    scales = (Way("scale", "gas", bias, True) for bias in (wrong["true"], (0.15, 0.0, 0.0)))
    # known by its services alone
    return [*found, *scales, *(Way("none", kind, wrong["true"], True) for kind in ("fresh", "grey"))]


def _job(job: tuple[Way, int, int]) -> Outcome:
    return live(*job)


def table(seeds: int, lengths: tuple[int, ...] = LENGTHS) -> None:
    """Print each gauge by length: error of the level, whether its range held, use told over true use."""
    jobs = [(way, n_days, seed) for way in ways() for n_days in lengths for seed in range(seeds)]
    with ProcessPoolExecutor() as pool:
        outcomes = list(pool.map(_job, jobs, chunksize=4))
    print(f"\ngauges by length, {seeds} each: error of the level (share), ranges that hold (%), use over true use")
    print(f"{'gauge':8}{'of':7}{'bias':>18}{'served':>11}" + "".join(f"{n:>10} days   " for n in lengths))
    by: dict[tuple[Way, int], list[Outcome]] = {}
    for (way, n_days, _), outcome in zip(jobs, outcomes, strict=True):
        by.setdefault((way, n_days), []).append(outcome)
    for way in ways():
        bias = " ".join(f"{each:+.2f}" for each in way.bias)
        row = "".join(_cell(by[way, n_days]) for n_days in lengths)
        print(f"{way.gauge:8}{way.kind:7}{bias:>18}{'by need' if way.by_need else 'irregular':>11}{row}")
    print(
        f"{'all':44}"
        + "".join(_cell([o for (_, n), each in by.items() if n == days for o in each]) for days in lengths)
    )


def _cell(outcomes: list[Outcome]) -> str:
    error = np.mean([abs(each.error) for each in outcomes])
    return f"  {error:.3f} {100 * np.mean([each.held for each in outcomes]):4.0f} {np.mean([each.use for each in outcomes]):5.2f}"
