"""An evening of seven stores on a phone: taps, keystrokes and seconds; and how soon the Round can be used from the home
screen, without a signal beside with one."""

import re
import statistics
import time

from playwright.sync_api import Browser, Page, ViewportSize, sync_playwright

from bench.browser import ARGS, CHROMIUM
from bench.server import demo_server

NOW = "2026-11-25T20:40:00+00:00"
PHONE: ViewportSize = {"width": 390, "height": 844}
RUNS = 7
# what the crew's gauges show: a mark or what is expected by one tap, the rest typed as short as it is clear
TOUCHED: dict[str, str | re.Pattern[str]] = {"grey": "1/3", "diesel": re.compile("as expected$")}
TYPED = {"House bank": "79", "Fresh water": "82", "Urine bottle": "3", "Solids bin": "37", "Gas bottle": "19"}


def _entered(browser: Browser, address: str) -> Page:
    context = browser.new_context(viewport=PHONE, has_touch=True, is_mobile=True, locale="en-GB")
    page = context.new_page()
    page.clock.install(time=NOW)
    page.goto(address)
    page.get_by_role("button", name="Enter the demo").click()
    page.locator("[data-part=headline]").wait_for()
    page.goto(f"{address}/round")
    page.get_by_label("Diesel", exact=True).wait_for()
    return page


def _evening(page: Page) -> tuple[int, int, float]:
    """Taps, keystrokes and seconds of one evening; after Enter the focus is on the next store."""
    taps = keys = 0
    began = time.perf_counter()
    page.get_by_label("House bank", exact=True).tap()
    taps += 1
    for store, text in TYPED.items():
        field = page.get_by_label(store, exact=True)
        if not field.evaluate("(field) => field === document.activeElement"):
            field.tap()
            taps += 1
        page.keyboard.type(text)
        page.keyboard.press("Enter")
        keys += len(text) + 1
    for store, name in TOUCHED.items():
        page.locator(f"[data-store={store}]").get_by_role("button", name=name, exact=True).tap()
        taps += 1
    for store in ("house", "fresh", "grey", "urine", "solids", "gas", "diesel"):
        page.locator(f"#echo-{store}").get_by_text("Saved").wait_for()
    return taps, keys, time.perf_counter() - began


def _usable(page: Page, address: str) -> float:
    began = time.perf_counter()
    page.goto(f"{address}/round")
    page.get_by_label("Diesel", exact=True).wait_for()
    return 1000 * (time.perf_counter() - began)


def main(runs: int = RUNS) -> None:
    with demo_server(NOW) as address, sync_playwright() as play:
        browser = play.chromium.launch(executable_path=CHROMIUM, args=ARGS)
        page = _entered(browser, address)
        taps, keys, seconds = _evening(page)
        print(f"an evening of seven stores at 390x844: {taps} taps, {keys} keystrokes, {seconds:.1f} s by a machine")
        page.evaluate("navigator.serviceWorker.ready")
        page.wait_for_load_state("networkidle")
        online = [_usable(page, address) for _ in range(runs)]
        page.context.set_offline(True)
        offline = [_usable(page, address) for _ in range(runs)]
        browser.close()
    medians = [statistics.median(each) for each in (online, offline)]
    print(
        f"a usable Round from the home screen: {medians[0]:.0f} ms with a signal, {medians[1]:.0f} ms without one: "
        f"{medians[1] / medians[0]:.2f} times"
    )
