"""The pictures in docs/screenshots: each main view from demo data, at 1280x800, and some on a phone."""

import sys
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from bench.browser import ARGS, CHROMIUM
from bench.server import ROOT, demo_server

NOW = "2026-11-25T20:40:00+00:00"
SHOTS = ROOT / "docs" / "screenshots"
VIEWS = {
    "horizon": "/",
    "stops": "/stops",
    "round": "/round",
    "logbook": "/log",
    "energy": "/energy",
    "water": "/water",
    "fuel": "/fuel",
    "rig": "/rig",
    "review": "/review",
    "setup": "/set-up",
    "account-settings": "/account",
}


# What stands in a view once the plan is known.
PLANNED = {
    "horizon": "[data-part=plan-line][aria-busy=false] a",
    "stops": "[aria-busy=false] [data-part=plan-headline]",
    "water": "[data-part=ration-answer]",
    "fuel": "[data-part=night]",
}
PATIENCE_MS = 60_000


def _enter(page: Page, address: str) -> None:
    page.clock.install(time=NOW)
    page.goto(address)
    page.get_by_role("button", name="Enter the demo").click()
    page.locator("[data-part=headline]").wait_for()


def _shot(page: Page, folder: Path, name: str) -> None:
    page.wait_for_load_state("networkidle")
    page.wait_for_timeout(400)
    page.screenshot(path=folder / f"{name}.png")


def take(folder: Path) -> None:
    with demo_server(NOW) as address, sync_playwright() as play:
        browser = play.chromium.launch(executable_path=CHROMIUM, args=ARGS)
        wide = browser.new_page(viewport={"width": 1280, "height": 800}, timezone_id="Europe/Lisbon", locale="en-GB")
        wide.clock.install(time=NOW)
        wide.goto(address)
        wide.get_by_role("button", name="Enter the demo").wait_for()
        _shot(wide, folder, "account")
        _enter(wide, address)
        for name, path in VIEWS.items():
            wide.goto(address + path)
            wide.get_by_role("heading", level=1).wait_for()
            if name in PLANNED:
                wide.locator(PLANNED[name]).first.wait_for(timeout=PATIENCE_MS)
            _shot(wide, folder, name)
        phone = browser.new_page(viewport={"width": 390, "height": 844}, has_touch=True, locale="en-GB")
        _enter(phone, address)
        _shot(phone, folder, "horizon-phone")
        phone.goto(f"{address}/round")
        phone.get_by_role("heading", level=1).wait_for()
        _shot(phone, folder, "round-phone")
        phone.goto(f"{address}/water")
        phone.locator("[data-part=ration-answer]").first.wait_for()
        _shot(phone, folder, "water-phone")
        phone.goto(f"{address}/fuel")
        phone.locator("[data-part=night]").first.wait_for()
        _shot(phone, folder, "fuel-phone")
        phone.goto(f"{address}/stops")
        phone.get_by_role("button", name="Write the ticket").first.click(timeout=PATIENCE_MS)
        phone.get_by_role("list", name="What to do, in order").wait_for()
        _shot(phone, folder, "stops-ticket-phone")
        phone.goto(address)
        phone.get_by_label("Rig", exact=True).select_option(label="Tin Lantern")
        phone.get_by_role("button", name="Blue jug into Fresh tank").wait_for()
        _shot(phone, folder, "horizon-due-phone")
        night = browser.new_page(viewport={"width": 1280, "height": 800}, color_scheme="dark", locale="en-GB")
        _enter(night, address)
        _shot(night, folder, "horizon-night")
        browser.close()


if __name__ == "__main__":
    target = Path(sys.argv[1]) if len(sys.argv) > 1 else SHOTS
    target.mkdir(parents=True, exist_ok=True)
    take(target)
