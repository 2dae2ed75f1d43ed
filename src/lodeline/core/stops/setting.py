"""What outings are made of: how the stores may fare, the book, where the rig stands when, and what a way costs."""

from collections.abc import Sequence
from dataclasses import field
from datetime import datetime
from functools import cached_property

from lodeline.core.book import Service, Spot, fits, way_km
from lodeline.core.catalogue import SOURCE_KINDS, Role, Sense
from lodeline.core.conditions import is_elsewhere
from lodeline.core.figures import Stops
from lodeline.core.log import Place
from lodeline.core.rig import Rig, Store
from lodeline.core.stops.chance import NOW, Chance
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS

SHORE, ENGINE = SOURCE_KINDS["shore"], SOURCE_KINDS["alternator"]


@dataclass(frozen=True, kw_only=True)
class Setting:
    """What outings are made of. ``km_price``: of a kilometre, in the rig's money; ``price_assumed``: where the book has
    none for its fuel."""

    chance: Chance
    book: tuple[Spot, ...]
    km_price: float
    price_assumed: bool
    moves: bool
    _local: dict[float, datetime] = field(default_factory=dict)
    _ways: dict[tuple[Place, Place], float] = field(default_factory=dict)

    @property
    def rig(self) -> Rig:
        """The rig."""
        return self.chance.rig

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

    def day_of(self, at_h: float) -> int:
        """Which date it is so many day hours ahead: 0 is today."""
        ahead = self.chance.joint.ahead
        return min(int((ahead.hour + at_h) // HOURS), len(ahead.days) - 1)

    def ends(self, at_h: float) -> tuple[Place | None, Place | None]:
        """Where the rig stands that morning, but for stops, and where it stands that night."""
        days, index = self.chance.joint.ahead.days, self.day_of(at_h)
        before, then = days[max(0, index - 1)].place, days[index].place
        return (before, then) if is_elsewhere(before, then) else (then, then)

    @property
    def has_position(self) -> bool:
        """Whether anybody said where the rig stands."""
        return self.chance.joint.ahead.days[0].place is not None

    def way(self, a: Place | None, b: Place | None) -> float:
        """The way by road; none where nobody said where one stands. [km]"""
        if a is None or b is None:
            return 0.0
        if (a, b) not in self._ways:
            self._ways[a, b] = way_km(self.rig, a, b)
        return self._ways[a, b]

    @cached_property
    def asked(self) -> frozenset[str]:
        """The stores that decide where one goes: those due, and those that may pass their line with no stop; of the
        tank that is driven on, with the ways of usual stops."""
        chance, least = self.chance, Stops.asked_from * self.chance.n_paths
        found = {
            id for id, bank in chance.banks.items() if bank.is_due or bank.before(chance.end_h).bit_count() >= least
        }
        for id, each in chance.plain.items():
            lost = each.passed(NOW, chance.end_h, self._usual_km if each.km_l is not None else 0.0)
            if each.is_due or lost.bit_count() >= least:
                found.add(id)
        return frozenset(found)

    @cached_property
    def _usual_km(self) -> float:
        """What is driven in all, where every few days somebody goes to a place in the middle of the book by its way."""
        home = self.ends(0.0)[0]
        ways = sorted(self.way(home, spot.place) for spot in self.book)
        stops = self.chance.end_h / HOURS / Stops.usual_days
        return 2 * stops * ways[len(ways) // 2] if ways else 0.0

    def served_at(self, spot: Spot) -> list[tuple[Store, Service]]:
        """The stores of the plan that a place serves, with the service; none where the rig is not let in."""
        chance, found = self.chance, []
        if not fits(chance.rig, spot):
            return []
        for store in chance.rig.stores:
            if store.id not in chance.plain and store.id not in chance.banks:
                continue
            service = spot.service_for(store)
            no_plug = store.is_bank and (chance.rig.source_amps(SHORE) <= 0 or spot.max_nights == 0)
            if service is not None and not no_plug and not self.is_doubtful(service):
                found.append((store, service))
        return found

    @cached_property
    def not_to_drink(self) -> tuple[Spot, ...]:
        """The places whose water is left out."""
        return tuple(spot for spot in self.book if any(self.is_doubtful(each) for each in spot.services.values()))

    def is_doubtful(self, service: Service) -> bool:
        """Whether water is not for drinking, and nothing aboard filters it."""
        gear = self.rig.water
        filters = gear.filter_l is not None or gear.filter_days is not None
        return service.drinkable is False and not filters


def setting_of(chance: Chance, book: tuple[Spot, ...], moves: bool) -> Setting:
    """The setting of a rig: what a kilometre takes by its log, what fuel costs by its book."""
    fuel = chance.rig.first(Role.VEHICLE_FUEL)
    known = chance.plain.get(fuel.id) if fuel else None
    l_per_km = float(known.km_l.mean()) if known is not None and known.km_l is not None else 1 / Stops.km_per_l
    price = _fuel_price(fuel, book)
    return Setting(
        chance=chance,
        book=book,
        km_price=Stops.price_per_km if price is None else l_per_km * price,
        price_assumed=price is None,
        moves=moves,
    )


def _fuel_price(fuel: Store | None, book: Sequence[Spot]) -> float | None:
    """The middle of the book's prices for what the rig drives on, None where it has none. [1/L]"""
    offered = [service for spot in book for service in spot.services.values() if service.kind.drives]
    if fuel is not None:
        offered = [service for spot in book if (service := spot.service_for(fuel)) is not None]
    prices = sorted(each.price_per_unit for each in offered if each.price_per_unit)
    return prices[len(prices) // 2] if prices else None


def is_waste(store: Store) -> bool:
    """Whether a stop empties it."""
    return store.sense is Sense.FILLS


def source_amps(rig: Rig) -> tuple[float, float]:
    """What the engine and a hookup give the bank. [A]"""
    return rig.source_amps(ENGINE), rig.source_amps(SHORE)


def price_of(service: Service) -> float:
    """What an amount costs, of a unit; 0 where nobody said."""
    return service.price_per_unit or 0.0


def flat_price(service: Service) -> float:
    """What it costs whatever the amount; 0 where nobody said."""
    return (service.price or 0.0) + (service.price_night or 0.0)


def act_minutes(store: Store, service: Service, amount: float) -> float:
    """What one act takes, with what flows. [min]"""
    flows = service.kind.flows and store.unit == "L"
    rinse = Stops.rinse_min if store.kind.role is Role.FLUSHED else 0.0
    return service.kind.minutes + rinse + (amount / (service.l_per_min or Stops.l_per_min) if flows else 0.0)
