"""How a store is used: drivers and what one expects of their coefficients."""

from dataclasses import dataclass

import numpy as np

from lodeline.core.energy.sun import Floats
from lodeline.core.tracking.kinds import NO_KINDS, DayKinds


@dataclass(frozen=True, slots=True)
class UseModel:
    """How a store is used.

    ``mean`` and ``sd`` are the starting coefficients of the drivers, shape (k,); ``day_cv`` their day-to-day
    spread as a share, shape (k,); ``drift`` the relative walk of a coefficient in a day; ``shared`` the share of
    the day-to-day variance that all stores of the rig have in common; ``correlation`` how coefficients go together.
    """

    drivers: tuple[str, ...]
    mean: Floats
    sd: Floats
    day_cv: Floats
    drift: float = 0.05
    shared: float = 0.0
    kinds: DayKinds = NO_KINDS
    correlation: Floats | None = None

    @property
    def together(self) -> Floats:
        """Correlation of the coefficients, before the log and as they drift, shape (k, k)."""
        return self.correlation if self.correlation is not None else np.eye(len(self.mean))

    @property
    def usual_x(self) -> Floats:
        """The drivers of a usual day with the usual crew, shape (k,); for stores whose first driver is people."""
        return np.array([1.0 if name == "people" else self.kinds.usual(name) for name in self.drivers])
