"""Stops in words: places and what they offer, the plan as a short story, what else could be done."""

from collections.abc import Iterable
from datetime import date, datetime, timedelta

from lodeline.core.book import NightsAt, PastVisit, Service, Spot, VisitNote
from lodeline.core.catalogue import GasHow, StopAct
from lodeline.core.figures import Stops
from lodeline.core.log import Day
from lodeline.core.rig import Rig, Store
from lodeline.core.stops.plan import (
    Fallback,
    Moved,
    NotServed,
    Plan,
    PlannedOuting,
    Stop,
    StopWork,
    Unserved,
    WhyServed,
)
from lodeline.core.stops.setting import is_waste
from lodeline.text.chances import in_ten
from lodeline.text.display import Display, capital, counted, listed
from lodeline.text.habits import exact
from lodeline.text.round import event
from lodeline.text.times import (
    about_clock,
    clock_on,
    date_words,
    day_name,
    day_part,
    hours_words,
    short_date,
    short_when,
    to_quarter,
)

_MONTHS = (
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December",
)
_WINDS = ("north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west")
_TURN_DEG = 360.0
ALWAYS_OPEN = "always open, as far as is known"


def to_pay(amount: float, display: Display) -> str:
    """What something costs, nothing where it is free: ``about 17 EUR to pay``."""
    return f"{display.about(amount)} to pay" if round(amount) else ""


def direction(bearing_deg: float) -> str:
    """Where it lies: ``north-west``."""
    return _WINDS[round(bearing_deg / (_TURN_DEG / len(_WINDS))) % len(_WINDS)]


def way(km: float, hours: float, display: Display) -> str:
    """How far: ``12 km, 15 min``."""
    return f"{display.amount(km, 'km')}, {hours_words(hours)}"


def seen(km: float, hours: float, bearing_deg: float, display: Display) -> str:
    """Where a place lies from here: ``12 km, 15 min, north-west``."""
    return f"{way(km, hours, display)}, {direction(bearing_deg)}"


def services(offered: Iterable[Service], display: Display) -> str:
    """All that is offered, in one line."""
    return "; ".join(service(one, display) for one in offered) or "nothing that is known"


def ring(way: float, display: Display) -> str:
    """What stands at a ring of equal way, in the shown unit: ``20 km``."""
    return f"{exact(way)} {display.unit('km').unit}"


def service(service: Service, display: Display) -> str:
    """What is offered, with what is known of it: ``water, 8 L/min, to drink``."""
    parts = [service.kind.name]
    if service.l_per_min is not None:
        parts.append(f"{display.amount(service.l_per_min, 'L')} a minute")
    if service.drinkable is not None:
        parts.append("to drink" if service.drinkable else "not to drink")
    if service.hose is False:
        parts.append("by jugs, no hose reaches")
    if service.amps is not None:
        parts.append(display.amount(service.amps, "A"))
    parts += [listed(list(service.fuels))] if service.fuels else []
    if service.how is not None:
        parts.append("bottles swapped" if service.how is GasHow.SWAP else "bottles filled")
    parts += _prices(service, display)
    return ", ".join(parts)


def _prices(service: Service, display: Display) -> list[str]:
    unit = service.kind.unit
    found = []
    if service.price is not None:
        found.append(f"{display.money(service.price)} to pay" if service.price else "free")
    if service.price_per_unit is not None:
        per = service.price_per_unit / display.unit(unit).factor
        found.append(f"{display.money(round(per, 2))} a {display.unit(unit).unit}")
    if service.price_night is not None:
        found.append(f"{display.money(service.price_night)} a night" if service.price_night else "free")
    return found


def opening(notation: str | None) -> str:
    """When it is open: as its notation has it."""
    return ALWAYS_OPEN if notation in (None, "24/7") else f"open {notation}"


def limits(spot: Spot, display: Display) -> list[str]:
    """Whom it does not take, and when it is shut."""
    found = []
    if spot.closed_months:
        found.append(f"closed in {listed([_MONTHS[each - 1] for each in sorted(spot.closed_months)])}")
    if spot.max_length_m is not None:
        found.append(f"no rigs over {display.amount(spot.max_length_m, 'm')} long")
    if spot.max_height_m is not None:
        found.append(f"no rigs over {display.amount(spot.max_height_m, 'm')} high")
    if spot.max_nights is not None:
        found.append(f"at most {counted(spot.max_nights, 'night')}" if spot.max_nights else "no nights")
    if spot.fee:
        found.append(f"{display.money(spot.fee)} to enter")
    return found


def lets_in(fits: bool, rig: Rig, spot: Spot) -> str | None:
    """That the rig is not let in, or that nobody knows."""
    if not fits:
        return "this rig is too large for it"
    unknown = (spot.max_length_m is not None and rig.length_m is None) or (
        spot.max_height_m is not None and rig.height_m is None
    )
    return "check whether it takes a rig of your size" if unknown else None


def age(spot: Spot, today: date) -> str | None:
    """How old what is known of a place is, where that is old."""
    if spot.known_on is None:
        return "nobody has said when this was last so"
    if not spot.is_old(today):
        return None
    return f"last known on {date_words(spot.known_on)} {spot.known_on.year}; it may have changed"


def note(note: VisitNote) -> str:
    """What was seen there: ``Thu 12 Mar 2026: tap ran dry``."""
    return f"{short_date(note.on)} {note.on.year}: {note.text}"


def visit(rig: Rig, visit: PastVisit, display: Display) -> str:
    """What was done there on a day."""
    done = [event(rig, one, display) for one in visit.day.events]
    said = listed(done) if done else "nothing logged"
    return f"{short_date(visit.on)} {visit.on.year}: {said}{_written(visit.day)}"


def _written(day: Day) -> str:
    return f". {day.note}" if day.note else ""


def nights(at: NightsAt) -> str:
    """A place of the log that could be put into the book."""
    return f"{at.place.name}: {counted(at.nights, 'night')}, last on {short_date(at.last)}"


DOES = {StopAct.EMPTY: "empty", StopAct.FILL: "fill", StopAct.SWAP: "swap", StopAct.CHARGE: "charge"}


def act(work: StopWork, display: Display) -> str:
    """What is done with a store: ``Fill Fresh water, 60 to 82 L``."""
    return capital(f"{DOES[work.act]} {work.store.name}, {display.span(work.p10, work.p90, work.store.unit)}")


def stop(stop: Stop, now: datetime, display: Display) -> str:
    """A stop in a sentence: ``Mill site, Eira: there about 15:10 for 35 min.``"""
    arrive = display.local(stop.arrive)
    if stop.until is not None:
        until = display.local(stop.until)
        ends = clock_on(to_quarter(until), display.local(now))
        return f"{stop.spot.name}: there about {about_clock(arrive)}, plugged in until about {ends}."
    return f"{stop.spot.name}: there about {about_clock(arrive)} for {hours_words(stop.minutes / _MINUTES)}."


_MINUTES = 60


def outing(outing: PlannedOuting, now: datetime, display: Display) -> str:
    """An outing in a sentence: ``Saturday: leave about 15:00, back about 16:20. 11 km.``"""
    leave = display.local(outing.leave)
    day = capital(day_name(leave.date(), display.local(now).date()))
    said = f"{day}: leave about {about_clock(leave)}"
    if outing.back is not None:
        back = display.local(outing.back)
        at = about_clock(back) if back.date() == leave.date() else f"{about_clock(back)} on {back:%A}"
        said += f", {'there' if outing.on_the_way else 'back'} about {at}"
    km = f"{display.amount(outing.km, 'km')}{' more, on the way' if outing.on_the_way else ''}"
    return f"{said}. {', '.join(part for part in (km, _costs(outing.cost, display)) if part)}."


def _costs(amount: float, display: Display) -> str:
    """What an outing costs, nothing where that is less than half of one: ``about 17 EUR with the fuel``."""
    return f"{display.about(amount)} with the fuel" if round(amount) else ""


def stop_closed(stop: Stop) -> str | None:
    """That a stop is planned for when nobody is let in."""
    return None if stop.open_then else f"By the book {stop.spot.name} is closed then."


def stop_does(stop: Stop) -> str:
    """What is done there, in a few words: ``empty Grey tank, fill Fresh water``."""
    return capital(listed([f"{DOES[one.act]} {one.store.name}" for one in stop.acts])) or "Nothing to do"


def stop_why(stop: Stop, now: datetime, display: Display) -> str:
    """Why a stop is made: ``Grey tank would be full on Thursday evening (8 in 10: ...). Fresh water is filled because
    you are there.``"""
    said = [reason(each, now, display) for each in stop.reasons]
    beside = [act for act in stop.acts if act.store.id in stop.beside]
    if beside:
        done = listed([f"{act.store.name} {'' if n else 'is '}{_DONE[act.act]}" for n, act in enumerate(beside)])
        said.append(f"{done} because you are there.")
    held = [act for act in stop.acts if act.held_to is not None]
    for act in held:
        most = display.amount(act.held_to or 0.0, act.store.unit)
        said.append(f"{act.store.name} is filled to {most} at most: more would pass the payload.")
    return " ".join(said)


_DONE = {StopAct.EMPTY: "emptied", StopAct.FILL: "filled", StopAct.SWAP: "swapped", StopAct.CHARGE: "charged"}
_LIKELY = 0.5


def reason(why: WhyServed, now: datetime, display: Display, until: str = "before the next stop") -> str:
    """When a store would pass its line otherwise, in a sentence. ``until``: how far is looked."""
    store, here = why.store, display.local(now)
    if why.due:
        return f"{store.name} {'is low' if store.is_bank else 'is full' if is_waste(store) else 'is used up'} now."
    passes = "would be low" if store.is_bank else "would be full" if is_waste(store) else "would run out"
    if why.p50 is not None and why.p10 is not None:
        until = short_when(display.local(why.p90)) if why.p90 is not None else "later"
        on = day_part(display.local(why.p50), here)
        span = f"8 in 10: {short_when(display.local(why.p10))} to {until}"
        return f"{store.name} {passes} {on} ({span})."
    if why.p < Stops.asked_from:
        return f"{store.name} {passes} on the way."
    may = passes.replace("would", "may")
    return f"{store.name} {may} {until} ({in_ten(why.p)})."


def plan_headline(plan: Plan, display: Display) -> tuple[str, str]:
    """The plan as a short story: what to do next and when, and how sure the rest is."""
    now = display.local(plan.at)
    over = counted(plan.days, "day")
    if not plan.outings:
        if plan.needs:
            return "No place in your book helps", " ".join(
                [*(need(each, plan.at, display) for each in plan.needs), *_stands(plan)]
            )
        return f"No stop needed for {over}", " ".join([f"{capital(_kept(plan))}.", *_beside(plan)])
    first = plan.outings[0]
    leave = display.local(first.leave)
    where = first.stops[0].spot.name
    due = _due_at(plan)
    if due:
        names = listed([capital(store.name) if n == 0 else store.name for n, store in enumerate(due)])
        when = "" if (leave - now) < _SOON else f", leave at {clock_on(leave, now)}"
        head = f"{names} {'is' if len(due) == 1 else 'are'} due. Next stop: {where}{when}"
    else:
        head = f"{where}: leave about {clock_on(to_quarter(leave), now)}"
    return head, " ".join([*_latest(plan, display), *_story(plan, over, display)])


def _latest(plan: Plan, display: Display) -> list[str]:
    """By when one has to leave, where that is later than is planned."""
    if plan.leave_by is None or plan.leave_by - plan.outings[0].leave < _SOON:
        return []
    return [f"At the latest leave at {clock_on(to_quarter(display.local(plan.leave_by)), display.local(plan.at))}."]


def tried(moved: Moved) -> str:
    """What a plan is with a stop moved: its chance, and what breaks it."""
    said = f"{in_ten(1 - moved.p_crossed)} that it holds"
    return capital(f"{said}; {moved.breaks.name} is what breaks it." if moved.breaks is not None else f"{said}.")


_SOON = timedelta(minutes=45)


def _due_at(plan: Plan) -> list[Store]:
    return [each.store for stop in plan.outings[0].stops for each in stop.reasons if each.due]


def _story(plan: Plan, over: str, display: Display) -> list[str]:
    parts = [kept(plan)]
    way = display.amount(plan.km, "km") if plan.has_position else "way not known"
    more = [f"{counted(len(plan.outings), 'outing')} in {over}", way, _costs(plan.cost, display)]
    parts.append(f"{capital(', '.join(part for part in more if part))}.")
    if not plan.has_position:
        parts.append("Say where the rig stands, in the Round: until then ways are not counted.")
    if not plan.feasible and plan.breaks is not None:
        parts.append(_breaks(plan.breaks, plan))
    parts += [need(each, plan.at, display) for each in plan.needs]
    return [*parts, *_beside(plan)]


def kept(plan: Plan) -> str:
    """The same as a sentence."""
    return f"{capital(_kept(plan))} if you follow this."


def _kept(plan: Plan) -> str:
    """The one number for the risk, in words."""
    rest = " of the rest" if plan.needs or plan.helpless or plan.once else ""
    return f"{in_ten(1 - plan.p_crossed)} that nothing{rest} runs out or overflows"


def _breaks(store: Store, plan: Plan) -> str:
    return f"{store.name} is what keeps it from {in_ten(1 - plan.risk)}."


def remedy(words: str, p_crossed: float) -> str:
    """The habit that would help a plan most: ``Navy showers: then 9 in 10 that it holds``."""
    return f"{words}: then {in_ten(1 - p_crossed)} that it holds."


def need(need: Unserved, now: datetime, display: Display) -> str:
    """What no place of the book serves, when it is met, and why: ``Gas would run out on Thursday evening (...). No
    place in your book sells it.``"""
    return f"{reason(need.reason, now, display, 'in these days')} {_not_served(need)}"


def _not_served(need: Unserved) -> str:
    store = need.store
    verb = "charges it" if store.is_bank else "takes it" if is_waste(store) else "has it"
    match need.why:
        case NotServed.NO_PLACE:
            return f"No place in your book {verb}."
        case NotServed.CLOSED:
            return f"What {verb} in your book is closed all these days."
        case NotServed.TOO_HIGH:
            return f"What {verb} in your book takes no rig as high as yours."
        case NotServed.TOO_LONG:
            return f"What {verb} in your book takes no rig as long as yours."
        case NotServed.TOO_FAR:
            return f"What {verb} in your book is more than a day's drive away."
        case NotServed.NOT_TO_DRINK:
            return "The taps in your book are not for drinking; say under Water that you filter, or add another one."


def _stands(plan: Plan) -> list[str]:
    return ["This is the last plan as it is now; a new one is looked for."] if plan.stands else []


def _beside(plan: Plan) -> list[str]:
    """What stops do not keep, and whether the plan is the last one."""
    said = []
    if plan.helpless:
        named = listed([store.name for store in plan.helpless])
        line = "its line" if len(plan.helpless) == 1 else "their lines"
        said.append(f"{named} cannot be kept from {line} by going out.")
    if plan.once:
        named, verb = listed([store.name for store in plan.once]), "needs" if len(plan.once) == 1 else "need"
        said.append(f"{named} {verb} a stop nearly every day: only the next one is in this plan.")
    return [*said, *_stands(plan)]


def other(plan: Plan, best: Plan, display: Display) -> str:
    """Another plan and how it differs: ``First Old mill on Tue 8 Dec: about 4 EUR less, 12 km more; 9 in 10``."""
    n = counted(len(plan.outings), "outing")
    first = plan.stops[0]
    where = f"{n}, first {first.spot.name} {short_date(display.local(first.arrive).date())}"
    return f"{where}: {_difference(plan.cost - best.cost, plan.km - best.km, display)}; {in_ten(1 - plan.p_crossed)}"


def _difference(cost: float, km: float, display: Display) -> str:
    parts = []
    if abs(cost) >= _WORTH_SAYING:
        parts.append(f"{display.about(abs(cost))} {'more' if cost > 0 else 'less'}")
    if abs(km) >= 1:
        parts.append(f"{display.amount(abs(km), 'km')} {'more' if km > 0 else 'less'}")
    return listed(parts) or "the same way and cost"


_WORTH_SAYING = 0.5


def fallback(instead: Fallback, now: datetime, display: Display) -> str:
    """What to do where the first place is closed, and what it costs; or that there is none."""
    names = listed([each.name for each in instead.stores]) or "that"
    if instead.outing is None:
        near = display.amount(Stops.fallback_km, "km")
        return f"If {instead.closed.name} is closed: no other place in your book serves {names} within {near}."
    leave = display.local(instead.outing.leave)
    places = listed([stop.spot.name for stop in instead.outing.stops])
    when = f"{day_name(leave.date(), display.local(now).date())} about {about_clock(leave)}"
    costs = _difference(instead.more_cost, instead.more_km, display)
    return f"If {instead.closed.name} is closed: {places}, {when}; {costs}, {in_ten(1 - instead.p_crossed)}."


def brought(added: int, known: int, skipped: int) -> str:
    """What a file of places brought."""
    parts = [f"{counted(added, 'place')} added"]
    if known:
        parts.append(f"{exact(known)} in the book already")
    if skipped:
        parts.append(f"{exact(skipped)} could not be read")
    return capital(", ".join(parts)) + "."
