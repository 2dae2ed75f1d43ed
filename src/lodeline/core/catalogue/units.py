"""Units: one row each says how it is shown in the three systems and how people type it.

Factors are exact by definition (NIST SP 811, Handbook 44 appendix C).
"""

from collections.abc import Mapping
from dataclasses import field
from enum import StrEnum

from lodeline.core.values import dataclass

LITRES_PER_US_GAL = 3.785411784
LITRES_PER_IMPERIAL_GAL = 4.54609
KG_PER_LB = 0.45359237
KM_PER_MILE = 1.609344
M_PER_FOOT = 0.3048
FAHRENHEIT_PER_C, FAHRENHEIT_AT_0_C = 1.8, 32.0


class System(StrEnum):
    """How quantities are shown to people. Storage is always in base units."""

    METRIC = "metric"
    US = "us"
    UK = "uk"


@dataclass(frozen=True, slots=True)
class Shown:
    """A quantity as a person sees it: ``shown = base * factor + offset``, then its unit.

    ``decimals``: of values under ten; larger ones are whole.
    """

    unit: str
    factor: float = 1.0
    offset: float = 0.0
    decimals: int = 0

    def to_shown(self, base: float) -> float:
        """Convert a base-unit value to the shown unit."""
        return base * self.factor + self.offset

    def to_base(self, shown: float) -> float:
        """Convert a shown value back to the base unit."""
        return (shown - self.offset) / self.factor


@dataclass(frozen=True, slots=True, kw_only=True)
class Unit:
    """A base unit. ``us`` and ``uk`` where it is shown otherwise there; ``typed``: words and what each is in it.

    ``typed_in``: words that mean another amount in another system.
    """

    id: str
    metric: Shown
    us: Shown | None = None
    uk: Shown | None = None
    typed: Mapping[str, float] = field(default_factory=dict)
    typed_in: Mapping[System, Mapping[str, float]] = field(default_factory=dict)

    def shown(self, system: System) -> Shown:
        """How it is shown in a system."""
        match system:
            case System.METRIC:
                return self.metric
            case System.US:
                return self.us or self.metric
            case System.UK:
                return self.uk or self.metric


def _words(words: str, factor: float) -> dict[str, float]:
    return dict.fromkeys(words.split(), factor)


_US_GALLON, _UK_GALLON = (_words("gal gals gallon gallons", f) for f in (LITRES_PER_US_GAL, LITRES_PER_IMPERIAL_GAL))

_ROWS = (
    Unit(
        id="L",
        metric=Shown("L", decimals=1),
        us=Shown("gal", 1 / LITRES_PER_US_GAL, decimals=1),
        typed=_words("l litre litres liter liters ltr ltrs lt lts", 1.0) | {"ml": 0.001},
        typed_in={System.METRIC: _US_GALLON, System.US: _US_GALLON, System.UK: _UK_GALLON},
    ),
    Unit(
        id="kg",
        metric=Shown("kg", decimals=1),
        us=Shown("lb", 1 / KG_PER_LB, decimals=1),
        typed={"kg": 1.0, "kgs": 1.0, "kilo": 1.0, "kilos": 1.0, "g": 0.001, "lb": KG_PER_LB, "lbs": KG_PER_LB},
    ),
    Unit(
        id="km",
        metric=Shown("km"),
        us=Shown("mi", 1 / KM_PER_MILE),
        uk=Shown("mi", 1 / KM_PER_MILE),
        typed={"km": 1.0, "mi": KM_PER_MILE, "miles": KM_PER_MILE},
    ),
    Unit(
        id="m",
        metric=Shown("m", decimals=1),
        us=Shown("ft", 1 / M_PER_FOOT, decimals=1),
        typed={"m": 1.0, "metres": 1.0, "meters": 1.0, "ft": M_PER_FOOT, "feet": M_PER_FOOT},
    ),
    Unit(id="degC", metric=Shown("°C"), us=Shown("°F", FAHRENHEIT_PER_C, FAHRENHEIT_AT_0_C)),
    # a difference of temperatures has no offset
    Unit(id="degC difference", metric=Shown("°C"), us=Shown("°F", FAHRENHEIT_PER_C)),
    Unit(id="Ah", metric=Shown("Ah"), typed={"ah": 1.0}),
    Unit(id="Wh", metric=Shown("Wh"), typed={"wh": 1.0, "kwh": 1000.0}),
    Unit(id="W", metric=Shown("W"), typed=_words("w watt watts", 1.0) | {"kw": 1000.0}),
    Unit(id="V", metric=Shown("V", decimals=1), typed=_words("v volt volts", 1.0)),
    Unit(id="A", metric=Shown("A"), typed=_words("a amp amps", 1.0)),
    Unit(id="h", metric=Shown("h", decimals=1), typed=_words("h hour hours", 1.0)),
    Unit(id="min", metric=Shown("min"), typed=_words("min minute minutes", 1.0)),
    Unit(id="uses", metric=Shown("uses"), typed=_words("use uses", 1.0)),
)

UNITS: dict[str, Unit] = {row.id: row for row in _ROWS}

# Words of a unit that people count a supply in, which say that one is used up a day.
DAY_WORDS = frozenset({"day", "days"})


def shown(unit: str, system: System) -> Shown:
    """How a base unit is shown in a system; a supply's own unit is shown as it is."""
    row = UNITS.get(unit)
    return row.shown(system) if row else Shown(unit, decimals=1)


def typed_unit(text: str, system: System) -> tuple[str, float] | None:
    """Base unit and factor of a unit as typed, or None when it is not one.

    A gallon is the US one unless the system is ``uk``.
    """
    word = text.strip().lower().rstrip(".")
    for row in UNITS.values():
        factor = row.typed.get(word) or row.typed_in.get(system, {}).get(word)
        if factor is not None:
            return row.id, factor
    return None


def counts_days(own_unit: str) -> bool:
    """Whether a supply's own unit counts days (``days of food``)."""
    return not DAY_WORDS.isdisjoint(own_unit.lower().split())
