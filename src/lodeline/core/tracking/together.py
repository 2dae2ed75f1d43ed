"""What stores say of each other, and of a gauge over many readings: after each was walked by itself."""

from dataclasses import replace
from typing import TYPE_CHECKING

import numpy as np

from lodeline.core.rig import Kind, Rig
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.story import Doubt
from lodeline.core.tracking.use import grey_from_fresh

if TYPE_CHECKING:
    from lodeline.core.tracking.track import Tracked

# How well the share of fresh water that becomes grey is known: common practice, 0.8 to 0.95 of what is not drunk.
_SHARE_CV = 0.5
_STUCK_READINGS = 5
_STUCK_MOVE = 0.15
_OVER = 1.15
_OVER_SDS = 2.0


def together(rig: Rig, found: dict[str, "Tracked"]) -> dict[str, "Tracked"]:
    """Let fresh inform grey, and add the doubts that only a look at several readings or stores gives."""
    fresh, grey = rig.first(Kind.FRESH), rig.first(Kind.GREY)
    if fresh and grey and not found[fresh.id].assumed and found[grey.id].known_since:
        doubt = _over(found[fresh.id], found[grey.id])
        informed = replace(found[grey.id], belief=_informed(rig, found[fresh.id], found[grey.id]))
        found[grey.id] = replace(informed, doubts=(*informed.doubts, doubt)) if doubt else informed
    for store_id, tracked in found.items():
        stuck = _stuck(tracked)
        if stuck:
            found[store_id] = replace(tracked, doubts=(*tracked.doubts, stuck))
    return found


def _informed(rig: Rig, fresh: "Tracked", grey: "Tracked") -> b.Belief:
    """What leaves the fresh tank mostly arrives in the grey one: a measurement of grey's rate by fresh's."""
    used, used_var = _usual_use(fresh)
    expected = grey_from_fresh(rig, used)
    variance = (_SHARE_CV * expected) ** 2 + used_var * (expected / used) ** 2
    row = np.zeros(len(grey.belief.mean))
    row[1:-1] = grey.model.usual_x
    return b.cut_to_ends(b.kalman_update(grey.belief, row, expected, variance), grey.store.capacity)


def _usual_use(tracked: "Tracked") -> tuple[float, float]:
    """Use on a usual day and its variance."""
    x = tracked.model.usual_x
    return float(x @ tracked.belief.coefficients), float(x @ tracked.belief.cov[1:-1, 1:-1] @ x)


def _over(fresh: "Tracked", grey: "Tracked") -> Doubt | None:
    """Grey that grows faster than fresh is used: rain, a leak, or water from elsewhere."""
    if grey.assumed or grey.last_reading is None:
        return None
    (flows, flows_var), (used, used_var) = _usual_use(grey), _usual_use(fresh)
    more = flows - _OVER * used
    sd = float(np.sqrt(flows_var + _OVER**2 * used_var))
    if more < _OVER_SDS * sd:
        return None
    last = grey.last_reading
    return Doubt(last.at, grey.store.id, "over", last, grey.belief.level, grey.belief.sd, more)


def _stuck(tracked: "Tracked") -> Doubt | None:
    """A gauge that has shown the same value for many readings while use should have moved it."""
    values = [seen for seen in tracked.seen if seen.method == "fraction"][-_STUCK_READINGS:]
    last = tracked.last_reading
    if len(values) < _STUCK_READINGS or last is None or len({(s.value, s.resets) for s in values}) > 1:
        return None
    days = (values[-1].at - values[0].at).total_seconds() / 86400
    usual = float(tracked.model.mean[0]) if "people" in tracked.model.drivers else 0.0
    moved = 0.5 * usual * days
    if moved < max(_STUCK_MOVE, 2 * tracked.store.gauge.resolution) * tracked.store.capacity:
        return None
    return Doubt(last.at, tracked.store.id, "stuck", last, tracked.belief.level, tracked.belief.sd, moved)
