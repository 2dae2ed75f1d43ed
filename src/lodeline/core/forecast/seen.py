"""Keeping score by what is always seen: the next readings, and what was used until then.

A line is seldom reached, since people stop before it; a reading comes nearly every day. The level that a forecast had
for a day, three and seven ahead, with the gauge's error, is held against the reading that was then taken. What was
filled or emptied meanwhile is taken out, so that the use is compared across a stop.
"""

from bisect import bisect_left, bisect_right
from collections.abc import Iterable, Sequence
from datetime import datetime, timedelta
from itertools import islice, pairwise, takewhile
from operator import attrgetter
from statistics import NormalDist

import numpy as np

from lodeline.core.catalogue import GaugeKind, Method
from lodeline.core.figures import Forecasting, Numeric
from lodeline.core.forecast.forecast import StoreForecast
from lodeline.core.log import Reading
from lodeline.core.rig import Store
from lodeline.core.statistics import P10, P90, Z90, Floats, normal_below, normal_density
from lodeline.core.tracking.evidence import Evidence, evidence, gauge_error, panel_span
from lodeline.core.tracking.hypothesis import Cause
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass

_DAY = timedelta(days=1)
NOTICES = Forecasting.seen_notices


@dataclass(frozen=True, slots=True, kw_only=True)
class LevelAhead:
    """The contents that were expected so many days ahead: the middle and the ends of 8 in 10."""

    days: float
    p10: float
    p50: float
    p90: float


@dataclass(frozen=True, slots=True, kw_only=True)
class IssuedLevels:
    """What a forecast said of a store's contents: now, and at each notice."""

    at: datetime
    levels: tuple[LevelAhead, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Seen:
    """A reading against a forecast of some days before.

    ``pit``: the chance that the forecast gave to less than what was read (the probability integral transform; of a mark
    the middle of its span); ``crps``: continuous ranked probability score, of a mark the ranked probability score, as
    shares of capacity; ``of_use``: part of the forecast's variance that is of use; ``weight``: less than 1 where such
    windows overlap.
    """

    notice_days: int
    at: datetime
    pit: float
    crps: float
    of_use: float
    weight: float

    @property
    def held(self) -> bool:
        """Whether it lay in the range of 8 in 10."""
        return P10 <= self.pit <= P90

    @property
    def score(self) -> float:
        """The normal score of the transform."""
        tiny = Forecasting.seen_least_chance
        return NormalDist().inv_cdf(min(max(self.pit, tiny), 1 - tiny))


def issued_levels(ahead: StoreForecast, at: datetime) -> tuple[LevelAhead, ...]:
    """What is kept of a forecast for this: now, and at each notice, from its fan."""
    if not ahead.fan:
        return ()
    days = np.array([(band.at - at) / _DAY for band in ahead.fan])
    ends = [np.array([getattr(band, name) for band in ahead.fan]) for name in ("p10", "p50", "p90")]
    wanted = [0.0, *(float(n) for n in NOTICES if n <= days[-1])]
    told = ((day, *(float(np.interp(day, days, end)) for end in ends)) for day in wanted)
    return tuple(LevelAhead(days=day, p10=low, p50=middle, p90=high) for day, low, middle, high in told)


def seen(issued: IssuedLevels, tracked: Tracked, charged: Sequence[datetime] = ()) -> list[Seen]:
    """Every notice of a forecast at which a reading was taken, held against it.

    ``charged``: when the bank was charged otherwise than by the sun, which no forecast knew of.
    """
    found = []
    for notice in NOTICES:
        reading = _nearest(issued, tracked, notice)
        if reading is None or len(issued.levels) < 2:
            continue
        if tracked.store.is_bank and any(issued.at < at <= reading.at for at in charged):
            continue
        each = _held_against(issued, tracked, notice, reading)
        if each is not None:
            found.append(each)
    return found


def _nearest(issued: IssuedLevels, tracked: Tracked, notice: int) -> Reading | None:
    """The reading nearest to so many days after a forecast; doubted ones do not count."""
    wanted, within = issued.at + notice * _DAY, Forecasting.seen_within * _DAY
    first = bisect_left(tracked.compared, wanted - within, key=_WHEN)
    near = [
        each.reading
        for each in takewhile(lambda each: each.at <= wanted + within, islice(tracked.compared, first, None))
        if each.fits is not None and each.reading not in tracked.doubted
    ]
    return min(near, key=lambda reading: abs(reading.at - wanted), default=None)


_WHEN = attrgetter("at")


@dataclass(frozen=True, slots=True)
class _Moved:
    """What acts moved in a time, and its error; ``unknown`` where the level was lost meanwhile."""

    amount: float
    variance: float
    unknown: bool


def _moved(tracked: Tracked, since: datetime, until: datetime) -> _Moved:
    amount = variance = 0.0
    history = tracked.history
    first, last = (bisect_right(history, at, key=lambda point: point.at) for at in (since, until))
    for before, point in pairwise(history[max(0, first - 1) : last]):
        if point.cause is Cause.LOST:
            return _Moved(0.0, 0.0, True)
        if point.cause is Cause.EVENT:
            amount += point.level - before.level
            variance += before.sd**2
    return _Moved(amount, variance, False)


def _held_against(issued: IssuedLevels, tracked: Tracked, notice: int, reading: Reading) -> Seen | None:
    store, moved = tracked.store, _moved(tracked, issued.at, reading.at)
    given = evidence(store, reading)
    days = (reading.at - issued.at) / _DAY
    known = np.array([each.days for each in issued.levels])
    low, middle, high = (
        float(np.interp(days, known, [getattr(each, name) for each in issued.levels])) for name in ("p10", "p50", "p90")
    )
    edge = Numeric.small + Forecasting.seen_edge * store.capacity
    if moved.unknown or given.silent or given.any_of or low < edge or high > store.capacity - edge:
        return None  # what piles up at an end says nothing of use
    first = issued.levels[0]
    var, var_now = (((top - bottom) / (2 * Z90)) ** 2 for top, bottom in ((high, low), (first.p90, first.p10)))
    error = gauge_error(store)
    bias_sd = error.bias_sd(middle / store.capacity) * store.capacity
    own = (given.sd if given.value is not None else 0.0) ** 2 + bias_sd**2
    total = var + moved.variance + own
    sd = float(np.sqrt(max(total, Numeric.tiny_variance)))
    centre = middle + moved.amount
    pit, crps = _of_mark(store, reading, centre, sd) if given.bands else _of_value(given, centre, sd)
    return Seen(
        notice_days=notice,
        at=reading.at,
        pit=pit,
        crps=crps / (1.0 if given.bands else store.capacity),
        of_use=max(0.0, var - var_now) / total,
        weight=1.0 / notice,
    )


def _of_value(given: Evidence, centre: float, sd: float) -> tuple[float, float]:
    z = ((given.value or 0.0) - centre) / sd
    return normal_below(z), sd * normal_crps(z)


def normal_crps(z: float) -> float:
    """CRPS of a standard normal forecast (Gneiting and Raftery 2007): z (2 Phi(z) - 1) + 2 phi(z) - 1/sqrt(pi)."""
    return float(z * (2 * normal_below(z) - 1) + 2 * normal_density(z) - 1 / np.sqrt(np.pi))


def _of_mark(store: Store, reading: Reading, centre: float, sd: float) -> tuple[float, float]:
    """The transform and the ranked probability score of a panel's mark."""
    if reading.method is not Method.STEP or store.gauge.kind is not GaugeKind.STEPS:
        span = evidence(store, reading).span
        middle = (span[0] + span[1]) / 2
        return normal_below((middle - centre) / sd), abs(middle - centre) / store.capacity
    marks = store.gauge.marks
    below = np.array([normal_below((panel_span(store, m)[1] * store.capacity - centre) / sd) for m in marks[:-1]])
    shown = min(range(len(marks)), key=lambda i: abs(marks[i] - (reading.value or 0.0)))
    cumulative = np.concatenate([[0.0], below, [1.0]])
    return float(cumulative[shown] + cumulative[shown + 1]) / 2, ranked_probability_score(below, shown)


def ranked_probability_score(below: Floats, shown: int) -> float:
    """Ranked probability score (Epstein 1969; Murphy 1971): the mean square of what is forecast to lie at or under each
    category but the last, less what did. ``below``: those chances, shape (n - 1,)."""
    did = (np.arange(len(below)) >= shown).astype(float)
    return float(np.mean((below - did) ** 2)) if len(below) else 0.0


def spread_scale(record: Iterable[Seen]) -> float:
    """How much wider or narrower the spread of a store's use should be by what was seen, cautiously.

    Squared normal scores have the mean 1 where the spread is right. Only the part of a forecast that is of use can be
    mended here; windows that overlap count for less; twenty cases of common sense stand against it.
    """
    known = list(record)
    weight = np.array([each.weight for each in known])
    use = np.array([each.of_use for each in known])
    miss = np.square(np.clip([each.score for each in known], -Forecasting.seen_most_score, Forecasting.seen_most_score))
    prior = Forecasting.record_prior
    squared = (prior + float(weight @ (use**2 * miss))) / (prior + float(weight @ use**2))
    least, most = Forecasting.scale_least, Forecasting.scale_most
    return float(np.clip(np.sqrt(max(squared, least**2)), least, most))


@dataclass(frozen=True, slots=True, kw_only=True)
class SeenSummary:
    """Readings at one notice: how many, how many lay in the range of 8 in 10, and the mean score, a share."""

    notice_days: int
    n: int
    held: int
    crps: float

    @property
    def should(self) -> int:
        """How many should have."""
        return round(Forecasting.wanted * self.n)


def by_notice_seen(record: Iterable[Seen]) -> list[SeenSummary]:
    """What was seen, by notice."""
    known = list(record)
    rows = []
    for notice in NOTICES:
        mine = [each for each in known if each.notice_days == notice]
        crps = float(np.mean([each.crps for each in mine])) if mine else 0.0
        rows.append(SeenSummary(notice_days=notice, n=len(mine), held=sum(e.held for e in mine), crps=crps))
    return rows
