"""What to do next, and when, for every view: from what is aboard to the nearest stop to a change of habit."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from datetime import datetime, timedelta
from enum import StrEnum

from lodeline.core.acts import Act, Deed, Stands, act_of, acts
from lodeline.core.catalogue import SOURCE_KINDS, Burns, DayStatus, Effect
from lodeline.core.energy.bank import takes_charge
from lodeline.core.figures import Forecasting
from lodeline.core.forecast.forecast import Chore, Forecast, StoreForecast
from lodeline.core.forecast.known import Known
from lodeline.core.levers.lever import Lever
from lodeline.core.log import Event
from lodeline.core.rig import Store
from lodeline.core.stops.plan import Plan, PlannedOuting, Unserved
from lodeline.core.values import dataclass
from lodeline.core.water.frost import AtRisk, FrostNight, frost


class Does(StrEnum):
    """What is done next: readings taken, of a rig that has none, or after days without any; a store helped by what is
    aboard; a bank charged here, left plugged in, or warmed before it is charged; tanks and lines kept from frost; a
    chore; a stop; a place found for what no place of the book serves; a change of habit; nothing until then."""

    START = "start"
    READ = "read"
    ABOARD = "aboard"
    CHARGE = "charge"
    STAY_PLUGGED = "stay-plugged"
    WARM = "warm"
    FROST = "frost"
    CHORE = "chore"
    GO = "go"
    FIND = "find"
    LEVER = "lever"
    WAIT = "wait"


@dataclass(frozen=True, slots=True, kw_only=True)
class NextStep:
    """What to do next.

    ``stores``: whom it helps; ``due``: whether they are past their line; ``acts``: the touches that log it; ``by``:
    when it should be done at the latest, None for now; ``brings_days``: how long what is aboard lasts; ``event``: what
    somebody has just done. The rest: what it is about.
    """

    does: Does
    stores: tuple[Store, ...] = ()
    due: bool = False
    acts: tuple[Act, ...] = ()
    by: datetime | None = None
    brings_days: float | None = None
    days_ago: float | None = None
    outing: PlannedOuting | None = None
    chore: Chore | None = None
    frost: FrostNight | None = None
    needs: tuple[Unserved, ...] = ()
    lever: Lever | None = None
    event: Event | None = None


_HELPS = {Deed.POURED, Deed.CHANGED, Deed.IN_USE, Deed.FIRST_AGAIN, Deed.RAN_OVER}
_SERVES = {Effect.FILL, Effect.EMPTY, Effect.SWAP}
_DAY = timedelta(days=1)


def next_step(known: Known, ahead: Forecast, plan_of: Callable[[], Plan]) -> NextStep:
    """What to do next. ``plan_of``: asked only where the answer takes the plan."""
    if not known.stores:
        return NextStep(does=Does.START)
    if (old := _unread_days(known)) >= Forecasting.unread_days:
        return NextStep(does=Does.READ, days_ago=old)
    situation = _Situation(known, ahead, plan_of)
    return next(situation.steps())


def _unread_days(known: Known) -> float:
    """How long ago anything was last read or done. [day]"""
    latest = max((each.known_at for each in known.stores.values() if each.known_at is not None), default=known.now)
    return (known.now - latest) / _DAY


def _served(plan: Plan) -> set[str]:
    return {each.store.id for outing in plan.outings for stop in outing.stops for each in stop.acts}


def _is_near(lane: StoreForecast) -> bool:
    """Whether somebody may have to go for a store within a day."""
    return lane.p10_days is not None and lane.p10_days < 1 and not lane.store.sends_nobody


class _Situation:
    """How things stand, and what there is to do, the most pressing first."""

    def __init__(self, known: Known, ahead: Forecast, plan_of: Callable[[], Plan]) -> None:
        self.known, self.ahead, self.plan_of = known, ahead, plan_of
        self.due = ahead.due
        self.offered = acts(known.rig, Stands.of(known.rig, known.log, known.tracked))

    def steps(self) -> Iterator[NextStep]:
        """What there is to do; the last one is to wait."""
        helped = [step for store in self.due if (step := self._aboard(store)) is not None]
        # with two due a stop for one of them serves the other as well: what is aboard waits if one can go now
        if helped and (len(helped) == len(self.due) or not self._can_go_today()):
            yield helped[0]
        if self.due:
            yield from self._due()
        yield from self._tonight()
        yield from self._chores(now=True)
        if self._frets():
            yield from self._stop()
        yield from self._chores(now=False)
        yield self._wait()

    def _aboard(self, store: Store) -> NextStep | None:
        """What is aboard for a store that is due: jugs, bottles, spares, the engine that charges."""
        if store.is_bank:
            return self._charge(store)
        mine = [act for act in self.offered if act.concerns(store.id) and act.deed in _HELPS and not act.rare]
        changed = [act for act in mine if act.deed not in (Deed.POURED, Deed.RAN_OVER)]
        mine = changed[:1] or mine
        if not mine:
            return None
        whole = sum(act.whole or store.capacity for act in mine)
        rate = abs(self.ahead.of(store.id).rate_per_day or 0.0)
        return NextStep(
            does=Does.ABOARD,
            stores=(store,),
            due=True,
            acts=tuple(mine),
            brings_days=min(whole, store.capacity) / rate if rate > 0 else None,
        )

    def _charge(self, bank: Store, *, by_driving: bool = False) -> NextStep | None:
        known, day = self.known, self.known.days(1)[0]
        hour = known.rig.zone.local(known.now).hour
        if takes_charge(bank, day.mean_c, day.min_c)[hour] <= 0:
            return NextStep(does=Does.WARM, stores=(bank,), due=True)
        if day.status is DayStatus.HOOKUP:
            return NextStep(does=Does.STAY_PLUGGED, stores=(bank,), due=True)
        runs = {
            row.event for row in SOURCE_KINDS.values() if (row.drives if by_driving else row.burns is Burns.OWN_RATE)
        }
        mine = [act for act in self.offered if act.type in runs]
        return NextStep(does=Does.CHARGE, stores=(bank,), due=True, acts=tuple(mine[:1])) if mine else None

    def _charge_before(self, bank: Store) -> Iterator[NextStep]:
        """A bank that no stop charges, before it is low: by its generator, else by driving."""
        for by_driving in (False, True):
            step = self._charge(bank, by_driving=by_driving)
            if step is not None and step.does is Does.CHARGE and step.acts:
                yield replace(step, due=False, by=self.ahead.when(self.ahead.of(bank.id).p10_days))

    def _can_go_today(self) -> bool:
        plan = self.plan_of()
        return bool(plan.outings) and plan.outings[0].leave - self.known.now < _DAY / 2

    def _due(self) -> Iterator[NextStep]:
        """Something is past its line, and nothing aboard helps: the stop that serves it, else a place, else a habit."""
        plan = self.plan_of()
        if _served(plan) & {store.id for store in self.due}:
            yield self._go(plan, due=True)
        yield from (each for store in self.due if store.is_bank and (each := self._charge(store, by_driving=True)))
        needs = tuple(each for each in plan.needs if each.reason.due)
        stores = tuple(each.store for each in needs) or self.due
        yield NextStep(does=Does.FIND, stores=stores, due=True, needs=needs)

    def _go(self, plan: Plan, due: bool) -> NextStep:
        outing = plan.outings[0]
        by = outing.leave if due else plan.leave_by or outing.leave
        stores = self.due if due else tuple(each.store for stop in outing.stops for each in stop.reasons)
        return NextStep(does=Does.GO, stores=stores, due=due, by=by, outing=outing)

    def _frets(self) -> bool:
        """Whether any line may be met within the days that are planned for, so that a plan is worth waiting for."""
        return self.ahead.p_line > 0 or any(not each.known for each in self.ahead.stores)

    def _stop(self) -> Iterator[NextStep]:
        """The stop of the plan where it is near; what no stop of it serves."""
        plan = self.plan_of()
        soon = self.known.now + _DAY
        if plan.outings and (plan.leave_by or plan.outings[0].leave) <= soon:
            yield self._go(plan, due=False)
        served = _served(plan)
        lanes = [each for each in self.ahead.stores if _is_near(each) and each.store.id not in served]
        near = tuple(each.store for each in sorted(lanes, key=lambda each: each.p10_days or 0.0))
        if near and near[0].is_bank:
            yield from self._charge_before(near[0])
        if near:
            needs = tuple(each for each in plan.needs if each.store in near)
            yield NextStep(does=Does.FIND, stores=near, needs=needs)
        if plan.remedy is not None and not plan.feasible:
            yield NextStep(does=Does.LEVER, lever=plan.remedy.lever, stores=(plan.breaks,) if plan.breaks else ())

    def _tonight(self) -> Iterator[NextStep]:
        """Frost that is expected in the coming night, with water where it freezes."""
        known = self.known
        hour = known.rig.zone.local(known.now).hour
        days = known.days(2)
        # the night's lowest is near dawn: of tomorrow's date once the morning is over
        coming = days[1:] if hour >= Forecasting.noon_h else days[:1]
        drained = any(each.drained_since for each in known.tracked.values())
        for night in () if drained else frost(known.rig, coming, len(coming)):
            if not night.chance and {AtRisk.TANK, AtRisk.LINES} & set(night.at_risk):
                yield NextStep(does=Does.FROST, frost=night, stores=night.tanks)

    def _chores(self, *, now: bool) -> Iterator[NextStep]:
        """What is done without driving off: now, or within a day."""
        for chore in self.ahead.chores:
            if chore.is_due and now == (chore.p50_days == 0):
                act = act_of(chore, self.offered)
                by = None if now else self.ahead.when(chore.p10_days or chore.p50_days)
                yield NextStep(
                    does=Does.CHORE,
                    stores=(chore.store,),
                    due=now,
                    chore=chore,
                    by=by,
                    acts=(act,) if act is not None else (),
                )

    def _wait(self) -> NextStep:
        """Nothing has to be done until the next of them: an outing, a chore, a line."""
        plan = self.plan_of() if self._frets() else None
        event = self._just_done()
        outing = plan.outings[0] if plan is not None and plan.outings else None
        leave = (plan.leave_by or outing.leave) if plan is not None and outing is not None else None
        chores = [(at, each) for each in self.ahead.chores if (at := self.ahead.when(each.p10_days or each.p50_days))]
        chore = min(chores, key=lambda one: one[0], default=None)
        if chore is not None and (leave is None or chore[0] < leave):
            return NextStep(does=Does.WAIT, by=chore[0], chore=chore[1], stores=(chore[1].store,), event=event)
        if outing is not None:
            stores = tuple(each.store for stop in outing.stops for each in stop.reasons)
            return NextStep(does=Does.WAIT, by=leave, outing=outing, stores=stores, event=event)
        low, first = self.ahead.autonomy.p10_days, self.ahead.autonomy.store
        binds = (self.ahead.of(first).store,) if first is not None and low is not None else ()
        return NextStep(does=Does.WAIT, by=self.ahead.when(low), stores=binds, event=event)

    def _just_done(self) -> Event | None:
        """The last service of a store, where it was just now: by whoever has the log."""
        since = self.known.now - timedelta(hours=Forecasting.just_h)
        done: Sequence[Event] = [
            each
            for day in self.known.log.days[-2:]
            for each in day.events
            if each.row.effect in _SERVES and since <= each.at <= self.known.now
        ]
        return done[-1] if done else None
