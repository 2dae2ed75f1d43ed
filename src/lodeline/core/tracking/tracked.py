"""What is known of a store at the end of its walk."""

from datetime import date, datetime
from functools import cached_property

from lodeline.core.conditions import Conditions
from lodeline.core.energy.skies import SkyHabit
from lodeline.core.figures import Tracking, Use
from lodeline.core.log import Reading
from lodeline.core.rig import Store
from lodeline.core.statistics import P10, P50, P90
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.charging import Charge
from lodeline.core.tracking.hypothesis import Compared, Doubt, Point, Possible, level_quantiles
from lodeline.core.tracking.model import UseModel
from lodeline.core.values import dataclass


@dataclass(frozen=True, kw_only=True)
class Tracked:
    """What is known of a store at the end of the walk.

    ``belief``: all that may be true as one; ``parts``: each of it with its chance. ``hour``: day hours of today that
    are over. ``reserve``: what is left of what is carried apart, in the store's unit. ``lost_since``: where its line
    should have been met since and nothing was logged, when it was last known; its level is then anybody's guess.
    ``drained_since``: it was drained against the frost.
    ``should_be_past``: use as expected has brought it past its line since it was read.
    """

    store: Store
    model: UseModel
    belief: b.Belief
    parts: tuple[Possible, ...]
    known_since: datetime | None
    spread: float
    sky_spread: float
    days_seen: float
    usual_sky: SkyHabit
    conditions: Conditions
    hour: float
    history: tuple[Point, ...] = ()
    doubts: tuple[Doubt, ...] = ()
    last_reading: Reading | None = None
    last_reset: datetime | None = None
    pending: tuple[Charge, ...] = ()
    compared: tuple[Compared, ...] = ()
    reserve: float = 0.0
    reserve_used_at: datetime | None = None
    lost_since: datetime | None = None
    drained_since: datetime | None = None
    should_be_past: bool = False
    known_at: datetime | None = None
    use_told_on: date | None = None
    km_per_h: float = Use.km_per_drive_hour

    @property
    def assumed(self) -> bool:
        """Whether the rate still rests on what crew and kind lead one to expect."""
        return self.days_seen < Tracking.known_days

    @cached_property
    def level(self) -> float:
        """The best estimate of the contents: as likely too high as too low, so never between two that may be true."""
        return level_quantiles(self.parts, self.store.capacity, P50)[0]

    @property
    def share(self) -> float:
        """How full it is, of what the store holds."""
        return min(1.0, self.level / self.store.capacity)

    @cached_property
    def level_range(self) -> tuple[float, float]:
        """The 8-in-10 range of the contents, kept within 0 to capacity."""
        low, high = level_quantiles(self.parts, self.store.capacity, P10, P90)
        return low, high

    def coefficient(self, driver: str) -> tuple[float, float] | None:
        """What is believed of a driver's coefficient and its error; None where it does not drive the store."""
        if driver not in self.model.drivers:
            return None
        return self.belief.coefficient(self.model.drivers.index(driver))

    @cached_property
    def doubted(self) -> frozenset[Reading]:
        """The readings that are doubted."""
        return frozenset(doubt.reading for doubt in self.doubts if doubt.reading is not None)

    @property
    def counted_reserve(self) -> float:
        """What is left of the reserve, where it counts."""
        return self.reserve if self.store.reserve_counts else 0.0

    @property
    def is_past_line(self) -> bool:
        """Whether the best estimate is past the lode line, and no reserve that counts is left."""
        past = (self.level - self.store.line_level) * self.store.sign >= 0 or self.should_be_past
        return past and self.counted_reserve <= 0
