"""A rig's record: the forecasts that were shown, what came true of each, and what that says of the spread of use."""

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import field
from datetime import datetime

from lodeline.core.catalogue import Effect
from lodeline.core.forecast.score import Issued, Outcome, judge
from lodeline.core.forecast.seen import IssuedLevels, LevelAhead, Seen, seen, spread_scale
from lodeline.core.log import Log
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class ShownForecast:
    """A forecast as it was shown; ``outcome`` and ``seen``: what came true of it and what was held against it, as far
    as that is settled."""

    issued: Issued
    levels: tuple[LevelAhead, ...] = ()
    outcome: Outcome | None = None
    seen: tuple[Seen, ...] | None = None

    @property
    def is_settled(self) -> bool:
        """Whether nothing more will be known of it."""
        return self.outcome is not None and self.seen is not None

    def came(self, tracked: Mapping[str, Tracked], now: datetime) -> Outcome | None:
        """What came true of it, as settled or as known by now."""
        each = tracked.get(self.issued.store)
        if self.outcome is not None or each is None or self.issued.at >= now:
            return self.outcome
        return judge(self.issued, each, now)

    def held_against(self, tracked: Mapping[str, Tracked], charged: Sequence[datetime]) -> tuple[Seen, ...]:
        """The readings that were held against it, as settled or as known by now."""
        each = tracked.get(self.issued.store)
        if self.seen is not None:
            return self.seen
        if each is None or not self.levels:
            return ()
        return tuple(seen(IssuedLevels(at=self.issued.at, levels=self.levels), each, charged))


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


def record(
    shown: Iterable[ShownForecast], tracked: Mapping[str, Tracked], now: datetime, log: Log
) -> dict[str, StoreRecord]:
    """The record of each store."""
    records: dict[str, StoreRecord] = defaultdict(StoreRecord)
    charged = charges_of(log)
    for each in shown:
        outcome, mine = each.came(tracked, now), records[each.issued.store]
        mine.seen += each.held_against(tracked, charged)
        if outcome is None:
            mine.still_open += 1
        else:
            mine.settled.append((each.issued, outcome))
    return records


def scales(shown: Iterable[ShownForecast], tracked: Mapping[str, Tracked], now: datetime, log: Log) -> dict[str, float]:
    """How much wider or narrower the spread of each store's use should be by its record."""
    return {store: spread_scale(mine.seen) for store, mine in record(shown, tracked, now, log).items()}
