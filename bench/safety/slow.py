"""Sockets that never finish, and bodies that are too large: does the server still answer, and how soon does it refuse?"""

import http.client
import json
import socket
import time
import urllib.request

from bench.safety.table import Row
from bench.server import demo_server
from bench.server_speed import NOW, Browser

SOCKETS, MEGABYTES = 200, (10, 20, 50)
_HEALTH_S, _REFUSED_S, _RATIO = 1.0, 0.2, 3.0
_HALF_HEAD = b"POST /api/account/sign-in HTTP/1.1\r\nHost: localhost\r\nX-A"
_HALF_BODY = (
    b"POST /api/account/sign-in HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\n"
    b'Content-Length: 100\r\n\r\n{"user'
)
_ROUTES = (
    "/api/account/sign-in",
    "/api/rigs/1/writes",
    "/api/rigs/1/understand",
    "/api/imports",
    "/api/rigs/1/import?saw=1",
)


def _port(address: str) -> int:
    return int(address.rsplit(":", 1)[1])


def _health(address: str) -> float:
    began = time.monotonic()
    urllib.request.urlopen(f"{address}/api/health", timeout=30).read()
    return time.monotonic() - began


def sockets(address: str) -> Row:
    """As many half requests as it takes, from nobody."""
    _health(address)
    held = []
    for n in range(SOCKETS):
        each = socket.create_connection(("127.0.0.1", _port(address)))
        each.sendall(_HALF_HEAD if n % 2 else _HALF_BODY)
        held.append(each)
    slowest = max(_health(address) for _ in range(20))
    time.sleep(13)  # a head has 10 s
    open_ = 0
    for each in held[1::2]:
        each.setblocking(False)
        try:
            open_ += each.recv(1) != b""
        except BlockingIOError:
            open_ += 1
        except OSError:
            pass
    for each in held:
        each.close()
    said = f"a health check within {slowest:.3f} s; after 13 s {open_} of {len(held) // 2} half heads are still held"
    return Row(f"{SOCKETS} sockets that never finish", said, slowest <= _HEALTH_S and not open_)


def _sent(address: str, path: str, body: bytes, cookies: str, token: str) -> tuple[int, float]:
    connection = http.client.HTTPConnection("127.0.0.1", _port(address), timeout=120)
    head = {"Content-Type": "application/json", "Cookie": cookies, "X-CSRFToken": token}
    began = time.monotonic()
    connection.request("POST", path, body, head)
    answer = connection.getresponse()
    answer.read()
    return answer.status, time.monotonic() - began


def bodies(address: str) -> list[Row]:
    """Bodies of some megabytes to any route, signed in or not."""
    browser = Browser(address)
    jar = {each.name: each.value or "" for each in browser.jar}
    signed_in = "; ".join(f"{name}={value}" for name, value in jar.items())
    found = []
    for megabytes in MEGABYTES:
        body = b"[" + b"0," * (megabytes * 500_000) + b"0]"
        began = time.perf_counter()
        json.loads(body)
        loads_s = time.perf_counter() - began
        refused = {}
        for who, cookies in (("nobody", ""), ("signed in", signed_in)):
            for path in _ROUTES:
                status, took = _sent(address, path, body, cookies, jar.get("csrftoken", ""))
                refused[who, path] = (status, took)
        imports = [refused["signed in", path] for path in _ROUTES if "import" in path]
        others = [each for key, each in refused.items() if key[0] == "nobody" or "import" not in key[1]]
        slowest = max(took for _, took in others)
        statuses = sorted({status for status, _ in others})
        parsed = max(took for _, took in imports)
        found.append(
            Row(
                f"{megabytes} MB to any route but a signed-in import",
                f"{statuses} within {slowest:.2f} s",
                slowest <= _REFUSED_S and set(statuses) <= {401, 413},
            )
        )
        found.append(
            Row(
                f"{megabytes} MB to an import, signed in",
                f"{sorted({s for s, _ in imports})} within {parsed:.2f} s, {parsed / loads_s:.1f} times json.loads",
                parsed <= _RATIO * loads_s,
            )
        )
    return found


def rows() -> list[Row]:
    """Sockets, then bodies."""
    with demo_server(NOW) as address:
        return [sockets(address), *bodies(address)]


if __name__ == "__main__":
    for row in rows():
        print("holds" if row.holds else "FAILS", "|", row.test, "|", row.outcome)
