"""An invitation whose maker may not invite any more leads nowhere, whoever brings it."""

import urllib.error
from typing import Any

from bench.safety.table import Row
from bench.server import demo_server
from bench.server_speed import NOW, Browser


def _status(browser: Browser, method: str, path: str, body: Any = None) -> int:
    try:
        browser.ask(method, path, body)
    except urllib.error.HTTPError as error:
        return error.code
    return 200


def rows() -> list[Row]:
    """What the one who was removed comes back by."""
    with demo_server(NOW) as address:
        owner, second = Browser(address), Browser(address, door=False)
        rig = f"/api/rigs/{owner.call('GET', '/api/account/me')['rigs'][0]['id']}"

        def token() -> str:
            path: str = owner.call("POST", f"{rig}/invitations", {"role": "crew"})["path"]
            return path.removeprefix("/join#")

        second.call("POST", "/api/account/join", {"token": token(), "username": "joss", "password": "a-long-word-9"})
        open_ones = [token(), token()]
        owner.call("PUT", f"{rig}/crew/joss", {"role": "owner"})
        second.call("DELETE", f"{rig}/crew/demo")
        back = _status(owner, "POST", "/api/account/accept", {"token": open_ones[0]})
        other = _status(Browser(address, door=False), "POST", "/api/account/invited", {"token": open_ones[1]})
        left = second.call("GET", f"{rig}/invitations")
        seen = _status(owner, "GET", f"{rig}/round")
    said = f"accepted by its maker: {back}; by another: {other}; open afterwards: {len(left)}; the rig: {seen}"
    return [
        Row(
            "an owner is removed, with two invitations made", said, (back, other, len(left), seen) == (404, 404, 0, 404)
        )
    ]


if __name__ == "__main__":
    for row in rows():
        print("holds" if row.holds else "FAILS", "|", row.test, "|", row.outcome)
