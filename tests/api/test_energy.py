"""The Energy view's answers over the API: figures that hang together, refusals that say what would be right."""

import json
import re

import pytest


def test_the_view_hangs_together(owner):
    answer = owner.get("/rigs/{rig}/energy").body
    assert answer["known"]
    assert 0 <= answer["low"]["p10"] <= answer["low"]["p90"] <= 1
    assert answer["now"]["at"] < answer["low"]["at"]
    lifted = answer["high"] is not None
    assert ("it climbs to" in answer["detail"]) is lifted
    assert ("does not make up for the loads" in answer["detail"]) is not lifted
    assert [hour["at"] for hour in answer["hours"]] == sorted(hour["at"] for hour in answer["hours"])
    coming = [day for day in answer["days"] if day["coming"]]
    assert len(coming) == 7
    assert all(day["offered_low"] <= day["offered"] <= day["offered_high"] for day in coming)
    listed = sum(line["day_wh"] + line["night_wh"] for line in answer["audit"]["lines"])
    assert f"adds up to {listed:,.0f} Wh a day" in answer["audit"]["words"]


def test_an_appliance_is_answered_now_and_at_a_time(owner):
    asked = {"watts": 900, "minutes": 10}
    now = owner.post("/rigs/{rig}/energy/run", asked).body
    later = owner.post("/rigs/{rig}/energy/run", {**asked, "on": "2026-09-06", "time": "13:00"}).body
    # 900 W through an inverter of 90 % from 12.8 V: 78 A for ten minutes, 13 Ah: under the 1 h rate of LFP, where
    # a shunt counts no more
    assert "13.0 Ah" in now["words"]
    assert (now["answer"], now["headline"]) == ("yes", "Yes.")
    assert "the sun" in later["words"].lower()
    assert any("Mains from an inverter" in each for each in now["cautions"])


@pytest.mark.parametrize(
    ("path", "body", "place"),
    [
        ("/energy/run", {"watts": 900, "minutes": 10, "on": "2026-09-09", "time": "13:00"}, "start"),
        ("/energy/run", {"watts": 900, "minutes": 10, "time": "25:00"}, "time"),
        ("/energy/run", {"watts": 900, "minutes": 10, "on": "2026-09-01", "time": "13:00"}, "start"),
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
    assert place in answer.body["place"]
    assert answer.body["problem"]


def test_a_power_bank_is_said_in_amp_hours_of_the_rig(owner):
    answer = owner.post("/rigs/{rig}/rating", {"amount": 20000, "unit": "mAh", "nominal_v": 12, "cell_v": 3.7}).body
    assert answer["capacity_ah"] == pytest.approx(6.17)
    assert "74 Wh" in answer["words"]


def test_hours_to_charge_and_levers_answer(owner):
    answer = owner.post("/rigs/{rig}/energy/charge", {"source": "dcdc", "target": 95, "until": "2026-09-09"}).body
    assert answer["plans"][0].startswith("To 95 %")
    assert answer["sun"].startswith("Tomorrow's sun is expected to leave 0 Ah over the loads of the day")
    levers = owner.get("/rigs/{rig}/energy/levers").body
    assert {"buy-panel", "buy-bank"} <= {lever["id"] for lever in levers}


def test_a_rig_without_a_battery_says_so(owner):
    doc = owner.get("/rigs/{rig}").body["doc"]
    bare = {**doc, "name": "Bare", "solar": [], "sources": [], "inverter": None, "loads": []}
    bare["stores"] = [{"id": "food", "kind": "supply", "name": "Food", "capacity": 10, "unit": "days of food"}]
    logbook = json.dumps({"format": "lodeline-logbook", "version": 1, "rig": bare, "days": []}).encode()
    rig = owner.post("/imports", logbook).body["rig"]
    answer = owner.get(f"/rigs/{rig}/energy").body
    assert answer["banks"] == []
    assert "no battery" in answer["headline"]
    assert owner.get(f"/rigs/{rig}/energy/levers").status_code == 422


def test_the_learned_loads_are_accepted_once_there_is_log_enough(owner):
    early = owner.post("/rigs/{rig}/energy/accept-loads?saw=99")
    assert early.status_code == 422
    assert "too little log" in early.body["problem"]
    for day in range(1, 6):
        assert owner.day(f"2026-09-0{day}", load_wh=2600)["state"] == "kept"
    learned = owner.get("/rigs/{rig}/energy").body["audit"]
    wanted = int(re.search(r"Accept ([\d,]+) Wh", learned["accept"])[1].replace(",", ""))
    accepted = owner.post("/rigs/{rig}/energy/accept-loads?saw=99").body["audit"]
    assert sum(line["day_wh"] + line["night_wh"] for line in accepted["lines"]) == pytest.approx(wanted, rel=0.02)
    assert accepted["accept"] is None
    assert any(load["id"] == "found-by-log" for load in owner.get("/rigs/{rig}").body["doc"]["loads"])
