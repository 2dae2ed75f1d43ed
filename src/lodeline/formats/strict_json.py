"""JSON read so that nothing slips through: duplicate keys, NaN, infinities and broken text are refused with a place.

The parser is fast and says where it stopped by line and column. The path of that spot is found by having it read what
stands before it, with a mark in the place of what is wrong.
"""

import re
import unicodedata
from typing import Any

import jiter

from lodeline.core import problems as p
from lodeline.core.errors import Refused

MOST_MIB = 64
_MOST_BYTES = MOST_MIB * 1024 * 1024
MOST_EXACT = 10**15
# Objects, and values for each: what is read takes many times its length of memory. So many are some thirty years of
# ten entries a day.
MOST_PARTS, _VALUES_EACH = 110_000, 10
_LONGEST_KEY = 60
_BOM = b"\xef\xbb\xbf"
_MARK = "\x01here"
_STOPPED = re.compile(r"(?s)(.*) at line (\d+) column (\d+)")
# How far back a number or a word may begin.
_LONGEST_TOKEN = 10_000
_TOKEN = re.compile(rb"[-+.\w]*\Z")
_NOT_FINITE = re.compile(rb"-?(?:NaN|Infinity)\b")
_NUL = rb"\u0000"
_UNESCAPED_NUL = re.compile(rb"(?<!\\)(?:\\\\)*\\u0000")
_ENDS_EARLY = "it ends in the middle"
_PROBLEMS = {
    "Detected duplicate key": p.Plain.KEY_TWICE,
    "number out of range": p.Plain.NUMBER_TOO_LARGE,
    "recursion limit": p.Plain.NESTED_TOO_DEEP,
    "unexpected end of hex escape": p.Plain.NOT_TEXT,
    "lone leading surrogate": p.Plain.NOT_TEXT,
}


def place_of(path: tuple[str | int, ...]) -> str:
    """A path as people read it: ``days[3].readings[1].store``. Always one line, however odd a key is."""
    text = ""
    for part in path:
        text += f"[{part}]" if isinstance(part, int) else f".{_key(part)}" if text else _key(part)
    return text


def _key(key: str) -> str:
    short = key if len(key) <= _LONGEST_KEY else key[: _LONGEST_KEY - 3] + "..."
    return "".join(_shown(char) for char in short)


def _shown(char: str) -> str:
    """Controls and line breaks as escapes; joiners and marks of direction are writing."""
    return char.encode("unicode_escape").decode() if unicodedata.category(char) in ("Cc", "Cs", "Zl", "Zp") else char


def read_json(data: bytes, most_parts: int | None = MOST_PARTS) -> Any:
    """Parse UTF-8 JSON. A byte-order mark is read over. Numbers of any size are left to whoever knows their range.

    ``most_parts``: objects that it may hold; None where whoever reads has all the memory there is.

    Raises
    ------
    Refused
        Not UTF-8, not JSON, too large or of too many parts, nested too deep, a duplicate key, NaN, or a character that
        is not text.
    """
    if len(data) > _MOST_BYTES:
        raise Refused("", p.FileTooLarge(MOST_MIB))
    # counted before anything is built
    if most_parts is not None and (
        data.count(b"{") > most_parts or data.count(b",") + data.count(b"[") > most_parts * _VALUES_EACH
    ):
        raise Refused("", p.FileHoldsTooMuch(most_parts))
    data = data.removeprefix(_BOM)
    try:
        document = jiter.from_json(data, allow_inf_nan=False, catch_duplicate_keys=True)
    except ValueError as error:
        raise _refusal(data, str(error)) from None
    if (start := _nul(data)) is not None:
        raise Refused(_place(data, start), p.Plain.NOT_TEXT)
    return document


def _refusal(data: bytes, message: str) -> Refused:
    stopped = _STOPPED.fullmatch(message)
    if stopped is None:
        return Refused("", p.NotJson(message))
    said, line, column = stopped[1], int(stopped[2]), int(stopped[3])
    begins = 0
    for _ in range(line - 1):
        begins = data.index(b"\n", begins) + 1
    at = begins + max(0, column - 1)
    if "unicode" in said:
        return _not_utf8(data, said)
    where = f"line {line}, column {column}"
    token = at - len(_TOKEN.search(data[max(0, at - _LONGEST_TOKEN) : at])[0])  # type: ignore[index]
    if _NOT_FINITE.match(data, token):
        return Refused(_place(data, token) or where, p.Plain.NOT_FINITE)
    for begin, problem in _PROBLEMS.items():
        if said.startswith(begin):
            start = _string(data, at) if problem is p.Plain.NOT_TEXT else token
            deep = problem is p.Plain.NESTED_TOO_DEEP
            return Refused((not deep and _place(data, start)) or where, problem)
    return Refused(where, p.NotJson(_ENDS_EARLY if said.startswith("EOF") else said))


def _not_utf8(data: bytes, said: str) -> Refused:
    try:
        data.decode()
    except UnicodeDecodeError as error:
        return Refused("", p.NotUtf8(error.start))
    return Refused("", p.NotJson(said))


def _is_escaped(data: bytes, index: int) -> bool:
    """Whether an odd number of backslashes stands before a byte."""
    before = data[max(0, index - _LONGEST_TOKEN) : index]
    return (len(before) - len(before.rstrip(b"\\"))) % 2 == 1


def _string(data: bytes, inside: int) -> int:
    """Where the text begins that a byte lies in."""
    quote = data.rfind(b'"', 0, inside)
    while quote > 0 and _is_escaped(data, quote):
        quote = data.rfind(b'"', 0, quote)
    return max(0, quote)


def _nul(data: bytes) -> int | None:
    """Where the first text begins that holds a NUL."""
    if _NUL not in data:
        return None
    found = _UNESCAPED_NUL.search(data)
    return _string(data, found.end() - len(_NUL)) if found else None


def _place(data: bytes, start: int) -> str:
    """The path of the value or key that begins at a byte, before which all is well."""
    for tail in (b'"\\u0001here"', b'"\\u0001here":0'):
        try:
            read = jiter.from_json(data[:start] + tail, partial_mode="on")
        except ValueError:
            continue
        if (path := _path_of_mark(read)) is not None:
            return place_of(path)
    return ""


def _path_of_mark(value: Any) -> tuple[str | int, ...] | None:
    path: list[str | int] = []
    while value != _MARK:
        if isinstance(value, list) and value:
            path.append(len(value) - 1)
            value = value[-1]
        elif isinstance(value, dict) and value:
            if _MARK in value:
                return tuple(path)
            key = next((key for key, inner in value.items() if inner == _MARK), next(reversed(value)))
            path.append(key)
            value = value[key]
        else:
            return None
    return tuple(path)
