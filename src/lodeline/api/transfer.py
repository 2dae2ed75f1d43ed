"""Import and export of whole logbooks."""

from collections.abc import Iterator
from contextlib import contextmanager, nullcontext
from datetime import date
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router

from lodeline.accounts.access import grant
from lodeline.accounts.models import Membership
from lodeline.api.errors import body_of
from lodeline.api.limits import MOST_BODY, most_body
from lodeline.api.moments import Moment, moment
from lodeline.api.out import Out, Revision
from lodeline.api.who import Needs, display_of, rig_of, shown_as, user_of
from lodeline.formats.document import LogbookDoc
from lodeline.formats.logbook import read_logbook
from lodeline.formats.strict_json import MOST_PARTS
from lodeline.logbook.services import transfer
from lodeline.logbook.services.shared import whole_log
from lodeline.text import logbook as text
from lodeline.text.display import Display

router = Router(tags=["transfer"])
new_router = Router(tags=["transfer"])


class SummaryOut(Out):
    name: str
    stores: list[str]
    days: int
    readings: int
    events: int
    first: date | None
    last: date | None
    words: str


class Preview(Out):
    """What an import would bring, and what it would replace. Nothing was kept yet."""

    brings: SummaryOut
    replaces: SummaryOut | None
    revision: int | None = None


class Imported(Out):
    rig: int
    brought: SummaryOut
    kept: str | None


class KeptOut(Out):
    """An export that was made before an import."""

    name: str
    at: Moment
    size: str


class KeptListOut(Out):
    """``can_undo``: whether what the last import replaced can be put back. ``revision``: to be named by who does."""

    exports: list[KeptOut]
    can_undo: bool
    revision: int


def _summary(counts: transfer.Summary) -> SummaryOut:
    words = text.contents(counts.days, counts.readings, counts.events, counts.first, counts.last)
    return SummaryOut(**vars(counts), words=words)


@contextmanager
def _reading(request: HttpRequest) -> Iterator[LogbookDoc]:
    """The file in a request's body; once it is read, what is refused is said in its units."""
    with whole_log() if int(request.META.get("CONTENT_LENGTH") or 0) > MOST_BODY else nullcontext():
        book = read_logbook(body_of(request, most_body(request.path)), MOST_PARTS)
        shown_as(request, Display.of(book.rig))
        yield book.doc


_LOGBOOK = "#/components/schemas/LogbookDoc"


def _body() -> dict[str, Any]:
    return {"requestBody": {"required": True, "content": {"application/json": {"schema": {"$ref": _LOGBOOK}}}}}


@router.get("/{rig_id}/export", operation_id="export")
def export(request: HttpRequest, rig_id: str) -> HttpResponse:
    """The rig's logbook file."""
    rig = rig_of(request, rig_id)
    with whole_log():
        response = HttpResponse(transfer.export(rig), content_type="application/json")
    response["Content-Disposition"] = f'attachment; filename="lodeline-rig-{rig.pk}.json"'
    return response


@new_router.post("/preview", response=Preview, operation_id="preview_new", openapi_extra=_body())
def preview_new(request: HttpRequest) -> Preview:
    """Check a file and say what it would bring as a new rig."""
    with _reading(request) as doc:
        return Preview(brings=_summary(transfer.summary(doc)), replaces=None)


@new_router.post("", response=Imported, operation_id="import_new", openapi_extra=_body())
def import_new(request: HttpRequest) -> Imported:
    """Make a new rig from a file; all or nothing."""
    user = user_of(request)
    with _reading(request) as doc:
        rig = transfer.import_new(doc, by=user, also=lambda rig: grant(user, rig, Membership.OWNER))
        return Imported(rig=rig.pk, brought=_summary(transfer.summary(doc)), kept=None)


@router.post("/{rig_id}/import/preview", response=Preview, operation_id="preview_over", openapi_extra=_body())
def preview_over(request: HttpRequest, rig_id: str) -> Preview:
    """Check a file and say what it would bring, and what it would replace."""
    rig = rig_of(request, rig_id, needs=Needs.OWNER)
    with _reading(request) as doc:
        replaces = _summary(transfer.summary_of(rig))
        return Preview(brings=_summary(transfer.summary(doc)), replaces=replaces, revision=rig.revision)


@router.post("/{rig_id}/import", response=Imported, operation_id="import_over", openapi_extra=_body())
def import_over(request: HttpRequest, rig_id: str, saw: Revision) -> Imported:
    """Replace a rig and its log by a file; all or nothing, after an export of what stood before.

    ``saw``: the revision that the preview was of.
    """
    rig = rig_of(request, rig_id, needs=Needs.OWNER)
    with _reading(request) as doc:
        kept = transfer.import_over(rig, doc, saw=saw, by=user_of(request))
        return Imported(rig=rig.pk, brought=_summary(transfer.summary(doc)), kept=kept.name)


@router.post("/{rig_id}/import/undo", response=Imported, operation_id="undo_import")
def undo_import(request: HttpRequest, rig_id: str, saw: Revision) -> Imported:
    """Put back what the last import replaced, as it was: with what was typed, assumed and forecast.

    What stands now takes its place, so that this can be undone too. ``saw``: the revision on the screen.
    """
    rig = rig_of(request, rig_id, needs=Needs.OWNER)
    with whole_log():
        kept = transfer.undo_import(rig, saw=saw, by=user_of(request))
    return Imported(rig=rig.pk, brought=_summary(transfer.summary_of(rig)), kept=kept.name)


@router.get("/{rig_id}/kept", response=KeptListOut, operation_id="kept_exports")
def kept_exports(request: HttpRequest, rig_id: str) -> KeptListOut:
    """The exports that imports made first, newest first, and whether the last import can be undone."""
    rig, display = rig_of(request, rig_id, needs=Needs.OWNER), display_of(request)
    exports = [
        KeptOut(name=each.name, at=moment(each.at, display), size=text.file_size(each.size_bytes))
        for each in transfer.kept_exports(rig)
    ]
    return KeptListOut(exports=exports, can_undo=transfer.can_undo_import(rig), revision=rig.revision)


@router.get("/{rig_id}/kept/{name}", operation_id="kept_export")
def kept_export(request: HttpRequest, rig_id: str, name: str) -> HttpResponse:
    """An export that an import made first."""
    rig = rig_of(request, rig_id, needs=Needs.OWNER)
    response = HttpResponse(transfer.kept_export(rig, name), content_type="application/json")
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
