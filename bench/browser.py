"""Debian's Chromium, headless, as the tests and the pictures drive it."""

import os

CHROMIUM = "/usr/bin/chromium"
ARGS = [
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    *(["--no-sandbox"] if os.geteuid() == 0 else []),
]
