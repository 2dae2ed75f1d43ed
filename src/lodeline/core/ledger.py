"""The days as a ledger: what each day used, what it took in, and where the sums do not add up."""

from collections.abc import Mapping
from dataclasses import field
from datetime import date

from lodeline.core.figures import Tracking
from lodeline.core.rig import Store
from lodeline.core.tracking.hypothesis import Cause
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass
from lodeline.core.zone import Zone


@dataclass(frozen=True, slots=True, kw_only=True)
class LedgerRow:
    """One store on one date, in its unit. A waste tank's use is what flowed in, its ``moved`` what was emptied.

    ``corrected`` is what the readings corrected: more was used (or charged) than the estimate said, or less.
    ``open`` says that it is too large to be the error of the estimate.
    """

    store: Store
    used: float
    moved: float
    corrected: float
    end: float
    open: bool


def ledger(tracked: Mapping[str, Tracked], zone: Zone) -> dict[date, list[LedgerRow]]:
    """Rows of every local date on which a store was known."""
    rows: dict[date, list[LedgerRow]] = {}
    for each in tracked.values():
        for on, row in _of_store(each, zone).items():
            rows.setdefault(on, []).append(row)
    return rows


@dataclass(slots=True)
class _Sums:
    """What moved a store on one date, by its cause."""

    moved: dict[Cause, float] = field(default_factory=lambda: dict.fromkeys(Cause, 0.0))
    end: float = 0.0
    sd: float = 0.0


def _of_store(tracked: Tracked, zone: Zone) -> dict[date, LedgerRow]:
    store = tracked.store
    sums: dict[date, _Sums] = {}
    doubted = {zone.date(doubt.at) for doubt in tracked.doubts}
    before = None
    for point in tracked.history:
        on = zone.date(point.at)
        # what use moved by a midnight belongs to the day that it closes
        if before is not None and point.cause is Cause.USE and point.at == zone.midnight(on):
            on = zone.date(before.at)
        day = sums.setdefault(on, _Sums())
        if before is not None:
            day.moved[point.cause] += point.level - before.level
            if point.cause is Cause.READING:
                day.sd = max(day.sd, before.sd)
        day.end = point.level
        before = point
    return {on: _row(store, day, on in doubted) for on, day in sums.items()}


def _row(store: Store, day: _Sums, doubted: bool) -> LedgerRow:
    corrected = day.moved[Cause.READING]
    return LedgerRow(
        store=store,
        used=day.moved[Cause.USE] * store.sign,
        moved=day.moved[Cause.EVENT],
        corrected=corrected,
        end=day.end,
        open=doubted or abs(corrected) > Tracking.open_sds * day.sd > 0,
    )
