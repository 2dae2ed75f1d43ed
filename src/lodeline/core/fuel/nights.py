"""What gives out first of heat, and how many cold nights are left: the paths of what heaters burn and of the bank.

A heater is cold when its fuel is at the level under which it draws none, or when the bank that its fan and pump need is
at its line, whichever comes first. Where several heaters are aboard, the last of them ends the heat.
"""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import date, datetime

import numpy as np

from lodeline.core.catalogue import Driver, Role
from lodeline.core.conditions import Conditions
from lodeline.core.energy import heat, vapour
from lodeline.core.energy.loads import counted_loads
from lodeline.core.figures import Fuel, Heat, Numeric
from lodeline.core.forecast.bank_paths import Bank, draw_bank
from lodeline.core.forecast.change import NO_CHANGE, Change, together
from lodeline.core.forecast.known import Known
from lodeline.core.forecast.paths import Ahead, Tank, days_left, draw_tank
from lodeline.core.rig import Rig, Store
from lodeline.core.statistics import P10, P50, P90, Z90, Floats, Range, reached_by
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS


@dataclass(frozen=True, slots=True, kw_only=True)
class Nights:
    """So many nights with heat, as a range; ``beyond``: at least so many, as far as is looked."""

    p10: int
    p50: int
    p90: int
    beyond: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Need:
    """One thing that the heat needs. ``ends_at``: contents at which it gives out; ``days``: until then, days from now,
    None beyond what is looked; ``p_first``: chance that it is what ends the heat."""

    store: Store
    level: float
    ends_at: float
    days: tuple[float | None, float | None, float | None]
    p_first: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ColdNight:
    """A night ahead: its lowest with its error, the day's degree-days and what heating is expected to burn of each
    store."""

    date: date
    low_c: float
    sd_c: float
    degree_days: float
    burns: Mapping[str, Range]
    falls_short: bool

    @property
    def low(self) -> Range:
        """Its lowest by one standard deviation either way. [degrees C]"""
        return Range(self.low_c - self.sd_c, self.low_c, self.low_c + self.sd_c)


@dataclass(frozen=True, slots=True, kw_only=True)
class HeatAhead:
    """How the heat holds. ``needs``: the likeliest to end it first; ``ends``: when the heat ends, p10, p50 and p90 in
    days from now; ``colder_c``: by how much the nights were made colder; ``draws``: whether the heat needs the bank."""

    colder_c: float
    nights: Nights
    ends: tuple[float | None, float | None, float | None]
    ends_at: datetime | None
    needs: tuple[Need, ...]
    strip: tuple[ColdNight, ...]
    draws: bool
    low_c: float

    @property
    def first(self) -> Need | None:
        """What ends the heat first, None where nothing does in sight."""
        best = max(self.needs, key=lambda each: each.p_first, default=None)
        return best if best is not None and best.p_first > 0 else None


def heating_stores(known: Known) -> list[Tracked]:
    """What is known of the stores that heaters burn from."""
    found = (known.store(store.id) for store in known.rig.stores)
    return [each for each in found if each is not None and heats(known.rig, each)]


def heats(rig: Rig, tracked: Tracked) -> bool:
    """Whether something heats from a store."""
    burns = any(burner.kind.by_cold for burner in rig.burners(tracked.store)) or tracked.store.heats
    return bool(burns) and Driver.DEGREE_DAYS in tracked.model.drivers


def draws_from_bank(rig: Rig, store: Store) -> bool:
    """Whether the heaters of a store need the bank: where nobody said, one that is listed among the loads, or any that
    burns fuel."""
    usual = any(load.kind.heats for load in counted_loads(rig)) or store.is_fuel
    mine = [each for each in rig.burners(store) if each.kind.by_cold]
    if not mine:
        return usual
    return any(each.kind.fan and usual if each.watts is None else each.watts > 0 for each in mine)


def end_level(rig: Rig, tracked: Tracked, low_c: float) -> float:
    """Contents at which a store gives a heater nothing more: its pick-up, or what the cold locks in a bottle."""
    store = tracked.store
    if store.is_fuel:
        if store.pick_up is not None:
            return store.pick_up * store.capacity
        is_main = rig.is_first(Role.VEHICLE_FUEL, store) and not store.generates
        return Fuel.pick_up * store.capacity if is_main else 0.0
    if store.is_gas and store.outside is not False:
        return vapour.locked_kg(store, tracked.level, low_c)
    return 0.0


def low_tonight_c(days: Sequence[Conditions]) -> float:
    """The lowest of the coming night, of today and the days after it. [degC]"""
    return min(day.min_c for day in days[:2])


@dataclass(frozen=True, kw_only=True)
class HeatDrawn:
    """What was drawn of what the heat needs, before any lever is pulled. ``bank``: None where no heater needs one;
    ``agreed``: what is agreed, by store."""

    ahead: Ahead
    colder_c: float
    heaters: Sequence[Tracked]
    bank: Tracked | None
    draws: Mapping[str, Tank | Bank]
    agreed: Mapping[str, Change]

    def times(self, store: str, more: Change = NO_CHANGE) -> Floats:
        """When each path of a store is at the level at which the heat ends, shape (n_paths,), inf beyond. [day]"""
        return self.draws[store].paths(together([self.agreed.get(store, NO_CHANGE), more])).reached_days


def draw_heat(
    known: Known, ahead: Ahead, agreed: Mapping[str, Change] | None = None, colder_c: float = 0.0
) -> HeatDrawn | None:
    """Draw what the heat needs; None where no heater burns from what is known. ``colder_c``: by how much the days ahead
    were made colder."""
    rig = known.rig
    heaters = heating_stores(known)
    if not heaters:
        return None
    low_c = low_tonight_c(ahead.days)
    needs_bank = any(draws_from_bank(rig, each.store) for each in heaters)
    bank = known.banks[0] if known.banks and needs_bank else None
    draws: dict[str, Tank | Bank] = {}
    for each in heaters:
        limit = min(1.0, end_level(rig, each, low_c) / each.store.capacity)
        until = replace(each, store=replace(each.store, limit=limit))
        draws[each.store.id] = draw_tank(ahead, until, known.scale_of(each.store.id))
    if bank is not None:
        draws[bank.store.id] = draw_bank(ahead, bank, known.scale_of(bank.store.id))
    return HeatDrawn(ahead=ahead, colder_c=colder_c, heaters=heaters, bank=bank, draws=draws, agreed=agreed or {})


def holds(rig: Rig, drawn: HeatDrawn, changes: Mapping[str, Change] | None = None) -> HeatAhead:
    """How the heat holds on what was drawn, with what else is changed."""
    ahead, bank = drawn.ahead, drawn.bank
    low_c = low_tonight_c(ahead.days)
    times = {id: drawn.times(id, (changes or {}).get(id, NO_CHANGE)) for id in drawn.draws}
    ends = np.stack(
        [
            np.minimum(times[each.store.id], times[bank.store.id])
            if bank is not None and draws_from_bank(rig, each.store)
            else times[each.store.id]
            for each in drawn.heaters
        ]
    ).max(axis=0)
    needs = tuple(
        Need(
            store=each.store,
            level=each.level,
            ends_at=each.store.line_level if each is bank else end_level(rig, each, low_c),
            days=days_left(ahead, times[each.store.id]),
            p_first=float(((times[each.store.id] == ends) & np.isfinite(ends)).mean()),
        )
        for each in (*drawn.heaters, *([bank] if bank is not None else []))
    )
    days = days_left(ahead, ends)
    return HeatAhead(
        colder_c=drawn.colder_c,
        nights=nights(ahead, ends),
        ends=days,
        ends_at=None if days[1] is None else ahead.at(HOURS * reached_by(ends, P50)[0]),
        needs=tuple(sorted(needs, key=lambda each: -each.p_first)),
        strip=strip(ahead, drawn.heaters),
        draws=bank is not None,
        low_c=low_c,
    )


def nights(ahead: Ahead, ends: Floats) -> Nights:
    """Nights that are warm to the morning: mornings that come before the heat ends. Shape (n_paths,)."""
    hour = ahead.hour % HOURS
    first_h = Heat.morning_h - hour if hour < Heat.morning_h else HOURS + Heat.morning_h - hour
    ends_h = np.minimum(ends, ahead.n_days) * HOURS
    warm = np.maximum(0.0, np.floor((ends_h - first_h) / HOURS) + 1)
    low, middle, high = (int(n) for n in reached_by(warm, P10, P50, P90))
    return Nights(p10=low, p50=middle, p90=high, beyond=not np.isfinite(reached_by(ends, P50)[0]))


def strip(ahead: Ahead, heaters: Sequence[Tracked]) -> tuple[ColdNight, ...]:
    """The nights ahead, each with what heating its day is expected to burn."""
    found = []
    for index, day in enumerate(ahead.days):
        sd_c = float(np.hypot(day.air_sd_c, day.outlook_sd_c))
        cold = heat.degree_days(ahead.rig, day)
        spread = heat.degree_days_at(ahead.rig, day, np.array([sd_c, -sd_c]))
        burns = {}
        for each in heaters:
            mean, sd = each.coefficient(Driver.DEGREE_DAYS) or (0.0, 0.0)
            cv, day_cv = sd / max(mean, Numeric.small), each.model.day_cv[each.model.drivers.index(Driver.DEGREE_DAYS)]
            whole = float(np.hypot(cv * cold, (spread[1] - spread[0]) / 2))
            whole = float(np.hypot(whole, float(day_cv) * each.spread * cold))
            burns[each.store.id] = Range(
                max(0.0, mean * (cold - Z90 * whole)), mean * cold, mean * (cold + Z90 * whole)
            )
        short = ahead.rig.heat is not None and heat.needed(ahead.rig, day).falls_short
        found.append(
            ColdNight(
                date=day.date,
                low_c=ahead.days[min(index + 1, ahead.n_days)].min_c,
                sd_c=sd_c,
                degree_days=cold,
                burns=burns,
                falls_short=short and bool(ahead.rig.heaters),
            )
        )
    return tuple(found)
