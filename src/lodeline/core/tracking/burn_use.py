"""What is expected of a store that is burnt from, or used by the people aboard, before the log says."""

import numpy as np

from lodeline.core.catalogue import APPLIANCE_KINDS, Driver, Role
from lodeline.core.energy.heat import is_by_hours, per_degree_day, warmth
from lodeline.core.figures import Heat, Use
from lodeline.core.rig import Appliance, Rig, Store
from lodeline.core.tracking.model import UseModel
from lodeline.core.tracking.water_use import of_visits
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True)
class _Expected:
    """What is expected of one driver, and its error, in the store's unit."""

    mean: float
    sd: float


def burn_model(rig: Rig, store: Store) -> UseModel:
    """What the kind's own row expects, or what is said to burn from the store."""
    use, people = store.kind.use, rig.crew.adult_equivalents
    priors = {prior.driver: prior for prior in use.priors}
    expected = {}
    for driver, prior in priors.items():
        scale = people if driver is Driver.PEOPLE else 1.0
        expected[driver] = _Expected(prior.mean * scale, prior.sd * scale)
    whoever = priors[Driver.PEOPLE].whoever if Driver.PEOPLE in priors else 0.0
    if store.burns:
        heat = _heat(rig, store)
        expected.pop(Driver.DEGREE_DAYS, None)
        expected |= {Driver.DEGREE_DAYS: heat} if heat else {}
    if burners := rig.burners(store):
        steady = [each for each in burners if not (each.changes_over or each.kind.by_cold)]
        expected[Driver.PEOPLE], whoever = _burnt(rig, store, tuple(steady))
        changing = [each for each in burners if each.changes_over]
        if changing:
            expected[Driver.CHANGES_OVER], _ = _burnt(rig, store, tuple(changing))
    drivers = tuple(sorted(expected, key=list(Driver).index))
    day_cv = [priors[each].day_cv if each in priors else Use.gas_day_cv for each in drivers]
    by_balance = warmth(rig) is not None and bool(rig.heats_from(store))
    if by_balance and Driver.DEGREE_DAYS in drivers:
        day_cv[drivers.index(Driver.DEGREE_DAYS)] = Heat.day_cv
    # a rig's loss hardly wanders; how a crew lives does
    is_loss = [by_balance and each is Driver.DEGREE_DAYS for each in drivers]
    drift = np.where(is_loss, Heat.drift, Use.drift) if any(is_loss) else Use.drift
    if store.kind.visit_cv:
        day_cv = [of_visits(each, store.kind.visit_cv, people) for each in day_cv]
    return UseModel(
        drivers=drivers,
        mean=np.array([expected[each].mean for each in drivers]),
        sd=np.array([expected[each].sd for each in drivers]),
        day_cv=np.array(day_cv),
        shared=use.shared,
        whoever=whoever,
        drift=drift,
        may_not_heat=_may_not_heat(rig, store),
    )


def _may_not_heat(rig: Rig, store: Store) -> bool:
    """Whether a tank of fuel is not the main one, and nobody said whether something heats from it."""
    is_fuel = store.kind.role is Role.VEHICLE_FUEL and not rig.burners(store)
    return is_fuel and rig.heats_from(store) is None and not _is_main_fuel(rig, store)


def _is_main_fuel(rig: Rig, store: Store) -> bool:
    runs_generator = store.generates or any(each.fuel_store == store.id for each in rig.sources)
    return rig.is_first(Role.VEHICLE_FUEL, store) and not runs_generator


def _heat(rig: Rig, store: Store) -> _Expected | None:
    """What a degree-day burns from a store; None where no heater does."""
    is_gas, heats = store.kind.role is Role.GAS, rig.heats_from(store)
    heaters, gear = [each for each in rig.burners(store) if each.kind.by_cold], warmth(rig)
    if heaters and gear is not None:
        mean = sum(per_degree_day(rig, each, store.kwh_per_unit) for each in heaters)
        # where another heater may do the work instead, nobody knows how they share it
        shared = _MAY_SHARE if len(rig.heaters) > len(heaters) else 0.0
        return _Expected(mean, mean * float(np.sqrt(_loss_cv(rig) ** 2 + Heat.efficiency_cv**2 + shared**2)))
    if not store.kind.contents:
        return None
    if heats and gear is not None:
        # some heater, of which nobody said more: who does not list it does not have it on all day
        usual = Appliance(store.id, "", APPLIANCE_KINDS["heater"], store.id)
        mean = Heat.unlisted_on * per_degree_day(rig, usual, store.kwh_per_unit)
        return _Expected(mean, mean * float(np.hypot(_loss_cv(rig), Heat.unlisted_on_cv)))
    # a can for the generator, or a second tank, may heat or not where nobody said
    is_main = is_gas or _is_main_fuel(rig, store)
    if heats is False:
        return None
    if is_gas:
        return _Expected(Use.gas_kg_per_degree_day, Use.gas_heat_sd)
    if not is_main:
        return _Expected(Use.fuel_heats_l, Use.fuel_heats_sd)
    return _Expected(Use.fuel_l_per_degree_day, Use.fuel_heat_sd)


def _loss_cv(rig: Rig) -> float:
    """Error of a rig's loss, by how much of it is known."""
    if rig.heat is None:
        return Heat.ua_hours_cv if is_by_hours(rig) else Heat.ua_assumed_cv
    return Heat.ua_cv if rig.heat.ua_w_per_k is None else Heat.ua_said_cv


def _burnt(rig: Rig, store: Store, burners: tuple[Appliance, ...]) -> tuple[_Expected, float]:
    """What appliances burn on a usual day, and the part of it that does not depend on who is aboard."""
    daily = {each: rig.kwh_per_day(each) / store.kwh_per_unit for each in burners if not each.kind.by_cold}
    mean = sum(daily.values())
    if mean <= 0:
        return _Expected(_NEARLY_NOTHING, _NEARLY_NOTHING), 1.0
    sd = float(np.sqrt(sum((each.kind.cv * amount) ** 2 for each, amount in daily.items())))
    whoever = sum(amount for each, amount in daily.items() if not each.kind.by_people) / mean
    return _Expected(mean, sd), max(whoever, Use.gas_whoever)


# What is burnt where only a heater is aboard.
_NEARLY_NOTHING = 1e-3
_MAY_SHARE = 0.5
