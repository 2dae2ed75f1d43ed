"""Every line that says what to do next."""

from collections.abc import Iterator
from dataclasses import replace
from datetime import timedelta

from lodeline.core.acts import Act, Deed, acts
from lodeline.core.forecast.forecast import Chore, ChoreKind, Forecast
from lodeline.core.levers.lever import Lever
from lodeline.core.log import Event
from lodeline.core.next_step import Does, NextStep
from lodeline.core.rig import Jug, Rig
from lodeline.core.stops.plan import NotServed, Plan, Unserved, WhyServed
from lodeline.core.warmth import Quiet
from lodeline.core.water.frost import AtRisk, FrostNight
from lodeline.text import chances, names, next_step, standing, times
from lodeline.text.display import Display
from tests.builders import BANK, FRESH, GAS, GREY, at

BOTH = replace(GAS, name="Propane, both bottles")
JUGS = tuple(Jug(id=each, name=f"Jug {each}", litres=10.0) for each in "12")


def of_next(rig: Rig, ahead: Forecast, plan: Plan, lever: Lever, shown: Display) -> Iterator[str]:
    """All kinds of steps, with one store and with several."""
    quiet = replace(rig, jugs=JUGS, quiet=Quiet(from_h=20.0, until_h=9.0))
    for found in _steps(replace(rig, jugs=JUGS), ahead, plan, lever):
        for one in (rig, quiet):
            yield next_step.step(found, one, ahead, shown)
            yield next_step.why(found, one, shown) or "-"
        opens = next_step.opens(found)
        yield opens[1] if opens is not None else "-"
    past = replace(ahead, stores=tuple(replace(each, p50_days=0.0) for each in ahead.stores))
    yield from (standing.counted_after(each) or "-" for each in (ahead, past))
    yield from (f"{names.named([s])} {names.be([s])} and {names.verb(s, 'runs', 'run')}" for s in (FRESH, BOTH))
    yield from (times.roughly(days) for days in (0.1, 0.5, 1.0, 5.0, 40.0))
    yield from (chances.chance(p) for p in (0.0, 0.4, 1.0))


def _steps(rig: Rig, ahead: Forecast, plan: Plan, lever: Lever) -> Iterator[NextStep]:
    offered = acts(rig)
    lasting = WhyServed(store=FRESH, due=True, p=1.0)
    night = FrostNight(
        date=at(3).date(), low_c=-6.0, sd_c=1.0, hours=8.0, at_risk=tuple(AtRisk), tanks=(FRESH, GREY), heat_wh=100.0
    )
    soon, later = ahead.at + timedelta(minutes=10), ahead.at + timedelta(days=4)
    for does in (Does.START, Does.READ, Does.STAY_PLUGGED, Does.WARM):
        yield NextStep(does=does, stores=(BANK,), due=True, days_ago=9.0)
    for act in offered:
        if act.store is not None and act.deed in (Deed.POURED, Deed.CHANGED, Deed.IN_USE, Deed.RAN_OVER):
            yield NextStep(does=Does.ABOARD, stores=(act.store,), due=True, acts=(act,), brings_days=1.2)
    yield NextStep(does=Does.ABOARD, stores=(FRESH,), due=True, acts=(Act(deed=Deed.POURED, type="move"),))
    for act in [each for each in offered if each.type in ("drive", "generator")]:
        yield NextStep(does=Does.CHARGE, stores=(BANK,), due=True, acts=(act,))
        for by in (at(2), later):
            yield NextStep(does=Does.CHARGE, stores=(BANK, FRESH), acts=(act,), by=by)
    for at_risk in ((AtRisk.TANK, AtRisk.VALVE), tuple(AtRisk)):
        yield NextStep(does=Does.FROST, stores=(FRESH, GREY), frost=replace(night, at_risk=at_risk))
    for kind in ChoreKind:
        chore = Chore(store=GREY, kind=kind, p10_days=0.4, p50_days=0.6, p90_days=0.9, last=True)
        yield NextStep(does=Does.CHORE, stores=(GREY,), chore=chore, by=later)
        yield NextStep(does=Does.WAIT, stores=(GREY,), chore=chore, by=later)
    for outing in plan.outings:
        for due, by in ((True, soon), (True, later), (False, later)):
            for stores in ((FRESH,), (FRESH, GREY), ()):
                yield NextStep(does=Does.GO, stores=stores, due=due, by=by, outing=outing)
        yield NextStep(does=Does.WAIT, stores=(FRESH,), outing=outing, by=later, event=Event(at(2), "dump", "grey"))
    for why in NotServed:
        needs = (Unserved(store=FRESH, why=why, reason=lasting),)
        yield NextStep(does=Does.FIND, stores=(FRESH, BOTH), due=True, needs=needs)
    yield NextStep(does=Does.LEVER, stores=(FRESH,), lever=lever)
    yield NextStep(does=Does.WAIT, stores=(BOTH,), by=later, event=Event(at(2), "fill", "fresh"))
    yield NextStep(does=Does.WAIT)
