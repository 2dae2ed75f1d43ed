"""Who may see and write which rig. Another's rig is not there at all."""

import hashlib
import secrets
from datetime import datetime, timedelta

from django.contrib.auth.models import User
from django.db import transaction

from lodeline.accounts.models import Invitation, Membership
from lodeline.accounts.problems import OnlyOwner, OwnsRig, TooManyInvitations
from lodeline.core.errors import Refused
from lodeline.logbook.models import Rig


class NotThere(LookupError):
    """No such thing, or none that this account may see."""


class NotYours(PermissionError):
    """Visible to this account, but not for it to change. ``needs``: the role that may."""

    def __init__(self, needs: str) -> None:
        super().__init__(needs)
        self.needs = needs


def rigs_of(user: User) -> list[tuple[Rig, str]]:
    """The rigs of an account with its role on each, in order of name."""
    rows = Membership.objects.filter(user=user).select_related("rig").order_by("rig__name", "rig_id")
    return [(row.rig, row.role) for row in rows]


def number(text: str) -> int:
    """A row id from an address; what cannot be one is not there."""
    if not text.isascii() or not text.isdigit() or len(text) > 15:
        raise NotThere(text)
    return int(text)


def rig_for(user: User, rig_id: str, *, needs: str = Membership.READER) -> Rig:
    """The rig, if this account is on it. ``needs``: the least role that may do what is asked.

    Raises
    ------
    NotThere
        No such rig, or not this account's.
    NotYours
        The account's role on the rig is a lesser one.
    """
    row = Membership.objects.filter(user=user, rig_id=number(rig_id)).select_related("rig").first()
    if row is None:
        raise NotThere("rig")
    if Membership.ROLES.index(row.role) < Membership.ROLES.index(needs):
        raise NotYours(needs)
    return row.rig


def grant(user: User, rig: Rig, role: str) -> None:
    """Put an account on a rig."""
    Membership.objects.update_or_create(user=user, rig=rig, defaults={"role": role})


def crew_of(rig: Rig) -> list[Membership]:
    """Everybody on a rig."""
    return list(Membership.objects.filter(rig=rig).select_related("user").order_by("role", "user__username"))


def _member(rig: Rig, username: str) -> Membership:
    row = Membership.objects.filter(rig=rig, user__username=username).first()
    if row is None:
        raise NotThere("account")
    return row


def _keep_an_owner(row: Membership) -> None:
    if row.role != Membership.OWNER:
        return
    if Membership.objects.filter(rig=row.rig, role=Membership.OWNER).count() == 1:
        raise Refused("username", OnlyOwner(row.user.username))


@transaction.atomic
def remove(rig: Rig, username: str) -> None:
    """Take an account off a rig; the last owner stays."""
    row = _member(rig, username)
    _keep_an_owner(row)
    _end_invitations_of(row)
    row.delete()


@transaction.atomic
def set_role(rig: Rig, username: str, role: str) -> None:
    """Give an account on a rig another role; one owner stays."""
    row = _member(rig, username)
    if role != Membership.OWNER:
        _keep_an_owner(row)
        _end_invitations_of(row)
    row.role = role
    row.save(update_fields=["role"])


INVITED_DAYS = 7
MOST_INVITATIONS = 30


def _digest(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def invitation(rig: Rig, role: str, *, by: User, now: datetime) -> tuple[str, datetime]:
    """A secret that puts whoever brings it on a rig, and when it expires.

    Raises
    ------
    Refused
        There are many already that nobody used.
    """
    token, expires_at = secrets.token_urlsafe(24), now + timedelta(days=INVITED_DAYS)
    Invitation.objects.filter(expires_at__lt=now).delete()
    if Invitation.objects.filter(rig=rig).count() >= MOST_INVITATIONS:
        raise Refused("role", TooManyInvitations(MOST_INVITATIONS))
    Invitation.objects.create(rig=rig, digest=_digest(token), role=role, by=by, expires_at=expires_at)
    return token, expires_at


def invitations(rig: Rig, now: datetime) -> list[Invitation]:
    """What somebody may still come aboard by, the latest first."""
    return list(Invitation.objects.filter(rig=rig, expires_at__gte=now).select_related("by").order_by("-pk"))


def end_invitation(rig: Rig, key: int) -> None:
    """End an invitation; its link leads nowhere from then on."""
    Invitation.objects.filter(rig=rig, pk=key).delete()


def _end_invitations_of(row: Membership) -> None:
    """What somebody made who may not invite any more is not valid any more."""
    Invitation.objects.filter(rig=row.rig, by=row.user).delete()


def invited(token: str, now: datetime) -> Invitation:
    """The invitation of a secret.

    Raises
    ------
    NotThere
        There is none, it was used, it has expired, or its maker may not invite any more.
    """
    found = Invitation.objects.filter(digest=_digest(token), expires_at__gte=now).select_related("rig", "by").first()
    owners = Membership.objects.filter(role=Membership.OWNER)
    if found is None or not owners.filter(rig=found.rig, user=found.by).exists():
        raise NotThere("invitation")
    return found


@transaction.atomic
def accept(user: User, token: str, now: datetime) -> Rig:
    """Put an account on the rig that it was invited to; the invitation is used up. A role that it has stays."""
    found = invited(token, now)
    if not Membership.objects.filter(user=user, rig=found.rig).exists():
        grant(user, found.rig, found.role)
    found.delete()
    return found.rig


@transaction.atomic
def delete_account(user: User) -> None:
    """Delete an account. What it logged stays with the rig.

    Raises
    ------
    Refused
        It is the only owner of a rig.
    """
    for row in Membership.objects.filter(user=user).select_related("rig", "user"):
        others = Membership.objects.filter(rig=row.rig, role=Membership.OWNER).exclude(user=user)
        if row.role == Membership.OWNER and not others.exists():
            raise Refused("password", OwnsRig(row.rig.name))
    user.delete()
