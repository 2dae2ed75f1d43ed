"""What a plan may be made of: a place of the book at a time, what is served there, the way and what it costs."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import field
from datetime import datetime, timedelta
from functools import cached_property
from itertools import combinations

from lodeline.core.book import Service, Spot, fits, spot_at, way_h, way_km
from lodeline.core.catalogue import SOURCE_KINDS, Role
from lodeline.core.conditions import is_elsewhere
from lodeline.core.figures import Stops
from lodeline.core.log import Place
from lodeline.core.rig import Rig, Store
from lodeline.core.stops.chance import NOW, Chance, Push
from lodeline.core.stops.opening import is_open, opens_on
from lodeline.core.values import dataclass
from lodeline.core.wishes import FixedStop
from lodeline.core.zone import HOURS, MIN_PER_H

_PUSH_STEP_H = 0.25  # a drive charges by quarters of an hour
_SHORE, _ENGINE = SOURCE_KINDS["shore"], SOURCE_KINDS["alternator"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Option:
    """A stop that may be made. Times are day hours from now: ``leave_h`` from where the rig stands, ``arrive_h`` and
    ``depart_h`` at the place. ``stores``: what is served, by id; ``plug``: plugged in until it departs. ``km``: there,
    and back where the rig comes back. ``fixed_cost``: fees and the fuel for the way."""

    spot: Spot
    leave_h: float
    arrive_h: float
    depart_h: float
    stores: frozenset[str]
    plug: bool
    km: float
    fixed_cost: float
    prices: tuple[tuple[str, float], ...]
    is_fixed: bool = False
    moves: bool = False

    def pushes(self, alternator_a: float, shore_a: float) -> tuple[Push, ...]:
        """What charges the bank on the way and there."""
        # in steps, so that ways alike are one
        drive_h = (self.arrive_h - self.leave_h) // _PUSH_STEP_H * _PUSH_STEP_H
        found = []
        if alternator_a and drive_h > 0:
            found.append(Push(self.arrive_h - drive_h, drive_h, alternator_a))
            if not self.moves:
                found.append(Push(round(self.depart_h), drive_h, alternator_a))
        if self.plug and shore_a:
            found.append(Push(self.arrive_h, self.depart_h - self.arrive_h, shore_a))
        return tuple(found)


@dataclass(frozen=True, kw_only=True)
class Setting:
    """What options are made of: chances, the book, when things happen, and what fuel costs."""

    chance: Chance
    book: tuple[Spot, ...]
    fuel_price: float
    l_per_km: float
    moves: bool
    _local: dict[float, datetime] = field(default_factory=dict)

    def local(self, at_h: float) -> datetime:
        """The time that the clock aboard shows so many day hours ahead, without its zone."""
        if at_h not in self._local:
            ahead = self.chance.joint.ahead
            self._local[at_h] = ahead.rig.zone.local(ahead.at(at_h)).replace(tzinfo=None)
        return self._local[at_h]

    def ahead_h(self, at: datetime) -> float:
        """Day hours from now to an instant."""
        ahead = self.chance.joint.ahead
        on = ahead.rig.zone.date(at)
        return HOURS * (on - ahead.days[0].date).days + ahead.rig.zone.hour(on, at) - ahead.hour

    def home(self, at_h: float) -> Place | None:
        """Where the rig stands then, but for stops."""
        ahead = self.chance.joint.ahead
        index = min(int((ahead.hour + at_h) // HOURS), len(ahead.days) - 1)
        return ahead.days[index].place

    @cached_property
    def may_fail(self) -> frozenset[str]:
        """The stores that may pass their line with no stop; of the tank that is driven on, with the ways of usual
        stops."""
        chance = self.chance
        plain = {
            id
            for id, each in chance.plain.items()
            if each.passed(NOW, chance.end_h, self._usual_km() if each.km_l is not None else 0.0)
        }
        return frozenset(plain | {id for id, bank in chance.banks.items() if bank.passed()})

    def _usual_km(self) -> float:
        """What is driven in all, where every few days somebody goes to a place in the middle of the book by its way."""
        home, rig = self.home(0.0), self.chance.rig
        ways = sorted(way_km(rig, home, spot.place) for spot in self.book) if home is not None else []
        stops = self.chance.end_h / HOURS / Stops.usual_days
        return 2 * stops * ways[len(ways) // 2] if ways else 0.0


def setting_of(chance: Chance, book: tuple[Spot, ...], moves: bool) -> Setting:
    """The setting of a rig: what a kilometre takes by its log, what fuel costs by its book."""
    rig = chance.rig
    fuel = rig.first(Role.VEHICLE_FUEL)
    known = chance.plain.get(fuel.id) if fuel else None
    l_per_km = float(known.km_l.mean()) if known is not None and known.km_l is not None else 1 / Stops.km_per_l
    prices = [
        service.price_per_unit
        for spot in book
        for service in spot.services.values()
        if service.kind.drives and service.price_per_unit
    ]
    price = sorted(prices)[len(prices) // 2] if prices else 0.0
    return Setting(chance=chance, book=book, fuel_price=price, l_per_km=l_per_km, moves=moves)


def source_amps(rig: Rig) -> tuple[float, float]:
    """What the engine and a hookup give the bank. [A]"""
    return rig.source_amps(_ENGINE), rig.source_amps(_SHORE)


def price_of(service: Service) -> float:
    """What an amount costs, of a unit; 0 where nobody said."""
    return service.price_per_unit or 0.0


def flat_price(service: Service) -> float:
    """What it costs whatever the amount; 0 where nobody said."""
    return (service.price or 0.0) + (service.price_night or 0.0)


def options(setting: Setting, closed: frozenset[str] = frozenset()) -> list[Option]:
    """Every stop that may be made, in order of time; those that another at the same time outdoes are left out.

    ``closed``: places that are taken to be closed.
    """
    found: list[Option] = []
    for spot in setting.book:
        if spot.id in closed or not fits(setting.chance.rig, spot):
            continue
        found += _at_spot(setting, spot)
    found.sort(key=lambda each: (each.arrive_h, each.fixed_cost, each.km))
    return found if setting.moves else list(_undominated(found))


def _at_spot(setting: Setting, spot: Spot) -> Iterator[Option]:
    served = _served(setting, spot)
    if not served:
        return
    ahead = setting.chance.joint.ahead
    minutes = _minutes(setting, served)
    for index in range(len(ahead.days)):
        for arrive_h in _arrivals(setting, spot, index, minutes):
            if arrive_h < setting.chance.end_h:
                yield from _offers(setting, spot, served, arrive_h, minutes)


def _served(setting: Setting, spot: Spot) -> list[tuple[Store, Service]]:
    """The stores that a place serves and that the plan knows, with the service."""
    chance, found = setting.chance, []
    for store in chance.rig.stores:
        if store.id not in chance.plain and store.id not in chance.banks:
            continue
        service = spot.service_for(store)
        plugs = store.is_bank and (chance.rig.source_amps(_SHORE) <= 0 or spot.max_nights == 0)
        if service is not None and not plugs:
            found.append((store, service))
    return found


def _minutes(setting: Setting, served: Sequence[tuple[Store, Service]]) -> float:
    """How long it takes at most: each act, and what flows."""
    return sum(act_minutes(store, service, store.capacity) for store, service in served if not store.is_bank)


def act_minutes(store: Store, service: Service, amount: float) -> float:
    """What one act takes, with what flows. [min]"""
    flows = service.kind.flows and store.unit == "L"
    rinse = Stops.rinse_min if store.kind.role is Role.FLUSHED else 0.0
    return service.kind.minutes + rinse + (amount / (service.l_per_min or Stops.l_per_min) if flows else 0.0)


def _arrivals(setting: Setting, spot: Spot, index: int, minutes: float) -> list[float]:
    """The day hours ahead at which somebody may arrive on a date: the usual ones, or when it opens."""
    ahead = setting.chance.joint.ahead
    stay = timedelta(minutes=minutes)
    usual = [HOURS * index + hour - ahead.hour for hour in Stops.arrivals_h]
    fitting = [at for at in usual if at > 0 and is_open(spot, setting.local(at), setting.local(at) + stay)]
    if fitting:
        return fitting
    found = []
    for begins, ends in opens_on(spot, ahead.days[index].date):
        hour = max(begins.hour + begins.minute / MIN_PER_H, Stops.earliest_h + Stops.soonest_h)
        at = HOURS * index + hour - ahead.hour
        if at > 0 and hour <= Stops.latest_h and setting.local(at) + stay <= ends:
            found.append(at)
    return found


def _offers(
    setting: Setting, spot: Spot, served: Sequence[tuple[Store, Service]], arrive_h: float, minutes: float
) -> Iterator[Option]:
    """A stop with what is free there, and with each choice of what is paid for and may be needed."""
    paid = [(store, service) for store, service in served if service.is_paid]
    free = [(store, service) for store, service in served if not service.is_paid]
    needed = [each for each in paid if each[0].id in setting.may_fail]
    for n in range(len(needed) + 1):
        for bought in combinations(needed, n):
            option = option_at(setting, spot, [*free, *bought], arrive_h, minutes)
            if option is not None and (option.stores or option.plug):
                yield option


def option_at(
    setting: Setting,
    spot: Spot,
    served: Sequence[tuple[Store, Service]],
    arrive_h: float,
    minutes: float,
    is_fixed: bool = False,
    origin: Place | None = None,
) -> Option | None:
    """A stop at a place that serves some stores; None where it cannot be reached by then or nobody sets out so early.

    ``origin``: where the rig comes from, where that is not where it stands.
    """
    rig = setting.chance.rig
    home = origin or setting.home(arrive_h)
    one_way = way_km(rig, home, spot.place) if home is not None else 0.0
    leave_h = arrive_h - way_h(rig, one_way)
    sets_out = setting.local(leave_h)
    too_early = sets_out.hour + sets_out.minute / MIN_PER_H < Stops.earliest_h
    if not is_fixed and (leave_h < Stops.soonest_h or too_early):
        return None
    plug = any(store.is_bank for store, _ in served)
    depart_h = arrive_h + minutes / MIN_PER_H
    if plug:
        depart_h = max(depart_h, _next_morning(setting, arrive_h))
    km = one_way * (1 if setting.moves else 2)
    fees = (spot.fee or 0.0) + sum(flat_price(service) for _, service in served)
    prices = tuple((store.id, price_of(service)) for store, service in served if price_of(service))
    return Option(
        spot=spot,
        leave_h=leave_h,
        arrive_h=arrive_h,
        depart_h=depart_h,
        stores=frozenset(store.id for store, _ in served if not store.is_bank),
        plug=plug,
        km=km,
        fixed_cost=fees + km * setting.l_per_km * setting.fuel_price,
        prices=prices,
        is_fixed=is_fixed,
        moves=setting.moves,
    )


def _next_morning(setting: Setting, arrive_h: float) -> float:
    ahead = setting.chance.joint.ahead
    day = int((ahead.hour + arrive_h) // HOURS) + 1
    return HOURS * day + Stops.hookup_until_h - ahead.hour


def _undominated(found: Iterable[Option]) -> Iterator[Option]:
    """Without those that another one at the same time outdoes: no dearer, no further, and serving as much."""
    kept: dict[float, list[Option]] = {}
    for each in found:
        beside = kept.setdefault(each.arrive_h, [])
        if not any(_outdoes(other, each) for other in beside):
            beside.append(each)
            yield each


def _outdoes(a: Option, b: Option) -> bool:
    if not (a.stores >= b.stores and a.plug >= b.plug and a.km <= b.km and a.fixed_cost <= b.fixed_cost):
        return False
    if a.depart_h > b.depart_h:
        return False
    dear = dict(b.prices)
    return all(price <= dear.get(store, 0.0) for store, price in a.prices if store in b.stores) and not any(
        store not in b.stores for store, _ in a.prices
    )


def fixed_options(setting: Setting, wished: Sequence[FixedStop]) -> list[Option]:
    """The stops that are planned already: by hand, and where the plan of days says that the rig moves to a place."""
    spots = {spot.id: spot for spot in setting.book}
    ahead = setting.chance.joint.ahead
    arrivals = [
        (spots[each.spot], setting.ahead_h(each.arrive), False, each.plug) for each in wished if each.spot in spots
    ]
    before = ahead.days[0].place
    for index, day in enumerate(ahead.days[1:], 1):
        if is_elsewhere(before, day.place) and (spot := spot_at(setting.book, day.place)) is not None:
            arrivals.append((spot, HOURS * index + Stops.arrivals_h[1] - ahead.hour, True, False))
        before = day.place
    found = []
    for spot, arrive_h, moved, plug in arrivals:
        if not 0 <= arrive_h < setting.chance.end_h:
            continue
        served = [each for each in _served(setting, spot) if plug or not each[0].is_bank]
        origin = setting.home(max(0.0, arrive_h - HOURS)) if moved else None
        option = option_at(setting, spot, served, arrive_h, _minutes(setting, served), is_fixed=True, origin=origin)
        if option is not None:
            found.append(option)
    return sorted(found, key=lambda each: each.arrive_h)
