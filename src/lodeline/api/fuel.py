"""Gas, heat and fuel: nights of heat, bottles and tanks, what burns, what must stay, engines."""

from django.http import HttpRequest, HttpResponse
from ninja import Router

from lodeline.api.acts import ActOut, acts_out
from lodeline.api.built import built
from lodeline.api.moments import Moment, moment
from lodeline.api.out import Out
from lodeline.api.who import display_of, rig_of
from lodeline.core.carried import Standing
from lodeline.core.energy.heat import water_from_burning_l
from lodeline.core.figures import Fuel, Heat
from lodeline.core.fuel import engines, lines, nights
from lodeline.core.fuel.burns import burns
from lodeline.core.fuel.cautions import cautions_of
from lodeline.core.levers.nights import HeatNow, heat_now
from lodeline.core.rig import Store
from lodeline.core.statistics import Range
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.warmth import HeatGear
from lodeline.formats.convert import heat_to_document
from lodeline.formats.document import HeatDoc
from lodeline.logbook import models as m
from lodeline.logbook.services import fuel, rigs
from lodeline.logbook.services.derived import Derived, derived
from lodeline.text import fuel as text
from lodeline.text import heat as heat_text
from lodeline.text import standing
from lodeline.text.cautions import cautions
from lodeline.text.display import Display
from lodeline.text.times import weekday

router = Router(tags=["fuel"])
_STRIP_DAYS = 10


class NeedOfHeatOut(Out):
    """One thing that the heat needs, and how likely it ends it ``first``."""

    id: str
    words: str
    first: str


class ColdNightOut(Out):
    """A night ahead. Numbers are for drawing, in the units shown."""

    date: str
    label: str
    low: float
    low_p10: float
    low_p90: float
    burn: float
    burn_p10: float
    burn_p90: float
    short: bool
    words: str


class BoughtOut(Out):
    id: str
    words: str
    spares: str


class HeatOut(Out):
    """How the heat holds. ``ends``: what ends it and when, ``short``: whether anything does in sight; ``burn_name``:
    what the strip's burn is of."""

    ends: str
    short: bool
    needs: list[NeedOfHeatOut]
    colder: list[str]
    strip: list[ColdNightOut]
    burn_name: str
    burn_unit: str
    levers: list[BoughtOut]
    levers_words: str
    morning: str
    held: str | None


class HeldByOut(Out):
    """What is in a store, and in what is carried beside it."""

    store: str
    name: str
    words: str
    share: float | None
    cold: str | None
    apart: list[str]
    full_ones: str | None
    acts: list[ActOut]


class BurnOut(Out):
    """An appliance; ``share`` of what its store burns."""

    id: str
    name: str
    store: str
    share: float
    share_words: str
    words: str


class ListedOut(Out):
    store: str
    words: str
    apart: bool


class StaysOut(Out):
    """What must stay in a store. ``asks_pump``: whether the way to the next pump may be its line."""

    store: str
    name: str
    words: str
    asks_pump: bool


class BurnAskOut(Out):
    """What can be asked of an appliance: ``by``: hours, a night, litres. ``first``: what has to be logged before."""

    id: str
    name: str
    by: list[str]
    minutes: float
    first: str


class FuelOut(Out):
    revision: int
    now: Moment
    headline: str
    heat: HeatOut | None
    no_heat: str | None
    after: str | None
    loss: str
    stores: list[HeldByOut]
    burns: list[BurnOut]
    listed: list[ListedOut]
    wet: str | None
    stays: list[StaysOut]
    range: str | None
    ways: list[str]
    costs: list[str]
    generators: list[str]
    oil: list[str]
    quiet: str | None
    asks: list[BurnAskOut]
    ask_night: float
    ask_litres: float
    gear: HeatDoc
    carries: bool
    temp_unit: str
    volume_unit: str
    distance_unit: str
    cautions: list[str]


@router.get("/{rig_id}/fuel", response=FuelOut, operation_id="fuel")
def fuel_(request: HttpRequest, rig_id: str) -> HttpResponse:
    """Gas, heat and fuel of a rig."""
    rig = rig_of(request, rig_id)
    known, display = derived(rig), display_of(request)
    return built("fuel", rig.pk, known, lambda: _build(rig, known, display))


def _build(rig: m.Rig, known: Derived, display: Display) -> FuelOut:
    core, now = known.rig, heat_now(known.counted, rig.pk)
    driven, far = fuel.driven(known), fuel.range_of(known)
    low_c, cooking = nights.low_tonight_c(known.days(1)), fuel.cooking(known)
    frozen = fuel.is_frozen(known, low_c)
    listed = burns(core, fuel.late_days(known))
    generators = fuel.generators(known)
    goes = lines.burns_per_km(driven) if driven is not None else None
    heats = {each.store.id for each in nights.heating_stores(known)}
    ways = engines.full_to_full(known.log, driven.store, driven.store.id in heats) if driven is not None else None
    wet = water_from_burning_l((each.appliance, each.per_day * each.store.kg_per_unit) for each in listed)
    return FuelOut(
        revision=rigs.seen_at(rig, known),
        now=moment(known.now, display),
        headline=heat_text.headline(now.expected if now else None, cooking, known.forecast, display, frozen),
        heat=_heat(known, now, display) if now is not None else None,
        after=standing.counted_after(known.forecast, lambda store: store.is_bank or store.is_gas or store.is_fuel),
        no_heat=None if now is not None else heat_text.NO_HEATER,
        loss=heat_text.loss(core.heat, fuel.loss_of(known), fuel.learned_loss(known)),
        stores=_stores(known, low_c, display),
        burns=[
            BurnOut(
                id=each.appliance.id,
                name=each.appliance.name,
                store=each.store.id,
                share=each.share,
                share_words=text.share(each),
                words=text.burn(each, display),
            )
            for each in listed
        ],
        listed=[
            ListedOut(store=each.store.id, words=text.held(each, display), apart=each.is_apart)
            for each in fuel.held(known)
        ],
        wet=text.wet(wet, display),
        stays=[_stays(known, each, display) for each in known.lines.values()],
        range=text.range_words(far, display) if far is not None else None,
        ways=_goes(known, driven, goes, ways, display),
        costs=[text.cost(each, display) for each in engines.costs(core, known.book)],
        generators=[text.worth(each, display) for each in generators],
        oil=[text.oil(each) for each in generators],
        quiet=heat_text.quiet(core.quiet),
        asks=[_ask(each) for each in fuel.asks(known)],
        ask_night=display.value(Heat.cold_night_c, "degC", 0),
        ask_litres=display.value(Fuel.showers_l, "L", 0),
        gear=heat_to_document(core.heat or HeatGear()),
        carries=any(store.kind.contents for store in core.stores),
        temp_unit=display.unit("degC").unit,
        volume_unit=display.unit("L").unit,
        distance_unit=display.unit("km").unit,
        cautions=cautions(cautions_of(core), display),
    )


def _goes(
    known: Derived, driven: Tracked | None, goes: Range | None, ways: engines.Ways | None, display: Display
) -> list[str]:
    if driven is None or goes is None or ways is None:
        return []
    return text.goes(goes, driven.store, ways, engines.tells_of_ways(known.log), display)


def _heat(known: Derived, now: HeatNow, display: Display) -> HeatOut:
    expected, rig = now.expected, known.rig
    drawn = fuel.most_drawn(known, expected.strip[0])
    morning_c, held_c = fuel.unheated(known)
    return HeatOut(
        ends=heat_text.what_ends_it(expected, known.now, display),
        short=expected.first is not None,
        needs=[
            NeedOfHeatOut(id=each.store.id, words=heat_text.need(each, known.now, display), first=heat_text.first(each))
            for each in expected.needs
        ],
        colder=[heat_text.colder(each, display) for each in now.colder],
        strip=[_night(known, each, drawn, display) for each in expected.strip[:_STRIP_DAYS]],
        burn_name=drawn.name,
        burn_unit=display.unit(drawn.unit).unit,
        levers=[
            BoughtOut(
                id=each.lever.id,
                words=heat_text.bought(rig, each, display),
                spares=heat_text.both_sides(each, rig, display),
            )
            for each in now.levers
            if heat_text.helps(each)
        ],
        levers_words=heat_text.would_buy(now.tried, now.levers, display),
        morning=heat_text.morning(morning_c, display),
        held=heat_text.held(held_c, fuel.wished_c(known), display),
    )


def _night(known: Derived, night: nights.ColdNight, drawn: Store, display: Display) -> ColdNightOut:
    low, amount = night.low, night.burns[drawn.id]
    return ColdNightOut(
        date=night.date.isoformat(),
        label=weekday(night.date),
        low=display.value(low.p50, "degC", 1),
        low_p10=display.value(low.p10, "degC", 1),
        low_p90=display.value(low.p90, "degC", 1),
        burn=display.value(amount.p50, drawn.unit, 2),
        burn_p10=display.value(amount.p10, drawn.unit, 2),
        burn_p90=display.value(amount.p90, drawn.unit, 2),
        short=night.falls_short,
        words=heat_text.night(known.rig, night, display),
    )


def _stores(known: Derived, low_c: float, display: Display) -> list[HeldByOut]:
    stands = {each.store.id: each for each in fuel.standing(known)}
    cold = {each.store.id: text.cold(each, display) for each in fuel.cold_bottles(known, low_c)}
    return [
        _held_by(known, tracked, stands.get(tracked.store.id), cold.get(tracked.store.id), display)
        for tracked in known.tracked.values()
        if tracked.store.burns
    ]


def _held_by(
    known: Derived, tracked: Tracked, stands: Standing | None, cold: str | None, display: Display
) -> HeldByOut:
    store = tracked.store
    return HeldByOut(
        store=store.id,
        name=store.name,
        words=text.in_store(tracked, stands, display),
        share=tracked.share if tracked.known_since is not None else None,
        cold=cold,
        apart=_apart(store, stands, display) if stands else [],
        full_ones=text.full_ones(stands) if stands else None,
        acts=acts_out(known, display, lambda act: act.concerns(store.id)),
    )


def _apart(store: Store, stands: Standing, display: Display) -> list[str]:
    own = text.own_bottle(stands, display)
    return [*([own] if own is not None else []), *(text.apart(each, store, display) for each in stands.spares)]


def _stays(known: Derived, line: lines.MustStay, display: Display) -> StaysOut:
    return StaysOut(
        store=line.store.id,
        name=line.store.name,
        words=text.stays(line, display),
        asks_pump=lines.is_driven(known.rig, line.store),
    )


def _ask(asks: fuel.Asks) -> BurnAskOut:
    appliance, first = asks.appliance, text.read_first(asks.unread) if asks.unread is not None else ""
    minutes = appliance.kind.asks_minutes
    return BurnAskOut(id=appliance.id, name=appliance.name, by=list(asks.by), minutes=minutes, first=first)
