"""What a reading or an event must be to belong to a store. Each refusal names its place."""

from collections.abc import Mapping
from typing import assert_never

from lodeline.core.catalogue import METHODS, Effect, GaugeKind, Method, Role
from lodeline.core.errors import Refused
from lodeline.core.figures import Numeric, Readings
from lodeline.core.log import APART, OUTSIDE, RESERVE, Event, Reading
from lodeline.core.problems import (
    HasNoValue,
    HoursOverDay,
    ImpossibleVolts,
    MeasuredDifferently,
    NoPanel,
    NoReserve,
    NoStore,
    NotAFuelTank,
    NotAMark,
    NoTare,
    NotDoneTo,
    NotReadBy,
    OverCapacity,
    Plain,
    ShareOverOne,
    TooHeavy,
    UnderTare,
)
from lodeline.core.rig import Store

Stores = Mapping[str, Store]
# Moves of a store's reserve alone: it is filled again, or a tote is emptied.
_REFILLED, _CARRIED_AWAY = {"from": OUTSIDE, "to": RESERVE}, {"from": RESERVE, "to": OUTSIDE}
# The longest day that a change of clocks makes.
HOURS_OF_A_DAY = 25.0
# Volts that no charger puts on a bank, over its nominal ones.
_MOST_VOLTS = 2.0


def _store_at(stores: Stores, store_id: str | None, place: str) -> Store:
    store = stores.get(store_id or "")
    if store is None:
        raise Refused(place, NoStore(store_id or "", tuple(stores)))
    return store


def check_reading(reading: Reading, stores: Stores, place: str) -> None:
    """Refuse a reading that its store or method cannot have."""
    store = _store_at(stores, reading.store, f"{place}.store")
    method, value = reading.method, reading.value
    if not METHODS[method].has_value:
        if value is not None:
            raise Refused(f"{place}.value", HasNoValue(method))
    elif value is None:
        raise Refused(f"{place}.value", Plain.IS_MISSING)
    if reading.state is not None and method is not Method.VOLTS:
        raise Refused(f"{place}.state", Plain.ONLY_VOLTS_HAVE_STATE)
    if method is Method.STEP and store.gauge.kind is not GaugeKind.STEPS:
        raise Refused(f"{place}.method", NoPanel(store.id))
    if method not in store.methods:
        raise Refused(f"{place}.method", NotReadBy(store.id, method, store.methods))
    if value is not None:
        _check_value(store, method, value, place)


def _check_value(store: Store, method: Method, value: float, place: str) -> None:
    where, most = f"{place}.value", Readings.overfull * store.capacity
    match method:
        case Method.FRACTION:
            if value > 1:
                raise Refused(where, ShareOverOne(value))
        case Method.STEP:
            if all(abs(value - mark) > Numeric.small for mark in store.gauge.marks):
                raise Refused(where, NotAMark(value, store.gauge.marks))
        case Method.VOLUME | Method.AMOUNT:
            if value > most:
                raise Refused(where, OverCapacity(value, store))
        case Method.MASS:
            if value > most + Readings.overweight_kg:
                raise Refused(where, OverCapacity(value, store))
        case Method.GROSS:
            _check_gross(store, value, most, place)
        case Method.VOLTS:
            if value > _MOST_VOLTS * store.volts:
                raise Refused(where, ImpossibleVolts(value, store.volts))
        case Method.USES | Method.RANGE | Method.METER | Method.DRY | Method.FULL:
            pass
        case _:
            assert_never(method)


def _check_gross(store: Store, value: float, most: float, place: str) -> None:
    if store.tare_kg is None:
        raise Refused(f"{place}.method", NoTare(store.id))
    if value < store.lightest_kg:
        raise Refused(f"{place}.value", UnderTare(value, store.lightest_kg))
    if value - store.heaviest_kg > most + Readings.overweight_kg:
        raise Refused(f"{place}.value", TooHeavy(value))


def check_event(event: Event, stores: Stores, place: str) -> None:
    """Refuse an event that its store cannot have."""
    effect = event.row.effect
    match effect:
        case Effect.FILL | Effect.EMPTY | Effect.SWAP:
            store = _store_at(stores, event.store, f"{place}.store")
            if not store.accepts(effect):
                raise Refused(f"{place}.store", NotDoneTo(event.type, store.id))
            if effect is Effect.FILL:
                _check_fill(event, store, place)
            if event.source is not None:
                # a bottle that came into use: one of the same gas, or the store's own again
                bottle = _store_at(stores, event.source, f"{place}.from")
                if bottle.kind is not store.kind:
                    raise Refused(f"{place}.from", NotDoneTo(event.type, event.source))
        case Effect.MOVE:
            _check_move(event, stores, place)
        case Effect.DRIVE:
            if event.hours is None and event.km is None:
                raise Refused(f"{place}.hours", Plain.IS_MISSING)
            if event.store is not None:
                store = _store_at(stores, event.store, f"{place}.store")
                if store.kind.role is not Role.VEHICLE_FUEL:
                    raise Refused(f"{place}.store", NotAFuelTank(event.store))
        case Effect.COUNT:
            _check_measured(event, stores, place)
        case Effect.CHARGE | Effect.CARE | Effect.DRAIN:
            pass
        case _:
            assert_never(effect)


def _check_measured(event: Event, stores: Stores, place: str) -> None:
    """Refuse more water for an activity than the fresh tanks and jugs hold."""
    fresh = [store for store in stores.values() if store.kind.role is Role.WATER]
    whole = sum(store.capacity for store in fresh)
    if event.amount is not None and fresh and event.amount > Readings.overfull * whole:
        raise Refused(f"{place}.amount", OverCapacity(event.amount, max(fresh, key=lambda each: each.capacity)))


def check_day_hours(event: Event, others_h: float, place: str) -> None:
    """Refuse hours that a day does not have. ``others_h``: of the same type, already on its day. [h]"""
    total_h = (event.hours or 0.0) + others_h
    if total_h > HOURS_OF_A_DAY:
        raise Refused(f"{place}.hours", HoursOverDay(event.hours or 0.0, others_h))


def _check_fill(event: Event, store: Store, place: str) -> None:
    if not event.to_full and event.amount is None:
        raise Refused(place, Plain.FILL_SAYS_HOW_MUCH)
    _check_amount(store, event.amount, f"{place}.amount")


def _check_move(event: Event, stores: Stores, place: str) -> None:
    ends = {"from": event.source, "to": event.target}
    moved = {key: _store_at(stores, id, f"{place}.{key}") for key, id in ends.items() if id not in APART}
    refilled = event.store is not None and ends in (_REFILLED, _CARRIED_AWAY)
    if refilled:
        moved["store"] = _store_at(stores, event.store, f"{place}.store")
    if not moved or event.source == event.target or (event.store is not None and not refilled):
        raise Refused(place, Plain.MOVE_ENDS)
    for key, store in moved.items():
        if not store.accepts(Effect.MOVE):
            raise Refused(f"{place}.{key}", NotDoneTo(event.type, store.id))
        _check_amount(store, event.amount, f"{place}.amount")
    if RESERVE in ends.values():
        store = next(iter(moved.values()))
        if store.reserve is None:
            key = "store" if refilled else next(key for key, id in ends.items() if id == RESERVE)
            raise Refused(f"{place}.{key}", NoReserve(store.id))
    units = sorted({store.unit for store in moved.values()})
    if len(units) > 1:
        raise Refused(f"{place}.to", MeasuredDifferently(tuple(units)))


def _check_amount(store: Store, amount: float | None, where: str) -> None:
    if amount is not None and amount > Readings.overfull * store.capacity:
        raise Refused(where, OverCapacity(amount, store))
