"""Fresh tanks as one: what one has not got is drawn from another, by a pipe or by a crew that changes over."""

from collections.abc import Mapping

import numpy as np

from lodeline.core.catalogue import Role
from lodeline.core.figures import Forecasting
from lodeline.core.habits import flush_tank
from lodeline.core.rig import Rig, Store
from lodeline.core.statistics import Floats
from lodeline.core.tracking.coupling import usual_use
from lodeline.core.tracking.tracked import Tracked


def pool_of(rig: Rig, known: Mapping[str, Tracked]) -> tuple[Store, ...]:
    """The fresh tanks that are lived from together, in the rig's order; empty where that is one alone."""
    flush = flush_tank(rig)
    tanks = tuple(
        store
        for store in rig.every(Role.WATER)
        if store.id in known and not store.sends_nobody and (flush is None or store.id != flush.id)
    )
    return tanks if len(tanks) > 1 else ()


def pooled(rig: Rig, known: Mapping[str, Tracked], times: Mapping[str, Floats], n_days: int) -> dict[str, Floats]:
    """When each path of each store meets its line, with the fresh tanks' one time under the first of them.

    The pool is empty when the mean of the tanks' times, by what is drawn from each, has come. A tank that outlasts the
    horizon is taken to last half as long again.
    """
    tanks = pool_of(rig, known)
    if not tanks:
        return dict(times)
    use = np.array([max(usual_use(known[each.id].model, known[each.id].belief)[0], 0.0) for each in tanks])
    share = use / use.sum() if use.sum() > 0 else np.full(len(tanks), 1 / len(tanks))
    beyond = Forecasting.beyond_horizon * n_days
    # one crew draws from all: who uses much of the one uses much of the others
    first = times[tanks[0].id]
    together = np.empty_like(first)
    together[np.argsort(first, kind="stable")] = share @ np.sort([np.minimum(times[t.id], beyond) for t in tanks])
    together[together > n_days] = np.inf
    others = {each.id for each in tanks[1:]}
    return {id: together if id == tanks[0].id else each for id, each in times.items() if id not in others}
