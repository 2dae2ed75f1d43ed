"""All rigs of a server brought up to date, by whatever executor works it out: cores of this machine, or a cluster."""

import logging
from collections.abc import Callable, Iterator
from concurrent.futures import Executor, Future, as_completed
from contextlib import contextmanager
from dataclasses import field
from importlib import import_module
from typing import Any

from django.db import connections

from lodeline.core.deriving import Answered, answer
from lodeline.core.values import dataclass
from lodeline.formats.in_parallel import processes
from lodeline.logbook import models as m
from lodeline.logbook.services import derived

# What is on its way at once: enough that nobody waits for work, and little enough to hold.
_ON_THE_WAY = 32
_log = logging.getLogger(__name__)


@dataclass
class Done:
    """What came of it: of ``rigs`` in all, how many were ``derived`` and how many ``up_to_date`` already; which
    ``failed``."""

    rigs: int
    derived: int = 0
    up_to_date: int = 0
    failed: list[int] = field(default_factory=list)


def bring_up_to_date(executor: Executor, tell: Callable[[int, int], object] = lambda done, of: None) -> Done:
    """Derive every rig that is not up to date; one that fails stops no other.

    Parameters
    ----------
    executor : Executor
        Is sent data and sends data back; it needs this code, and nothing of the server.
    tell : callable
        Is told how many rigs are done, and of how many.
    """
    keys = list(m.Rig.objects.filter(aside="").order_by("pk").values_list("pk", flat=True))
    under_way: dict[Future[Answered], m.Rig] = {}
    done = Done(len(keys))
    for rig in _rigs(keys):
        asked = derived.asked(rig)
        if asked is None:
            done.up_to_date += 1
            continue
        under_way[executor.submit(answer, asked)] = rig
        while len(under_way) >= _ON_THE_WAY:
            _take(under_way, done)
            tell(done.rigs - len(under_way), done.rigs)
    while under_way:
        _take(under_way, done)
        tell(done.rigs - len(under_way), done.rigs)
    return done


def _rigs(keys: list[int]) -> Iterator[m.Rig]:
    for key in keys:
        rig = m.Rig.objects.filter(pk=key, aside="").first()
        if rig is not None:
            yield rig


def _take(under_way: dict[Future[Answered], m.Rig], done: Done) -> None:
    """Keep what is worked out; one that was written to meanwhile is derived when it is asked for."""
    each = next(as_completed(under_way))
    rig = under_way.pop(each)
    try:
        answered = each.result()
    except Exception:
        _log.exception("deriving rig %s", rig.pk)
        done.failed.append(rig.pk)
        return
    done.derived += 1
    if m.Rig.objects.filter(pk=rig.pk, revision=rig.revision, stamp=rig.stamp).exists():
        derived.take(rig, answered)


class NoCluster(Exception):
    """The cluster cannot be used; the message says why."""


@contextmanager
def cluster(address: str) -> Iterator[Executor]:
    """The workers of a Dask cluster, by its scheduler's address.

    Raises
    ------
    NoCluster
        Dask is not installed, or no scheduler answers.
    """
    try:
        dask: Any = import_module("distributed")
    except ImportError:
        raise NoCluster(
            "Dask is not installed here. Install the locked packages of requirements/cluster.txt first."
        ) from None
    try:
        client = dask.Client(address, timeout=_CONNECT_S)
    except (OSError, ValueError, TimeoutError) as error:
        raise NoCluster(f"No Dask scheduler answers at {address}: {error}") from None
    with client, client.get_executor(pure=False) as executor:
        yield executor


_CONNECT_S = 10


def local() -> Executor:
    """Cores of this machine. No process has the database open that another uses."""
    connections.close_all()
    return processes()
