"""A gauge that shows the same while people live aboard: that it has stuck is a hypothesis, the likelier the longer."""

from math import exp, log, pi, sqrt

import numpy as np

from lodeline.core.figures import Numeric, Readings, Tracking
from lodeline.core.log import Reading
from lodeline.core.rig import Store
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.evidence import Evidence
from lodeline.core.tracking.hypothesis import Doubt, DoubtKind, Hypothesis, Unmoved


def is_stuck(hypothesis: Hypothesis) -> bool:
    """Whether a hypothesis takes the gauge to have stuck."""
    return hypothesis.unmoved is not None and hypothesis.unmoved.is_stuck


def stuck_weight(hypothesis: Hypothesis, given: Evidence, is_thought_of: bool) -> float:
    """How likely a reading that shows the same again is of a gauge that has stuck, by all that it has shown since it
    moved; ``is_thought_of``: that is a hypothesis of its own already."""
    if is_stuck(hypothesis):
        return Tracking.stays_stuck * _density(given)
    run = hypothesis.unmoved
    if run is None or is_thought_of:
        return 0.0
    return Tracking.stuck_chance * exp(min(run.log_factor, Numeric.most_exponent)) * _density(given)


def _density(given: Evidence) -> float:
    """How likely the same is of what does not move: certain of a mark; of a value as likely as of a gauge that is right
    where nothing moved, so that the two are told apart by what ought to have moved it."""
    return 1.0 if given.bands else 1.0 / (sqrt(2 * pi) * given.sd)


def may_stick(store: Store, hypothesis: Hypothesis, given: Evidence) -> bool:
    """Whether what is shown ought to have moved: people were aboard, and it is not at the end to which use goes."""
    low, high = given.allows
    end = Readings.end_sd * store.capacity
    is_at_end = high >= store.capacity - end if store.sign > 0 else low <= end
    return not is_at_end and abs(hypothesis.usual_change) > given.sd


def go_on_unmoved(hypothesis: Hypothesis, given: Evidence, log_weight: float) -> None:
    """One more reading that shows the same; ``log_weight``: of all that it may be otherwise."""
    run = hypothesis.unmoved
    if run is not None:
        hypothesis.unmoved = run._replace(
            x=run.x + hypothesis.x_since,
            variance=run.variance + hypothesis.process_var,
            log_factor=run.log_factor + log(_density(given)) - log_weight,
        )


def as_stuck(store: Store, hypothesis: Hypothesis, reading: Reading, log_chance: float) -> Hypothesis:
    """Under which the gauge has not moved since it first showed what it shows: its readings since say nothing, and use
    went on. One doubt for all of them, put to the last."""
    run = hypothesis.unmoved
    assert run is not None
    after = hypothesis.belief if run.is_stuck else _used(store, run, hypothesis)
    doubt = Doubt(
        at=reading.at,
        store=store.id,
        kind=DoubtKind.STUCK,
        reading=reading,
        expected=after.level,
        expected_sd=after.sd,
        amount=abs(hypothesis.anchor - after.level),
        since=run.since,
    )
    stuck = hypothesis.branch(log_chance, after)
    stuck.doubts = (*without_stuck(hypothesis.doubts), doubt)
    stuck.unmoved = run._replace(is_stuck=True)
    return stuck


def without_stuck(doubts: tuple[Doubt, ...]) -> tuple[Doubt, ...]:
    """What else is doubted: of a gauge that has moved since nothing is asked."""
    return tuple(each for each in doubts if each.kind is not DoubtKind.STUCK)


def _used(store: Store, run: Unmoved, hypothesis: Hypothesis) -> b.Belief:
    """What was believed when a gauge last moved, after use as usual since."""
    x, variance = run.x + hypothesis.x_since, run.variance + hypothesis.process_var
    transition = np.eye(len(run.belief.mean))
    transition[0, b.COEFFICIENTS] = x
    cov = transition @ run.belief.cov @ transition.T
    cov[0, 0] += variance
    return b.cut_to_ends(b.Belief(transition @ run.belief.mean, cov), store.capacity)
