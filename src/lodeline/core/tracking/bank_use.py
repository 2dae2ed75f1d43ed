"""What drives a bank: the audit by day and by night, the sun under each sky, cold and heat; and a day of it."""

import numpy as np

from lodeline.core.catalogue import Driver
from lodeline.core.conditions import Conditions
from lodeline.core.energy import bank
from lodeline.core.energy.loads import NIGHT, audit_wh
from lodeline.core.energy.skies import SHARES, SPREADS, WORDS, SkyHabit, expected_words, mixture_spread
from lodeline.core.energy.solar import clear_yield_wh
from lodeline.core.figures import Energy, Numeric, Readings
from lodeline.core.rig import Rig, Store
from lodeline.core.statistics import Floats
from lodeline.core.tracking.influence import DayInfluence, hours_before, over_hours
from lodeline.core.tracking.model import UseModel
from lodeline.core.zone import HOURS

LOADS = (Driver.LOAD_BY_DAY, Driver.LOAD_AT_NIGHT, Driver.CHILL, Driver.HEAT)
SUNS = (Driver.SUN_CLEAR, Driver.SUN_MIXED, Driver.SUN_OVERCAST, Driver.SUN_WET)
WEATHER = (Driver.CHILL, Driver.HEAT)
_LISTED = len(LOADS) - len(WEATHER)


def bank_model(rig: Rig) -> UseModel:
    """The starting coefficients of a bank: factors on the audit and on the expected sun under each word."""
    load_cv = Energy.audit_cv if rig.loads else Energy.unlisted_cv
    strength = Energy.system_share_sd / Energy.system_share
    n_loads, n = len(LOADS), len(LOADS) + len(SUNS)
    together = Energy.audit_together
    cov = np.zeros((n, n))
    cov[:_LISTED, :_LISTED] = load_cv**2 * (together + (1 - together) * np.eye(_LISTED))
    cov[_LISTED:n_loads, _LISTED:n_loads] = np.eye(len(WEATHER)) * Energy.weather_cv**2
    cov[n_loads:, n_loads:] = strength**2 + np.diag(np.square(Energy.sky_word_cv))
    sd = np.sqrt(np.diag(cov))
    mean = np.ones(n)
    mean[:_LISTED] = Energy.forgotten
    return UseModel(
        drivers=(*LOADS, *SUNS), mean=mean, sd=sd,
        day_cv=np.concatenate([np.full(n_loads, Energy.load_day_cv), SPREADS]), drift=Energy.bank_drift,
        correlation=cov / np.outer(sd, sd),
    )  # fmt: skip


def weather_factors(day: Conditions) -> Floats:
    """What each degree under or over the mild range adds, as a share of the audit, by ``WEATHER``. Shape (2,)."""
    chill = max(0.0, Energy.cold_below_c - day.mean_c)
    heat = max(0.0, day.mean_c - Energy.hot_above_c)
    return Energy.per_degree * np.array([chill, heat])


def load_columns(rig: Rig, day: Conditions) -> Floats:
    """The audit's drivers in each day hour, shape (24, n_loads). [Wh]"""
    audit, extra = audit_wh(rig), weather_factors(day)
    return np.stack([audit * (1 - NIGHT), audit * NIGHT, *(audit * each for each in extra)], axis=1)


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
    past, known, known_var = hours_before(until_h), np.zeros(int(HOURS)), 0.0
    if day.solar_wh is not None:
        known = known + over_hours(day.solar_wh * efficiency * to_ah, clear * past)
        known_var += (Readings.energy_meter_cv * day.solar_wh * to_ah) ** 2
        sun = sun * (1 - past)[:, None]
    if day.load_wh is not None:
        known = known - over_hours(day.load_wh * to_ah, -load[:, :_LISTED].sum(axis=1) * past)
        known_var += (Readings.energy_meter_cv * day.load_wh * to_ah) ** 2
        load = load * (1 - past)[:, None]
    cv = np.concatenate([model.day_cv[: load.shape[1]], word_cv(chance)])
    return DayInfluence(
        hourly=np.concatenate([load, sun], axis=1), known=known, known_sd=float(np.sqrt(known_var)), cv=cv
    )


def word_cv(chance: Floats) -> Floats:
    """Spread of each word's part of a day, shape (4,), such that the parts together have the mixture's spread."""
    if chance.max() > Numeric.sure_word:
        return SPREADS
    parts = float(np.sqrt(np.sum((chance * SHARES) ** 2)))
    return np.full(len(WORDS), mixture_spread(chance, SHARES, SPREADS) / parts)
