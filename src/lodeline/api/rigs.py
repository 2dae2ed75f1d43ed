"""Rigs: everything aboard, set-up, and who is on the crew."""

from typing import Annotated

from django.conf import settings
from django.db import transaction
from django.http import HttpRequest
from ninja import Router
from pydantic import Field

from lodeline.accounts import access
from lodeline.accounts.models import Membership
from lodeline.accounts.problems import NotItsName
from lodeline.api.failures import Problem, of
from lodeline.api.moments import Moment, moment
from lodeline.api.out import Out, Revision
from lodeline.api.who import Needs, display_of, rig_of, shown_as, user_of
from lodeline.core.catalogue import UNITS
from lodeline.core.checks import Check, rig_checks
from lodeline.core.energy.ageing import holds_share
from lodeline.core.errors import Refused
from lodeline.core.figures import Energy
from lodeline.core.log import Log
from lodeline.core.problems import Plain
from lodeline.core.tracking.gauges import learned_gauge
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.zone import Zone
from lodeline.formats.checks import check_rig
from lodeline.formats.convert import rig_to_core
from lodeline.formats.document import Name, Part, RigDoc
from lodeline.formats.setup import Answers, rig_from
from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services import rigs, rows, transfer
from lodeline.logbook.services.derived import levels
from lodeline.logbook.services.shared import whole_log
from lodeline.text import rig as text
from lodeline.text.cautions import cautions
from lodeline.text.display import Display
from lodeline.text.problems import problem

router = Router(tags=["rigs"])
_MARK_DIGITS = 3


class CheckOut(Out):
    place: str
    words: str
    warns: bool


class TriedOut(Out):
    """What a draft of a rig would make, or what is wrong with it."""

    checks: list[CheckOut]
    refused: Problem | None


class UnitOut(Out):
    """shown = base * factor + offset."""

    unit: str
    factor: float
    offset: float


class PanelMarkFound(Out):
    begins: float
    sd: float


class GaugeOut(Out):
    """What a gauge has been found to be worth, as shares of capacity."""

    store: str
    readings: int
    words: list[str]
    marks: list[PanelMarkFound]


class LineOut(Out):
    """One part on the sheet: its place in the document, its name, and what it is."""

    place: str
    name: str
    words: str


class CopyIn(Part):
    """What the copy is called; by its rig where nobody says."""

    name: Name | None = None


class PutOut(Out):
    """A part that the set-up put aboard or filled in, and why."""

    place: str
    words: str


class RigOut(Out):
    """A rig as it stands at a revision. ``assumed``: the paths that the set-up filled in by common practice."""

    id: int
    revision: int
    role: str
    doc: RigDoc
    sheet: list[LineOut]
    assumed: list[str]
    put_aboard: list[PutOut]
    checks: list[CheckOut]
    cautions: list[str]
    units: dict[str, UnitOut]


class ConflictOut(Out):
    """That a document was changed meanwhile, and what stands there now."""

    place: str
    label: str
    problem: str
    stands: RigOut


class ConfirmIn(Part):
    """Paths of what was assumed and is right."""

    paths: Annotated[list[Annotated[str, Field(max_length=200)]], Field(min_length=1, max_length=500)]


class DeleteIn(Part):
    """The rig's name, typed."""

    name: Annotated[str, Field(max_length=120)]


class RoleIn(Part):
    role: Annotated[str, Field(pattern="^(reader|crew|owner)$")]


class InviteIn(Part):
    role: Annotated[str, Field(pattern="^(reader|crew)$")] = Membership.CREW


class InvitationOut(Out):
    """A link that works once, until it expires. ``code``: the same as rows of a QR code, ``1`` for dark."""

    path: str
    expires: Moment
    code: list[str]


class OpenInvitationOut(Out):
    """An invitation that nobody used yet; its link is not kept."""

    id: int
    role: str
    by: str
    expires: Moment


class CrewOut(Out):
    username: str
    role: str


def _out(request: HttpRequest, rig: m.Rig) -> RigOut:
    whole = rows.rig_rows(rig)
    role = next(role for each, role in access.rigs_of(user_of(request)) if each.pk == rig.pk)
    display = Display.of(whole.core)
    shown = {base: display.unit(base) for base in UNITS}
    lines = [LineOut(place=each.place, name=each.name, words=each.words) for each in text.sheet(whole.core, display)]
    several = (each for source in whole.core.sources for each in source.kind.cautions)
    return RigOut(
        id=rig.pk,
        revision=rig.revision,
        role=role,
        doc=whole.doc,
        sheet=lines,
        assumed=rig.assumed,
        put_aboard=[PutOut(place=place, words=words) for place, words in text.put_aboard(whole.core, rig.assumed)],
        checks=_checks(whole.doc, display),
        cautions=cautions(several, display),
        units={base: UnitOut(unit=u.unit, factor=u.factor, offset=u.offset) for base, u in shown.items()},
    )


def _checks(doc: RigDoc, display: Display) -> list[CheckOut]:
    return [_check(each, display) for each in rig_checks(rig_to_core(doc))]


def _check(check: Check, display: Display) -> CheckOut:
    return CheckOut(place=check.place, words=text.check(check, display), warns=check.warns)


@router.post("/set-up", response=RigOut, operation_id="set_up", by_alias=True)
def set_up(request: HttpRequest, payload: Answers) -> RigOut:
    """A new rig from ten answers."""
    shown_as(request, Display(payload.units, Zone(payload.timezone)))
    doc, assumed = rig_from(payload)
    with transaction.atomic():
        rig = rigs.create_rig(doc, by=user_of(request), assumed=assumed)
        access.grant(user_of(request), rig, Membership.OWNER)
        if payload.place is not None:
            rigs.stands_at(rig, payload.place, clock.now())
    return _out(request, rig)


@router.post("/{rig_id}/copy", response=RigOut, operation_id="copy_rig", by_alias=True)
def copy_rig(request: HttpRequest, rig_id: str, payload: CopyIn) -> RigOut:
    """A copy of a rig with its log, to try a change on; nobody else is on its crew."""
    row, user = rig_of(request, rig_id, needs=Needs.OWNER), user_of(request)
    copied = transfer.copy(row, payload.name or text.copied(row.name), by=user)
    access.grant(user, copied, Membership.OWNER)
    return _out(request, copied)


@router.get("/{rig_id}", response=RigOut, operation_id="rig", by_alias=True)
def rig_(request: HttpRequest, rig_id: str) -> RigOut:
    return _out(request, rig_of(request, rig_id))


@router.put("/{rig_id}", response={200: RigOut, 409: ConflictOut}, operation_id="change_rig", by_alias=True)
def change_rig(request: HttpRequest, rig_id: str, payload: RigDoc, saw: Revision) -> tuple[int, RigOut | ConflictOut]:
    """Change a rig to what the document says. ``saw``: the revision that it was made from."""
    row = rig_of(request, rig_id, needs=Needs.OWNER)
    try:
        return 200, _out(request, rigs.update_rig(row, payload, saw=saw, by=user_of(request)))
    except rigs.ChangedSince:
        row.refresh_from_db()
        words = problem(Plain.CHANGED_MEANWHILE, display_of(request))
        return 409, ConflictOut(place="", label="", problem=words, stands=_out(request, row))


@router.post("/{rig_id}/confirm", response=RigOut, operation_id="confirm_assumed", by_alias=True)
def confirm(request: HttpRequest, rig_id: str, payload: ConfirmIn) -> RigOut:
    """Take as right what was assumed."""
    return _out(request, rigs.confirm(rig_of(request, rig_id, needs=Needs.OWNER), payload.paths, by=user_of(request)))


@router.post("/{rig_id}/delete", response={204: None}, operation_id="delete_rig")
def delete_rig(request: HttpRequest, rig_id: str, payload: DeleteIn) -> tuple[int, None]:
    """Delete a rig and its log, for good. The server's keeper finds an export of it beside the data."""
    rig = rig_of(request, rig_id, needs=Needs.OWNER)
    if payload.name.strip() != rig.name:
        raise Refused("name", NotItsName(rig.name))
    with whole_log():
        transfer.keep_export(rig, "delete")
    rigs.delete_rig(rig)
    return 204, None


@router.post("/{rig_id}/leave", response={204: None}, operation_id="leave_rig")
def leave(request: HttpRequest, rig_id: str) -> tuple[int, None]:
    """Leave a rig that one is on; its only owner cannot."""
    access.remove(rig_of(request, rig_id), user_of(request).username)
    return 204, None


@router.post("/{rig_id}/checks", response=TriedOut, operation_id="check_rig")
def check_draft(request: HttpRequest, rig_id: str, payload: RigDoc) -> TriedOut:
    """What a changed rig would make, before it is kept: series and parallel, controllers, weight.

    A draft that is not right yet is no fault: what is wrong is the answer."""
    rig_of(request, rig_id)
    display = display_of(request)
    try:
        check_rig(payload)
    except Refused as error:
        return TriedOut(checks=[], refused=of(error, display))
    return TriedOut(checks=_checks(payload, display), refused=None)


@router.get("/{rig_id}/gauges", response=list[GaugeOut], operation_id="gauges")
def gauges(request: HttpRequest, rig_id: str) -> list[GaugeOut]:
    """What every gauge has been found to be worth."""
    known = levels(rig_of(request, rig_id))
    return [_gauge(tracked, known.log) for tracked in known.tracked.values()]


def _gauge(tracked: Tracked, log: Log) -> GaugeOut:
    learned = learned_gauge(tracked)
    held = holds_share(tracked.store, log) if tracked.store.is_bank else None
    aged = [text.holds(held)] if held and held.share + held.sd < Energy.ageing_told else []
    marks = [PanelMarkFound(begins=round(m.begins, _MARK_DIGITS), sd=round(m.sd, _MARK_DIGITS)) for m in learned.marks]
    return GaugeOut(store=tracked.store.id, readings=learned.readings, words=[*aged, *text.gauge(learned)], marks=marks)


@router.get("/{rig_id}/crew", response=list[CrewOut], operation_id="crew")
def crew(request: HttpRequest, rig_id: str) -> list[CrewOut]:
    return _crew(rig_of(request, rig_id))


@router.post("/{rig_id}/invitations", response=InvitationOut, operation_id="make_invitation")
def make_invitation(request: HttpRequest, rig_id: str, payload: InviteIn) -> InvitationOut:
    """A link and a QR code by which somebody comes aboard, once, within a week."""
    rig, display = rig_of(request, rig_id, needs=Needs.OWNER), display_of(request)
    token, expires = access.invitation(rig, payload.role, by=user_of(request), now=clock.now())
    path = f"/join#{token}"  # what stands behind the hash is not sent, and so in no log
    address = request.build_absolute_uri(path)
    if settings.HTTPS:  # as it is reached from outside, whatever the proxy speaks to us
        address = address.replace("http://", "https://", 1)
    import segno

    code = segno.make(address, micro=False)
    rows_of = ["".join(str(module) for module in row) for row in code.matrix]
    return InvitationOut(path=path, expires=moment(expires, display), code=rows_of)


@router.get("/{rig_id}/invitations", response=list[OpenInvitationOut], operation_id="invitations")
def open_invitations(request: HttpRequest, rig_id: str) -> list[OpenInvitationOut]:
    """The invitations by which somebody may still come aboard."""
    rig, display = rig_of(request, rig_id, needs=Needs.OWNER), display_of(request)
    return [
        OpenInvitationOut(id=each.pk, role=each.role, by=each.by.username, expires=moment(each.expires_at, display))
        for each in access.invitations(rig, clock.now())
    ]


@router.delete("/{rig_id}/invitations/{invitation_id}", response={204: None}, operation_id="end_invitation")
def end_invitation(request: HttpRequest, rig_id: str, invitation_id: int) -> tuple[int, None]:
    """End an invitation; its link leads nowhere from then on."""
    access.end_invitation(rig_of(request, rig_id, needs=Needs.OWNER), invitation_id)
    return 204, None


@router.put("/{rig_id}/crew/{username}", response=list[CrewOut], operation_id="set_role")
def set_role(request: HttpRequest, rig_id: str, username: str, payload: RoleIn) -> list[CrewOut]:
    """Give an account another role on this rig."""
    rig = rig_of(request, rig_id, needs=Needs.OWNER)
    access.set_role(rig, username, payload.role)
    return _crew(rig)


@router.delete("/{rig_id}/crew/{username}", response=list[CrewOut], operation_id="remove_crew")
def remove_crew(request: HttpRequest, rig_id: str, username: str) -> list[CrewOut]:
    rig = rig_of(request, rig_id, needs=Needs.OWNER)
    access.remove(rig, username)
    return _crew(rig)


def _crew(rig: m.Rig) -> list[CrewOut]:
    return [CrewOut(username=each.user.username, role=each.role) for each in access.crew_of(rig)]
