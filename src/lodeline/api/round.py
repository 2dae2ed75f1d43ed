"""The Round: what to read tonight, what can be logged by one touch, the day as logged so far."""

from datetime import datetime, timedelta

from django.http import HttpRequest
from ninja import Router

from lodeline.api.acts import ActOut, acts_out
from lodeline.api.entries import EntryOut, day_entries
from lodeline.api.horizon import temperature
from lodeline.api.levers import agreed_words
from lodeline.api.moments import Moment, maybe, moment
from lodeline.api.notation import ReadsOut, reads
from lodeline.api.out import Out
from lodeline.api.places import PlaceOut, WhereOut, place_out, where
from lodeline.api.water_aboard import RationOut, ration_out
from lodeline.api.who import display_of, rig_of
from lodeline.core.acts import Stands
from lodeline.core.conditions import may_be_covered
from lodeline.core.figures import Forecasting
from lodeline.core.forecast.forecast import StoreForecast
from lodeline.core.log import Day
from lodeline.core.reading import written_in
from lodeline.core.rig import Spare
from lodeline.core.tracking.tracked import Tracked
from lodeline.logbook.services import rows, water
from lodeline.logbook.services.derived import Derived, derived, log_of
from lodeline.text import readings as text
from lodeline.text import round as round_text
from lodeline.text import water as water_words
from lodeline.text.display import Display
from lodeline.text.logbook import earlier

router = Router(tags=["round"])
_METER_DAYS = 60
_WATER_DIGITS = 1
# what a device keeps of the fan, for a week without a signal; a bank's has more points than a screen needs
_AHEAD = timedelta(days=7)
_BANK_STEP = 2
_MOST_ENTRIES = 60


class PanelMarkOut(Out):
    """A mark of a gauge: what stands beside it, and what is typed for it."""

    label: str
    text: str


class AheadOut(Out):
    """What a gauge is expected to show at a time to come, for when there is no signal then."""

    at: str
    expected: str
    usual: str | None


class RoundStore(Out):
    """A gauge of the round. ``usual``: what is typed where it shows what is expected, null where that does not follow
    from the level."""

    id: str
    name: str
    kind: str
    hint: str
    example: str
    marks: list[PanelMarkOut]
    last: str | None
    last_in: str | None
    last_at: Moment | None
    expected: str | None
    usual: str | None
    ahead: list[AheadOut]
    reads: ReadsOut
    worth: str | None


class DayFactsOut(Out):
    """A day's own facts, in the user's own units, for the form of a day."""

    date: str
    sky: str | None
    temp_min: float | None
    temp_max: float | None
    status: str | None
    crew_aboard: int | None
    panels_covered: bool | None
    place: PlaceOut | None
    solar_wh: float | None
    load_wh: float | None
    water: float | None
    note: str | None


class RoundOut(Out):
    rig: str
    revision: int
    units: str
    timezone: str
    now: Moment
    temp_unit: str
    water_unit: str
    crew: int
    has_meter: bool
    stores: list[RoundStore]
    acts: list[ActOut]
    entries: list[EntryOut]
    earlier: str | None = None
    day: DayFactsOut
    where: WhereOut
    asks_covered: bool
    agreed: list[str]
    ration: RationOut | None = None
    drained: str | None = None


@router.get("/{rig_id}/round", response=RoundOut, operation_id="round")
def round_(request: HttpRequest, rig_id: str) -> RoundOut:
    """Tonight's round: every store with its last and expected value, and the day as logged so far."""
    rig = rig_of(request, rig_id)
    known, display = derived(rig), display_of(request)
    today = known.rig.zone.date(known.now)
    day = log_of(rig, known, today, today).day(today) or Day(date=today)
    entries = day.entries()
    # of a drained tank nothing is asked
    asked = [e for e in known.forecast.stores if known.tracked[e.store.id].drained_since is None]
    stands = Stands.of(known.rig, known.log, known.tracked)
    kept, drained = water.kept_ration(rig, known), water.drained_since(known)
    return RoundOut(
        rig=known.rig.name,
        revision=rig.revision,
        units=display.system,
        timezone=known.rig.timezone,
        now=moment(known.now, display),
        temp_unit=display.unit("degC").unit,
        water_unit=display.unit("L").unit,
        crew=known.rig.crew.people,
        has_meter=any(each.water_l is not None for each in known.log.days[-_METER_DAYS:]),
        stores=[_store(known, each, stands.bottle(known.rig, each.store), display) for each in asked],
        acts=acts_out(known, display),
        entries=day_entries(known.rig, entries, rows.entry_notes(rig, today, today), display, _MOST_ENTRIES),
        earlier=earlier(len(entries) - _MOST_ENTRIES) if len(entries) > _MOST_ENTRIES else None,
        day=day_facts(day, display),
        where=where(known),
        asks_covered=may_be_covered(known.rig, day, known.days(1)[0]),
        agreed=agreed_words(rig, known),
        ration=ration_out(known, kept, True, display) if kept is not None else None,
        drained=water_words.drained(drained, display) if drained is not None else None,
    )


def day_facts(day: Day, display: Display) -> DayFactsOut:
    """A day's own facts, as its form has them."""
    return DayFactsOut(
        date=day.date.isoformat(),
        sky=day.sky,
        temp_min=temperature(day.temp_min_c, display),
        temp_max=temperature(day.temp_max_c, display),
        status=day.status,
        crew_aboard=day.crew_aboard,
        panels_covered=day.panels_covered,
        place=place_out(day.place),
        solar_wh=day.solar_wh,
        load_wh=day.load_wh,
        water=None if day.water_l is None else display.value(day.water_l, "L", _WATER_DIGITS),
        note=day.note or None,
    )


def _ahead(
    tracked: Tracked, ahead: StoreForecast, now: datetime, tare_kg: float | None, display: Display
) -> list[AheadOut]:
    step = _BANK_STEP if ahead.store.is_bank else 1
    return [
        AheadOut(
            at=display.iso(point.at),
            expected=text.expected(ahead.store, point.p10, point.p90, display),
            usual=text.usual(ahead.store, point.p50, tracked.last_reading, tare_kg, display),
        )
        for point in ahead.fan[::step]
        if point.at <= now + _AHEAD
    ]


def _store(known: Derived, ahead: StoreForecast, bottle: Spare | None, display: Display) -> RoundStore:
    tracked = known.tracked[ahead.store.id]
    store, last = tracked.store, tracked.last_reading
    is_known = tracked.known_since is not None
    tare_kg = bottle.tare_kg if bottle is not None else store.tare_kg
    worth = known.forecast.worth_days.get(store.id, 0.0)
    hint = text.examples(store, display)
    return RoundStore(
        id=store.id,
        name=store.name,
        kind=store.kind.id,
        hint=hint,
        example=text.example(store, display),
        marks=[PanelMarkOut(label=text.mark_words(mark), text=text.mark_text(mark)) for mark in store.gauge.shows],
        last=text.describe(store, last, display) if last else None,
        last_in=written_in(store, last.method, display.system) if last else None,
        last_at=maybe(last.at if last else None, display),
        expected=text.expected(store, *tracked.level_range, display) if is_known else None,
        usual=text.usual(store, tracked.level, last, tare_kg, display) if is_known else None,
        ahead=_ahead(tracked, ahead, known.now, tare_kg, display) if is_known else [],
        reads=reads(store, display),
        worth=round_text.worth(store, worth) if worth >= Forecasting.worth_least_days else None,
    )
