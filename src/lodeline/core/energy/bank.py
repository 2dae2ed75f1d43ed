"""What a battery's chemistry says: volts, Peukert's law, cold, what it takes and how fast it fills."""

from enum import StrEnum

import numpy as np

from lodeline.core.catalogue import CELLS, Cells, Chemistry, VoltsState
from lodeline.core.energy.air import air_c
from lodeline.core.figures import Energy, Readings
from lodeline.core.rig import Store
from lodeline.core.statistics import Floats
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS

WH_PER_KWH = MAH_PER_AH = 1000.0  # a thousand, by their names


class VoltsSay(StrEnum):
    """How terminal volts are taken."""

    AT_REST = "at-rest"
    TAKEN_AS_REST = "taken-as-rest"
    UNDER_LOAD = "under-load"
    CHARGING = "charging"


class ChargeStage(StrEnum):
    """What a charger seems to be doing."""

    BULK = "bulk"
    FLOAT = "float"
    ABSORPTION = "absorption"
    EQUALISING = "equalising"


@dataclass(frozen=True, slots=True, kw_only=True)
class VoltsMeaning:
    """What terminal volts say.

    ``soc`` with its error ``sd`` is None on charge; under a load it is a lower bound. ``stage``: of a charge;
    ``is_flat``: these cells stand near the same volts over most of their range; ``rest_v_if_loaded``: the volts at rest
    that a usual load would make look like these. [V]
    """

    volts_v: float
    says: VoltsSay
    soc: float | None = None
    sd: float = 1.0
    stage: ChargeStage | None = None
    is_flat: bool = False
    rest_v_if_loaded: float | None = None


def chemistry(store: Store) -> Chemistry:
    """The store's chemistry; AGM where it is not known."""
    return store.chemistry or Chemistry.AGM


def cells(store: Store) -> Cells:
    """The figures of the store's chemistry."""
    return CELLS[chemistry(store)]


def charge_efficiency(store: Store) -> float:
    """Energy out over energy in."""
    return cells(store).charge_efficiency


def amps_as_wh(store: Store) -> float:
    """What an amp-hour from a charger is as energy at nominal volts before the charge efficiency. [Ah/Ah]

    Amp-hours pay the coulombic efficiency alone; a charger's volts lie over the nominal ones by the rest.
    """
    kind = cells(store)
    return kind.coulombic / kind.charge_efficiency


def blocks_of_12_v(store: Store) -> float:
    """How many 12 V blocks in series the bank's cells make: half a one at 6 V, two thirds at 8 V. 12.8 V is one."""
    kind = cells(store)
    return max(1, round(store.volts / kind.cell_v)) / kind.cells_a_block


def charging_volts(store: Store) -> float:
    """What the bank's terminals stand at while a controller charges it: between float and absorption. [V]"""
    kind = cells(store)
    return (kind.float_v[1] + kind.absorption_v[0]) / 2 * blocks_of_12_v(store)


def rest_volts(store: Store, soc: float) -> float:
    """Terminal volts at rest at a state of charge. [V]"""
    rows = cells(store).rest_v
    return float(np.interp(soc, [row[0] for row in rows], [row[1] for row in rows])) * blocks_of_12_v(store)


def state_of_charge(store: Store, volts_v: float, state: VoltsState | None = None) -> VoltsMeaning:
    """State of charge from terminal volts.

    At rest the table of the chemistry is read, linear between rows. Under a load that is a lower bound, as at rest the
    bank would stand higher; on charge volts tell the stage. Where the state is not told, volts above any at rest mean
    a charger.
    """
    kind = cells(store)
    per_block_v = volts_v / blocks_of_12_v(store)
    if state is VoltsState.CHARGE or (state is None and per_block_v > kind.charging_above_v):
        return VoltsMeaning(volts_v=volts_v, says=VoltsSay.CHARGING, stage=_stage(kind, per_block_v))
    soc = float(np.interp(per_block_v, [row[1] for row in kind.rest_v], [row[0] for row in kind.rest_v]))
    is_flat = kind.flat is not None and kind.flat[0] <= soc <= kind.flat[1]
    if state is VoltsState.LOAD:
        return VoltsMeaning(volts_v=volts_v, says=VoltsSay.UNDER_LOAD, soc=soc, is_flat=is_flat)
    sd = kind.flat_sd if is_flat else kind.top_sd if kind.flat is not None and soc > kind.flat[1] else kind.rest_sd
    if state is VoltsState.REST:
        return VoltsMeaning(volts_v=volts_v, says=VoltsSay.AT_REST, soc=soc, sd=sd, is_flat=is_flat)
    return VoltsMeaning(
        volts_v=volts_v,
        says=VoltsSay.TAKEN_AS_REST,
        soc=soc,
        sd=Readings.unstated_volts_factor * sd,
        is_flat=is_flat,
        rest_v_if_loaded=rest_volts(store, min(1.0, soc + Energy.sag_shown)),
    )


def _stage(kind: Cells, per_block_v: float) -> ChargeStage:
    if per_block_v > kind.absorption_v[1] + Energy.equalising_v:
        return ChargeStage.EQUALISING
    if per_block_v >= kind.absorption_v[0] - Energy.absorption_from_v:
        return ChargeStage.ABSORPTION
    if kind.float_v[0] <= per_block_v <= kind.float_v[1]:
        return ChargeStage.FLOAT
    return ChargeStage.BULK


def peukert_hours(capacity_ah: float, rated_h: float, exponent: float, current_a: float) -> float:
    """Hours to empty at a steady current: t = H (C / (I H))^k (Peukert 1897, as in battery handbooks). [h]"""
    return float(rated_h * (capacity_ah / (current_a * rated_h)) ** exponent)


def peukert_ah(store: Store, current_a: float, hours: float) -> float:
    """What a steady draw costs in amp-hours at the rated current: more than I t above the rated current. [Ah]"""
    kind = cells(store)
    if current_a <= store.capacity / kind.rated_h:
        return current_a * hours
    return store.capacity * hours / peukert_hours(store.capacity, kind.rated_h, kind.peukert, current_a)


def cold_share(store: Store, bank_c: float) -> float:
    """Share of the capacity that the bank gives at a temperature, linear between the rows of its chemistry."""
    rows = cells(store).cold
    return float(np.interp(bank_c, [row[0] for row in rows], [row[1] for row in rows]))


def bank_c(store: Store, mean_c: float, min_c: float) -> Floats:
    """The bank's temperature in each day hour. Shape (24,). [degC]

    It follows the air's mean with a part of its swing, some hours late; kept warm, it stays above a floor; where nobody
    said, half way between.
    """
    swing = np.roll(air_c(mean_c, min_c) - mean_c, Energy.bank_lag_h) * Energy.bank_swing
    outside: Floats = mean_c + swing
    inside = np.maximum(outside, Energy.kept_warm_c)
    if store.kept_warm is None:
        return (outside + inside) / 2
    return inside if store.kept_warm else outside


def takes_charge(store: Store, mean_c: float, min_c: float) -> Floats:
    """Chance that the cells may be charged in each day hour: 0 where it is too cold for them. Shape (24,).

    Mains, sun and engine carry the loads all the same. Where nobody said whether the bank is kept warm, one in two are.
    """
    floor = cells(store).no_charge_below_c
    if floor is None or store.kept_warm or mean_c - Energy.bank_swing * (mean_c - min_c) >= floor:
        return np.ones(int(HOURS))
    swing = np.roll(air_c(mean_c, min_c) - mean_c, Energy.bank_lag_h) * Energy.bank_swing
    cold = mean_c + swing < floor
    return np.where(cold, Energy.unsaid_warm if store.kept_warm is None else 0.0, 1.0)


def days_of_autonomy(usable_wh: float, load_wh_per_day: float) -> float:
    """Days without any sun: usable capacity over daily load (as IEEE 1013 and 1562 use the term). [day]"""
    return usable_wh / load_wh_per_day if load_wh_per_day > 0 else float("inf")


class RatingUnit(StrEnum):
    """What ratings are printed in."""

    WH = "Wh"
    KWH = "kWh"
    MAH = "mAh"
    AH = "Ah"


def rating_ah(amount: float, unit: RatingUnit, nominal_v: float, cell_v: float | None = None) -> float:
    """A rating as amp-hours at the bank's nominal volts. [Ah]

    Wh are divided by the nominal volts; mAh and Ah sold at cell volts (power banks, 3.6 to 3.7 V) go through Wh.
    """
    at_v = cell_v or nominal_v
    match unit:
        case RatingUnit.WH:
            wh = amount
        case RatingUnit.KWH:
            wh = amount * WH_PER_KWH
        case RatingUnit.AH:
            wh = amount * at_v
        case RatingUnit.MAH:
            wh = amount * at_v / MAH_PER_AH
    return wh / nominal_v
