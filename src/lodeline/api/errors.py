"""One map from errors to answers. Every refusal has its place and a sentence."""

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError
from ninja.parser import Parser
from pydantic_core import ErrorDetails

from lodeline.accounts.access import NotThere, NotYours
from lodeline.core.errors import Refused
from lodeline.formats.logbook import error_path, sentence
from lodeline.formats.strict_json import place_of, read_json
from lodeline.logbook.services.record import Missing


class StrictParser(Parser):
    """Bodies are read as strictly as files are."""

    def parse_body(self, request: HttpRequest) -> Any:
        """Parse a JSON body; refuse duplicate keys, NaN and broken text."""
        return read_json(request.body)


def _details(error: ValidationError) -> tuple[str, str]:
    first: ErrorDetails = error.errors[0]  # type: ignore[assignment]
    path = tuple(part for part in error_path(first) if part not in ("body", "path", "query"))
    path = path[1:] if len(path) > 1 and path[0] in ("payload", "facts", "doc") else path
    return place_of(path), sentence(first)


def install(api: NinjaAPI) -> None:
    """Register the map."""

    def answer(request: HttpRequest, status: int, place: str, problem: str) -> HttpResponse:
        return api.create_response(request, {"place": place, "problem": problem}, status=status)

    @api.exception_handler(Refused)
    def on_refused(request: HttpRequest, error: Refused) -> HttpResponse:
        return answer(request, 422, error.place, error.problem)

    @api.exception_handler(ValidationError)
    def on_invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        return answer(request, 422, *_details(error))

    @api.exception_handler(NotThere)
    @api.exception_handler(Missing)
    def on_missing(request: HttpRequest, error: Exception) -> HttpResponse:
        return answer(request, 404, "", "There is no such thing here.")

    @api.exception_handler(NotYours)
    def on_forbidden(request: HttpRequest, error: NotYours) -> HttpResponse:
        return answer(request, 403, "", str(error))

    @api.exception_handler(AuthenticationError)
    def on_anonymous(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return answer(request, 401, "", "Sign in first.")

    @api.exception_handler(HttpError)
    def on_http(request: HttpRequest, error: HttpError) -> HttpResponse:
        return answer(request, error.status_code, "", str(error))
