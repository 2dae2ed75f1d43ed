"""Rigs: everything aboard, set-up, and who is on the crew."""

from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from lodeline.accounts import access
from lodeline.accounts.models import Membership
from lodeline.api.who import rig_of, user_of
from lodeline.core.checks import rig_checks
from lodeline.core.tracking.gauges import gauge_found, gauge_words
from lodeline.core.tracking.track import Tracked
from lodeline.core.units import System, shown
from lodeline.formats.checks import check_rig
from lodeline.formats.convert import rig_to_core
from lodeline.formats.document import Part, RigDoc
from lodeline.formats.setup import Answers, rig_from
from lodeline.logbook import models as m
from lodeline.logbook.services import rigs, rows
from lodeline.logbook.services.derived import derived

router = Router(tags=["rigs"])


class CheckOut(Schema):
    place: str
    words: str
    warns: bool


class UnitOut(Schema):
    """shown = base * factor + offset."""

    unit: str
    factor: float
    offset: float


class MarkOut(Schema):
    painted: float
    found: float
    sd: float


class GaugeOut(Schema):
    """What a gauge has been found to be worth, as shares of capacity."""

    store: str
    readings: int
    words: list[str]
    marks: list[MarkOut]


class RigOut(Schema):
    """A rig as it stands. ``assumed`` are the paths that the set-up filled in by common practice."""

    id: int
    role: str
    doc: RigDoc
    assumed: list[str]
    checks: list[CheckOut]
    units: dict[str, UnitOut]


class CrewOut(Schema):
    username: str
    role: str


class Invitation(Part):
    username: Annotated[str, Field(min_length=1, max_length=150)]


def _out(request: HttpRequest, rig: m.Rig) -> RigOut:
    doc = rows.rig_document(rig)
    role = next(role for each, role in access.rigs_of(user_of(request)) if each.pk == rig.pk)
    units = {base: shown(base, System(doc.units)) for base in ("L", "kg", "km", "degC")}
    return RigOut(
        id=rig.pk, role=role, doc=doc, assumed=rig.assumed, checks=_checks(doc),
        units={base: UnitOut(unit=u.unit, factor=u.factor, offset=u.offset) for base, u in units.items()},
    )  # fmt: skip


def _checks(doc: RigDoc) -> list[CheckOut]:
    return [CheckOut(place=c.place, words=c.words, warns=c.warns) for c in rig_checks(rig_to_core(doc))]


@router.post("/set-up", response=RigOut, operation_id="set_up")
def set_up(request: HttpRequest, payload: Answers) -> RigOut:
    """A new rig from ten answers."""
    doc, assumed = rig_from(payload)
    rig = rigs.create_rig(doc, by=user_of(request), assumed=assumed)
    access.grant(user_of(request), rig, Membership.OWNER)
    return _out(request, rig)


@router.get("/{rig_id}", response=RigOut, operation_id="rig", by_alias=True)
def rig_(request: HttpRequest, rig_id: str) -> RigOut:
    return _out(request, rig_of(request, rig_id))


@router.put("/{rig_id}", response=RigOut, operation_id="change_rig", by_alias=True)
def change_rig(request: HttpRequest, rig_id: str, payload: RigDoc) -> RigOut:
    """Change a rig to what the document says."""
    rig = rigs.update_rig(rig_of(request, rig_id, owner=True), payload, by=user_of(request))
    return _out(request, rig)


@router.post("/{rig_id}/checks", response=list[CheckOut], operation_id="check_rig")
def check_draft(request: HttpRequest, rig_id: str, payload: RigDoc) -> list[CheckOut]:
    """What a changed rig would make, before it is kept: series and parallel, controllers, weight."""
    rig_of(request, rig_id)
    check_rig(payload)
    return _checks(payload)


@router.get("/{rig_id}/gauges", response=list[GaugeOut], operation_id="gauges")
def gauges(request: HttpRequest, rig_id: str) -> list[GaugeOut]:
    """What every gauge has been found to be worth."""
    found = derived(rig_of(request, rig_id))
    return [_gauge(tracked) for tracked in found.tracked.values()]


def _gauge(tracked: Tracked) -> GaugeOut:
    found = gauge_found(tracked)
    marks = [MarkOut(painted=m.painted, found=round(m.found, 3), sd=round(m.sd, 3)) for m in found.marks]
    return GaugeOut(store=tracked.store.id, readings=found.readings, words=gauge_words(found), marks=marks)


@router.get("/{rig_id}/crew", response=list[CrewOut], operation_id="crew")
def crew(request: HttpRequest, rig_id: str) -> list[CrewOut]:
    return [CrewOut(username=c.user.username, role=c.role) for c in access.crew_of(rig_of(request, rig_id))]


@router.post("/{rig_id}/crew", response=list[CrewOut], operation_id="invite")
def invite(request: HttpRequest, rig_id: str, payload: Invitation) -> list[CrewOut]:
    rig = rig_of(request, rig_id, owner=True)
    access.invite(rig, payload.username)
    return crew(request, rig_id)


@router.delete("/{rig_id}/crew/{username}", response=list[CrewOut], operation_id="remove_crew")
def remove_crew(request: HttpRequest, rig_id: str, username: str) -> list[CrewOut]:
    rig = rig_of(request, rig_id, owner=True)
    access.remove(rig, username)
    return [CrewOut(username=c.user.username, role=c.role) for c in access.crew_of(rig)]
