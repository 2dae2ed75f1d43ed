"""Every number that the computation starts from, with its unit and its source: one sheet a subject.

What a rig's log teaches replaces them. A sheet's figures are read as plain numbers: ``Tracking.outlier_chance``.
"""

from lodeline.core.figures.climate import Climate
from lodeline.core.figures.energy import Energy
from lodeline.core.figures.forecast import Forecasting
from lodeline.core.figures.fuel import Fuel
from lodeline.core.figures.heat import Heat
from lodeline.core.figures.numeric import Numeric
from lodeline.core.figures.readings import Readings
from lodeline.core.figures.service import Serving
from lodeline.core.figures.stops import Levers, Stops
from lodeline.core.figures.table import SHEETS, Figure, Sheet
from lodeline.core.figures.tracking import Tracking
from lodeline.core.figures.use import Use
from lodeline.core.figures.volts import Volts
from lodeline.core.figures.water import Water

__all__ = [
    "SHEETS",
    "Climate",
    "Energy",
    "Figure",
    "Forecasting",
    "Fuel",
    "Heat",
    "Levers",
    "Numeric",
    "Readings",
    "Serving",
    "Sheet",
    "Stops",
    "Tracking",
    "Use",
    "Volts",
    "Water",
]
