"""Values that a server's processes share: of each rig the latest of a kind, under its state and the hour.

They are kept in a file cache in the data folder and at hand in each process, and may be thrown away. A lock a rig keeps
two processes from deriving the same.
"""

import fcntl
import hashlib
import logging
import os
from collections import OrderedDict
from collections.abc import Callable, Iterator
from contextlib import AbstractContextManager, contextmanager, nullcontext, suppress
from datetime import UTC, datetime
from pathlib import Path
from threading import Lock
from time import monotonic, perf_counter, sleep
from typing import TypeVar, cast

from django.conf import settings
from django.core.cache import cache

import lodeline
from lodeline.core.tracking.checkpoints import Checkpoints
from lodeline.logbook import models as m
from lodeline.logbook.common import Common
from lodeline.logbook.services import background

# What this process keeps at hand of what is shared.
_MOST_AT_HAND = 48
_VERSION = "version"

Value = TypeVar("Value")
_log = logging.getLogger(__name__)


class _AtHand:
    """The latest values of this process, each with its key, and the checkpoints of each rig's walks."""

    def __init__(self) -> None:
        self.values: OrderedDict[str, tuple[str, object]] = OrderedDict()
        self.checkpoints: dict[int, Checkpoints] = {}
        self.lock = Lock()

    def get(self, place: str) -> tuple[str, object] | None:
        with self.lock:
            if place in self.values:
                self.values.move_to_end(place)
            return self.values.get(place)

    def put(self, place: str, key: str, value: object) -> None:
        with self.lock:
            self.values[place] = (key, value)
            self.values.move_to_end(place)
            while len(self.values) > _MOST_AT_HAND:
                self.values.popitem(last=False)

    def drop(self, rig: int) -> None:
        with self.lock:
            self.checkpoints.pop(rig, None)
            for place in [each for each in self.values if each.partition(":")[2] == str(rig)]:
                del self.values[place]

    def clear(self) -> None:
        with self.lock:
            self.values.clear()
            self.checkpoints.clear()


AT_HAND = _AtHand()


def place(what: str, rig: m.Rig) -> str:
    """Where the latest of a kind of a rig lies."""
    return f"{what}:{rig.pk}"


def key_of(rig: m.Rig, now: datetime) -> str:
    """What a value is derived from: the rig's state, and the hour."""
    return f"{rig.stamp}:{now.astimezone(UTC):%Y%m%d%H}"


# What is derived after the rest, and must not keep it waiting, has a lock of its own.
MEANWHILE = "plan-meanwhile"
APART = ("plan", MEANWHILE)
_KINDS = ("levels", "ahead", "checkpoints", *APART)


def _lock_file(rig: m.Rig, what: str = "") -> Path:
    name = f"rig-{rig.pk}-{what}" if what in APART else f"rig-{rig.pk}"
    return Path(settings.LODELINE_DATA) / "locks" / name


WhileWaiting = Callable[[], AbstractContextManager[None]]


@contextmanager
def alone(rig: m.Rig, what: str = "", while_waiting: WhileWaiting = nullcontext) -> Iterator[Callable[[float], object]]:
    """One derivation of a rig at a time, across threads and processes. Yields what is to be told the progress.

    Where the disk takes no file, it is done without: twice is better than not at all. ``while_waiting``: entered while
    another has it.
    """
    try:
        path = _lock_file(rig, what)
        path.parent.mkdir(mode=0o700, exist_ok=True)
        handle = os.open(path, os.O_RDWR | os.O_CREAT, 0o600)
    except OSError:
        yield lambda share: None
        return
    try:
        if not _took(handle):
            with while_waiting():
                fcntl.flock(handle, fcntl.LOCK_EX)
        try:
            yield lambda share: _tell(handle, share)
        finally:
            _tell(handle, 0.0)
    finally:
        os.close(handle)


class Busy(Exception):
    """Another whole log is read or written."""


@contextmanager
def whole_log() -> Iterator[None]:
    """Whole logs are read and written one at a time, in all processes: each takes several times its size of memory.

    Raises
    ------
    Busy
        Another took longer than one waits.
    """
    try:
        path = Path(settings.LODELINE_DATA) / "locks" / "whole-log"
        path.parent.mkdir(mode=0o700, exist_ok=True)
        handle = os.open(path, os.O_RDWR | os.O_CREAT, 0o600)
    except OSError:  # a disk that takes no file: one after the other in this process
        handle = -1
    until, is_ours = monotonic() + _PATIENCE_S, _large.acquire(timeout=_PATIENCE_S)
    try:
        while not is_ours or (handle >= 0 and not _took(handle)):
            if not is_ours or monotonic() > until:
                raise Busy
            sleep(_MOMENT_S)
        yield
    finally:
        if is_ours:
            _large.release()
        if handle >= 0:
            os.close(handle)


_large = Lock()
_PATIENCE_S, _MOMENT_S = 5.0, 0.05


def _took(handle: int) -> bool:
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        return False
    return True


def _tell(handle: int, share: float) -> None:
    with suppress(OSError):
        os.pwrite(handle, b"%.2f" % share, 0)


def progress(rig: m.Rig, what: str = "") -> float:
    """The share that is done of a rig's derivation, by whichever process it is made."""
    try:
        return float(_lock_file(rig, what).read_text() or 0)
    except (OSError, ValueError):
        return 0.0


def kept(
    what: str,
    rig: m.Rig,
    now: datetime,
    derive: Callable[[Callable[[float], object]], Value],
    while_waiting: WhileWaiting = nullcontext,
) -> Value:
    """A value that is kept, or derived once."""
    if (value := _known(what, rig, now)) is not None:
        return value  # type: ignore[return-value]
    with alone(rig, what, while_waiting) as tell:
        if (value := _known(what, rig, now)) is not None:
            return value  # type: ignore[return-value]
        began = perf_counter()
        fresh = derive(tell)
        _log.info("derived %s", what, extra={"rig": rig.pk, "revision": rig.revision, "s": perf_counter() - began})
        _put(what, rig, now, fresh)
    return fresh


def latest(what: str, rig: m.Rig, key: str = "") -> tuple[str, object] | None:
    """The latest value that is known, with its key; one at hand will do where it has the key that is wanted."""
    where = place(what, rig)
    held, helper = AT_HAND.get(where), background.helper()
    if held is not None and (held[0] == key or (helper is not None and helper.done(what, rig.pk) in (held[0], ""))):
        return held
    common = read(where)
    if not isinstance(common, tuple):
        return held
    AT_HAND.put(where, *common)
    return common


def answered(known: object, question: tuple[object, ...], answer: Callable[[], Value]) -> Value:
    """What is asked of something derived, worked out once in this process as long as that stands."""
    where = f"asked:{question}"
    _, held = AT_HAND.get(where) or ("", None)
    if isinstance(held, tuple) and held[0] is known:
        return held[1]  # type: ignore[no-any-return]
    value = answer()
    AT_HAND.put(where, "", (known, value))
    return value


def _known(what: str, rig: m.Rig, now: datetime) -> object | None:
    key = key_of(rig, now)
    last = latest(what, rig, key)
    return last[1] if last is not None and last[0] == key else None


def written(what: str, rig: m.Rig) -> int:
    """When the latest value of a kind was shared: another number after each, by whichever process."""
    return cast(Common, cache).written(place(what, rig))


def is_kept(what: str, rig: m.Rig, now: datetime) -> bool:
    """Whether a value of a rig's state and the hour is kept."""
    return _known(what, rig, now) is not None


def _put(what: str, rig: m.Rig, now: datetime, value: object) -> None:
    AT_HAND.put(place(what, rig), key_of(rig, now), value)
    share(place(what, rig), (key_of(rig, now), value))


def share(where: str, value: object) -> None:
    """Keep a value for the other processes; where the disk is full, they derive it themselves."""
    try:
        cache.set(where, value, None)
    except OSError:
        _log.warning("%s cannot be kept", where, exc_info=True)


def read(where: str) -> object | None:
    """What is kept there for all processes; None where there is nothing, or what another version wrote."""
    try:
        return cache.get(where)  # type: ignore[no-any-return]
    except Exception:
        _log.warning("%s cannot be read", where, exc_info=True)
        return None


def drop(rig: m.Rig) -> None:
    """Throw away what was derived of a rig that is deleted."""
    AT_HAND.drop(rig.pk)
    with suppress(OSError):
        cache.delete_many([place(what, rig) for what in _KINDS])


def forget() -> None:
    """Throw away all that was derived."""
    AT_HAND.clear()
    with suppress(OSError):
        cache.clear()


def forget_other_versions() -> None:
    """Throw away what another version of this code derived; what this one did before it was stopped is still good."""
    source = Path(lodeline.__file__).parent
    total = hashlib.sha256(lodeline.__version__.encode())
    for path in sorted(source.rglob("*.py")):
        total.update(path.read_bytes())
    if read(_VERSION) != total.hexdigest():
        forget()
        share(_VERSION, total.hexdigest())
