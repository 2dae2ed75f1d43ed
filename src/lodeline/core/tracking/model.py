"""How a store is used: drivers and what one expects of their coefficients."""

import numpy as np

from lodeline.core.catalogue import Driver
from lodeline.core.figures import Use
from lodeline.core.statistics import Floats
from lodeline.core.tracking.day_kinds import NO_DAY_KINDS, KnownDayKinds
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class UseModel:
    """How a store is used.

    ``drivers``: fixed ones by ``Driver``, kinds of days by the id of their row. ``mean`` and ``sd`` are the starting
    coefficients of the drivers, shape (k,); ``day_cv`` their day-to-day spread as a share, shape (k,); ``drift`` the
    relative walk of each coefficient in a day; ``shared`` the share of the day-to-day variance that all stores of the
    rig have in common; ``needed``: what nobody lives with less of, of the first driver; ``correlation`` how
    coefficients go together; ``whoever`` the part of people's use that does not depend on who is aboard;
    ``may_not_heat``: whether it is a second tank of which nobody said what burns from it.
    """

    drivers: tuple[str, ...]
    mean: Floats
    sd: Floats
    day_cv: Floats
    drift: Floats | float = Use.drift
    shared: float = 0.0
    needed: float = 0.0
    whoever: float = 0.0
    day_kinds: KnownDayKinds = NO_DAY_KINDS
    correlation: Floats | None = None
    may_not_heat: bool = False

    @property
    def together(self) -> Floats:
        """Correlation of the coefficients, before the log and as they drift, shape (k, k)."""
        return self.correlation if self.correlation is not None else np.eye(len(self.mean))

    @property
    def usual_x(self) -> Floats:
        """The drivers of a usual day with the usual crew, shape (k,); for stores whose first driver is people."""
        return np.array([1.0 if name == Driver.PEOPLE else self.day_kinds.usual(name) for name in self.drivers])
