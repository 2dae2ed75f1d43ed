"""The Rig view's words: what parts make together, and what gauges have been found to be worth."""

from typing import assert_never

from lodeline.core import checks as c
from lodeline.core.energy.bank import RatingUnit
from lodeline.core.tracking.gauges import LearnedGauge
from lodeline.text.cautions import caution
from lodeline.text.display import Display, counted, percent

_KWH = 1000.0


def check(each: c.Check, display: Display) -> str:
    """A finding about the rig as a sentence."""
    match each:
        case c.BankHolds():
            whole, usable = (ah * each.volts_v / _KWH for ah in (each.capacity_ah, each.usable_ah))
            return (
                f"{each.capacity_ah:,.0f} Ah at {each.volts_v:g} V hold {whole:.1f} kWh; {each.usable_ah:,.0f} Ah of "
                f"it ({usable:.1f} kWh) above the line."
            )
        case c.LayoutMakes():
            layout = each.layout
            return (
                f"{layout.series} in series {_make(layout.series)} {layout.bank_v:g} V; {layout.parallel} in parallel "
                f"{_make(layout.parallel)} {layout.bank_ah:g} Ah. Units in series add volts, not amp-hours."
            )
        case c.NeedsCaution():
            return caution(each.caution, display)
        case c.LowLine():
            return f"The line is at {percent(each.line)}; lead kept above half lasts longer."
        case c.FullWeight():
            total = display.amount(each.total_kg, "kg")
            return f"With every tank full the stores weigh about {total}. Check axles and tyres."
        case c.LoadsDraw():
            return f"The listed loads draw about {display.amount(each.listed_wh, 'Wh')} a day."
        case _:
            return _charging(each)


def _make(n: int) -> str:
    return "makes" if n == 1 else "make"


def _charging(
    each: c.ControllerSmall
    | c.ArrayOverBank
    | c.ChargerOverBank
    | c.ChargerSmall
    | c.InverterDraws
    | c.InverterOverBank,
) -> str:
    match each:
        case c.ControllerSmall():
            return f"{each.watts:,.0f} W can push {each.pushes_a:.0f} A; the controller takes {each.takes_a:.0f} A."
        case c.ArrayOverBank():
            return (
                f"{each.watts:,.0f} W can push {each.pushes_a:.0f} A; a bank of this kind and size takes about "
                f"{each.takes_a:.0f} A."
            )
        case c.ChargerOverBank():
            return (
                f"It charges with {each.amps:.0f} A; a bank of this kind and size takes about {each.takes_a:.0f} A. "
                "Check the maker's limit and the cable."
            )
        case c.ChargerSmall():
            return (
                f"{each.amps:.0f} A is little for {each.capacity_ah:,.0f} Ah of lead: a full charge takes over a day."
            )
        case c.InverterDraws():
            return (
                f"At full load the inverter draws {each.amps:.0f} A from the bank: cable and fuse sized for it, by "
                "someone licensed."
            )
        case c.InverterOverBank():
            return (
                f"{each.amps:.0f} A is more than a bank of this kind and size should give for long, about "
                f"{each.most_a:.0f} A."
            )
        case _:
            assert_never(each)


def gauge(each: LearnedGauge) -> list[str]:
    """What a gauge has been found to be worth, in sentences."""
    lines = []
    if each.error is not None:
        lines.append(
            f"Error {each.error * 100:.1f} % of capacity from {counted(each.readings, 'reading')}; "
            f"{each.assumed_error * 100:.1f} % was assumed."
        )
    if each.is_biased:
        way = "high" if each.bias > 0 else "low"
        lines.append(f"It reads about {percent(abs(each.bias))} of capacity too {way} (±{each.bias_sd * 100:.0f}).")
    lines += [
        f"The mark {percent(mark.painted)} seems to begin at {percent(mark.begins)} (±{mark.sd * 100:.0f})."
        for mark in each.marks
        if mark.is_elsewhere
    ]
    if lines:
        return lines
    return ["As assumed so far." if each.enough else f"Too few readings to judge: {each.readings}."]


def rating(amount: float, unit: RatingUnit, cell_v: float | None, capacity_ah: float, nominal_v: float) -> str:
    """What a printed rating is at the bank's nominal volts."""
    at = f" at {cell_v:g} V" if cell_v else ""
    return f"{amount:,g} {unit}{at} are {capacity_ah * nominal_v:,.0f} Wh: {capacity_ah:,.1f} Ah at {nominal_v:g} V."
