"""What is derived from the log: levels and forecasts, shared by the workers of one server; may be thrown away.

Of each rig the latest levels and forecast are kept (`shared`). In a server a helper derives (`background`), and whoever
asks meanwhile is given the latest that is known, and told so.
"""

from collections.abc import Callable, Mapping, Sequence
from contextvars import ContextVar
from dataclasses import field, fields, replace
from datetime import date, datetime, timedelta
from typing import TypeVar

from lodeline.core.deriving import Answered, Asked, WhatMayCome, ahead
from lodeline.core.forecast.forecast import Forecast
from lodeline.core.forecast.known import Known
from lodeline.core.forecast.supposed import served
from lodeline.core.fuel.lines import MustStay, with_lines
from lodeline.core.log import Event, Log, Reading
from lodeline.core.rig import Rig as CoreRig
from lodeline.core.tracking.checkpoints import Checkpoints
from lodeline.core.tracking.track import track
from lodeline.core.values import dataclass
from lodeline.core.wishes import FixedStop
from lodeline.core.zone import Zone
from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services import background, issued, rows
from lodeline.logbook.services.shared import AT_HAND, is_kept, kept, key_of, latest, place, progress, read, share
from lodeline.text.answers import Work

# Older days add nothing to a level and next to nothing to a rate that recent days weigh more.
WINDOW_DAYS = 120
# Days before an older page of the ledger in which its levels come to be known.
_RUN_UP_DAYS = 30
# How long a request waits for the helper: a little where something older is known, else as long as people wait.
_PATIENCE_S, _LONGEST_S = 0.4, 1.7


@dataclass(frozen=True, kw_only=True)
class Levels(Known):
    """What is known of every store at one time, of the log's window. ``stamp``: the state it was made from."""

    revision: int
    stamp: str


@dataclass(frozen=True, kw_only=True)
class Derived(Levels):
    """Levels, and what may come. ``lines``: what must stay of what burns; what is known has these lines.
    ``after``: the forecast from when what is past its line is served, None where nothing is."""

    forecast: Forecast
    after: Forecast | None = None
    planned: tuple[FixedStop, ...] = ()
    lines: Mapping[str, MustStay] = field(default_factory=dict)

    @property
    def counted(self) -> "Derived":
        """From when on days are counted: as it stands once what is past its line is served."""
        if self.after is None:
            return self
        return replace(self, tracked=served(self.tracked, self.forecast.due), forecast=self.after)

    def bare(self) -> "Derived":
        """Without what the levels hold, to be kept beside them."""
        return replace(self, log=Log(), tracked={})

    def of(self, known: Levels) -> "Derived":
        """With the levels that it was made from."""
        return replace(self, log=known.log, tracked=with_lines(known.tracked, self.lines))


@dataclass(frozen=True, slots=True)
class Older:
    """That an answer was made of something older: as it was known then, and how far the newer one is."""

    at: datetime
    progress: float


class StillWorking(Exception):
    """Nothing is known yet; it is being derived. ``progress``: the share that is done."""

    def __init__(self, progress: float, what: Work = Work.LEVELS) -> None:
        super().__init__(progress)
        self.progress, self.what = progress, what


# Where a request notes that it was answered from something older.
OLDER: ContextVar[list[Older] | None] = ContextVar("lodeline_older", default=None)


def _window_start(today: date) -> date:
    """The first of a month at least the window back, so that checkpoints stay good through a month."""
    return (today - timedelta(days=WINDOW_DAYS)).replace(day=1)


def _levels_of(
    rig: m.Rig, core: CoreRig, log: Log, now: datetime, tell: Callable[[float], object] = lambda share: None
) -> Levels:
    checkpoints = _checkpoints(rig)
    before = set(checkpoints.kept)
    tracked = track(core, log, now, checkpoints, tell)
    if set(checkpoints.kept) != before and background.is_helper():
        share(place("checkpoints", rig), checkpoints)
    return Levels(now=now, revision=rig.revision, stamp=rig.stamp, rig=core, log=log, tracked=tracked)


def _checkpoints(rig: m.Rig) -> Checkpoints:
    """The states along a rig's past that this process has, or that an earlier one kept."""
    if rig.pk not in AT_HAND.checkpoints:
        shared = read(place("checkpoints", rig)) if background.is_helper() else None
        AT_HAND.checkpoints[rig.pk] = shared if isinstance(shared, Checkpoints) else Checkpoints()
    return AT_HAND.checkpoints[rig.pk]


def levels_here(rig: m.Rig) -> Levels:
    """What is known of every store, derived in this process where the log or the hour has changed."""
    now = clock.now()

    def derive(tell: Callable[[float], object]) -> Levels:
        core = rows.rig_rows(rig).core
        today = core.zone.date(now)
        return _levels_of(rig, core, rows.core_log(rig, since=_window_start(today), until=today), now, tell)

    return kept("levels", rig, now, derive)


def derived_here(rig: m.Rig) -> Derived:
    """Levels and forecast, derived in this process where the log or the hour has changed."""
    known = levels_here(rig)
    return kept("ahead", rig, known.now, lambda _tell: _ahead(rig, known)).of(known)


def levels(rig: m.Rig) -> Levels:
    """What is known of every store; in a server perhaps of a moment ago.

    Raises
    ------
    StillWorking
        Nothing is known yet.
    """
    return _current(rig, "levels", levels_here, _known_levels)


def derived(rig: m.Rig) -> Derived:
    """The rig's levels and forecast; in a server perhaps of a moment ago.

    Raises
    ------
    StillWorking
        Nothing is known yet.
    """
    return _current(rig, "ahead", derived_here, _known_ahead)


AnyLevels = TypeVar("AnyLevels", bound=Levels)


def _known_levels(rig: m.Rig, key: str) -> Levels | None:
    last = latest("levels", rig, key)
    return last[1] if last is not None and isinstance(last[1], Levels) and key in (last[0], "") else None


def _known_ahead(rig: m.Rig, key: str) -> Derived | None:
    """What was derived last, or of a state: a forecast goes with the levels that it was made from alone."""
    ahead, whole = latest("ahead", rig, key), AT_HAND.get(place("whole", rig))
    if ahead is None or not isinstance(ahead[1], Derived) or key not in (ahead[0], ""):
        return None
    if whole is None or whole[0] != ahead[0]:
        known = _known_levels(rig, ahead[0])
        if known is not None:
            whole = (ahead[0], ahead[1].of(known))
            AT_HAND.put(place("whole", rig), *whole)
        elif key:
            return None
    return whole[1] if whole is not None and isinstance(whole[1], Derived) else None


def _current(
    rig: m.Rig, what: str, here: Callable[[m.Rig], AnyLevels], known: Callable[[m.Rig, str], AnyLevels | None]
) -> AnyLevels:
    helper, now = background.helper(), clock.now()
    if helper is None:
        return here(rig)
    key = key_of(rig, now)
    if (value := known(rig, key)) is not None:
        return value
    may_wait = helper.ask(rig.pk, key) and helper.has_time()
    older = _standing(rig, known(rig, ""))
    patience = (_PATIENCE_S if may_wait else 0.0) if older is not None else _LONGEST_S
    answered = helper.wait(what, rig.pk, key, patience)
    if (value := known(rig, key)) is not None:
        return value
    if answered:
        rig.refresh_from_db()
        if key_of(rig, now) == key:  # it failed there, or could not be shared: here it is told why, or done
            return here(rig)
        if (value := known(rig, key_of(rig, now))) is not None:  # it had been written to meanwhile
            return value
    if older is None:
        raise StillWorking(progress(rig))
    tell_older(rig, older.now)
    return older


def tell_older(rig: m.Rig, at: datetime, what: str = "") -> None:
    """Note that what is answered was made of something older, and how far the newer one is."""
    if (notes := OLDER.get()) is not None:
        notes.append(Older(at, progress(rig, what)))


def _standing(rig: m.Rig, value: AnyLevels | None) -> AnyLevels | None:
    """The latest that is known, where it is of the same rig: of another log, or where parts were changed since,
    it is not shown."""
    if value is None or not rig.replaced_revision <= value.revision <= rig.revision or value.now > clock.now():
        return None
    return value if rows.rig_rows(rig).core == value.rig else None


def levels_soon(rig: m.Rig, before: Levels | None, entries: Sequence[Reading | Event] | None) -> Levels | None:
    """The levels after a write, None where they are not known soon enough to say them in its answer.

    ``entries``: what was logged where nothing else was written; derived in this process the log need then not be read
    again.
    """
    helper, now = background.helper(), clock.now()
    if helper is not None:
        key = key_of(rig, now)
        if helper.ask(rig.pk, key) and helper.has_time():
            helper.wait("levels", rig.pk, key, _PATIENCE_S)
        return known_levels(rig)
    if entries is None or before is None or before.revision + 1 != rig.revision:
        return levels_here(rig)
    log = before.log.with_entries(entries, before.rig.zone)
    start = _window_start(before.rig.zone.date(now))
    log = Log(log.days[log.first_from(start) :])
    return kept("levels", rig, now, lambda tell: _levels_of(rig, before.rig, log, now, tell))


def known_levels(rig: m.Rig) -> Levels | None:
    """The levels of this state and hour, if they were derived already."""
    return _known_levels(rig, key_of(rig, clock.now()))


def levels_before(rig: m.Rig) -> Levels | None:
    """The levels before a write, where this process will derive those after it."""
    return known_levels(rig) if background.helper() is None else None


def _known(rig: m.Rig, levels: Levels) -> Known:
    """What is known of a rig with levels, and what its crew has decided."""
    today = levels.rig.zone.date(levels.now)
    return Known(
        rig=levels.rig,
        log=levels.log,
        now=levels.now,
        tracked=levels.tracked,
        outlook=rows.core_outlook(rig, today),
        book=rows.core_book(rig),
        agreed=rows.core_agreed(rig, today),
    )


def _derived(rig: m.Rig, levels: Levels, found: WhatMayCome) -> Derived:
    derived = Derived(
        **{each.name: getattr(found.known, each.name) for each in fields(Known)},
        revision=levels.revision,
        stamp=levels.stamp,
        forecast=found.forecast,
        after=found.after,
        planned=rows.core_planned(rig, levels.now),
        lines=found.lines,
    )
    return derived.bare()


def _ahead(rig: m.Rig, levels: Levels) -> Derived:
    return _derived(rig, levels, ahead(_known(rig, levels), issued.shown(rig), rig.pk))


def asked(rig: m.Rig) -> Asked | None:
    """What is to be worked out to bring a rig up to date, wherever that is done; None where it is."""
    now = clock.now()
    if is_kept("levels", rig, now) and is_kept("ahead", rig, now):
        return None
    core = rows.rig_rows(rig).core
    today = core.zone.date(now)
    log = rows.core_log(rig, since=_window_start(today), until=today)
    bare = Levels(now=now, revision=rig.revision, stamp=rig.stamp, rig=core, log=log, tracked={})
    return Asked(known=_known(rig, bare), shown=issued.shown(rig), seed=rig.pk)


def take(rig: m.Rig, answered: Answered) -> None:
    """Keep what was worked out of a rig, for whoever asks."""
    known = answered.known
    levels = Levels(
        now=known.now, revision=rig.revision, stamp=rig.stamp, rig=known.rig, log=known.log, tracked=known.tracked
    )
    kept("levels", rig, known.now, lambda _tell: levels)
    kept("ahead", rig, known.now, lambda _tell: _derived(rig, levels, answered.ahead))
    share(place("checkpoints", rig), answered.checkpoints)


def levels_to(rig: m.Rig, first: date, on: date) -> Levels:
    """Levels from one date to the end of another, for the ledger of older days."""
    now = clock.now()
    zone = Zone(rig.timezone)
    if on >= zone.date(now):
        return levels(rig)
    core = rows.rig_rows(rig).core
    log = rows.core_log(rig, since=first - timedelta(days=_RUN_UP_DAYS), until=on)
    end = min(now, zone.bounds(on)[1] - timedelta(microseconds=1))
    tracked = track(core, log, end)
    return Levels(now=end, revision=rig.revision, stamp=rig.stamp, rig=core, log=log, tracked=tracked)


def log_of(rig: m.Rig, known: Levels, first: date, last: date) -> Log:
    """The log of some dates as it stands now, also where what is known is older."""
    if known.stamp == rig.stamp:
        return known.log
    return rows.core_log(rig, since=first, until=last)
