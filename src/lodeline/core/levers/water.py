"""Levers on water: showers, dishes, laundry, flushing. What is spared of fresh water is spared of grey, and of gas."""

from collections.abc import Iterable, Mapping

import numpy as np

from lodeline.core.catalogue import Driver, Role, Toilet
from lodeline.core.catalogue.levers import LEVER_KINDS
from lodeline.core.figures import Levers, Numeric, Use
from lodeline.core.forecast.change import Change
from lodeline.core.levers.lever import Aboard, Lever, Touch
from lodeline.core.tracking.track import Tracked
from lodeline.core.tracking.use import flush_tank, flushed_l

_SHOWER, _LAUNDRY = "shower", "laundry"


def usual_use(tracked: Tracked) -> float:
    """What a store whose use goes by people takes on a usual day. [unit/day]"""
    return float(tracked.model.usual_x @ tracked.belief.coefficients)


def spared(aboard: Aboard, tracked: Tracked, driver: str, share: float) -> Change:
    """A share of what one driver uses is spared on every date."""
    less = np.zeros((aboard.n_dates, len(tracked.model.drivers)))
    less[:, tracked.model.drivers.index(driver)] = min(share, Levers.most_spared)
    return Change(less=less)


def _of_kind(aboard: Aboard, tracked: Tracked, kind: str, litres: float, share: float) -> tuple[Change, float] | None:
    """A share of what showers or laundry take of a store is spared, where they are told apart by the log or, by
    ``litres`` a day, by common practice. With what that is a day; None where it would be nothing."""
    model = tracked.model
    if kind in model.drivers:
        each = float(tracked.belief.coefficients[model.drivers.index(kind)]) * model.day_kinds.usual(kind)
        # a shower that the log cannot tell from other use takes at least what is common
        if each >= litres * Levers.believed or litres <= 0:
            return (spared(aboard, tracked, kind, share), share * each) if each > 0 else None
    usual = float(tracked.belief.coefficients[model.drivers.index(Driver.PEOPLE)])
    if litres <= 0 or usual <= 0:
        return None
    part = min(share * litres / usual, Levers.most_spared)
    return spared(aboard, tracked, Driver.PEOPLE, part), part * usual


def showers_l(aboard: Aboard, fresh: Tracked) -> float:
    """What showers take of the fresh water by common practice: what is left over washing and dishes. [L/day]"""
    use, people = usual_use(fresh), aboard.rig.crew.adult_equivalents
    rest = use - Levers.washing_l * people - Levers.dishes_l
    return use * float(np.clip(rest / max(use, 1.0), Levers.shower_least, Levers.shower_most))


def water_levers(aboard: Aboard) -> Iterable[Lever]:
    """The levers on water of a rig with a fresh or a grey tank that is known."""
    fresh_store = aboard.rig.first(Role.WATER)
    fresh = aboard.known(fresh_store.id if fresh_store else None)
    grey_store = aboard.rig.first(Role.DRAIN)
    grey = aboard.known(grey_store.id if grey_store else None)
    if fresh is None and grey is None:
        return
    shower = showers_l(aboard, fresh) if fresh is not None else usual_use(grey) * Levers.shower_least if grey else 0.0
    for id, share in (("navy-showers", Levers.navy_spares), ("showers-ashore", 1.0), ("skip-showers", 1.0)):
        yield _washing(aboard, id, _SHOWER, shower, share, (fresh, grey), hot=share * Levers.hot_of_shower)
    use = usual_use(fresh) if fresh is not None else Levers.dishes_l / Levers.dishes_most
    dishes = min(Levers.dishes_l, Levers.dishes_most * use)
    hot = Levers.wipe_spares * (1 - Levers.hot_of_shower)
    yield _washing(aboard, "wipe-plates", "", dishes, Levers.wipe_spares, (fresh, grey), hot=hot)
    if laundry := _laundry_l(aboard):
        yield _washing(aboard, "laundry-ashore", _LAUNDRY, laundry, 1.0, (fresh, grey))
    yield from _flush(aboard, fresh)


def _laundry_l(aboard: Aboard) -> float:
    """Laundry aboard in a day, as the log shows it; 0 where none was. [L/day]"""
    days = aboard.log.days[-Use.kinds_recent_days :]
    loads = sum(event.count or 1 for day in days for event in day.events if event.type == _LAUNDRY)
    return Use.laundry_l * loads / max(1, len(days))


def _washing(
    aboard: Aboard, id: str, day_kind: str, litres: float, share: float, water: tuple[Tracked | None, Tracked | None],
    hot: float = 0.0,
) -> Lever:  # fmt: skip
    """A lever that spares fresh and grey water, and what heats it."""
    fresh, grey = water
    changes: dict[str, Change] = {}
    touches = []
    for tracked, part in ((fresh, 1.0), (grey, Use.grey_of_shower if day_kind else Use.grey_share)):
        if tracked is not None and (made := _of_kind(aboard, tracked, day_kind, litres * part, share)):
            changes[tracked.store.id] = made[0]
            touches.append(Touch(store=tracked.store.id, per_day=made[1]))
    if hot and changes:
        for gas_id, change, per_day in _heating_water(aboard, hot):
            changes[gas_id] = change
            touches.append(Touch(store=gas_id, per_day=per_day))
    return _lever(aboard, id, changes, touches)


def _heating_water(aboard: Aboard, share: float) -> Iterable[tuple[str, Change, float]]:
    """What heating less water spares of the stores that a water heater burns from."""
    for store in aboard.rig.stores:
        tracked, burners = aboard.known(store.id), aboard.rig.burners(store)
        heaters = [each for each in burners if each.kind.id == "water-heater"]
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
        tracked = aboard.known(store.id)
        if tracked is not None and store.kind.toilet in (Toilet.BLACK, Toilet.CASSETTE):
            part = Levers.toilet_flush * Levers.flush_spares
            usual = usual_use(tracked)
            changes[store.id] = spared(aboard, tracked, Driver.PEOPLE, part)
            touches.append(Touch(store=store.id, per_day=part * usual))
    if not changes:
        return
    own = flush_tank(rig)
    from_tank = aboard.known(own.id) if own is not None else fresh
    if from_tank is not None:
        litres = Levers.flush_spares * flushed_l(rig) * rig.crew.adult_equivalents
        if made := _of_kind(aboard, from_tank, "", litres, 1.0):
            changes[from_tank.store.id] = made[0]
            touches.append(Touch(store=from_tank.store.id, per_day=made[1]))
    yield _lever(aboard, "flush-less", changes, touches)


def _lever(aboard: Aboard, id: str, changes: Mapping[str, Change], touches: list[Touch]) -> Lever:
    return lever_of(aboard, id, id, changes, touches)


def lever_of(
    aboard: Aboard, kind_id: str, id: str, changes: Mapping[str, Change], touches: Iterable[Touch], subject: str = "",
    amount: float | None = None, spot: str | None = None,
) -> Lever:  # fmt: skip
    """A lever with the hardship that the crew gave it, its kind's where it gave none."""
    kind = LEVER_KINDS[kind_id]
    return Lever(
        id=id, kind=kind, hardship=aboard.rig.hardship.get(id, kind.hardship), changes=changes,
        touches=tuple(touches), subject=subject, amount=amount, spot=spot,
    )  # fmt: skip
