"""A point as people paste it: degrees in any common notation, ``geo:`` links (RFC 5870), plus codes."""

import re
from collections.abc import Callable
from typing import NamedTuple

from lat_lon_parser import parse
from openlocationcode import openlocationcode as plus

_MOST_LAT, _MOST_LON = 90.0, 180.0
_NUMBER = r"\d{1,3}(?:\.\d+)?"
# one half of a pair: a sign or a letter, degrees, perhaps minutes and seconds
_HALF = re.compile(
    rf"[NSEWO]?\s*[-+\u2212]?\s*{_NUMBER}\s*(?:°|d|deg)?\s*(?:{_NUMBER}\s*['′’m]?\s*)?(?:{_NUMBER}\s*(?:\"|″|''|s)?\s*)?[NSEWO]?",
    re.IGNORECASE,
)
_COMMA_DECIMALS = re.compile(r"([-+\u2212]?\d+),(\d+)\s*[;\s]\s*([-+\u2212]?\d+),(\d+)")
_CODE = re.compile(r"([23456789CFGHJMPQRVWX]{2,8}\+[23456789CFGHJMPQRVWX]{0,3})(?:[\s,]+(.*))?", re.IGNORECASE)
_LONGEST = 100


class LatLon(NamedTuple):
    """Degrees north and east."""

    lat: float
    lon: float


def point(text: str, near: Callable[[str], LatLon | None] = lambda name: None) -> LatLon | None:
    """The point that a text says; None where it says none. ``near``: where a town lies, for a short plus code."""
    given = text.strip()[:_LONGEST]
    if given.lower().startswith("geo:"):
        given = given[4:].split(";")[0]  # past the scheme, without its parameters
    if (code := _CODE.fullmatch(given)) is not None:
        return _of_code(code[1].upper(), code[2] or "", near)
    if (decimals := _COMMA_DECIMALS.fullmatch(given)) is not None:
        given = f"{decimals[1]}.{decimals[2]}, {decimals[3]}.{decimals[4]}"
    for at in re.finditer(r"[,;\s]+", given):
        first, second = given[: at.start()], given[at.end() :]
        if _HALF.fullmatch(first) and _HALF.fullmatch(second) and (found := _pair(first, second)) is not None:
            return found
    return None


def _of_code(code: str, name: str, near: Callable[[str], LatLon | None]) -> LatLon | None:
    if not plus.isValid(code):
        return None
    if not plus.isFull(code):
        by = near(name) if name else None
        if by is None:
            return None
        code = plus.recoverNearest(code, by.lat, by.lon)
    area = plus.decode(code)
    return LatLon(area.latitudeCenter, area.longitudeCenter)


def _pair(first: str, second: str) -> LatLon | None:
    """Both halves as degrees; east before north where letters say so."""
    halves = (first, second) if not re.search(r"[EWO]", first.upper()) else (second, first)
    try:
        lat, lon = (float(parse(half.upper().replace("\u2212", "-").replace("O", "W"))) for half in halves)
    except (ValueError, IndexError):
        return None
    return LatLon(lat, lon) if abs(lat) <= _MOST_LAT and abs(lon) <= _MOST_LON else None
