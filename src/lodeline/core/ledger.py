"""The days as a ledger: what each day used, what it took in, and where the sums do not close."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from zoneinfo import ZoneInfo

from lodeline.core.rig import Store
from lodeline.core.tracking.track import Tracked


@dataclass(frozen=True, slots=True)
class LedgerRow:
    """One store on one date, in its unit. A waste tank's use is what flowed in, its ``moved`` what was dumped.

    ``off`` is what the readings corrected: more was used (or charged) than the estimate said, or less.
    ``open`` tells that it is too large to be the error of the estimate.
    """

    store: Store
    used: float
    moved: float
    off: float
    end: float
    open: bool


def ledger(tracked: Mapping[str, Tracked], zone: ZoneInfo) -> dict[date, list[LedgerRow]]:
    """Rows of every date on which a store was known."""
    found: dict[date, list[LedgerRow]] = {}
    for each in tracked.values():
        for on, row in _of_store(each, zone).items():
            found.setdefault(on, []).append(row)
    return found


def _of_store(tracked: Tracked, zone: ZoneInfo) -> dict[date, LedgerRow]:
    store = tracked.store
    sums: dict[date, dict[str, float]] = {}
    doubted = {doubt.at.astimezone(zone).date() for doubt in tracked.doubts}
    before = None
    for point in tracked.history:
        # a midnight closes the day before it
        local = point.at.astimezone(zone)
        on = local.date()
        if before is not None and point.cause == "use" and local.hour == local.minute == local.second == 0:
            on = before.at.astimezone(zone).date()
        row = sums.setdefault(on, {"use": 0.0, "event": 0.0, "reading": 0.0, "end": 0.0, "sd": 0.0})
        if before is not None:
            row[point.cause] += point.level - before.level
            if point.cause == "reading":
                row["sd"] = max(row["sd"], before.sd)
        row["end"] = point.level
        before = point
    return {
        on: LedgerRow(
            store, row["use"] * store.sign, row["event"], row["reading"], row["end"],
            on in doubted or abs(row["reading"]) > 2.5 * row["sd"] > 0,
        )
        for on, row in sums.items()
    }  # fmt: skip
