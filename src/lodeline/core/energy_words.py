"""What the Energy view says, in sentences."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from math import inf
from zoneinfo import ZoneInfo

from lodeline.core.conditions import Conditions
from lodeline.core.energy.bank import takes_charge
from lodeline.core.energy.solar import final_yield_h, performance_ratio
from lodeline.core.energy.wear import Wear
from lodeline.core.energy.yields import Weakness, YieldDay
from lodeline.core.forecast.energy_ahead import EnergyAhead
from lodeline.core.rig import Kind, Rig, Store
from lodeline.core.tracking.energy_past import strengths
from lodeline.core.tracking.track import Tracked
from lodeline.core.words import Sentence, day_name, days_words

# The audit and the log may differ by this share before it is worth a word.
_APART = 0.08


def _percent(share: float) -> str:
    return f"{share * 100:.0f} %"


def _span(low: float, high: float) -> str:
    return _percent(high) if round(low * 100) == round(high * 100) else f"{low * 100:.0f} to {high * 100:.0f} %"


def headline(rig: Rig, store: Store, ahead: EnergyAhead, now: datetime, horizon_days: int) -> Sentence:
    """Tonight's low, tomorrow's high, and the two autonomies."""
    zone = ZoneInfo(rig.timezone)
    local = now.astimezone(zone)
    low_at, high_at = ahead.low_at.astimezone(zone), ahead.high_at.astimezone(zone)
    night = "Tonight's low" if low_at.date() > local.date() or local.hour < 12 else "The next low"
    lowest = _span(ahead.low.p10, ahead.low.p90)
    falling = "" if ahead.rises else " and still falling"
    first = f"{night}: about {lowest} at {low_at:%H:%M}{falling}, the line is at {_percent(store.line)}."
    day, evening = day_name(high_at, local).capitalize(), _span(ahead.evening.p10, ahead.evening.p90)
    climbs = f"{day} it climbs to about {_span(ahead.high.p10, ahead.high.p90)}. "
    falls = f"{day} the sun does not make up for the loads: about {evening} in the evening. "
    sun = "" if not rig.solar else climbs if ahead.rises else falls
    if ahead.hold > 0.5:
        lasts = f"With the expected sky the bank holds for {horizon_days} days in {ahead.hold * 100:.0f} of 100 cases. "
    else:
        reached = ahead.p50_days if ahead.p50_days is not None else float(horizon_days)
        lasts = (
            "The bank is past its line. "
            if reached <= 0
            else (f"With the expected sky the line is reached in about {days_words(reached)}. ")
        )
    dull = (
        ""
        if not rig.solar or ahead.dull_days == inf
        else (f"; under an overcast sky a full bank lasts {days_words(ahead.dull_days)}")
    )
    dull = "; under an overcast sky it holds" if rig.solar and ahead.dull_days == inf else dull
    none = (
        f"With no sun at all: {days_words(ahead.no_sun_days.p50)} from now, "
        f"{days_words(ahead.no_sun_full_days)} from full{dull}."
    )
    return Sentence(first, sun + lasts + none)


def audit_words(listed: float, learned: tuple[float, float, float], assumed: bool) -> str:
    """The list of loads against what the log shows."""
    low, middle, high = learned
    if assumed:
        return (
            f"The list adds up to {listed:,.0f} Wh a day; there is too little log yet to say what the rig really draws."
        )
    said = f"The list adds up to {listed:,.0f} Wh a day; the log shows about {middle:,.0f} ({low:,.0f} to {high:,.0f})"
    if not audit_differs(listed, learned, assumed):
        return f"{said}: they agree."
    way = "more" if middle > listed else "less"
    hint = (
        " Something is running that is not on the list."
        if middle > listed
        else " Something on it runs less than it says."
    )
    return f"{said}, {abs(middle / listed - 1) * 100:.0f} % {way} than listed.{hint}"


def audit_differs(listed: float, learned: tuple[float, float, float], assumed: bool) -> bool:
    """Whether the list lies outside what the log shows, by enough that the learned figure is worth accepting."""
    low, middle, high = learned
    return not assumed and not low <= listed <= high and abs(middle - listed) >= _APART * listed


def array_words(rig: Rig, tracked: Tracked, days: list[YieldDay]) -> list[str]:
    """How strong the array has been found to be, and its yields on the latest clear day with room in the bank."""
    watts = sum(array.watts for array in rig.solar)
    if watts <= 0:
        return ["There is no array aboard."]
    found = strengths(tracked)
    said = [
        f"Found from the log: under a clear sky {_percent(found['clear'])} of what {watts:,.0f} W are taken to give, "
        f"mixed {_percent(found['mixed'])}, overcast {_percent(found['overcast'])}, wet {_percent(found['wet'])}."
    ]
    clear = [day for day in days if day.sky == "clear" and day.taken_wh and not day.full and day.reference_h > 0]
    if clear:
        day = clear[-1]
        final = final_yield_h(day.taken_wh or 0.0, watts)
        said.append(
            f"On {day.date:%A} {day.date.day} {day.date:%B}, clear and with room in the bank: final yield "
            f"{final:.1f} kWh a kW, reference yield {day.reference_h:.1f} h, performance ratio "
            f"{performance_ratio(final, day.reference_h):.2f}."
        )
    throttled = sum(day.full for day in days)
    if throttled:
        said.append(
            f"On {throttled} of the last {len(days)} days the bank was full: those yields are taken as lower bounds."
        )
    return said


def weakness_words(found: Weakness) -> str:
    """Since when the array is weak, and what it may be."""
    causes = "; ".join(found.causes)
    return (
        f"Since {found.since:%A} {found.since.day} {found.since:%B} clear days give {_percent(found.share)} "
        f"of what they gave before. Likely: {causes}."
    )


def wear_words(store: Store, found: Wear, now: datetime) -> list[str]:
    """Cycles, depths, and the shunt's drift since the bank was last full."""
    said = [
        f"In {found.days:.0f} days: {found.cycles:.1f} equivalent full cycles; the usual day goes "
        f"{_percent(found.median_depth)} deep, the deepest went {_percent(found.worst_depth)}; below the line of "
        f"{_percent(store.line)} on "
        f"{found.below} {'day' if found.below == 1 else 'days'}."
    ]
    if store.kind is Kind.BATTERY and store.gauge.kind == "shunt":
        if found.last_full is None:
            said.append("It has not been full in that time: the shunt drifts until it is. Charge it full once.")
        else:
            days = (now - found.last_full) / timedelta(days=1)
            if days > 1:
                said.append(
                    f"Last full {days_words(days)} ago: the shunt may have drifted by {0.3 * days:.0f} to "
                    f"{0.5 * days:.0f} points since. A full charge sets it right."
                )
    return said


def cold_words(store: Store, days: Sequence[Conditions]) -> list[str]:
    """On which coming days the bank is expected too cold to be charged, and for how many hours."""
    found = []
    for day in days:
        hours = 24 - int(takes_charge(store, day.mean_c, day.min_c).sum())
        if hours:
            found.append(f"{day.date:%A} {day.date.day} {day.date:%B} for {hours} h")
    if not found:
        return []
    listed = ", ".join(found[:4]) + (" and on days after" if len(found) > 4 else "")
    return [f"Too cold to be charged: {listed}. No sun, engine or post is counted in these hours."]


CAUTIONS = (
    "Battery and mains work by licensed people and to local code; fuses and cable sized to the charger.",
    "A generator runs outdoors, exhaust away, never beside a window. Keep a carbon monoxide alarm.",
    "Lodeline estimates; the person decides.",
)


def cautions(store: Store) -> list[str]:
    """What is always said where energy is planned."""
    cold = ("No charging of LFP cells below 0 °C.",) if store.chemistry == "lfp" else ()
    return [*cold, *CAUTIONS]
