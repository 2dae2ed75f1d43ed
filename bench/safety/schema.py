"""Requests made from the API's own document: no server error, no status that it does not name, and what it allows is taken."""

import re
import subprocess
import sys
import tempfile
from pathlib import Path

from bench.safety.table import Row
from bench.server import ROOT, demo_server
from bench.server_speed import NOW, Browser

SECONDS = 900
_CHECKS = (
    "not_a_server_error",
    "status_code_conformance",
    "content_type_conformance",
    "response_schema_conformance",
    "negative_data_rejection",
    "positive_data_acceptance",
    "ignored_auth",
)
# These end the session or take the rig away: they are tried last, each once the others are done.
_LAST = ("sign_out", "delete_account", "change_password", "delete_rig", "leave_rig", "remove_crew", "set_role")
# What the document allows may still not fit the rig, its log or the accounts: 422 with a place. What it does not allow
# may be too large to be read at all: 413. While levels are being worked out a view says so: 503.
_CONFIG = """
[checks.not_a_server_error]
expected-statuses = ["2xx", "3xx", "4xx", 503]

[checks.negative_data_rejection]
expected-statuses = [400, 401, 403, 404, 405, 406, 409, 413, 415, 422, 428, 429, "5xx"]

[checks.positive_data_acceptance]
expected-statuses = ["2xx", 401, 403, 404, 409, 422, 429, 503]
"""


def _run(address: str, browser: Browser, folder: Path, seconds: int, *chosen: str) -> str:
    """Run it. The session is sent with every request, so that one without it cannot be tried here."""
    cookies = {each.name: each.value for each in browser.jar}
    config = folder / "schemathesis.toml"
    config.write_text(_CONFIG)
    command = [
        sys.executable,
        "-m",
        "schemathesis.cli",
        "--config-file",
        str(config),
        "run",
        str(ROOT / "docs/openapi.json"),
        "--url",
        address,
        "--checks",
        ",".join(_CHECKS),
        "--max-time",
        str(seconds),
        "--seed",
        "1",
        "--no-color",
        "--continue-on-failure",
        "--suppress-health-check",
        "all",
        "-H",
        "Cookie: " + "; ".join(f"{name}={value}" for name, value in cookies.items()),
        "-H",
        f"X-CSRFToken: {cookies['csrftoken']}",
        "-H",
        f"Origin: {address}",
        "--warnings",
        "off",
        "--generation-with-security-parameters",
        "false",
        *chosen,
    ]
    done = subprocess.run(command, capture_output=True, text=True, cwd=folder, check=False)
    return done.stdout + done.stderr


def rows(seconds: int = SECONDS, show: bool = False) -> list[Row]:
    """What the requests brought to light."""
    with demo_server(NOW) as address, tempfile.TemporaryDirectory(prefix="lodeline-") as folder:
        browser = Browser(address)
        for rig in browser.call("GET", "/api/account/me")["rigs"]:
            browser.patient("GET", f"/api/rigs/{rig['id']}/horizon")
        but = [word for name in _LAST for word in ("--exclude-operation-id", name)]
        said = _run(address, browser, Path(folder), seconds, *but)
        only = [word for name in _LAST for word in ("--include-operation-id", name)]
        said += _run(address, Browser(address), Path(folder), max(2, seconds // 15), *only)
    if show:
        print(said)
    failures = re.findall(r"❌ (ST\d+ [^\n]*)", said)
    cases = re.findall(r"(\d+) generated", said)
    ran = bool(cases) or "Test cases" in said
    return [
        Row(
            f"requests from the API's document, {seconds} s",
            f"{'+'.join(cases)} cases; " + (", ".join(sorted(set(failures))) or "no failure"),
            ran and not failures,
        )
    ]


if __name__ == "__main__":
    for row in rows(int(sys.argv[1]) if len(sys.argv) > 1 else 60, show=True):
        print("holds" if row.holds else "FAILS", "|", row.test, "|", row.outcome)
