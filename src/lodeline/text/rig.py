"""The Rig view's words: what parts make together, and what gauges have been found to be worth."""

from typing import assert_never

from lodeline.core import checks as c
from lodeline.core.energy.bank import RatingUnit
from lodeline.core.tracking.gauges import LearnedGauge
from lodeline.text.cautions import caution
from lodeline.text.display import Display, counted, percent
from lodeline.text.habits import exact, figure

_KWH = 1000.0


def check(each: c.Check, display: Display) -> str:
    """A finding about the rig as a sentence."""
    match each:
        case c.BankHolds():
            whole, usable = (ah * each.volts_v / _KWH for ah in (each.capacity_ah, each.usable_ah))
            return (
                f"{figure(each.capacity_ah)} Ah at {exact(each.volts_v)} V hold {figure(whole, 1)} kWh; "
                f"{figure(each.usable_ah)} Ah of "
                f"it ({figure(usable, 1)} kWh) above the line."
            )
        case c.LayoutMakes():
            layout = each.layout
            return (
                f"{layout.series} in series {_make(layout.series)} {exact(layout.bank_v)} V; {layout.parallel} in "
                "parallel "
                f"{_make(layout.parallel)} {exact(layout.bank_ah)} Ah. Units in series add volts, not amp-hours."
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
            return (
                f"{figure(each.watts)} W can push {figure(each.pushes_a)} A; the controller takes "
                f"{figure(each.takes_a)} A."
            )
        case c.ArrayOverBank():
            return (
                f"{figure(each.watts)} W can push {figure(each.pushes_a)} A; a bank of this kind and size takes about "
                f"{figure(each.takes_a)} A."
            )
        case c.ChargerOverBank():
            return (
                f"It charges with {figure(each.amps)} A; a bank of this kind and size takes about "
                f"{figure(each.takes_a)} A. "
                "Check the maker's limit and the cable."
            )
        case c.ChargerSmall():
            return (
                f"{figure(each.amps)} A is little for {figure(each.capacity_ah)} Ah of lead: a full charge takes "
                "over a day."
            )
        case c.InverterDraws():
            return (
                f"At full load the inverter draws {figure(each.amps)} A from the bank: cable and fuse sized for it, by "
                "someone licensed."
            )
        case c.InverterOverBank():
            return (
                f"{figure(each.amps)} A is more than a bank of this kind and size should give for long, about "
                f"{figure(each.most_a)} A."
            )
        case _:
            assert_never(each)


def gauge(each: LearnedGauge) -> list[str]:
    """What a gauge has been found to be worth, in sentences."""
    lines = []
    if each.error is not None:
        lines.append(
            f"Error {figure(each.error * 100, 1)} % of capacity from {counted(each.readings, 'reading')}; "
            f"{figure(each.assumed_error * 100, 1)} % was assumed."
        )
    if each.is_biased:
        way = "high" if each.bias > 0 else "low"
        lines.append(f"It reads about {percent(abs(each.bias))} of capacity too {way} (±{figure(each.bias_sd * 100)}).")
    lines += [
        f"The mark {percent(mark.painted)} seems to begin at {percent(mark.begins)} (±{figure(mark.sd * 100)})."
        for mark in each.marks
        if mark.is_elsewhere
    ]
    if lines:
        return lines
    return ["As assumed so far." if each.enough else f"Too few readings to judge: {each.readings}."]


def rating(amount: float, unit: RatingUnit, cell_v: float | None, capacity_ah: float, nominal_v: float) -> str:
    """What a printed rating is at the bank's nominal volts."""
    at = f" at {exact(cell_v)} V" if cell_v else ""
    return (
        f"{exact(amount)} {unit}{at} are {figure(capacity_ah * nominal_v)} Wh: {figure(capacity_ah, 1)} Ah at "
        f"{exact(nominal_v)} V."
    )
