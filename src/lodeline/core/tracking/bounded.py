"""A log of any size followed at a bounded cost: what hands write is followed whole, a device's minutes thinned.

Readings of one sensor within hours of each other share its error, so that the ones between say little; and older days
add nothing to a level and next to nothing to a rate that recent days weigh more.
"""

from collections import Counter
from dataclasses import replace
from datetime import date, timedelta

from lodeline.core.figures import Tracking
from lodeline.core.log import Day, Log, Reading

# Where a shortened window begins moves on in steps, so that states kept along the way stay good between them.
_STEP_DAYS = 5


def bounded(n_stores: int, log: Log, today: date) -> Log:
    """The log as it is followed; the same one where that costs no more than `Tracking.most_cost`.

    Else the most of it that does: at most so many readings a store and day, then fewer days. Events stay.
    """
    if _cost(n_stores, log) <= Tracking.most_cost:
        return log
    kept = log
    for days in Tracking.window_days:
        recent = _since(log, today - timedelta(days=days))
        for a_day in Tracking.readings_a_day:
            kept = Log(tuple(_thinned(day, a_day) for day in recent.days))
            if _cost(n_stores, kept) <= Tracking.most_cost:
                return kept
    return kept


def _cost(n_stores: int, log: Log) -> float:
    """What a walk through a log costs, in readings."""
    if not log.days:
        return 0.0
    n_days = (log.days[-1].date - log.days[0].date).days + 1
    return n_stores * n_days * Tracking.day_cost + sum(len(day.readings) for day in log.days)


def _since(log: Log, start: date) -> Log:
    start -= timedelta(days=start.toordinal() % _STEP_DAYS)
    return Log(log.days[log.first_from(start) :])


def _thinned(day: Day, most: int) -> Day:
    """A day with at most so many readings of each store, spread over it; its last is always one of them."""
    total = Counter(each.store for each in day.readings)
    if max(total.values(), default=0) <= most:
        return day
    seen: Counter[str] = Counter()
    kept: list[Reading] = []
    for each in day.readings:
        n = total[each.store]
        seen[each.store] += 1
        # of n readings, the most that end evenly spread: the k-th is kept where k * most / n passes a whole number
        if n <= most or seen[each.store] * most // n > (seen[each.store] - 1) * most // n:
            kept.append(each)
    return replace(day, readings=tuple(kept))
