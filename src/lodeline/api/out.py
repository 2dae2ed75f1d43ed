"""What answers are made of: made once by their fields, not looked through again on the way out."""

from typing import Annotated

from pydantic import BaseModel, Field

from lodeline.formats.strict_json import MOST_EXACT

# The revision that stood on the screen from which something is asked.
Revision = Annotated[int, Field(ge=0, le=MOST_EXACT)]


class Out(BaseModel):
    """A part of an answer."""


class Changed(Out):
    """That a rig's document was changed: the revision that it has now."""

    revision: int
