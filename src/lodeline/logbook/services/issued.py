"""Keeping score: every forecast that was shown, and how it turned out."""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import asdict, field
from datetime import UTC, datetime, timedelta

from django.db import transaction
from django.db.models import Q

from lodeline.core.catalogue import Effect
from lodeline.core.figures import Forecasting
from lodeline.core.forecast.forecast import Forecast
from lodeline.core.forecast.score import Issued, Outcome, OutcomeKind, baseline_days, judge
from lodeline.core.forecast.seen import NOTICES, IssuedLevels, LevelAhead, Seen, issued_levels, seen, spread_scale
from lodeline.core.log import Log
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass
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
    shown = m.IssuedForecast.objects.filter(store__rig=rig)
    told = shown.order_by("at", "id").values_list("pk", "store__slug", "at")
    last = {(slug, zone.date(at)): (pk, at) for pk, slug, at in told}
    records: dict[str, StoreRecord] = defaultdict(StoreRecord)
    charged, known = charges_of(log), _at_hand(rig, dict(last.values()))
    for (slug, _), (pk, _at) in last.items():
        row, mine = known[pk], records[slug]
        outcome = _outcome(row, tracked, now)
        mine.seen += _seen(row, tracked, charged)
        if outcome is None:
            mine.still_open += 1
        else:
            mine.settled.append((_issued(row), outcome))
    return records


def _at_hand(rig: m.Rig, wanted: Mapping[int, datetime]) -> dict[int, m.IssuedForecast]:
    """Forecasts by their keys and times. What is settled stays as it is: this process reads it once."""
    where = place("issued", rig)
    _, held = AT_HAND.get(where) or ("", {})
    known = {pk: row for pk, row in held.items() if wanted.get(pk) == row.at} if isinstance(held, dict) else {}
    missing = [pk for pk in wanted if pk not in known]
    for begin in range(0, len(missing), _AT_ONCE):
        part = missing[begin : begin + _AT_ONCE]
        known |= m.IssuedForecast.objects.select_related("store").in_bulk(part)
    AT_HAND.put(where, "", {pk: row for pk, row in known.items() if row.outcome is not None and row.seen is not None})
    return known


_AT_ONCE = 500  # keys in one question


def scales(rig: m.Rig, tracked: Mapping[str, Tracked], now: datetime, log: Log) -> dict[str, float]:
    """How much wider or narrower the spread of each store's use should be by its record."""
    return {store: spread_scale(mine.seen) for store, mine in record(rig, tracked, now, log).items()}
