"""Every figure that the energy model starts from, with its source. What a rig's log teaches replaces them.

CP: common practice, tables and makers differ. MEM: a published value, from memory. SIM: set on simulated rigs.
"""

from dataclasses import dataclass

from lodeline.core.rig import Chemistry

CP, MEM, SIM = "common practice", "from memory", "set on simulated rigs"
Rows = tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True)
class Cells:
    """One chemistry.

    ``charge_efficiency``: energy out over energy in. ``peukert``: exponent, at ``rated_h`` hours.
    ``cold``: (degrees C, share of capacity). ``accepts_c``: most charging current, as a share of capacity an hour.
    ``bulk_to``: state of charge at which the current begins to fall. ``taper_h``: time constant of that fall.
    ``rest_v``: (state of charge, volts of a 12 V block at rest and 25 degrees C). ``rest_sd``: its error; between
    ``flat`` states of charge ``flat_sd``. Of a 12 V block: ``charging_above_v`` at rest it never stands,
    ``absorption_v`` and ``float_v`` are what chargers hold.
    """

    charge_efficiency: float
    peukert: float
    rated_h: float
    cold: Rows
    accepts_c: float
    bulk_to: float
    taper_h: float
    rest_v: Rows
    rest_sd: float
    charging_above_v: float
    absorption_v: tuple[float, float]
    float_v: tuple[float, float]
    flat: tuple[float, float] = (0.0, 0.0)
    flat_sd: float = 0.07
    no_charge_below_c: float | None = None
    most_draw_c: float = 0.3


_FLOODED_V: Rows = (
    (0.1, 11.51), (0.2, 11.66), (0.3, 11.81), (0.4, 11.96), (0.5, 12.10), (0.6, 12.24), (0.7, 12.37), (0.8, 12.50),
    (0.9, 12.62), (1.0, 12.73),
)  # fmt: skip
# AGM and gel stand about 0.1 V higher at the top.
_SEALED_V: Rows = tuple((soc, volts + 0.1 * soc) for soc, volts in _FLOODED_V)
_LFP_V: Rows = (
    (0.0, 10.0), (0.09, 12.0), (0.14, 12.5), (0.17, 12.8), (0.20, 12.9), (0.30, 13.0), (0.40, 13.1), (0.70, 13.2),
    (0.90, 13.3), (0.99, 13.4), (1.0, 13.6),
)  # fmt: skip
_LEAD_COLD: Rows = ((-18.0, 0.60), (0.0, 0.82), (25.0, 1.0))
_LFP_COLD: Rows = ((-20.0, 0.70), (-10.0, 0.80), (0.0, 0.90), (20.0, 1.0))

CELLS: dict[Chemistry, Cells] = {
    Chemistry.LFP: Cells(
        0.95, 1.05, 20.0, _LFP_COLD, 0.5, 0.97, 0.3, _LFP_V, 0.07, 13.65, (14.0, 14.6), (13.3, 13.65),
        flat=(0.2, 0.9), flat_sd=0.20, no_charge_below_c=0.0, most_draw_c=1.0,
    ),
    Chemistry.AGM: Cells(
        0.85, 1.12, 20.0, _LEAD_COLD, 0.30, 0.80, 1.4, _SEALED_V, 0.07, 12.95, (14.2, 14.8), (13.3, 13.8)
    ),
    Chemistry.GEL: Cells(
        0.85, 1.12, 20.0, _LEAD_COLD, 0.20, 0.80, 1.4, _SEALED_V, 0.07, 12.95, (14.0, 14.4), (13.3, 13.8)
    ),
    Chemistry.FLOODED: Cells(
        0.78, 1.25, 20.0, _LEAD_COLD, 0.20, 0.80, 1.4, _FLOODED_V, 0.07, 12.95, (14.2, 14.9), (13.1, 13.5)
    ),
    Chemistry.LEAD_CARBON: Cells(
        0.85, 1.12, 20.0, _LEAD_COLD, 0.30, 0.80, 1.4, _SEALED_V, 0.07, 12.95, (14.2, 14.7), (13.3, 13.8)
    ),
}  # fmt: skip

CELL_SOURCES: dict[str, str] = {
    "charge_efficiency": CP, "peukert": f"{CP}; the law is Peukert 1897", "rated_h": f"{CP}: the 20 h rate",
    "cold": CP, "accepts_c": CP, "bulk_to": CP, "taper_h": f"{CP}: a lead bank's last fifth takes 3 to 4 hours",
    "rest_v": f"{CP}; tables differ by 0.05 V", "rest_sd": CP, "charging_above_v": CP, "absorption_v": CP,
    "float_v": CP, "flat": CP, "flat_sd": CP, "no_charge_below_c": f"{CP}; cell makers say so",
    "most_draw_c": f"{CP}: most current for long, as a share of capacity an hour",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Figure:
    """One figure with its unit and where it comes from."""

    value: float
    unit: str
    source: str
    says: str


FIGURES: dict[str, Figure] = {
    "linke_turbidity": Figure(2.6, "1", CP, "haze of a clear day, a mild middle"),
    "albedo": Figure(0.2, "1", CP, "what the ground throws back"),
    "ross_c_m2_per_w": Figure(0.035, "degC m2/W", f"{MEM}: Ross 1976", "cell over air per irradiance, flat on a roof"),
    "power_per_c": Figure(-0.004, "1/degC", CP, "power of silicon cells per degree over 25 °C"),
    "system_share": Figure(0.78, "1", CP, "left by wiring, controller, dirt; with warm cells a ratio of 0.65 to 0.8"),
    "system_share_sd": Figure(0.13, "1", CP, "its error before the log says"),
    "charging_v": Figure(1.08, "1", CP, "volts on charge over nominal volts, for a controller's amps"),
    "sky_clear": Figure(1.0, "1", CP, "share of clear-sky yield under a clear sky"),
    "sky_mixed": Figure(0.65, "1", CP, "under a mixed sky"),
    "sky_overcast": Figure(0.25, "1", CP, "under an overcast sky"),
    "sky_wet": Figure(0.13, "1", CP, "on a wet day"),
    "word_right": Figure(0.7, "1", SIM, "chance that tomorrow's sky word comes true; else its neighbour"),
    "word_right_week": Figure(0.5, "1", SIM, "the same, a week ahead and on"),
    "sky_stays": Figure(0.5, "1", CP, "chance that an unknown sky stays as it was, before the log says"),
    "unlisted_wh": Figure(500.0, "Wh/day", CP, "draw of a rig with no loads listed: fridge, lights, chargers"),
    "unlisted_person_wh": Figure(150.0, "Wh/day", CP, "the same, for each person aboard"),
    "forgotten": Figure(1.05, "1", CP, "true draw over the listed one: something is always forgotten"),
    "cold_below_c": Figure(10.0, "degC", CP, "mean temperature below which a rig draws more (heater fan)"),
    "hot_above_c": Figure(22.0, "degC", CP, "mean temperature above which it draws more (fridge, fans)"),
    "per_degree": Figure(0.01, "1/degC", SIM, "share of the day's draw that such a degree adds before the log says"),
    "bank_swing": Figure(0.3, "1", CP, "share of the air's daily swing that a bank feels"),
    "kept_warm_c": Figure(10.0, "degC", CP, "a bank inside or heated does not fall below this"),
    "engine_idle_l_per_h": Figure(1.0, "L/h", CP, "fuel of an engine that only charges, standing"),
    "cable_v_drop": Figure(0.03, "1", CP, "volts lost in cables under an inverter's full load"),
}  # fmt: skip


def figure(name: str) -> float:
    """The value of a figure."""
    return FIGURES[name].value


def as_markdown() -> str:
    """All figures as two tables, for the page on the method."""
    lines = ["| figure | unit | value | what | source |", "|---|---|---|---|---|"]
    lines += [f"| {name} | {f.unit} | {f.value:g} | {f.says} | {f.source} |" for name, f in FIGURES.items()]
    names = [kind.value for kind in CELLS]
    lines += ["", f"| of a chemistry | {' | '.join(names)} | source |", "|---|" + "---|" * (len(names) + 1)]
    for name, source in CELL_SOURCES.items():
        values = [_text(getattr(cells, name)) for cells in CELLS.values()]
        lines.append(f"| {name} | {' | '.join(values)} | {source} |")
    return "\n".join(lines)


def _text(value: object) -> str:
    if value is None:
        return "none"
    if isinstance(value, tuple):
        return ", ".join(f"{each[0]:g}: {each[1]:g}" if isinstance(each, tuple) else f"{each:g}" for each in value)
    return f"{value:g}"
