"""What events do to a store: which concern it, and how they move or reset its level."""

from dataclasses import replace
from typing import assert_never

import numpy as np

from lodeline.core.apart import is_changed
from lodeline.core.catalogue import ACTIVITY_OF_EVENT, Driver, Effect, Method, Role, source_of_event
from lodeline.core.figures import Readings, Tracking, Use, Water
from lodeline.core.log import Event, Log, Reading
from lodeline.core.rig import Rig, Store
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.model import UseModel
from lodeline.core.values import dataclass


def drives_from(rig: Rig, event: Event) -> str | None:
    """The store that a drive burns from: the one named, else the first fuel store."""
    if event.store is not None:
        return event.store
    return rig.driven_tank.id if rig.driven_tank else None


def _burnt_l_per_h(rig: Rig, store: Store, event: Event) -> float:
    """What a charging event burns from a store in an hour. [L/h]"""
    source = source_of_event(event.type)
    return rig.burn_l_per_h(store, source) if source else 0.0


def concerns(rig: Rig, store: Store, entry: Reading | Event) -> bool:
    """Whether a reading or event touches this store's level other than by charging."""
    if isinstance(entry, Reading):
        # a counter tells what was drawn, which the day's totals have, and no level
        return entry.store == store.id and entry.method is not Method.METER
    match entry.row.effect:
        case Effect.DRIVE:
            return store.kind.role is Role.VEHICLE_FUEL and drives_from(rig, entry) == store.id
        case Effect.CHARGE:
            return _burnt_l_per_h(rig, store, entry) > 0
        case Effect.MOVE:
            ends = (entry.source, entry.target, entry.store)
            beside = any(spare is not None and spare.store == store.id for spare in map(rig.spare, ends))
            jugs = store is rig.first(Role.WATER) and any(rig.jug(each) for each in ends)
            return beside or jugs or store.id in ends
        case Effect.FILL | Effect.EMPTY | Effect.SWAP:
            return entry.store == store.id
        case Effect.COUNT:
            return entry.amount is not None and store.kind.role in (Role.WATER, Role.DRAIN)
        case Effect.DRAIN:
            return store.kind.role in (Role.WATER, Role.DRAIN)
        case Effect.CARE:
            return False
        case _:
            assert_never(entry.row.effect)


def drawn_on(rig: Rig, event: Event) -> frozenset[str]:
    """Ids of the stores on whose lanes an event belongs."""
    match event.row.effect:
        case Effect.MOVE:
            return frozenset(id for id in (event.source, event.target) if id and rig.store(id))
        case Effect.FILL | Effect.EMPTY | Effect.SWAP:
            return frozenset({event.store} if event.store else ())
        case Effect.DRIVE:
            fuel = drives_from(rig, event)
            return frozenset({*(bank.id for bank in rig.banks), *([fuel] if fuel else [])})
        case Effect.CHARGE:
            return frozenset(bank.id for bank in rig.banks)
        case Effect.COUNT | Effect.DRAIN:
            return frozenset(store.id for store in rig.stores if store.kind.role in (Role.WATER, Role.DRAIN))
        case Effect.CARE:
            return frozenset()
        case _:
            assert_never(event.row.effect)


@dataclass(slots=True)
class Speed:
    """How fast a rig goes, by its drives of which way and hours were logged; common practice counts as some hours."""

    km: float = Use.km_per_drive_hour * Use.speed_prior_h
    hours: float = Use.speed_prior_h

    @property
    def km_per_h(self) -> float:
        """Its usual speed. [km/h]"""
        return self.km / self.hours

    def learn(self, event: Event) -> None:
        """Take in a drive."""
        if event.km is not None and event.hours:
            self.km += event.km
            self.hours += event.hours


def driven_km(event: Event, speed: Speed) -> float:
    """Distance of a drive; from its hours where it was not logged. [km]"""
    return event.km if event.km is not None else speed.km_per_h * (event.hours or 0.0)


def timed(log: Log) -> Log:
    """The log with the hours of drives of which the way alone was logged, at the rig's own speed until then."""
    speed, days, changed = Speed(), [], False
    for day in log.days:
        events = []
        for event in day.events:
            if event.row.effect is Effect.DRIVE:
                speed.learn(event)
                if event.hours is None and event.km is not None:
                    event, changed = replace(event, hours=event.km / speed.km_per_h), True
            events.append(event)
        days.append(replace(day, events=tuple(events)) if changed else day)
    return Log(tuple(days)) if changed else log


def sets_anew(store: Store, event: Event) -> bool:
    """Whether a level is known after an event whatever it was before."""
    match event.row.effect:
        case Effect.FILL:
            return event.to_full
        case Effect.MOVE:
            return is_changed(store, event)
        case effect:
            return effect in (Effect.SWAP, Effect.EMPTY, Effect.DRAIN)


def apply_event(rig: Rig, store: Store, model: UseModel, belief: b.Belief, event: Event, speed: Speed) -> b.Belief:
    """The belief after an event."""
    capacity, effect = store.capacity, event.row.effect
    end_sd = Readings.end_sd * capacity
    match effect:
        case Effect.FILL if not event.to_full:
            amount = event.amount or 0.0
            return b.shift_level(belief, amount, Tracking.amount_cv * amount)
        case Effect.SWAP if event.amount is not None:
            return b.reset_level(belief, min(event.amount, capacity), end_sd)
        case Effect.FILL | Effect.SWAP:
            return b.reset_level(belief, capacity, end_sd)
        case Effect.EMPTY:
            return b.reset_level(belief, event.left * capacity, end_sd)
        case Effect.MOVE if is_changed(store, event):
            return b.reset_level(belief, 0.0, end_sd)
        case Effect.MOVE:
            ends = [_holds(rig, store, each) for each in (event.target, event.source)]
            amount = (event.amount or 0.0) * (ends[0] - ends[1])
            return b.shift_level(belief, amount, abs(Tracking.amount_cv * amount))
        case Effect.CHARGE:
            amount = _burnt_l_per_h(rig, store, event) * (event.hours or 0.0)
            return b.shift_level(belief, -amount, Tracking.burn_cv * amount)
        case Effect.DRIVE:
            return _drive(model, belief, event, speed)
        case Effect.COUNT:
            return _measured_use(store, model, belief, event)
        case Effect.DRAIN:
            return b.reset_level(belief, 0.0, end_sd)
        case Effect.CARE:
            return belief
        case _:
            assert_never(effect)


def _holds(rig: Rig, store: Store, id: str | None) -> bool:
    """Whether an end of a move is this store, or a jug that is in use as its tank."""
    if id == store.id:
        return True
    jug = rig.jug(id)
    return jug is not None and jug.in_use and store is rig.first(Role.WATER)


def _measured_use(store: Store, model: UseModel, belief: b.Belief, event: Event) -> b.Belief:
    """An activity whose water was measured: the amount itself moves the level, and teaches what one takes."""
    amount, count = event.amount or 0.0, event.count or 1
    share = ACTIVITY_OF_EVENT[event.type].to_grey if store.kind.role is Role.DRAIN else 1.0
    after = b.shift_level(belief, store.sign * share * amount, Water.metered_cv * amount)
    if event.type not in model.drivers:
        return after
    row = np.zeros(len(after.mean))
    row[b.COEFFICIENTS.start + model.drivers.index(event.type)] = 1.0
    each = share * amount / count
    return b.kalman_update(after, row, each, each**2 * (Water.metered_cv**2 + Water.each_day_cv**2 / count))


def _drive(model: UseModel, belief: b.Belief, event: Event, speed: Speed) -> b.Belief:
    km = driven_km(event, speed)
    driver = model.drivers.index(Driver.KM)
    index = b.COEFFICIENTS.start + driver
    transition = np.eye(len(belief.mean))
    transition[0, index] = -km
    cov = transition @ belief.cov @ transition.T
    cv = float(model.day_cv[driver])
    if event.km is None:
        # of its hours alone nobody knows how fast it went
        cv = float(np.hypot(cv, Use.speed_cv))
    cov[0, 0] += (cv * float(belief.mean[index]) * km) ** 2
    return b.Belief(transition @ belief.mean, cov)


def l_per_km(model: UseModel, belief: b.Belief) -> tuple[float, float]:
    """What is believed that a way burns, and its error. [L/km]"""
    if Driver.KM not in model.drivers:
        return Use.fuel_l_per_km, Use.fuel_km_sd
    return belief.coefficient(model.drivers.index(Driver.KM))
