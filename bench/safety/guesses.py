"""A hundred wrong passwords from one address behind a proxy; then the owner from elsewhere."""

import json
import os
import tempfile
import urllib.error
from http.client import HTTPConnection
from pathlib import Path

from bench.safety.faults import command
from bench.safety.table import Row
from bench.server import serving
from bench.server_speed import NOW

_PASSWORD = "a lantern in the rain"


def _sign_in(port: int, password: str, client: str) -> tuple[int, dict[str, str], str]:
    """Sign in as the proxy passes it on."""
    connection = HTTPConnection("127.0.0.1", port, timeout=60)
    connection.request("GET", "/api/account/me", headers={"X-Forwarded-For": client})
    first = connection.getresponse()
    first.read()
    token = (first.getheader("Set-Cookie") or "").partition("csrftoken=")[2].partition(";")[0]
    head = {
        "X-Forwarded-For": client,
        "Content-Type": "application/json",
        "Cookie": f"csrftoken={token}",
        "X-CSRFToken": token,
    }
    connection.request("POST", "/api/account/sign-in", json.dumps({"username": "mira", "password": password}), head)
    answer = connection.getresponse()
    body = answer.read().decode()
    return answer.status, dict(answer.getheaders()), body


def rows() -> list[Row]:
    """What the guesser and the owner are told."""
    with tempfile.TemporaryDirectory(prefix="lodeline-") as folder:
        data = Path(folder)
        made = command(data, "account", "mira", typed=f"{_PASSWORD}\n")
        assert made.returncode == 0, made.stderr
        os.environ["LODELINE_PROXY"] = "127.0.0.1"
        try:
            with serving("serve", data, NOW) as address:
                port = int(address.rsplit(":", 1)[1])
                statuses = [_sign_in(port, f"wrong {n}", "198.51.100.7") for n in range(100)]
                owner, _, _ = _sign_in(port, _PASSWORD, "203.0.113.9")
        except urllib.error.URLError as error:
            return [Row("100 wrong passwords", str(error), False)]
        finally:
            del os.environ["LODELINE_PROXY"]
    last, head, body = statuses[-1]
    in_form = head.get("Content-Type", "").startswith("application/json") and "Wait" in body and "Retry-After" in head
    refused = sum(status == 429 for status, _, _ in statuses)
    return [
        Row(
            "100 wrong passwords from one address",
            f"{refused} not looked at; {last}: {json.loads(body)['problem']}",
            last == 429 and in_form,
        ),
        Row("then the owner from elsewhere", str(owner), owner == 200),
    ]


if __name__ == "__main__":
    for row in rows():
        print("holds" if row.holds else "FAILS", "|", row.test, "|", row.outcome)
