"""The balance of a span: what left the fresh tanks, where it went, and where the sums do not close."""

from collections.abc import Mapping, Sequence
from datetime import date, datetime, timedelta
from enum import StrEnum

import numpy as np

from lodeline.core.catalogue import Outlet, Role, Toilet
from lodeline.core.figures import Numeric, Water
from lodeline.core.habits import besides_l, flush_tank, usual_activities
from lodeline.core.log import OUTSIDE, Log
from lodeline.core.rig import Rig, Store
from lodeline.core.tracking.hypothesis import DoubtKind
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass
from lodeline.core.water.learned import Amount as Learned
from lodeline.core.water.spans import NOTHING, Estimate, Through, through


class Went(StrEnum):
    """Where water went."""

    GREY = "grey"
    TOILET = "toilet"
    DRUNK = "drunk"
    DRIED = "dried"
    ELSEWHERE = "elsewhere"
    UNTOLD = "untold"


class Reason(StrEnum):
    """Why a balance may not close."""

    LEAK = "leak"
    THROWN_OUT = "thrown-out"
    GREY_NOT_LOGGED = "grey-not-logged"
    FILL_NOT_LOGGED = "fill-not-logged"
    OTHER_WATER = "other-water"
    RAIN = "rain"
    GAUGE = "gauge"
    OUTLIER = "outlier"


@dataclass(frozen=True, slots=True, kw_only=True)
class Flow:
    """One way that water went, over the span. [L]"""

    went: Went
    amount: Estimate
    store: Store | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Balance:
    """The water of a span.

    ``drawn``: what left the fresh tanks and jugs; ``filled_l``: what came in; ``parts``: where it went; ``apart``: what
    is left over, with the error of all sums; ``closes``: whether that may be nothing but error; ``reasons``: why not,
    the likeliest first. ``known_days``: of how much of it the fresh tank was known. [L, day]
    """

    since: datetime
    until: datetime
    known_days: float
    drawn: Estimate
    filled_l: float
    dumped_l: float
    parts: tuple[Flow, ...]
    apart: Estimate
    closes: bool
    reasons: tuple[Reason, ...]

    @property
    def per_day(self) -> float:
        """Drawn a day. [L/day]"""
        return self.drawn.value / max(self.known_days, Numeric.tiny)


def balance(
    rig: Rig, log: Log, tracked: Mapping[str, Tracked], learned: Sequence[Learned], since: datetime, until: datetime
) -> Balance | None:
    """The balance of a span; None where no fresh tank was known in it.

    ``learned``: what activities take aboard. What is drunk and what dries is common practice, with its error; grey and
    what left the fresh tanks are as the levels say.
    """
    drawn, known_days, filled = _drawn(rig, tracked, since, until)
    if known_days <= 0:
        return None
    days = known_days
    parts, dumped = _waste(rig, tracked, since, until)
    elsewhere = _elsewhere(rig, log, since, until)
    drawn += elsewhere
    parts += _used_up(rig, learned, drawn, days, bool(parts))
    if elsewhere.value > 0:
        parts.append(Flow(went=Went.ELSEWHERE, amount=elsewhere))
    whole = NOTHING
    for part in parts:
        whole += part.amount
    apart = drawn - whole
    has_grey = any(part.went is Went.GREY for part in parts)
    closes = not has_grey or abs(apart.value) <= Water.most_apart * max(apart.sd, _LEAST_APART_L)
    if not has_grey:
        # with no tank under the drain, what is left over went out of it
        parts.append(Flow(went=Went.UNTOLD, amount=apart))
    return Balance(
        since=since,
        until=until,
        known_days=days,
        drawn=drawn,
        filled_l=filled,
        dumped_l=dumped,
        parts=tuple(parts),
        apart=apart,
        closes=closes,
        reasons=() if closes else _reasons(tracked, apart.value, since, until),
    )


# A sum that misses by less than this is not worth a question. [L]
_LEAST_APART_L = 1.0


def _known(tracked: Mapping[str, Tracked], store: Store, since: datetime, until: datetime) -> Through | None:
    each = tracked.get(store.id)
    return through(each, since, until) if each is not None else None


def _drawn(rig: Rig, tracked: Mapping[str, Tracked], since: datetime, until: datetime) -> tuple[Estimate, float, float]:
    """What use took from all fresh tanks, the days of it that are known, and what was filled in."""
    drawn, days, filled = NOTHING, 0.0, 0.0
    for store in rig.every(Role.WATER):
        if store is flush_tank(rig) or (went := _known(tracked, store, since, until)) is None:
            continue
        drawn, days, filled = drawn + went.used, max(days, went.days), filled + went.put_in
    return drawn, days, filled


def _waste(rig: Rig, tracked: Mapping[str, Tracked], since: datetime, until: datetime) -> tuple[list[Flow], float]:
    """What arrived in the waste tanks of the water that was drawn, and what was emptied from the grey ones."""
    parts, dumped = [], 0.0
    for store in rig.every(Role.DRAIN):
        if (went := _known(tracked, store, since, until)) is None:
            continue
        besides = besides_l(rig, store) * went.days
        amount = Estimate(went.used.value - besides, float(np.hypot(went.used.sd, _BESIDES_CV * besides)))
        parts.append(Flow(went=Went.GREY, amount=amount, store=store))
        dumped += went.taken_out
    return parts, dumped


_BESIDES_CV = 0.3  # error of what was taken besides (common practice)


def _used_up(rig: Rig, learned: Sequence[Learned], drawn: Estimate, days: float, has_grey: bool) -> list[Flow]:
    """What is drunk, flushed and what dries, by what it usually is."""
    taken = {each.activity.id: each for each in usual_activities(rig)}
    amounts = {each.activity.id: each for each in learned}
    drunk, flushed = NOTHING, NOTHING
    for id, each in taken.items():
        known = amounts.get(id)
        a_day = known.day_l.p50 if known is not None else each.day_l
        part = Estimate(days * a_day, days * each.day_sd_l)
        if each.activity.outlet is Outlet.TOILET:
            flushed += part
        elif each.activity.need:
            stays = 1 - each.activity.to_grey
            drunk += Estimate(stays * part.value, stays * part.sd)
    parts = [Flow(went=Went.DRUNK, amount=drunk)]
    to_tank = any(Outlet.TOILET in store.takes for store in rig.every(Role.DRAIN))
    if flushed.value > 0 and not to_tank:
        toilet = next((s for s in rig.stores if s.kind.toilet in (Toilet.BLACK, Toilet.CASSETTE)), None)
        parts.append(Flow(went=Went.TOILET, amount=flushed, store=toilet))
    if has_grey:
        rest = max(0.0, drawn.value - drunk.value - flushed.value)
        parts.append(Flow(went=Went.DRIED, amount=Estimate(Water.drain_lost * rest, Water.drain_lost_sd * rest)))
    return parts


def _elsewhere(rig: Rig, log: Log, since: datetime, until: datetime) -> Estimate:
    """What was taken from tanks and jugs and used outside, as logged."""
    vessels = {store.id for store in rig.every(Role.WATER)} | {jug.id for jug in rig.jugs}
    amounts = [
        event.amount or 0.0
        for day in log.days
        for event in day.events
        if since < event.at <= until and event.source in vessels and event.target == OUTSIDE
    ]
    return Estimate(sum(amounts), Water.metered_cv * sum(amounts))


def _reasons(tracked: Mapping[str, Tracked], apart: float, since: datetime, until: datetime) -> tuple[Reason, ...]:
    """Why a sum does not close: what was doubted in the span first, then what is common."""
    doubted = [d.kind for each in tracked.values() for d in each.doubts if since < d.at <= until]
    found = [_OF_DOUBT[kind] for kind in doubted if kind in _OF_DOUBT]
    usual = (
        (Reason.THROWN_OUT, Reason.LEAK, Reason.GREY_NOT_LOGGED, Reason.GAUGE)
        if apart > 0
        else (Reason.FILL_NOT_LOGGED, Reason.OTHER_WATER, Reason.RAIN, Reason.GAUGE)
    )
    return tuple(dict.fromkeys([*[each for each in found if each in usual or each is Reason.OUTLIER], *usual]))


_OF_DOUBT = {
    DoubtKind.RISE: Reason.FILL_NOT_LOGGED,
    DoubtKind.FALL: Reason.GREY_NOT_LOGGED,
    DoubtKind.OVER: Reason.OTHER_WATER,
    DoubtKind.READING: Reason.OUTLIER,
    DoubtKind.AGAINST: Reason.OUTLIER,
}


@dataclass(frozen=True, slots=True, kw_only=True)
class UseThen:
    """Water a person a day in a stretch of time, and over how many known days. [L/day]"""

    first: date
    days: int
    per_person: float


def by_stretch(rig: Rig, log: Log, used: Mapping[date, float], months: bool, today: date) -> tuple[UseThen, ...]:
    """Litres a person a day by week or by month, the oldest first. ``used``: fresh water by date. [L]"""
    aboard = {day.date: day.crew_aboard for day in log.days if day.crew_aboard is not None}
    stretches: dict[date, list[date]] = {}
    for on in sorted(used):
        if on < today:
            first = on.replace(day=1) if months else on - timedelta(days=on.weekday())
            stretches.setdefault(first, []).append(on)
    found = []
    for first, dates in stretches.items():
        if len(dates) < _LEAST_DAYS:
            continue
        people = [max(1, aboard.get(on, rig.crew.people)) for on in dates]
        a_person = sum(used[on] for on in dates) / sum(people)
        found.append(UseThen(first=first, days=len(dates), per_person=a_person))
    return tuple(found)


_LEAST_DAYS = 3  # fewer make no mean of a stretch
