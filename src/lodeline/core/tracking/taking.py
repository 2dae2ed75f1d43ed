"""What readings and events do to a store's state."""

from bisect import bisect_left
from dataclasses import replace
from datetime import datetime, timedelta
from itertools import islice, takewhile
from math import hypot
from operator import itemgetter

from lodeline.core.apart import reserve_after
from lodeline.core.catalogue import Effect, GaugeKind, Method, Role
from lodeline.core.figures import Energy, Readings, Serving, Tracking, Volts
from lodeline.core.log import Event, Reading
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.belief import EVENLY, UNBIASED
from lodeline.core.tracking.branching import branches, filled
from lodeline.core.tracking.coupling import SAME_MOMENT, SAME_ROUND, unusual_days
from lodeline.core.tracking.events import apply_event, driven_km, l_per_km, sets_anew
from lodeline.core.tracking.evidence import Evidence, evidence, shape_at
from lodeline.core.tracking.fit import Level, first_level, fits, likelihood, score
from lodeline.core.tracking.hypothesis import Cause, Compared, LastAct, Unmoved, prune
from lodeline.core.tracking.propagate import set_right
from lodeline.core.tracking.service import enough_to_drive, served
from lodeline.core.tracking.state import SERVICES, Scene, State
from lodeline.core.tracking.stuck import is_stuck
from lodeline.core.tracking.volts import Around


def take_in_round(scene: Scene, state: State, entries: list[Reading | Event | None], index: int) -> None:
    """Take an entry; an act of the same round whose result a reading shows comes before that reading, and a reading
    of the same moment that shows what was there before an act comes before the act."""
    entry = entries[index]
    assert entry is not None
    entries[index] = None
    for later in range(index + 1, len(entries) if state.is_known else 0):
        other = entries[later]
        entry = _filling(entry, other) or entry
        if isinstance(entry, Reading) and isinstance(other, Event) and other.at - entry.at <= SAME_ROUND:
            is_first = _shows(scene, state, entry, other, is_after=True)
        elif isinstance(entry, Event) and isinstance(other, Reading) and other.at - entry.at <= SAME_MOMENT:
            is_first = _shows(scene, state, other, entry, is_after=False)
        else:
            continue
        if is_first:
            entries[later] = None
            _take(scene, state, replace(other, at=entry.at))
            if isinstance(entry, Reading):
                break
    _take(scene, state, entry)


def _filling(entry: Reading | Event, other: Reading | Event | None) -> Event | None:
    """A fill of an amount after which a reading of the same round says that it is full: so much was missing."""
    if not isinstance(entry, Event) or entry.row.effect is not Effect.FILL or entry.amount is None:
        return None
    if not isinstance(other, Reading) or other.method is not Method.FULL or other.at - entry.at > SAME_ROUND:
        return None
    return replace(entry, to_full=True)


def _shows(scene: Scene, state: State, reading: Reading, act: Event, *, is_after: bool) -> bool:
    """Whether a reading shows what an act leads to rather than what was there before it, or the other way round."""
    given, before = evidence(scene.store, reading), state.best.belief
    if given.silent:
        return False
    after = apply_event(scene.rig, scene.store, scene.model, before, act, state.speed)
    as_after, as_before = (
        likelihood(Level(each), given) for each in (b.cut_to_ends(after, scene.store.capacity), before)
    )
    return as_after > Tracking.shows_act * as_before if is_after else as_before > Tracking.shows_act * as_after


def _take(scene: Scene, state: State, entry: Reading | Event) -> None:
    if isinstance(entry, Event):
        _event(scene, state, entry)
    else:
        _reading(scene, state, entry)
    if state.known_since:
        state.write_down(entry.at, Cause.EVENT if isinstance(entry, Event) else Cause.READING)


def _reading(scene: Scene, state: State, reading: Reading) -> None:
    first, since, before = not state.is_known, state.known_at, state.belief
    given = evidence(scene.store, reading, _around(scene, before, reading))
    given = given if first else _as_expected(scene, before, given)
    state.last_reading = reading
    state.compared.append(_compared(scene, before, reading, given, state.resets, first))
    if given.silent:
        if state.known_since is None:
            # somebody looked, and what was seen says nothing of the level
            state.known_since = state.lost_since = reading.at
            state.step_lost(scene.store)
        return
    state.known_since, state.read_at, state.drained_since = state.known_since or reading.at, reading.at, None
    if first:
        for each in state.hypotheses:
            each.belief = first_level(each.belief, given, scene.store.capacity)
            if reading.method is Method.FULL and scene.store.is_bank:
                set_right(scene.context, each)
            each.settle()
            each.unmoved = Unmoved(reading.at, each.belief, each.x_since)
        state.lost_since = None
    else:
        state.write_down(reading.at)
        _read(scene, state, reading, given, before, since)
    state.past_line, state.blank = 0.0, 0


def _as_expected(scene: Scene, before: b.Belief, given: Evidence) -> Evidence:
    """Evidence with the gauge's bias at the height that is expected: what is read goes with the day's use, so that
    at its own height each heavy day would push the bias the same way."""
    if scene.store.is_bank or given.shape in (UNBIASED, EVENLY):
        return given
    return replace(given, shape=shape_at(before.level / scene.store.capacity))


_ANYHOW = Around()


def _around(scene: Scene, before: b.Belief, reading: Reading) -> Around:
    """What else is known of a reading's time: of volts what may have been charging, of a range what a way burns."""
    if reading.method is Method.RANGE:
        return replace(_ANYHOW, l_per_km=l_per_km(scene.model, before))
    if reading.method is not Method.VOLTS:
        return _ANYHOW
    at, hour = reading.at, scene.zone.local(reading.at).hour
    sunny = bool(scene.rig.solar) and Readings.sun_from_h <= hour < Readings.sun_until_h
    charging = Volts.charging_in_sun if sunny else Volts.charging_else
    lately = timedelta(hours=Volts.charged_h)
    on = scene.zone.date(at)
    spells = [each for back in range(2) for each in scene.charges_on.get(on - timedelta(days=back), ())]
    if any(each.start <= at < each.end for each in spells):
        charging = Volts.charging_logged
    charged = any(each.start <= at < each.end + lately for each in spells)
    charged |= bool(scene.rig.solar) and Readings.sun_from_h <= hour < Readings.sun_until_h + Volts.charged_h
    return Around(charging=charging, charged=charged, early=hour < Volts.early_until_h)


def _compared(
    scene: Scene, expected: b.Belief, reading: Reading, given: Evidence, resets: int, first: bool
) -> Compared:
    return Compared(
        at=reading.at,
        method=reading.method,
        expected=expected.level,
        expected_sd=expected.sd,
        value=given.centre,
        mark=reading.value if reading.method is Method.STEP else None,
        resets=resets,
        reading=reading,
        expected_range=expected.level_range(scene.store.capacity),
        fits=None if first or given.silent else fits(expected, given),
        bias=expected.bias(given.shape)[0],
        score=None if first or given.value is None else score(expected, given),
    )


def _event(scene: Scene, state: State, event: Event) -> None:
    if event.row.effect is Effect.COUNT and _is_metered(scene, state, event):
        return
    if state.known_since:
        state.write_down(event.at)
    is_reset, twice = sets_anew(scene.store, event), any(_same_act(each, event) for each in state.acts)
    if event.row.effect in SERVICES and not scene.store.is_bank and not twice:
        _learn_of_service(scene, state, event)
    if event.row.effect is Effect.DRIVE:
        state.speed.learn(event)
        if state.is_known:
            km = driven_km(event, state.speed)
            state.hypotheses = enough_to_drive(scene.store, scene.model, state.hypotheses, km)
    for each in state.hypotheses:
        before = each.belief
        after = apply_event(scene.rig, scene.store, scene.model, each.belief, event, state.speed)
        each.belief = b.cut_to_ends(after, scene.store.capacity)
        each.anchor += each.belief.level - before.level
        if is_reset:
            each.settle()
        if state.is_known and event.row.effect in _JUDGED:
            each.act = LastAct(
                event=event, before=before.level, before_sd=before.sd, after=each.belief.level, twice=twice
            )
    state.acts = [*state.acts[-1:], event]
    left = reserve_after(scene.rig, scene.store, state.reserve, event)
    state.reserve_used_at = event.at if left < state.reserve else state.reserve_used_at if left <= 0 else None
    state.reserve = left
    if event.row.effect is Effect.DRAIN:
        # nothing is in it, and nothing is asked until it is filled again
        state.known_since, state.lost_since, state.drained_since = None, None, event.at
    elif state.drained_since is not None and (is_reset or event.row.effect is Effect.FILL):
        is_reset = True
    if is_reset and event.row.effect is not Effect.DRAIN:
        state.drained_since = None
        state.known_since, state.lost_since = state.known_since or event.at, None
        state.last_reset = event.at
        state.resets += 1
        state.past_line, state.blank = 0.0, 0


def _is_metered(scene: Scene, state: State, event: Event) -> bool:
    """Whether the day's meter has counted what an activity took already."""
    is_fresh = scene.rig.first(Role.WATER) is scene.store
    return is_fresh and scene.past.days[scene.zone.date(event.at)].water_l is not None


def _learn_of_service(scene: Scene, state: State, event: Event) -> None:
    """What an act says of the level before it."""
    state.served_on = scene.zone.date(event.at)
    state.services.logged += 1
    if event.amount is not None and not event.to_full:
        # somebody who writes down what goes in has not served it unseen
        state.past_line = 0.0
        if event.amount >= Serving.more_than_a_can * scene.store.capacity:
            state.lost_since = None
    if state.lost_since is not None or state.drained_since is not None:
        return
    at = event.at
    if event.to_full and event.amount is not None:
        _measured(scene, state, event, event.amount)
        return
    if event.amount is not None:
        opened = [new for each in state.hypotheses for new in filled(scene.store, each, event.amount)]
        for each in opened:
            each.belief = b.keep_positive(each.belief, scene.context.floor)
        state.hypotheses = prune(opened)
        return
    near = islice(scene.service_times, bisect_left(scene.service_times, at - _ONE_STOP, key=_WHEN), None)
    beside = any(other != scene.store.id for _, other in takewhile(lambda each: each[0] <= at + _ONE_STOP, near))
    by_need = state.services.by_need(scene.store) * (Serving.together if beside else 1.0)
    best, before = state.best, state.best.belief
    for each in state.hypotheses:
        # of a tank that ought to have run over, by how much: else much use would look as if it just filled it
        after, weight, trust = served(scene.store, each.uncut(scene.store.sign), by_need)
        if each is best:
            state.services.learn(scene.store, before, trust)
        each.log_weight += weight
        each.belief = b.keep_positive(after, scene.context.floor)


def _measured(scene: Scene, state: State, event: Event, amount: float) -> None:
    """What went in until it was full was missing: a reading of the level before, better than any gauge's."""
    capacity = scene.store.capacity
    sd = hypot(Tracking.amount_cv * amount, Readings.end_sd * capacity)
    missing = Reading(event.at, scene.store.id, Method.VOLUME, max(0.0, capacity - amount), confirmed=True)
    given = Evidence(value=capacity - amount, sd=sd)
    _read(scene, state, missing, given, state.belief, state.known_at)


def _read(
    scene: Scene, state: State, reading: Reading, given: Evidence, before: b.Belief, since: datetime | None
) -> None:
    spans = scene.store.kind.role is Role.WATER and since is not None and since < reading.at
    doubts, process_var = len(state.best.doubts), state.best.process_var
    is_full = _is_synchronised(scene, state, reading)
    if is_full:
        given = Evidence(value=scene.store.capacity, sd=Readings.end_sd * scene.store.capacity)
    days = max(1.0, (reading.at - since) / timedelta(days=1)) if since else 1.0
    blank = min(1.0, state.blank / days)
    same, stuck = _shows_the_same(state, reading), any(is_stuck(each) for each in state.hypotheses)
    opened, again = [], since is not None and reading.at - since <= SAME_ROUND
    for each in state.hypotheses:
        expected = each.belief
        after = branches(
            scene.store,
            each,
            reading,
            given,
            scene.model.drivers,
            blank,
            shows_the_same=same,
            is_thought_of_as_stuck=stuck,
        )
        # what many readings teach of a gauge may carry the plain one beyond; one round never
        for other in after if again else after[1:]:
            other.belief = _within(other.belief, _hull(expected, given))
        opened.extend(after)
    for each in opened:
        if is_full:
            set_right(scene.context, each)
        each.belief = b.cut_to_ends(b.keep_positive(each.belief, scene.context.floor), scene.store.capacity)
        if scene.store.is_bank and each.belief.level > Energy.full_from * scene.store.capacity:
            each.curtailed = 1.0
    state.hypotheses = prune(opened)
    if since and spans and len(state.best.doubts) == doubts:
        state.unusual.append(unusual_days(since, reading.at, before, state.belief, process_var))


def _shows_the_same(state: State, reading: Reading) -> bool:
    """Whether a gauge shows what it showed before, hours ago, with nothing done to its store since."""
    before, now = state.compared[-2:] if len(state.compared) > 1 else (None, None)
    if before is None or now is None or now.reading is not reading or now.method not in _SHOWN:
        return False
    same = (before.method, before.reading.value, before.resets) == (now.method, now.reading.value, now.resets)
    acted = bool(state.acts) and state.acts[-1].at > before.at
    return same and not acted and now.at - before.at > SAME_ROUND


# What a gauge shows by itself, so that it can show it for ever.
_SHOWN = frozenset({Method.FRACTION, Method.STEP})


def _is_synchronised(scene: Scene, state: State, reading: Reading) -> bool:
    """Whether a bank was full when it was read, so that its shunt began anew at 100 %."""
    if not scene.store.is_bank or reading.method is Method.FULL:
        return scene.store.is_bank
    near = (
        state.best.curtailed > Tracking.full_from
        or state.best.belief.level > Tracking.curtailed_from * scene.store.capacity
    )
    shows_full = reading.method is Method.FRACTION and (reading.value or 0.0) >= Readings.shunt_full_from
    return scene.store.gauge.kind is GaugeKind.SHUNT and shows_full and near


_WHEN = itemgetter(0)
# How near in time acts of one stop lie.
_ONE_STOP = timedelta(hours=Serving.beside_h)

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
    return after if level == after.level else b.with_level(after, level)
