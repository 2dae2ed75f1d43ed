"""The plan of the coming outings: what it is made of, how it stands, why, and what else could be done."""

from datetime import datetime
from enum import StrEnum

from lodeline.core.book import Service, Spot
from lodeline.core.catalogue import StopAct
from lodeline.core.figures import Forecasting, Stops
from lodeline.core.forecast.forecast import Band
from lodeline.core.levers.lever import Lever
from lodeline.core.rig import Store
from lodeline.core.values import dataclass
from lodeline.core.wishes import FixedStop


@dataclass(frozen=True, slots=True, kw_only=True)
class StopWork:
    """What is done with one store at a stop. ``p10`` and ``p90``: to be filled, emptied or charged, in its unit;
    ``held_to``: what it is filled to where the payload allows no more."""

    store: Store
    service: Service
    act: StopAct
    p10: float
    p50: float
    p90: float
    minutes: float
    cost: float
    held_to: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class WhyServed:
    """Why a store is served: when it would pass its line otherwise, 8 in 10, None beyond what is planned for; ``p``:
    the chance that it would by then, 0 of a tank that only the way to the stops empties; ``due``: it has already."""

    store: Store
    due: bool
    p: float
    p10: datetime | None = None
    p50: datetime | None = None
    p90: datetime | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Stop:
    """A stop of a plan, one of an ``outing`` by its number. ``leave``: for it, from where one was before; ``until``:
    the end of a night plugged in; ``open_then``: whether the place is open by the book, which one planned by hand
    may not be; ``stores`` and ``plug``: what is served; ``reasons``: what of it makes the stop necessary."""

    spot: Spot
    outing: int
    leave: datetime
    arrive: datetime
    depart: datetime
    minutes: float
    km: float
    cost: float
    acts: tuple[StopWork, ...]
    is_fixed: bool
    open_then: bool
    stores: frozenset[str]
    plug: bool
    reasons: tuple[WhyServed, ...] = ()

    @property
    def until(self) -> datetime | None:
        """The end of a night plugged in."""
        return self.depart if self.plug else None

    @property
    def serves(self) -> tuple[str, ...]:
        """The stores that made it necessary."""
        return tuple(each.store.id for each in self.reasons)

    @property
    def beside(self) -> tuple[str, ...]:
        """The stores that are served because one is there."""
        return tuple(act.store.id for act in self.acts if act.store.id not in self.serves)


@dataclass(frozen=True, slots=True, kw_only=True)
class PlannedOuting:
    """An outing. ``back``: when the rig is back where it stood, None where it stays; ``on_the_way``: of a date on which
    the rig moves anyway; ``km``: then its detour; ``back_km``: of the last drive; ``cost``: with the way's."""

    leave: datetime
    back: datetime | None
    stops: tuple[Stop, ...]
    km: float
    back_km: float
    cost: float
    on_the_way: bool
    is_fixed: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class PlannedLane:
    """A store's contents if the plan is followed: bands in order of time, two at a service."""

    store: str
    bands: tuple[Band, ...]


class NotServed(StrEnum):
    """Why no place of the book serves a store."""

    NO_PLACE = "no_place"
    CLOSED = "closed"
    TOO_HIGH = "too_high"
    TOO_LONG = "too_long"
    TOO_FAR = "too_far"
    NOT_TO_DRINK = "not_to_drink"


@dataclass(frozen=True, slots=True, kw_only=True)
class Unserved:
    """What the days will ask for and no place of the book serves. ``reason``: when."""

    store: Store
    why: NotServed
    reason: WhyServed


@dataclass(frozen=True, slots=True, kw_only=True)
class Fallback:
    """What to do where the first place is closed: another outing, its chance, and what it costs more. ``outing``: None
    where no other place near enough serves ``stores``."""

    closed: Spot
    stores: tuple[Store, ...]
    outing: PlannedOuting | None = None
    p_crossed: float = 0.0
    more_km: float = 0.0
    more_cost: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Remedy:
    """A habit that brings a plan that does not keep the risk nearer to it."""

    lever: Lever
    p_crossed: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """A plan and how it stands.

    ``due``: the stores past their line now; ``p_before``: the chance that another passes its before anybody can come;
    ``p_crossed``: the chance that any store that is served at a stop passes its line, of what some plan could prevent;
    ``exact``: whether every plan was looked at; ``least_outings``: how many are
    needed at least, as far as was ruled out; ``breaks``: the store that breaks the risk where it cannot be kept;
    ``leave_by``: the latest departure that keeps it; ``chosen``: when it was looked for, before ``at`` where it only
    ``stands``; ``remedy``: the habit that would help most there; ``not_to_drink``: the places whose water was left out;
    ``others``: plans that differ in kind; ``helpless``: stores that no stop keeps from their line; ``once``: those that
    would have to be served nearly every day, of which but the next service is planned.
    """

    at: datetime
    chosen: datetime
    days: int
    risk: float
    due: tuple[str, ...] = ()
    p_before: float = 0.0
    p_crossed: float
    cost: float
    km: float
    feasible: bool
    exact: bool
    least_outings: int
    outings: tuple[PlannedOuting, ...]
    lanes: tuple[PlannedLane, ...]
    needs: tuple[Unserved, ...] = ()
    helpless: tuple[Store, ...] = ()
    once: tuple[Store, ...] = ()
    breaks: Store | None = None
    remedy: Remedy | None = None
    price_assumed: bool = False
    not_to_drink: tuple[Spot, ...] = ()
    has_position: bool = True
    leave_by: datetime | None = None
    others: tuple["Plan", ...] = ()
    fallback: Fallback | None = None
    stands: bool = False

    @property
    def stops(self) -> tuple[Stop, ...]:
        """All stops, in order of time."""
        return tuple(stop for outing in self.outings for stop in outing.stops)


@dataclass(frozen=True, slots=True, kw_only=True)
class Moved:
    """What a plan would be with one outing at another time. ``lanes``: of the stores that it serves."""

    p_crossed: float
    feasible: bool
    breaks: Store | None
    lanes: tuple[PlannedLane, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Wanted:
    """What is asked of a plan. ``wished``: stops that are planned by hand."""

    days: int = Forecasting.horizon_days
    risk: float = Stops.risk
    wished: tuple[FixedStop, ...] = ()
    others: bool = True
