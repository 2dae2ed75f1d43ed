"""Sky words: what each leaves of a clear day's yield, how often it comes, how long it stays."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from lodeline.core.energy.figures import figure
from lodeline.core.energy.sun import Floats

WORDS = ("clear", "mixed", "overcast", "wet")
# Share of clear-sky yield under each word, shape (4,).
SHARES: Floats = np.array([figure(f"sky_{word}") for word in WORDS])
# Day-to-day spread under one word, as a share of its yield; the log teaches it. Common practice.
SPREADS: Floats = np.array([0.08, 0.25, 0.40, 0.46])
# How often each sky comes where nothing was logged (invented, a mild temperate mix), in days' worth.
PRIOR: Floats = np.array([3.0, 4.0, 2.0, 1.0])
_RECENT_WORDS = 30
_PRIOR_PAIRS = 15.0


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


def sky_habit(words: Sequence[str]) -> SkyHabit:
    """What the skies logged of late (oldest first) say, with common weights added."""
    recent = [WORDS.index(word) for word in words[-_RECENT_WORDS:] if word in WORDS]
    counts = PRIOR + np.bincount(recent, minlength=4)[:4]
    chance = counts / counts.sum()
    by_luck = float(chance @ chance)
    before = figure("sky_stays")
    same = sum(a == b for a, b in pairwise(recent))
    pairs = max(0, len(recent) - 1)
    seen = (same / pairs - by_luck) / (1 - by_luck) if pairs else before
    stays = (before * _PRIOR_PAIRS + seen * pairs) / (_PRIOR_PAIRS + pairs)
    stays = float(np.clip(stays, 0.1, 0.9))
    worth = float(PRIOR.sum()) + len(recent) * (1 - stays) / (1 + stays)
    return SkyHabit(tuple(float(each) for each in chance), stays, worth)


NO_HABIT = sky_habit(())


def expected_words(word: str | None, habit: SkyHabit, days_ahead: int = 0) -> Floats:
    """Chance of each word on a day for which ``word`` was logged or is expected. Shape (4,).

    A logged word is sure. An expected one comes true less often the further ahead it lies; else a neighbour comes.
    """
    if word not in WORDS:
        return np.array(habit.chance)
    at = WORDS.index(word)
    if days_ahead <= 0:
        sure: Floats = np.eye(4)[at]
        return sure
    first, week = figure("word_right"), figure("word_right_week")
    right = max(week, first - (first - week) * (days_ahead - 1) / 6)
    neighbours = [each for each in (at - 1, at + 1) if 0 <= each < 4]
    chance = np.zeros(4)
    chance[at] = right
    chance[neighbours] = (1 - right) / len(neighbours)
    return chance


def draw_chances(habit: SkyHabit, n: int, rng: np.random.Generator) -> Floats:
    """Chances as they may truly be, from a Dirichlet distribution around the habit. Shape (4, n)."""
    weights = rng.standard_gamma(np.array(habit.chance)[:, None] * habit.days, size=(4, n))
    drawn: Floats = weights / np.maximum(weights.sum(axis=0), 1e-12)
    return drawn


def mixture_spread(chance: Floats, shares: Floats, spreads: Floats) -> float:
    """Standard deviation of the share of clear-sky yield when the word is not known. Shapes (4,)."""
    mean = float(chance @ shares)
    square = float(chance @ (shares**2 * (1 + spreads**2)))
    return float(np.sqrt(max(square - mean**2, 1e-9)))
