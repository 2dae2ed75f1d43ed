"""A rig with two people, a dog, a cassette and two jugs that logs what it washes; shared by tests of water."""

from dataclasses import replace
from datetime import timedelta
from typing import Any

import numpy as np

from lodeline.core.catalogue import ACTIVITIES, GaugeKind
from lodeline.core.forecast.paths import Ahead
from lodeline.core.log import Day, Event, Log, OutlookDay
from lodeline.core.rig import Crew, Gauge, Habit, Jug, Rig, Store
from lodeline.core.tracking.track import track
from lodeline.core.tracking.tracked import Tracked
from tests.builders import START, a_reading, a_rig, a_store, at, known_at

TANK = a_store("fresh", 120.0, "fresh", gauge=Gauge(GaugeKind.SENSOR, (), 0.02), reserve=20.0)
DRAIN = a_store("grey", 70.0, "grey", gauge=Gauge(GaugeKind.SENSOR, (), 0.02))
CASSETTE = a_store("cassette", 19.0, "cassette")
JUGS = (Jug(id="jug-1", name="Jug 1", litres=10.0), Jug(id="jug-2", name="Jug 2", litres=10.0))
DISHES_L, NAVY_L, REST_L, DRUNK_L = 4.0, 7.0, 14.0, 6.0
DAYS = 30
NOW = at(DAYS, 7)


def a_habit(activity: str, per_day: float, **more: Any) -> Habit:
    return Habit(activity=ACTIVITIES[activity], per_day=per_day, **more)


HABITS = (a_habit("dishes", 1.5), a_habit("navy", 0.9))


def a_water_rig(*stores: Store, **changes: Any) -> Rig:
    every = stores or (TANK, DRAIN, CASSETTE)
    return a_rig(*every, **({"crew": Crew(2, 0, 1), "habits": HABITS, "jugs": JUGS} | changes))


def lived(seed: int = 3, metered: bool = False, logs: bool = True, days: int = DAYS) -> Log:
    """Days on which dishes and showers come and go: what they take is DISHES_L and NAVY_L, all else REST_L a day."""
    rng = np.random.default_rng(seed)
    fresh, grey, logged = 118.0, 2.0, []
    for number in range(days):
        events = []
        if fresh < 45 or grey > 55:
            fresh, grey = 120.0, 0.0
            events += [Event(at(number, 9), "dump", "grey"), Event(at(number, 9.5), "fill", "fresh", to_full=True)]
        dishes, showers = int(rng.integers(0, 4)), int(rng.integers(0, 3))
        if logs:
            events += [Event(at(number, 13), "dishes", count=dishes)] if dishes else []
            events += [Event(at(number, 18), "navy", count=showers)] if showers else []
        used = dishes * DISHES_L + showers * NAVY_L + REST_L * float(rng.normal(1, 0.1))
        fresh, grey = fresh - used, grey + 0.94 * (used - DRUNK_L)
        readings = (
            a_reading(number, round(fresh / TANK.capacity, 2), "fraction", "fresh", 23.5),
            a_reading(number, round(grey / DRAIN.capacity, 2), "fraction", "grey", 23.5),
        )
        logged.append(
            Day(
                date=START + timedelta(days=number),
                crew_aboard=2,
                readings=readings,
                events=tuple(events),
                water_l=round(used, 1) if metered else None,
            )
        )
    return Log(tuple(logged))


def known(rig: Rig | None = None, log: Log | None = None) -> dict[str, Tracked]:
    return track(rig or a_water_rig(), log or lived(), NOW)


def ahead_of(
    rig: Rig, tracked: dict[str, Tracked], days: int = 10, n_paths: int = 2000, warmest_c: float = 22.0
) -> Ahead:
    """The days ahead, each as warm as is said."""
    outlook = tuple(
        OutlookDay(date=START + timedelta(days=DAYS + n), temp_min_c=warmest_c - 8, temp_max_c=warmest_c)
        for n in range(days + 1)
    )
    return known_at(rig, Log(), NOW, tracked, outlook=outlook).ahead(days, n_paths)


def with_events(log: Log, *events: Event) -> Log:
    """The log with events more, each on its day; a day is added for those after its end."""
    days = {day.date: day for day in log.days}
    for event in events:
        on = event.at.date()
        day = days.get(on, Day(date=on))
        days[on] = replace(day, events=tuple(sorted((*day.events, event), key=lambda each: each.at)))
    return Log(tuple(days[on] for on in sorted(days)))
