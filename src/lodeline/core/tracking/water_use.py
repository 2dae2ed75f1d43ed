"""What is expected of a fresh and of a grey tank: the water of a crew, by what it is used for."""

from dataclasses import replace

import numpy as np

from lodeline.core.catalogue import ACTIVITIES, DAY_KINDS, DayKind, Driver, Outlet, Role
from lodeline.core.figures import Use, Water
from lodeline.core.habits import (
    besides_l,
    flush_tank,
    flushed_l,
    fresh_share,
    grey_share,
    outlets,
    taken_l,
    to_grey,
    usual_activities,
)
from lodeline.core.rig import Rig, Store
from lodeline.core.statistics import Floats
from lodeline.core.tracking.day_kinds import KnownDayKinds
from lodeline.core.tracking.model import UseModel


def of_visits(day_cv: float, each_cv: float, people: float) -> float:
    """Spread of days made of visits: what a day has in common, and each person's own, which averages out."""
    return float(np.hypot(day_cv, each_cv / np.sqrt(max(people, 1.0))))


def _careful(expected: float, capacity: float) -> float:
    """Expected use, drawn a little toward what the tank allows: small tanks make careful people. [unit/day]"""
    days = capacity / expected
    share = (days / Use.careful_days) ** Use.careful_power
    return expected * float(np.clip(share, Use.careful_least, Use.careful_most))


def fresh_per_day(rig: Rig) -> float:
    """Expected use of fresh water, from all tanks. [L/day]"""
    if rig.habits:
        return taken_l(rig)
    people = rig.crew.adult_equivalents
    flushed = 0.0 if flush_tank(rig) else flushed_l(rig) * people
    expected = Use.fresh_l * people + Use.fresh_pet_l * rig.crew.pets + flushed
    capacity = sum(each.capacity for each in rig.every(Role.WATER) if each is not flush_tank(rig))
    return _careful(expected, capacity) if capacity else expected


def grey_from_fresh(rig: Rig, store: Store, water_l_per_day: float) -> float:
    """Grey water of one tank from the fresh water used by all, less what is drunk and flushed. [L/day]"""
    besides = besides_l(rig, store)
    if rig.habits:
        every = usual_activities(rig)
        mine = sum(each.day_l * to_grey(rig, store, each.activity) for each in every)
        return water_l_per_day * mine / max(sum(each.day_l for each in every), Use.fresh_pet_l) + besides
    flushed = 0.0 if flush_tank(rig) or Outlet.TOILET in store.takes else flushed_l(rig)
    apart = (Use.drunk_l + flushed) * rig.crew.adult_equivalents
    flow = Use.grey_share * max(Use.grey_least_share * water_l_per_day, water_l_per_day - apart)
    return flow * grey_share(rig, store) + besides


def fresh_model(rig: Rig, store: Store, kinds: KnownDayKinds) -> UseModel:
    """What is expected of a fresh tank; with a coefficient for each activity that the log tells apart."""
    share, people = fresh_share(rig, store), rig.crew.adult_equivalents
    needed = Water.survival_l * people * share
    if rig.habits:
        return replace(_by_activity(rig, kinds, dict.fromkeys(ACTIVITIES, share), 0.0, store), needed=needed)
    plain = _plain(fresh_per_day(rig) * share, Use.fresh_cv, of_visits(Use.fresh_day_cv, Use.wash_cv, people), store)
    return _told_apart(replace(plain, needed=needed), kinds, dict.fromkeys(kinds.ids, share))


def grey_model(rig: Rig, store: Store, kinds: KnownDayKinds) -> UseModel:
    """The same of a grey tank, by what drains into it."""
    people = rig.crew.adult_equivalents
    shares = {id: to_grey(rig, store, each) for id, each in ACTIVITIES.items()}
    if rig.habits:
        return _by_activity(rig, kinds, shares, besides_l(rig, store), store)
    flow = grey_from_fresh(rig, store, fresh_per_day(rig))
    plain = _plain(flow, Use.grey_cv, of_visits(Use.grey_day_cv, Use.wash_cv, people), store)
    of_kind = {id: _of_kind(rig, store, id) for id in kinds.ids}
    return _told_apart(plain, kinds, of_kind)


def _of_kind(rig: Rig, store: Store, id: str) -> float:
    """The part of a kind of day's water that reaches a grey tank."""
    activity = ACTIVITIES.get(id)
    if activity is None:
        return Use.grey_of_shower
    return Use.grey_of_shower * float(activity.outlet in outlets(rig, store)) * grey_share(rig, store)


def _plain(mean: float, cv: float, day_cv: float, store: Store) -> UseModel:
    return UseModel(
        drivers=(Driver.PEOPLE,),
        mean=np.array([mean]),
        sd=np.array([mean * cv]),
        day_cv=np.array([day_cv]),
        shared=store.kind.use.shared,
    )


def _extra(kind: DayKind, usual: float, share: float) -> tuple[float, float]:
    """What a kind of day adds, and its error, for a store that takes a share of each event's water."""
    if kind.each_l is None or kind.each_sd_l is None:
        return Use.kind_adds * usual, Use.kind_adds_sd * usual
    return kind.each_l * share, kind.each_sd_l * share


def _told_apart(plain: UseModel, kinds: KnownDayKinds, shares: dict[str, float]) -> UseModel:
    """Water use with a coefficient for each kind of day that the log tells apart; the usual day stays the same."""
    kinds = _of_use(kinds, shares)
    known = [DAY_KINDS[id] for id in kinds.ids]
    if not known:
        return plain
    usual = float(plain.mean[0])
    extra = [_extra(kind, usual, shares[kind.id]) for kind in known]
    often = sum(mean * kind.often for (mean, _), kind in zip(extra, known, strict=True))
    base = max(Use.kind_base_least * usual, usual - often)
    day_cv = np.concatenate([plain.day_cv, np.full(len(extra), Use.kind_day_cv)])
    return replace(
        plain,
        drivers=(Driver.PEOPLE, *kinds.ids),
        mean=np.array([base, *(mean for mean, _ in extra)]),
        sd=np.array([float(plain.sd[0]) * base / usual, *(sd for _, sd in extra)]),
        day_cv=day_cv,
        day_kinds=kinds,
        drift=_drifts(kinds),
    )


def _of_use(kinds: KnownDayKinds, shares: dict[str, float]) -> KnownDayKinds:
    """The kinds of days that reach a tank at all."""
    kept = [i for i, id in enumerate(kinds.ids) if shares.get(id, 1.0) > 0]
    if len(kept) == len(kinds.ids):
        return kinds
    return KnownDayKinds(
        **{name: tuple(getattr(kinds, name)[i] for i in kept) for name in ("ids", "per_day", "not_on")},
        by_habit=kinds.by_habit,
    )


def _drifts(kinds: KnownDayKinds) -> Floats:
    """What one shower takes hardly wanders; how a crew lives otherwise does."""
    return np.array([Use.drift, *(Water.drift if id in ACTIVITIES else Use.drift for id in kinds.ids)])


def _by_activity(rig: Rig, kinds: KnownDayKinds, shares: dict[str, float], besides: float, store: Store) -> UseModel:
    """Water use as a crew said it: each activity that the log tells apart, and the rest in one."""
    every = {each.activity.id: each for each in usual_activities(rig)}
    kinds = _of_use(kinds, shares)
    others = [each for id, each in every.items() if id not in kinds.ids]
    base = besides + sum(each.day_l * shares[each.activity.id] for each in others)
    usual = besides + sum(each.day_l * shares[id] for id, each in every.items())
    var = sum((each.day_sd_l * shares[each.activity.id]) ** 2 for each in others) + (Use.urine_cv * besides) ** 2
    mean, sd, cv = [max(base, _LEAST_L)], [max(float(np.sqrt(var)), _LEAST_L)], [Water.rest_day_cv]
    for id in kinds.ids:
        activity, kind = ACTIVITIES.get(id), DAY_KINDS[id]
        if activity is None:
            add, error = _extra(kind, usual, 1.0)
            mean, sd, cv = [*mean, add], [*sd, error], [*cv, Use.kind_day_cv]
            continue
        each_l, each_sd = activity.each_l, activity.each_sd_l
        if id in every:
            each_l, each_sd = every[id].each_l, every[id].each_sd_l
        mean, sd, cv = [*mean, each_l * shares[id]], [*sd, each_sd * shares[id]], [*cv, Water.each_day_cv]
    day_cv = np.array(cv)
    return UseModel(
        drivers=(Driver.PEOPLE, *kinds.ids),
        mean=np.array(mean),
        sd=np.array(sd),
        day_cv=day_cv,
        shared=store.kind.use.shared,
        day_kinds=kinds,
        drift=_drifts(kinds),
    )


# A tank that nothing is used from still has a rate, so that it can be learned.
_LEAST_L = 0.3
