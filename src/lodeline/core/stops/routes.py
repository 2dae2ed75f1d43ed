"""What a plan of outings loses: the paths on which a store passes its line, of those that some plan could keep."""

from bisect import bisect_left, bisect_right
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import field, replace
from functools import cached_property, reduce
from math import ceil
from operator import or_

from lodeline.core.book import way_h
from lodeline.core.figures import Stops
from lodeline.core.stops.chance import NOW, BankChance, Chance, Excuse, PluggedChance, Push, TankChance
from lodeline.core.stops.outings import Outing
from lodeline.core.stops.setting import Setting, source_amps
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS

_NEVER = 10**6  # more services than there are
_ROUNDED_H = 0.5  # services are counted to the hour


@dataclass(frozen=True, slots=True, kw_only=True)
class Route:
    """A plan in part: its outings, the paths lost so far, when each store was last served, stops, cost and way."""

    outings: tuple[Outing, ...]
    lost: int
    since: tuple[float, ...]
    n_stops: int
    cost: float
    km: float

    @property
    def weight(self) -> tuple[int, float, float]:
        """Of plans of as many outings the one that weighs less is the better: fewer stops, then cost, then way."""
        return self.n_stops, self.cost, self.km


def km_driven(outings: Iterable[Outing], since_h: float, until_h: float) -> float:
    """The way that was driven after one time up to another."""
    return sum(km for each in outings for end_h, km in each.legs if since_h < end_h <= until_h)


@dataclass(frozen=True, kw_only=True)
class Routes:
    """What a search chooses from. ``fixed``: outings that every plan makes; ``limit``: paths that may be lost;
    ``part_of``: where these are but a part, the routes of which."""

    setting: Setting
    options: Sequence[Outing]
    fixed: Sequence[Outing]
    limit: int
    part_of: "Routes | None" = None
    _losses: dict[tuple[tuple[float, ...], float], int] = field(default_factory=dict)
    _bounds: dict[tuple[int, float], int] = field(default_factory=dict)
    _needed: dict[tuple[int, float], int] = field(default_factory=dict)

    def at_limit(self, limit: int) -> "Routes":
        """The same with another limit."""
        return replace(self, limit=limit, _losses=self._losses, _bounds={}, _needed={})

    @cached_property
    def every(self) -> list[Outing]:
        """All outings."""
        return [*self.options, *self.fixed]

    @cached_property
    def earliest(self) -> dict[str, float]:
        """When each store can first be served, by id."""
        found: dict[str, float] = {}
        for outing in self.every:
            for store, at_h in outing.at.items():
                found[store] = min(at_h, found.get(store, at_h))
            if outing.plug:
                at_h = outing.plug_h
                found |= {id: min(at_h, found.get(id, at_h)) for id in self.chance.banks}
        return found

    @cached_property
    def unserved(self) -> frozenset[str]:
        """The stores that no outing serves."""
        if self.part_of is not None:
            return self.part_of.unserved
        return frozenset(self.chance.every) - self.earliest.keys()

    def excuse(self, due_within_h: float) -> int:
        """Leave out from now on what no plan can help; returns the paths on which a store that is not due passes its
        line before anybody can come."""
        early = 0
        for id, each in self.chance.every.items():
            at_h = self.earliest.get(id)
            before = each.before(at_h) if at_h is not None else each.before(0.0)
            hopeless = each.hopeless() if isinstance(each, TankChance) else 0
            if at_h is not None and not each.is_due:
                early |= before
            due_h = at_h + due_within_h if at_h is not None else self.chance.end_h
            each.excused(
                Excuse(n_paths=self.chance.n_paths, is_due=each.is_due, before=before, due_h=due_h, hopeless=hopeless)
            )
        for n, id in enumerate(self.stores):
            self._excuse_later(n, self.chance.every[id])
        self._needed.clear()
        return early

    def _excuse_later(self, n: int, chance: "TankChance | BankChance") -> None:
        """Leave out of a bank what a night plugged in each night does not keep, and of a store that would have to be
        served more often than anybody goes out all but its next service."""
        if isinstance(chance, BankChance):
            later = reduce(or_, (lost for since_h, lost in self._closest(n) if since_h != NOW), 0)
            chance.excused(replace(chance.excuse, later=later))
        if self._is_served_too_often(n):
            chance.excused(replace(chance.excuse, once=True))

    def _is_served_too_often(self, n: int) -> bool:
        """Whether a store would have to be served more often than anybody goes out."""
        times, longest_h = self._service_times[n], HOURS / Stops.most_services
        if self._services(n, NOW) < _NEVER:
            return self._services(n, NOW) >= self.chance.end_h / longest_h
        return bool(times) and not self.keeps(self.plain[n].passed(times[0], times[0] + longest_h))

    def _closest(self, n: int) -> Iterator[tuple[float, int]]:
        """Services of a store whenever it can be served: since which, and the paths that are lost until the next."""
        times = self._service_times[n]
        for since_h, at_h in zip((NOW, *times), (*times, self.chance.end_h), strict=True):
            yield since_h, self.plain[n].passed(since_h, at_h)

    @cached_property
    def _served(self) -> "dict[str, TankChance | PluggedChance]":
        nights = self._nights
        plain = {id: each for id, each in self.chance.plain.items() if id not in self.unserved}
        return plain | {id: PluggedChance(bank=bank, nights=nights) for id, bank in self.chance.banks.items() if nights}

    @cached_property
    def stores(self) -> tuple[str, ...]:
        """What a stop serves and the plan has to keep. A bank that no post charges is not among them: nobody goes out
        to drive it full."""
        return tuple(self._served)

    @cached_property
    def plain(self) -> "tuple[TankChance | PluggedChance, ...]":
        """What passes the line of each of these."""
        return tuple(self._served.values())

    @cached_property
    def starts(self) -> list[float]:
        """When each option begins, in order: where the rig stays at its stops, when one is at the first place."""
        return [self.begins(option) for option in self.options]

    def begins(self, outing: Outing) -> float:
        """When an outing begins, in the order of options."""
        return outing.arrive_h if self.setting.moves else outing.leave_h

    @cached_property
    def _by_time(self) -> dict[float, list[Outing]]:
        """The options by when they begin; of one time those of fewer places first."""
        found: dict[float, list[Outing]] = {}
        for option in sorted(self.options, key=lambda each: len(each.visits)):
            found.setdefault(self.begins(option), []).append(option)
        return found

    def beginning(self, at_h: float) -> list[Outing]:
        """The options that begin at a time."""
        return self._by_time[at_h]

    @cached_property
    def _option_times(self) -> list[float]:
        return sorted(self._by_time)

    def between(self, part: Route, from_h: float, until_h: float, limit: int) -> list[float]:
        """The times from one to another by which a plan in part has not lost more, whatever is done later."""
        times = self._option_times[bisect_left(self._option_times, from_h) : bisect_right(self._option_times, until_h)]

        def is_lost(at_h: float) -> bool:
            lost = part.lost | self.lost_by(part, max(0.0, float(round(at_h - _ROUNDED_H))))
            return lost.bit_count() > limit

        return times[: bisect_left(times, True, key=is_lost)]

    def may_reach(self, part: Route, left: int) -> bool:
        """Whether no store alone asks for more services until the end than there are outings left."""
        for key in enumerate(part.since):
            needed = self._needed.get(key)
            if (self._services(*key) if needed is None else needed) > left:
                return False
        return True

    def _services(self, n: int, since_h: float) -> int:
        """How many services a store needs at least after one, each as late as may be."""
        key = (n, since_h)
        if key not in self._needed:
            each, times = self.plain[n], self._service_times[n]
            needed, at_h = 0, since_h
            while not self.keeps(each.passed(at_h, self.chance.end_h)):
                later = times[bisect_right(times, at_h) :]
                late = bisect_left(later, True, key=self._fails_by(each, at_h))
                if late == 0:
                    needed = _NEVER
                    break
                needed, at_h = needed + 1, later[late - 1]
            self._needed[key] = needed
        return self._needed[key]

    def _fails_by(self, chance: "TankChance | PluggedChance", since_h: float) -> Callable[[float], bool]:
        return lambda at_h: not self.keeps(chance.passed(since_h, at_h))

    @cached_property
    def _service_times(self) -> list[list[float]]:
        """When each store can be served."""
        found = []
        for store, each in zip(self.stores, self.plain, strict=True):
            served = (self._when_served(store, each, outing) for outing in self.every)
            found.append(sorted({at for at in served if at is not None}))
        return found

    @cached_property
    def _first_leaves(self) -> list[float | None]:
        """For each store that is due when one can first set out to have it served."""
        found: list[float | None] = []
        for store, each in zip(self.stores, self.plain, strict=True):
            leaves = (o.leave_h for o in self.every if self._when_served(store, each, o) is not None)
            found.append(min(leaves, default=None) if self.chance.every[store].is_due else None)
        return found

    def is_too_late(self, part: Route, outing: Outing) -> bool:
        """Whether an outing has something due served first, and not at the first departure there may be."""
        for n, first in enumerate(self._first_leaves):
            late = first is not None and part.since[n] == NOW and outing.leave_h > first
            if late and self._when_served(self.stores[n], self.plain[n], outing) is not None:
                return True
        return False

    @cached_property
    def times(self) -> list[float]:
        """When any outing begins."""
        return sorted({self.begins(outing) for outing in self.every})

    @cached_property
    def longest_h(self) -> float:
        """The longest from when an outing begins to its last place, in whole hours."""
        longest = max((each.visits[-1].arrive_h - self.begins(each) for each in self.every), default=0.0)
        return float(ceil(longest + _ROUNDED_H))

    @property
    def chance(self) -> Chance:
        """How each store may fare."""
        return self.setting.chance

    @cached_property
    def _nights(self) -> dict[float, Push]:
        """Where somebody may arrive for a night plugged in: the shortest span plugged in until that same morning."""
        if self.part_of is not None:
            return self.part_of._nights
        begins: dict[float, float] = {}
        plugged = [each for each in self.every if each.plug]
        for each in plugged:
            begins[each.visits[-1].depart_h] = max(each.plug_h, begins.get(each.visits[-1].depart_h, NOW))
        amps = source_amps(self.chance.rig)[1]
        spans = {end: Push(begin, end - begin, amps) for end, begin in begins.items()}
        return {each.plug_h: spans[each.visits[-1].depart_h] for each in plugged}

    def night(self, at_h: float) -> Push | None:
        """The night plugged in that begins at a time."""
        return self._nights.get(at_h)

    def start(self) -> Route:
        """No outing made yet."""
        return Route(outings=(), lost=0, since=(NOW,) * len(self.stores), n_stops=0, cost=0.0, km=0.0)

    def _when_served(self, store: str, chance: "TankChance | PluggedChance", outing: Outing) -> float | None:
        """When an outing serves a store, None where it does not."""
        if isinstance(chance, PluggedChance):
            return outing.plug_h if outing.plug else None
        return outing.at.get(store)

    def takes(self, store: str, outings: Sequence[Outing], since_h: float, at_h: float) -> bool:
        """Whether the last of some outings serves a store of its: a bottle that is swapped whole is low by then."""
        each = self.chance.plain.get(store)
        if each is None or store not in outings[-1].swaps:
            return True
        driven = km_driven(outings, since_h, at_h) if each.km_l is not None else 0.0
        return each.is_low(since_h, at_h, driven)

    @cached_property
    def _served_on(self) -> dict[int, list[tuple[int, float]]]:
        return {id(outing): self._serves(outing) for outing in self.every}

    def _serves(self, outing: Outing) -> list[tuple[int, float]]:
        """The stores that an outing serves, by their numbers, and when."""
        found = []
        for n, (store, each) in enumerate(zip(self.stores, self.plain, strict=True)):
            if (at_h := self._when_served(store, each, outing)) is not None:
                found.append((n, at_h))
        return found

    @cached_property
    def _driven(self) -> list[int]:
        """The tanks that ways are driven on, by their numbers."""
        return [n for n, each in enumerate(self.plain) if each.km_l is not None]

    def add(self, part: Route, outing: Outing) -> Route:
        """A plan in part with one more outing."""
        lost, since, cost, outings = part.lost, list(part.since), part.cost, (*part.outings, outing)
        for index, at_h in self._served_on.get(id(outing)) or self._serves(outing):
            store, each, since_h = self.stores[index], self.plain[index], part.since[index]
            if outing.swaps and not self.takes(store, outings, since_h, at_h):
                continue
            # the very way to its service empties no tank
            driven = km_driven(part.outings, since_h, at_h) if each.km_l is not None else 0.0
            lost |= each.passed(since_h, at_h, driven)
            if store in outing.prices:
                driven = km_driven(outings, since_h, at_h) if each.km_l is not None else 0.0
                cost += outing.prices[store] * each.amount(since_h, at_h, driven)
            since[index] = at_h
        for index in self._driven:
            # home again, it may be dry
            driven = km_driven(outings, since[index], outing.end_h)
            lost |= self.plain[index].passed(since[index], round(outing.end_h), driven)
        return Route(
            outings=outings,
            lost=lost,
            since=tuple(since),
            n_stops=part.n_stops + len(outing.visits),
            cost=cost + outing.fixed_cost,
            km=part.km + outing.km,
        )

    def from_last(self, part: Route, outing: Outing) -> Outing:
        """An outing with its way from where the rig stands after the last one, where it stays there."""
        if not (self.setting.moves and part.outings) or outing.is_fixed:
            return outing
        km = self.setting.way(part.outings[-1].visits[-1].spot.place, outing.visits[0].spot.place)
        more = km - outing.legs[0][1]
        return replace(
            outing,
            km=outing.km + more,
            fixed_cost=outing.fixed_cost + more * self.setting.km_price,
            legs=((outing.arrive_h, km), *outing.legs[1:]),
            leave_h=outing.arrive_h - way_h(self.chance.rig, km),
        )

    def lost_by(self, part: Route, at_h: float) -> int:
        """The paths lost since the last services, without what driving burns."""
        key = (part.since, at_h)
        lost = self._losses.get(key)
        if lost is None:
            lost = 0
            for each, since_h in zip(self.plain, part.since, strict=True):
                lost |= each.passed(since_h, at_h)
            self._losses[key] = lost
        return lost

    def keeps(self, lost: int) -> bool:
        """Whether no more paths are lost than may be."""
        return lost.bit_count() <= self.limit

    @staticmethod
    def own(part: Route) -> int:
        """How many outings a plan makes that were not fixed before."""
        return sum(not each.is_fixed for each in part.outings)

    def rest(self, part: Route) -> int:
        """The paths lost between the last services and the end."""
        end_h = self.chance.end_h
        return self.lost_by(part, end_h) | self.driven_dry(part, end_h)

    def driven_dry(self, part: Route, at_h: float) -> int:
        """The paths on which driving to the stops empties its tank by a time."""
        lost = 0
        for each, since_h in zip(self.plain, part.since, strict=True):
            if each.km_l is not None:
                lost |= each.passed(since_h, at_h, km_driven(part.outings, since_h, at_h))
        return lost

    def pushes(self, outings: Iterable[Outing]) -> tuple[Push, ...]:
        """What charges the bank on the way of a plan."""
        alternator, shore = source_amps(self.chance.rig)
        return tuple(push for each in outings for push in each.pushes(alternator, shore, self.chance.rig.road_km_per_h))

    def lost(self, outings: Sequence[Outing], without: tuple[int, str] | None = None) -> int:
        """The paths on which any store passes its line if a plan is followed. ``without``: an outing by its number and
        a store that is not served on it."""
        whole = self.start()
        for n, outing in enumerate(outings):
            skipped = without[1] if without is not None and without[0] == n else None
            whole = self.add(whole, _without(outing, skipped))
        return self.lost_of(whole)

    def lost_of(self, whole: Route) -> int:
        """The paths lost of a whole plan."""
        return whole.lost | self.rest(whole)

    def bound(self, left: int, since_h: float) -> int:
        """The fewest paths that can be lost after everything was served at a time, with so many outings left that would
        each serve everything; it is not looked for under the limit."""
        key = (left, since_h)
        if key not in self._bounds:
            end = self._everything(since_h, self.chance.end_h)
            if left > 0 and end > self.limit:
                for time in self.times[bisect_right(self.times, since_h) :]:
                    before = self._everything(since_h, max(0.0, time - _ROUNDED_H))
                    if before >= end or before > self.limit:
                        break
                    end = min(end, max(before, self.bound(left - 1, time + self.longest_h)))
                    if end <= self.limit:
                        break
            self._bounds[key] = end
        return self._bounds[key]

    def least(self) -> int:
        """Paths that are lost at least: where each store were served whenever it can be, by itself."""
        every = (lost for n in range(len(self.plain)) for _, lost in self._closest(n))
        return reduce(or_, every, 0).bit_count()

    def _everything(self, since_h: float, until_h: float) -> int:
        return reduce(or_, (each.passed(since_h, until_h) for each in self.plain), 0).bit_count()

    def whole(self, outings: Iterable[Outing], part: Route | None = None) -> Route:
        """The plan of some outings, after those of a plan in part."""
        whole = part or self.start()
        for outing in outings:
            whole = self.add(whole, outing)
        return whole

    def with_fixed(self, part: Route) -> Route:
        """The same plan with the outings that every plan makes."""
        return self.whole(sorted((*part.outings, *self.fixed), key=lambda each: each.arrive_h))


def _without(outing: Outing, store: str | None) -> Outing:
    """An outing on which a store is not served; of a bank, on which nobody plugs in."""
    if store is None:
        return outing
    visits = tuple(
        replace(each, stores=each.stores - {store}, plug=each.plug and store in outing.at) for each in outing.visits
    )
    return replace(outing, visits=visits)
