"""How the array has done: sun offered against sun taken, performance ratio, and since when it is weak."""

from collections.abc import Mapping, Sequence
from datetime import date
from enum import StrEnum

import numpy as np

from lodeline.core.catalogue import SkyWord
from lodeline.core.energy.skies import N_WORDS, SHARES, WORDS
from lodeline.core.figures import Energy
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class YieldDay:
    """One logged date. ``clear_wh``: a clear sky's yield at starting strength; ``taken_wh``: the yield logged, None
    where it was not; ``full``: the bank was full, so the yield is a lower bound; ``reference_h`` of a clear sky."""

    date: date
    sky: SkyWord | None
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


class WeakCause(StrEnum):
    """What may make an array weak."""

    SHADE = "shade"
    SNOW = "snow"
    DIRT = "dirt"
    FAULT = "fault"
    CONTROLLER = "controller"


@dataclass(frozen=True, slots=True)
class Weakness:
    """Clear days since ``since`` give ``share`` of what clear days before gave."""

    since: date
    share: float
    causes: tuple[WeakCause, ...]


def offered_wh(day: YieldDay, strength: Mapping[SkyWord, float], usual: Sequence[float]) -> float:
    """What the sun offered on a date by its sky word, with the learned strength under each word. [Wh]"""
    factors = np.array([strength[word] for word in WORDS]) * SHARES
    chance = np.array(usual) if day.sky is None else np.eye(N_WORDS)[WORDS.index(day.sky)]
    return float(day.clear_wh * (chance @ factors))


def weakness(days: Sequence[YieldDay]) -> Weakness | None:
    """Since when clear days fall well below what the array has shown before; None where they do not.

    Only clear days on which the bank was not full count. The latest change is sought that leaves three days after
    it with a median under 0.8 of the median of the four or more before.
    """
    clear = [day for day in days if day.sky is SkyWord.CLEAR and not day.full and day.share is not None]
    best: tuple[float, int] | None = None
    for cut in range(Energy.weak_before_days, len(clear) - Energy.weak_after_days + 1):
        before = float(np.median([day.share for day in clear[:cut] if day.share is not None]))
        after = [day.share for day in clear[cut:] if day.share is not None]
        ratio = float(np.median(after)) / before
        every_day = max(after) < Energy.weak_every_day * before
        if ratio < Energy.weak and every_day and (best is None or ratio < best[0]):
            best = (ratio, cut)
    if best is None:
        return None
    ratio, cut = best
    return Weakness(clear[cut].date, ratio, _causes(clear[:cut], clear[cut:]))


def _causes(before: Sequence[YieldDay], after: Sequence[YieldDay]) -> tuple[WeakCause, ...]:
    places = {day.place for day in before}
    causes = []
    if all(day.place not in places for day in after):
        causes.append(WeakCause.SHADE)
    if any(day.mean_c is not None and day.mean_c < Energy.snow_below_c for day in after):
        causes.append(WeakCause.SNOW)
    return (*causes, WeakCause.DIRT, WeakCause.FAULT, WeakCause.CONTROLLER)
