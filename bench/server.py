"""A server of its own for a bench or a picture: demo data in a folder that is thrown away."""

import contextlib
import os
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


@contextlib.contextmanager
def demo_server(now: str | None = None) -> Iterator[str]:
    """Serve the demo; yields its address."""
    port = free_port()
    with tempfile.TemporaryDirectory(prefix="lodeline-") as folder:
        environment = os.environ | {"LODELINE_DATA": folder, "PYTHONPATH": str(ROOT / "src"), "LODELINE_DEMO": "1"}
        environment["DJANGO_SETTINGS_MODULE"] = "lodeline.site.settings"
        environment |= {"LODELINE_NOW": now} if now else {}
        command = [sys.executable, "-m", "lodeline.cli", "demo", "--port", str(port)]
        server = subprocess.Popen(command, env=environment, stdout=subprocess.DEVNULL, start_new_session=True)
        address = f"http://127.0.0.1:{port}"
        try:
            for _ in range(300):
                with contextlib.suppress(OSError):
                    urllib.request.urlopen(f"{address}/api/health", timeout=2)
                    break
                time.sleep(0.1)
            yield address
        finally:
            server.terminate()
            server.wait(20)
