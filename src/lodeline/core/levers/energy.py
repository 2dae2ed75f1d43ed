"""Levers on the bank: loads spared, sources run for an hour a day, the sun, more of panel or bank."""

from collections.abc import Iterable
from dataclasses import replace
from typing import assert_never

import numpy as np

from lodeline.core.catalogue import Burns, Driver, Role, Sparing, When
from lodeline.core.catalogue.levers import LEVER_KINDS
from lodeline.core.energy.banks import of_bank
from lodeline.core.energy.loads import DAY_SHARE, audit_wh
from lodeline.core.energy.solar import clear_yield_wh
from lodeline.core.figures import Energy, Forecasting, Levers
from lodeline.core.forecast.change import Change
from lodeline.core.levers.lever import Aboard, Lever, Touch
from lodeline.core.rig import Load, Rig, SolarArray, Source, Store
from lodeline.core.statistics import Floats
from lodeline.core.zone import HOURS


def energy_levers(aboard: Aboard) -> Iterable[Lever]:
    """The levers on the banks that are known."""
    rig = aboard.rig
    if not aboard.known.banks:
        return
    yield from _bought(aboard)
    for source in rig.sources:
        yield from _hour_a_day(aboard, source)
    for load, spared in _spared(rig):
        loads = tuple(spared if each is load else each for each in rig.loads)
        yield _drawn(aboard, str(load.kind.sparing), replace(rig, loads=loads), load.id)
    if rig.inverter and rig.inverter.always_on and rig.inverter.idle_watts:
        yield _drawn(aboard, "inverter-off", replace(rig, inverter=replace(rig.inverter, always_on=False)))
    yield from _into_sun(aboard)


def _bought(aboard: Aboard) -> Iterable[Lever]:
    """A panel more, and more of the first bank."""
    rig, store = aboard.rig, aboard.known.banks[0].store
    like = rig.solar[0] if rig.solar else SolarArray("roof", 0.0)
    panel = replace(like, id="another", watts=Forecasting.panel_w, controller_amps=None)
    more = replace(rig, solar=(*rig.solar, panel))
    sun = {
        each.id: (_sun_wh(aboard, of_bank(more, each)) - _sun_wh(aboard, of_bank(rig, each))) / each.volts
        for each in (bank.store for bank in aboard.known.banks)
    }
    brings = [Touch(store=id, per_day=float(ah.sum(axis=1).mean())) for id, ah in sun.items()]
    changes = {id: Change(sun=ah) for id, ah in sun.items()}
    yield aboard.lever("buy-panel", changes, brings, amount=Forecasting.panel_w)
    at_v = Forecasting.more_ah_v
    more_ah = Forecasting.more_ah * at_v / max(store.volts, at_v)
    bigger = replace(store, capacity=store.capacity + more_ah, layout=None)
    touch = Touch(store=store.id, once=more_ah)
    yield aboard.lever("buy-bank", {store.id: Change(store=bigger)}, [touch], amount=more_ah)


def _drawn(aboard: Aboard, kind: str, changed: Rig, subject: str = "") -> Lever:
    """A rig whose list of loads draws less."""
    changes, touches = {}, []
    for store in (each.store for each in aboard.known.banks):
        less_wh = audit_wh(of_bank(aboard.rig, store)) - audit_wh(of_bank(changed, store))
        changes[store.id] = Change(audit=np.tile(-less_wh / store.volts, (aboard.n_dates, 1)))
        touches.append(Touch(store=store.id, per_day=float(less_wh.sum()) / store.volts))
    return aboard.lever(kind, changes, touches, subject=subject)


def _sun_wh(aboard: Aboard, rig: Rig) -> Floats:
    """A clear sky's yield in each hour of each date, shape (n_dates, 24). [Wh]"""
    return np.stack([clear_yield_wh(rig, day.place, day.date, day.mean_c, day.min_c) for day in aboard.ahead.days])


def _hour_a_day(aboard: Aboard, source: Source) -> Iterable[Lever]:
    """A source run for an hour each day, from its usual hour; what it burns is the other side."""
    kind = next((kind for kind in LEVER_KINDS.values() if kind.runs == source.kind.id), None)
    if kind is None:
        return
    push, burn = np.zeros((aboard.n_dates, int(HOURS))), np.zeros((aboard.n_dates, int(HOURS)))
    hour = int(source.kind.from_h)
    if aboard.rig.quiet is not None and source.kind.burns is not Burns.NOTHING:
        # the last hour before quiet, where the usual one lies in it
        loud = [each for each in range(int(HOURS)) if not aboard.rig.quiet.covers(each)]
        hour = hour if hour in loud else max((each for each in loud if each < hour), default=hour)
    first = 0 if aboard.ahead.hour <= hour else 1
    push[first:, hour] = 1.0
    amps = {
        bank.store.id: each.amps
        for bank in aboard.known.banks
        for each in of_bank(aboard.rig, bank.store).sources
        if each.id == source.id
    }
    changes = {id: Change(push=push * each) for id, each in amps.items()}
    touches = [Touch(store=id, per_day=each) for id, each in amps.items()]
    fuel, l_per_h = _burns_from(aboard.rig, source)
    known = aboard.known.store(fuel.id) if fuel is not None else None
    if known is not None and l_per_h:
        burn[first:, hour] = -l_per_h
        changes[known.store.id] = Change(flow=burn)
        touches.append(Touch(store=known.store.id, per_day=-l_per_h))
    yield aboard.lever(kind.id, changes, touches, subject=source.id)


def _burns_from(rig: Rig, source: Source) -> tuple[Store | None, float]:
    own = source.kind.burns is Burns.OWN_RATE
    fuel = rig.store(source.fuel_store) if own else rig.first(Role.VEHICLE_FUEL)
    return fuel, source.l_per_h(rig.banks[0].volts if rig.banks else Energy.bank_v) or 0.0


def _spared(rig: Rig) -> Iterable[tuple[Load, Load]]:
    """Each load and what its kind makes of it; of those that can only run for less time, the largest."""
    shorter = []
    for load in rig.loads:
        match load.kind.sparing:
            case Sparing.ICE_AT_NIGHT | Sparing.OFF_AT_NIGHT:
                if load.when is not When.DAY:
                    yield load, _off_at_night(load)
            case Sparing.HALF_AS_LONG:
                shorter.append(load)
            case _:
                assert_never(load.kind.sparing)
    if shorter:
        largest = max(shorter, key=lambda load: load.watts * load.hours_per_day)
        yield largest, replace(largest, hours_per_day=largest.hours_per_day / 2)


def _off_at_night(load: Load) -> Load:
    """The load without its hours at night."""
    share = {When.ANY: DAY_SHARE, When.NIGHT: 0.0, When.DAY: 1.0}[load.when]
    return replace(load, hours_per_day=load.hours_per_day * share, when=When.DAY)


def _into_sun(aboard: Aboard) -> Iterable[Lever]:
    """Move the panels or the rig out of the shade, where the log shows that the place takes from the sun."""
    changes, brings = {}, []
    for tracked in aboard.known.banks:
        drivers, coefficients = tracked.model.drivers, tracked.belief.coefficients
        here = float(coefficients[drivers.index(Driver.SUN_PLACE)])
        with_place = float(coefficients[drivers.index(Driver.SUN_CLEAR)]) + here
        mine = of_bank(aboard.rig, tracked.store)
        if here >= Levers.usual_place or with_place <= 0 or not mine.solar:
            continue
        sun = _sun_wh(aboard, mine) / tracked.store.volts * (-here / with_place)
        changes[tracked.store.id] = Change(sun=sun)
        brings.append(Touch(store=tracked.store.id, per_day=float(sun.sum(axis=1).mean()) * with_place))
    if brings:
        yield aboard.lever("into-sun", changes, brings)
