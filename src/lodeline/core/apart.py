"""What is carried apart of a store and comes to its aid: full jugs, bottles and cans; the room of a tote, a bucket or a
second cassette. What is there when a log begins, and what acts do to it."""

from lodeline.core.catalogue import Effect, Role, Sense
from lodeline.core.log import RESERVE, Event
from lodeline.core.rig import Rig, Store


def carried(rig: Rig, store: Store) -> float:
    """What is carried apart of a store when its log begins: of jugs what was in them."""
    if rig.jugs and store is rig.first(Role.WATER):
        return min(store.reserve or 0.0, sum(jug.full * jug.litres for jug in rig.jugs if jug.is_reserve))
    if mine := rig.spares_of(store):
        return sum(spare.full * spare.holds for spare in mine if spare.fits(store))
    return store.reserve or 0.0


def reserve_after(rig: Rig, store: Store, reserve: float, event: Event) -> float:
    """What is carried apart after an event: moved or swapped in it is less, a fill of the store restores it.

    Of a tank that fills up it is the room of a tote or a bucket, or of a second cassette: what goes into it takes of
    it, and emptying the tank or what is apart gives it back. Where jugs are told one by one, a fill of the tank does
    not fill them.
    """
    whole = store.reserve or 0.0
    if rig.spares_of(store):
        return _spares_after(rig, store, reserve, event)
    if event.row.effect is Effect.MOVE and (rig.jug(event.source) or rig.jug(event.target)):
        into, out = (jug is not None and jug.is_reserve for jug in (rig.jug(event.target), rig.jug(event.source)))
        return min(whole, max(0.0, reserve + (event.amount or 0.0) * (into - out)))
    if rig.jugs and store.kind.role is Role.WATER and event.row.effect is Effect.FILL:
        return reserve
    if store.sense is Sense.FILLS:
        return _tote_after(store, reserve, event)
    match event.row.effect:
        case Effect.FILL:
            return whole
        case Effect.SWAP:
            return max(0.0, reserve - store.capacity)
        case Effect.MOVE if event.source == RESERVE and store.id in (event.target, event.store):
            return max(0.0, reserve - (event.amount or 0.0))
        case Effect.MOVE if event.target == RESERVE and store.id in (event.source, event.store):
            return min(whole, reserve + (event.amount or 0.0))
        case _:
            return reserve


def _spares_after(rig: Rig, store: Store, reserve: float, event: Event) -> float:
    """What is in bottles or cans after an event. A swap takes what was in the bottle that came into use."""
    match event.row.effect:
        case Effect.SWAP if event.source is not None and event.source != store.id:
            return max(0.0, reserve - (event.amount or 0.0))
        case Effect.MOVE:
            into, out = (
                spare is not None and spare.fits(store) for spare in (rig.spare(event.target), rig.spare(event.source))
            )
            return min(store.reserve or 0.0, max(0.0, reserve + (event.amount or 0.0) * (into - out)))
        case _:
            return reserve


def _tote_after(store: Store, room: float, event: Event) -> float:
    whole, amount = store.reserve or 0.0, event.amount or 0.0
    match event.row.effect:
        case Effect.EMPTY:
            return whole
        case Effect.MOVE if is_changed(store, event):
            # whatever was in it: one more that stands there full
            return max(0.0, room - store.capacity)
        case Effect.MOVE if event.source == store.id and event.target == RESERVE:
            return max(0.0, room - amount)
        case Effect.MOVE if event.source == RESERVE and not store.kind.runs_over:
            return whole
        case Effect.MOVE if event.source == RESERVE:
            return min(whole, room + amount)
        case _:
            return room


def is_changed(store: Store, event: Event) -> bool:
    """Whether an event says that an empty spare took the place of a full cassette or bottle."""
    fills = store.sense is Sense.FILLS and not store.kind.runs_over
    return event.row.effect is Effect.MOVE and fills and (event.source, event.target) == (store.id, RESERVE)
