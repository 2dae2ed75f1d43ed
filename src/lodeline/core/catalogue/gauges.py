"""Gauges and methods of reading: what each is called and worth before anything is learned."""

from lodeline.core.catalogue.terms import GaugeKind, Method
from lodeline.core.figures import Readings
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class GaugeRow:
    """A kind of gauge.

    All but the names are shares of capacity: ``sd``; the lasting bias, as ``offset_sd`` all over, ``bulge_sd`` half way
    up, ``skew_sd`` between the halves; ``bias_walk`` and ``drift_sd`` (what a day adds to the offset). A sensor's
    resolution comes on top of ``sd``.
    """

    id: GaugeKind
    name: str
    sd: float
    offset_sd: float = 0.0
    bulge_sd: float = 0.0
    skew_sd: float = 0.0
    bias_walk: float = 0.0
    drift_sd: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class MethodRow:
    """A method of reading. ``has_value``: it carries a number; ``unit``: that number's base unit, None for a share."""

    id: Method
    name: str
    has_value: bool = True
    unit: str | None = None


_R = Readings
_GAUGES = (
    GaugeRow(id=GaugeKind.STEPS, name="light panel", sd=_R.panel_sd, offset_sd=_R.panel_bias_sd),
    GaugeRow(
        id=GaugeKind.SENSOR,
        name="sensor",
        sd=_R.sensor_sd,
        offset_sd=_R.sensor_bias_sd,
        bulge_sd=_R.sensor_bulge_sd,
        skew_sd=_R.sensor_skew_sd,
        bias_walk=_R.sensor_bias_walk,
    ),
    GaugeRow(
        id=GaugeKind.SIGHT,
        name="sight line",
        sd=_R.sight_sd,
        offset_sd=_R.sight_bias_sd,
        bulge_sd=_R.sight_bulge_sd,
        bias_walk=_R.sight_bias_walk,
    ),
    GaugeRow(id=GaugeKind.SCALE, name="scale", sd=_R.weighed_gauge_sd),
    GaugeRow(id=GaugeKind.SHUNT, name="shunt", sd=_R.shunt_sd, drift_sd=_R.shunt_drift_sd),
    GaugeRow(id=GaugeKind.NONE, name="no gauge", sd=_R.guess_sd),
)
GAUGES: dict[GaugeKind, GaugeRow] = {row.id: row for row in _GAUGES}

_METHODS = (
    MethodRow(id=Method.FRACTION, name="share of the whole"),
    MethodRow(id=Method.STEP, name="mark of a light panel"),
    MethodRow(id=Method.VOLUME, name="litres", unit="L"),
    MethodRow(id=Method.MASS, name="weight of the contents", unit="kg"),
    MethodRow(id=Method.AMOUNT, name="amount"),
    MethodRow(id=Method.GROSS, name="weight of bottle and contents", unit="kg"),
    MethodRow(id=Method.VOLTS, name="volts", unit="V"),
    MethodRow(id=Method.USES, name="uses since it was emptied", unit="uses"),
    MethodRow(id=Method.RANGE, name="way that is left", unit="km"),
    MethodRow(id=Method.METER, name="counter of a flow meter", unit="L"),
    MethodRow(id=Method.DRY, name="at its lower end", has_value=False),
    MethodRow(id=Method.FULL, name="at its upper end", has_value=False),
)
METHODS: dict[Method, MethodRow] = {row.id: row for row in _METHODS}
