"""A ration: so many litres a day that the water and the room for waste water last until a day, and what that allows.

Both lines have to hold: fresh's, and that of every grey tank. A crew that keeps a ration does not use what it happens
to use, so that what is left uncertain is the levels, how much of the water comes to the drain, and how well it keeps.
"""

from collections.abc import Mapping, Sequence
from datetime import date, timedelta
from enum import StrEnum

import numpy as np

from lodeline.core.catalogue import Activity, Outlet, Role
from lodeline.core.catalogue.levers import LEVER_KINDS
from lodeline.core.figures import Numeric, Water
from lodeline.core.forecast.known import Known
from lodeline.core.forecast.paths import Ahead, Drawn, draw_state, reserve_room
from lodeline.core.habits import besides_l, flush_tank, to_grey, usual_activities
from lodeline.core.rig import Rig, Store
from lodeline.core.statistics import Floats, reached_by
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.tracking.use import WAKING_SHAPE
from lodeline.core.values import dataclass
from lodeline.core.water.learned import Amount


class Floor(StrEnum):
    """A published floor that a ration lies under."""

    SURVIVAL = "survival"
    EMERGENCY = "emergency"
    BASIC = "basic"


@dataclass(frozen=True, slots=True, kw_only=True)
class Allowed:
    """What a ration leaves of one activity: so many a day, at so much each. ``instead``: in the place of a thirstier
    way of the same; ``dates``: where it is not done every day, with how many on each; ``cut``: whether it is less than
    usual."""

    activity: Activity
    per_day: float
    each_l: float
    cut: bool
    instead: bool = False
    dates: tuple[date, ...] = ()
    each_on_a_date: int = 1


@dataclass(frozen=True, slots=True, kw_only=True)
class Ration:
    """The ration until a date. [L]

    ``a_day_l``: for a whole day, ``left_today_l``: what is left of today's; ``binds``: the store that sets it;
    ``usual_l``: what is used on a usual day; ``floor``: the published floor that it lies under, for one person;
    ``path``: expected contents of the fresh tank at each midnight if it is kept.
    """

    until: date
    sure: float
    days: float
    a_day_l: float
    left_today_l: float
    used_today_l: float
    usual_l: float
    binds: Store
    per_person_l: float
    floor: Floor | None
    allowed: tuple[Allowed, ...]
    path: tuple[tuple[date, float], ...]

    @property
    def short_l(self) -> float:
        """What is used a day even with all of that cut, beyond the ration. [L/day]"""
        return max(0.0, sum(each.per_day * each.each_l for each in self.allowed) - self.a_day_l)

    @property
    def enough(self) -> bool:
        """Whether nobody has to do without."""
        return self.a_day_l >= self.usual_l


@dataclass(frozen=True, slots=True, kw_only=True)
class _Line:
    """One tank's room on each path, and what of a litre used reaches it beyond what never does. [L]"""

    store: Store
    room: Floats
    share: Floats
    apart_l: float
    besides_l: float


def ration(
    known: Known, ahead: Ahead, learned: Sequence[Amount], until: date, leave_h: float, sure: float, used_today_l: float
) -> Ration | None:
    """The largest ration that lasts until an hour of a date with a chance of ``sure``; None where no tank is known.

    Parameters
    ----------
    ahead : Ahead
        The paths' time, seed and number.
    learned : sequence of Amount
        What activities take aboard.
    leave_h : float
        Day hour of ``until`` at which it may be used up. [h]
    used_today_l : float
        What was used since midnight. [L]
    """
    rig = known.rig
    lines = [*_fresh_lines(known, ahead), *_grey_lines(known, ahead, learned)]
    if not lines:
        return None
    today = ahead.days[0].date
    over = float(WAKING_SHAPE[: int(ahead.hour)].sum())
    rest_days = (until - today).days - 1 + float(WAKING_SHAPE[: int(leave_h)].sum())
    left_days = max(1 - over + rest_days, _LEAST_DAYS)
    usual = sum(each.day_l.p50 for each in learned)
    kept = _kept(ahead, left_days)
    budget, binds = _budget(lines, left_days, kept, sure)
    whole = 1 + rest_days
    a_day = (budget + used_today_l) / whole
    people = max(1, rig.crew.people)
    store = rig.first(Role.WATER)
    fresh = known.store(store.id) if store is not None else None
    return Ration(
        until=until,
        sure=sure,
        days=left_days,
        a_day_l=a_day,
        left_today_l=max(0.0, a_day - used_today_l),
        used_today_l=used_today_l,
        usual_l=usual,
        binds=binds,
        per_person_l=a_day / people,
        floor=_floor(a_day, people, ahead),
        allowed=_allowed(rig, learned, a_day, today, until),
        path=_path(fresh, today, until, a_day, used_today_l),
    )


_LEAST_DAYS = 0.05  # of today that is left, over which its rest is spread


def _fresh_lines(known: Known, ahead: Ahead) -> list[_Line]:
    """All fresh tanks as one: their water is used for the same things."""
    stores = [store for store in known.rig.every(Role.WATER) if store is not flush_tank(known.rig)]
    tanks = [each for store in stores if (each := known.store(store.id)) is not None]
    if not tanks:
        return []
    rooms = [
        np.maximum(_drawn(known, ahead, each).level - each.store.line_level, 0.0) + reserve_room(each) for each in tanks
    ]
    one = np.ones(ahead.n_paths)
    return [_Line(store=tanks[0].store, room=np.sum(rooms, axis=0), share=one, apart_l=0.0, besides_l=0.0)]


def _drawn(known: Known, ahead: Ahead, tracked: Tracked) -> Drawn:
    return draw_state(tracked, ahead.chance(tracked.store), ahead.n_paths, known.scale_of(tracked.store.id))


def _grey_lines(known: Known, ahead: Ahead, learned: Sequence[Amount]) -> list[_Line]:
    """Each grey tank: its flow on a usual day, over what of the usual water is neither drunk nor flushed."""
    rig, lines = known.rig, []
    usual = sum(each.day_l.p50 for each in learned)
    for store in rig.every(Role.DRAIN):
        each = known.store(store.id)
        if each is None:
            continue
        drawn = _drawn(known, ahead, each)
        room = np.maximum(store.line_level - drawn.level, 0.0) + reserve_room(each)
        kept = [a for a in learned if a.activity.need or a.activity.outlet is Outlet.TOILET]
        apart = sum(a.day_l.p50 * (1 - to_grey(rig, store, a.activity)) for a in kept)
        besides = besides_l(rig, store)
        flow = np.exp(drawn.logs).T @ each.model.usual_x - besides
        share = np.clip(flow / max(usual - apart, Numeric.tiny), 0.0, 1.0) if usual > 0 else np.ones(ahead.n_paths)
        lines.append(_Line(store=store, room=room, share=share, apart_l=apart, besides_l=besides))
    return lines


def _kept(ahead: Ahead, days: float) -> Floats:
    """How much more or less than the ration each path uses: the same way every day, and from day to day."""
    z = np.random.default_rng(ahead.seed).standard_normal((2, ahead.n_paths))
    kept: Floats = 1 + Water.keeps_cv * (z[0] / np.sqrt(max(days, 1.0)) + z[1] / 2)
    return kept


def _budget(lines: Sequence[_Line], days: float, kept: Floats, sure: float) -> tuple[float, Store]:
    """The most water that may be used until the end, and the store that allows no more. [L]"""
    each = [reached_by(_allows(line, days) / kept, 1 - sure)[0] for line in lines]
    together = np.min([_allows(line, days) for line in lines], axis=0) / kept
    return max(0.0, reached_by(together, 1 - sure)[0]), lines[int(np.argmin(each))].store


def _allows(line: _Line, days: float) -> Floats:
    """The water that fills or empties one tank on each path. [L]"""
    room = np.maximum(line.room - line.besides_l * days, 0.0)
    allows: Floats = room / np.maximum(line.share, _LEAST_SHARE) + line.apart_l * days
    return allows


_LEAST_SHARE = 0.02  # of a litre that reaches a drain


def _floor(a_day: float, people: int, ahead: Ahead) -> Floor | None:
    """The published floor that a ration lies under, more in heat."""
    hot = any(2 * day.mean_c - day.min_c > Water.heat_from_c for day in ahead.days[:_SOON])
    more = Water.heat_l if hot else 0.0
    a_person = a_day / people
    if a_person < Water.survival_l + more:
        return Floor.SURVIVAL
    if a_person < Water.emergency_l + more:
        return Floor.EMERGENCY
    return Floor.BASIC if a_person < Water.basic_l + more else None


_SOON = 4  # days ahead whose heat asks for more to drink


def _path(
    fresh: Tracked | None, today: date, until: date, a_day: float, used_today: float
) -> tuple[tuple[date, float], ...]:
    if fresh is None:
        return ()
    at_midnight = fresh.level - max(0.0, a_day - used_today)
    days = (until - today).days
    return tuple((today + timedelta(days=i), max(0.0, at_midnight - i * a_day)) for i in range(days))


@dataclass(slots=True, kw_only=True)
class _Use:
    """An activity while a ration is put together. ``a_day_l``: what it takes a day."""

    activity: Activity
    per_day: float
    each_l: float
    usual_per_day: float
    instead: bool = False
    cut: bool = False

    @property
    def a_day_l(self) -> float:
        return self.per_day * self.each_l


def _allowed(rig: Rig, learned: Sequence[Amount], a_day: float, today: date, until: date) -> tuple[Allowed, ...]:
    """What a ration allows, cut in the crew's own order: what it minds least goes first.

    What is cut last is given back as often as the ration allows.
    """
    uses = {
        each.activity.id: _Use(
            activity=each.activity, per_day=each.per_day, each_l=each.each_l.p50, usual_per_day=each.per_day
        )
        for each in learned
    }
    last: str | None = None
    for cuts in _in_order(rig):
        if _whole(uses) <= a_day:
            break
        for id, share in cuts.items():
            if id in uses and not uses[id].activity.need:
                _cut(uses[id], share, learned)
                last = id
    slack = a_day - _whole(uses)
    if last is not None and slack > 0:
        back = uses[last]
        back.per_day = min(back.usual_per_day, back.per_day + slack / max(back.each_l, Numeric.tiny))
    return tuple(_told(rig, each, today, until) for each in uses.values())


def _whole(uses: Mapping[str, _Use]) -> float:
    return sum(each.a_day_l for each in uses.values())


def _in_order(rig: Rig) -> list[Mapping[str, float | None]]:
    """What the levers on water cut, what the crew minds least first; what it never does is left out."""
    kinds = [kind for kind in LEVER_KINDS.values() if kind.cuts]
    able = [(how_hard, kind.cuts) for kind in kinds if (how_hard := rig.hardship_of(kind, kind.id)) is not None]
    return [cuts for _, cuts in sorted(able, key=lambda one: one[0])]


def _cut(use: _Use, share: float | None, learned: Sequence[Amount]) -> None:
    """Done once a day at most, not at all, or with a share of its litres less: in its sparing way, if it has one."""
    use.cut = True
    if share is None:
        use.per_day = min(use.per_day, 1.0)
    elif share >= 1:
        use.per_day = 0.0
    else:
        use.instead = use.activity.instead is not None
        sparing = next((a for a in learned if a.activity.id == use.activity.instead), None)
        use.each_l = sparing.each_l.p50 if sparing is not None else use.each_l * (1 - share)


def _told(rig: Rig, use: _Use, today: date, until: date) -> Allowed:
    dates: tuple[date, ...] = ()
    together = 1
    if 0 < use.per_day < _EVERY_DAY and use.activity.event is not None:
        dates, together = _dates(rig, use, today, until)
    return Allowed(
        activity=use.activity,
        per_day=use.per_day,
        each_l=use.each_l,
        cut=use.cut and (use.instead or use.per_day < use.usual_per_day - Numeric.small or not use.activity.event),
        instead=use.instead,
        dates=dates,
        each_on_a_date=together,
    )


_EVERY_DAY = 0.95  # from here on it is done each day


def _dates(rig: Rig, use: _Use, today: date, until: date) -> tuple[tuple[date, ...], int]:
    """Dates on which something is done that is not done every day: evenly, and never on a day on which it is ashore;
    and how many on each.

    Showers are taken by all on one day, where there is water for that.
    """
    off = next((each.not_on for each in usual_activities(rig) if each.activity is use.activity), frozenset())
    days = max(1, (until - today).days)
    able = [on for i in range(days) if (on := today + timedelta(days=i)).weekday() not in off]
    times = int(use.per_day * days + Numeric.small)
    together = rig.crew.people if use.activity.group == _SHOWERS and times >= rig.crew.people else 1
    n = min(len(able), times // together)
    return tuple(able[int((i + 0.5) * len(able) / n)] for i in range(n)), together


_SHOWERS = "shower"
