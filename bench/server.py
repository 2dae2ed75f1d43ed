"""A server of its own for a bench or a picture: demo data in a folder that is thrown away."""

import contextlib
import os
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
_PATIENCE_S = 120
_TAIL = 2000


# Each server's processes are a session of their own, by its address.
_sessions: dict[str, int] = {}
# The data of a demo to begin with, where one was made already.
made: Path | None = None


def begin(data: Path) -> None:
    """Put a demo that was made into an empty folder."""
    if made is not None and not (data / "lodeline.sqlite3").exists():
        shutil.copytree(made, data, dirs_exist_ok=True)


class ServerDown(RuntimeError):
    """The server did not come up; the message is what it wrote."""


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def _is_up(address: str) -> bool:
    try:
        urllib.request.urlopen(f"{address}/api/health", timeout=2)
    except (OSError, urllib.error.URLError):
        return False
    return True


def _wait(server: "subprocess.Popen[bytes]", address: str, log: Path) -> None:
    end = time.monotonic() + _PATIENCE_S
    while not _is_up(address):
        if server.poll() is not None:
            raise ServerDown(f"the server ended with {server.returncode}:\n{log.read_text()[-_TAIL:]}")
        if time.monotonic() > end:
            raise ServerDown(f"the server did not answer in {_PATIENCE_S} s:\n{log.read_text()[-_TAIL:]}")
        time.sleep(0.02)


@contextlib.contextmanager
def serving(
    what: str, data: Path, now: str | None = None, *, is_kept: bool = True, port: int | None = None
) -> Iterator[str]:
    """Serve ``demo`` or ``serve`` on the data of a folder; yields its address.

    ``is_kept``: whether the data is used again; else the server is not let finish anything. ``port``: any, where none is
    given.

    Raises
    ------
    ServerDown
        It did not come up; with what it wrote.
    """
    port = port or free_port()
    if what == "demo":
        begin(data)
    environment = os.environ | {"LODELINE_DATA": str(data), "PYTHONPATH": str(ROOT / "src")}
    environment["DJANGO_SETTINGS_MODULE"] = "lodeline.site.settings"
    environment |= {"LODELINE_NOW": now} if now else {}
    command = [sys.executable, "-m", "lodeline.cli", what, "--port", str(port)]
    with tempfile.TemporaryDirectory(prefix="lodeline-log-") as folder:
        log = Path(folder) / "server.log"
        with log.open("wb") as out:
            server = subprocess.Popen(command, env=environment, stdout=out, stderr=out, start_new_session=True)
        address = f"http://127.0.0.1:{port}"
        _sessions[address] = server.pid
        try:
            _wait(server, address, log)
            yield address
        finally:
            if is_kept:
                server.terminate()
            else:
                os.killpg(server.pid, signal.SIGKILL)
            server.wait(_PATIENCE_S)


@contextlib.contextmanager
def demo_server(now: str | None = None) -> Iterator[str]:
    """Serve the demo; yields its address.

    Raises
    ------
    ServerDown
        It did not come up; with what it wrote.
    """
    with (
        # what is killed may write until it is gone
        tempfile.TemporaryDirectory(prefix="lodeline-", ignore_cleanup_errors=True) as folder,
        serving("demo", Path(folder), now, is_kept=False) as address,
    ):
        yield address


def memory_mib(address: str) -> float:
    """What a server's processes hold together, what they share counted once."""
    total = 0
    for process in Path("/proc").glob("[0-9]*"):
        try:
            if os.getsid(int(process.name)) == _sessions[address]:
                lines = (process / "smaps_rollup").read_text().splitlines()
                total += sum(int(line.split()[1]) for line in lines if line.startswith("Pss:"))
        except OSError:
            continue
    return total / 1024
