"""The chance that a line is passed between two services, for any stop at any time, on the forecast's own paths.

Which paths pass the line of a store between two services is one number whose bits are the paths: so that a whole plan
is weighed by putting such numbers together.
"""

from collections.abc import Sequence
from dataclasses import field

import numpy as np

from lodeline.core.catalogue import Driver, Role, Sense
from lodeline.core.energy.banks import of_bank
from lodeline.core.figures import Stops
from lodeline.core.forecast.bank_paths import Bank
from lodeline.core.forecast.change import NO_CHANGE, Change, together
from lodeline.core.forecast.paths import Tank, UseAhead, reserve_room, room_of_reserve, spell
from lodeline.core.forecast.pool import pool_of
from lodeline.core.levers.weigh import Joint
from lodeline.core.rig import Rig, Store
from lodeline.core.statistics import P10, Floats, Singles, Truths
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS

# A time that stands for now, before any service.
NOW = -1.0
# The random parts of two services are this many paths apart.
_APART = 97
_KM_STEP = 1.0


def bits(truths: Truths) -> int:
    """A truth for each path as one number."""
    return int.from_bytes(np.packbits(truths).tobytes(), "big")


@dataclass(frozen=True, slots=True)
class Push:
    """Something that charges the bank: from so many day hours ahead, for so many hours, with so many amps."""

    start_h: float
    hours: float
    amps: float


@dataclass(frozen=True, kw_only=True)
class Excuse:
    """What no plan can help of one store, and so counts for none.

    ``is_due``: it is past its line now; it counts nowhere up to ``due_h``, and where it is served later than that it is
    lost. ``before``: the paths that pass the line before anybody can come; they count nowhere before the first service,
    and the others send one off soon enough. ``hopeless``: paths that no service keeps; ``later``: paths that pass it
    all the same between two services as close as can be. ``once``: it would have to be served more often than anybody
    goes out: its next service is counted, and none after it.
    """

    n_paths: int
    is_due: bool = False
    before: int = 0
    due_h: float = np.inf
    hopeless: int = 0
    later: int = 0
    once: bool = False

    def of(self, passed: int, since_h: float, until_h: float) -> int:
        """Of the paths that pass the line between a service, or now, and a time, those that count."""
        if since_h == NOW and self.is_due:
            passed = 0 if until_h <= self.due_h else self.all
        elif since_h == NOW:
            passed &= ~self.before
        else:
            passed = 0 if self.once else passed & ~self.later
        return passed & ~self.hopeless

    @property
    def all(self) -> int:
        """All paths."""
        return (1 << self.n_paths) - 1 << (-self.n_paths % _BYTE)


_BYTE = 8  # paths are packed by bytes
_STEP_H = 3.0  # in which it is looked when a line is passed


def _is_most(paths: int, n_paths: int) -> bool:
    return 2 * paths.bit_count() >= n_paths


@dataclass(kw_only=True)
class TankChance:
    """A store that use moves one way, between services. Times are day hours from now.

    ``more``: what a reserve adds once; ``fills_with``: what a service brings of it; ``km_l``: litres a kilometre of
    each path, of the tank that is driven on; ``filled_to``: what a service leaves in it, its good end, or where the
    payload ends before. ``beside``: the tanks that are lived from together with it, whose line is this one's;
    ``is_beside``: whether it is one of those.
    """

    draws: Tank
    use: UseAhead
    more: float
    fills_with: float
    km_l: Floats | None
    filled_to: float
    beside: "tuple[TankChance, ...]" = ()
    is_beside: bool = False
    room_now: Floats = field(init=False)
    past_now: int = field(init=False)
    excuse: Excuse = field(init=False)
    _until: dict[float, Singles] = field(default_factory=dict)
    _masks: dict[tuple[float, float, float], int] = field(default_factory=dict)
    _rooms: dict[float, Floats] = field(default_factory=dict)
    _amounts: dict[tuple[float, float, float], float] = field(default_factory=dict)
    _error: Floats = field(init=False)
    _frosts: list[tuple[float, Floats]] = field(init=False)

    def __post_init__(self) -> None:
        store, draws = self.store, self.draws
        self.room_now = np.maximum((store.line_level - draws.level) * store.sign, 0.0) + self.more
        self.room_now = self.room_now + sum(each.room_now for each in self.beside)
        self.past_now = bits(self.room_now <= 0)
        is_due = not self.is_beside and _is_most(self.past_now, draws.ahead.n_paths)
        self.excuse = Excuse(n_paths=draws.ahead.n_paths, is_due=is_due)
        self._frosts = draws.frosts()
        rng = np.random.default_rng([draws.ahead.seed, 2, len(store.id)])
        self._error = np.abs(rng.standard_normal(draws.ahead.n_paths)) * Stops.serve_sd * store.capacity

    @property
    def store(self) -> Store:
        """The store."""
        return self.draws.tracked.store

    def _used(self, since_h: float, until_h: float) -> Floats:
        """Use of it, and of those beside it, between two times, shape (n_paths,)."""
        used: Floats = np.subtract(self.until(until_h), self.until(since_h), dtype=float)
        for each in self.beside:
            used += each.until(until_h) - each.until(since_h)
        return used

    def until(self, at_h: float) -> Singles:
        """Use from now to a time, shape (n_paths,)."""
        if at_h == NOW:
            at_h = 0.0
        if at_h not in self._until:
            self._until[at_h] = self.use.until(self.draws.ahead, at_h)
        return self._until[at_h]

    def _left_after(self, since_h: float) -> Floats:
        """How far from its good end a service leaves it, shape (n_paths,): another error each time."""
        return np.roll(self._error, int(since_h) * _APART)

    def room(self, since_h: float) -> Floats:
        """What may be used after a service before the line is met, shape (n_paths,)."""
        if since_h == NOW:
            return self.room_now
        if since_h not in self._rooms:
            self._rooms[since_h] = self._room(since_h)
        return self._rooms[since_h]

    def _room_alone(self, since_h: float) -> Floats:
        """The same of this tank alone."""
        return self.room(since_h) - sum(each.room(since_h) for each in self.beside)

    def _room(self, since_h: float) -> Floats:
        whole = abs(self.store.line_level - self.filled_to) + self.fills_with
        return whole - self._left_after(since_h) + sum(each.room(since_h) for each in self.beside)

    def passed(self, since_h: float, until_h: float, km: float = 0.0) -> int:
        """The paths that pass the line between a service and a time, having driven so far."""
        if self.is_beside:
            return 0
        key = (since_h, until_h, round(km / _KM_STEP) if self.km_l is not None else 0.0)
        if key not in self._masks:
            used = self._used(since_h, until_h)
            if self.km_l is not None and km:
                used = used + km * self.km_l
            passed = bits((used >= self.room(since_h)) | self._locked_in(since_h, until_h))
            self._masks[key] = self.excuse.of(passed, since_h, until_h)
        return self._masks[key]

    def _locked_in(self, since_h: float, until_h: float) -> Truths:
        """The paths of a bottle on which a night locks in what is left of it, shape (n_paths,)."""
        locked = np.zeros(self.draws.ahead.n_paths, dtype=bool)
        for at_h, line in self._frosts:
            if since_h < at_h <= until_h:
                locked |= self.contents(since_h, at_h) <= line
        return locked

    @property
    def locked_when_full(self) -> int:
        """The paths on which some night locks in even a bottle that was just filled: no stop helps."""
        whole = max(self.filled_to - Stops.serve_sd * self.store.capacity, 0.0)
        locked = np.zeros(self.draws.ahead.n_paths, dtype=bool)
        for _, line in self._frosts:
            locked |= line >= whole
        return bits(locked)

    def amount(self, since_h: float, until_h: float, km: float = 0.0) -> float:
        """What is to be filled or emptied at a time after a service, expected. [unit]"""
        key = (since_h, until_h, round(km / _KM_STEP) if self.km_l is not None else 0.0)
        if key not in self._amounts:
            contents = self.contents(since_h, until_h, km)
            self._amounts[key] = float(self.to_do(contents).mean())
        return self._amounts[key]

    def to_do(self, contents: Floats) -> Floats:
        """What is to be filled or emptied, of so much contents. [unit]"""
        amount: Floats = np.maximum((contents - self.filled_to) * self.store.sign, 0.0)
        return amount

    @property
    def is_due(self) -> bool:
        """Whether it is past its line already, by the middle estimate."""
        return self.excuse.is_due

    def before(self, at_h: float) -> int:
        """The paths on which it passes its line before a time."""
        return 0 if self.is_beside else self.past_now | self.passed(NOW, at_h)

    def hopeless(self) -> int:
        """The paths that no stop keeps."""
        return self.locked_when_full

    def excused(self, excuse: "Excuse") -> None:
        """From now on do not count what no plan can help."""
        self.excuse = excuse
        self._masks.clear()

    def is_low(self, since_h: float, at_h: float, km: float = 0.0) -> bool:
        """Whether it may be low at a time after a service: near full it is not swapped whole."""
        return float(np.quantile(self.contents(since_h, at_h, km), P10)) <= Stops.low_share * self.store.capacity

    def when_passed(self, since_h: float, end_h: float) -> Floats:
        """When each path passes the line after a service, to some hours, shape (n_paths,); inf where not by the end.
        What is driven to stops is left out."""
        room = self.room(since_h)
        found = np.full(self.draws.ahead.n_paths, np.inf)
        for at_h in np.arange(max(since_h, 0.0), end_h + _STEP_H, _STEP_H):
            used = self._used(since_h, float(at_h))
            found[(used >= room) & np.isinf(found)] = at_h
        return found

    def contents(self, since_h: float, until_h: float, km: float = 0.0) -> Floats:
        """Contents at a time after a service, shape (n_paths,)."""
        store = self.store
        used = self.until(until_h) - self.until(since_h)
        if self.km_l is not None and km:
            used = used + km * self.km_l
        room = self._room_alone(since_h)
        if since_h == NOW:
            start, more = self.draws.level, self.more
        else:
            start, more = self.filled_to + store.sign * self._left_after(since_h), self.fills_with
        used = used - more * (used >= room - more)
        return np.clip(start + store.sign * used, 0.0, store.capacity)


@dataclass(kw_only=True)
class BankChance:
    """A bank, by what is pushed into it on the way. It is walked hour by hour."""

    draws: Bank
    joint: Joint
    hours: int
    _first: dict[Push | None, Floats] = field(default_factory=dict)
    excuse: Excuse = field(init=False)

    def __post_init__(self) -> None:
        n = self.joint.ahead.n_paths
        self.excuse = Excuse(n_paths=n, is_due=_is_most(self.past_now, n))

    @property
    def store(self) -> Store:
        """The bank."""
        return self.draws.tracked.store

    def hourly(self, pushes: Sequence[Push]) -> Singles:
        """Contents at the end of each hour, shape (n_hours, n_paths)."""
        agreed = self.joint.changes.get(self.store.id, NO_CHANGE)
        if not pushes:
            return self.draws.hourly(agreed)[1]
        ahead = self.joint.ahead
        push = np.zeros((len(ahead.days), int(HOURS)))
        for each in pushes:
            day, hour = divmod(ahead.hour + each.start_h, HOURS)
            left = each.hours
            while left > 0 and int(day) < len(push):
                now = min(left, HOURS - hour)
                push[int(day)] += self._share * each.amps * spell(hour, now)
                left, day, hour = left - now, day + 1, 0.0
        return self.draws.hourly(together([agreed, Change(push=push)]))[1]

    @property
    def _share(self) -> float:
        """The part of what charges the rig that comes to this bank."""
        whole = self.joint.ahead.rig
        mine, all_of_it = (sum(each.amps for each in rig.sources) for rig in (of_bank(whole, self.store), whole))
        return mine / all_of_it if all_of_it else 1.0

    def first_after(self, night: Push | None) -> Floats:
        """When each path first passes the line after a night plugged in, or from now on; inf where it does not."""
        if night not in self._first:
            line, hourly = self.store.line_level, self.hourly((night,) if night else ())[: self.hours]
            begin = min(int(night.start_h + night.hours), len(hourly)) if night else 0
            below = hourly[begin:] <= line
            first = np.full(hourly.shape[1], np.inf)
            if len(below):
                met = np.flatnonzero(below.any(axis=0))
                first[met] = below[:, met].argmax(axis=0) + begin + 1.0
            if night is None:
                first[self.draws.level <= line] = 0.0
            self._first[night] = first
        return self._first[night]

    @property
    def past_now(self) -> int:
        """The paths that are past the line now."""
        return bits(self.draws.level <= self.store.line_level)

    @property
    def is_due(self) -> bool:
        """Whether it is past its line already, by the middle estimate."""
        return self.excuse.is_due

    def before(self, at_h: float) -> int:
        """The paths on which it passes its line before a time."""
        return bits(self.first_after(None) <= at_h)

    def excused(self, excuse: "Excuse") -> None:
        """From now on do not count what no plan can help. What was walked stays."""
        self.excuse = excuse


@dataclass(kw_only=True)
class PluggedChance:
    """A bank between nights plugged in, with the face of a store that is served: a night fills it, whatever was before.

    ``nights``: for each hour ahead at which somebody may arrive for a night, the span plugged in that stands for all of
    that date: the shortest. What driving adds is left out here: it saves paths and loses none, and is counted when a
    whole plan is reckoned.
    """

    bank: BankChance
    nights: dict[float, Push]
    km_l: None = None
    _masks: dict[tuple[float, float], int] = field(default_factory=dict)

    def passed(self, since_h: float, until_h: float, km: float = 0.0) -> int:
        """The paths that pass the line between a night that begins at a time, or now, and another time."""
        key = (since_h, until_h)
        if key not in self._masks:
            if since_h != NOW and since_h not in self.nights:
                return 0  # nobody can plug in then: as if the bank held, which bounds what may be
            self._masks[key] = bits(self.bank.first_after(self.nights.get(since_h)) <= until_h)
        return self.bank.excuse.of(self._masks[key], since_h, until_h)

    def amount(self, since_h: float, until_h: float, km: float = 0.0) -> float:
        """A night is paid whole: no amount has a price."""
        return 0.0


@dataclass(frozen=True, kw_only=True)
class Chance:
    """All stores that are served at a stop. ``end_h``: day hours from now to the end of what is planned."""

    joint: Joint
    plain: dict[str, TankChance]
    banks: dict[str, BankChance]
    end_h: float

    @property
    def rig(self) -> Rig:
        """The rig."""
        return self.joint.ahead.rig

    @property
    def n_paths(self) -> int:
        """Paths of each store."""
        return self.joint.ahead.n_paths

    @property
    def every(self) -> "dict[str, TankChance | BankChance]":
        """All of them, by store."""
        return {**self.plain, **self.banks}

    @property
    def due(self) -> tuple[str, ...]:
        """The stores that are past their line already."""
        return tuple(id for id, each in self.every.items() if each.is_due)


def chance_of(joint: Joint, days: int) -> Chance:
    """What is needed to weigh plans over so many days."""
    ahead, rig = joint.ahead, joint.ahead.rig
    end_h = HOURS * min(days, ahead.n_days)
    plain, banks = dict[str, TankChance](), dict[str, BankChance]()
    pool = [store.id for store in pool_of(rig, {id: draws.tracked for id, draws in joint.draws.items()})]
    # the first of a pool comes last: its line is that of all
    for id, draws in sorted(joint.draws.items(), key=lambda each: each[0] == (pool[0] if pool else None)):
        if isinstance(draws, Tank):
            beside = tuple(plain[other] for other in pool[1:]) if pool and id == pool[0] else ()
            plain[id] = _tank(joint, draws, beside, is_beside=id in pool[1:])
        elif not draws.tracked.store.starter:
            banks[id] = BankChance(draws=draws, joint=joint, hours=max(1, int(np.ceil(end_h))))
    in_order = {store.id: plain[store.id] for store in rig.stores if store.id in plain}
    return Chance(joint=joint, plain=in_order, banks=banks, end_h=end_h)


def _tank(joint: Joint, draws: Tank, beside: tuple[TankChance, ...], *, is_beside: bool) -> TankChance:
    rig, store = joint.ahead.rig, draws.tracked.store
    change = joint.changes.get(store.id, NO_CHANGE)
    drives = rig.is_first(Role.VEHICLE_FUEL, store) and Driver.KM in draws.tracked.model.drivers
    return TankChance(
        draws=draws,
        use=draws.use(change),
        more=reserve_room(draws.tracked) + change.room,
        fills_with=room_of_reserve(store, store.reserve or 0.0) if store.reserve_counts else 0.0,
        km_l=draws.daily[draws.tracked.model.drivers.index(Driver.KM)].mean(axis=0) if drives else None,
        filled_to=_filled_to(rig, store),
        beside=beside,
        is_beside=is_beside,
    )


def _filled_to(rig: Rig, store: Store) -> float:
    """What a service leaves in a store: where the payload does not carry all tanks full, what is left of it for this
    one. Waste is emptied first, and weighs nothing."""
    if store.sense is Sense.FILLS or rig.payload_kg is None or store.kg_per_unit <= 0:
        return store.good_end
    drained = (each for each in rig.stores if each.sense is not Sense.FILLS and not each.is_bank)
    others = sum(each.capacity * each.kg_per_unit for each in drained if each.id != store.id)
    return float(np.clip((rig.payload_kg - others) / store.kg_per_unit, store.line_level, store.good_end))
