"""What terminal volts say of a bank: at rest a level, under a load a bound that the sag tells, on charge the stage.

Where nobody said which, all of them, each with its chance: by whether something may have been charging at that hour.
"""

import numpy as np

from lodeline.core.catalogue import Cells, VoltsState
from lodeline.core.energy import bank
from lodeline.core.figures import Readings, Use, Volts
from lodeline.core.rig import Store
from lodeline.core.statistics import Floats
from lodeline.core.tracking.belief import EVENLY, UNBIASED, Bands, Shape
from lodeline.core.values import dataclass

_EDGES = np.linspace(0.0, 1.0, Volts.cells + 1)
_MIDDLES = (_EDGES[1:] + _EDGES[:-1]) / 2
# The table's error is in each reading; how this rig's sag differs from the usual one in those under a load.
_LOADED: Shape = (1.0, 1.0, 0.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Around:
    """What else is known of the time of a reading: the chance that something was charging, whether something had been
    within hours, and whether the day had begun; ``l_per_km``: what a way burns, with its error."""

    charging: float = Volts.charging_unknown
    charged: bool = True
    early: bool = False
    l_per_km: tuple[float, float] = (Use.fuel_l_per_km, Use.fuel_km_sd)


@dataclass(frozen=True, slots=True)
class VoltsPart:
    """One meaning of a reading: ``bands`` of contents with the density of such volts in each, per volt and chance."""

    bands: Bands
    shape: Shape


def volts_parts(store: Store, volts_v: float, state: VoltsState | None, around: Around) -> tuple[VoltsPart, ...]:
    """The meanings that volts may have, with their likelihood by contents."""
    kind, per_block_v = bank.cells(store), volts_v / bank.blocks_of_12_v(store)
    rest, load, charge = _chances(state, around)
    surface = Volts.surface_chance if around.charged and kind.is_lead else 0.0
    ocv = _open_circuit(kind)
    sag, sag_sd = (Volts.sag_v, Volts.sag_sd_v) if kind.is_lead else (Volts.sag_lithium_v, Volts.sag_sd_v)
    rest_sd = Volts.rest_sd_v if kind.is_lead else Volts.rest_sd_lithium_v
    # at rest a bank shows no more than a full one does
    shown_v = min(per_block_v, float(ocv[-1])) if state is VoltsState.REST else per_block_v
    at_rest = (1 - surface) * _density(shown_v - ocv, rest_sd)
    at_rest += surface * _density(per_block_v - ocv - Volts.surface_v, Volts.surface_sd_v)
    # a lasting part of the sag is learned; a kettle is one now and then
    loaded = (1 - surface) * _density(per_block_v - ocv + sag, sag_sd)
    loaded += surface * _density(per_block_v - ocv + sag - Volts.surface_v, float(np.hypot(sag_sd, Volts.surface_sd_v)))
    # nobody says that a bank rests while a kettle boils
    heavy = 0.0 if state is VoltsState.REST else Volts.heavy_chance
    loaded *= 1 - heavy
    loaded += heavy * _density(per_block_v - ocv + Volts.heavy_v, Volts.heavy_sd_v)
    on_charge = _on_charge(kind, per_block_v)
    parts = ((rest, at_rest, _table_shape(kind, per_block_v)), (load, loaded, _LOADED), (charge, on_charge, UNBIASED))
    return tuple(VoltsPart(_bands(store, chance * weights), shape) for chance, weights, shape in parts if chance > 0)


def _chances(state: VoltsState | None, around: Around) -> tuple[float, float, float]:
    """Chance that a reading was made at rest, under a load, on charge."""
    match state:
        case VoltsState.REST:
            return 1 - Volts.not_at_rest, Volts.not_at_rest, 0.0
        case VoltsState.LOAD:
            return 0.0, 1.0, 0.0
        case VoltsState.CHARGE:
            return 0.0, 0.0, 1.0
    still = Volts.still_early if around.early else Volts.still
    return (1 - around.charging) * still, (1 - around.charging) * (1 - still), around.charging


def _open_circuit(kind: Cells) -> Floats:
    """Volts at rest in the middle of each band, for a 12 V block; beyond the table along its last rows."""
    soc, volts = (np.array([row[i] for row in kind.rest_v]) for i in (0, 1))
    under = volts[0] - (soc[0] - _MIDDLES) * (volts[1] - volts[0]) / (soc[1] - soc[0])
    inside: Floats = np.where(soc[0] > _MIDDLES, under, np.interp(_MIDDLES, soc, volts))
    return inside


def _table_shape(kind: Cells, per_block_v: float) -> Shape:
    """How much of the lasting error of a table is in what it says: of lead all of it; of lithium, whose tables differ
    by some hundredths of a volt, much where the curve is flat and hardly any where it is steep."""
    if kind.is_lead:
        return EVENLY
    soc, volts = (np.array([row[i] for row in kind.rest_v]) for i in (0, 1))
    at = min(max(int(np.searchsorted(volts, per_block_v)), 1), len(volts) - 1)
    steepness = float((soc[at] - soc[at - 1]) / (volts[at] - volts[at - 1]))
    return min(1.0, steepness * Volts.table_lithium_v / Volts.table_sd), 0.0, 0.0


def _density(miss_v: Floats, sd_v: float) -> Floats:
    """Student's t with few degrees of freedom: tables, meters and loads differ by more than a normal would have."""
    freedom = Volts.freedom
    scaled: Floats = (1 + np.square(miss_v / sd_v) / freedom) ** (-(freedom + 1) / 2)
    return scaled * (Volts.t_height / sd_v)


def _on_charge(kind: Cells, per_block_v: float) -> Floats:
    """Likelihood of volts on charge: low ones mean far from full, float or absorption near full more likely."""
    low, high = kind.charging_above_v, kind.absorption_v[0] - Volts.absorption_from_v
    if per_block_v >= high:
        shares = Volts.at_absorption
    elif per_block_v >= kind.float_v[0]:
        shares = Volts.at_float
    else:
        shares = Volts.under_float
    rising: Floats = np.interp(_MIDDLES, Volts.charged_to, shares)
    is_charge = 1.0 if per_block_v > low - Volts.charges_under_v else Volts.charge_unlikely
    return rising * is_charge / (kind.absorption_v[1] - low + 1.0)


def _bands(store: Store, weights: Floats) -> Bands:
    # biases may shift what is seen beyond the ends
    beyond = Readings.beyond_ends * store.capacity
    low, high = _EDGES[:-1] * store.capacity, _EDGES[1:] * store.capacity
    low[0], high[-1] = -beyond, store.capacity + beyond
    return tuple(zip(low.tolist(), high.tolist(), weights.tolist(), strict=True))
