"""The plan of the coming stops, derived beside the forecast; in a server by the helper, which gives way to writes."""

from collections.abc import Callable
from contextlib import nullcontext
from datetime import datetime, timedelta
from time import monotonic, sleep

from lodeline.core.figures import Forecasting
from lodeline.core.levers.agreed import Together, all_together
from lodeline.core.stops.plan import Moved, Plan, PlannedOuting, Wanted
from lodeline.core.stops.planner import Planner
from lodeline.core.values import dataclass
from lodeline.core.wishes import FixedStop
from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services import background
from lodeline.logbook.services.derived import Derived, StillWorking, derived_here, tell_older
from lodeline.logbook.services.shared import MEANWHILE, WhileWaiting, answered, kept, key_of, latest, progress
from lodeline.text.answers import Work

WHAT, FAILED = "plan", "plan-failed"
# How long one who waits for a plan is kept waiting, where a thread can be spared; a plan takes a few seconds.
_PATIENCE_S = 8.0
_MOMENT_S = 0.05


def together_of(known: Derived, seed: int, days: int = Forecasting.horizon_days) -> Together:
    """The forecast's own paths, with what is agreed, and the levers that could be pulled besides."""
    return all_together(known, seed, days)


def _wanted(known: Derived, days: int = Forecasting.horizon_days) -> Wanted:
    return Wanted(days=days, risk=known.rig.risk, wished=known.planned)


def plan_here(rig: m.Rig, while_planning: WhileWaiting = nullcontext) -> Plan:
    """The plan of the Horizon's days, derived in this process where anything has changed.

    ``while_planning``: entered where nothing but arithmetic is done, or another process is waited for.
    """
    known = derived_here(rig)

    def derive(tell: Callable[[float], object]) -> Plan:
        with while_planning():
            together = together_of(known, rig.pk)
            planner = Planner(together.joint, known.book, _wanted(known), tell)
            return planner.remedied(planner.plan(), together.levers)

    return kept(WHAT, rig, known.now, derive, while_planning)


def meanwhile_here(rig: m.Rig, while_planning: WhileWaiting = nullcontext) -> Plan | None:
    """The last plan as it stands now, until there is the new one; None where it does not stand any more."""
    known, last = derived_here(rig), latest(WHAT, rig)
    before = last[1] if last is not None and last[0] != key_of(rig, known.now) else None
    if not isinstance(before, Plan):
        return None

    def derive(_tell: Callable[[float], object]) -> Plan | None:
        with while_planning():
            return _planner(rig, known).again(before)

    return kept(MEANWHILE, rig, known.now, derive, while_planning)


def _planner(rig: m.Rig, known: Derived, tell: Callable[[float], object] = lambda share: None) -> Planner:
    return Planner(together_of(known, rig.pk).joint, known.book, _wanted(known), tell)


def plan_of(rig: m.Rig) -> Plan:
    """The plan of the Horizon's days; in a server perhaps the last one as it stands now, which is then told.

    Raises
    ------
    StillWorking
        It is being derived.
    """
    helper = background.helper()
    if helper is None:
        return plan_here(rig)
    key = key_of(rig, clock.now())
    until = monotonic() + (_PATIENCE_S if helper.has_time() else 0.0)
    while (known := _known(WHAT, rig, key)) is None:
        helper.ask(rig.pk, key)
        if (meanwhile := _known(MEANWHILE, rig, key)) is not None:
            tell_older(rig, meanwhile.chosen, WHAT)
            return meanwhile
        left = 0.0 if helper.ends else until - monotonic()
        if helper.done(FAILED, rig.pk) == key:
            return plan_here(rig)
        if left <= 0:
            raise StillWorking(progress(rig, WHAT), Work.PLAN)
        # it gives way to whoever writes; what stands then is asked for
        if helper.wait(MEANWHILE, rig.pk, key, left):
            sleep(_MOMENT_S)
            rig.refresh_from_db()
            key = key_of(rig, clock.now())
    return known


def _known(what: str, rig: m.Rig, key: str) -> Plan | None:
    held = latest(what, rig, key)
    return held[1] if held is not None and held[0] == key and isinstance(held[1], Plan) else None


def tried(rig: m.Rig, known: Derived, moved: FixedStop, instead_of: FixedStop) -> Moved | None:
    """The last plan with a stop at another time, the others as they are; None where there is no such plan or stop."""
    held = latest(WHAT, rig)
    if held is None or not isinstance(held[1], Plan):
        return None
    planner = answered(known.forecast, ("planner", rig.pk), lambda: _planner(rig, known))
    return planner.moved(held[1], moved, instead_of)


def outing_at(rig: m.Rig, known: Derived, stop: FixedStop) -> PlannedOuting | None:
    """An outing to one place at a time, whatever the plan says."""
    return _planner(rig, known).outing_at(stop)


def planned_with(rig: m.Rig, stop: FixedStop) -> PlannedOuting | None:
    """The outing of the last plan that has a stop, None where none does."""
    for each in _last_outings(rig):
        if any(one.spot.id == stop.spot and abs(one.arrive - stop.arrive) < _SAME for one in each.stops):
            return each
    return None


def standing_for(rig: m.Rig, spot: str, arrive: datetime) -> PlannedOuting | None:
    """The outing of the last plan that stands in place of a stop: at the same place within a day."""
    for each in _last_outings(rig):
        if any(one.spot.id == spot and abs(one.arrive - arrive) < _DAY for one in each.stops):
            return each
    return None


def _last_outings(rig: m.Rig) -> tuple[PlannedOuting, ...]:
    held = latest(WHAT, rig)
    return held[1].outings if held is not None and isinstance(held[1], Plan) else ()


# Within this a stop on screen is the one of the plan: the screen has whole minutes.
_SAME, _DAY = timedelta(minutes=1), timedelta(days=1)


@dataclass(frozen=True, kw_only=True)
class StopFor:
    """The plan up to the end of a stay."""

    planner: Planner
    plan: Plan

    @property
    def p_after_first(self) -> float:
        """The chance that nothing passes its line by then with the first outing alone."""
        routes = self.planner.routes
        first = self.planner.best.outings[:1]
        return 1 - routes.lost(first).bit_count() / routes.chance.n_paths


def stop_for(known: Derived, together: Together, days: int, risk: float) -> StopFor:
    """The plan up to the end of a stay: which stop would reach it."""
    wanted = Wanted(days=days, risk=risk, wished=known.planned, others=False)
    planner = Planner(together.joint, known.book, wanted)
    return StopFor(planner=planner, plan=planner.plan())
