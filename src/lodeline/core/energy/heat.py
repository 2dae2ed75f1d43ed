"""The rig as a heat balance: what it loses, what warms it beside the heater, and what the heater has to make up.

Heat that is wanted in an hour is UA x (inside - outside) less gains, not under nothing, not under a heater's lowest
rate, not over what it can give. Divided by UA and summed over a day it is that day's degree-days, to which what is
burnt is held; so that UA over efficiency is a coefficient that the log teaches.
"""

from collections.abc import Iterable
from dataclasses import replace
from datetime import date

import numpy as np

from lodeline.core.catalogue import Body, Feed, Insulation, SkyWord
from lodeline.core.catalogue.levers import Milder
from lodeline.core.conditions import Conditions
from lodeline.core.energy.air import air_c
from lodeline.core.energy.bank import WH_PER_KWH
from lodeline.core.energy.loads import audit_wh
from lodeline.core.energy.skies import SHARES, WORDS
from lodeline.core.energy.solar import spot_of
from lodeline.core.energy.sun import clear_plane_w_m2
from lodeline.core.figures import Heat, Use
from lodeline.core.rig import Appliance, Rig
from lodeline.core.statistics import Floats
from lodeline.core.values import dataclass
from lodeline.core.warmth import HeatGear
from lodeline.core.zone import HOURS

_HOURS = np.arange(HOURS) + 0.5
_SOUTH_DEG, _NORTH_DEG, _WALL_DEG = 180.0, 0.0, 90.0  # azimuths; upright


@dataclass(frozen=True, slots=True, kw_only=True)
class _Size:
    """Usual living part of a body: metres, and windows. [m, m2]"""

    length_m: float
    width_m: float
    height_m: float
    glazing_m2: float


# Common practice: inside measures, cab glass in them where the cab is open to the living part.
_SIZES = {
    Body.VAN: _Size(length_m=4.2, width_m=1.8, height_m=1.9, glazing_m2=2.4),
    Body.MOTORHOME: _Size(length_m=5.6, width_m=2.1, height_m=2.0, glazing_m2=4.0),
    Body.TRAILER: _Size(length_m=5.5, width_m=2.2, height_m=2.0, glazing_m2=3.2),
    Body.TRUCK: _Size(length_m=4.8, width_m=2.2, height_m=2.1, glazing_m2=1.6),
    Body.BUS: _Size(length_m=9.0, width_m=2.35, height_m=2.0, glazing_m2=9.0),
}
_GRADE = {each: index for index, each in enumerate(Insulation)}


def envelope_m2(gear: HeatGear) -> float:
    """Walls, roof and floor of the living part, windows in them. [m2]"""
    size = _SIZES[gear.body]
    length = gear.living_m or size.length_m
    return 2 * (length * size.width_m + length * size.height_m + size.width_m * size.height_m)


def glazing_m2(gear: HeatGear) -> float:
    """Windows, as said or as its body usually has. [m2]"""
    return _SIZES[gear.body].glazing_m2 if gear.glazing_m2 is None else gear.glazing_m2


def ua_w_per_k(gear: HeatGear) -> float:
    """What a degree inside over outside loses: walls x U, glass x U, and the air that comes in. [W/K]

    As the crew or the log says where it is known.
    """
    if gear.ua_w_per_k is not None:
        return gear.ua_w_per_k
    size, grade = _SIZES[gear.body], _GRADE[gear.insulation]
    glass = glazing_m2(gear)
    length = gear.living_m or size.length_m
    walls = max(0.0, envelope_m2(gear) - glass) * Heat.wall_w_per_m2k[grade]
    panes = glass * (Heat.double_w_per_m2k if gear.double_glazed else Heat.single_w_per_m2k)
    air = length * size.width_m * size.height_m * Heat.air_changes_per_h[grade] * Heat.air_wh_per_m3k
    return walls + panes + air


def warmth(rig: Rig) -> HeatGear | None:
    """How a rig is kept warm: as its crew said; or, where something is said to heat, as rigs of its size usually are.
    None where neither is known."""
    if rig.heat is not None:
        return rig.heat
    # in a row, as nothing is an answer too
    (gear,) = rig.once(warmth, lambda: (_assumed(rig),))
    return gear


def is_by_hours(rig: Rig) -> bool:
    """Whether the loss of a rig that nobody described follows from how long its heaters are said to run."""
    return rig.heat is None and bool(rig.heaters) and all(each.hours_per_day is not None for each in rig.heaters)


def _assumed(rig: Rig) -> HeatGear | None:
    """A usual rig of its size. Where the crew said how many hours a day its heaters run, such a loss that they do so on
    a day of frost: what is on a heater's plate bounds what it gives, and says nothing of what is needed."""
    if not rig.heaters and not any(store.heats for store in rig.stores):
        return None
    is_large = rig.length_m > Heat.large_m if rig.length_m is not None else rig.crew.people > Heat.large_people
    gear = HeatGear(body=Body.MOTORHOME if is_large else Body.VAN)
    if not is_by_hours(rig):
        return gear
    wanted = sum(each.kwh_per_day * each.useful * WH_PER_KWH for each in rig.heaters)
    day = replace(_FROSTY, people=float(max(1, rig.crew.people)))
    low, high = Heat.loss_between_w_per_k
    for _ in range(_STEPS):
        middle = (low + high) / 2
        given = needed(rig, day, gear=replace(gear, ua_w_per_k=middle)).given_w.sum()
        low, high = (middle, high) if given < _NEARLY * wanted else (low, middle)
    return replace(gear, ua_w_per_k=high)


# The day that hours of heating are told of: dull, 0 degC, in January.
_FROSTY = Conditions(date=date(2001, 1, 15), mean_c=0.0, min_c=-3.0, sky=SkyWord.OVERCAST, people=1.0)
_STEPS, _NEARLY = 12, 0.995


def set_c(gear: HeatGear, people: float = 1.0) -> Floats:
    """The wanted inside temperature in each day hour, -inf where the heating is off; with nobody aboard against frost
    alone, if at all. Shape (24,). [degC]"""
    if people <= 0:
        return np.full(len(_HOURS), -np.inf if gear.away_c is None else gear.away_c)
    start, end = gear.night_from_h, gear.night_until_h
    night = (start <= _HOURS) | (end > _HOURS) if start > end else (start <= _HOURS) & (end > _HOURS)
    return np.where(night, -np.inf if gear.night_c is None else gear.night_c, gear.day_c)


def gains_w(rig: Rig, gear: HeatGear, day: Conditions) -> Floats:
    """What warms the rig beside its heater in each day hour: people, cooking, loads, sun. Shape (24,). [W]"""
    by_person, others = rig.once(gains_w, lambda: _indoors_w(rig))
    gains: Floats = by_person * day.people + others + _sun_w(rig, glazing_m2(gear), day)
    return gains


def _indoors_w(rig: Rig) -> tuple[Floats, Floats]:
    """What warms the rig from within in each day hour: by each who is aboard, and whoever is. Shapes (24,). [W]"""
    usual = max(1, rig.crew.people)
    asleep = (Heat.night_from_h <= _HOURS) | (Heat.night_until_h > _HOURS)
    inside = np.where(asleep, 1.0, Heat.aboard_by_day)
    cooking = sum(rig.kwh_per_day(each) for each in rig.appliances if each.kind.unvented and not each.kind.by_cold)
    by_day = Heat.cooking_stays * WH_PER_KWH * cooking / usual * ~asleep / float((~asleep).sum())
    others = inside * Heat.pet_w * rig.crew.pets + Heat.loads_stay * audit_wh(rig)
    return inside * Heat.person_w + by_day, others


def _sun_w(rig: Rig, glass_m2: float, day: Conditions) -> Floats:
    spot = spot_of(rig, day.place, day.date)
    south = _SOUTH_DEG if spot.lat >= 0 else _NORTH_DEG
    share = SHARES[WORDS.index(day.sky)] if day.sky is not None else float(np.mean(SHARES))
    return Heat.sun_through * glass_m2 * share * clear_plane_w_m2(spot, day.date, _WALL_DEG, south)


@dataclass(frozen=True, slots=True, kw_only=True)
class Needed:
    """What is asked of the heaters in each hour of a day. ``wanted_w``: heat to hold the wanted temperature;
    ``given_w``: what they give, at least their lowest rate while they run and at most their full one. Shapes (...,
    24)."""

    wanted_w: Floats
    given_w: Floats
    ua_w_per_k: float

    @property
    def hourly(self) -> Floats:
        """Heat given over the loss in each hour, as degree-days to the inside. Shape (..., 24). [degC day]"""
        return self.given_w / self.ua_w_per_k / HOURS

    @property
    def degree_days(self) -> Floats:
        """The same of the whole day. Shape (...,). [degC day]"""
        each: Floats = self.hourly.sum(axis=-1)
        return each

    @property
    def falls_short(self) -> bool:
        """Whether the heaters cannot hold the wanted temperature in some hour."""
        return bool((self.wanted_w > self.given_w + 1.0).any())


def full_w(rig: Rig) -> float:
    """Heat that all heaters give together at their full rate; without any, no bound. [W]"""
    return sum(each.full_kw * each.useful * WH_PER_KWH for each in rig.heaters) or np.inf


def lowest_w(rig: Rig) -> float:
    """Heat of the least heater at its lowest rate; 0 where one goes off and on. [W]"""
    rates = [(each.lowest_kw or 0.0) * each.useful * WH_PER_KWH for each in rig.heaters]
    return min(rates, default=0.0)


def needed(rig: Rig, day: Conditions, warmer_c: Floats | float = 0.0, gear: HeatGear | None = None) -> Needed:
    """What a day asks of the heaters. ``warmer_c``: outside over what is expected, any shape."""
    gear = gear or warmth(rig) or HeatGear()
    ua = ua_w_per_k(gear)
    outside = air_c(day.mean_c, day.min_c) + np.asarray(warmer_c)[..., None]
    wanted = np.maximum(0.0, ua * (set_c(gear, day.people) - outside) - gains_w(rig, gear, day))
    # at its lowest it makes it a little too warm; by more than that, it is put out for a while
    least = np.minimum(lowest_w(rig), wanted + Heat.too_warm_c * ua)
    given = np.where(wanted > 0, np.clip(np.maximum(wanted, least), 0.0, full_w(rig)), 0.0)
    if gear.plugged:
        given = given * (1 - plugged_share(day))
    return Needed(wanted_w=wanted, given_w=given, ua_w_per_k=ua)


def needed_as_expected(rig: Rig, day: Conditions) -> Needed:
    """What a day as it is asks of the heaters the rig has: gas, fuel and bank all want to know."""
    # the day is kept too, so that no other one takes its id
    return rig.once((needed, id(day)), lambda: (day, needed(rig, day)))[1]


def plugged_share(day: Conditions) -> float:
    """Share of a day that the rig is plugged in, as far as its status or what is planned says."""
    hours = day.hours.get("shore", 0.0)
    return min(1.0, hours / HOURS)


def degree_days(rig: Rig, day: Conditions) -> float:
    """The degree-days that drive a heater: to the inside, less gains, where the crew said how it lives; else to the
    common base. [degC day]"""
    if warmth(rig) is None:
        return day.degree_days
    return float(needed_as_expected(rig, day).degree_days)


def degree_days_at(rig: Rig, day: Conditions, warmer_c: Floats) -> Floats:
    """The same at so many degrees more outside, shape of ``warmer_c``. [degC day]"""
    if warmth(rig) is None:
        base: Floats = np.maximum(0.0, Use.degree_day_base_c - day.mean_c - warmer_c)
        return base
    _, by_warmth = rig.once((degree_days_at, id(day)), lambda: (day, needed(rig, day, _WARMER_C).degree_days))
    found: Floats = np.interp(warmer_c, _WARMER_C, by_warmth)
    return found


_WARMER_C = np.arange(-30.0, 31.0, 2.0)  # the air round its mean, each way


def per_degree_day(rig: Rig, heater: Appliance, kwh_per_unit: float) -> float:
    """What a heater burns of its store a degree-day, if all heaters share the heat by their power. [unit/(degC day)]"""
    gear = warmth(rig) or HeatGear()
    mine = heater.full_kw * heater.useful
    share = mine / (sum(each.full_kw * each.useful for each in rig.heaters) or mine)
    return share * ua_w_per_k(gear) * HOURS / WH_PER_KWH / heater.useful / kwh_per_unit


def coldest_held_c(rig: Rig, inside_c: float, day: Conditions) -> float | None:
    """The outside temperature down to which the heaters hold an inside one, at a night's gains; None without any.
    [degC]"""
    if not rig.heaters:
        return None
    gear = warmth(rig) or HeatGear()
    night = gains_w(rig, gear, day)[0]
    return inside_c - (full_w(rig) + float(night)) / ua_w_per_k(gear)


def morning_c(rig: Rig, day: Conditions, inside_c: float, off_h: float, until_h: float) -> float:
    """Inside in the morning if the heat goes off in the evening: falls towards outside and gains as exp(-t UA / C).
    [degC]"""
    gear = warmth(rig) or HeatGear()
    ua, held = ua_w_per_k(gear), Heat.held_wh_per_m2k * envelope_m2(gear)
    outside, gains = air_c(day.mean_c, day.min_c), gains_w(rig, gear, day)
    inside, hour = inside_c, off_h
    while hour < until_h + (HOURS if until_h <= off_h else 0.0):
        at = int(hour) % int(HOURS)
        resting = float(outside[at] + gains[at] / ua)
        inside = resting + (inside - resting) * float(np.exp(-ua / held))
        hour += 1.0
    return inside


def spared_share(rig: Rig, day: Conditions, way: Milder) -> float:
    """The share of a day's burn for heat that a way spares."""
    gear = warmth(rig) or HeatGear()
    before = float(needed(rig, day).given_w.sum())
    if before <= 0:
        return 0.0
    night_c = None if way.night_off or gear.night_c is None else gear.night_c - way.down_c
    changed = replace(gear, day_c=gear.day_c - way.down_c, night_c=night_c, ua_w_per_k=way.loss * ua_w_per_k(gear))
    after = float(needed(rig, day, way.warmer_c, changed).given_w.sum())
    return float(np.clip(1 - after / before, 0.0, 1.0))


def fed_share(appliance: Appliance, day: Conditions) -> float:
    """Share of a day that an appliance which changes over burns: not while it lives off mains or the engine."""
    plugged = plugged_share(day) if appliance.plugged_on is not Feed.FUEL else 0.0
    driven = min(1.0, day.hours.get("alternator", 0.0) / HOURS) if appliance.driving_on is not Feed.FUEL else 0.0
    return max(0.0, 1.0 - plugged - driven)


def running_wh(rig: Rig, day: Conditions) -> Floats:
    """What fans, pumps and igniters of appliances draw from the bank in each day hour, where they were said. Shape
    (24,). [Wh]

    A heater runs for as long as it takes at its full rate, the others as they are used; an absorption fridge on 12 V
    draws what it burns.
    """
    hourly = np.zeros(int(HOURS))
    if not rig.appliances:
        return hourly
    heaters = [each for each in rig.heaters if each.watts]
    if heaters:
        on = needed_as_expected(rig, day).given_w / full_w(rig)
        for each in heaters:
            hourly += (each.watts or 0.0) * np.clip(on, 0.0, 1.0)
    for each in rig.appliances:
        if each.watts and not each.kind.by_cold:
            hours = each.kind.usual_hours if each.hours_per_day is None else each.hours_per_day
            hourly += each.watts * hours / HOURS
        if each.driving_on is Feed.DC:
            hourly += each.full_kw * WH_PER_KWH * min(1.0, day.hours.get("alternator", 0.0) / HOURS)
    return hourly


def water_from_burning_l(stores_kg: Iterable[tuple[Appliance, float]]) -> float:
    """Water that unvented burning puts into the air in a day: 1.6 kg a kg of propane. [L]"""
    return sum(Heat.water_kg_per_kg * kg for each, kg in stores_kg if each.kind.unvented)
