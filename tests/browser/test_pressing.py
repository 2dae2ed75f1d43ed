"""What a hand presses does what it says and nothing else: Enter through the Round, every Undo, every button."""

import json
import re
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, Error, Locator, Page, expect

from tests.browser.conftest import entered, kept_by_browser, settled

TYPED = {"house": "79%", "fresh": "1/3", "grey": "30 L", "urine": "20%", "solids": "37", "gas": "40%", "diesel": "3/4"}


def api(page: Page, path: str, method: str = "GET") -> Any:
    return page.evaluate(
        """async ([path, method]) => {
            const me = await (await fetch('/api/account/me')).json();
            const rig = Number(localStorage.getItem('lodeline-rig')) || me.rigs[0].id;
            for (;;) {
                // 202: it is being worked out
                const answer = await fetch(`/api/rigs/${rig}${path}`, { method });
                if (answer.status !== 202) return await answer.json();
            }
        }""",
        [path, method],
    )


def entries(page: Page) -> list[tuple[str, str]]:
    """All that stands in the log of the last days, without numbers that a write gives anew."""
    days = api(page, "/log?days=7&all=true")["days"]
    return sorted((entry["kind"], entry["words"]) for day in days for entry in day["entries"])


def stands_as(page: Page, before: list[tuple[str, str]]) -> None:
    """What waits on the device is sent after the page has opened; the log then stands as it did."""
    for _ in range(40):
        if entries(page) == before:
            return
        page.evaluate("new Promise(done => requestIdleCallback(done, { timeout: 500 }))")
    assert entries(page) == before


@pytest.fixture(params=["wide", "phone"])
def evening(request, chromium: Browser, fresh_address: str) -> Iterator[tuple[BrowserContext, Page, str]]:
    context, page = entered(chromium, fresh_address, request.param)
    page.goto(f"{fresh_address}/round")
    page.get_by_label("Diesel", exact=True).wait_for()
    yield context, page, fresh_address
    context.close()


def test_the_round_by_enter_alone_logs_what_was_typed_and_nothing_else(evening):
    _, page, _ = evening
    before = entries(page)
    page.get_by_label("House bank", exact=True).focus()
    asked = page.locator("[data-store] input").evaluate_all("all => all.map(one => one.id.replace('read-', ''))")
    left_out = asked[2]
    for store in asked:
        expect(page.locator(f"#read-{store}")).to_be_focused()
        if store != left_out:
            page.keyboard.type(TYPED[store])
        page.keyboard.press("Enter")
    # past the last gauge there is nothing that Enter presses, however often
    expect(page.locator("#after-the-gauges")).to_be_focused()
    page.keyboard.press("Enter")
    page.keyboard.press("Enter")
    for store in asked:
        if store != left_out:
            expect(page.locator(f"#echo-{store}")).to_contain_text("Saved")
    settled(page)
    new = entries(page)
    for each in before:
        new.remove(each)
    assert len(new) == len(asked) - 1
    assert {kind for kind, _ in new} == {"reading"}


def undo_of(page: Page, within: Locator) -> None:
    """Press the undo that is offered, not as the second half of a double touch."""
    page.clock.run_for(1_000)
    within.get_by_role("button", name=re.compile("^Undo|: undo$")).first.click()


def emptied(today: Locator) -> Locator:
    return today.get_by_role("listitem").filter(has_text=re.compile("Grey tank emptied|Emptied Grey tank"))


@pytest.mark.parametrize(
    ("evening", "signal"), [("wide", True), ("phone", False)], indirect=["evening"], ids=["with a signal", "without"]
)
def test_every_undo_takes_back_what_was_done(evening, signal):
    context, page, _ = evening
    before = entries(page)
    done, today = page.get_by_role("region", name="What was done"), page.get_by_role("region", name="Logged today")
    n_emptied = emptied(today).count()
    context.set_offline(not signal)
    # an act, where it was touched
    done.get_by_role("button", name="Emptied Grey tank", exact=True).click()
    undo_of(page, done)
    expect(done.get_by_text("Undone: Emptied Grey tank")).to_be_visible()
    # a reading, where it was typed
    field = page.locator("[data-store=grey]")
    field.get_by_role("textbox").fill("30 L")
    field.get_by_role("button", name="Save").click()
    expect(field.get_by_text(re.compile("Saved|waits for a signal")).first).to_be_visible()
    undo_of(page, field)
    expect(field.get_by_text(re.compile("^Undone"))).to_be_visible()
    # an act, in the list of what was logged today
    done.get_by_role("button", name="Emptied Grey tank", exact=True).click()
    expect(emptied(today)).to_have_count(n_emptied + 1)
    undo_of(page, emptied(today).last)
    expect(emptied(today)).to_have_count(n_emptied)
    context.set_offline(False)
    page.reload()
    expect(page.get_by_role("region", name="Logged today")).to_be_visible()
    settled(page)
    stands_as(page, before)


def test_a_tick_is_taken_back_with_a_signal_and_without_and_the_stop_is_over(chromium, fresh_address):
    context, page = entered(chromium, fresh_address)
    page.goto(f"{fresh_address}/stops")
    page.get_by_role("button", name=re.compile("ticket", re.I)).first.click()
    page.get_by_role("list", name="What to do, in order").wait_for()
    kept_by_browser(page)
    before = entries(page)
    task = page.locator("[data-task^=empty-], [data-task^=fill-]").first
    for signal in (True, False):
        settled(page)
        page.reload()
        context.set_offline(not signal)
        task.get_by_role("button", name=re.compile(": (?!undo)")).click()
        expect(task.get_by_role("button", name=re.compile(": undo$"))).to_be_visible()
        undo_of(page, task)
        expect(task.get_by_role("button", name=re.compile(": undo$"))).to_have_count(0)
    context.set_offline(False)
    page.reload()
    settled(page)
    expect(task.get_by_role("button", name=re.compile(": undo$"))).to_have_count(0)
    stands_as(page, before)
    page.get_by_role("button", name="The stop is over").click()
    expect(page.get_by_text("The stop is over; the forecast starts from what was done.")).to_be_visible()
    context.close()


NOT_NOW = re.compile(
    # what ends the visit, what a test of its own undoes, and the days, which are alike
    r"(?i)sign out|delete|leave this|replace|choose file|print|night$|^day$|make an invitation|where this device"
    r"|undo|^\w{3} \d+ :"
)
PARTS = "main button:visible, main summary:visible"
NAME = "(one) => (one.getAttribute('aria-label') || one.innerText || '').trim().replace(/\\s+/g, ' ')"
NAMES = f"(all) => all.map({NAME})"
# whether it can be pressed; null where another one stands in its place
STANDS = f"(all, [at, name]) => all[at] && ({NAME})(all[at]) === name ? !all[at].disabled : null"


@contextmanager
def watched(page: Page, found: list[str], pressed: list[str]) -> Iterator[None]:
    """Write down what the server refuses, what a write comes to, and what breaks on the page."""

    def answered(response: Any) -> None:
        if response.status >= 400:
            found.append(f"{pressed[-3:]} {response.status} {response.request.method} {response.url}")
        elif response.request.method == "POST" and response.url.endswith("/writes") and response.status == 200:
            came.append(response)

    came: list[Any] = []
    page.on("response", answered)
    page.on("pageerror", lambda error: found.append(f"{page.url} {error}"))
    yield
    page.remove_listener("response", answered)
    for each in came:
        # the body is gone where the page was left before it came
        with suppress(Error):
            found += [json.dumps(one)[:200] for one in each.json()["writes"] if one["state"] != "kept"]


def press_all(page: Page, address: str, view: str, so_far: list[str]) -> int:
    """Press each button of a view once, with what it shows; where one leads away, go back."""

    def closes(_dialog: Locator) -> None:
        page.keyboard.press("Escape")

    dialog = page.locator("[role=dialog]")
    page.add_locator_handler(dialog, closes)
    page.goto(address + view)
    page.wait_for_load_state("networkidle")
    pressed: set[str] = set()
    for _ in range(60):
        names = page.locator(PARTS).evaluate_all(NAMES)
        at = next((i for i, name in enumerate(names) if name not in pressed and not NOT_NOW.search(name)), None)
        if at is None:
            break
        pressed.add(names[at])
        so_far.append(f"{view} {names[at]}")
        found = page.locator(PARTS).evaluate_all(STANDS, [at, names[at]])
        if found is None:
            # the page was drawn anew since its names were read
            pressed.discard(names[at])
            continue
        if found:
            page.locator(PARTS).nth(at).click()
            page.wait_for_load_state("networkidle")
        if not page.url.startswith(address + view) or (view == "/" and page.url != address + "/"):
            page.goto(address + view)
            page.wait_for_load_state("networkidle")
    page.remove_locator_handler(dialog)
    return len(pressed)


def a_bare_rig(page: Page, address: str) -> None:
    page.goto(f"{address}/set-up")
    page.get_by_label("Name", exact=True).fill("Heron")
    page.get_by_role("button", name="Make the rig").click()
    page.get_by_role("heading", name=re.compile("The round")).wait_for()


def past_its_line(page: Page, address: str) -> None:
    page.goto(f"{address}/round")
    page.get_by_label("Grey tank", exact=True).fill("full")
    page.keyboard.press("Enter")
    expect(page.locator("#echo-grey")).to_contain_text("Saved")


STATES = {"bare": ("wide", a_bare_rig, ["/", "/water", "/fuel"]), "past": ("phone", past_its_line, ["/", "/round"])}


@pytest.mark.parametrize("state", STATES)
def test_every_button_works_with_what_it_shows(chromium, fresh_address, state):
    size, made, views = STATES[state]
    context, page = entered(chromium, fresh_address, size)
    page.on("dialog", lambda dialog: dialog.accept())
    made(page, fresh_address)
    found: list[str] = []
    pressed: list[str] = []
    with watched(page, found, pressed):
        n = sum(press_all(page, fresh_address, view, pressed) for view in views)
    context.close()
    assert found == [], "\n".join(found)
    assert n > 10
