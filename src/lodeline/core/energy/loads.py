"""What the rig is expected to draw from its bank: the audit of loads."""

from dataclasses import dataclass, replace

import numpy as np

from lodeline.core.energy.figures import figure
from lodeline.core.energy.sun import Floats
from lodeline.core.rig import Inverter, Load, Rig

NIGHT_HOURS = frozenset({18, 19, 20, 21, 22, 23, 0, 1, 2, 3, 4, 5, 6})
NIGHT: Floats = np.array([float(hour in NIGHT_HOURS) for hour in range(24)])
_SHAPES: dict[str, Floats] = {
    "any": np.full(24, 1 / 24),
    "night": NIGHT / NIGHT.sum(),
    "day": (1 - NIGHT) / (1 - NIGHT).sum(),
}


@dataclass(frozen=True, slots=True)
class AuditLine:
    """What one load draws in a day, the inverter's loss in it. [Wh]"""

    id: str
    name: str
    day_wh: float
    night_wh: float

    @property
    def wh(self) -> float:
        """The whole day's draw. [Wh]"""
        return self.day_wh + self.night_wh


def load_hourly_wh(load: Load, inverter: Inverter | None) -> Floats:
    """A load's draw from the bank in each clock hour: watts times hours, over the inverter's efficiency. [Wh]"""
    wh = load.watts * load.hours_per_day
    if load.via == "inverter" and inverter is not None:
        wh /= inverter.efficiency
    hourly: Floats = wh * _SHAPES[load.when]
    return hourly


def idle_hourly_wh(rig: Rig) -> Floats:
    """What the inverter draws for itself while inverter loads run; all day where its idle hours say so. [Wh]"""
    through = [load for load in rig.loads if load.via == "inverter"]
    if rig.inverter is None or not through:
        return np.zeros(24)
    longest = max(through, key=lambda load: load.hours_per_day)
    hours = 24.0 if rig.inverter.always_on else longest.hours_per_day
    shape = _SHAPES["any"] if rig.inverter.always_on else _SHAPES[longest.when]
    return rig.inverter.idle_watts * hours * shape


def audit_wh(rig: Rig) -> Floats:
    """Expected draw in each clock hour from the list of loads. Shape (24,). [Wh]

    A rig with no loads listed is given what its crew leads one to expect.
    """
    if not rig.loads:
        return np.full(24, (figure("unlisted_wh") + figure("unlisted_person_wh") * rig.crew.people) / 24.0)
    hourly = idle_hourly_wh(rig)
    for load in rig.loads:
        hourly = hourly + load_hourly_wh(load, rig.inverter)
    return hourly


def audit(rig: Rig) -> list[AuditLine]:
    """The audit line by line, the inverter's own draw last."""
    lines = [_line(load.id, load.name, load_hourly_wh(load, rig.inverter)) for load in rig.loads]
    idle = idle_hourly_wh(rig)
    if idle.sum() > 0:
        lines.append(_line("inverter", "Inverter itself", idle))
    return lines


def _line(id: str, name: str, hourly: Floats) -> AuditLine:
    return AuditLine(id, name, float(hourly @ (1 - NIGHT)), float(hourly @ NIGHT))


FOUND = "found-by-log"


def fitted_loads(rig: Rig, learned_wh: float) -> tuple[Load, ...]:
    """The list of loads such that it adds up to what the log shows.

    More than is listed becomes a load of its own, on all day; less shortens every load's hours alike.

    Raises
    ------
    ValueError
        Nothing is listed, or the learned draw is not positive.
    """
    listed = float(audit_wh(rig).sum())
    if not rig.loads or listed <= 0 or learned_wh <= 0:
        raise ValueError("there is no list of loads to fit")
    if learned_wh >= listed:
        before = next((load.watts for load in rig.loads if load.id == FOUND), 0.0)
        watts = round(before + (learned_wh - listed) / 24.0, 1)
        found = Load(FOUND, "Not listed, found by the log", watts, 24.0)
        return (*(load for load in rig.loads if load.id != FOUND), found)
    share = learned_wh / listed
    return tuple(replace(load, hours_per_day=round(load.hours_per_day * share, 2)) for load in rig.loads)
