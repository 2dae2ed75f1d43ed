"""Keeping score: every forecast that was shown, and how it turned out."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict
from datetime import UTC, datetime, timedelta

from django.db import transaction
from django.db.models import Q

from lodeline.core.figures import Forecasting
from lodeline.core.forecast.forecast import Forecast
from lodeline.core.forecast.record import ShownForecast, charges_of
from lodeline.core.forecast.score import Issued, Outcome, OutcomeKind, baseline_days
from lodeline.core.forecast.seen import NOTICES, LevelAhead, Seen, issued_levels
from lodeline.core.log import Log
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.zone import Zone
from lodeline.logbook import models as m
from lodeline.logbook.services.shared import AT_HAND, place

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
        _thin(rig, ahead.at)


def _thin(rig: m.Rig, now: datetime) -> None:
    """Throw away what nothing looks back to: of settled forecasts all but the last of each local date, after a year all
    but the last of each week; receipts of writes that no device waits for any more."""
    zone, year_ago = Zone(rig.timezone), now - timedelta(days=Forecasting.kept_daily_days)
    settled = m.IssuedForecast.objects.filter(store__rig=rig, at__lt=now - _SEEN_AFTER).exclude(
        Q(outcome=None) | Q(seen=None)
    )
    last: dict[tuple[int, object], int] = {}
    over = []
    for pk, store, at in settled.order_by("at", "id").values_list("pk", "store_id", "at"):
        on = zone.date(at)
        when = (store, on if at > year_ago else on.isocalendar()[:2])
        if when in last:
            over.append(last[when])
        last[when] = pk
    for begin in range(0, len(over), _AT_ONCE):
        m.IssuedForecast.objects.filter(pk__in=over[begin : begin + _AT_ONCE]).delete()
    m.Receipt.objects.filter(rig=rig, at__lt=now - timedelta(days=Forecasting.receipts_kept_days)).delete()


def _shown(row: m.IssuedForecast) -> ShownForecast:
    outcome = seen = None
    if row.outcome is not None and row.outcome_days is not None:
        outcome = Outcome(OutcomeKind(row.outcome), row.outcome_days)
    if row.seen is not None:
        seen = tuple(Seen(**{**each, "at": datetime.fromisoformat(each["at"])}) for each in row.seen)
    return ShownForecast(
        issued=Issued(store=row.store.slug, **{name: getattr(row, name) for name in _COLUMNS}),
        levels=tuple(LevelAhead(days=n, p10=low, p50=mid, p90=high) for n, low, mid, high in row.levels or ()),
        outcome=outcome,
        seen=seen,
    )


def _written(seen: Seen) -> dict[str, object]:
    return asdict(seen) | {"at": seen.at.isoformat()}


def _settle(rig: m.Rig, tracked: Mapping[str, Tracked], now: datetime, charged: Sequence[datetime]) -> None:
    """Write down the outcomes that are known by now, before the history that tells them is too old."""
    settled = []
    is_open = Q(outcome=None) | Q(seen=None)
    for row in m.IssuedForecast.objects.filter(is_open, store__rig=rig).select_related("store"):
        before = (row.outcome, row.seen)
        shown = _shown(row)
        outcome = shown.came(tracked, now)
        if outcome is not None:
            row.outcome, row.outcome_days = outcome.kind, outcome.days
        if row.seen is None and row.at < now - _SEEN_AFTER:
            row.seen = [_written(each) for each in shown.held_against(tracked, charged)]
        if (row.outcome, row.seen) != before:
            settled.append(row)
    m.IssuedForecast.objects.bulk_update(settled, ["outcome", "outcome_days", "seen"], batch_size=200)


def shown(rig: m.Rig) -> tuple[ShownForecast, ...]:
    """The forecasts that were shown, oldest first; of each local date the last one stands."""
    zone = Zone(rig.timezone)
    rows = m.IssuedForecast.objects.filter(store__rig=rig).order_by("at", "id")
    last = {(slug, zone.date(at)): (pk, at) for pk, slug, at in rows.values_list("pk", "store__slug", "at")}
    known = _at_hand(rig, dict(last.values()))
    return tuple(known[pk] for pk, _ in last.values())


def _at_hand(rig: m.Rig, wanted: Mapping[int, datetime]) -> dict[int, ShownForecast]:
    """Forecasts by their keys and times. What is settled stays as it is: this process reads it once."""
    where = place("issued", rig)
    _, held = AT_HAND.get(where) or ("", {})
    known = (
        {pk: each for pk, each in held.items() if wanted.get(pk) == each.issued.at} if isinstance(held, dict) else {}
    )
    missing = [pk for pk in wanted if pk not in known]
    for begin in range(0, len(missing), _AT_ONCE):
        rows = m.IssuedForecast.objects.select_related("store").in_bulk(missing[begin : begin + _AT_ONCE])
        known |= {pk: _shown(row) for pk, row in rows.items()}
    AT_HAND.put(where, "", {pk: each for pk, each in known.items() if each.is_settled})
    return known


_AT_ONCE = 500  # keys in one question
