"""The search for a plan: the fewest outings that keep the risk, of those the fewest stops, of those the cheapest, of
those the shortest way, and of plans alike in all that the one with the least chance to pass a line.

A depth-first search over outings in order of time. A plan in part is left as soon as the paths that it has lost
already, or those that no outing after it can save any more, are too many; or where it weighs no less than the best that
is known. Where it ends without looking at everything, that is said: fewer outings were then ruled out, a lower cost was
not.
"""

from collections.abc import Callable
from dataclasses import replace

from lodeline.core.figures import Stops
from lodeline.core.stops.chance import NOW
from lodeline.core.stops.outings import Outing
from lodeline.core.stops.relaxed import lighter
from lodeline.core.stops.routes import Route, Routes
from lodeline.core.values import dataclass

_TELL_EVERY = 512  # nodes, between two looks at who waits
_EVENLY = 4  # part of the search that looks for a plan that spends its chance evenly
_MOST_ENDED = 2  # lengths at which all of the search is spent without a plan


@dataclass(frozen=True, slots=True, kw_only=True)
class Found:
    """A plan as the search has it.

    ``lost``: the paths on which a line is passed; ``exact``: whether everything was looked at; ``least_outings``: how
    many are needed at least, as far as was ruled out.
    """

    route: Route
    lost: int
    kept: bool
    exact: bool
    least_outings: int

    @property
    def outings(self) -> tuple[Outing, ...]:
        """Its outings, in order."""
        return self.route.outings


@dataclass(frozen=True, slots=True, kw_only=True)
class Effort:
    """How long is looked: plans in part, of each number of outings."""

    most_nodes: int = Stops.most_nodes

    def less(self) -> "Effort":
        """For what is looked for beside."""
        return Effort(most_nodes=self.most_nodes // Stops.others_share)


@dataclass(slots=True, kw_only=True)
class _Deep:
    """The search for plans of one length, and the best that it has found: exact, or where the chance is spent
    ``evenly``, no outing taking more of it than its share: what keeps the risk is found soon so, if not the best."""

    routes: Routes
    most_nodes: int
    tell: Callable[[float], object]
    n: int
    evenly: bool = False
    nodes: int = 0
    best: Route | None = None
    best_lost: int = 0

    def grow(self, part: Route, fixed_at: int, left: int) -> None:
        """Try every outing after those of a plan in part; ``left``: outings that may still be chosen."""
        next_fixed = self.routes.fixed[fixed_at] if fixed_at < len(self.routes.fixed) else None
        if left == 0 and next_fixed is None:
            self._finish(part)
            return
        if left > 0:
            self._choose(part, fixed_at, left, next_fixed)
        if next_fixed is not None:
            grown = self.routes.add(part, next_fixed)
            if self.routes.keeps(grown.lost):
                self.grow(grown, fixed_at + 1, left)

    def _choose(self, part: Route, fixed_at: int, left: int, next_fixed: Outing | None) -> None:
        routes, free_from = self.routes, part.outings[-1].end_h if part.outings else 0.0
        after = left - 1 + len(routes.fixed) - fixed_at
        until_h = next_fixed.leave_h if next_fixed is not None else routes.chance.end_h
        # the latest first: what is served late lasts longest, so that one that does is found soon
        limit = self._limit(left)
        for begins in reversed(routes.between(part, free_from, until_h, limit)):
            # what is left of the outings may not reach the end from here, and from no earlier time
            if routes.bound(after, begins + routes.longest_h) > routes.limit:
                break
            for option in routes.beginning(begins):
                if next_fixed is not None and option.end_h > until_h:
                    continue
                option = routes.from_last(part, option)
                if option.leave_h < free_from or routes.is_too_late(part, option):
                    continue
                if self.best is not None and part.n_stops + len(option.visits) + left - 1 > self.best.n_stops:
                    break  # those of fewer places come first
                grown = routes.add(part, option)
                self.nodes += 1
                if self.nodes % _TELL_EVERY == 0:
                    self.tell(min(1.0, self.nodes / self.most_nodes))
                if self.nodes >= self.most_nodes:
                    return
                if self.best is not None and grown.weight > self.best.weight:
                    continue
                if grown.lost.bit_count() <= limit and routes.may_reach(grown, after):
                    self.grow(grown, fixed_at, left - 1)
                    if self.nodes >= self.most_nodes:
                        return

    def _limit(self, left: int) -> int:
        """The paths that may be lost by the next outing."""
        if not self.evenly:
            return self.routes.limit
        return self.routes.limit * (self.n - left + 1) // (self.n + 1)

    def _finish(self, part: Route) -> None:
        lost = part.lost | self.routes.rest(part)
        if not self.routes.keeps(lost) or not self._beats(part, lost):
            return
        self.best, self.best_lost = part, lost.bit_count()

    def _beats(self, part: Route, lost: int) -> bool:
        """Whether a whole plan is better than the best; of plans alike the one that loses less is."""
        if self.best is None:
            return True
        return (*part.weight, lost.bit_count()) < (*self.best.weight, self.best_lost)


@dataclass(frozen=True, slots=True, kw_only=True)
class Search:
    """One search."""

    routes: Routes
    effort: Effort = Effort()
    tell: Callable[[float], object] = lambda share: None

    def best(self, least: int = 0, most: int = Stops.most_outings) -> Found:
        """The best plan with so many outings of its own at least and at most; where none keeps the risk, the simplest
        one that comes near the least chance."""
        found = self._under(self.routes, least, most)
        if found is not None:
            return found
        lowest, n_paths = self.routes.least(), self.routes.chance.n_paths
        floor = max(lowest, self.routes.limit)
        for step in Stops.relaxed:
            # the first that is found comes within the last step of the least, which is not known better
            limit = int(lowest + (step + Stops.near_least) * n_paths)
            if limit < floor:
                continue
            relaxed = self._under(self.routes.at_limit(limit), least, most)
            if relaxed is not None:
                return Found(
                    route=relaxed.route,
                    lost=relaxed.lost,
                    kept=relaxed.lost.bit_count() <= self.routes.limit,
                    exact=relaxed.exact and step == 0.0,
                    least_outings=relaxed.least_outings,
                )
        route = self.routes.with_fixed(self.routes.start())
        lost = self.routes.lost_of(route)
        return Found(route=route, lost=lost, kept=False, exact=False, least_outings=0)

    def _under(self, routes: Routes, least: int, most: int) -> Found | None:
        """The plan with the fewest outings under the limit, None where none is found."""
        ruled_out, ended = least, 0
        for n in range(least, most + 1):
            if not self._may_be_of(routes, n):
                ruled_out = n + 1 if ended == 0 else ruled_out
                continue
            deep = self._evenly(routes, n, self.effort.most_nodes // _EVENLY)
            exact = False
            if ended < _MOST_ENDED:
                deep = replace(deep, most_nodes=self.effort.most_nodes, evenly=False)
                deep.grow(routes.start(), 0, n)
                exact = deep.nodes < deep.most_nodes
            if deep.best is not None:
                best = deep.best if exact else lighter(routes, deep.best)
                return self._found(routes, best, exact and ended == 0, ruled_out)
            if not exact:
                ended += 1
            elif ended == 0:
                ruled_out = n + 1
        return None

    @staticmethod
    def _may_be_of(routes: Routes, n: int) -> bool:
        """Whether a plan of so many outings is not ruled out beforehand."""
        n_all = n + len(routes.fixed)
        return routes.bound(n_all, NOW) <= routes.limit and routes.may_reach(routes.start(), n_all)

    def _evenly(self, routes: Routes, n: int, most_nodes: int) -> _Deep:
        """A first look for any plan of one length."""
        deep = _Deep(routes=routes, most_nodes=most_nodes, tell=self.tell, n=n, evenly=True)
        deep.grow(routes.start(), 0, n)
        return deep

    @staticmethod
    def _found(routes: Routes, route: Route, exact: bool, least_outings: int) -> Found:
        lost = routes.lost_of(route)
        return Found(route=route, lost=lost, kept=True, exact=exact, least_outings=least_outings)
