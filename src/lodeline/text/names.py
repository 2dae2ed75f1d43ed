"""What things are called on screen: the words of the closed sets that rows of the catalogue do not name."""

from collections.abc import Sequence

from lodeline.core.catalogue import (
    Body,
    DayStatus,
    Feed,
    Insulation,
    Outlet,
    Served,
    SkyWord,
    StoreKind,
    System,
    Toilet,
    Via,
    VoltsState,
    When,
)
from lodeline.core.rig import Store
from lodeline.text.display import listed

SKIES: dict[SkyWord, str] = {
    SkyWord.CLEAR: "clear",
    SkyWord.MIXED: "mixed",
    SkyWord.OVERCAST: "overcast",
    SkyWord.WET: "wet",
}
STATUSES: dict[DayStatus, str] = {
    DayStatus.PARKED: "parked",
    DayStatus.MOVING: "moving",
    DayStatus.HOOKUP: "plugged in",
}
VIA: dict[Via, str] = {Via.DC: "the bank's own volts", Via.INVERTER: "the inverter"}
WHEN: dict[When, str] = {When.ANY: "day and night", When.DAY: "by day", When.NIGHT: "at night"}
VOLTS: dict[VoltsState, str] = {
    VoltsState.REST: "at rest",
    VoltsState.LOAD: "under load",
    VoltsState.CHARGE: "on charge",
}
SYSTEMS: dict[System, str] = {
    System.METRIC: "litres, kg, km, °C",
    System.US: "gallons, lb, miles, °F",
    System.UK: "litres, kg, miles, °C",
}
OUTLETS: dict[Outlet, str] = {
    Outlet.SINK: "the sink",
    Outlet.SHOWER: "the shower",
    Outlet.TOILET: "the toilet",
    Outlet.URINE: "urine",
}
SERVED: dict[Served, str] = {Served.STOP: "at a stop", Served.HERE: "here, on the spot or on foot"}
TOILETS: dict[Toilet, str] = {
    Toilet.CASSETTE: "cassette",
    Toilet.BLACK: "black tank",
    Toilet.COMPOSTING: "composting, with urine bottle",
    Toilet.NONE: "none",
}
BODIES: dict[Body, str] = {
    Body.VAN: "a van",
    Body.MOTORHOME: "a motorhome",
    Body.TRAILER: "a trailer",
    Body.TRUCK: "a truck with a box",
    Body.BUS: "a bus",
}
INSULATIONS: dict[Insulation, str] = {Insulation.GOOD: "well", Insulation.FAIR: "fairly well", Insulation.POOR: "badly"}
FEEDS: dict[Feed, str] = {
    Feed.FUEL: "its gas or fuel",
    Feed.DC: "the bank's volts",
    Feed.MAINS: "mains",
    Feed.OFF: "nothing, it is off",
}
HEATERS: dict[str, str] = {"diesel": "vehicle fuel", "gas": "gas", "none": "nothing"}
RESERVE, OUTSIDE = "the reserve", "outside"
UNLISTED_LOAD = "Not listed, seen in the log"
INVERTER_ITSELF = "Inverter itself"
NEVER_SLEEPS = "Alarms, monitors and the bank itself"


def apart(kind: StoreKind) -> str:
    """What a waste tank runs over into, or what takes the place of a full one."""
    return "tote" if kind.runs_over else "spare"


def named(stores: Sequence[Store]) -> str:
    """Stores in a list: ``Fresh water and Grey tank``."""
    return listed([store.name for store in stores])


_LEAST_LETTERS = 4  # so that gas is one


def is_plural(name: str) -> bool:
    """Whether a name says that it is several: ``Propane, both bottles``."""
    words = name.lower().split()
    last = words[-1] if words else ""
    return "both" in words or (len(last) >= _LEAST_LETTERS and last.endswith("s") and not last.endswith("ss"))


def are_several(stores: Sequence[Store]) -> bool:
    """Whether a verb after their names has the plural."""
    return len(stores) > 1 or (len(stores) == 1 and is_plural(stores[0].name))


def be(stores: Sequence[Store]) -> str:
    """The verb after their names: ``is`` or ``are``."""
    return "are" if are_several(stores) else "is"


def verb(store: Store, one: str, many: str) -> str:
    """The verb after a store's name: ``runs``, but ``Propane, both bottles run``."""
    return many if is_plural(store.name) else one
