"""Keeping score: every forecast that was shown, and how it turned out."""

from collections import defaultdict
from dataclasses import dataclass, field
from datetime import UTC, datetime

from django.db import transaction

from lodeline.core.forecast.forecast import Forecast
from lodeline.core.forecast.score import Issued, Outcome, OutcomeKind, baseline_days, judge, spread_scale
from lodeline.core.tracking.track import Tracked
from lodeline.core.zone import Zone
from lodeline.logbook import models as m

_COLUMNS = ("at", "p10_days", "p50_days", "p90_days", "baseline_days")


def keep(rig: m.Rig, ahead: Forecast, tracked: dict[str, Tracked]) -> None:
    """Keep what was shown to somebody, at most one forecast an hour, and write down outcomes that are known by now.

    It is not a write to the log: the revision stays.
    """
    keys = dict(m.Store.objects.filter(rig=rig).values_list("slug", "pk"))
    hour = ahead.at.astimezone(UTC).replace(minute=0, second=0, microsecond=0)
    rows = [
        m.IssuedForecast(
            store_id=keys[each.store.id], hour=hour, at=ahead.at, p10_days=each.p10_days, p50_days=each.p50_days,
            p90_days=each.p90_days, baseline_days=baseline_days(tracked[each.store.id]),
        )
        for each in ahead.stores
        if each.known and each.store.id in keys and not each.is_past_line
    ]  # fmt: skip
    with transaction.atomic():
        _settle(rig, tracked, ahead.at)
        m.IssuedForecast.objects.bulk_create(
            rows, update_conflicts=True, update_fields=list(_COLUMNS), unique_fields=["store", "hour"]
        )


def _issued(row: m.IssuedForecast) -> Issued:
    return Issued(store=row.store.slug, **{name: getattr(row, name) for name in _COLUMNS})


def _outcome(row: m.IssuedForecast, tracked: dict[str, Tracked], now: datetime) -> Outcome | None:
    """What came true of a forecast, as written down or as known by now."""
    if row.outcome is not None and row.outcome_days is not None:
        return Outcome(OutcomeKind(row.outcome), row.outcome_days)
    each = tracked.get(row.store.slug)
    return judge(_issued(row), each, now) if each and row.at < now else None


def _settle(rig: m.Rig, tracked: dict[str, Tracked], now: datetime) -> None:
    """Write down the outcomes that are known by now, before the history that tells them is too old."""
    settled = []
    for row in m.IssuedForecast.objects.filter(store__rig=rig, outcome=None).select_related("store"):
        outcome = _outcome(row, tracked, now)
        if outcome is not None:
            row.outcome, row.outcome_days = outcome.kind, outcome.days
            settled.append(row)
    m.IssuedForecast.objects.bulk_update(settled, ["outcome", "outcome_days"], batch_size=200)


@dataclass
class StoreRecord:
    """A store's forecasts that are settled, oldest first, and how many are still open."""

    settled: list[tuple[Issued, Outcome]] = field(default_factory=list)
    still_open: int = 0

    @property
    def shown(self) -> int:
        """How many were shown."""
        return len(self.settled) + self.still_open


def record(rig: m.Rig, tracked: dict[str, Tracked], now: datetime) -> dict[str, StoreRecord]:
    """The record of each store; of each local date the last forecast that was shown stands."""
    zone = Zone(rig.timezone)
    last: dict[tuple[str, object], m.IssuedForecast] = {}
    for row in m.IssuedForecast.objects.filter(store__rig=rig).select_related("store").order_by("at", "id"):
        last[row.store.slug, zone.date(row.at)] = row
    records: dict[str, StoreRecord] = defaultdict(StoreRecord)
    for row in last.values():
        outcome = _outcome(row, tracked, now)
        mine = records[row.store.slug]
        if outcome is None:
            mine.still_open += 1
        else:
            mine.settled.append((_issued(row), outcome))
    return records


def scales(rig: m.Rig, tracked: dict[str, Tracked], now: datetime) -> dict[str, float]:
    """How much wider or narrower each store's ranges should be by its record."""
    return {store: spread_scale(mine.settled) for store, mine in record(rig, tracked, now).items()}
