"""The Horizon: lanes of all stores over past and coming days, the sentence, the plan of coming days."""

from collections.abc import Sequence
from datetime import date, datetime, timedelta
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router

from lodeline.api.acts import ActOut, act_out
from lodeline.api.built import built
from lodeline.api.entries import key_of
from lodeline.api.levers import agreed_words
from lodeline.api.moments import Moment, aboard, maybe, moment
from lodeline.api.out import BandOut, LevelOut, Out, Revision, spread
from lodeline.api.places import PlaceOut, WhereOut, place_out, where
from lodeline.api.water_aboard import ration_out
from lodeline.api.who import display_of, rig_of
from lodeline.core.acts import Stands, act_of, acts
from lodeline.core.catalogue import EVENT_TYPES, Effect
from lodeline.core.forecast.forecast import ChoreKind
from lodeline.core.forecast.stop import next_stop
from lodeline.core.log import Day, OutlookDay
from lodeline.core.questions import forgotten, open_questions
from lodeline.core.reasons import reasons
from lodeline.core.rig import Store
from lodeline.core.tracking.events import drawn_on
from lodeline.core.tracking.evidence import evidence
from lodeline.core.tracking.hypothesis import Doubt, DoubtKind, smoothed
from lodeline.core.tracking.tracked import Tracked
from lodeline.formats import document as d
from lodeline.logbook import models as m
from lodeline.logbook.services import issued, water
from lodeline.logbook.services.derived import Derived, derived
from lodeline.text import doubts as doubt_words
from lodeline.text import horizon as text
from lodeline.text import round as round_text
from lodeline.text import standing
from lodeline.text import water as water_words
from lodeline.text.cautions import cautions
from lodeline.text.display import Display
from lodeline.text.readings import describe

router = Router(tags=["horizon"])
PAST_DAYS = 7
# Doubts are asked about so many days further back than the strip goes.
_DOUBT_DAYS = 7
# Of a store on its lane.
_MOST_DRAWN = 300
_TEMP_DIGITS = 1


class PastPoint(LevelOut):
    """A level as it was known, with its 8-in-10 range."""

    low: float
    high: float


class LaneReading(Out):
    id: UUID
    at: str
    low: float
    high: float
    words: str
    doubtful: bool


class LaneEvent(Out):
    id: UUID
    at: str
    effect: str
    words: str


class Fact(Out):
    name: str
    value: str


class Lane(Out):
    """A store on the strip. Numbers are for drawing, in the unit shown; what is read is in words.

    ``ration``: what is expected of it if the ration is kept, where there is one.
    """

    id: str
    name: str
    hue: str
    capacity: float
    line: float
    own_line: float | None
    known: bool
    drained: str | None
    level: str | None
    span: str | None
    left: str
    first: str | None
    p10_at: str | None
    p50_at: str | None
    p90_at: str | None
    words: str
    facts: list[Fact]
    why: list[str]
    past: list[PastPoint]
    readings: list[LaneReading]
    events: list[LaneEvent]
    fan: list[BandOut]
    ration: list[LevelOut] = []


class HorizonDay(Out):
    """A date on the strip. ``hours``: planned hours of each way to charge, by its id; ``planned``: what it brings."""

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
    panels_covered: bool | None
    where: PlaceOut | None
    hours: dict[str, float]
    planned: str | None
    words: str
    p_stay: float | None


class SettleOut(Out):
    """One touch that settles a doubt: logs what was forgotten (the event's type, and when it must have been), says that
    a reading is right, or takes out what was logged twice."""

    label: str
    how: str
    type: str | None = None
    full: bool = False
    on: str | None = None
    time: str | None = None
    entry: UUID | None = None
    kind: str | None = None


class DoubtOut(Out):
    store: str
    kind: str
    date: str
    reading: UUID | None
    words: str
    settle: SettleOut | None


class NeedOut(Out):
    store: str
    name: str
    words: str
    due: bool


class ChoreOut(Out):
    """Something to do without driving off; ``act``: the touch that logs it, where it is due."""

    words: str
    act: ActOut | None = None


class HorizonOut(Out):
    """``revision`` and ``now`` say which forecast it is; ``chores``: what is done without driving off."""

    rig: str
    revision: int
    now: Moment
    starts_at: str
    ends_at: str
    timezone: str
    temp_unit: str
    headline: str
    detail: str
    first: str | None
    first_low_at: str | None
    first_at: str | None
    first_high_at: str | None
    days: list[HorizonDay]
    lanes: list[Lane]
    chores: list[ChoreOut]
    where: WhereOut
    doubts: list[DoubtOut]
    stop: list[NeedOut]
    agreed: list[str]
    cautions: list[str]


class SeenIn(d.Part):
    """Which Horizon was shown to somebody."""

    revision: Revision


@router.get("/{rig_id}/horizon", response=HorizonOut, operation_id="horizon")
def horizon(request: HttpRequest, rig_id: str) -> HttpResponse:
    """Levels, forecast and plan of a rig on one strip of days."""
    rig = rig_of(request, rig_id)
    known, display = derived(rig), display_of(request)
    return built("horizon", rig.pk, known, lambda: build(rig, known, display))


@router.post("/{rig_id}/horizon/seen", response={204: None}, operation_id="horizon_seen")
def horizon_seen(request: HttpRequest, rig_id: str, payload: SeenIn) -> tuple[int, None]:
    """Say that a Horizon was shown: its forecast is kept, so that its outcome can be judged."""
    rig = rig_of(request, rig_id)
    if payload.revision == rig.revision:
        known = derived(rig)
        if known.stamp == rig.stamp:
            issued.keep(rig, known.forecast, known.tracked, known.log)
    return 204, None


def build(rig: m.Rig, known: Derived, display: Display) -> HorizonOut:
    """The Horizon of what was derived."""
    zone, auto, ahead = known.rig.zone, known.forecast.autonomy, known.forecast
    binding = ahead.of(auto.store) if auto.store is not None else None
    # the mark stands where the lane of what comes first meets its line
    low, middle, high = (
        (None, None, None) if binding is None else (binding.p10_days, binding.p50_days, binding.p90_days)
    )
    today = zone.date(known.now)
    first, last = today - timedelta(days=PAST_DAYS), today + timedelta(days=ahead.horizon_days)
    starts, ends = zone.midnight(first), zone.midnight(last)
    sentence = text.headline(ahead, display, _last_read(known))
    return HorizonOut(
        rig=known.rig.name,
        revision=known.revision,
        now=moment(known.now, display),
        starts_at=display.iso(starts),
        ends_at=display.iso(ends),
        timezone=known.rig.timezone,
        temp_unit=display.unit("degC").unit,
        headline=sentence.headline,
        detail=sentence.detail,
        first=auto.store,
        first_low_at=_iso(ahead.when(low), display),
        first_at=_iso(ahead.when(middle), display),
        first_high_at=_iso(ahead.when(high), display),
        days=_days(known, display, first, last, today),
        lanes=_lanes(rig, known, display, starts),
        chores=_chores(known, display),
        where=where(known),
        doubts=_doubts(known, display, starts),
        stop=_stop(known, display),
        agreed=agreed_words(rig, known),
        cautions=cautions((each for store in known.rig.stores for each in store.kind.cautions), display),
    )


def _last_read(known: Derived) -> text.LastRead | None:
    """When anything was last read or done, and how old that is."""
    latest = max((each.known_at for each in known.tracked.values() if each.known_at), default=None)
    return text.LastRead(latest, (known.now - latest) / timedelta(days=1)) if latest else None


def _chores(known: Derived, display: Display) -> list[ChoreOut]:
    """What is done without driving off, and what must be found as the last reserve is used."""
    ahead = known.forecast
    stands_full = {chore.store.id for chore in ahead.chores if chore.kind is ChoreKind.EMPTY}
    used_up = [
        ChoreOut(words=text.deadline(each.store, ahead.of(id), ahead, display))
        for id, each in known.tracked.items()
        if each.store.reserve and each.reserve <= 0 and each.reserve_used_at is not None and id not in stands_full
    ]
    offered = acts(known.rig, Stands.of(known.rig, known.log, known.tracked))
    due = []
    for chore in ahead.chores:
        if words := text.chore(chore, ahead, display):
            act = act_of(chore, offered) if chore.is_due else None
            due.append(ChoreOut(words=words, act=act_out(known, act, display) if act is not None else None))
    return [*used_up, *due]


def _iso(at: datetime | None, display: Display) -> str | None:
    local = maybe(at, display)
    return local.at if local else None


def _days(known: Derived, display: Display, first: date, last: date, today: date) -> list[HorizonDay]:
    outlook = {day.date: day for day in known.outlook}
    stay = dict(known.counted.forecast.p_stay)
    zone = known.rig.zone
    days = []
    on = first
    while on < last:
        past, plan = known.log.day(on), outlook.get(on) if on >= today else None
        day: Day | OutlookDay | None = plan if on > today or past is None else past
        begins, ends = zone.bounds(on)
        days.append(
            HorizonDay(
                date=on.isoformat(),
                starts_at=display.iso(begins),
                ends_at=display.iso(ends),
                coming=on >= today,
                place=day.place.name if day and day.place else None,
                sky=day.sky if day else None,
                temp_min=temperature(day.temp_min_c if day else None, display),
                temp_max=temperature(day.temp_max_c if day else None, display),
                status=day.status if day else None,
                crew_aboard=day.crew_aboard if day else None,
                panels_covered=day.panels_covered if day else None,
                where=place_out(day.place if day else None),
                hours=dict(plan.hours) if plan else {},
                planned=text.planned(plan) if plan else None,
                words=text.day(day or OutlookDay(date=on), display),
                p_stay=stay.get(on),
            )
        )
        on += timedelta(days=1)
    return days


def temperature(celsius: float | None, display: Display) -> float | None:
    """A temperature for a field."""
    return None if celsius is None else display.value(celsius, "degC", _TEMP_DIGITS)


def _lanes(rig: m.Rig, known: Derived, display: Display, starts: datetime) -> list[Lane]:
    """The lanes, the path of a ration in that of the fresh tank."""
    lanes = [_lane(known, display, store, starts) for store in known.rig.stores]
    fresh, kept = water.fresh_of(known), water.kept_ration(rig, known)
    if fresh is not None and kept is not None:
        drawn = ration_out(known, kept, True, display).path
        lanes = [lane.model_copy(update={"ration": drawn}) if lane.id == fresh.store.id else lane for lane in lanes]
    return lanes


def _lane(known: Derived, display: Display, store: Store, starts: datetime) -> Lane:
    tracked, each, ahead = known.tracked[store.id], known.forecast.of(store.id), known.forecast
    head = text.level(each, display)
    is_first = store.id == ahead.autonomy.store
    behind = reasons(known.rig, tracked, each)
    drained = water_words.drained(tracked.drained_since, display) if tracked.drained_since is not None else None

    def shown(base: float) -> float:
        return display.value(base, store.unit)

    return Lane(
        id=store.id,
        name=store.name,
        hue=store.kind.hue,
        capacity=shown(store.capacity),
        line=shown(tracked.store.line_level),
        own_line=shown(store.line_level) if store.id in known.lines and known.lines[store.id].differs else None,
        known=each.known,
        drained=drained,
        level=head[0] if head else None,
        span=head[1] if head else None,
        left=standing.left(each, ahead, display, tracked.lost_since),
        first=text.first(store) if is_first else None,
        p10_at=_iso(ahead.when(each.p10_days), display),
        p50_at=_iso(ahead.when(each.p50_days), display),
        p90_at=_iso(ahead.when(each.p90_days), display),
        words=drained or text.lane(each, ahead, display, tracked.lost_since),
        facts=[Fact(name=name, value=value) for name, value in text.facts(each, ahead, display)],
        why=text.why(behind, display) if behind else [],
        past=_past(tracked, display, starts),
        readings=_readings(known, display, tracked, starts),
        events=_events(known, display, store, starts),
        fan=[BandOut(at=display.iso(b.at), p10=shown(b.p10), p50=shown(b.p50), p90=shown(b.p90)) for b in each.fan],
    )


def _past(tracked: Tracked, display: Display, starts: datetime) -> list[PastPoint]:
    """The drawn past, from the point before the strip on."""
    store, drawn = tracked.store, smoothed(tracked.history, starts)
    before, after = [p for p in drawn if p.at < starts], [p for p in drawn if p.at >= starts]
    points = []
    for p in (*before[-1:], *after):
        low, high = (display.value(end, store.unit) for end in p.level_range(store.capacity))
        at = display.iso(max(p.at, starts))
        points.append(PastPoint(at=at, level=_within(p.level, store, display), low=low, high=high))
    return points


def _within(base: float, store: Store, display: Display) -> float:
    return display.value(min(store.capacity, max(0.0, base)), store.unit)


def _readings(known: Derived, display: Display, tracked: Tracked, starts: datetime) -> list[LaneReading]:
    store = tracked.store
    doubtful = {doubt.reading for doubt in tracked.doubts if doubt.kind is DoubtKind.READING}
    seen = [
        each
        for day in _days_from(known, starts)
        for each in day.readings
        if each.store == store.id and starts <= each.at <= known.now
    ]
    drawn = []
    for reading in spread(seen, _MOST_DRAWN, doubtful.__contains__):
        given = evidence(store, reading)
        if given.silent:
            continue
        low, high = given.span
        drawn.append(
            LaneReading(
                id=key_of(reading),
                at=display.iso(reading.at),
                low=_within(low, store, display),
                high=_within(high, store, display),
                words=describe(store, reading, display),
                doubtful=reading in doubtful,
            )
        )
    return drawn


def _days_from(known: Derived, starts: datetime) -> Sequence[Day]:
    return known.log.days[known.log.first_from(known.rig.zone.date(starts)) :]


def _events(known: Derived, display: Display, store: Store, starts: datetime) -> list[LaneEvent]:
    seen = [
        each
        for day in _days_from(known, starts)
        for each in day.events
        if starts <= each.at <= known.now and store.id in drawn_on(known.rig, each)
    ]
    return [
        LaneEvent(
            id=key_of(event),
            at=display.iso(event.at),
            effect=event.row.effect,
            words=round_text.event(known.rig, event, display),
        )
        for event in spread(seen, _MOST_DRAWN)
    ]


def _doubts(known: Derived, display: Display, starts: datetime) -> list[DoubtOut]:
    since = starts - timedelta(days=_DOUBT_DAYS)
    questions = open_questions(known.tracked, known.forecast, known.log, known.rig.zone, since)
    return [
        DoubtOut(
            store=doubt.store,
            kind=doubt.kind,
            date=display.local(doubt.since or doubt.at).date().isoformat(),
            reading=doubt.reading.key if doubt.reading else None,
            words=doubt_words.doubt(known.tracked[doubt.store].store, doubt, display),
            settle=_settle(known.tracked[doubt.store].store, doubt, display),
        )
        for doubt in questions
    ]


def _settle(store: Store, doubt: Doubt, display: Display) -> SettleOut | None:
    if doubt.kind in (DoubtKind.READING, DoubtKind.AGAINST) and doubt.reading is not None:
        return SettleOut(label=doubt_words.CONFIRMS, how="confirm", entry=doubt.reading.key, kind="reading")
    if doubt.kind is DoubtKind.TWICE and doubt.event is not None:
        return SettleOut(label=doubt_words.TAKES_OUT, how="remove", entry=doubt.event.key, kind="event")
    each = forgotten(store, doubt)
    if each is None:
        return None
    local = display.local(each.at)
    event = next(row for row in EVENT_TYPES.values() if row.effect is each.effect)
    return SettleOut(
        label=doubt_words.settles(each.effect),
        how="log",
        type=event.id,
        full=each.effect is Effect.FILL,
        on=local.date().isoformat(),
        time=aboard(local),
    )


def _stop(known: Derived, display: Display) -> list[NeedOut]:
    return [
        NeedOut(store=each.store.id, name=each.store.name, words=text.need(each, display), due=each.due)
        for each in next_stop(known.forecast)
    ]
