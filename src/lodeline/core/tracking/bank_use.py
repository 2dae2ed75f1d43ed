"""What drives a bank: the audit by day and by night, the sun under each sky, cold and heat; and a day of it."""

from math import sqrt

import numpy as np

from lodeline.core.catalogue import Driver
from lodeline.core.conditions import Conditions
from lodeline.core.energy import bank
from lodeline.core.energy.banks import of_bank, totals_of
from lodeline.core.energy.heat import running_wh
from lodeline.core.energy.loads import NIGHT, audit_wh, weather_shares
from lodeline.core.energy.skies import SHARES, SPREADS, WORDS, SkyHabit, expected_words, mixture_spread
from lodeline.core.energy.solar import clear_yield_wh
from lodeline.core.figures import Energy, Numeric, Readings
from lodeline.core.rig import Rig, Store
from lodeline.core.statistics import Floats
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.influence import DayInfluence, hours_before, over_hours
from lodeline.core.tracking.model import UseModel
from lodeline.core.zone import HOURS

LOADS = (Driver.LOAD_BY_DAY, Driver.LOAD_AT_NIGHT, Driver.CHILL, Driver.HEAT)
SUNS = (Driver.SUN_CLEAR, Driver.SUN_MIXED, Driver.SUN_OVERCAST, Driver.SUN_WET)
# What the place adds to or takes from every word's factor; it begins anew at another place.
PLACE = Driver.SUN_PLACE
SUN_AND_PLACE = (*SUNS, PLACE)
WEATHER = (Driver.CHILL, Driver.HEAT)
_LISTED = len(LOADS) - len(WEATHER)


def bank_model(rig: Rig) -> UseModel:
    """The starting coefficients of a bank: factors on the audit and on the expected sun under each word."""
    load_cv = Energy.audit_cv if rig.loads else Energy.unlisted_cv
    strength = Energy.system_share_sd / Energy.system_share
    n_loads, n = len(LOADS), len(LOADS) + len(SUN_AND_PLACE)
    together = Energy.audit_together
    cov = np.zeros((n, n))
    cov[:_LISTED, :_LISTED] = load_cv**2 * (together + (1 - together) * np.eye(_LISTED))
    cov[_LISTED:n_loads, _LISTED:n_loads] = np.eye(len(WEATHER)) * Energy.weather_cv**2
    cov[n_loads:-1, n_loads:-1] = strength**2 + np.diag(np.square(Energy.sky_word_cv))
    cov[-1, -1] = Energy.place_sd**2
    sd = np.sqrt(np.diag(cov))
    mean = np.ones(n)
    mean[:_LISTED] = Energy.forgotten
    mean[_LISTED:n_loads] = np.maximum(np.array(weather_shares(rig)) / Energy.per_degree, Energy.fixed_load)
    mean[-1] = 0.0
    return UseModel(
        drivers=(*LOADS, *SUN_AND_PLACE),
        mean=mean,
        sd=sd,
        day_cv=np.concatenate([np.full(n_loads, Energy.load_day_cv), SPREADS, [0.0]]),
        drift=Energy.bank_drift,
        correlation=cov / np.outer(sd, sd),
    )


def at_new_place(belief: b.Belief) -> b.Belief:
    """The belief at another place: shade stays behind, strength comes along.

    What a place and the array had in common is parted by how places differ: mostly little, some much (a mixture of two
    scales). Where the sun was weaker than open places explain, the place is taken to have been one of the shaded ones.
    """
    first, n = b.COEFFICIENTS.start + len(LOADS), len(WORDS)
    mean, cov = belief.mean.copy(), belief.cov.copy()
    together = mean[first : first + n] + mean[first + n]
    if together[0] < Energy.shaded_from:
        strength = Energy.system_share_sd / Energy.system_share
        its = strength**2 / (strength**2 + Energy.shaded_place_sd**2)
        mean[first : first + n] = 1 + its * (together - 1)
        cov[first : first + n, first : first + n] += (1 - its) * strength**2
    place = first + n
    mean[place] = 0.0
    cov[place, :] = cov[:, place] = 0.0
    cov[place, place] = Energy.shaded_place_sd**2 / 2
    return b.Belief(mean, cov)


def weather_factors(day: Conditions) -> Floats:
    """What each degree under or over the mild range adds, as a share of the audit, by ``WEATHER``. Shape (2,)."""
    chill = max(0.0, Energy.cold_below_c - day.mean_c)
    heat = max(0.0, day.mean_c - Energy.hot_above_c)
    return Energy.per_degree * np.array([chill, heat])


def load_columns(rig: Rig, day: Conditions) -> Floats:
    """The drivers of what is drawn in each day hour, heaters' fans by the cold, shape (24, n_loads). [Wh]"""
    return _columns(listed_wh_on(rig, day) + running_wh(rig, day), day)


def listed_columns(rig: Rig, day: Conditions) -> Floats:
    """The same of the listed loads alone. [Wh]"""
    return _columns(listed_wh_on(rig, day), day)


def listed_wh_on(rig: Rig, day: Conditions) -> Floats:
    """The audit with the people of a day, shape (24,). [Wh]"""
    aboard = day.people / max(1, rig.crew.people)
    return audit_wh(rig) * (1 + Energy.load_by_people * (aboard - 1))


def _columns(audit: Floats, day: Conditions) -> Floats:
    extra = weather_factors(day)
    return np.stack([audit * (1 - NIGHT), audit * NIGHT, *(audit * each for each in extra)], axis=1)


def bank_day(
    rig: Rig, store: Store, model: UseModel, day: Conditions, usual: SkyHabit, until_h: float, days_ahead: int
) -> DayInfluence:
    """The day's drivers of a bank and what was measured. Totals cover the hours before ``until_h``."""
    rig, (solar_wh, load_wh) = of_bank(rig, store), totals_of(rig, store, day)
    to_ah = 1.0 / store.volts / day_cold_share(store, day)
    raw = clear_yield_wh(rig, day.place, day.date, day.mean_c, day.min_c) * to_ah
    if day.covered:
        raw = raw * Energy.covered_share
    chance = expected_words(day.sky, usual, days_ahead)
    load = -load_columns(rig, day) * to_ah
    clear = raw * taken_share(store, day, raw * float(chance @ SHARES), -load[:, :_LISTED].sum(axis=1))
    sun = clear[:, None] * (chance * SHARES)
    expected = np.concatenate([load, sun, sun.sum(axis=1, keepdims=True)], axis=1)
    cv = np.concatenate([model.day_cv[: load.shape[1]], word_cv(chance), [0.0]])
    hourly, known, known_var = expected, np.zeros(int(HOURS)), 0.0
    if solar_wh is not None or load_wh is not None:
        hourly, past = expected.copy(), hours_before(until_h)
        if solar_wh is not None:
            share = float(clear @ past) / max(float(raw @ past), Numeric.tiny)
            known = known + over_hours(solar_wh * share * to_ah, clear * past)
            known_var += (Readings.energy_meter_cv * solar_wh * to_ah) ** 2
            hourly[:, load.shape[1] :] *= (1 - past)[:, None]
        if load_wh is not None:
            known = known - over_hours(load_wh * to_ah, -load[:, :_LISTED].sum(axis=1) * past)
            known_var += (Readings.energy_meter_cv * load_wh * to_ah) ** 2
            hourly[:, : load.shape[1]] *= (1 - past)[:, None]
    return DayInfluence(hourly=hourly, expected=expected, known=known, known_sd=sqrt(known_var), cv=cv)


def day_cold_share(store: Store, day: Conditions) -> float:
    """Share of its capacity that a bank gives on a day. What is drawn moves its state of charge by so much more, so
    that
    from full there is capacity times this share times (1 - line), as IEEE 1013 sizes it."""
    return bank.cold_share(store, float(bank.bank_c(store, day.mean_c, day.min_c).mean()))


def yield_columns(rig: Rig, day: Conditions, usual: SkyHabit) -> Floats:
    """What the array gives in each day hour by ``SUN_AND_PLACE``, whatever becomes of it. Shape (24, 5). [Wh]"""
    clear = clear_yield_wh(rig, day.place, day.date, day.mean_c, day.min_c) * (
        Energy.covered_share if day.covered else 1.0
    )
    sun = clear[:, None] * (expected_words(day.sky, usual) * SHARES)
    return np.concatenate([sun, sun.sum(axis=1, keepdims=True)], axis=1)


def taken_share(store: Store, day: Conditions, sun_ah: Floats, load_ah: Floats) -> Floats:
    """Share of each hour's sun that counts, shape (24,): what loads use at once whole, the rest less what charging
    loses, and nothing of it in hours in which the cells are too cold to be charged."""
    direct = np.minimum(1.0, load_ah / np.maximum(sun_ah, Numeric.tiny))
    allowed = bank.takes_charge(store, day.mean_c, day.min_c)
    share: Floats = direct + (1 - direct) * allowed * bank.charge_efficiency(store)
    return share


def word_cv(chance: Floats) -> Floats:
    """Spread of each word's part of a day, shape (4,), such that the parts together have the mixture's spread."""
    if chance.max() > Numeric.sure_word:
        return SPREADS
    parts = float(np.sqrt(np.sum((chance * SHARES) ** 2)))
    return np.full(len(WORDS), mixture_spread(chance, SHARES, SPREADS) / parts)
