"""What a bank is asked: can I run it, how long to charge, what would help."""

from datetime import datetime, timedelta
from typing import Annotated, Literal

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from lodeline.api.energy import RangeOut, ahead_of, bank_of, range_out
from lodeline.api.present import Eyes
from lodeline.api.who import rig_of
from lodeline.core import energy_words as words
from lodeline.core.energy.bank import rating_ah
from lodeline.core.energy.solar import local_midnight
from lodeline.core.errors import Refused
from lodeline.core.forecast.appliance import Run, can_run
from lodeline.core.forecast.charge_time import Plan, how_long
from lodeline.core.forecast.levers import Lever, levers
from lodeline.core.tracking.track import Tracked
from lodeline.formats.document import Date, Part, Time
from lodeline.logbook.services.derived import Derived, derived

router = Router(tags=["energy"])
_TRIAL_PATHS = 600


class RunIn(Part):
    """An appliance to try. ``start``: a time with its offset; now where it is not given."""

    watts: Annotated[float, Field(gt=0, le=20_000)]
    minutes: Annotated[float, Field(gt=0, le=1440)]
    start: Time | None = None
    via: Literal["dc", "inverter"] = "inverter"
    surge: Annotated[float, Field(ge=1, le=10)] = 1.0
    heats: bool = False


class VerdictOut(Schema):
    answer: str
    current_a: float
    ah: float
    share: float
    low_without: RangeOut
    low_with: RangeOut
    low_at: str
    latest_start: str | None
    why: list[str]
    ways: list[str]
    cautions: list[str]


class ChargeIn(Part):
    """``target`` in per cent of capacity; ``until``: a date to hold through."""

    source: Annotated[str, Field(min_length=1, max_length=60)]
    target: Annotated[float, Field(gt=0, le=100)]
    until: Date


class RatingIn(Part):
    """A rating as it is printed on the thing."""

    amount: Annotated[float, Field(gt=0, le=10_000_000)]
    unit: Literal["Ah", "mAh", "Wh", "kWh"]
    nominal_v: Annotated[float, Field(ge=1, le=1000)]
    cell_v: Annotated[float, Field(ge=1, le=1000)] | None = None


class RatingOut(Schema):
    capacity_ah: float
    words: str


class PlanOut(Schema):
    hours: RangeOut | None
    fuel_l: float | None
    words: str


class ChargeOut(Schema):
    reach: PlanOut
    bulk: PlanOut | None
    two: PlanOut
    hold_once: PlanOut
    hold_daily: PlanOut
    sun_finishes_at: float | None
    sun_words: str
    cautions: list[str]


class LeverOut(Schema):
    id: str
    name: str
    low_before: float
    low_after: float
    hold_before: float
    hold_after: float
    days_before: float | None
    days_after: float | None
    no_sun_before: float
    no_sun_after: float
    buys: bool


@router.post("/{rig_id}/energy/run", response=VerdictOut, operation_id="can_run")
def run(request: HttpRequest, rig_id: str, payload: RunIn, bank: str | None = None) -> VerdictOut:
    """Whether an appliance can run now or at a time to come."""
    rig = rig_of(request, rig_id)
    found = derived(rig)
    tracked = bank_of(found, bank)
    start_h = 0.0 if payload.start is None else _hours_from(found.now, payload.start)
    asked = Run(payload.watts, payload.minutes, start_h, payload.via, payload.surge, payload.heats)
    verdict = can_run(ahead_of(found, tracked, rig.pk, _TRIAL_PATHS), tracked, asked, _widen(found, tracked))
    eyes = Eyes(found.rig)
    return VerdictOut(
        answer=verdict.answer,
        current_a=verdict.current_a,
        ah=verdict.ah,
        share=verdict.share,
        low_without=range_out(verdict.low_without),
        low_with=range_out(verdict.low_with),
        low_at=eyes.local(verdict.low_at),
        latest_start=eyes.local(verdict.latest_start) if verdict.latest_start else None,
        why=list(verdict.why),
        ways=list(verdict.ways),
        cautions=list(verdict.cautions),
    )


@router.post("/{rig_id}/energy/charge", response=ChargeOut, operation_id="how_long_to_charge")
def charge(request: HttpRequest, rig_id: str, payload: ChargeIn, bank: str | None = None) -> ChargeOut:
    """Hours of a source to a level, or to hold through a date."""
    rig = rig_of(request, rig_id)
    found = derived(rig)
    tracked = bank_of(found, bank)
    source = next((each for each in found.rig.sources if each.id == payload.source), None)
    if source is None:
        raise Refused("source", f'there is no source "{payload.source}" aboard')
    until = local_midnight(payload.until + timedelta(days=1), found.rig.timezone)
    shared, widen = ahead_of(found, tracked, rig.pk, _TRIAL_PATHS), _widen(found, tracked)
    told = how_long(shared, tracked, source, payload.target / 100, until, widen)
    return ChargeOut(
        reach=_plan(told.reach),
        bulk=_plan(told.bulk) if told.bulk else None,
        two=_plan(told.two),
        hold_once=_plan(told.hold_once),
        hold_daily=_plan(told.hold_daily),
        sun_finishes_at=told.sun_finishes_at,
        sun_words=told.sun_words,
        cautions=words.cautions(tracked.store),
    )


@router.post("/{rig_id}/rating", response=RatingOut, operation_id="rating")
def rating(request: HttpRequest, rig_id: str, payload: RatingIn) -> RatingOut:
    """What a rating in Wh, or in mAh at cell volts, is as amp-hours at the bank's nominal volts."""
    rig_of(request, rig_id)
    at_v = payload.cell_v if payload.unit in ("mAh", "Ah") else None
    capacity_ah = rating_ah(payload.amount, payload.unit, payload.nominal_v, at_v)
    at = f" at {at_v:g} V" if at_v else ""
    return RatingOut(
        capacity_ah=round(capacity_ah, 2),
        words=f"{payload.amount:,g} {payload.unit}{at} are {capacity_ah * payload.nominal_v:,.0f} Wh: "
        f"{capacity_ah:,.1f} Ah at {payload.nominal_v:g} V.",
    )


@router.get("/{rig_id}/energy/levers", response=list[LeverOut], operation_id="energy_levers")
def what_would_help(request: HttpRequest, rig_id: str, bank: str | None = None) -> list[LeverOut]:
    """What each change would do to tonight's low, the days left and the days without sun."""
    rig = rig_of(request, rig_id)
    found = derived(rig)
    tracked = bank_of(found, bank)
    shared = ahead_of(found, tracked, rig.pk, _TRIAL_PATHS)
    return [_lever(each) for each in levers(shared, tracked, _widen(found, tracked))]


def _widen(found: Derived, tracked: Tracked) -> float:
    """The spread that the bank's own record asks for, as on the Horizon."""
    return found.widen.get(tracked.store.id, 1.0)


def _hours_from(now: datetime, start: datetime) -> float:
    return max(0.0, (start - now) / timedelta(hours=1)) if start > now - timedelta(minutes=30) else -1.0


def _plan(plan: Plan) -> PlanOut:
    return PlanOut(hours=range_out(plan.hours) if plan.hours else None, fuel_l=plan.fuel_l, words=plan.words)


def _lever(each: Lever) -> LeverOut:
    fields = ("id", "name", "low_before", "low_after", "hold_before", "hold_after", "days_before", "days_after",
              "no_sun_before", "no_sun_after", "buys")  # fmt: skip
    return LeverOut(**{name: getattr(each, name) for name in fields})
