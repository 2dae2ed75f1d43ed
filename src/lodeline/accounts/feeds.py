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


def exists(user: User, rig: Rig) -> bool:
    """Whether an account has a feed of a rig."""
    return CalendarFeed.objects.filter(membership__user=user, membership__rig=rig).exists()


def renew(user: User, rig: Rig) -> str:
    """Make a feed, or give it a new secret, which is answered once and not kept."""
    secret = secrets.token_urlsafe(_SECRET_BYTES)
    CalendarFeed.objects.update_or_create(
        membership=_membership(user, rig), defaults={"digest": _digest(secret), "made_at": clock.now()}
    )
    return secret


def end(user: User, rig: Rig) -> None:
    """End a feed."""
    CalendarFeed.objects.filter(membership__user=user, membership__rig=rig).delete()


def rig_of(secret: str) -> Rig | None:
    """The rig of a feed, None where there is no such feed."""
    row = CalendarFeed.objects.filter(digest=_digest(secret)).select_related("membership__rig").first()
    return row.membership.rig if row is not None and not row.membership.rig.aside else None
