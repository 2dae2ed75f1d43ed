"""Stops in words: places and what they offer, the plan as a short story, what else could be done."""

from collections.abc import Iterable
from datetime import date, datetime, timedelta

from lodeline.core.book import NightsAt, PastVisit, Service, Spot, VisitNote
from lodeline.core.catalogue import GasHow, StopAct
from lodeline.core.log import Day
from lodeline.core.rig import Rig
from lodeline.core.stops.plan import Plan, Stop, StopWork
from lodeline.text.display import Display, capital, counted, listed, percent
from lodeline.text.habits import exact, figure
from lodeline.text.round import event
from lodeline.text.times import clock, date_words, day_name, hours_words, short_date

_CENTS = 2
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


def money(amount: float) -> str:
    """An amount of money, whose unit is the crew's own: ``12``, ``4.50``."""
    return figure(amount) if float(amount).is_integer() else figure(amount, _CENTS)


def to_pay(amount: float) -> str:
    """What something costs, nothing where it is free: ``17 to pay``."""
    return f"{money(round(amount, _CENTS))} to pay" if amount else ""


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
        found.append(to_pay(service.price) or "free")
    if service.price_per_unit is not None:
        per = service.price_per_unit / display.unit(unit).factor
        found.append(f"{figure(per, _CENTS)} a {display.unit(unit).unit}")
    if service.price_night is not None:
        found.append(f"{money(service.price_night)} a night" if service.price_night else "free")
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
        found.append(f"{money(spot.fee)} to enter")
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


_DOES = {StopAct.EMPTY: "empty", StopAct.FILL: "fill", StopAct.SWAP: "swap", StopAct.CHARGE: "charge"}


def act(work: StopWork, display: Display) -> str:
    """What is done with a store: ``Fill Fresh water, 60 to 82 L``."""
    return capital(f"{_DOES[work.act]} {work.store.name}, {display.span(work.p10, work.p90, work.store.unit)}")


def stop(stop: Stop, now: datetime, display: Display) -> str:
    """A stop in a sentence: ``Tuesday: leave at 09:10 for Quarry tap, there from 09:40 for 55 min.``"""
    leave, arrive = (display.local(at) for at in (stop.leave, stop.arrive))
    day = capital(day_name(arrive.date(), display.local(now).date()))
    stays = f"there at {clock(arrive)} for {hours_words(stop.minutes / 60)}"
    if (stop.depart - stop.arrive) > timedelta(hours=6):
        stays = f"there at {clock(arrive)} for the night"
    return f"{day}: leave at {clock(leave)} for {stop.spot.name}, {stays}."


def stop_closed(stop: Stop) -> str | None:
    """That a stop is planned for when nobody is let in."""
    return None if stop.open_then else f"By the book {stop.spot.name} is closed then."


def stop_does(stop: Stop) -> str:
    """What is done there, in a few words: ``empty Grey tank, fill Fresh water``."""
    return capital(listed([f"{_DOES[one.act]} {one.store.name}" for one in stop.acts])) or "Nothing to do"


def plan_headline(plan: Plan, rig: Rig, display: Display) -> tuple[str, str]:
    """The plan as a short story: a headline and what stands behind it."""
    now = display.local(plan.at)
    over = counted(plan.days, "day")
    if not plan.stops:
        if plan.feasible:
            return f"No stop needed for {over}", " ".join([f"{_chance(plan)}.", *_stands(plan)])
        return _no_plan(plan, rig)
    first = plan.stops[0]
    by = plan.leave_by or first.leave
    local = display.local(by)
    head = f"{counted(len(plan.stops), 'stop')} in {over}; leave by {day_name(local.date(), now.date())} {clock(local)}"
    way_in_all = f"{display.amount(plan.km, 'km')} in all"
    more = f"{to_pay(plan.cost)}, {way_in_all}" if plan.cost else way_in_all
    parts = [f"{_chance(plan)}; without a stop {percent(plan.p_none)}.", f"{capital(more)}."]
    if plan.helpless:
        parts.append(_helpless(plan, rig))
    elif not plan.feasible:
        parts.append(f"No plan with these places keeps it under {percent(plan.risk)}; this one comes nearest.")
    parts += _stands(plan)
    if not plan.stands and not plan.exact and plan.feasible:
        own = sum(1 for stop in plan.stops if not stop.is_fixed)
        if own <= plan.least_stops:
            parts.append("Fewer stops are not enough; there may be a cheaper plan.")
        else:
            parts.append(f"It takes at least {exact(plan.least_stops)}; not every plan was looked at.")
    return head, " ".join(parts)


def _stands(plan: Plan) -> list[str]:
    return ["This is the last plan as it is now; a new one is looked for."] if plan.stands else []


def _no_plan(plan: Plan, rig: Rig) -> tuple[str, str]:
    head = "No stop in the book helps"
    if plan.helpless:
        return head, _helpless(plan, rig)
    return (
        head,
        f"The chance that a line is passed stays at {percent(plan.p_crossed)}. Add places that serve what runs out.",
    )


def _helpless(plan: Plan, rig: Rig) -> str:
    stores = [store for id in plan.helpless if (store := rig.store(id)) is not None]
    names = listed([store.name for store in stores])
    return f"{names} cannot be kept by any stop in the book; the rest can be."


def _chance(plan: Plan) -> str:
    return f"The chance that a line is passed is {percent(plan.p_crossed)}"


def other(plan: Plan, best: Plan, display: Display) -> str:
    """Another plan and how it differs: ``3 stops, first Old mill; 4 cheaper, 12 km more; 8 %``."""
    n = counted(len(plan.stops), "stop")
    first = f", first {plan.stops[0].spot.name} {short_date(display.local(plan.stops[0].arrive).date())}"
    cost, km = plan.cost - best.cost, plan.km - best.km
    parts = []
    if abs(cost) >= _WORTH_SAYING:
        parts.append(f"{money(round(abs(cost), _CENTS))} {'dearer' if cost > 0 else 'cheaper'}")
    if abs(km) >= 1:
        parts.append(f"{display.amount(abs(km), 'km')} {'more' if km > 0 else 'less'}")
    parts.append(f"chance to pass a line {percent(plan.p_crossed)}")
    return f"{n}{first}; {', '.join(parts)}"


_WORTH_SAYING = 0.5


def fallback(plan: Plan, best: Plan, display: Display) -> str:
    """What to do where the first place is closed."""
    closed, instead = best.stops[0].spot.name, plan.stops[0]
    when = day_name(display.local(instead.arrive).date(), display.local(best.at).date())
    cost, km = plan.cost - best.cost, plan.km - best.km
    more = [
        f"{money(round(cost, _CENTS))} more" if cost >= _WORTH_SAYING else "",
        f"{display.amount(km, 'km')} more" if km >= 1 else "",
    ]
    costs = listed([part for part in more if part]) or "no more"
    return f"If {closed} is closed: {instead.spot.name} {when}. It costs {costs}."


def brought(added: int, known: int, skipped: int) -> str:
    """What a file of places brought."""
    parts = [f"{counted(added, 'place')} added"]
    if known:
        parts.append(f"{exact(known)} in the book already")
    if skipped:
        parts.append(f"{exact(skipped)} could not be read")
    return capital(", ".join(parts)) + "."
