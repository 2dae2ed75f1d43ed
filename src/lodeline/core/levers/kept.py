"""Whether what was agreed on was kept, and what it brought: use while it was in force against use before it."""

from collections.abc import Iterable, Mapping, Sequence
from datetime import date, timedelta
from enum import StrEnum

from lodeline.core.figures import Levers
from lodeline.core.ledger import LedgerRow
from lodeline.core.rig import Store
from lodeline.core.values import dataclass
from lodeline.core.wishes import Agreed

Rows = Mapping[date, Sequence[LedgerRow]]


class KeptHow(StrEnum):
    """What the log shows of an agreement."""

    KEPT = "kept"
    IN_PART = "in-part"
    NOT_SEEN = "not-seen"
    TOO_EARLY = "too-early"


@dataclass(frozen=True, slots=True, kw_only=True)
class KeptUse:
    """What one store used a day before an agreement and while it was in force, and what was expected to be spared."""

    store: Store
    before: float
    during: float
    expected: float

    @property
    def spared(self) -> float:
        """What was spared a day."""
        return self.before - self.during


@dataclass(frozen=True, slots=True, kw_only=True)
class HowKept:
    """An agreement and what came of it. ``days``: whole days of it that are over."""

    agreed: Agreed
    days: int
    verdict: KeptHow
    brought: tuple[KeptUse, ...]


def how_kept(agreed: Agreed, expected: Mapping[str, float], rows: Rows, today: date) -> HowKept:
    """What the log shows of an agreement. ``expected``: what it was to spare of each store a day, by id.

    Use is what the levels say, what readings corrected included; the days before it are as many as are looked at.
    """
    end = min(agreed.until, today - timedelta(days=1))
    days = max(0, (end - agreed.since).days + 1)
    first = agreed.since - timedelta(days=Levers.before_days)
    during, before = _between(rows, agreed.since, end), _between(rows, first, agreed.since - timedelta(days=1))
    brought = tuple(
        KeptUse(store=store, before=before[id][1], during=during[id][1], expected=expected[id])
        for id, (store, _) in during.items()
        if id in before and expected.get(id, 0.0) > 0
    )
    if days < Levers.judged_days or not brought:
        return HowKept(agreed=agreed, days=days, verdict=KeptHow.TOO_EARLY, brought=brought)
    share = sum(each.spared / each.expected for each in brought) / len(brought)
    verdict = KeptHow.KEPT if share >= Levers.kept_from else KeptHow.IN_PART if share >= Levers.seen_from else None
    return HowKept(agreed=agreed, days=days, verdict=verdict or KeptHow.NOT_SEEN, brought=brought)


def _between(rows: Rows, first: date, last: date) -> dict[str, tuple[Store, float]]:
    """Mean use a day of each store between two dates, both included."""
    sums: dict[str, list[LedgerRow]] = {}
    on = first
    while on <= last:
        for row in rows.get(on, ()):
            sums.setdefault(row.store.id, []).append(row)
        on += timedelta(days=1)
    return {id: (mine[0].store, _mean_use(mine)) for id, mine in sums.items()}


def _mean_use(rows: Iterable[LedgerRow]) -> float:
    used = [row.used + row.corrected * row.store.sign for row in rows]
    return sum(used) / max(1, len(used))
