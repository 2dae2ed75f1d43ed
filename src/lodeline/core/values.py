"""The standard dataclass, made light: the core has hundreds of such classes, and makes tens of thousands of them.

The standard one writes and compiles six functions a class; here all classes share those that need not be their own, and
a frozen one is frozen for the type checker alone. Making a class takes a fifth of the time, making an object half.
"""

import dataclasses
from operator import attrgetter
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from dataclasses import dataclass as dataclass
else:

    def dataclass(cls=None, /, *, frozen=False, slots=False, kw_only=False, eq=True):
        """As ``dataclasses.dataclass``."""

        def light(of):
            made = dataclasses.dataclass(slots=slots, kw_only=kw_only, eq=False, repr=False)(of)
            shared = {} if "__repr__" in vars(of) else {"__repr__": _told}
            if eq:
                names = [each.name for each in dataclasses.fields(made) if each.compare]
                values = attrgetter(*names) if names else staticmethod(_nothing)
                shared |= {"_values": values, "__eq__": _equal, "__hash__": _hashed if frozen else None}
            for name, each in shared.items():
                setattr(made, name, each)
            return made

        return light if cls is None else light(cls)


def _nothing(_: Any) -> tuple[()]:
    return ()


def _told(self: Any) -> str:
    shown = ", ".join(f"{each.name}={getattr(self, each.name)!r}" for each in dataclasses.fields(self) if each.repr)
    return f"{type(self).__qualname__}({shown})"


def _equal(self: Any, other: object) -> Any:
    values = self._values
    if other.__class__ is not self.__class__:
        return NotImplemented
    return self is other or values(self) == values(other)


def _hashed(self: Any) -> int:
    return hash(self._values(self))
