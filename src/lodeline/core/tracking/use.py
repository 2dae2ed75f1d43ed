"""What drives a store's level, and what one would expect of it before a log exists.

A day's change of a store is a sum of drivers, each times a coefficient that the log teaches: people aboard,
cold, kilometres, the listed loads, the sun. The starting values stand on the sheet of use and in the kind's row.
"""

from dataclasses import dataclass, replace
from typing import assert_never

import numpy as np

from lodeline.core.catalogue import DAY_KINDS, DayKind, Driver, Pattern, Role, Toilet, ToldBy
from lodeline.core.conditions import Conditions
from lodeline.core.energy.skies import SkyHabit
from lodeline.core.figures import Readings, Use
from lodeline.core.rig import Appliance, Rig, Store
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


def _of_visits(day_cv: float, each_cv: float, people: float) -> float:
    """Spread of days made of visits: what a day has in common, and each person's own, which averages out."""
    return float(np.hypot(day_cv, each_cv / np.sqrt(max(people, 1.0))))


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


def flushed_l(rig: Rig) -> float:
    """What an adult flushes, where a toilet with water is aboard. [L/day]"""
    if rig.first(Role.FLUSHED) is not None:
        return Use.flushed_l
    has_cassette = any(store.kind.toilet is Toilet.CASSETTE for store in rig.stores)
    return Use.cassette_flushed_l if has_cassette else 0.0


def flush_tank(rig: Rig) -> Store | None:
    """The tank that a toilet is flushed from, where that is not the fresh tank: a small second one."""
    small = [s for s in rig.stores if s.kind.role is Role.WATER and s.capacity <= Use.flush_tank_l]
    apart = [each for each in small if each is not rig.first(Role.WATER)]
    return apart[0] if apart and flushed_l(rig) else None


def _fresh_per_day(rig: Rig) -> float:
    """Expected use of fresh water. [L/day]"""
    fresh, people = rig.first(Role.WATER), rig.crew.adult_equivalents
    flushed = 0.0 if flush_tank(rig) else flushed_l(rig) * people
    expected = Use.fresh_l * people + Use.fresh_pet_l * rig.crew.pets + flushed
    return _careful(expected, fresh.capacity) if fresh else expected


def grey_from_fresh(rig: Rig, water_l_per_day: float) -> float:
    """Grey water from fresh water used, less what is drunk and flushed. [L/day]"""
    flushed = 0.0 if flush_tank(rig) else flushed_l(rig)
    apart = (Use.drunk_l + flushed) * rig.crew.adult_equivalents
    return Use.grey_share * max(Use.grey_least_share * water_l_per_day, water_l_per_day - apart)


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
        day_cv = [_of_visits(each, store.kind.visit_cv, people) for each in day_cv]
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
                flushed_l(rig) * people, Use.cassette_cv, _of_visits(Use.cassette_day_cv, Use.visit_cv, people)
            )
        case Pattern.WATER:
            plain = _people(
                _fresh_per_day(rig), Use.fresh_cv, _of_visits(Use.fresh_day_cv, Use.wash_cv, people), use.shared
            )
            return _told_apart(plain, kinds, 1.0)
        case Pattern.DRAIN:
            flow = grey_from_fresh(rig, _fresh_per_day(rig))
            plain = _people(flow, Use.grey_cv, _of_visits(Use.grey_day_cv, Use.wash_cv, people), use.shared)
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
