"""A running counter on the supply: what was drawn between two looks at it, as totals of the days between."""

from collections.abc import Iterator
from dataclasses import replace
from datetime import date, datetime, timedelta
from itertools import pairwise

from lodeline.core.catalogue import Method, Role
from lodeline.core.figures import Readings
from lodeline.core.log import Day, Log, Reading
from lodeline.core.rig import Rig
from lodeline.core.tracking.influence import hours_between
from lodeline.core.tracking.use import WAKING_SHAPE
from lodeline.core.zone import HOURS, Zone


def metered(rig: Rig, log: Log, now: datetime) -> Log:
    """The log with the litres that a flow meter counted as day totals, where nobody wrote one down.

    What was drawn between two looks is parted among their days as people draw water over a day; of a day that was
    counted in part, the rest is taken to have gone on like that. A counter that shows less than before was zeroed.
    """
    fresh = rig.first(Role.WATER)
    looks = [
        reading
        for day in log.days
        for reading in day.readings
        if reading.method is Method.METER and fresh is not None and reading.store == fresh.id
    ]
    counted: dict[date, float] = {}
    covered: dict[date, float] = {}
    for before, after in pairwise(looks):
        drawn = _drawn(before, after)
        parts = list(_parts(rig.zone, before.at, after.at))
        whole = sum(part for _, part in parts)
        for on, part in parts if whole > 0 else ():
            counted[on] = counted.get(on, 0.0) + drawn * part / whole
            covered[on] = covered.get(on, 0.0) + part
    today, told = rig.zone.date(now), {}
    for on, part in covered.items():
        gone = _part(0.0, rig.zone.hour(on, now)) if on == today else 1.0
        if part >= Readings.meter_least_part * gone > 0:
            told[on] = counted[on] / part * gone
    return _with_totals(log, told) if told else log


def _drawn(before: Reading, after: Reading) -> float:
    shows, showed = after.value or 0.0, before.value or 0.0
    return shows - showed if shows >= showed else shows


def _part(from_h: float, until_h: float) -> float:
    """The part of a day's water that people draw between two of its hours."""
    return float((WAKING_SHAPE * hours_between(from_h, until_h)).sum())


def _parts(zone: Zone, since: datetime, until: datetime) -> Iterator[tuple[date, float]]:
    """Each date between two times, with the part of its water that is drawn between them."""
    on, last = zone.date(since), zone.date(until)
    while on <= last:
        from_h = max(0.0, zone.hour(on, since))
        until_h = min(HOURS, zone.hour(on, until)) if on == last else HOURS
        yield on, _part(from_h, until_h)
        on += timedelta(days=1)


def _with_totals(log: Log, litres: dict[date, float]) -> Log:
    days = {day.date: day for day in log.days}
    for on, total in litres.items():
        day = days.get(on, Day(date=on))
        days[on] = day if day.water_l is not None else replace(day, water_l=total)
    return Log(tuple(days[on] for on in sorted(days)))
