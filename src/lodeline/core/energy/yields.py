"""How the array has done: sun offered against sun taken, performance ratio, and since when it is weak."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date

import numpy as np

from lodeline.core.energy.skies import SHARES, WORDS

# Clear days needed on each side of a change, and how far the later ones must fall short.
_AFTER, _BEFORE, _WEAK = 3, 4, 0.8


@dataclass(frozen=True, slots=True)
class YieldDay:
    """One logged date. ``clear_wh``: a clear sky's yield at starting strength; ``taken_wh``: the yield logged, None
    where it was not; ``full``: the bank was full, so the yield is a lower bound; ``reference_h`` of a clear sky."""

    date: date
    sky: str | None
    place: str | None
    clear_wh: float
    reference_h: float
    taken_wh: float | None
    full: bool
    mean_c: float | None = None

    @property
    def share(self) -> float | None:
        """Yield taken as a share of the clear sky's at starting strength."""
        return self.taken_wh / self.clear_wh if self.taken_wh is not None and self.clear_wh > 0 else None


@dataclass(frozen=True, slots=True)
class Weakness:
    """Clear days since ``since`` give ``share`` of what clear days before gave."""

    since: date
    share: float
    causes: tuple[str, ...]


def offered_wh(day: YieldDay, strength: Mapping[str, float], usual: Sequence[float]) -> float:
    """What the sun offered on a date by its sky word, with the learned strength under each word. [Wh]"""
    factors = np.array([strength[word] for word in WORDS]) * SHARES
    chance = np.eye(4)[WORDS.index(day.sky)] if day.sky in WORDS else np.array(usual)
    return float(day.clear_wh * (chance @ factors))


def weakness(days: Sequence[YieldDay]) -> Weakness | None:
    """Since when clear days fall well below what the array has shown before; None where they do not.

    Only clear days on which the bank was not full count. The latest change is sought that leaves three days after
    it with a median under 0.8 of the median of the four or more before.
    """
    clear = [day for day in days if day.sky == "clear" and not day.full and day.share is not None]
    best: tuple[float, int] | None = None
    for cut in range(_BEFORE, len(clear) - _AFTER + 1):
        before = float(np.median([day.share for day in clear[:cut] if day.share is not None]))
        after = [day.share for day in clear[cut:] if day.share is not None]
        ratio = float(np.median(after)) / before
        if ratio < _WEAK and max(after) < 0.95 * before and (best is None or ratio < best[0]):
            best = (ratio, cut)
    if best is None:
        return None
    ratio, cut = best
    return Weakness(clear[cut].date, ratio, _causes(clear[:cut], clear[cut:]))


def _causes(before: Sequence[YieldDay], after: Sequence[YieldDay]) -> tuple[str, ...]:
    places = {day.place for day in before}
    causes = []
    if all(day.place not in places for day in after):
        causes.append("shade at this place: trees, a wall, another rig")
    if any(day.mean_c is not None and day.mean_c < 2 for day in after):
        causes.append("snow or frost on the panels")
    causes.append("dirt, leaves or salt: wash them early in the day")
    causes.append("a loose plug, a blown fuse or one panel of several that is out")
    causes.append("a controller that was set anew or is too warm")
    return tuple(causes)
