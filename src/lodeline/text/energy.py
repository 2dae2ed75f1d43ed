"""The Energy view's words: the headline, the audit, the array, wear, the questions and their answers."""

from collections.abc import Mapping, Sequence
from datetime import date, datetime, timedelta
from math import isinf

from lodeline.core.catalogue import SkyWord
from lodeline.core.conditions import Conditions
from lodeline.core.energy.bank import takes_charge
from lodeline.core.energy.loads import INVERTER_ITSELF, NEVER_SLEEPS, AuditLine
from lodeline.core.energy.solar import final_yield_h, performance_ratio
from lodeline.core.energy.wear import Wear
from lodeline.core.energy.yields import WeakCause, Weakness, YieldDay
from lodeline.core.figures import Readings
from lodeline.core.forecast.energy_ahead import EnergyAhead, EnergyDay
from lodeline.core.forecast.forecast import Forecast, Meets, StoreForecast
from lodeline.core.rig import Rig, Store
from lodeline.core.statistics import Range
from lodeline.core.tracking.energy_past import EnergyPast, audit_differs
from lodeline.text import names
from lodeline.text.display import Display, capital, counted, percent, percent_span
from lodeline.text.habits import figure
from lodeline.text.horizon import Sentence
from lodeline.text.standing import line_met
from lodeline.text.times import clock, date_words, day_name, days_words, short_date

_MOST_COLD_DAYS = 4
_DRIFT_FROM = timedelta(days=1)
_LEAST_WASTE_WH = 50.0
NOTHING = "–"


def _span(bounds: Range) -> str:
    return percent_span(bounds.p10, bounds.p90)


def no_bank(store: Store | None) -> Sentence:
    """What is said where there is no battery, or none that was read."""
    if store is None:
        return Sentence("There is no battery aboard.", "Add one on the Rig view.")
    return Sentence(f"{store.name} was never read.", "Log a reading in the Round, and its hours are shown.")


def headline(rig: Rig, lane: StoreForecast, whole: Forecast, ahead: EnergyAhead, display: Display) -> Sentence:
    """Tonight's low, tomorrow's high, and the two autonomies."""
    local, low_at, store = display.local(whole.at), display.local(ahead.low_at), lane.store
    night = "Tonight's low" if _is_tonight(low_at, local) else "The next low"
    falling = "" if ahead.rises else " and still falling"
    low = f"{night}: about {_span(ahead.low)} at {clock(low_at)}{falling}, the line is at {percent(store.line)}."
    return Sentence(
        low,
        " ".join(filter(None, (_sun(rig, ahead, local, display), _lasts(lane, whole, display), _no_sun(rig, ahead)))),
    )


_NIGHT_FROM, _NIGHT_UNTIL = 18, 8


def _is_tonight(at: datetime, now: datetime) -> bool:
    """Whether a time lies in the night that comes or is: said in the morning, ten o'clock is none."""
    at_night = at.hour >= _NIGHT_FROM or at.hour < _NIGHT_UNTIL
    return at_night and at - now < timedelta(days=1)


def _sun(rig: Rig, ahead: EnergyAhead, local: datetime, display: Display) -> str:
    if not rig.solar:
        return ""
    day = capital(day_name(display.local(ahead.high_at).date(), local.date()))
    if ahead.rises:
        return f"{day} it climbs to about {_span(ahead.high)}."
    return f"{day} the sun does not make up for the loads: about {_span(ahead.evening)} in the evening."


def _lasts(lane: StoreForecast, whole: Forecast, display: Display) -> str:
    """When the line is met, as every view says it."""
    met = line_met(lane, whole, display)
    return met if lane.meets is Meets.PAST else f"With the expected sky: {met}"


def _no_sun(rig: Rig, ahead: EnergyAhead) -> str:
    dull = ""
    if rig.solar:
        holds = isinf(ahead.dull_days)
        dull = (
            "; under an overcast sky it holds"
            if holds
            else f"; under an overcast sky a full bank lasts {days_words(ahead.dull_days)}"
        )
    from_full = f"{days_words(ahead.no_sun_full_days)} from full{dull}."
    if ahead.no_sun_days.p50 <= 0:
        return f"With no sun at all: {from_full}"
    return f"With no sun at all: {days_words(ahead.no_sun_days.p50)} from now, {from_full}"


def hours(
    level: Range | None,
    low: tuple[Range, datetime] | None,
    high: tuple[Range, datetime] | None,
    line: float,
    display: Display,
) -> str:
    """The drawing of the hours, said."""
    parts = []
    if level:
        parts.append(f"Now {_span(level)} of capacity")
    for name, turn in (("low", low), ("high", high)):
        if turn:
            parts.append(f"{name} {_span(turn[0])} at {clock(display.local(turn[1]))}")
    return "; ".join([*parts, f"line at {percent(line)}"])


def turn(name: str, bounds: Range, at: datetime, display: Display) -> str:
    """A low or a high, as it stands beside its mark."""
    return f"{name} {_span(bounds)}, {clock(display.local(at))}"


def line(store: Store) -> str:
    """What is written beside the line."""
    return f"line {percent(store.line)}"


def night(on: date) -> str:
    """What is written under a midnight: the date that begins."""
    return f"{on:%a} {on.day}"


def is_whole_hour(at: datetime, display: Display) -> bool:
    """Whether the clock aboard shows a whole hour."""
    return display.local(at).minute == 0


def start(at: datetime, display: Display) -> str:
    """A time to start at."""
    local = display.local(at)
    return f"{short_date(local.date())}, {clock(local)}"


_OF_ITSELF = {INVERTER_ITSELF: names.INVERTER_ITSELF, NEVER_SLEEPS: names.NEVER_SLEEPS}


def line_name(line: AuditLine) -> str:
    """What a line of the audit is called."""
    return _OF_ITSELF.get(line.id, line.name)


def audit(listed_wh: float, learned: tuple[float, float, float], assumed: bool, display: Display) -> str:
    """The list of loads against what the log shows."""
    wh = display.amount(listed_wh, "Wh")
    if assumed:
        return f"The list adds up to {wh} a day; there is too little log yet to say what the rig really draws."
    low, middle, high = learned
    span = f"{display.number(low, 'Wh')} to {display.number(high, 'Wh')}"
    says = f"The list adds up to {wh} a day; the log shows about {display.number(middle, 'Wh')} ({span})"
    if not audit_differs(listed_wh, learned, assumed):
        return f"{says}: they agree."
    if middle > listed_wh:
        way, hint = "more", "Something is running that is not on the list."
    else:
        way, hint = "less", "Something on it runs less than it says."
    return f"{says}, {figure(abs(middle / listed_wh - 1) * 100)} % {way} than listed. {hint}"


def accept(learned_wh: float, display: Display) -> str:
    """The button that takes the learned draw as the list."""
    return f"Accept {display.amount(learned_wh, 'Wh')} a day as the list"


def array(rig: Rig, strength: Mapping[SkyWord, float], days: Sequence[YieldDay], display: Display) -> list[str]:
    """How strong the array has been found to be, and its yields on the latest clear day with room in the bank."""
    watts = sum(each.watts for each in rig.solar)
    if watts <= 0:
        return ["There is no array aboard."]
    others = [f"{names.SKIES[word]} {percent(strength[word])}" for word in SkyWord if word is not SkyWord.CLEAR]
    lines = [
        f"Learned from the log: under a clear sky {percent(strength[SkyWord.CLEAR])} of what "
        f"{display.amount(watts, 'W')} are taken to give, {', '.join(others)}."
    ]
    clear = [
        each for each in days if each.sky is SkyWord.CLEAR and each.taken_wh and not each.full and each.reference_h > 0
    ]
    if clear:
        day = clear[-1]
        final = final_yield_h(day.taken_wh or 0.0, watts)
        lines.append(
            f"On {date_words(day.date)}, clear and with room in the bank: final yield {figure(final, 1)} kWh a kW, "
            f"reference yield {figure(day.reference_h, 1)} h, performance ratio "
            f"{figure(performance_ratio(final, day.reference_h), 2)}."
        )
    curtailed = sum(day.full for day in days)
    if curtailed:
        yields = "that yield is taken as a lower bound" if curtailed == 1 else "those yields are taken as lower bounds"
        lines.append(f"On {curtailed} of the last {counted(len(days), 'day')} the bank came near full: {yields}.")
    return lines


def weakness(weakness: Weakness) -> str:
    """Since when the array is weak, and what it may be."""
    causes = "; ".join(_cause(cause) for cause in weakness.causes)
    return (
        f"Since {date_words(weakness.since)} clear days give {percent(weakness.share)} of what they gave before. "
        f"Likely: {causes}."
    )


def _cause(cause: WeakCause) -> str:
    match cause:
        case WeakCause.SHADE:
            return "shade at this place: trees, a wall, another rig"
        case WeakCause.SNOW:
            return "snow or frost on the panels"
        case WeakCause.DIRT:
            return "dirt, leaves or salt: wash them early in the day"
        case WeakCause.FAULT:
            return "a loose plug, a blown fuse or one panel of several that is out"
        case WeakCause.CONTROLLER:
            return "a controller that was set anew or is too warm"


def wear(store: Store, wear: Wear, now: datetime, drifts: bool) -> list[str]:
    """Cycles, depths, and the shunt's drift since the bank was last full."""
    lines = [
        f"In {counted(round(wear.days), 'day')}: {figure(wear.cycles, 1)} equivalent full cycles; the usual day goes "
        f"{percent(wear.median_depth)} deep, the deepest went {percent(wear.worst_depth)}; below the line of "
        f"{percent(store.line)} on {counted(wear.below, 'day')}."
    ]
    if not drifts:
        return lines
    if wear.last_full is None:
        return [*lines, "It has not been quite full in that time: the shunt drifts until it is. Charge it full once."]
    since = now - wear.last_full
    if since > _DRIFT_FROM:
        days = since / timedelta(days=1)
        low, high = Readings.shunt_drift_low * days, Readings.shunt_drift_high * days
        lines.append(
            f"Last full {days_words(days)} ago: the shunt may have drifted by {figure(low)} to {figure(high)} "
            "points since. A full charge sets it right."
        )
    return lines


def cold(store: Store, days: Sequence[Conditions]) -> list[str]:
    """On which coming days the bank is expected too cold to be charged, and for how many hours."""
    too_cold = []
    for day in days:
        allowed = takes_charge(store, day.mean_c, day.min_c)
        hours = int((allowed < 1).sum())
        if hours:
            too_cold.append(f"{date_words(day.date)} for {hours} h")
    if not too_cold:
        return []
    more = " and on days after" if len(too_cold) > _MOST_COLD_DAYS else ""
    which = ", ".join(too_cold[:_MOST_COLD_DAYS]) + more
    what = "Too cold to be charged" if store.kept_warm is False else "Too cold to be charged if the bank is outside"
    asks = "" if store.kept_warm is False else " Say on the Rig view where it sits."
    return [f"{what}: {which}. Sun, engine and hookup then carry the loads, and put nothing into the cells.{asks}"]


def past_day(past: EnergyPast, display: Display) -> str:
    """One date that has been, said."""
    sun = past.sun
    taken = "yield not logged" if sun.taken_wh is None else f"taken {display.amount(sun.taken_wh, 'Wh')}"
    parts = [f"sun offered about {display.amount(past.offered_wh, 'Wh')}, {taken}"]
    if sun.full:
        parts.append("the bank came near full")
    return ", ".join([*parts, *_other(past.other_wh, display), _drawn(past.load_wh, past.load_logged, display)])


def coming_day(day: EnergyDay, display: Display) -> str:
    """One date to come, said."""
    parts = [f"sun {offered(day, display)}", *_other(day.other_wh, display)]
    if day.wasted_wh > _LEAST_WASTE_WH:
        parts.append(f"about {display.amount(day.wasted_wh, 'Wh')} unused: battery full")
    return ", ".join([*parts, _drawn(day.load_wh, False, display)])


def _other(wh: float, display: Display) -> list[str]:
    return [f"charged otherwise {display.amount(wh, 'Wh')}"] if wh > 0 else []


def _drawn(wh: float, logged: bool, display: Display) -> str:
    return f"drawn {'' if logged else 'about '}{display.amount(wh, 'Wh')}"


def offered(day: EnergyDay, display: Display) -> str:
    """What the sun is expected to offer."""
    return display.span(day.offered_wh.p10, day.offered_wh.p90, "Wh")


def past_cells(past: EnergyPast, display: Display) -> list[str]:
    """A past date as cells of the table: sky, offered, taken, unused, charged otherwise, drawn."""
    sun = past.sun
    taken = "not logged" if sun.taken_wh is None else display.amount(sun.taken_wh, "Wh")
    unused = NOTHING
    if sun.full and sun.taken_wh is not None:
        taken = f"at least {taken}"
        if past.offered_wh > sun.taken_wh:
            unused = f"about {display.amount(past.offered_wh - sun.taken_wh, 'Wh')}"
    return [
        names.SKIES[sun.sky] if sun.sky else NOTHING,
        f"about {display.amount(past.offered_wh, 'Wh')}",
        taken,
        unused,
        display.amount(past.other_wh, "Wh") if past.other_wh > 0 else NOTHING,
        f"{'' if past.load_logged else 'about '}{display.amount(past.load_wh, 'Wh')}",
    ]


def coming_cells(day: EnergyDay, sky: SkyWord | None, display: Display) -> list[str]:
    """A coming date as cells of the same table."""
    unused = f"about {display.amount(day.wasted_wh, 'Wh')}" if day.wasted_wh >= 1 else NOTHING
    return [
        names.SKIES[sky] if sky else NOTHING,
        offered(day, display),
        f"about {display.amount(day.taken_wh, 'Wh')}",
        unused,
        display.amount(day.other_wh, "Wh") if day.other_wh > 0 else NOTHING,
        f"about {display.amount(day.load_wh, 'Wh')}",
    ]
