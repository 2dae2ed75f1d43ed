"""The front end's first view: gzip size of the scripts that it loads, beside a bare page's."""

import gzip

from playwright.sync_api import Page, sync_playwright

from bench.browser import ARGS, CHROMIUM
from bench.goals import note
from bench.server import ROOT, demo_server

# gzip size of the script of a bare page with the same component library, measured once
BARE_KB = 141.0
MOST = 1.45


def scripts_kb(page: Page, address: str) -> dict[str, float]:
    """The scripts that a page has loaded, by name, with their size as gzip packs it. [kB]"""
    names = page.evaluate(
        "performance.getEntriesByType('resource').map((e) => e.name).filter((n) => n.endsWith('.js'))"
    )
    files = {name.rsplit("/", 1)[-1]: ROOT / "web" / "dist" / name.removeprefix(address + "/") for name in names}
    return {name: len(gzip.compress(file.read_bytes(), 9)) / 1000 for name, file in files.items()}


def main() -> None:
    with demo_server() as address, sync_playwright() as play:
        browser = play.chromium.launch(executable_path=CHROMIUM, args=ARGS)
        page = browser.new_page()
        page.goto(address)
        page.get_by_role("button", name="Enter the demo").click()
        page.locator("[data-part=headline]").wait_for()
        page.reload()
        page.locator("[data-part=headline]").wait_for()
        found = scripts_kb(page, address)
        browser.close()
    total = sum(found.values())
    for name, kilobytes in found.items():
        print(f"{name:40} {kilobytes:7.1f} kB gzip")
    note("first view's scripts over a bare page's", total / BARE_KB, "times", MOST)
    print(f"first view's scripts: {total:.1f} kB gzip; {total / BARE_KB:.2f} times a bare page's {BARE_KB:.0f} kB")
