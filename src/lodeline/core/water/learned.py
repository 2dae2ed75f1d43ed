"""What one shower, one wash-up, one flush really takes aboard, as far as the log can tell, and where it cannot.

What is logged by itself has a coefficient of its own in what is believed of the fresh tank. The rest is one sum: what
is known of the sum is shared out by how uncertain each part was before (the normal distribution conditioned on a sum).
"""

from enum import StrEnum

import numpy as np

from lodeline.core.catalogue import ACTIVITIES, Activity, Driver
from lodeline.core.figures import Numeric, Water
from lodeline.core.habits import Taken, fresh_share, usual_activities
from lodeline.core.rig import Rig
from lodeline.core.statistics import Z90, Floats, Range
from lodeline.core.tracking.belief import COEFFICIENTS
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass


class Told(StrEnum):
    """How well the log tells an amount."""

    LEARNED = "learned"
    TOO_FEW = "too-few"
    ALIKE = "alike"
    NOT_LOGGED = "not-logged"


@dataclass(frozen=True, slots=True, kw_only=True)
class Amount:
    """One activity: how often a day, what one takes, and what that makes a day. [L]

    ``usual``: one of it by common practice or as said; ``alike``: what it cannot be told apart from.
    """

    activity: Activity
    per_day: float
    each_l: Range
    day_l: Range
    usual: float
    told: Told
    alike: tuple[Activity, ...] = ()


def amounts(rig: Rig, fresh: Tracked) -> tuple[Amount, ...]:
    """What each activity takes, those that take most a day first.

    ``fresh``: what is known of the fresh tank. Ranges are 8 in 10.
    """
    share = fresh_share(rig, fresh.store)
    taken = {each.activity.id: each for each in usual_activities(rig)}
    model, belief = fresh.model, fresh.belief
    mean, cov = belief.coefficients / share, belief.cov[COEFFICIENTS, COEFFICIENTS] / share**2
    logged = [id for id in model.drivers if id in ACTIVITIES]
    found = [_logged(fresh, id, taken.get(id), mean, cov, model.sd / share) for id in logged]
    # who logs one kind of shower, and did not say that there are others, takes no others
    groups = {ACTIVITIES[id].group for id in logged} - {""}
    rest = [each for id, each in taken.items() if id not in logged and (each.said or each.activity.group not in groups)]
    at = model.drivers.index(Driver.PEOPLE)
    found += _of_rest(rest, float(mean[at]), float(cov[at, at]))
    return tuple(sorted(found, key=lambda each: -each.day_l.p50))


def _logged(fresh: Tracked, id: str, taken: Taken | None, mean: Floats, cov: Floats, prior_sd: Floats) -> Amount:
    model = fresh.model
    at = model.drivers.index(id)
    activity, per_day = ACTIVITIES[id], model.day_kinds.usual(id)
    each = _range(float(mean[at]), float(cov[at, at]))
    sds = np.sqrt(np.maximum(np.diag(cov), Numeric.tiny_square))
    alike = tuple(
        ACTIVITIES[other]
        for i, other in enumerate(model.drivers)
        if i != at and other in ACTIVITIES and abs(cov[at, i]) > Water.alike_from * sds[at] * sds[i]
    )
    is_told = sds[at] < max(Water.told_from * prior_sd[at], Water.told_cv * each.p50)
    told = Told.LEARNED if is_told else Told.ALIKE if alike else Told.TOO_FEW
    usual = taken.each_l if taken is not None else activity.each_l
    return Amount(
        activity=activity,
        per_day=per_day,
        each_l=each,
        day_l=each.over(1 / max(per_day, Numeric.tiny)),
        usual=usual,
        told=told,
        alike=alike if told is Told.ALIKE else (),
    )


def _of_rest(rest: list[Taken], mean: float, var: float) -> list[Amount]:
    """What is not logged by itself: a known sum, shared out."""
    if not rest:
        return []
    prior = np.array([each.day_l for each in rest])
    spread = np.array([each.day_sd_l for each in rest]) ** 2
    gain = spread / max(float(spread.sum()), Numeric.tiny)
    after = prior + gain * (mean - float(prior.sum()))
    # a part is no less than a little, whatever the sum: what is taken off goes to the others
    after = np.maximum(after, _LEAST_SHARE * prior)
    after *= max(mean, Numeric.tiny) / float(after.sum())
    var_after = np.minimum(spread - gain * spread + gain**2 * var, (_MOST_CV * after) ** 2)
    found = []
    for each, day_l, day_var in zip(rest, after.tolist(), var_after.tolist(), strict=True):
        a_day = _range(day_l, day_var)
        found.append(
            Amount(
                activity=each.activity,
                per_day=each.per_day,
                each_l=a_day.over(each.per_day),
                day_l=a_day,
                usual=each.each_l,
                told=Told.NOT_LOGGED,
            )
        )
    return found


_LEAST_SHARE, _MOST_CV = 0.25, 0.6  # of what is usual; no log tells less, nor less surely


def _range(mean: float, var: float) -> Range:
    """An 8-in-10 range of an amount that cannot be less than nothing (lognormal)."""
    mean = max(mean, Numeric.tiny)
    sigma = float(np.sqrt(np.log1p(var / mean**2)))
    middle = mean * float(np.exp(-(sigma**2) / 2))
    return Range(middle * float(np.exp(-Z90 * sigma)), middle, middle * float(np.exp(Z90 * sigma)))
