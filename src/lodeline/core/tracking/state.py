"""What a walk carries from day to day of one store, and what it walks through."""

from dataclasses import field, replace
from datetime import date, datetime, timedelta
from operator import itemgetter

import numpy as np

from lodeline.core.apart import carried
from lodeline.core.catalogue import Effect, Role
from lodeline.core.conditions import Conditions
from lodeline.core.energy.skies import SkyHabit
from lodeline.core.figures import Readings, Tracking
from lodeline.core.log import Event, Log, Reading
from lodeline.core.rig import Rig, Store
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.charging import Charge, by_date, charges
from lodeline.core.tracking.coupling import LearnedUse, UnusualDays
from lodeline.core.tracking.day_kinds import KnownDayKinds
from lodeline.core.tracking.events import Speed, concerns
from lodeline.core.tracking.hypothesis import Cause, Compared, Hypothesis, blended
from lodeline.core.tracking.model import UseModel
from lodeline.core.tracking.propagate import StoreContext
from lodeline.core.tracking.service import ServiceRecord
from lodeline.core.values import dataclass
from lodeline.core.zone import Zone

# Acts that are done when a store needs them.
SERVICES = frozenset({Effect.FILL, Effect.EMPTY, Effect.SWAP})
_KEEP_HISTORY = timedelta(days=Tracking.checkpoint_history_days)


@dataclass(frozen=True, slots=True, kw_only=True)
class Past:
    """What the walks of all stores go through: days to ``now``, and the usual sky as it was known on each. ``before``:
    the day before the first, where it was walked already."""

    rig: Rig
    log: Log
    days: dict[date, Conditions]
    usual: dict[date, SkyHabit]
    now: datetime
    kinds: KnownDayKinds
    before: Conditions | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Scene:
    """One store's part of it: its context, what was written down of it, and what charged it."""

    past: Past
    rig: Rig
    store: Store
    model: UseModel
    zone: Zone
    context: StoreContext
    entries: dict[date, list[Reading | Event]]
    logged_dates: frozenset[date]
    service_times: list[tuple[datetime, str | None]]
    charges: list[Charge]
    charges_on: dict[date, list[Charge]]

    @classmethod
    def of(cls, past: Past, store: Store) -> "Scene":
        """The part of a store."""
        rig, log = past.rig, past.log
        first = log.first_from(min(past.days))
        # a spell of charging may reach into the first day from the week before it
        recent = Log(log.days[max(0, first - Tracking.charges_back_days) :])
        spells = charges(rig, store, recent, past.days) if store.is_bank else []
        context = StoreContext.of(rig, store, past.kinds)
        return cls(
            past=past,
            rig=rig,
            store=store,
            model=context.model,
            zone=rig.zone,
            context=context,
            entries={day.date: [e for e in day.entries() if concerns(rig, store, e)] for day in log.days[first:]},
            logged_dates=frozenset(day.date for day in log.days if day.readings or day.events),
            service_times=sorted(
                ((e.at, e.store) for day in log.days for e in day.events if e.row.effect in SERVICES), key=itemgetter(0)
            ),
            charges=spells,
            charges_on=by_date(spells, rig.zone),
        )

    @property
    def filled_at(self) -> list[datetime]:
        """When a fresh tank was filled."""
        fresh = {store.id for store in self.rig.every(Role.WATER)}
        return [at for at, id in self.service_times if id in fresh]


@dataclass(slots=True, kw_only=True)
class State:
    """One store's running state. ``hypotheses``: the likeliest first; ``past_line`` and ``blank``: days past its line
    and days without an entry since it was last known; ``reserve``: what is left of what is carried apart; ``unusual``:
    days that a reading showed to differ from the usual, for who hears of them."""

    hypotheses: list[Hypothesis]
    reserve: float
    known_since: datetime | None = None
    last_reset: datetime | None = None
    last_reading: Reading | None = None
    reserve_used_at: datetime | None = None
    lost_since: datetime | None = None
    drained_since: datetime | None = None
    read_at: datetime | None = None
    past_line: float = 0.0
    blank: int = 0
    acts: list[Event] = field(default_factory=list)
    compared: list[Compared] = field(default_factory=list)
    resets: int = 0
    services: ServiceRecord = field(default_factory=ServiceRecord)
    served_on: date | None = None
    learned: LearnedUse | None = None
    speed: Speed = field(default_factory=Speed)
    unusual: list[UnusualDays] = field(default_factory=list)

    @classmethod
    def start(cls, scene: Scene) -> "State":
        """Before anything was logged."""
        store, nothing = scene.store, np.zeros(len(scene.model.mean))
        started = [
            Hypothesis(belief=belief, x_since=nothing, log_weight=float(np.log(chance)))
            for chance, belief in scene.context.starts()
        ]
        for each in started if store.is_bank else ():
            each.days = each.days._replace(most=Tracking.bank_spread_most)
        return cls(hypotheses=started, reserve=carried(scene.rig, store))

    def copy(self) -> "State":
        """The state as it stands, apart from what the walk does next; of a long past only the end is kept."""
        return replace(
            self,
            hypotheses=[_copied(hypothesis) for hypothesis in self.hypotheses],
            compared=self.compared[-Tracking.checkpoint_readings :],
            acts=list(self.acts),
            services=replace(self.services),
            speed=replace(self.speed),
            unusual=[],
        )

    @property
    def best(self) -> Hypothesis:
        """The likeliest hypothesis."""
        return self.hypotheses[0]

    @property
    def belief(self) -> b.Belief:
        """All hypotheses as one belief."""
        return blended(self.hypotheses)

    @property
    def known_at(self) -> datetime | None:
        """When the store was last read, or its level set anew."""
        if self.last_reset is None or self.read_at is None:
            return self.last_reset or self.read_at
        return max(self.last_reset, self.read_at)

    @property
    def is_known(self) -> bool:
        """Whether its level can be told."""
        return self.known_since is not None and self.lost_since is None

    def write_down(self, at: datetime, cause: Cause = Cause.USE) -> None:
        """Keep the level as it is known at a time."""
        for each in self.hypotheses:
            each.write_down(at, cause)

    def stay_empty(self, store: Store) -> None:
        """It was drained, and nothing goes in or out until it is filled again."""
        for each in self.hypotheses:
            each.belief = b.reset_level(each.belief, 0.0, Readings.end_sd * store.capacity)
            each.settle()

    def step_lost(self, store: Store) -> None:
        """Nothing is known of where the level lies."""
        for each in self.hypotheses:
            each.belief = b.lost_level(each.belief, store.line_level, store.good_end)


def _copied(hypothesis: Hypothesis) -> Hypothesis:
    history = hypothesis.history
    if history and history[-1].at - history[0].at > _KEEP_HISTORY:
        since = history[-1].at - _KEEP_HISTORY
        history = [point for point in history if point.at >= since]
    return replace(hypothesis, history=list(history), drift=replace(hypothesis.drift))
