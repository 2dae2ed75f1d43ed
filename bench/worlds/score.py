"""Forecasts against a hidden truth, by kind: error beside the better pencil, CRPS, ranges, levels, who is first."""

import json
from collections.abc import Callable, Iterable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

import numpy as np
from scoringrules import crps_ensemble

from bench.forecast.score import fair_hold, groups
from bench.worlds.pencil import pencils

HORIZON = 14.0
_ROUNDED = 0.05


@dataclass(frozen=True)
class Rig:
    """A logbook file, when its forecast is made, and the truth: contents now and days to the line, by store."""

    document: dict[str, Any]
    now: datetime
    level: dict[str, float]
    days_left: dict[str, float]


@dataclass(frozen=True)
class Case:
    """One store of one rig. Days clipped at the horizon; levels as shares of capacity."""

    kind: str
    truth: float
    ours: float
    crps: float
    pencils: tuple[float, float]
    held: float
    ends_within: bool
    level_error: float
    level_held: bool
    first: bool | None = None
    jump: float | None = None


Maker = Callable[[int], Rig]


def run(make: Maker, seed: int) -> tuple[list[Case], bool | None]:
    """The cases of one rig, and whether the first to bind was named right (None where nothing binds)."""
    from lodeline.core.catalogue import Sense
    from lodeline.core.forecast.forecast import simulate
    from lodeline.core.levers.agreed import agreed_forecast
    from lodeline.formats.command import known_of
    from lodeline.formats.logbook import read_logbook

    rig = make(seed)
    book = read_logbook(json.dumps(rig.document).encode())
    known = known_of(book, rig.now)
    tracked, said = known.tracked, agreed_forecast(known)
    before = _evening_before(book, rig.now)
    ahead = known.ahead(int(HORIZON), 1000)
    cases, truths = [], {}
    for store in rig.document["rig"]["stores"]:
        ours = said.of(store["id"])
        if not ours.known or ours.level is None or store["id"] not in rig.days_left:
            continue
        kind, truth = store["kind"], min(HORIZON, rig.days_left[store["id"]])
        truths[store["id"]] = truth
        line, drains = ours.store.line_level / ours.store.capacity, ours.store.sense is Sense.DRAINS
        body = store | {"capacity": ours.store.capacity}
        reached = np.minimum(HORIZON, simulate(ahead, tracked[store["id"]]).reached_days)
        low, high = (HORIZON if each is None else each for each in (ours.p10_days, ours.p90_days))
        level = rig.level[store["id"]]
        near = 0.005 * ours.store.capacity
        cases.append(
            Case(
                kind=kind,
                truth=truth,
                ours=HORIZON if ours.p50_days is None else ours.p50_days,
                crps=float(crps_ensemble(truth, reached)),
                pencils=pencils(rig.document, body, line, drains, rig.now),
                held=fair_hold(low - _ROUNDED, truth, high + _ROUNDED, ours.p_within or 0.0),
                ends_within=high < HORIZON,
                level_error=abs(ours.level - level) / ours.store.capacity,
                level_held=(ours.level_p10 or 0.0) - near <= level <= (ours.level_p90 or 0.0) + near,
                jump=_jump(before, said, tracked[store["id"]], rig.now),
            )
        )
    soonest = min(truths.values(), default=HORIZON)
    named = said.autonomy.store
    right = None if soonest >= HORIZON else named is not None and truths.get(named, HORIZON) <= soonest + 0.02
    return cases, right


def _evening_before(book: Any, now: datetime) -> Any:
    """The forecast of the evening before."""
    from lodeline.core.levers.agreed import agreed_forecast
    from lodeline.formats.command import known_of

    return agreed_forecast(known_of(book, now - timedelta(days=1)))


def _jump(before: Any, said: Any, tracked: Any, now: datetime) -> float | None:
    """How far the middle estimate moved between two evenings beyond the day that went by, where what was entered was as
    expected and nobody served the store; None where that cannot be told."""
    since = now - timedelta(days=1)
    then, ours = before.of(tracked.store.id), said.of(tracked.store.id)
    odd = any(each.fits is False for each in tracked.compared if each.at > since)
    served = tracked.last_reset is not None and tracked.last_reset > since
    if odd or served or not then.known or then.p50_days == 0:
        return None
    was, is_now = (HORIZON if each is None else each for each in (then.p50_days, ours.p50_days))
    if was >= HORIZON:
        return max(0.0, HORIZON - 1 - is_now)
    return abs(is_now - max(0.0, was - 1))


def _line(name: str, cases: list[Case]) -> None:
    error = np.array([abs(c.ours - c.truth) for c in cases])
    pencils = np.array([[abs(p - c.truth) for p in c.pencils] for c in cases]).mean(axis=0)
    # a pencil that is never wrong (nothing is used) leaves nothing to divide by
    best = float(pencils.min()) or float("nan")
    ends = [c for c in cases if c.ends_within and not c.truth == c.ours == 0]
    within = f"{100 * np.mean([c.held for c in ends]):8.0f}" if ends else f"{'-':>8}"
    print(
        f"{name:14}{len(cases):6d}{error.mean():8.2f}{best:8.2f}{error.mean() / best:8.2f} ±{error.std() / np.sqrt(len(cases)) / best:5.2f}"
        f"{np.mean([c.crps for c in cases]) / best:8.2f}{100 * np.mean([c.held for c in cases]):8.0f}{within}"
        f"{100 * np.mean([c.level_held for c in cases]):8.0f}{np.mean([c.level_error for c in cases]):8.3f}{_jumps(cases)}"
    )


def _jumps(cases: list[Case]) -> str:
    """The mean jump and the one that nine of ten stay under. [day]"""
    jumps = [c.jump for c in cases if c.jump is not None]
    return f"{np.mean(jumps):8.2f}{np.quantile(jumps, 0.9):8.2f}" if jumps else f"{'-':>8}{'-':>8}"


def table(title: str, results: Iterable[tuple[list[Case], bool | None]]) -> None:
    """Print one world's figures."""
    results = list(results)
    cases = [case for mine, _ in results for case in mine]
    print(f"\n{title}: {len(results)} rigs, {len(cases)} stores")
    print(
        f"{'':14}{'n':>6}{'error':>8}{'pencil':>8}{'ratio':>8}{'':7}{'CRPS':>8}{'ranges%':>8}{'within%':>8}{'levels%':>8}{'error':>8}{'jump':>8}{'9in10':>8}"
    )
    for name, mine in groups(cases):
        _line(name, mine)
    rights = [right for _, right in results if right is not None]
    print(f"first to bind named right: {100 * np.mean(rights):.0f} % of {len(rights)}")


def scored(make: Maker, seeds: Iterable[int]) -> list[tuple[list[Case], bool | None]]:
    """The cases of rigs made from seeds, on all cores."""
    jobs = [(make, seed) for seed in seeds]
    if len(jobs) == 1:
        return [_run(jobs[0])]  # to begin a process takes longer
    with ProcessPoolExecutor() as pool:
        return list(pool.map(_run, jobs, chunksize=4))


def _run(job: tuple[Maker, int]) -> tuple[list[Case], bool | None]:
    return run(*job)
