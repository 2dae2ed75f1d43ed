"""What may have happened when a reading does not fit: an outlier, something that was not logged, another habit."""

from collections.abc import Callable
from dataclasses import replace
from datetime import timedelta
from functools import cache
from math import exp, hypot, log, sqrt

import numpy as np

from lodeline.core.catalogue import Driver, Effect, Method
from lodeline.core.figures import Numeric, Readings, Serving, Tracking
from lodeline.core.log import Event, Reading
from lodeline.core.rig import Store
from lodeline.core.statistics import Floats, normal_below, uniform_sd
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.evidence import Evidence
from lodeline.core.tracking.fit import Level, believe, likelihood
from lodeline.core.tracking.hypothesis import Doubt, DoubtKind, Hypothesis, Streak, Unmoved
from lodeline.core.tracking.service import topped_up
from lodeline.core.tracking.stuck import as_stuck, go_on_unmoved, may_stick, stuck_weight, without_stuck
from lodeline.core.values import dataclass

_SETTLED_DRIVERS = frozenset({Driver.PEOPLE, Driver.LOAD_BY_DAY, Driver.LOAD_AT_NIGHT})


@dataclass(slots=True, eq=False, kw_only=True)
class _Other:
    """Something else that may be true before a reading: its chance, the level that it leads to, and the belief, made
    only where it is likely enough. ``is_step``: that nobody logged something; ``kind``: what is wrong with the act that
    was logged."""

    chance: float
    level: Level
    belief: Callable[[], b.Belief]
    is_step: bool = False
    kind: DoubtKind | None = None
    event: Event | None = None
    amount: float = 0.0


def _learn_spread(hypothesis: Hypothesis, level: Level, given: Evidence) -> None:
    """Let the misses tell whether this rig's days differ more or less than is usual."""
    if given.value is None or hypothesis.process_var <= 0:
        return
    mean, variance = level.seen(given.shape)
    variance += given.sd**2
    own = min(1.0, hypothesis.process_var / variance)
    hypothesis.days = hypothesis.days.after((given.value - mean) ** 2 / variance, own)


def branches(
    store: Store,
    hypothesis: Hypothesis,
    reading: Reading,
    given: Evidence,
    drivers: tuple[str, ...],
    blank: float = 0.0,
    *,
    shows_the_same: bool = False,
    is_thought_of_as_stuck: bool = False,
) -> list[Hypothesis]:
    """The hypotheses that a reading leaves open, the plain one first, which the hypothesis becomes itself.

    ``blank``: the share of the days since the last reading of which nothing at all was logged; ``shows_the_same``:
    whether the gauge shows what it showed before, and nothing was done to the store since;
    ``is_thought_of_as_stuck``: whether some hypothesis has it that the gauge has stuck.
    """
    normal = 1 - Tracking.outlier_chance - Tracking.unlogged_chance - Tracking.habit_chance
    cut = Level(hypothesis.belief)
    others = [*_unlogged(store, hypothesis, cut, reading, given, blank), *_misjudged(store, hypothesis, cut)]
    hypothesis.belief = _never_at_its_end(store, hypothesis, given)
    level = Level(hypothesis.belief)
    plain = normal * likelihood(level, given)
    outlier = _outlier_chance(hypothesis, reading) * given.outlier_density(store.capacity)
    ought_to_move = (
        shows_the_same and Driver.PEOPLE in drivers and not reading.confirmed and may_stick(store, hypothesis, given)
    )
    stuck = stuck_weight(hypothesis, given, is_thought_of_as_stuck) if ought_to_move else 0.0
    # a bank's days differ by the sky, which is no habit
    turned = None if store.is_bank else _watch_habit(hypothesis, level, given)
    has_turned = turned is not None
    habit_chance = Tracking.habit_turned if has_turned else Tracking.habit_chance
    habit = _other_habit(hypothesis, level, drivers, turned, habit_chance)
    if habit is not None:
        others.append(habit)
    weighed = [(other.chance * likelihood(other.level, given), other) for other in others]
    total = plain + outlier + stuck + sum(weight for weight, _ in weighed)
    opened: list[Hypothesis] = []
    if (plain > Tracking.plain_is_clear * total and not has_turned) or total <= 0:
        _learn_spread(hypothesis, level, given)
        plain = total
    else:
        opened = _opened(store, hypothesis, reading, given, (outlier, total), weighed)
    if stuck > Tracking.least_weight * total:
        opened.append(as_stuck(store, hypothesis, reading, _log(stuck)))
    if ought_to_move:
        go_on_unmoved(hypothesis, given, _log(total))
    hypothesis.belief = believe(hypothesis.belief, given, level)
    kept = _kept(hypothesis.weigh(_log(plain)))
    if not shows_the_same:
        for each in (kept, *opened):
            each.unmoved, each.doubts = Unmoved(reading.at, each.belief, each.x_since), without_stuck(each.doubts)
    return [kept, *opened]


def _never_at_its_end(store: Store, hypothesis: Hypothesis, given: Evidence) -> b.Belief:
    """The belief before a reading that is clear of the end toward which use goes: then it never was there since it was
    last known, and what use would have made of it is not to be cut there."""
    belief, sign = hypothesis.belief, store.sign
    if store.is_bank or given.value is None:
        return belief
    end = store.capacity if sign > 0 else 0.0
    clear = (end - given.value) * sign - Readings.end_sd * store.capacity
    return belief if clear < Readings.fits_sds * given.sd else hypothesis.uncut(sign)


def filled(store: Store, hypothesis: Hypothesis, amount: float) -> list[Hypothesis]:
    """What an amount that was filled in may have been, each before it: all that was missing, a part of that, or another
    amount than was written down.

    Who stands at a tap mostly fills up, the more so the more went in; a can is poured in whatever there is room for,
    of which any part is as likely.
    """
    capacity, belief = store.capacity, hypothesis.belief
    under, sd = Serving.under_brim * capacity, Tracking.amount_cv * amount
    missing = Evidence(value=capacity - under - amount, sd=hypot(sd, under))
    often = Serving.to_the_brim * min(1.0, amount / (Serving.more_than_a_can * capacity))
    whole = _never_at_its_end(store, hypothesis, missing)
    level, part = Level(whole), topped_up(store, belief, amount)
    had_room = normal_below((capacity - amount - level.mean) / max(hypot(whole.sd, sd), Numeric.small))
    all_of_it = often * likelihood(level, missing)
    others = (
        ((1 - often) * had_room / max(capacity - part.level, under), part),
        (Tracking.outlier_chance / capacity, belief),
    )
    least = Tracking.least_weight * (all_of_it + sum(weight for weight, _ in others))
    opened = [hypothesis.branch(_log(weight), other) for weight, other in others if weight >= least]
    if all_of_it >= least:
        opened.append(_kept(hypothesis.branch(_log(all_of_it), believe(whole, missing, level))))
    return opened


def _opened(
    store: Store,
    hypothesis: Hypothesis,
    reading: Reading,
    given: Evidence,
    weights: tuple[float, float],
    weighed: list[tuple[float, _Other]],
) -> list[Hypothesis]:
    """Every other hypothesis of enough weight; ``weights``: of an outlier, and of all together."""
    outlier, total = weights
    expected, opened = hypothesis.belief.level, []
    doubt = Doubt(
        at=reading.at,
        store=store.id,
        kind=DoubtKind.READING,
        reading=reading,
        expected=expected,
        expected_sd=hypothesis.belief.sd,
        amount=(given.centre or 0.0) - expected,
    )
    if outlier > Tracking.least_weight * total:
        opened.append(hypothesis.branch(_log(outlier), hypothesis.belief, doubt))
    for weight, other in weighed:
        if weight < Tracking.least_weight * total:
            continue
        after = believe(other.belief(), given)
        asked = None if reading.confirmed else _asked(doubt, other, after.level - expected)
        opened.append(_kept(hypothesis.branch(_log(weight), after, asked)))
    return opened


def _log(weight: float) -> float:
    return log(max(weight, Numeric.log_floor))


def _asked(doubt: Doubt, other: _Other, change: float) -> Doubt | None:
    """What would be asked if something else than the plain hypothesis were true."""
    if other.event is not None and other.kind is not None:
        return replace(doubt, kind=other.kind, event=other.event, reading=None, at=other.event.at, amount=other.amount)
    if not other.is_step:
        return None
    return replace(doubt, kind=DoubtKind.RISE if change > 0 else DoubtKind.FALL, amount=change)


def _kept(hypothesis: Hypothesis) -> Hypothesis:
    hypothesis.days_seen += min(hypothesis.days_since, Tracking.days_seen_at_once)
    hypothesis.act = None
    hypothesis.settle()
    return hypothesis


def _judged(hypothesis: Hypothesis) -> float:
    """How far a surprise is something wrong, and not the crew's way: less while the rate is still assumed."""
    return min(1.0, (1 + hypothesis.days_seen) / Tracking.days_to_judge)


# What a pump, a light or a scale proved is hardly ever mistaken.
_PROVED = frozenset({Method.DRY, Method.FULL})
_WEIGHED = frozenset({Method.GROSS, Method.MASS})


def _outlier_chance(hypothesis: Hypothesis, reading: Reading) -> float:
    """Chance that a reading is wrong; one that was confirmed is not."""
    if reading.confirmed:
        return 0.0
    if reading.method in _PROVED:
        return Tracking.proved_outlier
    chance = Tracking.weighed_outlier if reading.method in _WEIGHED else Tracking.outlier_chance
    return chance * _judged(hypothesis)


def _served_meanwhile(store: Store, hypothesis: Hypothesis, used: float, blank: float) -> float:
    """Chance that a store was served since the last reading, by what it would have come to without.

    Nobody sits beside an empty tank; on days of which nothing was logged a service was not either.
    """
    belief = hypothesis.belief
    past = normal_below((belief.level - store.line_level) * store.sign / max(belief.sd, Numeric.small))
    judged = _judged(hypothesis)
    serviced = exp(-judged * blank * used / (Tracking.between_services * store.capacity))
    at_home = 1 - judged * Tracking.served_past_line * past * min(1.0, hypothesis.days_since)
    return 1 - (1 - Tracking.unlogged_chance * judged) * at_home * serviced


def _unlogged(
    store: Store, hypothesis: Hypothesis, level: Level, reading: Reading, given: Evidence, blank: float
) -> list[_Other]:
    """Beliefs under which a fill, dump or charge was made since the last reading and not logged."""
    # of a tank that was not driven on as far as is logged, a drive may have been forgotten
    days = hypothesis.days_passed if store.is_fuel else hypothesis.days_since
    if days < Tracking.unlogged_least_days:
        return []
    capacity = store.capacity
    unknown = level.at(capacity / 2, uniform_sd(capacity) ** 2)

    def anywhere() -> b.Belief:
        return b.unknown_level(hypothesis.belief, capacity)

    # while the rate is still assumed, a surprise is more likely the crew's way than something forgotten
    if store.is_bank:
        chance = Tracking.unlogged_bank * Tracking.unlogged_chance * _judged(hypothesis)
        # what may be forgotten is a charge; what was drawn is the crew's way
        if (given.centre or 0.0) < level.mean:
            chance *= Tracking.odd_way
        return [_Other(chance=chance, level=unknown, belief=anywhere, is_step=True)]
    used = abs(hypothesis.usual_change)
    chance = _served_meanwhile(store, hypothesis, used, blank)
    moved = _was_not_then(hypothesis, reading)
    if moved:
        # what was not done when it was logged was done on another day
        chance = Tracking.done_another_day
    sd = hypot(uniform_sd(min(used, capacity)), Tracking.unlogged_end_sd * capacity)
    middle = store.good_end + store.sign * min(used, capacity) / 2

    def to_end() -> b.Belief:
        return b.cut_to_ends(b.reset_level(hypothesis.belief, middle, sd), capacity)

    to_the_end = Tracking.unlogged_to_the_end
    # a leak, or something poured in, is rarer than a fill or a dump that nobody logged
    is_odd = ((given.centre or 0.0) - level.mean) * store.sign > 0
    elsewhere = (1 - to_the_end) * chance * (Tracking.odd_way if is_odd else 1.0)
    return [
        _Other(chance=to_the_end * chance, level=level.at(middle, sd**2), belief=to_end, is_step=not moved),
        _Other(chance=elsewhere, level=unknown, belief=anywhere, is_step=not moved),
    ]


def _was_not_then(hypothesis: Hypothesis, reading: Reading) -> bool:
    """Whether an act of the last days is taken not to have been done when it was logged."""
    return any(
        doubt.kind is DoubtKind.NOT_THEN and reading.at - doubt.at <= _ANOTHER_DAY for doubt in hypothesis.doubts
    )


# How far from when it was logged an act may have been done.
_ANOTHER_DAY = timedelta(days=Tracking.another_day)

# Units that are taken for one another where an amount is typed: gallons and litres, pounds and kilograms.
_MIXED_UP = {"L": 3.785411784, "kg": 0.45359237}


def _misjudged(store: Store, hypothesis: Hypothesis, seen: Level) -> list[_Other]:
    """Beliefs under which the last act was not done then, was logged twice, or its amount is in another unit."""
    act = hypothesis.act
    if act is None:
        return []
    belief, capacity = hypothesis.belief, store.capacity

    sd = max(hypot(act.before_sd, sqrt(hypothesis.process_var)), Tracking.unlogged_end_sd * capacity)

    def at(level: float) -> Callable[[], b.Belief]:
        return lambda: b.cut_to_ends(b.reset_level(belief, level, sd), capacity)

    undone = belief.level + act.before - act.after
    kind, chance = DoubtKind.NOT_THEN, Tracking.not_then_chance
    if act.twice:
        kind, chance = DoubtKind.TWICE, Tracking.twice_chance
    others = [_Other(chance=chance, level=seen.at(undone, sd**2), belief=at(undone), kind=kind, event=act.event)]
    amount, mixed_up = act.event.amount, _MIXED_UP.get(store.unit)
    if amount is not None and mixed_up is not None and act.event.row.effect is Effect.FILL:
        for factor in (mixed_up, 1 / mixed_up):
            truly = amount * factor
            if act.before + truly < Readings.overfull * capacity:
                others.append(
                    _Other(
                        chance=Tracking.unit_chance,
                        level=seen.at(undone + truly, sd**2),
                        belief=at(undone + truly),
                        kind=DoubtKind.UNIT,
                        event=act.event,
                        amount=truly,
                    )
                )
    return others


def _watch_habit(hypothesis: Hypothesis, level: Level, given: Evidence) -> Streak | None:
    """The readings in a row that say that use is another than before, if they do.

    Cumulative Bayes factors of use as usual against more and against less of it (West 1986, as in West and Harrison
    1997, ch. 11); a run that has said so begins anew.
    """
    if given.value is None or hypothesis.process_var <= 0:
        return None
    mean, spread = level.seen(given.shape)
    miss = (given.value - mean) / sqrt(spread + given.sd**2)
    miss = min(Tracking.habit_most_miss, max(-Tracking.habit_most_miss, miss))
    shift = Tracking.habit_shift
    # what the gauge shows over the level is its bias
    changed = given.value - (mean - level.mean) - hypothesis.anchor
    usual = hypothesis.usual_change
    hypothesis.more = hypothesis.more.after(exp(shift**2 / 2 - shift * miss), changed, usual)
    hypothesis.less = hypothesis.less.after(exp(shift**2 / 2 + shift * miss), changed, usual)
    turned = next((run for run in (hypothesis.more, hypothesis.less) if run.has_turned), None)
    if turned is not None:
        hypothesis.more = hypothesis.less = Streak()
    return turned


@cache
def _settled(drivers: tuple[str, ...]) -> Floats:
    return np.array([float(name in _SETTLED_DRIVERS) for name in drivers])


def _other_habit(
    hypothesis: Hypothesis, level: Level, drivers: tuple[str, ...], turned: Streak | None, chance: float
) -> _Other | None:
    """That use has been another since the last reading, or over the readings that say so."""
    x, coefficients, settled = hypothesis.x_since, hypothesis.belief.coefficients, _settled(drivers)
    other, cv, moved = coefficients, Tracking.habit_cv, 0.0
    if turned is not None:
        other, cv = coefficients * (1 + settled * (turned.ratio - 1)), Tracking.habit_turned_cv
        moved = float(x.dot(other - coefficients))
    spread = cv * settled * other
    by_x = x * spread
    more = float(by_x.dot(by_x))
    if more <= 0:
        return None

    def build() -> b.Belief:
        mean, cov = hypothesis.belief.mean.copy(), hypothesis.belief.cov.copy()
        mean[b.COEFFICIENTS] = other
        mean[0] += moved
        cov[0, 0] += more
        cov[0, b.COEFFICIENTS] += by_x * spread
        cov[b.COEFFICIENTS, 0] += by_x * spread
        cov[b.COEFFICIENTS, b.COEFFICIENTS] += np.diag(spread * spread)
        return b.Belief(mean, cov)

    return _Other(chance=chance, level=level.moved(moved, more), belief=build)
