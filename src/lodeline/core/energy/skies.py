"""Sky words: what each leaves of a clear day's yield, how often it comes, how long it stays."""

from collections.abc import Sequence
from itertools import pairwise

import numpy as np

from lodeline.core.catalogue import SkyWord
from lodeline.core.figures import Energy, Numeric
from lodeline.core.statistics import Floats
from lodeline.core.values import dataclass

WORDS = tuple(SkyWord)
N_WORDS = len(WORDS)
# Share of clear-sky yield under each word, its day-to-day spread, and days' worth of a common mix; shapes (4,).
SHARES: Floats = np.array(Energy.sky_shares)
SPREADS: Floats = np.array(Energy.sky_spreads)
PRIOR: Floats = np.array(Energy.sky_mix_days)
_WEEK = 7


@dataclass(frozen=True, slots=True)
class SkyHabit:
    """How often each word comes, shape (4,), and the chance that a sky stays as it was, apart from luck.

    ``days`` is how many independent days the chances are worth: skies that stay tell less than their number.
    """

    chance: tuple[float, ...]
    stays: float
    days: float = float(PRIOR.sum())

    @property
    def share(self) -> float:
        """Expected share of clear-sky yield on a day of unknown sky."""
        return float(np.array(self.chance) @ SHARES)


def sky_habit(words: Sequence[SkyWord]) -> SkyHabit:
    """What the skies logged of late (oldest first) say, with common weights added."""
    recent = [WORDS.index(word) for word in words[-Energy.sky_recent :]]
    counts = PRIOR + np.bincount(recent, minlength=N_WORDS)[:N_WORDS]
    chance = counts / counts.sum()
    by_luck = float(chance @ chance)
    before, worth_pairs = Energy.sky_stays, Energy.sky_stays_pairs
    same = sum(a == b for a, b in pairwise(recent))
    pairs = max(0, len(recent) - 1)
    seen = (same / pairs - by_luck) / (1 - by_luck) if pairs else before
    stays = (before * worth_pairs + seen * pairs) / (worth_pairs + pairs)
    stays = float(np.clip(stays, Energy.sky_stays_least, Energy.sky_stays_most))
    weight = float(PRIOR.sum()) + len(recent) * (1 - stays) / (1 + stays)
    return SkyHabit(tuple(float(each) for each in chance), stays, weight)


def expected_words(word: SkyWord | None, habit: SkyHabit, days_ahead: int = 0) -> Floats:
    """Chance of each word on a day for which ``word`` was logged or is expected. Shape (4,).

    A logged word is sure. An expected one comes true less often the further ahead it lies; else a neighbour comes.
    """
    if word is None:
        return np.array(habit.chance)
    at = WORDS.index(word)
    if days_ahead <= 0:
        sure: Floats = np.eye(N_WORDS)[at]
        return sure
    first, week = Energy.word_right, Energy.word_right_week
    right = max(week, first - (first - week) * (days_ahead - 1) / (_WEEK - 1))
    neighbours = [each for each in (at - 1, at + 1) if 0 <= each < N_WORDS]
    chance = np.zeros(N_WORDS)
    chance[at] = right
    chance[neighbours] = (1 - right) / len(neighbours)
    return chance


def draw_chances(habit: SkyHabit, n: int, rng: np.random.Generator) -> Floats:
    """Chances as they may truly be, from a Dirichlet distribution around the habit. Shape (4, n)."""
    weights = rng.standard_gamma(np.array(habit.chance)[:, None] * habit.days, size=(N_WORDS, n))
    drawn: Floats = weights / np.maximum(weights.sum(axis=0), Numeric.tiny_variance)
    return drawn


def mixture_spread(chance: Floats, shares: Floats, spreads: Floats) -> float:
    """Standard deviation of the share of clear-sky yield when the word is not known. Shapes (4,)."""
    mean = float(chance @ shares)
    square = float(chance @ (shares**2 * (1 + spreads**2)))
    return float(np.sqrt(max(square - mean**2, Numeric.tiny)))
