"""The logbook file: read it, refuse it with its place named, write it."""

import json
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError
from pydantic_core import ErrorDetails

from lodeline.core.errors import Refused
from lodeline.core.log import Log, OutlookDay
from lodeline.core.rig import Rig
from lodeline.formats.checks import check_document
from lodeline.formats.convert import to_core
from lodeline.formats.document import LogbookDoc
from lodeline.formats.strict_json import place_of, read_json

Model = TypeVar("Model", bound=BaseModel)

_TAGS = {
    "fill", "dump", "swap", "move", "drive", "shore", "generator", "shower", "laundry", "steps", "sensor", "sight",
    "scale", "shunt", "none",
}  # fmt: skip
_SAYS = {
    "missing": "is missing",
    "extra_forbidden": "unknown key",
    "string_type": "must be text",
    "float_type": "must be a number",
    "int_type": "must be a whole number",
    "int_from_float": "must be a whole number",
    "list_type": "must be a list",
    "dict_type": "must be an object",
    "model_type": "must be an object",
    "model_attributes_type": "must be an object",
    "string_pattern_mismatch": "may hold only a-z, 0-9 and -",
    "finite_number": "must be a finite number",
}


def sentence(error: ErrorDetails) -> str:
    """A pydantic error as a sentence for a person."""
    kind, context = error["type"], error.get("ctx", {})
    given = _short(error.get("input"))
    match kind:
        case "literal_error" | "enum":
            return f"must be {context.get('expected', 'one of the known words')}, not {given}"
        case "union_tag_invalid":
            return f"must be one of {context.get('expected_tags')}, not {given_tag(context)}"
        case "union_tag_not_found":
            return "is missing"
        case "greater_than":
            return f"{given} must be greater than {context['gt']:g}"
        case "greater_than_equal":
            return f"{given} must be at least {context['ge']:g}"
        case "less_than_equal":
            return f"{given} must be at most {context['le']:g}"
        case "too_short":
            return f"needs at least {context['min_length']}"
        case "too_long" | "string_too_long":
            return f"is longer than {context['max_length']}"
        case "string_too_short":
            return "must not be empty"
        case "value_error":
            return str(context.get("error", error["msg"]))
    return _SAYS.get(kind, error["msg"])


def given_tag(context: dict[str, Any]) -> str:
    """The tag that was given where a union could not be told apart."""
    return f"'{context.get('tag', '?')}'"


def _short(value: Any) -> str:
    try:
        text = json.dumps(value, default=str, ensure_ascii=False)
    except (TypeError, ValueError):
        text = str(value)
    return text if len(text) <= 60 else text[:57] + "..."


def error_path(error: ErrorDetails) -> tuple[str | int, ...]:
    """Where an error is, without the tags that pydantic puts into the path of a union."""
    path: list[str | int] = []
    for index, part in enumerate(error["loc"]):
        before = error["loc"][index - 1] if index else None
        is_tag = part in _TAGS and (isinstance(before, int) or before in ("gauge", "event"))
        if not is_tag:
            path.append(part)
    if error["type"] in ("union_tag_invalid", "union_tag_not_found"):
        path.append(str(error.get("ctx", {}).get("discriminator", "'type'")).strip("'"))
    return tuple(path)


def refusal(problem: ValidationError) -> Refused:
    """The first thing that is wrong, in document order, as a refusal with its place."""
    first = problem.errors(include_url=False)[0]
    return Refused(place_of(error_path(first)) or "document", sentence(first))


def validated(model: type[Model], value: Any) -> Model:
    """A value as a model, or a refusal that names the place."""
    try:
        return model.model_validate(value)
    except ValidationError as problem:
        raise refusal(problem) from None


def read_document(data: bytes) -> LogbookDoc:
    """Read and check a logbook file.

    Raises
    ------
    Refused
        With the place of the first thing that is wrong. Nothing of a refused document is kept.
    """
    doc = validated(LogbookDoc, read_json(data))
    check_document(doc)
    return doc


def read_logbook(data: bytes) -> tuple[Rig, Log, tuple[OutlookDay, ...]]:
    """Read a logbook file as rig, log and outlook of the core."""
    return to_core(read_document(data))


def write_document(doc: LogbookDoc) -> bytes:
    """Write a logbook file. What is absent is left out; reading it back gives the same document."""
    fields = doc.model_dump(by_alias=True, exclude_none=True)
    for key in ("solar", "sources", "loads"):
        if not fields["rig"][key]:
            del fields["rig"][key]
    for day in fields["days"]:
        for key in ("readings", "events"):
            if not day[key]:
                del day[key]
    return (json.dumps(fields, indent=1, ensure_ascii=False) + "\n").encode()


def json_schema() -> str:
    """The JSON Schema of the file, generated from the models."""
    return json.dumps(LogbookDoc.model_json_schema(by_alias=True), indent=1, ensure_ascii=False) + "\n"
