"""Days of water left, and of room for grey: with each shower, wash-up and flush logged, and without; same lives."""

import json
from concurrent.futures import ProcessPoolExecutor

import numpy as np

from bench.water.logged import GAUGES, Logged
from lodeline.core.levers.agreed import agreed_forecast
from lodeline.formats.command import known_of
from lodeline.formats.logbook import read_logbook

HORIZON = 14.0


def errors(job: tuple[int, str, bool]) -> list[tuple[str, float, bool]]:
    """Kind, error of the days left, and whether the range held, of one rig's tanks."""
    seed, gauge, logs = job
    lived = Logged(seed, gauge, logs).live()
    book = read_logbook(json.dumps(lived.document).encode())
    said = agreed_forecast(known_of(book, lived.now))
    found = []
    for id in ("fresh", "grey"):
        each = said.of(id)
        if not each.known:
            continue
        truth = min(HORIZON, lived.days_left[id])
        low, middle, high = (HORIZON if d is None else d for d in (each.p10_days, each.p50_days, each.p90_days))
        found.append((id, abs(middle - truth), low - 0.05 <= truth <= high + 0.05))
    return found


def main(n: int, seed: int = 6000) -> None:
    """Print the mean error of fresh and grey, logged and not."""
    print(f"\nDays left of fresh and grey, {n} rigs: error in days, and ranges that held, without and with activities")
    with ProcessPoolExecutor() as pool:
        for gauge in GAUGES:
            without, with_ = (
                [e for mine in pool.map(errors, [(seed + i, gauge, logs) for i in range(n)]) for e in mine]
                for logs in (False, True)
            )
            for id in ("fresh", "grey"):
                a, b = ([e for e in each if e[0] == id] for each in (without, with_))
                before, after = np.mean([e[1] for e in a]), np.mean([e[1] for e in b])
                held = [100 * np.mean([e[2] for e in each]) for each in (a, b)]
                print(
                    f"{gauge:8}{id:8}{before:7.2f}{after:7.2f}  ratio {after / before:5.2f}  held {held[0]:3.0f} {held[1]:3.0f} %"
                )
