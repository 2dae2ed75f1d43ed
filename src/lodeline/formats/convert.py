"""Between the document's models and the core's types."""

from typing import Any

from lodeline.core import log as c
from lodeline.core.rig import (
    Chemistry,
    Crew,
    Gauge,
    Inverter,
    Kind,
    Layout,
    Load,
    Rig,
    Sense,
    SolarArray,
    Source,
    Store,
)  # fmt: skip
from lodeline.core.units import System
from lodeline.formats import document as d
from lodeline.formats.checks import capacity_of


def rig_to_core(doc: d.RigDoc) -> Rig:
    """A checked rig document as a core rig."""
    return Rig(
        doc.name, doc.timezone, System(doc.units), Crew(**doc.crew.model_dump()),
        tuple(_store_to_core(store) for store in doc.stores),
        tuple(SolarArray(**_given(array)) for array in doc.solar),
        tuple(Source(**source.model_dump()) for source in doc.sources),
        Inverter(**_given(doc.inverter)) if doc.inverter else None,
        tuple(Load(**load.model_dump()) for load in doc.loads),
    )  # fmt: skip


def _given(doc: d.Part) -> dict[str, Any]:
    """What a part says; the core has its own defaults for the rest."""
    return doc.model_dump(exclude_none=True)


def _store_to_core(doc: d.StoreDoc) -> Store:
    gauge = Gauge()
    if isinstance(doc.gauge, d.StepsGauge):
        gauge = Gauge("steps", tuple(doc.gauge.marks))
    elif isinstance(doc.gauge, d.SensorGauge):
        gauge = Gauge("sensor", (), doc.gauge.resolution)
    elif doc.gauge is not None:
        gauge = Gauge(doc.gauge.kind)
    return Store(
        doc.id, Kind(doc.kind), doc.name, capacity_of(doc), doc.limit, gauge, doc.reserve,
        Chemistry(doc.chemistry) if doc.chemistry else None, doc.nominal_v,
        Layout(**doc.layout.model_dump()) if doc.layout else None, doc.fuel, doc.tare_kg,
        bool(doc.kept_warm), doc.unit, Sense(doc.sense) if doc.sense else None,
    )  # fmt: skip


def place_to_core(doc: d.PlaceDoc | None) -> c.Place | None:
    """A place document as a core place."""
    return c.Place(doc.name, doc.lat, doc.lon) if doc else None


def reading_to_core(doc: d.ReadingDoc, key: int | None = None) -> c.Reading:
    """A reading document as a core reading."""
    return c.Reading(doc.at, doc.store, doc.method, doc.value, doc.state, key)


def event_to_core(doc: d.EventDoc, key: int | None = None) -> c.Event:
    """An event document as a core event."""
    fields = dict(doc)
    if fields.pop("to", None) == "full":
        fields["to_full"] = True
    if fields.get("left", 0.0) is None:
        del fields["left"]
    return c.Event(**fields, key=key)


def day_to_core(doc: d.DayDoc) -> c.Day:
    """A day document as a core day."""
    return c.Day(
        doc.date, place_to_core(doc.place), doc.sky, doc.temp_min_c, doc.temp_max_c, doc.status, doc.crew_aboard,
        doc.note or "", doc.solar_wh, doc.load_wh, doc.water_l,
        tuple(reading_to_core(each) for each in doc.readings), tuple(event_to_core(each) for each in doc.events),
    )  # fmt: skip


def outlook_to_core(doc: d.OutlookDoc) -> c.OutlookDay:
    """An outlook document as a core outlook day."""
    fields = {name: getattr(doc, name) for name in d.OutlookDoc.model_fields if name != "place"}
    return c.OutlookDay(**fields, place=place_to_core(doc.place))


def to_core(doc: d.LogbookDoc) -> tuple[Rig, c.Log, tuple[c.OutlookDay, ...]]:
    """A checked document as rig, log and outlook."""
    return (
        rig_to_core(doc.rig),
        c.Log(tuple(day_to_core(day) for day in doc.days)),
        tuple(outlook_to_core(day) for day in doc.outlook or []),
    )
