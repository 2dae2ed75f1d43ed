"""Water and waste of what is derived: amounts, balances, the ration that is kept."""

from dataclasses import dataclass
from datetime import date, datetime, timedelta

from django.contrib.auth.models import User

from lodeline.core import problems as p
from lodeline.core.catalogue import Role
from lodeline.core.errors import Refused
from lodeline.core.figures import Stops
from lodeline.core.habits import flush_tank
from lodeline.core.ledger import LedgerRow, ledger
from lodeline.core.levers import sparing as levers
from lodeline.core.levers.lever import Aboard
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.water.balance import Balance, UseThen, balance, by_stretch
from lodeline.core.water.learned import Amount, amounts
from lodeline.core.water.ration import Ration, ration
from lodeline.core.wishes import Agreed
from lodeline.logbook import models as m
from lodeline.logbook.services import wishes
from lodeline.logbook.services.derived import Derived

# Under this word a ration is agreed on, beside the levers.
RATION = "ration"
# One leaves in the morning, unless a time is said.
LEAVE_H = 10.0
_DAYS_OF_STAY = 60


def fresh_of(known: Derived) -> Tracked | None:
    """The first fresh tank, where it is known."""
    store = known.rig.first(Role.WATER)
    return known.store(store.id) if store is not None else None


def amounts_of(known: Derived) -> tuple[Amount, ...]:
    """What each activity takes; empty where no fresh tank is known."""
    fresh = fresh_of(known)
    return amounts(known.rig, fresh) if fresh is not None else ()


def used_by_date(known: Derived) -> dict[date, float]:
    """Fresh water used on each date that is known, from all tanks. [L]"""
    used: dict[date, float] = {}
    for on, day in ledger(known.tracked, known.rig.zone).items():
        mine = [row for row in day if _is_drunk_from(known, row)]
        if mine:
            used[on] = max(0.0, sum(row.used + row.corrected * row.store.sign for row in mine))
    return used


def _is_drunk_from(known: Derived, row: LedgerRow) -> bool:
    flush = flush_tank(known.rig)
    return row.store.kind.role is Role.WATER and (flush is None or row.store.id != flush.id)


def ration_until(rig: m.Rig, today: date) -> date | None:
    """The day until which a ration is kept, None where none is."""
    row = m.Agreed.objects.filter(rig=rig, lever=RATION, since__lte=today, until__gte=today).order_by("-since").first()
    return row.until + timedelta(days=1) if row is not None else None


def check_until(known: Derived, until: date) -> date:
    """A day that a ration may last until.

    Raises
    ------
    Refused
        It lies before tomorrow, or further than is looked.
    """
    days = (until - known.rig.zone.date(known.now)).days
    if not 1 <= days <= Stops.most_days:
        raise Refused("until", p.UntilOutOfRange(Stops.most_days))
    return until


def ration_of(known: Derived, seed: int, until: date, sure: float | None = None) -> Ration | None:
    """The ration until the morning of a day; None where no tank is known."""
    today = known.rig.zone.date(known.now)
    return ration(
        known,
        known.ahead((until - today).days, seed=seed),
        amounts_of(known),
        until,
        LEAVE_H,
        1 - known.rig.risk if sure is None else sure,
        used_by_date(known).get(today, 0.0),
    )


def kept_ration(rig: m.Rig, known: Derived) -> Ration | None:
    """The ration that the crew keeps, as it now is."""
    until = ration_until(rig, known.rig.zone.date(known.now))
    return ration_of(known, rig.pk, until) if until is not None else None


@dataclass(frozen=True, slots=True, kw_only=True)
class Spans:
    """Balances of the last day, the last week and the stay at this place, None where nothing was known."""

    day: Balance | None
    week: Balance | None
    stay: Balance | None


def spans(known: Derived, learned: tuple[Amount, ...]) -> Spans:
    """The balances of the view."""

    def of(since: datetime) -> Balance | None:
        return balance(known.rig, known.log, known.tracked, learned, since, known.now)

    day, week = (known.now - timedelta(days=n) for n in (1, 7))
    return Spans(day=of(day), week=of(week), stay=of(_stay_since(known)))


def _stay_since(known: Derived) -> datetime:
    """When the rig last moved, as far as the log says; at most some weeks ago."""
    zone, earliest = known.rig.zone, known.now - timedelta(days=_DAYS_OF_STAY)
    drives = (event.at for day in reversed(known.log.days) for event in reversed(day.events) if event.type == "drive")
    last = next(drives, None)
    if last is None and known.log.days:
        last = zone.midnight(known.log.days[0].date)
    return max(earliest, last) if last is not None else earliest


def history(known: Derived, months: bool) -> tuple[UseThen, ...]:
    """Litres a person a day by week or month."""
    return by_stretch(known.rig, known.log, used_by_date(known), months, known.rig.zone.date(known.now))


def sparing(known: Derived, seed: int) -> levers.Sparing | None:
    """How long the fresh water lasts once the crew does what it does not mind; None where nothing is spared."""
    fresh = fresh_of(known)
    if fresh is None:
        return None
    ahead = known.ahead(n_paths=_SPARING_PATHS, seed=seed)
    return levers.sparing(Aboard(known=known, ahead=ahead), fresh)


_SPARING_PATHS = 800


def keep_ration(rig: m.Rig, known: Derived, until: date, words: str, *, by: User) -> None:
    """Keep a ration until the morning of a day: from now on the Round shows what is left of today's."""
    today = known.rig.zone.date(known.now)
    wished = Agreed(lever=RATION, since=today, until=until - timedelta(days=1))
    wishes.agree(rig, wished, words, {}, by=by)
