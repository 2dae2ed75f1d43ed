"""Gas, heat and fuel: nights of heat, bottles and tanks, what burns, what must stay, engines."""

from django.http import HttpRequest, HttpResponse
from ninja import Router

from lodeline.api.acts import ActOut, acts_out
from lodeline.api.built import built
from lodeline.api.moments import Moment, moment
from lodeline.api.out import Out
from lodeline.api.who import display_of, rig_of
from lodeline.core.carried import Standing
from lodeline.core.catalogue import Caution
from lodeline.core.conditions import Conditions
from lodeline.core.energy import heat
from lodeline.core.energy.heat import water_from_burning_l
from lodeline.core.figures import Heat
from lodeline.core.fuel import engines, lines, nights
from lodeline.core.fuel.burns import burns
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
from lodeline.text.cautions import cautions
from lodeline.text.display import Display

router = Router(tags=["fuel"])
_STRIP_DAYS = 10


class NeedOfHeatOut(Out):
    """One thing that the heat needs; ``share``: the chance that it ends it."""

    id: str
    name: str
    words: str
    share: float


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
    """How the heat holds. ``ends``: what ends it and when; ``burn_name``: what the strip's burn is of."""

    ends: str
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
    store_name: str
    share: float
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
    core, now = known.rig, heat_now(known, rig.pk)
    driven, far = fuel.driven(known), fuel.range_of(known)
    low_c, today = nights.low_tonight_c(known.days(1)), known.days(1)[0]
    cooking = fuel.cooking(known)
    bottles = fuel.cold_bottles(known, low_c)
    frozen = cooking is not None and any(not each.burns for each in bottles if each.store.id == cooking.store.id)
    listed = burns(core, fuel.late_days(known))
    generators = fuel.generators(known)
    goes = lines.burns_per_km(driven) if driven is not None else None
    heats = {each.store.id for each in nights.heating_stores(known)}
    ways = engines.full_to_full(known.log, driven.store, driven.store.id in heats) if driven is not None else None
    wet = water_from_burning_l((each.appliance, each.per_day * each.store.kg_per_unit) for each in listed)
    return FuelOut(
        revision=rigs.seen_at(rig, known),
        now=moment(known.now, display),
        headline=heat_text.headline(now.expected if now else None, cooking, known.forecast, far, display, frozen),
        heat=_heat(known, now, today, display) if now is not None else None,
        no_heat=None if now is not None else heat_text.NO_HEATER,
        loss=heat_text.loss(core.heat, fuel.loss_of(known), fuel.learned_loss(known)),
        stores=_stores(known, low_c, display),
        burns=[
            BurnOut(
                id=each.appliance.id,
                name=each.appliance.name,
                store=each.store.id,
                store_name=each.store.name,
                share=each.share,
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
        asks=[_ask(known, each.id) for each in core.appliances],
        ask_night=display.value(Heat.cold_night_c, "degC", 0),
        ask_litres=display.value(_SHOWERS_L, "L", 0),
        gear=heat_to_document(core.heat or HeatGear()),
        carries=any(store.kind.contents for store in core.stores),
        temp_unit=display.unit("degC").unit,
        volume_unit=display.unit("L").unit,
        distance_unit=display.unit("km").unit,
        cautions=cautions(_cautions(known), display),
    )


# Three navy showers.
_SHOWERS_L = 24.0


def _cautions(known: Derived) -> list[Caution]:
    """What is said once a page, by what is aboard."""
    rig = known.rig
    said = [Caution.CARBON_MONOXIDE, Caution.NO_COOKER_HEAT]
    if any(store.is_gas for store in rig.stores):
        said += [Caution.GAS_AT_PUMP, Caution.GAS_LICENSED]
    if any(store.is_fuel for store in rig.stores):
        said.append(Caution.FUEL_OUTSIDE)
    if rig.heaters:
        said.append(Caution.EXHAUST_SNOW)
    if any(Caution.GENERATOR_OUTDOORS in source.kind.cautions for source in rig.sources):
        said.append(Caution.GENERATOR_OUTDOORS)
    return [*said, Caution.ESTIMATE]


def _goes(
    known: Derived, driven: Tracked | None, goes: Range | None, ways: engines.Ways | None, display: Display
) -> list[str]:
    if driven is None or goes is None or ways is None:
        return []
    return text.goes(goes, driven.store, ways, engines.tells_of_ways(known.log), display)


def _heat(known: Derived, now: HeatNow, today: Conditions, display: Display) -> HeatOut:
    expected, rig = now.expected, known.rig
    stores = [each.store for each in nights.heating_stores(known)]
    drawn = max(stores, key=lambda store: expected.strip[0].burns[store.id].p50 * store.kwh_per_unit)
    gear = rig.heat or HeatGear()
    held_c = heat.coldest_held_c(rig, gear.day_c, today) if rig.heat is not None else None
    morning_c = heat.morning_c(rig, today, gear.day_c, Heat.off_at_h, Heat.morning_h)
    return HeatOut(
        ends=heat_text.what_ends_it(expected, known.now, display),
        needs=[
            NeedOfHeatOut(
                id=each.store.id,
                name=each.store.name,
                words=heat_text.need(each, known.now, display),
                share=each.p_first,
            )
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
        ],
        levers_words=heat_text.would_buy(now.tried, display),
        morning=heat_text.morning(morning_c, display),
        held=heat_text.held(held_c, gear.day_c, display),
    )


def _night(known: Derived, each: nights.ColdNight, drawn: Store, display: Display) -> ColdNightOut:
    amount = each.burns[drawn.id]

    def low(celsius: float) -> float:
        return display.value(celsius, "degC", 1)

    return ColdNightOut(
        date=each.date.isoformat(),
        label=f"{each.date:%a}",
        low=low(each.low_c),
        low_p10=low(each.low_c - each.sd_c),
        low_p90=low(each.low_c + each.sd_c),
        burn=display.value(amount.p50, drawn.unit, 2),
        burn_p10=display.value(amount.p10, drawn.unit, 2),
        burn_p90=display.value(amount.p90, drawn.unit, 2),
        short=each.falls_short,
        words=heat_text.night(known.rig, each, display),
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
    is_known = tracked.known_since is not None
    return HeldByOut(
        store=store.id,
        name=store.name,
        words=text.in_store(tracked, stands, display),
        share=min(1.0, tracked.level / store.capacity) if is_known else None,
        cold=cold,
        apart=_apart(store, stands, display) if stands else [],
        full_ones=text.full_ones(stands) if stands else None,
        acts=acts_out(known, display, lambda act: act.concerns(store.id)),
    )


def _apart(store: Store, stands: Standing, display: Display) -> list[str]:
    own = text.own_bottle(stands, display)
    return [*([own] if own is not None else []), *(text.apart(each, store, display) for each in stands.spares)]


def _stays(known: Derived, each: lines.MustStay, display: Display) -> StaysOut:
    return StaysOut(
        store=each.store.id,
        name=each.store.name,
        words=text.stays(each, display),
        asks_pump=lines.is_driven(known.rig, each.store),
    )


def _ask(known: Derived, id: str) -> BurnAskOut:
    each = fuel.appliance_of(known.rig, id)
    by = ["hours", *(["night"] if each.kind.by_cold else []), *(["litres"] if each.kind.by_litre else [])]
    tracked = known.tracked.get(each.store)
    is_read = tracked is not None and tracked.known_since is not None
    first = "" if is_read or tracked is None else text.read_first(tracked.store)
    return BurnAskOut(id=each.id, name=each.name, by=by, minutes=each.kind.asks_minutes, first=first)
