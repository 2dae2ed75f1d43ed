"""What an account may be called: checked here, wherever it is made."""

import unicodedata

from django.contrib.auth import password_validation
from django.contrib.auth.models import User
from django.core.exceptions import ValidationError

from lodeline.accounts.problems import NameTaken, NotAccepted, WeakPassword, Wrong
from lodeline.core.errors import Refused

MOST_NAME, MOST_PASSWORD = 150, 500
_MARKS = "@.+-_"
# Joiners and marks of direction: part of how some scripts are written, but not what tells two names apart.
_UNSEEN = frozenset("\u200c\u200d\u200e\u200f\u061c")


def _is_of_a_name(char: str) -> bool:
    return char in _MARKS or char in _UNSEEN or unicodedata.category(char)[0] in "LMN"


def _seen(name: str) -> str:
    """A name as it is seen: two that look alike are one."""
    return "".join(char for char in unicodedata.normalize("NFKC", name).casefold() if char not in _UNSEEN)


def as_kept(name: str) -> str:
    """A name as it is kept, however it was typed."""
    return unicodedata.normalize("NFC", name)


def checked_name(name: str) -> str:
    """A name for a new account: letters and digits of any script, and ``@.+-_``.

    Raises
    ------
    Refused
        It is none, or somebody has it.
    """
    name = as_kept(name)
    if not _seen(name) or len(name) > MOST_NAME or not all(map(_is_of_a_name, name)):
        raise Refused("username", NotAccepted(Wrong.NAME))
    if any(_seen(other) == _seen(name) for other in User.objects.values_list("username", flat=True)):
        raise Refused("username", NameTaken(name))
    return name


def check_password(password: str, user: User, place: str) -> None:
    """Refuse a password that is easily guessed."""
    try:
        password_validation.validate_password(password, user)
    except ValidationError as error:
        raise Refused(place, WeakPassword(tuple(error.messages))) from None


def new_account(name: str, password: str) -> User:
    """Make an account."""
    name = checked_name(name)
    check_password(password, User(username=name), "password")
    return User.objects.create_user(name, password=password)
