"""A worker of the server: gunicorn starts it, watches it and starts another where it ends; waitress serves in it."""

import logging
import os
import resource
from collections.abc import Callable
from http.cookies import CookieError, SimpleCookie
from time import monotonic
from typing import Any

from gunicorn.workers.base import Worker as Watched
from waitress import wasyncore

from lodeline.logbook.services import background
from lodeline.site.front import BoundedParser, Dispatcher, FrontServer, server
from lodeline.site.watchdog import Watchdog

_log = logging.getLogger(__name__)
_TURN_S, _LAST_TURN_S = 1.0, 0.05


def _signed_in(cookies: str) -> bool:
    """Whether a head's cookies are of a session that somebody signed in to."""
    from django.conf import settings
    from django.contrib.auth import SESSION_KEY
    from django.contrib.sessions.backends.db import SessionStore
    from django.db import DatabaseError, connection

    try:
        found = SimpleCookie(cookies).get(settings.SESSION_COOKIE_NAME)
        return found is not None and SESSION_KEY in SessionStore(found.value)
    except (CookieError, DatabaseError):
        return False
    finally:
        connection.close()


class Worker(Watched):  # type: ignore[misc]
    """Serves until it is told to end, then lets what is being answered be answered."""

    def run(self) -> None:
        """Serve."""
        _, most = resource.getrlimit(resource.RLIMIT_NOFILE)
        resource.setrlimit(resource.RLIMIT_NOFILE, (most, most))
        background.end_with_parent()
        from lodeline.logbook.services import deriving

        background.start(deriving.serve, [each.sock for each in self.sockets], self._end)
        BoundedParser.signed_in = staticmethod(_signed_in)
        map: dict[int, Any] = {}
        threads = Dispatcher(self.cfg.threads)
        # with HTTPS somebody ends it before us: where nothing else is said, on this machine
        https = os.environ.get("LODELINE_HTTPS") == "1"
        proxy = os.environ.get("LODELINE_PROXY", "127.0.0.1" if https else "").strip() or None
        dog = Watchdog()
        watched = dog.watched(self.wsgi)
        servers = [server(watched, each.sock, map, threads, proxy) for each in self.sockets]
        self._wake = servers[0].pull_trigger
        while self.alive and os.getppid() == self.ppid:
            self.notify()
            dog.look()
            if background.has_grown() and not any(each.is_busy() for each in servers):
                _log.info("another worker takes the place of this one")
                break
            wasyncore.loop(timeout=_TURN_S, use_poll=True, map=map, count=1)
        if (helper := background.helper()) is not None:
            helper.end()
        self._finish(servers, map)
        threads.shutdown(timeout=1)

    _wake: Callable[[], object] = staticmethod(lambda: None)

    def _end(self) -> None:
        """Without its helper a worker ends, so that both are started anew."""
        self.alive = False
        self._wake()

    def handle_exit(self, sig: int, frame: object) -> None:
        """Told to end: at once, not after the turn."""
        self._end()

    def _finish(self, servers: list[FrontServer], map: dict[int, Any]) -> None:
        """Take no more connections, so that whoever starts now has the port; answer what is being answered."""
        end = monotonic() + self.cfg.graceful_timeout
        for each in servers:
            each.end()
        while monotonic() < end and any(each.is_busy() for each in servers):
            self.notify()
            wasyncore.loop(timeout=_LAST_TURN_S, use_poll=True, map=map, count=1)
