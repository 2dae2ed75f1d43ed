"""The Energy view's answers over the API: figures that hang together, refusals that say what would be right."""

import json

import pytest


def test_the_view_tells_a_coherent_story(owner):
    found = owner.get("/rigs/{rig}/energy").said
    assert found["known"]
    assert 0 <= found["low"]["p10"] <= found["low"]["p50"] <= found["low"]["p90"] <= 1
    assert found["now"] < found["low"]["at"]
    assert found["high"] is None  # the wet day ahead does not lift the bank, and the sentence says so
    assert "does not make up for the loads" in found["detail"]
    assert [hour["at"] for hour in found["hours"]] == sorted(hour["at"] for hour in found["hours"])
    coming = [day for day in found["days"] if day["coming"]]
    assert len(coming) == 7
    assert all(day["offered_low"] <= day["offered"] <= day["offered_high"] for day in coming)
    listed = sum(line["day_wh"] + line["night_wh"] for line in found["audit"]["lines"])
    assert listed == pytest.approx(found["audit"]["listed_wh"])
    assert found["audit"]["learned"]["p10"] < found["audit"]["learned"]["p50"] < found["audit"]["learned"]["p90"]


def test_an_appliance_is_answered_now_and_at_a_time(owner):
    asked = {"watts": 900, "minutes": 10}
    now = owner.post("/rigs/{rig}/energy/run", asked).said
    later = owner.post("/rigs/{rig}/energy/run", {**asked, "start": "2026-09-06T13:00:00+01:00"}).said
    assert now["answer"] in ("yes", "tight", "no")
    assert now["ah"] == pytest.approx(later["ah"])
    assert now["why"]
    assert now["cautions"]


@pytest.mark.parametrize(
    ("path", "body", "place"),
    [
        ("/energy/run", {"watts": 900, "minutes": 10, "start": "2026-09-09T13:00:00+01:00"}, "start"),
        ("/energy/run", {"watts": 900, "minutes": 10, "start": "2026-09-06T13:00:00"}, "start"),
        ("/energy/run", {"watts": 900, "minutes": 10, "start": "2026-09-01T13:00:00+01:00"}, "start"),
        ("/energy/run", {"watts": -5, "minutes": 10}, "watts"),
        ("/energy/run?bank=none", {"watts": 900, "minutes": 10}, "bank"),
        ("/energy/charge", {"source": "wind", "target": 90, "until": "2026-09-07"}, "source"),
        ("/energy/charge", {"source": "dcdc", "target": 90, "until": "2026-12-07"}, "until"),
        ("/energy/charge", {"source": "dcdc", "target": 190, "until": "2026-09-07"}, "target"),
        ("/rating", {"amount": 5, "unit": "W", "nominal_v": 12}, "unit"),
    ],
)
def test_what_makes_no_sense_is_refused_by_its_place(owner, path, body, place):
    answer = owner.post("/rigs/{rig}" + path, body)
    assert answer.status_code == 422
    assert place in answer.said["place"]
    assert answer.said["problem"]


def test_a_power_bank_is_said_in_amp_hours_of_the_rig(owner):
    found = owner.post("/rigs/{rig}/rating", {"amount": 20000, "unit": "mAh", "nominal_v": 12, "cell_v": 3.7}).said
    assert found["capacity_ah"] == pytest.approx(6.17)
    assert "74 Wh" in found["words"]


def test_hours_to_charge_and_levers_answer(owner):
    found = owner.post("/rigs/{rig}/energy/charge", {"source": "dcdc", "target": 95, "until": "2026-09-09"}).said
    assert found["reach"]["words"].startswith("To 95 %")
    assert found["sun_words"]
    levers = owner.get("/rigs/{rig}/energy/levers").said
    assert {"panel", "bank"} <= {lever["id"] for lever in levers}


def test_a_rig_without_a_battery_says_so(owner):
    doc = owner.get("/rigs/{rig}").said["doc"]
    bare = {**doc, "name": "Bare", "solar": [], "sources": [], "inverter": None, "loads": []}
    bare["stores"] = [{"id": "food", "kind": "supply", "name": "Food", "capacity": 10, "unit": "days of food"}]
    logbook = json.dumps({"format": "lodeline-logbook", "version": 1, "rig": bare, "days": []}).encode()
    rig = owner.post("/imports", logbook).said["rig"]
    found = owner.get(f"/rigs/{rig}/energy").said
    assert found["banks"] == []
    assert "no battery" in found["headline"]
    assert owner.get(f"/rigs/{rig}/energy/levers").status_code == 422


def test_the_learned_loads_are_accepted_once_there_is_log_enough(owner):
    early = owner.post("/rigs/{rig}/energy/accept-loads")
    assert early.status_code == 422
    assert "too little log" in early.said["problem"]
    for day in range(1, 6):
        assert owner.put(f"/rigs/{{rig}}/days/2026-09-0{day}", {"load_wh": 2600}).status_code == 204
    learned = owner.get("/rigs/{rig}/energy").said["audit"]
    assert not learned["assumed"]
    accepted = owner.post("/rigs/{rig}/energy/accept-loads").said["audit"]
    assert accepted["listed_wh"] == pytest.approx(learned["learned"]["p50"], rel=0.02)
    assert any(load["id"] == "found-by-log" for load in owner.get("/rigs/{rig}").said["doc"]["loads"])
