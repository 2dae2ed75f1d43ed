"""The real server with the demo, and Debian's Chromium."""

import fcntl
import os
import re
import sqlite3
import subprocess
import sys
from collections.abc import Iterator
from contextlib import ExitStack
from pathlib import Path

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect, sync_playwright

import bench.server
from bench.browser import ARGS, CHROMIUM
from bench.server import ROOT, demo_server
from lodeline.site.data import DATABASE

NOW = "2026-11-25T20:40:00+00:00"
PATIENCE_MS = 40_000  # what must come, must come; how soon is the bench's matter
expect.set_options(timeout=PATIENCE_MS)


@pytest.fixture(scope="session")
def made(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The demo's data as it is made, with what is derived from it, to begin with. The workers make it once."""
    folder = tmp_path_factory.getbasetemp()
    if "PYTEST_XDIST_WORKER" in os.environ:
        folder = folder.parent
    with (folder / "demo.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not (folder / "demo").exists():
            make_demo(folder / "making")
            (folder / "making").rename(folder / "demo")
    return folder / "demo"


def make_demo(folder: Path) -> None:
    """Make the demo's data."""
    folder.mkdir()
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
    with sqlite3.connect(folder / DATABASE) as database:
        database.execute("PRAGMA wal_checkpoint(TRUNCATE)")


class Demo:
    """A server of the demo as it was made; after whoever changed it another one, on data of its own: what a tab that was
    closed still had under way reaches nobody else."""

    def __init__(self, server: ExitStack) -> None:
        self._server, self._address = server, ""
        self.is_changed = True

    def as_made(self) -> str:
        """Its address, with the demo as it was made."""
        if self.is_changed:
            self._server.close()
            self._address = self._server.enter_context(demo_server(NOW))
        self.is_changed = False
        return self._address


@pytest.fixture(scope="session")
def demo(made: Path) -> Iterator[Demo]:
    with pytest.MonkeyPatch.context() as patch, ExitStack() as server:
        patch.setattr(bench.server, "made", made)
        yield Demo(server)


@pytest.fixture
def address(demo: Demo) -> str:
    """For a journey that changes nothing."""
    return demo.as_made()


@pytest.fixture
def fresh_address(demo: Demo) -> str:
    """For a journey that must find the demo as it was made, and changes it."""
    address = demo.as_made()
    demo.is_changed = True
    return address


@pytest.fixture(scope="session")
def chromium() -> Iterator[Browser]:
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path=CHROMIUM, args=ARGS)
        yield browser
        browser.close()


SIZES = {
    "wide": {"width": 1280, "height": 800},
    "phone": {"width": 390, "height": 844},
    "small": {"width": 320, "height": 640},
}


def come_in(context: BrowserContext, address: str) -> None:
    """Enter the demo as the page's button does; a second page need not be loaded for it."""
    context.request.get(f"{address}/api/account/me")
    token = next(str(each["value"]) for each in context.cookies() if each["name"] == "csrftoken")
    answer = context.request.post(f"{address}/api/account/demo", headers={"X-CSRFToken": token})
    assert answer.ok, answer.text()


def entered(chromium: Browser, address: str, size: str = "wide", **options: object) -> tuple[BrowserContext, Page]:
    """A page that has entered the demo; a broken script on it fails the test."""
    context = chromium.new_context(viewport=SIZES[size], **{"locale": "en-GB"} | options)
    page = context.new_page()
    page.set_default_timeout(PATIENCE_MS)
    page.clock.install(time=NOW)
    page.on("pageerror", lambda error: pytest.fail(f"script error: {error}"))
    come_in(context, address)
    page.goto(address)
    page.locator("[data-part=headline]").wait_for()
    return context, page


def kept_by_browser(page: Page) -> None:
    """The browser has the application: it opens without a signal."""
    page.wait_for_function("navigator.serviceWorker.ready")  # unlike `evaluate` this ends also where that never comes


def opened_up(page: Page, *titles: str) -> None:
    """Open what is folded under these titles."""
    for title in titles:
        page.locator("summary").filter(has_text=re.compile(f"^{title}$")).first.click()


def gone_to(page: Page, view: str) -> None:
    """Go to a view as people do: by what is in reach, else under More."""
    views = page.get_by_role("navigation", name="Views")
    if not views.get_by_role("link", name=view).is_visible():
        views.get_by_role("link", name="More").click()
        page.locator("main").get_by_role("link", name=re.compile(f"^{view}\\b")).click()
    else:
        views.get_by_role("link", name=view).click()


def settled(page: Page) -> None:
    """Nothing waits on this device any more."""
    expect(page.get_by_text(re.compile("waits? on this device"))).to_have_count(0)


@pytest.fixture
def wide(chromium: Browser, address: str) -> Iterator[Page]:
    context, page = entered(chromium, address)
    yield page
    context.close()
