"""What a crew decides: how hard each lever is, what is agreed on, which stops are planned by hand."""

from collections.abc import Mapping
from datetime import date, timedelta

from django.contrib.auth.models import User
from django.db.models import QuerySet

from lodeline.core import problems as p
from lodeline.core.errors import Refused
from lodeline.core.figures import Stops
from lodeline.core.values import dataclass
from lodeline.core.wishes import Agreed, FixedStop
from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services import rows
from lodeline.logbook.services.book import today_of
from lodeline.logbook.services.changes import writing
from lodeline.text.logbook import Action

_PARTS_HARDSHIP, _PARTS_RISK, _PARTS_CURRENCY = "hardship", "risk", "currency"


@dataclass(frozen=True, slots=True, kw_only=True)
class Agreement:
    """An agreement as it was made. ``expected``: what it was said to save of each store a day, by id."""

    key: int
    agreed: Agreed
    words: str
    expected: Mapping[str, float]


def agreements(rig: m.Rig, since: date) -> list[Agreement]:
    """The agreements that were in force on a date or are since."""
    return [
        Agreement(
            key=row.pk,
            agreed=Agreed(lever=row.lever, since=row.since, until=row.until),
            words=row.words,
            expected=row.expected,
        )
        for row in m.Agreed.objects.filter(rig=rig, until__gte=since)
    ]


def agree(rig: m.Rig, wished: Agreed, words: str, expected: Mapping[str, float], *, by: User) -> None:
    """Agree on a lever until a date; an agreement on the same one that is in force ends the day before.

    Raises
    ------
    Refused
        It would end before it begins.
    """
    if wished.until < wished.since or wished.until < today_of(rig):
        raise Refused("until", p.Plain.ENDS_BEFORE_IT_BEGINS)
    with writing(rig, by) as writer:
        _end(rig, wished.lever, wished.since)
        m.Agreed.objects.create(
            rig=rig, lever=wished.lever, since=wished.since, until=wished.until, words=words, expected=dict(expected)
        )
        writer.note(
            Action.MADE,
            "agreed",
            wished.lever,
            new={"from": wished.since.isoformat(), "until": wished.until.isoformat()},
        )


def no_more(rig: m.Rig, lever: str, *, by: User) -> None:
    """End what is agreed on: it was in force until yesterday."""
    with writing(rig, by) as writer:
        ended = _end(rig, lever, today_of(rig))
        writer.note(Action.REMOVED, "agreed", lever, old={"ended": ended})


def _end(rig: m.Rig, lever: str, on: date) -> int:
    standing = m.Agreed.objects.filter(rig=rig, lever=lever, until__gte=on)
    standing.filter(since__gte=on).delete()
    return standing.filter(since__lt=on).update(until=on - timedelta(days=1))


def set_hardship(rig: m.Rig, lever: str, value: int | None, *, by: User) -> None:
    """Say how hard a lever is for this crew; None: never."""
    with writing(rig, by) as writer:
        rig.refresh_from_db()
        before = dict(rig.parts.get(_PARTS_HARDSHIP) or {})
        rig.parts = rig.parts | {_PARTS_HARDSHIP: before | {lever: value}}
        rig.save()
        writer.note(Action.CORRECTED, "hardship", lever, old={"was": before.get(lever)}, new={"is": value})


def set_risk(rig: m.Rig, risk: float, *, by: User) -> None:
    """Say which chance of passing a line the crew accepts."""
    with writing(rig, by) as writer:
        rig.refresh_from_db()
        old = rig.parts.get(_PARTS_RISK)
        rig.parts = rig.parts | {_PARTS_RISK: risk}
        rig.save()
        writer.note(Action.CORRECTED, "risk", rig.pk, old={"was": old}, new={"is": risk})


def set_currency(rig: m.Rig, currency: str | None, *, by: User) -> None:
    """Say which money all prices of a rig are in."""
    with writing(rig, by) as writer:
        rig.refresh_from_db()
        old = rig.parts.get(_PARTS_CURRENCY)
        rig.parts = rig.parts | {_PARTS_CURRENCY: currency}
        rig.save()
        writer.note(Action.CORRECTED, "currency", rig.pk, old={"was": old}, new={"is": currency})


def plan_stop(rig: m.Rig, wished: FixedStop, *, instead_of: FixedStop | None, by: User) -> None:
    """Plan a stop by hand, in place of another one of these where that is named.

    Raises
    ------
    Refused
        No such place, or a time outside what is planned for.
    """
    now = clock.now()
    if wished.spot not in {spot.id for spot in rows.core_book(rig)}:
        raise Refused("place", p.NoSpot(wished.spot))
    if not now <= wished.arrive <= now + timedelta(days=Stops.most_days):
        raise Refused("arrive", p.UntilOutOfRange(Stops.most_days))
    with writing(rig, by) as writer:
        if instead_of is not None:
            _standing(rig, instead_of).delete()
        m.PlannedStop.objects.create(rig=rig, slug=wished.spot, arrive=wished.arrive, plug=wished.plug)
        writer.note(Action.MADE, "planned", wished.spot, new={"arrive": wished.arrive.isoformat()})


def unplan_stop(rig: m.Rig, stop: FixedStop, *, by: User) -> None:
    """Let the plan decide again."""
    with writing(rig, by) as writer:
        _standing(rig, stop).delete()
        writer.note(Action.REMOVED, "planned", stop.spot, old={"arrive": stop.arrive.isoformat()})


# Within this a stop on screen is the one in the table: the screen has whole minutes.
_SAME = timedelta(minutes=1)


def _standing(rig: m.Rig, stop: FixedStop) -> QuerySet[m.PlannedStop]:
    span = (stop.arrive - _SAME, stop.arrive + _SAME)
    return m.PlannedStop.objects.filter(rig=rig, slug=stop.spot, arrive__range=span)
