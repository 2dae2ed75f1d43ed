"""Entries to check, as questions that name what would settle them, and the buttons that do."""

from typing import assert_never

from lodeline.core.catalogue import Effect, Sense
from lodeline.core.log import Event
from lodeline.core.rig import Store
from lodeline.core.tracking.hypothesis import Doubt, DoubtKind
from lodeline.text.display import Display
from lodeline.text.times import date_words


def doubt(store: Store, doubt: Doubt, display: Display) -> str:
    """An entry to check, as a question that names what would settle it."""
    on = date_words(display.local(doubt.at).date())
    amount = display.contents(store, abs(doubt.amount))
    match doubt.kind:
        case DoubtKind.STUCK:
            return (
                f"{store.name} shows the same since long before {on}; use should have moved it by about {amount}. "
                f"Is the gauge stuck? Read it another way."
            )
        case DoubtKind.OVER:
            return (
                f"{store.name} grows by about {amount} a day more than fresh water is used, up to {on}. "
                "Rain, a leak, or water from elsewhere?"
            )
        case DoubtKind.RISE:
            return f"{store.name} rose by about {amount} by {on}, and nothing is logged for it. {_rise(store)}"
        case DoubtKind.FALL:
            return f"{store.name} fell by about {amount} by {on}, more than usual use. {_fall(store)}"
        case DoubtKind.READING:
            expected = display.contents(store, doubt.expected)
            return (
                f"The reading of {store.name} on {on} does not fit: about {expected} expected. "
                "It counts less until you say that it is right."
            )
        case DoubtKind.AGAINST:
            expected = display.contents(store, doubt.expected)
            said = display.contents(store, max(0.0, doubt.expected + doubt.amount))
            return (
                f"{store.name} was read near {said} more than once up to {on}; by the log it is near {expected}. "
                f"Is something not logged, or does the gauge show too {'much' if doubt.amount > 0 else 'little'}?"
            )
        case DoubtKind.NOT_THEN | DoubtKind.TWICE | DoubtKind.UNIT | DoubtKind.GAP:
            return _act_doubt(store, doubt, on, amount, display)
        case _:
            assert_never(doubt.kind)


def _act_doubt(store: Store, doubt: Doubt, on: str, amount: str, display: Display) -> str:
    if doubt.kind is DoubtKind.GAP:
        since = date_words(display.local(doubt.since or doubt.at).date())
        return f"Nothing was logged from {since} to {on}. What was filled, emptied or swapped in that time?"
    did = _done(store, doubt.event)
    if doubt.kind is DoubtKind.TWICE:
        return f"{did} was logged twice on {on}. What was read afterwards fits once. Take one out?"
    if doubt.kind is DoubtKind.UNIT:
        logged = display.contents(store, doubt.event.amount or 0.0) if doubt.event else "its amount"
        return f"{did} with {logged} on {on} does not fit what was read afterwards; {amount} would. Another unit?"
    return f"{did} on {on} does not fit what was read afterwards. Was it on another day?"


def _done(store: Store, event: Event | None) -> str:
    return f"What was done with {store.name} ({event.row.did.lower() if event else 'an act'})"


def _fall(store: Store) -> str:
    if store.is_bank:
        return "Did something large run?"
    return "Emptied?" if store.sense is Sense.FILLS else "A leak, or a large use?"


def _rise(store: Store) -> str:
    if store.is_bank:
        return "Charged?"
    return "Filled?" if store.sense is Sense.DRAINS else "Was something poured in?"


CONFIRMS = "Yes, it is right"
TAKES_OUT = "Take one out"


def settles(forgotten: Effect) -> str:
    """The button that logs what was forgotten."""
    return "Yes, filled to the brim" if forgotten is Effect.FILL else "Yes, emptied"
