"""Outings that may be made: out from where the rig stands to one place or several, in an order that the acts allow, and
back.

Waste is emptied before fresh water is taken in, where both are of one outing (common practice). On a date on which the
rig moves anyway an outing lies on the way, and costs its detour alone.
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import field, replace
from datetime import timedelta
from functools import cached_property
from itertools import combinations, pairwise, permutations
from math import ceil

from lodeline.core.book import Service, Spot, act_of, spot_at, way_h
from lodeline.core.catalogue import StopAct
from lodeline.core.conditions import is_elsewhere
from lodeline.core.figures import Numeric, Stops
from lodeline.core.log import Place
from lodeline.core.rig import Store
from lodeline.core.stops.chance import Push
from lodeline.core.stops.opening import is_open, opens_on
from lodeline.core.stops.setting import Setting, act_minutes, flat_price, is_waste, price_of
from lodeline.core.values import dataclass
from lodeline.core.wishes import FixedStop
from lodeline.core.zone import HOURS, MIN_PER_H

_PUSH_STEP_H = 0.25  # a drive charges by quarters of an hour


@dataclass(frozen=True, slots=True, kw_only=True)
class Call:
    """A call at a place on an outing. ``stores``: what is served, by id; ``swaps``: of them what is swapped whole;
    ``prices``: of a unit, by store; ``fees``: whatever the amounts; ``plug``: plugged in until it departs."""

    spot: Spot
    arrive_h: float
    depart_h: float
    stores: frozenset[str]
    swaps: frozenset[str]
    prices: tuple[tuple[str, float], ...]
    fees: float
    plug: bool


@dataclass(frozen=True, kw_only=True)
class Outing:
    """An outing. Times are day hours from now. ``legs``: each drive by when it ends, and its way; ``end_h``: when the
    rig stands again; ``km``: the way, or the detour; ``fixed_cost``: fees, and what the way costs."""

    visits: tuple[Call, ...]
    leave_h: float
    end_h: float
    legs: tuple[tuple[float, float], ...]
    km: float
    fixed_cost: float
    is_fixed: bool = False
    moves: bool = False

    @property
    def arrive_h(self) -> float:
        """When one is at the first place."""
        return self.visits[0].arrive_h

    @cached_property
    def at(self) -> dict[str, float]:
        """When each store is served, by id. To the hour: so that outings of one departure are weighed alike."""
        return {store: max(0.0, round(each.arrive_h)) for each in self.visits for store in each.stores}

    @property
    def plug_h(self) -> float:
        """When the night plugged in begins, to the hour."""
        return max(0.0, round(self.visits[-1].arrive_h))

    @cached_property
    def prices(self) -> dict[str, float]:
        """What a unit costs, by store."""
        return {store: price for each in self.visits for store, price in each.prices}

    @cached_property
    def swaps(self) -> frozenset[str]:
        """The stores that are swapped whole."""
        return frozenset().union(*(each.swaps for each in self.visits))

    @property
    def plug(self) -> bool:
        """Whether a night is spent plugged in."""
        return self.visits[-1].plug

    @property
    def key(self) -> tuple[object, ...]:
        """What makes it the same in two plans."""
        return tuple((each.spot.id, each.stores, each.plug) for each in self.visits)

    def pushes(self, alternator_a: float, shore_a: float, km_per_h: float) -> Iterator[Push]:
        """What charges the bank on the way and there."""
        for end_h, km in self.legs:
            # in steps, so that ways alike are one
            hours = km / km_per_h // _PUSH_STEP_H * _PUSH_STEP_H
            if alternator_a and hours > 0:
                yield Push(max(0.0, end_h - hours), hours, alternator_a)
        for each in self.visits:
            if each.plug and shore_a:
                yield Push(self.plug_h, each.depart_h - self.plug_h, shore_a)


@dataclass(frozen=True, kw_only=True)
class Offer:
    """A place with what is had there: all that is free, and some of what is paid for. ``asked``: of it what decides
    where one goes."""

    spot: Spot
    served: tuple[tuple[Store, Service], ...]
    asked: frozenset[str]

    @cached_property
    def plug(self) -> bool:
        """Whether a night is spent there plugged in."""
        return any(store.is_bank for store, _ in self.served)


Served = list[tuple[Store, Service]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Course:
    """Places that go together, in each order that the acts allow, the shortest first, with what is served where.
    ``weight``: places, cost without what is bought by amount, and way."""

    orders: tuple[tuple[tuple[Offer, ...], list[Served]], ...]
    asked: frozenset[str]
    plug: bool
    weight: tuple[int, float, float]
    prices: Mapping[str, float]

    def outdoes(self, other: "Course", moves: bool) -> bool:
        """Whether it serves as much of what is asked for with no more places, no dearer and no further."""
        if self.plug != other.plug or not self.asked >= other.asked:
            return False
        if any(mine > its for mine, its in zip(self.weight, other.weight, strict=True)):
            return False
        if moves and self._ends != other._ends:
            return False
        return all(price <= other.prices.get(store, 0.0) for store, price in self.prices.items())

    @property
    def _ends(self) -> tuple[Spot, Spot]:
        offers = self.orders[0][0]
        return offers[0].spot, offers[-1].spot


@dataclass(kw_only=True)
class Outings:
    """The outings of one setting."""

    setting: Setting
    _offers: list[Offer] = field(default_factory=list)
    _known: dict[tuple[Place | None, Place | None], list[Course]] = field(default_factory=dict)

    def __post_init__(self) -> None:
        for spot in self.setting.book:
            self._offers += self._at(spot)

    def _at(self, spot: Spot) -> Iterator[Offer]:
        """A place with what is free there, and with each choice of what is paid for and may be needed."""
        served, asked = self.setting.served_at(spot), self.setting.asked
        free = [(store, service) for store, service in served if not service.is_paid and not store.is_bank]
        paid = [each for each in served if each not in free and each[0].id in asked]
        for n in range(len(paid) + 1):
            for bought in combinations(paid, n):
                had = tuple([*free, *bought])
                mine = frozenset(store.id for store, _ in had) & asked
                if mine:
                    yield Offer(spot=spot, served=had, asked=mine)

    def all(self, closed: frozenset[str] = frozenset()) -> list[Outing]:
        """Every outing, in order of time; those that another one at the same time outdoes are left out. ``closed``:
        places that are taken to be closed."""
        found: list[Outing] = []
        for leave_h, is_first in self._departures:
            found += self.leaving(leave_h, is_first, closed)
        by_arrival = self.setting.moves
        return sorted(found, key=lambda o: (o.arrive_h if by_arrival else o.leave_h, o.fixed_cost, o.km))

    def leaving(
        self, leave_h: float, at_any_hour: bool = False, closed: frozenset[str] = frozenset()
    ) -> Iterator[Outing]:
        """The outings of a departure. ``at_any_hour``: for a night plugged in, too."""
        kept: list[Course] = []
        for course in self._courses(*self.setting.ends(leave_h)):
            if closed and any(offer.spot.id in closed for offer in course.orders[0][0]):
                continue
            if any(other.outdoes(course, self.setting.moves) for other in kept):
                continue
            for offers, assigned in course.orders:
                made = self.outing(leave_h, offers, assigned, at_any_hour=at_any_hour)
                if made is not None:
                    kept.append(course)
                    yield made
                    break

    def _courses(self, origin: Place | None, to: Place | None) -> "list[Course]":
        """The ways to places that go together, what weighs least first: each place brings something asked for that the
        others do not."""
        if (origin, to) not in self._known:
            every = (
                chosen
                for n in range(1, Stops.most_places + 1)
                for chosen in combinations(self._offers, n)
                if n == 1 or _each_brings(chosen)
            )
            made = [course for chosen in every if (course := self._course(chosen, origin, to)) is not None]
            self._known[origin, to] = sorted(made, key=lambda each: each.weight)
        return self._known[origin, to]

    def _course(self, chosen: tuple[Offer, ...], origin: Place | None, to: Place | None) -> "Course | None":
        ordered = []
        for offers in permutations(chosen):
            if (assigned := _assigned(offers)) is not None:
                ordered.append((self._km(offers, origin, to), offers, assigned))
        if not ordered:
            return None
        ordered.sort(key=lambda each: each[0])
        km, served = ordered[0][0], [each for offer in chosen for each in offer.served]
        fees = sum(offer.spot.fee or 0.0 for offer in chosen) + sum(flat_price(service) for _, service in served)
        prices = {store.id: price_of(service) for store, service in served if price_of(service)}
        return Course(
            orders=tuple((offers, assigned) for _, offers, assigned in ordered),
            asked=frozenset().union(*(each.asked for each in chosen)),
            plug=any(each.plug for each in chosen),
            weight=(len(chosen), fees + km * self.setting.km_price, km),
            prices=prices,
        )

    def _km(self, offers: Sequence[Offer], origin: Place | None, to: Place | None) -> float:
        stops = [origin, *(each.spot.place for each in offers), *([] if self.setting.moves else [to])]
        km = sum(self.setting.way(a, b) for a, b in pairwise(stops))
        return max(0.0, km - (0.0 if self.setting.moves else self.setting.way(origin, to)))

    @cached_property
    def _departures(self) -> list[tuple[float, bool]]:
        """When somebody may set out: the first quarter of an hour from now, the usual hours, and for what is open then
        at none of them so that one comes when it opens."""
        setting, ahead = self.setting, self.setting.chance.joint.ahead
        first = self.first_departure()
        found = {first}
        for index in range(len(ahead.days)):
            usual = [HOURS * index + hour - ahead.hour for hour in Stops.departures_h]
            usual = [each for each in usual if each >= first]
            found.update(usual)
            for spot in {each.spot.id: each.spot for each in self._offers}.values():
                if not any(self._is_open(spot, each) for each in (*usual, first) if setting.day_of(each) == index):
                    found.update(each for each in self._at_opening(spot, index) if each >= first)
        return [(each, each == first) for each in sorted(found) if each < setting.chance.end_h]

    def first_departure(self) -> float:
        """The first departure there may be. [h]"""
        ahead = self.setting.chance.joint.ahead
        hour = ceil(ahead.hour / Stops.leave_step_h - Numeric.tiny) * Stops.leave_step_h
        if hour < Stops.earliest_h:
            hour = Stops.earliest_h
        elif hour > Stops.latest_h:
            hour = HOURS + Stops.earliest_h
        return hour - ahead.hour

    def _is_open(self, spot: Spot, leave_h: float) -> bool:
        way = way_h(self.setting.rig, self.setting.way(self.setting.ends(leave_h)[0], spot.place))
        stay = self._minutes([each for each in self.setting.served_at(spot) if not each[0].is_bank])
        local = self.setting.local(leave_h + way)
        return is_open(spot, local, local + timedelta(minutes=stay))

    def _at_opening(self, spot: Spot, index: int) -> Iterator[float]:
        setting, ahead = self.setting, self.setting.chance.joint.ahead
        midnight = HOURS * index - ahead.hour
        way = way_h(setting.rig, setting.way(setting.ends(max(0.0, midnight))[0], spot.place))
        for begins, _ in opens_on(spot, ahead.days[index].date):
            hour = begins.hour + begins.minute / MIN_PER_H - way
            hour = max(Stops.earliest_h, ceil(hour / Stops.leave_step_h - Numeric.tiny) * Stops.leave_step_h)
            if hour <= Stops.latest_h and self._is_open(spot, midnight + hour):
                yield midnight + hour

    @staticmethod
    def _minutes(served: Iterable[tuple[Store, Service]]) -> float:
        """How long it takes at most: each act, and what flows."""
        return sum(act_minutes(store, service, store.capacity) for store, service in served)

    def outing(
        self,
        leave_h: float,
        offers: Sequence[Offer],
        assigned: Sequence[Served],
        *,
        at_any_hour: bool = False,
        is_fixed: bool = False,
    ) -> Outing | None:
        """An outing to places in their order, with what is served where; None where one is closed then."""
        setting, rig = self.setting, self.setting.rig
        origin, to = setting.ends(leave_h)
        here: Place | None = origin
        at_h, legs, visits = leave_h, list[tuple[float, float]](), list[Call]()
        for offer, served in zip(offers, assigned, strict=True):
            km = setting.way(here, offer.spot.place)
            if way_h(rig, km) > Stops.latest_h - Stops.earliest_h:
                return None  # more than a day's drive
            at_h = _to_the_minute(at_h + way_h(rig, km))
            visit = self._visit(offer, served, at_h)
            if not is_fixed and not self.lets_in(visit, at_any_hour):
                return None
            legs.append((at_h, km))
            visits.append(visit)
            here, at_h = offer.spot.place, visit.depart_h
        direct = setting.way(origin, to)
        if not setting.moves:
            km = setting.way(here, to)
            at_h = _to_the_minute(at_h + way_h(rig, km))
            legs.append((at_h, km))
        km = max(0.0, sum(each for _, each in legs) - (0.0 if setting.moves else direct))
        return Outing(
            visits=tuple(visits),
            leave_h=leave_h,
            end_h=at_h,
            legs=tuple(legs),
            km=km,
            fixed_cost=sum(each.fees for each in visits) + km * setting.km_price,
            is_fixed=is_fixed,
            moves=setting.moves,
        )

    def _visit(self, offer: Offer, served: Sequence[tuple[Store, Service]], arrive_h: float) -> Call:
        plug = offer.plug and any(store.is_bank for store, _ in served)
        done_h = arrive_h + self._minutes(each for each in served if not each[0].is_bank) / MIN_PER_H
        return Call(
            spot=offer.spot,
            arrive_h=arrive_h,
            depart_h=max(done_h, self._next_morning(arrive_h)) if plug else done_h,
            stores=frozenset(store.id for store, _ in served if not store.is_bank),
            swaps=frozenset(store.id for store, service in served if act_of(service, store) is StopAct.SWAP),
            prices=tuple((store.id, price_of(service)) for store, service in served if price_of(service)),
            fees=(offer.spot.fee or 0.0) + sum(flat_price(service) for _, service in served),
            plug=plug,
        )

    def lets_in(self, visit: Call, at_any_hour: bool = True) -> bool:
        """Whether a place is open for a call, within the days of the plan."""
        local, leaves = self.setting.local(visit.arrive_h), self.setting.local(visit.depart_h)
        if visit.arrive_h >= self.setting.chance.end_h:
            return False
        if visit.plug and not at_any_hour and local.hour < Stops.hookup_from_h:
            return False
        return is_open(visit.spot, local, local if visit.plug else leaves)

    def _next_morning(self, arrive_h: float) -> float:
        return HOURS * (self.setting.day_of(arrive_h) + 1) + Stops.hookup_until_h - self.setting.chance.joint.ahead.hour

    def fixed(self, wished: Sequence[FixedStop]) -> list[Outing]:
        """The stops that are planned already: by hand, and where the plan of days has the rig move to a place."""
        setting, ahead = self.setting, self.setting.chance.joint.ahead
        spots = {spot.id: spot for spot in setting.book}
        arrivals = [
            (spots[each.spot], setting.ahead_h(each.arrive), each.plug) for each in wished if each.spot in spots
        ]
        before = ahead.days[0].place
        for index, day in enumerate(ahead.days[1:], 1):
            if is_elsewhere(before, day.place) and (spot := spot_at(setting.book, day.place)) is not None:
                arrivals.append((spot, HOURS * index + _MOVES_AT_H - ahead.hour, False))
            before = day.place
        found = []
        for spot, arrive_h, plug in arrivals:
            if 0 <= arrive_h < setting.chance.end_h:
                served = tuple(each for each in setting.served_at(spot) if plug or not each[0].is_bank)
                offer = Offer(spot=spot, served=served, asked=frozenset())
                way = way_h(setting.rig, setting.way(setting.ends(arrive_h)[0], spot.place))
                made = self.outing(arrive_h - way, [offer], [list(served)], is_fixed=True)
                if made is not None:
                    found.append(made)
        return sorted(found, key=lambda each: each.arrive_h)


_MOVES_AT_H = 12.0  # the hour at which a rig that moves is there


def _to_the_minute(at_h: float) -> float:
    return ceil(at_h * MIN_PER_H - Numeric.tiny) / MIN_PER_H


def _each_brings(offers: Sequence[Offer]) -> bool:
    if len({each.spot.id for each in offers}) < len(offers) or sum(each.plug for each in offers) > 1:
        return False
    for index, offer in enumerate(offers):
        beside = frozenset[str]().union(*(each.asked for n, each in enumerate(offers) if n != index))
        if offer.asked <= beside:
            return False
    return True


def _assigned(offers: Sequence[Offer]) -> list[Served] | None:
    """Which store is served where: waste as early, fresh water as late as may be; None where fresh water would be taken
    in before waste is emptied, or a night is not the last."""
    if any(each.plug for each in offers[:-1]):
        return None
    if len(offers) == 1:
        return [list(offers[0].served)]
    found: list[Served] = [[] for _ in offers]
    where: dict[str, tuple[int, Store, Service]] = {}
    for index, offer in enumerate(offers):
        for store, service in offer.served:
            if store.id not in where or service.kind.flows:
                where[store.id] = (index, store, service)
    wastes = [index for index, store, _ in where.values() if is_waste(store)]
    if any(service.kind.flows and index < max(wastes, default=0) for index, _, service in where.values()):
        return None
    for index, store, service in where.values():
        found[index].append((store, service))
    return found if all(found) else None


def moved(outing: Outing, leave_h: float) -> Outing:
    """The same outing at another time."""
    by = leave_h - outing.leave_h
    visits = tuple(
        replace(
            each,
            arrive_h=each.arrive_h + by,
            depart_h=each.depart_h if each.plug and each.depart_h > each.arrive_h + by else each.depart_h + by,
        )
        for each in outing.visits
    )
    back = visits[-1].depart_h - outing.visits[-1].depart_h
    legs = tuple((end_h + (by if n < len(visits) else back), km) for n, (end_h, km) in enumerate(outing.legs))
    return replace(outing, visits=visits, leave_h=leave_h, end_h=outing.end_h + back, legs=legs)
