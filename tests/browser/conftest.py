"""The real server with the demo, and Debian's Chromium."""

import os
import re
import sqlite3
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect, sync_playwright

from bench.browser import ARGS, CHROMIUM
from bench.server import ROOT, demo_server

NOW = "2026-11-25T20:40:00+00:00"
PATIENCE_MS = 20_000  # what must come, must come; how soon is the bench's matter
expect.set_options(timeout=PATIENCE_MS)


@pytest.fixture(scope="session")
def address(made: Path) -> Iterator[str]:
    with demo_server(NOW, made) as served:
        yield served


@pytest.fixture(scope="session")
def made(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The demo's data as it is made, with what is derived from it, to begin with."""
    folder = tmp_path_factory.mktemp("demo")
    environment = os.environ | {"LODELINE_DATA": str(folder), "LODELINE_NOW": NOW, "LODELINE_DEMO": "1"}
    environment["DJANGO_SETTINGS_MODULE"] = "lodeline.site.settings"
    make = (
        "from lodeline.cli import _django, _migrate; _django(); _migrate();"
        "from lodeline.demo.load import load_demo; load_demo();"
        "from lodeline.logbook.models import Rig;"
        "from lodeline.logbook.services import plans, shared; shared.forget_other_versions();"
        "[plans.plan_here(rig) for rig in Rig.objects.all()]"
    )
    subprocess.run([sys.executable, "-c", make], env=environment, cwd=ROOT / "src", check=True)
    with sqlite3.connect(folder / "lodeline.sqlite3") as database:
        database.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    return folder


@pytest.fixture
def fresh_address(made: Path) -> Iterator[str]:
    """A server of its own, for a journey that must find the demo as it was made."""
    with demo_server(NOW, made) as served:
        yield served


@pytest.fixture(scope="session")
def chromium() -> Iterator[Browser]:
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path=CHROMIUM, args=ARGS)
        yield browser
        browser.close()


SIZES = {"wide": {"width": 1280, "height": 800}, "phone": {"width": 390, "height": 844},
         "small": {"width": 320, "height": 640}}  # fmt: skip


def entered(chromium: Browser, address: str, size: str = "wide", **options: object) -> tuple[BrowserContext, Page]:
    """A page that has entered the demo; a broken script on it fails the test."""
    context = chromium.new_context(viewport=SIZES[size], **{"locale": "en-GB"} | options)  # type: ignore[arg-type]
    page = context.new_page()
    page.set_default_timeout(PATIENCE_MS)
    page.clock.install(time=NOW)
    page.on("pageerror", lambda error: pytest.fail(f"script error: {error}"))
    page.goto(address)
    page.get_by_role("button", name="Enter the demo").click()
    page.locator("[data-part=headline]").wait_for()
    return context, page


def settled(page: Page) -> None:
    """Nothing waits on this device any more."""
    expect(page.get_by_text(re.compile("waits? on this device"))).to_have_count(0)


@pytest.fixture
def wide(chromium: Browser, address: str) -> Iterator[Page]:
    context, page = entered(chromium, address)
    yield page
    context.close()
