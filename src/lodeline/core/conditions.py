"""What a day is like, as far as use depends on it: one shape for logged, coming and unlogged days."""

from dataclasses import dataclass
from datetime import date, timedelta

from lodeline.core.log import Day, Log, OutlookDay, Place
from lodeline.core.rig import Rig

DEGREE_DAY_BASE_C = 18.0
# Mean temperature where nothing was logged and nothing is expected (invented, mild).
UNKNOWN_MEAN_C = 15.0


@dataclass(frozen=True, slots=True)
class Conditions:
    """One date's drivers. Totals are what was measured on that day, None where it was not."""

    date: date
    place: Place | None = None
    sky: str | None = None
    mean_c: float = UNKNOWN_MEAN_C
    min_c: float = UNKNOWN_MEAN_C - 5.0
    people: float = 1.0
    hookup: bool = False
    moving: bool = False
    showers: float | None = None
    laundry: float | None = None
    drive_h: float = 0.0
    shore_h: float = 0.0
    generator_h: float = 0.0
    solar_wh: float | None = None
    load_wh: float | None = None
    water_l: float | None = None

    @property
    def degree_days(self) -> float:
        """Heating degree-days, (base - mean) where positive (meteorological definition)."""
        return max(0.0, DEGREE_DAY_BASE_C - self.mean_c)


def _temperatures(day: Day | OutlookDay, before: Conditions | None) -> tuple[float, float]:
    if day.temp_min_c is not None and day.temp_max_c is not None:
        return (day.temp_min_c + day.temp_max_c) / 2, day.temp_min_c
    if day.temp_min_c is not None:
        return day.temp_min_c + 5.0, day.temp_min_c
    if day.temp_max_c is not None:
        return day.temp_max_c - 5.0, day.temp_max_c - 10.0
    return (before.mean_c, before.min_c) if before else (UNKNOWN_MEAN_C, UNKNOWN_MEAN_C - 5.0)


def _of_day(rig: Rig, day: Day | OutlookDay, before: Conditions | None) -> Conditions:
    mean_c, min_c = _temperatures(day, before)
    people = day.crew_aboard if day.crew_aboard is not None else max(1, rig.crew.people)
    common = {
        "date": day.date, "place": day.place or (before.place if before else None), "sky": day.sky,
        "mean_c": mean_c, "min_c": min_c, "people": float(people), "hookup": day.status == "hookup",
        "moving": day.status == "moving",
    }  # fmt: skip
    if isinstance(day, OutlookDay):
        return Conditions(
            **common,  # type: ignore[arg-type]
            drive_h=day.drive_hours or 0.0, shore_h=day.shore_hours if day.shore_hours is not None else
            (24.0 if day.status == "hookup" else 0.0), generator_h=day.generator_hours or 0.0,
        )  # fmt: skip
    shore_logged = any(event.type == "shore" for event in day.events)
    return Conditions(
        **common,  # type: ignore[arg-type]
        shore_h=24.0 if day.status == "hookup" and not shore_logged else 0.0,
        showers=float(sum(event.count or 1 for event in day.events if event.type == "shower")),
        laundry=float(sum(event.count or 1 for event in day.events if event.type == "laundry")),
        solar_wh=day.solar_wh, load_wh=day.load_wh, water_l=day.water_l,
    )  # fmt: skip


def logged(
    rig: Rig, log: Log, until: date, since: date | None = None, before: Conditions | None = None
) -> dict[date, Conditions]:
    """Conditions of every date from the first logged day (or ``since``) through ``until``.

    Unlogged dates carry the last known; ``before`` is the day before ``since``.
    """
    found: dict[date, Conditions] = {}
    by_date = {day.date: day for day in log.days[log.first_from(since) if since else 0 :]}
    current = since or (log.days[0].date if log.days else until)
    while current <= until:
        before = _of_day(rig, by_date.get(current) or OutlookDay(current), before)
        found[current] = before
        current += timedelta(days=1)
    return found


def coming(rig: Rig, outlook: tuple[OutlookDay, ...], last: Conditions, n_days: int) -> list[Conditions]:
    """Conditions of the day of the forecast and the days after it, ``n_days + 1`` in all.

    What was logged today stands; the outlook adds what today still brings and all that comes after.
    """
    by_date = {day.date: day for day in outlook}
    days: list[Conditions] = []
    before = last
    for index in range(n_days + 1):
        on = last.date + timedelta(days=index)
        before = _of_day(rig, by_date.get(on) or OutlookDay(on), before)
        days.append(before)
    return days
