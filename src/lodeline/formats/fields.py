"""The fields of the document as forms ask for them: what each is, and the ends of its range, read from the models."""

from collections.abc import Iterable
from types import NoneType
from typing import Any, get_args, get_origin

from annotated_types import Ge, Gt, Le, Lt, MaxLen, MinLen
from pydantic import BaseModel
from pydantic.fields import FieldInfo

from lodeline.formats.document import RigDoc, SpotDoc, UnitOf

Node = dict[str, Any]
_ENDS = {Ge: "least", Gt: "over", Le: "most", Lt: "under"}


def form_fields() -> dict[str, Node]:
    """What forms ask of a rig and of a place of the book."""
    return {"rig": fields_of(RigDoc), "spot": fields_of(SpotDoc)}


def fields_of(*models: type[BaseModel]) -> Node:
    """A part by its fields; of a part that is one of several all that any of them has. ``free``: it need not be there;
    ``none``: it may be empty. Words of a closed set and truths are left out: no form can say anything else."""
    fields: dict[str, Node] = {}
    for model in models:
        for name, field in model.model_fields.items():
            node = _node(field.annotation, field.metadata)
            if node is not None:
                is_free = not field.is_required() or len(models) > 1
                fields[field.alias or name] = node | ({"free": True} if is_free else {})
    return {"is": "part", "of": fields}


def _node(annotation: Any, metadata: Iterable[Any]) -> Node | None:
    metadata = list(metadata)
    if hasattr(annotation, "__metadata__"):
        return _node(annotation.__origin__, [*annotation.__metadata__, *metadata])
    several = [part for part in get_args(annotation) if part is not NoneType]
    if NoneType in get_args(annotation):
        inner = _node(several[0], metadata) if len(several) == 1 else _union(several)
        return inner | {"none": True} if inner is not None else None
    if get_origin(annotation) is list:
        inner = _node(several[0], [])
        return {"is": "list", "of": inner} if inner is not None else None
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return fields_of(annotation)
    if annotation in (int, float):
        return {"is": "number"} | _range(metadata) | ({"whole": True} if annotation is int else {})
    if annotation is str:
        return _text(metadata)
    return _union(several) if several else None


def _union(several: list[Any]) -> Node | None:
    models = [each for each in several if isinstance(each, type) and issubclass(each, BaseModel)]
    return fields_of(*models) if models else None


def _flat(metadata: Iterable[Any]) -> Iterable[Any]:
    for each in metadata:
        yield from (_flat(each.metadata) if isinstance(each, FieldInfo) else [each])


def _range(metadata: Iterable[Any]) -> Node:
    found: Node = {}
    for each in _flat(metadata):
        for kind, word in _ENDS.items():
            if isinstance(each, kind):
                found[word] = getattr(each, kind.__name__.lower())
        if isinstance(each, UnitOf):
            found["unit"] = each.unit
    return found


def _text(metadata: Iterable[Any]) -> Node | None:
    """A text by its length; a word of a closed set has none."""
    flat = list(_flat(metadata))
    most = next((each.max_length for each in flat if isinstance(each, MaxLen)), None)
    least = next((each.min_length for each in flat if isinstance(each, MinLen)), None)
    return None if most is None else {"is": "text", "most": most} | ({"least": least} if least else {})
