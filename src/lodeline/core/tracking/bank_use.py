"""What drives a bank: the audit by day and by night, the sun under each sky, cold and heat; and a day of it."""

import numpy as np

from lodeline.core.conditions import Conditions
from lodeline.core.energy import bank
from lodeline.core.energy.figures import figure
from lodeline.core.energy.loads import NIGHT, audit_wh
from lodeline.core.energy.skies import SHARES, SPREADS, WORDS, SkyHabit, expected_words, mixture_spread
from lodeline.core.energy.solar import clear_yield_wh
from lodeline.core.energy.sun import Floats
from lodeline.core.rig import Rig, Store
from lodeline.core.tracking.influence import DayInfluence, hours_before, spread
from lodeline.core.tracking.model import UseModel

LOADS = ("load", "night", "cold", "hot")
# Error of the audit before the log says, with and without listed loads; how much of it day and night share.
_AUDIT_CV, _UNLISTED_CV, _TOGETHER = 0.30, 0.50, 0.85
_LOAD_DAY_CV = 0.25
_WEATHER_CV = 0.7
# Error of each sky's share beside what the array's strength explains (common practice, from the ranges of the shares).
_WORD_CV: Floats = np.array([0.04, 0.12, 0.22, 0.28])
_DRIFT = 0.025


def bank_model(rig: Rig) -> UseModel:
    """The starting coefficients of a bank: factors on the audit and on the expected sun under each word."""
    load_cv = _AUDIT_CV if rig.loads else _UNLISTED_CV
    strength = figure("system_share_sd") / figure("system_share")
    n_loads, n = len(LOADS), len(LOADS) + len(WORDS)
    cov = np.zeros((n, n))
    cov[:2, :2] = load_cv**2 * (_TOGETHER + (1 - _TOGETHER) * np.eye(2))
    cov[2:n_loads, 2:n_loads] = np.eye(n_loads - 2) * _WEATHER_CV**2
    cov[n_loads:, n_loads:] = strength**2 + np.diag(_WORD_CV**2)
    sd = np.sqrt(np.diag(cov))
    day_cv = np.concatenate([np.full(n_loads, _LOAD_DAY_CV), SPREADS])
    mean = np.ones(n)
    mean[:2] = figure("forgotten")
    return UseModel((*LOADS, *WORDS), mean, sd, day_cv, drift=_DRIFT, correlation=cov / np.outer(sd, sd))


def weather_factors(day: Conditions) -> dict[str, float]:
    """What each degree under or over the mild range adds, as a share of the audit."""
    return {
        "cold": figure("per_degree") * max(0.0, figure("cold_below_c") - day.mean_c),
        "hot": figure("per_degree") * max(0.0, day.mean_c - figure("hot_above_c")),
    }


def load_columns(rig: Rig, day: Conditions) -> Floats:
    """The audit's drivers in each clock hour, shape (24, n_loads). [Wh]"""
    audit, extra = audit_wh(rig), weather_factors(day)
    columns = {
        "load": audit * (1 - NIGHT),
        "night": audit * NIGHT,
        "cold": audit * extra["cold"],
        "hot": audit * extra["hot"],
    }
    return np.stack([columns[name] for name in LOADS], axis=1)


def bank_day(
    rig: Rig, store: Store, model: UseModel, day: Conditions, usual: SkyHabit, until_h: float, days_ahead: int
) -> DayInfluence:
    """The day's drivers of a bank and what was measured. Totals cover the hours before ``until_h``."""
    to_ah, efficiency = 1.0 / store.volts, bank.charge_efficiency(store)
    allowed = bank.takes_charge(store, day.mean_c, day.min_c)
    clear = clear_yield_wh(rig, day.place, day.date, day.mean_c, day.min_c) * allowed * efficiency * to_ah
    chance = expected_words(day.sky, usual, days_ahead)
    sun = clear[:, None] * (chance * SHARES)
    load = -load_columns(rig, day) * to_ah
    past, known, known_var = hours_before(until_h), np.zeros(24), 0.0
    if day.solar_wh is not None:
        known = known + spread(day.solar_wh * efficiency * to_ah, clear * past)
        known_var += (0.04 * day.solar_wh * to_ah) ** 2
        sun = sun * (1 - past)[:, None]
    if day.load_wh is not None:
        known = known - spread(day.load_wh * to_ah, -load[:, :2].sum(axis=1) * past)
        known_var += (0.04 * day.load_wh * to_ah) ** 2
        load = load * (1 - past)[:, None]
    cv = np.concatenate([model.day_cv[: load.shape[1]], word_cv(chance)])
    return DayInfluence(np.concatenate([load, sun], axis=1), known, float(np.sqrt(known_var)), cv)


def word_cv(chance: Floats) -> Floats:
    """Spread of each word's part of a day, shape (4,), such that the parts together have the mixture's spread."""
    if chance.max() > 0.999:
        return SPREADS
    parts = float(np.sqrt(np.sum((chance * SHARES) ** 2)))
    return np.full(len(WORDS), mixture_spread(chance, SHARES, SPREADS) / parts)
