"""The Horizon: lanes of all stores over past and coming days, the sentence, the outlook."""

from datetime import date, datetime, timedelta

from django.http import HttpRequest
from ninja import Router, Schema

from lodeline.api.present import Eyes, TypedTemp, event_stores, in_base_units
from lodeline.api.who import rig_of, user_of
from lodeline.core import words
from lodeline.core.energy.solar import local_midnight
from lodeline.core.explain import explain
from lodeline.core.forecast.forecast import StoreForecast, level_range
from lodeline.core.forecast.stop import next_stop
from lodeline.core.log import Reading
from lodeline.core.reading import describe
from lodeline.core.rig import Kind, Sense, Store
from lodeline.core.tracking.evidence import evidence
from lodeline.core.tracking.story import Doubt, smoothed
from lodeline.core.tracking.track import Tracked
from lodeline.core.units import System, shown
from lodeline.formats import document as d
from lodeline.formats.logbook import validated
from lodeline.logbook.services import record
from lodeline.logbook.services.derived import Derived, derived

router = Router(tags=["horizon"])
PAST_DAYS = 7


class PastPoint(Schema):
    at: str
    level: float
    low: float
    high: float


class FanPoint(Schema):
    at: str
    p10: float
    p50: float
    p90: float


class ReadingMark(Schema):
    id: int
    at: str
    low: float
    high: float
    words: str
    doubtful: bool


class EventMark(Schema):
    id: int
    at: str
    type: str
    words: str


class Lane(Schema):
    id: str
    name: str
    kind: str
    sense: str
    unit: str
    decimals: int
    capacity: float
    line: float
    reserve: float | None
    known: bool
    assumed: bool
    level: float | None
    level_low: float | None
    level_high: float | None
    rate_per_day: float | None
    p10_at: str | None
    p50_at: str | None
    p90_at: str | None
    p_within: float | None
    p_first: float
    words: str
    why: list[str]
    past: list[PastPoint]
    readings: list[ReadingMark]
    events: list[EventMark]
    fan: list[FanPoint]


class HorizonDay(Schema):
    date: str
    starts_at: str
    ends_at: str
    coming: bool
    place: str | None
    sky: str | None
    temp_min: float | None
    temp_max: float | None
    status: str | None
    crew_aboard: int | None
    drive_hours: float | None
    shore_hours: float | None
    generator_hours: float | None
    p_stay: float | None


class DoubtOut(Schema):
    store: str
    kind: str
    at: str
    reading: int | None
    words: str
    settle: str | None
    settle_at: str | None


class NeedOut(Schema):
    store: str
    name: str
    act: str
    words: str
    due: bool


class HorizonOut(Schema):
    rig: str
    now: str
    starts_at: str
    ends_at: str
    timezone: str
    temp_unit: str
    headline: str
    detail: str
    binds: str | None
    second: str | None
    mark_low: str | None
    mark: str | None
    mark_high: str | None
    days: list[HorizonDay]
    lanes: list[Lane]
    doubts: list[DoubtOut]
    stop: list[NeedOut]


class OutlookIn(d.Part):
    """What a coming day brings, in the user's own units; only what is given is changed."""

    sky: d.SkyWord | None = None
    temp_min: TypedTemp | None = None
    temp_max: TypedTemp | None = None
    status: d.Status | None = None
    crew_aboard: d.People | None = None
    drive_hours: d.DayHours | None = None
    shore_hours: d.DayHours | None = None
    generator_hours: d.DayHours | None = None


@router.get("/{rig_id}/horizon", response=HorizonOut, operation_id="horizon")
def horizon(request: HttpRequest, rig_id: str) -> HorizonOut:
    """Levels, forecast and outlook of a rig on one strip of days."""
    return build(derived(rig_of(request, rig_id)))


@router.put("/{rig_id}/outlook/{on}", response=HorizonOut, operation_id="set_outlook")
def set_outlook(request: HttpRequest, rig_id: str, on: d.Date, payload: OutlookIn) -> HorizonOut:
    """Change what a coming day is expected to bring; answers with the Horizon as it then is."""
    rig = rig_of(request, rig_id)
    facts = validated(d.OutlookFacts, in_base_units(payload, System(rig.units)))
    record.set_outlook(rig, on, facts, by=user_of(request))
    rig.refresh_from_db()
    return build(derived(rig))


def build(found: Derived) -> HorizonOut:
    """The Horizon of what was derived."""
    eyes = Eyes(found.rig)
    today = found.now.astimezone(eyes.zone).date()
    first = today - timedelta(days=PAST_DAYS)
    starts = local_midnight(first, found.rig.timezone)
    ends = local_midnight(today + timedelta(days=found.forecast.horizon_days), found.rig.timezone)
    said = words.binding_sentence(found.rig, found.forecast, found.forecast.horizon_days)
    auto = found.forecast.autonomy
    return HorizonOut(
        rig=found.rig.name, now=eyes.local(found.now), starts_at=eyes.local(starts), ends_at=eyes.local(ends),
        timezone=found.rig.timezone, temp_unit=shown("degC", eyes.system).unit, headline=said.headline,
        detail=said.detail, binds=auto.store, second=found.forecast.second,
        mark_low=_ahead(eyes, found.now, auto.p10_days), mark=_ahead(eyes, found.now, auto.p50_days),
        mark_high=_ahead(eyes, found.now, auto.p90_days), days=_days(found, eyes, first, today),
        lanes=[_lane(found, eyes, store, starts) for store in found.rig.stores],
        doubts=_doubts(found, eyes, starts), stop=_stop(found, eyes),
    )  # fmt: skip


def _ahead(eyes: Eyes, now: datetime, days: float | None) -> str | None:
    return eyes.local(now + timedelta(days=days)) if days is not None else None


def _days(found: Derived, eyes: Eyes, first: date, today: date) -> list[HorizonDay]:
    logged = {day.date: day for day in found.log.days}
    outlook = {day.date: day for day in found.outlook}
    stay = dict(found.forecast.p_stay)
    temp = shown("degC", eyes.system)
    rows = []
    for index in range((today - first).days + found.forecast.horizon_days):
        on = first + timedelta(days=index)
        past = logged.get(on)
        ahead = outlook.get(on) if on >= today else None
        day = ahead if on > today or past is None else past
        low, high = (day.temp_min_c, day.temp_max_c) if day else (None, None)
        rows.append(
            HorizonDay(
                date=on.isoformat(), starts_at=eyes.local(local_midnight(on, found.rig.timezone)),
                ends_at=eyes.local(local_midnight(on + timedelta(days=1), found.rig.timezone)), coming=on >= today,
                place=day.place.name if day and day.place else None, sky=day.sky if day else None,
                temp_min=round(temp.to_shown(low), 1) if low is not None else None,
                temp_max=round(temp.to_shown(high), 1) if high is not None else None,
                status=day.status if day else None, crew_aboard=day.crew_aboard if day else None,
                drive_hours=ahead.drive_hours if ahead else None, shore_hours=ahead.shore_hours if ahead else None,
                generator_hours=ahead.generator_hours if ahead else None, p_stay=stay.get(on),
            )
        )  # fmt: skip
    return rows


def _lane(found: Derived, eyes: Eyes, store: Store, starts: datetime) -> Lane:
    tracked, ahead = found.tracked[store.id], found.forecast.of(store.id)
    unit = eyes.unit(store)

    def level(base: float) -> float:
        return eyes.level(store, base)

    def maybe(base: float | None) -> float | None:
        return None if base is None else level(base)

    return Lane(
        id=store.id, name=store.name, kind=store.kind, sense=store.sense, unit=unit.unit, decimals=unit.decimals,
        capacity=level(store.capacity), line=level(store.line_level), reserve=maybe(store.reserve), known=ahead.known,
        assumed=ahead.assumed, level=maybe(ahead.level), level_low=maybe(ahead.level_p10),
        level_high=maybe(ahead.level_p90), rate_per_day=maybe(ahead.rate_per_day),
        p10_at=_ahead(eyes, found.now, ahead.p10_days), p50_at=_ahead(eyes, found.now, ahead.p50_days),
        p90_at=_ahead(eyes, found.now, ahead.p90_days), p_within=ahead.p_within, p_first=ahead.p_first,
        words=_words(found, eyes, tracked, ahead),
        why=explain(found.rig, tracked, ahead), past=_past(tracked, eyes, starts),
        readings=_readings(found, eyes, tracked, starts), events=_events(found, eyes, store, starts),
        fan=[
            FanPoint(at=eyes.local(b.at), p10=level(b.p10), p50=level(b.p50), p90=level(b.p90)) for b in ahead.fan
        ],
    )  # fmt: skip


def _words(found: Derived, eyes: Eyes, tracked: Tracked, ahead: StoreForecast) -> str:
    said = words.store_sentence(found.rig, ahead, found.now, found.forecast.horizon_days)
    if not ahead.known:
        return said
    low, high = level_range(tracked)
    return f"{words.level_words(tracked, low, high, eyes.system)}. {said}"


_Z90 = 1.28155


def _past(tracked: Tracked, eyes: Eyes, starts: datetime) -> list[PastPoint]:
    store = tracked.store
    drawn = smoothed(tracked.history)
    points = [p for p in drawn if p.at >= starts]
    before = [p for p in drawn if p.at < starts]
    kept = before[-1:] + points
    return [
        PastPoint(
            at=eyes.local(max(p.at, starts)), level=eyes.level(store, min(store.capacity, max(0.0, p.level))),
            low=eyes.level(store, max(0.0, p.level - _Z90 * p.sd)),
            high=eyes.level(store, min(store.capacity, p.level + _Z90 * p.sd)),
        )
        for p in kept
    ]  # fmt: skip


def reading_span(store: Store, reading: Reading) -> tuple[float, float] | None:
    """The contents that a reading speaks for: a mark's span, or value and error; None where it says nothing."""
    said = evidence(store, reading)
    if said.silent:
        return None
    if said.bands:
        low, high, _ = max(said.bands, key=lambda band: band[2])
        return low, high
    value = said.value or 0.0
    return max(0.0, value - said.sd), min(store.capacity, value + said.sd)


def _readings(found: Derived, eyes: Eyes, tracked: Tracked, starts: datetime) -> list[ReadingMark]:
    store = tracked.store
    doubtful = {doubt.reading for doubt in tracked.doubts if doubt.kind == "reading"}
    marks = []
    for day in found.log.days:
        for reading in day.readings:
            if reading.store != store.id or not starts <= reading.at <= found.now:
                continue
            span = reading_span(store, reading)
            if span:
                marks.append(
                    ReadingMark(
                        id=reading.key or 0, at=eyes.local(reading.at), low=eyes.level(store, span[0]),
                        high=eyes.level(store, span[1]), words=describe(store, reading, eyes.system),
                        doubtful=reading in doubtful,
                    )
                )  # fmt: skip
    return marks


def _events(found: Derived, eyes: Eyes, store: Store, starts: datetime) -> list[EventMark]:
    return [
        EventMark(id=event.key or 0, at=eyes.local(event.at), type=event.type, words=eyes.event_words(event))
        for day in found.log.days
        for event in day.events
        if starts <= event.at <= found.now and store.id in event_stores(found.rig, event)
    ]


def _doubts(found: Derived, eyes: Eyes, starts: datetime) -> list[DoubtOut]:
    since = starts - timedelta(days=7)
    recent = [doubt for each in found.tracked.values() for doubt in each.doubts if doubt.at >= since]
    return [
        DoubtOut(
            store=doubt.store, kind=doubt.kind, at=eyes.local(doubt.at), reading=doubt.reading.key,
            words=words.doubt_sentence(found.tracked[doubt.store].store, doubt, eyes.system, eyes.zone),
            settle=_settle(found.tracked[doubt.store].store, doubt),
            settle_at=eyes.local(doubt.at - timedelta(minutes=1)),
        )
        for doubt in sorted(recent, key=lambda doubt: doubt.at, reverse=True)
    ]  # fmt: skip


def _settle(store: Store, doubt: Doubt) -> str | None:
    """The event whose being forgotten would explain a step."""
    if store.sense is Sense.FILLS:
        return "dump" if doubt.kind == "fall" else None
    return "fill" if doubt.kind == "rise" and store.kind is not Kind.BATTERY else None


def _stop(found: Derived, eyes: Eyes) -> list[NeedOut]:
    rows = []
    for need in next_stop(found.forecast):
        unit = eyes.unit(need.store)
        low, high = unit.text(need.amount_low), unit.text(need.amount_high)
        amount = high if low == high else f"{low.rsplit(' ', 1)[0]} to {high}"
        rows.append(
            NeedOut(store=need.store.id, name=need.store.name, act=need.act, words=f"{need.act} {amount}", due=need.due)
        )
    return rows
