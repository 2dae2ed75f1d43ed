"""How long the fresh water lasts once the crew does what it does not mind."""

from lodeline.core.forecast.change import together
from lodeline.core.forecast.forecast import simulate
from lodeline.core.forecast.paths import days_left
from lodeline.core.levers.lever import Aboard, Lever
from lodeline.core.levers.water import water_levers
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class SparedDays:
    """Days that the fresh water lasts, None beyond the horizon, with some levers."""

    days: float | None
    levers: tuple[Lever, ...]


def sparing(aboard: Aboard, fresh: Tracked) -> SparedDays | None:
    """With the two levers that save most of what the crew does not mind; None where there is none."""
    id = fresh.store.id
    easy = [e for e in water_levers(aboard) if id in e.changes and e.hardship is not None and e.hardship <= _EASY]
    chosen: list[Lever] = []
    for each in sorted(easy, key=lambda each: -sum(t.per_day for t in each.touches if t.store == id)):
        if not each.kind.group or each.kind.group not in {other.kind.group for other in chosen}:
            chosen.append(each)
    chosen = chosen[:_MOST_LEVERS]
    if not chosen:
        return None
    change = together(each.changes[id] for each in chosen)
    times = simulate(aboard.ahead, fresh, aboard.known.scale_of(id), change).reached_days
    return SparedDays(days=days_left(aboard.ahead, times)[1], levers=tuple(chosen))


# A lever of this hardship is a little hard at most.
_EASY = 2
_MOST_LEVERS = 2
