"""The front end's first view: gzip size of the scripts that it loads, beside a bare page's."""

import gzip

from playwright.sync_api import sync_playwright

from bench.browser import ARGS, CHROMIUM
from bench.goals import note
from bench.server import ROOT, demo_server

# gzip size of the script of a bare page with the same component library, measured once
BARE_KB = 141.0
MOST = 1.45


def main() -> None:
    with demo_server() as address, sync_playwright() as play:
        browser = play.chromium.launch(executable_path=CHROMIUM, args=ARGS)
        page = browser.new_page()
        page.goto(address)
        page.get_by_role("button", name="Enter the demo").click()
        page.locator("[data-part=headline]").wait_for()
        page.reload()
        page.locator("[data-part=headline]").wait_for()
        names = page.evaluate(
            "performance.getEntriesByType('resource').map((e) => e.name).filter((n) => n.endsWith('.js'))"
        )
        browser.close()
    total = 0.0
    for name in names:
        data = (ROOT / "web" / "dist" / name.removeprefix(address + "/")).read_bytes()
        kilobytes = len(gzip.compress(data, 9)) / 1000
        total += kilobytes
        print(f"{name.rsplit('/', 1)[-1]:40} {kilobytes:7.1f} kB gzip")
    note("first view's scripts over a bare page's", total / BARE_KB, "times", MOST)
    print(f"first view's scripts: {total:.1f} kB gzip; {total / BARE_KB:.2f} times a bare page's {BARE_KB:.0f} kB")
