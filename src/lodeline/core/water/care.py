"""What the water's gear is due for: filter, tank, seals, water that has stood; and sources that are doubtful."""

from collections.abc import Mapping, Sequence
from datetime import date, datetime, timedelta
from enum import StrEnum

from lodeline.core.book import Spot
from lodeline.core.catalogue import Effect, Role, Toilet
from lodeline.core.conditions import km_between
from lodeline.core.figures import Stops, Water
from lodeline.core.log import Day, Log
from lodeline.core.rig import Rig, Store
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass
from lodeline.core.water.spans import through

_DAY = timedelta(days=1)


class Care(StrEnum):
    """What is done from time to time."""

    FILTER = "filter"
    DISINFECT = "disinfect"
    SEAL = "seal"
    STOOD = "stood"
    DOUBTFUL = "doubtful"
    RINSE = "rinse"


@dataclass(frozen=True, slots=True, kw_only=True)
class Due:
    """Something that is due. ``share``: how much of its time or litres is over, 1 and more is due now.

    ``days``: since it was done, or since the log began where it never was; ``litres``: through a filter since;
    ``due_on``: when, where days tell; ``event``: what logs that it was done; ``place``: of a doubtful source.
    """

    care: Care
    share: float
    days: float
    done: bool
    litres: float | None = None
    due_on: date | None = None
    event: str | None = None
    place: str = ""
    store: Store | None = None

    @property
    def is_due(self) -> bool:
        """Whether it is due now."""
        return self.share >= 1


def due(rig: Rig, log: Log, tracked: Mapping[str, Tracked], book: Sequence[Spot], now: datetime) -> tuple[Due, ...]:
    """What is due or will be, the most pressing first. Intervals are common practice where nobody said."""
    found = [*_by_time(rig, log, tracked, now), *_stood(rig, log, now), *_doubtful(rig, log, book, now)]
    found += _unrinsed(rig, tracked, now)
    return tuple(sorted(found, key=lambda each: -each.share))


def _last(log: Log, event: str) -> datetime | None:
    return next((e.at for day in reversed(log.days) for e in reversed(day.events) if e.type == event), None)


def _since(log: Log, event: str, now: datetime) -> tuple[datetime, bool]:
    """When something was last done, else when the log began; and whether it was."""
    last = _last(log, event)
    if last is not None:
        return last, True
    began = next((entry.at for day in log.days for entry in day.entries()), now)
    return began, False


def _by_time(rig: Rig, log: Log, tracked: Mapping[str, Tracked], now: datetime) -> list[Due]:
    water, found = rig.water, []
    if rig.first(Role.WATER) is None:
        return []
    if water.filter_l is not None or water.filter_days is not None:
        since, done = _since(log, Care.FILTER, now)
        litres = _used_since(rig, tracked, since, now)
        days, most = (now - since) / _DAY, water.filter_days or Water.filter_days
        share = max(litres / (water.filter_l or Water.filter_l), days / most)
        found.append(
            Due(
                care=Care.FILTER,
                share=share,
                days=days,
                done=done,
                litres=litres,
                due_on=_on(rig, since, most),
                event=Care.FILTER,
            )
        )
    since, done = _since(log, Care.DISINFECT, now)
    days = (now - since) / _DAY
    found.append(
        Due(
            care=Care.DISINFECT,
            share=days / water.disinfect_days,
            days=days,
            done=done,
            due_on=_on(rig, since, water.disinfect_days),
            event=Care.DISINFECT,
        )
    )
    if any(store.kind.toilet is Toilet.CASSETTE for store in rig.stores):
        since, done = _since(log, Care.SEAL, now)
        days = (now - since) / _DAY
        found.append(
            Due(
                care=Care.SEAL,
                share=days / Water.seal_days,
                days=days,
                done=done,
                due_on=_on(rig, since, Water.seal_days),
                event=Care.SEAL,
            )
        )
    return found


def _on(rig: Rig, since: datetime, days: float) -> date:
    return rig.zone.date(since + timedelta(days=days))


def _used_since(rig: Rig, tracked: Mapping[str, Tracked], since: datetime, now: datetime) -> float:
    """Fresh water used since a time, as far back as levels are kept. [L]"""
    known = [tracked[store.id] for store in rig.every(Role.WATER) if store.id in tracked]
    spans = [went for each in known if (went := through(each, since, now)) is not None]
    return sum(max(0.0, went.used.value) for went in spans)


def _fills(rig: Rig, log: Log) -> list[tuple[Day, datetime]]:
    fresh = {store.id for store in rig.every(Role.WATER)}
    return [(day, e.at) for day in log.days for e in day.events if e.row.effect is Effect.FILL and e.store in fresh]


def _stood(rig: Rig, log: Log, now: datetime) -> list[Due]:
    """Water that nobody has added to for long."""
    fills = _fills(rig, log)
    if not fills:
        return []
    days = (now - fills[-1][1]) / _DAY
    return [Due(care=Care.STOOD, share=days / Water.stood_days, days=days, done=True)] if days > 1 else []


def _doubtful(rig: Rig, log: Log, book: Sequence[Spot], now: datetime) -> list[Due]:
    """Water filled at a place that is not for drinking, until the tank was disinfected after it."""
    cleaned = _last(log, Care.DISINFECT)
    for day, at in reversed(_fills(rig, log)):
        if cleaned is not None and cleaned > at:
            return []
        spot = _spot_of(day, book)
        water = spot.services.get("water") if spot is not None else None
        if spot is not None and water is not None and water.drinkable is False:
            return [
                Due(
                    care=Care.DOUBTFUL,
                    share=1.0,
                    days=(now - at) / _DAY,
                    done=False,
                    event=Care.DISINFECT,
                    place=spot.name,
                )
            ]
    return []


def _spot_of(day: Day, book: Sequence[Spot]) -> Spot | None:
    """The place of the book that a day was at."""
    if day.visit is not None:
        return next((spot for spot in book if spot.id == day.visit.place), None)
    if day.place is None:
        return None
    near = [spot for spot in book if km_between(spot.place, day.place) <= Stops.near_km]
    return near[0] if near else None


def _unrinsed(rig: Rig, tracked: Mapping[str, Tracked], now: datetime) -> list[Due]:
    """A toilet's tank that was emptied long ago."""
    found = []
    for store in rig.stores:
        each = tracked.get(store.id)
        if store.kind.toilet is Toilet.BLACK and each is not None and each.last_reset is not None:
            days = (now - each.last_reset) / _DAY
            found.append(Due(care=Care.RINSE, share=days / Water.unrinsed_days, days=days, done=True, store=store))
    return found
