"""One typed row for each kind of store, source, load, event, day, gauge, method, chemistry and unit.

All that is true of a kind stands in its row, once. What a file may hold, what a set-up assumes, what the Round offers
and what the screens list is derived from here.
"""

from lodeline.core.catalogue.chemistries import CELLS, Cells
from lodeline.core.catalogue.events import DAY_KINDS, EVENT_TYPES, DayKind, EventType
from lodeline.core.catalogue.gauges import GAUGES, METHODS
from lodeline.core.catalogue.sources import LOAD_KINDS, SOURCE_KINDS, LoadKind, SourceKind, source_of_event
from lodeline.core.catalogue.stores import EFFECT_SENSE, OWN_LINE, STORE_KINDS, Prior, StoreKind, UseSpec
from lodeline.core.catalogue.terms import (
    Ask,
    Burns,
    Caution,
    Chemistry,
    DayStatus,
    Driver,
    Effect,
    EventField,
    GaugeKind,
    Hue,
    Method,
    Pattern,
    Role,
    Sense,
    Served,
    SkyWord,
    Sparing,
    StoreField,
    Toilet,
    ToldBy,
    Via,
    VoltsState,
    When,
)
from lodeline.core.catalogue.units import UNITS, Shown, System, Unit, counts_days, shown, typed_unit

__all__ = [
    "CELLS", "DAY_KINDS", "EFFECT_SENSE", "EVENT_TYPES", "GAUGES", "LOAD_KINDS", "METHODS", "OWN_LINE", "SOURCE_KINDS",
    "STORE_KINDS", "UNITS", "Ask", "Burns", "Caution", "Cells", "Chemistry", "DayKind", "DayStatus", "Driver", "Effect",
    "EventField", "EventType", "GaugeKind", "Hue", "LoadKind", "Method", "Pattern", "Prior", "Role", "Sense", "Served",
    "Shown", "SkyWord", "SourceKind", "Sparing", "StoreField", "StoreKind", "System", "Toilet", "ToldBy", "Unit",
    "UseSpec", "Via",
    "VoltsState", "When", "counts_days", "shown", "source_of_event", "typed_unit",
]  # fmt: skip
