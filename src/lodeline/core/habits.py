"""What a crew uses water for on a usual day: as it said itself, or by common practice; and which tank takes it."""

from collections.abc import Callable

import numpy as np

from lodeline.core.catalogue import ACTIVITIES, Activity, Each, Outlet, Role, Toilet
from lodeline.core.figures import Use, Water
from lodeline.core.rig import Rig, Store
from lodeline.core.values import dataclass

_FLUSH, _SHOWER = "flush", "shower"
# What everybody does, whether or not it was said.
_ALWAYS = ("drink", "hands", "pets", _FLUSH)
_OUTLETS = frozenset({Outlet.SINK, Outlet.SHOWER})


@dataclass(frozen=True, slots=True, kw_only=True)
class Taken:
    """An activity of this crew: how often a day all together, what one takes, and the error of that. [L]

    ``said``: whether the crew said so itself; ``not_on``: weekdays on which it is done ashore.
    """

    activity: Activity
    per_day: float
    each_l: float
    each_sd_l: float
    said: bool
    not_on: frozenset[int] = frozenset()

    @property
    def day_l(self) -> float:
        """What it takes on a usual day. [L/day]"""
        return self.per_day * self.each_l

    @property
    def day_sd_l(self) -> float:
        """Its error: of the amount, and of how often. [L/day]"""
        often = 0.0 if self.activity.id in _ALWAYS else Water.often_sd
        return float(np.hypot(self.per_day * self.each_sd_l, often * self.day_l))


def flushed_l(rig: Rig) -> float:
    """What an adult flushes, where a toilet with water is aboard. [L/day]"""
    if rig.first(Role.FLUSHED) is not None:
        return Use.flushed_l
    has_cassette = any(store.kind.toilet is Toilet.CASSETTE for store in rig.stores)
    return Use.cassette_flushed_l if has_cassette else 0.0


def flush_tank(rig: Rig) -> Store | None:
    """The tank that a toilet is flushed from, where that is not the fresh tank: a small second one."""
    small = [s for s in rig.every(Role.WATER) if s.capacity <= Use.flush_tank_l]
    apart = [each for each in small if each is not rig.first(Role.WATER)]
    return apart[0] if apart and flushed_l(rig) else None


def usual_activities(rig: Rig) -> tuple[Taken, ...]:
    """What this crew uses water for, from the fresh tanks: as it said, the rest by common practice.

    Where it said nothing, showers and dishes are those of common practice; where it said something, what it did not
    name is not done, apart from what everybody does.
    """
    said = {each.activity.id: each for each in rig.habits}
    found = []
    for activity in ACTIVITIES.values():
        habit = said.get(activity.id)
        each_l, each_sd = _each(rig, activity)
        per_day = activity.per_day * _of_whom(rig, activity)
        if habit is not None:
            per_day = habit.usual_per_day
            each_l, each_sd = (habit.each_l, each_sd * habit.each_l / each_l) if habit.each_l else (each_l, each_sd)
        elif said and activity.id not in _ALWAYS:
            continue
        if activity.id == _FLUSH and (not flushed_l(rig) or flush_tank(rig) is not None):
            continue
        if per_day > 0:
            found.append(
                Taken(
                    activity=activity,
                    per_day=per_day,
                    each_l=each_l,
                    each_sd_l=each_sd,
                    said=habit is not None,
                    not_on=habit.not_on if habit else frozenset(),
                )
            )
    return tuple(found)


def _of_whom(rig: Rig, activity: Activity) -> float:
    match activity.each:
        case Each.PERSON:
            return rig.crew.adult_equivalents
        case Each.PET:
            return float(rig.crew.pets)
        case Each.CREW:
            return 1.0


def _each(rig: Rig, activity: Activity) -> tuple[float, float]:
    """What one takes and its error; a flush by the toilet that is aboard, a shower of which nobody said how. [L]"""
    if activity.id == _SHOWER and not rig.habits:
        return Use.shower_l, Use.shower_sd_l
    if activity.id != _FLUSH:
        return activity.each_l, activity.each_sd_l
    each = flushed_l(rig) / activity.per_day
    return each, each * activity.each_sd_l / activity.each_l


def taken_l(rig: Rig) -> float:
    """Fresh water of a usual day, by what the crew said of itself. [L/day]"""
    return sum(each.day_l for each in usual_activities(rig))


def outlets(rig: Rig, store: Store) -> frozenset[Outlet]:
    """What drains into a grey tank: as said, else the sink and the shower."""
    return store.takes or _OUTLETS


def to_grey(rig: Rig, store: Store, activity: Activity) -> float:
    """The part of an activity's water that ends in a grey tank."""
    if activity.outlet not in outlets(rig, store):
        return 0.0
    return activity.to_grey * (1.0 if store.takes else _split(rig, store, _unsaid))


def _unsaid(store: Store) -> bool:
    return not store.takes


def fresh_share(rig: Rig, store: Store) -> float:
    """The part of the crew's water that comes from one of several fresh tanks: by what they hold."""
    return _split(rig, store, lambda each: each is not flush_tank(rig))


def _split(rig: Rig, store: Store, counts: Callable[[Store], bool]) -> float:
    alike = [each for each in rig.every(store.kind.role) if counts(each)]
    return store.capacity / sum(each.capacity for each in alike) if store in alike else 1.0


def grey_share(rig: Rig, store: Store) -> float:
    """The part of what drains by sink and shower that ends in one of several grey tanks."""
    every = [each for each in usual_activities(rig) if each.activity.outlet in _OUTLETS]
    whole = sum(each.day_l * each.activity.to_grey for each in every)
    mine = sum(each.day_l * to_grey(rig, store, each.activity) for each in every)
    return mine / whole if whole > 0 else 1.0


def besides_l(rig: Rig, store: Store) -> float:
    """What else runs into a grey tank that no tap gave: urine, or a toilet plumbed into it. [L/day]"""
    people = rig.crew.adult_equivalents
    if Outlet.TOILET in store.takes:
        return people * (Use.urine_l + (flushed_l(rig) if flush_tank(rig) else 0.0))
    return people * Use.urine_l if Outlet.URINE in store.takes else 0.0
