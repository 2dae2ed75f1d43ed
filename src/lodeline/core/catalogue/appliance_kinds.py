"""What burns gas or fuel: what each kind takes where nobody says more. Common practice."""

from dataclasses import dataclass
from typing import Any, ClassVar

from lodeline.core.catalogue.row import Row


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class ApplianceKind(Row):
    """A kind of appliance.

    ``usual_kw`` with ``usual_hours`` at it a day, of two people where ``by_people``; ``cv``: the error of what that
    makes. ``by_cold``: it burns by the degree-days under 18 degrees C, so many hours a degree-day.
    """

    table: ClassVar[dict[str, Any]] = {}

    name: str
    usual_kw: float
    usual_hours: float
    cv: float
    by_people: bool = False
    by_cold: bool = False


_ROWS = (
    ApplianceKind(id="cooker", name="cooker", usual_kw=1.8, usual_hours=1.3, cv=0.5, by_people=True),
    ApplianceKind(id="oven", name="oven", usual_kw=2.0, usual_hours=0.3, cv=0.8, by_people=True),
    ApplianceKind(id="fridge", name="absorption fridge", usual_kw=0.17, usual_hours=24.0, cv=0.3),
    ApplianceKind(id="water-heater", name="water heater", usual_kw=6.0, usual_hours=0.25, cv=0.6, by_people=True),
    ApplianceKind(id="heater", name="heater", usual_kw=3.0, usual_hours=0.2, cv=0.8, by_cold=True),
    ApplianceKind(id="other", name="something else", usual_kw=1.0, usual_hours=0.5, cv=1.0),
)  # fmt: skip

APPLIANCE_KINDS: dict[str, ApplianceKind] = ApplianceKind.table
APPLIANCE_KINDS.update({row.id: row for row in _ROWS})
