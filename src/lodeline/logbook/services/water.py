"""Water and waste of what is derived: amounts, balances, the ration that is kept."""

from datetime import date, datetime, timedelta

from django.contrib.auth.models import User

from lodeline.core.book import Spot, way_km
from lodeline.core.catalogue import Role
from lodeline.core.habits import flush_tank
from lodeline.core.ledger import LedgerRow, ledger
from lodeline.core.levers import sparing as levers
from lodeline.core.levers.carried import within_walk
from lodeline.core.levers.lever import Aboard
from lodeline.core.rig import Store
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass
from lodeline.core.water import jugs
from lodeline.core.water.balance import Balance, UseThen, balance, by_stretch
from lodeline.core.water.learned import Amount, amounts
from lodeline.core.water.ration import Ration, ration
from lodeline.core.wishes import Agreed
from lodeline.logbook import models as m
from lodeline.logbook.services import stay, wishes
from lodeline.logbook.services.derived import Derived

# Under this word a ration is agreed on, beside the levers.
RATION = "ration"
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


def ration_of(known: Derived, seed: int, until: date, sure: float | None = None) -> Ration | None:
    """The ration until the morning of a day, from when what is due is served; None where no tank is known."""
    today = known.rig.zone.date(known.now)
    known = known.counted
    return ration(
        known,
        known.ahead((until - today).days, seed=seed),
        amounts_of(known),
        until,
        stay.LEAVE_H,
        1 - known.rig.risk if sure is None else sure,
        used_by_date(known).get(today, 0.0),
    )


def ration_dates(rig: m.Rig, known: Derived) -> tuple[date, date, date]:
    """The soonest day that a ration may be asked for, the one that is offered, the last one that is."""
    today = known.rig.zone.date(known.now)
    least, usual, most = (today + timedelta(days=days) for days in _RATION_DAYS)
    return least, ration_until(rig, today) or usual, most


_RATION_DAYS = (1, 7, 28)


def kept_ration(rig: m.Rig, known: Derived) -> Ration | None:
    """The ration that the crew keeps, as it now is."""
    until = ration_until(rig, known.rig.zone.date(known.now))
    return ration_of(known, rig.pk, until) if until is not None else None


@dataclass(frozen=True, slots=True, kw_only=True)
class WaysToFill:
    """What filling takes by hose, what payload is then left, and what it takes on foot from a place within a walk."""

    tank: Store
    by_hose: jugs.Filling
    payload_kg: float | None
    on_foot: tuple[jugs.Filling, Spot] | None


def filling(known: Derived) -> WaysToFill | None:
    """Filling the fresh tank from where the rig stands; None where no tank is known."""
    fresh, rig = fresh_of(known), known.rig
    if fresh is None:
        return None
    hose = jugs.by_hose(jugs.to_fill_l(fresh.store.capacity, fresh.level), rig.water.hose_l_per_min)
    aboard = {each.store.id: each.level * each.store.kg_per_unit for each in known.tracked.values() if each.known_since}
    aboard |= {each.jug.id: each.kg for each in jugs.in_jugs(rig, known.log) if not each.jug.in_use}
    payload = jugs.payload_after(rig, aboard, hose.kg)
    return WaysToFill(tank=fresh.store, by_hose=hose, payload_kg=payload, on_foot=_on_foot(known, fresh))


def _on_foot(known: Derived, fresh: Tracked) -> tuple[jugs.Filling, Spot] | None:
    here, spot, rig = known.days(1)[0].place, within_walk(known, fresh), known.rig
    if here is None or spot is None or not rig.jugs:
        return None
    tap = spot.services.get("water")
    litres, way = sum(jug.litres for jug in rig.jugs), way_km(rig, here, spot.place)
    return jugs.on_foot(rig, litres, way, tap.l_per_min if tap is not None else None), spot


def drained_since(known: Derived) -> datetime | None:
    """Since when tanks are drained, of which nothing is asked; None where none is."""
    return max((each.drained_since for each in known.tracked.values() if each.drained_since), default=None)


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


def sparing(known: Derived, seed: int) -> levers.SparedDays | None:
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
