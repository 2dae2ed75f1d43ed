"""Plans where the exact search finds none in time: what reaches furthest with each stop, and what costs less of it."""

from bisect import bisect_left, bisect_right
from collections.abc import Iterator, Sequence
from functools import reduce
from operator import or_

from lodeline.core.figures import Stops
from lodeline.core.stops.options import Option
from lodeline.core.stops.routes import Route, Routes

# How many of the most promising plans have their banks walked, where none keeps the risk.
_WALKED = 4


def reaching(routes: Routes, tolerated: int, most: int, beam: int) -> tuple[Route, tuple[float, float]]:
    """The plan that reaches furthest under a number of lost paths, with the fewest stops that reach as far; and how
    it stands where none reaches the end."""
    layer = [routes.start()]
    best, best_key = routes.with_fixed(routes.start()), (float("inf"), 0.0)
    a_stop = Stops.stop_saves * routes.chance.n_paths
    for _ in range(most + 1):
        for part in layer[:_WALKED]:
            whole = routes.with_fixed(part)
            lost = routes.lost_of_each(whole.stops)
            union = reduce(or_, lost, 0).bit_count()
            # of plans alike, what keeps the most stores
            beside = sum(each.bit_count() for each in lost) / max(1, len(lost))
            key = (union + beside + a_stop * len(whole.stops), whole.cost)
            if union <= tolerated:
                return whole, key
            if key < best_key:
                best, best_key = whole, key
        if not layer or _reach(routes, layer[0], tolerated) >= routes.chance.end_h:
            break
        layer = _promising(routes, layer, tolerated, beam)
    return best, best_key


def cheapened(routes: Routes, part: Route, limit: int) -> Route:
    """A plan with one stop after another changed for a cheaper one, as long as no more paths are lost."""
    best, better = part, True
    while better:
        better = False
        for index, stop in enumerate(best.stops):
            if stop.is_fixed:
                continue
            for option in _in_place_of(routes, best.stops, index):
                stops = (*best.stops[:index], option, *best.stops[index + 1 :])
                whole = routes.whole(stops)
                if (whole.cost, whole.km) < (best.cost, best.km) and routes.kept_of(stops).bit_count() <= limit:
                    best, better = whole, True
                    break
    return best


def _in_place_of(routes: Routes, stops: Sequence[Option], index: int) -> Iterator[Option]:
    """What could be done in place of a stop, the cheapest first."""
    from_h = stops[index - 1].depart_h if index else 0.0
    until_h = stops[index + 1].leave_h if index + 1 < len(stops) else routes.chance.end_h
    if routes.setting.moves:
        return
    between = routes.options[bisect_right(routes.starts, from_h) : bisect_right(routes.starts, until_h)]
    for option in sorted(between, key=lambda each: (each.fixed_cost, each.km)):
        if option.leave_h >= from_h and option.depart_h <= until_h:
            yield option


def _reach(routes: Routes, part: Route, tolerated: int) -> float:
    """The last time through which a plan in part loses no more than is tolerated. [h]"""
    since_h = part.stops[-1].arrive_h if part.stops else 0.0
    times = [since_h, *routes.times[bisect_right(routes.times, since_h) :], routes.chance.end_h]

    def fails(at_h: float) -> bool:
        return (part.lost | routes.lost_by(part, at_h) | routes.driven_dry(part, at_h)).bit_count() > tolerated

    return times[max(0, bisect_left(times, True, key=fails) - 1)]


def _promising(routes: Routes, layer: Sequence[Route], tolerated: int, beam: int) -> list[Route]:
    """The plans with one more stop that reach furthest, of each kind."""
    grown: list[tuple[tuple[float, int, float], Route]] = []
    for part in layer:
        free_from, until = part.stops[-1].depart_h if part.stops else 0.0, _reach(routes, part, tolerated)
        begin, end = bisect_right(routes.starts, free_from), bisect_right(routes.starts, until)
        # a stop is made late, but not on the last occasion alone
        late = bisect_right(routes.starts, until - Stops.late_h)
        for option in routes.options[max(begin, late) : end] or routes.options[begin : begin + beam]:
            if not part.stops and routes.by_h is not None and option.arrive_h > routes.by_h:
                break
            option = routes.from_last(part, option)
            if option.leave_h >= free_from:
                new = routes.add(part, option)
                reach = _reach(routes, new, tolerated)
                lost = (new.lost | routes.lost_by(new, reach)).bit_count()
                grown.append(((-reach, lost, new.cost), new))
    grown.sort(key=lambda each: each[0])
    return [part for _, part in grown[:beam]]
