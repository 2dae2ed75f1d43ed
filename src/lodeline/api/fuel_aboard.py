"""What is asked and accepted of gas, heat and fuel."""

from typing import Annotated

from django.http import HttpRequest
from ninja import Router
from pydantic import Field

from lodeline.api.out import Changed, Out, Revision
from lodeline.api.who import Needs, display_of, rig_of, user_of
from lodeline.core.fuel.run import BurnAsk
from lodeline.formats import document as d
from lodeline.logbook.services import fuel
from lodeline.logbook.services.derived import derived
from lodeline.text import fuel as text
from lodeline.text.display import Display

router = Router(tags=["fuel"])


class BurnIn(d.Part):
    """A run of an appliance: hours at its full rate, or a night at a temperature, or litres of hot water; as shown."""

    appliance: d.Slug
    hours: Annotated[float, Field(gt=0, le=168)] | None = None
    night: Annotated[float, Field(ge=-130, le=150)] | None = None
    litres: d.Positive | None = None


class BurnAnswerOut(Out):
    answer: str
    words: list[str]


class AcceptIn(d.Part):
    """The store whose list is to be as the log shows."""

    store: d.Slug


@router.post("/{rig_id}/fuel/run", response=BurnAnswerOut, operation_id="can_burn")
def can_burn(request: HttpRequest, rig_id: str, payload: BurnIn) -> BurnAnswerOut:
    """Can I run it, of what burns. Nothing is kept."""
    rig, display = rig_of(request, rig_id), display_of(request)
    known = derived(rig)
    ask = BurnAsk(
        appliance=fuel.appliance_of(known.rig, payload.appliance),
        hours=payload.hours,
        night_c=_base(display, payload.night, "degC"),
        litres=_base(display, payload.litres, "L"),
    )
    found = fuel.can_burn(known, rig.pk, ask)
    return BurnAnswerOut(answer=found.answer, words=text.verdict(found, display))


@router.post("/{rig_id}/fuel/accept", response=Changed, operation_id="accept_burns")
def accept(request: HttpRequest, rig_id: str, payload: AcceptIn, saw: Revision) -> Changed:
    """Make the list of what burns from a store what the log shows. ``saw``: the revision that was seen."""
    rig = rig_of(request, rig_id, needs=Needs.OWNER)
    fuel.accept(rig, derived(rig), payload.store, saw=saw, by=user_of(request))
    return Changed(revision=rig.revision)


def _base(display: Display, value: float | None, unit: str) -> float | None:
    return None if value is None else display.unit(unit).to_base(value)
