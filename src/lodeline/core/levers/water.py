"""Levers on water: showers, dishes, laundry, flushing. What is spared of fresh water is spared of grey, and of gas."""

from collections.abc import Iterable, Mapping

import numpy as np

from lodeline.core.catalogue import ACTIVITIES, Driver, Role, Toilet
from lodeline.core.catalogue.levers import LEVER_KINDS
from lodeline.core.figures import Levers, Numeric
from lodeline.core.forecast.change import Change
from lodeline.core.habits import flush_tank, flushed_l, fresh_share, to_grey, usual_activities
from lodeline.core.levers.lever import Aboard, Lever, Touch
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.water.learned import amounts


def usual_use(tracked: Tracked) -> float:
    """What a store whose use goes by people takes on a usual day. [unit/day]"""
    return float(tracked.model.usual_x @ tracked.belief.coefficients)


def spared(aboard: Aboard, tracked: Tracked, driver: str, share: float) -> Change:
    """A share of what one driver uses is spared on every date."""
    less = np.zeros((aboard.n_dates, len(tracked.model.drivers)))
    less[:, tracked.model.drivers.index(driver)] = min(share, Levers.most_spared)
    return Change(less=less)


def water_levers(aboard: Aboard) -> Iterable[Lever]:
    """The levers on water of a rig whose fresh tank is known, or only its grey one."""
    fresh, greys = _tanks(aboard)
    if fresh is None and not greys:
        return
    uses = _Uses(aboard, fresh, greys)
    for kind in LEVER_KINDS.values():
        # flushing goes by the toilet's tank, which is known better than a flush
        if kind.cuts and _FLUSH not in kind.cuts and (lever := uses.lever(kind.id, uses.shares(kind.cuts))):
            yield lever
    yield from _flush(aboard, fresh)


def _tanks(aboard: Aboard) -> tuple[Tracked | None, list[Tracked]]:
    """The fresh tank and the grey ones that are known."""
    store = aboard.rig.first(Role.WATER)
    greys = [each for s in aboard.rig.every(Role.DRAIN) if (each := aboard.known.store(s.id)) is not None]
    return aboard.known.store(store.id if store else None), greys


_FLUSH = "flush"


class _Uses:
    """What activities take of each tank, and what sparing a share of them makes of it."""

    def __init__(self, aboard: Aboard, fresh: Tracked | None, greys: list[Tracked]) -> None:
        self.aboard, self.rig, self.fresh, self.greys = aboard, aboard.rig, fresh, greys
        learned = amounts(self.rig, fresh) if fresh is not None else ()
        self.day_l = {each.activity.id: each.day_l.p50 for each in learned}
        self.often = {each.activity.id: each.per_day for each in learned}
        if fresh is None:
            self.day_l = {each.activity.id: each.day_l for each in usual_activities(self.rig)}
            self.often = {each.activity.id: each.per_day for each in usual_activities(self.rig)}

    def shares(self, cuts: Mapping[str, float | None]) -> dict[str, float]:
        """The share that each cut spares; of what is done once a day instead of more often, by how often it is."""
        often = max(1.0, sum(self.often.get(id, 0.0) for id in cuts))
        return {id: 1 - 1 / often if share is None else share for id, share in cuts.items()}

    def lever(self, id: str, cuts: Mapping[str, float]) -> Lever | None:
        """A lever that spares a share of some activities, of what heats their water too; None where none is done."""
        cuts = {each: share for each, share in cuts.items() if share > 0 and self.day_l.get(each, 0.0) > 0}
        changes: dict[str, Change] = {}
        touches = []
        for tracked in (self.fresh, *self.greys):
            if tracked is not None and (made := self._of_tank(tracked, cuts)):
                changes[tracked.store.id] = made[0]
                touches.append(Touch(store=tracked.store.id, per_day=made[1]))
        if not changes:
            return None
        for gas_id, change, per_day in _heating_water(self.aboard, self._hot(cuts)):
            changes[gas_id] = change
            touches.append(Touch(store=gas_id, per_day=per_day))
        return self.aboard.lever(id, changes, touches)

    def _hot(self, cuts: Mapping[str, float]) -> float:
        """The share of the heated water that is spared."""
        every = {id: litres * ACTIVITIES[id].hot for id, litres in self.day_l.items()}
        whole = sum(every.values())
        return sum(share * every[id] for id, share in cuts.items()) / whole if whole > 0 else 0.0

    def _of_tank(self, tracked: Tracked, cuts: Mapping[str, float]) -> tuple[Change, float] | None:
        """What is spared of one tank, and how much a day: of an activity that the log tells apart its own share, of
        others the litres."""
        drivers, coefficients = tracked.model.drivers, tracked.belief.coefficients
        is_grey = tracked.store.kind.role is Role.DRAIN
        less = np.zeros(len(drivers))
        per_day = litres = 0.0
        for id, share in cuts.items():
            part = to_grey(self.rig, tracked.store, ACTIVITIES[id]) if is_grey else fresh_share(self.rig, tracked.store)
            if part > 0 and id in drivers:
                at = drivers.index(id)
                less[at] = min(share, Levers.most_spared)
                per_day += less[at] * float(coefficients[at]) * tracked.model.day_kinds.usual(id)
            else:
                litres += share * part * self.day_l[id]
        at = drivers.index(Driver.PEOPLE)
        usual = float(coefficients[at])
        if litres > 0 and usual > 0:
            less[at] = min(litres / usual, Levers.most_spared)
            per_day += less[at] * usual
        if per_day <= 0:
            return None
        return Change(less=np.tile(less, (self.aboard.n_dates, 1))), per_day


def _heating_water(aboard: Aboard, share: float) -> Iterable[tuple[str, Change, float]]:
    """What heating less water spares of the stores that a water heater burns from."""
    for store in aboard.rig.stores:
        tracked, burners = aboard.known.store(store.id), aboard.rig.burners(store)
        heaters = [each for each in burners if each.kind.by_litre]
        if tracked is None or not heaters or Driver.PEOPLE not in tracked.model.drivers:
            continue
        every = sum(each.kwh_per_day for each in burners if not each.kind.by_cold)
        part = share * sum(each.kwh_per_day for each in heaters) / max(every, Numeric.tiny)
        usual = float(tracked.belief.coefficients[tracked.model.drivers.index(Driver.PEOPLE)])
        yield store.id, spared(aboard, tracked, Driver.PEOPLE, part), part * usual


def _flush(aboard: Aboard, fresh: Tracked | None) -> Iterable[Lever]:
    """Flush less: a toilet with water takes less of its tank and of what it is flushed from."""
    rig, changes, touches = aboard.rig, {}, []
    for store in rig.stores:
        tracked = aboard.known.store(store.id)
        if tracked is not None and store.kind.toilet in (Toilet.BLACK, Toilet.CASSETTE):
            part = Levers.toilet_flush * Levers.flush_spares
            usual = usual_use(tracked)
            changes[store.id] = spared(aboard, tracked, Driver.PEOPLE, part)
            touches.append(Touch(store=store.id, per_day=part * usual))
    if not changes:
        return
    own = flush_tank(rig)
    from_tank = aboard.known.store(own.id) if own is not None else fresh
    if from_tank is not None:
        litres = Levers.flush_spares * flushed_l(rig) * rig.crew.adult_equivalents
        usual = float(from_tank.belief.coefficients[from_tank.model.drivers.index(Driver.PEOPLE)])
        part = min(litres / max(usual, Numeric.tiny), Levers.most_spared)
        changes[from_tank.store.id] = spared(aboard, from_tank, Driver.PEOPLE, part)
        touches.append(Touch(store=from_tank.store.id, per_day=part * usual))
    yield aboard.lever("flush-less", changes, touches)
