"""Base units and the three systems they are shown in.

Factors are exact by definition (NIST SP 811, Handbook 44 appendix C).
"""

from dataclasses import dataclass
from enum import StrEnum

LITRES_PER_US_GAL = 3.785411784
LITRES_PER_IMPERIAL_GAL = 4.54609
KG_PER_LB = 0.45359237
KM_PER_MILE = 1.609344


class System(StrEnum):
    """How quantities are shown to people. Storage is always in base units."""

    METRIC = "metric"
    US = "us"
    UK = "uk"


@dataclass(frozen=True, slots=True)
class Shown:
    """A quantity as a person sees it: ``value = base * factor + offset``, then its unit."""

    unit: str
    factor: float
    offset: float = 0.0
    decimals: int = 0

    def to_shown(self, base: float) -> float:
        """Convert a base-unit value to the shown unit."""
        return base * self.factor + self.offset

    def to_base(self, shown: float) -> float:
        """Convert a shown value back to the base unit."""
        return (shown - self.offset) / self.factor

    def text(self, base: float) -> str:
        """Value and unit, rounded as people read it."""
        value = self.to_shown(base)
        decimals = self.decimals if abs(value) < 10 else 0
        return f"{value:,.{decimals}f} {self.unit}"


_US = {
    "L": Shown("gal", 1 / LITRES_PER_US_GAL, decimals=1),
    "kg": Shown("lb", 1 / KG_PER_LB, decimals=1),
    "km": Shown("mi", 1 / KM_PER_MILE),
    "degC": Shown("°F", 1.8, 32.0),
}
_UK = {"km": Shown("mi", 1 / KM_PER_MILE)}
_METRIC = {
    "L": Shown("L", 1.0, decimals=1),
    "kg": Shown("kg", 1.0, decimals=1),
    "km": Shown("km", 1.0),
    "degC": Shown("°C", 1.0),
    "Ah": Shown("Ah", 1.0),
    "Wh": Shown("Wh", 1.0),
}
_BY_SYSTEM = {System.METRIC: _METRIC, System.UK: _METRIC | _UK, System.US: _METRIC | _US}


def shown(unit: str, system: System) -> Shown:
    """How a base unit is shown in a system; a supply's own unit is shown as it is."""
    return _BY_SYSTEM[system].get(unit, Shown(unit, 1.0, decimals=1))


# Units people type, with the base unit and the factor to it. "gal" depends on the system.
TYPED = {
    "l": ("L", 1.0), "litre": ("L", 1.0), "litres": ("L", 1.0), "liter": ("L", 1.0), "liters": ("L", 1.0),
    "ml": ("L", 0.001), "kg": ("kg", 1.0), "g": ("kg", 0.001), "lb": ("kg", KG_PER_LB), "lbs": ("kg", KG_PER_LB),
    "ah": ("Ah", 1.0), "wh": ("Wh", 1.0), "kwh": ("Wh", 1000.0),
    "v": ("V", 1.0), "volt": ("V", 1.0), "volts": ("V", 1.0),
    "h": ("h", 1.0), "km": ("km", 1.0), "mi": ("km", KM_PER_MILE), "miles": ("km", KM_PER_MILE),
}  # fmt: skip
_GALLONS = {"gal", "gals", "gallon", "gallons"}


def typed_unit(text: str, system: System) -> tuple[str, float] | None:
    """Base unit and factor of a unit as typed, or None when it is not one.

    A gallon is the US one unless the system is ``uk``.
    """
    word = text.strip().lower().rstrip(".")
    if word in _GALLONS:
        return "L", LITRES_PER_IMPERIAL_GAL if system is System.UK else LITRES_PER_US_GAL
    return TYPED.get(word)
