"""To stay until Sunday: what the water view says must change, kept as a ration, lived by in the Round, and undone."""

import json
import re
from datetime import date, datetime, time, timedelta
from pathlib import Path
from typing import Any
from zoneinfo import ZoneInfo

from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import SIZES, entered, opened_up, settled

LISBON = ZoneInfo("Europe/Lisbon")
TODAY = date(2026, 11, 25)  # a Wednesday
SUNDAY = "2026-11-29"


def at(on: date, hour: float) -> str:
    return datetime.combine(on, time(int(hour), round(hour % 1 * 60)), tzinfo=LISBON).isoformat()


def a_book() -> dict[str, Any]:
    """Two people, 120 L, 70 L of grey, a cassette and two jugs; three weeks that end with too little for the week-end."""
    days, fresh, grey, cassette = [], 120.0, 0.0, 0.0
    for ago in range(21, -1, -1):
        on = TODAY - timedelta(days=ago)
        events: list[dict[str, Any]] = []
        if fresh < 40 or grey > 52:
            events = [
                {"at": at(on, 9), "type": "dump", "store": "grey"},
                {"at": at(on, 9.5), "type": "fill", "store": "fresh", "to": "full"},
            ]
            fresh, grey = 120.0, 0.0
        if cassette > 14:
            events.append({"at": at(on, 9.8), "type": "dump", "store": "cassette"})
            cassette = 0.0
        dishes, navy = 1 + on.day % 2, on.day % 3
        events.append({"at": at(on, 13), "type": "dishes", "count": dishes})
        events += [{"at": at(on, 18), "type": "navy", "count": navy}] if navy else []
        used = 12 + 5 * dishes + 8 * navy
        fresh, grey, cassette = fresh - used, grey + 0.9 * (used - 6), cassette + 6
        readings = [
            {"at": at(on, 20), "store": store, "method": "fraction", "value": round(level / size, 2)}
            for store, level, size in (("fresh", fresh, 120), ("grey", grey, 70), ("cassette", cassette, 19))
        ]
        days.append({"date": on.isoformat(), "readings": readings, "events": events, "crew_aboard": 2})
    rig = {
        "name": "Wren",
        "timezone": "Europe/Lisbon",
        "units": "metric",
        "crew": {"adults": 2},
        "stores": [
            {"id": "fresh", "kind": "fresh", "name": "Fresh water", "capacity": 120, "gauge": {"kind": "sensor"}},
            {"id": "grey", "kind": "grey", "name": "Grey tank", "capacity": 70, "gauge": {"kind": "sensor"}},
            {"id": "cassette", "kind": "cassette", "name": "Cassette", "capacity": 19, "gauge": {"kind": "sensor"}},
        ],
        "habits": [{"activity": "dishes", "per_day": 1.5}, {"activity": "navy", "per_day": 1}],
        "jugs": [{"id": "jug-1", "name": "Jug 1", "litres": 10}, {"id": "jug-2", "name": "Jug 2", "litres": 10}],
    }
    return {"format": "lodeline-logbook", "version": 1, "rig": rig, "days": days}


def test_a_crew_of_two_reads_off_what_to_change_to_stay_until_sunday(
    chromium: Browser, fresh_address: str, tmp_path: Path
):
    context, page = entered(chromium, fresh_address, timezone_id="Europe/Lisbon")
    file = tmp_path / "wren.json"
    file.write_text(json.dumps(a_book()))
    rig = imported(page, fresh_address, file.read_text())
    page.evaluate("rig => localStorage.setItem('lodeline-rig', String(rig))", rig)
    page.goto(f"{fresh_address}/water")
    asks_until_sunday(page)
    lives_by_it(page)
    page.goto(f"{fresh_address}/")
    expect(page.locator("[data-lane=fresh] [data-part=ration]")).to_have_count(1)
    page.goto(f"{fresh_address}/water")
    page.get_by_role("button", name=re.compile("^End the ration")).click()
    expect(page.get_by_role("button", name="Keep this ration")).to_be_visible()
    context.close()


def imported(page: Page, address: str, text: str) -> int:
    """The file as a new rig of this account."""
    return int(
        page.evaluate(
            "async text => { const token = document.cookie.match(/csrftoken=([^;]+)/)?.[1] ?? '';"
            " const answer = await fetch('/api/imports', { method: 'POST', body: text,"
            " headers: { 'Content-Type': 'application/json', 'X-CSRFToken': token } });"
            " return (await answer.json()).rig }",
            text,
        )
    )


def asks_until_sunday(page: Page) -> None:
    """The headline, what is used, the toilet, the jugs; then the ration until Sunday, in what it allows."""
    expect(page.get_by_role("heading", level=1)).to_contain_text("Water for")
    expect(page.locator("[data-use=navy]")).to_contain_text("each")
    expect(page.locator("[data-toilet=cassette]")).to_contain_text(re.compile("more use|full to its line"))
    expect(page.get_by_role("list", name="Jugs").get_by_role("listitem")).to_have_count(2)
    page.locator("input[type=date]").fill(SUNDAY)
    answer = page.locator("[data-part=ration-answer]")
    expect(answer).to_contain_text("To last until the morning of Sunday 29 November, nine times in ten")
    expect(page.get_by_role("list", name="What the ration allows")).to_contain_text("Dishes")
    expect(answer).to_contain_text(re.compile(r"in place of \d+ L"))
    page.get_by_role("button", name="Keep this ration").click()
    expect(page.get_by_role("button", name=re.compile("^End the ration"))).to_be_visible()


def lives_by_it(page: Page) -> None:
    """The Round shows what is left of today's; a measured shower takes of it, a jug is poured in, by keyboard alone."""
    page.keyboard.press("r")
    ration = page.locator("[data-part=ration]")
    expect(ration).to_contain_text("oday's ration")
    more = page.get_by_role("button", name="Navy shower, more than one, or measured")
    more.focus()
    page.keyboard.press("Enter")
    page.get_by_label("Navy shower: how often").fill("2")
    page.get_by_label(re.compile("^Water of all of them")).fill("11")
    page.keyboard.press("Enter")
    expect(page.get_by_text("2 navy showers, 11 L in all").first).to_be_visible()
    opened_up(page, "All that can be logged")
    page.get_by_role("button", name="Jug 1 into Fresh water", exact=True).click()
    expect(page.get_by_text("10 L from Jug 1 to Fresh water").first).to_be_visible()
    settled(page)
    page.keyboard.press("w")
    expect(page.get_by_role("list", name="Jugs")).to_contain_text("Jug 1: empty")


def test_the_drawings_of_water_fit_a_phone_and_say_what_they_show(chromium: Browser, address: str):
    context, page = entered(chromium, address, "phone")
    page.goto(f"{address}/water")
    opened_up(page, "From the tap to the drain")
    page.locator("[data-part=step]").first.wait_for()
    assert page.evaluate("document.documentElement.scrollWidth") <= SIZES["phone"]["width"]
    names = [image.get_attribute("aria-label") or "" for image in page.locator("main svg[role=img]").all()]
    assert names
    assert all(len(name) > 10 for name in names)
    page.get_by_role("button", name="As a table").first.click()
    expect(page.get_by_role("rowheader", name="Drawn")).to_be_visible()
    context.close()
