"""What a day is like, as far as use depends on it: one shape for logged, coming and unlogged days."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date, timedelta

from lodeline.core.catalogue import DAY_KINDS, SOURCE_KINDS, DayKind, DayStatus, SkyWord, SourceKind, ToldBy
from lodeline.core.figures import Use
from lodeline.core.log import Day, DayFacts, Log, OutlookDay, Place
from lodeline.core.rig import Rig
from lodeline.core.zone import HOURS

SATURDAY = 5


@dataclass(frozen=True, slots=True, kw_only=True)
class Conditions:
    """One date's drivers.

    ``hours``: planned hours of each way to charge, by its id; ``counts``: how often each event of the day's kinds was
    logged, None where nothing was. Totals are what was measured on that day, None where it was not.
    """

    date: date
    place: Place | None = None
    sky: SkyWord | None = None
    mean_c: float = Use.unknown_mean_c
    min_c: float = Use.unknown_mean_c - Use.half_swing_c
    people: float = 1.0
    status: DayStatus | None = None
    counts: Mapping[str, float] | None = None
    hours: Mapping[str, float] = field(default_factory=dict)
    solar_wh: float | None = None
    load_wh: float | None = None
    water_l: float | None = None

    @property
    def degree_days(self) -> float:
        """Heating degree-days, (base - mean) where positive (meteorological definition). [degC day]"""
        return max(0.0, Use.degree_day_base_c - self.mean_c)

    @property
    def is_weekend(self) -> bool:
        """Whether the date is a Saturday or Sunday."""
        return self.date.weekday() >= SATURDAY

    def hours_of(self, source: SourceKind) -> float:
        """Planned hours of a way to charge. [h]"""
        return self.hours.get(source.id, 0.0)

    def times(self, kind: DayKind, usual: float) -> float:
        """How often a kind of day comes on this date; ``usual`` where nothing was logged or is known. [1/day]"""
        match kind.told_by:
            case ToldBy.EVENTS:
                return self.counts.get(kind.id, 0.0) if self.counts is not None else usual
            case ToldBy.WEEKEND:
                return float(self.is_weekend)
            case ToldBy.STATUS:
                return float(self.status is kind.status)


def _temperatures(day: DayFacts, before: Conditions | None) -> tuple[float, float]:
    half = Use.half_swing_c
    if day.temp_min_c is not None and day.temp_max_c is not None:
        return (day.temp_min_c + day.temp_max_c) / 2, day.temp_min_c
    if day.temp_min_c is not None:
        return day.temp_min_c + half, day.temp_min_c
    if day.temp_max_c is not None:
        return day.temp_max_c - half, day.temp_max_c - 2 * half
    return (before.mean_c, before.min_c) if before else (Use.unknown_mean_c, Use.unknown_mean_c - half)


def _all_day(day: Day | OutlookDay) -> dict[str, float]:
    """Hours of what ran all day by the day's status, where the day says nothing else of it."""
    if isinstance(day, OutlookDay):
        silent = [row for row in SOURCE_KINDS.values() if row.id not in day.hours]
    else:
        logged = {event.type for event in day.events}
        silent = [row for row in SOURCE_KINDS.values() if row.event not in logged]
    return {row.id: HOURS for row in silent if row.all_day and row.all_day is day.status}


def _of_day(rig: Rig, day: Day | OutlookDay, before: Conditions | None) -> Conditions:
    mean_c, min_c = _temperatures(day, before)
    people = day.crew_aboard if day.crew_aboard is not None else max(1, rig.crew.people)
    place = day.place or (before.place if before else None)
    if isinstance(day, OutlookDay):
        return Conditions(
            date=day.date, place=place, sky=day.sky, mean_c=mean_c, min_c=min_c, people=float(people),
            status=day.status, hours={**day.hours, **_all_day(day)},
        )  # fmt: skip
    return Conditions(
        date=day.date, place=place, sky=day.sky, mean_c=mean_c, min_c=min_c, people=float(people), status=day.status,
        counts=_counts(day), hours=_all_day(day), solar_wh=day.solar_wh, load_wh=day.load_wh, water_l=day.water_l,
    )  # fmt: skip


def _counts(day: Day) -> dict[str, float]:
    return {
        kind.id: float(sum(event.count or 1 for event in day.events if event.type == kind.event))
        for kind in DAY_KINDS.values()
        if kind.event
    }


def logged(
    rig: Rig, log: Log, until: date, since: date | None = None, before: Conditions | None = None
) -> dict[date, Conditions]:
    """Conditions of every date from the first logged day (or ``since``) through ``until``.

    Unlogged dates carry the last known; ``before`` is the day before ``since``.
    """
    by_date = {day.date: day for day in log.days[log.first_from(since) if since else 0 :]}
    days: dict[date, Conditions] = {}
    current = since or (log.days[0].date if log.days else until)
    while current <= until:
        before = _of_day(rig, by_date.get(current) or OutlookDay(date=current), before)
        days[current] = before
        current += timedelta(days=1)
    return days


def coming(rig: Rig, outlook: tuple[OutlookDay, ...], last: Conditions, n_days: int) -> list[Conditions]:
    """Conditions of the day of the forecast and the days after it, ``n_days + 1`` in all.

    What was logged today stands; the outlook adds what today still brings and all that comes after.
    """
    by_date = {day.date: day for day in outlook}
    days: list[Conditions] = []
    before = last
    for index in range(n_days + 1):
        on = last.date + timedelta(days=index)
        before = _of_day(rig, by_date.get(on) or OutlookDay(date=on), before)
        days.append(before)
    return days
