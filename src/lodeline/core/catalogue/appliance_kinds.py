"""What burns gas, fuel or wood: what each kind takes where nobody says more. Common practice."""

from typing import Any, ClassVar

from lodeline.core.catalogue.row import Row
from lodeline.core.figures import Heat
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class ApplianceKind(Row):
    """A kind of appliance.

    ``usual_kw`` with ``usual_hours`` at it a day, of two people where ``by_people``; ``cv``: the error of what that
    makes. ``by_cold``: it burns by the degree-days under 18 degrees C, so many hours a degree-day. ``efficiency``: part
    of its heat that does what it is for; ``unvented``: its fumes go into the room; ``fan``: as a rule it
    needs a fan or pump; ``asks_minutes``: of a usual run;
    ``by_litre``: it heats water, and is reckoned in litres of it; ``spares``: the part that a crew can do without.
    """

    table: ClassVar[dict[str, Any]] = {}

    name: str
    usual_kw: float
    usual_hours: float
    cv: float
    by_people: bool = False
    by_cold: bool = False
    efficiency: float = 1.0
    unvented: bool = False
    changes_over: bool = False
    fan: bool = False
    asks_minutes: float = 60.0
    by_litre: bool = False
    solid: bool = False
    spares: float = 0.0


_ROWS = (
    ApplianceKind(
        id="cooker",
        name="cooker",
        usual_kw=1.8,
        usual_hours=1.3,
        cv=0.5,
        by_people=True,
        unvented=True,
        asks_minutes=40.0,
    ),
    ApplianceKind(
        id="oven",
        name="oven",
        usual_kw=2.0,
        usual_hours=0.3,
        cv=0.8,
        by_people=True,
        unvented=True,
        asks_minutes=90.0,
        spares=Heat.oven_spares,
    ),
    ApplianceKind(
        id="grill",
        name="grill",
        usual_kw=1.6,
        usual_hours=0.1,
        cv=0.9,
        by_people=True,
        unvented=True,
        asks_minutes=15.0,
    ),
    ApplianceKind(
        id="griddle", name="griddle outdoors", usual_kw=3.5, usual_hours=0.1, cv=0.9, by_people=True, asks_minutes=25.0
    ),
    ApplianceKind(
        id="fridge",
        name="absorption fridge",
        usual_kw=0.17,
        usual_hours=24.0,
        cv=0.3,
        changes_over=True,
        asks_minutes=1440.0,
    ),
    ApplianceKind(
        id="water-heater",
        name="water heater",
        usual_kw=6.0,
        usual_hours=0.25,
        cv=0.6,
        by_people=True,
        efficiency=0.75,
        by_litre=True,
        asks_minutes=20.0,
    ),
    ApplianceKind(
        id="heater",
        name="heater",
        usual_kw=3.0,
        usual_hours=0.2,
        cv=0.8,
        by_cold=True,
        efficiency=0.8,
        fan=True,
        asks_minutes=540.0,
    ),
    ApplianceKind(
        id="unvented-heater",
        name="heater without a flue",
        usual_kw=2.0,
        usual_hours=0.2,
        cv=0.8,
        by_cold=True,
        unvented=True,
        asks_minutes=60.0,
    ),
    ApplianceKind(
        id="stove",
        name="wood or pellet stove",
        usual_kw=4.0,
        usual_hours=0.2,
        cv=0.8,
        by_cold=True,
        solid=True,
        efficiency=0.65,
        asks_minutes=300.0,
    ),
    ApplianceKind(id="lamp", name="lamp", usual_kw=0.15, usual_hours=1.0, cv=0.8, unvented=True, asks_minutes=120.0),
    ApplianceKind(id="other", name="something else", usual_kw=1.0, usual_hours=0.5, cv=1.0),
)

APPLIANCE_KINDS: dict[str, ApplianceKind] = ApplianceKind.table
APPLIANCE_KINDS.update({row.id: row for row in _ROWS})
