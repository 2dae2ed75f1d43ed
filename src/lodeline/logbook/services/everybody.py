"""All rigs of a server brought up to date, by whatever executor works it out: cores of this machine, or a cluster."""

from collections.abc import Callable, Iterator
from concurrent.futures import Executor, Future, as_completed
from contextlib import contextmanager
from importlib import import_module
from typing import Any

from django.db import connections

from lodeline.core.deriving import Answered, answer
from lodeline.logbook import models as m
from lodeline.logbook.services import derived

# What is on its way at once: enough that nobody waits for work, and little enough to hold.
_ON_THE_WAY = 32


def bring_up_to_date(executor: Executor, tell: Callable[[int, int], object] = lambda done, of: None) -> tuple[int, int]:
    """Derive every rig that is not up to date. Answers how many were derived, and how many there are.

    Parameters
    ----------
    executor : Executor
        Is sent data and sends data back; it needs this code, and nothing of the server.
    tell : callable
        Is told how many rigs are done, and of how many.
    """
    keys = list(m.Rig.objects.filter(aside="").order_by("pk").values_list("pk", flat=True))
    under_way: dict[Future[Answered], m.Rig] = {}
    worked_out = done = 0
    for rig in _rigs(keys):
        asked = derived.asked(rig)
        if asked is None:
            done += 1
            continue
        under_way[executor.submit(answer, asked)] = rig
        while len(under_way) >= _ON_THE_WAY:
            worked_out += _take(under_way)
            tell(done + worked_out, len(keys))
    while under_way:
        worked_out += _take(under_way)
        tell(done + worked_out, len(keys))
    return worked_out, len(keys)


def _rigs(keys: list[int]) -> Iterator[m.Rig]:
    for key in keys:
        rig = m.Rig.objects.filter(pk=key, aside="").first()
        if rig is not None:
            yield rig


def _take(under_way: dict[Future[Answered], m.Rig]) -> int:
    """Keep what is done; one that was written to meanwhile is derived when it is asked for."""
    each = next(as_completed(under_way))
    rig = under_way.pop(each)
    answered = each.result()
    state = m.Rig.objects.filter(pk=rig.pk).values_list("revision", flat=True).first()
    if state == rig.revision:
        derived.take(rig, answered)
    return 1


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


def local(workers: int) -> Executor:
    """Cores of this machine."""
    from concurrent.futures import ProcessPoolExecutor
    from multiprocessing import get_context

    connections.close_all()
    return ProcessPoolExecutor(workers, mp_context=get_context("fork"))
