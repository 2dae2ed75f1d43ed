"""The search for a plan: the fewest stops that keep the risk, of those the cheapest, of those the shortest way, and of
plans alike in all that the one with the least chance to pass a line.

A depth-first search over stops in order of time. A plan in part is left as soon as the paths that it has lost already,
or those that no stop after it can save any more, are too many; or where it costs no less than the best that is known.
Where it ends without looking at everything, that is said: fewer stops were then ruled out, a lower cost was not.
"""

from bisect import bisect_left, bisect_right
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, field, replace
from functools import reduce
from operator import or_

from lodeline.core.book import way_h
from lodeline.core.conditions import km_between
from lodeline.core.figures import Stops
from lodeline.core.stops.chance import NOW, BankChance, Chance, PlainChance, PluggedChance, Push
from lodeline.core.stops.options import Option, Setting, source_amps
from lodeline.core.zone import HOURS

_TELL_EVERY = 512
# How many of the most promising plans have their banks walked, where none keeps the risk.
_WALKED = 4


class Stopped(Exception):
    """Whoever waited for the plan does not any more."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Found:
    """A plan as the search has it.

    ``lost``: the paths on which a line is passed, of every store; ``kept``: whether what can be kept is; ``exact``:
    whether everything was looked at; ``least_stops``: how many stops are needed at least, as far as was ruled out;
    ``tolerated``: the lost paths under which it was looked for, None where there is no such plan. ``cost`` and ``km``
    are those that it was chosen by.
    """

    stops: tuple[Option, ...]
    lost: int
    cost: float
    km: float
    kept: bool
    exact: bool
    least_stops: int
    tolerated: int | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """A plan in part: its stops, the paths lost so far, when each store was last served, cost and way."""

    stops: tuple[Option, ...]
    lost: int
    since: tuple[float, ...]
    cost: float
    km: float


@dataclass(kw_only=True)
class Search:
    """One search.

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
    most_nodes: int = Stops.most_nodes
    beam: int = Stops.beam
    tell: Callable[[float], object] = lambda share: None
    helpless: frozenset[str] = frozenset()
    _nodes: int = 0
    _tolerated: int = 0
    _best: Part | None = None
    _best_lost: int = 0
    _stores: tuple[str, ...] = ()
    _plain: "tuple[PlainChance | PluggedChance, ...]" = ()
    _losses: dict[tuple[tuple[float, ...], float], int] = field(default_factory=dict)
    _banks: tuple[BankChance, ...] = ()
    _served: "dict[str, PlainChance | PluggedChance]" = field(default_factory=dict)
    _starts: list[float] = field(default_factory=list)
    _bounds: dict[tuple[int, float], int] = field(default_factory=dict)
    _times: list[float] = field(default_factory=list)

    def __post_init__(self) -> None:
        chance = self._chance
        self.helpless = self._helpless()
        hopeless = 0
        for id in self.helpless:
            hopeless |= self._alone(id)
        if hopeless.bit_count() > self.limit:
            # what cannot be kept is left out of the count: the risk is that of the rest
            keep = [id for id in (*chance.plain, *chance.banks) if id not in self.helpless]
        else:
            self.helpless, keep = frozenset(), [*chance.plain, *chance.banks]
        nights = self._nights()
        served = {id: chance.plain[id] for id in keep if id in chance.plain}
        banks = {id: chance.banks[id] for id in keep if id in chance.banks}
        plugged = {id: PluggedChance(bank=bank, nights=nights) for id, bank in banks.items() if nights}
        self._served = served | plugged
        self._stores, self._plain = tuple(self._served), tuple(self._served.values())
        # without a post, what driving brings is all that charges them: they are walked with a plan
        self._banks = () if nights else tuple(banks.values())
        self._starts = [each.arrive_h for each in self.options]
        self._times = sorted({each.arrive_h for each in (*self.options, *self.fixed)})

    @property
    def _chance(self) -> Chance:
        return self.setting.chance

    def _nights(self) -> dict[float, Push]:
        """Where somebody may arrive for a night plugged in: the shortest span plugged in until that same morning."""
        begins: dict[float, float] = {}
        plugged = [option for option in (*self.options, *self.fixed) if option.plug]
        for each in plugged:
            begins[each.depart_h] = max(each.arrive_h, begins.get(each.depart_h, NOW))
        amps = source_amps(self._chance.rig)[1]
        spans = {end: Push(begin, end - begin, amps) for end, begin in begins.items()}
        return {each.arrive_h: spans[each.depart_h] for each in plugged}

    def _alone(self, id: str) -> int:
        """The paths on which a store passes its line with no stop at all; of a bank, with every charge there may be."""
        chance = self._chance
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
        """The stores that no stop can keep: nobody serves them, or not all that charges a bank is enough."""
        chance, every = self._chance, (*self.options, *self.fixed)
        unserved = {id for id in chance.plain if not any(id in option.stores for option in every)}
        banks = {id for id in chance.banks if self._alone(id).bit_count() > self.limit}
        return frozenset({id for id in unserved if self._alone(id)} | banks)

    def best(self, least: int = 0, most: int = Stops.most_stops) -> Found:
        """The best plan with so many stops of its own at least and at most; where none keeps the risk, the one with
        the least chance to pass a line."""
        for n in range(least, most + 1):
            self._best = None
            if self._bound(n + len(self.fixed), NOW) <= self.limit:
                self._grow(self.start(), 0, n)
            if self._best is not None:
                exact = self._nodes < self.most_nodes
                best = self._best if exact else self._cheapened(self._best, self.limit)
                return self._found(best, kept=True, exact=exact, least_stops=n)
            if self._nodes >= self.most_nodes:
                return self._least_chance(most, n)
        return self._least_chance(most, most + 1)

    def start(self) -> Part:
        """No stop made yet."""
        return Part(stops=(), lost=0, since=(NOW,) * len(self._stores), cost=0.0, km=0.0)

    def _found(self, part: Part, *, kept: bool, exact: bool, least_stops: int, tolerated: int | None = None) -> Found:
        return Found(
            stops=part.stops,
            lost=self.lost(part.stops),
            cost=part.cost,
            km=part.km,
            kept=kept,
            exact=exact,
            least_stops=least_stops,
            tolerated=self.limit if kept else tolerated,
        )

    def _grow(self, part: Part, fixed_at: int, left: int) -> None:
        """Try every stop after those of a plan in part; ``left``: stops that may still be chosen."""
        next_fixed = self.fixed[fixed_at] if fixed_at < len(self.fixed) else None
        if left == 0 and next_fixed is None:
            self._finish(part)
            return
        if left > 0:
            self._choose(part, fixed_at, left, next_fixed)
        if next_fixed is not None:
            grown = self.add(part, next_fixed)
            if self._keeps(grown.lost):
                self._grow(grown, fixed_at + 1, left)

    def _choose(self, part: Part, fixed_at: int, left: int, next_fixed: Option | None) -> None:
        free_from = part.stops[-1].depart_h if part.stops else 0.0
        after = left - 1 + len(self.fixed) - fixed_at
        time, too_early = None, False
        for option in self.options[bisect_right(self._starts, free_from) :]:
            if option.arrive_h != time:
                time = option.arrive_h
                if next_fixed is not None and time > next_fixed.leave_h:
                    break
                if not part.stops and self.by_h is not None and time > self.by_h:
                    break
                if not self._keeps(part.lost | self._lost_by(part, time)):
                    break  # whatever is done later, too much is lost by then
                # what is left of the stops may not reach the end from here
                too_early = self._bound(after, time) > self.limit
            if too_early or (next_fixed is not None and option.depart_h > next_fixed.leave_h):
                continue
            option = self._from_last(part, option)
            if option.leave_h < free_from:
                continue
            grown = self.add(part, option)
            self._nodes += 1
            if self._nodes % _TELL_EVERY == 0:
                self.tell(self._nodes / self.most_nodes)
            if self._nodes >= self.most_nodes:
                return
            if self._best is not None and (grown.cost, grown.km) > (self._best.cost, self._best.km):
                continue
            if self._keeps(grown.lost):
                self._grow(grown, fixed_at, left - 1)

    def add(self, part: Part, option: Option) -> Part:
        """A plan in part with one more stop."""
        lost, since, cost = part.lost, list(part.since), part.cost
        prices = dict(option.prices)
        for index, (store, each) in enumerate(zip(self._stores, self._plain, strict=True)):
            if store not in option.stores and not (option.plug and isinstance(each, PluggedChance)):
                continue
            driven = 0.0
            if each.km_l is not None:
                driven = self.km_between((*part.stops, option), part.since[index], option.arrive_h)
            lost |= each.passed(part.since[index], option.arrive_h, driven)
            if store in prices:
                cost += prices[store] * each.amount(part.since[index], option.arrive_h, driven)
            since[index] = option.arrive_h
        return Part(
            stops=(*part.stops, option),
            lost=lost,
            since=tuple(since),
            cost=cost + option.fixed_cost,
            km=part.km + option.km,
        )

    def _from_last(self, part: Part, option: Option) -> Option:
        """A stop with its way from where the rig stands after the last one, where it stays there."""
        if not (self.setting.moves and part.stops) or option.is_fixed:
            return option
        rig = self._chance.rig
        km = km_between(part.stops[-1].spot.place, option.spot.place) * rig.road_factor
        more = (km - option.km) * self.setting.l_per_km * self.setting.fuel_price
        return replace(option, km=km, fixed_cost=option.fixed_cost + more, leave_h=option.arrive_h - way_h(rig, km))

    @staticmethod
    def km_between(stops: Sequence[Option], since_h: float, until_h: float) -> float:
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

    def _lost_by(self, part: Part, at_h: float) -> int:
        """The paths lost since the last services, without what driving burns."""
        key = (part.since, at_h)
        lost = self._losses.get(key)
        if lost is None:
            lost = 0
            for each, since_h in zip(self._plain, part.since, strict=True):
                lost |= each.passed(since_h, at_h)
            self._losses[key] = lost
        return lost

    def _keeps(self, lost: int) -> bool:
        return lost.bit_count() <= self.limit

    def _finish(self, part: Part) -> None:
        lost = part.lost | self._rest(part)
        if not self._keeps(lost) or not self._beats(part, lost):
            return
        pushes = self.pushes(part.stops)
        for bank in self._banks:
            may_walk = bank.walked < Stops.most_walks or bank.is_known(pushes)
            # without a walk of its own: as if nothing charged it on the way, which loses more
            lost |= bank.passed(pushes if may_walk else ())
            if not self._keeps(lost):
                return
        if self._beats(part, lost):
            self._best, self._best_lost = part, lost.bit_count()

    def _beats(self, part: Part, lost: int) -> bool:
        """Whether a whole plan is better than the best: cheaper, or shorter; of plans alike the one that loses less."""
        if self._best is None:
            return True
        best = (self._best.cost, self._best.km, self._best_lost)
        return (part.cost, part.km, lost.bit_count()) < best

    def _rest(self, part: Part) -> int:
        """The paths lost between the last services and the end."""
        end_h = self._chance.end_h
        return self._lost_by(part, end_h) | self._driven_dry(part, end_h)

    def _driven_dry(self, part: Part, at_h: float) -> int:
        """The paths on which driving to the stops empties its tank by a time."""
        lost = 0
        for each, since_h in zip(self._plain, part.since, strict=True):
            if each.km_l is not None:
                lost |= each.passed(since_h, at_h, self.km_between(part.stops, since_h, at_h))
        return lost

    def pushes(self, stops: Iterable[Option]) -> tuple[Push, ...]:
        """What charges the bank on the way of a plan."""
        alternator, shore = source_amps(self._chance.rig)
        return tuple(push for each in stops for push in each.pushes(alternator, shore))

    def kept_of(self, stops: Sequence[Option]) -> int:
        """The paths lost of what can be kept."""
        return reduce(or_, self._lost_of_each(stops), 0)

    def _lost_of_each(self, stops: Sequence[Option]) -> list[int]:
        """The paths on which each store passes its line."""
        end_h, found = self._chance.end_h, []
        for store, each in zip(self._stores, self._plain, strict=True):
            since_h, lost = NOW, 0
            plugs = isinstance(each, PluggedChance)
            served = (option.arrive_h for option in stops if (option.plug if plugs else store in option.stores))
            for at_h in (*served, end_h):
                driven = self.km_between(stops, since_h, at_h) if each.km_l is not None else 0.0
                lost |= each.passed(since_h, at_h, driven)
                since_h = at_h
            found.append(lost)
        return found + [bank.passed(self.pushes(stops)) for bank in self._banks]

    def lost(self, stops: Sequence[Option]) -> int:
        """The paths on which any store passes its line if a plan is followed, those past it now among them."""
        chance, pushes = self._chance, self.pushes(stops)
        lost, of_each = self.lost_anyhow, dict(zip(self._stores, self._lost_of_each(stops), strict=False))
        for id in chance.plain:
            lost |= of_each[id] if id in of_each else self._alone(id)
        for bank in chance.banks.values():
            lost |= bank.passed(pushes)
        return lost

    def _bound(self, left: int, since_h: float) -> int:
        """The fewest paths that can be lost after everything was served at a time, with so many stops left that would
        each serve everything; it is not looked for under the limit."""
        key = (left, since_h)
        if key not in self._bounds:
            end = self._everything(since_h, self._chance.end_h)
            if left > 0 and end > self.limit:
                for time in self._times[bisect_right(self._times, since_h) :]:
                    before = self._everything(since_h, time)
                    if before >= end or before > self.limit:
                        break
                    end = min(end, max(before, self._bound(left - 1, time)))
                    if end <= self.limit:
                        break
            self._bounds[key] = end
        return self._bounds[key]

    def _everything(self, since_h: float, until_h: float) -> int:
        return reduce(or_, (each.passed(since_h, until_h) for each in self._plain), 0).bit_count()

    def _least_chance(self, most: int, least_stops: int) -> Found:
        """The plan for the least risk, in steps over the accepted one, that was found to be kept: at each step what
        reaches furthest with each stop. Where no step is kept, what loses least; a stop more then has to save one path
        in a hundred."""
        steps = [min(int(self.limit * each), self._chance.n_paths) for each in Stops.relaxed]
        best, best_key = self._with_fixed(self.start()), (float("inf"), 0.0)
        for n, step in enumerate(steps):
            self.tell(n / len(steps))
            part, key = self._reaching(step, most)
            best, best_key = min((best, best_key), (part, key), key=lambda each: each[1])
            if self.kept_of(best.stops).bit_count() <= step:
                whole = self._cheapened(best, step)
                return self._found(whole, kept=n == 0, exact=False, least_stops=least_stops, tolerated=step)
        return self._found(best, kept=False, exact=False, least_stops=least_stops)

    def _reaching(self, tolerated: int, most: int) -> tuple[Part, tuple[float, float]]:
        """The plan that reaches furthest under a number of lost paths, with the fewest stops that reach as far; and how
        it stands where none reaches the end."""
        self._tolerated, layer = tolerated, [self.start()]
        best, best_key = self._with_fixed(self.start()), (float("inf"), 0.0)
        a_stop = Stops.stop_saves * self._chance.n_paths
        for _ in range(most + 1):
            for part in layer[:_WALKED]:
                whole = self._with_fixed(part)
                lost = self._lost_of_each(whole.stops)
                union = reduce(or_, lost, 0).bit_count()
                # of plans alike, what keeps the most stores
                beside = sum(each.bit_count() for each in lost) / max(1, len(lost))
                key = (union + beside + a_stop * len(whole.stops), whole.cost)
                if union <= tolerated:
                    return whole, key
                if key < best_key:
                    best, best_key = whole, key
            if not layer or self._reach(layer[0]) >= self._chance.end_h:
                break
            layer = self._promising(layer)
        return best, best_key

    def _cheapened(self, part: Part, limit: int) -> Part:
        """A plan with one stop after another changed for a cheaper one, as long as no more paths are lost."""
        best, better = part, True
        while better:
            better = False
            for index, stop in enumerate(best.stops):
                if stop.is_fixed:
                    continue
                for option in self._in_place_of(best.stops, index):
                    stops = (*best.stops[:index], option, *best.stops[index + 1 :])
                    whole = self._whole(stops)
                    if (whole.cost, whole.km) < (best.cost, best.km) and self.kept_of(stops).bit_count() <= limit:
                        best, better = whole, True
                        break
        return best

    def _in_place_of(self, stops: Sequence[Option], index: int) -> Iterator[Option]:
        """What could be done in place of a stop, the cheapest first."""
        from_h = stops[index - 1].depart_h if index else 0.0
        until_h = stops[index + 1].leave_h if index + 1 < len(stops) else self._chance.end_h
        if self.setting.moves:
            return
        between = self.options[bisect_right(self._starts, from_h) : bisect_right(self._starts, until_h)]
        for option in sorted(between, key=lambda each: (each.fixed_cost, each.km)):
            if option.leave_h >= from_h and option.depart_h <= until_h:
                yield option

    def _whole(self, stops: Iterable[Option]) -> Part:
        whole = self.start()
        for option in stops:
            whole = self.add(whole, option)
        return whole

    def _reach(self, part: Part) -> float:
        """The last time through which a plan in part loses no more than is tolerated. [h]"""
        since_h = part.stops[-1].arrive_h if part.stops else 0.0
        times = [since_h, *self._times[bisect_right(self._times, since_h) :], self._chance.end_h]

        def fails(at_h: float) -> bool:
            return (part.lost | self._lost_by(part, at_h) | self._driven_dry(part, at_h)).bit_count() > self._tolerated

        return times[max(0, bisect_left(times, True, key=fails) - 1)]

    def _with_fixed(self, part: Part) -> Part:
        return self._whole(sorted((*part.stops, *self.fixed), key=lambda each: each.arrive_h))

    def _promising(self, layer: Sequence[Part]) -> list[Part]:
        """The plans with one more stop that reach furthest, of each kind."""
        grown: list[tuple[tuple[float, int, float], Part]] = []
        for part in layer:
            free_from, until = part.stops[-1].depart_h if part.stops else 0.0, self._reach(part)
            begin, end = bisect_right(self._starts, free_from), bisect_right(self._starts, until)
            # a stop is made late, but not on the last occasion alone
            late = bisect_right(self._starts, until - Stops.late_h)
            for option in self.options[max(begin, late) : end] or self.options[begin : begin + self.beam]:
                if not part.stops and self.by_h is not None and option.arrive_h > self.by_h:
                    break
                option = self._from_last(part, option)
                if option.leave_h >= free_from:
                    new = self.add(part, option)
                    reach = self._reach(new)
                    lost = (new.lost | self._lost_by(new, reach)).bit_count()
                    grown.append(((-reach, lost, new.cost), new))
        grown.sort(key=lambda each: each[0])
        return [part for _, part in grown[: self.beam]]
