"""No request holds a thread for long: one that takes too long, or whose client has gone, is given up."""

import logging
import sys
from collections.abc import Callable, Iterable
from contextlib import suppress
from time import monotonic
from typing import Any

from django.db import connections

from lodeline.api.failures import plain_answer
from lodeline.api.limits import patience_s
from lodeline.site.undisturbed import GivenUp, Thread, here
from lodeline.text import answers

_log = logging.getLogger(__name__)


class _Work:
    """A request that a thread is at."""

    def __init__(self, method: str, path: str, has_gone: Callable[[], bool]) -> None:
        self.thread, self.began, self.patience_s = Thread(), monotonic(), patience_s(path)
        self.method, self.path, self.has_gone = method, path, has_gone
        self.told = False

    @property
    def took_s(self) -> float:
        """For how long it has been."""
        return monotonic() - self.began

    def is_over(self) -> bool:
        """Whether to give it up. A write whose client has gone is finished: it is asked about again."""
        return self.took_s > self.patience_s or (self.method == "GET" and self.has_gone())


class Watchdog:
    """Knows what every thread is at. `look` is called about once a second by whoever has time."""

    def __init__(self) -> None:
        self._at: dict[int, _Work] = {}

    def look(self) -> None:
        """Give up what has had its time."""
        for work in list(self._at.values()):
            if not work.is_over():
                continue
            if not work.told:
                work.told = True
                extra = {"method": work.method, "path": work.path, "s": round(work.took_s, 1)}
                _log.log(logging.INFO if work.has_gone() else logging.WARNING, "given up", extra=extra)
            work.thread.give_up()

    def watched(self, application: Any) -> Any:
        """A WSGI application whose requests are watched."""

        def answer(environ: dict[str, Any], start_response: Any) -> Iterable[bytes]:
            gone = environ.get("waitress.client_disconnected", lambda: False)
            work = _Work(environ["REQUEST_METHOD"], environ.get("PATH_INFO", ""), gone)
            here(work.thread)
            self._at[work.thread.number] = work
            try:
                try:
                    return application(environ, start_response)  # type: ignore[no-any-return]
                finally:
                    work.thread.finish()
            except GivenUp:
                with suppress(GivenUp):
                    work.thread.finish()
                return _given_up(start_response)
            finally:
                del self._at[work.thread.number]
                here(None)

        return answer


def _given_up(start_response: Any) -> Iterable[bytes]:
    connections.close_all()
    head, body = plain_answer(answers.TOOK_TOO_LONG)
    start_response("503 Service Unavailable", head, sys.exc_info())
    return [body]
