"""What a battery's chemistry says: volts, Peukert's law, cold, what it takes and how fast it fills."""

from dataclasses import dataclass

import numpy as np

from lodeline.core.energy.figures import CELLS, Cells, figure
from lodeline.core.energy.solar import air_c
from lodeline.core.energy.sun import Floats
from lodeline.core.rig import Chemistry, Store


@dataclass(frozen=True, slots=True)
class VoltsMeaning:
    """What terminal volts say. ``soc`` is None when they say nothing about the state of charge."""

    soc: float | None
    sd: float
    words: str


def chemistry(store: Store) -> Chemistry:
    """The store's chemistry; AGM where it is not known."""
    return store.chemistry or Chemistry.AGM


def cells(store: Store) -> Cells:
    """The figures of the store's chemistry."""
    return CELLS[chemistry(store)]


def charge_efficiency(store: Store) -> float:
    """Energy out over energy in."""
    return cells(store).charge_efficiency


def blocks_of_12_v(store: Store) -> float:
    """How many 12 V blocks in series the bank's nominal volts make (12.8 V counts as one)."""
    return max(1, round(store.volts / 12.4))


def rest_volts(store: Store, soc: float) -> float:
    """Terminal volts at rest at a state of charge. [V]"""
    rows = cells(store).rest_v
    return float(np.interp(soc, [row[0] for row in rows], [row[1] for row in rows])) * blocks_of_12_v(store)


def state_of_charge(store: Store, volts_v: float, state: str | None = None) -> VoltsMeaning:
    """State of charge from terminal volts.

    At rest the table of the chemistry is read, linear between rows. Volts under load or on charge say nothing of
    the level. Where the state is not told, volts above any at rest mean a charger.
    """
    kind = cells(store)
    per_block_v = volts_v / blocks_of_12_v(store)
    if state == "charge" or (state is None and per_block_v > kind.charging_above_v):
        return VoltsMeaning(None, 1.0, "being charged: says nothing about the level")
    if state == "load":
        return VoltsMeaning(None, 1.0, "under load: the volts sag and say nothing about the level")
    soc = float(np.interp(per_block_v, [row[1] for row in kind.rest_v], [row[0] for row in kind.rest_v]))
    sd = kind.flat_sd if kind.flat[0] <= soc <= kind.flat[1] and kind.flat[1] > 0 else kind.rest_sd
    if state is None:
        return VoltsMeaning(soc, 1.5 * sd, "taken as at rest, an hour or more with no charge or load")
    return VoltsMeaning(soc, sd, "at rest")


def volts_sentence(store: Store, volts_v: float, state: str | None = None) -> str:
    """What terminal volts mean for this bank, in a sentence of plain words."""
    kind, blocks = cells(store), blocks_of_12_v(store)
    per_block_v = volts_v / blocks
    meaning = state_of_charge(store, volts_v, state)
    if meaning.soc is None and state != "load":
        return f"{volts_v:g} V means being charged: {_stage(kind, per_block_v)}; it says nothing about the level."
    if state == "load":
        return (
            f"{volts_v:g} V under load is sagging and says nothing about the level; "
            "read it again after an hour with nothing running."
        )
    soc = meaning.soc or 0.0
    low, high = max(0.0, soc - meaning.sd), min(1.0, soc + meaning.sd)
    span = f"{volts_v:g} V at rest means about {low * 100:.0f} to {high * 100:.0f} %"
    if kind.flat[1] > 0 and kind.flat[0] <= soc <= kind.flat[1]:
        return f"{span}: these cells stand near the same volts over most of their range, so a shunt tells far more."
    if state is None:
        loaded = rest_volts(store, min(1.0, soc + 0.25))
        return f"{span}, if nothing has run or charged for an hour; under a load, {loaded:.1f} V of rest sag to this."
    return f"{span}."


def _stage(kind: Cells, per_block_v: float) -> str:
    if per_block_v > kind.absorption_v[1] + 0.15:
        return "higher than a charger should hold for these cells, unless it is equalising"
    if per_block_v >= kind.absorption_v[0] - 0.05:
        return "the charger holds its absorption volts and the current falls as the bank fills"
    if kind.float_v[0] <= per_block_v <= kind.float_v[1]:
        return "float volts, or the current is still small for the bank"
    return "bulk, the bank takes what the charger gives"


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
    """The bank's temperature in each clock hour. Shape (24,). [degC]

    It follows the air's mean with a part of its swing, two hours late; kept warm, it stays above a floor.
    """
    swing = np.roll(air_c(mean_c, min_c) - mean_c, 2) * figure("bank_swing")
    warm: Floats = mean_c + swing
    return np.maximum(warm, figure("kept_warm_c")) if store.kept_warm else warm


def takes_charge(store: Store, mean_c: float, min_c: float) -> Floats:
    """1 in clock hours in which the bank may be charged, 0 where it is too cold for its chemistry. Shape (24,)."""
    floor = cells(store).no_charge_below_c
    if floor is None or store.kept_warm or mean_c - figure("bank_swing") * (mean_c - min_c) >= floor:
        return np.ones(24)
    allowed: Floats = (bank_c(store, mean_c, min_c) >= floor).astype(float)
    return allowed


def days_of_autonomy(usable_wh: float, load_wh_per_day: float) -> float:
    """Days without any sun: usable capacity over daily load (as IEEE 1013 and 1562 use the term). [day]"""
    return usable_wh / load_wh_per_day if load_wh_per_day > 0 else float("inf")


def rating_ah(amount: float, unit: str, nominal_v: float, cell_v: float | None = None) -> float:
    """A rating as amp-hours at the bank's nominal volts. [Ah]

    Wh are divided by the nominal volts; mAh and Ah sold at cell volts (power banks, 3.6 to 3.7 V) go through Wh.

    Raises
    ------
    ValueError
        A unit other than Ah, mAh, Wh, kWh.
    """
    at_v = cell_v or nominal_v
    to_wh = {"Ah": at_v, "mAh": at_v / 1000.0, "Wh": 1.0, "kWh": 1000.0}
    if unit not in to_wh:
        raise ValueError(f"no rating in {unit}")
    return amount * to_wh[unit] / nominal_v
