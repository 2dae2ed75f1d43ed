"""What a reading says about the contents, and how well."""

from dataclasses import dataclass

import numpy as np

from lodeline.core.catalogue import GAUGES, GaugeKind, Method
from lodeline.core.energy import bank
from lodeline.core.figures import Readings
from lodeline.core.log import Reading
from lodeline.core.rig import Store
from lodeline.core.statistics import uniform_sd
from lodeline.core.tracking.belief import Bands


@dataclass(frozen=True, slots=True, kw_only=True)
class GaugeError:
    """A gauge's own error and its lasting bias, as shares of capacity.

    ``bias_walk`` is how far the bias may wander in a day; ``drift_sd``: the error of what a day adds to it (a shunt
    drifts one way until the next full charge).
    """

    sd: float
    bias_sd: float
    bias_walk: float
    drift_sd: float = 0.0


def gauge_error(store: Store) -> GaugeError:
    """What the store's gauge is worth before anything is learned about it."""
    row = GAUGES[store.gauge.kind]
    sd = row.sd
    if store.gauge.kind is GaugeKind.SENSOR:
        sd = float(np.hypot(row.sd, uniform_sd(store.gauge.resolution)))
    return GaugeError(sd=sd, bias_sd=row.bias_sd, bias_walk=row.bias_walk, drift_sd=row.drift_sd)


def weighed_sd() -> float:
    """What a bottle on a scale leaves open. [kg]"""
    return Readings.weigh_sd_kg


@dataclass(frozen=True, slots=True, kw_only=True)
class Evidence:
    """What a reading says of the contents, in the store's unit.

    Either a value with its error (``bands`` empty), or ``bands`` of (low, high, weight) that cover 0 to capacity.
    A reading that says nothing about the level has neither. ``biased``: the gauge's lasting bias is in it.
    """

    value: float | None = None
    sd: float = 0.0
    biased: bool = False
    bands: Bands = ()

    @property
    def silent(self) -> bool:
        """Whether the reading says nothing about the level."""
        return self.value is None and not self.bands

    @property
    def span(self) -> tuple[float, float]:
        """The contents that the reading speaks for: the likeliest band, or the value and its error."""
        if self.bands:
            low, high, _ = max(self.bands, key=lambda band: band[2])
            return low, high
        return (self.value or 0.0) - self.sd, (self.value or 0.0) + self.sd

    @property
    def centre(self) -> float | None:
        """The one figure that a reading comes closest to, None where it says nothing."""
        if self.bands:
            low, high = self.span
            return (low + high) / 2
        return self.value


def panel_span(store: Store, mark: float) -> tuple[float, float]:
    """The levels at which a light panel shows a mark, as fractions: from the mark to just under the next."""
    marks = store.gauge.marks
    index = min(range(len(marks)), key=lambda i: abs(marks[i] - mark))
    edges = [0.0, *[m if m < 1 else Readings.top_mark_shows_from for m in marks[1:]], 1.0]
    return edges[index], edges[index + 1]


def _bands(store: Store, mark: float) -> Bands:
    marks = store.gauge.marks
    shows = min(range(len(marks)), key=lambda i: abs(marks[i] - mark))
    neighbours = [i for i in (shows - 1, shows + 1) if 0 <= i < len(marks)]
    bands = []
    for index, each in enumerate(marks):
        low, high = panel_span(store, each)
        weight = Readings.mark_wild
        if index == shows:
            weight = 1 - Readings.mark_slip
        elif index in neighbours:
            weight = Readings.mark_slip / len(neighbours)
        bands.append((low * store.capacity, high * store.capacity, weight))
    return tuple(bands)


def _of_volts(store: Store, reading: Reading, has_sun: bool) -> Evidence:
    """Volts of a bank: a state of charge, or where they may be a charger's two spans with their weights."""
    capacity, volts = store.capacity, bank.state_of_charge(store, reading.value or 0.0, reading.state)
    if volts.soc is None:
        return Evidence()
    if not volts.may_be_charging:
        return Evidence(value=volts.soc * capacity, sd=volts.sd * capacity)
    # at rest it is near full; on charge it may stand anywhere above the flat end
    charging = Readings.charging_with_sun if has_sun else Readings.charging_without_sun
    near = max(0.0, min(volts.soc - volts.sd, 1 - Readings.end_sd))
    low = min(Readings.charging_least, near)
    at_rest = charging + (1 - charging) / (1 - near)
    shares = ((0.0, low, Readings.charging_flat * charging), (low, near, charging), (near, 1.0, at_rest))
    return Evidence(bands=tuple((begin * capacity, end * capacity, weight) for begin, end, weight in shares))


def evidence(store: Store, reading: Reading, has_sun: bool = False) -> Evidence:
    """Turn a reading into evidence about its store's contents.

    Parameters
    ----------
    store : Store
    reading : Reading
        Its ``value`` in the base unit of its method.
    has_sun : bool
        Whether an array may have been charging when volts were read.

    Returns
    -------
    Evidence
        In the store's unit.
    """
    capacity, error = store.capacity, gauge_error(store)
    value = reading.value if reading.value is not None else 0.0
    match reading.method:
        case Method.STEP:
            return Evidence(bands=_bands(store, value))
        case Method.DRY:
            return Evidence(value=0.0, sd=Readings.end_sd * capacity)
        case Method.FULL:
            return Evidence(value=capacity, sd=Readings.end_sd * capacity)
        case Method.USES:
            return Evidence(value=value, sd=Readings.counted_sd_uses)
        case Method.VOLTS:
            return _of_volts(store, reading, has_sun)
        case Method.MASS:
            return Evidence(value=value, sd=Readings.scale_sd_kg)
        case Method.GROSS:
            return Evidence(value=value - (store.tare_kg or 0.0), sd=Readings.scale_sd_kg)
        case Method.FRACTION:
            biased = error.bias_sd > 0 or error.bias_walk > 0 or error.drift_sd > 0
            return Evidence(value=value * capacity, sd=error.sd * capacity, biased=biased)
        case Method.AMOUNT:
            return Evidence(value=value, sd=Readings.supply_sd * capacity, biased=error.bias_sd > 0)
        case Method.VOLUME:
            sd = max(error.sd, Readings.amount_least_sd) * capacity
            return Evidence(value=value, sd=sd, biased=error.bias_sd > 0)
