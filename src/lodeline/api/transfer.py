"""Import and export of whole logbooks."""

from datetime import date
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router

from lodeline.accounts.access import grant
from lodeline.accounts.models import Membership
from lodeline.api.errors import body_of
from lodeline.api.limits import most_body
from lodeline.api.out import Out
from lodeline.api.who import Needs, rig_of, shown_as, user_of
from lodeline.formats.document import LogbookDoc
from lodeline.formats.logbook import read_logbook
from lodeline.logbook.services import rows, transfer
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


def _summary(counts: transfer.Summary) -> SummaryOut:
    words = text.contents(counts.days, counts.readings, counts.events, counts.first, counts.last)
    return SummaryOut(**vars(counts), words=words)


def _read(request: HttpRequest) -> LogbookDoc:
    """The file in a request's body; once it is read, what is refused is said in its units."""
    book = read_logbook(body_of(request, most_body(request.path)))
    shown_as(request, Display.of(book.rig))
    return book.doc


def _body() -> dict[str, Any]:
    return {"requestBody": {"required": True, "content": {"application/json": {"schema": {"type": "object"}}}}}


@router.get("/{rig_id}/export", operation_id="export")
def export(request: HttpRequest, rig_id: str) -> HttpResponse:
    """The rig's logbook file."""
    rig = rig_of(request, rig_id)
    response = HttpResponse(transfer.export(rig), content_type="application/json")
    response["Content-Disposition"] = f'attachment; filename="lodeline-rig-{rig.pk}.json"'
    return response


@new_router.post("/preview", response=Preview, operation_id="preview_new", openapi_extra=_body())
def preview_new(request: HttpRequest) -> Preview:
    """Check a file and say what it would bring as a new rig."""
    return Preview(brings=_summary(transfer.summary(_read(request))), replaces=None)


@new_router.post("", response=Imported, operation_id="import_new", openapi_extra=_body())
def import_new(request: HttpRequest) -> Imported:
    """Make a new rig from a file; all or nothing."""
    doc = _read(request)
    user = user_of(request)
    rig = transfer.import_new(doc, by=user, also=lambda rig: grant(user, rig, Membership.OWNER))
    return Imported(rig=rig.pk, brought=_summary(transfer.summary(doc)), kept=None)


@router.post("/{rig_id}/import/preview", response=Preview, operation_id="preview_over", openapi_extra=_body())
def preview_over(request: HttpRequest, rig_id: str) -> Preview:
    """Check a file and say what it would bring, and what it would replace."""
    rig = rig_of(request, rig_id, needs=Needs.OWNER)
    doc = _read(request)
    replaces = transfer.summary(rows.logbook_document(rig))
    return Preview(brings=_summary(transfer.summary(doc)), replaces=_summary(replaces), revision=rig.revision)


@router.post("/{rig_id}/import", response=Imported, operation_id="import_over", openapi_extra=_body())
def import_over(request: HttpRequest, rig_id: str, saw: int) -> Imported:
    """Replace a rig and its log by a file; all or nothing, after an export of what stood before.

    ``saw``: the revision that the preview was of.
    """
    rig = rig_of(request, rig_id, needs=Needs.OWNER)
    doc = _read(request)
    kept = transfer.import_over(rig, doc, saw=saw, by=user_of(request))
    return Imported(rig=rig.pk, brought=_summary(transfer.summary(doc)), kept=kept.name)


@router.get("/{rig_id}/kept/{name}", operation_id="kept_export")
def kept_export(request: HttpRequest, rig_id: str, name: str) -> HttpResponse:
    """An export that an import made first."""
    rig = rig_of(request, rig_id, needs=Needs.OWNER)
    response = HttpResponse(transfer.kept_export(rig, name), content_type="application/json")
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
