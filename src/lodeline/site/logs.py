"""Logs: one JSON object a line, each with the number of the request that it belongs to."""

import logging
import os
import re
import uuid
from collections.abc import Callable, MutableMapping
from contextvars import ContextVar
from time import perf_counter
from typing import Any

import structlog
from django.http import HttpRequest
from django.http.response import HttpResponseBase

HEADER = "X-Request-ID"
LEVELS = ("DEBUG", "INFO", "WARNING", "ERROR")
_log = logging.getLogger(__name__)


def level() -> str:
    """How much is logged: what LODELINE_LOG says."""
    return os.environ.get("LODELINE_LOG", "WARNING").upper()


# What stands in an address and is nobody's business: secrets, and the names of accounts.
_MASKED = ((re.compile(r"(/calendar/)[^\s\"'?#]+"), r"\1(secret)"), (re.compile(r"(/crew/)[^\s\"'/?#]+"), r"\1(name)"))


# Whether this request's line was written already.
_told: ContextVar[bool] = ContextVar("lodeline_told", default=False)


def masked(text: str) -> str:
    """A text of a log without secrets and names of accounts."""
    for secret, instead in _MASKED:
        text = secret.sub(instead, text)
    return text


def _mask(_logger: object, _name: str, line: MutableMapping[str, Any]) -> MutableMapping[str, Any]:
    for key, value in line.items():
        if isinstance(value, str):
            line[key] = masked(value)
    return line


class OneLine(logging.Filter):
    """What a hostile or mistaken client did is one line, that says what it was, not where in Django it was noticed."""

    def filter(self, record: logging.LogRecord) -> bool:
        """Whether a line is written."""
        if record.name.startswith("django.security"):
            record.exc_info = None
            _told.set(True)
        return record.name != "django.request" or not _told.get()


def configuration(level: str) -> dict[str, Any]:
    """Django's LOGGING. At INFO there is a line a request and one a derivation; never what somebody typed."""
    shared = [
        structlog.contextvars.merge_contextvars,
        structlog.stdlib.add_log_level,
        structlog.stdlib.add_logger_name,
        structlog.stdlib.ExtraAdder(allow=("rig", "revision", "s", "method", "path", "status")),
        structlog.processors.TimeStamper(fmt="iso", utc=True),
    ]
    rendered = [
        structlog.stdlib.ProcessorFormatter.remove_processors_meta,
        structlog.processors.format_exc_info,
        _mask,
        structlog.processors.JSONRenderer(sort_keys=True),
    ]
    formatter = {"()": structlog.stdlib.ProcessorFormatter, "foreign_pre_chain": shared, "processors": rendered}
    return {
        "version": 1,
        "disable_existing_loggers": False,
        "formatters": {"json": formatter},
        "filters": {"one line": {"()": OneLine}},
        "handlers": {"console": {"class": "logging.StreamHandler", "formatter": "json", "filters": ["one line"]}},
        "root": {"handlers": ["console"], "level": "WARNING"},
        "loggers": {"lodeline": {"level": level}},
    }


class RequestLog:
    """Gives each request a number, which stands in every line logged for it and in the answer's head."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        """Answer a request, and log that it was answered."""
        number, began = uuid.uuid4().hex, perf_counter()
        _told.set(False)
        with structlog.contextvars.bound_contextvars(request_id=number):
            response = self.answer(request)
            # the path without its query, which may hold what somebody wrote
            extra = {"method": request.method, "path": request.path, "status": response.status_code}
            _log.info("answered", extra=extra | {"s": round(perf_counter() - began, 4)})
        response[HEADER] = number
        return response
