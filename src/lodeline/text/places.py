"""Where the rig stands, in words."""

from lodeline.core.log import Place
from lodeline.core.zone import City
from lodeline.text.habits import figure


def place_words(place: Place | None, city: City | None) -> str:
    """Where the rig stands: ``Old field, 37.3° N, 8.9° W``; without a place what stands in for it."""
    if place is not None:
        return f"{place.name}, {degrees(place.lat, place.lon)}"
    if city is None:
        return "No place is logged: the sun is reckoned for 40° N. Ranges are wider until you say where you are."
    return (
        f"No place is logged: {city.name}, {degrees(city.lat, city.lon)}, stands in for it, by the timezone. "
        "Ranges are wider until you say where you are."
    )


def degrees(lat: float, lon: float) -> str:
    """Latitude and longitude: ``37.3° N, 8.9° W``."""
    north, east = ("N" if lat >= 0 else "S"), ("E" if lon >= 0 else "W")
    return f"{figure(abs(lat), 1)}° {north}, {figure(abs(lon), 1)}° {east}"
