"""How a rig is built and kept warm, as its crew says it."""

from lodeline.core.catalogue import Body, Insulation
from lodeline.core.figures import Heat
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class HeatGear:
    """What the cold meets. ``living_m``: length that is heated, None for its body's usual one; ``glazing_m2``: None for
    the usual; ``ua_w_per_k``: its loss where it is known, as from the log.

    Set temperatures by day and, between the two hours, at night; ``night_c`` None: the heating is off at night.
    ``away_c``: what it is held to with nobody aboard, against frost; None: off. ``plugged``: an electric heater heats
    while the rig is plugged in, so that nothing is burnt.
    """

    body: Body = Body.VAN
    insulation: Insulation = Insulation.FAIR
    living_m: float | None = None
    glazing_m2: float | None = None
    double_glazed: bool = False
    ua_w_per_k: float | None = None
    day_c: float = Heat.day_c
    night_c: float | None = Heat.night_c
    night_from_h: float = Heat.night_from_h
    night_until_h: float = Heat.night_until_h
    plugged: bool = False
    away_c: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Quiet:
    """Hours in which the crew runs no engine and no generator; over midnight where the first is the later."""

    from_h: float
    until_h: float

    def covers(self, hour: float) -> bool:
        """Whether an hour of the clock lies in it."""
        if self.from_h <= self.until_h:
            return self.from_h <= hour < self.until_h
        return hour >= self.from_h or hour < self.until_h
