"""An answer that was made of something older says so in its head: as of when, and how far the newer one is."""

from collections.abc import Callable
from datetime import UTC

from django.http import HttpRequest
from django.http.response import HttpResponseBase

from lodeline.api.errors import PROGRESS
from lodeline.logbook.services.derived import OLDER

HEADER = "X-Lodeline-As-Of"


class AsOf:
    """Middleware: notes whether a request was answered from something older."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        """Answer a request."""
        token = OLDER.set([])
        try:
            response = self.answer(request)
            notes = OLDER.get()
        finally:
            OLDER.reset(token)
        if notes:
            oldest = min(notes, key=lambda each: each.at)
            response[HEADER] = oldest.at.astimezone(UTC).isoformat(timespec="seconds")
            response[PROGRESS] = f"{oldest.progress:.2f}"
        return response
