"""How soon the Horizon stands on a slow phone: its processor a quarter of this one, 400 kbit/s, 300 ms to the server."""

import time

from playwright.sync_api import CDPSession, Page, sync_playwright

from bench.browser import ARGS, CHROMIUM
from bench.evening import PHONE
from bench.goals import figure
from bench.server import demo_server
from bench.server_speed import Browser

NOW = "2026-11-25T20:40:00+00:00"
_KBIT_S, _DELAY_MS, _SLOWER = 400, 300, 4
_FLOOR = """() => performance.getEntriesByType("resource").filter((each) => /\\.(js|css)$/.test(each.name))
.reduce((sum, each) => sum + each.encodedBodySize, 0)"""


def _slow(devtools: CDPSession) -> None:
    devtools.send("Emulation.setCPUThrottlingRate", {"rate": _SLOWER})
    rate = _KBIT_S * 1000 / 8
    devtools.send(
        "Network.emulateNetworkConditions",
        {"offline": False, "latency": _DELAY_MS, "downloadThroughput": rate, "uploadThroughput": rate},
    )


def _drawn_s(page: Page, address: str) -> float:
    began = time.perf_counter()
    page.goto(address, wait_until="commit")
    page.locator("[data-part=headline]").wait_for()
    return time.perf_counter() - began


def main(runs: int = 3) -> None:
    with demo_server(NOW) as address, sync_playwright() as play:
        client = Browser(address)
        client.patient("GET", "/api/rigs/1/horizon")
        first, second, floor = [], [], 0.0
        for _ in range(runs):
            chromium = play.chromium.launch(executable_path=CHROMIUM, args=ARGS)
            context = chromium.new_context(viewport=PHONE, has_touch=True, is_mobile=True, locale="en-GB")
            context.add_cookies([{"name": each.name, "value": each.value or "", "url": address} for each in client.jar])
            page = context.new_page()
            devtools = context.new_cdp_session(page)
            devtools.send("Network.enable")
            _slow(devtools)
            first.append(_drawn_s(page, address))
            floor = page.evaluate(_FLOOR) * 8 / 1000 / _KBIT_S
            # what the device keeps for the next time is fetched in its own time
            devtools.send("Emulation.setCPUThrottlingRate", {"rate": 1})
            page.evaluate("navigator.serviceWorker.ready.then(() => null)")
            page.goto("about:blank")
            _slow(devtools)
            second.append(_drawn_s(page, address))
            chromium.close()
        figure("Horizon drawn on a slow phone, first visit", min(first), "s", 1.2)
        figure("floor of it: its scripts and styles at that rate, nothing else", floor, "s")
        figure("Horizon drawn on a slow phone, second visit", min(second), "s", 0.5)
