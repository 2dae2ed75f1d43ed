"""Water that is carried: what is in each jug, how long it lasts, what a trip to a tap takes."""

from collections.abc import Mapping
from datetime import datetime

import numpy as np

from lodeline.core.catalogue import Effect
from lodeline.core.figures import Water
from lodeline.core.log import Log
from lodeline.core.rig import Jug, Rig
from lodeline.core.values import dataclass
from lodeline.core.zone import MIN_PER_H


@dataclass(frozen=True, slots=True, kw_only=True)
class InJug:
    """What is in a jug, and since when it stands there. [L, kg]"""

    jug: Jug
    litres: float
    kg: float
    filled_at: datetime | None
    poured_at: datetime | None

    @property
    def share(self) -> float:
        """How full it is."""
        return self.litres / self.jug.litres


def in_jugs(rig: Rig, log: Log) -> tuple[InJug, ...]:
    """What is in each jug by what was poured, used and filled."""
    litres = {jug.id: jug.full * jug.litres for jug in rig.jugs}
    filled: dict[str, datetime] = {}
    poured: dict[str, datetime] = {}
    for day in log.days:
        for event in day.events:
            if event.row.effect is not Effect.MOVE:
                continue
            for id, sign, times in ((event.source, -1, poured), (event.target, 1, filled)):
                if id is not None and (jug := rig.jug(id)) is not None:
                    litres[id] = min(jug.litres, max(0.0, litres[id] + sign * (event.amount or 0.0)))
                    times[id] = event.at
    return tuple(
        InJug(
            jug=jug,
            litres=litres[jug.id],
            kg=Water.kg_per_l * litres[jug.id],
            filled_at=filled.get(jug.id),
            poured_at=poured.get(jug.id),
        )
        for jug in rig.jugs
    )


def carried_l(jugs: tuple[InJug, ...]) -> float:
    """Drinkable water in jugs. [L]"""
    return sum(each.litres for each in jugs if each.jug.is_reserve)


def last_poured(jugs: tuple[InJug, ...]) -> datetime | None:
    """When the last of the reserve was poured in; None while some is left, or none was."""
    if not any(each.jug.is_reserve for each in jugs) or carried_l(jugs) > 0:
        return None
    return max((each.poured_at for each in jugs if each.poured_at is not None), default=None)


@dataclass(frozen=True, slots=True, kw_only=True)
class Filling:
    """What filling takes. ``trips``: on foot, None by hose. [L, min, kg]"""

    litres: float
    minutes: float
    kg: float
    trips: int | None = None


def by_hose(litres: float, l_per_min: float | None) -> Filling:
    """Filling a tank by hose: litres over flow (a tap gives 6 to 12 L/min, common practice)."""
    return Filling(litres=litres, minutes=litres / (l_per_min or Water.hose_l_per_min), kg=Water.kg_per_l * litres)


def on_foot(rig: Rig, litres: float, way_km: float, l_per_min: float | None = None) -> Filling:
    """Fetching water from a tap that is so far away, there and back each time, by hand or with a cart."""
    at_once = Water.cart_l if rig.water.cart else Water.carry_l
    each = np.array([jug.litres for jug in rig.jugs if jug.drinkable])
    if each.size:
        at_once = min(at_once, float(each.sum()))
    trips = max(1, int(np.ceil(litres / at_once)))
    walks = trips * 2 * way_km / Water.walk_km_per_h * MIN_PER_H
    pours = litres / max(at_once, 1.0) * Water.pour_min
    fills = litres / (l_per_min or Water.hose_l_per_min) + trips * Water.jug_min
    return Filling(litres=litres, minutes=walks + fills + pours, kg=Water.kg_per_l * litres, trips=trips)


def to_fill_l(capacity: float, level: float) -> float:
    """What goes in until a tank is full: its ullage. [L]"""
    return max(0.0, capacity - level)


def payload_after(rig: Rig, contents_kg: Mapping[str, float], added_kg: float) -> float | None:
    """What is left of the payload once so much more is aboard; None where nobody said what it is. [kg]"""
    return None if rig.payload_kg is None else rig.payload_kg - sum(contents_kg.values()) - added_kg
