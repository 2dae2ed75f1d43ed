"""What a helper process does: it derives levels, forecasts and plans as they are asked for, and gives way to writes."""

import logging
import signal
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import partial
from multiprocessing.connection import Connection
from time import monotonic, sleep
from typing import Any

from django.db import DatabaseError, connections

from lodeline.logbook import models as m
from lodeline.logbook.services import background, derived, plans, shared

_log = logging.getLogger(__name__)
_MOST_AT_START = 10
_PAUSE_S, _LONGEST_PAUSE_S = 0.2, 2.0
# Derivations one after the other between which there is no pause.
_AT_ONCE = 3
# How soon the next wish of the same rig comes, where there is one.
_MOMENT_S = 0.01


class Stopped(Exception):
    """Something newer is asked."""


def serve(pipe: "Connection[Any, Any]") -> None:
    """Derive what is asked for, until the pipe ends."""
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
        key = waiting.pop(rig)
        took, is_awaited = _derive(rig, pipe)
        pipe.send((background.OVER, rig, key))
        if background.has_grown():
            return
        # where it is written to again and again, time for those who are answered; not where somebody has written twice
        in_a_row = in_a_row + 1 if is_awaited else 0
        sleep(min(max(0, in_a_row - _AT_ONCE) * max(took, _PAUSE_S), _LONGEST_PAUSE_S))


def _likely() -> list[int]:
    """What is likely to be asked for first after a start."""
    try:
        rigs = m.Rig.objects.filter(aside="").order_by("-revision")
        return list(rigs.values_list("pk", flat=True)[:_MOST_AT_START])
    except DatabaseError:
        return []


def _derive(rig: int, pipe: "Connection[Any, Any]") -> tuple[float, bool]:
    """Derive a rig, and its plan after it; how long it took to the forecast [s], and whether the next was waiting by
    then."""
    derived_key, began = "", monotonic()
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
    took = monotonic() - began
    if not derived_key:
        return took, False
    pipe.send(("ahead", rig, derived_key))
    if pipe.poll(_MOMENT_S):
        return took, True
    _plan(rig, derived_key, pipe)
    return took, False


def _plan(rig: int, key: str, pipe: "Connection[Any, Any]") -> None:
    """A rig's plan, also where it has no places to plan with, unless something newer is asked meanwhile."""
    try:
        row = m.Rig.objects.filter(pk=rig).first()
        if row is not None:
            giving_way = partial(_giving_way, pipe, partial(shared.written, "levels", row))
            if plans.meanwhile_here(row, giving_way) is not None:
                pipe.send((shared.MEANWHILE, rig, key))
            plans.plan_here(row, giving_way)
            pipe.send((plans.WHAT, rig, key))
    except (BrokenPipeError, Stopped):
        return
    except Exception:
        # who asked plans in the request, and is told why that fails
        _log.exception("planning for rig %s", rig)
        pipe.send((plans.FAILED, rig, key))
    finally:
        connections.close_all()


@contextmanager
def _giving_way(pipe: "Connection[Any, Any]", written: Callable[[], int]) -> Iterator[None]:
    """What is worked out here is given up, whatever it is at, within moments of something newer being asked here, or
    levels being ``written`` by another process. Nothing that writes may be done here."""
    may_stop, at_first = True, written()

    def look(_number: int, _frame: object) -> None:
        if may_stop and (pipe.poll() or written() != at_first):
            raise Stopped
        signal.setitimer(signal.ITIMER_REAL, _MOMENT_S if may_stop else 0)

    signal.signal(signal.SIGALRM, look)
    look(0, None)
    try:
        yield
    finally:
        may_stop = False
        signal.setitimer(signal.ITIMER_REAL, 0)
