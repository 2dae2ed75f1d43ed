"""What to do next: one line for every view."""

from django.http import HttpRequest
from ninja import Router

from lodeline.api.acts import ActOut, act_out
from lodeline.api.out import Out
from lodeline.api.who import display_of, rig_of
from lodeline.core.next_step import next_step
from lodeline.logbook.services import plans
from lodeline.logbook.services.derived import derived
from lodeline.text import next_step as text

router = Router(tags=["horizon"])


class OpensOut(Out):
    """Where it is done."""

    to: str
    label: str


class NextOut(Out):
    """What to do next. ``does``: its kind; ``stores``: whom it concerns; ``acts``: the touches that log it; ``opens``:
    where it is done otherwise."""

    does: str
    words: str
    why: str
    due: bool
    stores: list[str]
    acts: list[ActOut]
    opens: OpensOut | None


@router.get("/{rig_id}/next", response=NextOut, operation_id="next_step")
def next_(request: HttpRequest, rig_id: str) -> NextOut:
    """What to do next, and when."""
    rig, display = rig_of(request, rig_id), display_of(request)
    known = derived(rig)
    found = next_step(known, known.forecast, lambda: plans.plan_of(rig))
    opens = text.opens(found)
    return NextOut(
        does=found.does,
        words=text.step(found, known.rig, known.forecast, display),
        why=text.why(found, known.rig, display),
        due=found.due,
        stores=[store.id for store in found.stores],
        acts=[act_out(known, act, display) for act in found.acts],
        opens=OpensOut(to=opens[0], label=opens[1]) if opens is not None else None,
    )
