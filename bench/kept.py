"""Kills: an evening is entered in the real interface while the server is killed again and again, between any two entries
and in the middle of one. Prints how many acknowledged entries were lost, and how many were kept twice."""

import json
import random
import re
import tempfile
import time
from collections import Counter
from pathlib import Path
from typing import Any

from playwright.sync_api import BrowserContext, Page, sync_playwright

from bench.browser import ARGS, CHROMIUM
from bench.safety.kills import Killable

KILLS = 200
_PATIENCE_MS = 120_000
_SEED = 1
_LATEST_BLOW_S = 1.0


def _opened(context: BrowserContext, address: str) -> Page:
    page = context.new_page()
    page.set_default_timeout(_PATIENCE_MS)
    page.goto(address)
    page.get_by_role("button", name="Enter the demo").click()
    page.locator("[data-part=headline]").wait_for()
    page.goto(f"{address}/round")
    page.get_by_label("Grey tank", exact=True).wait_for()
    return page


def _values(page: Page) -> Counter[float]:
    """Every reading of the grey tank in litres that the server holds."""
    book: dict[str, Any] = json.loads(
        page.evaluate(
            "async () => { const me = await (await fetch('/api/account/me')).json();"
            " return (await fetch(`/api/rigs/${me.rigs[0].id}/export`)).text() }"
        )
    )
    return Counter(
        round(each["value"], 2)
        for day in book["days"]
        for each in day.get("readings", [])
        if each["store"] == "grey" and each["method"] == "volume"
    )


def main(kills: int = KILLS) -> None:
    chance = random.Random(_SEED)
    entered: list[float] = []
    acknowledged: list[float] = []
    with tempfile.TemporaryDirectory(prefix="lodeline-") as folder, sync_playwright() as play:
        server = Killable(Path(folder))
        server.start(first=True)
        browser = play.chromium.launch(executable_path=CHROMIUM, args=ARGS)
        page = _opened(browser.new_context(locale="en-GB"), server.address)
        before = _values(page)
        for n in range(1, kills + 1):
            litres = round(10 + n / 10, 1)
            field = page.get_by_label("Grey tank", exact=True)
            field.fill(f"{litres} L")
            field.press("Enter")
            echo = page.locator("#echo-grey")
            if n % 2:  # between two entries: it was said to be saved or to wait
                echo.get_by_text(f": {litres} L,").wait_for()
                if "Saved" in echo.inner_text():
                    acknowledged.append(litres)
            else:  # in the middle of one: it is on its way, on the server, or on its way back
                time.sleep(chance.random() * _LATEST_BLOW_S)
            server.kill()
            entered.append(litres)
            echo.get_by_text(f": {litres} L,").wait_for()
            server.start()
            page.evaluate("window.dispatchEvent(new Event('online'))")
            if n % 20 == 0:
                print(f"{n} kills, {len(acknowledged)} acknowledged before the blow", flush=True)
        page.get_by_text(re.compile("waits? on this device")).wait_for(state="detached")
        after = _values(page)
        browser.close()
        server.kill()
    new = after - before
    lost = [litres for litres in entered if litres not in new]
    twice = [litres for litres in entered if new[litres] > 1]
    print(
        f"{kills} kills (SIGKILL), {len(entered)} entries made in the browser, {len(acknowledged)} of them acknowledged "
        f"by the server before the blow: {len(lost)} lost, {len(twice)} kept twice"
    )
    if lost or twice:
        raise SystemExit(1)
