"""What may have happened when a reading does not fit: a slip, something that was not logged, another habit."""

from dataclasses import dataclass, replace

import numpy as np

from lodeline.core.catalogue import Driver, Sense
from lodeline.core.figures import Numeric, Tracking
from lodeline.core.log import Reading
from lodeline.core.rig import Store
from lodeline.core.statistics import Floats, uniform_sd
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.evidence import Evidence
from lodeline.core.tracking.hypothesis import Doubt, DoubtKind, Hypothesis

_SETTLED_DRIVERS = frozenset({Driver.PEOPLE, Driver.LOAD_BY_DAY, Driver.LOAD_AT_NIGHT})


@dataclass(frozen=True, slots=True)
class _Other:
    """Another belief before a reading, its chance, and whether it means a step that nobody logged."""

    chance: float
    belief: b.Belief
    is_step: bool


def likelihood(belief: b.Belief, given: Evidence) -> float:
    """Density (a value) or chance (a mark) of a reading under a belief."""
    if given.bands:
        return b.band_posterior(belief.level, max(belief.sd, Numeric.small), given.bands)[2]
    row = _row(belief, given)
    spread = float(row @ belief.cov @ row) + given.sd**2
    miss = (given.value or 0.0) - float(row @ belief.mean)
    return float(np.exp(-0.5 * miss**2 / spread) / np.sqrt(2 * np.pi * spread))


def _row(belief: b.Belief, given: Evidence) -> Floats:
    row = np.zeros(len(belief.mean))
    row[0] = 1.0
    row[-1] = 1.0 if given.biased else 0.0
    return row


def believe(belief: b.Belief, given: Evidence) -> b.Belief:
    """The belief after a reading that is taken at its word."""
    if given.bands:
        centre, variance, _ = b.band_posterior(belief.level, max(belief.sd, Numeric.small), given.bands)
        return b.set_level_moments(belief, centre, variance)
    return b.kalman_update(belief, _row(belief, given), given.value or 0.0, given.sd**2)


def _learn_spread(hypothesis: Hypothesis, given: Evidence) -> None:
    """Let the misses tell whether this rig's days differ more or less than is usual."""
    if given.bands or hypothesis.process_var <= 0:
        return
    belief, row = hypothesis.belief, _row(hypothesis.belief, given)
    variance = float(row @ belief.cov @ row) + given.sd**2
    squared = ((given.value or 0.0) - float(row @ belief.mean)) ** 2
    weight = min(1.0, hypothesis.process_var / variance) ** 2
    hypothesis.spread_sum += weight * min(squared / variance, Tracking.squared_miss_most)
    hypothesis.spread_weight += weight


def branches(
    store: Store, hypothesis: Hypothesis, reading: Reading, given: Evidence, drivers: tuple[str, ...]
) -> list[Hypothesis]:
    """The hypotheses that a reading leaves open, the plain one first."""
    normal = 1 - Tracking.slip_chance - Tracking.unlogged_chance - Tracking.habit_chance
    plain = normal * likelihood(hypothesis.belief, given)
    slip = Tracking.slip_chance * (1.0 / len(given.bands) if given.bands else 1.0 / store.capacity)
    others = _unlogged(store, hypothesis)
    habit = _other_habit(hypothesis, drivers)
    if habit is not None:
        others.append(_Other(Tracking.habit_chance, habit, False))
    weighed = [(other.chance * likelihood(other.belief, given), other) for other in others]
    total = plain + slip + sum(weight for weight, _ in weighed)
    if plain > Tracking.plain_is_clear * total or total <= 0:
        _learn_spread(hypothesis, given)
        return [_kept(hypothesis.branch(0.0, believe(hypothesis.belief, given)))]
    expected = hypothesis.belief.level
    doubt = Doubt(
        at=reading.at, store=store.id, kind=DoubtKind.READING, reading=reading, expected=expected,
        expected_sd=hypothesis.belief.sd, amount=(given.centre or 0.0) - expected,
    )  # fmt: skip
    plain_weight = float(np.log(max(plain, Numeric.log_floor)))
    opened = [_kept(hypothesis.branch(plain_weight, believe(hypothesis.belief, given)))]
    opened.append(hypothesis.branch(float(np.log(slip)), hypothesis.belief, doubt))
    for weight, other in weighed:
        if weight < Tracking.least_weight * total:
            continue
        after = believe(other.belief, given)
        change = after.level - expected
        kind = DoubtKind.RISE if change > 0 else DoubtKind.FALL
        step = replace(doubt, kind=kind, amount=change) if other.is_step else None
        opened.append(_kept(hypothesis.branch(float(np.log(weight)), after, step)))
    return opened


def _kept(hypothesis: Hypothesis) -> Hypothesis:
    hypothesis.days_seen += min(hypothesis.days_since, Tracking.days_seen_at_once)
    hypothesis.settle()
    return hypothesis


def _unlogged(store: Store, hypothesis: Hypothesis) -> list[_Other]:
    """Beliefs under which a fill, dump or charge was made since the last reading and not logged."""
    if hypothesis.days_since < Tracking.unlogged_least_days:
        return []
    capacity = store.capacity
    anywhere = b.unknown_level(hypothesis.belief, capacity)
    # while the rate is still assumed, a surprise is more likely the crew's way than something forgotten
    chance = Tracking.unlogged_chance * min(1.0, (1 + hypothesis.days_seen) / Tracking.days_to_judge)
    if store.is_bank:
        return [_Other(Tracking.unlogged_bank * chance, anywhere, True)]
    used = abs(float(hypothesis.x_since @ hypothesis.belief.coefficients))
    end = capacity if store.sense is Sense.DRAINS else 0.0
    sd = float(np.hypot(uniform_sd(used), Tracking.unlogged_end_sd * capacity))
    to_end = b.cut_to_ends(b.reset_level(hypothesis.belief, end + store.sign * used / 2, sd), capacity)
    to_the_end = Tracking.unlogged_to_the_end
    return [_Other(to_the_end * chance, to_end, True), _Other((1 - to_the_end) * chance, anywhere, True)]


def _other_habit(hypothesis: Hypothesis, drivers: tuple[str, ...]) -> b.Belief | None:
    """The belief under which use has been another since the last reading."""
    x, coefficients = hypothesis.x_since, hypothesis.belief.coefficients
    spread = np.array(
        [
            Tracking.habit_cv * each if name in _SETTLED_DRIVERS else 0.0
            for name, each in zip(drivers, coefficients, strict=True)
        ]
    )
    if not np.any(spread * np.abs(x)):
        return None
    n = len(hypothesis.belief.mean)
    jump = np.zeros((n, n))
    jump[0, 0] = float(np.sum((x * spread) ** 2))
    jump[0, 1:-1] = jump[1:-1, 0] = x * spread**2
    jump[range(1, n - 1), range(1, n - 1)] = spread**2
    return b.Belief(hypothesis.belief.mean, hypothesis.belief.cov + jump)
