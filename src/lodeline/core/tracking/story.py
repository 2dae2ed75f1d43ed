"""One account of what happened to a store. Where a reading hardly fits, several are kept until the log decides."""

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from datetime import datetime

import numpy as np

from lodeline.core.energy.sun import Floats
from lodeline.core.log import Reading
from lodeline.core.tracking import belief as b

# Worth, in readings, of the usual day-to-day spread against what the log shows.
SPREAD_PRIOR = 8.0


@dataclass(frozen=True, slots=True)
class Point:
    """The level as known at one time, and what moved it there: use, reading or event.

    A reading or an event leaves two points at the same time, before and after it.
    """

    at: datetime
    level: float
    sd: float
    cause: str = "use"


@dataclass(frozen=True, slots=True)
class Doubt:
    """Something in the log that hardly fits.

    ``kind``: reading; rise or fall (a step with nothing logged); stuck (a gauge that does not move);
    over (waste water that grows faster than fresh water is used).
    """

    at: datetime
    store: str
    kind: str
    reading: Reading
    expected: float
    expected_sd: float
    amount: float = 0.0


@dataclass(frozen=True, slots=True)
class Seen:
    """A reading against what was expected before it, in contents. ``resets`` counts the fills and dumps before it."""

    at: datetime
    method: str
    expected: float
    expected_sd: float
    value: float | None
    mark: float | None
    resets: int


@dataclass(slots=True)
class Story:
    """A running account: the belief, and what it takes for granted.

    ``log_weight`` is the account's log probability, up to a constant shared by all of a store's accounts;
    ``x_since`` what each driver has moved since the last reading that was believed, shape (k,).
    """

    belief: b.Belief
    x_since: Floats
    log_weight: float = 0.0
    doubts: tuple[Doubt, ...] = ()
    history: list[Point] = field(default_factory=list)
    spread_sum: float = SPREAD_PRIOR
    spread_weight: float = SPREAD_PRIOR
    process_var: float = 0.0
    days_since: float = 0.0
    days_seen: float = 0.0
    throttled: bool = False
    sky_sum: float = SPREAD_PRIOR
    sky_weight: float = SPREAD_PRIOR

    @property
    def sky_spread(self) -> float:
        """Spread of yields under one sky word against the usual one."""
        return float(np.clip(np.sqrt(self.sky_sum / self.sky_weight), 0.6, 2.0))

    def learn_sky(self, squared: float, own: float) -> None:
        """Take in a yield's squared miss over its variance; ``own`` is the sky's share of that variance."""
        weight = own**2
        self.sky_sum += weight * min(squared, 5.0) * self.sky_spread**2
        self.sky_weight += weight

    @property
    def spread(self) -> float:
        """Day-to-day spread against the usual one."""
        return float(np.clip(np.sqrt(self.spread_sum / self.spread_weight), 0.7, 1.8))

    def mark(self, at: datetime, cause: str = "use") -> None:
        """Write the level down."""
        self.history.append(Point(at, self.belief.level, self.belief.sd, cause))

    def branch(self, log_chance: float, belief: b.Belief, doubt: Doubt | None = None) -> "Story":
        """Another account that shares the past of this one."""
        doubts = (*self.doubts, doubt) if doubt else self.doubts
        return replace(
            self, log_weight=self.log_weight + log_chance, belief=belief, doubts=doubts, history=list(self.history)
        )

    def settle(self) -> None:
        """A reading was believed, or the level set anew: what lay before it is accounted for."""
        self.x_since = np.zeros_like(self.x_since)
        self.process_var = 0.0
        self.days_since = 0.0


MOST_STORIES = 4
_TOO_UNLIKELY = np.log(400.0)


def prune(stories: list[Story]) -> list[Story]:
    """The likeliest accounts, the best first, with weights relative to it."""
    ordered = sorted(stories, key=lambda story: -story.log_weight)
    best = ordered[0].log_weight
    kept = [story for story in ordered[:MOST_STORIES] if best - story.log_weight < _TOO_UNLIKELY]
    for story in kept:
        story.log_weight -= best
    return kept


def blended(stories: list[Story]) -> b.Belief:
    """One belief with the mean and covariance of all accounts together."""
    if len(stories) == 1:
        return stories[0].belief
    weights = np.exp([story.log_weight for story in stories])
    weights /= weights.sum()
    mean = sum(w * story.belief.mean for w, story in zip(weights, stories, strict=True))
    cov = np.zeros_like(stories[0].belief.cov)
    for w, story in zip(weights, stories, strict=True):
        apart = story.belief.mean - mean
        cov += w * (story.belief.cov + np.outer(apart, apart))
    return b.Belief(np.asarray(mean), cov)


def believed_doubts(stories: list[Story], share: Callable[[Doubt], float]) -> tuple[Doubt, ...]:
    """What hardly fits, in time order: each reading that accounts with enough of the weight doubt.

    ``share`` says how much of the weight is enough for a doubt.
    Where accounts differ on what happened, the likeliest of those that doubt it speaks.
    """
    weights = np.exp([story.log_weight for story in stories])
    weights /= weights.sum()
    said: dict[Reading, Doubt] = {}
    weight: dict[Reading, float] = {}
    for w, story in zip(weights, stories, strict=True):
        for doubt in story.doubts:
            said.setdefault(doubt.reading, doubt)
            weight[doubt.reading] = weight.get(doubt.reading, 0.0) + float(w)
    return tuple(sorted((d for r, d in said.items() if weight[r] >= share(d)), key=lambda doubt: doubt.at))


def smoothed(history: tuple[Point, ...]) -> tuple[Point, ...]:
    """The past as it looks with what was read later: a backward pass over the level alone.

    Rauch, Tung and Striebel's smoother for a level that moves by independent steps: what a later reading corrected
    goes back in the ratio of the variances. It stops at fills and dumps, before which nothing later says anything.
    """
    if not history:
        return ()
    found = [history[-1]]
    for index in range(len(history) - 2, -1, -1):
        point, following, later = history[index], history[index + 1], found[-1]
        if following.cause == "event":
            found.append(point)
        elif following.cause == "reading":
            found.append(replace(point, level=later.level, sd=later.sd))
        else:
            gain = min(1.0, point.sd**2 / max(following.sd**2, 1e-12))
            variance = point.sd**2 + gain**2 * (later.sd**2 - following.sd**2)
            level = point.level + gain * (later.level - following.level)
            found.append(replace(point, level=level, sd=float(np.sqrt(max(variance, 1e-12)))))
    return tuple(reversed(found))
