"""A lever of a rig: what it changes about each store's coming days, and how hard it is for the crew."""

from collections.abc import Iterable, Mapping
from dataclasses import replace
from datetime import date

import numpy as np

from lodeline.core.book import Spot
from lodeline.core.catalogue.levers import LEVER_KINDS, LeverKind
from lodeline.core.forecast.change import Change, within
from lodeline.core.forecast.known import Known
from lodeline.core.forecast.paths import Ahead
from lodeline.core.rig import Rig
from lodeline.core.statistics import Floats
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Touch:
    """What a lever does to one store. ``per_day``: spared (+) or used up (-) a day; ``once``: gained on top once."""

    store: str
    per_day: float = 0.0
    once: float = 0.0

    @property
    def helps(self) -> bool:
        """Whether it is for the better."""
        return self.per_day > 0 or self.once > 0


@dataclass(frozen=True, slots=True, kw_only=True)
class Lever:
    """One thing that this crew can do. ``subject``: the load, source or store that it is done with; ``amount``: of what
    is bought or carried; ``spot``: the place where; ``hardship``: None where the crew never does it."""

    id: str
    kind: LeverKind
    hardship: int | None
    changes: Mapping[str, Change]
    touches: tuple[Touch, ...]
    subject: str = ""
    amount: float | None = None
    spot: str | None = None

    def between(self, ahead: Ahead, since: date, until: date) -> "Lever":
        """The lever from one date through another. What is done once is done whole."""
        in_force: Floats = np.array([float(since <= day.date <= until) for day in ahead.days])
        return replace(self, changes={id: within(change, in_force) for id, change in self.changes.items()})


@dataclass(frozen=True, slots=True, kw_only=True)
class Aboard:
    """What tells which levers a rig has: what is known of it, and the days ahead."""

    known: Known
    ahead: Ahead

    @property
    def rig(self) -> Rig:
        """The rig."""
        return self.known.rig

    @property
    def n_dates(self) -> int:
        """Dates ahead, today among them."""
        return len(self.ahead.days)

    def lever(
        self,
        kind_id: str,
        changes: Mapping[str, Change],
        touches: Iterable[Touch],
        *,
        subject: str = "",
        id: str = "",
        amount: float | None = None,
        spot: Spot | None = None,
    ) -> Lever:
        """A lever with the hardship that the crew gave it. ``id``: where it is not its kind's with its subject."""
        kind = LEVER_KINDS[kind_id]
        id = id or (f"{kind_id}-{subject}" if subject else kind_id)
        return Lever(
            id=id,
            kind=kind,
            hardship=self.rig.hardship_of(kind, id),
            changes=changes,
            touches=tuple(touches),
            subject=subject,
            amount=kind.amount if amount is None else amount,
            spot=spot.id if spot is not None else None,
        )
