"""Levers in words: what is done, what it saves and costs, what it brings, and why it brings nothing."""

from lodeline.core.book import Spot
from lodeline.core.levers.kept import HowKept, KeptHow
from lodeline.core.levers.lever import Lever, Touch
from lodeline.core.levers.stay import Stay
from lodeline.core.levers.weigh import Weighed
from lodeline.core.rig import Rig
from lodeline.core.stops.plan import Plan
from lodeline.core.wishes import Agreed
from lodeline.text import names
from lodeline.text.chances import LEAST, chance, in_ten
from lodeline.text.display import Display, capital, listed, percent
from lodeline.text.habits import exact
from lodeline.text.stops import need
from lodeline.text.times import clock_on, days_words, short_date

NOTHING_KNOWN = "Nothing is logged yet, so no chance can be told. Take one reading of each store in the Round first."
HARDSHIPS = ("nobody minds", "hardly felt", "a little hard", "hard", "very hard", "only if it must be")
NEVER = "never"


def lever_words(rig: Rig, lever: Lever, display: Display, book: tuple[Spot, ...] = ()) -> str:
    """What is done: ``Fridge off at night, ice packs in it``."""
    where = next((f" at {spot.name}" for spot in book if spot.id == lever.spot), "")
    return capital(_filled(lever.kind.name, rig, lever, display, where))


def lever_short(rig: Rig, lever: Lever, display: Display) -> str:
    """The same within a sentence, after *with*: ``navy showers``."""
    return _filled(lever.kind.short, rig, lever, display)


def _filled(words: str, rig: Rig, lever: Lever, display: Display, where: str = "") -> str:
    store, amount = rig.store(lever.subject), lever.amount or 0.0
    load = next((load.name for load in rig.loads if load.id == lever.subject), "")
    if store is None:
        how_much = display.coarse(amount, lever.kind.unit) if lever.kind.unit else ""
        return words.format(thing=load, apart="", amount=how_much, where=where)
    how_much = display.contents(store, amount)
    return words.format(thing=store.name, apart=names.apart(store.kind), amount=how_much, where=where)


def both_sides(rig: Rig, lever: Lever, display: Display) -> str:
    """What it saves and what it costs: ``saves 9 L of fresh water a day; costs 1 L of diesel a day``."""
    told = [touch for touch in lever.touches if _is_told(rig, touch, display)]
    saves = [_touch(rig, touch, display) for touch in told if touch.helps]
    costs = [_touch(rig, touch, display) for touch in told if not touch.helps]
    verb = "brings" if lever.kind.brings else "saves"
    parts = [f"{verb} {listed(saves)}" if saves else "", f"costs {listed(costs)}" if costs else ""]
    return "; ".join(part for part in parts if part)


def _is_told(rig: Rig, touch: Touch, display: Display) -> bool:
    store = rig.store(touch.store)
    return store is not None and display.number(abs(touch.per_day or touch.once), store.unit) != "0"


def _touch(rig: Rig, touch: Touch, display: Display) -> str:
    store = rig.store(touch.store)
    assert store is not None
    amount = display.contents(store, abs(touch.per_day or touch.once))
    return f"{amount} of {store.name}{' a day' if touch.per_day else ' once'}"


def gain(rig: Rig, weighed: Weighed) -> str:
    """What it brings the whole rig, or why it brings nothing."""
    if weighed.idle_for is not None:
        first, saved = rig.store(weighed.idle_for), [rig.store(t.store) for t in weighed.lever.touches if t.helps]
        helped = listed([store.name for store in saved if store is not None])
        if first is not None and first in saved:
            return f"too little to tell; {first.name} still comes first"
        return f"{first.name if first else 'something else'} comes first; this helps {helped}"
    more = f"{days_words(weighed.gained_days)} more" if weighed.gained_days > 0 else ""
    stays = f"{chance(weighed.p_stay)} to stay" if weighed.p_stay is not None and weighed.p_stay >= LEAST else ""
    then = rig.store(weighed.first)
    after = f"then {then.name} comes first" if then is not None else "then nothing runs out in sight"
    return ", ".join(part for part in (more, stays, after) if part)


def hardship(value: int | None) -> str:
    """How hard it is for the crew."""
    return NEVER if value is None else HARDSHIPS[value]


def agreed(words: str, agreed: Agreed) -> str:
    """What was agreed on: ``Shower ashore, until Sun 29 Nov``."""
    return f"{words}, until {short_date(agreed.until)}"


_VERDICTS = {
    KeptHow.KEPT: "kept",
    KeptHow.IN_PART: "kept in part",
    KeptHow.NOT_SEEN: "not to be seen in the log",
    KeptHow.TOO_EARLY: "too early to say",
}


def how_kept(words: str, kept: HowKept, display: Display) -> str:
    """Whether an agreement was kept and what it brought: ``Shower ashore, Mon 2 to Wed 4 Nov: kept. Fresh water 14 L a
    day, 19 L before.``"""
    span = f"{short_date(kept.agreed.since)} to {short_date(kept.agreed.until)}"
    said = f"{words}, {span}: {_VERDICTS[kept.verdict]}."
    if kept.verdict is KeptHow.TOO_EARLY:
        return said
    use = [
        f"{one.store.name} {display.contents(one.store, one.during)} a day, {display.contents(one.store, one.before)} "
        f"before ({display.contents(one.store, one.expected)} less was expected)"
        for one in kept.brought
    ]
    return f"{said} {capital(listed(use))}."


def stay_answer(stay: Stay, wanted: float) -> str:
    """The answer to *stay until*, in a sentence."""
    now = f"As things are: {chance(stay.p_stay)}."
    if stay.feasible and not stay.needs:
        return f"{now} Nothing has to change."
    if stay.feasible:
        n = len(stay.needs)
        changes = "one change" if n == 1 else f"{exact(n)} changes"
        return f"{now} With {changes}: {chance(stay.p_stay_with)}."
    if stay.needs:
        most = chance(stay.p_stay_with)
        return f"{now} No set of changes reaches {percent(wanted)}; all that helps together: {most}."
    return f"{now} No change aboard helps; it takes a stop."


def stop_instead(plan: Plan, until: str, display: Display) -> str:
    """Which stop reaches the day where no change does, and the latest time for it."""
    if not plan.outings:
        return " ".join(need(each, plan.at, display) for each in plan.needs) or "No place in your book would do."
    first, now = plan.outings[0], display.local(plan.at)
    by = display.local(plan.leave_by or first.leave)
    names = listed([stop.spot.name for stop in first.stops])
    does = listed([act.store.name for stop in first.stops for act in stop.acts if act.store.id in stop.serves])
    n = "One outing reaches" if len(plan.outings) == 1 else f"{capital(exact(len(plan.outings)))} outings reach"
    reach = f"{n} {until}, {in_ten(1 - plan.p_crossed)}"
    return f"{reach}: {names}{f', for {does}' if does else ''}. Leave by {clock_on(by, now)}."


def stop_first(plan: Plan, p_after: float, until: str, display: Display) -> str:
    """That something is due, so that the stop comes first, and what it is then to stay."""
    stores = [each.store for stop in plan.outings[0].stops for each in stop.reasons if each.due]
    first, leave = plan.outings[0], display.local(plan.outings[0].leave)
    names = listed([store.name for store in stores])
    where = listed([stop.spot.name for stop in first.stops])
    when = clock_on(leave, display.local(plan.at))
    due = f"{capital(names)} {'is' if len(stores) == 1 else 'are'} due: first {where}, leave at {when}."
    return f"{due} After that stop: {in_ten(p_after)} that you can stay until {until}."
