"""The account behind a request, and the rig it asks for."""

from enum import StrEnum

from django.contrib.auth.models import User
from django.http import HttpRequest

from lodeline.accounts import access
from lodeline.accounts.models import Membership
from lodeline.core.catalogue import System
from lodeline.core.zone import Zone
from lodeline.logbook.models import Rig
from lodeline.text.display import METRIC, Display

_ATTRIBUTE = "lodeline_display"


def user_of(request: HttpRequest) -> User:
    """The signed-in account."""
    assert isinstance(request.user, User)
    return request.user


class Needs(StrEnum):
    """The least role that may do what is asked."""

    READER = Membership.READER
    CREW = Membership.CREW
    OWNER = Membership.OWNER


def rig_of(request: HttpRequest, rig_id: str, *, needs: Needs = Needs.READER) -> Rig:
    """The rig, if the account is on it. What is said from now on is in its units, refusals too."""
    rig = access.rig_for(user_of(request), rig_id, needs=needs)
    shown_as(request, Display(System(rig.units), Zone(rig.timezone), rig.parts.get("currency")))
    return rig


def shown_as(request: HttpRequest, display: Display) -> None:
    """From now on say what is refused as these people see it."""
    setattr(request, _ATTRIBUTE, display)


def display_of(request: HttpRequest) -> Display:
    """How the people of the request's rig see things."""
    display: Display = getattr(request, _ATTRIBUTE, METRIC)
    return display
