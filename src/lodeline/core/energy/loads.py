"""What the rig is expected to draw from its bank: the audit of loads."""

from dataclasses import replace

import numpy as np

from lodeline.core.catalogue import Via, When
from lodeline.core.energy.bank import cells
from lodeline.core.errors import Refused
from lodeline.core.figures import Energy
from lodeline.core.problems import Plain
from lodeline.core.rig import Inverter, Load, Rig, Store
from lodeline.core.statistics import Floats
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS

NIGHT: Floats = np.array(
    [float(hour >= Energy.night_from_h or hour < Energy.night_until_h) for hour in range(int(HOURS))]
)
_SHAPES: dict[When, Floats] = {
    When.ANY: np.full(len(NIGHT), 1 / HOURS),
    When.NIGHT: NIGHT / NIGHT.sum(),
    When.DAY: (1 - NIGHT) / (1 - NIGHT).sum(),
}
# Share of a load that runs at any time which falls into the day.
DAY_SHARE = float((1 - NIGHT).sum() / HOURS)

# Lines that are not loads of the user's own.
INVERTER_ITSELF, NEVER_SLEEPS, FOUND_BY_LOG = "inverter", "never-sleeps", "found-by-log"
_WATT_DIGITS, _HOUR_DIGITS = 1, 2


@dataclass(frozen=True, slots=True, kw_only=True)
class AuditLine:
    """What one load draws in a day, the inverter's loss in it; ``name`` is empty for the inverter itself. [Wh]"""

    id: str
    name: str
    day_wh: float
    night_wh: float

    @property
    def wh(self) -> float:
        """The whole day's draw. [Wh]"""
        return self.day_wh + self.night_wh


def load_hourly_wh(load: Load, inverter: Inverter | None) -> Floats:
    """A load's draw from the bank in each day hour: watts times hours, over the inverter's efficiency. [Wh]"""
    wh = load.watts * load.hours_per_day
    if load.via is Via.INVERTER and inverter is not None:
        wh /= inverter.efficiency
    hourly: Floats = wh * _SHAPES[load.when]
    return hourly


def idle_hourly_wh(rig: Rig) -> Floats:
    """What the inverter draws for itself while inverter loads run; all day where its idle hours say so. [Wh]"""
    through = [load for load in rig.loads if load.via is Via.INVERTER]
    if rig.inverter is not None and rig.inverter.always_on:
        return rig.inverter.idle_watts * HOURS * _SHAPES[When.ANY]
    if rig.inverter is None or not through:
        return np.zeros(len(NIGHT))
    longest = max(through, key=lambda load: load.hours_per_day)
    return rig.inverter.idle_watts * longest.hours_per_day * _SHAPES[longest.when]


def counted_loads(rig: Rig) -> tuple[Load, ...]:
    """The loads that the list counts: a heater's fan is reckoned by the cold where its heater says what it draws."""
    if not any(each.watts for each in rig.heaters):
        return rig.loads
    return tuple(load for load in rig.loads if not load.kind.heats)


def audit_wh(rig: Rig) -> Floats:
    """Expected draw in each day hour from the list of loads. Shape (24,). [Wh]

    A rig with no loads listed is given what its crew leads one to expect.
    """
    hourly = rig.once(audit_wh, lambda: _audit_wh(rig))
    hourly.setflags(write=False)
    return hourly


def unlisted_wh(rig: Rig) -> float:
    """What a crew of which no loads are listed is expected to draw. [Wh/day]"""
    return Energy.unlisted_wh + Energy.unlisted_person_wh * rig.crew.people


def weather_shares(rig: Rig) -> tuple[float, float]:
    """What each degree of cold and of heat is expected to add to the draw of the listed loads, as a share of it: by a
    heater's fan, and by a compressor fridge. A load that is neither is the same in any weather."""
    if not rig.loads:
        return Energy.unlisted_fan * Energy.fan_per_degree, Energy.unlisted_fridge * Energy.fridge_per_degree
    fans, fridges, whole = 0.0, 0.0, listed_wh(rig)
    for load in counted_loads(rig):
        daily_wh = float(load_hourly_wh(load, rig.inverter).sum())
        fans += daily_wh * load.kind.heats
        fridges += daily_wh * load.kind.cools
    return part_of(fans, whole) * Energy.fan_per_degree, part_of(fridges, whole) * Energy.fridge_per_degree


def part_of(part: float, whole: float) -> float:
    """A part over its whole; 0 of nothing."""
    return part / whole if whole > 0 else 0.0


def standing_wh(store: Store) -> float:
    """What goes out of a battery while nothing is on: its own discharge, alarms and monitors. [Wh/day]"""
    own = Energy.own_lead_month if cells(store).is_lead else Energy.own_lithium_month
    return store.capacity * store.volts * own / Energy.month_days + Energy.never_sleeps_a * store.volts * HOURS


def _audit_wh(rig: Rig) -> Floats:
    if not rig.loads:
        return np.full(len(NIGHT), unlisted_wh(rig) / HOURS) + idle_hourly_wh(rig)
    hourly = idle_hourly_wh(rig) + _standing_hourly_wh(rig)
    for load in counted_loads(rig):
        hourly = hourly + load_hourly_wh(load, rig.inverter)
    return hourly


def listed_wh(rig: Rig) -> float:
    """What the list of loads adds up to. [Wh/day]"""
    return float(audit_wh(rig).sum())


def audit(rig: Rig) -> list[AuditLine]:
    """The audit line by line, the inverter's own draw last."""
    lines = [_line(load.id, load.name, load_hourly_wh(load, rig.inverter)) for load in counted_loads(rig)]
    idle = idle_hourly_wh(rig)
    if idle.sum() > 0:
        lines.append(_line(INVERTER_ITSELF, "", idle))
    if rig.loads and (standing := _standing_hourly_wh(rig)).sum() > 0:
        lines.append(_line(NEVER_SLEEPS, "", standing))
    return lines


def _standing_hourly_wh(rig: Rig) -> Floats:
    """What never sleeps, of the banks that one lives off. Shape (24,). [Wh]"""
    return np.full(len(NIGHT), sum(standing_wh(each) for each in rig.banks if not each.starter) / HOURS)


def _line(id: str, name: str, hourly: Floats) -> AuditLine:
    return AuditLine(id=id, name=name, day_wh=float(hourly @ (1 - NIGHT)), night_wh=float(hourly @ NIGHT))


def fitted_loads(rig: Rig, learned_wh: float, unlisted_name: str) -> tuple[Load, ...]:
    """The list of loads such that it adds up to what the log shows.

    More than is listed becomes a load of its own, on all day, called ``unlisted_name``; less shortens every load's
    hours alike.

    Raises
    ------
    Refused
        Nothing is listed, or the learned draw is not positive.
    """
    listed = listed_wh(rig)
    if not rig.loads or listed <= 0 or learned_wh <= 0:
        raise Refused("loads", Plain.NO_LOADS_LISTED)
    if learned_wh >= listed:
        before = next((load.watts for load in rig.loads if load.id == FOUND_BY_LOG), 0.0)
        watts = round(before + (learned_wh - listed) / HOURS, _WATT_DIGITS)
        more = Load(FOUND_BY_LOG, unlisted_name, watts, HOURS)
        return (*(load for load in rig.loads if load.id != FOUND_BY_LOG), more)
    share = learned_wh / listed
    return tuple(replace(load, hours_per_day=round(load.hours_per_day * share, _HOUR_DIGITS)) for load in rig.loads)
