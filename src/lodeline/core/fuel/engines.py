"""Generator, engine and post: what an hour burns, what a kilowatt-hour costs each way, and whether one was worth
carrying; and the way that a litre goes."""

from collections.abc import Sequence
from dataclasses import replace
from datetime import date, datetime

import numpy as np

from lodeline.core.book import Spot
from lodeline.core.catalogue import Burns, Effect
from lodeline.core.conditions import Conditions
from lodeline.core.energy import bank
from lodeline.core.energy.bank import WH_PER_KWH
from lodeline.core.energy.skies import SHARES, WORDS
from lodeline.core.energy.solar import clear_yield_wh
from lodeline.core.figures import Energy, Fuel
from lodeline.core.log import Event, Log
from lodeline.core.rig import Rig, SolarArray, Source, Store
from lodeline.core.statistics import Floats
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass

_OIL, _GENERATOR = "oil", "generator"


@dataclass(frozen=True, slots=True, kw_only=True)
class Cost:
    """What a kilowatt-hour into the bank takes one way. ``litres`` of fuel; ``money``: with the price of a known place,
    None where no price is known; ``runs_h``: hours for it."""

    source: Source
    litres: float | None
    money: float | None
    runs_h: float


def costs(rig: Rig, book: Sequence[Spot]) -> tuple[Cost, ...]:
    """What a kilowatt-hour costs by each source."""
    if not rig.banks:
        return ()
    store, found = rig.banks[0], []
    for source in rig.sources:
        kw = source.amps * Energy.source_share * bank.charging_volts(store) / WH_PER_KWH
        burns = rig.source_l_per_h(source, store.volts)
        litres = None if burns is None else burns / kw
        fuel = rig.store(source.fuel_store) or next((each for each in rig.stores if each.is_fuel), None)
        price = _price(book, fuel) if fuel is not None else None
        money = None if litres is None or price is None else litres * price
        if source.kind.burns is Burns.NOTHING:
            nights = [each.services["hookup"].price_night for each in book if "hookup" in each.services]
            known = [each for each in nights if each is not None]
            # a night at a post, charging for twelve hours
            money = min(known) / (kw * _NIGHT_H) if known else None
        found.append(Cost(source=source, litres=litres, money=money, runs_h=1 / kw))
    return tuple(found)


_NIGHT_H = 12.0  # that a night plugged in gives power


def _price(book: Sequence[Spot], store: Store) -> float | None:
    prices = [service.price_per_unit for spot in book if (service := spot.service_for(store)) is not None]
    known = [each for each in prices if each is not None]
    return min(known) if known else None


@dataclass(frozen=True, slots=True, kw_only=True)
class Worth:
    """A generator over a season. ``hours`` and ``litres``; ``kwh`` into the bank; ``nights``: on which the bank would
    have gone under its line without it, None where no bank is known; ``with_panel`` and ``with_bank``: nights that a
    panel or a larger bank would have saved of those. ``oil_h``: hours since its oil was changed, of ``oil_due_h``."""

    source: Source
    days: int
    hours: float
    runs: int
    litres: float | None
    kwh: float
    nights: int | None
    with_panel: int
    with_bank: int
    oil_h: float
    oil_due_h: float


def generators(rig: Rig, log: Log, tracked: Sequence[Tracked], conditions: Sequence[Conditions]) -> tuple[Worth, ...]:
    """Every generator over the days of the log, a season at most."""
    found = []
    days = log.days[-Fuel.season_days :]
    span = (days[-1].date - days[0].date).days + 1 if days else 0
    every = [event for day in log.days for event in day.events]
    runs = [event for day in days for event in day.events if event.type == _GENERATOR]
    changed = max((event.at for event in every if event.type == _OIL), default=None)
    of_oil = sum(e.hours or 0.0 for e in every if e.type == _GENERATOR and (changed is None or e.at > changed))
    banks = [each for each in tracked if each.store.is_bank and each.known_since is not None]
    for source in rig.sources:
        if source.kind.event != _GENERATOR:
            continue
        hours = sum(event.hours or 0.0 for event in runs)
        burns = source.l_per_h(rig.banks[0].volts if rig.banks else Energy.bank_v)
        ah = source.amps * Energy.source_share
        nights: tuple[int, int, int] | None = None
        if banks:
            nights = _saved(rig, banks[0], runs, ah, conditions)
        found.append(
            Worth(
                source=source,
                days=span,
                hours=hours,
                runs=len(runs),
                litres=None if burns is None else burns * hours,
                kwh=ah * hours * (rig.banks[0].volts if rig.banks else 0.0) / WH_PER_KWH,
                nights=nights[0] if nights else None,
                with_panel=nights[1] if nights else 0,
                with_bank=nights[2] if nights else 0,
                oil_h=of_oil,
                oil_due_h=Fuel.oil_hours if source.oil_hours is None else source.oil_hours,
            )
        )
    return tuple(found)


def _saved(
    rig: Rig, tracked: Tracked, runs: Sequence[Event], amps: float, conditions: Sequence[Conditions]
) -> tuple[int, int, int]:
    """Nights whose low would have been under the line without what the generator brought, and how many of those a panel
    or more amp-hours would have saved. What it brought stays missing until the bank is full."""
    store = tracked.store
    by_date = {day.date: day for day in conditions}
    panel = _panel_ah(rig, store, by_date)
    more = Fuel.more_ah * Energy.bank_v / store.volts
    missing = extra = 0.0
    lows: dict[date, Floats] = {}
    events = sorted(runs, key=lambda each: each.at)
    at, seen = 0, None
    for point in tracked.history:
        while at < len(events) and events[at].at <= point.at:
            missing += amps * (events[at].hours or 0.0) * bank.cells(store).coulombic
            at += 1
        on = rig.zone.date(point.at)
        if on != seen:
            extra += panel.get(on, 0.0) if missing > 0 else 0.0
            seen = on
        if point.level >= Energy.full_from * store.capacity:
            missing = extra = 0.0
        without = point.level - missing
        now = np.array([point.level, without, without + min(extra, missing), without + more * _usable(store)])
        lows[on] = np.minimum(lows.get(on, now), now)
    under = [low for really, *low in lows.values() if low[0] < store.line_level <= really]
    saved = [sum(bool(low[index] >= store.line_level) for low in under) for index in (1, 2)]
    return len(under), saved[0], saved[1]


def _usable(store: Store) -> float:
    return 1.0 - store.line


def _panel_ah(rig: Rig, store: Store, by_date: dict[date, Conditions]) -> dict[date, float]:
    """What a panel more would have given on each date. [Ah]"""
    one = replace(rig, solar=(SolarArray("more", Fuel.more_w),))
    found = {}
    for on, day in by_date.items():
        share = SHARES[WORDS.index(day.sky)] if day.sky is not None else float(np.mean(SHARES))
        clear = clear_yield_wh(one, day.place, on, day.mean_c, day.min_c).sum()
        found[on] = float(clear) * share / store.volts
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class Ways:
    """How far a litre goes. ``km_per_l``: as drives and levels teach; ``spans``: from one full tank to the next, by
    hand; ``fast`` and ``slow``: of those on fast roads and on slow ones, None where the log does not tell."""

    spans: tuple["FullToFull", ...]
    fast_km_per_l: float | None
    slow_km_per_l: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class FullToFull:
    """From a full tank to the next: way, litres that went in, and mean speed of its drives, None where no hours were
    logged. [km, L, km/h]"""

    since: datetime
    until: datetime
    km: float
    litres: float
    km_per_h: float | None

    @property
    def km_per_l(self) -> float:
        """Kilometres a litre."""
        return self.km / self.litres


def tells_of_ways(log: Log) -> bool:
    """Whether a log says of any drive how far it was."""
    return any(event.km and event.row.effect in (Effect.DRIVE, Effect.CARE) for day in log.days for event in day.events)


def full_to_full(log: Log, store: Store, heats: bool) -> Ways:
    """Kilometres a litre between fills to the brim whose litres were logged; not where a heater burns from it, too."""
    spans: list[FullToFull] = []
    since: datetime | None = None
    km = hours = litres = timed = 0.0
    for event in (event for day in log.days for event in day.events):
        if event.row.effect is Effect.DRIVE and (event.store in (None, store.id)):
            km += event.km or 0.0
            hours += event.hours or 0.0
            timed += (event.km or 0.0) if event.hours else 0.0
        elif event.row.effect is Effect.FILL and event.store == store.id:
            litres += event.amount or 0.0
            if event.to_full:
                if since is not None and km > _LEAST_KM and litres > _LEAST_L and not heats:
                    speed = timed / hours if hours else None
                    spans.append(FullToFull(since=since, until=event.at, km=km, litres=litres, km_per_h=speed))
                since, km, hours, litres, timed = event.at, 0.0, 0.0, 0.0, 0.0
    fast = [each for each in spans if each.km_per_h is not None and each.km_per_h >= Fuel.fast_km_per_h]
    slow = [each for each in spans if each.km_per_h is not None and each.km_per_h <= Fuel.slow_km_per_h]
    return Ways(spans=tuple(spans), fast_km_per_l=_over(fast), slow_km_per_l=_over(slow))


def _over(spans: Sequence[FullToFull]) -> float | None:
    return sum(each.km for each in spans) / sum(each.litres for each in spans) if spans else None


_LEAST_KM, _LEAST_L = 20.0, 2.0  # less says nothing of litres a way
