"""The plan of the coming stops, stops moved by hand, tickets."""

from collections.abc import Iterable
from datetime import timedelta
from uuid import UUID

from django.http import HttpRequest
from ninja import Router
from pydantic import Field

from lodeline.api.moments import Moment, moment
from lodeline.api.out import BandOut, Out
from lodeline.api.typed import EventIn, as_given
from lodeline.api.who import Needs, display_of, rig_of, user_of
from lodeline.core.forecast.forecast import Band
from lodeline.core.log import Event
from lodeline.core.rig import Rig
from lodeline.core.stops.plan import Plan, PlannedLane, Stop
from lodeline.core.stops.ticket import Task
from lodeline.core.wishes import FixedStop
from lodeline.formats import document as d
from lodeline.logbook import clock
from lodeline.logbook.services import plans, tickets, wishes
from lodeline.logbook.services.derived import Derived, derived
from lodeline.text import stops as text
from lodeline.text import ticket as ticket_text
from lodeline.text.cautions import cautions
from lodeline.text.display import Display, listed
from lodeline.text.horizon import chores
from lodeline.text.levers import lever_words
from lodeline.text.times import short_date

router = Router(tags=["stops"])


class StopActOut(Out):
    store: str
    hue: str
    words: str
    minutes: int
    cost: str


class StopOut(Out):
    """A stop of a plan. ``why``: what it is made for; ``fixed``: planned by hand; ``ticket``: its ticket, where one was
    written."""

    place: str
    name: str
    leave: Moment
    arrive: Moment
    words: str
    does: str
    why: str
    minutes: int
    acts: list[StopActOut]
    fixed: bool
    plug: bool
    closed: str | None
    ticket: int | None


class OutingOut(Out):
    """An outing: its stops by their numbers; ``ticket``: the one that was written for it."""

    words: str
    stops: list[int]
    fixed: bool
    ticket: int | None


class OtherOut(Out):
    words: str
    stops: list[str]


class RemedyOut(Out):
    """A habit that would bring the plan nearer to what the crew accepts, to agree on through a date."""

    lever: str
    words: str
    until: str


class PlanLane(Out):
    """A store's contents if the plan is followed, for drawing, in the unit shown."""

    store: str
    fan: list[BandOut]


class PlanOut(Out):
    """The plan as a story. ``risk``: what the crew accepts; ``stands``: it is the last one as it is now, while another
    is looked for."""

    revision: int
    now: Moment
    has_places: bool
    headline: str
    detail: str
    chance: str
    risk: float
    currency: str | None
    feasible: bool
    outings: list[OutingOut]
    stops: list[StopOut]
    lanes: list[PlanLane]
    others: list[OtherOut]
    fallback: str | None
    remedy: RemedyOut | None
    chores: list[str]
    stands: bool


class StopRef(d.Part):
    """A stop by its place and when one arrives there; ``plug``: for a night plugged in."""

    place: d.Slug
    arrive: d.Time
    plug: bool = False


class PlanStopIn(d.Part):
    """A stop to be planned by hand, in place of another one where that is named."""

    stop: StopRef
    instead_of: StopRef | None = None


class TryIn(d.Part):
    """A stop at another time than the plan has it."""

    stop: StopRef
    instead_of: StopRef


class MovedStopOut(Out):
    """What the plan would be then; no words where it has no such stop any more."""

    words: str | None
    feasible: bool
    lanes: list[PlanLane]


class PlanOnIn(d.Part):
    """A stop to be planned by hand, by the date and time that the clock shows where the rig is."""

    place: d.Slug
    on: d.Date
    time: d.ClockTime
    plug: bool = False


class RiskIn(d.Part):
    risk: float = Field(ge=0.01, le=0.5)


class TicketIn(d.Part):
    """A ticket by its number."""

    id: int = Field(ge=1, le=2**31)


class CurrencyIn(d.Part):
    """The code of a currency (ISO 4217); null: nobody says."""

    currency: d.Currency | None


class TaskOut(Out):
    """A task. ``event``: what its tick logs, amounts in the user's own units; ``unit``: of that amount; ``done``: the
    entry that says so."""

    id: str
    kind: str
    at: str | None
    words: str
    beside: str
    button: str
    optional: bool
    event: EventIn | None
    amount: float | None
    unit: str | None
    done: UUID | None
    done_words: str | None


class TicketOut(Out):
    """A ticket as it stood at a revision of the log. ``changed``: that the plan is another one by now; ``can_rewrite``:
    whether it can be written anew as the plan is."""

    id: int
    revision: int
    place: str
    name: str
    now: Moment
    arrive: Moment
    opened: Moment
    headline: str
    sums: str
    weight: str
    tasks: list[TaskOut]
    left: int
    over: bool
    cautions: list[str]
    changed: str | None
    can_rewrite: bool


class TicketLine(Out):
    id: int
    name: str
    when: str
    left: int
    over: bool


class TicketsOut(Out):
    tickets: list[TicketLine]


class TicketRef(Out):
    id: int


@router.get("/{rig_id}/plan", response=PlanOut, operation_id="plan_stops")
def plan(request: HttpRequest, rig_id: str) -> PlanOut:
    """The plan of the coming days."""
    rig, display = rig_of(request, rig_id), display_of(request)
    known = derived(rig)
    return _plan(plans.plan_of(rig), known, tickets.open_by_stop(rig), display)


@router.post("/{rig_id}/plan/stops", response={204: None}, operation_id="plan_stop")
def plan_stop(request: HttpRequest, rig_id: str, payload: PlanStopIn) -> tuple[int, None]:
    """Plan a stop by hand: the plan is made round it."""
    rig = rig_of(request, rig_id, needs=Needs.CREW)
    instead = _fixed(payload.instead_of) if payload.instead_of else None
    wishes.plan_stop(rig, _fixed(payload.stop), instead_of=instead, by=user_of(request))
    return 204, None


@router.post("/{rig_id}/plan/stops/on", response={204: None}, operation_id="plan_stop_on")
def plan_stop_on(request: HttpRequest, rig_id: str, payload: PlanOnIn) -> tuple[int, None]:
    """Plan a stop by hand at a place of the book, by date and time: the plan is made round it."""
    rig, display = rig_of(request, rig_id, needs=Needs.CREW), display_of(request)
    arrive = display.zone.instant(payload.on, payload.time)
    wished = FixedStop(spot=payload.place, arrive=arrive, plug=payload.plug)
    wishes.plan_stop(rig, wished, instead_of=None, by=user_of(request))
    return 204, None


@router.post("/{rig_id}/plan/try", response=MovedStopOut, operation_id="try_stop")
def try_stop(request: HttpRequest, rig_id: str, payload: TryIn) -> MovedStopOut:
    """What the plan would be with a stop at another time. Nothing is kept."""
    rig, display = rig_of(request, rig_id), display_of(request)
    known = derived(rig)
    found = plans.tried(rig, known, _fixed(payload.stop), _fixed(payload.instead_of))
    if found is None:
        return MovedStopOut(words=None, feasible=False, lanes=[])
    return MovedStopOut(words=text.tried(found), feasible=found.feasible, lanes=_lanes(found.lanes, known.rig, display))


@router.post("/{rig_id}/plan/stops/remove", response={204: None}, operation_id="unplan_stop")
def unplan_stop(request: HttpRequest, rig_id: str, payload: StopRef) -> tuple[int, None]:
    """Let the plan decide again."""
    rig = rig_of(request, rig_id, needs=Needs.CREW)
    wishes.unplan_stop(rig, _fixed(payload), by=user_of(request))
    return 204, None


@router.put("/{rig_id}/plan/risk", response={204: None}, operation_id="set_risk")
def set_risk(request: HttpRequest, rig_id: str, payload: RiskIn) -> tuple[int, None]:
    """Say which chance of passing a line the crew accepts."""
    rig = rig_of(request, rig_id, needs=Needs.CREW)
    wishes.set_risk(rig, payload.risk, by=user_of(request))
    return 204, None


@router.put("/{rig_id}/plan/currency", response={204: None}, operation_id="set_currency")
def set_currency(request: HttpRequest, rig_id: str, payload: CurrencyIn) -> tuple[int, None]:
    """Say which money the prices are in."""
    rig = rig_of(request, rig_id, needs=Needs.CREW)
    wishes.set_currency(rig, payload.currency, by=user_of(request))
    return 204, None


def _fixed(given: StopRef) -> FixedStop:
    return FixedStop(spot=given.place, arrive=given.arrive, plug=given.plug)


def _plan(plan: Plan, known: Derived, written: dict[tuple[str, str], int], display: Display) -> PlanOut:
    headline, detail = text.plan_headline(plan, display)
    return PlanOut(
        revision=known.revision,
        now=moment(known.now, display),
        has_places=bool(known.book),
        headline=headline,
        detail=detail,
        chance=text.kept(plan),
        risk=plan.risk,
        currency=known.rig.currency,
        feasible=plan.feasible,
        outings=_outings(plan, written, display),
        stops=[_stop(stop, plan, written, display) for stop in plan.stops],
        lanes=_lanes(plan.lanes, known.rig, display),
        others=[
            OtherOut(
                words=text.other(other, plan, display),
                stops=[text.outing(each, plan.at, display) for each in other.outings],
            )
            for other in plan.others
        ],
        fallback=text.fallback(plan.fallback, plan.at, display) if plan.fallback is not None else None,
        remedy=_remedy(plan, known, display),
        chores=chores(known.forecast, display),
        stands=plan.stands,
    )


def _remedy(plan: Plan, known: Derived, display: Display) -> RemedyOut | None:
    if plan.remedy is None:
        return None
    words = lever_words(known.rig, plan.remedy.lever, display, known.book)
    last = known.rig.zone.date(known.now) + timedelta(days=plan.days)
    return RemedyOut(
        lever=plan.remedy.lever.id, words=text.remedy(words, plan.remedy.p_crossed), until=last.isoformat()
    )


def _outings(plan: Plan, written: dict[tuple[str, str], int], display: Display) -> list[OutingOut]:
    found, first = [], 0
    for each in plan.outings:
        numbers = list(range(first, first + len(each.stops)))
        first += len(numbers)
        tickets_of = (written.get((stop.spot.id, stop.arrive.isoformat())) for stop in each.stops)
        found.append(
            OutingOut(
                words=text.outing(each, plan.at, display),
                stops=numbers,
                fixed=each.is_fixed,
                ticket=next((ticket for ticket in tickets_of if ticket is not None), None),
            )
        )
    return found


def _lanes(lanes: Iterable[PlannedLane], rig: Rig, display: Display) -> list[PlanLane]:
    return [PlanLane(store=lane.store, fan=_fan(rig, lane.store, lane.bands, display)) for lane in lanes]


def _fan(rig: Rig, store_id: str, bands: Iterable[Band], display: Display) -> list[BandOut]:
    store = rig.store(store_id)
    assert store is not None
    return [
        BandOut(
            at=display.iso(band.at),
            p10=display.value(band.p10, store.unit),
            p50=display.value(band.p50, store.unit),
            p90=display.value(band.p90, store.unit),
        )
        for band in bands
    ]


def _stop(stop: Stop, whole: Plan, written: dict[tuple[str, str], int], display: Display) -> StopOut:
    return StopOut(
        place=stop.spot.id,
        name=stop.spot.name,
        leave=moment(stop.leave, display),
        arrive=moment(stop.arrive, display),
        words=text.stop(stop, whole.at, display),
        does=text.stop_does(stop),
        why=text.stop_why(stop, whole.at, display),
        minutes=round(stop.minutes),
        acts=[
            StopActOut(
                store=act.store.id,
                hue=act.store.kind.hue,
                words=text.act(act, display),
                minutes=round(act.minutes),
                cost=text.to_pay(act.cost, display),
            )
            for act in stop.acts
        ],
        fixed=stop.is_fixed,
        closed=text.stop_closed(stop),
        plug=any(act.store.is_bank for act in stop.acts),
        ticket=written.get((stop.spot.id, stop.arrive.isoformat())),
    )


@router.get("/{rig_id}/tickets", response=TicketsOut, operation_id="tickets")
def all_tickets(request: HttpRequest, rig_id: str) -> TicketsOut:
    """The latest tickets."""
    rig, display = rig_of(request, rig_id), display_of(request)
    return TicketsOut(
        tickets=[
            TicketLine(
                id=each.key,
                name=each.spot_name,
                when=short_date(display.local(each.arrive).date()),
                left=each.left,
                over=each.over,
            )
            for each in tickets.tickets(rig)
        ]
    )


@router.post("/{rig_id}/tickets", response=TicketRef, operation_id="open_ticket")
def open_ticket(request: HttpRequest, rig_id: str, payload: StopRef) -> TicketRef:
    """Write the ticket of a stop: at a place of the book, at a time; it stays as it is until the stop is over."""
    rig = rig_of(request, rig_id, needs=Needs.CREW)
    return TicketRef(id=tickets.open_ticket(rig, derived(rig), _fixed(payload), by=user_of(request)))


@router.get("/{rig_id}/tickets/{ticket_id}", response=TicketOut, operation_id="ticket")
def one_ticket(request: HttpRequest, rig_id: str, ticket_id: int) -> TicketOut:
    """A ticket, with what the log says was done."""
    rig, display = rig_of(request, rig_id), display_of(request)
    written, core = tickets.written(rig, ticket_id), tickets.core_rig(rig)
    arrive = display.local(written.arrive)
    return TicketOut(
        id=written.key,
        revision=rig.revision,
        place=written.spot,
        name=written.spot_name,
        now=moment(clock.now(), display),
        arrive=moment(written.arrive, display),
        opened=moment(written.opened_at, display),
        headline=f"{listed(written.places)}, {short_date(arrive.date())}",
        sums=ticket_text.sums(
            sum(t.minutes for t in written.tasks if not t.optional), sum(t.cost for t in written.tasks), display
        ),
        weight=ticket_text.weight(written.weight, display),
        tasks=[_task(core, task, written.done.get(task.id), display) for task in written.tasks],
        left=written.left,
        over=written.over,
        cautions=cautions(written.cautions, display),
        changed=ticket_text.changed(written.over, written.is_gone, written.has_changed),
        can_rewrite=written.has_changed and not written.begun and not written.over,
    )


@router.post("/{rig_id}/plan/ticket", response={204: None}, operation_id="rewrite_ticket")
def rewrite_ticket(request: HttpRequest, rig_id: str, payload: TicketIn) -> tuple[int, None]:
    """Write a ticket anew as the plan is by now."""
    rig = rig_of(request, rig_id, needs=Needs.CREW)
    tickets.rewrite(rig, derived(rig), payload.id, by=user_of(request))
    return 204, None


@router.delete("/{rig_id}/tickets/{ticket_id}", response={204: None}, operation_id="remove_ticket")
def remove_ticket(request: HttpRequest, rig_id: str, ticket_id: int) -> tuple[int, None]:
    """Throw a ticket away; what was logged stays."""
    rig = rig_of(request, rig_id, needs=Needs.CREW)
    tickets.remove(rig, ticket_id, by=user_of(request))
    return 204, None


def _task(rig: Rig, task: Task, done: Event | None, display: Display) -> TaskOut:
    store = rig.store(task.store)
    amount = None
    if store is not None and task.amount is not None and task.event == "fill":
        amount = display.value(task.amount, store.unit, 1)
    return TaskOut(
        id=task.id,
        kind=task.kind,
        at=task.at,
        words=ticket_text.task(rig, task, display),
        beside=ticket_text.beside(task, display),
        button=ticket_text.did(task),
        optional=task.optional,
        event=_event(rig, task, display),
        amount=amount,
        unit=display.unit(store.unit).unit if store is not None and amount is not None else None,
        done=done.key if done else None,
        done_words=ticket_text.done(done, rig, display) if done else None,
    )


def _event(rig: Rig, task: Task, display: Display) -> EventIn | None:
    """What a tick logs, as the screen sends it."""
    if task.event is None:
        return None
    event = Event(
        at=clock.now(),
        type=task.event,
        store=task.store if task.event in ("dump", "fill", "swap") else None,
        to_full=task.to_full,
        hours=task.hours if task.event in ("drive", "shore") else None,
        km=task.km,
    )
    return as_given(rig, event, display)
