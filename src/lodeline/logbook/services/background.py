"""A helper process beside each worker: it derives, so that no request holds a thread for it.

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
from time import monotonic, sleep
from typing import Any

from django.db import DatabaseError, connections

_log = logging.getLogger(__name__)
# The helper gives way to whoever waits for an answer.
_NICE = 10
_MOST_WAITING = 1
_MOST_AT_START = 10
_PAUSE_S, _LONGEST_PAUSE_S = 0.2, 2.0
# How soon the next wish of the same rig comes, where there is one.
_MOMENT_S = 0.01
_PR_SET_PDEATHSIG = 1
# What is told once an ask is over: it was derived, it failed, or it is not the rig's state any more.
OVER = "over"


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
            if before is None:
                self._send(rig, key)
            elif before != key:  # when that is done; the pipe never fills
                self._wanted[rig] = key
            return before in (None, key)

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
                if what == OVER and self._asked.pop(rig, None) is not None:
                    wanted = self._wanted.pop(rig, key)
                    if wanted not in (key, self._done.get(("ahead", rig))):
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


def start(closed_in_helper: list[Any], ended: Callable[[], object]) -> None:
    """Fork the helper. ``closed_in_helper``: sockets that are the worker's alone; ``ended``: told when it is gone."""
    global _helper, _born
    _born = monotonic()
    connections.close_all()
    context = multiprocessing.get_context("fork")
    ours, theirs = context.Pipe()
    process = context.Process(target=_run, args=(theirs, [*closed_in_helper, ours]), daemon=True)
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


def _run(pipe: "Connection[Any, Any]", not_ours: list[Any]) -> None:
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
        _serve(pipe)
    except (EOFError, OSError):
        return


def _serve(pipe: "Connection[Any, Any]") -> None:
    waiting: dict[int, str] = {}
    in_a_row = 0
    for rig in _likely():
        if pipe.poll():
            break
        _derive(rig, pipe)
    while True:
        while not waiting or pipe.poll():
            rig, key = pipe.recv()
            waiting.pop(rig, None)
            waiting[rig] = key
        rig = next(iter(waiting))
        key, began = waiting.pop(rig), monotonic()
        _derive(rig, pipe)
        pipe.send((OVER, rig, key))
        if has_grown():
            return
        took = monotonic() - began
        # where it is written to again and again, time for those who are answered
        in_a_row = in_a_row + 1 if pipe.poll(_MOMENT_S) else 0
        sleep(min(in_a_row * max(took, _PAUSE_S), _LONGEST_PAUSE_S))


def _likely() -> list[int]:
    """What is likely to be asked for first after a start."""
    from lodeline.logbook import models as m

    try:
        rigs = m.Rig.objects.filter(aside="").order_by("-revision")
        return list(rigs.values_list("pk", flat=True)[:_MOST_AT_START])
    except DatabaseError:
        return []


def _derive(rig: int, pipe: "Connection[Any, Any]") -> None:
    from lodeline.logbook import models as m
    from lodeline.logbook.services import derived, shared

    derived_key = ""
    try:
        row = m.Rig.objects.filter(pk=rig).first()
        if row is not None:
            at = derived.levels_here(row).now
            pipe.send(("levels", rig, shared.key_of(row, at)))
            derived.derived_here(row)
            derived_key = shared.key_of(row, at)
    except BrokenPipeError:
        raise
    except Exception:
        # who asked derives it in the request, and is told why that fails
        _log.exception("deriving rig %s", rig)
    finally:
        connections.close_all()
    if derived_key:
        pipe.send(("ahead", rig, derived_key))
        _plan(rig, derived_key, pipe)


def _plan(rig: int, key: str, pipe: "Connection[Any, Any]") -> None:
    """A rig's plan, also where it has no places to plan with, unless something newer is asked meanwhile."""
    from lodeline.core.stops.search import Stopped
    from lodeline.logbook import models as m
    from lodeline.logbook.services import plans

    def give_way(_share: float) -> None:
        if pipe.poll():
            raise Stopped

    try:
        row = m.Rig.objects.filter(pk=rig).first()
        if row is not None:
            plans.plan_here(row, give_way)
            pipe.send((plans.WHAT, rig, key))
    except (BrokenPipeError, Stopped):
        return
    except Exception:
        # who asked plans in the request, and is told why that fails
        _log.exception("planning for rig %s", rig)
        pipe.send((plans.FAILED, rig, key))
    finally:
        connections.close_all()
