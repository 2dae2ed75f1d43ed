"""What levers buy of heat: the nights that it lasts, as expected and in colder weather."""

from collections.abc import Sequence

from lodeline.core.figures import Heat
from lodeline.core.forecast.known import Known
from lodeline.core.fuel.nights import HeatAhead, HeatDrawn, Need, Nights, draw_heat, holds
from lodeline.core.levers.agreed import agreed_changes
from lodeline.core.levers.heat import heat_levers
from lodeline.core.levers.lever import Aboard, Lever
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Bought:
    """What a lever buys of heat: nights with it, and how many more."""

    lever: Lever
    nights: Nights
    more_days: float
    first: Need | None


@dataclass(frozen=True, slots=True, kw_only=True)
class HeatNow:
    """How the heat holds as expected and colder, and what levers buy of it. ``tried``: the cold in which they are
    tried: the mildest in which the heat ends in sight."""

    expected: HeatAhead
    colder: tuple[HeatAhead, ...]
    tried: HeatAhead
    levers: tuple[Bought, ...]


def drawn_colder(known: Known, seed: int, colder_c: float = 0.0) -> HeatDrawn | None:
    """What the heat needs, with what is agreed, so much colder than expected; None where nothing known heats."""
    ahead = known.ahead(int(Heat.horizon_days), int(Heat.paths), seed, colder_c)
    return draw_heat(known, ahead, agreed_changes(Aboard(known=known, ahead=ahead)), colder_c)


def heat_now(known: Known, seed: int) -> HeatNow | None:
    """How the heat holds; None where nothing that is known heats."""
    draws = [drawn for by_c in Heat.colder_c if (drawn := drawn_colder(known, seed, by_c)) is not None]
    if not draws:
        return None
    colder = tuple(holds(known.rig, drawn) for drawn in draws)
    at = next((index for index, heat in enumerate(colder) if heat.ends[1] is not None), len(colder) - 1)
    tried, drawn = colder[at], draws[at]
    levers = list(heat_levers(Aboard(known=known, ahead=drawn.ahead))) if tried.first is not None else []
    return HeatNow(expected=colder[0], colder=colder, tried=tried, levers=bought(known, drawn, levers, tried))


def bought(known: Known, drawn: HeatDrawn, levers: Sequence[Lever], now: HeatAhead) -> tuple[Bought, ...]:
    """What each lever on heat buys on the same paths, those that buy most first."""
    found = []
    for lever in levers:
        if not set(drawn.draws) & set(lever.changes):
            continue
        after = holds(known.rig, drawn, lever.changes)
        more_days = _middle(after) - _middle(now)
        found.append(Bought(lever=lever, nights=after.nights, more_days=more_days, first=after.first))
    return tuple(sorted(found, key=lambda one: -one.more_days))


def _middle(heat: HeatAhead) -> float:
    return float(Heat.horizon_days) if heat.ends[1] is None else heat.ends[1]
