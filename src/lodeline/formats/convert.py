"""Between the document's models and the core's types."""

from collections.abc import Mapping
from dataclasses import asdict, replace
from datetime import datetime
from typing import Any
from uuid import UUID

from lodeline.core import log as c
from lodeline.core.book import Service, Spot, VisitNote
from lodeline.core.catalogue import (
    ACTIVITIES,
    APPLIANCE_KINDS,
    LOAD_KINDS,
    SERVICES,
    SOURCE_KINDS,
    STORE_KINDS,
    EventField,
    GaugeKind,
    Role,
    Served,
)
from lodeline.core.rig import (
    Appliance,
    Crew,
    Gauge,
    Habit,
    Inverter,
    Jug,
    Layout,
    Load,
    Rig,
    SolarArray,
    Source,
    Spare,
    Store,
    WaterGear,
)
from lodeline.core.warmth import HeatGear, Quiet
from lodeline.core.wishes import Agreed, FixedStop
from lodeline.formats import document as d


def capacity_of(doc: d.StoreDoc) -> float:
    """Capacity as given, or from the layout."""
    if doc.capacity is not None or doc.layout is None:
        return doc.capacity or 0.0
    return Layout(**doc.layout.model_dump()).bank_ah


def rig_to_core(doc: d.RigDoc) -> Rig:
    """A checked rig document as a core rig."""
    return Rig(
        name=doc.name,
        timezone=doc.timezone,
        units=doc.units,
        crew=Crew(**doc.crew.model_dump()),
        stores=_stores_to_core(doc),
        solar=tuple(SolarArray(**_given(array)) for array in doc.solar),
        sources=tuple(Source(**_given(source) | {"kind": SOURCE_KINDS[source.kind]}) for source in doc.sources),
        inverter=Inverter(**_given(doc.inverter)) if doc.inverter else None,
        loads=tuple(_load_to_core(load) for load in doc.loads),
        appliances=tuple(Appliance(**_given(each) | {"kind": APPLIANCE_KINDS[each.kind]}) for each in doc.appliances),
        habits=tuple(_habit_to_core(each) for each in doc.habits or ()),
        jugs=tuple(Jug(**_given(each)) for each in doc.jugs or ()),
        water=WaterGear(**_given(doc.water)) if doc.water else WaterGear(),
        spares=tuple(Spare(**_given(each)) for each in doc.spares or ()),
        heat=_heat_to_core(doc.heat) if doc.heat else None,
        quiet=Quiet(**_given(doc.quiet)) if doc.quiet else None,
        **{name: value for name in _OF_ROADS if (value := getattr(doc, name)) is not None},
    )


def _stores_to_core(doc: d.RigDoc) -> tuple[Store, ...]:
    """The stores; where jugs, bottles or cans are told one by one, they are what is in reserve."""
    stores = [_store_to_core(store) for store in doc.stores]
    for i, store in enumerate(stores):
        mine = [each for each in (Spare(**_given(spare)) for spare in doc.spares or ()) if each.store == store.id]
        if mine:
            held = sum(each.holds for each in mine if each.fits(store))
            tares = tuple(each.tare_kg for each in mine if each.tare_kg is not None)
            stores[i] = replace(
                store, other_tares_kg=tares, reserve=held, reserve_counts=store.reserve_counts or store.changes_itself
            )
    fresh = next((i for i, store in enumerate(stores) if store.kind.role is Role.WATER), None)
    apart = [jug.litres for jug in (Jug(**_given(each)) for each in doc.jugs or ()) if jug.is_reserve]
    if doc.jugs and fresh is not None:
        stores[fresh] = replace(stores[fresh], reserve=sum(apart))
    return tuple(stores)


def _heat_to_core(doc: d.HeatDoc) -> HeatGear:
    fields = _given(doc)
    if fields.pop("night_off", False):
        fields["night_c"] = None
    return HeatGear(**fields)


def heat_to_document(heat: HeatGear) -> d.HeatDoc:
    """How a rig is kept warm as a document."""
    return d.HeatDoc(**asdict(heat), night_off=True if heat.night_c is None else None)


def habit_to_document(habit: Habit) -> d.HabitDoc:
    """A habit as a document."""
    return d.HabitDoc(
        activity=habit.activity.id, per_day=habit.per_day, each_l=habit.each_l, not_on=sorted(habit.not_on) or None
    )


def _habit_to_core(doc: d.HabitDoc) -> Habit:
    return Habit(
        activity=ACTIVITIES[doc.activity], per_day=doc.per_day, each_l=doc.each_l, not_on=frozenset(doc.not_on or ())
    )


# What a rig says of itself beside its lists, by the same names here and there.
_OF_ROADS = (
    "road_factor",
    "road_km_per_h",
    "after_stop",
    "length_m",
    "height_m",
    "payload_kg",
    "currency",
    "hardship",
    "risk",
)


def _given(doc: d.Part) -> dict[str, Any]:
    """What a part says; the core has its own defaults for the rest."""
    return {name: value for name in type(doc).model_fields if (value := getattr(doc, name)) is not None}


def _load_to_core(doc: d.LoadDoc) -> Load:
    fields = _given(doc)
    name = doc.name.lower()
    told = next((kind for kind in LOAD_KINDS.values() if any(word in name for word in kind.words)), None)
    kind = LOAD_KINDS[doc.kind] if doc.kind else told
    return Load(**fields | ({"kind": kind} if kind else {}))


def load_to_document(load: Load) -> d.LoadDoc:
    """A core load as a document."""
    fields = asdict(load) | {"kind": load.kind.id}
    return d.LoadDoc.model_validate(fields)


def _store_to_core(doc: d.StoreDoc) -> Store:
    gauge = Gauge()
    if isinstance(doc.gauge, d.StepsGauge):
        gauge = Gauge(GaugeKind.STEPS, tuple(doc.gauge.marks))
    elif isinstance(doc.gauge, d.SensorGauge):
        gauge = Gauge(GaugeKind.SENSOR, (), doc.gauge.resolution)
    elif doc.gauge is not None:
        gauge = Gauge(GaugeKind(doc.gauge.kind))
    return Store(
        id=doc.id,
        kind=STORE_KINDS[doc.kind],
        name=doc.name,
        capacity=capacity_of(doc),
        limit=doc.limit,
        gauge=gauge,
        reserve=doc.reserve,
        chemistry=doc.chemistry,
        nominal_v=doc.nominal_v,
        layout=Layout(**doc.layout.model_dump()) if doc.layout else None,
        fuel=doc.fuel,
        tare_kg=doc.tare_kg,
        kept_warm=doc.kept_warm,
        starter=bool(doc.starter),
        served=doc.served or Served.STOP,
        reserve_counts=bool(doc.reserve_counts),
        heats=doc.heats,
        drives=doc.drives,
        generates=doc.generates,
        own_unit=doc.unit,
        own_sense=doc.sense,
        served_by=doc.served_by,
        takes=frozenset(doc.takes or ()),
        reads_from=doc.reads_from or 0.0,
        outside=doc.outside,
        propane_share=doc.propane_share,
        changes_itself=bool(doc.changes_itself),
        tank_l=doc.tank_l,
        pick_up=doc.pick_up,
        by_pump=bool(doc.by_pump),
        buffer_days=doc.buffer_days or 0.0,
        own_kwh=doc.kwh_per_unit,
    )


def place_to_core(doc: d.PlaceDoc | None) -> c.Place | None:
    """A place document as a core place."""
    return c.Place(doc.name, doc.lat, doc.lon, elevation_m=doc.elevation_m) if doc else None


def visit_to_core(doc: d.VisitDoc | None) -> c.Visit | None:
    """A visit document as a core visit."""
    return c.Visit(doc.place, doc.arrived, doc.left) if doc else None


# How the file spells what a service's row calls otherwise.
_PRICES = {"price_per_kg": "price_per_unit", "price_per_l": "price_per_unit"}


def spot_to_core(doc: d.SpotDoc) -> Spot:
    """A place of the book as a core one."""
    services = {
        id: Service(kind=kind, **_service_fields(each))
        for id, kind in SERVICES.items()
        if (each := getattr(doc.services, id)) is not None
    }
    return Spot(
        id=doc.id,
        name=doc.name,
        lat=doc.lat,
        lon=doc.lon,
        services=services,
        opening_hours=doc.opening_hours,
        fee=doc.fee,
        note=doc.note or "",
        max_nights=doc.max_nights,
        max_height_m=doc.max_height_m,
        max_length_m=doc.max_length_m,
        closed_months=frozenset(doc.closed_months or ()),
        known_on=doc.known_on,
        notes=tuple(VisitNote(on=each.on, text=each.text) for each in doc.notes or ()),
    )


def _service_fields(doc: d.Part) -> dict[str, Any]:
    fields = {_PRICES.get(name, name): value for name, value in _given(doc).items()}
    return fields | ({"fuels": tuple(fields["fuels"])} if "fuels" in fields else {})


def agreed_to_core(doc: d.AgreedDoc) -> Agreed:
    """An agreement as a core one."""
    return Agreed(lever=doc.lever, since=doc.since, until=doc.until)


def planned_to_core(doc: d.PlannedStopDoc) -> FixedStop:
    """A stop planned by hand as a core one."""
    return FixedStop(spot=doc.place, arrive=doc.arrive, plug=bool(doc.plug))


def reading_to_core(doc: d.ReadingDoc, key: UUID | None = None) -> c.Reading:
    """A reading document as a core reading."""
    return c.Reading(doc.at, doc.store, doc.method, doc.value, doc.state, key, bool(doc.confirmed), doc.within)


def event_to_core(doc: d.EventDoc, key: UUID | None = None) -> c.Event:
    """An event document as a core event."""
    return event_of(doc.at, doc.type, {name: getattr(doc, name.value, None) for name in EventField}, key)


# What the file calls a field of an event where that is another word.
FILE_KEYS = {EventField.SOURCE: "from", EventField.TARGET: "to", EventField.TO_FULL: "to"}
_FULL = "full"


def event_of(at: datetime, type: str, said: Mapping[EventField, Any], key: UUID | None = None) -> c.Event:
    """An event of what it says, as the file and its row have it: a fill is to *full*, what is not said is None."""
    fields = {name.value: value for name, value in said.items() if value is not None}
    if EventField.TO_FULL in fields:
        fields[EventField.TO_FULL] = fields[EventField.TO_FULL] == _FULL
    return c.Event(at, type, **fields, key=key)


def said_of(event: c.Event) -> dict[EventField, Any]:
    """What an event says, as the file and its row have it; only what its type may carry and what is said."""
    said = {name: getattr(event, name.value) for name in event.row.fields}
    if EventField.TO_FULL in said:
        said[EventField.TO_FULL] = _FULL if event.to_full else None
    if not event.left:
        said.pop(EventField.LEFT, None)
    return {name: value for name, value in said.items() if value is not None}


def _facts(doc: d.Facts) -> dict[str, Any]:
    fields = {name: getattr(doc, name) for name in d.Facts.model_fields}
    return fields | {"place": place_to_core(doc.place)}


def day_to_core(doc: d.DayDoc) -> c.Day:
    """A day document as a core day."""
    return c.Day(
        date=doc.date,
        **_facts(doc),
        note=doc.note or "",
        solar_wh=doc.solar_wh,
        load_wh=doc.load_wh,
        water_l=doc.water_l,
        visit=visit_to_core(doc.visit),
        readings=tuple(reading_to_core(each) for each in doc.readings),
        events=tuple(event_to_core(each) for each in doc.events),
    )


def hours_of(doc: d.OutlookFacts) -> dict[str, float]:
    """Hours of each way to charge on a coming day, by the id of its row; what is not given is left out."""
    hours = {row.id: getattr(doc, row.outlook_key, None) for row in SOURCE_KINDS.values()}
    return {id: value for id, value in hours.items() if value is not None}


def outlook_to_core(doc: d.OutlookDoc) -> c.OutlookDay:
    """An outlook document as a core outlook day."""
    return c.OutlookDay(date=doc.date, **_facts(doc), hours=hours_of(doc))


def to_core(doc: d.LogbookDoc) -> tuple[Rig, c.Log, tuple[c.OutlookDay, ...]]:
    """A checked document as rig, log and outlook."""
    return (
        rig_to_core(doc.rig),
        c.Log(tuple(day_to_core(day) for day in doc.days)),
        tuple(outlook_to_core(day) for day in doc.outlook or []),
    )
