"""Books of places around where a rig stands. Everything is invented."""

from itertools import pairwise
from typing import Any

import numpy as np

SERVICE = {
    "fresh": "water",
    "grey": "grey",
    "black": "black",
    "cassette": "black",
    "urine": "black",
    "solids": "solids",
    "gas": "gas",
    "fuel": "fuel",
    "supply": "supplies",
    "battery": "hookup",
}
_OFFERS = (
    ("water",),
    ("water", "grey", "black", "solids"),
    ("grey", "black", "solids"),
    ("fuel", "water", "grey", "black"),
    ("supplies", "solids"),
    ("gas", "fuel"),
    ("water", "grey", "black", "solids", "hookup", "gas"),
    ("water", "grey", "black", "hookup"),
)
_HOURS = (None, None, "Mo-Sa 08:00-18:00; Su off", "Mo-Fr 09:00-17:00")
ROAD, SPEED = 1.3, 50.0
_KM_PER_DEG = 111.0
# ways to places, from and to, and how many there are (0: all)
_DENSITIES = {"plentiful": (3.0, 25.0, 0), "sparse": (8.0, 50.0, 4), "far": (40.0, 110.0, 5)}
DENSITIES = tuple(_DENSITIES)


class Places:
    """A book of places, and the ways between them."""

    def __init__(self, seed: int, density: str, lat: float, lon: float) -> None:
        self.lat, self.lon = lat, lon
        rng = np.random.default_rng([5, seed])
        near, far, few = _DENSITIES[density]
        # what there are few of are those that offer most: something serves every tank
        offers = _OFFERS if not few else _OFFERS[-few:]
        self.book = [self._place(rng, number, near, far, of) for number, of in enumerate(offers)]

    def _place(
        self, rng: np.random.Generator, number: int, near: float, far: float, offers: tuple[str, ...]
    ) -> dict[str, Any]:
        km, bearing = float(rng.uniform(near, far)), float(rng.uniform(0, 2 * np.pi))
        services: dict[str, Any] = {each: {} for each in offers}
        if "hookup" in services:
            services["hookup"] = {"amps": 10, "price_night": float(rng.integers(10, 25))}
        if "gas" in services:
            services["gas"] = {"price_per_kg": round(float(rng.uniform(2, 3)), 2)}
        if "fuel" in services:
            services["fuel"] = {"price_per_l": round(float(rng.uniform(1.4, 1.8)), 2)}
        place = {
            "id": f"place-{number}",
            "name": f"Place {number}",
            "services": services,
            "lat": float(self.lat + km / _KM_PER_DEG / ROAD * np.cos(bearing)),
            "lon": float(self.lon + km / _KM_PER_DEG / ROAD * np.sin(bearing) / np.cos(np.radians(self.lat))),
            "fee": float(rng.choice([0, 0, 0, 4])),
        }
        hours = _HOURS[int(rng.integers(len(_HOURS)))]
        return place | ({"opening_hours": hours} if hours else {})

    def place(self, id: str) -> dict[str, Any]:
        """A place of the book."""
        return next(each for each in self.book if each["id"] == id)

    def km(self, id: str, other: str | None = None) -> float:
        """The way to a place, from where the rig stands or from another one. [km]"""
        place = self.place(id)
        lat, lon = (self.lat, self.lon) if other is None else (self.place(other)["lat"], self.place(other)["lon"])
        north, east = place["lat"] - lat, (place["lon"] - lon) * np.cos(np.radians(self.lat))
        return float(_KM_PER_DEG * ROAD * np.hypot(north, east))

    def way(self, places: list[str]) -> float:
        """The way of an outing, out and back. [km]"""
        return self.km(places[0]) + sum(self.km(b, a) for a, b in pairwise(places)) + self.km(places[-1])

    def serves(self, id: str, kind: str) -> bool:
        """Whether a place serves a kind of store."""
        return SERVICE[kind] in self.place(id)["services"]
