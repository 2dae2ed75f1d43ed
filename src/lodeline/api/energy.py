"""Energy: the hours ahead, in and out by day, the audit, the array, how the bank is used."""

from collections.abc import Mapping
from datetime import datetime, timedelta

from django.http import HttpRequest
from ninja import Router

from lodeline.api.moments import Moment, aboard, moment
from lodeline.api.out import BandOut, Out, RangeOut, Revision
from lodeline.api.who import Needs, display_of, rig_of, user_of
from lodeline.core.catalogue import GaugeKind, SkyWord
from lodeline.core.catalogue.appliances import APPLIANCES
from lodeline.core.checks import energy_checks
from lodeline.core.energy.loads import AuditLine, audit, listed_wh
from lodeline.core.energy.yields import weakness
from lodeline.core.errors import Refused
from lodeline.core.forecast.change import NO_CHANGE
from lodeline.core.forecast.energy_ahead import EnergyAhead, EnergyDay, energy_ahead
from lodeline.core.levers.agreed import agreed_changes
from lodeline.core.levers.lever import Aboard
from lodeline.core.problems import NeverRead, NoBank, Plain
from lodeline.core.statistics import Range
from lodeline.core.tracking.energy_past import (
    EnergyPast,
    audit_differs,
    bank_wear,
    energy_past,
    energy_today,
    learned_load_wh,
    levels_since,
    strengths,
    sun_days,
)
from lodeline.core.tracking.tracked import Tracked
from lodeline.logbook import models as m
from lodeline.logbook.services import rigs
from lodeline.logbook.services.derived import Derived, derived, levels
from lodeline.text import energy as text
from lodeline.text import questions
from lodeline.text import rig as rig_text
from lodeline.text.cautions import of_bank
from lodeline.text.display import Display

router = Router(tags=["energy"])
PAST_DAYS, COMING_DAYS = 14, 7
_DRAWN = timedelta(hours=24)
# Through which day from today a charge is asked to hold, until another is chosen.
_HOLD_DAYS = 4
_STARTS = 36
# How far back the array is judged.
_JUDGED_DAYS = 60


class TurnOut(Out):
    """A low or a high: where it lies, and what is written beside it."""

    at: str
    p10: float
    p90: float
    words: str


class NightOut(Out):
    """A local midnight, and what is written under it."""

    at: str
    label: str


class EnergyDayOut(Out):
    """One date, in Wh, for drawing; ``words`` and the ``cells`` of the table say the same. ``taken`` is null where no
    yield was logged; ``full``: the bank was full, the yield is a lower bound."""

    date: str
    coming: bool
    sky: str | None
    offered: float
    offered_low: float
    offered_high: float
    taken: float | None
    other: float
    load: float
    load_logged: bool
    full: bool
    words: str
    cells: list[str]


class AuditLineOut(Out):
    id: str
    name: str
    day_wh: float
    night_wh: float
    day: str
    night: str
    whole: str


class AuditOut(Out):
    """``accept``: the button that takes the learned draw as the list, where the two differ."""

    lines: list[AuditLineOut]
    words: str
    accept: str | None


class CheckLine(Out):
    words: str
    warns: bool


class ApplianceOut(Out):
    id: str
    name: str
    watts: float
    minutes: float
    via: str
    surge: float
    heats: bool


class ChoiceOut(Out):
    id: str
    name: str


class EnergyOut(Out):
    """A bank's whole view; ``known`` is False before its first reading, and ``banks`` is empty without a battery."""

    banks: list[ChoiceOut]
    bank: str | None
    revision: int
    known: bool
    headline: str
    detail: str
    now: Moment
    line: float
    line_words: str
    hours_words: str
    level: RangeOut | None
    past: list[BandOut]
    hours: list[BandOut]
    nights: list[NightOut]
    low: TurnOut | None
    high: TurnOut | None
    days: list[EnergyDayOut]
    audit: AuditOut | None
    array: list[str]
    weak: str | None
    wear: list[str]
    checks: list[CheckLine]
    appliances: list[ApplianceOut]
    starts: list[ChoiceOut]
    sources: list[ChoiceOut]
    hold_least: str
    hold_usual: str
    hold_most: str
    cautions: list[str]


@router.get("/{rig_id}/energy", response=EnergyOut, operation_id="energy")
def energy(request: HttpRequest, rig_id: str, bank: str | None = None) -> EnergyOut:
    """In and out by day, the hours ahead, the audit and the array of one bank; the first where none is named."""
    rig = rig_of(request, rig_id)
    return _build(rig, derived(rig), bank, display_of(request))


@router.post("/{rig_id}/energy/accept-loads", response=EnergyOut, operation_id="accept_loads")
def accept_loads(request: HttpRequest, rig_id: str, saw: Revision, bank: str | None = None) -> EnergyOut:
    """Make the list of loads add up to what the log shows. ``saw``: the revision of the audit that was accepted."""
    rig = rig_of(request, rig_id, needs=Needs.OWNER)
    known = levels(rig)
    tracked = bank_of(known.tracked, bank)
    if tracked.assumed:
        raise Refused("loads", Plain.TOO_LITTLE_LOG)
    rigs.accept_loads(rig, learned_load_wh(known.rig, tracked)[1], saw=saw, by=user_of(request))
    return _build(rig, derived(rig), bank, display_of(request))


def bank_of(tracked: Mapping[str, Tracked], bank: str | None) -> Tracked:
    """The bank that is asked about, the first where none is named.

    Raises
    ------
    Refused
        There is none, or it was never read.
    """
    chosen = next((each for each in tracked.values() if each.store.is_bank and bank in (None, each.store.id)), None)
    if chosen is None:
        raise Refused("bank", NoBank(bank))
    if chosen.known_since is None:
        raise Refused("bank", NeverRead(chosen.store.name))
    return chosen


def range_out(bounds: Range) -> RangeOut:
    """A range as it is sent."""
    return RangeOut(p10=bounds.p10, p50=bounds.p50, p90=bounds.p90)


def _build(rig: m.Rig, known: Derived, bank: str | None, display: Display) -> EnergyOut:
    banks = known.rig.banks
    store = next((each for each in banks if bank in (None, each.id)), None)
    if store is None and banks:
        raise Refused("bank", NoBank(bank))
    tracked = known.tracked[store.id] if store else None
    sentence = text.no_bank(store)
    today = known.rig.zone.date(known.now)
    out = EnergyOut(
        banks=[ChoiceOut(id=each.id, name=each.name) for each in banks],
        bank=store.id if store else None,
        known=tracked is not None and tracked.known_since is not None,
        headline=sentence.headline,
        detail=sentence.detail,
        revision=rigs.seen_at(rig, known),
        now=moment(known.now, display),
        line=store.line if store else 0.0,
        line_words="",
        hours_words="",
        level=None,
        past=[],
        hours=[],
        nights=[],
        low=None,
        high=None,
        days=[],
        audit=None,
        array=[],
        weak=None,
        wear=[],
        checks=[CheckLine(words=rig_text.check(c, display), warns=c.warns) for c in energy_checks(known.rig)],
        appliances=[
            ApplianceOut(
                id=each.id,
                name=each.name,
                watts=each.watts,
                minutes=each.minutes,
                via=each.via,
                surge=each.surge,
                heats=each.heats,
            )
            for each in APPLIANCES
        ],
        starts=[],
        sources=[ChoiceOut(id=s.id, name=questions.source(s)) for s in known.rig.sources],
        hold_least=today.isoformat(),
        hold_usual=(today + timedelta(days=_HOLD_DAYS)).isoformat(),
        hold_most=(today + timedelta(days=known.forecast.horizon_days - 1)).isoformat(),
        cautions=of_bank(store.chemistry, display) if store else [],
    )
    if out.known and tracked is not None:
        _fill(out, known, tracked, display, rig.pk)
    return out


def _fill(out: EnergyOut, known: Derived, tracked: Tracked, display: Display, seed: int) -> None:
    """What can be said once the bank was read."""
    store, rig = tracked.store, known.rig
    shared = known.ahead(seed=seed)
    agreed = agreed_changes(Aboard(known=known, ahead=shared)).get(store.id, NO_CHANGE)
    ahead = energy_ahead(shared, tracked, agreed, known.scale_of(store.id))
    sentence = text.headline(rig, known.forecast.of(store.id), known.forecast, ahead, display)
    out.headline, out.detail = sentence.headline, sentence.detail
    _draw_hours(out, known, tracked, ahead, display)
    past = energy_past(rig, known.log, tracked, known.now, _JUDGED_DAYS)
    skies = {day.date: day.sky for day in known.outlook} | {day.date: day.sky for day in known.log.days}
    today = energy_today(rig, known.log, tracked, known.now)
    coming = [ahead.days[0].with_past(today), *ahead.days[1:COMING_DAYS]]
    out.days = [_past_day(each, display) for each in past[-PAST_DAYS:]]
    out.days += [_coming_day(each, skies.get(each.date), display) for each in coming]
    out.audit = _audit(known, tracked, display)
    sun = sun_days(past)
    out.array = text.array(rig, strengths(tracked), sun, display)
    weak = weakness(sun)
    out.weak = text.weakness(weak) if weak else None
    used = bank_wear(rig, tracked)
    out.wear = text.cold(store, shared.days)
    out.wear += text.wear(store, used, known.now, store.gauge.kind is GaugeKind.SHUNT) if used else []


def _draw_hours(out: EnergyOut, known: Derived, tracked: Tracked, ahead: EnergyAhead, display: Display) -> None:
    store, now = tracked.store, known.now
    low, high = tracked.level_range
    level = Range(low, tracked.level, high).over(store.capacity)
    turns = (ahead.low, ahead.low_at), (ahead.high, ahead.high_at) if ahead.rises else None
    out.level = range_out(level)
    out.line_words = text.line(store)
    out.hours_words = text.hours(level, turns[0], turns[1], store.line, display)
    out.past = _past_hours(tracked, display, now)
    out.hours = [BandOut(at=display.iso(at), p10=r.p10, p50=r.p50, p90=r.p90) for at, r in ahead.hours]
    out.nights = _nights(now, ahead.hours[-1][0], display)
    out.low = _turn("low", *turns[0], display)
    out.high = _turn("high", *turns[1], display) if turns[1] else None
    out.starts = _starts([at for at, _ in ahead.hours], display)


def _starts(hours: list[datetime], display: Display) -> list[ChoiceOut]:
    """The coming hours at which something may be started, by local date and time."""
    moments = {text.start(at, display): display.local(at) for at in hours if text.is_whole_hour(at, display)}
    chosen = list(moments.items())[:_STARTS]
    return [ChoiceOut(id=f"{local.date().isoformat()} {aboard(local)}", name=name) for name, local in chosen]


def _nights(now: datetime, until: datetime, display: Display) -> list[NightOut]:
    """The local midnights that are drawn."""
    zone = display.zone
    on = zone.date(now - _DRAWN)
    nights = []
    while (at := zone.midnight(on)) <= until:
        nights.append(NightOut(at=display.iso(at), label=text.night(on)))
        on += timedelta(days=1)
    return nights


def _turn(name: str, bounds: Range, at: datetime, display: Display) -> TurnOut:
    return TurnOut(at=display.iso(at), p10=bounds.p10, p90=bounds.p90, words=text.turn(name, bounds, at, display))


def _past_hours(tracked: Tracked, display: Display, now: datetime) -> list[BandOut]:
    return [
        BandOut(at=display.iso(then.at), p10=then.p10, p50=then.p50, p90=then.p90)
        for then in levels_since(tracked, now - _DRAWN)
    ]


def _past_day(past: EnergyPast, display: Display) -> EnergyDayOut:
    sun = past.sun
    return EnergyDayOut(
        date=sun.date.isoformat(),
        coming=False,
        sky=sun.sky,
        offered=past.offered_wh,
        offered_low=past.offered_wh,
        offered_high=past.offered_wh,
        taken=sun.taken_wh,
        other=past.other_wh,
        load=past.load_wh,
        load_logged=past.load_logged,
        full=sun.full,
        words=text.past_day(past, display),
        cells=text.past_cells(past, display),
    )


def _coming_day(day: EnergyDay, sky: SkyWord | None, display: Display) -> EnergyDayOut:
    offered = day.offered_wh
    return EnergyDayOut(
        date=day.date.isoformat(),
        coming=True,
        sky=sky,
        offered=offered.p50,
        offered_low=offered.p10,
        offered_high=offered.p90,
        taken=day.taken_wh,
        other=day.other_wh,
        load=day.load_wh,
        load_logged=False,
        full=False,
        words=text.coming_day(day, display),
        cells=text.coming_cells(day, sky, display),
    )


def _audit(known: Derived, tracked: Tracked, display: Display) -> AuditOut:
    learned, listed = learned_load_wh(known.rig, tracked), listed_wh(known.rig)
    differs = bool(known.rig.loads) and audit_differs(listed, learned, tracked.assumed)
    lines = sorted(audit(known.rig), key=lambda line: -line.wh)
    return AuditOut(
        lines=[_audit_line(line, display) for line in lines],
        words=text.audit(listed, learned, tracked.assumed, display),
        accept=text.accept(learned[1], display) if differs else None,
    )


def _audit_line(line: AuditLine, display: Display) -> AuditLineOut:
    return AuditLineOut(
        id=line.id,
        name=text.line_name(line),
        day_wh=line.day_wh,
        night_wh=line.night_wh,
        day=display.amount(line.day_wh, "Wh"),
        night=display.amount(line.night_wh, "Wh"),
        whole=display.amount(line.wh, "Wh"),
    )
