"""The Round's words: events, and which reading is worth taking."""

from typing import assert_never

from lodeline.core.apart import is_changed
from lodeline.core.catalogue import Effect, Sense
from lodeline.core.log import RESERVE, Event
from lodeline.core.rig import Rig, Store
from lodeline.text import names
from lodeline.text.display import Display, capital, counted, percent
from lodeline.text.habits import exact
from lodeline.text.times import roughly, spell_words


def event(rig: Rig, event: Event, display: Display) -> str:
    """An event in a few words."""
    store, row = rig.store(event.store), event.row
    name = store.name if store else ""
    match row.effect:
        case Effect.FILL:
            said = ["to the brim"] if event.to_full else []
            said += [_amount(store, event.amount, display)] if event.amount is not None else []
            return f"{name} filled {', '.join(said)}"
        case Effect.EMPTY:
            return f"{name} emptied" + (f", {percent(event.left)} left" if event.left else "")
        case Effect.SWAP:
            spare = rig.spare(event.source)
            if spare is not None:
                return f"{name} swapped: {spare.name} in use"
            return f"{name} swapped: its first bottle in use" if event.source else f"{name} swapped for a full one"
        case Effect.MOVE:
            changed = rig.store(event.source)
            if changed is not None and is_changed(changed, event):
                return f"{changed.name} changed for its {names.apart(changed.kind)}"
            measured = rig.vessel(event.source) or rig.vessel(event.target) or store
            if store is not None and store.sense is Sense.FILLS:
                amount = f", {_amount(measured, event.amount, display)}" if store.kind.runs_over else ""
                return f"{capital(names.apart(store.kind))} of {store.name} emptied{amount}"
            if store is not None:
                return f"Reserve of {name} filled with {_amount(measured, event.amount, display)}"
            ends = [_end(rig, end) for end in (event.source, event.target)]
            source = rig.vessel(event.source)
            if source is not None and source.sense is Sense.FILLS and event.target == RESERVE:
                ends[1] = f"its {names.apart(source.kind)}"
            return f"{_amount(measured, event.amount, display)} from {ends[0]} to {ends[1]}"
        case Effect.DRIVE:
            told = [spell_words(event.hours)] if event.hours else []
            return f"{row.did} {', '.join([*told, *([display.amount(event.km, 'km')] if event.km else [])])}"
        case Effect.CHARGE:
            return f"{row.did} {spell_words(event.hours or 0.0)}"
        case Effect.COUNT:
            one, many = row.counted or (row.name, row.name)
            litres = f", {display.amount(event.amount, 'L')} in all" if event.amount else ""
            return counted(event.count or 1, one, many) + litres
        case Effect.CARE | Effect.DRAIN:
            return f"{row.did} {display.amount(event.km, 'km')}" if event.km else row.did
        case _:
            assert_never(row.effect)


def _end(rig: Rig, store_id: str | None) -> str:
    store = rig.vessel(store_id)
    return store.name if store else names.RESERVE if store_id == RESERVE else names.OUTSIDE


def _amount(store: Store | None, amount: float | None, display: Display) -> str:
    return display.contents(store, amount or 0.0) if store else f"{exact(amount or 0)}"


def worth(store: Store, days: float) -> str:
    """By how much a reading tonight would narrow the days left."""
    what = "Weigh the bottle tonight" if store.tare_kg else "Worth reading tonight"
    return f"{what}: it narrows the days left by {roughly(days)}."
