"""What all rows of the catalogue have in common."""

from typing import Any, ClassVar

from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Row:
    """A row under its id. A row is itself: it equals no other, and is found again by its id when it was stored."""

    table: "ClassVar[dict[str, Any]]"

    id: str

    def __reduce__(self) -> tuple[Any, ...]:
        return _row, (type(self), self.id)


def _row(kind: type[Row], id: str) -> Row:
    row: Row = kind.table[id]
    return row
