"""What a bank is asked: can I run it, how long to charge, what would help."""

from typing import Annotated

from django.http import HttpRequest
from ninja import Router
from pydantic import Field

from lodeline.api.energy import bank_of
from lodeline.api.out import Out
from lodeline.api.typed import share_of
from lodeline.api.who import display_of, rig_of
from lodeline.core.catalogue import Via
from lodeline.core.energy.bank import RatingUnit, rating_ah
from lodeline.core.errors import Refused
from lodeline.core.figures import Forecasting
from lodeline.core.forecast.appliance import RunAsk, can_run
from lodeline.core.forecast.charge_time import how_long
from lodeline.core.forecast.paths import Ahead
from lodeline.core.levers.bank import Helped, what_helps
from lodeline.core.problems import NoSource
from lodeline.formats import words as w
from lodeline.formats.document import ClockTime, Date, Part
from lodeline.logbook.services import plans
from lodeline.logbook.services.derived import Derived, derived
from lodeline.logbook.services.shared import answered
from lodeline.text import questions as text
from lodeline.text.cautions import cautions, of_bank
from lodeline.text.levers import lever_words
from lodeline.text.rig import rating as rating_words

router = Router(tags=["energy"])
_AH_DIGITS = 2
_AT_CELLS = (RatingUnit.MAH, RatingUnit.AH)


class RunIn(Part):
    """An appliance to try, from a local date and time on; from now where they are not given."""

    watts: Annotated[float, Field(gt=0, le=20_000)]
    minutes: Annotated[float, Field(gt=0, le=1440)]
    on: Date | None = None
    time: ClockTime | None = None
    via: w.ViaWord = Via.INVERTER
    surge: Annotated[float, Field(ge=1, le=10)] = 1.0
    heats: bool = False


class VerdictOut(Out):
    """The answer in words, its reasons, ways and cautions; ``answer`` says which it is."""

    answer: str
    headline: str
    words: str
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
    unit: w.RatingUnitWord
    nominal_v: Annotated[float, Field(ge=1, le=1000)]
    cell_v: Annotated[float, Field(ge=1, le=1000)] | None = None


class RatingOut(Out):
    capacity_ah: float
    words: str


class ChargeOut(Out):
    plans: list[str]
    sun: str
    cautions: list[str]


class LeverOut(Out):
    """A change, and what it does as cells: next low, days left, chance to hold, days without sun, effect."""

    id: str
    name: str
    cells: list[str]
    has_effect: bool


def _trial(known: Derived, seed: int) -> Ahead:
    return known.ahead(n_paths=Forecasting.trial_paths, seed=seed)


@router.post("/{rig_id}/energy/run", response=VerdictOut, operation_id="can_run")
def run(request: HttpRequest, rig_id: str, payload: RunIn, bank: str | None = None) -> VerdictOut:
    """Whether an appliance can run now or at a time to come."""
    rig, display = rig_of(request, rig_id), display_of(request)
    known = derived(rig)
    tracked = bank_of(known.tracked, bank)
    start = None
    if payload.time is not None:
        zone = known.rig.zone
        start = zone.instant(payload.on or zone.date(known.now), payload.time)
    asked = RunAsk(payload.watts, payload.minutes, start, payload.via, payload.surge, payload.heats)
    verdict = can_run(_trial(known, rig.pk), tracked, asked, known.scale_of(tracked.store.id))
    return VerdictOut(
        answer=verdict.answer,
        headline=text.answer(verdict.answer),
        words=text.verdict(verdict, known.now, display),
        why=[text.why(each) for each in verdict.why],
        ways=[text.way(each, known.now, display) for each in verdict.ways],
        cautions=cautions(verdict.cautions, display),
    )


@router.post("/{rig_id}/energy/charge", response=ChargeOut, operation_id="how_long_to_charge")
def charge(request: HttpRequest, rig_id: str, payload: ChargeIn, bank: str | None = None) -> ChargeOut:
    """Hours of a source to a level, or to hold through a date."""
    rig, display = rig_of(request, rig_id), display_of(request)
    known = derived(rig)
    tracked = bank_of(known.tracked, bank)
    source = next((each for each in known.rig.sources if each.id == payload.source), None)
    if source is None:
        raise Refused("source", NoSource(payload.source))
    scale = known.scale_of(tracked.store.id)
    plans = how_long(_trial(known, rig.pk), tracked, source, share_of(payload.target), payload.until, scale)
    return ChargeOut(
        plans=text.charge(plans, display),
        sun=text.sun_finishes(plans.sun),
        cautions=of_bank(tracked.store.chemistry, display),
    )


@router.post("/{rig_id}/rating", response=RatingOut, operation_id="rating")
def rating(request: HttpRequest, rig_id: str, payload: RatingIn) -> RatingOut:
    """What a rating in Wh, or in mAh at cell volts, is as amp-hours at the bank's nominal volts."""
    rig_of(request, rig_id)
    cell_v = payload.cell_v if payload.unit in _AT_CELLS else None
    capacity_ah = rating_ah(payload.amount, payload.unit, payload.nominal_v, cell_v)
    words = rating_words(payload.amount, payload.unit, cell_v, capacity_ah, payload.nominal_v)
    return RatingOut(capacity_ah=round(capacity_ah, _AH_DIGITS), words=words)


@router.get("/{rig_id}/energy/levers", response=list[LeverOut], operation_id="energy_levers")
def what_would_help(request: HttpRequest, rig_id: str, bank: str | None = None) -> list[LeverOut]:
    """What each lever would do to tonight's low, the days left and the days without sun."""
    rig, display = rig_of(request, rig_id), display_of(request)
    known = derived(rig)
    tracked = bank_of(known.tracked, bank)
    bank_id = tracked.store.id

    def tried() -> list[Helped]:
        return what_helps(plans.together_of(known, rig.pk), bank_id)

    return [
        LeverOut(
            id=helped.lever.id,
            name=lever_words(known.rig, helped.lever, display, known.book),
            cells=text.helped(helped),
            has_effect=helped.has_effect,
        )
        for helped in answered(known.forecast, ("bank", rig.pk, bank_id), tried)
    ]
