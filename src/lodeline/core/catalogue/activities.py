"""What water is used for: what one of each takes, how often it comes, and where the water goes. Common practice."""

from enum import StrEnum
from typing import Any, ClassVar

from lodeline.core.catalogue.row import Row
from lodeline.core.figures import Water
from lodeline.core.values import dataclass


class Each(StrEnum):
    """For whom an activity comes so often a day."""

    PERSON = "person"
    CREW = "crew"
    PET = "pet"


class Outlet(StrEnum):
    """Where used water leaves, as a grey tank may take it or not."""

    SINK = "sink"
    SHOWER = "shower"
    TOILET = "toilet"
    URINE = "urine"
    NONE = "none"


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Activity(Row):
    """Something that water is used for.

    ``each_l`` with ``each_sd_l``: one of it; ``per_day``: how often it comes for each of ``each``, where nobody said;
    ``event``: how it is logged by one touch, if it is. ``to_grey``: the part that reaches the drain at ``outlet``;
    ``hot``: the part that is heated water. ``need``: it is not cut by a ration below the floors. ``instead``: a
    sparing way of the same, ``group``: those of which a crew has one or the other.
    """

    table: ClassVar[dict[str, Any]] = {}

    name: str
    each_l: float
    each_sd_l: float
    per_day: float
    each: Each
    outlet: Outlet
    to_grey: float
    event: str | None = None
    hot: float = 0.0
    need: bool = False
    instead: str | None = None
    group: str = ""


_ROWS = (
    Activity(
        id="drink",
        name="drinking and cooking",
        each_l=Water.drink_l,
        each_sd_l=Water.drink_sd_l,
        per_day=1.0,
        each=Each.PERSON,
        outlet=Outlet.SINK,
        to_grey=0.25,
        hot=0.0,
        need=True,
    ),
    Activity(
        id="hands",
        name="hands and face",
        each_l=Water.hands_l,
        each_sd_l=Water.hands_sd_l,
        per_day=1.0,
        each=Each.PERSON,
        outlet=Outlet.SINK,
        to_grey=0.95,
        hot=0.2,
    ),
    Activity(
        id="dishes",
        name="dishes",
        each_l=Water.dishes_l,
        each_sd_l=Water.dishes_sd_l,
        per_day=1.0,
        each=Each.CREW,
        outlet=Outlet.SINK,
        to_grey=0.95,
        event="dishes",
        hot=0.5,
        instead="wiped",
        group="dishes",
    ),
    Activity(
        id="wiped",
        name="dishes, wiped first",
        each_l=Water.wiped_l,
        each_sd_l=Water.wiped_sd_l,
        per_day=0.0,
        each=Each.CREW,
        outlet=Outlet.SINK,
        to_grey=0.93,
        event="wiped",
        hot=0.5,
        group="dishes",
    ),
    Activity(
        id="shower",
        name="plain shower",
        each_l=Water.shower_l,
        each_sd_l=Water.shower_sd_l,
        per_day=0.4,
        each=Each.PERSON,
        outlet=Outlet.SHOWER,
        to_grey=0.95,
        event="shower",
        hot=0.6,
        instead="navy",
        group="shower",
    ),
    Activity(
        id="navy",
        name="navy shower",
        each_l=Water.navy_l,
        each_sd_l=Water.navy_sd_l,
        per_day=0.0,
        each=Each.PERSON,
        outlet=Outlet.SHOWER,
        to_grey=0.94,
        event="navy",
        hot=0.6,
        group="shower",
    ),
    Activity(
        id="laundry",
        name="laundry",
        each_l=Water.laundry_l,
        each_sd_l=Water.laundry_sd_l,
        per_day=0.0,
        each=Each.CREW,
        outlet=Outlet.SINK,
        to_grey=0.9,
        event="laundry",
        hot=0.3,
    ),
    Activity(
        id="flush",
        name="flush",
        each_l=Water.flush_l,
        each_sd_l=Water.flush_sd_l,
        per_day=4.0,
        each=Each.PERSON,
        outlet=Outlet.TOILET,
        to_grey=1.0,
        event="flush",
    ),
    Activity(
        id="pets",
        name="animals",
        each_l=Water.pets_l,
        each_sd_l=Water.pets_sd_l,
        per_day=1.0,
        each=Each.PET,
        outlet=Outlet.NONE,
        to_grey=0.0,
        need=True,
    ),
    Activity(
        id="cleaning",
        name="cleaning",
        each_l=Water.cleaning_l,
        each_sd_l=Water.cleaning_sd_l,
        per_day=0.1,
        each=Each.CREW,
        outlet=Outlet.SINK,
        to_grey=0.7,
        event="cleaning",
    ),
)

ACTIVITIES: dict[str, Activity] = Activity.table
ACTIVITIES.update({row.id: row for row in _ROWS})
# The activity that each event of one is.
ACTIVITY_OF_EVENT: dict[str, Activity] = {row.event: row for row in _ROWS if row.event}
