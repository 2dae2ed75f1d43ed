"""What a crew has agreed on, as changes of the days ahead; and the paths that all questions about them share."""

from functools import cached_property

from lodeline.core.figures import Forecasting
from lodeline.core.forecast.change import Change, together
from lodeline.core.forecast.forecast import Forecast, forecast
from lodeline.core.forecast.known import Known
from lodeline.core.levers.aboard import levers_aboard
from lodeline.core.levers.lever import Aboard, Lever
from lodeline.core.levers.weigh import Joint, joint
from lodeline.core.values import dataclass


def agreed_changes(aboard: Aboard) -> dict[str, Change]:
    """What the levers that are agreed on change, by store. One that the rig has no more changes nothing."""
    if not aboard.known.agreed:
        return {}
    levers = {lever.id: lever for lever in levers_aboard(aboard)}
    found: dict[str, list[Change]] = {}
    today = aboard.ahead.days[0].date
    for each in aboard.known.agreed:
        lever = levers.get(each.lever)
        if lever is None or each.until < today or (lever.kind.once and each.since > today):
            continue
        for store, change in lever.between(aboard.ahead, each.since, each.until).changes.items():
            found.setdefault(store, []).append(change)
    return {store: together(changes) for store, changes in found.items()}


def agreed_forecast(known: Known, n_days: int = Forecasting.horizon_days, seed: int = 1) -> Forecast:
    """The forecast with what is agreed on."""
    ahead = known.ahead(n_days, seed=seed)
    return forecast(known, ahead, agreed_changes(Aboard(known=known, ahead=ahead)))


@dataclass(frozen=True, kw_only=True)
class Together:
    """The paths of a rig's stores, with what is agreed, and the levers that could be pulled besides."""

    aboard: Aboard
    joint: Joint

    @cached_property
    def levers(self) -> tuple[Lever, ...]:
        """The levers that could be pulled besides what is agreed."""
        today = self.aboard.ahead.days[0].date
        in_force = {each.lever for each in self.aboard.known.agreed if each.since <= today <= each.until}
        return tuple(lever for lever in levers_aboard(self.aboard) if lever.id not in in_force)


def all_together(
    known: Known, seed: int, days: int = Forecasting.horizon_days, n_paths: int = Forecasting.paths
) -> Together:
    """The forecast's own paths, so that levers, stays and plans are weighed on what the Horizon shows."""
    aboard = Aboard(known=known, ahead=known.ahead(days, n_paths, seed))
    return Together(aboard=aboard, joint=joint(aboard, agreed_changes(aboard)))
