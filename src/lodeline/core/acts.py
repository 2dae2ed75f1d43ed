"""What can be logged by one touch, as things stand: one list, for every view that offers acts."""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import field
from enum import StrEnum

from lodeline.core.carried import FULL_FROM, standing
from lodeline.core.catalogue import EVENT_TYPES, SOURCE_KINDS, Ask, Effect, EventType, Role, Sense, Toilet
from lodeline.core.figures import Forecasting
from lodeline.core.forecast.forecast import Chore, ChoreKind
from lodeline.core.log import OUTSIDE, RESERVE, Event, Log
from lodeline.core.rig import Jug, Rig, Spare, Store
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass
from lodeline.core.water.jugs import in_jugs


class Deed(StrEnum):
    """What was done. Those of a store's own kind of event are DID."""

    DID = "did"
    EXCHANGED = "exchanged"
    CHANGED = "changed"
    IN_USE = "in-use"
    FIRST_AGAIN = "first-again"
    POURED = "poured"
    FILLED = "filled"
    USED = "used"
    ELSEWHERE = "elsewhere"
    PUMPED = "pumped"
    RAN_OVER = "ran-over"
    CARRIED = "carried"


@dataclass(frozen=True, slots=True, kw_only=True)
class Act:
    """One touch. ``type``: of the event that it logs, with ``source`` and ``target`` where it is a move; ``store``:
    whose it is; ``names_store``: whether the event names it.

    ``asks``: what may be asked first, in ``unit``; ``whole``: the amount that is logged where nothing is asked, None
    where a fill is to the brim or there is no saying; ``vessel``: the jug, bottle or can; ``rare``: it is seldom done,
    or does not fit what is known.
    """

    deed: Deed
    type: str
    asks: Ask = Ask.NOTHING
    store: Store | None = None
    names_store: bool = False
    vessel: Jug | Spare | None = None
    source: str | None = None
    target: str | None = None
    unit: str | None = None
    whole: float | None = None
    rare: bool = False

    @property
    def row(self) -> EventType:
        """Its event's row of the catalogue."""
        return EVENT_TYPES[self.type]

    @property
    def needs_amount(self) -> bool:
        """Whether nothing can be logged without an amount."""
        return self.row.effect is Effect.MOVE and self.whole is None

    def logs(self, event: Event) -> bool:
        """Whether an event is of this kind: what a touch would have logged, whatever the amount."""
        store = self.store.id if self.store is not None and self.names_store else None
        same = (event.type, event.store, event.target) == (self.type, store, self.target)
        return same and (event.source == self.source or self.row.effect is Effect.SWAP)

    def concerns(self, store_id: str) -> bool:
        """Whether it is of a store."""
        return self.store is not None and self.store.id == store_id


@dataclass(frozen=True, slots=True)
class Stands:
    """What is in what is carried: jugs, bottles and cans by id, the bottle in use by its store, what is left of each
    reserve."""

    contents: Mapping[str, float] = field(default_factory=dict)
    in_use: Mapping[str, str] = field(default_factory=dict)
    reserve: Mapping[str, float] = field(default_factory=dict)

    @classmethod
    def of(cls, rig: Rig, log: Log, tracked: Mapping[str, Tracked]) -> "Stands":
        """As the log says it."""
        stands = standing(rig, log)
        return cls(
            contents={each.jug.id: each.litres for each in in_jugs(rig, log)}
            | {each.spare.id: each.contents for one in stands for each in one.spares},
            in_use={one.store.id: one.in_use.id for one in stands if one.in_use is not None},
            reserve={id: each.reserve for id, each in tracked.items()},
        )

    def bottle(self, rig: Rig, store: Store) -> Spare | None:
        """The spare that stands where a store's own bottle did."""
        return rig.spare(self.in_use.get(store.id))

    def left(self, store: Store) -> float:
        """What is left of what is carried apart of a store."""
        return self.reserve.get(store.id, store.reserve or 0.0)


# What does each chore; one that fits what is known comes before one that does not.
_DOES = {
    ChoreKind.SERVE: (Deed.DID,),
    ChoreKind.POUR: (Deed.POURED,),
    ChoreKind.CARRY: (Deed.RAN_OVER,),
    ChoreKind.SWAP: (Deed.CHANGED, Deed.IN_USE, Deed.EXCHANGED),
    ChoreKind.EMPTY: (Deed.CARRIED,),
}


def act_of(chore: Chore, offered: Iterable[Act]) -> Act | None:
    """The touch that logs that a chore was done."""
    mine = [act for act in offered if act.concerns(chore.store.id) and act.deed in _DOES[chore.kind]]
    if chore.kind is ChoreKind.SERVE:
        ends = (Effect.EMPTY,) if chore.store.sense is Sense.FILLS else (Effect.FILL, Effect.SWAP)
        mine = [act for act in mine if act.row.effect in ends]
    return min(mine, key=lambda act: (act.rare, _DOES[chore.kind].index(act.deed)), default=None)


def done_most(offered: Sequence[Act], log: Log) -> list[Act]:
    """The few touches that this rig needs most, as its last weeks show; where they do not tell, those in order."""
    done = [event for day in log.days[-int(Forecasting.often_days) :] for event in day.events]
    counts = {index: sum(1 for event in done if act.logs(event)) for index, act in enumerate(offered)}
    able = [index for index, act in enumerate(offered) if counts[index] or not act.rare]
    most = sorted(able, key=lambda index: (-counts[index], index))[: Forecasting.often_acts]
    return [offered[index] for index in most]


_MOVE = next(row.id for row in EVENT_TYPES.values() if row.effect is Effect.MOVE)
# Of what uses water, what a crew that did not say how it lives is asked.
_USUAL = ("shower", "laundry")


def acts(rig: Rig, known: Stands | None = None) -> tuple[Act, ...]:
    """What this rig can log by one touch: by store, then what is done with no store, then what is carried."""
    stands = known if known is not None else Stands()
    return tuple(
        [
            *(act for store in rig.stores for act in _of_store(rig, store, stands)),
            *_of_rig(rig),
            *_of_jugs(rig, stands),
            *_of_spares(rig, stands),
            *_between_tanks(rig),
            *_care(rig),
        ]
    )


def _of_store(rig: Rig, store: Store, stands: Stands) -> Iterator[Act]:
    swaps = store.offers(Effect.SWAP) and store.tank_l is None
    for row in EVENT_TYPES.values():
        if not store.offers(row.effect) or (row.effect is Effect.SWAP and not swaps):
            continue
        asks = row.asks if row.effect is Effect.FILL else Ask.NOTHING
        if row.effect is Effect.SWAP:
            yield _swap(rig, store, stands)
        else:
            # a bottle is exchanged or changed as a rule; now and then it is filled where it stands
            seldom = swaps and row.effect is Effect.FILL
            yield Act(
                deed=Deed.DID, type=row.id, asks=asks, store=store, names_store=True, unit=store.unit, rare=seldom
            )
    if not store.reserve or rig.spares_of(store) or (rig.jugs and store is rig.first(Role.WATER)):
        return
    yield from _apart(store, stands)


def _swap(rig: Rig, store: Store, stands: Stands) -> Act:
    """Another bottle in a store's place: the spare where one is left, else one from a shop."""
    has_spare = bool(store.reserve) and not rig.spares_of(store) and stands.left(store) > 0
    source = None
    if rig.spares_of(store):
        source = stands.in_use.get(store.id, store.id)  # the bottle in use, exchanged where it stands
    return Act(
        deed=Deed.CHANGED if has_spare else Deed.EXCHANGED, type="swap", store=store, names_store=True, source=source
    )


def _apart(store: Store, stands: Stands) -> Iterator[Act]:
    """What is carried apart of a store as one amount: a reserve, a tote, a spare cassette or bottle."""
    whole, left = store.reserve or 0.0, stands.left(store)
    if store.sense is Sense.FILLS:
        deed = Deed.RAN_OVER if store.kind.runs_over else Deed.CHANGED
        yield _moved(deed, store, store.id, RESERVE, left if left > 0 else whole, rare=left <= 0)
        yield _moved(Deed.CARRIED, store, RESERVE, OUTSIDE, whole - left if left < whole else whole, rare=left >= whole)
        return
    if store.is_poured:
        yield _moved(Deed.POURED, store, RESERVE, store.id, left if left > 0 else whole, rare=left <= 0)
    yield _moved(Deed.FILLED, store, OUTSIDE, RESERVE, whole - left if left < whole else whole, rare=left >= whole)


def _moved(deed: Deed, store: Store, source: str, target: str, whole: float, *, rare: bool) -> Act:
    # a spare is changed whole: nobody has to say how much was in it
    asks = Ask.NOTHING if deed is Deed.CHANGED or (not store.kind.runs_over and deed is Deed.CARRIED) else Ask.AMOUNT
    # of what is filled or carried away the event names whose it is, as neither end does
    return Act(
        deed=deed,
        type=_MOVE,
        asks=asks,
        store=store,
        names_store=store.id not in (source, target),
        source=source,
        target=target,
        unit=store.unit,
        whole=min(whole, store.capacity),
        rare=rare,
    )


def _of_rig(rig: Rig) -> Iterator[Act]:
    """Drives, sources that are run, and what this crew uses water on."""
    sources = {source.kind for source in rig.sources}
    runs = {row.event: row for row in SOURCE_KINDS.values()}
    for row in EVENT_TYPES.values():
        source = runs.get(row.id)
        if row.effect is Effect.DRIVE or (source is not None and source in sources):
            yield Act(deed=Deed.DID, type=row.id, asks=row.asks, unit="h")
        elif _is_habit(rig, row):
            yield Act(deed=Deed.DID, type=row.id, asks=row.asks, unit="L")


def _is_habit(rig: Rig, row: EventType) -> bool:
    """Whether this crew uses water on it: as it said, else showers and laundry."""
    if row.effect is not Effect.COUNT or rig.first(Role.WATER) is None:
        return False
    said = [habit.activity.event for habit in rig.habits]
    return row.id in (said or _USUAL)


def _of_jugs(rig: Rig, stands: Stands) -> Iterator[Act]:
    """What is poured, fetched and used elsewhere."""
    fresh = rig.first(Role.WATER)
    if fresh is None:
        return
    for jug in rig.jugs:
        has = stands.contents.get(jug.id, jug.full * jug.litres)
        if jug.is_reserve:
            yield _vessel(Deed.POURED, fresh, jug, jug.id, fresh.id, has or jug.litres, rare=has <= 0)
        missing = jug.litres - has
        yield _vessel(Deed.FILLED, fresh, jug, OUTSIDE, jug.id, missing or jug.litres, rare=missing <= 0)
        if not jug.in_use:
            yield _vessel(Deed.USED, fresh, jug, jug.id, OUTSIDE, has or jug.litres, rare=True)
    yield Act(
        deed=Deed.ELSEWHERE,
        type=_MOVE,
        asks=Ask.AMOUNT,
        store=fresh,
        source=fresh.id,
        target=OUTSIDE,
        unit="L",
        rare=True,
    )


def _vessel(
    deed: Deed, store: Store, vessel: Jug | Spare, source: str, target: str, whole: float, *, rare: bool
) -> Act:
    return Act(
        deed=deed,
        type=_MOVE,
        asks=Ask.AMOUNT,
        store=store,
        vessel=vessel,
        source=source,
        target=target,
        unit=store.unit,
        whole=whole,
        rare=rare,
    )


def _of_spares(rig: Rig, stands: Stands) -> Iterator[Act]:
    """Bottles that come into use or are filled, cans that are poured in."""
    for spare in rig.spares:
        store = rig.store(spare.store)
        if store is None:
            continue
        has, used = stands.contents.get(spare.id, spare.full * spare.holds), stands.in_use.get(store.id)
        if store.is_gas and used == spare.id:
            yield Act(deed=Deed.FIRST_AGAIN, type="swap", store=store, names_store=True, source=store.id)
            continue
        if store.is_gas:
            yield Act(
                deed=Deed.IN_USE,
                type="swap",
                store=store,
                names_store=True,
                vessel=spare,
                source=spare.id,
                rare=has <= 0,
            )
        elif spare.fits(store):
            yield _vessel(Deed.POURED, store, spare, spare.id, store.id, has or spare.holds, rare=has <= 0)
        missing, is_full = spare.holds - has, has >= FULL_FROM * spare.holds
        yield _vessel(Deed.FILLED, store, spare, OUTSIDE, spare.id, missing or spare.holds, rare=is_full)


def _between_tanks(rig: Rig) -> Iterator[Act]:
    """Fuel that is pumped from one tank to another."""
    tanks = [store for store in rig.stores if store.is_fuel]
    for a in tanks:
        for b in tanks:
            if a is not b and a.fuel == b.fuel:
                yield Act(
                    deed=Deed.PUMPED,
                    type=_MOVE,
                    asks=Ask.AMOUNT,
                    store=b,
                    source=a.id,
                    target=b.id,
                    unit=b.unit,
                    rare=True,
                )


def _care(rig: Rig) -> Iterator[Act]:
    """What is done to tanks, filter, seals and engines from time to time."""
    has_water = rig.first(Role.WATER) is not None
    asked = {
        "filter": has_water and (rig.water.filter_l is not None or rig.water.filter_days is not None),
        "disinfect": has_water,
        "seal": any(store.kind.toilet is Toilet.CASSETTE for store in rig.stores),
        "drain": has_water,
        "oil": any(source.oil_hours is not None for source in rig.sources),
    }
    yield from (Act(deed=Deed.DID, type=id, rare=True) for id, is_asked in asked.items() if is_asked)
