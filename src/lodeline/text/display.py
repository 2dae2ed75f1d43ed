"""How one rig's people see quantities and times, and the grammar of numbers."""

from datetime import datetime
from math import floor, log10

from lodeline.core.catalogue import Shown, System, shown
from lodeline.core.rig import Rig, Store
from lodeline.core.values import dataclass
from lodeline.core.zone import Zone
from lodeline.text.habits import exact, figure

MINUS = "−"
_WHOLE_FROM = 10
_DRAWN_DIGITS = 3
_CENTS = 2
# How near a number is to one with few digits where it was written so: what converting it leaves.
_WRITTEN = 1e-9


@dataclass(frozen=True, slots=True)
class Display:
    """The units that people think in, the clock that they live by, and their money: its ISO 4217 code, None where
    nobody said."""

    system: System
    zone: Zone
    currency: str | None = None

    @classmethod
    def of(cls, rig: Rig) -> "Display":
        """How a rig's people see things."""
        return cls(rig.units, rig.zone, rig.currency)

    def unit(self, unit: str) -> Shown:
        """How a base unit is shown."""
        return shown(unit, self.system)

    def value(self, base: float, unit: str, digits: int = _DRAWN_DIGITS) -> float:
        """A number in the shown unit, rounded for drawing and for fields."""
        return round(self.unit(unit).to_shown(base), digits)

    def number(self, base: float, unit: str) -> str:
        """A number in the shown unit, rounded as people read it."""
        how = self.unit(unit)
        return number(how.to_shown(base), how.decimals)

    def seen(self, base: float, unit: str) -> float:
        """The number that a reader sees."""
        how = self.unit(unit)
        value = how.to_shown(base)
        return round(value, how.decimals if abs(value) < _WHOLE_FROM else 0)

    def amount(self, base: float, unit: str) -> str:
        """Number and unit: ``63 L``."""
        return f"{self.number(base, unit)} {self.unit(unit).unit}"

    def rough(self, base: float, unit: str) -> str:
        """Number and unit of what is hardly known: two digits that count, ``1,100 km``."""
        how = self.unit(unit)
        return f"{two_digits(how.to_shown(base))} {how.unit}"

    def coarse(self, base: float, unit: str) -> str:
        """Number and unit of what is proposed: two digits that count, none behind the point."""
        how = self.unit(unit)
        shown = how.to_shown(base)
        return f"{two_digits(shown) if abs(shown) >= _WHOLE_FROM else figure(round(shown))} {how.unit}"

    def rough_span(self, low: float, high: float, unit: str) -> str:
        """A range of the same: ``490 to 1,100 km``."""
        how = self.unit(unit)
        ends = two_digits(how.to_shown(low)), two_digits(how.to_shown(high))
        text = ends[1] if ends[0] == ends[1] else f"{ends[0]} to {ends[1]}"
        return f"{text} {how.unit}"

    def as_read(self, base: float, unit: str) -> str:
        """A quantity that somebody read off, with the digits that they wrote: ``10.6 kg``."""
        how = self.unit(unit)
        digits = digits_of(how.to_shown(base))
        return self.amount(base, unit) if digits is None else f"{figure(how.to_shown(base), digits)} {how.unit}"

    def span(self, low: float, high: float, unit: str) -> str:
        """A range with one unit: ``54 to 71 L``; one number where both ends read alike."""
        ends = self.number(low, unit), self.number(high, unit)
        text = ends[1] if ends[0] == ends[1] else f"{ends[0]} to {ends[1]}"
        return f"{text} {self.unit(unit).unit}"

    def contents(self, store: Store, base: float) -> str:
        """Contents of a store: ``63 L``."""
        return self.amount(base, store.unit)

    def per(self, base: float, unit: str, other: str, count: float = 1.0, digits: int = 2) -> str:
        """A rate in shown units: so much ``unit`` for ``count`` of the shown ``other``. The number and unit alone."""
        over = shown(other, self.system)
        rate = base * self.unit(unit).factor / over.factor * count
        return f"{figure(rate, digits)} {self.unit(unit).unit}"

    def money(self, amount: float) -> str:
        """An amount of money as it is priced: ``12 EUR``, ``4.50 EUR``."""
        return self._money(figure(amount) if float(amount).is_integer() else figure(amount, _CENTS))

    def about(self, amount: float) -> str:
        """An amount of money as it is expected: ``about 58 EUR``."""
        return f"about {self._money(figure(round(amount)))}"

    def _money(self, number: str) -> str:
        return f"{number} {self.currency}" if self.currency else number

    def local(self, at: datetime) -> datetime:
        """An instant as the clock aboard shows it."""
        return self.zone.local(at)

    def iso(self, at: datetime) -> str:
        """An instant with the rig's offset, ISO 8601."""
        return self.zone.local(at).isoformat()


METRIC = Display(System.METRIC, Zone("UTC"))


def number(value: float, decimals: int = 0) -> str:
    """A number as people read it: under ten with its decimals, larger ones whole, thousands parted; nothing is 0."""
    digits = decimals if abs(value) < _WHOLE_FROM else 0
    text = figure(abs(value), digits)
    if not text.strip("0.,"):
        return "0"
    return f"{MINUS}{text}" if value < 0 else text


def two_digits(value: float) -> str:
    """A number of which two digits count: ``0.23``, ``4.0``, ``490``, ``1,100``."""
    if not value:
        return "0"
    digits = 1 - floor(log10(abs(value)))
    return figure(round(value, digits), max(0, digits))


def digits_of(value: float, most: int = 2) -> int | None:
    """The decimals with which a number was written, where it has no more than so many; else None."""
    near = abs(value) * _WRITTEN
    return next((digits for digits in range(most + 1) if abs(round(value, digits) - value) <= near), None)


def percent_as_read(share: float) -> str:
    """A share that somebody read off in per cent, with the digits that they wrote: ``72.5 %``."""
    return f"{figure(share * 100, digits_of(share * 100, 1) or 0)} %"


def percent(share: float) -> str:
    """A share in per cent: ``72 %``."""
    return f"{figure(share * 100)} %"


def percent_span(low: float, high: float) -> str:
    """A range of shares in per cent, one number where both ends read alike."""
    first, last = figure(low * 100), percent(high)
    return last if f"{first} %" == last else f"{first} to {last}"


def counted(n: float, one: str, many: str | None = None) -> str:
    """A count with its noun: ``1 day``, ``3 days``."""
    text = exact(n)
    return f"{text} {one if n == 1 else many or one + 's'}"


def listed(words: list[str] | tuple[str, ...], last: str = "and") -> str:
    """Words as a list: ``a, b and c``."""
    if len(words) < 2:
        return "".join(words)
    return f"{', '.join(words[:-1])} {last} {words[-1]}"


def capital(text: str) -> str:
    """A sentence's first letter in capitals; the rest stays."""
    return text[:1].upper() + text[1:]
