"""Energy: the hours ahead, in and out by day, the audit, can I run it, how long to charge, what would help."""

from dataclasses import asdict
from datetime import datetime, timedelta

from django.http import HttpRequest
from ninja import Router, Schema

from lodeline.api.present import Eyes
from lodeline.api.who import rig_of, user_of
from lodeline.core import energy_words as words
from lodeline.core.checks import energy_checks
from lodeline.core.energy.appliances import APPLIANCES
from lodeline.core.energy.loads import audit
from lodeline.core.energy.yields import weakness
from lodeline.core.errors import Refused
from lodeline.core.forecast.energy_ahead import EnergyDay, Range, bank_ahead, energy_ahead
from lodeline.core.forecast.paths import Ahead
from lodeline.core.rig import Kind
from lodeline.core.tracking.energy_past import (
    EnergyPast,
    EnergySoFar,
    bank_wear,
    energy_past,
    energy_today,
    learned_load_wh,
    listed_wh,
    sun_days,
)  # fmt: skip
from lodeline.core.tracking.story import smoothed
from lodeline.core.tracking.track import Tracked
from lodeline.logbook.services import rigs
from lodeline.logbook.services.derived import Derived, derived

router = Router(tags=["energy"])
PAST_DAYS, DRAWN_HOURS = 14, 24
# How far back the array is judged.
_JUDGED_DAYS = 60
_PATHS = 2000


class RangeOut(Schema):
    p10: float
    p50: float
    p90: float


class HourOut(Schema):
    """The level at a time, as shares of capacity; also a low or a high."""

    at: str
    p10: float
    p50: float
    p90: float


class EnergyDayOut(Schema):
    """One date, in Wh. ``taken`` is None where no yield was logged; ``full``: the bank was full, the yield is a lower
    bound."""

    date: str
    coming: bool
    sky: str | None
    offered: float
    offered_low: float
    offered_high: float
    taken: float | None
    wasted: float | None
    other: float
    load: float
    load_logged: bool
    full: bool


class AuditLineOut(Schema):
    id: str
    name: str
    day_wh: float
    night_wh: float


class AuditOut(Schema):
    lines: list[AuditLineOut]
    listed_wh: float
    learned: RangeOut
    assumed: bool
    differs: bool
    words: str


class EnergyCheckOut(Schema):
    place: str
    words: str
    warns: bool


class ApplianceOut(Schema):
    id: str
    name: str
    watts: float
    minutes: float
    via: str
    surge: float
    heats: bool


class SourceOut(Schema):
    id: str
    kind: str
    amps: float


class BankOut(Schema):
    id: str
    name: str


class EnergyOut(Schema):
    """A bank's whole view; ``known`` is False before its first reading, and ``banks`` is empty without a battery."""

    banks: list[BankOut]
    bank: str | None
    known: bool
    headline: str
    detail: str
    now: str
    timezone: str
    capacity_ah: float
    volts: float
    line: float
    level: RangeOut | None
    past: list[HourOut]
    hours: list[HourOut]
    low: HourOut | None
    high: HourOut | None
    days: list[EnergyDayOut]
    audit: AuditOut | None
    array: list[str]
    weak: str | None
    wear: list[str]
    checks: list[EnergyCheckOut]
    appliances: list[ApplianceOut]
    sources: list[SourceOut]
    cautions: list[str]


@router.get("/{rig_id}/energy", response=EnergyOut, operation_id="energy")
def energy(request: HttpRequest, rig_id: str, bank: str | None = None) -> EnergyOut:
    """In and out by day, the hours ahead, the audit and the array of one bank; the first where none is named."""
    rig = rig_of(request, rig_id)
    return _build(derived(rig), bank, rig.pk)


@router.post("/{rig_id}/energy/accept-loads", response=EnergyOut, operation_id="accept_loads")
def accept_loads(request: HttpRequest, rig_id: str, bank: str | None = None) -> EnergyOut:
    """Make the list of loads add up to what the log shows."""
    rig = rig_of(request, rig_id, owner=True)
    found = derived(rig)
    tracked = bank_of(found, bank)
    if tracked.assumed:
        raise Refused("loads", "there is too little log yet to say what the rig really draws")
    rigs.accept_loads(rig, learned_load_wh(found.rig, tracked)[1], by=user_of(request))
    rig.refresh_from_db()
    return _build(derived(rig), bank, rig.pk)


def bank_of(found: Derived, bank: str | None) -> Tracked:
    banks = [each for each in found.tracked.values() if each.store.kind is Kind.BATTERY]
    chosen = next((each for each in banks if bank in (None, each.store.id)), None)
    if chosen is None:
        raise Refused("bank", f'there is no bank "{bank}" aboard' if bank else "there is no battery aboard")
    if chosen.known_since is None:
        raise Refused("bank", f"{chosen.store.name} was never read; log a reading first")
    return chosen


def ahead_of(found: Derived, tracked: Tracked, seed: int, n_paths: int) -> Ahead:
    days = found.forecast.horizon_days
    return bank_ahead(found.rig, tracked, found.outlook, found.now, seed, days, n_paths)


def range_out(found: Range) -> RangeOut:
    return RangeOut(p10=found.p10, p50=found.p50, p90=found.p90)


def _build(found: Derived, bank: str | None, seed: int) -> EnergyOut:
    eyes = Eyes(found.rig)
    banks = [store for store in found.rig.stores if store.kind is Kind.BATTERY]
    store = next((each for each in banks if bank in (None, each.id)), None)
    if store is None and banks:
        raise Refused("bank", f'there is no bank "{bank}" aboard')
    tracked = found.tracked[store.id] if store else None
    known = tracked is not None and tracked.known_since is not None
    out = EnergyOut(
        banks=[BankOut(id=each.id, name=each.name) for each in banks], bank=store.id if store else None, known=known,
        headline="There is no battery aboard." if store is None else f"{store.name} was never read.",
        detail="Add one on the Rig view." if store is None else "Log a reading in the Round, and its hours are told.",
        now=eyes.local(found.now), timezone=found.rig.timezone, capacity_ah=store.capacity if store else 0.0,
        volts=store.volts if store else 0.0, line=store.line if store else 0.0, level=None, past=[], hours=[], low=None,
        high=None, days=[], audit=None, array=[], weak=None, wear=[],
        checks=[EnergyCheckOut(place=c.place, words=c.words, warns=c.warns) for c in energy_checks(found.rig)],
        appliances=[ApplianceOut(**asdict(each)) for each in APPLIANCES],
        sources=[SourceOut(id=s.id, kind=s.kind, amps=s.amps) for s in found.rig.sources],
        cautions=words.cautions(store) if store else [],
    )  # fmt: skip
    if known and tracked is not None:
        _fill(out, found, tracked, eyes, seed)
    return out


def _fill(out: EnergyOut, found: Derived, tracked: Tracked, eyes: Eyes, seed: int) -> None:
    """What can be told once the bank was read."""
    store = tracked.store
    shared = ahead_of(found, tracked, seed, _PATHS)
    ahead = energy_ahead(shared, tracked, widen=found.widen.get(tracked.store.id, 1.0))
    past = energy_past(found.rig, found.log, tracked, found.now, _JUDGED_DAYS)
    said = words.headline(found.rig, store, ahead, found.now, found.forecast.horizon_days)
    out.headline, out.detail = said.headline, said.detail
    mine = found.forecast.of(store.id)
    out.level = RangeOut(
        p10=(mine.level_p10 or 0.0) / store.capacity, p50=(mine.level or 0.0) / store.capacity,
        p90=(mine.level_p90 or 0.0) / store.capacity,
    )  # fmt: skip
    out.past = _past_hours(tracked, eyes, found.now)
    out.hours = [HourOut(at=eyes.local(at), p10=r.p10, p50=r.p50, p90=r.p90) for at, r in ahead.hours]
    out.low = _turn(eyes, ahead.low, ahead.low_at)
    out.high = _turn(eyes, ahead.high, ahead.high_at) if ahead.rises else None
    skies = {day.date: day.sky for day in found.outlook} | {day.date: day.sky for day in found.log.days}
    today = energy_today(found.rig, found.log, tracked, found.now)
    out.days = [_past_day(each) for each in past[-PAST_DAYS:]]
    out.days += [_coming_day(each, skies.get(each.date), None if i else today) for i, each in enumerate(ahead.days[:7])]
    learned, listed = learned_load_wh(found.rig, tracked), listed_wh(found.rig)
    out.audit = AuditOut(
        lines=[AuditLineOut(id=a.id, name=a.name, day_wh=a.day_wh, night_wh=a.night_wh) for a in audit(found.rig)],
        listed_wh=listed, learned=RangeOut(p10=learned[0], p50=learned[1], p90=learned[2]), assumed=tracked.assumed,
        differs=words.audit_differs(listed, learned, tracked.assumed) and bool(found.rig.loads),
        words=words.audit_words(listed, learned, tracked.assumed),
    )  # fmt: skip
    out.array = words.array_words(found.rig, tracked, sun_days(past))
    weak = weakness(sun_days(past))
    out.weak = words.weakness_words(weak) if weak else None
    used = bank_wear(tracked)
    out.wear = words.cold_words(store, shared.days)
    out.wear += words.wear_words(store, used, found.now) if used else []


def _turn(eyes: Eyes, found: Range, at: datetime) -> HourOut:
    return HourOut(at=eyes.local(at), p10=found.p10, p50=found.p50, p90=found.p90)


_Z90 = 1.28155


def _past_hours(tracked: Tracked, eyes: Eyes, now: datetime) -> list[HourOut]:
    capacity, since = tracked.store.capacity, now - timedelta(hours=DRAWN_HOURS)
    return [
        HourOut(
            at=eyes.local(p.at), p10=max(0.0, (p.level - _Z90 * p.sd) / capacity),
            p50=min(1.0, max(0.0, p.level / capacity)), p90=min(1.0, (p.level + _Z90 * p.sd) / capacity),
        )
        for p in smoothed(tracked.history) if p.at >= since
    ]  # fmt: skip


def _past_day(each: EnergyPast) -> EnergyDayOut:
    sun = each.sun
    return EnergyDayOut(
        date=sun.date.isoformat(), coming=False, sky=sun.sky, offered=each.offered_wh, offered_low=each.offered_wh,
        offered_high=each.offered_wh, taken=sun.taken_wh, wasted=None, other=each.other_wh, load=each.load_wh,
        load_logged=each.load_logged, full=sun.full,
    )  # fmt: skip


def _coming_day(each: EnergyDay, sky: str | None, so_far: EnergySoFar | None) -> EnergyDayOut:
    """A date still to come; of today also what has been."""
    gone = so_far or EnergySoFar(0.0, 0.0, 0.0, 0.0)
    offered = each.offered_wh
    return EnergyDayOut(
        date=each.date.isoformat(), coming=True, sky=sky, offered=gone.offered_wh + offered.p50,
        offered_low=gone.offered_wh + offered.p10, offered_high=gone.offered_wh + offered.p90,
        taken=gone.taken_wh + each.taken_wh, wasted=each.wasted_wh, other=gone.other_wh,
        load=gone.load_wh + each.load_wh, load_logged=False, full=False,
    )  # fmt: skip
