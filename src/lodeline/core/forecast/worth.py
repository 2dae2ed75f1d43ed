"""What a reading now would be worth: by how much it would narrow the days left of the whole rig.

The expected value of sample information (Raiffa and Schlaifer 1961), for the spread of one outcome: the paths at hand
give both the contents now and the days left, so that a drawn reading can be looked up among them.
"""

from collections.abc import Mapping

import numpy as np

from lodeline.core.catalogue import GaugeKind, Method
from lodeline.core.figures import Forecasting, Numeric, Readings
from lodeline.core.forecast.paths import Ahead, Paths
from lodeline.core.statistics import Floats
from lodeline.core.tracking.evidence import gauge_error, panel_span
from lodeline.core.tracking.tracked import Tracked


def worth_days(
    ahead: Ahead, known: Mapping[str, Tracked], paths: Mapping[str, Paths], soonest: Floats
) -> dict[str, float]:
    """How much a reading of each known store now would cut from the spread of the days left. [day]

    For each path the reading that its gauge would show is drawn; paths with like readings stand together; gain =
    sd(T) - sqrt(E[Var(T | reading)]), less the gain of readings dealt out at random. ``soonest``: when each path meets
    the first line, shape (n_paths,).
    """
    days = np.minimum(soonest, float(ahead.n_days))
    rng = np.random.default_rng([ahead.seed, 1])
    gains = {}
    for id, each in known.items():
        shown = _shown(each, paths[id].start, rng)
        gain = _gain(days, shown) - _gain(days, rng.permutation(shown))
        gains[id] = max(0.0, gain)
    return gains


def _shown(tracked: Tracked, contents: Floats, rng: np.random.Generator) -> Floats:
    """The group of like readings that each path's reading falls into, shape (n_paths,)."""
    store, share = tracked.store, contents / tracked.store.capacity
    if store.gauge.kind is GaugeKind.STEPS and store.gauge.marks:
        begins = [panel_span(store, mark)[0] for mark in store.gauge.marks[1:]]
        return np.searchsorted(np.array(begins), share).astype(float)
    error = gauge_error(store)
    sd = float(np.hypot(error.sd, error.bias_sd(float(share.mean()))))
    if Method.GROSS in store.kind.reads and store.tare_kg is not None:
        sd = Readings.weigh_sd_kg / store.capacity
    seen = share + sd * rng.standard_normal(len(share))
    rank = np.argsort(np.argsort(seen))
    return (rank * Forecasting.worth_groups // len(seen)).astype(float)


def _gain(days: Floats, groups: Floats) -> float:
    """sd of all, less the root of the mean variance within groups."""
    within = 0.0
    for each in np.unique(groups):
        mine = days[groups == each]
        within += len(mine) * float(mine.var())
    return float(days.std() - np.sqrt(max(within / len(days), Numeric.tiny_variance)))
