"""Ranges, times and the sentence above the Horizon, in plain words."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

from lodeline.core.forecast.forecast import Forecast, StoreForecast
from lodeline.core.rig import Kind, Rig, Sense, Store
from lodeline.core.tracking.story import Doubt
from lodeline.core.tracking.track import Tracked
from lodeline.core.units import System, shown

_PARTS = ((6, "before dawn"), (12, "in the morning"), (18, "in the afternoon"), (24, "in the evening"))
_EDGES = ((0, "midnight"), (6, "dawn"), (12, "noon"), (18, "evening"), (24, "midnight"))


def day_name(at: datetime, now: datetime) -> str:
    """A day as people name it from now: today, tomorrow, Thursday, Thursday 3 December."""
    ahead = (at.date() - now.date()).days
    if ahead == 0:
        return "today"
    if ahead == 1:
        return "tomorrow"
    return at.strftime("%A") if ahead < 7 else f"{at.strftime('%A')} {at.day} {at.strftime('%B')}"


def _part(at: datetime) -> str:
    return next(words for until, words in _PARTS if at.hour < until)


def when(at: datetime, now: datetime) -> str:
    """A day and the part of it."""
    return f"{day_name(at, now)} {_part(at)}"


def between(low: datetime, high: datetime, now: datetime) -> str:
    """A range of times in words, coarse as people speak."""
    if low.date() == high.date():
        first, second = _part(low), _part(high)
        if first == second:
            return f"{day_name(low, now)} {first}"
        start = max(edge for edge in _EDGES if edge[0] <= low.hour)[1]
        end = min(edge for edge in _EDGES if edge[0] > high.hour)[1]
        return f"{day_name(low, now)}, some time between {start} and {end}"
    return f"between {when(low, now)} and {when(high, now)}"


def days_words(days: float) -> str:
    """A span in days, as people say it."""
    if days < 1:
        hours = max(1, round(days * 24))
        return f"{hours} hour{'s' if hours != 1 else ''}"
    value = f"{days:.1f}" if days < 3 else f"{days:.0f}"
    return f"{value} day{'s' if value not in ('1', '1.0') else ''}"


@dataclass(frozen=True, slots=True)
class Sentence:
    """What the Horizon says: a headline, when in words, how sure."""

    headline: str
    detail: str


def _verb(store: Store) -> str:
    if store.kind is Kind.BATTERY:
        return "runs down to its line"
    return "reaches its line" if store.sense is Sense.DRAINS else "is full to its line"


def binding_sentence(rig: Rig, found: Forecast, days: int) -> Sentence:
    """The sentence above the Horizon."""
    zone = ZoneInfo(rig.timezone)
    now = found.at.astimezone(zone)
    if not any(each.known for each in found.stores):
        return Sentence(
            "Nothing is known yet.", "Take one reading of each store in the Round, and the days are counted from it."
        )
    first = found.autonomy
    if first.store is None or first.p10_days is None:
        return Sentence(f"You can stay: nothing binds within {days} days.", _unknown_words(found))
    binds = found.of(first.store)
    if first.p50_days == 0 and binds.p50_days == 0:
        return Sentence(f"{binds.store.name} is past its line now.", _second_words(found, now))
    low = now + timedelta(days=first.p10_days)
    if first.p90_days is None:
        chance = round(100 * (1 - found.p_stay[-1][1]))
        return Sentence(
            f"You may well stay {days} days; if anything, {binds.store.name} sends you away.",
            f"The chance that a line is reached within {days} days is {chance} %, from {when(low, now)} on. "
            + _second_words(found, now),
        )
    high = now + timedelta(days=first.p90_days)
    share = round(100 * binds.p_first)
    sure = "almost surely the first" if share >= 90 else f"first in {round(share / 10)} of 10 cases"
    assumed = " Its use is still assumed, not logged." if binds.assumed else ""
    middle = first.p50_days if first.p50_days is not None else first.p10_days
    return Sentence(
        f"About {days_words(middle)} left: {binds.store.name} sends you away first.",
        f"It {_verb(binds.store)} {between(low, high, now)} (8 in 10), {sure}.{assumed} " + _second_words(found, now),
    )


def _second_words(found: Forecast, now: datetime) -> str:
    if found.second is None:
        return _unknown_words(found)
    second = found.of(found.second)
    if second.p50_days is None:
        return _unknown_words(found)
    text = f"Next: {second.store.name}, {when(now + timedelta(days=second.p50_days), now)}."
    return f"{text} {_unknown_words(found)}".strip()


def _unknown_words(found: Forecast) -> str:
    names = [each.store.name for each in found.stores if not each.known]
    if not names:
        return ""
    return f"Not counted, as no reading was taken yet: {', '.join(names)}."


def store_sentence(rig: Rig, each: StoreForecast, at: datetime, days: int) -> str:
    """One store's outlook in words."""
    now = at.astimezone(ZoneInfo(rig.timezone))
    if not each.known:
        return "Not known yet: take a reading."
    if each.p50_days == 0:
        return "Past its line now."
    if each.p10_days is None:
        if each.store.kind is Kind.BATTERY and (each.rate_per_day or 0) <= 0:
            return f"Holds: the sun brings more than is used. Not at its line within {days} days."
        return f"Not at its line within {days} days (9 in 10)."
    low = when(now + timedelta(days=each.p10_days), now)
    if each.p90_days is None:
        return f"At its line from {low} on, or not within {days} days."
    return f"At its line {between(now + timedelta(days=each.p10_days), now + timedelta(days=each.p90_days), now)}."


def level_words(tracked: Tracked, low: float, high: float, system: System) -> str:
    """Level and its range: 63 L (54 to 71 L)."""
    unit = shown(tracked.store.unit, system)
    return f"{unit.text(tracked.belief.level)}, 8 in 10: {unit.text(low)} to {unit.text(high)}"


def doubt_sentence(store: Store, doubt: Doubt, system: System, zone: ZoneInfo) -> str:
    """What hardly fits, as a question that names what would settle it."""
    unit = shown(store.unit, system)
    local = doubt.at.astimezone(zone)
    on = f"{local.strftime('%A')} {local.day} {local.strftime('%B')}"
    amount = unit.text(abs(doubt.amount))
    if doubt.kind == "stuck":
        return (
            f"{store.name} has shown the same for many readings up to {on}, while use should have moved it by "
            f"about {amount}. Has its gauge stuck? Read it another way."
        )
    if doubt.kind == "over":
        return (
            f"{store.name} grows by about {amount} a day more than fresh water is used, up to {on}. "
            "Rain, a leak, or water from elsewhere?"
        )
    if doubt.kind == "rise":
        act = {Sense.DRAINS: "Filled?", Sense.FILLS: "Was something poured in?"}[store.sense]
        act = "Charged?" if store.kind is Kind.BATTERY else act
        return f"{store.name} rose by about {amount} by {on} with nothing logged for it. {act}"
    if doubt.kind == "fall":
        act = "Dumped?" if store.sense is Sense.FILLS else "A leak, or a large use?"
        return f"{store.name} fell by about {amount} by {on}, more than use explains. {act}"
    return (
        f"The reading of {store.name} on {on} hardly fits: {unit.text(doubt.expected)} was expected. "
        "It is kept but weighed down. Correct it, or take another reading."
    )
