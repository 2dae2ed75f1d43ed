"""The Round's words: events, what can be logged by one touch, which reading is worth taking."""

from dataclasses import dataclass, replace
from typing import assert_never

from lodeline.core.catalogue import EVENT_TYPES, SOURCE_KINDS, Ask, Effect, EventType, Role, Sense, Toilet
from lodeline.core.log import OUTSIDE, RESERVE, Event
from lodeline.core.rig import Rig, Store
from lodeline.text import fuel as fuel_words
from lodeline.text import names
from lodeline.text.display import Display, capital, counted, percent
from lodeline.text.habits import exact
from lodeline.text.times import spell_words

_DAY_H = 24
HOURS_UNIT = "h"


def event(rig: Rig, each: Event, display: Display) -> str:
    """An event in a few words."""
    store, row = rig.store(each.store), each.row
    name = store.name if store else ""
    match row.effect:
        case Effect.FILL:
            amount = "to the brim" if each.to_full else _amount(store, each.amount, display)
            return f"{name} filled {amount}"
        case Effect.EMPTY:
            return f"{name} emptied" + (f", {percent(each.left)} left" if each.left else "")
        case Effect.SWAP:
            spare = rig.spare(each.source)
            if spare is not None:
                return f"{name} swapped: {spare.name} in use"
            return f"{name} swapped: its first bottle in use" if each.source else f"{name} swapped for a full one"
        case Effect.MOVE:
            measured = rig.vessel(each.source) or rig.vessel(each.target) or store
            if store is not None and store.sense is Sense.FILLS:
                apart = capital(names.apart(store.kind))
                return f"{apart} of {store.name} emptied, {_amount(measured, each.amount, display)}"
            if store is not None:
                return f"Reserve of {name} filled with {_amount(measured, each.amount, display)}"
            ends = [_end(rig, end) for end in (each.source, each.target)]
            source = rig.vessel(each.source)
            if source is not None and source.sense is Sense.FILLS and each.target == RESERVE:
                ends[1] = f"its {names.apart(source.kind)}"
            return f"{_amount(measured, each.amount, display)} from {ends[0]} to {ends[1]}"
        case Effect.DRIVE:
            told = [spell_words(each.hours)] if each.hours else []
            return f"{row.did} {', '.join([*told, *([display.amount(each.km, 'km')] if each.km else [])])}"
        case Effect.CHARGE:
            return f"{row.did} {spell_words(each.hours or 0.0)}"
        case Effect.COUNT:
            one, many = row.counted or (row.name, row.name)
            litres = f", {display.amount(each.amount, 'L')} in all" if each.amount else ""
            return counted(each.count or 1, one, many) + litres
        case Effect.CARE | Effect.DRAIN:
            return f"{row.did} {display.amount(each.km, 'km')}" if each.km else row.did
        case _:
            assert_never(row.effect)


def _end(rig: Rig, store_id: str | None) -> str:
    store = rig.vessel(store_id)
    return store.name if store else names.RESERVE if store_id == RESERVE else names.OUTSIDE


def _amount(store: Store | None, amount: float | None, display: Display) -> str:
    return display.contents(store, amount or 0.0) if store else f"{exact(amount or 0)}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Act:
    """A button of the Round. ``asks``: what its amount is; ``unit``: how that is shown; ``question``: what is asked.

    ``needs_amount``: without one it says nothing. ``source`` and ``target``: of a move, where they are not the reserve
    and the store. ``rare``: it is seldom done; ``measured``: how the water of all of them is asked, where it may have
    been measured.
    """

    label: str
    type: str
    store: str | None
    asks: Ask
    unit: str | None = None
    question: str | None = None
    needs_amount: bool = False
    source: str | None = None
    target: str | None = None
    rare: bool = False
    measured: str | None = None
    far: str | None = None


def acts(rig: Rig, display: Display) -> list[Act]:
    """What this rig can log by one touch, in the order of its stores, then what is done with no store."""
    buttons = [act for store in rig.stores for act in _of_store(rig, store, display)]
    sources = {source.kind for source in rig.sources}
    runs = {row.event: row for row in SOURCE_KINDS.values()}
    for row in EVENT_TYPES.values():
        source = runs.get(row.id)
        if row.effect is Effect.DRIVE or _is_habit(rig, row) or (source is not None and source in sources):
            buttons.append(_of_rig(row, display))
    return [*buttons, *_of_jugs(rig, display), *_of_spares(rig, display), *_between_tanks(rig, display), *_care(rig)]


def _is_habit(rig: Rig, row: EventType) -> bool:
    """Whether this crew uses water on it: as it said, else showers and laundry."""
    if row.effect is not Effect.COUNT or rig.first(Role.WATER) is None:
        return False
    said = [habit.activity.event for habit in rig.habits]
    return row.id in (said or _USUAL)


_USUAL = ("shower", "laundry")


def _of_jugs(rig: Rig, display: Display) -> list[Act]:
    """What is poured, fetched and used elsewhere."""
    fresh = rig.first(Role.WATER)
    if fresh is None:
        return []
    unit, buttons = display.unit("L").unit, []
    for jug in rig.jugs:
        whole = f"{display.amount(jug.litres, 'L')} if whole"
        if jug.is_reserve:
            buttons.append(_pour(f"{jug.name} into {fresh.name}", jug.id, fresh.id, unit, whole))
        buttons.append(_pour(f"Filled {jug.name}", OUTSIDE, jug.id, unit, whole))
        if not jug.in_use:
            buttons.append(_pour(f"Used from {jug.name}", jug.id, OUTSIDE, unit, whole, rare=True))
    buttons.append(_pour("Water used elsewhere", fresh.id, OUTSIDE, unit, "", rare=True))
    return buttons


def _of_spares(rig: Rig, display: Display) -> list[Act]:
    """Bottles that come into use or are filled, cans that are poured in."""
    buttons = []
    for spare in rig.spares:
        store = rig.store(spare.store)
        if store is None:
            continue
        unit, whole = display.unit(store.unit).unit, f"{display.amount(spare.holds, store.unit)} if whole"
        if store.is_gas:
            label = fuel_words.swapped(store, spare)
            buttons.append(Act(label=label, type="swap", store=store.id, asks=Ask.NOTHING, source=spare.id))
        elif spare.fits(store):
            buttons.append(_pour(fuel_words.poured(spare, store), spare.id, store.id, unit, whole))
        buttons.append(_pour(f"Filled {spare.name}", OUTSIDE, spare.id, unit, whole, rare=True))
    return buttons


def _between_tanks(rig: Rig, display: Display) -> list[Act]:
    """Fuel that is pumped from one tank to another."""
    tanks = [store for store in rig.stores if store.is_fuel]
    pairs = [(a, b) for a in tanks for b in tanks if a is not b and a.fuel == b.fuel]
    unit = display.unit("L").unit
    return [_pour(f"{a.name} pumped into {b.name}", a.id, b.id, unit, "", rare=True) for a, b in pairs]


def _pour(label: str, source: str, target: str, unit: str, whole: str, rare: bool = False) -> Act:
    how = f"{unit}; {whole}" if whole else unit
    return Act(
        label=label, type=_move(), store=None, asks=Ask.AMOUNT, unit=unit, question=f"{label}: how much ({how})",
        needs_amount=True, source=source, target=target, rare=rare,
    )  # fmt: skip


def _of_store(rig: Rig, store: Store, display: Display) -> list[Act]:
    unit = display.unit(store.unit).unit
    buttons = []
    for row in EVENT_TYPES.values():
        if not store.offers(row.effect):
            continue
        label = f"{row.did} {store.name}"
        if row.effect is Effect.FILL:
            question = f"{label}: how much; empty means to the brim ({unit})"
            buttons.append(Act(label=label, type=row.id, store=store.id, asks=row.asks, unit=unit, question=question))
        else:
            buttons.append(Act(label=label, type=row.id, store=store.id, asks=Ask.NOTHING))
    if store.reserve and store.sense is Sense.FILLS:
        buttons += _of_apart(store, unit)
    # jugs are poured and filled one by one
    in_jugs = bool(rig.jugs) and store is rig.first(Role.WATER)
    if store.reserve and store.offers(Effect.FILL) and not in_jugs:
        label = f"Reserve into {store.name}"
        buttons.append(
            Act(label=label, type=_move(), store=store.id, asks=Ask.AMOUNT, unit=unit,
                question=f"{label}: how much ({unit})", needs_amount=True)
        )  # fmt: skip
        label = f"Filled the reserve of {store.name}"
        buttons.append(
            Act(label=label, type=_move(), store=store.id, asks=Ask.AMOUNT, unit=unit,
                question=f"{label}: how much ({unit})", needs_amount=True, source=OUTSIDE, target=RESERVE)
        )  # fmt: skip
    return buttons


def _of_apart(store: Store, unit: str) -> list[Act]:
    """What a waste tank runs over into or was changed for, and that it was carried away."""
    apart = names.apart(store.kind)
    went = f"{store.name} into its tote" if store.kind.runs_over else f"{store.name} changed for its {apart}"
    ran = _pour(went, store.id, RESERVE, unit, "")
    carried = _pour(f"Emptied the {apart} of {store.name}", RESERVE, OUTSIDE, unit, "")
    return [ran, replace(carried, store=store.id)]


def _move() -> str:
    return next(row.id for row in EVENT_TYPES.values() if row.effect is Effect.MOVE)


def _care(rig: Rig) -> list[Act]:
    """What is done to tanks, filter and seals from time to time."""
    if rig.first(Role.WATER) is None:
        return []
    asked = {
        "filter": rig.water.filter_l is not None or rig.water.filter_days is not None, "disinfect": True,
        "seal": any(store.kind.toilet is Toilet.CASSETTE for store in rig.stores), "drain": True,
    }  # fmt: skip
    return [
        Act(label=EVENT_TYPES[id].did, type=id, store=None, asks=Ask.NOTHING, rare=True)
        for id, is_asked in asked.items()
        if is_asked
    ]


def _of_rig(row: EventType, display: Display) -> Act:
    match row.asks:
        case Ask.HOURS:
            far = display.unit("km").unit if row.effect is Effect.DRIVE else None
            question = f"{row.did}: for how long ({HOURS_UNIT})" + (f", or how far ({far})" if far else "")
            return Act(
                label=row.did, type=row.id, store=None, asks=row.asks, unit=HOURS_UNIT, question=question, far=far
            )
        case Ask.COUNT:
            unit = display.unit("L").unit
            return Act(
                label=row.did, type=row.id, store=None, asks=row.asks, question=f"{row.did}: how often", unit=unit,
                measured=f"Water of all of them, if it was measured ({unit})",
            )  # fmt: skip
        case Ask.AMOUNT | Ask.NOTHING:
            return Act(label=row.did, type=row.id, store=None, asks=row.asks)
        case _:
            assert_never(row.asks)


def worth(store: Store, days: float) -> str:
    """By how much a reading tonight would narrow the days left."""
    what = "Weigh the bottle tonight" if store.tare_kg else "Worth reading tonight"
    return f"{what}: it narrows the days left by {_about(days)}."


_QUARTER, _HALF, _WHOLE = 0.17, 0.37, 0.75


def _about(days: float) -> str:
    """A span as people say it: ``about half a day``."""
    if days < _QUARTER:
        return f"about {counted(max(1, round(days * _DAY_H)), 'hour')}"
    if days < _HALF:
        return "about a quarter of a day"
    return "about half a day" if days < _WHOLE else f"about {counted(round(days), 'day')}"
