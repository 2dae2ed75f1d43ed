"""What to do next, in a line: what, where, when; and why."""

from datetime import datetime, timedelta
from typing import assert_never

from lodeline.core.acts import Deed
from lodeline.core.catalogue import Effect, Sense
from lodeline.core.forecast.forecast import Chore, ChoreKind, Forecast
from lodeline.core.next_step import Does, NextStep
from lodeline.core.rig import Rig
from lodeline.core.stops.plan import NotServed, PlannedOuting
from lodeline.core.water.frost import AtRisk
from lodeline.text import names
from lodeline.text.display import Display, counted, listed
from lodeline.text.horizon import chore as chore_words
from lodeline.text.levers import lever_words
from lodeline.text.names import are_several, be, named
from lodeline.text.stops import DOES
from lodeline.text.times import about_clock, clock, day_part, days_words, hour_clock, roughly

_SOON = timedelta(minutes=45)
_MOST_NAMED = 2


def step(found: NextStep, rig: Rig, ahead: Forecast, display: Display) -> str:
    """What to do next: ``Go now to Mill site, 5 km: empty Grey tank, fill Fresh water.``"""
    now, stores = display.local(ahead.at), named(found.stores)
    match found.does:
        case Does.START:
            return "Take one reading of each store in the Round: the days are counted from it."
        case Does.READ:
            return f"Read the panels first: nothing was read for {days_words(found.days_ago or 0.0)}."
        case Does.ABOARD:
            return f"{_aboard(found)} now: {_lasts(found.brings_days)}."
        case Does.CHARGE:
            return _charge(found, now, rig, display)
        case Does.STAY_PLUGGED:
            return f"Stay plugged in: {stores} {be(found.stores)} low and charging."
        case Does.WARM:
            return f"Warm {stores} before you charge: it is below {display.amount(0.0, 'degC')}."
        case Does.FROST:
            return _frost(found, display)
        case Does.CHORE:
            return chore_words(found.chore, ahead, display) if found.chore is not None else ""
        case Does.GO:
            return _go(found, now, display)
        case Does.FIND:
            return _find(found)
        case Does.LEVER:
            words = lever_words(rig, found.lever, display) if found.lever is not None else ""
            return f"{words}: {stores} {'need' if are_several(found.stores) else 'needs'} it."
        case Does.WAIT:
            return _wait(found, now, ahead, display)
        case _:
            assert_never(found.does)


def _aboard(found: NextStep) -> str:
    """What is done with what is aboard: ``Pour Jug 1 and Jug 2 into Fresh water``."""
    store, first = found.stores[0], found.acts[0]
    vessels = listed([act.vessel.name for act in found.acts if act.vessel is not None])
    apart = names.apart(store.kind)
    if first.deed is Deed.POURED:
        return f"Pour {vessels or 'the reserve'} into {store.name}"
    if first.deed is Deed.RAN_OVER:
        return f"Let {store.name} run over into its {apart}"
    return f"Change {store.name} for {vessels or f'its {apart}'}"


def _lasts(days: float | None) -> str:
    return "that helps" if days is None else f"{roughly(days)} more"


def _charge(found: NextStep, now: datetime, rig: Rig, display: Display) -> str:
    """What charges a bank that is low, or before it is: ``Drive a while by 09:00 tomorrow: House bank gets low.``"""
    stores, drives = named(found.stores), bool(found.acts) and found.acts[0].row.effect is Effect.DRIVE
    run = "Drive a while" if drives else "Run the generator"
    if found.due or found.by is None:
        return f"{run} {_quiet(now, rig)}: {stores} {be(found.stores)} low."
    by = display.local(found.by)
    when = f"by {about_clock(by)} {_on(by, now).strip()}" if by - now > _SOON else _quiet(now, rig)
    return f"{run} {when}: {stores} {'get' if are_several(found.stores) else 'gets'} low."


def _quiet(now: datetime, rig: Rig) -> str:
    """Now, or when the quiet hours are over."""
    quiet = rig.quiet
    return f"from {hour_clock(quiet.until_h)} on" if quiet is not None and quiet.covers(now.hour) else "now"


def _frost(found: NextStep, display: Display) -> str:
    night = found.frost
    assert night is not None
    low = display.amount(night.low_c, "degC")
    what = "the tanks and lines" if AtRisk.LINES in night.at_risk else named(found.stores)
    return f"Frost tonight, about {low}: heat or drain {what}, take in the hose."


def _go(found: NextStep, now: datetime, display: Display) -> str:
    """The stop of the plan: ``Go now to Mill site, 5 km: fill Fresh water, empty Grey tank.``"""
    outing = found.outing
    assert outing is not None
    assert found.by is not None
    by = display.local(found.by)
    what = f"{_where(found, outing, display)}: {_done_there(found, outing)}"
    if found.due and by - now < _SOON:
        return f"Go now to {what}."
    if found.due:
        return f"Leave at {about_clock(by)} {_on(by, now)}for {what}."
    return f"Leave by {about_clock(by)} {_on(by, now)}for {what}."


def _on(at: datetime, now: datetime) -> str:
    days = (at.date() - now.date()).days
    return ("today ", "tomorrow ")[days] if days < _MOST_NAMED else f"on {at:%A} "


def _where(found: NextStep, outing: PlannedOuting, display: Display) -> str:
    """The first place that serves what it is for, and how far it is."""
    needed = {store.id for store in found.stores}
    stop = next((each for each in outing.stops if needed & set(each.serves)), outing.stops[0])
    far = f", {display.amount(stop.km, 'km')}" if stop.km > 0 else ""
    more = f" and {counted(len(outing.stops) - 1, 'more place')}" if len(outing.stops) > 1 else ""
    return f"{stop.spot.name}{far}{more}"


def _done_there(found: NextStep, outing: PlannedOuting) -> str:
    """What the outing is made for: ``fill Fresh water and empty Grey tank``; in two words where it is more."""
    needed = {store.id for store in found.stores}
    works = [work for stop in outing.stops for work in stop.acts]
    works = [work for work in works if work.store.id in needed] or works
    if len(works) <= _MOST_NAMED:
        return listed([f"{DOES[work.act]} {work.store.name}" for work in works])
    return listed(list(dict.fromkeys(DOES[work.act] for work in works)))


def _find(found: NextStep) -> str:
    """That no place of the book serves what is due."""
    stores = named(found.stores)
    why = {each.why for each in found.needs}
    if NotServed.CLOSED in why:
        return f"Find a place for {stores}: those in your book are closed."
    if why and NotServed.NO_PLACE not in why:
        return f"Find a place for {stores}: none in your book fits."
    return f"Find a place for {stores}: none is in your book."


def _wait(found: NextStep, now: datetime, ahead: Forecast, display: Display) -> str:
    """That nothing has to be done until a time, and what then."""
    if found.by is None:
        return f"Nothing to do for {counted(ahead.horizon_days, 'day')}."
    until = day_part(display.local(found.by), now)
    return f"Nothing to do until {until}: then {_then(found, display)}."


def _then(found: NextStep, display: Display) -> str:
    if found.chore is not None:
        return _chore(found.chore)
    if found.outing is not None:
        return _where(found, found.outing, display)
    return f"{named(found.stores)} may be at the line"


def _chore(chore: Chore) -> str:
    """A chore in a few words: ``empty Urine bottle``."""
    store = chore.store
    if chore.kind is ChoreKind.POUR:
        return f"pour the reserve into {store.name}"
    if chore.kind is ChoreKind.SWAP:
        return f"change {store.name}"
    if chore.kind is ChoreKind.CARRY:
        return f"empty {store.name} into its tote"
    return f"empty {store.name}" if store.sense is Sense.FILLS else f"top up {store.name}"


def why(found: NextStep, rig: Rig, display: Display) -> str:
    """The reason beside it, in a short sentence; empty where the line says it all."""
    said = []
    if found.event is not None:
        at = display.local(found.event.at)
        store = rig.store(found.event.store)
        said.append(f"{found.event.row.did} {store.name} at {clock(at)}." if store is not None else "")
    return " ".join(each for each in said if each)


def opens(found: NextStep) -> tuple[str, str] | None:
    """Where it is done, and what the way there says; None where a touch does it."""
    match found.does:
        case Does.START | Does.READ:
            return "/round", "Open the Round"
        case Does.GO | Does.WAIT if found.outing is not None:
            return "/stops", "Open the stop"
        case Does.FIND:
            return "/stops?add", "Add a place"
        case Does.CHARGE | Does.WARM | Does.STAY_PLUGGED:
            return "/energy", "How long"
        case Does.FROST:
            return "/water", "What to do"
        case Does.LEVER:
            return "/stops", "Open the plan"
        case _:
            return None
