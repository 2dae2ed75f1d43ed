"""The plan of the coming stops: which places, when, doing what, its chance and cost, and what else could be done."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import replace
from datetime import datetime, timedelta

import numpy as np

from lodeline.core.book import Service, Spot, act_of
from lodeline.core.catalogue import AfterStop, StopAct
from lodeline.core.figures import Forecasting, Numeric, Stops
from lodeline.core.forecast.forecast import Band, quantiles
from lodeline.core.levers.weigh import Joint
from lodeline.core.rig import Store
from lodeline.core.statistics import P10, P50, P90, Floats
from lodeline.core.stops.chance import NOW, Chance, chance_of
from lodeline.core.stops.opening import is_open
from lodeline.core.stops.options import (
    Option,
    Setting,
    act_minutes,
    fixed_options,
    flat_price,
    options,
    price_of,
    setting_of,
)
from lodeline.core.stops.routes import Routes, km_driven
from lodeline.core.stops.search import Effort, Found, Search
from lodeline.core.values import dataclass
from lodeline.core.wishes import FixedStop
from lodeline.core.zone import HOURS, MIN_PER_H

# The order in which acts are done: as the services stand in the catalogue, toilet waste before grey water before fresh.
_ORDER = ("black", "grey", "solids", "water", "gas", "fuel", "supplies", "hookup", "laundry", "shower")


@dataclass(frozen=True, slots=True, kw_only=True)
class StopWork:
    """What is done with one store at a stop. ``p10`` and ``p90``: to be filled, emptied or charged, in its unit."""

    store: Store
    service: Service
    act: StopAct
    p10: float
    p50: float
    p90: float
    minutes: float
    cost: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Stop:
    """A stop of a plan. ``back``: when the rig is back where it stood, None where it stays; ``open_then``: whether the
    place is open by the book, which one that is planned by hand may not be; ``stores`` and ``plug``: what it was chosen
    for."""

    spot: Spot
    leave: datetime
    arrive: datetime
    depart: datetime
    back: datetime | None
    minutes: float
    km: float
    cost: float
    acts: tuple[StopWork, ...]
    is_fixed: bool
    open_then: bool
    stores: frozenset[str]
    plug: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class PlannedLane:
    """A store's contents if the plan is followed: bands in order of time, two at a service."""

    store: str
    bands: tuple[Band, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """A plan and how it stands.

    ``p_crossed``: the chance that any store that is served at a stop passes its line if it is followed; ``exact``:
    whether every plan was looked at; ``least_stops``: how many stops are needed at least, as far as was ruled out;
    ``leave_by``: the latest departure for the first stop that keeps the risk; ``chosen``: when it was looked for,
    before ``at`` where it only ``stands``; ``others``: plans that differ in kind; ``fallback``: what to do where the
    first place is closed; ``p_none``: the chance with no stop at all; ``helpless``: stores that no stop keeps from
    their line.
    """

    at: datetime
    chosen: datetime
    days: int
    risk: float
    p_crossed: float
    p_none: float
    helpless: tuple[str, ...] = ()
    cost: float
    km: float
    feasible: bool
    exact: bool
    least_stops: int
    stops: tuple[Stop, ...]
    lanes: tuple[PlannedLane, ...]
    leave_by: datetime | None = None
    others: tuple["Plan", ...] = ()
    fallback: "Plan | None" = None
    stands: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Wanted:
    """What is asked of a plan. ``wished``: stops that are planned by hand."""

    days: int = Forecasting.horizon_days
    risk: float = Stops.risk
    wished: tuple[FixedStop, ...] = ()
    others: bool = True


def plan(
    joint: Joint, book: tuple[Spot, ...], wanted: Wanted, tell: Callable[[float], object] = lambda share: None
) -> Plan:
    """The plan with the fewest stops that keeps the risk; of those the least cost, then the least way.

    ``tell`` hears the share that is done, and may raise to end it.
    """
    return Planner(joint, book, wanted, tell).plan()


class Planner:
    """One rig's plans on one set of paths."""

    def __init__(self, joint: Joint, book: tuple[Spot, ...], wanted: Wanted, tell: Callable[[float], object]) -> None:
        self.wanted, self._tell = wanted, tell
        self.chance: Chance = chance_of(joint, wanted.days)
        self.setting: Setting = setting_of(self.chance, book, moves=joint.ahead.rig.after_stop is AfterStop.STAY)
        self._limit = int(wanted.risk * self.chance.n_paths + Numeric.tiny)
        self.fixed = fixed_options(self.setting, wanted.wished)
        self._every = options(self.setting)
        # a line that is passed before anybody can come cannot be kept: what counts is the rest, and how soon it is
        self.lost_anyhow = 0
        earliest = self._earliest()
        unavoidable = self.chance.unavoidable(earliest)
        for each in unavoidable.values():
            self.lost_anyhow |= each
        self.is_due = self.lost_anyhow.bit_count() > self._limit
        if self.is_due:
            self.chance.excuse(unavoidable, earliest)

    def _earliest(self) -> dict[str, float]:
        """When each store can first be served, day hours from now."""
        found: dict[str, float] = {}
        for option in (*self._every, *self.fixed):
            served = [*option.stores, *(self.chance.banks if option.plug else ())]
            for store in served:
                found[store] = min(option.arrive_h, found.get(store, option.arrive_h))
        return found

    def search(self, closed: frozenset[str] = frozenset(), effort: Effort = Effort()) -> Search:
        """A search over every stop that may be made, but for places that are taken to be closed."""
        found = options(self.setting, closed) if closed else self._every
        soon = any(each.arrive_h <= Stops.due_within_h for each in found)
        routes = Routes(
            setting=self.setting,
            options=found,
            fixed=self.fixed,
            limit=self._limit,
            by_h=Stops.due_within_h if self.is_due and soon else None,
            lost_anyhow=self.lost_anyhow,
        )
        return Search(routes=routes, effort=effort, tell=self._tell)

    def plan(self) -> Plan:
        """The plan, with what else could be done."""
        search = self.search()
        found = search.best(least=1 if self.is_due and search.routes.options else 0)
        whole = self._plan(search.routes, found)
        if not found.stops:
            return whole
        if not self.wanted.others:
            return replace(whole, leave_by=self._leave_by(search.routes, found))
        own = [each for each in found.stops if not each.is_fixed]
        fallback = self._without(own[0].spot.id, len(own)) if own else None
        cheaper = self._cheaper(found, len(own)) if found.kept else None
        others = [each for each in (cheaper, fallback) if each is not None]
        if not found.kept and fallback is not None and fallback.p_crossed < whole.p_crossed:
            # where nothing keeps the risk, the lesser chance
            whole, others, fallback = fallback, [whole], whole
        else:
            whole = replace(whole, leave_by=self._leave_by(search.routes, found))
        return replace(whole, others=tuple(others[: Stops.most_others]), fallback=fallback)

    def again(self, last: Plan) -> Plan | None:
        """An earlier plan as it stands now, None where it cannot be followed any more or by far does not keep what it
        kept. Whether another is better by now is not looked at."""
        routes, ahead = self.search().routes, self.chance.joint.ahead
        every = {_chosen(o.spot, ahead.at(o.arrive_h), o): o for o in (*routes.options, *self.fixed)}
        stops = [every.get(_chosen(each.spot, each.arrive, each)) for each in last.stops]
        part = routes.start()
        for option in stops:
            if option is None:
                return None
            part = routes.add(part, routes.from_last(part, option))
        lost = routes.kept_of(part.stops).bit_count()
        # that no stop is needed is not said of more than the crew accepts
        over = Stops.stands_within * self.chance.n_paths if last.stops else 0
        if (lost <= self._limit + over) < last.feasible or any(each not in part.stops for each in self.fixed):
            return None
        found = Found(
            stops=part.stops,
            lost=routes.lost(part.stops),
            cost=part.cost,
            km=part.km,
            kept=last.feasible,
            exact=False,
            least_stops=last.least_stops,
            tolerated=max(lost, self._limit) if last.feasible else None,
        )
        whole = replace(self._plan(routes, found), leave_by=self._leave_by(routes, found), feasible=last.feasible)
        others = tuple(each for each in last.others if _is_ahead(each, ahead.now))
        fallback = last.fallback if last.fallback is not None and _is_ahead(last.fallback, ahead.now) else None
        return replace(whole, chosen=last.chosen, others=others, fallback=fallback, stands=True)

    def _without(self, spot: str, n: int) -> Plan | None:
        """The best plan where a place is closed."""
        search = self.search(frozenset([spot]), Effort().less())
        found = search.best(least=1 if self.is_due and search.routes.options else 0, most=min(n + 1, Stops.most_stops))
        if not found.stops:
            return None
        return replace(self._plan(search.routes, found), leave_by=self._leave_by(search.routes, found))

    def _cheaper(self, best: Found, n: int) -> Plan | None:
        """A plan with one stop more that costs less."""
        more = self.search(effort=Effort().less())
        found = more.best(least=n + 1, most=n + 1)
        if found.kept and len(found.stops) > len(best.stops) and found.cost < best.cost:
            return self._plan(more.routes, found)
        return None

    def _plan(self, routes: Routes, found: Found) -> Plan:
        stops = tuple(self._stops(routes, found.stops))
        return Plan(
            at=self.chance.joint.ahead.now,
            chosen=self.chance.joint.ahead.now,
            days=self.wanted.days,
            risk=self.wanted.risk,
            p_crossed=found.lost.bit_count() / self.chance.n_paths,
            p_none=routes.lost(self.fixed).bit_count() / self.chance.n_paths,
            helpless=tuple(sorted(routes.helpless)),
            cost=sum(each.cost for each in stops) + self._fuel_cost(found),
            km=found.km,
            feasible=found.lost.bit_count() <= self._limit,
            exact=found.exact,
            least_stops=found.least_stops,
            stops=stops,
            lanes=tuple(self._lanes(routes, found.stops)),
        )

    def _fuel_cost(self, found: Found) -> float:
        return found.km * self.setting.l_per_km * self.setting.fuel_price

    def _stops(self, routes: Routes, chosen: Sequence[Option]) -> Iterator[Stop]:
        ahead, since = self.chance.joint.ahead, dict.fromkeys(self.chance.plain, NOW)
        for option in chosen:
            acts = tuple(sorted(self._acts(routes, chosen, option, since), key=_order))
            minutes = sum(each.minutes for each in acts)
            one_way_h = option.arrive_h - option.leave_h
            done_h = max(option.depart_h if option.plug else 0.0, option.arrive_h + minutes / MIN_PER_H)
            local = self.setting.local(option.arrive_h)
            yield Stop(
                open_then=is_open(option.spot, local, local if option.plug else local + timedelta(minutes=minutes)),
                spot=option.spot,
                leave=ahead.at(option.leave_h),
                arrive=ahead.at(option.arrive_h),
                depart=ahead.at(done_h),
                back=None if option.moves else ahead.at(done_h + one_way_h),
                minutes=minutes,
                km=option.km,
                cost=(option.spot.fee or 0.0) + sum(each.cost for each in acts),
                acts=acts,
                is_fixed=option.is_fixed,
                stores=option.stores,
                plug=option.plug,
            )
            since |= dict.fromkeys(option.stores, option.arrive_h)

    def _acts(
        self, routes: Routes, chosen: Sequence[Option], option: Option, since: Mapping[str, float]
    ) -> Iterator[StopWork]:
        for store in self.chance.rig.stores:
            service = option.spot.service_for(store)
            if service is None:
                continue
            if store.id in option.stores:
                contents = self._contents(routes, chosen, store.id, since[store.id], option.arrive_h)
                act = _act(store, service, np.abs(contents - store.good_end))
                if service.is_paid or act.p90 > Stops.worth_share * store.capacity:
                    yield act
            elif store.is_bank and option.plug:
                level = self._bank_at(
                    routes, [each for each in chosen if each is not option], store.id, option.arrive_h
                )
                yield _act(store, service, store.capacity - level)

    def _contents(self, routes: Routes, chosen: Sequence[Option], store: str, since_h: float, at_h: float) -> Floats:
        each = self.chance.plain[store]
        km = km_driven(chosen, since_h, at_h) if each.km_l is not None else 0.0
        return each.contents(since_h, at_h, km)

    def _bank_at(self, routes: Routes, chosen: Sequence[Option], store: str, at_h: float) -> Floats:
        hourly = self.chance.banks[store].hourly(routes.pushes(chosen))
        level: Floats = hourly[min(max(0, int(at_h)), len(hourly) - 1)].astype(float)
        return level

    def _lanes(self, routes: Routes, chosen: Sequence[Option]) -> Iterator[PlannedLane]:
        """Contents at each midnight, and before and after each service."""
        ahead = self.chance.joint.ahead
        midnights = [HOURS * (i + 1) - ahead.hour for i in range(ahead.n_days)]
        for store, each in self.chance.plain.items():
            bands, since = [self._band(0.0, self._contents(routes, chosen, store, NOW, 0.0))], NOW
            served = [option.arrive_h for option in chosen if store in option.stores]
            for at in sorted({*(h for h in midnights if h <= self.chance.end_h), *served}):
                bands.append(self._band(at, self._contents(routes, chosen, store, since, at)))
                if at in served:
                    since = at
                    bands.append(self._band(at, each.contents(at, at)))
            yield PlannedLane(store=store, bands=tuple(bands))
        for store, bank in self.chance.banks.items():
            hourly = bank.hourly(routes.pushes(chosen))[: bank.hours]
            rows = range(Forecasting.fan_step_h - 1, len(hourly), Forecasting.fan_step_h)
            levels = quantiles(hourly[list(rows)]) if len(rows) else []
            first = int(ahead.hour) + 1 - ahead.hour
            bands = [self._band(0.0, bank.draws.level)]
            bands += [
                Band(at=ahead.at(first + row), p10=low, p50=middle, p90=high)
                for row, (low, middle, high) in zip(rows, levels, strict=True)
            ]
            yield PlannedLane(store=store, bands=tuple(bands))

    def _band(self, at_h: float, contents: Floats) -> Band:
        low, middle, high = np.quantile(contents, (P10, P50, P90))
        return Band(at=self.chance.joint.ahead.at(at_h), p10=float(low), p50=float(middle), p90=float(high))

    def stop_at(self, stop: FixedStop) -> Stop | None:
        """A stop at a place and time, whatever the plan says; with the stops that are planned before it."""
        setting = self.setting
        before = [each for each in self.fixed if each.arrive_h < setting.ahead_h(stop.arrive)]
        mine = fixed_options(setting, [stop])
        routes = self.search().routes
        mine = [each for each in mine if each.spot.id == stop.spot]
        if not mine:
            return None
        return list(self._stops(routes, [*(each for each in before if each.spot.id != stop.spot), mine[-1]]))[-1]

    def _leave_by(self, routes: Routes, found: Found) -> datetime | None:
        """The latest departure for the first stop that keeps the risk, the others as they are."""
        first = next((each for each in found.stops if not each.is_fixed), None)
        if first is None:
            return None
        limit = found.tolerated or routes.kept_of(found.stops).bit_count()
        later = [each for each in found.stops if each.arrive_h > first.arrive_h]
        until = later[0].leave_h if later else self.chance.end_h
        times = list(self._open_times(first, until))
        low, high = 0, len(times)
        while low < high:  # the risk grows with the wait: the last time that keeps it
            middle = (low + high) // 2
            moved = _moved(first, times[middle])
            stops = [moved if each is first else each for each in found.stops]
            if routes.kept_of(stops).bit_count() <= limit:
                low = middle + 1
            else:
                high = middle
        arrive_h = times[low - 1] if low else first.arrive_h
        return self.chance.joint.ahead.at(arrive_h - (first.arrive_h - first.leave_h))

    def _open_times(self, option: Option, until_h: float) -> Iterator[float]:
        """Times from a stop's own on at which somebody may arrive there as well."""
        stay_h, step = option.depart_h - option.arrive_h, Stops.leave_step_h
        way = option.arrive_h - option.leave_h
        yield option.arrive_h
        at = option.arrive_h + step
        while at + (0.0 if option.plug else stay_h) < until_h:
            local, sets_out = self.setting.local(at), self.setting.local(at - way)
            by_day = sets_out.hour >= Stops.earliest_h and local.hour < Stops.latest_h
            ends = local if option.plug else self.setting.local(at + stay_h)
            if by_day and is_open(option.spot, local, ends):
                yield at
            at += step


def _chosen(spot: Spot, arrive: datetime, what: Option | Stop) -> tuple[object, ...]:
    """What makes a stop the same in two plans."""
    return spot.id, round(arrive.timestamp() / _MINUTE_S), what.stores, what.plug, what.is_fixed


_MINUTE_S = 60  # two that are apart by less are the same


def _is_ahead(plan: Plan, now: datetime) -> bool:
    return all(each.leave > now for each in plan.stops)


def _moved(option: Option, arrive_h: float) -> Option:
    by = arrive_h - option.arrive_h
    depart_h = option.depart_h if option.plug and option.depart_h > arrive_h else option.depart_h + by
    return replace(option, arrive_h=arrive_h, leave_h=option.leave_h + by, depart_h=depart_h)


def _act(store: Store, service: Service, amount: Floats) -> StopWork:
    low, middle, high = (float(each) for each in np.quantile(amount, (P10, P50, P90)))
    cost = flat_price(service) + price_of(service) * float(amount.mean())
    return StopWork(
        store=store,
        service=service,
        act=act_of(service, store),
        p10=low,
        p50=middle,
        p90=high,
        cost=cost,
        minutes=act_minutes(store, service, middle),
    )


def _order(act: StopWork) -> int:
    return _ORDER.index(act.service.kind.id)
