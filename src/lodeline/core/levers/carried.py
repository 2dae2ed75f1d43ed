"""Levers on what is carried or bought: a jug poured in, a bottle swapped or emptied on foot, a trip to a tap."""

from collections.abc import Iterable

import numpy as np

from lodeline.core.book import Spot, way_km
from lodeline.core.catalogue import Role, Sense
from lodeline.core.figures import Levers, Stops
from lodeline.core.forecast.change import Change
from lodeline.core.levers.lever import Aboard, Lever, Touch
from lodeline.core.levers.water import lever_of
from lodeline.core.tracking.track import Tracked

# What can be carried by hand when it is full.
_BOTTLE = "urine"
_BY_HAND = ("cassette", _BOTTLE, "solids", "supply")


def carried_levers(aboard: Aboard) -> Iterable[Lever]:
    """The levers on what is carried, and on what could be bought to carry more."""
    for store in aboard.rig.stores:
        tracked = aboard.known(store.id)
        if tracked is None or store.is_served_here:
            continue
        if tracked.reserve > 0 and not store.reserve_counts:
            yield _reserve(aboard, tracked)
        if store.sense is Sense.FILLS and store.kind.id in _BY_HAND:
            yield from _carried_out(aboard, tracked)
    fresh = aboard.rig.first(Role.WATER)
    if (water := aboard.known(fresh.id if fresh else None)) is not None:
        yield from _jug_trip(aboard, water)
        yield _on_top(aboard, "buy-jug", water, Levers.jug_l)
    gas = aboard.rig.first(Role.GAS)
    if (bottle := aboard.known(gas.id if gas else None)) is not None:
        yield _on_top(aboard, "buy-bottle", bottle, bottle.store.capacity * Levers.bottle_share)


def _on_top(aboard: Aboard, kind: str, tracked: Tracked, amount: float, spot: Spot | None = None) -> Lever:
    """A lever that brings an amount once."""
    store = tracked.store
    id = kind if kind.startswith("buy") else f"{kind}-{store.id}"
    changes, touch = {store.id: Change(room=amount)}, Touch(store=store.id, once=amount)
    return lever_of(aboard, kind, id, changes, [touch], store.id, amount, spot.id if spot else None)


def _reserve(aboard: Aboard, tracked: Tracked) -> Lever:
    """The jug poured in whole, or the bottle swapped: what is in the old one under its line is lost. Of waste: the
    spare changed to, or the tote that it runs over into."""
    store = tracked.store
    if store.sense is Sense.FILLS:
        return _on_top(aboard, "use-spare", tracked, tracked.reserve)
    if store.is_poured:
        return _on_top(aboard, "pour-jug", tracked, tracked.reserve)
    return _on_top(aboard, "swap-bottle", tracked, max(0.0, tracked.reserve - store.line_level))


def within_walk(aboard: Aboard, tracked: Tracked) -> Spot | None:
    """The nearest place within a walk that serves a store."""
    here = aboard.ahead.days[0].place
    if here is None:
        return None
    near = [each for each in aboard.book if each.service_for(tracked.store) is not None]
    near = [each for each in near if way_km(aboard.rig, here, each.place) <= Stops.walk_km]
    return min(near, key=lambda each: way_km(aboard.rig, here, each.place), default=None)


def _carried_out(aboard: Aboard, tracked: Tracked) -> Iterable[Lever]:
    """Emptied on foot once more: room for all that it holds up to its line. A urine bottle is carried anywhere."""
    spot = within_walk(aboard, tracked)
    if spot is not None or tracked.store.kind.id == _BOTTLE:
        yield _on_top(aboard, "carry-out", tracked, tracked.store.line_level, spot)


def _jug_trip(aboard: Aboard, fresh: Tracked) -> Iterable[Lever]:
    """A jug fetched each day from a tap within a walk."""
    if (spot := within_walk(aboard, fresh)) is None:
        return
    brought = np.full(aboard.n_dates, Levers.jug_l)
    changes, touch = {fresh.store.id: Change(brought=brought)}, Touch(store=fresh.store.id, per_day=Levers.jug_l)
    yield lever_of(aboard, "jug-trip", "jug-trip", changes, [touch], fresh.store.id, Levers.jug_l, spot.id)
