"""Giving up what a thread is at, from outside: an exception is raised in it, at its next step in Python.

Where that would leave a lock taken, the thread is `undisturbed`, and it is raised before or after.
"""

import ctypes
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from time import sleep

_raise_in = ctypes.pythonapi.PyThreadState_SetAsyncExc
_raise_in.argtypes = (ctypes.c_ulong, ctypes.py_object)
_MOMENT_S = 0.001


class GivenUp(BaseException):
    """This request has had its time. What handles errors on the way lets it pass, and undoes what was begun."""


class Thread:
    """A thread that may be given up."""

    def __init__(self) -> None:
        self.number = threading.get_ident()
        self._undisturbed, self._is_raising = 0, False

    def give_up(self) -> None:
        """Raise in it, unless it is undisturbed. Each of the two threads says what it does before it looks."""
        self._is_raising = True
        if self._undisturbed == 0:
            _raise_in(self.number, GivenUp)
        self._is_raising = False

    def finish(self) -> None:
        """From here on nothing is raised; what was on its way comes now."""
        self._undisturbed += 1
        while self._is_raising:
            sleep(_MOMENT_S)

    @contextmanager
    def undisturbed(self) -> Iterator[None]:
        """Nothing is raised here."""
        try:
            self.finish()
            yield
        finally:
            self._undisturbed -= 1


_here = threading.local()


def here(thread: Thread | None) -> None:
    """Say which thread this is."""
    _here.thread = thread


@contextmanager
def undisturbed() -> Iterator[None]:
    """Nothing is raised here from outside, but before or after."""
    thread: Thread | None = getattr(_here, "thread", None)
    if thread is None:
        yield
        return
    with thread.undisturbed():
        yield
