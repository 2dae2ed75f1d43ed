"""Plans made outing by outing: what one can follow is found soon so, where the exact search takes long or does not end.

A beam search: of the plans in part of one length those are kept with which one can stay longest, and of those that lose
as much.
"""

from bisect import bisect_left
from collections.abc import Iterator

from lodeline.core.figures import Stops
from lodeline.core.stops.outings import Outing
from lodeline.core.stops.routes import Route, Routes


def onward(routes: Routes, most: int, first: float, width: int) -> Iterator[Route]:
    """Whole plans of so many outings of their own at most. One sets out late, on the outing after which one can stay
    longest; each may take its share of what may be lost, ``first`` at the beginning."""
    beam = [routes.start()]
    for _ in range(most + len(routes.fixed) + 1):
        ended = [part for part in beam if _is_whole(routes, part, first)]
        yield from ended
        if any(routes.keeps(routes.lost_of(each)) for each in ended):
            return
        grown: dict[tuple[float, ...], tuple[tuple[float, ...], Route]] = {}
        for part in beam:
            if not any(part is each for each in ended):
                for weighs, each in _grown(routes, part, first):
                    if each.since not in grown or weighs > grown[each.since][0]:
                        grown[each.since] = weighs, each
        beam = [each for _, each in sorted(grown.values(), key=lambda each: each[0], reverse=True)[:width]]


def _free_from(part: Route) -> float:
    return part.outings[-1].end_h if part.outings else 0.0


def _next_fixed(routes: Routes, part: Route) -> Outing | None:
    """The next outing that every plan makes."""
    made = sum(each.is_fixed for each in part.outings)
    return routes.fixed[made] if made < len(routes.fixed) else None


def _times(routes: Routes, part: Route, until_h: float) -> list[float]:
    return routes.between(part, _free_from(part), until_h, routes.chance.n_paths)


def _is_whole(routes: Routes, part: Route, first: float) -> bool:
    """Whether nothing more has to be done, or can be."""
    end_h = routes.chance.end_h
    is_left = _next_fixed(routes, part) is not None
    return not is_left and (not _times(routes, part, end_h) or _may(routes, part, end_h, first))


def _grown(routes: Routes, part: Route, first: float) -> Iterator[tuple[tuple[float, ...], Route]]:
    """The plans with one more outing, and what each weighs: more is better."""
    fixed, end_h = _next_fixed(routes, part), routes.chance.end_h
    until_h = fixed.leave_h if fixed is not None else end_h
    times = _times(routes, part, until_h)
    held = [at_h for at_h in times if _may(routes, part, at_h, first)]
    begun = held[-Stops.onward_looks :] or times[: Stops.onward_looks]
    made = [routes.from_last(part, each) for begins in begun for each in routes.beginning(begins)]
    for option in [*made, *([fixed] if fixed is not None else [])]:
        is_last = option is fixed or option.end_h <= until_h
        if not is_last or option.leave_h < _free_from(part) or routes.is_too_late(part, option):
            continue
        grown = routes.add(part, option)
        over = max(0, grown.lost.bit_count() - _allowed(routes, part, option.leave_h, first))
        stays = _stays(routes, grown, first)
        yield (-over, stays, -grown.n_stops, -grown.lost.bit_count(), -grown.cost), grown


def _stays(routes: Routes, part: Route, first: float) -> float:
    """Until when one can stay after the last outing, as long as no more is lost than may be."""
    times = _times(routes, part, routes.chance.end_h)
    n_held = bisect_left(times, True, key=lambda at_h: not _may(routes, part, at_h, first))
    return times[n_held - 1] if n_held else _free_from(part)


def _may(routes: Routes, part: Route, at_h: float, first: float) -> bool:
    lost = part.lost | routes.lost_by(part, at_h)
    return lost.bit_count() <= _allowed(routes, part, at_h, first)


def _allowed(routes: Routes, part: Route, at_h: float, first: float) -> int:
    """The paths that may be lost by a time: their share of the risk, and a little where that is spent."""
    share = first + (1 - first) * at_h / routes.chance.end_h
    return max(int(share * routes.limit), part.lost.bit_count() + routes.limit // Stops.onward_shares)
