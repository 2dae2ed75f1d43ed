"""Files of places: read with a preview's worth of what was understood, and written.

GeoJSON by RFC 7946, GPX 1.1 waypoints (read by the gpxpy library), CSV by RFC 4180.
"""

import csv
import io
import json
import re
from collections.abc import Iterable, Mapping
from enum import StrEnum
from itertools import islice
from typing import Any
from xml.etree import ElementTree

from lodeline.core.errors import Refused
from lodeline.core.problems import BookIsFull, NotPlaces
from lodeline.core.values import dataclass
from lodeline.formats import document as d
from lodeline.formats.places.tags import from_tags, to_tags
from lodeline.formats.strict_json import read_json

_GPX = "http://www.topografix.com/GPX/1/1"
_OWN_GPX = "https://lodeline.invalid/tags"
_COORDINATES = 2
# Of longitude; of more digits than a coordinate has none is made a number of.
_MOST_DEG = 360


class PlacesFormat(StrEnum):
    """What a file of places may be."""

    GEOJSON = "geojson"
    GPX = "gpx"
    CSV = "csv"


NAMES = {PlacesFormat.GEOJSON: "GeoJSON", PlacesFormat.GPX: "GPX", PlacesFormat.CSV: "CSV"}
TYPES = {
    PlacesFormat.GEOJSON: "application/geo+json",
    PlacesFormat.GPX: "application/gpx+xml",
    PlacesFormat.CSV: "text/csv; charset=utf-8",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadPlaces:
    """What a file holds: places, and where in it something could not be read as one, with why."""

    places: tuple[d.SpotDoc, ...]
    skipped: tuple[tuple[str, Refused], ...]


def guess_format(data: bytes) -> PlacesFormat:
    """What a file looks like by its first character."""
    head = data.lstrip(b"\xef\xbb\xbf \r\n\t")[:1]
    if head in (b"{", b"["):
        return PlacesFormat.GEOJSON
    return PlacesFormat.GPX if head == b"<" else PlacesFormat.CSV


def read_places(data: bytes, format: PlacesFormat | None = None) -> ReadPlaces:
    """Read a file of places.

    Raises
    ------
    Refused
        It is not of the format at all, holds no place, or more than a book does.
    """
    format = format or guess_format(data)
    rows: Iterable[tuple[str, _Row]] = {
        PlacesFormat.GEOJSON: _of_geojson,
        PlacesFormat.GPX: _of_gpx,
        PlacesFormat.CSV: _of_csv,
    }[format](data)
    rows = list(islice(rows, d.MOST_PLACES + 1))
    if len(rows) > d.MOST_PLACES:
        raise Refused("file", BookIsFull(d.MOST_PLACES))
    places: list[d.SpotDoc] = []
    skipped: list[tuple[str, Refused]] = []
    for number, (where, row) in enumerate(rows, 1):
        try:
            places.append(from_tags(row.name or f"Place {number}", row.lat, row.lon, row.tags, f"place-{number}"))
        except Refused as refused:
            skipped.append((where, refused))
    if not places and not skipped:
        raise _none(format, "it holds none")
    return ReadPlaces(places=tuple(places), skipped=tuple(skipped))


def _none(format: PlacesFormat, said: str) -> Refused:
    return Refused("file", NotPlaces(NAMES[format], said))


@dataclass(frozen=True, slots=True)
class _Row:
    name: str
    lat: float
    lon: float
    tags: Mapping[str, str]


def _of_geojson(data: bytes) -> Iterable[tuple[str, _Row]]:
    whole = read_json(data)
    if not isinstance(whole, dict):
        raise _none(PlacesFormat.GEOJSON, "it is not an object")
    features = whole.get("features") if whole.get("type") == "FeatureCollection" else [whole]
    if not isinstance(features, list):
        raise _none(PlacesFormat.GEOJSON, "its features are no list")
    found = False
    for index, feature in enumerate(features):
        point = _point(feature.get("geometry") if isinstance(feature, dict) else None)
        if point is None:
            continue
        said = feature.get("properties")
        properties: dict[str, Any] = said if isinstance(said, dict) else {}
        inner = properties.get("tags")
        tags = _tags(inner if isinstance(inner, dict) else properties)
        found = True
        yield f"features[{index}]", _Row(tags.pop("name", ""), point[1], point[0], tags)
    if features and not found:
        raise _none(PlacesFormat.GEOJSON, "none of its features is a point or an area")


def _point(geometry: Any) -> tuple[float, float] | None:
    """A point's coordinates; of an area the middle of its first ring."""
    if not isinstance(geometry, dict):
        return None
    coordinates: Any = geometry.get("coordinates")
    if geometry.get("type") == "Polygon" and isinstance(coordinates, list) and coordinates:
        ring = [each for each in coordinates[0] if _is_position(each)] if isinstance(coordinates[0], list) else []
        return (sum(p[0] for p in ring) / len(ring), sum(p[1] for p in ring) / len(ring)) if ring else None
    if geometry.get("type") == "Point" and _is_position(coordinates):
        return float(coordinates[0]), float(coordinates[1])
    return None


def _is_position(found: Any) -> bool:
    return (
        isinstance(found, list)
        and len(found) >= _COORDINATES
        and all(
            isinstance(n, int | float) and not isinstance(n, bool) and abs(n) <= _MOST_DEG for n in found[:_COORDINATES]
        )
    )


def _tags(properties: Mapping[str, Any]) -> dict[str, str]:
    """Properties as tags: text, numbers and truths."""
    words = {True: "yes", False: "no"}
    return {
        str(key): words[value] if isinstance(value, bool) else str(value)
        for key, value in properties.items()
        if isinstance(value, str | int | float)
    }


def _of_gpx(data: bytes) -> Iterable[tuple[str, _Row]]:
    import gpxpy
    import gpxpy.gpx

    if b"<!DOCTYPE" in data or b"<!ENTITY" in data:
        raise _none(PlacesFormat.GPX, "it declares entities, which a GPX file has no need of")
    if data.count(b"<wpt") > d.MOST_PLACES:
        raise Refused("file", BookIsFull(d.MOST_PLACES))
    try:
        gpx = gpxpy.parse(data.decode("utf-8-sig"))
    except UnicodeDecodeError:
        raise _none(PlacesFormat.GPX, "it is not UTF-8") from None
    except (gpxpy.gpx.GPXException, ValueError) as error:
        raise _none(PlacesFormat.GPX, str(error).split("\n", 1)[0][:200]) from None
    rows = []
    for index, point in enumerate(gpx.waypoints):
        tags = {child.tag.rsplit("}", 1)[-1]: (child.text or "") for ext in point.extensions for child in (ext, *ext)}
        tags = {
            child.get("k", ""): child.get("v", "") for ext in point.extensions for child in ext.iter() if child.get("k")
        } or tags
        if point.description or point.comment:
            tags.setdefault("description", point.description or point.comment or "")
        rows.append((f"wpt[{index}]", _Row(point.name or "", point.latitude, point.longitude, tags)))
    return rows


_CSV = ("name", "lat", "lon")


def _of_csv(data: bytes) -> Iterable[tuple[str, _Row]]:
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise _none(PlacesFormat.CSV, "it is not UTF-8") from None
    reader = csv.DictReader(io.StringIO(text), dialect=_dialect(text))
    heads = {(head or "").strip().lower(): head for head in reader.fieldnames or []}
    names = {each: next((heads[h] for h in _SAME_HEADS[each] if h in heads), None) for each in _CSV}
    if names["lat"] is None or names["lon"] is None:
        raise _none(PlacesFormat.CSV, "its first line must name the columns, among them name, lat and lon")
    try:
        for number, line in enumerate(reader, 2):
            where = f"line {number}"
            lat, lon = (_decimal(line.get(names[each] or "")) for each in ("lat", "lon"))
            tags = {
                key.strip(): _as_meant(value.strip())
                for key, value in line.items()
                if isinstance(key, str) and isinstance(value, str) and value.strip() and key not in names.values()
            }
            yield where, _Row(_as_meant((line.get(names["name"] or "") or "").strip()), lat, lon, tags)
    except csv.Error as error:
        raise _none(PlacesFormat.CSV, str(error)) from None


_SAME_HEADS = {"name": ("name",), "lat": ("lat", "latitude", "y"), "lon": ("lon", "lng", "long", "longitude", "x")}
_NOWHERE = 999.0


def _decimal(text: str | None) -> float:
    """A coordinate; one that is none lies outside the globe, and its line is refused with that."""
    try:
        return float((text or "").strip().replace(",", "."))
    except ValueError:
        return _NOWHERE


def _dialect(text: str) -> type[csv.Dialect]:
    head = text.split("\n", 1)[0]

    class Sniffed(csv.excel):
        delimiter = max((",", ";", "\t"), key=head.count)

    return Sniffed


def write_places(places: Iterable[d.SpotDoc], format: PlacesFormat) -> bytes:
    """Write places in a format."""
    if format is PlacesFormat.GEOJSON:
        return _geojson(places)
    return _gpx(places) if format is PlacesFormat.GPX else _csv(places)


def _geojson(places: Iterable[d.SpotDoc]) -> bytes:
    features = [
        {
            "type": "Feature",
            "id": each.id,
            "geometry": {"type": "Point", "coordinates": [each.lon, each.lat]},
            "properties": {"name": each.name, **to_tags(each)},
        }
        for each in places
    ]
    whole = {"type": "FeatureCollection", "features": features}
    return (json.dumps(whole, ensure_ascii=False, indent=1) + "\n").encode()


def _gpx(places: Iterable[d.SpotDoc]) -> bytes:
    ElementTree.register_namespace("", _GPX)
    ElementTree.register_namespace("tags", _OWN_GPX)
    root = ElementTree.Element(f"{{{_GPX}}}gpx", {"version": "1.1", "creator": "Lodeline"})
    for each in places:
        point = ElementTree.SubElement(root, f"{{{_GPX}}}wpt", {"lat": f"{each.lat:.6f}", "lon": f"{each.lon:.6f}"})
        ElementTree.SubElement(point, f"{{{_GPX}}}name").text = each.name
        if each.note:
            ElementTree.SubElement(point, f"{{{_GPX}}}desc").text = each.note
        extensions = ElementTree.SubElement(point, f"{{{_GPX}}}extensions")
        holder = ElementTree.SubElement(extensions, f"{{{_OWN_GPX}}}tags")
        for key, value in to_tags(each).items():
            ElementTree.SubElement(holder, f"{{{_OWN_GPX}}}tag", {"k": key, "v": value})
    body: bytes = ElementTree.tostring(root, encoding="utf-8")
    return b'<?xml version="1.0" encoding="UTF-8"?>\n' + body + b"\n"


def _csv(places: Iterable[d.SpotDoc]) -> bytes:
    rows = [{"name": each.name, "lat": f"{each.lat:.6f}", "lon": f"{each.lon:.6f}", **to_tags(each)} for each in places]
    heads = [*_CSV, *sorted({key for row in rows for key in row} - set(_CSV))]
    out = io.StringIO()
    writer = csv.DictWriter(out, heads, restval="", lineterminator="\r\n")
    writer.writeheader()
    writer.writerows([{key: _not_a_formula(value) for key, value in row.items()} for row in rows])
    return out.getvalue().encode()


# What a spreadsheet takes for the begin of a formula, also after spaces (OWASP, CSV injection).
_FORMULA = re.compile(r"\s*[=+\-@\t\r]|\s")
_NUMBER = re.compile(r"[+-]?\d+([.,]\d+)?")


def _not_a_formula(value: str) -> str:
    """Text that a spreadsheet would take for a formula, as text."""
    return f"'{value}" if _FORMULA.match(value) and not _NUMBER.fullmatch(value) else value


def _as_meant(value: str) -> str:
    """Text that was kept from being a formula, as it was."""
    return value[1:] if value[:1] == "'" and _FORMULA.match(value[1:]) else value
