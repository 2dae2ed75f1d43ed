"""The logbook file: read it, refuse it with its place named, write it."""

import json
from collections.abc import Callable
from datetime import date
from typing import Any

from pydantic_core import to_json

from lodeline.core.book import Spot
from lodeline.core.log import Log, OutlookDay
from lodeline.core.rig import Rig
from lodeline.core.values import dataclass
from lodeline.core.wishes import Agreed, FixedStop
from lodeline.formats.checks import check_log, check_rig, check_wishes
from lodeline.formats.convert import agreed_to_core, planned_to_core, spot_to_core, to_core
from lodeline.formats.document import LogbookDoc
from lodeline.formats.refusals import validated
from lodeline.formats.strict_json import read_json


@dataclass(frozen=True, slots=True, kw_only=True)
class Logbook:
    """A file as it was read: the document, and what it says in the core's types."""

    doc: LogbookDoc
    rig: Rig
    log: Log
    outlook: tuple[OutlookDay, ...]
    book: tuple[Spot, ...] = ()
    agreed: tuple[Agreed, ...] = ()
    planned: tuple[FixedStop, ...] = ()


def read_logbook(data: bytes, most_parts: int | None = None) -> Logbook:
    """Read and check a logbook file. ``most_parts``: objects that it may hold, where that is bounded.

    Raises
    ------
    Refused
        With the place of the first thing that is wrong. Nothing of a refused document is kept.
    """
    doc = validated(LogbookDoc, read_json(data, most_parts))
    check_rig(doc.rig)
    rig, log, outlook = to_core(doc)
    check_log(rig, log, outlook)
    check_wishes(doc)
    return Logbook(
        doc=doc,
        rig=rig,
        log=log,
        outlook=outlook,
        book=tuple(spot_to_core(each) for each in doc.places or ()),
        agreed=tuple(agreed_to_core(each) for each in doc.agreed or ()),
        planned=tuple(planned_to_core(each) for each in doc.planned or ()),
    )


def write_document(doc: LogbookDoc, entries: Callable[[date], dict[str, Any]] = lambda on: {}) -> bytes:
    """Write a logbook file. What is absent is left out; reading it back gives the same document.

    ``entries``: the readings and events of a date as the file has them, where the document has none.
    """
    fields = doc.model_dump(by_alias=True, exclude_none=True)
    for key in ("solar", "sources", "loads"):
        if not fields["rig"][key]:
            del fields["rig"][key]
    for day, of_doc in zip(fields["days"], doc.days, strict=True):
        day |= entries(of_doc.date)
        for key in ("readings", "events"):
            if not day[key]:
                del day[key]
    return to_json(fields, indent=1) + b"\n"


def json_schema() -> str:
    """The JSON Schema of the file, generated from the models."""
    return json.dumps(LogbookDoc.model_json_schema(by_alias=True), indent=1, ensure_ascii=False) + "\n"
