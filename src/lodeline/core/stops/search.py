"""The search for a plan: the fewest outings that keep the risk, of those the fewest stops, of those the cheapest, of
those the shortest way, and of plans alike in all that the one with the least chance to pass a line.

A depth-first search over outings in order of time. A plan in part is left as soon as the paths that it has lost
already, or those that no outing after it can save any more, are too many; or where it weighs no less than the best that
is known. Where it ends without looking at everything, that is said: fewer outings were then ruled out, a lower cost was
not.
"""

from collections.abc import Callable
from dataclasses import field

from lodeline.core.figures import Stops
from lodeline.core.stops.chance import NOW
from lodeline.core.stops.onward import onward
from lodeline.core.stops.outings import Outing
from lodeline.core.stops.relaxed import lighter
from lodeline.core.stops.routes import Route, Routes
from lodeline.core.values import dataclass

_TELL_EVERY = 512  # nodes, between two looks at who waits
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
    """How long is looked: plans in part, of each number of outings; and for which shares of the risk, how much of it
    spent at first, and with how many plans in part, plans are made outing by outing."""

    most_nodes: int = Stops.most_nodes
    risks: tuple[float, ...] = Stops.onward_risks
    first: tuple[float, ...] = Stops.onward_first
    width: int = Stops.onward_width

    def less(self) -> "Effort":
        """For what is looked for beside."""
        share = Stops.others_share
        few = max(1, self.width // share)
        return Effort(most_nodes=self.most_nodes // share, risks=self.risks[:1], first=self.first[:1], width=few)


@dataclass(slots=True, kw_only=True)
class _Deep:
    """The search for plans of one length, and the best that is known."""

    routes: Routes
    most_nodes: int
    tell: Callable[[float], object]
    nodes: int = 0
    best: Route | None = None
    best_lost: int = field(init=False)

    def __post_init__(self) -> None:
        self.best_lost = self.routes.lost_of(self.best).bit_count() if self.best is not None else 0

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
        for begins in reversed(routes.between(part, free_from, until_h, routes.limit)):
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
                if routes.keeps(grown.lost) and routes.may_reach(grown, after):
                    self.grow(grown, fixed_at, left - 1)
                    if self.nodes >= self.most_nodes:
                        return

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
        first = self._first(self.routes, least, most)
        found = self._under(self.routes, least, most, first)
        if found is not None:
            return found
        lowest, n_paths = self.routes.least(), self.routes.chance.n_paths
        floor = max(lowest, self.routes.limit)
        for step in Stops.relaxed:
            # the first that is found comes within the last step of the least, which is not known better
            limit = int(lowest + (step + Stops.near_least) * n_paths)
            if limit < floor:
                continue
            routes = self.routes.at_limit(limit)
            relaxed = self._under(routes, least, most, self._first(routes, least, most))
            if relaxed is not None:
                return Found(
                    route=relaxed.route,
                    lost=relaxed.lost,
                    kept=relaxed.lost.bit_count() <= self.routes.limit,
                    exact=relaxed.exact and step == 0.0,
                    least_outings=relaxed.least_outings,
                )
        return self._found(self.routes, self.routes.with_fixed(self.routes.start()), kept=False)

    def _first(self, routes: Routes, least: int, most: int) -> Route | None:
        """The best plan that is made outing by outing under the limit, None where none is: first with all of the risk
        to be spent, then with less of it, so that what is lost beside is borne."""
        effort = self.effort
        for share in effort.risks:
            part = routes.at_limit(int(share * routes.limit))
            for first in effort.first:
                self.tell(0.0)
                made = onward(part, most, first, effort.width)
                kept = [r for r in made if least <= routes.own(r) <= most and routes.keeps(routes.lost_of(r))]
                if kept:
                    return lighter(routes, min(kept, key=lambda each: (routes.own(each), *each.weight)), least)
        return None

    def _under(self, routes: Routes, least: int, most: int, first: Route | None) -> Found | None:
        """The plan with the fewest outings under the limit, None where none is found. ``first``: one that is known."""
        ruled_out, ended = least, 0
        n_first = routes.own(first) if first is not None else most
        for n in range(least, n_first + 1):
            known = first if n == n_first else None
            if known is None and not self._may_be_of(routes, n):
                ruled_out = n + 1 if ended == 0 else ruled_out
                continue
            if ended >= _MOST_ENDED and known is None:
                continue
            deep = _Deep(routes=routes, most_nodes=self.effort.most_nodes, tell=self.tell, best=known)
            deep.grow(routes.start(), 0, n)
            exact = deep.nodes < deep.most_nodes
            if deep.best is not None:
                best = deep.best if exact else lighter(routes, deep.best, least)
                return self._found(routes, best, exact=exact and ended == 0, least_outings=ruled_out)
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

    @staticmethod
    def _found(
        routes: Routes, route: Route, *, kept: bool = True, exact: bool = False, least_outings: int = 0
    ) -> Found:
        lost = routes.lost_of(route)
        return Found(route=route, lost=lost, kept=kept, exact=exact, least_outings=least_outings)
