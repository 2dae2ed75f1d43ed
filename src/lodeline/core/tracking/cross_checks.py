"""What stores say of each other, and several readings of a gauge together: after each was walked by itself."""

from dataclasses import replace

import numpy as np

from lodeline.core.catalogue import Method, Role
from lodeline.core.figures import Tracking
from lodeline.core.log import Reading
from lodeline.core.rig import Rig
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.coupling import informed, learned_of, usual_use
from lodeline.core.tracking.evidence import evidence
from lodeline.core.tracking.hypothesis import Compared, Doubt, DoubtKind, as_one
from lodeline.core.tracking.tracked import Tracked


def cross_check(rig: Rig, tracked: dict[str, Tracked]) -> dict[str, Tracked]:
    """Let fresh inform grey, and add the doubts that only a look at several readings or stores gives."""
    checked = dict(tracked)
    fresh = rig.first(Role.WATER)
    for grey in rig.every(Role.DRAIN):
        if fresh is None or not checked[grey.id].known_since:
            continue
        told = not grey.takes and not checked[fresh.id].assumed
        doubt = _over(checked[fresh.id], checked[grey.id]) if told else None
        checked[grey.id] = _as_fresh_says(rig, checked[fresh.id], checked[grey.id])
        if doubt:
            checked[grey.id] = replace(checked[grey.id], doubts=(*checked[grey.id].doubts, doubt))
    for store_id, each in list(checked.items()):
        checked[store_id] = _as_readings_agree(each)
    return checked


def _as_fresh_says(rig: Rig, fresh: Tracked, grey: Tracked) -> Tracked:
    """The grey tank with what the fresh one's use now says of it; less, where it was told on the way."""
    now, times = learned_of(fresh.conditions.date, fresh.model, fresh.belief), 1.0
    if now is None:
        return grey
    if fresh.use_told_on is not None and fresh.use_told_on < now.on:
        times = Tracking.told_again
    parts = []
    for each in grey.parts:
        belief = b.cut_to_ends(informed(rig, grey.store, grey.model, each.belief, now, times), grey.store.capacity)
        if _was_just_read(rig, grey):
            # what was seen of the level today is not told otherwise by how it may have come about
            belief.mean[0], belief.cov[0, 0] = each.belief.mean[0], each.belief.cov[0, 0]
        parts.append(replace(each, belief=belief))
    return replace(grey, belief=as_one(tuple(parts)), parts=tuple(parts))


def _was_just_read(rig: Rig, tracked: Tracked) -> bool:
    """Whether the level was read since the last midnight but one, and not set anew by an act since."""
    read, date = tracked.last_reading, tracked.conditions.date
    return read is not None and read.at == tracked.known_at and (date - rig.zone.date(read.at)).days <= 1


def _over(fresh: Tracked, grey: Tracked) -> Doubt | None:
    """Grey that grows faster than fresh is used: rain, a leak, or water from elsewhere."""
    if grey.assumed or grey.last_reading is None:
        return None
    (flows, flows_var), (used, used_var) = (usual_use(each.model, each.belief) for each in (grey, fresh))
    more = flows - Tracking.over * used
    sd = float(np.sqrt(flows_var + Tracking.over**2 * used_var))
    if more < Tracking.over_sds * sd:
        return None
    return _of_last(grey, grey.last_reading, DoubtKind.OVER, more)


def _as_readings_agree(tracked: Tracked) -> Tracked:
    """Where the last readings agree with each other and lie apart from what is made of them, they are evidence against
    it: the level may as well be as they say, and it is asked about."""
    apart = _apart(tracked)
    last, store = tracked.last_reading, tracked.store
    if len(apart) < _TWO or last is None:
        return tracked
    off = float(np.mean(apart))
    weight = Tracking.two_agree if len(apart) == _TWO else Tracking.more_agree
    if last.confirmed:
        weight = Tracking.confirmed_agree
    sd = max(evidence(store, last).sd, Tracking.unlogged_end_sd * store.capacity)
    belief = b.cut_to_ends(b.reset_level(tracked.belief, tracked.level + off, sd), store.capacity)
    parts = (
        *(replace(each, weight=(1 - weight) * each.weight) for each in tracked.parts),
        replace(tracked.parts[0], weight=weight, belief=belief),
    )
    doubts = tracked.doubts if last.confirmed else (*tracked.doubts, _of_last(tracked, last, DoubtKind.AGAINST, off))
    return replace(tracked, belief=as_one(parts), parts=parts, doubts=doubts)


_TWO = 2


def _apart(tracked: Tracked) -> list[float]:
    """How far each of the last readings lies from what is made of them, where several agree with each other, lie apart
    from it together, and are not asked about yet."""
    last, compared = tracked.last_reading, tracked.compared
    if last is None or last.at != tracked.known_at or not compared or compared[-1].reading != last:
        return []
    run = _agreeing(tracked)
    asked = {doubt.reading for doubt in tracked.doubts if doubt.reading is not None}
    if len(run) < _TWO or asked & {each.reading for each in run}:
        return []
    bias, sd = run[-1].bias, evidence(tracked.store, last).sd
    offs = [_value(each) - bias - each.expected for each in run]
    off = float(np.mean([_value(run[0]) - bias - tracked.level, *offs[1:]]))
    low, high = tracked.level_range
    apart = max(low - tracked.level - off, off - (high - tracked.level))
    return offs if apart > sd / np.sqrt(len(run)) else []


def _value(compared: Compared) -> float:
    return compared.value if compared.value is not None else compared.expected


def _agreeing(tracked: Tracked) -> list[Compared]:
    """The last readings that lie to one side of what was expected and agree in how far, the latest first."""
    for n in range(min(_MOST_AGREE, len(tracked.compared)), _TWO - 1, -1):
        run = list(reversed(tracked.compared[-n:]))
        if _agree(tracked, run):
            return run
    return []


_MOST_AGREE = 5  # readings that are looked at together


def _agree(tracked: Tracked, run: list[Compared]) -> bool:
    if any(each.value is None or each.fits is None or each.resets != run[0].resets for each in run):
        return False
    givens = [evidence(tracked.store, each.reading) for each in run]
    if any(given.value is None for given in givens) or any(e.method in (Method.DRY, Method.FULL) for e in run):
        return False
    # a gauge's bias does not change within days: the one that was known before they began
    bias = run[-1].bias
    offs = [_value(each) - bias - each.expected for each in run]
    near = _TWO * max(max(given.sd for given in givens), Tracking.unlogged_end_sd * tracked.store.capacity)
    outside = all(not each.expected_range[0] <= _value(each) - bias <= each.expected_range[1] for each in run)
    return outside and min(offs) * max(offs) > 0 and max(offs) - min(offs) <= near


def _of_last(tracked: Tracked, last: Reading, kind: DoubtKind, amount: float) -> Doubt:
    """A doubt put to the last reading."""
    return Doubt(
        at=last.at,
        store=tracked.store.id,
        kind=kind,
        reading=last,
        expected=tracked.level,
        expected_sd=tracked.belief.sd,
        amount=amount,
    )
