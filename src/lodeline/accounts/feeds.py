"""Calendar feeds: a secret address for each member of a rig. It ends when the member leaves."""

import hashlib
import secrets

from django.contrib.auth.models import User

from lodeline.accounts.models import CalendarFeed, Membership
from lodeline.logbook import clock
from lodeline.logbook.models import Rig

_SECRET_BYTES = 32


def _digest(secret: str) -> str:
    return hashlib.sha256(secret.encode()).hexdigest()


def _membership(user: User, rig: Rig) -> Membership:
    return Membership.objects.get(user=user, rig=rig)


def of(user: User, rig: Rig) -> CalendarFeed | None:
    """An account's feed of a rig, if it has one."""
    return CalendarFeed.objects.filter(membership__user=user, membership__rig=rig).first()


def renew(user: User, rig: Rig, *, positions: bool) -> str:
    """Make a feed, or give it a new secret, which is answered once and not kept."""
    secret = secrets.token_urlsafe(_SECRET_BYTES)
    fields = {"digest": _digest(secret), "made_at": clock.now(), "positions": positions}
    CalendarFeed.objects.update_or_create(membership=_membership(user, rig), defaults=fields)
    return secret


def end(user: User, rig: Rig) -> None:
    """End a feed."""
    CalendarFeed.objects.filter(membership__user=user, membership__rig=rig).delete()


def at(secret: str) -> CalendarFeed | None:
    """The feed at a secret address, with its rig; None where there is none."""
    row = CalendarFeed.objects.filter(digest=_digest(secret)).select_related("membership__rig").first()
    return row if row is not None and not row.membership.rig.aside else None
