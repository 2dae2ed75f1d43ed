"""The walk of one store through its days: use moves every hypothesis of it, readings and events correct them."""

from collections.abc import Iterator
from datetime import date, datetime

import numpy as np

from lodeline.core.catalogue import Method, Role
from lodeline.core.conditions import Conditions
from lodeline.core.energy.skies import SkyHabit
from lodeline.core.figures import Numeric, Readings, Tracking
from lodeline.core.log import Event, Log, Reading
from lodeline.core.rig import Rig, Store
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.branching import branches
from lodeline.core.tracking.charging import Charge, by_date, charges
from lodeline.core.tracking.coupling import SAME_ROUND, Neighbour, UnusualDays, hear, unusual_days
from lodeline.core.tracking.day_kinds import KnownDayKinds
from lodeline.core.tracking.events import apply_event, concerns
from lodeline.core.tracking.evidence import Evidence, evidence
from lodeline.core.tracking.hypothesis import Cause, Compared, Hypothesis, blended, prune
from lodeline.core.tracking.influence import DayInfluence
from lodeline.core.tracking.propagate import StoreContext, drift, move, step_of
from lodeline.core.tracking.totals import learn_totals, unusual_day
from lodeline.core.tracking.use import day_influence
from lodeline.core.zone import HOURS


class Walk:
    """Made for one store, run once and dropped; holds the running hypotheses, the likeliest first."""

    def __init__(
        self,
        rig: Rig,
        store: Store,
        log: Log,
        days: dict[date, Conditions],
        usual: dict[date, SkyHabit],
        now: datetime,
        kinds: KnownDayKinds,
        neighbour: Neighbour | None = None,
    ) -> None:
        self.rig, self.store, self.days, self.usual, self.now = rig, store, days, usual, now
        self.zone = rig.zone
        self.context = StoreContext.of(rig, store, kinds)
        self.model = self.context.model
        self.hypotheses = [Hypothesis(belief=self.context.start(), x_since=np.zeros(len(self.model.mean)))]
        self.known_since: datetime | None = None
        self.last_reset: datetime | None = None
        self.last_reading: Reading | None = None
        self.hour = 0.0
        self.compared: list[Compared] = []
        self.resets = 0
        self.neighbour = neighbour
        self.unusual: list[UnusualDays] = []
        first = log.first_from(min(days))
        self.entries: dict[date, list[Reading | Event]] = {
            day.date: [e for e in day.entries() if concerns(rig, store, e)] for day in log.days[first:]
        }
        # a spell of charging may reach into the first day from the week before it
        recent = Log(log.days[max(0, first - Tracking.charges_back_days) :])
        self.charges = charges(rig, store, recent, days) if store.is_bank else []
        self.charges_on = by_date(self.charges, self.zone)

    @property
    def best(self) -> Hypothesis:
        """The likeliest hypothesis."""
        return self.hypotheses[0]

    @property
    def belief(self) -> b.Belief:
        """All hypotheses as one belief."""
        return blended(self.hypotheses)

    @property
    def known_at(self) -> datetime | None:
        """When the store was last read, or its level set anew."""
        read_at = self.last_reading.at if self.last_reading else None
        return max((at for at in (self.last_reset, read_at) if at), default=None)

    def run(self, stops: set[date]) -> Iterator[tuple[date, Conditions]]:
        """Walk to the end; at the midnight that begins each date of ``stops`` says so, with the day before."""
        final = max(self.days)
        yesterday: Conditions | None = None
        for on, conditions in self.days.items():
            if on in stops and yesterday is not None:
                yield on, yesterday
            yesterday = conditions
            self.hour = min(HOURS, self.zone.hour(on, self.now)) if on == final else HOURS
            influence = day_influence(self.rig, self.store, self.model, conditions, self.usual[on], self.hour)
            self._day(on, influence)
            if self.hour >= Tracking.total_least_hours:
                self._totals(conditions)

    def _day(self, on: date, influence: DayInfluence) -> None:
        entries = self.entries.get(on, [])
        hours = [min(max(self.zone.hour(on, e.at), 0.0), self.hour) for e in entries]
        heard = self._heard(on)
        begins, ends = self.zone.bounds(on)
        charging = [each for each in self.charges_on.get(on, []) if each.start < ends and each.end > begins]
        stops = {self.hour, *hours, *heard, *self._bank_stops(on, charging)}
        for each in self.hypotheses:
            each.throttled = False
            drift(self.context, each, self.hour / HOURS)
        before = 0.0
        for stop in sorted(stops):
            if stop > before:
                self._step(on, influence, before, stop, charging)
                before = stop
            if self.known_since and self.store.is_bank:
                self._write_down(self.zone.at_hour(on, stop))
            for unusual in heard.get(stop, ()):
                self._hear(unusual)
            for entry, hour in zip(entries, hours, strict=True):
                if hour == stop:
                    self._take(entry)
        if self.known_since:
            self._write_down(min(self.zone.at_hour(on, self.hour), self.now))

    def _bank_stops(self, on: date, charging: list[Charge]) -> set[float]:
        """Hours at which a bank's day is divided: finer while the sun moves it, and where charging begins or ends."""
        if not self.store.is_bank:
            return set()
        ends = [self.zone.hour(on, t) for each in charging for t in (each.start, each.end)]
        return {h for h in (*Tracking.bank_steps_h, *ends) if 0 < h < self.hour}

    def _step(self, on: date, influence: DayInfluence, from_h: float, until_h: float, charging: list[Charge]) -> None:
        span = (self.zone.at_hour(on, from_h), self.zone.at_hour(on, until_h))
        step = step_of(self.context, influence, from_h, until_h, span, charging)
        for each in self.hypotheses:
            move(self.context, each, step, self.known_since is not None)

    def _heard(self, on: date) -> dict[float, list[UnusualDays]]:
        """What the fresh tank says on a date, by the hour at which this store hears it."""
        by_hour: dict[float, list[UnusualDays]] = {}
        for unusual in self.neighbour.days.get(on, ()) if self.neighbour else ():
            early = self.zone.hour(on, unusual.at - SAME_ROUND)
            by_hour.setdefault(min(max(0.0, early), self.hour), []).append(unusual)
        return by_hour

    def _hear(self, unusual: UnusualDays) -> None:
        if self.neighbour and self.known_at:
            for each in self.hypotheses:
                hear(each, unusual, self.known_at, self.neighbour.correlation, self.store.capacity)

    def _write_down(self, at: datetime, cause: Cause = Cause.USE) -> None:
        for each in self.hypotheses:
            each.write_down(at, cause)

    def _take(self, entry: Reading | Event) -> None:
        if isinstance(entry, Event):
            self._event(entry)
        else:
            self._reading(entry)
        if self.known_since:
            self._write_down(entry.at, Cause.EVENT if isinstance(entry, Event) else Cause.READING)

    def _reading(self, reading: Reading) -> None:
        first, since = self.known_since is None, self.known_at
        self.known_since = self.known_since or reading.at
        self.last_reading = reading
        given = evidence(self.store, reading)
        self._compare(reading, given, first)
        if first:
            self.best.belief = _first_level(self.best.belief, given, self.store.capacity)
            self.best.settle()
        else:
            self._write_down(reading.at)
            if not given.silent:
                self._read(reading, given, since)

    def _compare(self, reading: Reading, given: Evidence, first: bool) -> None:
        expected = self.belief
        self.compared.append(
            Compared(
                at=reading.at, method=reading.method, expected=expected.level, expected_sd=expected.sd,
                value=given.centre, mark=reading.value if reading.method is Method.STEP else None, resets=self.resets,
                reading=reading, expected_range=expected.level_range(self.store.capacity),
                fits=None if first or given.silent else fits(expected, given),
            )
        )  # fmt: skip

    def _event(self, event: Event) -> None:
        if self.known_since:
            self._write_down(event.at)
        is_reset = False
        for each in self.hypotheses:
            after, is_reset = apply_event(self.rig, self.store, self.model, each.belief, event)
            each.belief = b.cut_to_ends(after, self.store.capacity)
            if is_reset:
                each.settle()
        if is_reset:
            self.known_since = self.known_since or event.at
            self.last_reset = event.at
            self.resets += 1

    def _read(self, reading: Reading, given: Evidence, since: datetime | None) -> None:
        spans = self.store.kind.role is Role.WATER and since is not None and since < reading.at
        before, doubts, process_var = self.belief if spans else None, len(self.best.doubts), self.best.process_var
        opened = [
            after
            for each in self.hypotheses
            for after in branches(self.store, each, reading, given, self.model.drivers)
        ]
        set_right = reading.method is Method.FULL and self.store.is_bank
        for each in opened:
            after = _without_bias(each.belief) if set_right else each.belief
            each.belief = b.cut_to_ends(b.keep_positive(after, self.context.floor), self.store.capacity)
        self.hypotheses = prune(opened)
        if since and before is not None and len(self.best.doubts) == doubts:
            self.unusual.append(unusual_days(since, reading.at, before, self.belief, process_var))

    def _totals(self, day: Conditions) -> None:
        usual = self.usual[day.date]
        unusual = unusual_day(self.context, self.hypotheses, day, usual, self.hour)
        if unusual is not None:
            self.unusual.append(unusual)
        learn_totals(self.context, self.hypotheses, day, usual, self.hour)


def fits(expected: b.Belief, given: Evidence) -> bool:
    """Whether a reading lies within what was expected before it."""
    reach = Readings.fits_sds * float((expected.sd**2 + given.sd**2 + expected.bias_sd**2) ** 0.5)
    if given.value is not None:
        return abs(given.value - expected.level) <= reach
    low, high = given.span
    return low - reach <= expected.level <= high + reach


def _first_level(belief: b.Belief, given: Evidence, capacity: float) -> b.Belief:
    """The level from a first reading alone: before it anything from empty to full was as likely."""
    if given.silent:
        return belief
    if given.value is None:
        # a prior far wider than the tank
        centre, variance, _ = b.band_posterior(capacity / 2, Numeric.flat * capacity, given.bands)
        return b.reset_level(belief, centre, float(np.sqrt(variance)))
    bias_var = float(belief.cov[-1, -1]) if given.biased else 0.0
    known = b.reset_level(belief, given.value, float(np.hypot(given.sd, np.sqrt(bias_var))))
    known.cov[0, -1] = known.cov[-1, 0] = -bias_var
    return b.cut_to_ends(known, capacity)


def _without_bias(belief: b.Belief) -> b.Belief:
    """A full charge sets the shunt right."""
    cov = belief.cov.copy()
    cov[-1, :] = cov[:, -1] = 0.0
    return b.Belief(np.concatenate([belief.mean[:-1], [0.0]]), cov)
