"""What drives a store's level, and what one would expect of it before a log exists.

A day's change of a store is a sum of drivers, each times a coefficient that the log teaches: people aboard,
cold, kilometres, the listed loads, the sun. The starting values stand on the sheet of use and in the kind's row.
"""

from dataclasses import replace
from typing import assert_never

import numpy as np

from lodeline.core.catalogue import DAY_KINDS, DayKind, Driver, Pattern, Prior, Role, ToldBy
from lodeline.core.conditions import Conditions
from lodeline.core.energy.skies import SkyHabit
from lodeline.core.figures import Readings, Use
from lodeline.core.rig import Rig, Store
from lodeline.core.statistics import Floats
from lodeline.core.tracking.bank_use import bank_day, bank_model
from lodeline.core.tracking.day_kinds import NO_DAY_KINDS, KnownDayKinds
from lodeline.core.tracking.influence import DayInfluence, hours_before, over_hours
from lodeline.core.tracking.model import UseModel
from lodeline.core.zone import HOURS

# Share of a day's use in each hour: people wash, cook and flush by day. Invented, mild.
_WAKING: Floats = np.array(
    [0.4] * 6 + [2.2, 3.4, 3.0] + [1.8] * 3 + [2.2, 2.2] + [1.6] * 4 + [2.6, 3.2, 2.8, 2.0, 1.4, 0.8]
)
WAKING_SHAPE: Floats = _WAKING / _WAKING.sum()
EVEN_SHAPE: Floats = np.full(int(HOURS), 1 / HOURS)
_EVEN = frozenset({Driver.DEGREE_DAYS, Driver.KM})


def _careful(expected: float, capacity: float) -> float:
    """Expected use, drawn a little toward what the tank allows: small tanks make careful people. [unit/day]"""
    days = capacity / expected
    share = (days / Use.careful_days) ** Use.careful_power
    return expected * float(np.clip(share, Use.careful_least, Use.careful_most))


def _people(mean: float, cv: float, day_cv: float, shared: float = 0.0) -> UseModel:
    """A store whose use goes by the people aboard alone."""
    return UseModel(
        drivers=(Driver.PEOPLE,), mean=np.array([mean]), sd=np.array([mean * cv]), day_cv=np.array([day_cv]),
        shared=shared,
    )  # fmt: skip


def _extra(kind: DayKind, usual: float, share: float) -> tuple[float, float]:
    """What a kind of day adds, and its error, for a store that takes a share of each event's water."""
    if kind.each_l is None or kind.each_sd_l is None:
        return Use.kind_adds * usual, Use.kind_adds_sd * usual
    return kind.each_l * share, kind.each_sd_l * share


def _told_apart(plain: UseModel, kinds: KnownDayKinds, share: float) -> UseModel:
    """Water use with a coefficient for each kind of day that the log tells apart; the usual day stays the same."""
    known = [DAY_KINDS[id] for id in kinds.ids]
    if not known:
        return plain
    usual = float(plain.mean[0])
    extra = [_extra(kind, usual, share) for kind in known]
    often = sum(mean * kind.often for (mean, _), kind in zip(extra, known, strict=True))
    base = max(Use.kind_base_least * usual, usual - often)
    return replace(
        plain,
        drivers=(Driver.PEOPLE, *kinds.ids),
        mean=np.array([base, *(mean for mean, _ in extra)]),
        sd=np.array([float(plain.sd[0]) * base / usual, *(sd for _, sd in extra)]),
        day_cv=np.concatenate([plain.day_cv, np.full(len(extra), Use.kind_day_cv)]),
        day_kinds=kinds,
    )


def _flushed_l(rig: Rig) -> float:
    """What an adult flushes, where a black tank is aboard. [L/day]"""
    return Use.flushed_l if rig.first(Role.FLUSHED) is not None else 0.0


def _fresh_per_day(rig: Rig) -> float:
    """Expected use of fresh water. [L/day]"""
    fresh, people = rig.first(Role.WATER), rig.crew.adult_equivalents
    expected = Use.fresh_l * people + Use.fresh_pet_l * rig.crew.pets + _flushed_l(rig) * people
    return _careful(expected, fresh.capacity) if fresh else expected


def grey_from_fresh(rig: Rig, water_l_per_day: float) -> float:
    """Grey water from fresh water used, less what is drunk and flushed. [L/day]"""
    apart = (Use.drunk_l + _flushed_l(rig)) * rig.crew.adult_equivalents
    return Use.grey_share * max(Use.grey_least_share * water_l_per_day, water_l_per_day - apart)


def _error(rig: Rig, prior: Prior) -> float:
    """Error of a driver's coefficient; less where another store may serve the same need."""
    other = prior.other is not None and rig.first(prior.other) is not None
    return prior.sd * Use.other_heat if other else prior.sd


def _by_drivers(rig: Rig, store: Store) -> UseModel:
    """What the kind's own row expects."""
    use, people = store.kind.use, rig.crew.adult_equivalents
    scale = [people if prior.driver is Driver.PEOPLE else 1.0 for prior in use.priors]
    return UseModel(
        drivers=tuple(prior.driver for prior in use.priors),
        mean=np.array([prior.mean * each for prior, each in zip(use.priors, scale, strict=True)]),
        sd=np.array([_error(rig, prior) * each for prior, each in zip(use.priors, scale, strict=True)]),
        day_cv=np.array([prior.day_cv for prior in use.priors]),
        shared=use.shared,
        whoever=next((prior.whoever for prior in use.priors if prior.driver is Driver.PEOPLE), 0.0),
    )


def expected_use(rig: Rig, store: Store, kinds: KnownDayKinds = NO_DAY_KINDS) -> UseModel:
    """What crew, kind and rig lead one to expect, before the log is looked at."""
    use = store.kind.use
    match use.pattern:
        case Pattern.BANK:
            return bank_model(rig)
        case Pattern.WATER:
            plain = _people(_fresh_per_day(rig), Use.fresh_cv, Use.fresh_day_cv, use.shared)
            return _told_apart(plain, kinds, 1.0)
        case Pattern.DRAIN:
            flow = grey_from_fresh(rig, _fresh_per_day(rig))
            plain = _people(flow, Use.grey_cv, Use.grey_day_cv, use.shared)
            return _told_apart(plain, kinds, Use.grey_of_shower)
        case Pattern.BY_DRIVERS:
            return _by_drivers(rig, store)
        case Pattern.OWN_RATE:
            if store.is_counted_in_days:
                return _people(1.0, Use.supply_days_cv, Use.supply_days_day_cv)
            return _people(store.capacity / Use.supply_lasts_days, Use.supply_cv, Use.supply_day_cv)
        case _:
            assert_never(use.pattern)


def _driver_of_day(rig: Rig, model: UseModel, day: Conditions) -> dict[str, float]:
    """How much there is of each of a model's drivers on a day; kilometres come from drives."""
    aboard = day.people / max(1, rig.crew.people)
    amounts: dict[str, float] = {
        Driver.PEOPLE: model.whoever + (1 - model.whoever) * aboard,
        Driver.DEGREE_DAYS: day.degree_days,
        Driver.KM: 0.0,
    }
    for id in model.day_kinds.ids:
        kind = DAY_KINDS[id]
        times = day.times(kind, model.day_kinds.usual(id))
        amounts[id] = times if kind.told_by is ToldBy.EVENTS else aboard * times
    return amounts


def day_influence(
    rig: Rig,
    store: Store,
    model: UseModel,
    day: Conditions,
    usual: SkyHabit,
    until_h: float = HOURS,
    days_ahead: int = 0,
) -> DayInfluence:
    """The day's drivers and measured totals of one store. Totals cover the hours before ``until_h``."""
    if store.is_bank:
        return bank_day(rig, store, model, day, usual, until_h, days_ahead)
    amounts = _driver_of_day(rig, model, day)
    columns = [store.sign * amounts[name] * (EVEN_SHAPE if name in _EVEN else WAKING_SHAPE) for name in model.drivers]
    hourly = np.stack(columns, axis=1)
    known = np.zeros(int(HOURS))
    known_sd = 0.0
    if day.water_l is not None and rig.first(Role.WATER) is store:
        past = hours_before(until_h)
        known = -over_hours(day.water_l, WAKING_SHAPE * past)
        known_sd = Readings.meter_cv * day.water_l
        hourly = hourly * (1 - past)[:, None]
    return DayInfluence(hourly=hourly, known=known, known_sd=known_sd)
