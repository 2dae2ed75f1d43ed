"""Frost: what is at risk in the nights to come, what to do tonight, and what heat costs the bank."""

from collections.abc import Sequence
from datetime import date
from enum import StrEnum

import numpy as np

from lodeline.core.catalogue import Role
from lodeline.core.conditions import Conditions
from lodeline.core.figures import Water
from lodeline.core.rig import Rig, Store
from lodeline.core.values import dataclass


class AtRisk(StrEnum):
    """What freezes."""

    HOSE = "hose"
    TANK = "tank"
    VALVE = "valve"
    LINES = "lines"


@dataclass(frozen=True, slots=True, kw_only=True)
class FrostNight:
    """A night with frost. ``low_c`` with ``sd_c``: its lowest; ``hours``: below freezing; ``at_risk``: what freezes,
    with the tanks that hang outside; ``heat_wh``: what keeping them from it takes."""

    date: date
    low_c: float
    sd_c: float
    hours: float
    at_risk: tuple[AtRisk, ...]
    tanks: tuple[Store, ...]
    heat_wh: float

    @property
    def chance(self) -> bool:
        """Whether it is only possible, not expected."""
        return self.low_c > Water.frost_c


def frost(rig: Rig, days: Sequence[Conditions], until: int) -> tuple[FrostNight, ...]:
    """The nights ahead in which it freezes, or may: the lowest less the error of what is expected."""
    nights = []
    for day in days[:until]:
        low = day.min_c - day.air_sd_c
        if low >= Water.frost_c:
            continue
        tanks = tuple(s for s in rig.stores if s.kind.role in (Role.WATER, Role.DRAIN) and s.outside is not False)
        hours = float(np.clip(2 * (Water.frost_c - low) / Water.cooling_c_per_h, 0.0, _NIGHT_H))
        outside = tuple(s for s in tanks if s.outside or low < Water.hard_frost_c)
        at_risk = [AtRisk.HOSE]
        at_risk += [AtRisk.TANK, AtRisk.VALVE] if outside else []
        at_risk += [AtRisk.LINES] if low < Water.hard_frost_c else []
        watts = rig.water.heat_w or Water.heat_w
        nights.append(
            FrostNight(
                date=day.date,
                low_c=day.min_c,
                sd_c=day.air_sd_c,
                hours=hours,
                at_risk=tuple(at_risk),
                tanks=outside,
                heat_wh=watts * hours * max(1, len(outside)),
            )
        )
    return tuple(nights)


_NIGHT_H = 14.0  # at most under the point
