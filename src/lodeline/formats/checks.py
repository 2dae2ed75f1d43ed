"""What must hold between the parts of a logbook, and within one beyond its ranges. Each refusal names its place."""

from collections.abc import Collection, Iterable, Mapping
from datetime import date, datetime

from lodeline.core import problems as p
from lodeline.core.catalogue import STORE_KINDS, Role, Sense, StoreField, StoreKind
from lodeline.core.entries import check_event, check_reading
from lodeline.core.errors import Refused
from lodeline.core.log import APART, DayFacts, Event, Log, OutlookDay, Reading
from lodeline.core.rig import Layout, Rig
from lodeline.core.zone import Zone
from lodeline.formats import document as d

# How far capacity and nominal volts may lie from what the layout makes.
_AH_SHARE, _V_SHARE = 0.01, 0.2
# Bottles of one size, as their labels have it.
_SAME_SIZE = 1.02
_BANK_KEYS = (StoreField.CHEMISTRY, StoreField.NOMINAL_V)


def _unique(ids: Iterable[str], place: str, key: str = "id") -> None:
    seen: set[str] = set()
    for index, each in enumerate(ids):
        if each in seen:
            raise Refused(f"{place}[{index}].{key}", p.NotUnique(each))
        seen.add(each)


def check_rig(rig: d.RigDoc, place: str = "rig") -> None:
    """Refuse a rig whose parts do not fit together."""
    for name in ("stores", "solar", "sources", "loads", "appliances"):
        _unique((each.id for each in getattr(rig, name)), f"{place}.{name}")
    for index, store in enumerate(rig.stores):
        _check_store(store, f"{place}.stores[{index}]")
    kinds = {store.id: STORE_KINDS[store.kind] for store in rig.stores}
    for index, source in enumerate(rig.sources):
        if source.fuel_store is not None:
            where = f"{place}.sources[{index}].fuel_store"
            if source.fuel_store not in kinds:
                raise Refused(where, p.NoStore(source.fuel_store, tuple(kinds)))
            if not kinds[source.fuel_store].contents:
                raise Refused(where, p.NotAFuelStore(source.fuel_store))
    for part in ("solar", "sources", "loads"):
        for index, hung in enumerate(getattr(rig, part)):
            if hung.bank is not None and hung.bank not in kinds:
                raise Refused(f"{place}.{part}[{index}].bank", p.NoStore(hung.bank, tuple(kinds)))
            if hung.bank is not None and kinds[hung.bank].role is not Role.BANK:
                raise Refused(f"{place}.{part}[{index}].bank", p.NotABattery(hung.bank))
    for index, each in enumerate(rig.appliances):
        where = f"{place}.appliances[{index}].store"
        if each.store not in kinds:
            raise Refused(where, p.NoStore(each.store, tuple(kinds)))
        if not kinds[each.store].contents and not _is_burnt(rig, each.store):
            raise Refused(where, p.NotAFuelStore(each.store))
    _check_spares(rig, kinds, place)
    jugs = rig.jugs or []
    _unique((each.id for each in jugs), f"{place}.jugs")
    for index, jug in enumerate(jugs):
        if jug.id in APART:
            raise Refused(f"{place}.jugs[{index}].id", p.IdIsTaken(jug.id))
        if jug.id in kinds:
            raise Refused(f"{place}.jugs[{index}].id", p.NotUnique(jug.id))
        # what is poured and filled is logged by name
        if jug.name in {store.name for store in rig.stores} | {other.name for other in jugs[:index]}:
            raise Refused(f"{place}.jugs[{index}].name", p.NotUnique(jug.name))
    _unique((each.activity for each in rig.habits or []), f"{place}.habits", "activity")
    if rig.crew.adults + rig.crew.children < 1:
        raise Refused(f"{place}.crew", p.Plain.NOBODY_ABOARD)


def _is_burnt(rig: d.RigDoc, id: str) -> bool:
    return any(store.id == id and store.kwh_per_unit is not None for store in rig.stores)


def _check_spares(rig: d.RigDoc, kinds: Mapping[str, StoreKind], place: str) -> None:
    """Bottles and cans belong to a store of gas or fuel, and are called by names of their own."""
    spares, others = rig.spares or [], rig.jugs or []
    _unique((each.id for each in spares), f"{place}.spares")
    taken = {each.id for each in others} | set(kinds) | APART
    names = {store.name for store in rig.stores} | {jug.name for jug in others}
    for index, spare in enumerate(spares):
        where = f"{place}.spares[{index}]"
        if spare.id in taken:
            raise Refused(f"{where}.id", p.IdIsTaken(spare.id) if spare.id in APART else p.NotUnique(spare.id))
        if spare.store not in kinds:
            raise Refused(f"{where}.store", p.NoStore(spare.store, tuple(kinds)))
        kind = kinds[spare.store]
        if not kind.contents:
            raise Refused(f"{where}.store", p.NotAFuelStore(spare.store))
        contents = tuple(each.id for each in kind.contents)
        if spare.contents is not None and spare.contents not in contents:
            raise Refused(f"{where}.contents", p.HoldsOnly(kind.id, contents))
        if spare.tare_kg is not None and kind.role is not Role.GAS:
            raise Refused(f"{where}.tare_kg", p.KindHasNo(kind.id, "tare_kg"))
        capacity = next(store.capacity or 0.0 for store in rig.stores if store.id == spare.store)
        if kind.role is Role.GAS and spare.holds > _SAME_SIZE * capacity:
            raise Refused(f"{where}.holds", p.SpareTooLarge(spare.store, capacity))
        if spare.name in names:
            raise Refused(f"{where}.name", p.NotUnique(spare.name))
        names.add(spare.name)


def _check_store(store: d.StoreDoc, place: str) -> None:
    kind = STORE_KINDS[store.kind]
    if store.id in APART:
        raise Refused(f"{place}.id", p.IdIsTaken(store.id))
    for key in StoreField:
        if getattr(store, key) is not None and key not in kind.asks:
            raise Refused(f"{place}.{key}", p.KindHasNo(kind.id, key))
    if store.served is not None and store.served not in kind.served:
        raise Refused(f"{place}.served", p.NotServedSo(kind.id, store.served))
    if store.reads_from is not None and kind.sense is not Sense.FILLS:
        raise Refused(f"{place}.reads_from", p.KindHasNo(kind.id, "reads_from"))
    if store.takes is not None and kind.role is not Role.DRAIN:
        raise Refused(f"{place}.takes", p.KindHasNo(kind.id, "takes"))
    if store.buffer_days is not None and kind.sense is Sense.FILLS:
        raise Refused(f"{place}.buffer_days", p.KindHasNo(kind.id, "buffer_days"))
    contents = tuple(each.id for each in kind.contents)
    if store.fuel is not None and store.fuel not in contents:
        raise Refused(f"{place}.fuel", p.HoldsOnly(kind.id, contents))
    if kind.role is Role.BANK:
        _check_battery(store, place)
    elif store.capacity is None:
        raise Refused(f"{place}.capacity", p.Plain.IS_MISSING)
    if isinstance(store.gauge, d.StepsGauge):
        marks = store.gauge.marks
        for index in range(1, len(marks)):
            if marks[index] <= marks[index - 1]:
                raise Refused(f"{place}.gauge.marks[{index}]", p.Plain.MARKS_MUST_RISE)


def _check_battery(store: d.StoreDoc, place: str) -> None:
    for key in _BANK_KEYS:
        if getattr(store, key) is None:
            raise Refused(f"{place}.{key}", p.BankNeeds((key,)))
    if store.layout is None:
        if store.capacity is None:
            raise Refused(f"{place}.capacity", p.BankNeeds(("capacity", "layout")))
        return
    layout = Layout(**store.layout.model_dump())
    if store.capacity is not None and abs(store.capacity - layout.bank_ah) > _AH_SHARE * layout.bank_ah:
        raise Refused(f"{place}.capacity", p.LayoutMakesAh(layout.bank_ah))
    if store.nominal_v is not None and abs(layout.bank_v - store.nominal_v) > _V_SHARE * store.nominal_v:
        raise Refused(f"{place}.nominal_v", p.LayoutMakesV(layout.bank_v))


def check_log(rig: Rig, log: Log, outlook: tuple[OutlookDay, ...]) -> None:
    """Refuse a log whose parts do not fit together or to the rig."""
    stores, vessels = {store.id: store for store in rig.stores}, rig.vessels
    previous: date | None = None
    for index, day in enumerate(log.days):
        place = f"days[{index}]"
        if previous is not None and day.date <= previous:
            raise Refused(f"{place}.date", p.DaysOutOfOrder(day.date == previous))
        previous = day.date
        check_temperatures(day, place)
        _check_entries(day.readings, day.date, rig.zone, f"{place}.readings")
        _check_entries(day.events, day.date, rig.zone, f"{place}.events")
        for number, reading in enumerate(day.readings):
            check_reading(reading, stores, f"{place}.readings[{number}]")
        for number, event in enumerate(day.events):
            check_event(event, vessels, f"{place}.events[{number}]")
    _unique((str(day.date) for day in outlook), "outlook", "date")
    for index, coming in enumerate(outlook):
        check_temperatures(coming, f"outlook[{index}]")


def check_wishes(doc: d.LogbookDoc) -> None:
    """Refuse places, agreements and planned stops that do not fit together."""
    places = doc.places or []
    _unique((each.id for each in places), "places")
    known = {each.id for each in places}
    for index, day in enumerate(doc.days):
        if day.visit is not None:
            check_visit(day.visit, known, f"days[{index}].visit")
    for index, agreed in enumerate(doc.agreed or []):
        if agreed.until < agreed.since:
            raise Refused(f"agreed[{index}].until", p.Plain.ENDS_BEFORE_IT_BEGINS)
    for index, stop in enumerate(doc.planned or []):
        if stop.place not in known:
            raise Refused(f"planned[{index}].place", p.NoSpot(stop.place))


def check_visit(visit: d.VisitDoc, known: Collection[str], place: str) -> None:
    """Refuse a visit to a place that is not in the book, or that ends before it began."""
    if visit.place not in known:
        raise Refused(f"{place}.place", p.NoSpot(visit.place))
    if visit.arrived is not None and visit.left is not None and visit.left < visit.arrived:
        raise Refused(f"{place}.left", p.Plain.ENDS_BEFORE_IT_BEGINS)


def check_temperatures(day: DayFacts, place: str) -> None:
    """The coldest of a day cannot be above its warmest."""
    if day.temp_min_c is not None and day.temp_max_c is not None and day.temp_min_c > day.temp_max_c:
        raise Refused(f"{place}.temp_min_c", p.Plain.COLDEST_OVER_WARMEST)


def _check_entries(entries: tuple[Reading, ...] | tuple[Event, ...], on: date, zone: Zone, place: str) -> None:
    before: datetime | None = None
    every: list[Reading | Event] = list(entries)
    for index, entry in enumerate(every):
        local = zone.date(entry.at)
        if local != on:
            raise Refused(f"{place}[{index}].at", p.OtherDate(local, on))
        if before is not None and entry.at < before:
            raise Refused(f"{place}[{index}].at", p.Plain.ENTRIES_OUT_OF_ORDER)
        before = entry.at
