"""What gives out first of heat, and how many cold nights are left: the paths of what heaters burn and of the bank.

A heater is cold when its fuel is at the level under which it draws none, or when the bank that its fan and pump need is
at its line, whichever comes first. Where several heaters are aboard, the last of them ends the heat.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime

import numpy as np

from lodeline.core.catalogue import Driver, Role
from lodeline.core.conditions import Conditions, coming
from lodeline.core.energy import heat
from lodeline.core.energy.loads import counted_loads
from lodeline.core.figures import Fuel, Heat, Numeric
from lodeline.core.forecast.bank_paths import Bank, draw_bank
from lodeline.core.forecast.change import NO_CHANGE, Change, together
from lodeline.core.forecast.energy_ahead import Range
from lodeline.core.forecast.forecast import quantile_days
from lodeline.core.forecast.paths import Ahead, Plain, draw_plain, look_ahead
from lodeline.core.fuel import vapour
from lodeline.core.levers.agreed import Known, agreed_changes
from lodeline.core.levers.lever import Aboard, Lever
from lodeline.core.rig import Appliance, Rig, Store
from lodeline.core.statistics import P10, P50, P90, Z90, Floats
from lodeline.core.tracking.track import Tracked
from lodeline.core.zone import HOURS

_FAN = "heating"


@dataclass(frozen=True, slots=True, kw_only=True)
class Nights:
    """So many nights with heat, as a range; ``beyond``: at least so many, as far as is looked."""

    p10: int
    p50: int
    p90: int
    beyond: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Needs:
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


@dataclass(frozen=True, slots=True, kw_only=True)
class HeatAhead:
    """How the heat holds. ``needs``: the likeliest to end it first; ``ends``: when the heat ends, p10, p50 and p90 in
    days from now; ``colder_c``: by how much the nights were made colder; ``draws``: whether the heat needs the bank."""

    colder_c: float
    nights: Nights
    ends: tuple[float | None, float | None, float | None]
    ends_at: datetime | None
    needs: tuple[Needs, ...]
    strip: tuple[ColdNight, ...]
    draws: bool
    low_c: float

    @property
    def first(self) -> Needs | None:
        """What ends the heat first, None where nothing does in sight."""
        best = max(self.needs, key=lambda each: each.p_first, default=None)
        return best if best is not None and best.p_first > 0 else None


def heating_stores(rig: Rig, tracked: Mapping[str, Tracked]) -> list[Tracked]:
    """What is known of the stores that heaters burn from."""
    found = []
    for store in rig.stores:
        each = tracked.get(store.id)
        if each is None or each.known_since is None or Driver.DEGREE_DAYS not in each.model.drivers:
            continue
        if any(burner.kind.by_cold for burner in rig.burners(store)) or store.heats:
            found.append(each)
    return found


def draws_from_bank(rig: Rig, store: Store) -> bool:
    """Whether the heaters of a store need the bank: where nobody said, one that is listed among the loads, or any that
    burns fuel."""
    usual = any(load.kind.id == _FAN for load in counted_loads(rig)) or store.is_fuel
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


def colder(days: Sequence[Conditions], by_c: float) -> list[Conditions]:
    """The same days so much colder."""
    return [replace(day, mean_c=day.mean_c - by_c, min_c=day.min_c - by_c) for day in days]


def ahead_of(known: Known, seed: int, colder_c: float = 0.0, n_days: int = Heat.horizon_days) -> Ahead:
    """The days ahead for the heat."""
    any_tracked = next(iter(known.tracked.values()))
    days = colder(coming(known.rig, known.outlook, any_tracked.conditions, n_days), colder_c)
    return look_ahead(known.rig, known.now, any_tracked.hour, days, Heat.paths, seed)


def low_tonight_c(ahead: Ahead) -> float:
    """The lowest of the coming night. [degC]"""
    return min(day.min_c for day in ahead.days[:2])


@dataclass(frozen=True, kw_only=True)
class Drawn:
    """What was drawn of what the heat needs, before any lever is pulled. ``bank``: None where no heater needs one;
    ``agreed``: what is agreed, by store."""

    ahead: Ahead
    colder_c: float
    heaters: Sequence[Tracked]
    bank: Tracked | None
    draws: Mapping[str, Plain | Bank]
    agreed: Mapping[str, Change]

    def times(self, store: str, levers: Sequence[Lever]) -> Floats:
        """When each path of a store is at the level at which the heat ends, shape (n_paths,), inf beyond. [day]"""
        mine = [lever.changes[store] for lever in levers if store in lever.changes]
        return self.draws[store].paths(together([self.agreed.get(store, NO_CHANGE), *mine])).reached_days


def draw_heat(known: Known, seed: int, colder_c: float = 0.0, n_days: int = Heat.horizon_days) -> Drawn | None:
    """Draw what the heat needs, so much colder than expected; None where no heater burns from what is known."""
    rig = known.rig
    heaters = heating_stores(rig, known.tracked)
    if not heaters:
        return None
    ahead = ahead_of(known, seed, colder_c, n_days)
    low_c = low_tonight_c(ahead)
    banks = [each for store in rig.banks if (each := known.tracked[store.id]).known_since is not None][:1]
    needs_bank = any(draws_from_bank(rig, each.store) for each in heaters)
    bank = banks[0] if banks and needs_bank else None
    draws: dict[str, Plain | Bank] = {}
    for each in heaters:
        limit = min(1.0, end_level(rig, each, low_c) / each.store.capacity)
        until = replace(each, store=replace(each.store, limit=limit))
        draws[each.store.id] = draw_plain(ahead, until, known.spread_scale.get(each.store.id, 1.0))
    if bank is not None:
        draws[bank.store.id] = draw_bank(ahead, bank, known.spread_scale.get(bank.store.id, 1.0))
    agreed = agreed_changes(known.aboard(ahead), known.agreed)
    return Drawn(ahead=ahead, colder_c=colder_c, heaters=heaters, bank=bank, draws=draws, agreed=agreed)


def heat_ahead(
    known: Known, seed: int, colder_c: float = 0.0, levers: Sequence[Lever] = (), n_days: int = Heat.horizon_days
) -> HeatAhead | None:
    """How the heat holds, with what is agreed and with more levers; None where no heater burns from what is known."""
    drawn = draw_heat(known, seed, colder_c, n_days)
    return None if drawn is None else holds(known.rig, drawn, levers)


def holds(rig: Rig, drawn: Drawn, levers: Sequence[Lever] = ()) -> HeatAhead:
    """How the heat holds on what was drawn."""
    ahead, bank = drawn.ahead, drawn.bank
    low_c = low_tonight_c(ahead)
    times = {id: drawn.times(id, levers) for id in drawn.draws}
    ends = np.stack(
        [
            np.minimum(times[each.store.id], times[bank.store.id])
            if bank is not None and draws_from_bank(rig, each.store)
            else times[each.store.id]
            for each in drawn.heaters
        ]
    ).max(axis=0)
    needs = tuple(
        Needs(
            store=each.store,
            level=each.level,
            ends_at=each.store.line_level if each is bank else end_level(rig, each, low_c),
            days=_days(ahead, times[each.store.id]),
            p_first=float(((times[each.store.id] == ends) & np.isfinite(ends)).mean()),
        )
        for each in (*drawn.heaters, *([bank] if bank is not None else []))
    )
    days = _days(ahead, ends)
    return HeatAhead(
        colder_c=drawn.colder_c,
        nights=nights(ahead, ends),
        ends=days,
        ends_at=None if days[1] is None else ahead.at(HOURS * middle_of(ends)),
        needs=tuple(sorted(needs, key=lambda each: -each.p_first)),
        strip=strip(ahead, drawn.heaters),
        draws=bank is not None,
        low_c=low_c,
    )


def _days(ahead: Ahead, times: Floats) -> tuple[float | None, float | None, float | None]:
    low, middle, high = (
        None if each is None else ahead.elapsed_days(each) for each in quantile_days(times, P10, P50, P90)
    )
    return low, middle, high


def nights(ahead: Ahead, ends: Floats) -> Nights:
    """Nights that are warm to the morning: mornings that come before the heat ends. Shape (n_paths,)."""
    hour = ahead.hour % HOURS
    first_h = Heat.morning_h - hour if hour < Heat.morning_h else HOURS + Heat.morning_h - hour
    ends_h = np.minimum(ends, ahead.n_days) * HOURS
    each = np.sort(np.maximum(0, np.floor((ends_h - first_h) / HOURS) + 1))
    low, middle, high = (int(each[int(share * (len(each) - 1))]) for share in (P10, P50, P90))
    return Nights(p10=low, p50=middle, p90=high, beyond=not np.isfinite(middle_of(ends)))


def middle_of(times: Floats) -> float:
    """The middle of times that may be inf. [day]"""
    return float(np.sort(times)[int(P50 * (len(times) - 1))])


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


@dataclass(frozen=True, slots=True, kw_only=True)
class Bought:
    """What a lever buys of heat: nights with it, and how many more."""

    lever: Lever
    nights: Nights
    more_days: float
    first: Needs | None


def bought(rig: Rig, drawn: Drawn, levers: Sequence[Lever], now: HeatAhead) -> tuple[Bought, ...]:
    """What each lever on heat buys on the same paths, those that buy most first."""
    found = []
    for lever in levers:
        if not set(drawn.draws) & set(lever.changes):
            continue
        after = holds(rig, drawn, [lever])
        found.append(
            Bought(lever=lever, nights=after.nights, more_days=_middle(after) - _middle(now), first=after.first)
        )
    return tuple(sorted(found, key=lambda each: -each.more_days))


def _middle(each: HeatAhead) -> float:
    return float(Heat.horizon_days) if each.ends[1] is None else each.ends[1]


def aboard_of(known: Known, seed: int) -> Aboard:
    """What tells which levers there are."""
    return known.aboard(ahead_of(known, seed))


def largest_heater(rig: Rig) -> Appliance | None:
    """The heater that gives most."""
    return max(rig.heaters, key=lambda each: each.full_kw * each.useful, default=None)
