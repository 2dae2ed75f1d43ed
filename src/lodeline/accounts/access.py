"""Who may see and write which rig. Another's rig is not there at all."""

from django.contrib.auth.models import User
from django.db import transaction

from lodeline.accounts.models import Membership
from lodeline.core.errors import Refused
from lodeline.core.problems import NoAccount, OnlyOwner, OnRigAlready
from lodeline.logbook.models import Rig


class NotThere(LookupError):
    """No such thing, or none that this account may see."""


class NotYours(PermissionError):
    """Visible to this account, but for the owner to change."""


def rigs_of(user: User) -> list[tuple[Rig, str]]:
    """The rigs of an account with its role on each, in order of name."""
    rows = Membership.objects.filter(user=user).select_related("rig").order_by("rig__name", "rig_id")
    return [(row.rig, row.role) for row in rows]


def number(text: str) -> int:
    """A row id from an address; what cannot be one is not there."""
    if not text.isascii() or not text.isdigit() or len(text) > 15:
        raise NotThere(text)
    return int(text)


def rig_for(user: User, rig_id: str, *, owner: bool = False) -> Rig:
    """The rig, if this account is on it.

    Raises
    ------
    NotThere
        No such rig, or not this account's.
    NotYours
        ``owner`` is asked for and the account is only crew.
    """
    row = Membership.objects.filter(user=user, rig_id=number(rig_id)).select_related("rig").first()
    if row is None:
        raise NotThere("rig")
    if owner and row.role != Membership.OWNER:
        raise NotYours
    return row.rig


def grant(user: User, rig: Rig, role: str) -> None:
    """Put an account on a rig."""
    Membership.objects.update_or_create(user=user, rig=rig, defaults={"role": role})


def crew_of(rig: Rig) -> list[Membership]:
    """Everybody on a rig."""
    return list(Membership.objects.filter(rig=rig).select_related("user").order_by("role", "user__username"))


@transaction.atomic
def invite(rig: Rig, username: str) -> None:
    """Put an existing account on a rig as crew."""
    user = User.objects.filter(username=username).first()
    if user is None:
        raise Refused("username", NoAccount(username))
    if Membership.objects.filter(user=user, rig=rig).exists():
        raise Refused("username", OnRigAlready(username))
    grant(user, rig, Membership.CREW)


@transaction.atomic
def remove(rig: Rig, username: str) -> None:
    """Take an account off a rig; the last owner stays."""
    row = Membership.objects.filter(rig=rig, user__username=username).first()
    if row is None:
        raise NotThere("account")
    if row.role == Membership.OWNER and Membership.objects.filter(rig=rig, role=Membership.OWNER).count() == 1:
        raise Refused("username", OnlyOwner(username))
    row.delete()
