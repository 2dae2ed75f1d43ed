"""What events do to a store: which concern it, and how they move or reset its level."""

import numpy as np

from lodeline.core.log import Event, Reading
from lodeline.core.rig import Kind, Rig, Store
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.evidence import END_SD
from lodeline.core.tracking.model import UseModel
from lodeline.core.tracking.use import KM_PER_DRIVE_HOUR

_AMOUNT_CV = 0.03
_BURN_CV = 0.2


def drives_from(rig: Rig, event: Event) -> str | None:
    """The store that a drive burns from: the one named, else the first fuel store."""
    if event.store is not None:
        return event.store
    first = rig.first(Kind.FUEL)
    return first.id if first else None


def concerns(rig: Rig, store: Store, entry: Reading | Event) -> bool:
    """Whether a reading or event touches this store's level other than by charging."""
    if isinstance(entry, Reading):
        return entry.store == store.id
    match entry.type:
        case "drive":
            return store.kind is Kind.FUEL and drives_from(rig, entry) == store.id
        case "generator":
            return any(s.kind == "generator" and s.fuel_store == store.id and s.fuel_l_per_h for s in rig.sources)
        case "move":
            return store.id in (entry.source, entry.target)
        case _:
            return entry.store == store.id and entry.type in ("fill", "dump", "swap")


def driven_km(event: Event) -> float:
    """Distance of a drive; from its hours where it was not logged. [km]"""
    return event.km if event.km is not None else KM_PER_DRIVE_HOUR * (event.hours or 0.0)


def apply_event(rig: Rig, store: Store, model: UseModel, belief: b.Belief, event: Event) -> tuple[b.Belief, bool]:
    """The belief after an event, and whether the level was set anew by it."""
    capacity = store.capacity
    match event.type:
        case "fill" if event.to_full:
            return b.reset_level(belief, capacity, END_SD * capacity), True
        case "swap":
            return b.reset_level(belief, capacity, END_SD * capacity), True
        case "dump":
            return b.reset_level(belief, event.left * capacity, END_SD * capacity), True
        case "fill":
            return b.shift_level(belief, event.amount or 0.0, _AMOUNT_CV * (event.amount or 0.0)), False
        case "move":
            amount = (event.amount or 0.0) * ((event.target == store.id) - (event.source == store.id))
            return b.shift_level(belief, amount, abs(_AMOUNT_CV * amount)), False
        case "generator":
            burn = sum(s.fuel_l_per_h or 0.0 for s in rig.sources if s.kind == "generator" and s.fuel_store == store.id)
            amount = burn * (event.hours or 0.0)
            return b.shift_level(belief, -amount, _BURN_CV * amount), False
        case _:
            return _drive(model, belief, driven_km(event)), False


def _drive(model: UseModel, belief: b.Belief, km: float) -> b.Belief:
    index = 1 + model.drivers.index("km")
    transition = np.eye(len(belief.mean))
    transition[0, index] = -km
    cov = transition @ belief.cov @ transition.T
    cov[0, 0] += (float(model.day_cv[index - 1]) * float(belief.mean[index]) * km) ** 2
    return b.Belief(transition @ belief.mean, cov)
