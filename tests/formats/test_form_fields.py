"""What forms ask of a rig and of a place, held against the schema that pydantic itself writes of the same models."""

from typing import Any

import pytest
from pydantic import BaseModel

from lodeline.formats.document import RigDoc, SpotDoc
from lodeline.formats.fields import form_fields

Schema = dict[str, Any]
ENDS = {"least": "minimum", "over": "exclusiveMinimum", "most": "maximum", "under": "exclusiveMaximum"}
LENGTHS = {"least": "minLength", "most": "maxLength"}


def resolved(schema: Schema, defs: Schema) -> list[Schema]:
    """What a value may be: each way that is open to it, none among them as null."""
    if "$ref" in schema:
        return [defs[schema["$ref"].split("/")[-1]]]
    ways = schema.get("anyOf") or schema.get("oneOf")
    return [one for way in ways for one in resolved(way, defs)] if ways else [schema]


def is_typed(schema: Schema) -> bool:
    """Whether somebody types it: a number, or a text that is as long as they like, up to an end."""
    ways = schema.get("anyOf", [schema])
    return any(way.get("type") in ("number", "integer") or "maxLength" in way for way in ways)


def differences(node: Schema, ways: list[Schema], defs: Schema, at: str) -> list[str]:
    """Places where the form asks for something else than the model takes."""
    some = [way for way in ways if way.get("type") != "null"]
    found = [] if node.get("none", False) == (len(some) < len(ways)) else [f"{at}: none"]
    if node["is"] == "part":
        return found + of_part(node, some, defs, at)
    (one,) = some
    if node["is"] == "list":
        return found + differences(node["of"], resolved(one["items"], defs), defs, f"{at}[]")
    ends = LENGTHS if node["is"] == "text" else ENDS
    kept = {each: one[key] for each, key in ends.items() if key in one}
    asked = {each: node[each] for each in ends if each in node}
    found += [] if kept == asked else [f"{at}: {asked} where {kept} is taken"]
    return found + ([] if node.get("whole", False) == (one["type"] == "integer") else [f"{at}: whole"])


def of_part(node: Schema, models: list[Schema], defs: Schema, at: str) -> list[str]:
    asked = {name for model in models for name, each in model["properties"].items() if is_typed(each)}
    found = [f"{at}.{name}: not asked" for name in asked - set(node["of"])]
    for name, inner in node["of"].items():
        having = [model for model in models if name in model["properties"]]
        needed = len(models) == 1 and name in models[0].get("required", ())
        found += [] if inner.get("free", False) != needed else [f"{at}.{name}: free"]
        found += differences(inner, resolved(having[0]["properties"][name], defs), defs, f"{at}.{name}")
    return found


@pytest.mark.parametrize(("name", "model"), [("rig", RigDoc), ("spot", SpotDoc)])
def test_a_form_asks_for_what_the_document_takes(name: str, model: type[BaseModel]):
    schema = model.model_json_schema(by_alias=True)
    assert differences(form_fields()[name], [schema], schema.get("$defs", {}), name) == []
