"""Levels from a log: one walk a store, and what is known at its end."""

from collections.abc import Callable
from datetime import date, datetime

from lodeline.core.carried import as_followed
from lodeline.core.catalogue import Role, Sense, SkyWord
from lodeline.core.conditions import Conditions, logged
from lodeline.core.energy.skies import SkyHabit, sky_habit
from lodeline.core.figures import Tracking
from lodeline.core.log import Log
from lodeline.core.rig import Rig, Store
from lodeline.core.tracking.bounded import bounded
from lodeline.core.tracking.checkpoints import Checkpoints
from lodeline.core.tracking.coupling import Neighbour, neighbour
from lodeline.core.tracking.cross_checks import cross_check
from lodeline.core.tracking.day_kinds import known_day_kinds
from lodeline.core.tracking.events import timed
from lodeline.core.tracking.hypothesis import Doubt, DoubtKind, as_one, believed_doubts, possible
from lodeline.core.tracking.metered import metered
from lodeline.core.tracking.state import Past, Scene, State
from lodeline.core.tracking.surprise import widened, width
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.tracking.use import expected_use
from lodeline.core.tracking.walk import Walk


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
    log = metered(rig, timed(as_followed(rig, bounded(len(rig.stores), log.until(now, rig.zone), today))), now)
    kinds = known_day_kinds(log, rig.habits)
    resumed = checkpoints.resume(rig, log, kinds, today) if checkpoints is not None else None
    since, before = (resumed[0], resumed[1].last) if resumed else (None, None)
    days = logged(rig, log, today, since, before)
    usual = _usual_by_date(log, days)
    past = Past(rig=rig, log=log, days=days, usual=usual, now=now, kinds=kinds, before=before)
    wanted = checkpoints.dates(min(days), today) if checkpoints is not None else set()
    usual_now = sky_habit([day.sky for day in log.days[-Tracking.skies_back_days :] if day.sky])
    tracked: dict[str, Tracked] = {}
    fresh, drained = rig.first(Role.WATER), rig.every(Role.DRAIN)
    beside: dict[str, Neighbour] = {}
    # the fresh tank first: the grey ones hear of its days
    for store in sorted(rig.stores, key=lambda each: each is not fresh):
        scene = Scene.of(past, store)
        state = resumed[1].stores[store.id].copy() if resumed else State.start(scene)
        walk = Walk(scene, state, beside.get(store.id))
        for on, last in walk.run(wanted):
            if checkpoints is not None:
                checkpoints.save(on, log, last, store.id, state)
        tracked[store.id] = _tracked(walk, usual_now, days[today])
        progress(len(tracked) / len(rig.stores))
        if store is fresh:
            beside = {
                grey.id: neighbour(rig, scene.model, expected_use(rig, grey, kinds), state.unusual, state.learned)
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


def _worth_asking(store: Store, state: State) -> tuple[Doubt, ...]:
    """Doubts of enough weight; a step with nothing logged must be of a size that somebody would remember."""
    least = Tracking.least_step * store.capacity
    odd = DoubtKind.FALL if store.sense is Sense.DRAINS else DoubtKind.RISE

    def share(doubt: Doubt) -> float:
        is_odd = doubt.kind is odd and not store.is_bank
        return Tracking.ask_odd_from if is_odd or doubt.kind is DoubtKind.STUCK else Tracking.ask_from

    doubts = believed_doubts(state.hypotheses, share)
    steps = (DoubtKind.RISE, DoubtKind.FALL)
    # of a gauge that does not move one thing is asked, not how each of its readings may have come about
    stuck = [doubt.since for doubt in doubts if doubt.kind is DoubtKind.STUCK and doubt.since is not None]
    return tuple(
        doubt
        for doubt in doubts
        if doubt.kind is DoubtKind.STUCK
        or (not any(since <= doubt.at for since in stuck) and (doubt.kind not in steps or abs(doubt.amount) >= least))
    )


def _tracked(walk: Walk, usual: SkyHabit, conditions: Conditions) -> Tracked:
    scene, state, best = walk.scene, walk.state, walk.state.best
    doubts = _worth_asking(scene.store, state)
    by = width(state.compared, {doubt.reading for doubt in doubts})
    parts = widened(possible(state.hypotheses), by)
    return Tracked(
        store=scene.store,
        model=scene.model,
        belief=as_one(parts),
        parts=parts,
        known_since=state.known_since,
        spread=best.days.ratio,
        sky_spread=best.skies.ratio,
        days_seen=best.days_seen,
        usual_sky=usual,
        conditions=conditions,
        hour=walk.hour,
        history=tuple(best.history),
        doubts=doubts,
        last_reading=state.last_reading,
        last_reset=state.last_reset,
        pending=tuple(each for each in scene.charges if each.end > scene.past.now),
        compared=tuple(state.compared),
        reserve=state.reserve,
        reserve_used_at=state.reserve_used_at,
        lost_since=state.lost_since,
        drained_since=state.drained_since,
        should_be_past=state.lost_since is None and state.past_line >= 1,
        known_at=state.known_at,
        km_per_h=state.speed.km_per_h,
        use_told_on=state.learned.on if state.learned else None,
    )
