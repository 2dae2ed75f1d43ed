"""Battery chemistries: what each gives, takes and shows. Common practice; makers and tables differ."""

from dataclasses import fields

from lodeline.core.catalogue.terms import Chemistry, GaugeKind
from lodeline.core.figures.table import COMMON
from lodeline.core.values import dataclass

Rows = tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Cells:
    """One chemistry.

    ``line``: usual lode line. ``charge_efficiency``: energy out over energy in; ``coulombic``: amp-hours
    out over amp-hours in. ``peukert``: exponent, at ``rated_h``
    hours. ``cold``: (degrees C, share of capacity). ``accepts_c``: most charging current, as a share of capacity an
    hour. ``bulk_to``: state of charge at which the current begins to fall. ``taper_h``: time constant of that fall.
    ``rest_v``: (state of charge, volts of a 12 V block at rest and 25 degrees C). ``rest_sd``: its error; between
    ``flat`` states of charge ``flat_sd``, above them ``top_sd``. Of a 12 V block:
    ``charging_above_v`` at rest it never stands, ``absorption_v`` and ``float_v`` are what chargers hold.
    ``nominal_block_v``: what its blocks are sold as, of ``cells_a_block`` cells of ``cell_v``. ``aged``: the rating
    over what banks in use hold, less 1; ``aged_sd``: how they differ.
    """

    name: str
    line: float
    charge_efficiency: float
    coulombic: float
    peukert: float
    rated_h: float = 20.0
    cold: Rows
    accepts_c: float
    bulk_to: float
    taper_h: float
    rest_v: Rows
    rest_sd: float = 0.07
    top_sd: float = 0.07
    charging_above_v: float
    absorption_v: tuple[float, float]
    float_v: tuple[float, float]
    flat: tuple[float, float] | None = None
    flat_sd: float = 0.07
    no_charge_below_c: float | None = None
    most_draw_c: float = 0.3
    nominal_block_v: float = 12.0
    cell_v: float = 2.0
    cells_a_block: int = 6
    is_lead: bool = True
    aged: float = 0.15
    aged_sd: float = 0.12
    usual_gauge: GaugeKind = GaugeKind.NONE


_FLOODED_V: Rows = (
    (0.1, 11.51),
    (0.2, 11.66),
    (0.3, 11.81),
    (0.4, 11.96),
    (0.5, 12.10),
    (0.6, 12.24),
    (0.7, 12.37),
    (0.8, 12.50),
    (0.9, 12.62),
    (1.0, 12.73),
)
# AGM and gel stand about 0.1 V higher at the top.
_SEALED_V: Rows = tuple((soc, volts + 0.1 * soc) for soc, volts in _FLOODED_V)
_LFP_V: Rows = (
    (0.0, 10.0),
    (0.09, 12.0),
    (0.14, 12.5),
    (0.17, 12.8),
    (0.20, 12.9),
    (0.30, 13.0),
    (0.40, 13.1),
    (0.70, 13.2),
    (0.90, 13.3),
    (0.99, 13.4),
    (1.0, 13.6),
)
# Three cells in series, as most packs of 12 V have them.
_NMC_V: Rows = (
    (0.0, 9.0),
    (0.05, 10.2),
    (0.1, 10.5),
    (0.2, 10.74),
    (0.3, 10.89),
    (0.4, 11.01),
    (0.5, 11.16),
    (0.6, 11.4),
    (0.7, 11.67),
    (0.8, 11.97),
    (0.9, 12.24),
    (1.0, 12.6),
)
_NMC_COLD: Rows = ((-20.0, 0.65), (-10.0, 0.78), (0.0, 0.9), (20.0, 1.0))
_LEAD_COLD: Rows = ((-18.0, 0.60), (0.0, 0.82), (25.0, 1.0))
_LFP_COLD: Rows = ((-20.0, 0.70), (-10.0, 0.80), (0.0, 0.90), (20.0, 1.0))

CELLS: dict[Chemistry, Cells] = {
    Chemistry.LFP: Cells(
        name="lithium iron phosphate",
        line=0.15,
        charge_efficiency=0.95,
        coulombic=0.99,
        peukert=1.05,
        rated_h=1.0,
        cold=_LFP_COLD,
        accepts_c=0.5,
        bulk_to=0.97,
        taper_h=0.1,
        rest_v=_LFP_V,
        top_sd=0.12,
        charging_above_v=13.65,
        absorption_v=(14.0, 14.6),
        float_v=(13.3, 13.65),
        flat=(0.2, 0.9),
        flat_sd=0.20,
        no_charge_below_c=0.0,
        most_draw_c=1.0,
        nominal_block_v=12.8,
        cell_v=3.2,
        cells_a_block=4,
        is_lead=False,
        aged=0.06,
        aged_sd=0.06,
        usual_gauge=GaugeKind.SHUNT,
    ),
    Chemistry.AGM: Cells(
        name="AGM",
        line=0.5,
        charge_efficiency=0.85,
        coulombic=0.95,
        peukert=1.12,
        cold=_LEAD_COLD,
        accepts_c=0.30,
        bulk_to=0.80,
        taper_h=1.4,
        rest_v=_SEALED_V,
        charging_above_v=12.95,
        absorption_v=(14.2, 14.8),
        float_v=(13.3, 13.8),
    ),
    Chemistry.GEL: Cells(
        name="gel",
        line=0.5,
        charge_efficiency=0.85,
        coulombic=0.95,
        peukert=1.12,
        cold=_LEAD_COLD,
        accepts_c=0.20,
        bulk_to=0.80,
        taper_h=1.4,
        rest_v=_SEALED_V,
        charging_above_v=12.95,
        absorption_v=(14.0, 14.4),
        float_v=(13.3, 13.8),
    ),
    Chemistry.FLOODED: Cells(
        name="flooded lead",
        line=0.5,
        charge_efficiency=0.78,
        coulombic=0.90,
        peukert=1.25,
        cold=_LEAD_COLD,
        accepts_c=0.20,
        bulk_to=0.80,
        taper_h=1.4,
        rest_v=_FLOODED_V,
        charging_above_v=12.95,
        absorption_v=(14.2, 14.9),
        float_v=(13.1, 13.5),
    ),
    Chemistry.NMC: Cells(
        name="lithium-ion (NMC), power station",
        line=0.1,
        charge_efficiency=0.92,
        coulombic=0.99,
        peukert=1.05,
        cold=_NMC_COLD,
        accepts_c=0.5,
        bulk_to=0.9,
        taper_h=0.5,
        rest_v=_NMC_V,
        charging_above_v=12.65,
        absorption_v=(12.3, 12.65),
        float_v=(12.0, 12.3),
        no_charge_below_c=0.0,
        most_draw_c=1.0,
        nominal_block_v=11.1,
        cell_v=3.7,
        cells_a_block=3,
        is_lead=False,
        aged=0.08,
        aged_sd=0.07,
        usual_gauge=GaugeKind.SENSOR,
    ),
    Chemistry.LEAD_CARBON: Cells(
        name="lead-carbon",
        line=0.4,
        charge_efficiency=0.85,
        coulombic=0.95,
        peukert=1.12,
        cold=_LEAD_COLD,
        accepts_c=0.30,
        bulk_to=0.80,
        taper_h=1.4,
        rest_v=_SEALED_V,
        charging_above_v=12.95,
        absorption_v=(14.2, 14.7),
        float_v=(13.3, 13.8),
    ),
}

SOURCES: dict[str, str] = {
    "line": COMMON,
    "charge_efficiency": COMMON,
    "coulombic": COMMON,
    "top_sd": COMMON,
    "peukert": f"{COMMON}; the law is Peukert 1897",
    "rated_h": f"{COMMON}: lead at the 20 h rate, LFP at up to the 1 h rate",
    "cold": COMMON,
    "accepts_c": COMMON,
    "bulk_to": COMMON,
    "taper_h": f"{COMMON}: a lead bank's last fifth takes 3 to 4 hours",
    "rest_v": f"{COMMON}; tables differ by 0.05 V",
    "rest_sd": COMMON,
    "charging_above_v": COMMON,
    "absorption_v": COMMON,
    "float_v": COMMON,
    "flat": COMMON,
    "flat_sd": COMMON,
    "no_charge_below_c": f"{COMMON}; cell makers say so",
    "most_draw_c": f"{COMMON}: most current for long, as a share of capacity an hour",
    "nominal_block_v": COMMON,
    "aged": f"{COMMON}: banks in use hold 65 to 100 % (lead), 85 to 100 % (lithium)",
    "aged_sd": COMMON,
    "cell_v": COMMON,
    "cells_a_block": COMMON,
}

FIGURE_NAMES = tuple(each.name for each in fields(Cells) if each.name in SOURCES)
