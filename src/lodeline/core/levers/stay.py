"""Stay until: the chance as things are, and the smallest set of levers that reaches a wanted one."""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import replace
from itertools import combinations

import numpy as np

from lodeline.core.figures import Levers
from lodeline.core.forecast.bank_paths import Bank
from lodeline.core.forecast.change import Change
from lodeline.core.levers.lever import Lever
from lodeline.core.levers.weigh import Joint
from lodeline.core.statistics import Truths
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS


@dataclass(frozen=True, slots=True)
class AddedLever:
    """A lever of the set, and the chance once it is added to those before it."""

    lever: Lever
    p_stay: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Stay:
    """The answer. ``needs``: the set, in the order in which it helps, with ``p_stay_with`` at its end."""

    p_stay: float
    needs: tuple[AddedLever, ...]
    p_stay_with: float
    feasible: bool


class _Held:
    """Which paths of each store hold until the time, with a set of levers; a set that touches a store once.

    A bank is walked hour by hour, so it is asked last, and not where all that helps it, pulled at once, would not
    matter.
    """

    def __init__(self, joint: Joint, until_h: float) -> None:
        self._joint, self._until_h = joint, until_h
        self._known: dict[tuple[str, frozenset[str]], Truths] = {}
        self._banks = {
            id: _until(draws, until_h, joint) for id, draws in joint.draws.items() if isinstance(draws, Bank)
        }
        self._stores = sorted(joint.draws, key=lambda id: id in self._banks)
        self._helping: dict[str, dict[str, Lever]] = {bank: {} for bank in self._banks}

    def among(self, levers: Iterable[Lever]) -> None:
        """Say which levers sets are made of from now on."""
        self._helping = {
            bank: {each.id: each for each in levers if bank in each.changes and _never_worse(each.changes[bank])}
            for bank in self._banks
        }

    def chance(self, levers: Sequence[Lever], above: float = -1.0) -> float:
        """The chance that every store holds; where it is not more than ``above``, a number that is not either."""
        every = np.ones(self._joint.ahead.n_paths, dtype=bool)
        for store in self._stores:
            if store in self._banks:
                most = every & self._at_most(store, levers)
                if float(most.mean()) <= above or not most.any():
                    return float(most.mean())
            every &= self._of(store, levers)
        return float(every.mean())

    def fails(self, store: str) -> bool:
        """Whether a store does not hold on some path, as things are."""
        return not bool(self._of(store, ()).all())

    def _at_most(self, bank: str, levers: Sequence[Lever]) -> Truths:
        """The paths of a bank that a set may hold, at most."""
        if self._only_helps(bank, levers):
            return self._of(bank, list(self._helping[bank].values()))
        return np.ones(self._joint.ahead.n_paths, dtype=bool)

    def _only_helps(self, bank: str, levers: Sequence[Lever]) -> bool:
        return all(lever.id in self._helping[bank] for lever in levers if bank in lever.changes)

    def _of(self, store: str, levers: Sequence[Lever]) -> Truths:
        mine = [lever for lever in levers if store in lever.changes]
        key = (store, frozenset(lever.id for lever in mine))
        if key not in self._known:
            self._known[key] = self._of_bank(store, mine) if store in self._banks else self._of_tank(store, mine)
        return self._known[key]

    def _of_tank(self, store: str, levers: Sequence[Lever]) -> Truths:
        return self._joint.times(store, levers) > self._until_h / HOURS

    def _of_bank(self, bank: str, levers: Sequence[Lever]) -> Truths:
        if 0 < len(levers) < len(self._helping[bank]) and self._only_helps(bank, levers):
            least, most = self._of(bank, ()), self._at_most(bank, levers)
            if np.array_equal(least, most):
                return least
        return self._banks[bank](self._joint.change_of(bank, levers))


def _never_worse(change: Change) -> bool:
    """Whether a change takes nothing from a bank in any hour. The more goes in, the more is in it at any hour after."""
    takes = [each for each in (change.audit, change.draw) if each is not None]
    brings = [each for each in (change.sun, change.push) if each is not None]
    return (
        change.store is None and all((each <= 0).all() for each in takes) and all((each >= 0).all() for each in brings)
    )


def _until(bank: Bank, until_h: float, joint: Joint) -> Callable[[Change], Truths]:
    """What says which paths of a bank hold until a time with a change: the dates after it are not walked."""
    n_dates = min(len(bank.ahead.days), int((bank.ahead.hour + until_h) // HOURS) + 1)
    early = bank.until(n_dates)

    def held(change: Change) -> Truths:
        level, hourly = early.hourly(_first_dates(change, n_dates))
        store = change.store or bank.tracked.store
        rows = max(1, int(np.ceil(until_h)))
        above: Truths = (hourly[:rows].min(axis=0) > store.line_level) & (level > store.line_level)
        return above

    return held


def _first_dates(change: Change, n_dates: int) -> Change:
    cut = {
        name: value[:n_dates]
        for name in ("audit", "sun", "push", "draw")
        if (value := getattr(change, name)) is not None
    }
    return replace(change, **cut)


def stay(joint: Joint, levers: Iterable[Lever], until_h: float, wanted: float) -> Stay:
    """The smallest set of levers, by their hardship, that reaches the wanted chance to stay.

    Every set of up to three is tried; where none of them reaches it, the best is added to as long as that helps.
    ``until_h``: the end of the stay, in day hours from now; levers that the crew never pulls, or would have to buy, are
    left out, and so are those that touch no store that may fail.
    """
    held = _Held(joint, until_h)
    p_now = held.chance(())
    if p_now >= wanted:
        return Stay(p_stay=p_now, needs=(), p_stay_with=p_now, feasible=True)
    failing = {store for store in joint.draws if held.fails(store)}
    able = [
        lever
        for lever in levers
        if lever.hardship is not None
        and not lever.kind.bought
        and any(touch.helps and touch.store in failing for touch in lever.touches)
    ]
    held.among(able)
    chosen, p = _chosen(held, able, p_now, wanted)
    return Stay(p_stay=p_now, needs=_in_order(held, chosen), p_stay_with=p, feasible=p >= wanted)


def _chosen(held: _Held, able: Sequence[Lever], p_now: float, wanted: float) -> tuple[Sequence[Lever], float]:
    """The easiest set of up to three that reaches the chance, or else the best one, added to as long as that helps."""
    easiest: tuple[Sequence[Lever], float] | None = None
    best: tuple[Sequence[Lever], float] = (), p_now
    for n in range(1, Levers.most_together + 1):
        for each in combinations(able, n):
            if not _go_together(each) or (easiest is not None and _ease(each, 1.0) >= _ease(*easiest)):
                continue
            p = held.chance(each, above=best[1])
            if p >= wanted and (easiest is None or _ease(each, p) < _ease(*easiest)):
                easiest = each, p
            if easiest is None and p > best[1]:
                best = each, p
    return easiest or _greedily(held, able, *best, wanted)


def _go_together(levers: Sequence[Lever]) -> bool:
    groups = [lever.kind.group for lever in levers if lever.kind.group]
    return len(groups) == len(set(groups))


def _ease(levers: Sequence[Lever], p_stay: float) -> tuple[int, int, float]:
    """Sets in order: the least hardship, then the fewest levers, then the best chance."""
    return sum(lever.hardship or 0 for lever in levers), len(levers), -p_stay


def _greedily(
    held: _Held, able: Sequence[Lever], best: Sequence[Lever], p_best: float, wanted: float
) -> tuple[tuple[Lever, ...], float]:
    """Add the lever that brings most for its hardship, until the chance is reached or nothing helps."""
    chosen = tuple(best)
    while p_best < wanted and len(chosen) < Levers.most_set:
        more = [lever for lever in able if lever not in chosen and _go_together((*chosen, lever))]
        tried = [(held.chance((*chosen, lever)), lever) for lever in more]
        tried = [(p, lever) for p, lever in tried if p > p_best]
        if not tried:
            break
        p_best, added = max(tried, key=lambda each: each[0])
        chosen = (*chosen, added)
    return chosen, p_best


def _in_order(held: _Held, levers: Sequence[Lever]) -> tuple[AddedLever, ...]:
    """A set in the order in which it helps: each time the lever that brings most with those before it."""
    steps: list[AddedLever] = []
    left = list(levers)
    while left:
        before = [step.lever for step in steps]
        p, added = max(((held.chance([*before, lever]), lever) for lever in left), key=lambda each: each[0])
        steps.append(AddedLever(added, p))
        left.remove(added)
    return tuple(steps)
