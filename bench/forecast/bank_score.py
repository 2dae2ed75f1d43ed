"""Run the core on simulated banks: days left beside a baseline, ranges, tonight's low, tomorrow's yield."""

import json
from collections import defaultdict
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from functools import partial
from typing import Any

import numpy as np

from bench.forecast.banks import BankMaker, table_v
from bench.forecast.rivals import smoothed_and_mean
from bench.forecast.score import fair_hold
from bench.forecast.skies import SkyMaker

_HORIZON = 14.0


@dataclass
class BankCase:
    """One bank. Days clipped at the horizon; lows and shares as fractions."""

    groups: tuple[str, ...]
    truth: float
    ours: float
    mean: float
    smooth: float
    held: bool
    fair: float
    ends_within: bool
    low_error: float
    low_rival: float
    low_held: bool
    sun_error: float
    sun_rival: float
    sun_held: bool


def _as_read(document: dict[str, Any]) -> tuple[float | None, list[tuple[int, float]]]:
    """Latest level as read, as a share, and net change a day between evening readings with no charging between."""
    chemistry = document["rig"]["stores"][0]["chemistry"]
    shares, volts = table_v(chemistry)
    latest, before, changes = None, None, []
    for day in document["days"]:
        number = int(np.datetime64(day["date"]).astype(int))
        if day["events"]:
            before = None
        for reading in day["readings"]:
            level = (
                float(np.interp(reading["value"], volts, shares)) if reading["method"] == "volts" else reading["value"]
            )
            latest = level
            if int(reading["at"][11:13]) < 10:
                continue
            if before is not None and number > before[0]:
                each = (level - before[1]) / (number - before[0])
                changes += [(n, each) for n in range(before[0] + 1, number + 1)]
            before = (number, level)
    return latest, changes


def run(seed: int, maker: type[BankMaker] = BankMaker) -> BankCase | None:
    from lodeline.core.forecast.bank_paths import simulate_bank
    from lodeline.core.forecast.energy_ahead import summary
    from lodeline.core.levers.agreed import agreed_forecast
    from lodeline.formats.command import known_of
    from lodeline.formats.logbook import read_logbook

    made = maker(seed)
    bank = made.make()
    book = read_logbook(json.dumps(bank.document).encode())
    known = known_of(book, bank.now)
    rig = book.rig
    tracked, ahead = known.tracked, agreed_forecast(known).of("bank")
    if not ahead.known:
        return None
    shared = known.ahead(n_paths=2000)
    paths = simulate_bank(shared, tracked["bank"])
    energy = summary(shared, tracked["bank"], paths)
    latest, changes = _as_read(bank.document)
    mean, smooth = smoothed_and_mean(latest, changes, bank.document["rig"]["stores"][0]["limit"])
    truth = min(_HORIZON, bank.days_left)
    low, high = (_HORIZON if each is None else each for each in (ahead.p10_days, ahead.p90_days))
    from lodeline.core.energy.solar import clear_yield_wh

    tomorrow = shared.days[1]
    own_clear = float(made.clear_h(tomorrow.date).sum()) * rig.solar[0].watts * made.performance
    offered = energy.days[1].offered_wh
    assert clear_yield_wh(rig, tomorrow.place, tomorrow.date).sum() > 0
    shares = [each / own_clear for each in (offered.p10, offered.p50, offered.p90)]
    season = "north" if rig.timezone not in ("Australia/Perth", "Pacific/Auckland") else "south"
    groups = (
        "all",
        "surplus" if bank.surplus else "deficit",
        "volts alone" if bank.by_volts else "shunt",
        bank.chemistry,
        season,
        f"quarter {(bank.now.month - 1) // 3 + 1}",
    )
    return BankCase(
        groups,
        truth,
        min(_HORIZON, ahead.p50_days if ahead.p50_days is not None else _HORIZON),
        mean,
        smooth,
        low - 1e-9 <= truth <= high + 1e-9,
        fair_hold(low, truth, high, ahead.p_within or 0.0),
        high < _HORIZON,
        abs(energy.low.p50 - bank.low),
        abs(bank.last_low - bank.low),
        energy.low.p10 - 1e-9 <= bank.low <= energy.low.p90 + 1e-9,
        abs(shares[1] - bank.sun_share),
        abs(bank.sun_share_today - bank.sun_share),
        shares[0] <= bank.sun_share <= shares[2],
    )


def _line(name: str, cases: list[BankCase]) -> None:
    ours, mean, smooth = (
        np.mean([abs(getattr(c, key) - c.truth) for c in cases]) for key in ("ours", "mean", "smooth")
    )
    best = min(mean, smooth)
    errors = np.array([abs(c.ours - c.truth) for c in cases])
    ahead = [c for c in cases if not c.truth == c.ours == 0]

    def percent(key: str, among: list[BankCase]) -> float:
        return 100 * float(np.mean([getattr(c, key) for c in among])) if among else float("nan")

    print(
        f"{name:14}{len(cases):5d}{ours:7.2f}{mean:7.2f}{smooth:8.2f}{ours / best:7.2f} ±{errors.std() / np.sqrt(len(cases)) / best:4.2f}"
        f"{percent('held', cases):7.0f}{percent('fair', ahead):7.0f}{percent('held', [c for c in ahead if c.ends_within]):8.0f}"
        f"{percent('low_error', cases):8.1f}{percent('low_rival', cases):7.1f}{percent('low_held', cases):7.0f}"
        f"{percent('sun_error', cases):8.1f}{percent('sun_rival', cases):7.1f}{percent('sun_held', cases):7.0f}"
    )


def report(cases: list[BankCase], title: str) -> None:
    print(f"\n{title}: {len(cases)} banks; lows in points of state of charge, yields in per cent of clear sky")
    print(
        f"{'':14}{'n':>5}{'ours':>7}{'mean7':>7}{'smooth':>8}{'ratio':>7}{'':6}{'range%':>7}{'fair%':>7}{'within%':>8}"
        f"{'low':>8}{'rival':>7}{'held%':>7}{'yield':>8}{'rival':>7}{'held%':>7}"
    )
    groups: dict[str, list[BankCase]] = defaultdict(list)
    for case in cases:
        for group in case.groups:
            groups[group].append(case)
    for name in sorted(groups, key=lambda each: (each != "all", each)):
        _line(name, groups[name])


def main(seeds: tuple[int, ...] = (1000, 2000, 3000), banks: int = 400) -> None:
    with ProcessPoolExecutor() as pool:
        for seed in seeds:
            cases = pool.map(run, range(seed, seed + banks), chunksize=8)
            report([case for case in cases if case is not None], f"banks, report seed {seed}")
        for seed in seeds:
            cases = pool.map(partial(run, maker=SkyMaker), range(seed, seed + banks), chunksize=8)
            report([case for case in cases if case is not None], f"banks under measured skies, report seed {seed}")
