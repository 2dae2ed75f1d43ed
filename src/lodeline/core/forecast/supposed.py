"""A store of which nothing is known, as common practice has it after a stop: full, or empty where it fills up."""

from collections.abc import Iterable, Mapping
from dataclasses import replace

from lodeline.core.figures import Readings
from lodeline.core.rig import Store
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.hypothesis import Possible
from lodeline.core.tracking.tracked import Tracked


def served(tracked: Mapping[str, Tracked], due: Iterable[Store]) -> dict[str, Tracked]:
    """The stores as they stand once those that are due are served."""
    return {**tracked, **{store.id: from_good_end(tracked[store.id]) for store in due}}


def from_good_end(tracked: Tracked) -> Tracked:
    """The same store as if it had just been served."""
    store = tracked.store
    belief = b.reset_level(tracked.belief, store.good_end, Readings.end_sd * store.capacity)
    return replace(
        tracked, belief=belief, parts=(Possible(1.0, belief),), known_since=tracked.known_since, lost_since=None
    )
