"""Jugs, filling, care, frost, toilets and supplies in words."""

from datetime import datetime, timedelta
from typing import assert_never

from lodeline.core.catalogue import EVENT_TYPES, Toilet
from lodeline.core.figures import Water
from lodeline.core.forecast.forecast import Forecast, StoreForecast
from lodeline.core.rig import Rig, Store
from lodeline.core.water.care import Care, Due
from lodeline.core.water.frost import AtRisk, FrostNight
from lodeline.core.water.jugs import Filling, InJug
from lodeline.core.water.toilets import Fouled, ToiletLeft
from lodeline.text.display import Display, capital, counted, listed, percent
from lodeline.text.standing import lasts, middle
from lodeline.text.times import day_name, day_part, days_words, short_date


def jug(held: InJug, display: Display) -> str:
    """What is in a jug."""
    where = f", {held.jug.where}" if held.jug.where else ""
    if held.jug.in_use:
        return f"{held.jug.name}: in use as the tank, {display.amount(held.jug.litres, 'L')}{where}"
    use = "" if held.jug.drinkable else ", not for drinking"
    if held.litres <= 0:
        return f"{held.jug.name}: empty, {display.amount(held.jug.litres, 'L')}{where}{use}"
    of = f" of {display.amount(held.jug.litres, 'L')}"
    inside = "full, " if held.litres >= held.jug.litres else ""
    of = of if not inside else ""
    return (
        f"{held.jug.name}: {inside}{display.amount(held.litres, 'L')}{of}, {display.amount(held.kg, 'kg')}{where}{use}"
    )


def carried(
    litres: float, until: StoreForecast | None, last: datetime | None, ahead: Forecast, display: Display
) -> str:
    """What the jugs add up to; or, once the last is poured in, by when water has to be found."""
    if last is not None and until is not None:
        at = ahead.when(until.p10_days)
        by = f"by {day_part(display.local(at), display.local(ahead.at))}" if at is not None else "in the days to come"
        return f"The last jug is poured in: find water {by}."
    return f"Carried apart: {display.amount(litres, 'L')}, not counted in the days left."


def filling(filling: Filling, store: Store, left_kg: float | None, display: Display) -> str:
    """What filling the tank takes."""
    said = f"To fill {store.name}: {display.amount(filling.litres, 'L')}, {display.amount(filling.kg, 'kg')}"
    if filling.trips is None:
        said += f", about {round(filling.minutes)} min by hose"
    else:
        said += f", {counted(filling.trips, 'trip')} on foot, about {round(filling.minutes)} min"
    if left_kg is None:
        return f"{said}."
    if left_kg < 0:
        return f"{said}. That is {display.amount(-left_kg, 'kg')} over what may be loaded."
    return f"{said}; {display.amount(left_kg, 'kg')} of the payload would be left."


def fetching(filling: Filling, place: str, display: Display) -> str:
    """What filling the jugs at a tap within a walk takes."""
    return (
        f"{display.amount(filling.litres, 'L')} from {place}: {counted(filling.trips or 1, 'trip')} on foot, "
        f"about {round(filling.minutes)} min."
    )


def did(event: str | None) -> str | None:
    """The button that logs that something was done."""
    return EVENT_TYPES[event].did if event is not None else None


STOPPED_BY = (
    "Stop the fill by hand: until it runs over, at the amount that the meter shows, or at the mark. Log it as full, or "
    "with its amount."
)


def due(due: Due, display: Display) -> str:
    """Something that is due, or will be."""
    ago = days_words(max(due.days, 1 / 24))
    when = "due now" if due.is_due else f"due {short_date(due.due_on)}" if due.due_on is not None else "not due"
    since = f"last done {ago} ago" if due.done else f"not logged in {ago}"
    match due.care:
        case Care.FILTER:
            litres = display.amount(due.litres or 0.0, "L")
            return f"Filter: {when}; {litres} through it, {since}."
        case Care.DISINFECT:
            return f"Disinfect the tank: {when}; {since}. How: local advice first; rinse until it smells of nothing."
        case Care.SEAL:
            return f"Seals of the cassette: {when}; {since}."
        case Care.STOOD:
            most = days_words(Water.stood_days)
            return f"The water has stood {ago} since the last fill; after {most} many change it."
        case Care.DOUBTFUL:
            return (
                f"Filled at {due.place}, which is not for drinking: filter and boil by local advice, "
                f"and disinfect the tank after it."
            )
        case Care.RINSE:
            name = due.store.name if due.store is not None else ""
            if not due.is_due:
                return f"{name}: emptied {ago} ago; after {days_words(Water.unrinsed_days)} it wants a good rinse."
            return f"{name}: emptied {ago} ago. After so long it wants a good rinse, until it runs clear."
        case _:
            assert_never(due.care)


_RISKS = {
    AtRisk.HOSE: "the hose",
    AtRisk.TANK: "what hangs outside",
    AtRisk.VALVE: "the drain valve",
    AtRisk.LINES: "lines and pump inside an unheated rig",
}


def frost(nights: tuple[FrostNight, ...], now: datetime, display: Display) -> list[str]:
    """What is at risk in the nights to come, what to do tonight, what heat costs the bank."""
    if not nights:
        return []
    said = [_night(each, now, display) for each in nights]
    first = nights[0]
    tonight = display.local(now).date()
    if first.date - tonight <= timedelta(days=1):
        todo = ["Unscrew and empty the hose", "leave the drain valve shut and warm"]
        if first.tanks:
            todo.append(f"drain or heat {listed([tank.name for tank in first.tanks])}")
        if AtRisk.LINES in first.at_risk:
            todo.append("drain the lines, open the taps, pump off, water heater empty and off")
        said.append(f"Tonight: {'; '.join(todo)}.")
        said.append(f"Heat for it costs the bank about {display.amount(first.heat_wh, 'Wh')} a night.")
    return said


def _night(night: FrostNight, now: datetime, display: Display) -> str:
    day = day_name(night.date, display.local(now).date())
    low = display.amount(night.low_c, "degC")
    sure = "may freeze" if night.chance else "frost"
    tanks = f" ({listed([tank.name for tank in night.tanks])})" if night.tanks else ""
    risks = [_RISKS[risk] + (tanks if risk is AtRisk.TANK else "") for risk in night.at_risk]
    return (
        f"{capital(day)}: {sure}, lowest about {low}, {round(night.hours)} h below freezing. At risk: {listed(risks)}."
    )


def toilet(toilet: ToiletLeft, ahead: Forecast, display: Display) -> str:
    """How many uses are left, until when."""
    uses = round(toilet.uses.p50)
    few, many = round(toilet.uses.p10), round(toilet.uses.p90)
    span = f" ({few} to {many})" if few != many else ""
    said = f"{toilet.store.name}: good for about {uses} more {'use' if uses == 1 else 'uses'}{span}"
    at = ahead.when(toilet.p50_days)
    if toilet.p50_days == 0:
        said = f"{toilet.store.name}: full to its line"
    elif at is not None:
        said += f", until {day_part(display.local(at), display.local(ahead.at))}"
    dry = " Cover it after each use, and keep the vent open." if toilet.store.kind.toilet is Toilet.COMPOSTING else ""
    spare = f"; {counted(toilet.spares, 'empty one', 'empty ones')} aboard beside it" if toilet.spares else ""
    return f"{said}{spare}.{dry}"


def guest(toilet: ToiletLeft, display: Display) -> str | None:
    """What a guest makes of it."""
    if toilet.guest_days is None or toilet.p50_days is None or toilet.p50_days <= 0:
        return None
    return f"With a guest for the nights: {days_words(toilet.guest_days)} in place of {days_words(toilet.p50_days)}."


EMPTIED_WHERE = "What may be emptied where is a matter of local rules: ask, and empty only where it is allowed."


def fouled(fouled: Fouled, display: Display) -> str:
    """A gauge that showed something right after its tank was emptied."""
    shown = percent(fouled.shown)
    when = short_date(display.local(fouled.read_at).date())
    return (
        f"{fouled.store.name} showed {shown} right after it was emptied ({when}): it is fouled, or not clean. "
        f"Rinse until it runs clear. If it still shows that, read it with this floor from now on."
    )


def read_with_floor(fouled: Fouled) -> str:
    """The button that does so."""
    return f"Read {fouled.store.name} with a floor of {percent(fouled.shown)}"


def was_left(fouled: Fouled) -> str:
    """The button that says that something stayed in."""
    return f"It was not empty: about {percent(fouled.shown)} stayed in"


def supply(lane: StoreForecast, ahead: Forecast, display: Display) -> str:
    """How long a supply lasts, or a bag has room."""
    if not lane.known or lane.level is None:
        return f"{lane.store.name}: not read yet."
    level = display.contents(lane.store, lane.level)
    if lane.is_past_line:
        return f"{lane.store.name}: {level}, past its line now."
    until = f", until {middle(lane, ahead, display)}" if lane.p50_days is not None else ""
    return f"{lane.store.name}: {level}, {lasts(lane, ahead)}{until}."


def habits_of(rig: Rig) -> str:
    """What the amounts rest on until the log tells."""
    if rig.habits:
        return "By what you said of your habits, and what the log has taught since."
    return "By common practice until you say how you live: dishes, showers, laundry."
