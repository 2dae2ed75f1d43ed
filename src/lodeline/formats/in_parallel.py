"""The same done to many, shared out among the machine's cores."""

import os
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import Executor
from typing import Any, TypeVar

_Of = TypeVar("_Of")
_Told = TypeVar("_Told")
# Fewer are done sooner than processes are made for them.
_WORTH_SHARING = 3
_work: Callable[[Any], Any]


def cores() -> int:
    """How many cores this process may use."""
    return len(os.sched_getaffinity(0))


def processes() -> Executor:
    """A process for each core, all of them copies of this one as it is now."""
    from concurrent.futures import ProcessPoolExecutor
    from multiprocessing import get_context

    pool = ProcessPoolExecutor(cores(), mp_context=get_context("fork"))
    pool.submit(int).result()  # with the first task all are made
    return pool


def in_parallel(do: Callable[[_Of], _Told], many: Sequence[_Of]) -> Iterator[_Told]:
    """What each of many comes to, in their order, as soon as it is known."""
    if cores() == 1 or len(many) < _WORTH_SHARING:
        yield from map(do, many)
        return
    # what is to be done need not be packed: each process has it already
    global _work
    _work = do
    with processes() as pool:
        yield from pool.map(_do, many, chunksize=max(1, min(4, len(many) // (4 * cores()))))


def _do(one: Any) -> Any:
    return _work(one)
