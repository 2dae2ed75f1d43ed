"""The core alone: paths beside numpy's own time for the same random numbers, files a second, ten years beside 60 days."""

import json
import statistics
import subprocess
import tempfile
import time
from collections.abc import Callable
from contextlib import redirect_stdout
from datetime import datetime, timedelta
from functools import partial
from io import StringIO
from pathlib import Path

import numpy as np

from bench.goals import figure, note
from bench.server import ROOT
from lodeline.core.figures import Forecasting
from lodeline.core.forecast.forecast import forecast
from lodeline.core.forecast.known import Known
from lodeline.core.tracking.checkpoints import Checkpoints
from lodeline.core.tracking.track import track
from lodeline.demo.life import live
from lodeline.demo.scenario import SANDMARTIN
from lodeline.formats.command import main as forecast_command
from lodeline.formats.logbook import read_logbook

NOW = datetime.fromisoformat("2026-11-25T20:40:00+00:00")


_RUNS = 25


def _median_s(call: Callable[[], object], runs: int = 7) -> float:
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        call()
        times.append(time.perf_counter() - start)
    return statistics.median(times)


def _side_by_side(first: Callable[[], object], second: Callable[[], object], runs: int) -> tuple[float, float]:
    """The best of each, measured in turn, so that a slow spell of the machine falls on both."""
    pairs = [(_median_s(first, 1), _median_s(second, 1)) for _ in range(runs)]
    return min(each[0] for each in pairs), min(each[1] for each in pairs)


def _paths_beside_numbers(runs: int) -> None:
    book = read_logbook(json.dumps(live(SANDMARTIN, NOW, 22).document).encode())
    rig, log, outlook = book.rig, book.log, book.outlook
    tracked = track(rig, log, NOW)
    known = Known(rig=rig, log=log, now=NOW, tracked=tracked, outlook=outlook)
    days = 15
    dates = days
    others = [t for t in tracked.values() if not t.store.is_bank]
    # level and coefficients, then each driver on each date and its drift
    plain = [
        (Forecasting.paths * (1 + len(t.model.mean)), Forecasting.paths * len(t.model.mean) * (1 + dates))
        for t in others
    ]
    bank = next(t for t in tracked.values() if t.store.is_bank)

    def numbers() -> None:
        rng = np.random.default_rng(1)
        rng.standard_normal(Forecasting.paths * dates, dtype=np.float32)
        for state, daily in plain:
            rng.standard_normal(state)
            rng.standard_normal(daily, dtype=np.float32)
        # a bank: level and coefficients, loads and their drift, the skies' chances, a word and its spread on each date
        rng.standard_normal(Forecasting.paths * (1 + len(bank.model.mean) + dates + 1))
        rng.standard_gamma(2.0, 4 * Forecasting.paths)
        for _ in range(dates):
            rng.random(2 * Forecasting.paths)
            rng.standard_normal(Forecasting.paths)

    ours, floor = _side_by_side(lambda: forecast(known, known.ahead()), numbers, runs)
    note("paths over drawing their random numbers", ours / floor, "times", 2)
    print(
        f"paths of {len(tracked)} stores, 14 days, hourly bank, {Forecasting.paths} paths: {ours * 1000:.1f} ms; numpy's numbers "
        f"alone {floor * 1000:.1f} ms; ratio {ours / floor:.1f}"
    )


def _files(count: int) -> None:
    with tempfile.TemporaryDirectory() as folder:
        paths = []
        for seed in range(count):
            path = Path(folder) / f"{seed}.json"
            path.write_text(json.dumps(live(SANDMARTIN, NOW, seed).document))
            paths.append(str(path))
        start = time.perf_counter()
        with redirect_stdout(StringIO()):
            forecast_command(paths)
        a_file = (time.perf_counter() - start) / count
        print(f"forecast command, {count} files of 60 days, start-up apart: {a_file:.3f} s a file")
        note("forecast command, a further file of 60 days", a_file, "s", 0.15)
        whole = _median_s(partial(subprocess.run, [ROOT / "lodeline", "forecast", paths[0]], capture_output=True), 5)
        figure("forecast command, one file of 60 days from a cold start", whole, "s", 0.6)


def _ten_years(n_days: int) -> None:
    medians = {}
    for label, days in (("60 days", 60), ("ten years", n_days)):
        book = read_logbook(json.dumps(live(SANDMARTIN, NOW, 22, days).document).encode())
        rig, log, checkpoints = book.rig, book.log, Checkpoints()
        start = time.perf_counter()
        track(rig, log, NOW - timedelta(days=1), checkpoints)
        first = time.perf_counter() - start
        cold = _median_s(partial(track, rig, log, NOW), 1 if days > 60 else 5)
        medians[label] = (cold, _median_s(partial(track, rig, log, NOW, checkpoints)))
        print(
            f"tracking {label}: from nothing {first:.2f} s; once the past has been seen {medians[label][1] * 1000:.1f} ms"
        )
        if days == 60:
            note("tracking 60 days of seven stores from nothing", cold, "s", 0.1)
        else:
            note("tracking ten years of seven stores from nothing, thinned", cold, "s")
    ratio = medians["ten years"][1] / medians["60 days"][0]
    print(
        f"ten years once seen / 60 days from nothing = {ratio:.2f}; / 60 days once seen = {medians['ten years'][1] / medians['60 days'][1]:.2f}"
    )


def main(files: int = 120, n_days: int = 3652, runs: int = _RUNS) -> None:
    _paths_beside_numbers(runs)
    _files(files)
    _ten_years(n_days)
