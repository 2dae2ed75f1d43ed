"""What a figure is, and the sheets that hold them."""

from typing import Any, ClassVar, Generic, TypeVar

COMMON = "common practice"
MEMORY = "from memory"
SIMULATED = "set on simulated rigs"
INVENTED = "invented, mild"
CHOSEN = "our choice"
NUMERICAL = "numerical"

Value = TypeVar("Value", covariant=True)
SHEETS: "list[type[Sheet]]" = []


class Figure(Generic[Value]):
    """One number, or a row of them, with its unit, its source and what it says. Read on its sheet, it is the number:
    a sheet holds it plainly, as tracking reads tens of thousands of them."""

    def __init__(self, value: Value, unit: str, source: str, meaning: str) -> None:
        self.value, self.unit, self.source, self.meaning = value, unit, source, meaning

    def __get__(self, instance: object, owner: type) -> Value:
        return self.value


class Sheet:
    """The figures of one subject, in the order in which they are written."""

    rows: ClassVar[dict[str, Figure[Any]]] = {}

    def __init_subclass__(cls) -> None:
        SHEETS.append(cls)
        cls.rows = {name: each for name, each in vars(cls).items() if isinstance(each, Figure)}
        for name, each in cls.rows.items():
            setattr(cls, name, each.value)
