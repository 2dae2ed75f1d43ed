"""Whatever goes wrong under /api/ is answered in the API's own form, also where Django itself answers."""

import logging
import sys
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.http.response import HttpResponseBase
from structlog.contextvars import get_contextvars

from lodeline.api.errors import STATUS
from lodeline.api.failures import said
from lodeline.logbook.services.storage import fault_of
from lodeline.text import answers

_log = logging.getLogger(__name__)
_WORDS = {
    400: answers.NOT_A_REQUEST,
    403: answers.STALE_PAGE,
    404: answers.NOT_THERE,
    405: answers.NOT_THIS_WAY,
    413: answers.NOT_A_REQUEST,
}


def _answer(status: int, sentence: str) -> JsonResponse:
    return JsonResponse(said(sentence), status=status)


class ApiForm:
    """Middleware: an error under /api/ that is not in the API's form is put into it."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        """Answer a request."""
        is_api = request.path.startswith("/api/")
        if is_api and request.META.get("CONTENT_TYPE") and request.content_type != "application/json":
            return _answer(415, answers.NOT_JSON)
        response = self.answer(request)
        if is_api and "Cache-Control" not in response:  # what is private is kept by no cache
            response["Cache-Control"] = "no-store"
        known = response.status_code in _WORDS and not response.get("Content-Type", "").startswith("application/json")
        if not known or not is_api:
            return response
        instead = _answer(response.status_code, _WORDS[response.status_code])
        for name in ("Allow", "Cache-Control"):
            if name in response:
                instead[name] = response[name]
        return instead


def failed(request: HttpRequest) -> HttpResponse:
    """What Django answers where something failed outside the API: as the session is read or written."""
    error = sys.exc_info()[1]
    fault = fault_of(error) if error is not None else None
    if fault is not None:
        _log.error("storage: %s", fault, exc_info=error)
        status, sentence = STATUS[fault], answers.storage(fault)
    else:
        status, sentence = 500, answers.defect(get_contextvars().get("request_id", ""))
    if request.path.startswith("/api/"):
        return _answer(status, sentence)
    return HttpResponse(sentence, status=status, content_type="text/plain; charset=utf-8")
