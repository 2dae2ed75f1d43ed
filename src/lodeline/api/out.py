"""What answers are made of: made once by their fields, not looked through again on the way out."""

from pydantic import BaseModel


class Out(BaseModel):
    """A part of an answer."""
