"""What is logged is kept once, whatever befalls the line, the server, the tab and the hand."""

import json
import re
import urllib.request
from collections.abc import Callable, Iterator

import pytest
from playwright.sync_api import BrowserContext, Page, Route, expect

from tests.browser.conftest import NOW, entered, gone_to, kept_by_browser, opened_up, settled

WRITES = re.compile(r"/api/rigs/\d+/writes$")


@pytest.fixture
def evening(chromium, fresh_address) -> Iterator[tuple[BrowserContext, Page, str]]:
    context, page = entered(chromium, fresh_address, "phone", has_touch=True)
    go(page, "Round")
    yield context, page, fresh_address
    context.close()


def go(page: Page, view: str) -> None:
    gone_to(page, view)
    page.get_by_role("heading", level=1).wait_for()
    if view == "Round":
        page.get_by_label("Fresh water", exact=True).wait_for()


def read(page: Page, store: str, text: str) -> None:
    field = page.get_by_label(store, exact=True)
    field.fill(text)
    field.press("Enter")
    expect(field).to_have_value("")


def logged(page: Page) -> list[str]:
    """Today's log by the server, once it has worked out what was written last."""
    lines = page.evaluate(
        "async () => { const me = await (await fetch('/api/account/me')).json(); let answer;"
        " do { answer = await fetch(`/api/rigs/${me.rigs[0].id}/round`) }"
        " while (answer.status === 202 || answer.headers.has('X-Lodeline-As-Of'));"
        " return (await answer.json()).entries.map((each) => each.words) }"
    )
    return [str(line) for line in lines]


def until_logged(page: Page, words: str) -> None:
    """Wait until the server has an entry; a page that has just been opened may not know yet that it waits here."""
    page.wait_for_function(
        "async (words) => { const me = await (await fetch('/api/account/me')).json();"
        " const answer = await fetch(`/api/rigs/${me.rigs[0].id}/round`);"
        " if (!answer.ok) return false;"  # a busy server says that it is working on it
        " return (await answer.json()).entries.some((each) => each.words === words) }",
        arg=words,
    )


GREY = "Grey tank: 31 L, 36 %"
SOLIDS = "Solids bin: 44 of 70 uses"


def test_a_whole_evening_without_a_signal_is_kept_once_also_when_the_browser_was_closed(
    chromium, fresh_address, tmp_path
):
    context, page = entered(chromium, fresh_address, "phone", has_touch=True)
    go(page, "Round")
    kept_by_browser(page)
    before = logged(page)
    context.set_offline(True)
    read(page, "Grey tank", "31 L")
    page.close()
    page = context.new_page()
    page.clock.install(time=NOW)
    page.goto(f"{fresh_address}/round")  # the shell and the view come from this device
    page.get_by_label("Fresh water", exact=True).wait_for()
    expect(page.get_by_text("1 entry waits on this device")).to_be_visible()
    expect(page.get_by_role("region", name="Logged today")).to_contain_text("Grey tank 31 L (waits for a signal)")
    read(page, "Solids bin", "44")
    page.get_by_role("button", name="Navy shower", exact=True).click()
    expect(page.get_by_text(re.compile("waits for a signal: Navy shower"))).to_be_visible()
    page.get_by_role("group", name="Sky").get_by_role("button", name="wet").click()
    expect(page.get_by_text("4 entries wait on this device")).to_be_visible()
    page.reload()
    page.get_by_label("Fresh water", exact=True).wait_for()
    expect(page.get_by_role("group", name="Sky").get_by_role("button", name="wet")).to_have_attribute(
        "aria-pressed", "true"
    )
    context.set_offline(False)
    settled(page)
    after = logged(page)
    assert sorted(after) == sorted([*before, GREY, SOLIDS, "1 navy shower"])
    context.close()


def test_every_view_opens_without_a_signal_once_it_was_seen(chromium, address):
    context, page = entered(chromium, address)
    heading = page.get_by_role("heading", level=1)
    said = {}
    for path in ("/", "/round", "/log", "/energy", "/rig", "/review", "/account"):
        page.goto(address + path)
        heading.wait_for()
        kept_by_browser(page)
        page.wait_for_load_state("networkidle")
        said[path] = heading.inner_text()
    context.set_offline(True)
    for path, words in said.items():
        page.goto(address + path)
        expect(heading).to_have_text(words)
        expect(page.get_by_role("status").first).to_contain_text("No signal: what is shown may be old.")
        expect(page.get_by_role("navigation", name="Views")).to_be_visible()
    context.close()


def test_a_view_that_was_never_seen_says_so_inside_the_shell(chromium, fresh_address):
    context, page = entered(chromium, fresh_address)
    kept_by_browser(page)
    context.set_offline(True)
    page.keyboard.press("b")
    expect(page.get_by_text("No connection.")).to_be_visible()
    page.get_by_role("navigation", name="Views").get_by_role("link", name="Horizon").click()
    expect(page.locator("[data-part=headline]")).to_be_visible()
    context.close()


def test_it_can_be_installed(chromium, address):
    context, page = entered(chromium, address)
    kept_by_browser(page)
    link = page.locator("link[rel=manifest]").get_attribute("href")
    manifest = json.loads(urllib.request.urlopen(f"{address}{link}").read())
    assert (manifest["name"], manifest["display"]) == ("Lodeline", "standalone")
    for icon in manifest["icons"]:
        assert urllib.request.urlopen(address + icon["src"]).status == 200
    errors = context.new_cdp_session(page).send("Page.getInstallabilityErrors")["installabilityErrors"]
    assert [each["errorId"] for each in errors if each["errorId"] != "in-incognito"] == []
    context.close()


def answer_lost(route: Route) -> None:
    route.fetch()
    route.abort()


def refused(status: int) -> Callable[[Route], None]:
    def refuse(route: Route) -> None:
        body = {"place": "", "label": "", "problem": "Not for you."}
        route.fulfill(status=status, json=body)

    return refuse


# each of the other answers is the outbox's own test's
@pytest.mark.parametrize("fate", [answer_lost, refused(503)], ids=["answer lost", "503"])
def test_what_the_server_did_not_answer_well_is_kept_once(evening, fate):
    context, page, _ = evening
    before = logged(page)
    context.route(WRITES, fate)
    read(page, "Grey tank", "31 L")
    expect(page.get_by_text("1 entry waits on this device")).to_be_visible()
    context.unroute(WRITES)
    page.evaluate("window.dispatchEvent(new Event('online'))")
    settled(page)
    assert sorted(logged(page)) == sorted([*before, GREY])


def test_what_is_refused_stands_before_its_maker_and_is_not_lost(evening):
    context, page, _ = evening
    context.route(WRITES, refused(422))
    context.set_offline(True)
    read(page, "Grey tank", "31 L")
    context.set_offline(False)
    page.get_by_role("button", name="1 entry not taken: look").click()
    tray = page.get_by_role("list", name="Entries that were not taken")
    expect(tray).to_contain_text("Grey tank 31 L")
    expect(tray).to_contain_text("Not for you.")
    context.unroute(WRITES)
    read(page, "Solids bin", "44")  # a later success does not forget it
    expect(tray).to_contain_text("Not for you.")
    page.reload()
    page.get_by_role("button", name="1 entry not taken: look").click()
    page.get_by_role("button", name="Send it again").click()
    expect(tray).to_have_count(0)
    assert {GREY, SOLIDS} <= set(logged(page))
    assert logged(page).count(GREY) == 1


def test_a_line_that_hangs_holds_nobody_up(evening):
    context, page, _ = evening
    hung: list[Route] = []
    context.route(WRITES, lambda route: hung.append(route))
    read(page, "Grey tank", "31 L")
    expect(page.locator("#echo-grey")).to_contain_text("Kept on this device, waits for a signal: 31 L")
    expect(page.get_by_label("Urine bottle", exact=True)).to_be_focused()
    assert len(hung) == 1


def test_a_tab_that_is_closed_at_once_has_kept_what_was_entered(evening):
    context, page, address = evening
    context.route(WRITES, lambda route: None)  # it never leaves this tab
    field = page.get_by_label("Grey tank", exact=True)
    field.fill("31 L")
    field.press("Enter")
    expect(page.get_by_text("1 entry waits on this device")).to_be_visible()
    page.close()
    context.unroute(WRITES)
    page = context.new_page()
    page.goto(f"{address}/energy")  # from any view
    until_logged(page, GREY)
    settled(page)
    assert logged(page).count(GREY) == 1


def test_two_tabs_send_what_waits_once_and_hear_of_each_other(evening):
    context, page, address = evening
    sent: list[int] = []

    def slow(route: Route) -> None:
        sent.append(len(json.loads(route.request.post_data or "{}")["writes"]))
        route.continue_()

    other = context.new_page()
    other.clock.install(time=NOW)
    other.goto(f"{address}/round")
    other.get_by_label("Fresh water", exact=True).wait_for()
    context.set_offline(True)
    read(page, "Grey tank", "31 L")
    read(other, "Solids bin", "44")
    for each in (page, other):
        expect(each.get_by_text("2 entries wait on this device")).to_be_visible()
    context.route(WRITES, slow)
    context.set_offline(False)
    settled(page)
    settled(other)
    assert sum(sent) == 2
    assert [logged(page).count(words) for words in (GREY, SOLIDS)] == [1, 1]
    expect(other.get_by_role("region", name="Logged today")).to_contain_text(GREY)


def test_another_account_on_this_device_sees_and_sends_nothing_of_what_waits(evening):
    context, page, address = evening
    context.route(WRITES, refused(503))
    read(page, "Grey tank", "31 L")
    page.goto(f"{address}/rig")
    page.get_by_role("button", name="Make a link").click()
    link = page.get_by_text(re.compile("/join#")).inner_text()
    page.goto(f"{address}/account")
    page.get_by_role("button", name="Sign out").click()
    expect(page.get_by_role("dialog")).to_contain_text("Not on the server yet: 1 entry")
    page.get_by_role("button", name="Sign out and clear this device").click()
    expect(page.get_by_role("button", name="Enter the demo")).to_be_visible()
    expect(page.get_by_text("Sandmartin")).to_have_count(0)  # nothing of the old account is left on screen
    context.unroute(WRITES)
    page.goto(link)
    page.get_by_label("Account").fill("joss")
    page.get_by_label("Password").fill("a-long-word-9")
    page.get_by_role("button", name="Make the account and come aboard").click()
    page.locator("[data-part=headline]").wait_for()
    expect(page.get_by_role("status").first).to_contain_text("Entries of demo wait here until they sign in again.")
    assert GREY not in logged(page)
    page.goto(f"{address}/account")
    page.get_by_role("button", name="Sign out").click()
    page.get_by_role("button", name="Sign out, keep the last views here").click()
    page.get_by_role("button", name="Enter the demo").click()
    page.locator("[data-part=headline]").wait_for()
    settled(page)
    assert logged(page).count(GREY) == 1


def test_a_double_tap_and_enter_twice_are_one(evening):
    _, page, _ = evening
    before = logged(page)
    page.get_by_role("button", name="Navy shower", exact=True).dblclick()
    expect(page.get_by_text("Logged: Navy shower")).to_be_visible()
    field = page.get_by_label("Grey tank", exact=True)
    field.fill("31 L")
    field.dispatch_event("keydown", {"key": "Enter"})
    field.dispatch_event("keydown", {"key": "Enter"})
    field.press("Tab")
    expect(field).to_have_value("")
    mark = page.get_by_role("group", name="Marks of Grey tank").get_by_role("button", name="1/3")
    mark.dblclick()
    expect(page.locator("#echo-grey")).to_contain_text("28 to 57 L")
    settled(page)
    by_mark = "Grey tank: mark 1/3: 28 to 57 L"
    assert sorted(logged(page)) == sorted([*before, GREY, "1 navy shower", by_mark])


def test_a_half_typed_value_is_not_kept_and_a_number_alone_is_taken_as_last_time(evening):
    _, page, _ = evening
    before = logged(page)
    page.get_by_label("House bank", exact=True).fill("3")
    diesel, echo = page.get_by_label("Diesel", exact=True), page.locator("#echo-diesel")
    diesel.fill("40")
    expect(page.locator("#echo-house")).to_contain_text("Not kept yet: press Enter or Save.")
    expect(echo).to_contain_text("34 L, 40 %, as last time")
    assert logged(page) == before
    page.get_by_role("group", name="What is meant").get_by_role("button", name="40 L").click()
    expect(echo).to_contain_text("Saved: 40 L")
    expect(page.locator("[data-store=diesel]")).to_contain_text("Last 40 L")
    diesel.fill("39")
    expect(echo).to_contain_text("39 L, 46 %, as last time")
    diesel.press("Enter")
    expect(echo).to_contain_text("Saved: 39 L")
    kept = [words for words in logged(page) if words not in before]
    assert sorted(kept) == ["Diesel: 39 L, 46 %", "Diesel: 40 L, 47 %"]


def test_a_new_rig_is_written_to_at_once_and_not_the_old_one(evening):
    _, page, address = evening
    page.goto(f"{address}/set-up")
    page.get_by_label("Name", exact=True).fill("Heron")
    page.get_by_role("button", name="Make the rig").click()
    page.get_by_role("heading", name=re.compile("The round")).wait_for()
    expect(page.get_by_label("Rig", exact=True)).to_contain_text("Heron")
    read(page, "Fresh water", "31 L")
    expect(page.get_by_role("region", name="Logged today")).to_contain_text("Fresh water: 31 L")
    page.get_by_label("Rig", exact=True).select_option(label="Sandmartin")
    expect(page).to_have_title(re.compile("^Round · Sandmartin"))
    expect(page.get_by_role("region", name="Logged today")).not_to_contain_text("Fresh water: 31 L")


def test_the_later_of_two_tabs_does_not_undo_the_earlier(evening):
    context, page, address = evening
    other = context.new_page()
    for each in (page, other):
        each.goto(f"{address}/rig")
        each.get_by_role("button", name="Crew, place and units").click()
    page.get_by_label("Adults").fill("3")
    other.get_by_label("Animals").fill("4")
    page.get_by_role("button", name="Save the changes").click()
    expect(page.get_by_text("Changed, not saved yet.")).to_have_count(0)
    other.get_by_role("button", name="Save the changes").click()
    ask = other.get_by_role("dialog", name="Somebody else changed this rig meanwhile")
    expect(ask).to_contain_text("Crew, place and units")
    ask.get_by_role("button", name="Take what is there").click()
    expect(other.get_by_label("Adults")).to_have_value("3")
    expect(other.get_by_label("Animals")).to_have_value("1")


def test_leaving_with_changes_is_asked_about(evening):
    _, page, _ = evening
    go(page, "Rig")
    page.get_by_role("button", name="Crew, place and units").click()
    page.get_by_label("Adults").fill("3")
    page.get_by_role("navigation", name="Views").get_by_role("link", name="Round").click()
    page.get_by_role("dialog").get_by_role("button", name="Stay here").click()
    expect(page.get_by_label("Adults")).to_have_value("3")
    page.go_back()
    page.get_by_role("dialog").get_by_role("button", name="Leave it behind").click()
    expect(page.get_by_role("heading", level=1, name="More")).to_be_visible()


def test_two_people_log_the_same_evening_and_each_sees_the_other(chromium, evening):
    _, page, address = evening
    page.goto(f"{address}/rig")
    page.get_by_role("button", name="Make a link").click()
    link = page.get_by_text(re.compile("/join#")).inner_text()
    page.goto(f"{address}/round")
    second = chromium.new_context(locale="en-GB")
    other = second.new_page()
    other.clock.install(time=NOW)
    other.goto(link)
    other.get_by_label("Account").fill("joss")
    other.get_by_label("Password").fill("a-long-word-9")
    other.get_by_role("button", name="Make the account and come aboard").click()
    other.locator("[data-part=headline]").wait_for()
    go(other, "Round")
    read(page, "Grey tank", "31 L")
    today = other.get_by_role("region", name="Logged today")
    expect(today).to_contain_text(GREY)  # while the view is open, without a tap
    read(other, "Grey tank", "40 L")
    expect(page.get_by_role("region", name="Logged today")).to_contain_text("Grey tank: 40 L, 47 %")
    expect(page.get_by_role("region", name="Logged today")).to_contain_text(
        "Also read within ten minutes by joss: 40 L, 47 %"
    )
    second.close()


def test_back_closes_what_is_open_and_stays(chromium, address):
    context, page = entered(chromium, address)
    page.get_by_role("button", name=re.compile("change the plan")).nth(1).click()
    dialog = page.get_by_role("dialog")
    expect(dialog).to_be_visible()
    page.go_back()
    expect(dialog).to_have_count(0)
    expect(page.locator("[data-part=headline]")).to_be_visible()
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    context.close()


def test_a_past_day_is_opened_from_the_strip_and_an_old_one_is_filled(chromium, fresh_address):
    context, page = entered(chromium, fresh_address)
    page.get_by_role("button", name=re.compile("24 November.*open in the Logbook")).click()
    expect(page).to_have_url(re.compile(r"/log\?day=2026-11-24$"))
    expect(page.locator("[data-date='2026-11-24']").get_by_role("group", name="Sky")).to_be_visible()
    page.get_by_label("Open a day").fill("2026-06-03")
    day = page.locator("[data-date='2026-06-03']")
    day.get_by_label("What to add").select_option(label="Reading of Fresh water")
    day.get_by_label("Reading", exact=True).fill("1/3")
    day.get_by_role("button", name="Add", exact=True).click()
    expect(day).to_contain_text("Fresh water: 43 L, 33 %")
    day.get_by_role("button", name=re.compile("^Correct: Fresh water")).click()
    day.get_by_label("Time", exact=True).first.fill("07:45")  # the time alone
    day.get_by_role("button", name="Correct", exact=True).click()
    expect(day).to_contain_text("07:45")
    context.close()


def test_a_move_is_corrected_in_the_units_of_its_store(chromium, fresh_address):
    context, page = entered(chromium, fresh_address)
    page.goto(f"{fresh_address}/rig")
    page.get_by_role("button", name="Crew, place and units").click()
    page.locator("select[name=units]").select_option(label="gallons, lb, miles, °F")
    page.get_by_role("button", name="Save the changes").click()
    expect(page.get_by_text("Changed, not saved yet.")).to_have_count(0)
    go(page, "Round")
    opened_up(page, "All that can be logged")
    page.get_by_role("button", name="Jug 1 into Fresh water, only a part").click()
    page.get_by_label(re.compile("Jug 1 into Fresh water: how much")).fill("2")
    page.get_by_role("button", name="Log it").click()
    expect(page.get_by_role("region", name="Logged today")).to_contain_text("2.0 gal from Jug 1")
    page.goto(f"{fresh_address}/log?day=2026-11-25")
    page.get_by_role("button", name=re.compile("^Correct: 2.0 gal")).click()
    page.get_by_label("Amount", exact=True).first.fill("1.5")
    page.get_by_role("button", name="Correct", exact=True).click()
    expect(page.locator("[data-date='2026-11-25']")).to_contain_text("1.5 gal from Jug 1 to Fresh water")
    context.close()


def test_impossible_numbers_are_not_answered_for_the_old_ones(chromium, address):
    context, page = entered(chromium, address)
    page.goto(f"{address}/energy")
    run = page.get_by_role("region", name="Can I run it?")
    run.get_by_role("button", name="Can I run it?").click()
    expect(run.locator("[data-part=verdict]")).to_be_visible()
    run.get_by_label("Draws, W").fill("1e6")
    run.get_by_label("Draws, W").press("Enter")
    expect(run.get_by_label("Draws, W")).to_have_accessible_description(re.compile("is not a number"))
    expect(run.locator("[data-part=verdict]")).to_have_count(0)
    page.goto(f"{address}/round")
    opened_up(page, "All that can be logged")
    page.get_by_role("button", name="Drove", exact=True).click()
    page.get_by_label(re.compile("Drove: for how long")).fill("100")
    page.get_by_role("button", name="Log it").click()
    expect(page.get_by_text("Write a number of at most 24.")).to_be_visible()
    context.close()


def test_the_password_is_changed_and_a_rig_and_an_account_are_deleted(chromium, evening):
    _, page, address = evening
    page.goto(f"{address}/rig")
    page.get_by_label("Invite as").select_option("reader")
    page.get_by_role("button", name="Make a link").click()
    link = page.get_by_text(re.compile("/join#")).inner_text()
    context = chromium.new_context(locale="en-GB")
    reader = context.new_page()
    reader.goto(link)
    reader.get_by_label("Account").fill("ada")
    reader.get_by_label("Password").fill("a-long-word-9")
    reader.get_by_role("button", name="Make the account and come aboard").click()
    reader.locator("[data-part=headline]").wait_for()
    go(reader, "Round")
    expect(reader.get_by_label("Fresh water", exact=True)).not_to_be_editable()
    reader.goto(f"{address}/rig")
    reader.get_by_role("button", name="Leave this crew ...").click()
    reader.get_by_role("button", name="Leave for good").click()
    reader.get_by_label("Name", exact=True).fill("Tern")
    reader.get_by_role("button", name="Make the rig").click()
    reader.get_by_role("heading", name=re.compile("The round")).wait_for()  # who leaves before, has made none
    reader.goto(f"{address}/account")
    reader.get_by_label("Password now").fill("a-long-word-9")
    reader.get_by_label("New password").fill("another-word-7")
    reader.get_by_role("button", name="Change the password").click()
    expect(reader.get_by_text("The password is changed.")).to_be_visible()
    reader.get_by_role("button", name="Delete this account ...").click()
    reader.get_by_label("Password, to be sure").fill("another-word-7")
    reader.get_by_role("button", name="Delete this account for good").click()
    expect(reader.get_by_text("you are the only owner of Tern")).to_be_visible()
    reader.goto(f"{address}/rig")
    reader.get_by_role("button", name="Delete this rig ...").click()
    reader.get_by_label("Write its name to be sure: Tern").fill("Tern")
    reader.get_by_role("button", name="Delete it for good").click()
    reader.get_by_role("heading", name="What is aboard").wait_for()
    reader.goto(f"{address}/account")
    reader.get_by_role("button", name="Delete this account ...").click()
    reader.get_by_label("Password, to be sure").fill("another-word-7")
    reader.get_by_role("button", name="Delete this account for good").click()
    expect(reader.get_by_role("button", name="Sign in")).to_be_visible()
    context.close()


def test_marks_are_read_by_tap_and_by_keys(chromium, address):
    context, page = entered(chromium, address)
    lane = page.locator("[data-lane=fresh]")
    marks = lane.get_by_role("group", name=re.compile("^Fresh water, .*arrow keys"))
    marks.focus()
    page.keyboard.press("ArrowLeft")
    words = lane.locator("[data-part=mark-words]")
    last = words.inner_text()
    assert last
    page.keyboard.press("ArrowLeft")
    expect(words).not_to_have_text(last)
    expect(lane.locator("[data-part=left]")).to_contain_text(re.compile("Mon|Tue|Wed|Thu|Fri|Sat|Sun|over 14 days"))
    page.get_by_text("What the marks mean").click()
    expect(page.get_by_text("a reading that does not fit")).to_be_visible()
    context.close()


def test_times_and_numbers_are_written_as_the_person_writes_them(chromium, address):
    context, page = entered(chromium, address, locale="de-DE")
    page.goto(f"{address}/rig")
    expect(page.get_by_role("group", name="Inverter")).to_contain_text("1.200 W")
    page.goto(f"{address}/account")
    for label, choice in (("Time of day", "8:15 pm"), ("Numbers", "1,234.5")):
        # everything is fetched anew, written otherwise
        with page.expect_event("load"):
            page.get_by_label(label).select_option(label=choice)
        expect(page.get_by_label(label)).to_be_visible()
    page.goto(f"{address}/rig")
    expect(page.get_by_role("group", name="Inverter")).to_contain_text("1,200 W")
    page.goto(f"{address}/round")
    expect(page.get_by_role("region", name="Logged today")).to_contain_text(re.compile(r"\d:\d\d pm"))
    context.close()


def test_a_device_whose_clock_is_off_asks_which_time_is_right(chromium, fresh_address):
    context, page = entered(chromium, fresh_address)
    go(page, "Round")
    context.set_offline(True)
    page.clock.set_system_time("2026-11-25T23:40:00+00:00")  # three hours ahead
    read(page, "Grey tank", "31 L")
    page.clock.set_system_time(NOW)  # the network sets it right
    context.set_offline(False)
    settled(page)
    today = page.get_by_role("region", name="Logged today")
    expect(today).to_contain_text("The clock of the device said Wed 25 Nov, 23:40")
    today.get_by_role("button", name="Wed 25 Nov, 20:40").first.click()
    expect(today).not_to_contain_text("The clock of the device said")
    context.close()
