"""What is known of a rig at a time, and what its crew has decided: where every question about coming days starts."""

from collections.abc import Mapping
from dataclasses import field, replace
from datetime import datetime

from lodeline.core.book import Spot
from lodeline.core.conditions import Conditions, coming
from lodeline.core.figures import Forecasting
from lodeline.core.forecast.paths import Ahead, look_ahead
from lodeline.core.log import Log, OutlookDay
from lodeline.core.rig import Rig
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass
from lodeline.core.wishes import Agreed


@dataclass(frozen=True, kw_only=True)
class Known:
    """What is known of a rig at a time, and what its crew has decided."""

    rig: Rig
    log: Log
    now: datetime
    tracked: Mapping[str, Tracked]
    outlook: tuple[OutlookDay, ...] = ()
    book: tuple[Spot, ...] = ()
    agreed: tuple[Agreed, ...] = ()
    spread_scale: Mapping[str, float] = field(default_factory=dict)

    def store(self, id: str | None) -> Tracked | None:
        """What is known of a store, None where nothing is."""
        found = self.tracked.get(id or "")
        return found if found is not None and found.known_since is not None else None

    @property
    def stores(self) -> dict[str, Tracked]:
        """The stores of which something is known, by id."""
        return {id: found for id, found in self.tracked.items() if found.known_since is not None}

    @property
    def banks(self) -> list[Tracked]:
        """The banks of which something is known, in the rig's order."""
        return [found for bank in self.rig.banks if (found := self.store(bank.id)) is not None]

    def scale_of(self, id: str) -> float:
        """The spread that a store's own record asks for."""
        return self.spread_scale.get(id, 1.0)

    def days(self, n_days: int, colder_c: float = 0.0) -> list[Conditions]:
        """Today and so many coming dates, as they are expected, or so much colder."""
        any_tracked = next(iter(self.tracked.values()))
        days = coming(self.rig, self.outlook, any_tracked.conditions, n_days)
        if not colder_c:
            return days
        return [replace(day, mean_c=day.mean_c - colder_c, min_c=day.min_c - colder_c) for day in days]

    def ahead(
        self,
        n_days: int = Forecasting.horizon_days,
        n_paths: int = Forecasting.paths,
        seed: int = 1,
        colder_c: float = 0.0,
    ) -> Ahead:
        """The days ahead with the chance that stores have in common. The same seed and log give the same paths."""
        any_tracked = next(iter(self.tracked.values()))
        return look_ahead(self.rig, self.now, any_tracked.hour, self.days(n_days, colder_c), n_paths, seed)
