"""The search for a plan: the fewest stops that keep the risk, of those the cheapest, of those the shortest way, and of
plans alike in all that the one with the least chance to pass a line.

A depth-first search over stops in order of time. A plan in part is left as soon as the paths that it has lost already,
or those that no stop after it can save any more, are too many; or where it costs no less than the best that is known.
Where it ends without looking at everything, that is said: fewer stops were then ruled out, a lower cost was not.
"""

from bisect import bisect_right
from collections.abc import Callable

from lodeline.core.figures import Stops
from lodeline.core.stops.chance import NOW
from lodeline.core.stops.options import Option
from lodeline.core.stops.relaxed import cheapened, reaching
from lodeline.core.stops.routes import Route, Routes
from lodeline.core.values import dataclass

_TELL_EVERY = 512  # nodes, between two looks at who waits


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
class Effort:
    """How long is looked: plans in part of the exact search, and how many of each length are gone on from otherwise."""

    most_nodes: int = Stops.most_nodes
    beam: int = Stops.beam

    def less(self) -> "Effort":
        """For what is looked for beside."""
        return Effort(most_nodes=self.most_nodes // Stops.others_share, beam=self.beam // 2)


@dataclass(slots=True, kw_only=True)
class _Deep:
    """The exact search for plans of one length, and the best that it has found."""

    routes: Routes
    most_nodes: int
    tell: Callable[[float], object]
    nodes: int = 0
    best: Route | None = None
    best_lost: int = 0

    def grow(self, part: Route, fixed_at: int, left: int) -> None:
        """Try every stop after those of a plan in part; ``left``: stops that may still be chosen."""
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

    def _choose(self, part: Route, fixed_at: int, left: int, next_fixed: Option | None) -> None:
        free_from = part.stops[-1].depart_h if part.stops else 0.0
        after = left - 1 + len(self.routes.fixed) - fixed_at
        time, too_early = None, False
        for option in self.routes.options[bisect_right(self.routes.starts, free_from) :]:
            if option.arrive_h != time:
                time = option.arrive_h
                if next_fixed is not None and time > next_fixed.leave_h:
                    break
                if not part.stops and self.routes.by_h is not None and time > self.routes.by_h:
                    break
                if not self.routes.keeps(part.lost | self.routes.lost_by(part, time)):
                    break  # whatever is done later, too much is lost by then
                # what is left of the stops may not reach the end from here
                too_early = self.routes.bound(after, time) > self.routes.limit
            if too_early or (next_fixed is not None and option.depart_h > next_fixed.leave_h):
                continue
            option = self.routes.from_last(part, option)
            if option.leave_h < free_from:
                continue
            grown = self.routes.add(part, option)
            self.nodes += 1
            if self.nodes % _TELL_EVERY == 0:
                self.tell(self.nodes / self.most_nodes)
            if self.nodes >= self.most_nodes:
                return
            if self.best is not None and (grown.cost, grown.km) > (self.best.cost, self.best.km):
                continue
            if self.routes.keeps(grown.lost):
                self.grow(grown, fixed_at, left - 1)

    def _finish(self, part: Route) -> None:
        lost = part.lost | self.routes.rest(part)
        if not self.routes.keeps(lost) or not self._beats(part, lost):
            return
        pushes = self.routes.pushes(part.stops)
        for bank in self.routes.banks:
            may_walk = bank.walked < Stops.most_walks or bank.is_known(pushes)
            # without a walk of its own: as if nothing charged it on the way, which loses more
            lost |= bank.passed(pushes if may_walk else ())
            if not self.routes.keeps(lost):
                return
        if self._beats(part, lost):
            self.best, self.best_lost = part, lost.bit_count()

    def _beats(self, part: Route, lost: int) -> bool:
        """Whether a whole plan is better than the best: cheaper, or shorter; of plans alike the one that loses less."""
        if self.best is None:
            return True
        best = (self.best.cost, self.best.km, self.best_lost)
        return (part.cost, part.km, lost.bit_count()) < best


@dataclass(frozen=True, slots=True, kw_only=True)
class Search:
    """One search."""

    routes: Routes
    effort: Effort = Effort()
    tell: Callable[[float], object] = lambda share: None

    def best(self, least: int = 0, most: int = Stops.most_stops) -> Found:
        """The best plan with so many stops of its own at least and at most; where none keeps the risk, the one with
        the least chance to pass a line."""
        routes, deep = self.routes, _Deep(routes=self.routes, most_nodes=self.effort.most_nodes, tell=self.tell)
        for n in range(least, most + 1):
            deep.best = None
            if routes.bound(n + len(routes.fixed), NOW) <= routes.limit:
                deep.grow(routes.start(), 0, n)
            exact = deep.nodes < deep.most_nodes
            if deep.best is not None:
                best = deep.best if exact else cheapened(routes, deep.best, routes.limit)
                return self._found(best, kept=True, exact=exact, least_stops=n)
            if not exact:
                return self._least_chance(most, n)
        return self._least_chance(most, most + 1)

    def _found(self, part: Route, *, kept: bool, exact: bool, least_stops: int, tolerated: int | None = None) -> Found:
        return Found(
            stops=part.stops,
            lost=self.routes.lost(part.stops),
            cost=part.cost,
            km=part.km,
            kept=kept,
            exact=exact,
            least_stops=least_stops,
            tolerated=self.routes.limit if kept else tolerated,
        )

    def _least_chance(self, most: int, least_stops: int) -> Found:
        """The plan for the least risk, in steps over the accepted one, that was found to be kept: at each step what
        reaches furthest with each stop. Where no step is kept, what loses least; a stop more then has to save one path
        in a hundred."""
        routes = self.routes
        steps = [min(int(routes.limit * each), routes.chance.n_paths) for each in Stops.relaxed]
        best, best_key = routes.with_fixed(routes.start()), (float("inf"), 0.0)
        for n, step in enumerate(steps):
            self.tell(n / len(steps))
            part, key = reaching(routes, step, most, self.effort.beam)
            best, best_key = min((best, best_key), (part, key), key=lambda each: each[1])
            if routes.kept_of(best.stops).bit_count() <= step:
                whole = cheapened(routes, best, step)
                return self._found(whole, kept=n == 0, exact=False, least_stops=least_stops, tolerated=step)
        return self._found(best, kept=False, exact=False, least_stops=least_stops)
