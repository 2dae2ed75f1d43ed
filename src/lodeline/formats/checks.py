"""What must hold between the parts of a logbook, and within one beyond its ranges. Each refusal names its place."""

from collections.abc import Iterable
from datetime import date, datetime
from typing import Any
from zoneinfo import ZoneInfo

from lodeline.core.errors import Refused
from lodeline.formats import document as d

_KIND_KEYS = {
    "chemistry": {"battery"}, "nominal_v": {"battery"}, "layout": {"battery"}, "kept_warm": {"battery"},
    "fuel": {"gas", "fuel"},
    "tare_kg": {"gas"}, "unit": {"supply"}, "sense": {"supply"},
}  # fmt: skip
_FUELS = {"gas": ("propane", "butane"), "fuel": ("diesel", "petrol")}
_WASTE = {"grey", "black", "cassette", "urine", "solids"}
_IN_LITRES = {"fresh", "grey", "black", "cassette", "urine", "fuel"}
_OVERFULL = 1.02
_PLACES = {"reserve", "outside"}


def _unique(ids: Iterable[str], place: str, key: str = "id") -> None:
    seen: set[str] = set()
    for index, each in enumerate(ids):
        if each in seen:
            raise Refused(f"{place}[{index}].{key}", f'"{each}" is used twice; it must be unique in its list')
        seen.add(each)


def capacity_of(store: d.StoreDoc) -> float:
    """Capacity as given, or from the layout."""
    if store.capacity is not None:
        return store.capacity
    assert store.layout is not None
    return store.layout.unit_ah * store.layout.parallel


def fills(store: d.StoreDoc) -> bool:
    """Whether the store fills up."""
    return store.sense == "fills" if store.kind == "supply" else store.kind in _WASTE


def check_rig(rig: d.RigDoc, place: str = "rig") -> None:
    """Refuse a rig whose parts do not fit together."""
    _unique((s.id for s in rig.stores), f"{place}.stores")
    _unique((s.id for s in rig.solar), f"{place}.solar")
    _unique((s.id for s in rig.sources), f"{place}.sources")
    _unique((s.id for s in rig.loads), f"{place}.loads")
    for index, store in enumerate(rig.stores):
        _check_store(store, f"{place}.stores[{index}]")
    by_id = {store.id: store for store in rig.stores}
    for index, source in enumerate(rig.sources):
        if source.fuel_store is not None:
            where = f"{place}.sources[{index}].fuel_store"
            if source.fuel_store not in by_id:
                raise Refused(where, f'no store "{source.fuel_store}"')
            if by_id[source.fuel_store].kind not in ("fuel", "gas"):
                raise Refused(where, f'"{source.fuel_store}" is not a fuel store')
    if rig.crew.adults + rig.crew.children < 1:
        raise Refused(f"{place}.crew", "somebody must live aboard: at least one adult or child")


def _check_store(store: d.StoreDoc, place: str) -> None:
    if store.id in _PLACES:
        raise Refused(f"{place}.id", f'"{store.id}" is a word that moves use; choose another id')
    for key, kinds in _KIND_KEYS.items():
        if getattr(store, key) is not None and store.kind not in kinds:
            raise Refused(f"{place}.{key}", f"a {store.kind} store has no {key}")
    if store.kind in _FUELS and store.fuel is not None and store.fuel not in _FUELS[store.kind]:
        raise Refused(f"{place}.fuel", f"a {store.kind} store holds {' or '.join(_FUELS[store.kind])}")
    if store.kind == "battery":
        _check_battery(store, place)
    elif store.capacity is None:
        raise Refused(f"{place}.capacity", "is missing")
    if isinstance(store.gauge, d.StepsGauge):
        marks = store.gauge.marks
        for index in range(1, len(marks)):
            if marks[index] <= marks[index - 1]:
                raise Refused(f"{place}.gauge.marks[{index}]", "the marks must rise")


def _check_battery(store: d.StoreDoc, place: str) -> None:
    for key in ("chemistry", "nominal_v"):
        if getattr(store, key) is None:
            raise Refused(f"{place}.{key}", "is missing; a battery needs it")
    if store.layout is None:
        if store.capacity is None:
            raise Refused(f"{place}.capacity", "is missing; a battery needs capacity or layout")
        return
    bank_ah, bank_v = store.layout.unit_ah * store.layout.parallel, store.layout.unit_v * store.layout.series
    if store.capacity is not None and abs(store.capacity - bank_ah) > 0.01 * bank_ah:
        raise Refused(f"{place}.capacity", f"the layout makes {bank_ah:g} Ah (only parallel strings add amp-hours)")
    assert store.nominal_v is not None
    if abs(bank_v - store.nominal_v) > 0.2 * store.nominal_v:
        raise Refused(f"{place}.nominal_v", f"the layout makes {bank_v:g} V (only units in series add volts)")


def check_document(doc: d.LogbookDoc) -> None:
    """Refuse a document whose parts do not fit together."""
    check_rig(doc.rig)
    stores = {store.id: store for store in doc.rig.stores}
    zone = ZoneInfo(doc.rig.timezone)
    previous: date | None = None
    for index, day in enumerate(doc.days):
        place = f"days[{index}]"
        if previous is not None and day.date <= previous:
            what = "the same date twice" if day.date == previous else "out of time order"
            raise Refused(f"{place}.date", f"{what}; days go from old to new, one a date")
        previous = day.date
        check_temperatures(day, place)
        _check_entries(day.readings, day.date, zone, f"{place}.readings")
        _check_entries(day.events, day.date, zone, f"{place}.events")
        for number, reading in enumerate(day.readings):
            check_reading(reading, stores, f"{place}.readings[{number}]")
        for number, event in enumerate(day.events):
            check_event(event, stores, f"{place}.events[{number}]")
    _unique((str(day.date) for day in doc.outlook or []), "outlook", "date")
    for index, coming in enumerate(doc.outlook or []):
        check_temperatures(coming, f"outlook[{index}]")


def check_temperatures(day: Any, place: str) -> None:
    """The coldest of a day cannot be above its warmest."""
    if day.temp_min_c is not None and day.temp_max_c is not None and day.temp_min_c > day.temp_max_c:
        raise Refused(f"{place}.temp_min_c", "is above temp_max_c")


def _check_entries(entries: list[Any], on: date, zone: ZoneInfo, place: str) -> None:
    before: datetime | None = None
    for index, entry in enumerate(entries):
        local = entry.at.astimezone(zone).date()
        if local != on:
            raise Refused(f"{place}[{index}].at", f"falls on {local} in the rig's timezone, not on {on}")
        if before is not None and entry.at < before:
            raise Refused(f"{place}[{index}].at", "out of time order; it is before the entry above it")
        before = entry.at


def _store_at(stores: dict[str, d.StoreDoc], store_id: str, place: str) -> d.StoreDoc:
    if store_id not in stores:
        raise Refused(place, f'no store "{store_id}"; there are {", ".join(stores)}')
    return stores[store_id]


def check_reading(reading: d.ReadingDoc, stores: dict[str, d.StoreDoc], place: str) -> None:
    """Refuse a reading that its store or method cannot have."""
    store = _store_at(stores, reading.store, f"{place}.store")
    method, value = reading.method, reading.value
    if method in ("dry", "full"):
        if value is not None:
            raise Refused(f"{place}.value", f"{method} has no value")
    elif value is None:
        raise Refused(f"{place}.value", "is missing")
    if reading.state is not None and method != "volts":
        raise Refused(f"{place}.state", "only volts have a state")
    if value is not None:
        _check_value(store, method, value, place)


def _check_value(store: d.StoreDoc, method: str, value: float, place: str) -> None:
    capacity, where, how = capacity_of(store), f"{place}.value", f"{place}.method"
    match method:
        case "fraction" if value > 1:
            raise Refused(where, f"{value:g} is over 1; a fraction lies between 0 and 1")
        case "step":
            if not isinstance(store.gauge, d.StepsGauge):
                raise Refused(how, f'"{store.id}" has no panel with marks')
            if all(abs(value - mark) > 1e-6 for mark in store.gauge.marks):
                marks = ", ".join(f"{mark:g}" for mark in store.gauge.marks)
                raise Refused(where, f"{value:g} is not one of the gauge's marks ({marks})")
        case "volume":
            if store.kind not in _IN_LITRES:
                raise Refused(how, f'"{store.id}" is not measured in litres')
            if value > _OVERFULL * capacity:
                raise Refused(where, f"{value:g} L is more than the {capacity:g} L that it holds")
        case "mass":
            if store.kind != "gas":
                raise Refused(how, f'"{store.id}" is not measured in kilograms')
            if value > _OVERFULL * capacity + 0.5:
                raise Refused(where, f"{value:g} kg is more than the {capacity:g} kg that it holds")
        case "gross":
            _check_gross(store, value, where, how)
        case "amount":
            if store.kind != "supply":
                raise Refused(how, f'"{store.id}" is not a supply; say volume, mass or fraction')
            if value > _OVERFULL * capacity:
                raise Refused(where, f"{value:g} is more than the {capacity:g} that it holds")
        case "volts":
            if store.kind != "battery":
                raise Refused(how, f'"{store.id}" is not a battery')
            if store.nominal_v is not None and value > 2 * store.nominal_v:
                raise Refused(where, f"{value:g} V cannot be on a {store.nominal_v:g} V bank")
        case "uses" if store.kind != "solids":
            raise Refused(how, f'"{store.id}" is not counted in uses')


def _check_gross(store: d.StoreDoc, value: float, where: str, how: str) -> None:
    if store.kind != "gas" or store.tare_kg is None:
        raise Refused(how, f'"{store.id}" has no tare_kg, so a gross weight says nothing')
    if value < store.tare_kg:
        raise Refused(where, f"{value:g} kg is less than the empty bottle, {store.tare_kg:g} kg")
    if value - store.tare_kg > _OVERFULL * capacity_of(store) + 0.5:
        raise Refused(where, f"{value:g} kg is more than bottle and contents can weigh")


def check_event(event: Any, stores: dict[str, d.StoreDoc], place: str) -> None:
    """Refuse an event that its store cannot have."""
    match event:
        case d.FillDoc():
            store = _store_at(stores, event.store, f"{place}.store")
            if fills(store) or store.kind == "battery":
                raise Refused(f"{place}.store", f'"{store.id}" cannot be filled')
            if (event.to is None) == (event.amount is None):
                raise Refused(place, 'a fill has either to: "full" or an amount')
            _check_amount(store, event.amount, f"{place}.amount")
        case d.DumpDoc():
            store = _store_at(stores, event.store, f"{place}.store")
            if not fills(store):
                raise Refused(f"{place}.store", f'"{store.id}" cannot be dumped')
        case d.SwapDoc():
            store = _store_at(stores, event.store, f"{place}.store")
            if fills(store):
                raise Refused(f"{place}.store", f'"{store.id}" is not swapped for a full one')
        case d.MoveDoc():
            _check_move(event, stores, place)
        case d.DriveDoc() if event.store is not None:
            if _store_at(stores, event.store, f"{place}.store").kind != "fuel":
                raise Refused(f"{place}.store", f'"{event.store}" is not a fuel store')


def _check_move(event: d.MoveDoc, stores: dict[str, d.StoreDoc], place: str) -> None:
    ends = {"from": event.source, "to": event.target}
    found = {key: _store_at(stores, id, f"{place}.{key}") for key, id in ends.items() if id not in _PLACES}
    if not found or event.source == event.target:
        raise Refused(place, "a move goes from one store to another, or to or from the reserve or outside")
    for key, store in found.items():
        if store.kind == "battery":
            raise Refused(f"{place}.{key}", "nothing is poured into a battery")
        _check_amount(store, event.amount, f"{place}.amount")
    if "reserve" in ends.values():
        store = next(iter(found.values()))
        if store.reserve is None:
            key = next(key for key, id in ends.items() if id == "reserve")
            raise Refused(f"{place}.{key}", f'"{store.id}" has no reserve')
    units = {_unit(store) for store in found.values()}
    if len(units) > 1:
        raise Refused(f"{place}.to", f"the two stores are measured differently ({' and '.join(sorted(units))})")


def _unit(store: d.StoreDoc) -> str:
    if store.kind == "supply":
        return store.unit or "units"
    return "L" if store.kind in _IN_LITRES else "kg" if store.kind == "gas" else "uses"


def _check_amount(store: d.StoreDoc, amount: float | None, where: str) -> None:
    if amount is not None and amount > _OVERFULL * capacity_of(store):
        raise Refused(where, f'{amount:g} is more than "{store.id}" holds ({capacity_of(store):g})')
