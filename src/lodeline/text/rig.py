"""The Rig view's words: what parts make together, and what gauges have been found to be worth."""

from lodeline.core import checks as c
from lodeline.core.energy.bank import RatingUnit
from lodeline.core.tracking.gauges import LearnedGauge
from lodeline.text.cautions import caution
from lodeline.text.display import Display, counted, percent

_KWH = 1000.0


def check(each: c.Check, display: Display) -> str:
    """A finding about the rig as a sentence."""
    match each:
        case c.BankHolds(_, ah, volts, usable):
            return (
                f"{ah:,.0f} Ah at {volts:g} V hold {ah * volts / _KWH:.1f} kWh; {usable:,.0f} Ah of it "
                f"({usable * volts / _KWH:.1f} kWh) above the line."
            )
        case c.LayoutMakes(_, layout):
            return (
                f"{layout.series} in series make {layout.bank_v:g} V; {layout.parallel} in parallel make "
                f"{layout.bank_ah:g} Ah. Units in series add volts, not amp-hours."
            )
        case c.NeedsCaution(_, what):
            return caution(what, display)
        case c.LowLine(_, line):
            return f"The line is at {percent(line)}; lead kept above half lasts longer."
        case c.FullWeight(_, total):
            return f"With every tank full the stores weigh about {display.amount(total, 'kg')}. Check axles and tyres."
        case c.LoadsDraw(_, wh):
            return f"The listed loads draw about {display.amount(wh, 'Wh')} a day."
        case _:
            return _charging(each)


def _charging(each: c.Check) -> str:
    match each:
        case c.ControllerSmall(_, watts, pushes, takes):
            return f"{watts:,.0f} W can push {pushes:.0f} A; the controller takes {takes:.0f} A."
        case c.ArrayOverBank(_, watts, pushes, takes):
            return f"{watts:,.0f} W can push {pushes:.0f} A; a bank of this kind and size takes about {takes:.0f} A."
        case c.ChargerOverBank(_, amps, takes):
            return (
                f"It charges with {amps:.0f} A; a bank of this kind and size takes about {takes:.0f} A. "
                "Check the maker's limit and the cable."
            )
        case c.ChargerSmall(_, amps, ah):
            return f"{amps:.0f} A is little for {ah:,.0f} Ah of lead: a full charge takes over a day."
        case c.InverterDraws(_, amps):
            return (
                f"At full load the inverter draws {amps:.0f} A from the bank: cable and fuse sized for it, by someone "
                "licensed."
            )
        case c.InverterOverBank(_, amps, most):
            return f"{amps:.0f} A is more than a bank of this kind and size should give for long, about {most:.0f} A."
        case _:
            raise TypeError(f"no words for {type(each).__name__}")


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
