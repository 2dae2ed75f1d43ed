"""What is derived from the log: estimates and forecasts, cached by rig, revision and hour."""

from dataclasses import dataclass
from datetime import date, datetime, timedelta
from threading import Lock

from django.core.cache import cache

from lodeline.core.forecast.forecast import Forecast, forecast
from lodeline.core.log import Log, OutlookDay
from lodeline.core.rig import Rig as CoreRig
from lodeline.core.tracking.marks import Marks
from lodeline.core.tracking.track import Tracked, track
from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services import review, rows
from lodeline.logbook.services.record import local_date

# Older days add nothing to a level and next to nothing to a rate that recent days weigh more.
WINDOW_DAYS = 120
HORIZON_DAYS = 14
_KEPT_S = 3600
# Day marks of each rig in this process; at most a few rigs are looked at by one household.
_MARKS: dict[int, Marks] = {}
_LOCK = Lock()


@dataclass(frozen=True)
class Derived:
    """Rig, log of the window, and all that follows from them at one time."""

    now: datetime
    rig: CoreRig
    log: Log
    outlook: tuple[OutlookDay, ...]
    tracked: dict[str, Tracked]
    forecast: Forecast
    widen: dict[str, float]


def _window_start(today: date) -> date:
    """The first of a month at least the window back, so that day marks stay good through a month."""
    return (today - timedelta(days=WINDOW_DAYS)).replace(day=1)


def compute(rig: m.Rig, now: datetime, days: int = HORIZON_DAYS) -> Derived:
    """Track and forecast a rig from its rows."""
    core = rows.core_rig(rig)
    today = local_date(rig, now)
    log = rows.core_log(rig, since=_window_start(today), until=today)
    outlook = rows.core_outlook(rig, today)
    with _LOCK:
        tracked = track(core, log, now, _MARKS.setdefault(rig.pk, Marks()))
    widen = review.factors(rig)
    found = forecast(core, log, outlook, now, seed=rig.pk, days=days, tracked=tracked, widen=widen)
    return Derived(now, core, log, outlook, tracked, found, widen)


def derived(rig: m.Rig) -> Derived:
    """The rig's estimates and forecast, computed when its log or the hour has changed."""
    now = clock.now()
    key = f"derived:{rig.pk}:{rig.revision}:{now:%Y%m%d%H}"
    found: Derived | None = cache.get(key)
    if found is None:
        found = compute(rig, now)
        review.keep(rig, found.forecast, found.tracked)
        cache.set(key, found, _KEPT_S)
    return found


def tracked_to(rig: m.Rig, on: date, now: datetime) -> tuple[CoreRig, dict[str, Tracked]]:
    """Estimates up to the end of a date, for the ledger of older days."""
    core = rows.core_rig(rig)
    log = rows.core_log(rig, since=on - timedelta(days=WINDOW_DAYS), until=on)
    end = datetime.combine(on + timedelta(days=1), datetime.min.time(), tzinfo=now.tzinfo)
    return core, track(core, log, min(now, end))
