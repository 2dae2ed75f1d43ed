"""One map from errors to answers. Every refusal has its place, the label of its field, and a sentence."""

import logging
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError
from ninja.parser import Parser
from pydantic_core import ErrorDetails
from structlog.contextvars import get_contextvars

from lodeline.accounts.access import NotThere, NotYours
from lodeline.accounts.guessing import TooManyGuesses
from lodeline.accounts.hashing import TooManyAtOnce
from lodeline.accounts.models import Membership
from lodeline.api.failures import of, said
from lodeline.api.limits import most_body
from lodeline.api.who import display_of
from lodeline.core.errors import Refused
from lodeline.core.problems import Plain
from lodeline.formats.refusals import error_path, problem_of
from lodeline.formats.strict_json import place_of, read_json
from lodeline.logbook.services.derived import StillWorking
from lodeline.logbook.services.rigs import ChangedSince
from lodeline.logbook.services.rows import Missing
from lodeline.logbook.services.shared import Busy
from lodeline.logbook.services.storage import fault_of
from lodeline.text import answers
from lodeline.text.problems import problem

_log = logging.getLogger(__name__)
# How far what is being derived is: with an answer of something older, or where there is none yet.
PROGRESS = "X-Lodeline-Progress"
STATUS = {fault: 507 if fault is answers.StorageFault.FULL else 503 for fault in answers.StorageFault}
# What the framework puts before the path of a body's value.
_FRAMES = ("body", "path", "query")
_PARAMETERS = ("payload", "facts", "doc")


class TooLarge(ValueError):
    """A body over the limit of its route."""

    def __init__(self, most: int) -> None:
        super().__init__(most)
        self.most = most


def body_of(request: HttpRequest, most: int) -> bytes:
    """The body of a request.

    Raises
    ------
    TooLarge
        By its length, before any of it is read.
    """
    if int(request.META.get("CONTENT_LENGTH") or 0) > most:
        raise TooLarge(most)
    return request.body


class StrictParser(Parser):
    """Bodies are read as strictly as files are."""

    def parse_body(self, request: HttpRequest) -> Any:
        """Parse a JSON body; refuse duplicate keys, NaN and broken text."""
        return read_json(body_of(request, most_body(request.path)))


def _given(request: HttpRequest, path: tuple[str | int, ...]) -> Any:
    """What was given at a path of a body; the framework does not say. None where it cannot be told."""
    try:
        value = read_json(request.body)
        for part in path:
            value = value[part]
    except (Refused, LookupError, TypeError):
        return None
    return value


def _invalid(request: HttpRequest, error: ValidationError) -> Refused:
    first: ErrorDetails = error.errors[0]  # type: ignore[assignment]
    path = tuple(part for part in error_path(first) if part not in _FRAMES)
    path = path[1:] if len(path) > 1 and path[0] in _PARAMETERS else path
    if "input" not in first:
        first = {**first, "input": _given(request, path)}
    return Refused(place_of(path), problem_of(first))


def install(api: NinjaAPI) -> None:
    """Register the map."""

    def answer(request: HttpRequest, status: int, sentence: str) -> HttpResponse:
        return api.create_response(request, said(sentence), status=status)

    def refuse(request: HttpRequest, error: Refused) -> HttpResponse:
        return api.create_response(request, of(error, display_of(request)).model_dump(), status=422)

    @api.exception_handler(Refused)
    def on_refused(request: HttpRequest, error: Refused) -> HttpResponse:
        return refuse(request, error)

    @api.exception_handler(ValidationError)
    def on_invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        return refuse(request, _invalid(request, error))

    @api.exception_handler(NotThere)
    @api.exception_handler(Missing)
    def on_missing(request: HttpRequest, error: Exception) -> HttpResponse:
        return answer(request, 404, answers.NOT_THERE)

    @api.exception_handler(NotYours)
    def on_forbidden(request: HttpRequest, error: NotYours) -> HttpResponse:
        words = answers.NOT_YOURS if error.needs == Membership.OWNER else answers.ONLY_READS
        return answer(request, 403, words)

    @api.exception_handler(ChangedSince)
    def on_changed(request: HttpRequest, error: ChangedSince) -> HttpResponse:
        return answer(request, 409, problem(Plain.CHANGED_MEANWHILE))

    @api.exception_handler(AuthenticationError)
    def on_anonymous(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return answer(request, 401, answers.NOT_SIGNED_IN)

    @api.exception_handler(HttpError)
    def on_http(request: HttpRequest, error: HttpError) -> HttpResponse:
        # what a body is refused for comes wrapped by the framework
        if isinstance(error.__cause__, Refused):
            return refuse(request, error.__cause__)
        if isinstance(error.__cause__, TooLarge):
            return answer(request, 413, answers.too_large(error.__cause__.most))
        return answer(request, error.status_code, str(error))

    @api.exception_handler(StillWorking)
    def on_still_working(request: HttpRequest, error: StillWorking) -> HttpResponse:
        # nothing is wrong: it was taken on, and is there when it is asked for again
        response = answer(request, 202, answers.still_working(error.progress, error.what))
        response["Retry-After"], response[PROGRESS] = "1", f"{error.progress:.2f}"
        return response

    @api.exception_handler(TooManyGuesses)
    def on_guessing(request: HttpRequest, error: TooManyGuesses) -> HttpResponse:
        response = answer(request, 429, answers.wait(error.wait_s))
        response["Retry-After"] = str(error.wait_s)
        return response

    @api.exception_handler(TooManyAtOnce)
    def on_many(request: HttpRequest, error: TooManyAtOnce) -> HttpResponse:
        response = answer(request, 429, answers.MANY_SIGN_IN)
        response["Retry-After"] = "3"
        return response

    @api.exception_handler(Busy)
    def on_busy(request: HttpRequest, error: Busy) -> HttpResponse:
        response = answer(request, 503, answers.BUSY_READING)
        response["Retry-After"] = "5"
        return response

    @api.exception_handler(TooLarge)
    def on_too_large(request: HttpRequest, error: TooLarge) -> HttpResponse:
        return answer(request, 413, answers.too_large(error.most))

    @api.exception_handler(Exception)
    def on_defect(request: HttpRequest, error: Exception) -> HttpResponse:
        fault = fault_of(error)
        if fault is not None:
            _log.error("storage: %s", fault, exc_info=error)
            return answer(request, STATUS[fault], answers.storage(fault))
        _log.exception("defect", exc_info=error)
        return answer(request, 500, answers.defect(get_contextvars().get("request_id", "")))
