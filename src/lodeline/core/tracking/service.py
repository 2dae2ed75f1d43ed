"""Services as evidence: that somebody served a store, or did not, says how far it had come.

The need of a store is how far it has come on the way from its good end to its line: 0 just served, 1 at the line.
People serve at a margin of their own, which the log teaches; or because a tap or a drain was there, whatever the need.
"""

from math import hypot, log

import numpy as np

from lodeline.core.catalogue import Driver, GaugeKind
from lodeline.core.figures import Numeric, Readings, Serving, Tracking, Use
from lodeline.core.rig import Store
from lodeline.core.statistics import Floats, normal_below, uniform_sd
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.evidence import shape_at
from lodeline.core.tracking.hypothesis import Hypothesis, prune
from lodeline.core.tracking.model import UseModel
from lodeline.core.values import dataclass


@dataclass(slots=True)
class ServiceRecord:
    """How often a store's services are logged, and how often they were for need where its need was known before."""

    logged: int = 0
    known: int = 0
    for_need: float = 0.0

    def by_need(self, store: Store) -> float:
        """Chance that a service alone was for need: what is usual, and what this store's own services showed. Somebody
        who fills whenever there is a tap is not to be believed thirsty."""
        usual = store.kind.service.by_need
        return (Serving.usual_services * usual + self.for_need) / (Serving.usual_services + self.known)

    def learn(self, store: Store, belief: b.Belief, trust: float) -> None:
        """Count a service whose need was known before it, if it was little or near the margin: between them it may be
        that the margin is another. ``trust``: the chance that it was for need."""
        way = store.line_level - store.good_end
        is_known = belief.sd <= Serving.known_need_sd * abs(way)
        if is_known and (trust > 1 / 2 or (belief.level - store.good_end) / way < Serving.little_need):
            self.known += 1
            self.for_need += trust

    def not_logged(self, unlogged: int, is_blank: bool) -> float:
        """Chance that a service of a day was not logged; ``unlogged``: those that readings showed."""
        usual = (Serving.not_logged + unlogged) / (Serving.not_logged + Serving.logged + self.logged + unlogged)
        return max(usual, Serving.not_logged_blank) if is_blank else usual


def _need_row(store: Store, belief: b.Belief) -> tuple[Floats, float]:
    """``row @ state + const`` is the need of a store over the margin of its people, who go by what its gauge shows."""
    way = store.line_level - store.good_end
    row = np.zeros(len(belief.mean))
    row[0], row[b.MARGIN] = 1.0 / way, -1.0
    if store.gauge.kind is not GaugeKind.NONE:
        row[b.BIAS] = [each / way for each in shape_at(belief.level / store.capacity)]
    return row, -store.good_end / way


def served(store: Store, belief: b.Belief, by_need: float) -> tuple[b.Belief, float, float]:
    """The belief before a service that was made, the log of its likelihood, and the chance that it was for need.
    ``by_need``: the same before anything is known of the level.

    A mixture: near the margin, by need; or anywhere, as the occasion was there, which says nothing. What was seen is a
    time, so that need and margin are compared as shares of each other: by their difference, little use and a small
    margin would always fit best.
    """
    row, const = _need_row(store, belief)
    margin = float(belief.mean[b.MARGIN])
    need = float(row.dot(belief.mean)) + const + margin
    if min(need, margin) < Serving.least_need:
        return belief, log((1 - by_need) * Serving.least_need / Serving.widest), 0.0
    row /= need
    row[b.MARGIN] = -1 / margin
    # where it ought to have run over, people may have let it, or used less
    over = max(0.0, log(need * abs(store.line_level - store.good_end) / store.capacity))
    value, variance = float(row.dot(belief.mean)) - log(need / margin), Serving.one_cv**2 + over**2
    # of a share as likely anywhere, its logarithm is the likelier the larger it is
    widest = Serving.widest / need
    after, trust = b.robust_update(belief, row, value, variance, widest, outlier=1 - by_need)
    # a little of it at each service for the occasion would add up
    taught = after if trust > Serving.least_trust else belief
    # ``trust`` is the share of need in the whole, of which the occasion is the rest
    return taught, log((1 - by_need) / widest / (1 - trust)), trust


def topped_up(store: Store, belief: b.Belief, amount: float) -> b.Belief:
    """The belief before an amount was filled in: there was room for it."""
    row = np.zeros(len(belief.mean))
    row[0] = 1.0
    variance = (Tracking.amount_cv * amount) ** 2 + (Readings.end_sd * store.capacity) ** 2
    return b.less_likely_above(belief, row, amount - store.capacity, variance, Serving.overfull)


def not_served(store: Store, belief: b.Belief, not_logged: float) -> b.Belief:
    """The belief after a day of which no service was logged; ``not_logged``: the chance that one would not be."""
    row, const = _need_row(store, belief)
    weight = 1 - Serving.served_a_day * (1 - not_logged)
    edge = Serving.edge_cv * float(belief.mean[b.MARGIN])
    return b.less_likely_above(belief, row, const, edge**2, weight)


def enough_to_drive(store: Store, model: UseModel, hypotheses: list[Hypothesis], km: float) -> list[Hypothesis]:
    """Nobody drives on nothing: where there was too little for a drive, somebody filled up and did not log it."""
    opened, capacity, by_km = [], store.capacity, model.drivers.index(Driver.KM)
    for each in hypotheses:
        burnt = float(each.belief.coefficients[by_km]) * km
        sd = max(hypot(each.belief.sd, Use.speed_cv * burnt), Numeric.small)
        enough = normal_below((each.belief.level - burnt) / sd)
        opened.append(each)
        if enough < Tracking.drive_enough:
            filled = b.reset_level(each.belief, (burnt + capacity) / 2, uniform_sd(max(capacity - burnt, 0.0)))
            opened.append(each.branch(log(Tracking.unlogged_chance), filled))
            opened[-1].settle()
            each.log_weight += log(max(enough, Numeric.small))
    return prune(opened)
