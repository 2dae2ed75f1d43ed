"""What may have happened when a reading hardly fits: a slip, something that was not logged, another habit."""

from dataclasses import replace

import numpy as np

from lodeline.core.log import Reading
from lodeline.core.rig import Kind, Sense, Store
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.evidence import Evidence
from lodeline.core.tracking.story import Doubt, Story

# Chances before a reading is looked at. Common practice for the slip; the others are set on simulated rigs.
P_SLIP = 0.015
P_UNLOGGED = 0.08
P_HABIT = 0.03
P_NORMAL = 1 - P_SLIP - P_UNLOGGED - P_HABIT
# A fill or dump that nobody logged mostly went to the end of the tank.
_TO_THE_END = 0.8
_HABIT_CV = 0.6
_DAYS_TO_JUDGE = 6.0
# Where the plain account is this likely, no other is opened.
_CLEAR = 0.85
_SETTLED_DRIVERS = frozenset({"people", "load", "night"})


def likelihood(belief: b.Belief, said: Evidence) -> float:
    """Density (a value) or chance (a mark) of a reading under a belief."""
    if said.bands:
        return b.band_posterior(belief.level, max(belief.sd, 1e-6), said.bands)[2]
    row = _row(belief, said)
    spread = float(row @ belief.cov @ row) + said.sd**2
    miss = (said.value or 0.0) - float(row @ belief.mean)
    return float(np.exp(-0.5 * miss**2 / spread) / np.sqrt(2 * np.pi * spread))


def _row(belief: b.Belief, said: Evidence) -> np.ndarray:
    row = np.zeros(len(belief.mean))
    row[0] = 1.0
    row[-1] = 1.0 if said.biased else 0.0
    return row


def believe(belief: b.Belief, said: Evidence) -> b.Belief:
    """The belief after a reading that is taken at its word."""
    if said.bands:
        centre, variance, _ = b.band_posterior(belief.level, max(belief.sd, 1e-6), said.bands)
        return b.set_level_moments(belief, centre, variance)
    return b.kalman_update(belief, _row(belief, said), said.value or 0.0, said.sd**2)


def _learn_spread(story: Story, said: Evidence) -> None:
    """Let the misses tell whether this rig's days differ more or less than is usual."""
    if said.bands or story.process_var <= 0:
        return
    row = _row(story.belief, said)
    variance = float(row @ story.belief.cov @ row) + said.sd**2
    squared = ((said.value or 0.0) - float(row @ story.belief.mean)) ** 2
    weight = min(1.0, story.process_var / variance) ** 2
    story.spread_sum += weight * min(squared / variance, 5.0)
    story.spread_weight += weight


def accounts(store: Store, story: Story, reading: Reading, said: Evidence, drivers: tuple[str, ...]) -> list[Story]:
    """The accounts that a reading leaves open, the plain one first."""
    plain = P_NORMAL * likelihood(story.belief, said)
    slip = P_SLIP * (1.0 / len(said.bands) if said.bands else 1.0 / store.capacity)
    others = _unlogged(store, story, said)
    habit = _other_habit(story, drivers)
    if habit is not None:
        others.append((P_HABIT, habit, False))
    weighed = [(chance * likelihood(belief, said), belief, is_step) for chance, belief, is_step in others]
    total = plain + slip + sum(weight for weight, _, _ in weighed)
    seen = said.value if said.value is not None else _centre(said)
    expected, sd = story.belief.level, story.belief.sd
    doubt = Doubt(reading.at, store.id, "reading", reading, expected, sd, seen - expected)
    found = []
    if plain > _CLEAR * total or total <= 0:
        _learn_spread(story, said)
        return [_kept(story.branch(0.0, believe(story.belief, said)))]
    found.append(_kept(story.branch(float(np.log(max(plain, 1e-300))), believe(story.belief, said))))
    found.append(story.branch(float(np.log(slip)), story.belief, doubt))
    for weight, belief, is_step in weighed:
        if weight < 1e-4 * total:
            continue
        after = believe(belief, said)
        change = after.level - expected
        step = replace(doubt, kind="rise" if change > 0 else "fall", amount=change) if is_step else None
        found.append(_kept(story.branch(float(np.log(weight)), after, step)))
    return found


def _kept(story: Story) -> Story:
    story.days_seen += min(story.days_since, 3.0)
    story.settle()
    return story


def _centre(said: Evidence) -> float:
    low, high, _ = max(said.bands, key=lambda band: band[2])
    return (low + high) / 2


def _unlogged(store: Store, story: Story, said: Evidence) -> list[tuple[float, b.Belief, bool]]:
    """Beliefs under which a fill, dump or charge was made since the last reading and not logged."""
    if story.days_since < 0.02:
        return []
    capacity = store.capacity
    anywhere = b.reset_level(story.belief, capacity / 2, capacity / np.sqrt(12))
    # while the rate is still assumed, a surprise is more likely the crew's way than something forgotten
    chance = P_UNLOGGED * min(1.0, (1 + story.days_seen) / _DAYS_TO_JUDGE)
    if store.kind is Kind.BATTERY:
        return [(0.3 * chance, anywhere, True)]
    used = abs(float(story.x_since @ story.belief.coefficients))
    end = capacity if store.sense is Sense.DRAINS else 0.0
    sd = float(np.hypot(used / np.sqrt(12), 0.04 * capacity))
    to_end = b.cut_to_ends(b.reset_level(story.belief, end + store.sign * used / 2, sd), capacity)
    return [(_TO_THE_END * chance, to_end, True), ((1 - _TO_THE_END) * chance, anywhere, True)]


def _other_habit(story: Story, drivers: tuple[str, ...]) -> b.Belief | None:
    """The belief under which use has been another since the last reading."""
    x, coefficients = story.x_since, story.belief.coefficients
    spread = np.array(
        [_HABIT_CV * c if name in _SETTLED_DRIVERS else 0.0 for name, c in zip(drivers, coefficients, strict=True)]
    )
    if not np.any(spread * np.abs(x)):
        return None
    n = len(story.belief.mean)
    jump = np.zeros((n, n))
    jump[0, 0] = float(np.sum((x * spread) ** 2))
    jump[0, 1:-1] = jump[1:-1, 0] = x * spread**2
    jump[range(1, n - 1), range(1, n - 1)] = spread**2
    return b.Belief(story.belief.mean, story.belief.cov + jump)
