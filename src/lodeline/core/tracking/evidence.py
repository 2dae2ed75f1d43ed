"""What a reading says about the contents, and how well."""

from itertools import pairwise

import numpy as np

from lodeline.core.catalogue import GAUGES, GaugeKind, Method
from lodeline.core.figures import Readings, Volts
from lodeline.core.log import Reading
from lodeline.core.rig import Store
from lodeline.core.statistics import normal_below, uniform_sd
from lodeline.core.tracking.belief import EVENLY, UNBIASED, Bands, Shape
from lodeline.core.tracking.volts import Around, volts_parts
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class GaugeError:
    """A gauge's own error and its lasting bias by offset, bulge and skew, as shares of capacity.

    ``bias_walk`` is how far the offset may wander in a day; ``drift_sd``: the error of what a day adds to it (a shunt
    drifts one way until the next full charge).
    """

    sd: float
    bias_sds: Shape
    bias_walk: float
    drift_sd: float = 0.0

    def bias_sd(self, share: float) -> float:
        """Error of the bias at a height, as a share of capacity."""
        return float(np.linalg.norm(np.multiply(self.bias_sds, shape_at(share))))


def shape_at(share: float) -> Shape:
    """What each part of a gauge's bias comes to where it shows a share: tanks are no boxes, but they end."""
    share = min(1.0, max(0.0, share))
    # a parabola that is 1 half way, a wave that is 0 there
    bulge, skew = share * (1 - share) / _HALF_WAY**2, float(np.sin(share / _HALF_WAY * np.pi))
    return 1.0, bulge, skew


_HALF_WAY = 0.5
_ANYTIME = Around()


def gauge_error(store: Store) -> GaugeError:
    """What the store's gauge is worth before anything is learned about it."""
    row = GAUGES[store.gauge.kind]
    sd = row.sd
    if store.gauge.kind is GaugeKind.SENSOR:
        sd = float(np.hypot(row.sd, uniform_sd(store.gauge.resolution)))
    sds = (row.offset_sd, row.bulge_sd, row.skew_sd)
    if Method.GROSS in store.kind.reads and store.tare_kg is not None:
        sds = (Readings.tare_sd_kg / store.capacity, 0.0, 0.0)
    if store.is_bank and store.gauge.kind is GaugeKind.NONE:
        sds = (Volts.table_sd, Volts.sag_sd, 0.0)
    elif store.is_bank:
        sds = (*sds[:2], 0.0)
    return GaugeError(sd=sd, bias_sds=sds, bias_walk=row.bias_walk, drift_sd=row.drift_sd)


@dataclass(frozen=True, slots=True, kw_only=True)
class Evidence:
    """What a reading says of the contents, in the store's unit.

    Either a value with its error (``bands`` empty), or ``bands`` of (low, high, weight) that cover 0 to capacity, or
    ``any_of`` several that it may mean, whose weights are likelihoods. A reading that says nothing about the level has
    none of them. ``shape``: how much of each part of the gauge's lasting bias is in it.
    """

    value: float | None = None
    sd: float = 0.0
    shape: Shape = UNBIASED
    bands: Bands = ()
    any_of: "tuple[Evidence, ...]" = ()

    @property
    def silent(self) -> bool:
        """Whether the reading says nothing about the level."""
        return self.value is None and not self.bands and not self.any_of

    @property
    def span(self) -> tuple[float, float]:
        """The contents that the reading speaks for: the likeliest band, or the value and its error."""
        if self.any_of:
            return max(self.any_of, key=lambda each: max(band[2] for band in each.bands)).span
        if self.bands:
            low, high, _ = max(self.bands, key=lambda band: band[2])
            return low, high
        return (self.value or 0.0) - self.sd, (self.value or 0.0) + self.sd

    @property
    def allows(self) -> tuple[float, float]:
        """The contents between which the reading has its say: every band that is not much less likely than the best,
        or the value and its error."""
        bands = [*self.bands, *(band for each in self.any_of for band in each.bands)]
        if not bands:
            return self.span
        least = Readings.band_allows * max(weight for _, _, weight in bands)
        near = [band for band in bands if band[2] >= least]
        return min(low for low, _, _ in near), max(high for _, high, _ in near)

    @property
    def centre(self) -> float | None:
        """The one figure that a reading comes closest to, None where it says nothing."""
        if self.bands or self.any_of:
            low, high = self.span
            return (low + high) / 2
        return self.value

    def outlier_density(self, capacity: float) -> float:
        """How likely such a reading is where it is an outlier, in the measure of its likelihood."""
        if self.any_of:
            return 1.0 / Volts.outlier_span_v
        return 1.0 / len(self.bands) if self.bands else 1.0 / capacity


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
            weight = 1 - Readings.mark_outlier
        elif index in neighbours:
            weight = Readings.mark_outlier / len(neighbours)
        bands.append((low * store.capacity, high * store.capacity, weight))
    return tuple(bands)


def _coarse(store: Store, shown: float) -> Bands:
    """What a coarse sensor says: anywhere within its step as likely, and little beyond it. Reading it again adds
    nothing."""
    edges = np.linspace(0.0, 1.0, Readings.coarse_cells + 1)
    half, sd = store.gauge.resolution / 2, GAUGES[store.gauge.kind].sd
    low = shown - half if shown > half else -1.0
    high = shown + half if shown < 1 - half else 2.0
    bands = []
    for begin, end in pairwise(edges.tolist()):
        middle = (begin + end) / 2
        chance = normal_below((high - middle) / sd) - normal_below((low - middle) / sd)
        bands.append((begin * store.capacity, end * store.capacity, chance + Readings.mark_wild))
    # a bias may shift what is seen a little beyond the ends
    beyond = Readings.beyond_ends * store.capacity
    bands[0] = (-beyond, *bands[0][1:])
    bands[-1] = (bands[-1][0], store.capacity + beyond, bands[-1][2])
    return tuple(bands)


def _under_floor(store: Store, shown: float) -> Evidence:
    """What a fouled gauge says that shows no more than it shows of an empty tank: at most about as much as it shows."""
    most = shown
    if store.gauge.kind is GaugeKind.STEPS:
        most = panel_span(store, shown)[1]
    most = min(1 - Readings.end_sd, most + Readings.end_sd)
    low, high = most * store.capacity, store.capacity
    return Evidence(bands=((0.0, low, 1 - Readings.mark_outlier), (low, high, Readings.mark_outlier)))


def _by_eye(capacity: float, value: float, within: float, scale: float) -> Evidence:
    """What was judged by eye: anywhere within as likely, now and then as far again beyond it, hardly ever further."""
    low, high = max(0.0, (value - within) * scale), min(capacity, (value + within) * scale)
    under, over = max(0.0, low - (high - low)), min(capacity, high + (high - low))
    outlier = Readings.mark_outlier / max(1, (low > 0.0) + (high < capacity))
    weights = (Readings.mark_wild, outlier, 1 - Readings.mark_outlier, outlier, Readings.mark_wild)
    bands = zip((0.0, under, low, high, over), (under, low, high, over, capacity), weights, strict=True)
    return Evidence(bands=tuple(band for band in bands if band[1] > band[0]))


def _of_volts(store: Store, reading: Reading, around: Around) -> Evidence:
    """Volts of a bank: what they say at rest, under a load and on charge, as far as each is possible."""
    parts = volts_parts(store, reading.value or 0.0, reading.state, around)
    return Evidence(any_of=tuple(Evidence(bands=each.bands, shape=each.shape) for each in parts))


def evidence(store: Store, reading: Reading, around: Around = _ANYTIME) -> Evidence:
    """Turn a reading into evidence about its store's contents.

    Parameters
    ----------
    store : Store
    reading : Reading
        Its ``value`` in the base unit of its method.
    around : Around
        What else is known of the time at which volts were read.

    Returns
    -------
    Evidence
        In the store's unit.
    """
    capacity, error = store.capacity, gauge_error(store)
    if store.reads_from > 0 and reading.method in (Method.FRACTION, Method.STEP):
        shown = reading.value or 0.0
        if shown <= store.reads_from + max(store.gauge.resolution / 2, Readings.end_sd):
            return _under_floor(store, shown)
    value = reading.value if reading.value is not None else 0.0
    if reading.within is not None:
        return _by_eye(capacity, value, reading.within, capacity if reading.method is Method.FRACTION else 1.0)
    match reading.method:
        case Method.STEP:
            return Evidence(bands=_bands(store, value), shape=EVENLY)
        case Method.DRY:
            return Evidence(value=0.0, sd=Readings.end_sd * capacity)
        case Method.FULL:
            return Evidence(value=capacity, sd=Readings.end_sd * capacity)
        case Method.USES:
            return Evidence(value=value, sd=Readings.counted_sd_uses)
        case Method.METER:
            return Evidence()
        case Method.VOLTS:
            return _of_volts(store, reading, around)
        case Method.MASS:
            return Evidence(value=value, sd=Readings.scale_sd_kg)
        case Method.GROSS:
            return Evidence(value=value - (store.tare_kg or 0.0), sd=Readings.scale_sd_kg, shape=EVENLY)
        case Method.FRACTION:
            shape = shape_at(value) if any(error.bias_sds) else EVENLY if error.drift_sd else UNBIASED
            if store.is_bank:
                shape = (*shape[:2], 0.0)
            elif store.gauge.kind is GaugeKind.SENSOR and store.gauge.resolution >= Readings.coarse_from:
                return Evidence(bands=_coarse(store, value), shape=shape)
            return Evidence(value=value * capacity, sd=error.sd * capacity, shape=shape)
        case Method.RANGE:
            mean, sd = around.l_per_km
            return Evidence(value=mean * value, sd=float(np.hypot(sd, Readings.range_cv * mean) * value))
        case Method.AMOUNT:
            sd = Readings.counted_sd if store.is_counted else Readings.supply_sd * capacity
            return Evidence(value=value, sd=sd, shape=shape_at(value / capacity))
        case Method.VOLUME:
            sd = max(error.sd, Readings.amount_least_sd) * capacity
            return Evidence(value=value, sd=sd, shape=shape_at(value / capacity))
