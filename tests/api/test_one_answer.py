"""One answer for one store: whatever names its time takes it from one summary, at each time of a day."""

import re
from datetime import UTC, datetime, timedelta

import pytest
from django.contrib.auth.models import User

from lodeline.demo.load import load_demo
from lodeline.logbook.models import Rig
from lodeline.logbook.services import shared
from lodeline.logbook.services.derived import derived
from lodeline.text import standing
from lodeline.text.display import Display
from tests.api.conftest import Api

MIDNIGHT = datetime(2026, 11, 25, 0, 20, tzinfo=UTC)


def horizon(api):
    return api.get("/rigs/{rig}/horizon").body


def agree_everywhere(api):
    """Compare all that names the time of a store: lanes, headline, mark, water, energy, fuel."""
    known = derived(Rig.objects.get(pk=api.rig.pk))
    ahead, display, page = known.forecast, Display.of(known.rig), horizon(api)
    lanes = {lane["id"]: lane for lane in page["lanes"]}
    middles = {each.store.id: standing.middle(each, ahead, display) for each in ahead.stores}
    for each in ahead.stores:
        at = ahead.when(each.p50_days)
        assert lanes[each.store.id]["p50_at"] == (display.iso(at) if at is not None else None)
    first = page["first"]
    if first is not None:
        lane = lanes[first]
        assert [page[f"first_{end}at"] for end in ("low_", "", "high_")] == [lane[f"p{n}_at"] for n in (10, 50, 90)]
        assert lane["left"] in ("at its line now", "") or (middles[first] or lane["name"]) in page["headline"]
    for view, stores in (("water", known.rig.stores), ("energy", known.rig.banks), ("fuel", known.rig.stores)):
        body = str(api.get(f"/rigs/{{rig}}/{view}").body)
        for store in stores:
            told = re.findall(rf"{re.escape(store.name)} (?:is full first|runs out first), ([^.;']+)", body)
            assert set(told) <= {middles[store.id]}, (view, store.name)
    for bank in known.rig.banks:
        if known.tracked[bank.id].known_since is not None:
            line = standing.line_met(ahead.of(bank.id), ahead, display)
            assert line in api.get(f"/rigs/{{rig}}/energy?bank={bank.id}").body["detail"]
            assert line in lanes[bank.id]["words"]


@pytest.fixture
def demo(db, monkeypatch):
    monkeypatch.setenv("LODELINE_NOW", (MIDNIGHT + timedelta(hours=20)).isoformat())
    load_demo()
    crew = User.objects.get()
    return [Api(rig, crew) for rig in Rig.objects.order_by("pk")]


def test_every_view_gives_one_time_for_a_store_through_a_day(demo, monkeypatch):
    assert len(demo) == 2
    for hour in range(0, 24, 2):
        monkeypatch.setenv("LODELINE_NOW", (MIDNIGHT + timedelta(hours=hour)).isoformat())
        shared.forget()
        agree_everywhere(demo[hour // 2 % 2])


def test_a_store_past_its_line_is_past_it_everywhere(owner):
    owner.read("grey", "full")
    agree_everywhere(owner)
    assert horizon(owner)["headline"] == "Grey tank is past its line now."
    assert next(lane for lane in horizon(owner)["lanes"] if lane["id"] == "grey")["left"] == "at its line now"
    water = owner.get("/rigs/{rig}/water").body
    assert "Grey tank is past its line now" in water["headline"]
    assert "past its line now" in water["detail"]


def test_the_calendar_has_the_first_line_where_the_lane_has_it(owner):
    page = horizon(owner)
    lane = next(each for each in page["lanes"] if each["id"] == page["first"])
    entries = owner.get("/rigs/{rig}/calendar.ics").content.decode().split("BEGIN:VEVENT")
    first = next(each for each in entries if "first-line" in each)
    begins = datetime.strptime(re.search(r"DTSTART:(\d{8}T\d{6})Z", first)[1], "%Y%m%dT%H%M%S").replace(tzinfo=UTC)
    assert abs(begins - datetime.fromisoformat(lane["p50_at"])) < timedelta(minutes=1)


def test_of_a_rig_of_which_nothing_is_logged_no_chance_is_told(owner):
    for day in owner.get("/rigs/{rig}/log").body["days"]:
        for entry in day["entries"]:
            owner.remove(entry)
    page = horizon(owner)
    assert page["headline"].startswith("Nothing logged yet")
    assert {lane["left"] for lane in page["lanes"]} == {""}
    agree_everywhere(owner)
    stay = owner.post("/rigs/{rig}/stay", {"until": "2026-09-08", "sure": 0.9}).body
    assert (stay["p_stay"], stay["steps"]) == (None, [])
    assert "Take one reading of each store" in stay["words"]


def test_what_is_agreed_on_may_end_with_today(owner):
    levers = owner.get("/rigs/{rig}/levers").body
    lever = next(each for each in levers["levers"] if not each["bought"] and each["hardship"] is not None)
    until = {"lever": lever["id"], "until": levers["now"]["date"]}
    assert owner.post("/rigs/{rig}/agreed", until).status_code == 200
    assert owner.post("/rigs/{rig}/agreed", until | {"until": "2026-09-04"}).status_code == 422


def test_an_entry_is_taken_back_by_its_receipt_unless_another_hand_has_corrected_it(owner, as_user):
    made = {"id": "0198a000-0000-7000-8000-000000000001", "add": {"event": {"type": "dump", "store": "grey"}}}
    undo = {"remove": {"kind": "event", "sent": made["id"]}, "saw": 0, "after": [made["id"]]}
    before = owner.get("/rigs/{rig}/round").body["entries"]
    assert owner.write(made).body["writes"][0]["state"] == "kept"
    assert owner.write(undo).body["writes"][0]["state"] == "kept"
    assert owner.get("/rigs/{rig}/round").body["entries"] == before
    again = made | {"id": "0198a000-0000-7000-8000-000000000002"}
    entry = owner.write(again).body["writes"][0]["entry"]
    as_user("crew").correct(entry, {"event": {"type": "dump", "store": "grey", "left": 0.2}})
    stale = owner.write(undo | {"remove": {"kind": "event", "sent": again["id"]}, "after": [again["id"]]})
    assert stale.body["writes"][0]["state"] == "stale"
