"""What levers bring the whole rig: sets of them on the same paths, only what they touch reckoned anew."""

from collections.abc import Iterable, Mapping
from dataclasses import field

import numpy as np

from lodeline.core.figures import Forecasting
from lodeline.core.forecast.bank_paths import Bank, draw_bank
from lodeline.core.forecast.change import NO_CHANGE, Change, together
from lodeline.core.forecast.forecast import who_is_first
from lodeline.core.forecast.paths import Ahead, Tank, days_left, draw_tank
from lodeline.core.forecast.pool import pooled
from lodeline.core.levers.lever import Aboard, Lever
from lodeline.core.statistics import Floats
from lodeline.core.values import dataclass

Draws = Tank | Bank


@dataclass(frozen=True, kw_only=True)
class Joint:
    """The joint paths of all stores that are served at a stop, and what is changed about them already.

    ``changes``: what is agreed, by store. Line times of a store with a set of levers are reckoned once.
    """

    ahead: Ahead
    draws: Mapping[str, Draws]
    changes: Mapping[str, Change]
    _times: dict[tuple[str, frozenset[str]], Floats] = field(default_factory=dict)

    def change_of(self, store: str, levers: Iterable[Lever]) -> Change:
        """What a set of levers changes about a store, beside what is agreed."""
        mine = [lever.changes[store] for lever in levers if store in lever.changes]
        agreed = self.changes.get(store, NO_CHANGE)
        return together([agreed, *mine]) if mine else agreed

    def times(self, store: str, levers: Iterable[Lever] = ()) -> Floats:
        """When each path of a store meets its line with a set of levers, shape (n_paths,). [day hours' days]"""
        mine = [lever for lever in levers if store in lever.changes]
        key = (store, frozenset(lever.id for lever in mine))
        if key not in self._times:
            self._times[key] = self.draws[store].paths(self.change_of(store, mine)).reached_days
        return self._times[key]

    def all_times(self, levers: Iterable[Lever] = ()) -> dict[str, Floats]:
        """The same of every store, fresh tanks as one."""
        known = {id: each.tracked for id, each in self.draws.items()}
        alone = {store: self.times(store, levers) for store in self.draws}
        return pooled(self.ahead.rig, known, alone, self.ahead.n_days)

    def soonest(self, levers: Iterable[Lever] = ()) -> Floats:
        """When each path meets the first line of any store, shape (n_paths,)."""
        every = list(self.all_times(levers).values())
        return np.min(every, axis=0) if every else np.full(self.ahead.n_paths, np.inf)


def joint(aboard: Aboard, changes: Mapping[str, Change]) -> Joint:
    """Draw every store that is served at a stop and known. The same seed and log give the forecast's own paths."""
    draws: dict[str, Draws] = {}
    ahead = aboard.ahead
    for id, each in aboard.known.stores.items():
        if each.store.sends_nobody:
            continue
        scale = aboard.known.scale_of(id)
        draws[id] = draw_bank(ahead, each, scale) if each.store.is_bank else draw_tank(ahead, each, scale)
    return Joint(ahead=ahead, draws=draws, changes=changes)


@dataclass(frozen=True, slots=True, kw_only=True)
class Weighed:
    """What a lever brings. Days until the first line, 8 in 10, None beyond the horizon; ``p_stay``: the chance to stay
    until the chosen time; ``first``: what then runs out first. ``idle_for``: what runs out first as things are, where
    the lever therefore buys nothing."""

    lever: Lever
    p10_days: float | None
    p50_days: float | None
    p90_days: float | None
    gained_days: float
    p_stay: float | None
    gained_p: float
    first: str | None
    idle_for: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class AsThingsAre:
    """How things stand with no lever pulled beside those agreed."""

    p50_days: float | None
    p_stay: float | None
    first: str | None


def _first(joint: Joint, levers: Iterable[Lever]) -> str | None:
    chance, _ = who_is_first(joint.all_times(levers))
    best = max(chance, key=lambda id: chance[id], default=None)
    return best if best is not None and chance[best] > 0 else None


def _beyond(joint: Joint, times: Floats) -> float:
    """The middle of the first line times, those beyond the horizon at its end. [day]"""
    return float(np.median(np.minimum(times, joint.ahead.n_days)))


def standing(joint: Joint, until_days: float | None) -> AsThingsAre:
    """How things stand. ``until_days``: the chosen time, in day hours' days from now."""
    times = joint.soonest()
    return AsThingsAre(
        p50_days=days_left(joint.ahead, times)[1],
        first=_first(joint, ()),
        p_stay=None if until_days is None else float((times > until_days).mean()),
    )


def weigh(joint: Joint, levers: Iterable[Lever], until_days: float | None) -> list[Weighed]:
    """What each lever brings alone: what helps most first, what brings nothing last."""
    base, now = joint.soonest(), standing(joint, until_days)
    weighed = [_weighed(joint, lever, base, now, until_days) for lever in levers]
    return sorted(weighed, key=lambda each: (each.idle_for is not None, -each.gained_days, -each.gained_p))


def _weighed(joint: Joint, lever: Lever, base: Floats, now: AsThingsAre, until_days: float | None) -> Weighed:
    times = joint.soonest([lever])
    low, middle, high = days_left(joint.ahead, times)
    gained = _beyond(joint, times) - _beyond(joint, base)
    p_stay = None if until_days is None else float((times > until_days).mean())
    gained_p = (p_stay or 0.0) - (now.p_stay or 0.0)
    helps = gained > Forecasting.effect_days or gained_p > Forecasting.effect_hold
    return Weighed(
        lever=lever,
        p10_days=low,
        p50_days=middle,
        p90_days=high,
        gained_days=gained,
        p_stay=p_stay,
        gained_p=gained_p,
        first=_first(joint, [lever]),
        idle_for=None if helps else now.first,
    )
