"""Levers on heat: turned down, off at night, one room, covers, less of the oven, plugged in, lower ground.

What is spared of the heat is spared of what every heater burns, and of what its fan draws from the bank.
"""

from collections.abc import Iterable

import numpy as np

from lodeline.core.catalogue import Driver
from lodeline.core.catalogue.levers import LEVER_KINDS, Milder
from lodeline.core.conditions import Conditions
from lodeline.core.energy.heat import degree_days, running_wh, spared_share
from lodeline.core.energy.loads import counted_loads, load_hourly_wh
from lodeline.core.figures import Levers, Numeric
from lodeline.core.forecast.change import Change
from lodeline.core.levers.lever import Aboard, Lever, Touch
from lodeline.core.levers.water import spared
from lodeline.core.rig import Rig
from lodeline.core.statistics import Floats
from lodeline.core.zone import HOURS


def heat_levers(aboard: Aboard) -> Iterable[Lever]:
    """The levers on what burns for heat, and on the oven."""
    if any(day.degree_days > 0 for day in aboard.ahead.days):
        has_mains = any(source.kind.mains and source.kind.all_day for source in aboard.rig.sources)
        for kind in LEVER_KINDS.values():
            if (way := kind.milder) is not None and (has_mains or not way.whole):
                yield _milder(aboard, kind.id, np.array([_share(aboard.rig, day, way) for day in aboard.ahead.days]))
    yield from _oven(aboard)


def _share(rig: Rig, day: Conditions, way: Milder) -> float:
    """What a way spares of a day's heat. Where nobody said how the rig is heated, two degrees are two degree-days."""
    if way.whole:
        return 1.0
    if rig.heat is None and way.down_c:
        return min(1.0, way.down_c / day.degree_days) if day.degree_days > 0 else 0.0
    return spared_share(rig, day, way) if day.degree_days > 0 or rig.heat is not None else 0.0


def _milder(aboard: Aboard, kind: str, share: Floats) -> Lever:
    """A share of the heat of each date is spared; shape (n_dates,)."""
    days, changes = aboard.ahead.days, dict[str, Change]()
    touches = []
    for store in aboard.rig.stores:
        tracked = aboard.known.store(store.id)
        if tracked is None or Driver.DEGREE_DAYS not in tracked.model.drivers:
            continue
        at = tracked.model.drivers.index(Driver.DEGREE_DAYS)
        less = np.zeros((aboard.n_dates, len(tracked.model.drivers)))
        less[:, at] = share
        changes[store.id] = Change(less=less)
        each = float(tracked.belief.coefficients[at])
        burnt = np.array([degree_days(aboard.rig, day) for day in days])
        touches.append(Touch(store=store.id, per_day=each * float((share * burnt).mean())))
    if changes:
        _spare_fans(aboard, share, changes, touches)
    return aboard.lever(kind, changes, touches)


def _spare_fans(aboard: Aboard, share: Floats, changes: dict[str, Change], touches: list[Touch]) -> None:
    fans = [load for load in counted_loads(aboard.rig) if load.kind.heats]
    listed = sum((load_hourly_wh(load, aboard.rig.inverter) for load in fans), np.zeros(int(HOURS)))
    by_cold = np.stack([running_wh(aboard.rig, day) for day in aboard.ahead.days])
    if not any(each.watts for each in aboard.rig.heaters):
        by_cold = np.zeros_like(by_cold)
    hourly = share[:, None] * (listed + by_cold)
    if hourly.sum() <= 0:
        return
    for tracked in aboard.known.banks:
        audit = -hourly / tracked.store.volts
        changes[tracked.store.id] = Change(audit=audit)
        touches.append(Touch(store=tracked.store.id, per_day=-float(audit.sum(axis=1).mean())))


def _oven(aboard: Aboard) -> Iterable[Lever]:
    """The oven's part of what is burnt for people, as the list has it."""
    for store in aboard.rig.stores:
        tracked, mine = aboard.known.store(store.id), aboard.rig.burners(store)
        if tracked is None or not any(each.kind.spares for each in mine) or Driver.PEOPLE not in tracked.model.drivers:
            continue
        whole = sum(each.kwh_per_day for each in mine if not each.kind.by_cold and not each.changes_over)
        share = sum(each.kind.spares * each.kwh_per_day for each in mine) / max(whole, Numeric.tiny)
        used = float(tracked.belief.coefficients[tracked.model.drivers.index(Driver.PEOPLE)])
        change = spared(aboard, tracked, Driver.PEOPLE, min(share, Levers.most_spared))
        touch = Touch(store=store.id, per_day=share * used)
        yield aboard.lever("oven-less", {store.id: change}, [touch], subject=store.id)
