"""Bottles and cans that are carried: which bottle is in use, what is in each, and the log as levels can be told from
it.

A gas store is the place where a bottle stands. Which bottle stands there changes: then another empty weight and another
size hold, so that what was read is turned into kilograms of gas before levels are followed.
"""

from dataclasses import replace
from datetime import datetime
from itertools import pairwise

from lodeline.core.catalogue import Effect, Method
from lodeline.core.log import Day, Event, Log, Reading
from lodeline.core.rig import Rig, Spare, Store
from lodeline.core.values import dataclass

# From this share on a bottle counts as a full one.
FULL_FROM = 0.9


@dataclass(frozen=True, slots=True, kw_only=True)
class InSpare:
    """What is in a bottle or can, in its store's unit. ``in_use``: it stands where the store's own bottle did."""

    spare: Spare
    contents: float
    kg: float
    in_use: bool
    since: datetime | None

    @property
    def is_full(self) -> bool:
        """Whether it is a full one that is not in use."""
        return not self.in_use and self.contents >= FULL_FROM * self.spare.holds


@dataclass(frozen=True, slots=True, kw_only=True)
class Standing:
    """Bottles of one gas store: those apart, and the store's own where another stands in its place. ``own``: what is in
    it then, None while it is in use; ``opened``: since when the one in use stands there."""

    store: Store
    spares: tuple[InSpare, ...]
    in_use: Spare | None
    own: float | None
    opened: datetime | None

    @property
    def n_full(self) -> int:
        """Full ones apart."""
        own = self.own is not None and self.own >= FULL_FROM * self.store.capacity
        return sum(each.is_full for each in self.spares) + own


class _Follow:
    """Walks the log once and keeps what is in each."""

    def __init__(self, rig: Rig) -> None:
        self.rig = rig
        self.contents = {spare.id: spare.full * spare.holds for spare in rig.spares}
        self.own = {store.id: 0.0 for store in rig.stores}
        self.in_use: dict[str, str] = {}
        self.since: dict[str, datetime] = {}

    def bottle(self, store: Store) -> Spare | None:
        """The spare that stands in a store's place, None where its own does."""
        return self.rig.spare(self.in_use.get(store.id))

    def event(self, event: Event) -> Event:
        """Take in an event; returned as levels are followed by it."""
        store = self.rig.store(event.store)
        match event.row.effect:
            case Effect.MOVE:
                for id, sign in ((event.source, -1.0), (event.target, 1.0)):
                    if id is not None and (spare := self.rig.spare(id)) is not None:
                        after = self.contents[id] + sign * (event.amount or 0.0)
                        self.contents[id] = min(spare.holds, max(0.0, after))
                        self.since[id] = event.at
            case Effect.SWAP if store is not None and self.rig.spares_of(store):
                return self._swapped(store, event)
            case Effect.FILL if store is not None and event.to_full and (bottle := self.bottle(store)):
                return replace(event, type="swap", to_full=False, amount=bottle.holds)
        return event

    def _swapped(self, store: Store, event: Event) -> Event:
        """Another bottle in its place: the one that was named, else the first full one apart, else one from a shop."""
        before = self.in_use.get(store.id)
        mine = [each for each in self.rig.spares_of(store) if each.id != before]
        full = [each.id for each in mine if self.contents[each.id] >= FULL_FROM * each.holds]
        named = event.source or next(iter(full), None)
        self.since[store.id] = event.at
        if named is not None and named == before:
            # the bottle in use was exchanged where it stands
            return replace(event, source=store.id, amount=self.rig.vessels[named].capacity)
        if named == store.id or named is None:
            bottle = self.bottle(store)
            if named == store.id:
                self._put_by(store, before)
                self.in_use.pop(store.id, None)
                return replace(event, amount=self.own[store.id] or store.capacity)
            return event if bottle is None else replace(event, amount=bottle.holds)
        amount = self.contents[named]
        self._put_by(store, before)
        self.in_use[store.id] = named
        return replace(event, source=named, amount=amount)

    def _put_by(self, store: Store, before: str | None) -> None:
        """The bottle that was in use stands apart, taken to be empty."""
        if before is None:
            self.own[store.id] = 0.0
        else:
            self.contents[before] = 0.0

    def reading(self, reading: Reading) -> Reading:
        """A reading of the bottle in use, in kilograms of gas where another stands there."""
        store = self.rig.store(reading.store)
        if store is not None and store.tank_l is not None and reading.method is Method.FRACTION:
            # the gauge of a fixed tank is of its whole volume, of which four fifths are filled
            whole = store.tank_l * store.liquid_kg_per_l
            return _in_kg(reading, whole)
        bottle = self.bottle(store) if store is not None else None
        if bottle is None:
            return reading
        match reading.method:
            case Method.GROSS if bottle.tare_kg is not None:
                return replace(reading, method=Method.MASS, value=max(0.0, (reading.value or 0.0) - bottle.tare_kg))
            case Method.FRACTION:
                return _in_kg(reading, bottle.holds)
            case Method.FULL:
                return replace(reading, method=Method.MASS, value=bottle.holds)
            case _:
                return reading


def _in_kg(reading: Reading, whole: float) -> Reading:
    """A share of a bottle or tank in kilograms."""
    within = None if reading.within is None else reading.within * whole
    return replace(reading, method=Method.MASS, value=(reading.value or 0.0) * whole, within=within)


def as_followed(rig: Rig, log: Log) -> Log:
    """The log as levels are followed by it: bottles in use told apart, ways between odometer readings filled in."""
    log = _with_ways(log)
    if not any(store.is_gas and (rig.spares_of(store) or store.tank_l) for store in rig.stores):
        return log
    follow, days = _Follow(rig), []
    for day in log.days:
        events, readings = {}, {}
        for entry in day.entries():
            if isinstance(entry, Event):
                events[id(entry)] = follow.event(entry)
            else:
                readings[id(entry)] = follow.reading(entry)
        days.append(
            replace(
                day,
                events=tuple(events[id(each)] for each in day.events),
                readings=tuple(readings[id(each)] for each in day.readings),
            )
        )
    return Log(tuple(days))


def standing(rig: Rig, log: Log) -> tuple[Standing, ...]:
    """What is in the bottles and cans beside each store, as the log says it."""
    follow = _Follow(rig)
    for event in (event for day in log.days for event in day.events):
        follow.event(event)
        if event.row.effect in (Effect.SWAP, Effect.FILL) and event.store:
            follow.since[event.store] = event.at
    found = []
    for store in rig.stores:
        mine = rig.spares_of(store)
        if not mine and not store.is_gas:
            continue
        bottle = follow.bottle(store)
        spares = tuple(
            InSpare(
                spare=each,
                contents=follow.contents[each.id],
                kg=follow.contents[each.id] * store.kg_per_unit + (each.tare_kg or 0.0),
                in_use=bottle is each,
                since=follow.since.get(each.id),
            )
            for each in mine
        )
        own = None if bottle is None else follow.own[store.id]
        found.append(Standing(store=store, spares=spares, in_use=bottle, own=own, opened=follow.since.get(store.id)))
    return tuple(found)


def _with_ways(log: Log) -> Log:
    """Between two odometer readings the way is known: what no drive has is shared out by hours, or was driven
    unlogged."""
    marks = [
        (event.at, event.km)
        for day in log.days
        for event in day.events
        if event.type == _ODOMETER and event.km is not None
    ]
    if len(marks) < 2:
        return log
    changed: dict[int, Event] = {}
    added: dict[datetime, Event] = {}
    drives = [event for day in log.days for event in day.events if event.row.effect is Effect.DRIVE]
    for (since, before), (until, after) in pairwise(marks):
        if after < before:
            continue
        mine = [each for each in drives if since <= each.at < until]
        rest = after - before - sum(each.km or 0.0 for each in mine)
        silent = [each for each in mine if each.km is None]
        hours = sum(each.hours or 0.0 for each in silent)
        if rest <= _WAY_TOLD_KM:
            continue
        if silent and hours > 0:
            changed |= {id(each): replace(each, km=rest * (each.hours or 0.0) / hours) for each in silent}
        elif not silent:
            added[until] = Event(until, _DRIVE, hours=0.0, km=rest)
    if not changed and not added:
        return log
    return Log(tuple(_day_with(day, changed, added) for day in log.days))


def _day_with(day: Day, changed: dict[int, Event], added: dict[datetime, Event]) -> Day:
    events = [changed.get(id(each), each) for each in day.events]
    more = [added[each.at] for each in day.events if each.type == _ODOMETER and each.at in added]
    if not more and all(a is b for a, b in zip(events, day.events, strict=True)):
        return day
    return replace(day, events=tuple(sorted([*events, *more], key=lambda each: each.at)))


_ODOMETER, _DRIVE, _WAY_TOLD_KM = "odometer", "drive", 3.0  # less than this nobody logs as a drive
