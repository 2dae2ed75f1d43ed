"""Water and waste: the balance, what each use takes, the ration, jugs, toilets, what is due."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router

from lodeline.api.built import built
from lodeline.api.moments import Moment, moment
from lodeline.api.out import BandOut, Out
from lodeline.api.water_aboard import RationOut, ration_out
from lodeline.api.who import display_of, rig_of
from lodeline.core.catalogue import ACTIVITIES, Caution, Role
from lodeline.core.forecast.forecast import StoreForecast
from lodeline.core.habits import usual_activities
from lodeline.core.rig import Habit, Store
from lodeline.core.water import care, frost, jugs, toilets
from lodeline.core.water.balance import Balance, UseThen
from lodeline.core.water.hot import hot_water
from lodeline.core.water.learned import Amount
from lodeline.core.water.ration import Ration
from lodeline.formats.convert import habit_to_document
from lodeline.formats.document import HabitDoc
from lodeline.logbook import models as m
from lodeline.logbook.services import rigs, water
from lodeline.logbook.services.derived import Derived, derived
from lodeline.text import aboard_water, standing
from lodeline.text import water as text
from lodeline.text.cautions import cautions
from lodeline.text.display import Display

router = Router(tags=["water"])
_FROST_DAYS = 5


class FlowOut(Out):
    """Where water went. Numbers are for drawing, in the unit shown: the amount and its error."""

    id: str
    name: str
    value: float
    sd: float
    words: str


class BalanceOut(Out):
    """One span: ``drawn`` with its error, where it went, what is left over, and whether the sums close."""

    id: str
    name: str
    drawn: float
    drawn_sd: float
    drawn_words: str
    flows: list[FlowOut]
    apart_words: str | None
    closes: bool
    closes_words: str
    moved: str
    words: str


class UseOut(Out):
    """One activity; ``p10`` to ``p90``: what it takes a day, for drawing."""

    id: str
    name: str
    often: str
    each: str
    day: str
    told: str
    learned: bool
    p10: float
    p50: float
    p90: float


class JugOut(Out):
    id: str
    words: str
    share: float


class FreshOut(Out):
    """The fresh tank ahead, for drawing a ration beside what is expected."""

    capacity: float
    line: float
    fan: list[BandOut]


class FouledOut(Out):
    store: str
    words: str
    floor: float
    read_with_floor: str
    was_left: str
    dumped: Moment
    event: UUID | None


class ToiletOut(Out):
    store: str
    name: str
    words: str
    guest: str | None


class DueOut(Out):
    id: str
    words: str
    due: bool
    event: str | None
    did: str | None


class StretchOut(Out):
    label: str
    short: str
    value: float
    words: str


class HabitOut(Out):
    """One activity as the form begins with it: as the crew said it, or as such crews usually do. ``said``: it did."""

    name: str
    usual: str
    said: bool
    doc: HabitDoc


class WaterOut(Out):
    revision: int
    known: bool
    now: Moment
    unit: str
    headline: str
    detail: str
    today: str | None
    binding: str | None
    after: str | None
    drained: str | None
    balances: list[BalanceOut]
    uses: list[UseOut]
    uses_words: str
    cannot_tell: str | None
    floors: str
    hot: str | None
    ration: RationOut | None
    ration_least: str
    ration_usual: str
    ration_most: str
    fresh: FreshOut | None
    temp_unit: str
    jugs: list[JugOut]
    jugs_words: str | None
    filling: list[str]
    toilets: list[ToiletOut]
    fouled: list[FouledOut]
    emptied_where: str | None
    due: list[DueOut]
    frost: list[str]
    may_drain: bool
    supplies: list[str]
    weeks: list[StretchOut]
    months: list[StretchOut]
    trend: str
    habits: list[HabitOut]
    cautions: list[str]


@router.get("/{rig_id}/water", response=WaterOut, operation_id="water")
def water_(request: HttpRequest, rig_id: str) -> HttpResponse:
    """Water and waste of a rig, from the tap to the drain."""
    rig = rig_of(request, rig_id)
    known, display = derived(rig), display_of(request)
    return built("water", rig.pk, known, lambda: _build(rig, known, display))


def _l(litres: float, display: Display) -> float:
    return display.value(litres, "L", 2)


def _build(rig: m.Rig, known: Derived, display: Display) -> WaterOut:
    learned = water.amounts_of(known)
    core = known.rig
    spared = water.sparing(known, rig.pk)
    sentence = text.headline(core, known.forecast, spared, display)
    kept = water.kept_ration(rig, known)
    least, usual, most = water.ration_dates(rig, known)
    fresh, drained = core.first(Role.WATER), water.drained_since(known)
    found = hot_water(core)
    weeks, months = water.history(known, False), water.history(known, True)
    held = jugs.in_jugs(core, known.log)
    waste = [store for store in core.stores if store.kind.toilet is not None or store.kind.role is Role.DRAIN]
    return WaterOut(
        revision=rigs.seen_at(rig, known),
        known=water.fresh_of(known) is not None,
        now=moment(known.now, display),
        unit=display.unit("L").unit,
        headline=sentence.headline,
        detail=sentence.detail,
        today=_today(known, learned, kept, display),
        binding=text.binding(core, known.forecast),
        after=standing.counted_after(known.forecast),
        drained=text.drained(drained, display) if drained is not None else None,
        balances=_balances(known, learned, display),
        uses=[_use(each, display) for each in learned],
        uses_words=aboard_water.habits_of(core),
        cannot_tell=text.cannot_tell(learned),
        floors=text.floors(core.crew.people, display),
        hot=text.hot(found, display) if found else None,
        ration=ration_out(known, kept, True, display) if kept is not None else None,
        ration_least=least.isoformat(),
        ration_usual=usual.isoformat(),
        ration_most=most.isoformat(),
        fresh=_fresh(known, display),
        temp_unit=display.unit("degC").unit,
        jugs=[_jug(each, display) for each in held],
        jugs_words=_jugs_words(known, held, display),
        filling=_filling(known, display),
        toilets=_toilets(known, display),
        fouled=_fouled(known, waste, display),
        emptied_where=aboard_water.EMPTIED_WHERE if waste else None,
        due=_due(known, display),
        frost=_frost(known, display),
        may_drain=fresh is not None and drained is None,
        supplies=_supplies(known, display),
        weeks=[_stretch(each, False, display) for each in weeks],
        months=[_stretch(each, True, display) for each in months],
        trend=text.trend(weeks, display),
        habits=_habits(known, display),
        cautions=cautions((Caution.DRINKING_HOSE, Caution.DUMP_ALLOWED, Caution.AXLES, Caution.ESTIMATE), display),
    )


def _today(known: Derived, learned: tuple[Amount, ...], kept: Ration | None, display: Display) -> str | None:
    if not learned:
        return None
    used = water.used_by_date(known).get(known.rig.zone.date(known.now), 0.0)
    usual = sum(each.day_l.p50 for each in learned)
    return text.today(used, usual, kept.a_day_l if kept else None, display)


def _balances(known: Derived, learned: tuple[Amount, ...], display: Display) -> list[BalanceOut]:
    spans = water.spans(known, learned)
    every = {"day": spans.day, "week": spans.week, "stay": spans.stay}
    return [_balance(id, text.SPANS[id], each, display) for id, each in every.items() if each is not None]


def _balance(id: str, name: str, balance: Balance, display: Display) -> BalanceOut:
    return BalanceOut(
        id=id,
        name=name,
        drawn=_l(balance.drawn.value, display),
        drawn_sd=_l(balance.drawn.sd, display),
        drawn_words=text.about(balance.drawn.value, balance.drawn.sd, display),
        flows=[
            FlowOut(
                id=f"{part.went}-{part.store.id if part.store else ''}",
                name=text.part_name(part),
                value=_l(part.amount.value, display),
                sd=_l(part.amount.sd, display),
                words=text.about(part.amount.value, part.amount.sd, display),
            )
            for part in balance.parts
        ],
        apart_words=text.apart(balance, display),
        closes=balance.closes,
        closes_words=text.closes(balance, display),
        moved=text.moved(balance, display),
        words=text.balance_words(balance, display),
    )


def _use(amount: Amount, display: Display) -> UseOut:
    return UseOut(
        id=amount.activity.id,
        name=text.activity(amount),
        often=text.how_often(amount),
        each=text.each_words(amount, display),
        day=display.span(amount.day_l.p10, amount.day_l.p90, "L"),
        told=text.told(amount, display),
        learned=amount.told == "learned",
        p10=_l(amount.day_l.p10, display),
        p50=_l(amount.day_l.p50, display),
        p90=_l(amount.day_l.p90, display),
    )


def _fresh(known: Derived, display: Display) -> FreshOut | None:
    fresh = water.fresh_of(known)
    if fresh is None:
        return None
    fan = known.forecast.of(fresh.store.id).fan
    return FreshOut(
        capacity=_l(fresh.store.capacity, display),
        line=_l(fresh.store.line_level, display),
        fan=[
            BandOut(at=display.iso(b.at), p10=_l(b.p10, display), p50=_l(b.p50, display), p90=_l(b.p90, display))
            for b in fan
        ],
    )


def _jug(held: jugs.InJug, display: Display) -> JugOut:
    return JugOut(id=held.jug.id, words=aboard_water.jug(held, display), share=held.share)


def _jugs_words(known: Derived, held: tuple[jugs.InJug, ...], display: Display) -> str | None:
    if not held:
        return None
    fresh = water.fresh_of(known)
    until: StoreForecast | None = known.forecast.of(fresh.store.id) if fresh is not None else None
    return aboard_water.carried(jugs.carried_l(held), until, jugs.last_poured(held), known.forecast, display)


def _filling(known: Derived, display: Display) -> list[str]:
    found = water.filling(known)
    if found is None:
        return []
    said = [aboard_water.filling(found.by_hose, found.tank, found.payload_kg, display)]
    if found.on_foot is not None:
        walk, spot = found.on_foot
        said.append(aboard_water.fetching(walk, spot.name, display))
    return [*said, aboard_water.STOPPED_BY]


def _toilets(known: Derived, display: Display) -> list[ToiletOut]:
    return [
        ToiletOut(
            store=each.store.id,
            name=each.store.name,
            words=aboard_water.toilet(each, known.forecast, display),
            guest=aboard_water.guest(each, display),
        )
        for each in toilets.toilets(known.rig, known.tracked, known.forecast)
    ]


def _fouled(known: Derived, waste: list[Store], display: Display) -> list[FouledOut]:
    tracked = [known.tracked[store.id] for store in waste]
    return [
        FouledOut(
            store=each.store.id,
            words=aboard_water.fouled(each, display),
            floor=each.shown,
            read_with_floor=aboard_water.read_with_floor(each),
            was_left=aboard_water.was_left(each),
            dumped=moment(each.dumped_at, display),
            event=each.dump_key,
        )
        for each in toilets.fouled(tracked, known.log)
    ]


def _due(known: Derived, display: Display) -> list[DueOut]:
    every = care.due(known.rig, known.log, known.tracked, known.book, known.now)
    return [
        DueOut(
            id=each.care,
            words=aboard_water.due(each, display),
            due=each.is_due,
            event=each.event,
            did=aboard_water.did(each.event),
        )
        for each in every
    ]


def _frost(known: Derived, display: Display) -> list[str]:
    days = known.days(_FROST_DAYS)
    return aboard_water.frost(frost.frost(known.rig, days, _FROST_DAYS), known.now, display)


def _supplies(known: Derived, display: Display) -> list[str]:
    return [
        aboard_water.supply(known.forecast.of(store.id), known.forecast, display)
        for store in known.rig.stores
        if store.kind.bought
    ]


def _stretch(use: UseThen, months: bool, display: Display) -> StretchOut:
    return StretchOut(
        label=use.first.isoformat(),
        short=text.stretch_short(use, months),
        value=_l(use.per_person, display),
        words=text.stretch(use, months, display),
    )


def _habits(known: Derived, display: Display) -> list[HabitOut]:
    """Every activity that may be logged, as the form begins with it."""
    usual = {each.activity.id: each.per_day for each in usual_activities(known.rig)}
    said = {habit.activity.id: habit for habit in known.rig.habits}
    return [
        HabitOut(
            name=activity.name,
            usual=display.amount(activity.each_l, "L"),
            said=id in said,
            doc=habit_to_document(said.get(id) or Habit(activity=activity, per_day=usual.get(id, 0.0))),
        )
        for id, activity in ACTIVITIES.items()
        if activity.event is not None
    ]
