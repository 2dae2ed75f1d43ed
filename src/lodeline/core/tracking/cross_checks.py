"""What stores say of each other, and of a gauge over many readings: after each was walked by itself."""

from dataclasses import replace
from datetime import timedelta
from typing import TYPE_CHECKING

import numpy as np

from lodeline.core.catalogue import Driver, Method, Role
from lodeline.core.figures import Tracking
from lodeline.core.rig import Rig
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.coupling import LearnedUse, informed, usual_use
from lodeline.core.tracking.hypothesis import Doubt, DoubtKind, as_one

if TYPE_CHECKING:
    from lodeline.core.tracking.track import Tracked


def cross_check(rig: Rig, tracked: "dict[str, Tracked]") -> "dict[str, Tracked]":
    """Let fresh inform grey, and add the doubts that only a look at several readings or stores gives."""
    checked = dict(tracked)
    fresh = rig.first(Role.WATER)
    for grey in rig.every(Role.DRAIN):
        if fresh is None or checked[fresh.id].assumed or not checked[grey.id].known_since:
            continue
        doubt = _over(checked[fresh.id], checked[grey.id]) if not grey.takes else None
        checked[grey.id] = _as_fresh_says(rig, checked[fresh.id], checked[grey.id])
        if doubt:
            checked[grey.id] = replace(checked[grey.id], doubts=(*checked[grey.id].doubts, doubt))
    for store_id, each in checked.items():
        stuck = _stuck(each)
        if stuck:
            checked[store_id] = replace(each, doubts=(*each.doubts, stuck))
    return checked


def _as_fresh_says(rig: Rig, fresh: "Tracked", grey: "Tracked") -> "Tracked":
    """The grey tank with what the fresh one's use now says of it; less, where it was told on the way."""
    mean, variance = usual_use(fresh.model, fresh.belief)
    now, times = LearnedUse(on=fresh.conditions.date, mean=mean, variance=variance), 1.0
    if fresh.use_told_on is not None and fresh.use_told_on < now.on:
        times = Tracking.told_again
    parts = tuple(
        replace(
            each,
            belief=b.cut_to_ends(informed(rig, grey.store, grey.model, each.belief, now, times), grey.store.capacity),
        )
        for each in grey.parts
    )
    return replace(grey, belief=as_one(parts), parts=parts)


def _over(fresh: "Tracked", grey: "Tracked") -> Doubt | None:
    """Grey that grows faster than fresh is used: rain, a leak, or water from elsewhere."""
    if grey.assumed or grey.last_reading is None:
        return None
    (flows, flows_var), (used, used_var) = (usual_use(each.model, each.belief) for each in (grey, fresh))
    more = flows - Tracking.over * used
    sd = float(np.sqrt(flows_var + Tracking.over**2 * used_var))
    if more < Tracking.over_sds * sd:
        return None
    return _of_last(grey, DoubtKind.OVER, more)


def _of_last(tracked: "Tracked", kind: DoubtKind, amount: float) -> Doubt | None:
    """A doubt put to the last reading."""
    last = tracked.last_reading
    if last is None:
        return None
    return Doubt(
        at=last.at, store=tracked.store.id, kind=kind, reading=last, expected=tracked.belief.level,
        expected_sd=tracked.belief.sd, amount=amount,
    )  # fmt: skip


def _stuck(tracked: "Tracked") -> Doubt | None:
    """A gauge that has shown the same value for many readings while use should have moved it."""
    readings = [each for each in tracked.compared if each.method is Method.FRACTION][-Tracking.stuck_readings :]
    if len(readings) < Tracking.stuck_readings or len({(each.value, each.resets) for each in readings}) > 1:
        return None
    days = (readings[-1].at - readings[0].at) / timedelta(days=1)
    usual = float(tracked.model.mean[0]) if Driver.PEOPLE in tracked.model.drivers else 0.0
    moved = Tracking.stuck_use * usual * days
    steps = Tracking.stuck_resolutions * tracked.store.gauge.resolution
    if moved < max(Tracking.stuck_move, steps) * tracked.store.capacity:
        return None
    return _of_last(tracked, DoubtKind.STUCK, moved)
