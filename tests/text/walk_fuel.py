"""Every sentence about gas, heat and fuel."""

from collections.abc import Iterator
from dataclasses import replace

from lodeline.core import carried
from lodeline.core.book import Service, Spot
from lodeline.core.catalogue import SERVICES, Feed, System
from lodeline.core.energy import heat
from lodeline.core.fuel import cold, engines, lines
from lodeline.core.fuel.burns import burns, held
from lodeline.core.fuel.run import BurnAsk, can_burn
from lodeline.core.levers.heat import heat_levers
from lodeline.core.levers.lever import Aboard
from lodeline.core.levers.nights import bought as bought_of
from lodeline.core.levers.nights import drawn_colder
from lodeline.core.log import Event
from lodeline.core.statistics import Range
from lodeline.core.warmth import Quiet
from lodeline.text import fuel, levers
from lodeline.text import heat as words
from lodeline.text.display import Display
from tests.builders import a_source, at, forecast
from tests.winter import (
    BOTTLE,
    COOKER,
    DAYS,
    GEAR,
    a_day,
    a_winter_rig,
    burner,
    days_ahead,
    frozen,
    heat_of,
    known,
    with_events,
)

PUMP = Spot(
    id="pump",
    name="Pump",
    lat=47.4,
    lon=11.2,
    services={
        "fuel": Service(kind=SERVICES["fuel"], price_per_unit=1.6),
        "hookup": Service(kind=SERVICES["hookup"], price_night=18.0),
    },
)


def of_fuel(system: System, shown: Display) -> Iterator[str]:
    """The sentences of a van in the frost."""
    rig = a_winter_rig(
        units=system,
        sources=(
            a_source("generator", 30.0, fuel_store="diesel", rated_w=1600.0, full_l_per_h=1.0),
            a_source("shore", 20.0),
        ),
    )
    log = with_events(
        frozen(0.3),
        Event(at(DAYS - 3, 17), "generator", hours=2.0),
        Event(at(DAYS - 5, 9), "swap", "gas", source="second"),
    )
    everything = known(rig, log, book=(PUMP,))
    now = heat_of(everything)
    yield from _of_nights(rig, everything, now, shown)
    yield from _of_stores(rig, everything, shown)
    yield from _of_burns(rig, everything, shown)
    yield from _of_engines(rig, everything, shown)
    yield from _of_runs(everything, shown)


def _of_nights(rig, everything, now, shown) -> Iterator[str]:
    ahead = forecast(rig, everything.log, everything.outlook, everything.now, tracked=everything.tracked)
    gas = ahead.of("gas")
    endless = replace(now, needs=(), ends=(None, None, None), ends_at=None, nights=replace(now.nights, beyond=True))
    for cooking in (
        gas,
        None,
        replace(gas, p50_days=None),
        replace(gas, p50_days=None, rate_per_day=0.0),
        replace(gas, p50_days=0.0),
    ):
        yield words.headline(now, cooking, ahead, shown)
    yield words.headline(None, None, ahead, shown)
    yield words.headline(now, gas, ahead, shown, frozen=True)
    for each in (now, endless, replace(now, colder_c=5.0)):
        yield from (
            words.what_ends_it(each, everything.now, shown),
            words.colder(each, shown),
            words.would_buy(each, (), shown),
        )
    for need in now.needs:
        for days in ((0.0, 0.0, 0.0), (1.2, 2.0, 4.0), (4.0, None, None), (None, None, None), (2.0, 6.0, None)):
            yield words.need(replace(need, days=days), everything.now, shown)
            yield words.need(replace(need, days=days, ends_at=0.0), everything.now, shown)
        yield from (words.first(need), words.first(replace(need, p_first=0.0)))
    for low, high in ((0, 0), (1, 1), (2, 5)):
        yield words.nights(replace(now.nights, p10=low, p50=low, p90=high, beyond=False))
    yield from (words.night(rig, each, shown) for each in now.strip[:3])
    yield words.night(rig, replace(now.strip[0], burns={}, falls_short=True), shown)
    every = list(heat_levers(Aboard(known=everything, ahead=days_ahead(everything))))
    yield from (levers.lever_words(rig, each, shown) for each in every)
    for each in bought_of(everything, drawn_colder(everything, 1), every[:3], now):
        yield from (words.bought(rig, each, shown), words.both_sides(each, rig, shown))
        yield words.bought(rig, replace(each, first=None), shown)
        yield from (words.would_buy(now, [replace(each, more_days=days)], shown) for days in (0.0, 1.0))
    yield from (words.held(each, 19.0, shown) or "" for each in (None, -11.0, -80.0))
    yield words.morning(4.0, shown)
    for gear, learned in ((None, None), (GEAR, None), (replace(GEAR, ua_w_per_k=70.0), Range(60.0, 70.0, 80.0))):
        yield words.loss(gear, 72.0, learned)
    yield from (words.quiet(each) or "" for each in (None, Quiet(from_h=22.0, until_h=7.5)))


def _of_stores(rig, everything, shown) -> Iterator[str]:
    for stands in carried.standing(rig, everything.log):
        tracked = everything.tracked[stands.store.id]
        yield fuel.in_store(tracked, stands, shown)
        yield fuel.in_store(replace(tracked, store=replace(tracked.store, tank_l=60.0)), None, shown)
        yield fuel.in_store(replace(tracked, known_since=None), None, shown)
        yield fuel.own_bottle(stands, shown) or ""
        yield fuel.own_bottle(replace(stands, own=2.0), shown) or ""
        yield fuel.full_ones(stands) or ""
        yield fuel.full_ones(replace(stands, spares=(), store=BOTTLE)) or ""
        for each in stands.spares:
            for contents in (0.0, each.spare.holds / 2, each.spare.holds):
                begun = replace(
                    each,
                    contents=contents,
                    in_use=False,
                    spare=replace(each.spare, contents="oil-mixed", where="outside"),
                )
                yield from (fuel.spare(begun, shown), fuel.apart(begun, stands.store, shown))
            yield fuel.spare(replace(each, in_use=True), shown)
    gas = everything.tracked["gas"]
    for contents in ("propane", "butane", "mix"):
        bottle = replace(gas, store=replace(gas.store, fuel=contents))
        yield fuel.cold(cold.cold_bottle(bottle, (COOKER,), -8.0), shown) or ""
    yield fuel.cold(cold.cold_bottle(gas, (burner("heater", "gas", kw=30.0),), -20.0), shown) or ""
    yield fuel.cold(replace(cold.cold_bottle(gas, (), 0.0), contents_kg=0.0), shown) or ""
    diesel, days = everything.tracked["diesel"], [a_day()]
    for store in (diesel.store, replace(diesel.store, by_pump=True), replace(diesel.store, buffer_days=5.0)):
        mine = replace(rig, stores=tuple(store if each.id == "diesel" else each for each in rig.stores))
        for book in ((PUMP,), ()):
            yield fuel.stays(lines.must_stay(mine, replace(diesel, store=store), days, book), shown)
    far = Range(100.0, 200.0, 300.0)
    yield from (fuel.range_words(far, shown), fuel.ring(far, shown))


def _of_burns(rig, everything, shown) -> Iterator[str]:
    fridge = burner("fridge", "gas", driving_on=Feed.DC, plugged_on=Feed.MAINS)
    for each in burns(replace(rig, appliances=(*rig.appliances, fridge)), [a_day()]):
        yield from (fuel.burn(each, shown), fuel.share(each))
    for listed in (held(rig, everything.tracked[id], [a_day()]) for id in ("gas", "diesel")):
        yield fuel.held(listed, shown)
        apart = replace(listed, listed=0.3, told=True, heat=1.4, rest=0.8, logged=Range(0.4, 0.42, 0.44))
        yield from (fuel.held(apart, shown), fuel.held(replace(apart, told=False), shown))
        yield fuel.held(replace(apart, listed=0.9, heat=None, rest=None), shown)
    yield from (fuel.wet(each, shown) or "" for each in (0.0, 0.6))


def _of_engines(rig, everything, shown) -> Iterator[str]:
    yield from (fuel.cost(each, shown) for each in engines.costs(rig, (PUMP,)))
    silent = a_winter_rig(sources=(a_source("generator", 30.0),))
    yield from (fuel.cost(each, shown) for each in engines.costs(silent, ()))
    (found,) = engines.generators(rig, everything.log, list(everything.tracked.values()), [a_day()])
    for each in (
        found,
        replace(found, runs=0),
        replace(found, nights=None, litres=None),
        replace(found, nights=0),
        replace(found, nights=3),
    ):
        yield fuel.worth(each, shown)
    yield from (fuel.oil(replace(found, oil_h=each)) for each in (3.0, 300.0))
    each = lines.burns_per_km(everything.tracked["diesel"])
    span = engines.FullToFull(since=at(0), until=at(3), km=420.0, litres=46.2, km_per_h=84.0)
    for ways in (
        engines.Ways(spans=(), fast_km_per_l=None, slow_km_per_l=None),
        engines.Ways(spans=(span,), fast_km_per_l=9.1, slow_km_per_l=8.0),
    ):
        for taught in (False, True):
            yield from fuel.goes(each, rig.store("diesel"), ways, taught, shown)


def _of_runs(everything, shown) -> Iterator[str]:
    ahead = days_ahead(everything)
    heater, _, oven = everything.rig.appliances
    yield from (fuel.read_first(store) for store in everything.rig.stores)
    for ask in (
        BurnAsk(appliance=oven, hours=1.5),
        BurnAsk(appliance=heater, night_c=-8.0),
        BurnAsk(appliance=heater, night_c=-30.0),
    ):
        found = can_burn(everything, ahead, ask)
        yield from fuel.verdict(found, shown)
        yield from fuel.verdict(
            replace(found, asleep=True, locked=1.2, too_fast=True, bank=None, wh=30.0, left_days=None), shown
        )
    hot = replace(found, ask=BurnAsk(appliance=oven, litres=24.0))
    yield from fuel.verdict(hot, shown)
    yield str(heat.coldest_held_c(everything.rig, 18.0, a_day()))
