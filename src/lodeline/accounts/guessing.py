"""Slows the guessing of passwords: wrong ones are counted by name and by address apart, and by each known device.

So that nobody locks another out: an address that guesses is shut out itself; a name that many addresses guess at stays
open to the devices that have signed in with it before, each under a count of its own.
"""

import hashlib
import math
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from ipaddress import ip_address, ip_network

from django.contrib.auth.models import User
from django.core import signing
from django.db import transaction
from django.db.models import F

from lodeline.accounts.models import Guesses
from lodeline.core.values import dataclass
from lodeline.logbook import clock

DEVICE_COOKIE, DEVICE_S = "lodeline_device", 60 * 60 * 24 * 365
_SALT = "lodeline.device"
_V6, _V6_PREFIX = 6, 64


@dataclass(frozen=True, slots=True)
class Limit:
    """So many wrong passwords within so long."""

    most: int
    within: timedelta


ADDRESS = Limit(20, timedelta(minutes=15))
NAME = Limit(100, timedelta(hours=1))
DEVICE = Limit(20, timedelta(minutes=15))


class TooManyGuesses(Exception):
    """Passwords are not looked at for a while."""

    def __init__(self, wait_s: int) -> None:
        super().__init__(wait_s)
        self.wait_s = wait_s


@dataclass(frozen=True, slots=True)
class Guesser:
    """Who tries a password: the name it is for, the address it comes from, and what its device shows for itself.

    Without a name it is the code of a new server that is tried.
    """

    name: str
    address: str
    device: str = ""

    def counted(self) -> dict[str, Limit]:
        """What it is counted under."""
        if self.is_known():
            return {_key("device", self.device): DEVICE}
        by_name = {_key("name", self.name.casefold()): NAME} if self.name else {}
        return by_name | {_key("address", _network(self.address)): ADDRESS}

    def is_known(self) -> bool:
        """Whether the device has signed in with this name before, with the password as it is."""
        try:
            shown = signing.loads(self.device, salt=_SALT, max_age=DEVICE_S)
        except signing.BadSignature:
            return False
        user = User.objects.filter(username=self.name).first()
        return user is not None and shown == _shown(user)


def _shown(user: User) -> list[object]:
    """Who signed in, and a digest that is another one after a new password."""
    return [user.pk, hashlib.sha256(user.get_session_auth_hash().encode()).hexdigest()[:16]]


def _network(address: str) -> str:
    """What one household has: an address, or the network that its line has where these are plenty (IPv6, /64)."""
    try:
        told = ip_address(address)
    except ValueError:
        return address
    return str(ip_network((told, _V6_PREFIX), strict=False)) if told.version == _V6 else address


def device_token(user: User) -> str:
    """What a device shows for itself from now on: that it has signed in as somebody."""
    return signing.dumps(_shown(user), salt=_SALT)


def _key(what: str, value: str) -> str:
    return hashlib.sha256(f"{what}:{value}".encode()).hexdigest()


@contextmanager
def guarded(guesser: Guesser) -> Iterator[list[bool]]:
    """A try of a password. Whoever tries appends whether it was right.

    Raises
    ------
    TooManyGuesses
        Before anything is tried; such a try is not counted.
    """
    counted, now = guesser.counted(), clock.now()
    for row in Guesses.objects.filter(key__in=counted):
        limit = counted[row.key]
        if row.count >= limit.most and (left := row.since + limit.within - now) > timedelta():
            raise TooManyGuesses(math.ceil(left.total_seconds()))
    verdict: list[bool] = []
    try:
        yield verdict
    finally:
        if verdict and verdict[-1]:
            Guesses.objects.filter(key__in=counted).delete()
        elif verdict:
            for key, limit in counted.items():
                _count(key, limit)


@transaction.atomic
def _count(key: str, limit: Limit) -> None:
    now = clock.now()
    Guesses.objects.filter(since__lt=now - NAME.within).delete()
    Guesses.objects.filter(key=key, since__lte=now - limit.within).delete()
    _, made = Guesses.objects.get_or_create(key=key, defaults={"count": 1, "since": now})
    if not made:
        Guesses.objects.filter(key=key).update(count=F("count") + 1)
