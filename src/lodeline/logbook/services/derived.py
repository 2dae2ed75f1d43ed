"""What is derived from the log: levels and forecasts, shared by the workers of one server; may be thrown away.

Levels are kept by rig, stamp and hour, forecasts likewise: a revision can come twice, after a restore. A lock a rig
keeps two requests from deriving the same.
"""

import fcntl
import logging
import os
from collections import OrderedDict
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from threading import Lock
from time import perf_counter
from typing import TypeVar

from django.conf import settings
from django.core.cache import cache

from lodeline.core.figures import Forecasting
from lodeline.core.forecast.forecast import Forecast, forecast
from lodeline.core.log import Event, Log, OutlookDay, Reading
from lodeline.core.rig import Rig as CoreRig
from lodeline.core.tracking.checkpoints import Checkpoints
from lodeline.core.tracking.track import Tracked, track
from lodeline.core.zone import Zone
from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services import issued, rows

# Older days add nothing to a level and next to nothing to a rate that recent days weigh more.
WINDOW_DAYS = 120
_KEPT_S = 3600
# What this process keeps at hand of what is shared.
_MOST_AT_HAND = 16

Value = TypeVar("Value")
_log = logging.getLogger(__name__)


@dataclass(frozen=True, kw_only=True)
class Levels:
    """Rig, log of the window, and what is known of every store at one time."""

    now: datetime
    revision: int
    rig: CoreRig
    log: Log
    tracked: dict[str, Tracked]


@dataclass(frozen=True, kw_only=True)
class Derived(Levels):
    """Levels, and what may come."""

    outlook: tuple[OutlookDay, ...]
    forecast: Forecast
    spread_scale: dict[str, float]

    def scale_of(self, store_id: str) -> float:
        """The spread that a store's own record asks for."""
        return self.spread_scale.get(store_id, 1.0)


class _AtHand:
    """The latest values of this process, by key, and the checkpoints of each rig's walks."""

    def __init__(self) -> None:
        self.values: OrderedDict[str, object] = OrderedDict()
        self.checkpoints: dict[int, Checkpoints] = {}
        self.lock = Lock()

    def get(self, key: str) -> object | None:
        with self.lock:
            if key in self.values:
                self.values.move_to_end(key)
            return self.values.get(key)

    def put(self, key: str, value: object) -> None:
        with self.lock:
            self.values[key] = value
            while len(self.values) > _MOST_AT_HAND:
                self.values.popitem(last=False)

    def clear(self) -> None:
        with self.lock:
            self.values.clear()
            self.checkpoints.clear()


AT_HAND = _AtHand()


def _key(what: str, rig: m.Rig, now: datetime) -> str:
    return f"{what}:{rig.pk}:{rig.stamp}:{now.astimezone(UTC):%Y%m%d%H}"


@contextmanager
def _alone(rig: m.Rig) -> Iterator[None]:
    """One derivation of a rig at a time, across threads and processes."""
    folder = Path(settings.LODELINE_DATA) / "locks"
    folder.mkdir(mode=0o700, exist_ok=True)
    handle = os.open(folder / f"rig-{rig.pk}", os.O_RDWR | os.O_CREAT, 0o600)
    try:
        fcntl.flock(handle, fcntl.LOCK_EX)
        yield
    finally:
        os.close(handle)


def _kept(what: str, rig: m.Rig, now: datetime, derive: Callable[[], Value]) -> Value:
    """A value that is kept, or derived once."""
    key = _key(what, rig, now)
    if (value := _known(key)) is not None:
        return value  # type: ignore[return-value]
    with _alone(rig):
        if (value := _known(key)) is not None:
            return value  # type: ignore[return-value]
        began = perf_counter()
        fresh = derive()
        _log.info("derived %s", what, extra={"rig": rig.pk, "revision": rig.revision, "s": perf_counter() - began})
        _put(key, fresh)
    return fresh


def _known(key: str) -> object | None:
    value = AT_HAND.get(key)
    if value is None and (value := cache.get(key)) is not None:
        AT_HAND.put(key, value)
    return value


def _put(key: str, value: object) -> None:
    AT_HAND.put(key, value)
    cache.set(key, value, _KEPT_S)


def _window_start(today: date) -> date:
    """The first of a month at least the window back, so that checkpoints stay good through a month."""
    return (today - timedelta(days=WINDOW_DAYS)).replace(day=1)


def _levels_of(rig: m.Rig, core: CoreRig, log: Log, now: datetime) -> Levels:
    checkpoints = AT_HAND.checkpoints.setdefault(rig.pk, Checkpoints())
    tracked = track(core, log, now, checkpoints)
    return Levels(now=now, revision=rig.revision, rig=core, log=log, tracked=tracked)


def levels(rig: m.Rig) -> Levels:
    """What is known of every store, derived when the log or the hour has changed."""
    now = clock.now()

    def derive() -> Levels:
        core = rows.rig_rows(rig).core
        today = core.zone.date(now)
        return _levels_of(rig, core, rows.core_log(rig, since=_window_start(today), until=today), now)

    return _kept("levels", rig, now, derive)


def levels_after(rig: m.Rig, before: Levels | None, entries: Sequence[Reading | Event]) -> Levels:
    """The levels once entries were logged. Where the levels before them are known, the log is not read again."""
    if before is None or before.revision + 1 != rig.revision:
        return levels(rig)
    now = clock.now()
    log = before.log.with_entries(entries, before.rig.zone)
    start = _window_start(before.rig.zone.date(now))
    log = Log(log.days[log.first_from(start) :])
    return _kept("levels", rig, now, lambda: _levels_of(rig, before.rig, log, now))


def known_levels(rig: m.Rig) -> Levels | None:
    """The levels of this revision and hour, if they were derived already."""
    value = _known(_key("levels", rig, clock.now()))
    return value if isinstance(value, Levels) else None


def derived(rig: m.Rig) -> Derived:
    """The rig's levels and forecast, derived when its log or the hour has changed."""
    known = levels(rig)
    return _kept("ahead", rig, known.now, lambda: _ahead(rig, known))


def _ahead(rig: m.Rig, known: Levels) -> Derived:
    outlook = rows.core_outlook(rig, known.rig.zone.date(known.now))
    scale = issued.scales(rig, known.tracked, known.now)
    ahead = forecast(
        known.rig, known.log, outlook, known.now, seed=rig.pk, days=Forecasting.horizon_days, tracked=known.tracked,
        spread_scale=scale,
    )  # fmt: skip
    return Derived(
        now=known.now, revision=known.revision, rig=known.rig, log=known.log, tracked=known.tracked, outlook=outlook,
        forecast=ahead, spread_scale=scale,
    )  # fmt: skip


def levels_to(rig: m.Rig, on: date) -> Levels:
    """Levels up to the end of a date, for the ledger of older days."""
    now = clock.now()
    zone = Zone(rig.timezone)
    if on >= zone.date(now):
        return levels(rig)
    core = rows.rig_rows(rig).core
    log = rows.core_log(rig, since=on - timedelta(days=WINDOW_DAYS), until=on)
    end = min(now, zone.bounds(on)[1] - timedelta(microseconds=1))
    return Levels(now=end, revision=rig.revision, rig=core, log=log, tracked=track(core, log, end))


def forget() -> None:
    """Throw away all that was derived."""
    AT_HAND.clear()
    cache.clear()
