"""Keeping score: every forecast that was shown, and how it turned out."""

from collections import defaultdict
from datetime import datetime

from lodeline.core.forecast.forecast import Forecast
from lodeline.core.forecast.score import Outcome, Shown, judge, pencil_days, spread_factor
from lodeline.core.tracking.track import Tracked
from lodeline.logbook import models as m
from lodeline.logbook.services.record import local_date

Record = list[tuple[Shown, Outcome]]


def keep(rig: m.Rig, found: Forecast, tracked: dict[str, Tracked]) -> None:
    """Keep what was shown; the last of a day stands for that day. It is not a write to the log."""
    stores = {row.slug: row for row in m.Store.objects.filter(rig=rig)}
    on = local_date(rig, found.at)
    rows = [
        m.ShownForecast(
            store=stores[each.store.id], date=on, at=found.at, p10_days=each.p10_days, p50_days=each.p50_days,
            p90_days=each.p90_days, pencil_days=pencil_days(tracked[each.store.id]),
        )
        for each in found.stores
        if each.known and each.store.id in stores and each.p50_days != 0
    ]  # fmt: skip
    fields = ["at", "p10_days", "p50_days", "p90_days", "pencil_days"]
    m.ShownForecast.objects.bulk_create(
        rows, update_conflicts=True, update_fields=fields, unique_fields=["store", "date"]
    )


def _shown(row: m.ShownForecast) -> Shown:
    return Shown(row.store.slug, row.at, row.p10_days, row.p50_days, row.p90_days, row.pencil_days)


def settle(rig: m.Rig, tracked: dict[str, Tracked], now: datetime) -> None:
    """Write down the outcomes that are known by now."""
    open_rows = m.ShownForecast.objects.filter(store__rig=rig, outcome=None, at__lt=now).select_related("store")
    for row in open_rows:
        found = judge(_shown(row), tracked[row.store.slug], now) if row.store.slug in tracked else None
        if found is not None:
            row.outcome, row.outcome_days = found.kind, found.days
            row.save(update_fields=["outcome", "outcome_days"])


def record(rig: m.Rig) -> tuple[dict[str, Record], dict[str, int]]:
    """Settled forecasts by store, oldest first, and how many are still open."""
    settled: dict[str, Record] = defaultdict(list)
    still_open: dict[str, int] = defaultdict(int)
    for row in m.ShownForecast.objects.filter(store__rig=rig).select_related("store"):
        if row.outcome is None or row.outcome_days is None:
            still_open[row.store.slug] += 1
        else:
            settled[row.store.slug].append((_shown(row), Outcome(row.outcome, row.outcome_days)))
    return settled, still_open


def factors(rig: m.Rig) -> dict[str, float]:
    """How much wider or narrower each store's ranges should be by its record."""
    settled, _ = record(rig)
    return {store: spread_factor(found) for store, found in settled.items()}
