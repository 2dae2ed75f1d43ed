"""What drives a store's level, and what one would expect of it before a log exists.

A day's change of a store is a sum of drivers, each times a coefficient that the log teaches: people aboard,
cold, kilometres, the listed loads, the sun. The starting values stand on the sheet of use and in the kind's row.
"""

from dataclasses import replace
from functools import cache
from typing import assert_never

import numpy as np

from lodeline.core.catalogue import DAY_KINDS, Driver, Pattern, Role, ToldBy
from lodeline.core.conditions import Conditions
from lodeline.core.energy.heat import fed_share, needed_as_expected, warmth
from lodeline.core.energy.skies import SkyHabit
from lodeline.core.figures import Readings, Use
from lodeline.core.habits import flush_tank, flushed_l
from lodeline.core.rig import Rig, Store
from lodeline.core.statistics import Floats
from lodeline.core.tracking.bank_use import bank_day, bank_model
from lodeline.core.tracking.burn_use import burn_model
from lodeline.core.tracking.day_kinds import NO_DAY_KINDS, KnownDayKinds
from lodeline.core.tracking.influence import DayInfluence, hours_before, hours_between, over_hours
from lodeline.core.tracking.model import UseModel
from lodeline.core.tracking.water_use import fresh_model, grey_model, of_visits
from lodeline.core.zone import HOURS

# Share of a day's use in each hour: people wash, cook and flush by day. Invented, mild.
_WAKING: Floats = np.array(
    [0.4] * 6 + [2.2, 3.4, 3.0] + [1.8] * 3 + [2.2, 2.2] + [1.6] * 4 + [2.6, 3.2, 2.8, 2.0, 1.4, 0.8]
)
WAKING_SHAPE: Floats = _WAKING / _WAKING.sum()
EVEN_SHAPE: Floats = np.full(int(HOURS), 1 / HOURS)
_EVEN = frozenset({Driver.KM, Driver.CHANGES_OVER, Driver.DEGREE_DAYS})


def _people(mean: float, cv: float, day_cv: float, shared: float = 0.0) -> UseModel:
    """A store whose use goes by the people aboard alone."""
    return UseModel(
        drivers=(Driver.PEOPLE,),
        mean=np.array([mean]),
        sd=np.array([mean * cv]),
        day_cv=np.array([day_cv]),
        shared=shared,
    )


def expected_use(rig: Rig, store: Store, kinds: KnownDayKinds = NO_DAY_KINDS) -> UseModel:
    """What crew, kind and rig lead one to expect, before the log is looked at."""
    use, people = store.kind.use, rig.crew.adult_equivalents
    match use.pattern:
        case Pattern.BANK:
            return bank_model(rig)
        case Pattern.WATER if store is flush_tank(rig):
            return _people(
                flushed_l(rig) * people, Use.cassette_cv, of_visits(Use.cassette_day_cv, Use.visit_cv, people)
            )
        case Pattern.WATER:
            return fresh_model(rig, store, kinds)
        case Pattern.DRAIN:
            return grey_model(rig, store, kinds)
        case Pattern.BY_DRIVERS:
            return burn_model(rig, store)
        case Pattern.OWN_RATE:
            if store.burns and rig.burners(store):
                return burn_model(rig, store)
            if store.is_counted_in_days:
                eaten = _people(1.0, Use.supply_days_cv, Use.supply_days_day_cv)
                return replace(eaten, needed=Use.supply_days_least)
            return _people(store.capacity / Use.supply_lasts_days, Use.supply_cv, Use.supply_day_cv)
        case _:
            assert_never(use.pattern)


def _driver_of_day(rig: Rig, store: Store, model: UseModel, day: Conditions) -> dict[str, float]:
    """How much there is of each of a model's drivers on a day; kilometres come from drives."""
    aboard = day.people / max(1, rig.crew.people)
    amounts: dict[str, float] = {
        Driver.PEOPLE: model.whoever + (1 - model.whoever) * aboard,
        Driver.KM: 0.0,
        Driver.DEGREE_DAYS: day.degree_days,
    }
    if Driver.CHANGES_OVER in model.drivers:
        changing = [each for each in rig.burners(store) if each.changes_over]
        amounts[Driver.CHANGES_OVER] = float(np.mean([fed_share(each, day) for each in changing]))
    for id in model.day_kinds.ids:
        kind, usual = DAY_KINDS[id], model.day_kinds.usual_on(id, day.date.weekday())
        times = day.times(kind, usual)
        if id in model.day_kinds.by_habit and not times:
            times = usual
        is_counted = kind.told_by is ToldBy.EVENTS and day.counts is not None
        amounts[id] = times if is_counted else aboard * times
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
    expected = _hourly(rig, store, model, day)
    if day.water_l is None or not rig.is_first(Role.WATER, store):
        return DayInfluence(hourly=expected, expected=expected, known=_NOTHING, known_sd=0.0)
    past = hours_before(until_h)
    return DayInfluence(
        hourly=expected * (1 - past)[:, None],
        expected=expected,
        known=-over_hours(day.water_l, WAKING_SHAPE * past),
        known_sd=Readings.meter_cv * day.water_l,
    )


_NOTHING = np.zeros(int(HOURS))


def _hourly(rig: Rig, store: Store, model: UseModel, day: Conditions) -> Floats:
    """A day's drivers, signed: people wash, cook and flush by day; what was logged lies before it was logged; heat
    comes as it is asked for, where the crew said how it lives. Shape (24, k)."""
    amounts = _driver_of_day(rig, store, model, day)
    hourly = store.sign * np.array([amounts[name] for name in model.drivers]) * _shapes(model.drivers)
    for at, name in enumerate(model.drivers):
        if name == Driver.DEGREE_DAYS and warmth(rig) is not None:
            hourly[:, at] = store.sign * needed_as_expected(rig, day).hourly
        elif times := [(hour, count) for kind, hour, count in day.moments if kind == name]:
            hourly[:, at] = store.sign * _logged_course(times)
    return hourly


@cache
def _shapes(drivers: tuple[str, ...]) -> Floats:
    """How each driver's day goes over its hours where nothing more is known. Shape (24, k)."""
    return np.stack([EVEN_SHAPE if name in _EVEN else WAKING_SHAPE for name in drivers], axis=1)


def _logged_course(times: list[tuple[float, float]]) -> Floats:
    """Several at once were those since some hours ago, written down together. Shape (24,)."""
    course = np.zeros(int(HOURS))
    for hour, count in times:
        span = hours_between(max(0.0, hour - Use.logged_back_h * count), max(hour, Use.logged_back_h))
        course += over_hours(count, WAKING_SHAPE * span)
    return course
