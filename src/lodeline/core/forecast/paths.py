"""Paths of what may come: one store at a time, drawn from its level, its rate and the days ahead."""

from datetime import datetime, timedelta
from itertools import pairwise
from typing import TypeVar
from zlib import crc32

import numpy as np

from lodeline.core.catalogue import SOURCE_KINDS, Driver, Role, Sense
from lodeline.core.conditions import Conditions
from lodeline.core.energy.heat import degree_days, degree_days_at, warmth
from lodeline.core.energy.vapour import line_in_cold, stands_in_frost
from lodeline.core.figures import Forecasting, Fuel, Heat, Numeric, Use
from lodeline.core.forecast.change import NO_CHANGE, Change
from lodeline.core.rig import Rig, Store
from lodeline.core.statistics import P10, P50, P90, Floats, Singles, Truths, reached_by
from lodeline.core.tracking.belief import SIZE, Belief
from lodeline.core.tracking.influence import hours_between
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.tracking.use import day_influence
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS

_EDGES = np.arange(HOURS + 1)
_DAY = timedelta(days=1)
_WHERE = 3  # the stream of chance of where a bottle stands


@dataclass(frozen=True, slots=True, kw_only=True)
class Paths:
    """Drawn paths of one store.

    ``reached_days`` is when each path meets the line, in days of day hours, inf where it does not within the horizon,
    shape (n_paths,);
    ``first_days`` the same before a counted reserve was poured or swapped in;
    ``midnight`` the contents at each local midnight, shape (n_days, n_paths); ``start`` the contents now, shape
    (n_paths,); ``bank`` what only a battery has.
    """

    reached_days: Floats
    first_days: Floats
    midnight: Singles
    start: Floats
    rate_per_day: float
    bank: "BankPaths | None" = None


@dataclass(frozen=True, slots=True, kw_only=True)
class BankPaths:
    """What only a bank has. Amp-hours at nominal volts.

    ``hourly``: contents at the end of each hour from now, shape (n_hours, n_paths), at ``hours_ahead``, shape
    (n_hours,); ``offered`` and ``wasted``: sun offered, and what went unused, on each date, shape (n_days + 1,
    n_paths); ``drawn``: loads of each date, shape (n_days + 1, n_paths); ``full_day``: draw of a usual whole day,
    shape (n_paths,).
    """

    hourly: Singles
    hours_ahead: Floats
    offered: Floats
    wasted: Singles
    drawn: Floats
    full_day: Floats


@dataclass(frozen=True, slots=True, kw_only=True)
class Ahead:
    """What all stores share: the days ahead and the chance that they have in common.

    ``hour``: day hours of today that are over. What lies ahead is counted in day hours; ``at`` says when that is.
    """

    rig: Rig
    now: datetime
    hour: float
    days: tuple[Conditions, ...]
    n_paths: int
    seed: int
    common: Singles

    @property
    def n_days(self) -> int:
        """Whole days of the horizon."""
        return len(self.days) - 1

    def at(self, hours_ahead: float) -> datetime:
        """The instant so many day hours ahead."""
        return self.rig.zone.at_hour(self.days[0].date, self.hour + hours_ahead)

    def elapsed_days(self, days_ahead: float) -> float:
        """Days that will have passed by a time given in days of day hours; not the same where the clocks change."""
        return (self.at(HOURS * days_ahead) - self.now) / _DAY

    def chance(self, store: Store) -> np.random.Generator:
        """The store's own stream of chance."""
        return np.random.default_rng([self.seed, crc32(store.id.encode())])


def quantile_days(times: Floats, *shares: float) -> tuple[float | None, ...]:
    """Times by which each share of the paths has met the line; None where that lies beyond the horizon.

    In days of day hours, as the paths are.
    """
    return tuple(value if np.isfinite(value) else None for value in reached_by(times, *shares))


def days_left(ahead: Ahead, times: Floats) -> tuple[float | None, float | None, float | None]:
    """p10, p50 and p90 of line times, None beyond the horizon. [day]"""
    passed = [None if t is None else ahead.elapsed_days(t) for t in quantile_days(times, P10, P50, P90)]
    # where the clocks are put back, the last of the horizon's hours lies an hour beyond so many days
    low, middle, high = (each if each is not None and each <= ahead.n_days else None for each in passed)
    return low, middle, high


def look_ahead(rig: Rig, now: datetime, hour: float, days: list[Conditions], n_paths: int, seed: int) -> Ahead:
    """Draw the day-to-day chance that stores have in common. Shape of ``common``: (n_days + 1, n_paths)."""
    common = in_spells(np.random.default_rng([seed, 0]).standard_normal((len(days), n_paths), dtype=np.float32))
    return Ahead(rig=rig, now=now, hour=hour, days=tuple(days), n_paths=n_paths, seed=seed, common=common)


Draws = TypeVar("Draws", Floats, Singles)


def in_spells(z: Draws) -> Draws:
    """Standard normals by date first, of which a part goes together from one day to the next: busy days follow one
    another. In place."""
    stays = z.dtype.type(Forecasting.day_stays)
    rest = z.dtype.type(np.sqrt(1 - Forecasting.day_stays**2))
    for before, after in pairwise(z):
        after *= rest
        after += stays * before
    return z


def lognormal(z: Floats, cv: Floats | float) -> Floats:
    """Positive factors with mean 1 and the given coefficient of variation from standard normals."""
    sigma_sq = np.log1p(np.square(cv))
    factor: Floats = np.exp(np.sqrt(sigma_sq) * z - sigma_sq / 2)
    return factor


@dataclass(frozen=True, slots=True, kw_only=True)
class Drawn:
    """Contents now, shape (n_paths,), and coefficients as logarithms and as they are, shapes (k, n_paths).

    ``size``: what an amp-hour moves a bank by, over its rating, shape (n_paths,).
    """

    level: Floats
    logs: Floats
    plain: Floats
    size: Floats


def draw_state(tracked: Tracked, rng: np.random.Generator, n_paths: int, spread_scale: float) -> Drawn:
    """Contents now and coefficients, jointly.

    Each path is drawn of one of the things that may be true, as often as that is likely, and not of their mean.
    Coefficients are log-normal, so that they stay positive; one that may be negative is normal and in ``plain`` alone.
    ``spread_scale``: of the coefficients' errors alone.
    """
    z = rng.standard_normal((2 + len(tracked.belief.coefficients), n_paths))
    edges = np.round(np.cumsum([0.0, *(each.weight for each in tracked.parts)]) * n_paths).astype(int)
    drawn = [
        _drawn_of(each.belief, z[:, begin:end], spread_scale)
        for each, begin, end in zip(tracked.parts, edges, edges[1:], strict=False)
    ]
    level, size = (np.concatenate([getattr(each, name) for each in drawn]) for name in ("level", "size"))
    logs, plain = (np.concatenate([getattr(each, name) for each in drawn], axis=1) for name in ("logs", "plain"))
    if tracked.lost_since is not None:
        # somewhere between its line and its good end, nobody knows where
        level = tracked.store.line_level + rng.random(n_paths) * (tracked.store.good_end - tracked.store.line_level)
    if len(tracked.parts) > 1:
        order = rng.permutation(n_paths)
        level, logs, plain, size = level[order], logs[:, order], plain[:, order], size[order]
    return Drawn(level=np.clip(level, 0.0, tracked.store.capacity), logs=logs, plain=plain, size=size)


def _drawn_of(belief: Belief, z: Floats, spread_scale: float) -> Drawn:
    """What one belief makes of standard normals of shape (k + 2, n)."""
    k = len(belief.coefficients)
    scale = np.full(2 + k, spread_scale)
    scale[0] = 1.0
    of = [*range(1 + k), len(belief.mean) + SIZE]
    cov = belief.cov[np.ix_(of, of)] * np.outer(scale, scale)
    sd = np.sqrt(np.maximum(np.diag(cov), Numeric.tiny_square))
    correlation = cov / np.outer(sd, sd) + Numeric.tiny * np.eye(len(sd))
    z = np.linalg.cholesky(correlation) @ z
    mean = np.maximum(belief.coefficients, Numeric.tiny)
    sigma_sq = np.log1p(np.square(np.minimum(sd[1:-1] / mean, Numeric.most_state_cv)))[:, None]
    logs = np.sqrt(sigma_sq) * z[1:-1] - sigma_sq / 2 + np.log(mean)[:, None]
    plain = belief.coefficients[:, None] + sd[1:-1, None] * z[1:-1]
    size = np.maximum(1 + belief.mean[SIZE] + sd[-1] * z[-1], Forecasting.least_size)
    return Drawn(level=belief.level + sd[0] * z[0], logs=logs, plain=plain, size=size)


def spell(start_h: float, hours: float) -> Floats:
    """Share of each day hour that a spell covers; a spell longer than the day's rest starts earlier. Shape (24,)."""
    begin = max(0.0, min(start_h, HOURS - hours))
    return hours_between(begin, begin + hours)


def _hourly_drivers(ahead: Ahead, tracked: Tracked) -> tuple[Floats, Floats]:
    """Drivers, shape (n_days + 1, 24, k), and known change, shape (n_days + 1, 24), of the hours still to come."""
    store, model = tracked.store, tracked.model
    rows = np.empty((len(ahead.days), int(HOURS), len(model.drivers)))
    known = np.zeros((len(ahead.days), int(HOURS)))
    alike: dict[tuple[object, ...], Floats] = {}
    for index, day in enumerate(ahead.days):
        until_h = ahead.hour if index == 0 else 0.0
        # days that differ in what does not drive the store are one; of its date only the week-end tells, or the weekday
        # where something is done ashore on some
        counts = tuple(sorted(day.counts.items())) if day.counts is not None else None
        cold: tuple[object, ...] = (day.mean_c, day.min_c) if Driver.DEGREE_DAYS in model.drivers else ()
        if cold and warmth(ahead.rig) is not None:
            cold = (*cold, day.sky, day.date)
        hours = tuple(sorted(day.hours.items()))
        on = day.date.weekday() if any(model.day_kinds.not_on) else day.is_weekend
        key = (until_h, cold, day.people, day.status, counts, on, hours)
        if key not in alike:
            alike[key] = day_influence(ahead.rig, store, model, day, tracked.usual_sky, until_h).hourly
        rows[index] = alike[key]
        if store.kind.role is Role.VEHICLE_FUEL:
            _burn(ahead.rig, tracked, day, rows[index], known[index])
    coming = np.clip(_EDGES[1:] - ahead.hour, 0.0, 1.0)
    rows[0] *= coming[:, None]
    known[0] *= coming
    return rows, known


def _burn(rig: Rig, tracked: Tracked, day: Conditions, hourly: Floats, known: Floats) -> None:
    """Add what planned driving and charging burn to a fuel store's drivers and known change."""
    store, km = tracked.store, tracked.model.drivers.index(Driver.KM)
    for source in SOURCE_KINDS.values():
        hours = day.hours_of(source)
        if hours and source.drives and rig.is_first(Role.VEHICLE_FUEL, store):
            hourly[:, km] -= tracked.km_per_h * spell(source.from_h, hours)
        if hours and (burn := rig.burn_l_per_h(store, source)):
            known -= burn * spell(source.from_h, hours)


def _daily_use(
    ahead: Ahead,
    tracked: Tracked,
    log_coefficients: Floats,
    rng: np.random.Generator,
    spread_scale: float,
    is_used: Truths,
) -> Singles:
    """Coefficients on each day, shape (k, n_days + 1, n_paths): with the day's own chance and a slow drift.

    ``is_used``: the drivers that anything comes of, shape (k,); the others are drawn, and left at that.
    """
    model = tracked.model
    shape = (len(model.mean), len(ahead.days), ahead.n_paths)
    # of planned drives the hours are known, not the speed
    day_cv = np.hypot(model.day_cv, [Use.speed_cv * (name == Driver.KM) for name in model.drivers])
    cv = np.minimum(day_cv * tracked.spread * spread_scale, Numeric.most_cv)
    sigma_sq = np.log1p(np.square(cv))
    sigma = np.sqrt(sigma_sq)
    drift = (np.broadcast_to(model.drift, len(model.mean))[:, None] * np.sqrt(np.arange(len(ahead.days)))).astype(
        np.float32
    )
    alone, together = (sigma * np.sqrt(share) for share in (1 - model.shared, model.shared))
    logs = (log_coefficients - sigma_sq[:, None] / 2).astype(np.float32)
    daily = rng.standard_normal(shape, dtype=np.float32)
    lasting = rng.standard_normal((shape[0], shape[2]), dtype=np.float32)
    # in place, in single precision, a driver after the other, so that what is worked on stays near the processor
    room = np.empty(shape[1:], dtype=np.float32)
    for at, exponent in enumerate(daily):
        if not is_used[at]:
            continue
        in_spells(exponent)
        exponent *= np.float32(alone[at])
        if model.shared:
            exponent += np.multiply(ahead.common, np.float32(together[at]), out=room)
        exponent += np.multiply(drift[at, :, None], lasting[at], out=room)
        exponent += logs[at]
        np.exp(exponent, out=exponent)
    return daily


def _warmer(ahead: Ahead, rng: np.random.Generator) -> Singles:
    """How much warmer each date is than reckoned with, where nobody said how cold it will be: shape (n_dates, n_paths).
    [degC]"""
    # a cold spell is one: the error of an unknown climate goes with all days, that of an outlook with the next ones
    z, off = rng.standard_normal(ahead.n_paths), np.zeros(ahead.n_paths)
    warmer: Singles = np.zeros((len(ahead.days), ahead.n_paths), dtype=np.float32)
    for index, day in enumerate(ahead.days):
        off = Heat.outlook_stays * off + np.sqrt(1 - Heat.outlook_stays**2) * rng.standard_normal(ahead.n_paths)
        warmer[index] = day.air_sd_c * z + day.outlook_sd_c * off
    return warmer


def _unknown_cold(ahead: Ahead, warmer: Singles) -> Singles:
    """Degree-days more or less than reckoned with, by how much warmer it is: shape (n_dates, n_paths)."""
    part = np.ones(len(ahead.days))
    part[0] = (HOURS - ahead.hour) / HOURS
    cold: Singles = np.zeros((len(ahead.days), ahead.n_paths), dtype=np.float32)
    for index, day in enumerate(ahead.days):
        if day.air_sd_c or day.outlook_sd_c:
            apart = degree_days_at(ahead.rig, day, warmer[index].astype(float)) - degree_days(ahead.rig, day)
            cold[index] = part[index] * apart
    return cold


def reserve_room(tracked: Tracked) -> float:
    """What a counted reserve adds to the way to the line: poured in whole, or swapped in for a bottle at its line.

    Of a tank that fills up it is the room of a tote or a bucket that what runs over goes into, or of a second cassette.
    """
    return room_of_reserve(tracked.store, tracked.counted_reserve)


def room_of_reserve(store: Store, reserve: float) -> float:
    """The same of so much of it."""
    if reserve <= 0:
        return 0.0
    if store.sense is Sense.FILLS:
        return reserve
    return max(0.0, reserve - store.line_level) if not store.is_poured else reserve


@dataclass(frozen=True, slots=True, kw_only=True)
class Tank:
    """What was drawn of one store that use moves one way, before anything is changed.

    ``level``: contents now, shape (n_paths,); ``daily``: coefficients on each date, shape (k, n_dates, n_paths);
    ``hourly`` and ``known``: drivers and known change of the hours to come, shapes (n_dates, 24, k) and (n_dates, 24);
    ``cold``: degree-days more or less than reckoned with, shape (n_dates, n_paths), None where cold does not drive it;
    ``warmer``: the air over what is reckoned with, where frost may lock it in, shape (n_dates, n_paths).
    """

    ahead: Ahead
    tracked: Tracked
    level: Floats
    daily: Singles
    hourly: Floats
    known: Floats
    cold: Singles | None
    warmer: Singles | None = None

    def use(self, change: Change = NO_CHANGE) -> "UseAhead":
        """Use by date and up to the end of each, and its expected course within a date, with a change."""
        sign, drivers = self.tracked.store.sign, self.tracked.model.drivers
        hourly = self.hourly if change.less is None else self.hourly * np.maximum(1 - change.less, 0.0)[:, None]
        known = self.known if change.flow is None else self.known + change.flow
        used: Singles = np.einsum("dk,kdp->dp", (hourly.sum(axis=1) * sign).astype(np.float32), self.daily)
        used += (known.sum(axis=1) * sign).astype(np.float32)[:, None]
        if self.cold is not None:
            at = drivers.index(Driver.DEGREE_DAYS)
            left = 1.0 if change.less is None else np.maximum(1 - change.less[:, at], 0.0)[:, None]
            used += (self.cold * left).astype(np.float32) * self.daily[at]
        if change.brought is not None:
            used = np.maximum(used - change.brought.astype(np.float32)[:, None], 0.0)
        total = used.copy()
        for before, after in pairwise(total):
            after += before
        profile = np.cumsum((hourly @ self.tracked.belief.coefficients + known) * sign, axis=1)
        return UseAhead(used=used, total=total, profile=profile)

    def paths(self, change: Change = NO_CHANGE) -> Paths:
        """When each path meets the line, and the contents on the way."""
        ahead, store, level = self.ahead, self.tracked.store, self.level
        use = self.use(change)
        room = np.maximum((store.line_level - level) * store.sign, 0.0)
        more = reserve_room(self.tracked) + change.room
        first_days = _line_times(ahead, room, use)
        reached = _line_times(ahead, room + more, use) if more else first_days
        for hours, line in self.frosts():
            # the cold locks in so much of a bottle that no more than its line is left
            frozen = np.where(level - use.until(ahead, hours) <= line, hours / HOURS, np.inf)
            first_days, reached = np.minimum(first_days, frozen), np.minimum(reached, frozen)
        contents = use.total[: ahead.n_days].copy()
        if more:
            contents -= np.float32(more) * (contents >= room.astype(np.float32))
        contents *= store.sign
        contents += level.astype(np.float32)
        np.clip(contents, 0.0, store.capacity, out=contents)
        week = slice(1, min(1 + Forecasting.rate_days, len(ahead.days)))
        rate = float(use.profile[week, -1].sum() / max(1, len(ahead.days[week])))
        return Paths(reached_days=reached, first_days=first_days, midnight=contents, start=level, rate_per_day=rate)

    def frosts(self) -> "list[tuple[float, Floats]]":
        """The coldest hours ahead of nights that may lock in a bottle's contents, in day hours from now, and the
        contents at which no more than its line is left then, shape (n_paths,), -inf where it stands inside."""
        ahead, store = self.ahead, self.tracked.store
        if self.warmer is None:
            return []
        lows = np.array([day.min_c for day in ahead.days])[:, None] + self.warmer
        if lows.min() > Forecasting.frost_from_c:
            return []
        hours = [HOURS * index + Forecasting.coldest_h - ahead.hour for index in range(len(ahead.days))]
        inside = np.zeros(ahead.n_paths, dtype=bool)
        if store.outside is None:
            # nobody said where it stands, and the frost does not come inside
            chance = np.random.default_rng([ahead.seed, _WHERE, crc32(store.id.encode())])
            inside = chance.random(ahead.n_paths) >= Fuel.outside_unsaid
        return [
            (at, np.where(inside, -np.inf, line_in_cold(store, low)))
            for at, low in zip(hours, lows, strict=True)
            if 0 < at <= HOURS * ahead.n_days
        ]


@dataclass(frozen=True, slots=True, kw_only=True)
class UseAhead:
    """Use of each date and up to its end, shape (n_dates, n_paths), toward the line; ``profile``: expected use up to
    the end of each day hour, shape (n_dates, 24)."""

    used: Singles
    total: Singles
    profile: Floats

    def until(self, ahead: Ahead, hours_ahead: float) -> Singles:
        """Use from now to a time, shape (n_paths,). ``hours_ahead``: in day hours."""
        day, hour = divmod(ahead.hour + hours_ahead, HOURS)
        date = min(int(day), len(self.used) - 1)
        course = np.concatenate([[0.0], self.profile[date] / max(float(self.profile[date, -1]), Numeric.tiny_variance)])
        share = float(np.interp(hour, _EDGES, np.clip(course, 0.0, 1.0))) if day <= date else 1.0
        before = self.total[date - 1] if date else np.zeros_like(self.used[0])
        at: Singles = before + np.float32(share) * self.used[date]
        return at


# The cold that nobody knows, and drives that are thought of later, come on top of what is known of the hours.
_ALWAYS_USED = frozenset({Driver.DEGREE_DAYS, Driver.KM})


def draw_tank(ahead: Ahead, tracked: Tracked, spread_scale: float = 1.0) -> Tank:
    """Draw what a store that use moves one way may do. The same seed and log give the same draws."""
    rng = ahead.chance(tracked.store)
    drawn = draw_state(tracked, rng, ahead.n_paths, spread_scale)
    hourly, known = _hourly_drivers(ahead, tracked)
    is_used = hourly.any(axis=(0, 1)) | np.array([name in _ALWAYS_USED for name in tracked.model.drivers])
    daily = _daily_use(ahead, tracked, drawn.logs, rng, spread_scale, is_used)
    is_warmed, may_freeze = Driver.DEGREE_DAYS in tracked.model.drivers, stands_in_frost(tracked.store)
    warmer = _warmer(ahead, rng) if is_warmed or may_freeze else None
    return Tank(
        ahead=ahead,
        tracked=tracked,
        level=drawn.level,
        daily=daily,
        hourly=hourly,
        known=known,
        cold=_unknown_cold(ahead, warmer) if is_warmed and warmer is not None else None,
        warmer=warmer if may_freeze else None,
    )


def simulate_tank(ahead: Ahead, tracked: Tracked, spread_scale: float = 1.0, change: Change = NO_CHANGE) -> Paths:
    """Paths of one store that use moves one way. The same seed and log give the same paths."""
    return draw_tank(ahead, tracked, spread_scale).paths(change)


def _line_times(ahead: Ahead, room: Floats, use: UseAhead) -> Floats:
    """When each path has used up its room, shape (n_paths,): the day by sums, the hour by the day's expected course.
    [day]"""
    n_dates, used, total, profile = len(ahead.days), use.used, use.total, use.profile
    first = (total < room.astype(np.float32)).sum(axis=0)
    met = np.flatnonzero(first < n_dates)
    date, left = first[met], room[met]
    before = np.where(date > 0, total[date - 1, met], 0.0)
    share = np.clip((left - before) / np.maximum(used[date, met], Numeric.tiny_variance), 0.0, 1.0)
    # the days' courses one after the other, each from 0 to 1, make one rising curve of all hours
    course = np.concatenate(
        [np.zeros((n_dates, 1)), profile / np.maximum(profile[:, -1:], Numeric.tiny_variance)], axis=1
    )
    curve = (np.arange(n_dates)[:, None] + np.clip(course, 0.0, 1.0 - Numeric.tiny)).ravel()
    clock = (HOURS * np.arange(n_dates)[:, None] + _EDGES).ravel()
    reached = np.full(ahead.n_paths, np.inf)
    at_h = np.interp(date + np.minimum(share, 1.0 - Numeric.tiny), curve, clock) - ahead.hour
    reached[met] = np.where(left <= 0, 0.0, np.maximum(at_h, 0.0) / HOURS)
    reached[reached > ahead.n_days] = np.inf
    return reached
