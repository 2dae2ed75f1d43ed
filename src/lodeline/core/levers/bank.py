"""What would help a bank: every lever that touches it, on the paths that its forecast is made of."""

from collections.abc import Iterable
from dataclasses import replace

import numpy as np

from lodeline.core.figures import Forecasting
from lodeline.core.forecast.bank_paths import Bank, draw_bank
from lodeline.core.forecast.change import Change
from lodeline.core.forecast.energy_ahead import EnergyAhead, summary
from lodeline.core.levers.agreed import Together
from lodeline.core.levers.lever import Lever
from lodeline.core.rig import Store
from lodeline.core.tracking.belief import BIAS, Belief
from lodeline.core.tracking.hypothesis import Possible
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Helped:
    """A lever, and the bank's outlook without it and with it."""

    lever: Lever
    before: EnergyAhead
    after: EnergyAhead

    @property
    def has_effect(self) -> bool:
        """Whether it brings anything worth saying."""
        return (
            _beyond(self.after.p50_days) - _beyond(self.before.p50_days) > Forecasting.effect_days
            or self.after.hold - self.before.hold > Forecasting.effect_hold
            or self.after.low.p50 - self.before.low.p50 > Forecasting.effect_low
        )


def _beyond(days: float | None) -> float:
    """Days left as a number; None lies beyond any horizon, 0 is now."""
    return Forecasting.beyond_days if days is None else days


def what_helps(together: Together, bank: str) -> list[Helped]:
    """Every lever that helps a bank, by the days that are left with it, then by the low."""
    joint, known = together.joint, together.aboard.known
    draws = draw_bank(joint.ahead, known.tracked[bank], known.scale_of(bank))
    before = _outlook(draws, joint.change_of(bank, ()))
    helped = [
        Helped(lever=lever, before=before, after=_outlook(draws, joint.change_of(bank, [lever])))
        for lever in _helping(together.levers, bank)
    ]
    return sorted(helped, key=lambda one: (-_beyond(one.after.p50_days), -one.after.low.p50))


def _helping(levers: Iterable[Lever], bank: str) -> list[Lever]:
    return [lever for lever in levers if any(touch.store == bank and touch.helps for touch in lever.touches)]


def _outlook(draws: Bank, change: Change) -> EnergyAhead:
    tracked = draws.tracked if change.store is None else _resized(draws.tracked, change.store)
    return summary(draws.ahead, tracked, draws.paths(change))


def _resized(tracked: Tracked, store: Store) -> Tracked:
    """The same state of charge in a bank of another size."""
    scale = np.ones(len(tracked.belief.mean))
    scale[0] = scale[BIAS] = store.capacity / tracked.store.capacity

    def resized(belief: Belief) -> Belief:
        return Belief(belief.mean * scale, belief.cov * np.outer(scale, scale))

    parts = tuple(Possible(part.weight, resized(part.belief)) for part in tracked.parts)
    return replace(tracked, store=store, belief=resized(tracked.belief), parts=parts)
