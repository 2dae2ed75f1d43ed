"""The fuel view over the wire: what is read, asked, said and accepted, and how that shows elsewhere."""

import json
from datetime import date, timedelta

import pytest

from lodeline.logbook.models import Rig

HEAT = {
    "heat": {
        "body": "van",
        "insulation": "fair",
        "day_c": 19,
        "night_off": True,
        "night_from_h": 22,
        "night_until_h": 7,
    }
}
BURNERS = [
    {"id": "heater", "name": "Heater", "kind": "heater", "store": "diesel", "kw": 2.5, "watts": 20},
    {"id": "cooker", "name": "Cooker", "kind": "cooker", "store": "gas"},
]
SPARES = {
    "spares": [
        {"id": "second", "name": "Second bottle", "store": "gas", "holds": 6, "tare_kg": 7.2},
        {"id": "can", "name": "Can", "store": "diesel", "holds": 20, "where": "on the ladder"},
    ]
}


def fuel(api):
    answer = api.get("/rigs/{rig}/fuel")
    assert answer.status_code == 200, answer.body
    return answer.body


def say(api, what, status=200):
    answer = api.change_rig(**what)
    assert answer.status_code == status, answer.body
    return answer.body


@pytest.fixture
def heated(owner):
    """The rig with a heater and a cooker listed."""
    stands = owner.get("/rigs/{rig}").body
    doc = stands["doc"] | {"appliances": BURNERS}
    assert owner.put(f"/rigs/{{rig}}?saw={stands['revision']}", doc).status_code == 200
    read = {"reading": {"store": "diesel", "text": "60%"}}
    assert owner.log(read).status_code == 200
    return owner


def test_a_rig_that_says_nothing_of_heat_is_told_what_to_say(owner):
    body = fuel(owner)
    assert body["heat"] is None
    assert body["no_heat"].startswith("No heater is listed")
    assert body["loss"].startswith("Say below how the rig is built")
    assert [store["store"] for store in body["stores"]] == ["gas", "diesel"]
    assert body["cautions"][0].startswith("Carbon monoxide")


def test_with_a_heater_it_says_how_many_nights_and_what_ends_them(heated):
    say(heated, HEAT)
    body = fuel(heated)
    assert body["headline"].startswith("Heat for")
    heat = body["heat"]
    assert {need["id"] for need in heat["needs"]} == {"diesel", "house"}
    assert len(heat["colder"]) == 3
    assert all(night["burn_p10"] <= night["burn"] <= night["burn_p90"] for night in heat["strip"])
    assert (body["gear"]["night_c"], body["gear"]["night_off"]) == (None, True)
    exported = json.loads(heated.get("/rigs/{rig}/export").content)
    assert exported["rig"]["heat"]["night_off"] is True
    levers = {each["id"]: each for each in heated.get("/rigs/{rig}/levers").body["levers"]}
    assert "Heating" in levers["heater-down"]["words"]


def test_what_is_said_can_be_said_again_as_it_is_shown(heated):
    say(heated, SPARES)
    shown = heated.get("/rigs/{rig}").body["doc"]["spares"]
    say(heated, {"spares": shown})
    again = heated.get("/rigs/{rig}/export").content
    assert heated.post("/rigs/{rig}/import/preview", again).status_code == 200
    refused = say(heated, {"spares": [shown[0] | {"holds": 60}]}, 422)
    assert refused["label"] == "Holds"
    assert "the size of the largest bottle" in refused["problem"]


def test_a_touch_brings_another_bottle_into_use_and_a_can_into_the_tank(heated):
    say(heated, SPARES)
    gas = next(store for store in fuel(heated)["stores"] if store["store"] == "gas")
    act = next(act for act in gas["acts"] if act["label"] == "Second bottle in use now")
    event = {name: act[name] for name in ("type", "store", "source", "target")}
    assert heated.log({"event": event}).status_code == 200
    after = next(store for store in fuel(heated)["stores"] if store["store"] == "gas")
    assert "Second bottle in use" in after["words"]
    assert after["apart"][0] == "The first bottle: empty"
    labels = [act["label"] for act in heated.get("/rigs/{rig}/round").body["acts"]]
    assert "Can into Diesel" in labels
    # what is in use is not offered to come into use, here or there
    assert "Second bottle in use now" not in [*labels, *(act["label"] for act in after["acts"])]
    assert {act["label"] for act in after["acts"]} <= set(labels)
    gone = say(heated, {"spares": SPARES["spares"][1:]}, 422)  # the log speaks of it
    assert "Second bottle" in gone["problem"]
    poured = heated.log({"event": {"type": "move", "source": "can", "target": "diesel", "amount": 40}})
    assert poured.body["writes"][0]["state"] == "refused"


def test_days_to_sit_out_raise_the_line_on_the_strip_and_both_are_sent(heated):
    say(heated, HEAT)
    lane = lane_of(heated, "diesel")
    assert lane["own_line"] is None
    stores = heated.get("/rigs/{rig}").body["doc"]["stores"]
    say(heated, {"stores": [each | ({"buffer_days": 6} if each["id"] == "diesel" else {}) for each in stores]})
    after = lane_of(heated, "diesel")
    assert after["own_line"] == lane["line"]
    assert after["line"] > lane["line"]
    assert any("without supply" in stay["words"] for stay in fuel(heated)["stays"])


def lane_of(api, store):
    return next(lane for lane in api.get("/rigs/{rig}/horizon").body["lanes"] if lane["id"] == store)


def test_what_the_log_taught_of_a_rigs_loss_holds_until_it_is_built_otherwise(heated):
    built = HEAT["heat"] | {"ua_w_per_k": 61.0}
    say(heated, {"heat": built})

    def kept():
        return heated.get("/rigs/{rig}").body["doc"]["heat"]["ua_w_per_k"]

    say(heated, {"heat": built | {"day_c": 21}})
    assert kept() == 61.0
    say(heated, {"heat": built | {"insulation": "good"}})
    assert kept() is None


def test_one_run_is_asked_in_hours_a_night_or_litres(heated):
    say(heated, HEAT)
    ask = {"appliance": "heater", "night": -8}
    answer = heated.post("/rigs/{rig}/fuel/run", ask)
    assert answer.status_code == 200, answer.body
    assert "ten hours of a night at −8 °C" in answer.body["words"][0]
    assert heated.post("/rigs/{rig}/fuel/run", {"appliance": "cooker", "hours": 1}).body["answer"] == "yes"
    assert {each["first"] for each in fuel(heated)["asks"]} == {""}
    for wrong in ({"appliance": "heater"}, {"appliance": "heater", "hours": 1, "night": -8}):
        assert heated.post("/rigs/{rig}/fuel/run", wrong).status_code == 422
    nobody = heated.post("/rigs/{rig}/fuel/run", {"appliance": "boiler", "hours": 1})
    assert (nobody.status_code, nobody.body["problem"]) == (422, "the rig lists no appliance boiler")


def test_quiet_hours_are_kept_and_taken_back(heated):
    say(heated, {"quiet": {"from_h": 21.5, "until_h": 7}})
    assert fuel(heated)["quiet"].startswith("Quiet hours from 21:30 to 07:00")
    say(heated, {"quiet": None})
    assert fuel(heated)["quiet"] is None


def test_the_list_is_made_what_the_log_shows_once_it_tells(heated):
    saw = Rig.objects.get(pk=heated.rig.pk).revision
    early = heated.post(f"/rigs/{{rig}}/fuel/accept?saw={saw}", {"store": "gas"})
    assert early.status_code == 422
    assert "too little log" in early.body["problem"]
    for day in range(12):
        on = (date(2026, 8, 24) + timedelta(days=day)).isoformat()
        heated.log({"reading": {"store": "gas", "text": f"{13.2 - 0.4 * day:.2f} kg"}, "on": on, "time": "20:00"})
    listed = next(each for each in fuel(heated)["listed"] if each["store"] == "gas")
    assert listed["apart"], listed["words"]
    saw = Rig.objects.get(pk=heated.rig.pk).revision
    done = heated.post(f"/rigs/{{rig}}/fuel/accept?saw={saw}", {"store": "gas"})
    assert done.status_code == 200, done.body
    cooker = next(each for each in heated.get("/rigs/{rig}").body["doc"]["appliances"] if each["id"] == "cooker")
    assert cooker["hours_per_day"] > 1.3
    assert not next(each for each in fuel(heated)["listed"] if each["store"] == "gas")["apart"]


def test_an_odometer_is_logged_in_the_users_own_unit(heated):
    for shown in (10_000, 10_120):
        entry = {"event": {"type": "odometer", "distance": shown}}
        assert heated.log(entry).body["writes"][0]["state"] == "kept"
    exported = json.loads(heated.get("/rigs/{rig}/export").content)
    kept = [event["km"] for day in exported["days"] for event in day["events"] if event["type"] == "odometer"]
    assert kept == [10_000, 10_120]
