"""Run the core on simulated rigs and print how far off it was, beside a baseline, and whether its ranges held."""

import json
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Protocol, TypeVar

import numpy as np

from bench.forecast.rivals import baseline
from bench.forecast.world import _LINE, DRAINS, Maker

_HORIZON = 14.0


@dataclass
class Case:
    """One store of one rig."""

    kind: str
    gauge: str
    truth: float
    ours: float
    mean: float
    ses: float
    held: bool
    fair: float
    ends_within: bool
    level_held: bool
    level_error: float


@dataclass
class Result:
    cases: list[Case]
    first_right: bool | None
    planted: int
    caught: int
    false: int
    logged: int


def _clip(days: float | None) -> float:
    return _HORIZON if days is None else min(_HORIZON, days)


def fair_hold(low: float, truth: float, high: float, p_within: float) -> float:
    """Chance that an 8-in-10 range holds where it may end at the horizon, beyond which nothing is told apart.

    A truth within the horizon holds or does not. One beyond it is somewhere in the chance that lies there; of that
    chance only the part up to 90 % is in the range (the randomised probability transform).
    """
    if truth < _HORIZON:
        return float(low - 1e-9 <= truth <= high + 1e-9)
    return max(0.0, 0.9 - max(p_within, 0.1)) / max(1 - p_within, 1e-9) if high >= _HORIZON else 0.0


def _could_be_seen(document: dict[str, Any], store: str, at: datetime) -> bool:
    """Whether a reading was made after it and before the store was next filled, emptied or swapped on the log."""
    readings = [datetime.fromisoformat(r["at"]) for d in document["days"] for r in d["readings"] if r["store"] == store]
    events = [datetime.fromisoformat(e["at"]) for d in document["days"] for e in d["events"] if e.get("store") == store]
    read = min((t for t in readings if t >= at), default=None)
    reset = min((t for t in events if t > at), default=None)
    return read is not None and (reset is None or read < reset)


def run(seed: int) -> Result:
    from lodeline.core.levers.agreed import agreed_forecast
    from lodeline.formats.command import known_of
    from lodeline.formats.logbook import read_logbook

    world = Maker(seed).make()
    book = read_logbook(json.dumps(world.document).encode())
    known = known_of(book, world.now)
    tracked, ahead_of_all = known.tracked, agreed_forecast(known)
    cases = []
    for store in world.document["rig"]["stores"]:
        ahead = ahead_of_all.of(store["id"])
        if not ahead.known or ahead.level is None:
            continue
        kind, truth = store["kind"], min(_HORIZON, world.days_left[store["id"]])
        line = store.get("limit", _LINE[kind])
        mean, ses = baseline(world.document, store, line, kind in DRAINS)
        low, high = _clip(ahead.p10_days), _clip(ahead.p90_days)
        level = world.level[store["id"]]
        assert ahead.level_p10 is not None
        assert ahead.level_p90 is not None
        cases.append(
            Case(
                kind,
                store["gauge"]["kind"],
                truth,
                _clip(ahead.p50_days),
                mean,
                ses,
                low - 1e-9 <= truth <= high + 1e-9,
                fair_hold(low, truth, high, ahead.p_within or 0.0),
                high < _HORIZON,
                ahead.level_p10 - 1e-9 <= level <= ahead.level_p90 + 1e-9,
                abs(ahead.level - level) / store["capacity"],
            )
        )
    truths = {case.kind: case.truth for case in cases}
    soonest = min(truths, key=lambda k: truths[k]) if truths else None
    right = None if soonest is None or truths[soonest] >= _HORIZON else ahead_of_all.autonomy.store == soonest
    doubts = [(d.store, d.at) for each in tracked.values() for d in each.doubts]
    planted = [each for each in world.planted if _could_be_seen(world.document, each[0], each[2])]
    hits, used = 0, set()
    for store_id, _, at in planted:
        near = [
            i
            for i, (s, t) in enumerate(doubts)
            if s == store_id and -0.5 <= (t - at).total_seconds() / 86400 <= 8 and i not in used
        ]
        if near:
            hits += 1
            used.update(near)
    return Result(cases, right, len(planted), hits, len(doubts) - len(used), world.logged_days)


def _line(name: str, cases: list[Case]) -> None:
    ours, mean, ses = (np.mean([abs(getattr(c, key) - c.truth) for c in cases]) for key in ("ours", "mean", "ses"))
    best = min(mean, ses)
    ratios = np.array([abs(c.ours - c.truth) for c in cases]) / max(best, 1e-9)
    ahead = [c for c in cases if not c.truth == c.ours == 0]
    within = [c for c in ahead if c.ends_within]
    print(
        f"{name:22}{len(cases):6d}{ours:8.2f}{mean:8.2f}{ses:8.2f}{ours / max(best, 1e-9):8.2f} ±{ratios.std() / np.sqrt(len(cases)):5.2f}"
        f"{100 * np.mean([c.held for c in cases]):8.0f}{100 * np.mean([c.fair for c in ahead]) if ahead else float('nan'):8.0f}"
        f"{100 * np.mean([c.held for c in within]) if within else float('nan'):8.0f}"
        f"{100 * np.mean([c.level_held for c in cases]):8.0f}{np.mean([c.level_error for c in cases]):8.3f}"
    )


class _OfAKind(Protocol):
    @property
    def kind(self) -> str: ...


AnyCase = TypeVar("AnyCase", bound=_OfAKind)


def groups(cases: list[AnyCase]) -> list[tuple[str, list[AnyCase]]]:
    """What a table has a line for: all, all but fuel, and each kind."""
    kinds = sorted({case.kind for case in cases})
    return [
        ("all", cases),
        ("without fuel", [c for c in cases if c.kind != "fuel"]),
        *((kind, [c for c in cases if c.kind == kind]) for kind in kinds),
    ]


def report(results: list[Result], title: str) -> None:
    cases = [case for result in results for case in result.cases]
    print(f"\n{title}: {len(results)} rigs, {len(cases)} stores")
    print(
        f"{'':22}{'n':>6}{'ours':>8}{'mean7':>8}{'smooth':>8}{'ratio':>8}{'':7}{'range%':>8}{'fair%':>8}{'within%':>8}{'level%':>8}{'error':>8}"
    )
    for name, mine in groups(cases):
        _line(name, mine)
    panels = [c for c in cases if c.gauge == "steps"]
    print(f"light panels: level error {np.mean([c.level_error for c in panels]):.3f} of capacity")
    rights = [r.first_right for r in results if r.first_right is not None]
    planted, caught = sum(r.planted for r in results), sum(r.caught for r in results)
    false, logged = sum(r.false for r in results), sum(r.logged for r in results)
    print(f"first to run out or be full named right: {100 * np.mean(rights):.0f} % of {len(rights)}")
    print(
        f"planted errors caught: {caught} of {planted} ({100 * caught / max(1, planted):.0f} %); false doubts: one in {logged / max(1, false):.0f} logged days"
    )


def main(seeds: tuple[int, ...] = (1000, 2000, 3000), rigs: int = 300) -> None:
    with ProcessPoolExecutor() as pool:
        for seed in seeds:
            report(list(pool.map(run, range(seed, seed + rigs), chunksize=8)), f"report seed {seed}")
