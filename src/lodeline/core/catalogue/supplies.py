"""What else runs out or fills up, added by one touch: how it is counted and how much there usually is room for."""

from typing import Any, ClassVar

from lodeline.core.catalogue.row import Row
from lodeline.core.catalogue.terms import Sense, Served
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SupplyPreset(Row):
    """A supply as it usually is (common practice); everything of it can be changed afterwards."""

    table: ClassVar[dict[str, Any]] = {}

    name: str
    unit: str
    sense: Sense
    capacity: float
    served: Served = Served.STOP
    kwh_per_unit: float | None = None


_ROWS = (
    SupplyPreset(id="rubbish", name="Rubbish", unit="bags", sense=Sense.FILLS, capacity=3.0),
    SupplyPreset(id="recycling", name="Recycling", unit="bags", sense=Sense.FILLS, capacity=2.0),
    SupplyPreset(id="firewood", name="Firewood", unit="kg", sense=Sense.DRAINS, capacity=40.0, kwh_per_unit=4.0),
    SupplyPreset(id="pellets", name="Pellets", unit="kg", sense=Sense.DRAINS, capacity=30.0, kwh_per_unit=4.8),
    SupplyPreset(
        id="cylinders",
        name="One-use gas cylinders",
        unit="cylinders",
        sense=Sense.DRAINS,
        capacity=8.0,
        kwh_per_unit=5.8,
    ),
    SupplyPreset(id="laundry", name="Laundry to wash", unit="kg", sense=Sense.FILLS, capacity=8.0),
    SupplyPreset(id="food", name="Food", unit="days of food", sense=Sense.DRAINS, capacity=7.0),
    SupplyPreset(id="additive", name="Toilet additive", unit="doses", sense=Sense.DRAINS, capacity=12.0),
    SupplyPreset(id="medium", name="Toilet medium", unit="uses", sense=Sense.DRAINS, capacity=80.0),
    SupplyPreset(id="toilet-bags", name="Toilet bags", unit="bags", sense=Sense.DRAINS, capacity=40.0),
)

SUPPLY_PRESETS: dict[str, SupplyPreset] = SupplyPreset.table
SUPPLY_PRESETS.update({row.id: row for row in _ROWS})
