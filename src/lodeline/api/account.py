"""Signing in and out, and who is signed in."""

from secrets import compare_digest
from typing import Annotated

from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.contrib.auth.models import User
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from ninja import Router
from ninja.errors import HttpError
from ninja.utils import check_csrf
from pydantic import Field

from lodeline.accounts import access
from lodeline.accounts.access import NotThere, rigs_of
from lodeline.accounts.guessing import DEVICE_COOKIE, DEVICE_S, Guesser, device_token, guarded
from lodeline.accounts.names import MOST_NAME, MOST_PASSWORD, as_kept, check_password, new_account
from lodeline.accounts.problems import NotAccepted, Wrong
from lodeline.api.who import user_of
from lodeline.core.catalogue import System
from lodeline.core.errors import Refused
from lodeline.formats.document import Part
from lodeline.formats.words import SystemWord
from lodeline.logbook import clock
from lodeline.text.answers import STALE_PAGE

router = Router(tags=["account"])


class RigName(Part):
    """A rig of this account: its role aboard, and the system of units that its people think in."""

    id: int
    name: str
    role: str
    units: SystemWord


class Me(Part):
    """Who is signed in. ``first`` when the server has no account yet; ``demo`` when the demo may be entered.

    ``code``: whether the first account needs the code that the server's terminal shows.
    """

    username: str | None
    demo: bool
    first: bool
    code: bool
    rigs: list[RigName]


Username = Annotated[str, Field(min_length=1, max_length=MOST_NAME)]
Password = Annotated[str, Field(min_length=1, max_length=MOST_PASSWORD)]


class SignIn(Part):
    username: Username
    password: Password


class FirstIn(SignIn):
    """The first account. ``code``: as the server's terminal shows it, where it serves a network."""

    code: Annotated[str, Field(max_length=40)] = ""


def _me(request: HttpRequest) -> Me:
    get_token(request)
    user = request.user if isinstance(request.user, User) else None
    mine = rigs_of(user) if user else []
    rigs = [RigName(id=rig.pk, name=rig.name, role=role, units=System(rig.units)) for rig, role in mine]
    first = not user and not settings.DEMO and not User.objects.exists()
    code = first and bool(settings.CLAIM)
    return Me(username=user.username if user else None, demo=settings.DEMO, first=first, code=code, rigs=rigs)


def _from_our_page(request: HttpRequest) -> None:
    if check_csrf(request) is not None:
        raise HttpError(403, STALE_PAGE)


@router.get("/me", response=Me, auth=None, operation_id="me")
def me(request: HttpRequest) -> Me:
    return _me(request)


def _guesser(request: HttpRequest, name: str) -> Guesser:
    return Guesser(name, request.META.get("REMOTE_ADDR", ""), request.COOKIES.get(DEVICE_COOKIE, ""))


def _let_in(request: HttpRequest, response: HttpResponse, user: User) -> Me:
    """Sign somebody in; the device is known from now on. Sessions that are over are thrown away by whoever comes."""
    request.session.clear_expired()
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    response.set_cookie(
        DEVICE_COOKIE, device_token(user), max_age=DEVICE_S, httponly=True, samesite="Lax", secure=settings.HTTPS
    )
    return _me(request)


@router.post("/sign-in", response=Me, auth=None, operation_id="sign_in")
def sign_in(request: HttpRequest, response: HttpResponse, payload: SignIn) -> Me:
    _from_our_page(request)
    name = as_kept(payload.username)
    with guarded(_guesser(request, name)) as verdict:
        user = authenticate(request, username=name, password=payload.password)
        verdict.append(user is not None)
    if not isinstance(user, User):
        raise Refused("password", NotAccepted(Wrong.PASSWORD))
    return _let_in(request, response, user)


@router.post("/sign-out", response=Me, operation_id="sign_out")
def sign_out(request: HttpRequest) -> Me:
    user_of(request)
    logout(request)
    return _me(request)


@router.post("/first", response=Me, auth=None, operation_id="first_account")
def first_account(request: HttpRequest, response: HttpResponse, payload: FirstIn) -> Me:
    """Make the first account of a new server; further ones are made on the command line."""
    _from_our_page(request)
    if settings.DEMO or User.objects.exists():
        raise NotThere("first account")
    if settings.CLAIM:
        with guarded(_guesser(request, "")) as verdict:
            verdict.append(compare_digest(_plain_code(payload.code), _plain_code(settings.CLAIM)))
        if not verdict[-1]:
            raise Refused("code", NotAccepted(Wrong.CODE))
    with transaction.atomic():
        if User.objects.exists():
            raise NotThere("first account")
        user = new_account(payload.username, payload.password)
    return _let_in(request, response, user)


def _plain_code(typed: str) -> bytes:
    return "".join(char for char in typed.upper() if char.isalnum()).encode()


class PasswordIn(Part):
    """The password as it is, and as it is to be."""

    password: Password
    new_password: Password


class ConfirmedIn(Part):
    """The password, to be sure who it is."""

    password: Password


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


def _check_own(request: HttpRequest, password: str) -> User:
    user = user_of(request)
    with guarded(_guesser(request, user.username)) as verdict:
        verdict.append(user.check_password(password))
    if not verdict[-1]:
        raise Refused("password", NotAccepted(Wrong.PASSWORD))
    return user


@router.post("/password", response=Me, operation_id="change_password")
def change_password(request: HttpRequest, response: HttpResponse, payload: PasswordIn) -> Me:
    """Change one's password; other devices are signed out."""
    user = _check_own(request, payload.password)
    check_password(payload.new_password, user, "new_password")
    user.set_password(payload.new_password)
    user.save()
    return _let_in(request, response, user)


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
def join(request: HttpRequest, response: HttpResponse, payload: JoinIn) -> Me:
    """Make an account by an invitation, and come aboard."""
    _from_our_page(request)
    with transaction.atomic():
        access.invited(payload.token, clock.now())
        user = new_account(payload.username, payload.password)
        access.accept(user, payload.token, clock.now())
    return _let_in(request, response, user)


@router.post("/demo", response=Me, auth=None, operation_id="enter_demo")
def enter_demo(request: HttpRequest) -> Me:
    """Enter as the demo account; there is no such door outside demo mode."""
    _from_our_page(request)
    user = User.objects.filter(username="demo").first() if settings.DEMO else None
    if user is None:
        raise NotThere("demo")
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    return _me(request)
