"""Passwords are hashed a few at a time: each takes much memory, also where somebody has no account."""

from collections.abc import Iterator
from contextlib import contextmanager
from threading import BoundedSemaphore

from django.contrib.auth import hashers

# Of each worker, of which there are two.
_AT_ONCE = 2
_PATIENCE_S = 3.0
_turns = BoundedSemaphore(_AT_ONCE)


class TooManyAtOnce(Exception):
    """Many passwords are being looked at; this one was not."""


@contextmanager
def _turn() -> Iterator[None]:
    if not _turns.acquire(timeout=_PATIENCE_S):
        raise TooManyAtOnce
    try:
        yield
    finally:
        _turns.release()


class Argon2(hashers.Argon2PasswordHasher):
    """Argon2id with the memory that OWASP's Password Storage Cheat Sheet names first (46 MiB), and one pass more."""

    memory_cost, time_cost, parallelism = 47_104, 2, 1

    def encode(self, password: str, salt: str) -> str:
        """Hash a password."""
        with _turn():
            return super().encode(password, salt)

    def verify(self, password: str, encoded: str) -> bool:
        """Look whether a password is right."""
        with _turn():
            return bool(super().verify(password, encoded))
