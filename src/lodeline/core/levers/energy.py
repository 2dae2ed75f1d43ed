"""Levers on the bank: loads spared, sources run for an hour a day, the sun."""

from collections.abc import Iterable

import numpy as np

from lodeline.core.catalogue import Burns, Driver, Role
from lodeline.core.energy.loads import audit_wh
from lodeline.core.energy.solar import clear_yield_wh
from lodeline.core.figures import Energy, Levers
from lodeline.core.forecast.change import Change
from lodeline.core.forecast.levers import BankCase, LeverKind, bank_cases
from lodeline.core.levers.lever import Aboard, Lever, Touch
from lodeline.core.levers.water import lever_of
from lodeline.core.rig import Rig, Source, Store
from lodeline.core.statistics import Floats
from lodeline.core.tracking.track import Tracked
from lodeline.core.zone import HOURS

_RUNS = {"generator": "generator-hour", "alternator": "engine-hour", "shore": "hookup-hour"}
_BOUGHT = {LeverKind.PANEL: "buy-panel", LeverKind.BANK: "buy-bank"}


def energy_levers(aboard: Aboard) -> Iterable[Lever]:
    """The levers on the bank."""
    banks = [each for store in aboard.rig.banks if (each := aboard.known(store.id)) is not None]
    for tracked in banks[:1]:
        for case in bank_cases(aboard.ahead, tracked):
            yield _of_case(aboard, tracked, case)
        yield from _into_sun(aboard, tracked)


def _of_case(aboard: Aboard, tracked: Tracked, case: BankCase) -> Lever:
    store, rig = tracked.store, aboard.rig
    match case.kind:
        case LeverKind.SOURCE:
            assert case.source is not None
            return _hour_a_day(aboard, tracked, case.source)
        case LeverKind.PANEL:
            sun = _sun_ah(aboard, case.rig, store) - _sun_ah(aboard, rig, store)
            touch = Touch(store=store.id, per_day=float(sun.sum(axis=1).mean()))
            changes = {store.id: Change(sun=sun)}
        case LeverKind.BANK:
            touch = Touch(store=store.id, once=case.amount or 0.0)
            changes = {store.id: Change(store=case.store)}
        case LeverKind.LOAD | LeverKind.INVERTER_OFF:
            audit = np.tile((audit_wh(case.rig) - audit_wh(rig)) / store.volts, (aboard.n_dates, 1))
            touch = Touch(store=store.id, per_day=-float(audit[0].sum()))
            changes = {store.id: Change(audit=audit)}
    subject = case.load.id if case.load else ""
    kind = _BOUGHT.get(case.kind) or (str(case.sparing) if case.sparing else "inverter-off")
    id = f"{kind}-{subject}" if subject else kind
    return lever_of(aboard, kind, id, changes, [touch], subject=subject, amount=case.amount)


def _sun_ah(aboard: Aboard, rig: Rig, store: Store) -> Floats:
    """A clear sky's yield in each hour of each date, shape (n_dates, 24). [Ah]"""
    days = aboard.ahead.days
    return np.stack([clear_yield_wh(rig, day.place, day.date, day.mean_c, day.min_c) for day in days]) / store.volts


def _hour_a_day(aboard: Aboard, tracked: Tracked, source: Source) -> Lever:
    """A source run for an hour each day, from its usual hour; what it burns is the other side."""
    push, burn = np.zeros((aboard.n_dates, int(HOURS))), np.zeros((aboard.n_dates, int(HOURS)))
    hour = int(source.kind.from_h)
    if aboard.rig.quiet is not None and source.kind.burns is not Burns.NOTHING:
        # the last hour before quiet, where the usual one lies in it
        loud = [each for each in range(int(HOURS)) if not aboard.rig.quiet.covers(each)]
        hour = hour if hour in loud else max((each for each in loud if each < hour), default=hour)
    first = 0 if aboard.ahead.hour <= hour else 1
    push[first:, hour] = source.amps
    changes, touches = {tracked.store.id: Change(push=push)}, [Touch(store=tracked.store.id, per_day=source.amps)]
    fuel, l_per_h = _burns_from(aboard.rig, source)
    known = aboard.known(fuel.id) if fuel is not None else None
    if known is not None and l_per_h:
        burn[first:, hour] = -l_per_h
        changes[known.store.id] = Change(flow=burn)
        touches.append(Touch(store=known.store.id, per_day=-l_per_h))
    return lever_of(aboard, _RUNS[source.kind.id], f"{_RUNS[source.kind.id]}-{source.id}", changes, touches, source.id)


def _burns_from(rig: Rig, source: Source) -> tuple[Store | None, float]:
    own = source.kind.burns is Burns.OWN_RATE
    fuel = rig.store(source.fuel_store) if own else rig.first(Role.VEHICLE_FUEL)
    return fuel, source.l_per_h(rig.banks[0].volts if rig.banks else Energy.bank_v) or 0.0


def _into_sun(aboard: Aboard, tracked: Tracked) -> Iterable[Lever]:
    """Move the panels or the rig out of the shade, where the log shows that the place takes from the sun."""
    here = float(tracked.belief.coefficients[tracked.model.drivers.index(Driver.SUN_PLACE)])
    first = tracked.model.drivers.index(Driver.SUN_CLEAR)
    with_place = float(tracked.belief.coefficients[first]) + here
    if here >= Levers.usual_place or with_place <= 0 or not aboard.rig.solar:
        return
    sun = _sun_ah(aboard, aboard.rig, tracked.store) * (-here / with_place)
    touch = Touch(store=tracked.store.id, per_day=float(sun.sum(axis=1).mean()) * with_place)
    yield lever_of(aboard, "into-sun", "into-sun", {tracked.store.id: Change(sun=sun)}, [touch])
