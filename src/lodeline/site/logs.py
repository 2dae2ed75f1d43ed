"""Logs: one JSON object a line, each with the number of the request that it belongs to."""

import logging
import os
import uuid
from collections.abc import Callable
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
        structlog.processors.JSONRenderer(sort_keys=True),
    ]
    formatter = {"()": structlog.stdlib.ProcessorFormatter, "foreign_pre_chain": shared, "processors": rendered}
    return {
        "version": 1,
        "disable_existing_loggers": False,
        "formatters": {"json": formatter},
        "handlers": {"console": {"class": "logging.StreamHandler", "formatter": "json"}},
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
        with structlog.contextvars.bound_contextvars(request_id=number):
            response = self.answer(request)
            # the path without its query, which may hold what somebody wrote
            extra = {"method": request.method, "path": request.path, "status": response.status_code}
            _log.info("answered", extra=extra | {"s": round(perf_counter() - began, 4)})
        response[HEADER] = number
        return response
