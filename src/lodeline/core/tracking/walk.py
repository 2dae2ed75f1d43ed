"""The walk of one store through its days: use moves every account of it, readings and events correct them."""

from collections.abc import Iterator
from dataclasses import replace
from datetime import date, datetime, timedelta

import numpy as np

from lodeline.core.conditions import Conditions
from lodeline.core.energy import bank
from lodeline.core.energy.skies import WORDS, SkyHabit
from lodeline.core.energy.solar import local_midnight
from lodeline.core.energy.sun import Floats
from lodeline.core.log import Event, Log, Reading
from lodeline.core.rig import Kind, Rig, Store
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.accounts import accounts
from lodeline.core.tracking.bank_use import LOADS
from lodeline.core.tracking.beside import SAME_ROUND, Apart, Beside, apart, hear
from lodeline.core.tracking.charging import Charge, accepted_ah, by_date, charges
from lodeline.core.tracking.evidence import Evidence, evidence, gauge_worth
from lodeline.core.tracking.influence import DayInfluence
from lodeline.core.tracking.kinds import DayKinds
from lodeline.core.tracking.steps import apply_event, concerns
from lodeline.core.tracking.story import Seen, Story, blended, prune
from lodeline.core.tracking.use import day_influence, expected_use

# A bank this full throttles its array: yields of such a day say only "at least".
THROTTLED_FROM = 0.93
# How well the taper near full is known, as a share of what it turns away, and of the room (set on simulated rigs).
_TAPER_CV = 0.5
# Share of a step's sun that must find no room before the day counts as throttled.
_LOST_FROM = 0.1
# A bank's day in steps: finer while the sun moves it.
_BATTERY_STOPS_H = (6.0, 9.0, 12.0, 15.0, 18.0, 21.0)


# A day's total is told before its midnight, so that it belongs to the day.
_DAY_ENDS_H = 23.9
# A total this many standard deviations from the usual day tells nothing of the grey tank (sim).
_HARDLY_SDS = 5.0


class Walk:
    """Made for one store, run once and dropped; holds the running accounts, the likeliest first."""

    def __init__(
        self,
        rig: Rig,
        store: Store,
        log: Log,
        days: dict[date, Conditions],
        usual: dict[date, SkyHabit],
        now: datetime,
        kinds: DayKinds,
        beside: Beside | None = None,
    ) -> None:
        self.rig, self.store, self.days, self.usual, self.now = rig, store, days, usual, now
        self.model = expected_use(rig, store, kinds)
        self.worth = gauge_worth(store)
        self.floor = 0.03 * self.model.mean
        self.together = self.model.together
        self.is_sun = np.array([name in WORDS for name in self.model.drivers])
        self.has_sun = bool(self.is_sun.any())
        self.stories = [Story(self._start(), np.zeros(len(self.model.mean)))]
        self.known_since: datetime | None = None
        self.last_reset: datetime | None = None
        self.last_reading: Reading | None = None
        self.hour = 0.0
        self.seen: list[Seen] = []
        self.resets = 0
        self.beside = beside
        self.apart: list[Apart] = []
        first = log.first_from(min(days))
        self.entries: dict[date, list[Reading | Event]] = {
            day.date: [e for e in day.entries() if concerns(rig, store, e)] for day in log.days[first:]
        }
        # a spell of charging may reach into the first day from the week before it
        recent = Log(log.days[max(0, first - 7) :])
        self.charges = charges(rig, store, recent, days) if store.kind is Kind.BATTERY else []
        self.charges_on = by_date(self.charges, rig)
        self.charging: list[Charge] = []

    def _start(self) -> b.Belief:
        k, capacity = len(self.model.mean), self.store.capacity
        cov = np.zeros((k + 2, k + 2))
        cov[0, 0] = capacity**2 / 12
        cov[1 : k + 1, 1 : k + 1] = np.outer(self.model.sd, self.model.sd) * self.model.together
        cov[-1, -1] = (self.worth.bias_sd * capacity) ** 2
        return b.Belief(np.concatenate([[capacity / 2], self.model.mean, [0.0]]), cov)

    @property
    def best(self) -> Story:
        """The likeliest account."""
        return self.stories[0]

    @property
    def belief(self) -> b.Belief:
        """All accounts as one belief."""
        return blended(self.stories)

    def run(self, stops: set[date]) -> Iterator[tuple[date, Conditions]]:
        """Walk to the end; at the midnight that begins each date of ``stops`` says so, with the day before."""
        final = max(self.days)
        yesterday: Conditions | None = None
        for on, conditions in self.days.items():
            if on in stops and yesterday is not None:
                yield on, yesterday
            yesterday = conditions
            midnight = local_midnight(on, self.rig.timezone)
            self.hour = min(24.0, (self.now - midnight).total_seconds() / 3600) if on == final else 24.0
            influence = day_influence(self.rig, self.store, self.model, conditions, self.usual[on], self.hour)
            self._day(on, midnight, influence)
            self._learn_totals(conditions)

    def _day(self, on: date, midnight: datetime, influence: DayInfluence) -> None:
        entries = self.entries.get(on, [])
        hours = [min(max((e.at - midnight).total_seconds() / 3600, 0.0), self.hour) for e in entries]
        heard = self._heard(on, midnight)
        stops = {self.hour, *hours, *heard}
        end = midnight + timedelta(hours=24)
        self.charging = [each for each in self.charges_on.get(on, []) if each.start < end and each.end > midnight]
        if self.store.kind is Kind.BATTERY:
            stops |= {h for h in _BATTERY_STOPS_H if h < self.hour}
            ends = [(t - midnight).total_seconds() / 3600 for each in self.charging for t in (each.start, each.end)]
            stops |= {h for h in ends if 0 < h < self.hour}
        for story in self.stories:
            story.throttled = False
            self._drift(story, self.hour / 24)
        before = 0.0
        for stop in sorted(stops):
            if stop > before:
                self._step(influence, before, stop, midnight)
                before = stop
            if self.known_since and self.store.kind is Kind.BATTERY:
                self._mark(midnight + timedelta(hours=stop))
            for told in heard.get(stop, ()):
                self._hear(told)
            for entry, hour in zip(entries, hours, strict=True):
                if hour == stop:
                    self._take(entry)
        if self.known_since:
            self._mark(min(midnight + timedelta(hours=self.hour), self.now))

    def _heard(self, on: date, midnight: datetime) -> dict[float, list[Apart]]:
        """What the fresh tank tells on a date, by the hour at which this store hears it."""
        found: dict[float, list[Apart]] = {}
        for told in self.beside.told.get(on, ()) if self.beside else ():
            early = (told.at - SAME_ROUND - midnight).total_seconds() / 3600
            found.setdefault(min(max(0.0, early), self.hour), []).append(told)
        return found

    def _hear(self, told: Apart) -> None:
        if self.beside and self.known_at:
            for story in self.stories:
                hear(story, told, self.known_at, self.beside.correlation, self.store.capacity)

    @property
    def known_at(self) -> datetime | None:
        """When the store was last read, or its level set anew."""
        read_at = self.last_reading.at if self.last_reading else None
        return max((at for at in (self.last_reset, read_at) if at), default=None)

    def _mark(self, at: datetime, cause: str = "use") -> None:
        for story in self.stories:
            story.mark(at, cause)

    def _step(self, influence: DayInfluence, h0: float, h1: float, midnight: datetime) -> None:
        """Let use and what was measured move the level from hour ``h0`` to ``h1``."""
        share = np.clip(np.minimum(np.arange(1, 25), h1) - np.maximum(np.arange(24), h0), 0.0, 1.0)
        x = share @ influence.hourly
        moved = float(share @ influence.known)
        day_cv = influence.cv if influence.cv is not None else self.model.day_cv
        day_var = np.square(day_cv) * np.abs(x) * np.abs(influence.hourly.sum(axis=0))
        measured_var = influence.known_sd**2 * (h1 - h0) / 24
        span = (midnight + timedelta(hours=h0), midnight + timedelta(hours=h1))
        for story in self.stories:
            self._move(story, x, moved, day_var, measured_var, span)

    def _move(
        self,
        story: Story,
        x: Floats,
        moved: float,
        day_var: Floats,
        measured_var: float,
        span: tuple[datetime, datetime],
    ) -> None:
        belief = story.belief
        days = (span[1] - span[0]).total_seconds() / 86400
        coefficients = belief.coefficients
        variance = float(day_var @ np.square(coefficients)) * story.spread**2 + measured_var
        if self.charging:
            charged = accepted_ah(self.store, belief.level, self.charging, *span)
            moved += charged
            variance += (0.15 * charged) ** 2
        mean = belief.mean.copy()
        mean[0] += float(x @ coefficients) + moved
        row = np.concatenate([[1.0], x, [0.0]])
        lost = self._not_taken(story, x, days) if self.has_sun else 0.0
        if lost > 0:
            # near full neither a stronger sun, nor loads that it serves, nor a lower start change the end by much
            mean[0] -= lost
            variance += min(_TAPER_CV * lost, _TAPER_CV * max(0.0, self.store.capacity - mean[0])) ** 2
            row[1:-1] = 0.0
            row[0] = np.exp(-24 * days / bank.cells(self.store).taper_h)
        # only the level moves: the first row of the transition, the rest of it being the identity
        cov = belief.cov.copy()
        cov[0, :] = cov[:, 0] = through = belief.cov @ row
        cov[0, 0] = float(row @ through) + variance
        story.process_var += variance
        story.x_since = story.x_since + x
        story.days_since += float(np.abs(x).sum() > 1e-9) * days
        after = b.Belief(mean, cov)
        if self.known_since is None:
            after = b.reset_level(after, self.store.capacity / 2, self.store.capacity / np.sqrt(12))
        ends = b.clip_to_ends if self.store.kind is Kind.BATTERY else b.cut_to_ends
        story.belief = ends(b.keep_positive(after, self.floor), self.store.capacity)
        story.throttled |= story.belief.level > THROTTLED_FROM * self.store.capacity

    def _drift(self, story: Story, days: float) -> None:
        """Let the coefficients and the gauge's bias wander for the day that begins."""
        belief = story.belief
        walk = self.model.drift * np.maximum(belief.coefficients, 0.3 * self.model.mean)
        cov = belief.cov.copy()
        cov[1:-1, 1:-1] += np.outer(walk, walk) * self.together * days
        cov[-1, -1] += (self.worth.bias_walk * self.store.capacity) ** 2 * days
        story.belief = b.Belief(belief.mean, cov)

    def _not_taken(self, story: Story, x: Floats, days: float) -> float:
        """Sun that a bank near full could not take in a step, beside what loads drew at once. [Ah]"""
        parts = x * story.belief.coefficients
        sun, loads = float(parts[self.is_sun].sum()), -float(parts[~self.is_sun].sum())
        room = max(0.0, self.store.capacity - story.belief.level)
        takes = room * (1 - np.exp(-24 * days / bank.cells(self.store).taper_h))
        lost = max(0.0, sun - loads - takes)
        story.throttled |= lost > _LOST_FROM * sun
        return float(lost)

    def _take(self, entry: Reading | Event) -> None:
        if isinstance(entry, Event):
            self._event(entry)
        else:
            first, since = self.known_since is None, self.known_at
            self.known_since = self.known_since or entry.at
            self.last_reading = entry
            said = evidence(self.store, entry)
            self._compare(entry, said)
            if first:
                self.best.belief = _first_level(self.best.belief, said, self.store.capacity)
                self.best.settle()
            else:
                self._mark(entry.at)
                if not said.silent:
                    self._read(entry, said, since)
        if self.known_since:
            self._mark(entry.at, "event" if isinstance(entry, Event) else "reading")

    def _compare(self, reading: Reading, said: Evidence) -> None:
        expected = self.belief
        value = said.value if said.value is not None else None
        if said.bands:
            low, high, _ = max(said.bands, key=lambda band: band[2])
            value = (low + high) / 2
        mark = reading.value if reading.method == "step" else None
        self.seen.append(Seen(reading.at, reading.method, expected.level, expected.sd, value, mark, self.resets))

    def _event(self, event: Event) -> None:
        if self.known_since:
            self._mark(event.at)
        is_reset = False
        for story in self.stories:
            after, is_reset = apply_event(self.rig, self.store, self.model, story.belief, event)
            story.belief = b.cut_to_ends(after, self.store.capacity)
            if is_reset:
                story.settle()
        if is_reset:
            self.known_since = self.known_since or event.at
            self.last_reset = event.at
            self.resets += 1

    def _read(self, reading: Reading, said: Evidence, since: datetime | None) -> None:
        before, doubts, process_var = self.belief, len(self.best.doubts), self.best.process_var
        opened = [
            after for story in self.stories for after in accounts(self.store, story, reading, said, self.model.drivers)
        ]
        full_bank = reading.method == "full" and self.store.kind is Kind.BATTERY
        for story in opened:
            after = _settle_bias(story.belief) if full_bank else story.belief
            story.belief = b.cut_to_ends(b.keep_positive(after, self.floor), self.store.capacity)
        self.stories = prune(opened)
        if self.store.kind is Kind.FRESH and since and since < reading.at and len(self.best.doubts) == doubts:
            self.apart.append(apart(since, reading.at, before, self.belief, process_var))

    def _learn_totals(self, day: Conditions) -> None:
        """Measured day totals teach the coefficients directly."""
        if self.hour < 6:
            return
        if self.store.kind is Kind.FRESH and day.water_l is not None:
            self._tell_total(day.water_l, replace(day, water_l=None))
            self._learn(("people",), day.water_l, replace(day, water_l=None))
        if self.store.kind is Kind.BATTERY and day.load_wh is not None:
            self._learn(LOADS, day.load_wh / self.store.volts, replace(day, load_wh=None))
        if self.store.kind is Kind.BATTERY and day.solar_wh is not None:
            gained = day.solar_wh / self.store.volts * bank.charge_efficiency(self.store)
            self._learn(WORDS, gained, replace(day, solar_wh=None))

    def _tell_total(self, water_l: float, day: Conditions) -> None:
        """A measured total says outright how a day differed."""
        midnight = local_midnight(day.date, self.rig.timezone)
        influence = day_influence(self.rig, self.store, self.model, day, self.usual[day.date], self.hour)
        x = np.clip(self.hour - np.arange(24), 0.0, 1.0) @ influence.hourly
        usual = float(np.sum((self.model.day_cv * x * self.belief.coefficients) ** 2)) * self.best.spread**2
        moved = -water_l - float(x @ self.belief.coefficients)
        if moved**2 > _HARDLY_SDS**2 * usual:
            return  # more likely a slip of the keys than such a day
        at = midnight + timedelta(hours=min(self.hour, _DAY_ENDS_H))
        self.apart.append(Apart(midnight, at, moved, (0.03 * water_l) ** 2, usual))

    def _learn(self, drivers: tuple[str, ...], amount: float, day: Conditions) -> None:
        influence = day_influence(self.rig, self.store, self.model, day, self.usual[day.date])
        share = np.clip(self.hour - np.arange(24), 0.0, 1.0)
        taught = np.array([name in drivers for name in self.model.drivers])
        x = np.abs(share @ influence.hourly) * taught
        if x.sum() < 1e-6:
            return
        day_cv = influence.cv if influence.cv is not None else self.model.day_cv
        row = np.concatenate([[0.0], x, [0.0]])
        for story in self.stories:
            expected = float(x @ story.belief.coefficients)
            scale = story.sky_spread if drivers is WORDS else story.spread
            floor = 0.3 * float(x @ self.model.mean)
            sd = scale * float(np.sqrt(np.sum((day_cv * x * story.belief.coefficients) ** 2)))
            sd = max(sd, 0.1 * floor)
            if drivers is WORDS and story.throttled:
                after = b.at_least_update(story.belief, row, amount, sd**2)
            else:
                spread = float(row @ story.belief.cov @ row) + sd**2
                if drivers is WORDS and day.sky:
                    story.learn_sky((amount - expected) ** 2 / spread, sd**2 / spread)
                after, _ = b.robust_update(story.belief, row, amount, sd**2, 4 * max(expected, 1e-6))
            story.belief = b.keep_positive(after, self.floor)
            story.days_seen += 1.0 if drivers is not WORDS else 0.0


def _first_level(belief: b.Belief, said: Evidence, capacity: float) -> b.Belief:
    """The level from a first reading alone: before it anything from empty to full was as likely."""
    if said.silent:
        return belief
    if said.value is None:
        centre, variance, _ = b.band_posterior(capacity / 2, 100 * capacity, said.bands)
        return b.reset_level(belief, centre, float(np.sqrt(variance)))
    bias_var = float(belief.cov[-1, -1]) if said.biased else 0.0
    known = b.reset_level(belief, said.value, float(np.hypot(said.sd, np.sqrt(bias_var))))
    known.cov[0, -1] = known.cov[-1, 0] = -bias_var
    return b.cut_to_ends(known, capacity)


def _settle_bias(belief: b.Belief) -> b.Belief:
    """A full charge sets the shunt right."""
    cov = belief.cov.copy()
    cov[-1, :] = cov[:, -1] = 0.0
    return b.Belief(np.concatenate([belief.mean[:-1], [0.0]]), cov)
