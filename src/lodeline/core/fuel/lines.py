"""What must stay: the way to the next pump, days without supply that a crew wants to sit out, and the range above
it."""

from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from lodeline.core.book import Spot, fits, way_km
from lodeline.core.catalogue import Driver, Sense
from lodeline.core.conditions import Conditions
from lodeline.core.figures import Fuel, Numeric
from lodeline.core.forecast.known import Known
from lodeline.core.rig import Rig, Store
from lodeline.core.statistics import Z90, Range
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.tracking.use import day_influence
from lodeline.core.values import dataclass

_MOST, _LEAST = 0.95, 0.1  # a line leaves some room under full; a range some of its middle


@dataclass(frozen=True, slots=True, kw_only=True)
class MustStay:
    """A store's line and what makes it, in contents. ``own``: as set up; ``pump``: the way to the next pump, None where
    no place is known that sells it; ``buffer``: days without supply on top; ``level``: the line."""

    store: Store
    own: float
    pump: float | None
    pump_km: float | None
    pump_spot: Spot | None
    buffer: float
    level: float

    @property
    def differs(self) -> bool:
        """Whether it is not the line that was set up."""
        return abs(self.level - self.own) > Numeric.small

    @property
    def limit(self) -> float:
        """The line as a share of capacity."""
        return self.level / self.store.capacity


def burns_per_km(tracked: Tracked) -> Range | None:
    """What the way takes of a tank: the coefficient that drives taught. [L/km]"""
    found = tracked.coefficient(Driver.KM)
    if found is None:
        return None
    mean, sd = found
    return Range(max(mean - Z90 * sd, _LEAST * mean), mean, mean + Z90 * sd)


def next_pump(rig: Rig, store: Store, days: Sequence[Conditions], book: Sequence[Spot]) -> tuple[Spot, float] | None:
    """The nearest place that sells what a tank holds and lets the rig in, with the way to it. [km]"""
    here = days[0].place
    if here is None:
        return None
    on = days[0].date
    near = [
        (spot, way_km(rig, here, spot.place))
        for spot in book
        if spot.service_for(store) is not None and fits(rig, spot) and on.month not in spot.closed_months
    ]
    return min(near, key=lambda each: each[1], default=None)


def is_driven(rig: Rig, store: Store) -> bool:
    """Whether the vehicle drives from it."""
    return rig.driven_tank is not None and rig.driven_tank.id == store.id


def expected_per_day(rig: Rig, tracked: Tracked, days: Sequence[Conditions]) -> float:
    """Expected use on such days, driving left out. [unit/day]"""
    rows = [day_influence(rig, tracked.store, tracked.model, day, tracked.usual_sky).hourly.sum(axis=0) for day in days]
    each = tracked.store.sign * float(np.mean(rows, axis=0) @ tracked.belief.coefficients)
    return max(0.0, each)


def must_stay(rig: Rig, tracked: Tracked, days: Sequence[Conditions], book: Sequence[Spot]) -> MustStay:
    """What must stay in one store. The file's line is never lowered, but where the crew said that the way is its
    line."""
    store = rig.store(tracked.store.id) or tracked.store
    own, pump, km, spot = store.line_level, None, None, None
    if store.is_fuel and is_driven(rig, store):
        found, each = next_pump(rig, store, days, book), burns_per_km(tracked)
        if found is not None and each is not None:
            spot, km = found
            pump = max(Fuel.pump_least * store.capacity, km * each.p90 * Fuel.pump_margin)
    base = own if pump is None else pump if store.by_pump else max(own, pump)
    buffer = 0.0
    if store.buffer_days and store.sense is Sense.DRAINS and tracked.known_since is not None and not store.is_bank:
        buffer = store.buffer_days * expected_per_day(rig, tracked, days)
    level = min(_MOST * store.capacity, base + buffer)
    return MustStay(
        store=store, own=own, pump=pump, pump_km=km, pump_spot=spot, buffer=max(0.0, level - base), level=level
    )


_BUFFER_DAYS = 7  # days whose mean a day without supply is


def lines(known: Known) -> dict[str, MustStay]:
    """What must stay, of every store of fuel and gas and of those that a buffer raises, by store."""
    told = {id: each for id, each in known.tracked.items() if _is_told(each.store)}
    days = known.days(_BUFFER_DAYS) if told else []
    return {id: must_stay(known.rig, each, days, known.book) for id, each in told.items()}


def _is_told(store: Store) -> bool:
    return store.is_fuel or store.is_gas or store.buffer_days > 0 or store.own_kwh is not None


def with_lines(tracked: Mapping[str, Tracked], found: Mapping[str, MustStay]) -> dict[str, Tracked]:
    """What is known of the stores, each with the line that holds now."""
    raised = {id: replace(tracked[id].store, limit=each.limit) for id, each in found.items() if each.differs}
    return {id: replace(each, store=raised[id]) if id in raised else each for id, each in tracked.items()}


def live(known: Known) -> Known:
    """The same with the lines that hold now."""
    return replace(known, tracked=with_lines(known.tracked, lines(known)))


def range_km(tracked: Tracked, stays: MustStay) -> Range | None:
    """How far one gets above what must stay: (level - line) over what a kilometre takes. [km]"""
    each = burns_per_km(tracked)
    if each is None or tracked.known_since is None:
        return None
    low, high = tracked.level_range
    return Range(
        max(0.0, low - stays.level) / each.p90,
        max(0.0, tracked.level - stays.level) / each.p50,
        max(0.0, high - stays.level) / each.p10,
    )
