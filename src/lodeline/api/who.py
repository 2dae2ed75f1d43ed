"""The account behind a request, and the rig it asks for."""

from django.contrib.auth.models import User
from django.http import HttpRequest

from lodeline.accounts import access
from lodeline.logbook.models import Rig


def user_of(request: HttpRequest) -> User:
    """The signed-in account."""
    assert isinstance(request.user, User)
    return request.user


def rig_of(request: HttpRequest, rig_id: str, *, owner: bool = False) -> Rig:
    """The rig, if the account is on it."""
    return access.rig_for(user_of(request), rig_id, owner=owner)
