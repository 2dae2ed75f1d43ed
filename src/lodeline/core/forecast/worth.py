"""What a reading now would be worth: by how much it would narrow the days left of the whole rig.

The expected value of sample information (Raiffa and Schlaifer 1961), for the spread of one outcome: the paths at hand
give both the contents now and the days left, so that a drawn reading can be looked up among them.
"""

from collections.abc import Mapping

import numpy as np
from numpy.typing import NDArray

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
    off = days - days.mean()
    rng = np.random.default_rng([ahead.seed, 1])
    gains = {}
    for id, each in known.items():
        shown = _shown(each, paths[id].start, rng)
        gains[id] = max(0.0, _spread_within(off, rng.permutation(shown)) - _spread_within(off, shown))
    return gains


def _shown(tracked: Tracked, contents: Floats, rng: np.random.Generator) -> NDArray[np.int64]:
    """The group of like readings that each path's reading falls into, shape (n_paths,)."""
    store, share = tracked.store, contents / tracked.store.capacity
    if store.gauge.kind is GaugeKind.STEPS and store.gauge.marks:
        begins = [panel_span(store, mark)[0] for mark in store.gauge.marks[1:]]
        return np.searchsorted(np.array(begins), share)
    error = gauge_error(store)
    sd = float(np.hypot(error.sd, error.bias_sd(float(share.mean()))))
    if Method.GROSS in store.kind.reads and store.tare_kg is not None:
        sd = Readings.weigh_sd_kg / store.capacity
    seen = share + sd * rng.standard_normal(len(share))
    group = np.empty(len(seen), dtype=np.int64)
    group[np.argsort(seen)] = np.arange(len(seen)) * Forecasting.worth_groups // len(seen)
    return group


def _spread_within(off: Floats, groups: NDArray[np.int64]) -> float:
    """The root of the mean variance within groups; ``off``: from the mean of all."""
    sums, counts = np.bincount(groups, off), np.bincount(groups)
    between = float((sums**2 / np.maximum(counts, 1)).sum())
    return float(np.sqrt(max((float(off @ off) - between) / len(off), Numeric.tiny_variance)))
