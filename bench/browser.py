"""Debian's Chromium, headless, as the tests and the pictures drive it."""

import os
from pathlib import Path

# without the parts that draw windows, where it is there: a third less for the processor to do
_SHELL = "/usr/bin/chromium-headless-shell"
CHROMIUM = _SHELL if Path(_SHELL).exists() else "/usr/bin/chromium"
ARGS = [
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    *(["--no-sandbox"] if os.geteuid() == 0 else []),
]
