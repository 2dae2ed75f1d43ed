"""The same done to many, shared out among the machine's cores."""

import os
from collections.abc import Callable, Iterator, Sequence
from typing import Any, TypeVar

_Of = TypeVar("_Of")
_Told = TypeVar("_Told")
# Fewer are done sooner than processes are made for them.
_WORTH_SHARING = 3
_work: Callable[[Any], Any]


def in_parallel(do: Callable[[_Of], _Told], many: Sequence[_Of]) -> Iterator[_Told]:
    """What each of many comes to, in their order, as soon as it is known."""
    cores = len(os.sched_getaffinity(0))
    if cores == 1 or len(many) < _WORTH_SHARING:
        yield from map(do, many)
        return
    from concurrent.futures import ProcessPoolExecutor
    from multiprocessing import get_context

    # what is to be done need not be packed: each process is a copy of this one
    global _work
    _work = do
    with ProcessPoolExecutor(cores, mp_context=get_context("fork")) as pool:
        yield from pool.map(_do, many, chunksize=max(1, min(4, len(many) // (4 * cores))))


def _do(one: Any) -> Any:
    return _work(one)
