"""Can I run it, of what burns: what an evening of oven, a night of heating or three showers take, and what is left."""

from dataclasses import replace

from lodeline.core.catalogue import Via
from lodeline.core.conditions import Conditions
from lodeline.core.energy import heat, vapour
from lodeline.core.energy.bank import WH_PER_KWH
from lodeline.core.errors import Refused
from lodeline.core.figures import Heat, Numeric, Water
from lodeline.core.forecast.appliance import Answer, RunAsk, RunVerdict, can_run
from lodeline.core.forecast.known import Known
from lodeline.core.forecast.paths import Ahead
from lodeline.core.fuel.burns import heat_times
from lodeline.core.fuel.lines import expected_per_day
from lodeline.core.fuel.nights import end_level, low_tonight_c
from lodeline.core.problems import Plain
from lodeline.core.rig import Appliance, Store
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass
from lodeline.core.warmth import HeatGear
from lodeline.core.water.hot import heat_wh
from lodeline.core.zone import MIN_PER_H

_WEEK = 8  # a week ahead, today besides


@dataclass(frozen=True, slots=True, kw_only=True)
class BurnAsk:
    """A run of an appliance: so many hours at its full rate, or a whole night at an outside temperature, or litres of
    hot water."""

    appliance: Appliance
    hours: float | None = None
    night_c: float | None = None
    litres: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class BurnVerdict:
    """The answer. ``takes`` and ``left`` in the store's unit, ``left_days``: days that the rest lasts as usual;
    ``costs_days``: what it takes of them; ``hours``: at its full rate; ``locked``: of what is left, what the cold
    locks; ``heats``: something heats from the store, so that what is left is told in nights; ``asleep``: what has no
    flue would run through a night; ``held_c``: a heater holds its inside down to this outside, None for others;
    ``bank``: its share, None where it draws nothing or no bank is known; ``water_l``: what it puts into the air."""

    ask: BurnAsk
    store: Store
    answer: Answer
    takes: float
    left: float
    left_days: float | None
    costs_days: float | None
    hours: float
    locked: float
    too_fast: bool
    held_c: float | None
    short: bool
    wh: float
    bank: RunVerdict | None
    water_l: float
    heats: bool = False
    asleep: bool = False


def can_burn(known: Known, ahead: Ahead, ask: BurnAsk) -> BurnVerdict | None:
    """Answer for one run; None where nothing is known of its store.

    Raises
    ------
    Refused
        Neither hours nor a night nor litres are said, or more than one.
    """
    if sum(each is not None for each in (ask.hours, ask.night_c, ask.litres)) != 1:
        raise Refused("hours", Plain.ASK_EITHER)
    each, tracked = ask.appliance, known.store(ask.appliance.store)
    if tracked is None:
        return None
    rig, store = known.rig, tracked.store
    kwh, short = _kwh(known, ahead, ask)
    takes, hours = kwh / store.kwh_per_unit, kwh / each.full_kw
    low_c = min(low_tonight_c(ahead.days), low_tonight_c(ahead.days) if ask.night_c is None else ask.night_c)
    ends = end_level(rig, tracked, low_c) if each.kind.by_cold or store.is_gas else 0.0
    left = tracked.level - takes
    a_day = expected_per_day(rig, tracked, ahead.days[:_WEEK])
    wh = (each.watts or 0.0) * hours
    bank = _bank(ahead, known, each, hours) if wh > 0 else None
    line = max(ends, 0.0)
    answer = _answer(tracked, takes, line, bank)
    asleep = each.kind.unvented and each.kind.by_cold and (ask.night_c is not None or hours > _EVENING_H)
    if asleep:
        answer = Answer.NO
    rate = vapour.withdrawal_kg_per_h(store, tracked.level, low_c) if store.is_gas else None
    held = heat.coldest_held_c(rig, (rig.heat.day_c if rig.heat else Heat.day_c), ahead.days[0])
    return BurnVerdict(
        ask=ask,
        store=store,
        answer=answer,
        takes=takes,
        left=max(0.0, left),
        left_days=max(0.0, left - line) / a_day if a_day > Numeric.small else None,
        costs_days=takes / a_day if a_day > Numeric.small else None,
        hours=hours,
        locked=vapour.locked_kg(store, max(left, 0.0), low_c) if store.is_gas and store.outside is not False else 0.0,
        too_fast=rate is not None and each.full_kw / store.kwh_per_unit > rate,
        short=short,
        held_c=held if each.kind.by_cold else None,
        wh=wh,
        bank=bank,
        heats=any(other.kind.by_cold for other in rig.burners(store)),
        asleep=asleep,
        water_l=Heat.water_kg_per_kg * takes * store.kg_per_unit if each.kind.unvented else 0.0,
    )


def _kwh(known: Known, ahead: Ahead, ask: BurnAsk) -> tuple[float, bool]:
    """What it burns, and whether a heater cannot hold the temperature. [kWh]"""
    each = ask.appliance
    if ask.hours is not None:
        return each.full_kw * ask.hours, False
    if ask.litres is not None:
        hot = known.rig.water.heater_c or Water.heater_c
        return heat_wh(ask.litres, Water.cold_c, hot) / WH_PER_KWH / each.useful, False
    return night_kwh(known, ahead.days[0], ask)


def night_kwh(known: Known, day: Conditions, ask: BurnAsk) -> tuple[float, bool]:
    """What one heater burns alone through a night at a temperature, by what the log taught of its store. [kWh]"""
    rig, each = known.rig, ask.appliance
    night_c = ask.night_c if ask.night_c is not None else day.min_c
    gear = rig.heat or HeatGear()
    alone = replace(rig, heat=replace(gear, plugged=False), appliances=(each,))
    found = heat.needed(alone, replace(day, mean_c=night_c, min_c=night_c))
    wanted = float(found.given_w[_NIGHT].sum())
    return wanted * _learned(known, each) / WH_PER_KWH / each.useful, found.falls_short


_EVENING_H = 5.0  # longer than an evening is into the night
# The hours of a night of ten: eight in the evening is day still.
_NIGHT = [21, 22, 23, 0, 1, 2, 3, 4, 5, 6]


def _learned(known: Known, appliance: Appliance) -> float:
    """What the log makes of the listed heat."""
    tracked = known.tracked[appliance.store]
    return heat_times(tracked) or 1.0


def _bank(ahead: Ahead, known: Known, appliance: Appliance, hours: float) -> RunVerdict | None:
    if not known.banks:
        return None
    bank = known.banks[0]
    run = RunAsk(watts=appliance.watts or 0.0, minutes=max(1.0, hours * MIN_PER_H), via=Via.DC)
    return can_run(ahead, bank, run, known.scale_of(bank.store.id))


def _answer(tracked: Tracked, takes: float, line: float, bank: RunVerdict | None) -> Answer:
    low, _ = tracked.level_range
    mine = Answer.YES if low - takes > line else Answer.TIGHT if tracked.level - takes > line else Answer.NO
    order = [Answer.YES, Answer.TIGHT, Answer.NO]
    return max(mine, bank.answer if bank is not None else Answer.YES, key=order.index)
