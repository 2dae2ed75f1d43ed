"""Levels from a log: one walk a store, and what is known at its end."""

from dataclasses import dataclass
from datetime import date, datetime
from zoneinfo import ZoneInfo

from lodeline.core.conditions import Conditions, logged
from lodeline.core.energy.skies import SkyHabit, sky_habit
from lodeline.core.log import Log, Reading
from lodeline.core.rig import Kind, Rig, Sense, Store
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.beside import beside
from lodeline.core.tracking.charging import Charge
from lodeline.core.tracking.kinds import day_kinds
from lodeline.core.tracking.marks import Marks, restore
from lodeline.core.tracking.model import UseModel
from lodeline.core.tracking.story import Doubt, Point, Seen, believed_doubts
from lodeline.core.tracking.together import together
from lodeline.core.tracking.use import expected_use
from lodeline.core.tracking.walk import Walk

# Days of use seen after which a rate is called logged, no longer assumed.
DAYS_TO_KNOW = 5.0
# Share of the weight of all accounts that must doubt a reading before the user is asked; a step the odd way, such as
# a leak or something poured in, is asked about when it is likelier than not (sim).
_ASK_FROM, _ASK_ODD_FROM = 0.15, 0.5
_LEAST_STEP = 0.12


@dataclass(frozen=True, slots=True)
class Tracked:
    """What is known of a store at the end of the walk."""

    store: Store
    model: UseModel
    belief: b.Belief
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
    seen: tuple[Seen, ...] = ()

    @property
    def assumed(self) -> bool:
        """Whether the rate still rests on what crew and kind lead one to expect."""
        return self.days_seen < DAYS_TO_KNOW


def track(rig: Rig, log: Log, now: datetime, marks: Marks | None = None) -> dict[str, Tracked]:
    """Level, rate and doubts of every store at ``now``; nothing logged later is looked at.

    With ``marks`` the walk goes on from the latest day mark before which nothing was changed; the answer is the same.
    """
    log = log.until(now, rig.timezone)
    today = now.astimezone(ZoneInfo(rig.timezone)).date()
    kinds = day_kinds(log)
    resumed = marks.resume(rig, log, kinds, today) if marks is not None else None
    since, before = (resumed[0], resumed[1].last) if resumed else (None, None)
    days = logged(rig, log, today, since, before)
    usual = _usual_by_date(log, days)
    wanted = marks.dates(min(days), today) if marks is not None else set()
    found: dict[str, Tracked] = {}
    fresh, grey, told = rig.first(Kind.FRESH), rig.first(Kind.GREY), None
    # the fresh tank first: the grey one hears of its days
    for store in sorted(rig.stores, key=lambda each: each is not fresh):
        walk = Walk(rig, store, log, days, usual, now, kinds, told if store is grey else None)
        if resumed:
            restore(walk, resumed[1].stores[store.id])
        for on, last in walk.run(wanted):
            if marks is not None:
                marks.save(on, log, last, store.id, walk)
        found[store.id] = _told(walk, sky_habit(_skies(log)), days[today], now)
        if store is fresh and grey:
            told = beside(rig, walk.model, expected_use(rig, grey, kinds), walk.apart)
    return together(rig, {store.id: found[store.id] for store in rig.stores})


def _skies(log: Log) -> list[str]:
    return [day.sky for day in log.days[-90:] if day.sky]


def _usual_by_date(log: Log, days: dict[date, Conditions]) -> dict[date, SkyHabit]:
    """The usual sky as it was known on each date: from the skies logged before it."""
    first = min(days)
    start = log.first_from(first)
    words = [day.sky for day in log.days[max(0, start - 90) : start] if day.sky]
    current = sky_habit(words)
    found = {}
    for on, day in days.items():
        found[on] = current
        if day.sky:
            words.append(day.sky)
            current = sky_habit(words)
    return found


def _worth_asking(walk: Walk) -> tuple[Doubt, ...]:
    """Doubts of enough weight; a step with nothing logged must be of a size that somebody would remember."""
    least = _LEAST_STEP * walk.store.capacity
    odd = {Sense.DRAINS: "fall", Sense.FILLS: "rise"}[walk.store.sense]
    either = walk.store.kind is Kind.BATTERY
    found = believed_doubts(walk.stories, lambda d: _ASK_ODD_FROM if d.kind == odd and not either else _ASK_FROM)
    return tuple(doubt for doubt in found if doubt.kind == "reading" or abs(doubt.amount) >= least)


def _told(walk: Walk, usual: SkyHabit, conditions: Conditions, now: datetime) -> Tracked:
    best = walk.best
    return Tracked(
        walk.store, walk.model, walk.belief, walk.known_since, best.spread, best.sky_spread, best.days_seen, usual,
        conditions, walk.hour, tuple(best.history), _worth_asking(walk), walk.last_reading, walk.last_reset,
        tuple(each for each in walk.charges if each.end > now), tuple(walk.seen),
    )  # fmt: skip
