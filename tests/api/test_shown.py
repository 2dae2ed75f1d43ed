"""What is sent is shown: a field of an answer that no screen reads is neither built nor sent."""

import json
import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[2]


def _refs(part: Any) -> Iterator[str]:
    """The schemas that a part of the contract names."""
    if isinstance(part, dict):
        for key, value in part.items():
            yield from [value.rsplit("/", 1)[-1]] if key == "$ref" else _refs(value)
    elif isinstance(part, list):
        for value in part:
            yield from _refs(value)


def test_every_field_of_an_answer_is_read_by_some_screen():
    contract = json.loads((ROOT / "docs" / "openapi.json").read_text())
    schemas = contract["components"]["schemas"]
    sources = [
        path.read_text()
        for path in (ROOT / "web" / "src").rglob("*.ts*")
        if not re.search(r"\.generated\.|\.test\.|/testing/", str(path))
    ]
    words = set(re.findall(r"\w+", "\n".join(sources)))
    methods = [method for path in contract["paths"].values() for method in path.values() if "responses" in method]
    found, left = set(), {name for method in methods for name in _refs(method["responses"])}
    while left:
        name = left.pop()
        if name in schemas and name not in found:
            found.add(name)
            left |= set(_refs(schemas[name]))
    # a part of the rig's document is sent whole: it goes back as it came
    fields = {
        f"{name}.{field}" for name in found if not name.endswith("Doc") for field in schemas[name].get("properties", {})
    }
    assert len(fields) > 300
    assert sorted(field for field in fields if field.split(".")[1] not in words) == []
