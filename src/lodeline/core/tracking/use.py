"""What drives a store's level, and what one would expect of it before a log exists.

A day's change of a store is a sum of drivers, each times a coefficient that the log teaches: people aboard,
cold, kilometres, the listed loads, the sun. One table holds the starting values with their source.
"""

from dataclasses import replace

import numpy as np

from lodeline.core.conditions import Conditions
from lodeline.core.energy.skies import SkyHabit
from lodeline.core.energy.sun import Floats
from lodeline.core.rig import Crew, Kind, Rig, Sense, Store
from lodeline.core.tracking.bank_use import bank_day, bank_model
from lodeline.core.tracking.influence import DayInfluence, hours_before, spread
from lodeline.core.tracking.kinds import NO_KINDS, DayKinds
from lodeline.core.tracking.model import UseModel

# Litres, kg or uses an adult a day; a child counts 0.7, an animal what is given. Common practice.
_FRESH_L, _FRESH_PET_L = 13.0, 1.0
_DRUNK_L, _FLUSHED_L = 3.5, 3.0
_GREY_SHARE = 0.85
# Share of the day-to-day spread that fresh and grey have in common: what leaves one mostly arrives in the other (sim).
WATER_TOGETHER = 0.75
_BLACK_L, _CASSETTE_L, _URINE_L, _SOLIDS_USES = 5.0, 4.0, 1.4, 1.4
# A 9 kg bottle lasts two people six to eight weeks of cooking: 0.18 kg a day. Common practice.
_GAS_KG_PER_DAY = 0.18
_GAS_KG_PER_DEGREE_DAY, _GAS_COLD_SD = 0.012, 0.025
# A diesel or petrol heater on low burns 0.2 L/h: common practice; the slope is from that and 13 degree-days.
_FUEL_L_PER_DEGREE_DAY, _FUEL_COLD_SD = 0.06, 0.08
FUEL_L_PER_KM, _FUEL_KM_SD = 0.11, 0.04
KM_PER_DRIVE_HOUR = 55.0

# Share of a day's use in each clock hour: people wash, cook and flush by day. Invented, mild.
_WAKING: Floats = np.array(
    [0.4] * 6 + [2.2, 3.4, 3.0] + [1.8] * 3 + [2.2, 2.2] + [1.6] * 4 + [2.6, 3.2, 2.8, 2.0, 1.4, 0.8]
)
WAKING_SHAPE: Floats = _WAKING / _WAKING.sum()
EVEN_SHAPE: Floats = np.full(24, 1 / 24)


def _people(crew: Crew) -> float:
    return max(1.0, crew.adults + 0.7 * crew.children)


def _careful(expected: float, capacity: float) -> float:
    """Expected use, drawn a little toward what the tank allows: small tanks make careful people. [unit/day]"""
    days = capacity / expected
    return expected * float(np.clip((days / 5.0) ** 0.35, 0.45, 1.3))


def _one(mean: float, cv: float, day_cv: float, shared: float = 0.0) -> UseModel:
    return UseModel(("people",), np.array([mean]), np.array([mean * cv]), np.array([day_cv]), shared=shared)


# Litres of one shower and one load of laundry (common practice), and how well that is known.
_EACH_L = {"shower": (12.0, 7.0), "laundry": (25.0, 15.0)}
# What a week-end, a post or a moving day adds to a day's use, as a share of it (sim).
_ADDS, _ADDS_SD = 0.06, 0.2
# How often a kind comes in a day before the log says (invented, mild).
_OFTEN = {"shower": 0.5, "laundry": 0.1, "weekend": 2 / 7, "hookup": 0.2, "moving": 0.2}


def _told_apart(plain: UseModel, kinds: DayKinds, share: float) -> UseModel:
    """Water use with a coefficient for each kind of day that the log tells apart; the usual day stays the same."""
    told = [kind for kind in kinds.told if kind in _OFTEN]
    if not told:
        return plain
    usual = float(plain.mean[0])
    extra = [
        (_EACH_L[k][0] * share, _EACH_L[k][1] * share) if k in _EACH_L else (_ADDS * usual, _ADDS_SD * usual)
        for k in told
    ]
    base = max(0.5 * usual, usual - sum(mean * _OFTEN[k] for (mean, _), k in zip(extra, told, strict=True)))
    return replace(
        plain,
        drivers=("people", *told),
        mean=np.array([base, *(mean for mean, _ in extra)]),
        sd=np.array([float(plain.sd[0]) * base / usual, *(sd for _, sd in extra)]),
        day_cv=np.concatenate([plain.day_cv, np.full(len(extra), 0.4)]),
        kinds=kinds,
    )


def _has_flush(rig: Rig) -> bool:
    return rig.first(Kind.BLACK) is not None


def _fresh_per_day(rig: Rig) -> float:
    fresh = rig.first(Kind.FRESH)
    expected = _FRESH_L * _people(rig.crew) + _FRESH_PET_L * rig.crew.pets
    if _has_flush(rig):
        expected += _FLUSHED_L * _people(rig.crew)
    return _careful(expected, fresh.capacity) if fresh else expected


def grey_from_fresh(rig: Rig, water_l_per_day: float) -> float:
    """Grey water from fresh water used, less what is drunk and flushed. [L/day]"""
    drunk = _DRUNK_L + (_FLUSHED_L if _has_flush(rig) else 0.0)
    return _GREY_SHARE * max(0.3 * water_l_per_day, water_l_per_day - drunk * _people(rig.crew))


def expected_use(rig: Rig, store: Store, kinds: DayKinds = NO_KINDS) -> UseModel:
    """What crew, kind and rig lead one to expect, before the log is looked at."""
    people = _people(rig.crew)
    if store.kind is Kind.BATTERY:
        return bank_model(rig)
    if store.kind is Kind.FRESH:
        return _told_apart(_one(_fresh_per_day(rig), 0.5, 0.39, shared=WATER_TOGETHER), kinds, 1.0)
    if store.kind is Kind.GREY:
        plain = _one(grey_from_fresh(rig, _fresh_per_day(rig)), 0.55, 0.5, shared=WATER_TOGETHER)
        return _told_apart(plain, kinds, 0.95)
    if store.kind is Kind.GAS:
        cold_sd = _GAS_COLD_SD if rig.first(Kind.FUEL) is None else _GAS_COLD_SD / 2
        return UseModel(
            ("people", "cold"), np.array([_GAS_KG_PER_DAY * people / 2, _GAS_KG_PER_DEGREE_DAY / 3]),
            np.array([0.6 * _GAS_KG_PER_DAY * people / 2, cold_sd / 2]), np.array([0.34, 0.4]),
        )  # fmt: skip
    if store.kind is Kind.FUEL:
        return UseModel(
            ("cold", "km"), np.array([_FUEL_L_PER_DEGREE_DAY, FUEL_L_PER_KM]),
            np.array([_FUEL_COLD_SD, _FUEL_KM_SD]), np.array([0.5, 0.15]),
        )  # fmt: skip
    per_person = {
        Kind.BLACK: (_BLACK_L, 0.5, 0.26), Kind.CASSETTE: (_CASSETTE_L, 0.4, 0.23),
        Kind.URINE: (_URINE_L, 0.35, 0.2), Kind.SOLIDS: (_SOLIDS_USES, 0.4, 0.34),
    }  # fmt: skip
    if store.kind in per_person:
        each, cv, day_cv = per_person[store.kind]
        return _one(each * people, cv, day_cv, shared=0.2)
    if store.sense is Sense.DRAINS and "day" in store.unit:
        return _one(1.0, 0.3, 0.2)
    return _one(store.capacity / 14.0, 0.8, 0.5)


def day_influence(
    rig: Rig,
    store: Store,
    model: UseModel,
    day: Conditions,
    usual: SkyHabit,
    until_h: float = 24.0,
    days_ahead: int = 0,
) -> DayInfluence:
    """The day's drivers and measured totals of one store. Totals cover the hours before ``until_h``."""
    if store.kind is Kind.BATTERY:
        return bank_day(rig, store, model, day, usual, until_h, days_ahead)
    crew = max(1, rig.crew.people)
    aboard = day.people / crew
    driver = {
        "people": aboard, "cold": day.degree_days, "km": 0.0,
        "shower": day.showers if day.showers is not None else model.kinds.usual("shower"),
        "laundry": day.laundry if day.laundry is not None else model.kinds.usual("laundry"),
        "weekend": aboard * (day.date.weekday() >= 5), "hookup": aboard * day.hookup, "moving": aboard * day.moving,
    }  # fmt: skip
    if store.kind is Kind.GAS:
        driver["people"] = 0.4 + 0.6 * driver["people"]
    shapes = {"cold": EVEN_SHAPE, "km": EVEN_SHAPE}
    columns = [store.sign * driver[name] * shapes.get(name, WAKING_SHAPE) for name in model.drivers]
    hourly = np.stack(columns, axis=1)
    known = np.zeros(24)
    known_sd = 0.0
    if store.kind is Kind.FRESH and day.water_l is not None and rig.first(Kind.FRESH) is store:
        past = hours_before(until_h)
        known = -spread(day.water_l, WAKING_SHAPE * past)
        known_sd = 0.03 * day.water_l
        hourly = hourly * (1 - past)[:, None]
    return DayInfluence(hourly, known, known_sd)
