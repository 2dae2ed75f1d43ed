"""JSON read so that nothing slips through: duplicate keys, NaN, infinities and broken text are refused with a place."""

import json
import math
from typing import Any

from lodeline.core import problems as p
from lodeline.core.errors import Refused

_MAX_MIB = 64
_MAX_BYTES = _MAX_MIB * 1024 * 1024
_MOST = 10**15


class _Pairs(dict[str, Any]):
    """An object that remembers the first key it was given twice."""

    duplicate: str | None = None


def _object(pairs: list[tuple[str, Any]]) -> _Pairs:
    read = _Pairs()
    for key, value in pairs:
        if key in read and read.duplicate is None:
            read.duplicate = key
        read[key] = value
    return read


def place_of(path: tuple[str | int, ...]) -> str:
    """A path as people read it: ``days[3].readings[1].store``."""
    text = ""
    for part in path:
        text += f"[{part}]" if isinstance(part, int) else f".{part}" if text else str(part)
    return text


def read_json(data: bytes) -> Any:
    """Parse UTF-8 JSON. A byte-order mark is read over.

    Raises
    ------
    Refused
        Not UTF-8, not JSON, too large, a duplicate key, or a number that is not finite.
    """
    if len(data) > _MAX_BYTES:
        raise Refused("", p.FileTooLarge(_MAX_MIB))
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise Refused("", p.NotUtf8(error.start)) from None
    try:
        document = json.loads(text, object_pairs_hook=_object)
    except json.JSONDecodeError as error:
        raise Refused(f"line {error.lineno}, column {error.colno}", p.NotJson(error.msg)) from None
    except (ValueError, RecursionError):
        raise Refused("", p.JsonBeyondReading()) from None
    _check(document, ())
    return document


def _check(value: Any, path: tuple[str | int, ...]) -> None:
    if isinstance(value, _Pairs):
        if value.duplicate is not None:
            raise Refused(place_of((*path, _printable(value.duplicate))), p.KeyTwice())
        for key, inner in value.items():
            _check_text(key, path)
            _check(inner, (*path, key))
    elif isinstance(value, list):
        for index, inner in enumerate(value):
            _check(inner, (*path, index))
    elif isinstance(value, str):
        _check_text(value, path)
    elif isinstance(value, float) and not math.isfinite(value):
        raise Refused(place_of(path), p.NotFinite())
    elif isinstance(value, int) and abs(value) > _MOST:
        raise Refused(place_of(path), p.NumberTooLarge())


def _printable(text: str) -> str:
    return text.encode("utf-8", "replace").decode()


def _check_text(text: str, path: tuple[str | int, ...]) -> None:
    if any(0xD800 <= ord(char) <= 0xDFFF or char == "\0" for char in text):
        raise Refused(place_of(path), p.NotText())
