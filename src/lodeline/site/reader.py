"""Answers are written as the reader writes numbers, dates and times: what the browser says of it in a head."""

from collections.abc import Callable

from django.http import HttpRequest
from django.http.response import HttpResponseBase

from lodeline.logbook import clock
from lodeline.text.habits import Habits, read_by

HEADER = "X-Lodeline-Reader"


class Reader:
    """Middleware: sets the reader's habits for a request."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        """Answer a request in its reader's habits."""
        with read_by(Habits.told(request.headers.get(HEADER, ""), clock.now().date())):
            return self.answer(request)
