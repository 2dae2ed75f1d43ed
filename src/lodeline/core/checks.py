"""What a rig's parts make together, and where they do not fit: series and parallel, controllers, weight."""

from lodeline.core.catalogue import Caution
from lodeline.core.energy.bank import cells, charging_volts
from lodeline.core.energy.loads import counted_loads, listed_wh
from lodeline.core.figures import Energy
from lodeline.core.rig import Layout, Rig, Store
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class _Finding:
    """One finding about a rig; ``place`` names the part."""

    place: str


class _Says(_Finding):
    """A finding that says what is there."""

    __slots__ = ()
    warns = False


class _Warns(_Finding):
    """A finding of something that does not fit."""

    __slots__ = ()
    warns = True


@dataclass(frozen=True, slots=True, kw_only=True)
class BankHolds(_Says):
    """What a bank holds, and what of it lies above its line. [Ah], [V]"""

    capacity_ah: float
    volts_v: float
    usable_ah: float


@dataclass(frozen=True, slots=True, kw_only=True)
class LayoutMakes(_Says):
    """What series and parallel make of a bank's units."""

    layout: Layout


@dataclass(frozen=True, slots=True, kw_only=True)
class NeedsCaution(_Warns):
    """A caution that belongs to a part."""

    caution: Caution


@dataclass(frozen=True, slots=True, kw_only=True)
class LowLine(_Warns):
    """A lead bank whose line lies under the level that keeps it. A share."""

    line: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ControllerSmall(_Warns):
    """An array that can push more than its controller takes. [W], [A]"""

    watts: float
    pushes_a: float
    takes_a: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ArrayOverBank(_Warns):
    """An array that can push more than such a bank takes. [W], [A]"""

    watts: float
    pushes_a: float
    takes_a: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ChargerOverBank(_Warns):
    """A charger that gives more than such a bank takes. [A]"""

    amps: float
    takes_a: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ChargerSmall(_Warns):
    """A charger that is little for so much lead. [A], [Ah]"""

    amps: float
    capacity_ah: float


@dataclass(frozen=True, slots=True, kw_only=True)
class InverterDraws(_Says):
    """What an inverter draws at full load. [A]"""

    amps: float


@dataclass(frozen=True, slots=True, kw_only=True)
class InverterOverBank(_Warns):
    """An inverter that draws more than such a bank should give for long. [A]"""

    amps: float
    most_a: float


@dataclass(frozen=True, slots=True, kw_only=True)
class LoadsDraw(_Says):
    """What the listed loads draw. [Wh/day]"""

    listed_wh: float


@dataclass(frozen=True, slots=True, kw_only=True)
class TankFills(_Warns):
    """A fixed tank that is said to hold more than four fifths of its volume. [L], [kg]"""

    tank_l: float
    filled_kg: float


@dataclass(frozen=True, slots=True, kw_only=True)
class FanByCold(_Says):
    """Loads that are not counted, because a heater says what it draws."""

    names: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class FullWeight(_Says):
    """What the stores weigh with every tank full. [kg]"""

    total_kg: float


Check = (
    BankHolds
    | LayoutMakes
    | NeedsCaution
    | LowLine
    | ControllerSmall
    | ArrayOverBank
    | ChargerOverBank
    | ChargerSmall
    | InverterDraws
    | InverterOverBank
    | LoadsDraw
    | FanByCold
    | TankFills
    | FullWeight
)


# Capacities are given in round numbers.
_ROUNDED = 1.03


def rig_checks(rig: Rig) -> list[Check]:
    """Everything worth saying about how the rig fits together."""
    checks: list[Check] = [check for bank in rig.banks for check in _bank(bank)]
    checks += energy_checks(rig)
    if rig.banks:
        checks.append(LoadsDraw(place="loads", listed_wh=listed_wh(rig)))
        counted = counted_loads(rig)
        if uncounted := tuple(load.name for load in rig.loads if load not in counted):
            checks.append(FanByCold(place="loads", names=uncounted))
    checks += [
        TankFills(place=f"stores.{store.id}", tank_l=store.tank_l, filled_kg=store.filled_kg)
        for store in rig.stores
        if store.tank_l is not None and store.capacity > _ROUNDED * store.filled_kg
    ]
    checks.append(FullWeight(place="weight", total_kg=sum(store_kg(store) for store in rig.stores)))
    return checks


def _bank(store: Store) -> list[Check]:
    place, kind = f"stores.{store.id}", cells(store)
    checks: list[Check] = [
        BankHolds(
            place=place, capacity_ah=store.capacity, volts_v=store.volts, usable_ah=(1 - store.line) * store.capacity
        )
    ]
    if store.layout is not None:
        checks.append(LayoutMakes(place=place, layout=store.layout))
    if kind.no_charge_below_c is not None:
        checks.append(NeedsCaution(place=place, caution=Caution.LFP_FROST))
    elif store.line < Energy.kept_above:
        checks.append(LowLine(place=place, line=store.line))
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
        pushes = array.watts / charging_volts(bank)
        if array.controller_amps is not None and pushes > array.controller_amps * margin:
            checks.append(
                ControllerSmall(place=place, watts=array.watts, pushes_a=pushes, takes_a=array.controller_amps)
            )
        if pushes > takes * margin:
            checks.append(ArrayOverBank(place=place, watts=array.watts, pushes_a=pushes, takes_a=takes))
    return checks


def _chargers(rig: Rig, bank: Store) -> list[Check]:
    checks: list[Check] = []
    takes = _takes_a(bank)
    for source in rig.sources:
        place = f"sources.{source.id}"
        if source.amps > takes * Energy.fits_margin:
            checks.append(ChargerOverBank(place=place, amps=source.amps, takes_a=takes))
        elif cells(bank).is_lead and source.amps < Energy.little_charge_c * bank.capacity:
            checks.append(ChargerSmall(place=place, amps=source.amps, capacity_ah=bank.capacity))
    return checks


def _inverter(rig: Rig, bank: Store) -> list[Check]:
    inverter = rig.inverter
    if inverter is None:
        return []
    amps = inverter.watts / inverter.efficiency / bank.volts
    most = cells(bank).most_draw_c * bank.capacity
    checks: list[Check] = [InverterDraws(place="inverter", amps=amps)]
    if amps > most * Energy.fits_margin:
        checks.append(InverterOverBank(place="inverter", amps=amps, most_a=most))
    return checks


def store_kg(store: Store) -> float:
    """Weight of a store's contents when it is full, the reserve with it. [kg]"""
    return (store.capacity + (store.reserve or 0.0)) * store.kg_per_unit
