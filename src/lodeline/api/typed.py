"""Day facts and entries as people give them, in their own units, and as the file has them."""

from datetime import datetime
from typing import Annotated, Any, TypeVar

from pydantic import Field

from lodeline.core import problems as p
from lodeline.core.catalogue import EVENT_TYPES, SOURCE_KINDS, Effect, EventField
from lodeline.core.errors import Refused
from lodeline.core.log import OUTSIDE, RESERVE, Event, Reading
from lodeline.core.reading import understand
from lodeline.core.rig import Rig, Store
from lodeline.formats import document as d
from lodeline.formats import words as w
from lodeline.formats.convert import event_to_core
from lodeline.formats.refusals import validated
from lodeline.logbook.services.entries import Becomes, NewEntry, moment
from lodeline.text.display import Display

TypedTemp = Annotated[float, Field(ge=-130, le=150)]
Facts = TypeVar("Facts", bound=d.Part)
# Facts that are given in the user's own units: the base unit, and what the file calls them.
_TYPED = {"temp_min": ("degC", "temp_min_c"), "temp_max": ("degC", "temp_max_c"), "water": ("L", "water_l")}
_MOST_TEXT = 80


def share_of(per_cent: float) -> float:
    """What people give in per cent, as a share."""
    return per_cent / 100  # of a hundred


class FactsIn(d.Part):
    """What is known or expected of a date, in the user's own units; only what is given is changed."""

    sky: w.SkyWordText | None = None
    temp_min: TypedTemp | None = None
    temp_max: TypedTemp | None = None
    status: w.StatusWord | None = None
    crew_aboard: d.People | None = None
    panels_covered: bool | None = None
    place: d.PlaceDoc | None = None


class DayIn(FactsIn):
    """A day's facts."""

    note: Annotated[str, Field(max_length=4000)] | None = None
    solar_wh: d.AtLeastZero | None = None
    load_wh: d.AtLeastZero | None = None
    water: d.AtLeastZero | None = None
    visit: d.VisitDoc | None = None


class OutlookIn(FactsIn):
    """What a coming day brings. ``hours`` of each way to charge, by its id; null takes one out."""

    hours: dict[w.SourceKindWord, d.DayHours | None] | None = None


def in_base_units(facts: FactsIn, display: Display) -> dict[str, Any]:
    """What was given of a day's facts, in base units and under the file's names."""
    given: dict[str, Any] = {}
    for name in facts.model_fields_set:
        value = getattr(facts, name)
        unit, base = _TYPED.get(name, ("", name))
        given[base] = display.unit(unit).to_base(value) if unit and value is not None else value
    hours = given.pop("hours", None) or {}
    return given | {SOURCE_KINDS[id].outlook_key: value for id, value in hours.items()}


def facts_of(kind: type[Facts], given: FactsIn, display: Display) -> Facts:
    """What was given of a date, as the file has it."""
    return validated(kind, in_base_units(given, display))


class ReadingIn(d.Part):
    """Text as typed for a store."""

    store: d.Slug
    text: Annotated[str, Field(max_length=_MOST_TEXT)]


class EventIn(d.Part):
    """Something that was done, amounts in the user's own units."""

    type: Annotated[str, Field(max_length=40)]
    store: d.Slug | None = None
    full: bool = False
    amount: d.Positive | None = None
    left: d.Share | None = None
    source: d.Slug | None = None
    target: d.Slug | None = None
    hours: d.SpellHours | None = None
    distance: d.AtLeastZero | None = None
    count: d.Count | None = None


class EntryIn(d.Part):
    """A reading or an event, and when it was made.

    ``on`` and ``time``: the local date and time where the rig is; without them, when the write was made. ``confirmed``:
    of a reading that was doubted, that it is right.
    """

    reading: ReadingIn | None = None
    event: EventIn | None = None
    on: d.Date | None = None
    time: d.ClockTime | None = None
    confirmed: bool | None = None


def store_of(rig: Rig, store_id: str, place: str = "store") -> Store:
    """The store of an id.

    Raises
    ------
    Refused
        There is none.
    """
    store = rig.store(store_id)
    if store is None:
        raise Refused(place, p.NoStore(store_id, tuple(each.id for each in rig.stores)))
    return store


def entry_of(rig: Rig, given: EntryIn, display: Display, otherwise: datetime) -> NewEntry:
    """A given entry in the core's terms. ``otherwise``: when it was made if that was not given."""
    if (given.reading is None) == (given.event is None):
        raise Refused("entry", p.Plain.IS_MISSING)
    at = moment(rig.zone, given.on, given.time, otherwise)
    entry, text = _entry(rig, given, display, at)
    return NewEntry(entry, text)


def becomes(rig: Rig, given: EntryIn, display: Display, at: datetime) -> Becomes:
    """What an entry becomes. With neither reading nor event, its time alone is moved, or a reading is confirmed."""
    is_new = given.reading is not None or given.event is not None
    new = entry_of(rig, given, display, at) if is_new else None
    return Becomes(new, given.on, given.time, given.confirmed)


def _entry(rig: Rig, given: EntryIn, display: Display, at: datetime) -> tuple[Reading | Event, str]:
    if given.reading is not None:
        store = store_of(rig, given.reading.store)
        return understand(store, given.reading.text, display.system).at(at, store.id), given.reading.text
    assert given.event is not None
    return _event(rig, given.event, display, at), ""


class _Holder(d.Part):
    event: d.EventDoc


def _event(rig: Rig, given: EventIn, display: Display, at: datetime) -> Event:
    """An event in base units, checked by its type's own model."""
    row = EVENT_TYPES.get(given.type)
    if row is None:
        raise Refused("type", p.NotAnEvent(given.type, tuple(EVENT_TYPES)))
    values: dict[EventField, Any] = {name: getattr(given, name.value, None) for name in EventField}
    if row.effect is Effect.MOVE:
        values[EventField.SOURCE] = given.source or RESERVE
        values[EventField.TARGET] = given.target or given.store
        if {given.source, given.target} != {OUTSIDE, RESERVE}:
            values[EventField.STORE] = None
    ends = (*_ends(values), given.store)
    measured = next((store for id in ends if (store := rig.vessel(id))), None)
    if given.amount is not None and measured is not None:
        values[EventField.AMOUNT] = display.unit(measured.unit).to_base(given.amount)
    if given.amount is not None and row.effect is Effect.COUNT:
        values[EventField.AMOUNT] = display.unit("L").to_base(given.amount)
    if given.distance is not None:
        values[EventField.KM] = display.unit("km").to_base(given.distance)
    full = row.effect is Effect.FILL and (given.full or given.amount is None)
    values[EventField.TO_FULL] = "full" if full else None
    if row.effect is Effect.COUNT and given.count is None:
        values[EventField.COUNT] = 1
    fields = {name.value: values[name] for name in row.fields if values[name] is not None}
    return event_to_core(validated(_Holder, {"event": {"at": at, "type": row.id, **fields}}).event)


def _ends(values: dict[EventField, Any]) -> tuple[Any, ...]:
    return values[EventField.STORE], values[EventField.SOURCE], values[EventField.TARGET]


class EventUnits(d.Part):
    """The units in which an event's numbers are shown."""

    amount: str
    distance: str


def _unit_of(rig: Rig, event: Event) -> str | None:
    """The base unit of an event's amount, None where it has none."""
    measured = next((store for id in (event.store, event.source, event.target) if (store := rig.vessel(id))), None)
    if measured is not None:
        return measured.unit
    return "L" if event.row.effect is Effect.COUNT else None


def units_of(rig: Rig, event: Event, display: Display) -> EventUnits:
    """The units of an event's numbers as people see them."""
    return EventUnits(amount=display.unit(_unit_of(rig, event) or "").unit, distance=display.unit("km").unit)


def as_given(rig: Rig, event: Event, display: Display) -> EventIn:
    """An event as the screen would send it, in the user's own units, so that it can be corrected."""
    unit = _unit_of(rig, event)
    amount = display.value(event.amount, unit) if event.amount is not None and unit is not None else None
    return EventIn(
        type=event.type,
        store=event.store,
        full=event.to_full,
        amount=amount,
        left=event.left or None,
        source=event.source,
        target=event.target,
        hours=event.hours,
        count=event.count,
        distance=display.value(event.km, "km", 2) if event.km is not None else None,
    )
