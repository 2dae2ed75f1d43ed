"""The error answers of each operation, as the API's document names them."""

import json
from typing import Any

from lodeline.api.out import Out
from lodeline.core.errors import Refused
from lodeline.formats.document import LogbookDoc
from lodeline.text.display import Display
from lodeline.text.labels import label
from lodeline.text.problems import problem

_REF = "#/components/schemas/{model}"
_WORDS = {
    202: "What is asked for is being worked out; says how far it is.",
    400: "Not a request that can be read.",
    401: "Nobody is signed in.",
    403: "The account may not do this.",
    404: "Not there, or not this account's.",
    409: "It was changed since it was seen.",
    413: "The body is too large.",
    415: "The body is not JSON.",
    422: "Something given is not right; says where and what.",
    429: "Too many passwords; says how long to wait.",
    500: "A defect; says under which number the log has it.",
    503: "The disk or the database cannot be used, or it took too long.",
    507: "The disk is full.",
}
_GUARDED = frozenset({"sign_in", "first_account", "change_password", "delete_account", "join"})
_UNGUARDED = frozenset({"me", "health"})


class Problem(Out):
    """What every error says: the place of what is wrong, its label, and a sentence."""

    place: str
    label: str
    problem: str


def of(error: Refused, display: Display) -> Problem:
    """What was refused, where, in words."""
    place = error.place
    return Problem(place=place, label=label(place) if place else "", problem=problem(error.problem, display))


def said(sentence: str) -> dict[str, str]:
    """An error that is about no field, in the API's form."""
    return Problem(place="", label="", problem=sentence).model_dump()


def plain_answer(sentence: str) -> tuple[list[tuple[str, str]], bytes]:
    """The head and body of an error that is answered before or after the application."""
    head = [
        ("Content-Type", "application/json; charset=utf-8"),
        ("X-Content-Type-Options", "nosniff"),
        ("Cache-Control", "no-store"),
    ]
    return head, json.dumps(said(sentence)).encode()


def _statuses(path: str, method: str, operation: dict[str, Any]) -> set[int]:
    found = {400, 500, 503}
    if "security" in operation:
        found.add(401)
    if method != "get":
        found |= {403, 413, 415, 507}
    if "{" in path or operation["operationId"] not in _UNGUARDED:
        found.add(404)
    if "requestBody" in operation or operation.get("parameters"):
        found |= {403, 422}
    if "{rig_id}" in path:
        found.add(202)
    if any(each["name"] == "saw" for each in operation.get("parameters", ())):
        found.add(409)
    if operation["operationId"] in _GUARDED:
        found.add(429)
    return found


def with_failures(schema: dict[str, Any]) -> dict[str, Any]:
    """The document with the error answers of each operation, and the logbook file's own schema."""
    parts = schema["components"]["schemas"]
    logbook = LogbookDoc.model_json_schema(by_alias=True, ref_template=_REF)
    parts.update({name: each for name, each in logbook.pop("$defs").items() if name not in parts})
    parts["LogbookDoc"] = logbook
    parts["Problem"] = Problem.model_json_schema(ref_template=_REF)
    content = {"application/json": {"schema": {"$ref": _REF.format(model="Problem")}}}
    schema["components"]["responses"] = {
        str(status): {"description": words, "content": content} for status, words in _WORDS.items()
    }
    for path, operations in schema["paths"].items():
        for method, operation in operations.items():
            for status in sorted(_statuses(path, method, operation)):
                operation["responses"].setdefault(status, {"$ref": f"#/components/responses/{status}"})
    return schema
