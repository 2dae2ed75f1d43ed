"""What a place may offer, and which stores are served by it."""

from typing import Any, ClassVar

from lodeline.core.catalogue.row import Row
from lodeline.core.catalogue.terms import Caution, Effect, Sense, StopAct, Thing
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class ServiceKind(Row):
    """A service of a place.

    ``serves``: kinds of stores that it serves, by id; of a supply those of the ``sense``. ``act``: what is done with
    the store; ``effect``: what that writes to the log. ``minutes``: how long it takes beside what flows (common
    practice); ``tags``: what says so in OpenStreetMap's tags, the first of which is written. ``unit``: that prices
    are given by; ``hose``: it goes through one; ``flows``: so that an amount takes its time; ``burns``: what is sold
    burns; ``drives``: a vehicle goes by it; ``coins``: where it costs something, that is often by coin; ``things``:
    what to take out for it.
    """

    table: ClassVar[dict[str, Any]] = {}

    name: str
    serves: tuple[str, ...] = ()
    act: StopAct | None = None
    effect: Effect | None = None
    minutes: float = 10.0
    sense: Sense | None = None
    event: str | None = None
    unit: str = "L"
    hose: bool = False
    flows: bool = False
    burns: bool = False
    drives: bool = False
    coins: bool = False
    things: tuple[Thing, ...] = ()
    tags: tuple[tuple[str, str], ...] = ()
    cautions: tuple[Caution, ...] = ()


_ROWS = (
    ServiceKind(
        id="water",
        name="water",
        serves=("fresh",),
        act=StopAct.FILL,
        effect=Effect.FILL,
        minutes=6.0,
        hose=True,
        flows=True,
        coins=True,
        things=(Thing.WATER_HOSE, Thing.REGULATOR, Thing.FILTER),
        tags=(
            ("amenity", "water_point"),
            ("amenity", "drinking_water"),
            ("water_point", "yes"),
            ("drinking_water", "yes"),
        ),
        cautions=(Caution.DRINKING_HOSE,),
    ),
    ServiceKind(
        id="grey",
        name="grey water",
        serves=("grey",),
        act=StopAct.EMPTY,
        effect=Effect.EMPTY,
        minutes=6.0,
        hose=True,
        coins=True,
        things=(Thing.WASTE_HOSE, Thing.GLOVES),
        tags=(
            ("sanitary_dump_station:grey_water", "yes"),
            ("amenity", "sanitary_dump_station"),
            ("sanitary_dump_station", "yes"),
        ),
        cautions=(Caution.DUMP_ALLOWED,),
    ),
    ServiceKind(
        id="black",
        name="toilet waste",
        serves=("black", "cassette", "urine"),
        act=StopAct.EMPTY,
        effect=Effect.EMPTY,
        minutes=8.0,
        hose=True,
        coins=True,
        things=(Thing.WASTE_HOSE, Thing.GLOVES),
        tags=(("amenity", "sanitary_dump_station"), ("sanitary_dump_station", "yes")),
        cautions=(Caution.DUMP_ALLOWED,),
    ),
    ServiceKind(
        id="solids",
        name="rubbish and solids",
        serves=("solids", "supply"),
        sense=Sense.FILLS,
        act=StopAct.EMPTY,
        effect=Effect.EMPTY,
        minutes=5.0,
        coins=True,
        tags=(("amenity", "waste_disposal"), ("waste_disposal", "yes")),
        cautions=(Caution.DUMP_ALLOWED,),
    ),
    ServiceKind(
        id="hookup",
        name="hookup",
        serves=("battery",),
        act=StopAct.CHARGE,
        minutes=10.0,
        event="shore",
        things=(Thing.POST_CABLE, Thing.POST_ADAPTER),
        tags=(("power_supply", "yes"),),
        cautions=(Caution.LICENSED,),
    ),
    ServiceKind(
        id="gas",
        name="gas",
        serves=("gas",),
        act=StopAct.FILL,
        effect=Effect.SWAP,
        minutes=15.0,
        unit="kg",
        burns=True,
        things=(Thing.BOTTLE_SPANNER,),
        tags=(("shop", "gas"), ("fuel:lpg", "yes")),
        cautions=(Caution.GAS_WHILE_DRIVING,),
    ),
    ServiceKind(
        id="fuel",
        name="fuel",
        serves=("fuel",),
        act=StopAct.FILL,
        effect=Effect.FILL,
        minutes=10.0,
        burns=True,
        drives=True,
        tags=(("amenity", "fuel"),),
        cautions=(Caution.GAS_WHILE_DRIVING,),
    ),
    ServiceKind(
        id="supplies",
        name="shop",
        serves=("supply",),
        sense=Sense.DRAINS,
        act=StopAct.FILL,
        effect=Effect.FILL,
        minutes=45.0,
        things=(Thing.BAGS,),
        tags=(("shop", "supermarket"), ("shop", "convenience")),
    ),
    ServiceKind(
        id="laundry",
        name="laundry",
        minutes=90.0,
        coins=True,
        event="laundry",
        tags=(("shop", "laundry"), ("washing_machine", "yes")),
    ),
    ServiceKind(id="shower", name="shower", minutes=30.0, coins=True, tags=(("amenity", "shower"), ("shower", "yes"))),
)

SERVICES: dict[str, ServiceKind] = ServiceKind.table
SERVICES.update({row.id: row for row in _ROWS})
