"""What a crew has agreed on, as changes of the days ahead; and the paths that all questions about them share."""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from datetime import datetime

from lodeline.core.book import Spot
from lodeline.core.conditions import coming
from lodeline.core.figures import Forecasting
from lodeline.core.forecast.change import Change, together
from lodeline.core.forecast.paths import Ahead, look_ahead
from lodeline.core.levers.aboard import levers_aboard
from lodeline.core.levers.lever import Aboard, Lever
from lodeline.core.levers.weigh import Joint, joint
from lodeline.core.log import Log, OutlookDay
from lodeline.core.rig import Rig
from lodeline.core.tracking.track import Tracked
from lodeline.core.wishes import Agreed


def agreed_changes(aboard: Aboard, agreed: Iterable[Agreed]) -> dict[str, Change]:
    """What the levers that are agreed on change, by store. One that the rig has no more changes nothing."""
    agreed = tuple(agreed)
    if not agreed:
        return {}
    levers = {lever.id: lever for lever in levers_aboard(aboard)}
    found: dict[str, list[Change]] = {}
    today = aboard.ahead.days[0].date
    for each in agreed:
        lever = levers.get(each.lever)
        if lever is None or each.until < today or (lever.kind.once and each.since > today):
            continue
        for store, change in lever.between(aboard.ahead, each.since, each.until).changes.items():
            found.setdefault(store, []).append(change)
    return {store: together(changes) for store, changes in found.items()}


@dataclass(frozen=True, slots=True, kw_only=True)
class Known:
    """What is known of a rig at a time, and what its crew has decided."""

    rig: Rig
    log: Log
    outlook: tuple[OutlookDay, ...]
    now: datetime
    tracked: Mapping[str, Tracked]
    book: tuple[Spot, ...] = ()
    agreed: tuple[Agreed, ...] = ()
    spread_scale: Mapping[str, float] = field(default_factory=dict)

    def changes(self) -> Callable[[Ahead], Mapping[str, Change]]:
        """What is agreed on, for a forecast."""
        return lambda ahead: agreed_changes(self.aboard(ahead), self.agreed)

    def aboard(self, ahead: Ahead) -> Aboard:
        """What tells which levers there are."""
        return Aboard(ahead=ahead, tracked=self.tracked, log=self.log, book=self.book)


@dataclass(frozen=True, slots=True, kw_only=True)
class Together:
    """The paths of a rig's stores, with what is agreed, and the levers that could be pulled besides."""

    joint: Joint
    levers: tuple[Lever, ...]


def all_together(
    known: Known, seed: int, days: int = Forecasting.horizon_days, n_paths: int = Forecasting.paths
) -> Together:
    """The forecast's own paths, so that levers, stays and plans are weighed on what the Horizon shows."""
    any_tracked = next(iter(known.tracked.values()))
    ahead_days = coming(known.rig, known.outlook, any_tracked.conditions, days)
    ahead = look_ahead(known.rig, known.now, any_tracked.hour, ahead_days, n_paths, seed)
    aboard = known.aboard(ahead)
    in_force = {each.lever for each in known.agreed if each.since <= ahead_days[0].date <= each.until}
    levers = tuple(lever for lever in levers_aboard(aboard) if lever.id not in in_force)
    changes = agreed_changes(aboard, known.agreed)
    return Together(joint=joint(ahead, known.tracked, changes, known.spread_scale), levers=levers)
