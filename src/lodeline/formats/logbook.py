"""The logbook file: read it, refuse it with its place named, write it."""

import json
from dataclasses import dataclass

from lodeline.core.log import Log, OutlookDay
from lodeline.core.rig import Rig
from lodeline.formats.checks import check_log, check_rig
from lodeline.formats.convert import to_core
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


def read_logbook(data: bytes) -> Logbook:
    """Read and check a logbook file.

    Raises
    ------
    Refused
        With the place of the first thing that is wrong. Nothing of a refused document is kept.
    """
    doc = validated(LogbookDoc, read_json(data))
    check_rig(doc.rig)
    rig, log, outlook = to_core(doc)
    check_log(rig, log, outlook)
    return Logbook(doc=doc, rig=rig, log=log, outlook=outlook)


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
