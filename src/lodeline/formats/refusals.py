"""Pydantic's errors as refusals: where, and which problem."""

import reprlib
from collections.abc import Iterable
from typing import Any, TypeVar, get_args

from pydantic import BaseModel, ValidationError
from pydantic.fields import FieldInfo
from pydantic_core import ErrorDetails

from lodeline.core import problems as p
from lodeline.core.catalogue import EVENT_TYPES, GaugeKind
from lodeline.core.errors import Refused
from lodeline.formats.document import PROBLEM, UnitOf
from lodeline.formats.strict_json import MOST_EXACT, place_of
from lodeline.formats.words import NOT_ONE_OF

Model = TypeVar("Model", bound=BaseModel)

_WANTED = {
    "string_type": p.JsonType.TEXT,
    "float_type": p.JsonType.NUMBER,
    "int_type": p.JsonType.WHOLE_NUMBER,
    "int_from_float": p.JsonType.WHOLE_NUMBER,
    "bool_type": p.JsonType.TRUTH,
    "list_type": p.JsonType.LIST,
    "dict_type": p.JsonType.OBJECT,
    "model_type": p.JsonType.OBJECT,
    "model_attributes_type": p.JsonType.OBJECT,
}
_UNIONS = frozenset({"union_tag_invalid", "union_tag_not_found"})
# What pydantic puts into the path where the parts of a union are told apart by a tag, and what stands before it.
_UNION_PLACES = frozenset({"gauge", "event"})


def _given(error: ErrorDetails) -> str:
    value = error.get("input")
    return value if isinstance(value, str) else reprlib.repr(value)


def problem_of(error: ErrorDetails, unit: str | None = None) -> p.Problem:
    """What is wrong, by pydantic's kind of error. ``unit``: the base unit of the number that is out of its range."""
    kind, context = error["type"], error.get("ctx", {})
    value = error.get("input")
    match kind:
        case "missing" if error["loc"] == ("format",):
            return p.Plain.NOT_A_LOGBOOK
        case "missing" | "union_tag_not_found":
            return p.Plain.IS_MISSING
        case "extra_forbidden":
            return p.Plain.UNKNOWN_KEY
        case "string_pattern_mismatch":
            return p.Plain.NOT_A_SLUG
        case "finite_number":
            return p.Plain.NOT_FINITE
        case "literal_error" | "enum":
            return p.NotOneOf(_given(error), _literal(context.get("expected", "")))
        case "union_tag_invalid":
            tags = _literal(str(context.get("expected_tags", "")))
            return p.NotOneOf(str(context.get("tag", "")), tags)
        case "too_short" | "string_too_short":
            return p.WrongLength(least=context["min_length"])
        case "too_long" | "string_too_long":
            return p.WrongLength(most=context["max_length"])
        case _ if kind == NOT_ONE_OF:
            return p.NotOneOf(_given(error), context["allowed"])
        case _ if kind == PROBLEM:
            problem: p.Problem = context["problem"]
            return problem
        case "float_type" | "int_type" if isinstance(value, int) and abs(value) > MOST_EXACT:
            return p.Plain.NUMBER_TOO_LARGE
        case _ if kind in _WANTED:
            return p.WrongType(_WANTED[kind])
        case _:
            return _of_range(kind, context, value, unit) or p.Malformed(error["msg"])


def _literal(expected: str) -> tuple[str, ...]:
    """The words that pydantic lists as ``'a', 'b' or 'c'``."""
    return tuple(word.strip().strip("'\"") for word in expected.replace(" or ", ", ").split(","))


def _of_range(kind: str, context: dict[str, Any], value: Any, unit: str | None) -> p.Problem | None:
    if not isinstance(value, int | float):
        return None
    if isinstance(value, int) and abs(value) > MOST_EXACT:
        return p.Plain.NUMBER_TOO_LARGE
    match kind:
        case "greater_than":
            return p.OutOfRange(value, least=context["gt"], exclusive=True, unit=unit)
        case "greater_than_equal":
            return p.OutOfRange(value, least=context["ge"], unit=unit)
        case "less_than":
            return p.OutOfRange(value, most=context["lt"], exclusive=True, unit=unit)
        case "less_than_equal":
            return p.OutOfRange(value, most=context["le"], unit=unit)
    return None


def error_path(error: ErrorDetails) -> tuple[str | int, ...]:
    """Where an error is, without the tags that pydantic puts into the path of a union."""
    tags = {*EVENT_TYPES, *GaugeKind}
    path: list[str | int] = []
    for index, part in enumerate(error["loc"]):
        before = error["loc"][index - 1] if index else None
        is_tag = part in tags and (isinstance(before, int) or before in _UNION_PLACES)
        if not is_tag:
            path.append(part)
    if error["type"] in _UNIONS:
        path.append(str(error.get("ctx", {}).get("discriminator", "'type'")).strip("'"))
    return tuple(path)


def unit_at(model: type[BaseModel], path: Iterable[str | int]) -> str | None:
    """The base unit of the number at a path of a model, where its field says one."""
    current: type[BaseModel] | None = model
    field: FieldInfo | None = None
    for part in path:
        if isinstance(part, int):
            continue
        if current is None or part not in current.model_fields:
            return None
        field = current.model_fields[part]
        current = _model_in(field.annotation)
    return _unit(field) if field else None


def _model_in(annotation: Any) -> type[BaseModel] | None:
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return annotation
    return next((model for each in get_args(annotation) if (model := _model_in(each))), None)


def _unit(field: FieldInfo) -> str | None:
    own = (each.unit for each in field.metadata if isinstance(each, UnitOf))
    nested = (
        each.unit
        for part in get_args(field.annotation)
        for each in getattr(part, "__metadata__", ())
        if isinstance(each, UnitOf)
    )
    return next(own, None) or next(nested, None)


def refusal(model: type[BaseModel], problem: ValidationError) -> Refused:
    """The first thing that is wrong, in document order, as a refusal with its place."""
    first = problem.errors(include_url=False)[0]
    path = error_path(first)
    return Refused(place_of(path) or "document", problem_of(first, unit_at(model, path)))


def validated(model: type[Model], value: Any) -> Model:
    """A value as a model, or a refusal that names the place."""
    try:
        return model.model_validate(value)
    except ValidationError as problem:
        raise refusal(model, problem) from None
