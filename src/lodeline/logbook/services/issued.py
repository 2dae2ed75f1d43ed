"""Keeping score: every forecast that was shown, and how it turned out."""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import asdict, field
from datetime import UTC, datetime, timedelta

from django.db import transaction
from django.db.models import Q

from lodeline.core.catalogue import Effect
from lodeline.core.forecast.forecast import Forecast
from lodeline.core.forecast.score import Issued, Outcome, OutcomeKind, baseline_days, judge
from lodeline.core.forecast.seen import NOTICES, IssuedLevels, LevelAhead, Seen, issued_levels, seen, spread_scale
from lodeline.core.log import Log
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass
from lodeline.core.zone import Zone
from lodeline.logbook import models as m

_COLUMNS = ("at", "p10_days", "p50_days", "p90_days", "baseline_days")
# When every notice of a forecast is over.
_SEEN_AFTER = timedelta(days=NOTICES[-1] + 1)


def keep(rig: m.Rig, ahead: Forecast, tracked: Mapping[str, Tracked], log: Log) -> None:
    """Keep what was shown to somebody, at most one forecast an hour, and write down outcomes that are known by now.

    It is not a write to the log: the revision stays.
    """
    keys = dict(m.Store.objects.filter(rig=rig).values_list("slug", "pk"))
    hour = ahead.at.astimezone(UTC).replace(minute=0, second=0, microsecond=0)
    rows = [
        m.IssuedForecast(
            store_id=keys[each.store.id],
            hour=hour,
            at=ahead.at,
            p10_days=each.p10_days,
            p50_days=each.p50_days,
            p90_days=each.p90_days,
            baseline_days=baseline_days(tracked[each.store.id]),
            levels=[[one.days, one.p10, one.p50, one.p90] for one in issued_levels(each, ahead.at)],
        )
        for each in ahead.stores
        if each.known and each.store.id in keys and not each.is_past_line
    ]
    with transaction.atomic():
        _settle(rig, tracked, ahead.at, charges_of(log))
        m.IssuedForecast.objects.bulk_create(
            rows, update_conflicts=True, update_fields=[*_COLUMNS, "levels"], unique_fields=["store", "hour"]
        )


def _issued(row: m.IssuedForecast) -> Issued:
    return Issued(store=row.store.slug, **{name: getattr(row, name) for name in _COLUMNS})


def _outcome(row: m.IssuedForecast, tracked: Mapping[str, Tracked], now: datetime) -> Outcome | None:
    """What came true of a forecast, as written down or as known by now."""
    if row.outcome is not None and row.outcome_days is not None:
        return Outcome(OutcomeKind(row.outcome), row.outcome_days)
    each = tracked.get(row.store.slug)
    return judge(_issued(row), each, now) if each and row.at < now else None


def _seen(row: m.IssuedForecast, tracked: Mapping[str, Tracked], charged: Sequence[datetime]) -> list[Seen]:
    """The readings that were held against a forecast, as written down or as known by now."""
    if row.seen is not None:
        return [Seen(**{**each, "at": datetime.fromisoformat(each["at"])}) for each in row.seen]
    each = tracked.get(row.store.slug)
    if each is None or not row.levels:
        return []
    said = IssuedLevels(
        at=row.at, levels=tuple(LevelAhead(days=n, p10=low, p50=mid, p90=high) for n, low, mid, high in row.levels)
    )
    return seen(said, each, charged)


def _written(seen: Seen) -> dict[str, object]:
    return asdict(seen) | {"at": seen.at.isoformat()}


def _settle(rig: m.Rig, tracked: Mapping[str, Tracked], now: datetime, charged: Sequence[datetime]) -> None:
    """Write down the outcomes that are known by now, before the history that tells them is too old."""
    settled = []
    is_open = Q(outcome=None) | Q(seen=None)
    for row in m.IssuedForecast.objects.filter(is_open, store__rig=rig).select_related("store"):
        before = (row.outcome, row.seen)
        outcome = _outcome(row, tracked, now)
        if outcome is not None:
            row.outcome, row.outcome_days = outcome.kind, outcome.days
        if row.seen is None and row.at < now - _SEEN_AFTER:
            row.seen = [_written(each) for each in _seen(row, tracked, charged)]
        if (row.outcome, row.seen) != before:
            settled.append(row)
    m.IssuedForecast.objects.bulk_update(settled, ["outcome", "outcome_days", "seen"], batch_size=200)


def charges_of(log: Log) -> list[datetime]:
    """When a log says that the bank was charged otherwise than by the sun."""
    return [event.at for day in log.days for event in day.events if event.row.effect in (Effect.CHARGE, Effect.DRIVE)]


@dataclass
class StoreRecord:
    """A store's forecasts that are settled, oldest first, how many are still open, and the readings held against
    them."""

    settled: list[tuple[Issued, Outcome]] = field(default_factory=list)
    seen: list[Seen] = field(default_factory=list)
    still_open: int = 0

    @property
    def shown(self) -> int:
        """How many were shown."""
        return len(self.settled) + self.still_open


def record(rig: m.Rig, tracked: Mapping[str, Tracked], now: datetime, log: Log) -> dict[str, StoreRecord]:
    """The record of each store; of each local date the last forecast that was shown stands."""
    zone = Zone(rig.timezone)
    last: dict[tuple[str, object], m.IssuedForecast] = {}
    for row in m.IssuedForecast.objects.filter(store__rig=rig).select_related("store").order_by("at", "id"):
        last[row.store.slug, zone.date(row.at)] = row
    records: dict[str, StoreRecord] = defaultdict(StoreRecord)
    charged = charges_of(log)
    for row in last.values():
        outcome = _outcome(row, tracked, now)
        mine = records[row.store.slug]
        mine.seen += _seen(row, tracked, charged)
        if outcome is None:
            mine.still_open += 1
        else:
            mine.settled.append((_issued(row), outcome))
    return records


def scales(rig: m.Rig, tracked: Mapping[str, Tracked], now: datetime, log: Log) -> dict[str, float]:
    """How much wider or narrower the spread of each store's use should be by its record."""
    return {store: spread_scale(mine.seen) for store, mine in record(rig, tracked, now, log).items()}
