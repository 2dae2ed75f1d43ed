"""What was found, in a line each."""

from collections.abc import Sequence
from datetime import date

from lodeline.core.book import Spot
from lodeline.text.display import Display
from lodeline.text.stops import services
from lodeline.text.times import date_words

_MOST_LETTERS = 120


def day(on: date) -> str:
    """A date of the log."""
    return date_words(on)


def of_day(note: str, place: str, did: Sequence[str]) -> str:
    """What a date has: ``Gravel pit. Did laundry. A friend stayed the night.``"""
    parts = [place, *did, note]
    said = ". ".join(part.rstrip(".") for part in parts if part)
    return said if len(said) <= _MOST_LETTERS else f"{said[:_MOST_LETTERS].rstrip()}..."


def of_spot(spot: Spot, display: Display) -> str:
    """What a place offers."""
    return services(spot.services.values(), display)
