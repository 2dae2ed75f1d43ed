"""Levels from a log: one walk a store, and what is known at its end."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, datetime

from lodeline.core.carried import as_followed
from lodeline.core.catalogue import Role, Sense, SkyWord
from lodeline.core.conditions import Conditions, logged
from lodeline.core.energy.skies import SkyHabit, sky_habit
from lodeline.core.figures import Tracking, Use
from lodeline.core.log import Log, Reading
from lodeline.core.rig import Rig, Store
from lodeline.core.statistics import P10, P50, P90
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.bounded import bounded
from lodeline.core.tracking.charging import Charge
from lodeline.core.tracking.checkpoints import Checkpoints, restore
from lodeline.core.tracking.coupling import Neighbour, neighbour
from lodeline.core.tracking.cross_checks import cross_check
from lodeline.core.tracking.day_kinds import known_day_kinds
from lodeline.core.tracking.events import timed
from lodeline.core.tracking.hypothesis import (
    Compared,
    Doubt,
    DoubtKind,
    Point,
    Possible,
    believed_doubts,
    level_quantiles,
    possible,
)
from lodeline.core.tracking.model import UseModel
from lodeline.core.tracking.use import expected_use
from lodeline.core.tracking.walk import Walk


@dataclass(frozen=True, slots=True, kw_only=True)
class Tracked:
    """What is known of a store at the end of the walk.

    ``belief``: all that may be true as one; ``parts``: each of it with its chance. ``hour``: day hours of today that
    are over. ``reserve``: what is left of what is carried apart, in the store's unit. ``lost_since``: where its line
    should have been met since and nothing was logged, when it was last known; its level is then anybody's guess.
    ``drained_since``: it was drained against the frost.
    ``should_be_past``: use as expected has brought it past its line since it was read.
    """

    store: Store
    model: UseModel
    belief: b.Belief
    parts: tuple[Possible, ...]
    known_since: datetime | None
    spread: float
    sky_spread: float
    days_seen: float
    usual_sky: SkyHabit
    conditions: Conditions
    hour: float
    history: tuple[Point, ...] = ()
    doubts: tuple[Doubt, ...] = ()
    last_reading: Reading | None = None
    last_reset: datetime | None = None
    pending: tuple[Charge, ...] = ()
    compared: tuple[Compared, ...] = ()
    reserve: float = 0.0
    reserve_used_at: datetime | None = None
    lost_since: datetime | None = None
    drained_since: datetime | None = None
    should_be_past: bool = False
    known_at: datetime | None = None
    use_told_on: date | None = None
    km_per_h: float = Use.km_per_drive_hour

    @property
    def assumed(self) -> bool:
        """Whether the rate still rests on what crew and kind lead one to expect."""
        return self.days_seen < Tracking.known_days

    @property
    def level(self) -> float:
        """The best estimate of the contents: as likely too high as too low, so never between two that may be true."""
        return level_quantiles(self.parts, self.store.capacity, P50)[0]

    @property
    def level_range(self) -> tuple[float, float]:
        """The 8-in-10 range of the contents, kept within 0 to capacity."""
        low, high = level_quantiles(self.parts, self.store.capacity, P10, P90)
        return low, high

    def coefficient(self, driver: str) -> tuple[float, float] | None:
        """What is believed of a driver's coefficient and its error; None where it does not drive the store."""
        if driver not in self.model.drivers:
            return None
        return self.belief.coefficient(self.model.drivers.index(driver))

    @property
    def counted_reserve(self) -> float:
        """What is left of the reserve, where it counts."""
        return self.reserve if self.store.reserve_counts else 0.0

    @property
    def is_past_line(self) -> bool:
        """Whether the best estimate is past the lode line, and no reserve that counts is left."""
        past = (self.level - self.store.line_level) * self.store.sign >= 0 or self.should_be_past
        return past and self.counted_reserve <= 0


def track(
    rig: Rig,
    log: Log,
    now: datetime,
    checkpoints: Checkpoints | None = None,
    progress: Callable[[float], object] = lambda share: None,
) -> dict[str, Tracked]:
    """Level, rate and doubts of every store at ``now``; nothing logged later is looked at.

    With ``checkpoints`` the walk goes on from the latest before which nothing was changed; the answer is the same.
    ``progress`` is told the share that is done. A log beyond what hands write is followed as far as `bounded` says.
    """
    today = rig.zone.date(now)
    log = timed(as_followed(rig, bounded(len(rig.stores), log.until(now, rig.zone), today)))
    kinds = known_day_kinds(log, rig.habits)
    resumed = checkpoints.resume(rig, log, kinds, today) if checkpoints is not None else None
    since, before = (resumed[0], resumed[1].last) if resumed else (None, None)
    days = logged(rig, log, today, since, before)
    usual = _usual_by_date(log, days)
    wanted = checkpoints.dates(min(days), today) if checkpoints is not None else set()
    usual_now = sky_habit([day.sky for day in log.days[-Tracking.skies_back_days :] if day.sky])
    tracked: dict[str, Tracked] = {}
    fresh, drained = rig.first(Role.WATER), rig.every(Role.DRAIN)
    beside: dict[str, Neighbour] = {}
    # the fresh tank first: the grey ones hear of its days
    for store in sorted(rig.stores, key=lambda each: each is not fresh):
        walk = Walk(rig, store, log, days, usual, now, kinds, beside.get(store.id), before)
        if resumed:
            restore(walk, resumed[1].stores[store.id])
        for on, last in walk.run(wanted):
            if checkpoints is not None:
                checkpoints.save(on, log, last, store.id, walk)
        tracked[store.id] = _tracked(walk, usual_now, days[today])
        progress(len(tracked) / len(rig.stores))
        if store is fresh:
            beside = {
                grey.id: neighbour(rig, walk.model, expected_use(rig, grey, kinds), walk.unusual, walk.learned)
                for grey in drained
            }
    return cross_check(rig, {store.id: tracked[store.id] for store in rig.stores})


def _usual_by_date(log: Log, days: dict[date, Conditions]) -> dict[date, SkyHabit]:
    """The usual sky as it was known on each date: from the skies logged before it."""
    start = log.first_from(min(days))
    words: list[SkyWord] = [day.sky for day in log.days[max(0, start - Tracking.skies_back_days) : start] if day.sky]
    current = sky_habit(words)
    usual = {}
    for on, day in days.items():
        usual[on] = current
        if day.sky:
            words.append(day.sky)
            current = sky_habit(words)
    return usual


def _worth_asking(walk: Walk) -> tuple[Doubt, ...]:
    """Doubts of enough weight; a step with nothing logged must be of a size that somebody would remember."""
    least = Tracking.least_step * walk.store.capacity
    odd = DoubtKind.FALL if walk.store.sense is Sense.DRAINS else DoubtKind.RISE

    def share(doubt: Doubt) -> float:
        is_odd = doubt.kind is odd and not walk.store.is_bank
        return Tracking.ask_odd_from if is_odd else Tracking.ask_from

    doubts = believed_doubts(walk.hypotheses, share)
    steps = (DoubtKind.RISE, DoubtKind.FALL)
    return tuple(doubt for doubt in doubts if doubt.kind not in steps or abs(doubt.amount) >= least)


def _tracked(walk: Walk, usual: SkyHabit, conditions: Conditions) -> Tracked:
    best = walk.best
    return Tracked(
        store=walk.store,
        model=walk.model,
        belief=walk.belief,
        parts=possible(walk.hypotheses),
        known_since=walk.known_since,
        spread=best.spread,
        sky_spread=best.sky_spread,
        days_seen=best.days_seen,
        usual_sky=usual,
        conditions=conditions,
        hour=walk.hour,
        history=tuple(best.history),
        doubts=_worth_asking(walk),
        last_reading=walk.last_reading,
        last_reset=walk.last_reset,
        pending=tuple(each for each in walk.charges if each.end > walk.now),
        compared=tuple(walk.compared),
        reserve=walk.reserve,
        reserve_used_at=walk.reserve_used_at,
        lost_since=walk.lost_since,
        drained_since=walk.drained_since,
        should_be_past=walk.lost_since is None and walk.past_line >= 1,
        known_at=walk.known_at,
        km_per_h=walk.speed.km_per_h,
        use_told_on=walk.learned.on if walk.learned else None,
    )
