"""What answers are made of: made once by their fields, not looked through again on the way out."""

from collections.abc import Callable, Sequence
from typing import Annotated, TypeVar

from ninja import Schema
from pydantic import BaseModel, ConfigDict, Field

from lodeline.formats.strict_json import MOST_EXACT

# Also what checks whole answers is built when the first of them is made, under pydantic's own lock.
Schema.model_config["defer_build"] = True

# The revision that stood on the screen from which something is asked.
Revision = Annotated[int, Field(ge=0, le=MOST_EXACT)]


class Out(BaseModel):
    """A part of an answer. What checks it is built with the first answer that it is part of."""

    model_config = ConfigDict(defer_build=True)


AnItem = TypeVar("AnItem")


def spread(items: Sequence[AnItem], most: int, wanted: Callable[[AnItem], bool] = lambda item: False) -> list[AnItem]:
    """At most so many of a list, one as far from the next as another, the last among them; and at most so many more of
    those that are wanted."""
    if len(items) <= most:
        return list(items)
    step = len(items) / most
    chosen = {len(items) - 1 - int(n * step) for n in range(most)}
    extra = [index for index, item in enumerate(items) if wanted(item)][-most:]
    return [items[index] for index in sorted(chosen | set(extra))]


class Changed(Out):
    """That a rig's document was changed: the revision that it has now."""

    revision: int


class RangeOut(Out):
    """An 8-in-10 range with its middle."""

    p10: float
    p50: float
    p90: float


class BandOut(RangeOut):
    """The same at a time."""

    at: str


class LevelOut(Out):
    """A level at a time."""

    at: str
    level: float
