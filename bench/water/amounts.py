"""``./lodeline bench water``: what activities are said to take, beside what they took and beside least squares."""

import json
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass

import numpy as np

from bench.water.logged import GAUGES, activities
from lodeline.core.catalogue import Role
from lodeline.core.tracking.track import track
from lodeline.core.water.learned import Told, amounts
from lodeline.formats.logbook import read_logbook


@dataclass
class Said:
    """One activity of one rig."""

    activity: str
    truth: float
    p10: float
    p50: float
    p90: float
    told: Told


def said(seed: int, gauge: str) -> list[Said]:
    """What is said of the activities of one rig."""
    made = activities(seed, gauge)
    book = read_logbook(json.dumps(made.lived.document).encode())
    tracked = track(book.rig, book.log, made.lived.now)
    fresh = tracked[next(store.id for store in book.rig.stores if store.kind.role is Role.WATER)]
    found = {each.activity.id: each for each in amounts(book.rig, fresh) if each.told is not Told.NOT_LOGGED}
    return [
        Said(id, truth, found[id].each_l.p10, found[id].each_l.p50, found[id].each_l.p90, found[id].told)
        for id, truth in made.each_l.items()
        if id in found
    ]


def _job(job: tuple[int, str]) -> list[Said]:
    return said(*job)


def main(n: int, seed: int = 4000) -> None:
    """Print the error of each activity's amount by gauge, and how often its range held."""
    print(f"\nWhat one takes: {n} rigs that log every shower, wash-up and flush, 42 days")
    print(f"{'':10}{'activity':10}{'n':>5}{'error':>8}{'held%':>8}{'told%':>8}{'error told':>12}{'held told':>11}")
    with ProcessPoolExecutor() as pool:
        for gauge in GAUGES:
            every = [each for mine in pool.map(_job, [(seed + i, gauge) for i in range(n)]) for each in mine]
            for name in dict.fromkeys(each.activity for each in every):
                _line(gauge, name, [each for each in every if each.activity == name])
            _line(gauge, "all", every)


def _line(gauge: str, name: str, every: list[Said]) -> None:
    error = np.array([abs(each.p50 / each.truth - 1) for each in every])
    held = np.array([each.p10 <= each.truth <= each.p90 for each in every])
    told = np.array([each.told is Told.LEARNED for each in every])
    of_told = f"{np.median(error[told]):12.2f}{100 * held[told].mean():11.0f}" if told.any() else ""
    print(
        f"{gauge:10}{name:10}{len(every):5d}{np.median(error):8.2f}{100 * held.mean():8.0f}{100 * told.mean():8.0f}{of_told}"
    )
