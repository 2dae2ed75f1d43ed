"""What a rig's parts make together, and where they do not fit: series and parallel, controllers, weight."""

from dataclasses import dataclass

from lodeline.core.catalogue import Caution
from lodeline.core.energy.bank import cells
from lodeline.core.energy.loads import listed_wh
from lodeline.core.figures import Energy
from lodeline.core.rig import Layout, Rig, Store


@dataclass(frozen=True, slots=True)
class Check:
    """One finding about a rig. ``place`` names the part; ``warns`` where something does not fit."""

    place: str

    @property
    def warns(self) -> bool:
        """Whether something does not fit."""
        return True


@dataclass(frozen=True, slots=True)
class BankHolds(Check):
    """What a bank holds, and what of it lies above its line. [Ah], [V]"""

    capacity_ah: float
    volts_v: float
    usable_ah: float

    @property
    def warns(self) -> bool:
        """It only says what is there."""
        return False


@dataclass(frozen=True, slots=True)
class LayoutMakes(Check):
    """What series and parallel make of a bank's units."""

    layout: Layout

    @property
    def warns(self) -> bool:
        """It only says what is there."""
        return False


@dataclass(frozen=True, slots=True)
class NeedsCaution(Check):
    """A caution that belongs to a part."""

    caution: Caution


@dataclass(frozen=True, slots=True)
class LowLine(Check):
    """A lead bank whose line lies under the level that keeps it. A share."""

    line: float


@dataclass(frozen=True, slots=True)
class ControllerSmall(Check):
    """An array that can push more than its controller takes. [W], [A]"""

    watts: float
    pushes_a: float
    takes_a: float


@dataclass(frozen=True, slots=True)
class ArrayOverBank(Check):
    """An array that can push more than such a bank takes. [W], [A]"""

    watts: float
    pushes_a: float
    takes_a: float


@dataclass(frozen=True, slots=True)
class ChargerOverBank(Check):
    """A charger that gives more than such a bank takes. [A]"""

    amps: float
    takes_a: float


@dataclass(frozen=True, slots=True)
class ChargerSmall(Check):
    """A charger that is little for so much lead. [A], [Ah]"""

    amps: float
    capacity_ah: float


@dataclass(frozen=True, slots=True)
class InverterDraws(Check):
    """What an inverter draws at full load. [A]"""

    amps: float

    @property
    def warns(self) -> bool:
        """It only says what is there."""
        return False


@dataclass(frozen=True, slots=True)
class InverterOverBank(Check):
    """An inverter that draws more than such a bank should give for long. [A]"""

    amps: float
    most_a: float


@dataclass(frozen=True, slots=True)
class LoadsDraw(Check):
    """What the listed loads draw. [Wh/day]"""

    listed_wh: float

    @property
    def warns(self) -> bool:
        """It only says what is there."""
        return False


@dataclass(frozen=True, slots=True)
class FullWeight(Check):
    """What the stores weigh with every tank full. [kg]"""

    total_kg: float

    @property
    def warns(self) -> bool:
        """It only says what is there."""
        return False


def rig_checks(rig: Rig) -> list[Check]:
    """Everything worth saying about how the rig fits together."""
    checks: list[Check] = [check for bank in rig.banks for check in _bank(bank)]
    checks += energy_checks(rig)
    if rig.banks:
        checks.append(LoadsDraw("loads", listed_wh(rig)))
    checks.append(FullWeight("weight", sum(store_kg(store) for store in rig.stores)))
    return checks


def _bank(store: Store) -> list[Check]:
    place, kind = f"stores.{store.id}", cells(store)
    checks: list[Check] = [BankHolds(place, store.capacity, store.volts, (1 - store.line) * store.capacity)]
    if store.layout is not None:
        checks.append(LayoutMakes(place, store.layout))
    if kind.no_charge_below_c is not None:
        checks.append(NeedsCaution(place, Caution.LFP_FROST))
    elif store.line < Energy.kept_above:
        checks.append(LowLine(place, store.line))
    return checks


def energy_checks(rig: Rig) -> list[Check]:
    """Where arrays, controllers, chargers, inverter and bank do not fit each other."""
    if not rig.banks:
        return []
    bank = rig.banks[0]
    return [*_controllers(rig, bank), *_chargers(rig, bank), *_inverter(rig, bank)]


def _takes_a(bank: Store) -> float:
    """The most charging current that a bank takes. [A]"""
    return cells(bank).accepts_c * bank.capacity


def _controllers(rig: Rig, bank: Store) -> list[Check]:
    checks: list[Check] = []
    takes, margin = _takes_a(bank), Energy.fits_margin
    for array in rig.solar:
        place = f"solar.{array.id}"
        pushes = array.watts / (bank.volts * Energy.charging_v)
        if array.controller_amps is not None and pushes > array.controller_amps * margin:
            checks.append(ControllerSmall(place, array.watts, pushes, array.controller_amps))
        if pushes > takes * margin:
            checks.append(ArrayOverBank(place, array.watts, pushes, takes))
    return checks


def _chargers(rig: Rig, bank: Store) -> list[Check]:
    checks: list[Check] = []
    takes = _takes_a(bank)
    for source in rig.sources:
        place = f"sources.{source.id}"
        if source.amps > takes * Energy.fits_margin:
            checks.append(ChargerOverBank(place, source.amps, takes))
        elif cells(bank).is_lead and source.amps < Energy.little_charge_c * bank.capacity:
            checks.append(ChargerSmall(place, source.amps, bank.capacity))
    return checks


def _inverter(rig: Rig, bank: Store) -> list[Check]:
    inverter = rig.inverter
    if inverter is None:
        return []
    amps = inverter.watts / inverter.efficiency / bank.volts
    most = cells(bank).most_draw_c * bank.capacity
    checks: list[Check] = [InverterDraws("inverter", amps)]
    if amps > most * Energy.fits_margin:
        checks.append(InverterOverBank("inverter", amps, most))
    return checks


def store_kg(store: Store) -> float:
    """Weight of a store's contents when it is full, the reserve with it. [kg]"""
    return (store.capacity + (store.reserve or 0.0)) * store.kg_per_unit
