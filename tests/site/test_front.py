"""What stands before the application, on real sockets: half requests hold nothing up, and what is too large is not read."""

import json
import socket
import threading
from contextlib import closing
from time import monotonic, sleep

import pytest
from waitress import wasyncore

from lodeline import cli
from lodeline.api.limits import KIB, MIB
from lodeline.site import front

HEAD = b"POST %s HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\n"
PATIENCE_S = 30


def app(environ, start_response):
    body = environ["wsgi.input"].read()
    start_response("200 OK", [("Content-Type", "text/plain")])
    seen = f"{environ['REMOTE_ADDR']} {environ['wsgi.url_scheme']} {len(body)} {environ.get('HTTP_X_FORWARDED_FOR')}"
    return [seen.encode()]


class Served:
    def __init__(self, proxy=None):
        self.listening = socket.create_server(("127.0.0.1", 0))
        self.listening.setblocking(False)
        self.port = self.listening.getsockname()[1]
        self.map = {}
        self.threads = front.Dispatcher(2)
        self.server = front.server(app, self.listening, self.map, self.threads, proxy)
        self.ended = False
        self.loop = threading.Thread(target=self.run)
        self.loop.start()

    def run(self):
        while not self.ended:
            wasyncore.loop(timeout=0.05, use_poll=True, map=self.map, count=1)

    def end(self):
        self.ended = True
        self.loop.join()
        self.threads.shutdown()
        wasyncore.close_all(self.map)

    def open(self, data):
        each = socket.create_connection(("127.0.0.1", self.port), timeout=PATIENCE_S)
        each.sendall(data)
        return each

    def ask(self, data):
        """Send all of it, and read the answer to its end."""
        with closing(self.open(data)) as each:
            answer = b""
            while more := each.recv(65536):
                answer += more
                head, _, body = answer.partition(b"\r\n\r\n")
                length = next(
                    (int(x[15:]) for x in head.split(b"\r\n") if x.lower().startswith(b"content-length:")), None
                )
                if length is not None and len(body) >= length:
                    break
        return int(answer.split()[1]), head.decode(), body.decode()


@pytest.fixture
def served():
    each = Served()
    yield each
    each.end()


@pytest.fixture
def signed_in(monkeypatch):
    monkeypatch.setattr(front.BoundedParser, "signed_in", staticmethod(lambda cookies: "sessionid=mine" in cookies))


def post(path, body, *heads):
    lines = b"".join(b"%s\r\n" % each for each in heads)
    return HEAD % path + b"Content-Length: %d\r\n" % len(body) + lines + b"\r\n" + body


def test_half_requests_hold_up_nobody(served):
    half = [HEAD % b"/api/x" + b"X-A", HEAD % b"/api/x" + b"Content-Length: 90\r\n\r\n{", b"GE", b""]
    held = [served.open(half[n % 4]) for n in range(60)]
    status, _, body = served.ask(b"GET /api/health HTTP/1.1\r\nHost: localhost\r\n\r\n")
    assert (status, body.split()[2]) == (200, "0")
    for each in held:
        each.close()


@pytest.mark.parametrize(
    ("limit", "half"),
    [
        ("HEAD_S", HEAD % b"/api/x" + b"X-A"),
        ("BODY_S", HEAD % b"/api/x" + b"Content-Length: 90\r\n\r\n{"),
        ("IDLE_S", b""),
    ],
)
def test_what_does_not_come_in_its_time_is_closed(served, monkeypatch, limit, half):
    monkeypatch.setattr(front, limit, 0.1)
    with closing(served.open(half)) as each:
        assert each.recv(1) == b""


def test_whoever_waits_longest_makes_room(served, monkeypatch):
    monkeypatch.setattr(front, "MOST_CONNECTIONS", 3)
    held = [served.open(b"GE") for _ in range(3)]
    assert served.ask(b"GET / HTTP/1.1\r\nHost: localhost\r\n\r\n")[0] == 200
    assert held[0].recv(1) == b""
    for each in held:
        each.close()


@pytest.mark.usefixtures("signed_in")
@pytest.mark.parametrize(
    ("path", "size", "cookie", "status"),
    [
        (b"/api/rigs/1/writes", 64 * KIB, b"", 200),
        (b"/api/rigs/1/writes", 64 * KIB + 1, b"Cookie: sessionid=mine", 413),
        (b"/api/account/sign-in", 10 * MIB, b"", 413),
        (b"/api/rigs/1", 100 * KIB, b"Cookie: sessionid=mine", 200),
        (b"/api/rigs/1", 100 * KIB, b"", 401),
        (b"/api/imports", 10 * MIB, b"", 401),
        (b"/api/imports", 10 * MIB, b"Cookie: sessionid=other", 401),
        (b"/api/imports", 2 * MIB, b"Cookie: sessionid=mine", 200),
        (b"/api/rigs/1/import?saw=3", 2 * MIB, b"Cookie: sessionid=mine", 200),
    ],
)
def test_a_body_is_taken_by_its_length_and_its_sender(served, path, size, cookie, status):
    got, head, body = served.ask(post(path, b"x" * size, *filter(None, [cookie])))
    assert got == status
    if status != 200:
        assert "application/json" in head
        assert json.loads(body).keys() == {"place", "label", "problem"}
    else:
        assert body.split()[2] == str(size)


@pytest.mark.usefixtures("signed_in")
def test_a_body_in_pieces_has_the_same_limit(served):
    pieces = b"".join(b"2000\r\n" + b"x" * 0x2000 + b"\r\n" for _ in range(12)) + b"0\r\n\r\n"
    status, _, body = served.ask(HEAD % b"/api/rigs/1/writes" + b"Transfer-Encoding: chunked\r\n\r\n" + pieces)
    assert status == 413
    assert "64 kB" in body
    small = b"5\r\nabcde\r\n0\r\n\r\n"
    assert served.ask(HEAD % b"/api/rigs/1/writes" + b"Transfer-Encoding: chunked\r\n\r\n" + small)[2].split()[2] == "5"


@pytest.mark.parametrize(
    "data",
    [
        b"nonsense\r\n\r\n",
        HEAD % b"/" + b"Content-Length: many\r\n\r\n",
        b"GET / HTTP/1.1\r\n" + b"A: b\r\n" * 9000 + b"\r\n",
    ],
)
def test_what_is_no_request_is_told_so_in_the_same_form(served, data):
    status, _, body = served.ask(data)
    assert 400 <= status < 500
    assert json.loads(body)["problem"]


def test_a_refusal_waits_for_no_thread(served):
    begun, let_go = threading.Barrier(3), threading.Event()

    def busy(environ, start_response):
        begun.wait(PATIENCE_S)
        let_go.wait(PATIENCE_S)
        return app(environ, start_response)

    served.server.application = busy
    held = [served.open(b"GET / HTTP/1.1\r\nHost: localhost\r\n\r\n") for _ in range(2)]
    begun.wait(PATIENCE_S)  # both threads are taken
    assert served.ask(post(b"/api/account/sign-in", b"x" * MIB))[0] == 413
    let_go.set()
    for each in held:
        assert each.recv(65536)
        each.close()


@pytest.mark.parametrize(
    ("proxy", "seen"), [(None, "127.0.0.1 http"), ("127.0.0.1", "203.0.113.9 https"), ("192.0.2.1", "127.0.0.1 http")]
)
def test_a_proxy_is_believed_only_as_configured(proxy, seen):
    served = Served(proxy)
    head = b"GET / HTTP/1.1\r\nHost: localhost\r\nX-Forwarded-For: 203.0.113.9\r\nX-Forwarded-Proto: https\r\n\r\n"
    _, _, body = served.ask(head)
    served.end()
    assert body.startswith(seen)


GET = b"GET /%s HTTP/1.1\r\nHost: localhost\r\n\r\n"


class Busy:
    """An application that is at its requests until it is let go."""

    def __init__(self, served):
        self.seen, self.begun, self.let_go = [], threading.Semaphore(0), threading.Event()
        served.server.application = self

    def __call__(self, environ, start_response):
        self.seen.append(environ["PATH_INFO"])
        self.begun.release()
        assert self.let_go.wait(PATIENCE_S)
        return app(environ, start_response)


def until(is_so):
    end = monotonic() + PATIENCE_S
    while not is_so():
        assert monotonic() < end
        sleep(0.01)


def test_a_request_whose_client_has_left_is_not_begun(served):
    busy = Busy(served)
    held = [served.open(GET % b"held") for _ in range(2)]
    for _ in held:
        assert busy.begun.acquire(timeout=PATIENCE_S)  # both threads are taken
    for _ in range(8):
        served.open(GET % b"left").close()
    last = served.open(GET % b"last")
    until(lambda: sum(not each.connected for each in served.threads.queue) == 8)
    busy.let_go.set()
    assert last.recv(65536).startswith(b"HTTP/1.1 200")
    assert busy.seen == ["/held", "/held", "/last"]
    for each in (*held, last):
        each.close()


def test_two_lengths_end_the_connection(served):
    """What comes after might be another's request to whoever stands between (RFC 9112, 6.1)."""
    smuggled = b"0\r\n\r\n" + GET % b"smuggled"
    both = HEAD % b"/api/x" + b"Content-Length: 5\r\nTransfer-Encoding: chunked\r\n\r\n" + smuggled
    with closing(served.open(both)) as each:
        answer = b""
        while more := each.recv(65536):
            answer += more
    assert answer.startswith(b"HTTP/1.1 400")
    assert answer.count(b"HTTP/1.1") == 1
    assert b"Connection: close" in answer


def test_a_server_that_ends_gives_its_port_free_first_and_lets_go_of_who_waits_for_nothing(served):
    busy = Busy(served)
    busy.let_go.set()
    idle = served.open(GET % b"idle")
    answer = idle.recv(65536)
    while not answer.endswith(b" 0 None"):
        answer += idle.recv(65536)
    busy.let_go.clear()
    held = served.open(GET % b"held")
    until(lambda: "/held" in busy.seen)
    served.server.end()
    # a turn of the loop may still look at the socket
    with closing(cli._listening("127.0.0.1", served.port)):
        assert idle.recv(1) == b""
        assert served.server.is_busy()
        busy.let_go.set()
        answer = held.recv(65536)
        assert answer.startswith(b"HTTP/1.1 200")
        assert b"Connection: close" in answer
    held.close()
    idle.close()


def test_a_port_that_another_holds_is_waited_for(capsys):
    with closing(socket.create_server(("127.0.0.1", 0))) as other:
        port = other.getsockname()[1]
        free = threading.Timer(0.3, other.close)
        free.start()
        with closing(cli._listening("127.0.0.1", port)) as ours:
            assert ours.getsockname()[1] == port
    assert capsys.readouterr().err.count(f"Port {port} is taken") == 1


def test_a_port_that_is_not_given_free_is_said_in_one_line(monkeypatch):
    monkeypatch.setattr(cli, "_PORT_S", 0.1)
    with (
        closing(socket.create_server(("127.0.0.1", 0))) as other,
        pytest.raises(OSError, match="Another program holds"),
    ):
        cli._listening("127.0.0.1", other.getsockname()[1])
