"""The walk of one store through its days: use moves every hypothesis of it, readings and events correct them."""

from collections.abc import Iterator
from dataclasses import replace
from datetime import date, datetime, timedelta

import numpy as np

from lodeline.core.catalogue import Driver, Effect, GaugeKind, Method, Role
from lodeline.core.conditions import Conditions, is_elsewhere
from lodeline.core.energy.skies import SkyHabit
from lodeline.core.figures import Energy, Readings, Service, Tracking, Use, Volts
from lodeline.core.log import Event, Log, Reading
from lodeline.core.rig import Rig, Store
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.bank_use import at_new_place
from lodeline.core.tracking.belief import EVENLY, UNBIASED
from lodeline.core.tracking.branching import branches
from lodeline.core.tracking.charging import Charge, by_date, charges
from lodeline.core.tracking.coupling import (
    SAME_MOMENT,
    SAME_ROUND,
    LearnedUse,
    Neighbour,
    UnusualDays,
    hear,
    informed,
    learned_of,
    unusual_days,
)
from lodeline.core.tracking.day_kinds import KnownDayKinds
from lodeline.core.tracking.events import Speed, apply_event, carried, concerns, driven_km, reserve_after
from lodeline.core.tracking.evidence import Evidence, evidence, shape_at
from lodeline.core.tracking.fit import Level, first_level, likelihood
from lodeline.core.tracking.hypothesis import Act, Cause, Compared, DoubtKind, Hypothesis, blended, prune
from lodeline.core.tracking.influence import DayInfluence
from lodeline.core.tracking.model import UseModel
from lodeline.core.tracking.propagate import StoreContext, drift, move, set_right, step_of
from lodeline.core.tracking.service import ServiceRecord, enough_to_drive, not_served, served, topped_up
from lodeline.core.tracking.totals import learn_totals, unusual_day
from lodeline.core.tracking.use import day_influence
from lodeline.core.tracking.volts import Around
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
        before: Conditions | None = None,
    ) -> None:
        self.rig, self.store, self.days, self.usual, self.now = rig, store, days, usual, now
        self.zone = rig.zone
        self.before = before
        self.context = StoreContext.of(rig, store, kinds)
        self.model = self.context.model
        most = Tracking.bank_spread_most if store.is_bank else Tracking.spread_most
        nothing = np.zeros(len(self.model.mean))
        self.hypotheses = [
            Hypothesis(belief=belief, x_since=nothing, spread_most=most, log_weight=float(np.log(chance)))
            for chance, belief in self.context.starts()
        ]
        self.known_since: datetime | None = None
        self.last_reset: datetime | None = None
        self.last_reading: Reading | None = None
        self.reserve = carried(rig, store)
        self.reserve_used_at: datetime | None = None
        self.lost_since: datetime | None = None
        self.drained_since: datetime | None = None
        self.read_at: datetime | None = None
        self.past_line = 0.0
        self.blank = 0
        self.acts: list[Event] = []
        self.hour = 0.0
        self.compared: list[Compared] = []
        self.resets = 0
        self.services = ServiceRecord()
        self.served_on: date | None = None
        self.learned: LearnedUse | None = None
        self.speed = Speed()
        self.service_times = [(e.at, e.store) for day in log.days for e in day.events if e.row.effect in _SERVICES]
        fresh = {each.id for each in rig.every(Role.WATER)}
        self.filled_at = [at for at, id in self.service_times if id in fresh]
        self.neighbour = neighbour
        self.unusual: list[UnusualDays] = []
        first = log.first_from(min(days))
        self.entries: dict[date, list[Reading | Event]] = {
            day.date: [e for e in day.entries() if concerns(rig, store, e)] for day in log.days[first:]
        }
        self.logged_dates = {day.date for day in log.days if day.readings or day.events}
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
        return max((at for at in (self.last_reset, self.read_at) if at), default=None)

    @property
    def is_known(self) -> bool:
        """Whether its level can be told."""
        return self.known_since is not None and self.lost_since is None

    def run(self, stops: set[date]) -> Iterator[tuple[date, Conditions]]:
        """Walk to the end; at the midnight that begins each date of ``stops`` says so, with the day before."""
        final = max(self.days)
        yesterday: Conditions | None = None
        before = self.before
        for on, conditions in self.days.items():
            if on in stops and yesterday is not None:
                yield on, yesterday
            yesterday = conditions
            self.hour = min(HOURS, self.zone.hour(on, self.now)) if on == final else HOURS
            if self.store.is_bank and before is not None and is_elsewhere(before.place, conditions.place):
                for each in self.hypotheses:
                    each.belief = at_new_place(each.belief)
            before = conditions
            influence = day_influence(self.rig, self.store, self.model, conditions, self.usual[on], self.hour)
            self._day(on, influence)
            if self.hour >= Tracking.total_least_hours:
                self._totals(conditions)

    def _day(self, on: date, influence: DayInfluence) -> None:
        self._lose(on)
        entries: list[Reading | Event | None] = [*self.entries.get(on, [])]
        hours = [min(max(self.zone.hour(on, e.at), 0.0), self.hour) for e in entries if e is not None]
        heard = self._heard(on)
        begins, ends = self.zone.bounds(on)
        charging = [each for each in self.charges_on.get(on, []) if each.start < ends and each.end > begins]
        stops = {self.hour, *hours, *heard, *self._bank_stops(on, charging)}
        for each in self.hypotheses:
            drift(self.context, each, self.hour / HOURS)
            each.throttled, each.began = 0.0, each.belief.level
        before = 0.0
        for stop in sorted(stops):
            if stop > before:
                self._step(on, influence, before, stop, charging)
                before = stop
            if self.known_since and self.store.is_bank:
                self._write_down(self.zone.at_hour(on, stop))
            for unusual in heard.get(stop, ()):
                self._hear(unusual)
            for index, hour in enumerate(hours):
                if hour == stop and entries[index] is not None:
                    self._take_in_round(entries, index)
        if self.drained_since is not None:
            self._refilled(ends)
        elif self.hour >= HOURS:
            self._not_served(on)
            self._tell_use(on)
        if self.known_since:
            self._write_down(min(self.zone.at_hour(on, self.hour), self.now))

    def _tell_use(self, on: date) -> None:
        """Keep the use of a fresh tank when it is first known; let a grey one hear of it."""
        if self.store.kind.role is Role.WATER and self.learned is None and self.best.days_seen >= Tracking.known_days:
            self.learned = learned_of(on, self.model, self.belief)
        if self.neighbour and self.neighbour.learned and self.neighbour.learned.on == on:
            for each in self.hypotheses:
                each.belief = informed(self.rig, self.store, self.model, each.belief, self.neighbour.learned)

    def _not_served(self, on: date) -> None:
        """A day that ends without a service is evidence too."""
        if self.store.is_bank or self.served_on == on or self.lost_since is not None:
            return
        unlogged = sum(each.kind in (DoubtKind.RISE, DoubtKind.FALL) for each in self.best.doubts)
        chance = self.services.not_logged(unlogged, on not in self.logged_dates)
        for each in self.hypotheses:
            after = b.keep_positive(not_served(self.store, each.belief, chance), self.context.floor)
            if not self.entries.get(on) and (after.level - each.began) * self.store.sign < 0:
                # less was used than was thought, but nothing ran backwards
                after.mean[0] = each.began
            each.belief = after

    def _refilled(self, until: datetime) -> None:
        """A drained rig is in use again from the first fill of a fresh tank on."""
        since = self.drained_since
        if since is None or not any(since < at <= until for at in self.filled_at):
            return
        for each in self.hypotheses:
            each.belief = b.reset_level(each.belief, 0.0, Readings.end_sd * self.store.capacity)
            each.settle()
        self.known_since, self.last_reset, self.drained_since = until, until, None

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
            move(self.context, each, step, self.is_known)
        if self.lost_since is not None:
            self._step_lost()

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

    def _lose(self, on: date) -> None:
        """Past its expected line and unread for days, a store was served and nobody logged it: its level is lost."""
        known_at, store = self.known_at, self.store
        if known_at is None or self.lost_since is not None or self.drained_since is not None:
            return
        level = self.belief.level if store.is_bank else self.best.uncut_level
        past = (level - store.line_level) * store.sign >= 0
        is_blank = on - timedelta(days=1) not in self.logged_dates
        self.blank += is_blank
        # who logs other things would have logged a service too: there the use is less than was thought
        self.past_line = self.past_line + (1.0 if is_blank else Tracking.lost_share_logged) if past else 0.0
        if self.past_line > Tracking.lost_after:
            self.lost_since = known_at
            self._step_lost()
            self._write_down(self.zone.midnight(on), Cause.LOST)

    def _take_in_round(self, entries: list[Reading | Event | None], index: int) -> None:
        """Take an entry; an act of the same round whose result a reading shows comes before that reading, and a reading
        of the same moment that shows what was there before an act comes before the act."""
        entry = entries[index]
        assert entry is not None
        entries[index] = None
        for later in range(index + 1, len(entries) if self.is_known else 0):
            other = entries[later]
            if isinstance(entry, Reading) and isinstance(other, Event) and other.at - entry.at <= SAME_ROUND:
                is_first = self._shows(entry, other, is_after=True)
            elif isinstance(entry, Event) and isinstance(other, Reading) and other.at - entry.at <= SAME_MOMENT:
                is_first = self._shows(other, entry, is_after=False)
            else:
                continue
            if is_first:
                entries[later] = None
                self._take(replace(other, at=entry.at))
                if isinstance(entry, Reading):
                    break
        self._take(entry)

    def _shows(self, reading: Reading, act: Event, *, is_after: bool) -> bool:
        """Whether a reading shows what an act leads to rather than what was there before it, or the other way round."""
        given, before = evidence(self.store, reading), self.best.belief
        if given.silent:
            return False
        after, _ = apply_event(self.rig, self.store, self.model, before, act, self.speed)
        as_after, as_before = (
            likelihood(Level.of(each), given) for each in (b.cut_to_ends(after, self.store.capacity), before)
        )
        return as_after > Tracking.shows_act * as_before if is_after else as_before > Tracking.shows_act * as_after

    def _take(self, entry: Reading | Event) -> None:
        if isinstance(entry, Event):
            self._event(entry)
        else:
            self._reading(entry)
        if self.known_since:
            self._write_down(entry.at, Cause.EVENT if isinstance(entry, Event) else Cause.READING)

    def _reading(self, reading: Reading) -> None:
        given = self._as_expected(evidence(self.store, reading, self._around(reading.at)))
        first, since = not self.is_known, self.known_at
        self.last_reading = reading
        self._compare(reading, given, first)
        if given.silent:
            if self.known_since is None:
                # somebody looked, and what was seen says nothing of the level
                self.known_since = self.lost_since = reading.at
                self._step_lost()
            return
        self.known_since, self.read_at, self.drained_since = self.known_since or reading.at, reading.at, None
        if first:
            for each in self.hypotheses:
                each.belief = first_level(each.belief, given, self.store.capacity)
                if reading.method is Method.FULL and self.store.is_bank:
                    set_right(self.context, each)
                each.settle()
            self.lost_since = None
        else:
            self._write_down(reading.at)
            self._read(reading, given, since)
        self.past_line, self.blank = 0.0, 0

    def _as_expected(self, given: Evidence) -> Evidence:
        """Evidence with the gauge's bias at the height that is expected: what is read goes with the day's use, so that
        at its own height each heavy day would push the bias the same way."""
        if self.store.is_bank or given.value is None or given.shape in (UNBIASED, EVENLY) or not self.is_known:
            return given
        return replace(given, shape=shape_at(self.belief.level / self.store.capacity))

    def _step_lost(self) -> None:
        for each in self.hypotheses:
            each.belief = b.lost_level(each.belief, self.store.line_level, self.store.good_end)

    def _around(self, at: datetime) -> Around:
        """What may have been charging a bank at a time."""
        hour = self.zone.local(at).hour
        sunny = bool(self.rig.solar) and Readings.sun_from_h <= hour < Readings.sun_until_h
        charging = Volts.charging_in_sun if sunny else Volts.charging_else
        lately = timedelta(hours=Volts.charged_h)
        if any(each.start <= at < each.end for each in self.charges):
            charging = Volts.charging_logged
        charged = any(each.start <= at < each.end + lately for each in self.charges)
        charged |= bool(self.rig.solar) and Readings.sun_from_h <= hour < Readings.sun_until_h + Volts.charged_h
        return Around(
            charging=charging,
            charged=charged,
            early=hour < Volts.early_until_h,
            l_per_km=l_per_km(self.model, self.belief),
        )

    def _compare(self, reading: Reading, given: Evidence, first: bool) -> None:
        expected = self.belief
        self.compared.append(
            Compared(
                at=reading.at,
                method=reading.method,
                expected=expected.level,
                expected_sd=expected.sd,
                value=given.centre,
                mark=reading.value if reading.method is Method.STEP else None,
                resets=self.resets,
                reading=reading,
                expected_range=expected.level_range(self.store.capacity),
                fits=None if first or given.silent else fits(expected, given),
                bias=expected.bias(given.shape)[0],
            )
        )

    def _event(self, event: Event) -> None:
        if event.row.effect is Effect.COUNT and self._is_metered(event):
            return
        if self.known_since:
            self._write_down(event.at)
        is_reset, twice = False, any(_same_act(each, event) for each in self.acts)
        if event.row.effect in _SERVICES and not self.store.is_bank and not twice:
            self._learn_of_service(event)
        if event.row.effect is Effect.DRIVE:
            self.speed.learn(event)
            if self.is_known:
                km = driven_km(event, self.speed)
                self.hypotheses = enough_to_drive(self.store, self.model, self.hypotheses, km)
        for each in self.hypotheses:
            before = each.belief
            after, is_reset = apply_event(self.rig, self.store, self.model, each.belief, event, self.speed)
            each.belief = b.cut_to_ends(after, self.store.capacity)
            each.anchor += each.belief.level - before.level
            if is_reset:
                each.settle()
            if self.is_known and event.row.effect in _JUDGED:
                each.act = Act(
                    event=event, before=before.level, before_sd=before.sd, after=each.belief.level, twice=twice
                )
        self.acts = [*self.acts[-1:], event]
        left = reserve_after(self.rig, self.store, self.reserve, event)
        self.reserve_used_at = event.at if left < self.reserve else self.reserve_used_at if left <= 0 else None
        self.reserve = left
        if event.row.effect is Effect.DRAIN:
            # nothing is in it, and nothing is asked until it is filled again
            self.known_since, self.lost_since, self.drained_since = None, None, event.at
        elif self.drained_since is not None and (is_reset or event.row.effect is Effect.FILL):
            is_reset = True
        if is_reset and event.row.effect is not Effect.DRAIN:
            self.drained_since = None
            self.known_since, self.lost_since = self.known_since or event.at, None
            self.last_reset = event.at
            self.resets += 1
            self.past_line, self.blank = 0.0, 0

    def _is_metered(self, event: Event) -> bool:
        """Whether the day's meter has counted what an activity took already."""
        is_fresh = self.rig.first(Role.WATER) is self.store
        return is_fresh and self.days[self.zone.date(event.at)].water_l is not None

    def _learn_of_service(self, event: Event) -> None:
        """What an act says of the level before it."""
        self.served_on = self.zone.date(event.at)
        self.services.logged += 1
        if self.lost_since is not None:
            return
        beside = any(other != self.store.id and abs(at - event.at) <= _ONE_STOP for at, other in self.service_times)
        for each in self.hypotheses:
            if event.amount is not None and not event.to_full:
                after = topped_up(self.store, each.belief, event.amount, Tracking.amount_cv * event.amount)
            else:
                after, weight = served(self.store, each.belief, beside)
                each.log_weight += weight
            each.belief = b.keep_positive(after, self.context.floor)

    def _read(self, reading: Reading, given: Evidence, since: datetime | None) -> None:
        spans = self.store.kind.role is Role.WATER and since is not None and since < reading.at
        before, doubts, process_var = self.belief if spans else None, len(self.best.doubts), self.best.process_var
        is_full = self._is_synchronised(reading)
        if is_full:
            given = Evidence(value=self.store.capacity, sd=Readings.end_sd * self.store.capacity)
        days = max(1.0, (reading.at - since) / timedelta(days=1)) if since else 1.0
        blank = min(1.0, self.blank / days)
        opened, again = [], since is not None and reading.at - since <= SAME_ROUND
        for each in self.hypotheses:
            hull = _hull(each.belief, given)
            for index, after in enumerate(branches(self.store, each, reading, given, self.model.drivers, blank)):
                # what many readings teach of a gauge may carry the plain one beyond; one round never
                if index > 0 or again:
                    after.belief = _within(after.belief, hull)
                opened.append(after)
        for each in opened:
            if is_full:
                set_right(self.context, each)
            each.belief = b.cut_to_ends(b.keep_positive(each.belief, self.context.floor), self.store.capacity)
            if self.store.is_bank and each.belief.level > Energy.full_from * self.store.capacity:
                each.throttled = 1.0
        self.hypotheses = prune(opened)
        if since and before is not None and len(self.best.doubts) == doubts:
            self.unusual.append(unusual_days(since, reading.at, before, self.belief, process_var))

    def _is_synchronised(self, reading: Reading) -> bool:
        """Whether a bank was full when it was read, so that its shunt began anew at 100 %."""
        if not self.store.is_bank or reading.method is Method.FULL:
            return self.store.is_bank
        near = (
            self.best.throttled > Tracking.full_from
            or self.best.belief.level > Tracking.throttled_from * self.store.capacity
        )
        shows_full = reading.method is Method.FRACTION and (reading.value or 0.0) >= Readings.shunt_full_from
        return self.store.gauge.kind is GaugeKind.SHUNT and shows_full and near

    def _totals(self, day: Conditions) -> None:
        usual = self.usual[day.date]
        unusual = unusual_day(self.context, self.hypotheses, day, usual, self.hour)
        if unusual is not None:
            self.unusual.append(unusual)
        learn_totals(self.context, self.hypotheses, day, usual, self.hour)


# Acts that are done when a store needs them, and how near in time those of one stop lie.
_SERVICES = frozenset({Effect.FILL, Effect.EMPTY, Effect.SWAP})
_ONE_STOP = timedelta(hours=Service.beside_h)

# Acts that what is read afterwards may not bear out.
_JUDGED = frozenset({Effect.FILL, Effect.EMPTY, Effect.SWAP, Effect.MOVE})


def _same_act(before: Event, after: Event) -> bool:
    """Whether two acts within minutes say the same."""
    near = after.at - before.at <= timedelta(hours=Tracking.twice_within_h)
    same = (before.type, before.store, before.amount, before.source, before.target)
    return near and same == (after.type, after.store, after.amount, after.source, after.target)


def _hull(before: b.Belief, given: Evidence) -> tuple[float, float]:
    """What a level was before a reading, and what the reading allows, with and without its gauge's known bias."""
    low, high = given.allows
    bias, _ = before.bias(given.shape)
    return min(before.level, low, low - bias), max(before.level, high, high - bias)


def _within(after: b.Belief, hull: tuple[float, float]) -> b.Belief:
    """A belief whose level lies between: what else a reading teaches (a bias, a rate) does not carry it beyond."""
    level = min(max(after.level, hull[0]), hull[1])
    if level == after.level:
        return after
    mean = after.mean.copy()
    mean[0] = level
    return b.Belief(mean, after.cov)


def l_per_km(model: UseModel, belief: b.Belief) -> tuple[float, float]:
    """What is believed that a way burns, and its error. [L/km]"""
    if Driver.KM not in model.drivers:
        return Use.fuel_l_per_km, Use.fuel_km_sd
    return belief.coefficient(model.drivers.index(Driver.KM))


def fits(expected: b.Belief, given: Evidence) -> bool:
    """Whether a reading lies within what was expected before it."""
    _, bias_sd = expected.bias(given.shape)
    reach = Readings.fits_sds * float((expected.sd**2 + given.sd**2 + bias_sd**2) ** 0.5)
    if given.value is not None:
        return abs(given.value - expected.level) <= reach
    low, high = given.span
    return low - reach <= expected.level <= high + reach
