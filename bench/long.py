"""A log of ten years in the browser: tasks while scrolling, and what the tab holds after an hour of use.

An hour of use is every view pressed through again and again. What many loads of whole pages leave is told apart.
"""

import re
from datetime import datetime
from pathlib import Path
from typing import Any
from uuid import uuid4

from playwright.sync_api import CDPSession, Page, sync_playwright

from bench.browser import ARGS, CHROMIUM
from bench.evening import PHONE
from bench.goals import figure
from bench.server import demo_server, memory_mib
from bench.server_speed import Browser
from lodeline.demo.life import live
from lodeline.demo.scenario import SANDMARTIN

NOW = "2026-11-25T20:40:00+00:00"
VIEWS = ("/", "/stops", "/round", "/log", "/energy", "/water", "/fuel", "/rig", "/review", "/account")
_OLDER_PAGES = 12
_WATCH = """() => { window.tasks = []; new PerformanceObserver((list) => list.getEntries().forEach((each) =>
window.tasks.push(each.duration))).observe({ type: "longtask" }); }"""


_DRAWN = "() => new Promise((done) => requestIdleCallback(() => done(null)))"
_GO = "(to) => { history.pushState({}, '', to); dispatchEvent(new PopStateEvent('popstate')); }"


def _scroll(page: Page) -> float:
    """The longest task while a page is scrolled to its end and back, in steps as a thumb makes them. [ms]"""
    page.wait_for_load_state("networkidle")  # what is still being drawn is no scrolling
    page.evaluate(_DRAWN)
    page.evaluate(_WATCH)
    height = int(page.evaluate("document.documentElement.scrollHeight"))
    for to in [*range(0, height, 300), *range(height, 0, -600)]:
        page.evaluate(
            "(to) => new Promise((done) => { scrollTo(0, to); requestAnimationFrame(() => done(null)); })", to
        )
    tasks: list[float] = page.evaluate("window.tasks")
    return max(tasks, default=0.0)


def _heap_mib(devtools: CDPSession) -> float:
    """What the page's scripts hold after litter was collected."""
    devtools.send("HeapProfiler.collectGarbage")
    found: dict[str, Any] = devtools.send("Performance.getMetrics")
    values = {each["name"]: each["value"] for each in found["metrics"]}
    return float(values["JSHeapUsedSize"]) / 1024**2


def _tab_mib() -> float:
    """What the largest renderer holds, what it shares counted in part."""
    most = 0
    for process in Path("/proc").glob("[0-9]*"):
        try:
            if "--type=renderer" in (process / "cmdline").read_text():
                said = re.search(r"^Pss:\s+(\d+)", (process / "smaps_rollup").read_text(), re.M)
                most = max(most, int(said[1]) if said else 0)
        except OSError:
            continue
    return most / 1024


def _gentle_day(address: str, client: Browser, rig: int, looks: int) -> None:
    """What the server's processes hold after a day of gentle use: looks at every view, and an entry now and then."""
    answers = ("horizon", "round", "log", "energy", "water", "fuel", "review", "revision")
    held = []
    for turn in range(looks):
        client.call("GET", f"/api/rigs/{rig}/{answers[turn % len(answers)]}")
        if turn % 20 == 0:
            entry = {"reading": {"store": "fresh", "text": "2/3"}}
            client.call(
                "POST", f"/api/rigs/{rig}/writes", {"writes": [{"id": str(uuid4()), "saw": 10**15, "add": entry}]}
            )
        if turn % max(1, looks // 6) == 0:
            held.append(memory_mib(address))
    print("server's memory through the day:", " ".join(f"{each:.0f}" for each in held), "MiB")
    figure(
        "server's memory, last sixth of a day over the second",
        memory_mib(address) / held[min(1, len(held) - 1)],
        "times",
    )


def main(n_days: int = 3652, rounds: int = 12, loads: int = 90, looks: int = 600) -> None:
    now = datetime.fromisoformat(NOW)
    with demo_server(NOW) as address, sync_playwright() as play:
        client = Browser(address)
        rig = client.call("POST", "/api/imports", live(SANDMARTIN, now, 22, n_days).document)["rig"]
        for _ in range(2):
            client.patient("GET", f"/api/rigs/{rig}/horizon")
        chromium = play.chromium.launch(executable_path=CHROMIUM, args=ARGS)
        context = chromium.new_context(viewport=PHONE, has_touch=True, is_mobile=True, locale="en-GB")
        context.add_cookies([{"name": each.name, "value": each.value or "", "url": address} for each in client.jar])
        context.add_init_script(f"localStorage.setItem('lodeline-rig', '{rig}')")
        page = context.new_page()
        devtools = context.new_cdp_session(page)
        devtools.send("Performance.enable")
        page.goto(address)
        page.locator("[data-part=plan-line]").wait_for()
        figure("scrolling the Horizon, longest task", _scroll(page), "ms", 50)
        page.goto(f"{address}/log")
        older = page.get_by_role("button", name="Older days")
        for _ in range(_OLDER_PAGES):
            if not older.is_visible():
                break
            older.click()
            page.get_by_role("button", name=re.compile("Older days|Loading")).first.wait_for()
            older.wait_for()
        figure("scrolling a year of the Logbook, longest task", _scroll(page), "ms", 50)
        page.goto(f"{address}/energy")
        page.get_by_role("heading").first.wait_for()
        page.wait_for_load_state("networkidle")
        figure("scrolling Energy with its year, longest task", _scroll(page), "ms", 50)
        heaps = []
        for _ in range(rounds):
            for view in VIEWS:
                page.evaluate(_GO, view)
                page.get_by_role("heading").first.wait_for()
                page.wait_for_load_state("networkidle")
            heaps.append(_heap_mib(devtools))
        print("heap after each round of all views:", " ".join(f"{each:.0f}" for each in heaps), "MiB")
        figure("heap of the page after an hour of use", heaps[-1], "MiB", 150)
        figure("memory of the tab's process after an hour of use", _tab_mib(), "MiB", 150)
        for turn in range(loads):
            page.goto(address + VIEWS[turn % len(VIEWS)])
            page.get_by_role("heading").first.wait_for()
        figure(f"heap of the page after {loads} loads", _heap_mib(devtools), "MiB", 150)
        figure(f"memory of the tab's process after {loads} loads", _tab_mib(), "MiB")
        chromium.close()
        _gentle_day(address, client, rig, looks)
