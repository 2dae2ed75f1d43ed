"""The stops that a plan may be made of, and what a plan of them loses: the paths on which a store passes its line."""

from bisect import bisect_right
from collections.abc import Iterable, Sequence
from dataclasses import field, replace
from functools import cached_property, reduce
from operator import or_

from lodeline.core.book import way_h
from lodeline.core.conditions import km_between
from lodeline.core.stops.chance import NOW, BankChance, Chance, PluggedChance, Push, TankChance
from lodeline.core.stops.options import Option, Setting, source_amps
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS


@dataclass(frozen=True, slots=True, kw_only=True)
class Route:
    """A plan in part: its stops, the paths lost so far, when each store was last served, cost and way."""

    stops: tuple[Option, ...]
    lost: int
    since: tuple[float, ...]
    cost: float
    km: float


def km_driven(stops: Sequence[Option], since_h: float, until_h: float) -> float:
    """The way between two times: there up to an arrival, and back after it."""
    km = 0.0
    for each in stops:
        there = each.km if each.moves else each.km / 2
        back = 0.0 if each.moves else each.km / 2
        if since_h < each.arrive_h <= until_h:
            km += there
        if since_h <= each.arrive_h < until_h:
            km += back
    return km


@dataclass(frozen=True, kw_only=True)
class Routes:
    """What a search chooses from.

    ``fixed``: stops that every plan makes; ``limit``: paths that may be lost; ``by_h``: the first stop has to be made
    by then; ``lost_anyhow``: paths on which a line is passed before anybody can come. Stores that no stop can help are
    left aside, and counted at the end.
    """

    setting: Setting
    options: Sequence[Option]
    fixed: Sequence[Option]
    limit: int
    by_h: float | None = None
    lost_anyhow: int = 0
    _losses: dict[tuple[tuple[float, ...], float], int] = field(default_factory=dict)
    _bounds: dict[tuple[int, float], int] = field(default_factory=dict)

    @cached_property
    def helpless(self) -> frozenset[str]:
        """The stores that no stop can keep, where they alone lose too much: the risk is then that of the rest."""
        found, hopeless = self._helpless(), 0
        for id in found:
            hopeless |= self._alone(id)
        return found if hopeless.bit_count() > self.limit else frozenset()

    @cached_property
    def _served(self) -> "dict[str, TankChance | PluggedChance]":
        nights, kept = self._nights(), self._kept_banks()
        plain = {id: each for id, each in self.chance.plain.items() if id not in self.helpless}
        return plain | {id: PluggedChance(bank=bank, nights=nights) for id, bank in kept.items() if nights}

    def _kept_banks(self) -> dict[str, BankChance]:
        return {id: bank for id, bank in self.chance.banks.items() if id not in self.helpless}

    @cached_property
    def stores(self) -> tuple[str, ...]:
        """What a stop serves and the plan has to keep."""
        return tuple(self._served)

    @cached_property
    def plain(self) -> "tuple[TankChance | PluggedChance, ...]":
        """What passes the line of each of these."""
        return tuple(self._served.values())

    @cached_property
    def banks(self) -> tuple[BankChance, ...]:
        """Banks that no post charges: what driving brings is all, and they are walked with a plan."""
        return () if self._nights() else tuple(self._kept_banks().values())

    @cached_property
    def starts(self) -> list[float]:
        """When each option begins, in order."""
        return [option.arrive_h for option in self.options]

    @cached_property
    def times(self) -> list[float]:
        """When any stop begins."""
        return sorted({option.arrive_h for option in (*self.options, *self.fixed)})

    @property
    def chance(self) -> Chance:
        """How each store may fare."""
        return self.setting.chance

    def _nights(self) -> dict[float, Push]:
        """Where somebody may arrive for a night plugged in: the shortest span plugged in until that same morning."""
        begins: dict[float, float] = {}
        plugged = [option for option in (*self.options, *self.fixed) if option.plug]
        for each in plugged:
            begins[each.depart_h] = max(each.arrive_h, begins.get(each.depart_h, NOW))
        amps = source_amps(self.chance.rig)[1]
        spans = {end: Push(begin, end - begin, amps) for end, begin in begins.items()}
        return {each.arrive_h: spans[each.depart_h] for each in plugged}

    def _alone(self, id: str) -> int:
        """The paths on which a store passes its line with no stop at all; of a bank, with every charge there may be."""
        chance = self.chance
        if id in chance.banks:
            return chance.banks[id].passed(self._every_charge())
        return chance.plain[id].passed(NOW, chance.end_h)

    def _every_charge(self) -> tuple[Push, ...]:
        """All that could charge a bank: on each date the longest ways, and every night plugged in."""
        longest: dict[tuple[int, str], Push] = {}
        for option in (*self.options, *self.fixed):
            for n, push in enumerate(self.pushes([option])):
                key = (int(push.start_h // HOURS), f"{n} {option.plug}")
                if key not in longest or push.hours * push.amps > longest[key].hours * longest[key].amps:
                    longest[key] = push
        return tuple(longest.values())

    def _helpless(self) -> frozenset[str]:
        """The stores that no stop can keep: nobody serves them, the cold locks in even a full bottle, or not all that
        charges a bank is enough."""
        chance, every = self.chance, (*self.options, *self.fixed)
        unserved = {id for id in chance.plain if not any(id in option.stores for option in every)}
        banks = {id for id in chance.banks if self._alone(id).bit_count() > self.limit}
        frozen = {id for id, each in chance.plain.items() if each.locked_when_full.bit_count() > self.limit}
        return frozenset({id for id in unserved if self._alone(id)} | frozen | banks)

    def start(self) -> Route:
        """No stop made yet."""
        return Route(stops=(), lost=0, since=(NOW,) * len(self.stores), cost=0.0, km=0.0)

    def add(self, part: Route, option: Option) -> Route:
        """A plan in part with one more stop."""
        lost, since, cost = part.lost, list(part.since), part.cost
        prices = dict(option.prices)
        for index, (store, each) in enumerate(zip(self.stores, self.plain, strict=True)):
            if store not in option.stores and not (option.plug and isinstance(each, PluggedChance)):
                continue
            driven = 0.0
            if each.km_l is not None:
                driven = km_driven((*part.stops, option), part.since[index], option.arrive_h)
            lost |= each.passed(part.since[index], option.arrive_h, driven)
            if store in prices:
                cost += prices[store] * each.amount(part.since[index], option.arrive_h, driven)
            since[index] = option.arrive_h
        return Route(
            stops=(*part.stops, option),
            lost=lost,
            since=tuple(since),
            cost=cost + option.fixed_cost,
            km=part.km + option.km,
        )

    def from_last(self, part: Route, option: Option) -> Option:
        """A stop with its way from where the rig stands after the last one, where it stays there."""
        if not (self.setting.moves and part.stops) or option.is_fixed:
            return option
        rig = self.chance.rig
        km = km_between(part.stops[-1].spot.place, option.spot.place) * rig.road_factor
        more = (km - option.km) * self.setting.l_per_km * self.setting.fuel_price
        return replace(option, km=km, fixed_cost=option.fixed_cost + more, leave_h=option.arrive_h - way_h(rig, km))

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

    def rest(self, part: Route) -> int:
        """The paths lost between the last services and the end."""
        end_h = self.chance.end_h
        return self.lost_by(part, end_h) | self.driven_dry(part, end_h)

    def driven_dry(self, part: Route, at_h: float) -> int:
        """The paths on which driving to the stops empties its tank by a time."""
        lost = 0
        for each, since_h in zip(self.plain, part.since, strict=True):
            if each.km_l is not None:
                lost |= each.passed(since_h, at_h, km_driven(part.stops, since_h, at_h))
        return lost

    def pushes(self, stops: Iterable[Option]) -> tuple[Push, ...]:
        """What charges the bank on the way of a plan."""
        alternator, shore = source_amps(self.chance.rig)
        return tuple(push for each in stops for push in each.pushes(alternator, shore))

    def kept_of(self, stops: Sequence[Option]) -> int:
        """The paths lost of what can be kept."""
        return reduce(or_, self.lost_of_each(stops), 0)

    def lost_of_each(self, stops: Sequence[Option]) -> list[int]:
        """The paths on which each store passes its line."""
        end_h, found = self.chance.end_h, []
        for store, each in zip(self.stores, self.plain, strict=True):
            since_h, lost = NOW, 0
            plugs = isinstance(each, PluggedChance)
            served = (option.arrive_h for option in stops if (option.plug if plugs else store in option.stores))
            for at_h in (*served, end_h):
                driven = km_driven(stops, since_h, at_h) if each.km_l is not None else 0.0
                lost |= each.passed(since_h, at_h, driven)
                since_h = at_h
            found.append(lost)
        return found + [bank.passed(self.pushes(stops)) for bank in self.banks]

    def lost(self, stops: Sequence[Option]) -> int:
        """The paths on which any store passes its line if a plan is followed, those past it now among them."""
        chance, pushes = self.chance, self.pushes(stops)
        lost, of_each = self.lost_anyhow, dict(zip(self.stores, self.lost_of_each(stops), strict=False))
        for id in chance.plain:
            lost |= of_each[id] if id in of_each else self._alone(id)
        for bank in chance.banks.values():
            lost |= bank.passed(pushes)
        return lost

    def bound(self, left: int, since_h: float) -> int:
        """The fewest paths that can be lost after everything was served at a time, with so many stops left that would
        each serve everything; it is not looked for under the limit."""
        key = (left, since_h)
        if key not in self._bounds:
            end = self._everything(since_h, self.chance.end_h)
            if left > 0 and end > self.limit:
                for time in self.times[bisect_right(self.times, since_h) :]:
                    before = self._everything(since_h, time)
                    if before >= end or before > self.limit:
                        break
                    end = min(end, max(before, self.bound(left - 1, time)))
                    if end <= self.limit:
                        break
            self._bounds[key] = end
        return self._bounds[key]

    def _everything(self, since_h: float, until_h: float) -> int:
        return reduce(or_, (each.passed(since_h, until_h) for each in self.plain), 0).bit_count()

    def whole(self, stops: Iterable[Option]) -> Route:
        """The plan of some stops."""
        whole = self.start()
        for option in stops:
            whole = self.add(whole, option)
        return whole

    def with_fixed(self, part: Route) -> Route:
        """The same plan with the stops that every plan makes."""
        return self.whole(sorted((*part.stops, *self.fixed), key=lambda each: each.arrive_h))
