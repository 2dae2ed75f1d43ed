"""Signing in and out, and who is signed in."""

from typing import Annotated

from django.conf import settings
from django.contrib.auth import authenticate, login, logout, password_validation
from django.contrib.auth.models import User
from django.core.exceptions import ValidationError as DjangoValidationError
from django.db import transaction
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router
from ninja.errors import HttpError
from ninja.utils import check_csrf
from pydantic import Field

from lodeline.accounts import access
from lodeline.accounts.access import NotThere, rigs_of
from lodeline.api.who import user_of
from lodeline.core.errors import Refused
from lodeline.core.problems import NameTaken, WeakPassword, WrongPassword
from lodeline.formats.document import Part
from lodeline.logbook import clock
from lodeline.text.answers import STALE_PAGE

router = Router(tags=["account"])


class RigName(Part):
    id: int
    name: str
    role: str


class Me(Part):
    """Who is signed in. ``first`` when the server has no account yet; ``demo`` when the demo may be entered."""

    username: str | None
    demo: bool
    first: bool
    rigs: list[RigName]


class SignIn(Part):
    username: Annotated[str, Field(min_length=1, max_length=150, pattern=r"^[\w.@+-]+$")]
    password: Annotated[str, Field(min_length=1, max_length=500)]


def _me(request: HttpRequest) -> Me:
    get_token(request)
    user = request.user if isinstance(request.user, User) else None
    rigs = [RigName(id=rig.pk, name=rig.name, role=role) for rig, role in rigs_of(user)] if user else []
    first = not user and not settings.DEMO and not User.objects.exists()
    return Me(username=user.username if user else None, demo=settings.DEMO, first=first, rigs=rigs)


def _from_our_page(request: HttpRequest) -> None:
    if check_csrf(request) is not None:
        raise HttpError(403, STALE_PAGE)


@router.get("/me", response=Me, auth=None, operation_id="me")
def me(request: HttpRequest) -> Me:
    return _me(request)


@router.post("/sign-in", response=Me, auth=None, operation_id="sign_in")
def sign_in(request: HttpRequest, payload: SignIn) -> Me:
    _from_our_page(request)
    user = authenticate(request, username=payload.username, password=payload.password)
    if user is None:
        raise Refused("password", WrongPassword())
    login(request, user)
    return _me(request)


@router.post("/sign-out", response=Me, operation_id="sign_out")
def sign_out(request: HttpRequest) -> Me:
    user_of(request)
    logout(request)
    return _me(request)


@router.post("/first", response=Me, auth=None, operation_id="first_account")
def first_account(request: HttpRequest, payload: SignIn) -> Me:
    """Make the first account of a new server; further ones are made on the command line."""
    _from_our_page(request)
    with transaction.atomic():
        if settings.DEMO or User.objects.exists():
            raise NotThere("first account")
        _check_password(payload.password, User(username=payload.username), "password")
        user = User.objects.create_user(payload.username, password=payload.password)
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    return _me(request)


class PasswordIn(Part):
    """The password as it is, and as it is to be."""

    password: Annotated[str, Field(min_length=1, max_length=500)]
    new_password: Annotated[str, Field(min_length=1, max_length=500)]


class ConfirmedIn(Part):
    """The password, to be sure who it is."""

    password: Annotated[str, Field(min_length=1, max_length=500)]


class JoinIn(SignIn):
    """A new account, for somebody who was invited."""

    token: Annotated[str, Field(min_length=1, max_length=100)]


class TokenIn(Part):
    token: Annotated[str, Field(min_length=1, max_length=100)]


class InvitedOut(Part):
    """What an invitation is to, and whose it is."""

    rig: str
    role: str
    by: str


def _check_password(password: str, user: User, place: str) -> None:
    try:
        password_validation.validate_password(password, user)
    except DjangoValidationError as error:
        raise Refused(place, WeakPassword(tuple(error.messages))) from None


def _check_own(request: HttpRequest, password: str) -> User:
    user = user_of(request)
    if not user.check_password(password):
        raise Refused("password", WrongPassword())
    return user


@router.post("/password", response=Me, operation_id="change_password")
def change_password(request: HttpRequest, payload: PasswordIn) -> Me:
    """Change one's password; other devices are signed out."""
    user = _check_own(request, payload.password)
    _check_password(payload.new_password, user, "new_password")
    user.set_password(payload.new_password)
    user.save()
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    return _me(request)


@router.post("/delete", response=Me, operation_id="delete_account")
def delete_account(request: HttpRequest, payload: ConfirmedIn) -> Me:
    """Delete one's account. What it logged stays with its rigs."""
    user = _check_own(request, payload.password)
    access.delete_account(user)
    logout(request)
    return _me(request)


@router.post("/invited", response=InvitedOut, auth=None, operation_id="invited")
def invited(request: HttpRequest, payload: TokenIn) -> InvitedOut:
    """What an invitation is to."""
    _from_our_page(request)
    found = access.invited(payload.token, clock.now())
    return InvitedOut(rig=found.rig.name, role=found.role, by=found.by.username)


@router.post("/accept", response=Me, operation_id="accept_invitation")
def accept_invitation(request: HttpRequest, payload: TokenIn) -> Me:
    """Come aboard with the account that is signed in."""
    access.accept(user_of(request), payload.token, clock.now())
    return _me(request)


@router.post("/join", response=Me, auth=None, operation_id="join")
def join(request: HttpRequest, payload: JoinIn) -> Me:
    """Make an account by an invitation, and come aboard."""
    _from_our_page(request)
    with transaction.atomic():
        access.invited(payload.token, clock.now())
        if User.objects.filter(username=payload.username).exists():
            raise Refused("username", NameTaken(payload.username))
        _check_password(payload.password, User(username=payload.username), "password")
        user = User.objects.create_user(payload.username, password=payload.password)
        access.accept(user, payload.token, clock.now())
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    return _me(request)


@router.post("/demo", response=Me, auth=None, operation_id="enter_demo")
def enter_demo(request: HttpRequest) -> Me:
    """Enter as the demo account; there is no such door outside demo mode."""
    _from_our_page(request)
    user = User.objects.filter(username="demo").first() if settings.DEMO else None
    if user is None:
        raise NotThere("demo")
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    return _me(request)
