"""The real server with the demo, and Debian's Chromium."""

from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect, sync_playwright

from bench.browser import ARGS, CHROMIUM
from bench.server import demo_server

NOW = "2026-11-25T20:40:00+00:00"
PATIENCE_MS = 20_000  # what must come, must come; how soon is the bench's matter
expect.set_options(timeout=PATIENCE_MS)


@pytest.fixture(scope="session")
def address() -> Iterator[str]:
    with demo_server(NOW) as served:
        yield served


@pytest.fixture
def fresh_address() -> Iterator[str]:
    """A server of its own, for a journey that must find the demo as it was made."""
    with demo_server(NOW) as served:
        yield served


@pytest.fixture(scope="session")
def chromium() -> Iterator[Browser]:
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path=CHROMIUM, args=ARGS)
        yield browser
        browser.close()


SIZES = {"wide": {"width": 1280, "height": 800}, "phone": {"width": 390, "height": 844}}


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


@pytest.fixture
def wide(chromium: Browser, address: str) -> Iterator[Page]:
    context, page = entered(chromium, address)
    yield page
    context.close()
