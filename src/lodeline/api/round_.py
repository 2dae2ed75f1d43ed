"""The Round: what to read tonight, what was understood, what was done."""

from datetime import datetime
from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from lodeline.accounts.access import number
from lodeline.api.present import Eyes, TypedTemp, in_base_units
from lodeline.api.who import rig_of, user_of
from lodeline.core.errors import Refused
from lodeline.core.forecast.forecast import level_range
from lodeline.core.log import Day, Event, Reading
from lodeline.core.reading import Understood, describe, examples, understand
from lodeline.core.rig import FILLABLE, Kind, Rig, Sense, Store
from lodeline.core.tracking.evidence import evidence
from lodeline.core.tracking.gauges import worth_tonight
from lodeline.core.tracking.track import Tracked
from lodeline.core.units import System, shown
from lodeline.formats import document as d
from lodeline.formats.logbook import validated
from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services import record, rows
from lodeline.logbook.services.derived import Derived, derived

router = Router(tags=["round"])


class Mark(Schema):
    label: str
    text: str


class RoundStore(Schema):
    id: str
    name: str
    kind: str
    hint: str
    marks: list[Mark]
    last: str | None
    last_at: str | None
    expected: str | None
    worth: str | None


class Act(Schema):
    """A one-touch mark. ``needs``: what its optional amount is, or null; ``body`` is sent with it."""

    label: str
    type: str
    store: str | None
    needs: str | None
    unit: str | None


class EventIn(d.Part):
    """An event as the Round sends it, amounts in the user's own units."""

    type: str
    store: d.Slug | None = None
    at: d.Time | None = None
    full: bool = False
    amount: d.Positive | None = None
    left: d.Share | None = None
    source: d.Slug | None = None
    target: d.Slug | None = None
    hours: d.SpellHours | None = None
    distance: d.AtLeastZero | None = None
    count: d.Count | None = None


class Entry(Schema):
    id: int
    at: str
    kind: str
    store: str | None
    words: str
    event: EventIn | None = None


class RoundOut(Schema):
    rig: str
    now: str
    date: str
    temp_unit: str
    crew: int
    stores: list[RoundStore]
    acts: list[Act]
    entries: list[Entry]
    sky: str | None
    temp_min: float | None
    temp_max: float | None
    status: str | None
    crew_aboard: int | None
    solar_wh: float | None
    water: float | None
    water_unit: str
    has_meter: bool
    note: str | None


class Typed(d.Part):
    """Text as typed for a store; ``at`` defaults to now."""

    store: d.Slug
    text: Annotated[str, Field(max_length=80)]
    at: d.Time | None = None


class Heard(Schema):
    """What was understood, and whether it fits. ``fits`` is null where nothing is known to fit it to."""

    words: str
    fits: bool | None
    fit_words: str
    id: int | None = None


class DayIn(d.Part):
    """A day's facts in the user's own units; only what is given is changed."""

    sky: d.SkyWord | None = None
    temp_min: TypedTemp | None = None
    temp_max: TypedTemp | None = None
    status: d.Status | None = None
    crew_aboard: d.People | None = None
    note: Annotated[str, Field(max_length=4000)] | None = None
    solar_wh: d.AtLeastZero | None = None
    load_wh: d.AtLeastZero | None = None
    water: d.AtLeastZero | None = None
    place: d.PlaceDoc | None = None


@router.get("/{rig_id}/round", response=RoundOut, operation_id="round")
def round_(request: HttpRequest, rig_id: str) -> RoundOut:
    """Tonight's round: every store with its last and expected value, and the day as logged so far."""
    rig = rig_of(request, rig_id)
    found = derived(rig)
    eyes = Eyes(found.rig)
    today = found.now.astimezone(eyes.zone).date()
    day = next((each for each in found.log.days if each.date == today), None)
    temp, litre = shown("degC", eyes.system), shown("L", eyes.system)

    def warm(value: float | None) -> float | None:
        return None if value is None else round(temp.to_shown(value), 1)

    return RoundOut(
        rig=found.rig.name, now=eyes.local(found.now), date=today.isoformat(), temp_unit=temp.unit,
        crew=found.rig.crew.people, stores=_stores(found, eyes),
        acts=_acts(found.rig, eyes), entries=_entries(found.rig, day, eyes) if day else [],
        sky=day.sky if day else None, temp_min=warm(day.temp_min_c) if day else None,
        temp_max=warm(day.temp_max_c) if day else None, status=day.status if day else None,
        crew_aboard=day.crew_aboard if day else None, solar_wh=day.solar_wh if day else None,
        water=round(litre.to_shown(day.water_l), 1) if day and day.water_l is not None else None,
        water_unit=litre.unit, has_meter=any(each.water_l is not None for each in found.log.days[-60:]),
        note=day.note if day else None,
    )  # fmt: skip


def _stores(found: Derived, eyes: Eyes) -> list[RoundStore]:
    """Every store; the reading that would narrow the days left most is named, weighed by who may bind."""
    gains = {
        each.store.id: worth_tonight(found.tracked[each.store.id], each.rate_per_day) * (0.2 + each.p_first)
        for each in found.forecast.stores
    }
    most = max(gains.values(), default=0.0)
    return [
        _store(found.tracked[s.id], eyes, gains[s.id] >= 0.6 * most and gains[s.id] > 0.05) for s in found.rig.stores
    ]


def _store(tracked: Tracked, eyes: Eyes, is_worth: bool) -> RoundStore:
    store, last = tracked.store, tracked.last_reading
    low, high = level_range(tracked)
    unit = eyes.unit(store)
    expected = None
    worth = None
    if is_worth:
        worth = (
            "Weigh the bottle tonight: it narrows the days most."
            if store.tare_kg
            else "Worth reading tonight: it narrows the days most."
        )
    if tracked.known_since is not None:
        share = f" ({low / store.capacity * 100:.0f} to {high / store.capacity * 100:.0f} %)"
        expected = f"{unit.text(low)} to {unit.text(high)}" + (share if store.kind is not Kind.SOLIDS else "")
    return RoundStore(
        id=store.id, name=store.name, kind=store.kind, hint=examples(store), marks=_marks(store),
        expected=expected, worth=worth,
        last=describe(store, last, eyes.system) if last else None, last_at=eyes.local(last.at) if last else None,
    )  # fmt: skip


def _marks(store: Store) -> list[Mark]:
    if store.gauge.kind != "steps":
        return []
    shown_as = {0.0: "0", 1.0: "1", 0.25: "1/4", 0.5: "1/2", 0.75: "3/4", 0.33: "1/3", 0.67: "2/3", 0.66: "2/3"}
    return [
        Mark(label=shown_as.get(round(mark, 2), f"{mark * 100:.0f} %"), text=f"{mark * 100:g}%")
        for mark in store.gauge.marks
    ]


def _acts(rig: Rig, eyes: Eyes) -> list[Act]:
    acts = []
    for store in rig.stores:
        unit = eyes.unit(store).unit
        if store.kind in FILLABLE or (store.kind is Kind.SUPPLY and store.sense is Sense.DRAINS):
            acts.append(Act(label=f"Filled {store.name}", type="fill", store=store.id, needs="amount", unit=unit))
        if store.kind is Kind.GAS:
            acts.append(Act(label=f"Swapped {store.name}", type="swap", store=store.id, needs=None, unit=None))
        if store.sense is Sense.FILLS:
            acts.append(Act(label=f"Emptied {store.name}", type="dump", store=store.id, needs=None, unit=None))
        if store.reserve and store.kind in FILLABLE:
            label = f"Reserve into {store.name}"
            acts.append(Act(label=label, type="move", store=store.id, needs="amount", unit=unit))
    kinds = {source.kind for source in rig.sources}
    acts.append(Act(label="Drove", type="drive", store=None, needs="hours", unit="h"))
    if "shore" in kinds:
        acts.append(Act(label="On the post", type="shore", store=None, needs="hours", unit="h"))
    if "generator" in kinds:
        acts.append(Act(label="Ran the generator", type="generator", store=None, needs="hours", unit="h"))
    if rig.first(Kind.FRESH):
        acts.append(Act(label="Showered", type="shower", store=None, needs="count", unit="times"))
        acts.append(Act(label="Did laundry", type="laundry", store=None, needs="count", unit="loads"))
    return acts


def _entries(rig: Rig, day: Day, eyes: Eyes) -> list[Entry]:
    return [entry_of(rig, item, eyes) for item in day.entries()]


def entry_of(rig: Rig, item: Reading | Event, eyes: Eyes) -> Entry:
    """A reading or event as a line of the log."""
    if isinstance(item, Event):
        return Entry(
            id=item.key or 0, at=eyes.local(item.at), kind="event", store=item.store, words=eyes.event_words(item),
            event=_as_sent(rig, item, eyes),
        )  # fmt: skip
    store = rig.store(item.store)
    assert store is not None
    said = f"{store.name}: {describe(store, item, eyes.system)}"
    return Entry(id=item.key or 0, at=eyes.local(item.at), kind="reading", store=store.id, words=said)


def _as_sent(rig: Rig, event: Event, eyes: Eyes) -> EventIn:
    """An event as the screen would send it, in the user's own units, so that it can be corrected."""
    ends = (event.store, event.source, event.target)
    store = next((found for end in ends if end and (found := rig.store(end))), None)
    amount = eyes.level(store, event.amount) if store and event.amount is not None else None
    km = shown("km", eyes.system)
    return EventIn(
        type=event.type, store=event.store, full=event.to_full, amount=amount, left=event.left or None,
        source=event.source, target=event.target, hours=event.hours, count=event.count,
        distance=round(km.to_shown(event.km), 2) if event.km is not None else None,
    )  # fmt: skip


def _heard(tracked: Tracked, said: Understood, at: datetime, eyes: Eyes) -> Heard:
    store = tracked.store
    about = evidence(store, said.at(at, store.id))
    if about.silent:
        return Heard(words=said.words, fits=None, fit_words="It is kept, but not used as a level.")
    if tracked.known_since is None:
        return Heard(words=said.words, fits=None, fit_words="The first reading: the level is known from now on.")
    low, high = level_range(tracked)
    unit = eyes.unit(store)
    expected = f"{unit.text(low)} to {unit.text(high)} expected"
    if _fits(tracked, about.value, about.sd, about.bands):
        return Heard(words=said.words, fits=True, fit_words=f"Fits: {expected}.")
    return Heard(
        words=said.words, fits=False,
        fit_words=f"Hardly fits: {expected}. If it is right, was something filled, emptied or charged and not logged?",
    )  # fmt: skip


def _fits(tracked: Tracked, value: float | None, sd: float, bands: tuple[tuple[float, float, float], ...]) -> bool:
    reach = 2.5 * float((tracked.belief.sd**2 + sd**2 + float(tracked.belief.cov[-1, -1])) ** 0.5)
    if value is not None:
        return abs(value - tracked.belief.level) <= reach
    low, high, _ = max(bands, key=lambda band: band[2])
    return low - reach <= tracked.belief.level <= high + reach


def _understood(rig: m.Rig, typed: Typed) -> tuple[Rig, Store, Understood]:
    core = rows.core_rig(rig)
    store = core.store(typed.store)
    if store is None:
        raise Refused("store", f'no store "{typed.store}"')
    return core, store, understand(store, typed.text, core.units)


@router.post("/{rig_id}/understand", response=Heard, operation_id="understand")
def understand_text(request: HttpRequest, rig_id: str, payload: Typed) -> Heard:
    """Say back what a text means for a store, without keeping it."""
    rig = rig_of(request, rig_id)
    core, store, said = _understood(rig, payload)
    return _heard(derived(rig).tracked[store.id], said, payload.at or clock.now(), Eyes(core))


@router.post("/{rig_id}/readings", response=Heard, operation_id="add_reading")
def add_reading(request: HttpRequest, rig_id: str, payload: Typed) -> Heard:
    """Log a reading as typed; answers with what was understood and whether it fits."""
    rig = rig_of(request, rig_id)
    core, store, said = _understood(rig, payload)
    at = payload.at or clock.now()
    heard = _heard(derived(rig).tracked[store.id], said, at, Eyes(core))
    row = record.add_reading(rig, _reading_doc(payload.store, said, at), by=user_of(request), text=payload.text)
    return heard.model_copy(update={"id": row.pk})


@router.put("/{rig_id}/readings/{reading_id}", response=Heard, operation_id="correct_reading")
def correct_reading(request: HttpRequest, rig_id: str, reading_id: str, payload: Typed) -> Heard:
    """Correct a reading; what stood before is kept."""
    rig = rig_of(request, rig_id)
    row = record.reading_row(rig, number(reading_id))
    core, store, said = _understood(rig, payload)
    at = payload.at or row.at
    record.correct_reading(rig, row.pk, _reading_doc(payload.store, said, at), by=user_of(request), text=payload.text)
    rig.refresh_from_db()
    return _heard(derived(rig).tracked[store.id], said, at, Eyes(core)).model_copy(update={"id": row.pk})


@router.delete("/{rig_id}/readings/{reading_id}", response={204: None}, operation_id="remove_reading")
def remove_reading(request: HttpRequest, rig_id: str, reading_id: str) -> tuple[int, None]:
    record.remove_reading(rig_of(request, rig_id), number(reading_id), by=user_of(request))
    return 204, None


def _reading_doc(store: str, said: Understood, at: datetime) -> d.ReadingDoc:
    return d.ReadingDoc.model_validate(
        {"at": at, "store": store, "method": said.method, "value": said.value, "state": said.state}
    )


def event_doc(rig: Rig, payload: EventIn, at: datetime) -> d.EventDoc:
    """An event of the Round as the file has it, in base units."""
    store = rig.store(payload.store) if payload.store else None
    amount = payload.amount
    if amount is not None and store is not None:
        amount = shown(store.unit, rig.units).to_base(amount)
    fields: dict[str, object] = {"at": at, "type": payload.type}
    match payload.type:
        case "fill":
            fields |= {"store": payload.store}
            fields |= {"amount": amount} if amount is not None and not payload.full else {"to": "full"}
        case "dump":
            fields |= {"store": payload.store, "left": payload.left}
        case "swap":
            fields |= {"store": payload.store}
        case "move":
            fields |= {"from": payload.source or "reserve", "to": payload.target or payload.store, "amount": amount}
        case "drive":
            km = shown("km", rig.units).to_base(payload.distance) if payload.distance is not None else None
            fields |= {"hours": payload.hours, "km": km, "store": payload.store}
        case "shore" | "generator":
            fields |= {"hours": payload.hours}
        case "shower" | "laundry":
            fields |= {"count": payload.count or 1}
        case _:
            raise Refused("type", f'"{payload.type[:40]}" is not something that is done; use fill, dump, swap or drive')

    class Holder(d.Part):
        event: d.EventDoc

    doc: d.EventDoc = validated(Holder, {"event": {k: v for k, v in fields.items() if v is not None}}).event
    return doc


@router.post("/{rig_id}/events", response=Entry, operation_id="add_event")
def add_event(request: HttpRequest, rig_id: str, payload: EventIn) -> Entry:
    """Log something that was done."""
    rig = rig_of(request, rig_id)
    core = rows.core_rig(rig)
    row = record.add_event(rig, event_doc(core, payload, payload.at or clock.now()), by=user_of(request))
    return entry_of(core, rows.core_event(row), Eyes(core))


@router.put("/{rig_id}/events/{event_id}", response=Entry, operation_id="correct_event")
def correct_event(request: HttpRequest, rig_id: str, event_id: str, payload: EventIn) -> Entry:
    """Correct an event; what stood before is kept."""
    rig = rig_of(request, rig_id)
    core = rows.core_rig(rig)
    before = record.event_row(rig, number(event_id))
    row = record.correct_event(rig, before.pk, event_doc(core, payload, payload.at or before.at), by=user_of(request))
    return entry_of(core, rows.core_event(row), Eyes(core))


@router.delete("/{rig_id}/events/{event_id}", response={204: None}, operation_id="remove_event")
def remove_event(request: HttpRequest, rig_id: str, event_id: str) -> tuple[int, None]:
    record.remove_event(rig_of(request, rig_id), number(event_id), by=user_of(request))
    return 204, None


@router.put("/{rig_id}/days/{on}", response={204: None}, operation_id="set_day")
def set_day(request: HttpRequest, rig_id: str, on: d.Date, payload: DayIn) -> tuple[int, None]:
    """Change a day's own facts: only what is given."""
    rig = rig_of(request, rig_id)
    facts = validated(d.DayFacts, in_base_units(payload, System(rig.units)))
    record.set_day(rig, on, facts, by=user_of(request))
    return 204, None
