"""Levers on what is carried or bought: a jug poured in, a bottle swapped or emptied on foot, a trip to a tap."""

from collections.abc import Iterable

import numpy as np

from lodeline.core.book import Spot, way_km
from lodeline.core.catalogue import Role, Sense
from lodeline.core.figures import Levers, Stops
from lodeline.core.forecast.change import Change
from lodeline.core.forecast.known import Known
from lodeline.core.levers.lever import Aboard, Lever, Touch
from lodeline.core.tracking.tracked import Tracked


def carried_levers(aboard: Aboard) -> Iterable[Lever]:
    """The levers on what is carried, and on what could be bought to carry more."""
    for store in aboard.rig.stores:
        tracked = aboard.known.store(store.id)
        if tracked is None or store.is_served_here:
            continue
        if tracked.reserve > 0 and not store.reserve_counts:
            yield _reserve(aboard, tracked)
        if store.sense is Sense.FILLS and store.kind.by_hand:
            yield from _carried_out(aboard, tracked)
    fresh = aboard.rig.first(Role.WATER)
    if (water := aboard.known.store(fresh.id if fresh else None)) is not None:
        yield from _jug_trip(aboard, water)
        yield _on_top(aboard, "buy-jug", water, Levers.jug_l, id="buy-jug")
    gas = aboard.rig.first(Role.GAS)
    if (bottle := aboard.known.store(gas.id if gas else None)) is not None:
        yield _on_top(aboard, "buy-bottle", bottle, bottle.store.capacity * Levers.bottle_share, id="buy-bottle")


def _on_top(
    aboard: Aboard, kind: str, tracked: Tracked, amount: float, spot: Spot | None = None, id: str = ""
) -> Lever:
    """A lever that brings an amount once."""
    store = tracked.store
    changes, touch = {store.id: Change(room=amount)}, Touch(store=store.id, once=amount)
    return aboard.lever(kind, changes, [touch], subject=store.id, id=id, amount=amount, spot=spot)


def _reserve(aboard: Aboard, tracked: Tracked) -> Lever:
    """The jug poured in whole, or the bottle swapped: what is in the old one under its line is lost. Of waste: the
    spare changed to, or the tote that it runs over into."""
    store = tracked.store
    if store.sense is Sense.FILLS:
        kind = "run-over" if store.kind.runs_over else "use-spare"
        return _on_top(aboard, kind, tracked, tracked.reserve, id=f"use-spare-{store.id}")
    if store.is_poured:
        return _on_top(aboard, "pour-jug", tracked, tracked.reserve)
    return _on_top(aboard, "swap-bottle", tracked, max(0.0, tracked.reserve - store.line_level))


def within_walk(known: Known, tracked: Tracked) -> Spot | None:
    """The nearest place within a walk that serves a store."""
    here = known.days(1)[0].place
    if here is None:
        return None
    near = [each for each in known.book if each.service_for(tracked.store) is not None]
    near = [each for each in near if way_km(known.rig, here, each.place) <= Stops.walk_km]
    return min(near, key=lambda each: way_km(known.rig, here, each.place), default=None)


def _carried_out(aboard: Aboard, tracked: Tracked) -> Iterable[Lever]:
    """Emptied on foot once more: room for all that it holds up to its line. A urine bottle is carried anywhere."""
    spot = within_walk(aboard.known, tracked)
    if spot is not None or tracked.store.kind.anywhere:
        yield _on_top(aboard, "carry-out", tracked, tracked.store.line_level, spot)


def _jug_trip(aboard: Aboard, fresh: Tracked) -> Iterable[Lever]:
    """A jug fetched each day from a tap within a walk."""
    if (spot := within_walk(aboard.known, fresh)) is None:
        return
    brought = np.full(aboard.n_dates, Levers.jug_l)
    changes, touch = {fresh.store.id: Change(brought=brought)}, Touch(store=fresh.store.id, per_day=Levers.jug_l)
    yield aboard.lever(
        "jug-trip", changes, [touch], subject=fresh.store.id, id="jug-trip", amount=Levers.jug_l, spot=spot
    )
