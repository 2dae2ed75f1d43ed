"""The ledger, set-up, the rig, and moving whole logbooks in and out."""

import json

import pytest

from lodeline.logbook.models import IssuedForecast, Rig
from tests.api.conftest import EXAMPLE


def test_the_ledger_goes_from_new_to_old_and_says_what_was_used(owner):
    ledger = owner.get("/rigs/{rig}/log").body
    assert [day["date"] for day in ledger["days"]] == ["2026-09-05", "2026-09-04", "2026-09-03"]
    assert not ledger["days"][0]["logged"]
    fourth = ledger["days"][1]
    fresh = next(row for row in fourth["sums"] if row["store"] == "fresh")
    assert fresh["used"] == "31 L"
    assert [entry["kind"] for entry in fourth["entries"]] == ["event", "reading", "reading", "reading", "reading"]
    assert ledger["older"] is None


def test_older_pages(owner):
    first = owner.get("/rigs/{rig}/log?days=2").body
    assert [day["date"] for day in first["days"]] == ["2026-09-05", "2026-09-04"]
    second = owner.get(f"/rigs/{{rig}}/log?days=2&before={first['older']}").body
    assert [day["date"] for day in second["days"]] == ["2026-09-03"]


@pytest.mark.parametrize("query", ["days=0", "days=x", "before=2026-13-01", "before=x"])
def test_pages_that_are_none(owner, query):
    assert owner.get(f"/rigs/{{rig}}/log?{query}").status_code == 422


def test_an_export_is_the_file_and_an_import_brings_it_back(owner, rig):
    exported = owner.get("/rigs/{rig}/export")
    assert json.loads(exported.content)["days"] == json.loads(EXAMPLE)["days"]
    owner.do("dump", store="urine")
    preview = owner.post("/rigs/{rig}/import/preview", exported.content).body
    assert (preview["brings"]["events"], preview["replaces"]["events"]) == (4, 5)
    assert rig.days.count() == 3  # a preview keeps nothing
    done = owner.post("/rigs/{rig}/import?saw=99", exported.content).body
    assert owner.get("/rigs/{rig}/export").content == exported.content
    kept = owner.get(f"/rigs/{{rig}}/kept/{done['kept']}")
    owner.post("/rigs/{rig}/import?saw=99", kept.content)
    assert owner.get("/rigs/{rig}/export").body["days"][2]["events"][0]["store"] == "urine"


def test_a_refused_import_changes_nothing(owner, rig):
    before = owner.get("/rigs/{rig}/export").content
    answer = owner.post(
        "/rigs/{rig}/import?saw=99", EXAMPLE.replace(b'"gross", "value": 11.2', b'"gross", "value": 1.2')
    )
    assert answer.status_code == 422
    assert answer.body["place"] == "days[0].readings[2].value"
    assert owner.get("/rigs/{rig}/export").content == before


def test_a_kept_export_of_another_rig_cannot_be_had(owner, as_user):
    name = owner.post("/rigs/{rig}/import?saw=99", EXAMPLE).body["kept"]
    stranger = as_user("stranger")
    own = stranger.post("/imports", EXAMPLE).body["rig"]
    assert stranger.get(f"/rigs/{own}/kept/{name}").status_code == 404
    assert stranger.get(f"/rigs/{own}/kept/..%2Fsecret_key").status_code == 404


ANSWERS = {
    "name": "Heron",
    "timezone": "Europe/Lisbon",
    "units": "us",
    "adults": 2,
    "chemistry": "agm",
    "battery_ah": 220,
    "solar_watts": 300,
    "fresh": 40,
    "grey": 30,
    "toilet": "black",
    "gas": 20,
    "fuel": 25,
    "heater": "gas",
}


def test_ten_answers_make_a_rig_marked_as_assumed_until_changed(owner):
    made = owner.post("/rigs/set-up", ANSWERS).body
    doc = made["doc"]
    fresh = next(store for store in doc["stores"] if store["id"] == "fresh")
    assert fresh["capacity"] == pytest.approx(151.42)
    assert "stores.fresh.gauge" in made["assumed"]
    fresh["gauge"] = {"kind": "sight"}
    changed = owner.put(f"/rigs/{made['id']}?saw={made['revision']}", doc).body
    assert "stores.fresh.gauge" not in changed["assumed"]
    assert "stores.grey.gauge" in changed["assumed"]
    horizon = owner.get(f"/rigs/{made['id']}/horizon").body
    assert horizon["headline"] == "Nothing logged yet. From full: about 2.5 days, House bank runs out first."


def test_a_rig_says_what_its_draft_would_make(owner):
    doc = owner.get("/rigs/{rig}").body["doc"]
    house = doc["stores"][0] | {"capacity": None, "layout": {"unit_v": 3.2, "unit_ah": 280, "series": 4, "parallel": 2}}
    checks = owner.post("/rigs/{rig}/checks", doc | {"stores": [house, *doc["stores"][1:]]}).body["checks"]
    assert any("4 in series make 12.8 V; 2 in parallel make 560 Ah" in check["words"] for check in checks)
    wrong = house | {"layout": {"unit_v": 3.2, "unit_ah": 280, "series": 2, "parallel": 2}}
    tried = owner.post("/rigs/{rig}/checks", doc | {"stores": [wrong, *doc["stores"][1:]]})
    # a draft that is not right yet is no fault
    assert (tried.status_code, tried.body["checks"]) == (200, [])
    assert tried.body["refused"]["place"] == "rig.stores[0].nominal_v"


def test_a_store_that_the_log_speaks_of_cannot_be_dropped(owner):
    doc = owner.get("/rigs/{rig}").body["doc"]
    answer = owner.change_rig(stores=doc["stores"][:2])
    assert answer.status_code == 422
    assert "grey" in answer.body["problem"].lower()


def test_a_new_timezone_puts_entries_on_their_new_dates(owner, rig):
    assert owner.change_rig(timezone="Pacific/Auckland").status_code == 200
    exported = owner.get("/rigs/{rig}/export").content
    assert owner.post("/rigs/{rig}/import/preview", exported).status_code == 200
    assert rig.days.get(date="2026-09-04").readings.filter(store__slug="gas").exists()


def test_the_first_account_is_made_once(db, settings, client):
    settings.DEMO = False
    client.get("/api/account/me")
    body = json.dumps({"username": "first", "password": "tall-reeds-44"})
    made = client.post("/api/account/first", body, "application/json")
    assert made.json()["username"] == "first"
    again = client.post("/api/account/first", body, "application/json")
    assert again.status_code == 404
    assert Rig.objects.count() == 0


def test_a_weak_first_password_is_refused(db, settings, client):
    settings.DEMO = False
    body = json.dumps({"username": "first", "password": "12345"})
    answer = client.post("/api/account/first", body, "application/json")
    assert answer.status_code == 422
    assert answer.json()["place"] == "password"


def test_no_door_to_the_demo_outside_demo_mode(db, settings, client, django_user_model):
    settings.DEMO = False
    django_user_model.objects.create_user("demo")
    assert client.post("/api/account/demo", content_type="application/json").status_code == 404


def test_pages_are_served_with_safe_headers(db, client, settings, tmp_path):
    settings.WEB = tmp_path
    (tmp_path / "index.html").write_text("<title>Lodeline</title>")
    answer = client.get("/round")
    assert answer.status_code == 200
    assert (
        "script-src" not in answer["Content-Security-Policy"]
        or "unsafe" not in answer["Content-Security-Policy"].split("script-src")[1]
    )
    assert answer["X-Frame-Options"] == "DENY"
    answer.close()
    assert client.get("/api/nothing").status_code == 404


def test_marks_found_elsewhere_keep_the_readings_that_showed_them(owner, rig):
    doc = owner.get("/rigs/{rig}").body["doc"]
    fresh = next(store for store in doc["stores"] if store["id"] == "fresh")
    fresh["gauge"] = {"kind": "steps", "marks": [0, 0.33, 0.58, 1]}
    assert owner.change_rig(**doc).status_code == 200
    exported = owner.get("/rigs/{rig}/export")
    assert exported.body["days"][0]["readings"][1]["value"] == 0.58
    assert owner.post("/rigs/{rig}/import/preview", exported.content).status_code == 200
    fresh["gauge"] = {"kind": "steps", "marks": [0, 0.5, 1]}
    refused = owner.change_rig(**doc)
    assert refused.status_code == 422
    assert refused.body["place"] == "stores.fresh.gauge"


def test_what_was_shown_is_kept_and_judged_when_its_end_is_known(owner, rig, monkeypatch):
    seen = owner.get("/rigs/{rig}/horizon").body["revision"]
    owner.post("/rigs/{rig}/horizon/seen", {"revision": seen})
    shown = IssuedForecast.objects.get(store__slug="urine", store__rig=rig)
    assert shown.p10_days < shown.p50_days < shown.p90_days
    assert owner.get("/rigs/{rig}/review").body["headline"] == "Too little has come true to judge."
    monkeypatch.setenv("LODELINE_NOW", "2026-09-07T20:30:00+01:00")
    owner.read("urine", "full")
    owner.post("/rigs/{rig}/horizon/seen", {"revision": owner.get("/rigs/{rig}/horizon").body["revision"]})
    record = owner.get("/rigs/{rig}/review").body
    shown.refresh_from_db()
    assert shown.outcome == "reached"
    assert 0 < shown.outcome_days < 2.1
    assert any(case["store"] == "urine" for case in record["recent"])


def test_an_entry_to_check_is_settled_by_one_touch(owner, rig, monkeypatch):
    for day, text in ((6, "45 L"), (7, "130 L"), (8, "110 L")):
        monkeypatch.setenv("LODELINE_NOW", f"2026-09-0{day}T20:30:00+01:00")
        owner.read("fresh", text)
        if day == 6:
            for back in (5, 4):
                owner.read("fresh", f"{45 + 20 * (6 - back)} L", on=f"2026-09-0{back}", time="21:00")
    doubts = [d for d in owner.get("/rigs/{rig}/horizon").body["doubts"] if d["store"] == "fresh"]
    assert [(d["kind"], d["settle"]["type"], d["settle"]["label"]) for d in doubts] == [
        ("rise", "fill", "Yes, filled to the brim")
    ]
    settle = doubts[0]["settle"]
    event = {"type": settle["type"], "store": "fresh", "full": settle["full"]}
    assert owner.log({"event": event, "on": settle["on"], "time": settle["time"]}).status_code == 200
    assert not [d for d in owner.get("/rigs/{rig}/horizon").body["doubts"] if d["store"] == "fresh"]


def test_gauges_say_what_the_log_teaches_of_them(owner):
    gauges = {row["store"]: row for row in owner.get("/rigs/{rig}/gauges").body}
    assert gauges["fresh"]["readings"] == 2
    assert gauges["fresh"]["words"] == ["Too few readings to judge: 2."]
    assert len(gauges["fresh"]["marks"]) == 3
