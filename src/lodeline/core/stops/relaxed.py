"""A plan where the exact search does not end in time: what weighs less of the best that was found."""

from bisect import bisect_left, bisect_right
from collections.abc import Iterator, Sequence

from lodeline.core.stops.outings import Outing
from lodeline.core.stops.routes import Route, Routes


def lighter(routes: Routes, part: Route, least: int = 0) -> Route:
    """A plan, of so many outings of its own at least, with one outing after another left out, or changed for one that
    weighs less, under the same limit."""
    best, better = part, True
    while better:
        better = False
        for index, outing in enumerate(best.outings):
            if outing.is_fixed:
                continue
            before, after = routes.whole(best.outings[:index]), best.outings[index + 1 :]
            instead = () if routes.own(best) <= least else (None,)
            for option in (*instead, *_in_place_of(routes, best.outings, index)):
                whole = routes.whole(after, routes.add(before, option) if option else before)
                if _weighs(whole) < _weighs(best) and routes.keeps(routes.lost_of(whole)):
                    best, better = whole, True
                    break
            if better:
                break
    return best


def _weighs(part: Route) -> tuple[float, ...]:
    return (len(part.outings), *part.weight)


def _in_place_of(routes: Routes, outings: Sequence[Outing], index: int) -> Iterator[Outing]:
    """What could be done in place of an outing, what weighs least first."""
    if routes.setting.moves:
        return
    from_h = outings[index - 1].end_h if index else 0.0
    until_h = outings[index + 1].leave_h if index + 1 < len(outings) else routes.chance.end_h
    between = routes.options[bisect_left(routes.starts, from_h) : bisect_right(routes.starts, until_h)]
    for option in sorted(between, key=lambda each: (len(each.visits), each.fixed_cost, each.km)):
        if (len(option.visits), option.fixed_cost) > (len(outings[index].visits), outings[index].fixed_cost):
            return
        if option.leave_h >= from_h and option.end_h <= until_h:
            yield option
