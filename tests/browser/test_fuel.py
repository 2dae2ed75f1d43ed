"""A frosty evening: which of gas, diesel and bank ends the heat, when, and what two degrees less buy."""

import json
import re
from datetime import date, datetime, time, timedelta
from pathlib import Path
from typing import Any
from zoneinfo import ZoneInfo

from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import entered, settled
from tests.browser.test_water import imported

VIENNA = ZoneInfo("Europe/Vienna")
TODAY = date(2026, 11, 25)
PLACE = {"name": "Upper meadow", "lat": 47.3, "lon": 11.2}


def at(on: date, hour: float) -> str:
    return datetime.combine(on, time(int(hour), round(hour % 1 * 60)), tzinfo=VIENNA).isoformat()


def a_book() -> dict[str, Any]:
    """A van at -8 degrees with half a bottle, a third of its diesel and a bank at 60 %."""
    days, diesel, gas, bank = [], 26.4 + 14 * 3.2, 5.5 + 14 * 0.2, 60 + 14 * 11
    for ago in range(14, -1, -1):
        on = TODAY - timedelta(days=ago)
        diesel, gas, bank = diesel - 3.2 * (ago < 14), gas - 0.2 * (ago < 14), bank - 11 * (ago < 14)
        events = []
        if bank > 100 and ago % 4 == 0:
            events = [{"at": at(on, 9), "type": "shore", "hours": 6}]
        readings = [
            {"at": at(on, 20), "store": "diesel", "method": "fraction", "value": round(diesel / 80, 3)},
            {"at": at(on, 20.02), "store": "gas", "method": "gross", "value": round(12.4 + gas, 2)},
        ]
        if ago <= 3:
            readings.append(
                {"at": at(on, 20.03), "store": "house", "method": "fraction", "value": round(0.6 + 0.11 * ago, 2)}
            )
        days.append(
            {
                "date": on.isoformat(),
                "place": PLACE,
                "sky": "overcast",
                "status": "parked",
                "temp_min_c": -8,
                "temp_max_c": 0,
                "crew_aboard": 2,
                "readings": readings,
                "events": events,
            }
        )
    rig = {
        "name": "Siskin",
        "timezone": "Europe/Vienna",
        "units": "metric",
        "crew": {"adults": 2},
        "stores": [
            {
                "id": "house",
                "kind": "battery",
                "name": "House bank",
                "chemistry": "lfp",
                "nominal_v": 12.8,
                "capacity": 200,
                "limit": 0.2,
                "kept_warm": True,
                "gauge": {"kind": "shunt"},
            },
            {
                "id": "diesel",
                "kind": "fuel",
                "name": "Diesel",
                "fuel": "diesel",
                "capacity": 80,
                "pick_up": 0.2,
                "gauge": {"kind": "sensor", "resolution": 0.02},
            },
            {
                "id": "gas",
                "kind": "gas",
                "name": "Gas bottle",
                "fuel": "butane",
                "capacity": 11,
                "tare_kg": 12.4,
                "gauge": {"kind": "scale"},
            },
        ],
        "loads": [{"id": "lights", "name": "Lights", "watts": 20, "hours_per_day": 5}],
        "appliances": [
            {
                "id": "heater",
                "name": "Heater",
                "kind": "heater",
                "store": "diesel",
                "kw": 2.5,
                "lowest_kw": 0.9,
                "watts": 25,
            },
            {"id": "cooker", "name": "Cooker", "kind": "cooker", "store": "gas"},
        ],
        "heat": {"body": "van", "insulation": "fair", "day_c": 19, "night_c": 15},
        "spares": [
            {"id": "blue", "name": "Blue bottle", "store": "gas", "holds": 11, "tare_kg": 12.1},
            {"id": "can", "name": "Can", "store": "diesel", "holds": 10},
        ],
    }
    outlook = [
        {"date": (TODAY + timedelta(days=n)).isoformat(), "sky": "overcast", "temp_min_c": -8, "temp_max_c": 0}
        for n in range(1, 8)
    ]
    return {"format": "lodeline-logbook", "version": 1, "rig": rig, "days": days, "outlook": outlook}


def test_at_eight_below_the_page_says_what_ends_the_heat_and_what_two_degrees_buy(
    chromium: Browser, fresh_address: str, tmp_path: Path
):
    context, page = entered(chromium, fresh_address, timezone_id="Europe/Vienna")
    rig = imported(page, fresh_address, json.dumps(a_book()))
    page.evaluate("rig => localStorage.setItem('lodeline-rig', String(rig))", rig)
    page.goto(fresh_address)
    page.locator("[data-part=headline]").wait_for()
    page.keyboard.press("f")
    reads_what_ends_it(page)
    asks_for_a_night(page)
    changes_bottles_by_keyboard(page)
    keeps_days_apart(page)
    page.goto(f"{fresh_address}/")
    expect(page.locator("[data-lane=diesel] [data-part=own-line]")).to_have_count(1)
    expect(page.locator("[data-lane=diesel] [data-part=line]")).to_have_count(1)
    context.close()


def reads_what_ends_it(page: Page) -> None:
    """Which of the three, when, colder nights, two degrees less, and the bottle that will not burn."""
    expect(page.get_by_role("heading", level=1)).to_contain_text(re.compile(r"Heat for .*night"))
    expect(page.get_by_text(re.compile("(Diesel|House bank) ends the heat first"))).to_be_visible()
    needs = page.get_by_role("list", name="What the heat needs").get_by_role("listitem")
    expect(needs).to_have_count(2)
    expect(needs.filter(has_text="Diesel")).to_contain_text("the heater draws none under 16 L")
    expect(page.get_by_role("list", name="Nights left").get_by_role("listitem")).to_have_count(3)
    lever = page.get_by_role("list", name="What would buy nights").get_by_role("listitem")
    expect(lever.filter(has_text="Heating 2 °C down")).to_contain_text("more")
    expect(page.get_by_role("heading", level=1)).to_contain_text("no gas for cooking in tonight's cold")
    expect(page.locator("[data-store=gas]")).to_contain_text("will not burn tonight")
    expect(page.get_by_text(re.compile("Carbon monoxide and gas alarms"))).to_have_count(1)


def asks_for_a_night(page: Page) -> None:
    """All night at -12: litres, what is left, the bank's share."""
    section = page.get_by_role("region", name="Can I run it?")
    section.get_by_label("How").select_option("night")
    section.get_by_label(re.compile("^Outside")).fill("-12")
    section.get_by_role("button", name="Can I run it?").click()
    answer = page.locator("[data-part=burn-answer]")
    expect(answer).to_contain_text(re.compile(r"It takes .* L of Diesel, ten hours of a night at −12 °C"))
    expect(answer).to_contain_text("The bank gives")


def changes_bottles_by_keyboard(page: Page) -> None:
    """Another bottle in use by one touch; a can poured in."""
    swap = page.get_by_role("button", name="Blue bottle in use now")
    swap.focus()
    page.keyboard.press("Enter")
    expect(page.locator("[data-store=gas]")).to_contain_text("Blue bottle in use")
    page.get_by_role("button", name="Can into Diesel").click()
    expect(page.locator("[data-store=diesel]")).to_contain_text("Can: empty")
    settled(page)


def keeps_days_apart(page: Page) -> None:
    """Three days without supply that the crew wants to sit out raise the line."""
    page.get_by_role("button", name="Days to sit out without supply").click()
    page.get_by_label("Diesel: days without supply to sit out").fill("3")
    page.get_by_role("button", name="Save what must stay").click()
    expect(page.get_by_text(re.compile("Diesel: .* on top for 3 days without supply"))).to_be_visible()
