"""What a day is like, as far as use depends on it: one shape for logged, coming and unlogged days."""

from collections.abc import Mapping
from dataclasses import field, fields, replace
from datetime import date, timedelta
from math import asin, cos, hypot, radians, sin, sqrt

from lodeline.core.catalogue import DAY_KINDS, SOURCE_KINDS, DayKind, DayStatus, SkyWord, SourceKind, ToldBy
from lodeline.core.climate import usual_air
from lodeline.core.figures import Climate, Energy, Heat, Use
from lodeline.core.log import Day, DayFacts, Log, OutlookDay, Place
from lodeline.core.rig import Rig
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS, city_of

SATURDAY = 5  # ``date.weekday``


@dataclass(frozen=True, slots=True, kw_only=True)
class Conditions:
    """One date's drivers.

    ``place`` is None where none was ever logged; ``air_sd_c``: error of a temperature that nobody logged; ``apart_c``:
    how far the last logged one was from usual; ``outlook_sd_c``: error of one that is expected; ``covered``: whether
    snow lies on the panels; ``facts``: what was said of the date itself. ``hours``: planned hours of each way to
    charge, by its id; ``counts``: how often each event of the day's kinds was logged, None where nothing was;
    ``moments``: those events as kind, hour and how often, but for those whose water was measured. Totals are what was
    measured on that day, None where it was not."""

    date: date
    place: Place | None = None
    sky: SkyWord | None = None
    mean_c: float = Use.unknown_mean_c
    min_c: float = Use.unknown_mean_c - Use.half_swing_c
    air_sd_c: float = 0.0
    apart_c: float | None = None
    outlook_sd_c: float = 0.0
    covered: bool = False
    facts: DayFacts | None = None
    people: float = 1.0
    status: DayStatus | None = None
    counts: Mapping[str, float] | None = None
    moments: tuple[tuple[str, float, float], ...] = ()
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


@dataclass(frozen=True, slots=True, kw_only=True)
class _Air:
    """A day's temperatures, their error, and how far the last logged mean was from usual. [degC]"""

    mean_c: float
    min_c: float
    sd_c: float
    apart_c: float | None


def _air(rig: Rig, day: DayFacts, place: Place | None, before: Conditions | None) -> _Air:
    """As logged or expected; else what is usual there and then, and what the last logged day was apart from it."""
    height_m = place.elevation_m if place is not None else None
    usual = usual_air(latitude(rig, place), day.date, height_m or 0.0)
    half, low, high = usual.half_swing_c, day.temp_min_c, day.temp_max_c
    if low is None and high is None:
        kept = Climate.kept_a_day
        apart = before.apart_c * kept if before and before.apart_c is not None else None
        known = before.air_sd_c if before and apart is not None else Climate.sd_c
        sd = hypot(known * kept, Climate.sd_c * (1 - kept**2) ** 0.5)
        sd = max(sd, Climate.day_sd_c) if apart is not None else Climate.sd_c
        mean_c = usual.mean_c + (apart or 0.0)
        return _Air(mean_c=mean_c, min_c=mean_c - half, sd_c=sd, apart_c=apart)
    if low is None or high is None:
        mean_c = low + half if low is not None else (high or 0.0) - half
        min_c = mean_c - half
    else:
        mean_c, min_c = (low + high) / 2, low
    return _Air(mean_c=mean_c, min_c=min_c, sd_c=0.0, apart_c=mean_c - usual.mean_c)


_EARTH_KM = 6371.0  # mean radius (IUGG)


def km_between(a: Place, b: Place) -> float:
    """Great-circle distance (haversine). [km]"""
    lat_a, lat_b, lon = radians(a.lat), radians(b.lat), radians(b.lon - a.lon)
    half = sin((lat_b - lat_a) / 2) ** 2 + cos(lat_a) * cos(lat_b) * sin(lon / 2) ** 2
    return 2 * _EARTH_KM * asin(sqrt(min(1.0, half)))


def is_elsewhere(before: Place | None, now: Place | None) -> bool:
    """Whether the rig stands at another place than before."""
    return before is not None and now is not None and km_between(before, now) > Energy.new_place_km


def latitude(rig: Rig, place: Place | None) -> float:
    """Where the rig stands; the city of its timezone where no place was logged. [deg]"""
    if place is not None:
        return place.lat
    city = city_of(rig.timezone)
    return city.lat if city else Energy.unknown_lat


def _all_day(day: Day | OutlookDay) -> dict[str, float]:
    """Hours of what ran all day by the day's status, where the day says nothing else of it."""
    if isinstance(day, OutlookDay):
        silent = [row for row in SOURCE_KINDS.values() if row.id not in day.hours]
    else:
        logged = {event.type for event in day.events}
        silent = [row for row in SOURCE_KINDS.values() if row.event not in logged]
    return {row.id: HOURS for row in silent if row.all_day and row.all_day is day.status}


def _of_day(rig: Rig, day: Day | OutlookDay, before: Conditions | None) -> Conditions:
    people = day.crew_aboard if day.crew_aboard is not None else max(1, rig.crew.people)
    place = day.place or (before.place if before else None)
    air = _air(rig, day, place, before)
    covered = day.panels_covered
    if covered is None:
        # what lies there stays while it does not thaw
        covered = before is not None and before.covered and air.mean_c < Energy.thaws_above_c
    known = Conditions(
        date=day.date,
        place=place,
        sky=day.sky,
        mean_c=air.mean_c,
        min_c=air.min_c,
        air_sd_c=air.sd_c,
        apart_c=air.apart_c,
        covered=covered,
        facts=_facts(day),
        people=float(people),
        status=day.status,
        hours=_all_day(day),
    )
    if isinstance(day, OutlookDay):
        return replace(known, hours={**day.hours, **known.hours})
    return replace(
        known,
        counts=_counts(day),
        moments=_moments(rig, day),
        solar_wh=day.solar_wh,
        load_wh=day.load_wh,
        water_l=day.water_l,
    )


def _facts(day: DayFacts) -> DayFacts:
    return DayFacts(**{each.name: getattr(day, each.name) for each in fields(DayFacts)})


def _counts(day: Day) -> dict[str, float]:
    return {
        kind.id: float(sum(event.count or 1 for event in day.events if event.type == kind.event and not event.amount))
        for kind in DAY_KINDS.values()
        if kind.event
    }


def _moments(rig: Rig, day: Day) -> tuple[tuple[str, float, float], ...]:
    kinds = {kind.event: kind.id for kind in DAY_KINDS.values() if kind.event}
    return tuple(
        (kinds[event.type], rig.zone.hour(day.date, event.at), float(event.count or 1))
        for event in day.events
        if event.type in kinds and not event.amount
    )


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
    today = _merged(last.facts, by_date.get(last.date) or OutlookDay(date=last.date))
    days = [_of_day(rig, today, last)]
    if last.facts is not None and last.facts.status is not None:
        # what a logged status runs all day is under way already
        days[0] = replace(days[0], hours=dict(today.hours))
    for index in range(1, n_days + 1):
        on = last.date + timedelta(days=index)
        day = _of_day(rig, by_date.get(on) or OutlookDay(date=on), days[-1])
        days.append(replace(day, outlook_sd_c=_outlook_sd_c(index)) if day.air_sd_c == 0 else day)
    return days


def _outlook_sd_c(days: int) -> float:
    """Error of a mean temperature that is expected so many days ahead. [degC]"""
    return min(Heat.outlook_most_sd_c, Heat.outlook_sd_c + Heat.outlook_sd_c_per_day * (days - 1))


def _merged(logged: DayFacts | None, expected: OutlookDay) -> OutlookDay:
    """What is expected of today, where what was logged of it does not say otherwise."""
    if logged is None:
        return expected
    names = (each.name for each in fields(DayFacts))
    return replace(expected, **{name: value for name in names if (value := getattr(logged, name)) is not None})


def may_be_covered(rig: Rig, day: Day, today: Conditions) -> bool:
    """Whether snow may lie on the panels: asked when it is cold and wet, or was said already."""
    is_cold = today.mean_c < Energy.snow_below_c
    return bool(rig.solar) and (day.panels_covered is not None or today.covered or is_cold)
