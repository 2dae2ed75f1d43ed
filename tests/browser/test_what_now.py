"""What a tired person does with a phone in one hand: the first line, thumbs, taps and screens; and the same by keyboard."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import SIZES, entered, settled

VIEWS = (
    "/",
    "/round",
    "/log",
    "/energy",
    "/water",
    "/fuel",
    "/stops",
    "/rig",
    "/review",
    "/set-up",
    "/account",
    "/more",
)
THUMB_PX = 44
# Every control that is seen and can be pressed, with its size; a check box or a file is pressed by its label as well.
CONTROLS = """() => [...document.querySelectorAll("a, button, input, select, summary, textarea, [role=button]")]
    .filter((each) => each.checkVisibility() && each.tabIndex >= 0 && !each.closest("[inert]"))
    .map((each) => ({ box: (each.closest("label") ?? each).getBoundingClientRect(), each }))
    .filter(({ box }) => box.width > 0 && box.right > 0)
    .filter(({ box }) => Math.round(box.height) < %d || Math.round(box.width) < %d)
    .map(({ box, each }) => `${each.tagName} ${(each.getAttribute("aria-label") ?? each.innerText).slice(0, 40)}`
        + ` ${Math.round(box.width)}x${Math.round(box.height)}`)"""


def opened(page: Page, address: str, view: str) -> None:
    page.goto(address + view)
    page.locator("main").get_by_role("heading").first.wait_for()
    settled(page)


def on_tin_lantern(page: Page) -> None:
    page.get_by_label("Rig", exact=True).select_option(label="Tin Lantern")
    expect(page).to_have_title(re.compile("Tin Lantern"))


@pytest.mark.parametrize("rig", ["Sandmartin", "Tin Lantern"])
def test_every_target_has_a_thumbs_width_on_a_phone(chromium, address, rig):
    context, page = entered(chromium, address, "phone", has_touch=True)
    if rig == "Tin Lantern":
        on_tin_lantern(page)
    small = {}
    for view in VIEWS:
        opened(page, address, view)
        # what is folded is pressed as well
        page.evaluate("document.querySelectorAll('main details').forEach((each) => { each.open = true })")
        found = page.evaluate(CONTROLS % (THUMB_PX, THUMB_PX))
        small[view] = [each for each in found if "Skip to" not in each]
    context.close()
    assert {view: found for view, found in small.items() if found} == {}


def test_with_a_dry_tank_the_first_line_says_what_to_do_and_one_touch_does_it(chromium, fresh_address):
    context, page = entered(chromium, fresh_address, "phone", has_touch=True)
    on_tin_lantern(page)
    line, touch = page.locator("[data-part=next]"), page.get_by_role("button", name="Blue jug into Fresh tank")
    expect(line).to_contain_text("Pour Blue jug and White jug into Fresh tank now")
    assert touch.bounding_box()["y"] < SIZES["phone"]["height"] / 2
    touch.tap()
    expect(line).to_contain_text("Logged: Blue jug into Fresh tank")
    expect(line).not_to_contain_text("Pour Blue jug and")
    page.get_by_role("button", name="Undo").first.tap()
    expect(line).to_contain_text("Pour Blue jug and White jug into Fresh tank now")
    context.close()


def test_an_evening_of_seven_stores_is_two_screens_and_eight_taps(chromium, fresh_address):
    context, page = entered(chromium, fresh_address, "phone", has_touch=True)
    opened(page, fresh_address, "/round")
    fields = page.locator("[data-store]")
    assert fields.count() == 7
    last = page.get_by_role("group", name="Sky").bounding_box()
    assert last["y"] + last["height"] < 2 * SIZES["phone"]["height"]
    for n in range(7):
        fields.nth(n).get_by_role("button", name=re.compile("as expected$")).tap()
        expect(fields.nth(n)).to_contain_text("Saved")
    page.get_by_role("region", name="What was done").get_by_role("button").first.tap()
    expect(page.get_by_text("Logged:")).to_be_visible()
    context.close()


# How many screens of a phone each may take; of the Horizon the way down to the plan.
HEIGHTS = {"/round": 2.5, "/stops": 3.0, "/water": 3.0, "/fuel": 3.0}


def test_no_view_is_longer_than_a_tired_thumb_goes(chromium, address):
    context, page = entered(chromium, address, "phone", has_touch=True)
    tall = SIZES["phone"]["height"]
    page.locator("[data-part=plan-line][aria-busy=false] a").wait_for()
    plan = page.locator("[data-part=plan-line]").bounding_box()
    assert plan["y"] + plan["height"] <= 2 * tall
    for view, most in HEIGHTS.items():
        opened(page, address, view)
        page.locator("[data-part=next][aria-busy=false]").wait_for()
        assert page.evaluate("document.documentElement.scrollHeight") <= most * tall, view
    context.close()


def test_an_evening_by_keyboard_alone(chromium, fresh_address):
    context, page = entered(chromium, fresh_address)
    page.keyboard.press("r")
    expect(page.get_by_role("heading", level=1)).to_contain_text("The round")
    page.get_by_label("House bank", exact=True).wait_for()
    presses = 0
    while page.evaluate("document.activeElement?.id") != "read-house":
        page.keyboard.press("Tab")
        presses += 1
        assert presses < 40
    page.keyboard.type("95%")
    page.keyboard.press("Enter")
    expect(page.locator("#read-fresh")).to_be_focused()
    expect(page.locator("#echo-house")).to_contain_text(re.compile("Saved: .*95 %"))
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("h")
    page.locator("[data-lane=house]").wait_for()
    heads = page.locator("[data-lane] button[data-rove]")
    assert heads.evaluate_all("all => all.filter((each) => each.tabIndex === 0).length") == 1
    heads.first.focus()
    page.keyboard.press("ArrowDown")
    expect(heads.nth(1)).to_be_focused()
    page.keyboard.press("Enter")
    expect(heads.nth(1)).to_have_attribute("aria-expanded", "true")
    page.keyboard.press("/")
    page.get_by_label("In the log, notes, places and help").fill("lode line")
    expect(page.get_by_role("list", name="What was found")).to_contain_text("What is a lode line?")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    context.close()


def test_help_stands_on_a_view_without_a_signal_too(chromium, address):
    context, page = entered(chromium, address, "phone", has_touch=True)
    page.get_by_role("button", name="What does this mean?").tap()
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("What is a lode line?")
    expect(dialog.locator("svg").first).to_be_visible()
    page.keyboard.press("Escape")
    context.close()
