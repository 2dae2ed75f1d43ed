"""Questions that are settled by one touch, places, what is a chore, and readings held against forecasts."""

import json

import pytest

from lodeline.logbook.models import Day, IssuedForecast, Reading

ANSWERS = {
    "name": "Heron",
    "timezone": "America/Denver",
    "units": "metric",
    "adults": 2,
    "chemistry": "lfp",
    "battery_ah": 200,
    "solar_watts": 400,
    "fresh": 100,
    "grey": 80,
    "toilet": "composting",
    "gas": 9,
    "fuel": 80,
    "heater": "diesel",
    "gas_burns": ["cooker", "fridge"],
    "kept_warm": True,
    "place": {"name": "Old mill", "lat": 39.9, "lon": -105.4},
}
PIT = {"name": "Gravel pit", "lat": 37.4, "lon": -8.7}


def horizon(api):
    return api.get("/rigs/{rig}/horizon").body


def as_exported(api):
    return json.loads(api.get("/rigs/{rig}/export").content)


def test_a_surprising_reading_is_asked_about_and_stands_once_it_is_confirmed(owner):
    before = horizon(owner)["doubts"]
    entry = owner.read("house", "12%").body["entries"][0]
    (asked,) = [each for each in horizon(owner)["doubts"] if each["reading"] == entry["id"]]
    assert (asked["settle"]["how"], asked["settle"]["label"]) == ("confirm", "Yes, it is right")
    owner.correct(entry, {"confirmed": True})
    after = horizon(owner)
    assert not [each for each in after["doubts"] if each["reading"] == entry["id"]]
    assert len(after["doubts"]) <= len(before)
    house = next(lane for lane in after["lanes"] if lane["id"] == "house")
    assert house["level"].startswith("3")  # 34 Ah of 280
    row = Reading.objects.get(uuid=entry["id"])
    assert (row.confirmed, row.value) == (True, 0.12)
    kept = [each for day in as_exported(owner)["days"] for each in day["readings"] if each.get("confirmed")]
    assert [(each["store"], each["value"]) for each in kept] == [("house", 0.12)]


def test_an_act_can_be_given_the_time_at_which_it_was_done(owner):
    done = owner.log({"event": {"type": "dump", "store": "urine"}, "time": "07:15"}).body["entries"][0]
    assert done["at"]["time"] == "07:15"


def test_a_place_is_kept_with_its_day_and_picked_again(owner):
    assert horizon(owner)["where"]["now"]["name"] == "Pinheiro spit"
    assert owner.day("2026-09-05", place=PIT)["state"] == "kept"
    where = owner.get("/rigs/{rig}/round").body["where"]
    assert where["now"] == PIT
    assert where["words"] == "Gravel pit, 37.4° N, 8.7° W"
    assert where["earlier"][0]["name"] == "Gravel pit"
    refused = owner.write({"day": {"on": "2026-09-05", "facts": {"place": {"name": "Nowhere", "lat": 95, "lon": 0}}}})
    assert (refused.status_code, refused.body["place"].split(".")[-1]) == (422, "lat")
    assert owner.plan("2026-09-06", place=PIT)["state"] == "kept"
    assert next(day for day in horizon(owner)["days"] if day["date"] == "2026-09-06")["where"] == PIT
    assert owner.day("2026-09-05", place=None)["state"] == "kept"
    assert owner.get("/rigs/{rig}/round").body["day"]["place"] is None


def test_set_up_asks_where_it_stands_and_what_burns(owner):
    made = owner.post("/rigs/set-up", ANSWERS).body
    stores = {store["id"]: store for store in made["doc"]["stores"]}
    assert stores["urine"]["served"] == "here"
    assert (stores["gas"]["heats"], stores["fuel"]["heats"], stores["house"]["kept_warm"]) == (False, True, True)
    assert [(each["kind"], each["store"]) for each in made["doc"]["appliances"]] == [
        ("cooker", "gas"),
        ("fridge", "gas"),
        ("heater", "fuel"),
    ]
    assert "appliances.cooker.kw" in made["assumed"]
    assert Day.objects.get(rig=made["id"]).place_name == "Old mill"
    page = owner.get(f"/rigs/{made['id']}/horizon").body
    assert page["headline"].startswith("Nothing logged yet. From full: about")
    assert {day["p_stay"] for day in page["days"]} == {None}
    bare = owner.post("/rigs/set-up", {**ANSWERS, "place": None}).body["id"]
    where = owner.get(f"/rigs/{bare}/round").body["where"]
    assert "Denver, 39.7° N, 105.0° W, stands in for it" in where["words"]


def test_set_up_takes_the_sizes_of_what_decides_and_assumes_the_rest(owner):
    given = {
        **ANSWERS,
        "urine": 6,
        "spare_urine": True,
        "heater_kw": 4,
        "fridge": "changes",
        "gas_burns": ["cooker"],
        "body": "trailer",
        "fuel_kind": "petrol",
    }
    made = owner.post("/rigs/set-up", given).body
    stores = {store["id"]: store for store in made["doc"]["stores"]}
    assert (stores["urine"]["capacity"], stores["urine"]["reserve"], stores["fuel"]["fuel"]) == (6, 6, "petrol")
    burns = {each["id"]: each for each in made["doc"]["appliances"]}
    assert burns["heater"]["kw"] == 4
    assert (burns["fridge"]["driving_on"], burns["fridge"]["plugged_on"]) == ("dc", "mains")
    assert next(each["amps"] for each in made["doc"]["sources"] if each["kind"] == "alternator") == 10
    assert made["doc"]["heat"]["body"] == "trailer"
    assert "appliances.heater.kw" not in made["assumed"]
    assert "stores.solids.capacity" in made["assumed"]
    assert not [load for load in made["doc"]["loads"] if load["id"] == "fridge"]
    bare = owner.post("/rigs/set-up", {**given, "fridge": "none"}).body["doc"]
    assert not [each for each in (*bare["loads"], *bare["appliances"]) if each["id"] == "fridge"]


def test_a_copy_has_the_log_and_changes_nothing_of_the_rig(owner):
    before = as_exported(owner)
    made = owner.post("/rigs/{rig}/copy", {}).body
    assert made["doc"]["name"] == f"{before['rig']['name']}, a copy"
    copied = json.loads(owner.get(f"/rigs/{made['id']}/export").content)
    assert copied["days"] == before["days"]
    assert as_exported(owner) == before


def test_snow_is_asked_about_when_it_is_cold_and_kept(owner):
    assert not owner.get("/rigs/{rig}/round").body["asks_covered"]
    owner.day("2026-09-05", temp_min=-9, temp_max=-2)
    assert owner.get("/rigs/{rig}/round").body["asks_covered"]
    assert owner.day("2026-09-05", panels_covered=True)["state"] == "kept"
    assert owner.get("/rigs/{rig}/round").body["day"]["panels_covered"] is True
    assert as_exported(owner)["days"][-1]["panels_covered"] is True


def test_what_is_served_here_is_said_apart_from_what_sends_away(owner):
    assert "Urine bottle" in horizon(owner)["headline"]
    doc = owner.get("/rigs/{rig}").body["doc"]
    stores = [each | ({"served": "here"} if each["id"] == "urine" else {}) for each in doc["stores"]]
    assert owner.change_rig(stores=stores).status_code == 200
    page = horizon(owner)
    assert "Urine bottle" not in page["headline"]
    assert [each for each in page["chores"] if each["words"].startswith("Empty Urine bottle ")]
    assert "urine" not in [each["store"] for each in page["stop"]]
    refused = owner.change_rig(stores=[each | ({"served": "here"} if each["id"] == "house" else {}) for each in stores])
    assert refused.status_code == 422
    assert "cannot be served here" in refused.body["problem"]


def test_the_reserve_is_filled_by_itself(owner):
    move = {"type": "move", "store": "fresh", "source": "outside", "target": "reserve", "amount": 20}
    assert owner.log({"event": move}).body["entries"][0]["words"] == "Reserve of Fresh water filled with 20 L"
    event = as_exported(owner)["days"][-1]["events"][-1]
    assert (event["from"], event["to"], event["store"]) == ("outside", "reserve", "fresh")
    poured = owner.log({"event": {"type": "move", "store": "fresh", "amount": 20}}).body["entries"][0]
    assert poured["words"] == "20 L from the reserve to Fresh water"
    assert "store" not in as_exported(owner)["days"][-1]["events"][-1]


def test_readings_are_held_against_the_forecasts_that_were_shown(owner, monkeypatch):
    revision = horizon(owner)["revision"]
    assert owner.post("/rigs/{rig}/horizon/seen", {"revision": revision}).status_code == 204
    assert all(row.levels for row in IssuedForecast.objects.all())
    monkeypatch.setenv("LODELINE_NOW", "2026-09-06T20:30:00+01:00")
    owner.read("fresh", "1/3")
    review = owner.get("/rigs/{rig}/review").body
    seen = {store["store"]: store["seen"][0]["n"] for store in review["stores"]}
    assert (seen["fresh"], seen["house"]) == (1, 0)
    assert review["seen"][0]["n"] == 1
    assert [dot["days"] for store in review["stores"] for dot in store["dots"]] == [1]
    assert "1 reading a day ahead so far" in review["detail"]


@pytest.mark.parametrize("n", [1, 12])
def test_three_questions_at_most_stand_open(owner, n):
    for _ in range(n):
        owner.log(*({"reading": {"store": store, "text": "3%"}} for store in ("house", "gas", "diesel")))
    assert len(horizon(owner)["doubts"]) <= 3


def test_a_word_is_found_in_notes_places_acts_and_the_book_and_in_no_other_rig(owner, as_user):
    assert owner.day("2026-09-05", note="The pump hums")["state"] == "kept"
    assert owner.log({"event": {"type": "laundry", "count": 1}}).status_code == 200
    found = owner.get("/rigs/{rig}/search?word=HUMS").body["found"]
    assert [(each["to"], "The pump hums" in each["words"]) for each in found] == [("/log?day=2026-09-05", True)]
    assert "laundry" in owner.get("/rigs/{rig}/search?word=laundry").body["found"][0]["words"]
    assert owner.get("/rigs/{rig}/search?word=zzz").body["found"] == []
    assert owner.get("/rigs/{rig}/search?word=%25").body["found"] == []
