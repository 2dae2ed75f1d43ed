"""The journeys of the product, in the real interface."""

import re
from pathlib import Path
from typing import Any

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from bench import size
from tests.browser.conftest import SIZES, entered, settled

EXAMPLE = Path(__file__).parents[2] / "docs" / "example.logbook.json"


def headline(page: Page) -> str:
    return page.locator("[data-part=headline]").inner_text()


def until_current(page: Page) -> None:
    """Wait until the view says what the server derives from the whole log; in between it may say something older."""
    settled(page)
    page.wait_for_function(
        "async () => { const me = await (await fetch('/api/account/me')).json();"
        " const answer = await fetch(`/api/rigs/${me.rigs[0].id}/horizon`);"
        " if (!answer.ok || answer.headers.has('X-Lodeline-As-Of')) return false;"
        " const shown = document.querySelector('[data-part=headline]')?.textContent;"
        " return (await answer.json()).headline === shown }"
    )


def lane(page: Page, store: str) -> str:
    return page.locator(f"[data-lane={store}]").text_content() or ""


def visit(page: Page, view: str) -> None:
    page.get_by_role("navigation", name="Views").get_by_role("link", name=view).click()
    first = {
        "Horizon": "days?:|hours?:|stay|line|known|logged|Likely",
        "Round": "The round",
        "Logbook": "Logbook",
        "Energy": "low",
        "Rig": "Sandmartin|Tin Lantern|Heron",
    }
    page.get_by_role("heading", level=1, name=re.compile(first[view])).wait_for()


def log_an_evening(page: Page, store: str, name: str, text: str, act: str) -> None:
    """Read the sentence, log in the Round, see sentence and lane change, reload and find it kept."""
    sentence, before = headline(page), lane(page, store)
    visit(page, "Round")
    field = page.get_by_label(name, exact=True)
    field.fill(text)
    expect(page.locator(f"#echo-{store}")).to_contain_text(re.compile("Fits|A little outside|Does not fit"))
    field.press("Enter")
    expect(page.locator(f"#echo-{store}")).to_contain_text(re.compile(f"Saved: .*{text}"))
    page.get_by_role("region", name="What was done").get_by_role("button", name=act, exact=True).click()
    expect(page.get_by_text(f"Logged: {act}")).to_be_visible()
    expect(page.get_by_role("region", name="Logged today")).to_contain_text(act.split()[-1])
    visit(page, "Horizon")
    expect(page.locator(f"[data-lane={store}]")).not_to_have_text(before)
    expect(page.locator("[data-part=headline]")).not_to_have_text(sentence)
    until_current(page)
    changed = headline(page)
    page.reload()
    expect(page.locator("[data-part=headline]")).to_have_text(changed)


def test_an_evening_at_the_table(chromium, fresh_address):
    context, page = entered(chromium, fresh_address)
    log_an_evening(page, "grey", "Grey tank", "1/3", "Emptied Grey tank")
    context.close()


def test_an_evening_on_a_phone(chromium, fresh_address):
    context, page = entered(chromium, fresh_address, "phone", has_touch=True)
    log_an_evening(page, "grey", "Grey tank", "45 L", "Emptied Urine bottle")
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    context.close()


def test_the_evening_by_keyboard_alone(wide):
    wide.keyboard.press("r")
    wide.get_by_role("heading", name=re.compile("The round")).wait_for()
    wide.get_by_label("House bank", exact=True).focus()
    wide.keyboard.type("75%")
    wide.keyboard.press("Enter")
    expect(wide.locator("#echo-house")).to_contain_text(re.compile("Saved: .*75 %"))
    wide.keyboard.press("Tab")
    wide.locator("h1").click()
    wide.keyboard.press("?")
    keys = wide.get_by_role("dialog")
    expect(keys).to_contain_text("Logbook")
    expect(keys.get_by_role("button", name="Close")).to_be_focused()
    wide.keyboard.press("Escape")
    expect(wide.get_by_role("dialog")).to_have_count(0)
    wide.keyboard.press("h")
    expect(wide.locator("[data-part=headline]")).to_be_visible()


def test_the_bank_is_asked_what_it_can_run_and_how_long_to_charge(chromium, fresh_address):
    context, page = entered(chromium, fresh_address)
    page.keyboard.press("e")
    page.get_by_role(
        "heading", level=1, name=re.compile("(Tonight's|The next) low: about .* the line is at 20 %")
    ).wait_for()
    run = page.get_by_role("region", name="Can I run it?")
    run.get_by_label("Appliance").select_option(label="Kettle")
    run.get_by_role("button", name="Can I run it?").click()
    expect(run.locator("[data-part=verdict]")).to_contain_text("No. ")
    expect(run.locator("[data-part=verdict]")).to_contain_text("the inverter gives 1,200 W")
    run.get_by_label("Draws, W").fill("800")
    expect(run.locator("[data-part=verdict]")).to_have_count(0)  # an old answer does not stand beside a new question
    run.get_by_label("Draws, W").press("Enter")
    expect(run.locator("[data-part=verdict]")).to_contain_text("Yes. ")
    charge = page.get_by_role("region", name="How long to charge?")
    charge.get_by_role("button", name="How long?").click()
    expect(charge.locator("[data-part=charge]")).to_contain_text("To 90 %:")
    expect(page.get_by_role("region", name="What would help?")).to_contain_text("Fridge off at night")
    loads = page.get_by_role("region", name="The loads")
    listed = re.search(r"Accept ([\d,]+) Wh", loads.get_by_role("button", name=re.compile("Accept")).inner_text())
    assert listed
    loads.get_by_role("button", name=re.compile("Accept")).click()
    expect(loads).to_contain_text(re.compile("they agree|too little log"))
    days = page.get_by_role("region", name="In and out by day")
    days.get_by_role("button", name="As a table").click()
    expect(days.get_by_role("row").nth(1)).to_contain_text("Wh")
    context.close()


def test_what_is_not_understood_is_said_at_once_and_not_kept(wide):
    visit(wide, "Round")
    field = wide.get_by_label("Fresh water", exact=True)
    field.fill("plenty")
    expect(wide.locator("#echo-fresh")).to_contain_text("not understood")
    field.press("Enter")
    expect(wide.locator("#echo-fresh")).not_to_contain_text("Saved")
    expect(field).to_have_value("plenty")


def test_nothing_is_lost_without_a_signal(wide):
    visit(wide, "Round")
    wide.context.set_offline(True)
    field = wide.get_by_label("Solids bin", exact=True)
    field.fill("37")
    field.press("Enter")
    expect(wide.locator("#echo-solids")).to_contain_text("waits for a signal: 37")
    expect(wide.get_by_text("1 entry waits on this device")).to_be_visible()
    wide.context.set_offline(False)
    expect(wide.get_by_text("1 entry waits on this device")).to_have_count(0)
    expect(wide.get_by_role("region", name="Logged today")).to_contain_text("37 of 70 uses")


def test_a_coming_day_is_changed_right_there_and_the_lanes_answer(wide):
    before = lane(wide, "fresh")
    days = wide.get_by_role("button", name=re.compile("change the plan"))
    days.nth(1).click()
    dialog = wide.get_by_role("dialog")
    dialog.get_by_label("Sleeping aboard").fill("9")
    dialog.get_by_label("Sleeping aboard").press("Enter")
    dialog.get_by_role("button", name="wet").click()
    expect(dialog.get_by_role("button", name="wet")).to_have_attribute("aria-pressed", "true")
    dialog.get_by_role("button", name="Done").click()
    wide.get_by_role("button", name=re.compile("^Fresh water")).click()
    expect(wide.locator("[data-lane=fresh]")).to_contain_text("Line reached")
    level = re.compile(r"Fresh water (\d+ L \d+ to \d+ L)")
    assert level.search(before)[1] == level.search(lane(wide, "fresh"))[1]  # tonight's is the same; what comes is not
    expect(days.nth(1)).to_have_accessible_name(re.compile("wet"))


def test_a_correction_in_the_logbook_keeps_its_history(wide):
    visit(wide, "Logbook")
    page = wide.locator("[data-date='2026-11-25']")
    page.get_by_role("button", name=re.compile("^Correct: Fresh water")).first.click()
    page.get_by_label("Right reading").fill("1/2")
    page.get_by_label("Right reading").press("Enter")
    expect(page.get_by_text("Fresh water: 65 L, 50 %").first).to_be_visible()
    page.get_by_role("button", name="History").click()
    expect(
        page.get_by_text(re.compile("demo corrected Fresh water: .+ to Fresh water: 65 L, 50 %")).first
    ).to_be_visible()


def test_the_rig_says_what_parallel_strings_make_before_it_is_kept(wide):
    visit(wide, "Rig")
    bank = wide.get_by_role("group", name="House bank", exact=True)
    bank.get_by_role("button", name="1 House bank").click()
    field = bank.get_by_label("Strings in parallel")
    field.fill("3")
    field.press("Tab")
    expect(wide.get_by_text("3 in parallel make 315 Ah")).to_be_visible()
    wide.get_by_role("button", name="Save the changes").click()
    expect(wide.get_by_text("Changed, not saved yet.")).to_have_count(0)
    visit(wide, "Horizon")
    wide.get_by_role("button", name=re.compile("^House bank")).click()
    expect(wide.locator("[data-lane=house]")).to_contain_text("of 315 Ah")


def test_set_up_makes_a_rig_that_lives_where_its_people_are(chromium, fresh_address):
    context, page = entered(chromium, fresh_address, timezone_id="America/Denver")
    page.goto(f"{fresh_address}/set-up")
    expect(page.get_by_label("Timezone")).to_have_value("America/Denver")
    page.get_by_label("Name", exact=True).fill("Heron")
    page.get_by_role("button", name="Make the rig").click()
    expect(page.get_by_role("heading", name=re.compile("The round"))).to_be_visible()
    expect(page.get_by_label("Rig", exact=True)).to_contain_text("Heron")
    visit(page, "Horizon")
    expect(page.locator("[data-part=headline]")).to_contain_text("Nothing logged yet. From full: about")
    visit(page, "Rig")
    expect(page.get_by_role("group", name="Crew, place and units")).to_contain_text("America/Denver")
    context.close()


def test_an_import_is_shown_before_it_is_done(wide):
    wide.get_by_label("Rig", exact=True).select_option(label="Tin Lantern")
    visit(wide, "Logbook")
    wide.get_by_role("button", name="Import a file over this rig").click()
    wide.get_by_label("Logbook file (JSON)").set_input_files(EXAMPLE)
    expect(wide.get_by_text("Brings: Sanderling")).to_be_visible()
    expect(wide.get_by_text("Replaces: Tin Lantern")).to_be_visible()


VIEWS = {
    "of the days": ("/", "/round", "/log", "/log?day=2026-03-02", "/stops", "/review"),
    "of the rig": ("/energy", "/water", "/fuel", "/rig", "/set-up", "/account", "/more", "/join#none", "/nowhere"),
}


@pytest.mark.parametrize("views", VIEWS)
def test_axe_finds_nothing_on_any_screen(chromium, address, views):
    context, page = entered(chromium, address)
    violations = {}
    for path in VIEWS[views]:
        page.goto(address + path)
        page.locator("main").get_by_role("heading").first.wait_for()
        page.wait_for_load_state("networkidle")
        if path == "/rig":
            page.get_by_role("button", name="1 House bank").last.click()
        violations[path] = found(page)
    context.close()
    assert {path: bad for path, bad in violations.items() if bad} == {}


def test_axe_finds_nothing_at_the_door(chromium, address):
    door = chromium.new_context(viewport=SIZES["wide"])
    page = door.new_page()
    page.goto(address)
    page.get_by_role("button", name="Enter the demo").wait_for()
    assert found(page) == []
    door.close()


def found(page: Page) -> list[str]:
    """What breaks a rule, wide and then small; by night the colours alone are others, the same at any width."""
    colours = ["color-contrast"]
    page.set_viewport_size(SIZES["wide"])
    bad = violated(page, {})
    turn = "document.documentElement.classList.toggle('dark'); document.documentElement.classList.toggle('light')"
    page.evaluate(turn)
    bad += violated(page, {"runOnly": colours})
    page.evaluate(turn)
    assert width(page) <= SIZES["wide"]["width"], page.url
    page.set_viewport_size(SIZES["small"])
    bad += violated(page, {"rules": {each: {"enabled": False} for each in colours}})
    assert width(page) <= SIZES["small"]["width"], page.url
    return [f"{v['impact']} {v['id']}: {v['nodes'][0]['html'][:200]}" for v in bad]


def width(page: Page) -> int:
    return int(page.evaluate("document.documentElement.scrollWidth"))


def violated(page: Page, options: dict[str, object]) -> list[dict[str, Any]]:
    violations: list[dict[str, Any]] = (
        Axe().run(page, options={"resultTypes": ["violations"]} | options).response["violations"]
    )
    return violations


def test_the_first_view_loads_little_more_than_a_bare_page_and_packed(wide, address):
    wide.reload()
    settled(wide)
    assert sum(size.scripts_kb(wide, address).values()) < size.MOST * size.BARE_KB
    scripts = wide.evaluate("[...document.querySelectorAll('script[src]')].map((each) => each.src)")
    assert scripts
    for script in scripts:
        assert wide.request.get(script, headers={"Accept-Encoding": "br"}).headers["content-encoding"] == "br"


def test_files_that_are_served_have_the_heads_of_pages(wide, address):
    for path in ("/", "/index.html", "/sw.js"):
        heads = wide.request.get(address + path).headers
        assert "default-src 'self'" in heads["content-security-policy"], path
        assert heads["x-frame-options"] == "DENY", path


def test_an_import_over_a_rig_is_undone_as_it_was(chromium, fresh_address):
    context, page = entered(chromium, fresh_address)
    rig = page.get_by_label("Rig", exact=True)
    expect(rig).to_contain_text("Sandmartin")
    before = headline(page)
    visit(page, "Logbook")
    page.get_by_role("button", name="Import a file over this rig").click()
    page.get_by_label("Logbook file (JSON)").set_input_files(EXAMPLE)
    page.get_by_role("button", name="Replace this rig with it").click()
    expect(rig).to_contain_text("Sanderling")
    expect(page.get_by_role("list", name="Exports made before imports").get_by_role("listitem")).to_have_count(1)
    page.get_by_role("button", name="Undo the last import").click()
    expect(rig).to_contain_text("Sandmartin")
    visit(page, "Horizon")
    expect(page.locator("[data-part=headline]")).to_have_text(before)
    context.close()
