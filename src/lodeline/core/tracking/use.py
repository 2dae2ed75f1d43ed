"""What drives a store's level, and what one would expect of it before a log exists.

A day's change of a store is a sum of drivers, each times a coefficient that the log teaches: people aboard,
cold, kilometres, the listed loads, the sun. The starting values stand on the sheet of use and in the kind's row.
"""

from dataclasses import dataclass
from typing import assert_never

import numpy as np

from lodeline.core.catalogue import DAY_KINDS, Driver, Pattern, Role, ToldBy
from lodeline.core.conditions import Conditions
from lodeline.core.energy.skies import SkyHabit
from lodeline.core.figures import Readings, Use
from lodeline.core.rig import Appliance, Rig, Store
from lodeline.core.statistics import Floats
from lodeline.core.tracking.bank_use import bank_day, bank_model
from lodeline.core.tracking.day_kinds import NO_DAY_KINDS, KnownDayKinds
from lodeline.core.tracking.influence import DayInfluence, hours_before, hours_between, over_hours
from lodeline.core.tracking.model import UseModel
from lodeline.core.tracking.water_use import fresh_model, grey_model, of_visits
from lodeline.core.water.habits import flush_tank, flushed_l
from lodeline.core.zone import HOURS

# Share of a day's use in each hour: people wash, cook and flush by day. Invented, mild.
_WAKING: Floats = np.array(
    [0.4] * 6 + [2.2, 3.4, 3.0] + [1.8] * 3 + [2.2, 2.2] + [1.6] * 4 + [2.6, 3.2, 2.8, 2.0, 1.4, 0.8]
)
WAKING_SHAPE: Floats = _WAKING / _WAKING.sum()
EVEN_SHAPE: Floats = np.full(int(HOURS), 1 / HOURS)
_EVEN = frozenset({Driver.DEGREE_DAYS, Driver.KM})


def _people(mean: float, cv: float, day_cv: float, shared: float = 0.0) -> UseModel:
    """A store whose use goes by the people aboard alone."""
    return UseModel(
        drivers=(Driver.PEOPLE,), mean=np.array([mean]), sd=np.array([mean * cv]), day_cv=np.array([day_cv]),
        shared=shared,
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class _Expected:
    """What is expected of one driver, and its error, in the store's unit."""

    mean: float
    sd: float


def _by_drivers(rig: Rig, store: Store) -> UseModel:
    """What the kind's own row expects, or what is said to burn from the store."""
    use, people = store.kind.use, rig.crew.adult_equivalents
    priors = {prior.driver: prior for prior in use.priors}
    expected = {}
    for driver, prior in priors.items():
        scale = people if driver is Driver.PEOPLE else 1.0
        expected[driver] = _Expected(prior.mean * scale, prior.sd * scale)
    whoever = priors[Driver.PEOPLE].whoever if Driver.PEOPLE in priors else 0.0
    if Driver.DEGREE_DAYS in priors and store.kind.contents:
        heat = _heat(rig, store)
        expected.pop(Driver.DEGREE_DAYS)
        expected |= {Driver.DEGREE_DAYS: heat} if heat else {}
    if burners := rig.burners(store):
        expected[Driver.PEOPLE], whoever = _burnt(rig, store, burners)
    drivers = tuple(sorted(expected, key=list(Driver).index))
    day_cv = [priors[each].day_cv if each in priors else Use.gas_day_cv for each in drivers]
    if store.kind.visit_cv:
        day_cv = [of_visits(each, store.kind.visit_cv, people) for each in day_cv]
    return UseModel(
        drivers=drivers, mean=np.array([expected[each].mean for each in drivers]),
        sd=np.array([expected[each].sd for each in drivers]), day_cv=np.array(day_cv), shared=use.shared,
        whoever=whoever, may_not_heat=_may_not_heat(rig, store),
    )  # fmt: skip


def _may_not_heat(rig: Rig, store: Store) -> bool:
    """Whether a tank of fuel is not the main one, and nobody said whether something heats from it."""
    is_fuel = store.kind.role is Role.VEHICLE_FUEL and not rig.burners(store)
    return is_fuel and rig.heats_from(store) is None and not _is_main_fuel(rig, store)


def _is_main_fuel(rig: Rig, store: Store) -> bool:
    runs_generator = store.generates or any(each.fuel_store == store.id for each in rig.sources)
    return rig.first(Role.VEHICLE_FUEL) is store and not runs_generator


def _heat(rig: Rig, store: Store) -> _Expected | None:
    """What a degree-day burns from a store; None where no heater does."""
    is_gas, heats = store.kind.role is Role.GAS, rig.heats_from(store)
    heaters = [each for each in rig.burners(store) if each.kind.by_cold]
    if heaters:
        each_kwh = store.kwh_per_unit
        mean = sum(each.kwh_per_day for each in heaters) / each_kwh
        return _Expected(mean, mean * max(each.kind.cv for each in heaters))
    if heats:
        return (
            _Expected(Use.gas_heats_kg, Use.gas_heats_sd) if is_gas else _Expected(Use.fuel_heats_l, Use.fuel_heats_sd)
        )
    # a can for the generator, or a second tank, may heat or not where nobody said
    is_main = is_gas or _is_main_fuel(rig, store)
    if heats is False:
        return None
    if is_gas:
        return _Expected(Use.gas_kg_per_degree_day, Use.gas_heat_sd)
    if not is_main:
        return _Expected(Use.fuel_heats_l, Use.fuel_heats_sd)
    return _Expected(Use.fuel_l_per_degree_day, Use.fuel_heat_sd)


def _burnt(rig: Rig, store: Store, burners: tuple[Appliance, ...]) -> tuple[_Expected, float]:
    """What appliances burn on a usual day, and the part of it that does not depend on who is aboard."""
    people = rig.crew.adult_equivalents / _USUAL_PEOPLE
    by_people = {each: each.kind.by_people and each.kw is None and each.hours_per_day is None for each in burners}
    daily = {
        each: each.kwh_per_day * (people if by_people[each] else 1.0) / store.kwh_per_unit
        for each in burners
        if not each.kind.by_cold
    }
    mean = sum(daily.values())
    if mean <= 0:
        return _Expected(_NEARLY_NOTHING, _NEARLY_NOTHING), 1.0
    sd = float(np.sqrt(sum((each.kind.cv * amount) ** 2 for each, amount in daily.items())))
    whoever = sum(amount for each, amount in daily.items() if not each.kind.by_people) / mean
    return _Expected(mean, sd), max(whoever, Use.gas_whoever)


# Kinds' usual hours are those of two people; and what is burnt where only a heater is aboard.
_USUAL_PEOPLE, _NEARLY_NOTHING = 2.0, 1e-3


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
        kind, usual = DAY_KINDS[id], model.day_kinds.usual_on(id, day.date.weekday())
        times = day.times(kind, usual)
        is_counted = kind.told_by is ToldBy.EVENTS and day.counts is not None
        amounts[id] = times if is_counted else aboard * times
    return amounts


def _course(day: Conditions, driver: str, amount: float) -> Floats:
    """A driver over the hours of a day: what was logged lies before it was logged, the rest as people wake and cook.

    Shape (24,).
    """
    if driver in _EVEN:
        return amount * EVEN_SHAPE
    times = [(hour, count) for kind, hour, count in day.moments if kind == driver]
    if not times:
        return amount * WAKING_SHAPE
    course = np.zeros(int(HOURS))
    for hour, count in times:
        # several at once were those since some hours ago, written down together
        span = hours_between(max(0.0, hour - Use.logged_back_h * count), max(hour, Use.logged_back_h))
        course += over_hours(count, WAKING_SHAPE * span)
    return course


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
    columns = [store.sign * _course(day, name, amounts[name]) for name in model.drivers]
    hourly = np.stack(columns, axis=1)
    known = np.zeros(int(HOURS))
    known_sd = 0.0
    if day.water_l is not None and rig.first(Role.WATER) is store:
        past = hours_before(until_h)
        known = -over_hours(day.water_l, WAKING_SHAPE * past)
        known_sd = Readings.meter_cv * day.water_l
        hourly = hourly * (1 - past)[:, None]
    return DayInfluence(hourly=hourly, known=known, known_sd=known_sd)
