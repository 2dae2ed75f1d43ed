"""Paths of a bank, hour by hour: loads, sun, other charging, taper and cold, never over full nor under empty."""

from collections.abc import Iterator
from dataclasses import fields, replace
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from lodeline.core.catalogue import SOURCE_KINDS
from lodeline.core.conditions import is_elsewhere
from lodeline.core.energy import bank
from lodeline.core.energy.banks import of_bank
from lodeline.core.energy.heat import running_wh
from lodeline.core.energy.loads import NIGHT, audit_wh
from lodeline.core.energy.skies import SHARES, SPREADS, WORDS, draw_chances, expected_words
from lodeline.core.energy.solar import clear_yield_wh
from lodeline.core.figures import Energy, Forecasting, Numeric
from lodeline.core.forecast.change import NO_CHANGE, Change
from lodeline.core.forecast.paths import Ahead, BankPaths, Paths, draw_state, in_spells, lognormal, spell
from lodeline.core.rig import Store
from lodeline.core.statistics import Floats, Singles
from lodeline.core.tracking.bank_use import LOADS, WEATHER, day_cold_share, weather_factors
from lodeline.core.tracking.belief import SIZE
from lodeline.core.tracking.influence import hours_between
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS

_DAY_H = int(HOURS)
States = NDArray[np.int64]


@dataclass(frozen=True, slots=True, kw_only=True)
class _Hours:
    """What drives the bank on each date and day hour, in amp-hours, shapes (n_dates, 24).

    ``audit``: the listed loads; ``clear``: a clear sky's yield; ``pushed``: other charging, as that comes to before the
    charge efficiency; ``more``: draws on top; ``allowed``: chance that the cells may be charged. ``weather``: what cold
    and heat add to the audit, as shares, shape (n_dates, 2); ``cold``: amp-hours of state of charge an amp-hour, as
    cold cells hold less; ``by_people``: the listed loads by who is aboard; shapes (n_dates,).
    """

    audit: Floats
    clear: Floats
    pushed: Floats
    more: Floats
    allowed: Floats
    weather: Floats
    cold: Floats
    by_people: Floats


@dataclass(frozen=True, slots=True, kw_only=True)
class Bank:
    """What was drawn of a bank, before anything is changed; shapes end in n_paths.

    ``level``: contents now; ``factors``: on the audit by day and at night of each date, shape (n_dates, 2, n_paths);
    ``gain``: share of a clear sky's yield of each date; ``size``: what an amp-hour moves it by, over its rating;
    ``sources``: what chargers bring of their rating. ``hours``: what drives it with nothing changed, on whole dates.
    """

    ahead: Ahead
    tracked: Tracked
    level: Floats
    factors: Floats
    gain: Floats
    size: Floats
    sources: Floats
    hours: _Hours

    def until(self, n_dates: int) -> "Bank":
        """The first dates alone."""
        return replace(
            self,
            ahead=replace(self.ahead, days=self.ahead.days[:n_dates]),
            factors=self.factors[:n_dates],
            gain=self.gain[:n_dates],
            hours=_Hours(**{each.name: getattr(self.hours, each.name)[:n_dates] for each in fields(_Hours)}),
        )

    def hourly(self, change: Change = NO_CHANGE) -> tuple[Floats, Singles]:
        """Contents now, and at the end of each hour of the horizon, shape (n_hours, n_paths)."""
        tracked, level, hours = self._changed(change)
        return level, _walk(self, tracked, level, hours)[0]

    def paths(self, change: Change = NO_CHANGE) -> Paths:
        """When each path meets the line, and all that is told of a bank on the way."""
        ahead, factors, n_dates = self.ahead, self.factors, len(self.ahead.days)
        tracked, level, hours = self._changed(change)
        contents, wasted = _walk(self, tracked, level, hours)
        first_hour = int(ahead.hour) % _DAY_H
        ends_h = np.arange(first_hour + 1, _DAY_H * n_dates + 1, dtype=float)
        midnights = contents[[_DAY_H * (i + 1) - first_hour - 1 for i in range(ahead.n_days)]]
        night = hours.audit @ NIGHT
        drawn = (hours.audit.sum(axis=1) - night)[:, None] * factors[:, 0] + night[:, None] * factors[:, 1]
        of_bank = BankPaths(
            hourly=contents,
            hours_ahead=ends_h - ahead.hour,
            offered=self.gain * hours.clear.sum(axis=1)[:, None],
            wasted=wasted,
            drawn=drawn,
            full_day=drawn[1:].mean(axis=0) if n_dates > 1 else drawn[0],
        )
        reached = _crossings(ahead, tracked, level, contents)
        return Paths(
            reached_days=reached,
            first_days=reached,
            midnight=midnights,
            start=level,
            rate_per_day=_rate(ahead, tracked, hours),
            bank=of_bank,
        )

    def _changed(self, change: Change) -> tuple[Tracked, Floats, _Hours]:
        """The bank, what is in it and what drives it; one of another size begins at the same state of charge."""
        if change.store is None:
            return self.tracked, self.level, _with(self.hours, self.ahead, self.tracked.store, change)
        share = change.store.capacity / self.tracked.store.capacity
        tracked = replace(self.tracked, store=change.store)
        return tracked, self.level * share, _with(_hours(self.ahead, tracked), self.ahead, change.store, change)


def draw_bank(ahead: Ahead, tracked: Tracked, spread_scale: float = 1.0) -> Bank:
    """Draw what a bank may do. The same seed and log give the same draws."""
    rng = ahead.chance(tracked.store)
    drawn_state = draw_state(tracked, rng, ahead.n_paths, spread_scale)
    coefficients, n_loads = np.exp(drawn_state.logs), len(LOADS)
    weather = np.stack([weather_factors(day) for day in ahead.days])
    factors = _load_factors(weather, coefficients[:n_loads], _load_noise(ahead, tracked, rng, spread_scale))
    here = _places(ahead, drawn_state.plain[-1], rng)
    gain = _sun_gain(ahead, tracked, coefficients[n_loads:-1], here, rng, spread_scale)
    if ahead.days[0].place is None:
        gain *= lognormal(rng.standard_normal(ahead.n_paths), Energy.stand_in_cv)
    sources = Energy.source_share * lognormal(rng.standard_normal(ahead.n_paths), Energy.source_cv)
    return Bank(
        ahead=ahead,
        tracked=tracked,
        level=drawn_state.level,
        factors=factors,
        gain=gain,
        size=drawn_state.size,
        sources=sources,
        hours=_hours(ahead, tracked),
    )


def simulate_bank(ahead: Ahead, tracked: Tracked, spread_scale: float = 1.0, change: Change = NO_CHANGE) -> Paths:
    """Paths of a bank over the horizon. The same seed and log give the same paths, with or without a change."""
    return draw_bank(ahead, tracked, spread_scale).paths(change)


def _hours(ahead: Ahead, tracked: Tracked) -> _Hours:
    """What drives a bank with nothing changed, on whole dates."""
    rig, store = of_bank(ahead.rig, tracked.store), tracked.store
    to_ah = 1.0 / store.volts
    sunny = [clear_yield_wh(rig, day.place, day.date, day.mean_c, day.min_c) for day in ahead.days]
    aboard = np.array([day.people for day in ahead.days]) / max(1, rig.crew.people)
    by_people = 1 + Energy.load_by_people * (aboard - 1)
    running = np.stack([running_wh(rig, day) for day in ahead.days])
    return _Hours(
        audit=(by_people[:, None] * audit_wh(rig) + running) * to_ah,
        clear=np.maximum(np.stack(sunny) * to_ah, 0.0) * _under_cover(ahead),
        pushed=np.stack([_other_charging(ahead, tracked, index) for index in range(len(ahead.days))])
        * bank.amps_as_wh(store),
        more=np.zeros((len(ahead.days), _DAY_H)),
        allowed=np.stack([bank.takes_charge(store, day.mean_c, day.min_c) for day in ahead.days]),
        weather=np.stack([weather_factors(day) for day in ahead.days]),
        cold=np.array([1.0 / day_cold_share(store, day) for day in ahead.days]),
        by_people=by_people,
    )


def _under_cover(ahead: Ahead) -> Floats:
    return np.array([[Energy.covered_share if day.covered else 1.0] for day in ahead.days])


def _with(hours: _Hours, ahead: Ahead, store: Store, change: Change) -> _Hours:
    """What drives a bank with a change, and of today only in what is still to come."""
    audit = hours.audit + (0.0 if change.audit is None else hours.by_people[:, None] * change.audit)
    clear = hours.clear + (0.0 if change.sun is None else _under_cover(ahead) * change.sun)
    pushed = hours.pushed + (0.0 if change.push is None else change.push * bank.amps_as_wh(store))
    audit, clear = np.maximum(audit, 0.0, out=audit), np.maximum(clear, 0.0, out=clear)
    coming = np.clip(np.arange(1, _DAY_H + 1) - ahead.hour, 0.0, 1.0)
    for each in (audit, clear, pushed):
        each[0] *= coming
    more = hours.more if change.draw is None else change.draw
    return replace(hours, audit=audit, clear=clear, pushed=pushed, more=more)


def _other_charging(ahead: Ahead, tracked: Tracked, index: int) -> Floats:
    """What other sources could push in each hour of a date, shape (24,). [Ah]"""
    rig, day = of_bank(ahead.rig, tracked.store), ahead.days[index]
    row = np.zeros(_DAY_H)
    for source in SOURCE_KINDS.values():
        if hours := day.hours_of(source):
            row = row + rig.source_amps(source) * spell(source.from_h, hours)
    for each in tracked.pending:
        begin, end = (rig.zone.hour(day.date, at) for at in (each.start, each.end))
        row = row + each.amps * hours_between(begin, end)
    return row


def _load_noise(ahead: Ahead, tracked: Tracked, rng: np.random.Generator, spread_scale: float) -> Floats:
    """Factor on each date's loads, shape (n_dates, n_paths): the day's own chance and a slow drift."""
    model, n_dates = tracked.model, len(ahead.days)
    cv = min(float(model.day_cv[0]) * tracked.spread * spread_scale, Numeric.most_cv)
    drift = model.drift * np.sqrt(np.arange(n_dates))[:, None] * rng.standard_normal((1, ahead.n_paths))
    return lognormal(in_spells(rng.standard_normal((n_dates, ahead.n_paths))), cv) * np.exp(drift)


def _load_factors(weather: Floats, coefficients: Floats, noise: Floats) -> Floats:
    """Factors on the audit by day and at night on each date, shape (n_dates, 2, n_paths)."""
    listed = len(LOADS) - len(WEATHER)
    extra = weather @ coefficients[listed:]
    factors: Floats = (coefficients[None, :listed] + extra[:, None]) * noise[:, None]
    return factors


def _places(ahead: Ahead, here: Floats, rng: np.random.Generator) -> Floats:
    """What the place adds to or takes from the sun on each date, shape (n_dates, n_paths).

    Where a day is driven the rig may stand elsewhere from then on, as often in the open or under trees as others do.
    """
    places, before = np.tile(here, (len(ahead.days), 1)), ahead.days[0].place
    for index, day in enumerate(ahead.days[1:], 1):
        drives = any(day.hours_of(source) for source in SOURCE_KINDS.values() if source.drives)
        is_named = is_elsewhere(before, day.place)
        before = day.place
        if drives or is_named:
            moves = rng.random(ahead.n_paths) < (1.0 if is_named else Energy.drive_moves)
            shaded = rng.random(ahead.n_paths) < Energy.shaded_chance
            z = rng.standard_normal(ahead.n_paths)
            new = np.where(shaded, Energy.shaded_takes + Energy.shaded_takes_sd * z, Energy.open_place_sd * z)
            places[index:] = np.where(moves, new, places[index])
    return places


def _sun_gain(
    ahead: Ahead, tracked: Tracked, words: Floats, here: Floats, rng: np.random.Generator, spread_scale: float
) -> Floats:
    """Share of a clear sky's yield that comes on each date, shape (n_dates, n_paths).

    A sky stays as it was with the rig's own chance, else it is drawn; an expected word comes true less often the
    further ahead it lies. ``words``: coefficients under each word, shape (4, n_paths); ``here``: what the place adds
    on each date, shape (n_dates, n_paths).
    """
    habit, n_dates, n_paths = tracked.usual_sky, len(ahead.days), ahead.n_paths
    climate = draw_chances(habit, n_paths, rng)
    uniform, z = rng.random((n_dates + 1, 2, n_paths)), rng.standard_normal((n_dates + 1, n_paths))
    words_of = np.empty((n_dates, n_paths), dtype=np.int64)
    fresh = _drawn(climate, uniform[:, 0])
    state = fresh[-1]
    if tracked.conditions.sky is not None:
        state = np.full(n_paths, WORDS.index(tracked.conditions.sky))
    for index, day in enumerate(ahead.days):
        if day.sky is not None:
            state = _drawn(expected_words(day.sky, habit, index)[:, None], uniform[index, 0])
        else:
            state = np.where(uniform[index, 1] < habit.stays, state, fresh[index])
        words_of[index] = state
    # one good forecaster, or one bad: the spread under one word goes together over the days, in part
    lasting = Forecasting.lasting_word
    noise = np.sqrt(lasting) * z[-1] + np.sqrt(1 - lasting) * z[:-1]
    noise *= (SPREADS * tracked.sky_spread * spread_scale)[words_of]
    noise += 1.0
    strength = np.take_along_axis(words, words_of, axis=0) + here
    noise *= np.maximum(strength, Forecasting.least_gain) * SHARES[words_of]
    gain: Floats = np.maximum(noise, Forecasting.least_gain, out=noise)
    return gain


def _drawn(chance: Floats, uniform: Floats) -> States:
    """A word for each uniform number, its shape; ``chance`` has shape (4, n_paths) or (4, 1)."""
    first, *others = np.cumsum(chance[:-1], axis=0)
    state: States = (uniform > first).astype(np.int64)
    for each in others:
        state += uniform > each
    return state


def _walk(drawn: Bank, tracked: Tracked, level: Floats, hours: _Hours) -> tuple[Singles, Singles]:
    """Contents at the end of each hour, and the sun by date that went unused.

    Sun and chargers feed the loads first; of what is left the bank takes what its chemistry lets it. Spells of the
    same date and half of the day are walked together: an hour at a time where something charges, in one step where
    nothing does. Single precision: a ten-thousandth of an amp-hour is enough.
    """
    size, first_hour = drawn.size, int(drawn.ahead.hour) % _DAY_H
    by_path = (level, drawn.factors * size, drawn.gain * size, size, size * drawn.sources)
    now, by_half, sun, moves, brings = (each.astype(np.float32) for each in by_path)
    contents = np.empty((_DAY_H * len(sun) - first_hour, len(level)), dtype=np.float32)
    wasted = np.zeros_like(sun)
    step = 0
    for each in _spells(hours, first_hour):
        index = each.index
        rows, factor = contents[step : step + each.n], by_half[index, each.night]
        audit, more = (each_of[index, each.of] * hours.cold[index] for each_of in (hours.audit, hours.more))
        if each.charging:
            sunny, pushed = (each_of[index, each.of] * hours.cold[index] for each_of in (hours.clear, hours.pushed))
            allowed = hours.allowed[index, each.of]
            rest = pushed.astype(np.float32)[:, None] * brings
            if more.any():
                rest -= more.astype(np.float32)[:, None] * moves
            lost = _charge(tracked.store, rows, now, sun[index], sunny, factor, audit, rest, allowed)
            wasted[index] += np.minimum(lost, sun[index] * float(sunny.sum())) / moves / np.float32(hours.cold[index])
        else:
            np.multiply(np.cumsum(audit)[:, None].astype(np.float32), factor, out=rows)
            if more.any():
                rows += np.cumsum(more)[:, None].astype(np.float32) * moves
            np.subtract(now, rows, out=rows)
            np.maximum(rows, 0.0, out=rows)
        step += each.n
        now = rows[-1]
    return contents, wasted


def _charge(
    store: Store,
    rows: Singles,
    now: Singles,
    sun: Singles,
    sunny: Floats,
    factor: Singles,
    audit: Floats,
    rest: Singles,
    allowed: Floats,
) -> Singles:
    """Fill ``rows``, shape (n_hours, n_paths), with the contents of hours in which something charges; what went unused.

    Sun and chargers carry the loads whole; what is left over pays the charge efficiency, and is not taken at all by
    cells that are too cold.
    """
    kind = bank.cells(store)
    taper, bulk = 1 - float(np.exp(-1.0 / kind.taper_h)), kind.accepts_c * store.capacity * kind.coulombic
    single = [each.astype(np.float32)[:, None] for each in (sunny, audit)]
    np.multiply(single[0], sun, out=rows)
    rows -= single[1] * factor
    if rest.any():
        rows += rest
    # what is reckoned is the room left, to which the taper is proportional
    room, most, lost = store.capacity - now, np.empty_like(sun), np.zeros_like(sun)
    efficiency, less = np.float32(kind.charge_efficiency), np.empty_like(sun)
    for net, share in zip(rows, allowed, strict=True):
        np.multiply(net, efficiency, out=less)
        np.minimum(net, less, out=net)
        np.multiply(room, taper, out=most)
        np.minimum(most, bulk, out=most)
        if share < 1:
            # where nobody said, the bank of every other path is kept warm
            most[round(share * len(most)) :] = 0.0
        np.subtract(net, most, out=less)
        lost += np.maximum(less, 0.0, out=less)
        np.minimum(net, most, out=net)
        np.subtract(room, net, out=room)
        np.minimum(room, store.capacity, out=room)
        net[:] = room
    np.subtract(store.capacity, rows, out=rows)
    lost /= efficiency
    return lost


@dataclass(frozen=True, slots=True, kw_only=True)
class _Spell:
    """Hours of one date that are walked together: day hours ``of`` of the date ``index``."""

    index: int
    of: slice
    n: int
    night: int
    charging: bool


def _spells(hours: _Hours, first_hour: int) -> Iterator[_Spell]:
    """The hours ahead in spells of the same date and half of the day that all charge or all do not."""
    charging = ((hours.clear > 0) | (hours.pushed > 0)).ravel()
    night = np.tile(NIGHT, len(hours.clear)) > 0
    date = np.repeat(np.arange(len(hours.clear)), _DAY_H)
    changes = (charging[1:] != charging[:-1]) | (night[1:] != night[:-1]) | (date[1:] != date[:-1])
    edges = [first_hour, *(at for at in (np.flatnonzero(changes) + 1).tolist() if at > first_hour), len(charging)]
    for begin, end in pairwise(edges):
        index, hour = divmod(begin, _DAY_H)
        yield _Spell(
            index=index,
            of=slice(hour, hour + end - begin),
            n=end - begin,
            night=int(night[begin]),
            charging=bool(charging[begin]),
        )


def _crossings(ahead: Ahead, tracked: Tracked, level: Floats, contents: Singles) -> Floats:
    """When each path meets the line, inf where it does not within the horizon, shape (n_paths,). [day]"""
    line, start = tracked.store.line_level, int(ahead.hour) % _DAY_H
    reached = np.full(len(level), np.inf)
    # the date first, by its lowest hour, then the hour within it
    edges = [0, *range(_DAY_H - start, len(contents) + 1, _DAY_H)]
    below = np.stack([contents[begin:end].min(axis=0) for begin, end in pairwise(edges)]) <= line
    met = np.flatnonzero(below.any(axis=0))
    begins = np.array(edges[:-1])[below[:, met].argmax(axis=0)]
    hours = np.minimum(begins + np.arange(_DAY_H)[:, None], len(contents) - 1)
    first = hours[(contents[hours, met] <= line).argmax(axis=0), np.arange(len(met))]
    after = contents[first, met]
    before = np.where(first > 0, contents[first - 1, met], level[met])
    part = np.clip((before - line) / np.maximum(before - after, Numeric.tiny), 0.0, 1.0)
    start_h = start + first
    begin_h = np.where(first > 0, start_h, ahead.hour)
    reached[met] = (begin_h + part * (start_h + 1.0 - begin_h) - ahead.hour) / HOURS
    reached[level <= line] = 0.0
    reached[reached > ahead.n_days] = np.inf
    return reached


def _rate(ahead: Ahead, tracked: Tracked, hours: _Hours) -> float:
    """Expected net loss a day over the coming week, as if nothing were thrown away. [Ah/day]"""
    coefficients = tracked.belief.coefficients
    n_loads, listed = len(LOADS), len(LOADS) - len(WEATHER)
    (day, night), weather, words = coefficients[:listed], coefficients[listed:n_loads], coefficients[n_loads:-1]
    words, efficiency = np.maximum(words + coefficients[-1], 0.0), bank.charge_efficiency(tracked.store)
    week = range(1, min(1 + Forecasting.rate_days, len(ahead.days)))
    lost = 0.0
    for index in week:
        extra = float(hours.weather[index] @ weather)
        at_night = float(hours.audit[index] @ NIGHT)
        lost += (day + extra) * (float(hours.audit[index].sum()) - at_night) + (night + extra) * at_night
        chance = expected_words(ahead.days[index].sky, tracked.usual_sky, index)
        sunny = hours.clear[index] * float(chance @ (SHARES * words)) + hours.pushed[index]
        direct = np.minimum(sunny, hours.audit[index])
        lost -= float((direct + (sunny - direct) * hours.allowed[index] * efficiency).sum())
    return float(lost / max(1, len(week))) * (1 + float(tracked.belief.mean[SIZE]))
