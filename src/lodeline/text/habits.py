"""How a reader writes numbers, dates and the time of day. Set for a request; every sentence follows."""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import date

from lodeline.core.values import dataclass

# Names of ways to write a number, and the marks of each: between thousands, and before decimals.
NUMBERS = {"point": (",", "."), "comma": (".", ","), "space": ("\N{NARROW NO-BREAK SPACE}", ",")}


@dataclass(frozen=True, slots=True)
class Habits:
    """``hours_24``: the time of day; ``month_first``: a date; ``numbers``: a name in ``NUMBERS``; ``today``: the date
    on which it is read, None where that is not known."""

    hours_24: bool = True
    month_first: bool = False
    numbers: str = "point"
    today: date | None = None

    @classmethod
    def told(cls, text: str, today: date | None = None) -> "Habits":
        """Of words such as ``clock=12, dates=month, numbers=comma``; what is not known is left as it usually is."""
        words = dict(each.strip().split("=", 1) for each in text.split(",") if "=" in each)
        numbers = words.get("numbers", "")
        return cls(
            words.get("clock") != "12", words.get("dates") == "month", numbers if numbers in NUMBERS else "point", today
        )


_HABITS: ContextVar[Habits | None] = ContextVar("habits", default=None)


def habits() -> Habits:
    """Those of who reads what is being said."""
    return _HABITS.get() or Habits()


@contextmanager
def read_by(of: Habits) -> Iterator[None]:
    """Say what is said within to a reader of these habits."""
    token = _HABITS.set(of)
    try:
        yield
    finally:
        _HABITS.reset(token)


def _marked(text: str) -> str:
    thousands, point = NUMBERS[habits().numbers]
    return text.translate({ord(","): thousands, ord("."): point})


def figure(value: float, digits: int = 0) -> str:
    """A number with so many decimals, thousands parted: ``1,234.5``."""
    return _marked(f"{value:,.{digits}f}")


def exact(value: float) -> str:
    """A number with the digits that it has: ``12.8``."""
    return _marked(f"{value:,.10g}")
