"""Levers: what each brings the whole rig, what is agreed on, and *stay until*."""

from datetime import date
from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router
from pydantic import Field

from lodeline.api.moments import Moment, moment
from lodeline.api.out import Out
from lodeline.api.who import Needs, display_of, rig_of, user_of
from lodeline.core import problems as p
from lodeline.core.errors import Refused
from lodeline.core.figures import Levers
from lodeline.core.levers.lever import Lever
from lodeline.core.levers.stay import Stay, stay
from lodeline.core.levers.weigh import Weighed, weigh
from lodeline.core.stops.plan import Plan
from lodeline.core.wishes import Agreed
from lodeline.core.zone import HOURS
from lodeline.formats import document as d
from lodeline.logbook.models import Rig
from lodeline.logbook.services import plans, wishes
from lodeline.logbook.services import stay as stays
from lodeline.logbook.services.derived import Derived, derived
from lodeline.logbook.services.shared import answered
from lodeline.text import levers as text
from lodeline.text import standing
from lodeline.text.cautions import cautions
from lodeline.text.chances import chance
from lodeline.text.display import Display
from lodeline.text.times import date_words

router = Router(tags=["levers"])


class HardshipOut(Out):
    """One of the answers to how hard something is; null is never."""

    value: int | None
    words: str


class RigLeverOut(Out):
    """``gain``: what it brings, or why it brings nothing (``idle``); ``agreed_until``: where it is agreed on."""

    id: str
    words: str
    sides: str
    gain: str
    idle: bool
    bought: bool
    hardship: int | None
    days: float
    p_stay: float | None
    cautions: list[str]


class AgreedOut(Out):
    """A lever that is agreed on."""

    lever: str
    words: str
    since: str
    until: str


class LeversOut(Out):
    """Every lever, those that help first; ``until`` is the day that is asked for, with the chance as things are;
    ``after``: that all is counted from when what is due is served."""

    revision: int
    now: Moment
    until: str
    least: str
    most: str
    after: str | None
    levers: list[RigLeverOut]
    agreed: list[AgreedOut]
    hardships: list[HardshipOut]


class StepOut(Out):
    lever: str
    words: str
    sides: str
    chance: str
    p_stay: float
    hardship: int | None


class StayOut(Out):
    """The answer to *stay until*. ``stop``: which stop would do where no change does, and the latest day for it."""

    until: str
    sure: float
    words: str
    p_stay: float | None
    feasible: bool
    steps: list[StepOut]
    stop: str | None


class StayIn(d.Part):
    """``until``: the date on whose morning one leaves; ``sure``: the wanted chance."""

    until: d.Date
    sure: Annotated[float, Field(ge=0.5, le=0.99)] = 0.9


class AgreeIn(d.Part):
    """A lever, from today through a date."""

    lever: d.LeverId
    until: d.Date


class LeverRef(d.Part):
    lever: d.LeverId


class HardshipIn(d.Part):
    """How hard a lever is for this crew; null is never."""

    lever: d.LeverId
    value: d.Hardship | None


class AgreedListOut(Out):
    agreed: list[AgreedOut]


@router.get("/{rig_id}/levers", response=LeversOut, operation_id="levers")
def levers(request: HttpRequest, rig_id: str, until: Annotated[str | None, Query()] = None) -> LeversOut:
    """What each lever brings: days, the chance to stay until a day, what then comes first."""
    rig, display = rig_of(request, rig_id), display_of(request)
    known = derived(rig)
    on = stays.until_date(known, _date(until))
    counted = known.counted
    weighed = answered(counted.forecast, ("levers", rig.pk, on), lambda: _weighed(counted, rig.pk, on))
    least, most = stays.dates(known)
    return LeversOut(
        revision=known.revision,
        now=moment(known.now, display),
        until=on.isoformat(),
        least=least.isoformat(),
        most=most.isoformat(),
        after=standing.counted_after(known.forecast),
        levers=[_lever(known, each, display) for each in weighed],
        agreed=agreed_out(rig, known),
        hardships=[
            HardshipOut(value=value, words=text.hardship(value)) for value in (*range(Levers.most_hardship + 1), None)
        ],
    )


def _weighed(known: Derived, seed: int, on: date) -> tuple[Weighed, ...]:
    """The levers until a day."""
    together = plans.together_of(known, seed, stays.days_to(known, on))
    return tuple(weigh(together.joint, together.levers, stays.until_h(together.joint.ahead, on) / HOURS))


def _date(given: str | None) -> date | None:
    if not given:
        return None
    try:
        return date.fromisoformat(given)
    except ValueError:
        raise Refused("until", p.Plain.NOT_A_DATE) from None


def _lever(known: Derived, weighed: Weighed, display: Display) -> RigLeverOut:
    lever = weighed.lever
    return RigLeverOut(
        id=lever.id,
        words=text.lever_words(known.rig, lever, display, known.book),
        sides=text.both_sides(known.rig, lever, display),
        gain=text.gain(known.rig, weighed),
        idle=weighed.idle_for is not None,
        bought=lever.kind.bought,
        hardship=lever.hardship,
        days=round(weighed.gained_days, 2),
        p_stay=weighed.p_stay,
        cautions=cautions(lever.kind.cautions, display),
    )


def agreed_out(rig: Rig, known: Derived) -> list[AgreedOut]:
    """What is agreed on, today or later."""
    return [
        AgreedOut(
            lever=each.agreed.lever,
            words=text.agreed(each.words or each.agreed.lever, each.agreed),
            since=each.agreed.since.isoformat(),
            until=each.agreed.until.isoformat(),
        )
        for each in wishes.agreements(rig, known.rig.zone.date(known.now))
    ]


def agreed_words(rig: Rig, known: Derived) -> list[str]:
    """What is agreed on, each in a line."""
    return [each.words for each in agreed_out(rig, known)]


@router.post("/{rig_id}/stay", response=StayOut, operation_id="stay")
def stay_until(request: HttpRequest, rig_id: str, payload: StayIn) -> StayOut:
    """What it takes to stay until a day: the chance as things are, and the smallest set of levers. Nothing is kept."""
    rig, display = rig_of(request, rig_id), display_of(request)
    known = derived(rig)
    on = stays.until_date(known, payload.until)
    if not known.forecast.p_stay:
        # of a rig of which nothing is known there is no chance to tell
        return StayOut(
            until=on.isoformat(),
            sure=payload.sure,
            words=text.NOTHING_KNOWN,
            p_stay=None,
            feasible=False,
            steps=[],
            stop=None,
        )
    answer, found, p_after = answered(
        known.forecast, ("stay", rig.pk, on, payload.sure), lambda: _stay(known, rig.pk, on, payload.sure)
    )
    if answer is None:
        # what is true comes first: with something due the stay is counted from the stop
        assert found is not None
        return StayOut(
            until=on.isoformat(),
            sure=payload.sure,
            words=text.stop_first(found, p_after, date_words(on), display),
            p_stay=p_after,
            feasible=p_after >= payload.sure,
            steps=[],
            stop=None if p_after >= payload.sure else text.stop_instead(found, date_words(on), display),
        )
    return StayOut(
        until=on.isoformat(),
        sure=payload.sure,
        words=text.stay_answer(answer, payload.sure),
        p_stay=answer.p_stay,
        feasible=answer.feasible,
        steps=_steps(known, answer, display),
        stop=text.stop_instead(found, date_words(on), display) if found is not None else None,
    )


def _steps(known: Derived, answer: Stay, display: Display) -> list[StepOut]:
    return [
        StepOut(
            lever=each.lever.id,
            words=text.lever_words(known.rig, each.lever, display, known.book),
            sides=text.both_sides(known.rig, each.lever, display),
            chance=chance(each.p_stay),
            p_stay=each.p_stay,
            hardship=each.lever.hardship,
        )
        for each in (answer.needs if answer.p_stay_with >= Levers.shown_from else ())
    ]


def _stay(known: Derived, seed: int, on: date, sure: float) -> tuple[Stay | None, Plan | None, float]:
    """What it takes, and where nothing does, the plan of the stop that would do. With something due the stop comes
    first: no levers then, but the plan, and the chance to stay once its first outing is made."""
    together = plans.together_of(known, seed, stays.days_to(known, on))
    answer = (
        None
        if known.forecast.due
        else stay(together.joint, together.levers, stays.until_h(together.joint.ahead, on), sure)
    )
    if answer is not None and answer.feasible:
        return answer, None, answer.p_stay
    made = plans.stop_for(known, together, stays.days_of(known, on), 1 - sure)
    if made.planner.chance.due and made.plan.outings:
        return None, made.plan, made.p_after_first
    answer = answer or stay(together.joint, together.levers, stays.until_h(together.joint.ahead, on), sure)
    return answer, made.plan, answer.p_stay


def _lever_of(rig: Rig, known: Derived, id: str) -> Lever:
    """A lever of this rig.

    Raises
    ------
    Refused
        There is none, or the crew never pulls it.
    """
    together = plans.together_of(known, rig.pk)
    lever = next((each for each in together.levers if each.id == id), None)
    if lever is None:
        raise Refused("lever", p.NoLever(id))
    if lever.hardship is None:
        raise Refused("lever", p.NeverLever(id))
    return lever


@router.post("/{rig_id}/agreed", response=AgreedListOut, operation_id="agree")
def agree(request: HttpRequest, rig_id: str, payload: AgreeIn) -> AgreedListOut:
    """Agree on a lever through a date: it is part of the coming days from now on."""
    rig, display = rig_of(request, rig_id, needs=Needs.CREW), display_of(request)
    known = derived(rig)
    lever = _lever_of(rig, known, payload.lever)
    stays.until_date(known, payload.until, soonest=0)
    wished = Agreed(lever=lever.id, since=known.rig.zone.date(known.now), until=payload.until)
    words = text.lever_words(known.rig, lever, display, known.book)
    expected = {touch.store: touch.per_day for touch in lever.touches if touch.per_day}
    wishes.agree(rig, wished, words, expected, by=user_of(request))
    return AgreedListOut(agreed=agreed_out(rig, known))


@router.post("/{rig_id}/agreed/end", response=AgreedListOut, operation_id="agree_no_more")
def agree_no_more(request: HttpRequest, rig_id: str, payload: LeverRef) -> AgreedListOut:
    """End what is agreed on."""
    rig = rig_of(request, rig_id, needs=Needs.CREW)
    wishes.no_more(rig, payload.lever, by=user_of(request))
    return AgreedListOut(agreed=agreed_out(rig, derived(rig)))


@router.put("/{rig_id}/hardship", response={204: None}, operation_id="set_hardship")
def set_hardship(request: HttpRequest, rig_id: str, payload: HardshipIn) -> tuple[int, None]:
    """Say how hard a lever is for this crew."""
    rig = rig_of(request, rig_id, needs=Needs.CREW)
    wishes.set_hardship(rig, payload.lever, payload.value, by=user_of(request))
    return 204, None
