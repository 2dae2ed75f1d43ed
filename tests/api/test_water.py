"""The water view over the wire: what is read, what a crew says and keeps, and how that shows elsewhere."""

import json

import pytest

from lodeline.formats.convert import rig_to_core
from lodeline.logbook.models import Rig
from lodeline.logbook.services.rows import rig_rows

HABITS = {"habits": [{"activity": "dishes", "per_day": 2}, {"activity": "navy", "per_day": 0.5, "not_on": [2]}]}
JUGS = {
    "jugs": [
        {"id": "jug-1", "name": "Blue jug", "litres": 10, "where": "in the boot"},
        {"id": "jug-2", "name": "Pond can", "litres": 5, "drinkable": False},
    ]
}


def water(api):
    answer = api.get("/rigs/{rig}/water")
    assert answer.status_code == 200, answer.body
    return answer.body


def say(api, what, status=200):
    answer = api.change_rig(**what)
    assert answer.status_code == status, answer.body
    return answer.body


def test_the_view_says_how_long_where_it_goes_and_what_is_used(owner):
    body = water(owner)
    assert body["headline"].startswith("Water for")
    assert [each["id"] for each in body["balances"]]
    assert {use["id"] for use in body["uses"]} >= {"drink", "hands", "dishes"}
    assert all(use["p10"] <= use["p50"] <= use["p90"] for use in body["uses"])
    assert "Published floors" in body["floors"]
    assert body["ration"] is None
    for balance in body["balances"]:
        told = sum(flow["value"] for flow in balance["flows"])
        assert abs(told - balance["drawn"]) < 0.01 or balance["apart_words"]


def test_habits_that_are_said_stand_in_the_document_and_change_what_is_reckoned(owner):
    before = {use["id"] for use in water(owner)["uses"]}
    say(owner, HABITS)
    after = water(owner)
    assert {use["id"] for use in after["uses"]} != before
    assert [h["doc"]["not_on"] for h in after["habits"] if h["doc"]["activity"] == "navy"] == [[2]]
    exported = json.loads(owner.get("/rigs/{rig}/export").content)
    assert exported["rig"]["habits"][1] == {"activity": "navy", "per_day": 0.5, "not_on": [2]}
    labels = [act["label"] for act in owner.get("/rigs/{rig}/round").body["acts"]]
    assert "Washed up" in labels
    assert "Navy shower" in labels
    assert "Did laundry" not in labels


def test_jugs_are_kept_poured_and_filled_in_the_users_own_units(owner):
    say(owner, JUGS)
    assert (
        rig_to_core(rig_rows(Rig.objects.get(pk=owner.rig.pk)).doc).store("fresh").reserve == 10.0
    )  # what is not for drinking is no reserve
    acts = {act["label"]: act for act in owner.get("/rigs/{rig}/round").body["acts"]}
    pour = acts["Blue jug into Fresh water"]
    assert "Pond can into Fresh water" not in acts
    logged = owner.log(
        {"event": {"type": pour["type"], "source": pour["source"], "target": pour["target"], "amount": 4}}
    )
    assert logged.status_code == 200, logged.body
    body = water(owner)
    assert body["jugs"][0]["share"] == pytest.approx(0.6)
    assert body["jugs_words"] == "Carried apart: 6.0 L, not counted in the days left."
    owner.log({"event": {"type": pour["type"], "source": pour["source"], "target": pour["target"], "amount": 6}})
    assert water(owner)["jugs_words"].startswith("The last jug is poured in: find water by")
    shown = owner.get("/rigs/{rig}").body["doc"]["jugs"]
    say(owner, {"jugs": shown})  # what was shown can be said again as it is
    gone = say(owner, {"jugs": shown[1:]}, 422)
    assert gone["problem"].startswith('"Blue jug" has 2 entries in the log')
    say(owner, {"jugs": shown[:1]})  # nothing was ever logged of the other
    again = owner.get("/rigs/{rig}/export").content
    assert owner.post("/rigs/{rig}/import/preview", again).status_code == 200
    too_much = owner.log({"event": {"type": "move", "source": "outside", "target": "jug-1", "amount": 40}})
    assert too_much.body["writes"][0]["state"] == "refused"


def test_an_activity_whose_water_was_measured_is_kept_with_its_amount(owner):
    kept = owner.log({"event": {"type": "navy", "count": 2, "amount": 13}}).body["writes"][0]
    assert kept["state"] == "kept"
    assert "13 L in all" in kept["entry"]["words"]


def test_what_does_not_fit_together_is_refused_with_its_place_and_nothing_is_changed(owner):
    twice = {"habits": [HABITS["habits"][0], HABITS["habits"][0]]}
    assert say(owner, twice, 422)["place"].startswith("rig.habits[1]")
    assert say(owner, {"jugs": [JUGS["jugs"][0] | {"id": "fresh"}]}, 422)["place"].startswith("rig.jugs")
    assert say(owner, {"habits": [{"activity": "swimming", "per_day": 1}]}, 422)
    assert say(owner, {"water": {"heater_l": 9e6}}, 422)["place"] == "water.heater_l"
    assert say(owner, {"jugs": [JUGS["jugs"][0] | {"litres": 9e6}]}, 422)["place"] == "jugs[0].litres"
    assert say(owner, {"habits": [HABITS["habits"][0] | {"each_l": 9e6}]}, 422)["place"] == "habits[0].each_l"
    assert rig_rows(Rig.objects.get(pk=owner.rig.pk)).doc.habits is None
    assert rig_rows(Rig.objects.get(pk=owner.rig.pk)).doc.jugs is None


def test_gear_changes_what_is_told_of_hot_water_and_of_what_is_due(owner):
    say(owner, {"water": {"heater_l": 10, "heater_c": 60, "filter_l": 2000, "cart": True}})
    assert rig_rows(Rig.objects.get(pk=owner.rig.pk)).core.water.heater_l == 10.0
    body = water(owner)
    assert body["hot"].startswith("A full heater gives 18 L")
    assert any(due["id"] == "filter" for due in body["due"])


def test_what_somebody_else_changed_meanwhile_is_not_written_over(owner):
    say(owner, HABITS)
    doc = owner.get("/rigs/{rig}").body["doc"]
    assert owner.put("/rigs/{rig}?saw=0", doc | JUGS).status_code == 409


def test_a_ration_is_worked_out_kept_shown_in_the_round_and_on_the_strip_and_ended(owner):
    asked = owner.post("/rigs/{rig}/water/ration", {"until": "2026-09-09"})
    assert asked.status_code == 200, asked.body
    assert not asked.body["kept"]
    assert owner.get("/rigs/{rig}/round").body["ration"] is None
    kept = owner.post("/rigs/{rig}/water/ration/keep", {"until": "2026-09-09"}).body
    assert kept["kept"]
    shown = owner.get("/rigs/{rig}/round").body["ration"]
    assert "oday's ration" in shown["left"]
    lanes = {lane["id"]: lane for lane in owner.get("/rigs/{rig}/horizon").body["lanes"]}
    path = lanes["fresh"]["ration"]
    assert [point["level"] for point in path] == sorted((point["level"] for point in path), reverse=True)
    assert lanes["grey"]["ration"] == []
    assert any("Water ration" in words for words in owner.get("/rigs/{rig}/horizon").body["agreed"])
    assert owner.post("/rigs/{rig}/agreed/end", {"lever": "ration"}).status_code == 200
    assert water(owner)["ration"] is None


@pytest.mark.parametrize("until", ["2026-09-05", "2026-12-30", "soon"])
def test_a_ration_that_ends_before_tomorrow_or_too_far_is_refused(owner, until):
    refused = owner.post("/rigs/{rig}/water/ration", {"until": until})
    assert refused.status_code == 422
    assert refused.body["place"] == "until"


def test_a_fouled_gauge_is_asked_about_and_then_read_with_its_floor(owner):
    owner.log({"event": {"type": "dump", "store": "grey"}, "time": "20:00"})
    owner.read("grey", "1/3", time="20:25")
    fouled = water(owner)["fouled"]
    assert [each["store"] for each in fouled] == ["grey"]
    entry = {"kind": "event", "id": fouled[0]["event"]}
    stayed = owner.correct(entry, {"event": {"type": "dump", "store": "grey", "left": 0.33}})
    assert stayed["words"] == "Grey tank emptied, 33 % left"
    assert water(owner)["fouled"] == []
    owner.correct(entry, {"event": {"type": "dump", "store": "grey"}})
    stores = owner.get("/rigs/{rig}").body["doc"]["stores"]
    floored = [each | ({"reads_from": fouled[0]["floor"]} if each["id"] == "grey" else {}) for each in stores]
    assert owner.change_rig(stores=floored).status_code == 200
    assert water(owner)["fouled"] == []
    assert rig_rows(Rig.objects.get(pk=owner.rig.pk)).core.store("grey").reads_from == pytest.approx(0.33)


def test_a_drained_rig_is_asked_nothing_of_its_water(owner):
    assert owner.log({"event": {"type": "drain"}}).body["writes"][0]["state"] == "kept"
    body = water(owner)
    assert body["drained"].startswith("Drained")
    assert not body["known"]
    asked = {store["id"] for store in owner.get("/rigs/{rig}/round").body["stores"]}
    assert not asked & {"fresh", "grey"}
    assert owner.get("/rigs/{rig}/horizon").status_code == 200
    refused = owner.post("/rigs/{rig}/water/ration", {"until": "2026-09-09"})
    assert refused.status_code == 422
    owner.log({"event": {"type": "fill", "store": "fresh", "full": True}})
    assert water(owner)["known"]


def test_what_is_due_is_logged_by_its_event(owner):
    due = next(each for each in water(owner)["due"] if each["id"] == "disinfect")
    assert owner.log({"event": {"type": due["event"]}}).body["writes"][0]["state"] == "kept"
    after = next(each for each in water(owner)["due"] if each["id"] == "disinfect")
    assert "last done" in after["words"]
