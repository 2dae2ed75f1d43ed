"""The walk of one store through its days: use moves every hypothesis of it, readings and events correct them."""

from collections.abc import Iterator
from datetime import date, datetime, timedelta

from lodeline.core.catalogue import Role
from lodeline.core.conditions import Conditions, is_elsewhere
from lodeline.core.figures import Tracking
from lodeline.core.log import Event, Reading
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.bank_use import at_new_place
from lodeline.core.tracking.charging import Charge
from lodeline.core.tracking.coupling import SAME_ROUND, Neighbour, UnusualDays, hear, informed, learned_of
from lodeline.core.tracking.hypothesis import Cause, DoubtKind
from lodeline.core.tracking.influence import DayInfluence
from lodeline.core.tracking.propagate import DayCourse, drift, move
from lodeline.core.tracking.service import not_served
from lodeline.core.tracking.state import Scene, State
from lodeline.core.tracking.taking import take_in_round
from lodeline.core.tracking.totals import learn_totals, unusual_day
from lodeline.core.tracking.use import day_influence
from lodeline.core.zone import HOURS


class Walk:
    """Made for one store, run once and dropped. ``hour``: day hours of the date that it has come to."""

    def __init__(self, scene: Scene, state: State, neighbour: Neighbour | None = None) -> None:
        self.scene, self.state, self.neighbour = scene, state, neighbour
        self.hour = 0.0

    def run(self, stops: set[date]) -> Iterator[tuple[date, Conditions]]:
        """Walk to the end; at the midnight that begins each date of ``stops`` says so, with the day before."""
        scene, state = self.scene, self.state
        final = max(scene.past.days)
        yesterday: Conditions | None = None
        before = scene.past.before
        for on, conditions in scene.past.days.items():
            if on in stops and yesterday is not None:
                yield on, yesterday
            yesterday = conditions
            self.hour = min(HOURS, scene.zone.hour(on, scene.past.now)) if on == final else HOURS
            if scene.store.is_bank and before is not None and is_elsewhere(before.place, conditions.place):
                for each in state.hypotheses:
                    each.belief = at_new_place(each.belief)
            before = conditions
            influence = day_influence(scene.rig, scene.store, scene.model, conditions, scene.past.usual[on], self.hour)
            self._day(on, influence)
            if self.hour >= Tracking.total_least_hours:
                self._totals(conditions, influence)

    def _day(self, on: date, influence: DayInfluence) -> None:
        scene, state = self.scene, self.state
        self._lose(on)
        entries: list[Reading | Event | None] = [*scene.entries.get(on, [])]
        hours = [min(max(scene.zone.hour(on, e.at), 0.0), self.hour) for e in entries if e is not None]
        heard = self._heard(on)
        course = DayCourse(scene.context, influence, on)
        begins, ends = course.begins, course.ends
        charging = [each for each in scene.charges_on.get(on, []) if each.start < ends and each.end > begins]
        stops = {self.hour, *hours, *heard, *self._bank_stops(on, charging)}
        for each in state.hypotheses:
            drift(scene.context, each, self.hour / HOURS)
            each.curtailed, each.began = 0.0, each.belief.level
        before = 0.0
        for stop in sorted(stops):
            if stop > before:
                step, before = course.part(before, stop, charging), stop
                for each in state.hypotheses:
                    move(scene.context, each, step, state.is_known)
                if state.lost_since is not None:
                    state.step_lost(scene.store)
                elif state.drained_since is not None:
                    state.stay_empty(scene.store)
            if state.known_since and scene.store.is_bank:
                state.write_down(course.at(stop))
            for unusual in heard.get(stop, ()):
                self._hear(unusual)
            for index, hour in enumerate(hours):
                if hour == stop and entries[index] is not None:
                    take_in_round(scene, state, entries, index)
        if state.drained_since is not None:
            self._refilled(ends)
        elif self.hour >= HOURS:
            self._not_served(on)
            self._tell_use(on)
        if state.known_since:
            state.write_down(min(course.at(self.hour), scene.past.now))

    def _tell_use(self, on: date) -> None:
        """Keep the use of a fresh tank when it is first known; let a grey one hear of it."""
        scene, state = self.scene, self.state
        if (
            scene.store.kind.role is Role.WATER
            and state.learned is None
            and state.best.days_seen >= Tracking.known_days
        ):
            state.learned = learned_of(on, scene.model, state.belief)
        if self.neighbour and self.neighbour.learned and self.neighbour.learned.on == on:
            for each in state.hypotheses:
                each.belief = informed(scene.rig, scene.store, scene.model, each.belief, self.neighbour.learned)

    def _not_served(self, on: date) -> None:
        """A day that ends without a service is evidence too."""
        scene, state = self.scene, self.state
        if scene.store.is_bank or state.served_on == on or state.lost_since is not None:
            return
        unlogged = sum(each.kind in (DoubtKind.RISE, DoubtKind.FALL) for each in state.best.doubts)
        chance = state.services.not_logged(unlogged, on not in scene.logged_dates)
        for each in state.hypotheses:
            after = b.keep_positive(not_served(scene.store, each.belief, chance), scene.context.floor)
            if not scene.entries.get(on) and (after.level - each.began) * scene.store.sign < 0:
                # less was used than was thought, but nothing ran backwards
                after = b.with_level(after, each.began)
            each.belief = after

    def _refilled(self, until: datetime) -> None:
        """A drained rig is in use again from the first fill of a fresh tank on."""
        scene, state = self.scene, self.state
        since = state.drained_since
        if since is None or not any(since < at <= until for at in scene.filled_at):
            return
        state.stay_empty(scene.store)
        state.known_since, state.last_reset, state.drained_since = until, until, None

    def _bank_stops(self, on: date, charging: list[Charge]) -> set[float]:
        """Hours at which a bank's day is divided: finer while the sun moves it, and where charging begins or ends."""
        scene = self.scene
        if not scene.store.is_bank:
            return set()
        ends = [scene.zone.hour(on, t) for each in charging for t in (each.start, each.end)]
        return {h for h in (*Tracking.bank_steps_h, *ends) if 0 < h < self.hour}

    def _heard(self, on: date) -> dict[float, list[UnusualDays]]:
        """What the fresh tank says on a date, by the hour at which this store hears it."""
        scene = self.scene
        by_hour: dict[float, list[UnusualDays]] = {}
        for unusual in self.neighbour.days.get(on, ()) if self.neighbour else ():
            early = scene.zone.hour(on, unusual.at - SAME_ROUND)
            by_hour.setdefault(min(max(0.0, early), self.hour), []).append(unusual)
        return by_hour

    def _hear(self, unusual: UnusualDays) -> None:
        scene, state = self.scene, self.state
        if self.neighbour and state.known_at:
            for each in state.hypotheses:
                hear(each, unusual, state.known_at, self.neighbour.correlation, scene.store.capacity)

    def _lose(self, on: date) -> None:
        """Past its expected line and unread for days, a store was served and nobody logged it: its level is lost."""
        scene, state = self.scene, self.state
        known_at, store = state.known_at, scene.store
        if known_at is None or state.lost_since is not None or state.drained_since is not None:
            return
        level = state.belief.level if store.is_bank else state.best.uncut_level
        past = (level - store.line_level) * store.sign >= 0
        is_blank = on - timedelta(days=1) not in scene.logged_dates
        state.blank += is_blank
        # who logs other things would have logged a service too: there the use is less than was thought
        state.past_line = state.past_line + (1.0 if is_blank else Tracking.lost_share_logged) if past else 0.0
        if state.past_line > Tracking.lost_after:
            state.lost_since = known_at
            state.step_lost(scene.store)
            state.write_down(scene.zone.midnight(on), Cause.LOST)

    def _totals(self, day: Conditions, influence: DayInfluence) -> None:
        scene, state = self.scene, self.state
        unusual = unusual_day(scene.context, state.hypotheses, day, influence, self.hour)
        if unusual is not None:
            state.unusual.append(unusual)
        learn_totals(scene.rig, scene.context, state.hypotheses, day, scene.past.usual[day.date], influence, self.hour)
