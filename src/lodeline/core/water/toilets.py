"""Toilets of all schools in people's terms: good for so many uses, until when; what a guest makes of it; fouling."""

from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime, timedelta
from uuid import UUID

from lodeline.core.catalogue import Effect, GaugeKind, Method, Toilet
from lodeline.core.figures import Use, Water
from lodeline.core.forecast.forecast import Forecast
from lodeline.core.log import Event, Log
from lodeline.core.rig import Rig, Store
from lodeline.core.statistics import Range
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass

_HOUR = timedelta(hours=1)


@dataclass(frozen=True, slots=True, kw_only=True)
class ToiletLeft:
    """What is left of a toilet's store. ``uses``: until its line; days from now to it, None beyond the horizon;
    ``guest_days``: with one guest more; ``spares``: full ones' places, a second cassette or bottle."""

    store: Store
    uses: Range
    use_unit: float
    p10_days: float | None
    p50_days: float | None
    p90_days: float | None
    guest_days: float | None
    spares: int


def use_of(store: Store) -> float:
    """What one use puts in, in the store's unit; 1 for a bin that is counted in uses. Common practice."""
    match store.kind.toilet:
        case Toilet.BLACK:
            return Water.black_use_l
        case Toilet.CASSETTE:
            return Water.cassette_use_l
        case _:
            return 1.0 if store.kind.amounts is Method.USES else Water.bottle_l


def usual_uses(store: Store) -> float:
    """How often a day one adult uses it, by common practice: what a day adds over one use. [1/day]"""
    match store.kind.toilet:
        case Toilet.BLACK:
            day = Use.black_l
        case Toilet.CASSETTE:
            day = Use.cassette_l
        case _:
            day = Use.solids_uses if store.kind.amounts is Method.USES else Use.urine_l
    return day / use_of(store)


def toilets(rig: Rig, tracked: Mapping[str, Tracked], ahead: Forecast) -> tuple[ToiletLeft, ...]:
    """Every toilet store that is known. One use is what the log shows a day over how often people go."""
    found = []
    for store in rig.stores:
        each = tracked.get(store.id)
        if store.kind.toilet is None or each is None or each.known_since is None:
            continue
        told = ahead.of(store.id)
        people = max(1.0, rig.crew.adult_equivalents)
        rate = max(told.rate_per_day or 0.0, _LEAST_RATE * use_of(store))
        one = rate / (people * usual_uses(store))
        low, high = each.level_range
        rooms = [max(0.0, store.line_level - level) / one for level in (high, each.level, low)]
        guest = None if told.p50_days is None else told.p50_days * people / (people + 1)
        found.append(
            ToiletLeft(
                store=store,
                uses=Range(*rooms),
                use_unit=one,
                p10_days=told.p10_days,
                p50_days=told.p50_days,
                p90_days=told.p90_days,
                guest_days=guest,
                spares=_spares(each),
            )
        )
    return tuple(found)


_LEAST_RATE = 0.2  # of the usual: uses left are told of a toilet that is used


def _spares(tracked: Tracked) -> int:
    """Empty cassettes or bottles that are aboard beside the one in use."""
    return int(tracked.reserve / tracked.store.capacity + 0.5) if tracked.reserve > 0 else 0


@dataclass(frozen=True, slots=True, kw_only=True)
class Fouled:
    """A gauge that showed something right after its tank was emptied: it is not clean, or not empty."""

    store: Store
    dumped_at: datetime
    dump_key: UUID | None
    read_at: datetime
    shown: float


def fouled(tracked: Iterable[Tracked], log: Log) -> tuple[Fouled, ...]:
    """Tanks whose gauge showed more right after the last time they were emptied than use has put in since.

    Those whose gauge is read with a floor already are left out, and so are those of which some was left in.
    """
    found = []
    for each in tracked:
        store = each.store
        if store.reads_from > 0 or store.gauge.kind not in _MAY_FOUL:
            continue
        dump = _last_dump(store, log)
        if dump is not None and (after := _first_after(store, log, dump.at)) is not None:
            at, shown = after
            usual = float(each.model.usual_x @ each.belief.coefficients) / store.capacity
            used = Water.fouled_times * usual * (at - dump.at) / timedelta(days=1)
            if shown >= Water.fouled_from + used:
                found.append(Fouled(store=store, dumped_at=dump.at, dump_key=dump.key, read_at=at, shown=shown))
    return tuple(found)


def _last_dump(store: Store, log: Log) -> Event | None:
    for day in reversed(log.days):
        for event in reversed(day.events):
            if event.store == store.id and event.row.effect is Effect.EMPTY:
                return event if event.left < Water.fouled_from else None
    return None


def _first_after(store: Store, log: Log, dump: datetime) -> tuple[datetime, float] | None:
    """The first that the gauge showed after a dump, as a share, while use cannot have filled it."""
    readings = (r for day in log.days for r in day.readings if r.store == store.id and r.at > dump)
    first = next(readings, None)
    if first is None or first.method not in _SHOWN or first.value is None:
        return None
    soon = first.at - dump <= Water.fouled_hours * _HOUR
    return (first.at, first.value) if soon else None


_MAY_FOUL = (GaugeKind.SENSOR, GaugeKind.STEPS)
_SHOWN: Sequence[Method] = (Method.FRACTION, Method.STEP)
