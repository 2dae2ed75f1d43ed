"""What events do to a store: which concern it, and how they move or reset its level."""

from dataclasses import dataclass
from typing import assert_never

import numpy as np

from lodeline.core.catalogue import Driver, Effect, Role, source_of_event
from lodeline.core.figures import Readings, Tracking, Use
from lodeline.core.log import RESERVE, Event, Reading
from lodeline.core.rig import Rig, Store
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.model import UseModel


def drives_from(rig: Rig, event: Event) -> str | None:
    """The store that a drive burns from: the one named, else the first fuel store."""
    if event.store is not None:
        return event.store
    driving = (s for s in rig.stores if s.kind.role is Role.VEHICLE_FUEL and s.drives is not False)
    first = next(driving, None)
    return first.id if first else None


def _burnt_l_per_h(rig: Rig, store: Store, event: Event) -> float:
    """What a charging event burns from a store in an hour. [L/h]"""
    source = source_of_event(event.type)
    return rig.burn_l_per_h(store, source) if source else 0.0


def concerns(rig: Rig, store: Store, entry: Reading | Event) -> bool:
    """Whether a reading or event touches this store's level other than by charging."""
    if isinstance(entry, Reading):
        return entry.store == store.id
    match entry.row.effect:
        case Effect.DRIVE:
            return store.kind.role is Role.VEHICLE_FUEL and drives_from(rig, entry) == store.id
        case Effect.CHARGE:
            return _burnt_l_per_h(rig, store, entry) > 0
        case Effect.MOVE:
            return store.id in (entry.source, entry.target, entry.store)
        case Effect.FILL | Effect.EMPTY | Effect.SWAP:
            return entry.store == store.id
        case Effect.COUNT:
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
        case Effect.COUNT:
            return frozenset(store.id for store in rig.stores if store.kind.role in (Role.WATER, Role.DRAIN))
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


def apply_event(
    rig: Rig, store: Store, model: UseModel, belief: b.Belief, event: Event, speed: Speed
) -> tuple[b.Belief, bool]:
    """The belief after an event, and whether the level was set anew by it."""
    capacity, effect = store.capacity, event.row.effect
    end_sd = Readings.end_sd * capacity
    match effect:
        case Effect.FILL if not event.to_full:
            amount = event.amount or 0.0
            return b.shift_level(belief, amount, Tracking.amount_cv * amount), False
        case Effect.FILL | Effect.SWAP:
            return b.reset_level(belief, capacity, end_sd), True
        case Effect.EMPTY:
            return b.reset_level(belief, event.left * capacity, end_sd), True
        case Effect.MOVE:
            amount = (event.amount or 0.0) * ((event.target == store.id) - (event.source == store.id))
            return b.shift_level(belief, amount, abs(Tracking.amount_cv * amount)), False
        case Effect.CHARGE:
            amount = _burnt_l_per_h(rig, store, event) * (event.hours or 0.0)
            return b.shift_level(belief, -amount, Tracking.burn_cv * amount), False
        case Effect.DRIVE:
            return _drive(model, belief, event, speed), False
        case Effect.COUNT:
            return belief, False
        case _:
            assert_never(effect)


def reserve_after(store: Store, reserve: float, event: Event) -> float:
    """What is carried apart after an event: moved or swapped in it is less, a fill of the store restores it."""
    whole = store.reserve or 0.0
    match event.row.effect:
        case Effect.FILL:
            return whole
        case Effect.SWAP:
            return max(0.0, reserve - store.capacity)
        case Effect.MOVE if event.source == RESERVE and event.target == store.id:
            return max(0.0, reserve - (event.amount or 0.0))
        case Effect.MOVE if event.target == RESERVE and store.id in (event.source, event.store):
            return min(whole, reserve + (event.amount or 0.0))
        case _:
            return reserve


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
