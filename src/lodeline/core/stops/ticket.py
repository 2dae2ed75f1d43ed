"""The ticket of an outing: its places in order, what to do there, with amounts and minutes, and what each writes to
the log.

The order is common practice: toilet waste first, grey water through the same hose to rinse it, valves shut and hands
washed, and only then fresh water through a hose of its own. Gas is off while driving and at the pump.
"""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import replace
from datetime import timedelta
from enum import StrEnum
from math import ceil

from lodeline.core.book import Service, Spot, way_h
from lodeline.core.catalogue import Caution, Role, StopAct
from lodeline.core.catalogue.terms import Thing
from lodeline.core.energy.bank import charging_volts
from lodeline.core.figures import Levers, Stops
from lodeline.core.log import Event
from lodeline.core.rig import Rig, Store
from lodeline.core.stops.plan import PlannedOuting, Stop, StopWork
from lodeline.core.values import dataclass
from lodeline.core.zone import FIVE_MINUTES_H, HOURS, MIN_PER_H, city_of, to_five_minutes

_HOUR = timedelta(hours=1)
_WHOLE_KM_FROM = 10.0  # nearer, a tenth is told


class TaskKind(StrEnum):
    """What is done. Those of stores write to the log."""

    TAKE_OUT = "take-out"
    GAS_OFF = "gas-off"
    DRIVE = "drive"
    EMPTY = "empty"
    RINSE = "rinse"
    VALVES = "valves"
    HANDS = "hands"
    CLEAN_HOSE = "clean-hose"
    FILL = "fill"
    JUGS = "jugs"
    SWAP = "swap"
    REFUEL = "refuel"
    PLUG_IN = "plug-in"
    BUY = "buy"
    LAUNDRY = "laundry"
    SHOWER = "shower"
    GAS_ON = "gas-on"


@dataclass(frozen=True, slots=True, kw_only=True)
class Task:
    """One task. ``amount``: as planned, in the unit of ``store``, with its range; ``event``: the type that it logs, or
    none; ``trips``: of jugs where no hose reaches; ``things``: to be taken out; ``draw_a``: what the rig draws at the
    post against its ``post_a``; ``at``: the place, of what is done at one."""

    id: str
    kind: TaskKind
    store: str | None = None
    service: str | None = None
    event: str | None = None
    to_full: bool = False
    amount: float | None = None
    low: float | None = None
    high: float | None = None
    hours: float | None = None
    km: float | None = None
    minutes: float = 0.0
    cost: float = 0.0
    trips: int | None = None
    jug: float | None = None
    things: tuple[Thing, ...] = ()
    draw_a: float | None = None
    post_a: float | None = None
    at: str | None = None
    optional: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class StopWeight:
    """What the stores weigh after the stop, and what is left of the payload, where that is known. [kg]"""

    stores_kg: float
    left_kg: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Ticket:
    """The tasks of an outing in order, and what the rig weighs after it."""

    outing: PlannedOuting
    tasks: tuple[Task, ...]
    weight: StopWeight
    cautions: tuple[Caution, ...]

    @property
    def minutes(self) -> float:
        """All tasks that are not left to choice. [min]"""
        return sum(task.minutes for task in self.tasks if not task.optional)


def ticket(rig: Rig, outing: PlannedOuting, contents: Mapping[str, float]) -> Ticket:
    """The ticket of an outing. ``contents``: what each known store is expected to hold when it begins, by id."""
    acts = [act for stop in outing.stops for act in stop.acts]
    cautions = {each for act in acts for each in act.service.kind.cautions} | {Caution.AXLES, Caution.DUMP_ALLOWED}
    if not any(act.act is StopAct.EMPTY for act in acts):
        cautions -= {Caution.DUMP_ALLOWED}
    return Ticket(
        outing=outing,
        tasks=tuple(_tasks(rig, outing)),
        weight=_weight(rig, acts, contents),
        cautions=tuple(sorted(cautions, key=list(Caution).index)),
    )


def _weight(rig: Rig, acts: Iterable[StopWork], contents: Mapping[str, float]) -> StopWeight:
    after = dict(contents)
    after |= {
        act.store.id: act.store.good_end if act.held_to is None else act.held_to
        for act in acts
        if not act.store.is_bank
    }
    stores = {store.id: store for store in rig.stores}
    kg = sum(amount * stores[id].kg_per_unit for id, amount in after.items() if not stores[id].is_bank)
    return StopWeight(stores_kg=kg, left_kg=None if rig.payload_kg is None else rig.payload_kg - kg)


def _tasks(rig: Rig, outing: PlannedOuting) -> Iterator[Task]:
    gas = any(store.kind.role is Role.GAS for store in rig.stores)
    acts = [act for stop in outing.stops for act in stop.acts]
    if things := _things(outing.stops):
        yield Task(id="take-out", kind=TaskKind.TAKE_OUT, things=things)
    if gas and (outing.km > 0 or _burns(acts)):
        yield Task(id="gas-off", kind=TaskKind.GAS_OFF)
    for n, stop in enumerate(outing.stops):
        if stop.km > Stops.near_km:
            yield _drive("drive" if n == 0 else f"drive-{n + 1}", (stop.arrive - stop.leave) / _HOUR, stop)
        for task in _at(rig, stop):
            # a store is served once on an outing, the rest at every place
            yield replace(task, at=stop.spot.name, id=task.id if n == 0 or task.store else f"{task.id}-{n + 1}")
    if outing.back is not None and outing.back_km > Stops.near_km:
        yield _drive("back", way_h(rig, outing.back_km), None, outing.back_km)
    if gas:
        yield Task(id="gas-on", kind=TaskKind.GAS_ON)


def _at(rig: Rig, stop: Stop) -> Iterator[Task]:
    """What is done at one place."""
    waste = [act for act in stop.acts if act.act is StopAct.EMPTY]
    yield from _waste([act for act in waste if act.service.kind.hose])
    yield from (_plain(act, TaskKind.EMPTY) for act in waste if not act.service.kind.hose)
    yield from _water(rig, [act for act in stop.acts if act.service.kind.flows])
    for act in stop.acts:
        yield from _other(rig, act, stop)
    yield from _beside(stop.spot)


def _drive(id: str, hours: float, to: Stop | None, km: float = 0.0) -> Task:
    # as somebody would write it down: it goes into the log
    km = to.km if to is not None else km
    return Task(
        id=id,
        kind=TaskKind.DRIVE,
        event="drive",
        hours=max(to_five_minutes(hours), FIVE_MINUTES_H),
        km=float(round(km)) if km >= _WHOLE_KM_FROM else round(km, 1),
        minutes=hours * MIN_PER_H,
        at=to.spot.name if to is not None else None,
    )


def _burns(acts: Iterable[StopWork]) -> bool:
    return any(act.service.kind.burns for act in acts)


def _plain(act: StopWork, kind: TaskKind, trips: int | None = None, jug: float | None = None) -> Task:
    event = {StopAct.EMPTY: "dump", StopAct.SWAP: "swap", StopAct.FILL: "fill"}[act.act]
    fills = act.act is StopAct.FILL
    return Task(
        id=f"{kind}-{act.store.id}",
        kind=kind,
        store=act.store.id,
        service=act.service.kind.id,
        event=event,
        to_full=fills,
        amount=act.p50,
        low=act.p10,
        high=act.p90,
        minutes=act.minutes,
        cost=act.cost,
        trips=trips,
        jug=jug,
    )


def _waste(acts: list[StopWork]) -> Iterator[Task]:
    """Toilet waste, rinsed; grey water through the same hose; then valves shut and hands washed."""
    for act in acts:
        yield _plain(act, TaskKind.EMPTY)
        if act.store.kind.role is Role.FLUSHED or act.store.kind.toilet is not None:
            yield Task(id=f"rinse-{act.store.id}", kind=TaskKind.RINSE, store=act.store.id, minutes=Stops.rinse_min)
    if acts:
        yield Task(id="valves", kind=TaskKind.VALVES)
        yield Task(id="hands", kind=TaskKind.HANDS)


def _water(rig: Rig, acts: list[StopWork]) -> Iterator[Task]:
    """Fresh water through its own hose; by jugs where no hose reaches."""
    if not acts:
        return
    jugs = acts[0].service.hose is False
    if not jugs:
        yield Task(id="clean-hose", kind=TaskKind.CLEAN_HOSE)
    for act in acts:
        if jugs:
            jug = _jug(rig, act.store)
            yield _plain(act, TaskKind.JUGS, trips=ceil(act.p50 / jug), jug=jug)
        else:
            yield _plain(act, TaskKind.FILL)


def _jug(rig: Rig, store: Store) -> float:
    poured = [each for each in rig.stores if each.is_poured and each.reserve]
    return next((each.reserve for each in poured if each.id == store.id and each.reserve), Levers.jug_l)


def _other(rig: Rig, act: StopWork, stop: Stop) -> Iterator[Task]:
    kind = act.service.kind
    match act.act:
        case StopAct.SWAP:
            yield _plain(act, TaskKind.SWAP)
        case StopAct.FILL if not kind.flows:
            yield _plain(act, TaskKind.REFUEL if kind.drives else TaskKind.FILL if kind.burns else TaskKind.BUY)
        case StopAct.CHARGE:
            hours = min(HOURS, (stop.depart - stop.arrive) / _HOUR)
            yield Task(
                id=f"plug-in-{act.store.id}",
                kind=TaskKind.PLUG_IN,
                store=act.store.id,
                service=kind.id,
                event=kind.event,
                hours=to_five_minutes(hours),
                amount=act.p50,
                low=act.p10,
                high=act.p90,
                minutes=act.minutes,
                cost=act.cost,
                draw_a=_draw_a(rig, act),
                post_a=act.service.amps,
            )


def _draw_a(rig: Rig, act: StopWork) -> float | None:
    """What the rig's charger takes from a post, at its volts; a generator's takes nothing there. [A]"""
    amps = sum(source.amps for source in rig.sources if source.kind.event == act.service.kind.event)
    if not amps:
        return None
    return amps * charging_volts(act.store) / Stops.charger_share / (act.service.volts or post_v(rig))


def post_v(rig: Rig) -> float:
    """Volts of a post of which nobody said: as they are where the rig is at home. [V]"""
    city = city_of(rig.timezone)
    is_north_american = rig.timezone.startswith(_AMERICAS) and city is not None and city.lat > Stops.north_america_lat
    return Stops.post_north_america_v if is_north_american else Stops.post_v


_AMERICAS = ("America/", "US/", "Canada/", "Pacific/Honolulu")


def _beside(spot: Spot) -> Iterator[Task]:
    """What the place offers beside the stores: laundry and showers, left to choice."""
    for id, kind in (("laundry", TaskKind.LAUNDRY), ("shower", TaskKind.SHOWER)):
        service = spot.services.get(id)
        if service is not None:
            yield Task(
                id=id, kind=kind, service=id, minutes=service.kind.minutes, cost=service.price or 0.0, optional=True
            )


def _things(stops: Iterable[Stop]) -> tuple[Thing, ...]:
    """What to take out beforehand."""
    found: set[Thing] = set()
    for stop in stops:
        services = [act.service for act in stop.acts]
        found |= {thing for service in services for thing in _things_for(service)}
        if stop.spot.fee or any(service.price and service.kind.coins for service in services):
            found.add(Thing.COINS)
    return tuple(thing for thing in Thing if thing in found)


def _things_for(service: Service) -> tuple[Thing, ...]:
    by_jugs = service.kind.flows and service.hose is False
    return (Thing.JUGS,) if by_jugs else service.kind.things


def done_by(task: Task, events: Iterable[Event], n_drives: int = 2) -> Event | None:
    """The event of the log that says that a task was done, None where there is none. ``n_drives``: of the ticket."""
    if task.event is None:
        return None
    fitting = [each for each in events if each.type == task.event and each.store in (task.store, None)]
    if task.kind is TaskKind.DRIVE:
        # in the order in which they are driven, the way back last
        number = int(task.id.removeprefix("drive-")) if task.id.startswith("drive-") else 1
        number = n_drives if task.id == "back" else number
        return fitting[number - 1] if len(fitting) >= number else None
    return fitting[-1] if fitting else None
