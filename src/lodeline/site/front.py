"""What stands before the application: heads and bodies are read whole, in time and within bounds, before a thread is
asked. Built on waitress, which reads every socket in one loop and gives a thread only to a request that is complete.
"""

import socket
from collections.abc import Callable
from typing import Any

from waitress.adjustments import Adjustments
from waitress.channel import HTTPChannel
from waitress.parser import HTTPRequestParser
from waitress.server import TcpWSGIServer
from waitress.task import ThreadedTaskDispatcher
from waitress.utilities import Error

from lodeline.api.failures import plain_answer
from lodeline.api.limits import KIB, MIB, MOST_BODY, MOST_OF_ALL, most_body
from lodeline.text import answers

_MOST_HEAD = 32 * KIB
# A head has so long in all; a body so long and no slower than this from then on; a connection without a request, and
# an answer that nobody fetches, so long.
HEAD_S, BODY_S, SLOWEST_BYTES_S, IDLE_S = 10, 20, 1000, 60
# How long what a refused body still brings is read over, so that the answer arrives.
_LINGER_S = 5
# Of each worker; beyond it whoever waited longest without a whole request makes room.
MOST_CONNECTIONS = 400
_READ_AT_ONCE = 256 * KIB
# An answer waits in memory, then in a temporary file, never in a thread.
_MOST_UNFETCHED = 1024 * MIB


class Refusal(Error):
    """An answer in the API's own form to a request that is not read on."""

    def __init__(self, code: int, reason: str, sentence: str) -> None:
        super().__init__(sentence)
        self.code, self.reason = code, reason

    def to_response(self, ident: str | None = None) -> tuple[str, list[tuple[str, str]], bytes]:
        """The status, the head and the body."""
        return f"{self.code} {self.reason}", *plain_answer(self.body)


def _too_large(most: int) -> Refusal:
    return Refusal(413, "Content Too Large", answers.too_large(most))


class BoundedParser(HTTPRequestParser):
    """Reads a request; what is too large for its address is refused by its length, before any of it is read."""

    # Set where the server is made: whether the cookies of a head are of somebody who is signed in.
    signed_in: Callable[[str], bool] = staticmethod(lambda cookies: False)
    most_body = MOST_BODY

    def parse_header(self, header_plus: bytes) -> None:
        """Read a head; refuse by it."""
        super().parse_header(header_plus)
        if "CONTENT_LENGTH" in self.headers and self.chunked:
            # two lengths: what comes after may be another's request to whoever stands between (RFC 9112, 6.1)
            self._refuse(Refusal(400, "Bad Request", answers.NOT_A_REQUEST))
            return
        if self.content_length <= MOST_BODY and not self.chunked:
            return
        self.most_body = most_body(self.path)
        if self.most_body > MOST_BODY and not self.signed_in(self.headers.get("COOKIE", "")):
            self._refuse(Refusal(401, "Unauthorized", answers.NOT_SIGNED_IN))
            return
        if self.content_length > self.most_body:
            self._refuse(_too_large(self.most_body))

    def received(self, data: bytes) -> int:
        """Take in what came, the length of a body in pieces included."""
        taken: int = super().received(data)
        if self.body_bytes_received > self.most_body and not isinstance(self.error, Refusal):
            self._refuse(_too_large(self.most_body))
        if self.error is not None:
            if not isinstance(self.error, Refusal):
                self._refuse(Refusal(self.error.code, self.error.reason, answers.NOT_A_REQUEST))
            # nothing more is wanted of it
            self.expect_continue, self.completed = False, True
        return taken

    def _refuse(self, refusal: Refusal) -> None:
        self.error, self.completed, self.connection_close = refusal, True, True


class PatientChannel(HTTPChannel):
    """A connection that has until its time is up; what a refused body still brings is read over."""

    parser_class = BoundedParser
    _linger_until: float | None = None
    _began: float | None = None

    def late(self, now: float) -> bool:
        """Whether it has had its time."""
        if self._linger_until is not None:
            return now > self._linger_until
        if self.requests:
            return False
        if self.request is None or self._began is None:
            return bool(now - self.last_activity > IDLE_S)
        if not self.request.headers_finished:
            return now - self._began > HEAD_S
        return now - self._began > BODY_S + self.request.body_bytes_received / SLOWEST_BYTES_S

    def received(self, data: bytes) -> bool:
        """Take in what came, and note when a request began."""
        if self.request is None:
            self._began = self.last_activity
        return bool(super().received(data))

    def service(self) -> None:
        """Answer a request; the last before the server ends says so."""
        if self.server.ends and self.requests[0].error is None:
            self.requests[0].headers["CONNECTION"] = "close"
        super().service()

    def readable(self) -> bool:
        """Whether to read on."""
        return self._linger_until is not None or bool(super().readable())

    def writable(self) -> bool:
        """Whether there is something to send."""
        return self._linger_until is None and bool(super().writable())

    def handle_read(self) -> None:
        """Read what has come."""
        if self._linger_until is None:
            super().handle_read()
            return
        try:
            if self.recv(_READ_AT_ONCE):
                return
        except BlockingIOError:
            return
        except OSError:
            pass
        self.handle_close()

    def handle_close(self) -> None:
        """Close; after a refusal say so and let the other side finish, which may not hear before it has sent all."""
        if self.close_after_refusal and self._linger_until is None and self.connected:
            try:
                self.socket.shutdown(socket.SHUT_WR)
            except OSError:
                super().handle_close()
                return
            self.will_close = False
            self._linger_until = self.last_activity + _LINGER_S
            return
        super().handle_close()

    close_after_refusal = False


class Dispatcher(ThreadedTaskDispatcher):
    """Threads for whole requests, and one more for refusals, which wait for nobody."""

    def __init__(self, threads: int) -> None:
        super().__init__()
        self.set_thread_count(threads)
        self._refusals = ThreadedTaskDispatcher()
        self._refusals.set_thread_count(1)

    def add_task(self, task: PatientChannel) -> None:
        """Have a connection's next request answered."""
        if task.requests and task.requests[0].error is not None:
            task.close_after_refusal = True
            self._refusals.add_task(task)
        else:
            super().add_task(task)

    def shutdown(self, cancel_pending: bool = True, timeout: float = 5) -> bool:
        """Let what is being answered be answered."""
        self._refusals.shutdown(cancel_pending, timeout)
        return bool(super().shutdown(cancel_pending, timeout))


class FrontServer(TcpWSGIServer):
    """Accepts connections, and closes those whose time is up."""

    channel_class = PatientChannel

    def maintenance(self, now: float) -> None:
        """Close what has had its time."""
        for channel in list(self.active_channels.values()):
            if channel.late(now):
                channel.will_close = False
                channel.close_after_refusal = False
                channel.handle_close()

    ends = False

    def end(self) -> None:
        """Take no more connections, close those that wait for nothing, and have the others close after their answer."""
        self.ends = True
        self.del_channel()
        self.socket.close()
        for channel in list(self.active_channels.values()):
            for request in list(channel.requests):
                if request.error is None:
                    request.headers["CONNECTION"] = "close"
            if not channel.requests and channel.request is None and not channel.total_outbufs_len:
                channel.close_after_refusal = False
                channel.handle_close()

    def is_busy(self) -> bool:
        """Whether something is being answered or sent."""
        return any(each.requests or each.request or each.total_outbufs_len for each in self.active_channels.values())

    def handle_accept(self) -> None:
        """Take a connection; where there are too many, the one that waits longest without a request makes room."""
        if len(self.active_channels) >= MOST_CONNECTIONS:
            waiting = [each for each in self.active_channels.values() if not each.requests]
            if not waiting:
                return
            oldest = min(waiting, key=lambda each: each.creation_time)
            oldest.close_after_refusal = False
            oldest.handle_close()
        super().handle_accept()


def server(
    application: Any, listening: socket.socket, map: dict[int, Any], threads: Dispatcher, proxy: str | None
) -> FrontServer:
    """A server on a socket that listens. ``proxy``: the address whose word on who asks is believed, if any."""
    trusted: dict[str, Any] = {"clear_untrusted_proxy_headers": True}
    if proxy:
        trusted |= {"trusted_proxy": proxy, "trusted_proxy_headers": {"x-forwarded-for", "x-forwarded-proto"}}
        trusted["trusted_proxy_count"] = 1
    adjustments = Adjustments(
        sockets=[listening],
        ident=None,
        asyncore_use_poll=True,
        cleanup_interval=1,
        recv_bytes=_READ_AT_ONCE,
        max_request_header_size=_MOST_HEAD,
        max_request_body_size=MOST_OF_ALL + KIB,
        connection_limit=100_000,
        outbuf_high_watermark=_MOST_UNFETCHED,
        # read on while a request is answered, so that it is known when nobody waits for it any more
        channel_request_lookahead=1,
        **trusted,
    )
    info = (listening.family, listening.type, listening.proto, listening.getsockname())
    return FrontServer(
        application, map, _sock=listening, dispatcher=threads, adj=adjustments, bind_socket=False, sockinfo=info
    )
