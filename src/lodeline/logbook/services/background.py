"""A helper process beside each worker: it derives, so that no request holds a thread for it. Here is the worker's end;
what the helper does is `deriving`.

It is forked before the worker has threads. Where it ends, the worker ends too, and both are started anew.
"""

import ctypes
import logging
import multiprocessing
import os
import resource
import signal
from collections.abc import Callable
from contextlib import suppress
from multiprocessing.connection import Connection
from pathlib import Path
from threading import Condition, Thread
from time import monotonic
from typing import Any

from django.db import connections

_log = logging.getLogger(__name__)
# The helper gives way to whoever waits for an answer.
_NICE = 10
_MOST_WAITING = 1
_PR_SET_PDEATHSIG = 1
# What is told once an ask is over: it was derived, it failed, or it is not the rig's state any more.
OVER = "over"
# What is told before that: of an ask only the plan is left, which gives way.
_AHEAD = "ahead"

Serve = Callable[["Connection[Any, Any]"], None]


class Helper:
    """The worker's end: asks for a rig's state to be derived, and hears what was."""

    def __init__(self, pipe: "Connection[Any, Any]", ended: Callable[[], object]) -> None:
        self._pipe, self._ended = pipe, ended
        self._changed = Condition()
        self._waiting = 0
        self.ends = False
        # by rig, the state that is being derived, and the one that is wanted next
        self._asked: dict[int, str] = {}
        self._wanted: dict[int, str] = {}
        self._done: dict[tuple[str, int], str] = {}
        Thread(target=self._listen, daemon=True).start()

    def ask(self, rig: int, key: str) -> bool:
        """Have a state derived. Answers whether nothing else of this rig was being derived."""
        with self._changed:
            before = self._asked.get(rig)
            if before == key:
                return True
            if before is None or self._done.get((_AHEAD, rig)) == before:
                self._send(rig, key)
                return True
            self._wanted[rig] = key  # when that is done; the pipe never fills
            return False

    def _send(self, rig: int, key: str) -> None:
        self._asked[rig] = key
        self._done.pop((OVER, rig), None)  # what was over is under way again
        try:
            self._pipe.send((rig, key))
        except OSError:
            _log.warning("the helper does not hear")

    def wait(self, what: str, rig: int, key: str, seconds: float) -> bool:
        """Wait until something of a state was derived, or its ask is over; False where that takes longer."""
        with self._changed:
            self._waiting += 1
            try:
                return self._until(what, rig, key, seconds)
            finally:
                self._waiting -= 1

    def has_time(self) -> bool:
        """Whether somebody may wait who need not: where many ask, threads are for those who are answered."""
        return self._waiting < _MOST_WAITING

    def end(self) -> None:
        """Let nobody wait any longer: the server ends."""
        with self._changed:
            self.ends = True
            self._changed.notify_all()

    def done(self, what: str, rig: int) -> str:
        """The state of which something was derived last, as far as was told."""
        return self._done.get((what, rig), "")

    def _until(self, what: str, rig: int, key: str, seconds: float) -> bool:
        with self._changed:
            told = self._changed.wait_for(
                lambda: self.ends or key in (self._done.get((what, rig)), self._done.get((OVER, rig))), seconds
            )
            return told and not self.ends

    def _listen(self) -> None:
        while True:
            try:
                what, rig, key = self._pipe.recv()
            except (EOFError, OSError):
                self._ended()
                return
            with self._changed:
                self._done[what, rig] = key
                if what in (_AHEAD, OVER) and self._asked.get(rig) == key:
                    if what == OVER:
                        del self._asked[rig]
                    wanted = self._wanted.pop(rig, key)
                    if wanted not in (key, self._done.get((_AHEAD, rig))):
                        self._send(rig, wanted)
                self._changed.notify_all()


_helper: Helper | None = None
_is_helper = False


def helper() -> Helper | None:
    """This process's helper; None in commands and tests, which derive what they need themselves."""
    return _helper


def is_helper() -> bool:
    """Whether this process is one."""
    return _is_helper


def start(serve: Serve, closed_in_helper: list[Any], ended: Callable[[], object]) -> None:
    """Fork the helper. ``serve``: what it does until the pipe ends; ``closed_in_helper``: sockets that are the
    worker's alone; ``ended``: told when it is gone."""
    global _helper, _born
    _born = monotonic()
    connections.close_all()
    context = multiprocessing.get_context("fork")
    ours, theirs = context.Pipe()
    process = context.Process(target=_run, args=(serve, theirs, [*closed_in_helper, ours]), daemon=True)
    process.start()
    theirs.close()
    _helper = Helper(ours, ended)


# A process that has grown beyond this is ended when it has time, and another is started; not one that is young: where
# rigs need so much, another would need it as soon. [MiB, s]
MOST_MIB, _OLD_S = 400, 600.0
_born = monotonic()


def has_grown() -> bool:
    """Whether this process holds more memory than it should after long use. Only where the system says so."""
    if monotonic() - _born < _OLD_S:
        return False
    try:
        pages = int(Path("/proc/self/statm").read_text().split()[1])
    except (OSError, IndexError, ValueError):
        return False
    return pages * resource.getpagesize() > MOST_MIB * 1024 * 1024


def end_with_parent() -> None:
    """Have this process told to end when the one that started it is gone, however that went. Only Linux can."""
    with suppress(OSError, AttributeError):
        ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGTERM)


def _run(serve: Serve, pipe: "Connection[Any, Any]", not_ours: list[Any]) -> None:
    global _is_helper
    _is_helper = True
    for number in (signal.SIGTERM, signal.SIGQUIT, signal.SIGABRT, signal.SIGUSR1, signal.SIGCHLD):
        signal.signal(number, signal.SIG_DFL)
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # the worker says when to end
    signal.set_wakeup_fd(-1)
    end_with_parent()
    for each in not_ours:
        each.close()
    os.nice(_NICE)

    try:
        serve(pipe)
    except (EOFError, OSError):
        return
