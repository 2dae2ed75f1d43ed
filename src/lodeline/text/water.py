"""Water and waste in words: the headline, today, the balance, what each use takes, what fills before what."""

from datetime import datetime
from typing import assert_never

from lodeline.core.catalogue import Role
from lodeline.core.figures import Water
from lodeline.core.forecast.forecast import Forecast, StoreForecast
from lodeline.core.levers.sparing import SparedDays
from lodeline.core.rig import Rig
from lodeline.core.water.balance import Balance, Flow, Reason, UseThen, Went
from lodeline.core.water.hot import HotWater
from lodeline.core.water.learned import Amount, Told
from lodeline.text.display import Display, capital, counted, listed
from lodeline.text.habits import exact, figure
from lodeline.text.horizon import Sentence, first
from lodeline.text.levers import lever_short
from lodeline.text.names import be, verb
from lodeline.text.standing import lasts, middle
from lodeline.text.times import day_part, days_words, hours_words, short_date

NO_TANK = "No fresh water is known yet."
DRAINED = "Drained: nothing is asked of the water until it is filled again."
_WEEK = 7
_FELL = 0.06
_MINUTES = 60


def headline(rig: Rig, ahead: Forecast, sparing: SparedDays | None, display: Display) -> Sentence:
    """How long the water lasts, with less washing too, and which tank comes first."""
    water = _soonest(rig, ahead, Role.WATER)
    if water is None:
        return Sentence(NO_TANK, "Read or fill the fresh tank in the Round, and its days are counted.")
    grey = _soonest(rig, ahead, Role.DRAIN)
    told = [] if water.is_past_line else [f"Water for {lasts(water, ahead)}"]
    if grey is not None or water.is_past_line:
        told.append(_before(water, grey or water, ahead, display))
    spread = _spread(water, grey, ahead, display)
    if sparing is not None and sparing.levers and _gains(water.p50_days, sparing.days):
        days = f"over {ahead.horizon_days} days" if sparing.days is None else days_words(sparing.days)
        saved = listed([lever_short(rig, lever, display) for lever in sparing.levers])
        spread = f"{capital(days)} with {saved}. {spread}"
    return Sentence("; ".join(told) + ".", spread)


def _gains(before: float | None, after: float | None) -> bool:
    """Whether the days read differently."""
    return before is not None and (after is None or (after > before and days_words(after) != days_words(before)))


def _soonest(rig: Rig, ahead: Forecast, role: Role) -> StoreForecast | None:
    """Of the tanks of a role the one that comes to its line first."""
    known = [each for store in rig.every(role) if (each := ahead.of(store.id)).known]
    return min(known, key=lambda each: float("inf") if each.p50_days is None else each.p50_days, default=None)


def _before(water: StoreForecast, grey: StoreForecast, ahead: Forecast, display: Display) -> str:
    """Which comes first: ``Grey tank is full first, Sunday night``."""
    days = [float("inf") if each.p50_days is None else each.p50_days for each in (water, grey)]
    soonest = grey if days[1] < days[0] else water
    part = middle(soonest, ahead, display)
    if part is None:
        return "waste water does not come first"
    if soonest.is_past_line:
        return f"{soonest.store.name} {be([soonest.store])} past {verb(soonest.store, 'its', 'their')} line {part}"
    return f"{soonest.store.name} {first(soonest.store)}, {part}"


def _spread(water: StoreForecast, grey: StoreForecast | None, ahead: Forecast, display: Display) -> str:
    """The 8-in-10 ranges of both."""
    return " ".join(_range(each, ahead, display) for each in (water, grey) if each is not None)


def _range(lane: StoreForecast, ahead: Forecast, display: Display) -> str:
    name, now = lane.store.name, display.local(ahead.at)
    low, high = ahead.when(lane.p10_days), ahead.when(lane.p90_days)
    level = display.span(lane.level_p10 or 0.0, lane.level_p90 or 0.0, lane.store.unit)
    if lane.is_past_line:
        return f"{name}: {level}, past its line now."
    begins = day_part(display.local(low), now) if low is not None else f"{counted(ahead.horizon_days, 'day')} from now"
    ends = day_part(display.local(high), now) if high is not None else f"over {counted(ahead.horizon_days, 'day')}"
    return f"{name}: {level}, to its line between {begins} and {ends} (8 in 10)."


def binding(rig: Rig, ahead: Forecast) -> str | None:
    """What a litre less is worth: for both tanks where the drain comes first, for the water alone else."""
    water, grey = _soonest(rig, ahead, Role.WATER), _soonest(rig, ahead, Role.DRAIN)
    if water is None or grey is None or (water.p50_days is None and grey.p50_days is None):
        return None
    days = [float("inf") if each.p50_days is None else each.p50_days for each in (water, grey)]
    if days[1] < days[0]:
        return (
            f"{grey.store.name} {verb(grey.store, 'comes', 'come')} first. Water saved counts twice, there and in "
            f"{water.store.name}; a shower ashore helps most. More water aboard would not help."
        )
    return (
        f"{water.store.name} {verb(water.store, 'comes', 'come')} first. Save water anywhere: "
        f"where it drains does not matter yet."
    )


def today(used_l: float, usual_l: float, ration_l: float | None, display: Display) -> str:
    """Today against the usual, and against the ration."""
    said = f"Today so far about {display.amount(used_l, 'L')}; a usual day takes {display.amount(usual_l, 'L')}"
    if ration_l is None:
        return f"{said}."
    return f"{said}, the ration is {display.amount(ration_l, 'L')}."


_WENT = {
    Went.TOILET: "flushed",
    Went.DRUNK: "drunk, cooked and given to animals",
    Went.DRIED: "dried or spilled",
    Went.ELSEWHERE: "used outside, as logged",
    Went.UNTOLD: "drained outside, where nothing is read",
}


def part_name(part: Flow) -> str:
    """Where a part of the water went."""
    if part.went is Went.GREY and part.store is not None:
        return f"into {part.store.name}"
    if part.went is Went.TOILET and part.store is not None:
        return f"flushed into {part.store.name}"
    return _WENT.get(part.went, str(part.went))


def about(value: float, sd: float, display: Display) -> str:
    """An amount with its error: ``92 ±6 L``."""
    if display.number(sd, "L") == "0":
        return display.amount(value, "L")
    return f"{display.number(value, 'L')} ±{display.amount(sd, 'L')}"


SPANS = {"day": "The last day", "week": "The last week", "stay": "This stay"}


def balance_words(balance: Balance, display: Display) -> str:
    """A whole balance, said."""
    parts = listed([f"{about(p.amount.value, p.amount.sd, display)} {part_name(p)}" for p in balance.parts])
    days = days_words(balance.known_days)
    return (
        f"In {days}: {about(balance.drawn.value, balance.drawn.sd, display)} drawn; {parts}. {closes(balance, display)}"
    )


def apart(balance: Balance, display: Display) -> str | None:
    """What is left over once all is told; nothing where all of it went somewhere that is told."""
    if any(part.went is Went.UNTOLD for part in balance.parts) or display.number(abs(balance.apart.value), "L") == "0":
        return None
    amount = about(abs(balance.apart.value), balance.apart.sd, display)
    return f"not accounted for: {amount}" if balance.apart.value > 0 else f"more than was drawn: {amount}"


def moved(balance: Balance, display: Display) -> str:
    """What was filled and emptied meanwhile."""
    filled, dumped = (display.amount(litres, "L") for litres in (balance.filled_l, balance.dumped_l))
    return f"Meanwhile filled: {filled}; waste water emptied: {dumped}."


_REASONS = {
    Reason.LEAK: "a leak on the fresh side",
    Reason.THROWN_OUT: "water thrown outside or drained elsewhere",
    Reason.GREY_NOT_LOGGED: "a grey tank that was emptied and not logged",
    Reason.FILL_NOT_LOGGED: "a fill that was not logged",
    Reason.OTHER_WATER: "water that did not come from the tank: jugs, a tap, a post",
    Reason.RAIN: "rain that gets in",
    Reason.GAUGE: "a gauge that reads wrong where the tank is not a box",
    Reason.OUTLIER: "a wrong reading",
}


def closes(balance: Balance, display: Display) -> str:
    """Whether the sums close, and if not why not."""
    if balance.closes:
        return "That is within the error: nothing is missing."
    less = "less arrived than was drawn" if balance.apart.value > 0 else "more arrived than was drawn"
    apart = about(abs(balance.apart.value), balance.apart.sd, display)
    return f"It does not add up: {apart} {less}. Likely: {listed([_REASONS[r] for r in balance.reasons], 'or')}."


def activity(amount: Amount) -> str:
    """An activity's name."""
    return capital(amount.activity.name)


def how_often(amount: Amount) -> str:
    """How often an activity comes; what everybody does, every day."""
    return often(amount.per_day) if amount.activity.event is not None else "every day"


def often(per_day: float) -> str:
    """How often something is done: ``twice a day``, ``every second day``, ``3 times a week``."""
    if per_day <= 0:
        return "never"
    for n, words in _OFTEN:
        if abs(per_day - n) < _NEAR * n:
            return words
    a_week = per_day * _WEEK
    if a_week < _WEEK:
        return f"{exact(round(a_week, 1))} times a week" if a_week >= 1 else f"every {exact(round(1 / per_day))} days"
    return f"{exact(round(per_day, 1))} times a day"


_NEAR = 0.06
_OFTEN = (
    (1.0, "once a day"),
    (2.0, "twice a day"),
    (0.5, "every second day"),
    (1 / 3, "every third day"),
    (1 / 7, "once a week"),
    (2 / 7, "twice a week"),
)


def each_words(amount: Amount, display: Display) -> str:
    """What one takes, with its range; nothing for what is reckoned by the day."""
    if amount.activity.event is None:
        return "–"
    return f"{display.span(amount.each_l.p10, amount.each_l.p90, 'L')}"


def told(amount: Amount, display: Display) -> str:
    """How well the log tells it."""
    match amount.told:
        case Told.LEARNED:
            return "learned from the log"
        case Told.ALIKE:
            return f"cannot be told from {listed([a.name for a in amount.alike], 'or')} yet"
        case Told.TOO_FEW:
            return f"too few days yet; common is {display.amount(amount.usual, 'L')}"
        case Told.NOT_LOGGED:
            return "not logged by itself"
        case _:
            assert_never(amount.told)


def cannot_tell(learned: tuple[Amount, ...]) -> str | None:
    """What the log cannot tell, and what would let it."""
    alike = [each for each in learned if each.told is Told.ALIKE]
    if alike:
        names = sorted({each.activity.name for each in alike} | {a.name for each in alike for a in each.alike})
        return (
            f"{capital(listed(names))} cannot be told apart yet: they come on the same days. "
            f"Log them on days on which only one was done."
        )
    unlogged = [each.activity for each in learned if each.told is Told.NOT_LOGGED and each.activity.event is not None]
    if unlogged:
        names = [each.name for each in unlogged]
        return f"{capital(listed(names))} cannot be told apart from other use yet: log them on some days."
    return None


def floors(people: int, display: Display) -> str:
    """The published floors, for this crew; of a rig that nobody lives in, for one."""
    people = max(1, people)
    drink = display.span(people * Water.survival_l, people * Water.survival_most_l, "L")
    basic = display.span(people * Water.basic_l, people * Water.basic_most_l, "L")
    gallon = display.amount(people * Water.emergency_l, "L")
    return (
        f"Published floors for {counted(people, 'person', 'people')} a day: {drink} to drink and eat, {gallon} in an "
        f"emergency, {basic} for all basic needs. In heat more."
    )


def hot(water: HotWater, display: Display) -> str:
    """What the heater gives."""
    again = (
        f", hot again after {hours_words(water.reheat_min / _MINUTES)} on its element"
        if water.reheat_min is not None
        else ""
    )
    return (
        f"A full heater gives {display.amount(water.tap_l, 'L')} at the tap at "
        f"{display.amount(Water.hot_c, 'degC')}: about {round(water.minutes)} min of shower{again}, "
        f"{display.rough(water.heat_wh, 'Wh')} of heat. One shower by flow and minutes is "
        f"{display.amount(water.shower_l, 'L')}. Element off while the heater is empty."
    )


def stretch(use: UseThen, months: bool, display: Display) -> str:
    """One week or month of the history."""
    when = f"{use.first:%B %Y}" if months else f"week of {short_date(use.first)}"
    return f"{when}: {per_person(use.per_person, display)}"


def stretch_short(use: UseThen, months: bool) -> str:
    """The same under a bar: ``28 Sep``, ``Sep``."""
    return f"{use.first:%b}" if months else short_date(use.first).split(" ", 1)[1]


def per_person(litres: float, display: Display) -> str:
    """Litres a person a day."""
    return f"{display.amount(litres, 'L')} a person a day"


def trend(weeks: tuple[UseThen, ...], display: Display) -> str:
    """How use fell or rose since the start."""
    if len(weeks) < 2:
        return "A history by week begins after two weeks of log."
    began, now = weeks[0], weeks[-1]
    share = now.per_person / began.per_person - 1 if began.per_person > 0 else 0.0
    since = f"since the week of {short_date(began.first)}, {per_person(began.per_person, display)} then"
    last = f"{capital(per_person(now.per_person, display))} in the last full week"
    if abs(share) < _FELL:
        return f"{last}, about the same {since}."
    return f"{last}: {figure(abs(share) * 100)} % {'less' if share < 0 else 'more'} {since}."


def drained(since: datetime, display: Display) -> str:
    """That the rig was drained, and when."""
    return f"{DRAINED} Drained {short_date(display.local(since).date())}."
