"""Stops through the API: places kept and found, the plan and stops by hand, agreements, the ticket, the calendar."""

import json
from datetime import date, datetime, timedelta
from uuid import uuid4

import icalendar
import pytest
import vobject
from django.test import Client

from lodeline.logbook.models import Rig
from tests.api.conftest import EXAMPLE

TAP = {"name": "Quarry tap", "lat": 37.54, "lon": -8.74, "services": {"water": {"l_per_min": 8, "drinkable": True}}}
DRAIN = {"name": "Old drain", "lat": 37.49, "lon": -8.7, "services": {"grey": {}, "black": {}}}
SITE = {
    "name": "Beck site",
    "lat": 37.6,
    "lon": -8.72,
    "fee": 3,
    "services": {"water": {}, "grey": {}, "black": {}, "hookup": {"amps": 10, "price_night": 14}, "gas": {}},
}


@pytest.fixture
def book(owner, rig):
    ids = []
    for place in (TAP, DRAIN, SITE):
        ids.append(owner.post("/rigs/{rig}/places", {"spot": {"id": "new"} | place}).body["id"])
    return ids


def test_a_place_is_kept_changed_found_and_taken_out(owner, book):
    assert book == ["quarry-tap", "old-drain", "beck-site"]
    listed = owner.get("/rigs/{rig}/places").body
    tap = next(each for each in listed["spots"] if each["id"] == "quarry-tap")
    assert [offer["words"] for offer in tap["offers"]] == ["water, 8.0 L a minute, to drink"]
    assert tap["words"]
    assert listed["rings"][-1]["way"] >= max(each["way"] for each in listed["spots"]) * 0.5
    form = owner.get("/rigs/{rig}/places/quarry-tap").body
    changed = form["spot"] | {"note": "Slow in August"}
    hours = [{"day": "Mo", "opens": "08:00", "closes": "12:00"}]
    assert owner.put("/rigs/{rig}/places/quarry-tap", {"spot": changed, "plain": hours}).status_code == 200
    again = owner.get("/rigs/{rig}/places/quarry-tap").body
    assert (again["spot"]["opening_hours"], again["spot"]["note"]) == ("Mo 08:00-12:00", "Slow in August")
    assert again["plain"] == hours
    assert owner.delete("/rigs/{rig}/places/quarry-tap").status_code == 204
    assert len(owner.get("/rigs/{rig}/places").body["spots"]) == 2


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"opening_hours": "whenever"}, "not in the opening-hours notation"),
        ({"lat": 95}, "90"),
        ({"name": ""}, ""),
        ({"services": {"wine": {}}}, "unknown key"),
    ],
)
def test_a_place_that_is_none_is_refused_with_its_field(owner, rig, change, says):
    answer = owner.post("/rigs/{rig}/places", {"spot": {"id": "new"} | TAP | change})
    assert answer.status_code == 422
    assert says in answer.body["problem"]
    assert owner.get("/rigs/{rig}/places").body["spots"] == []


def test_places_come_from_a_file_once_and_are_seen_before(owner, book):
    file = {"text": owner.get("/rigs/{rig}/places/export?format=geojson").content.decode()}
    more = json.loads(file["text"])
    more["features"].append(
        {
            "type": "Feature",
            "geometry": {"type": "Point", "coordinates": [-8.6, 37.4]},
            "properties": {"name": "New one", "amenity": "drinking_water"},
        }
    )
    file = {"text": json.dumps(more)}
    seen = owner.post("/rigs/{rig}/places/preview", file).body
    assert seen["words"] == "1 place added, 3 in the book already."
    assert len(owner.get("/rigs/{rig}/places").body["spots"]) == 3
    assert owner.post("/rigs/{rig}/places/import", file).body["words"] == seen["words"]
    assert owner.post("/rigs/{rig}/places/import", file).body["words"] == "0 places added, 4 in the book already."


def test_the_file_carries_places_agreements_and_planned_stops(owner, book):
    owner.post("/rigs/{rig}/agreed", {"lever": "showers-ashore", "until": "2026-09-09"})
    stop = {"place": "beck-site", "arrive": "2026-09-07T12:00:00+01:00", "plug": True}
    assert owner.post("/rigs/{rig}/plan/stops", {"stop": stop}).status_code == 204
    file = owner.get("/rigs/{rig}/export").content
    document = json.loads(file)
    assert [each["id"] for each in document["places"]] == book
    assert document["agreed"] == [{"lever": "showers-ashore", "from": "2026-09-05", "until": "2026-09-09"}]
    assert document["planned"][0]["place"] == "beck-site"
    new = owner.post("/imports", file).body["rig"]
    owner.rig = Rig.objects.get(pk=new)
    again = json.loads(owner.get("/rigs/{rig}/export").content)
    assert all(again[key] == document[key] for key in ("places", "agreed", "planned"))


def test_what_is_agreed_changes_the_horizon_and_the_round_says_it(owner, rig):
    before = owner.get("/rigs/{rig}/horizon").body
    levers = owner.get("/rigs/{rig}/levers").body["levers"]
    best = next(each for each in levers if each["id"] == "showers-ashore")
    assert owner.post("/rigs/{rig}/agreed", {"lever": best["id"], "until": "2026-09-12"}).status_code == 200
    after = owner.get("/rigs/{rig}/horizon").body
    lines = [owner.get(path).body["agreed"] for path in ("/rigs/{rig}/horizon", "/rigs/{rig}/round")]
    assert lines[0] == lines[1]
    assert lines[0][0].startswith(best["words"])
    fans = [[lane["fan"][3]["p50"] for lane in each["lanes"] if lane["fan"]] for each in (before, after)]
    assert fans[0] != fans[1]
    assert best["id"] not in [each["id"] for each in owner.get("/rigs/{rig}/levers").body["levers"]]
    owner.post("/rigs/{rig}/agreed/end", {"lever": best["id"]})
    assert owner.get("/rigs/{rig}/horizon").body["agreed"] == []


def test_a_lever_that_is_never_pulled_cannot_be_agreed_on(owner, rig):
    owner.put("/rigs/{rig}/hardship", {"lever": "showers-ashore", "value": None})
    answer = owner.post("/rigs/{rig}/agreed", {"lever": "showers-ashore", "until": "2026-09-12"})
    assert (answer.status_code, answer.body["place"]) == (422, "lever")
    assert owner.post("/rigs/{rig}/agreed", {"lever": "nothing", "until": "2026-09-12"}).status_code == 422
    assert owner.post("/rigs/{rig}/agreed", {"lever": "wipe-plates", "until": "2026-09-01"}).status_code == 422


def test_a_stay_is_answered_and_one_too_far_is_refused(owner, book):
    answer = owner.post("/rigs/{rig}/stay", {"until": "2026-09-08"}).body
    assert answer["words"].startswith("As things are: ")
    assert answer["feasible"] or answer["stop"]
    for until in ("2026-09-05", "2026-12-01"):
        assert owner.post("/rigs/{rig}/stay", {"until": until}).status_code == 422


def test_the_days_that_may_be_asked_for_are_those_that_are_answered(owner):
    page = owner.get("/rigs/{rig}/levers").body
    assert (page["least"], page["until"]) == ("2026-09-06", "2026-09-07")
    for end, beyond in ((page["least"], -1), (page["most"], 1)):
        past = (date.fromisoformat(end) + timedelta(days=beyond)).isoformat()
        assert owner.get(f"/rigs/{{rig}}/levers?until={end}").body["until"] == end
        assert owner.get(f"/rigs/{{rig}}/levers?until={past}").body["place"] == "until"
    assert owner.get("/rigs/{rig}/levers?until=tomorrow").status_code == 422


def test_a_stop_moved_by_hand_stands_in_the_plan_until_it_decides_again(owner, book):
    first = owner.get("/rigs/{rig}/plan").body["stops"][0]
    later = (datetime.fromisoformat(first["arrive"]["at"]) + timedelta(days=1)).isoformat()
    moved = {"place": first["place"], "arrive": later, "plug": first["plug"]}
    assert not any(stop["fixed"] for stop in owner.get("/rigs/{rig}/plan").body["stops"])
    assert owner.post("/rigs/{rig}/plan/stops", {"stop": moved}).status_code == 204
    fixed = [stop for stop in owner.get("/rigs/{rig}/plan").body["stops"] if stop["fixed"]]
    assert [(stop["place"], datetime.fromisoformat(stop["arrive"]["at"])) for stop in fixed] == [
        (first["place"], datetime.fromisoformat(later))
    ]
    twice = {"stop": moved | {"arrive": first["arrive"]["at"]}, "instead_of": moved}
    assert owner.post("/rigs/{rig}/plan/stops", twice).status_code == 204
    assert owner.post("/rigs/{rig}/plan/stops/remove", twice["stop"]).status_code == 204
    assert not any(stop["fixed"] for stop in owner.get("/rigs/{rig}/plan").body["stops"])


def test_a_stop_at_a_place_of_the_book_is_planned_by_date_and_said_to_be_closed_then(owner, book):
    form = owner.get("/rigs/{rig}/places/beck-site").body
    hours = [{"day": "Su", "opens": "08:00", "closes": "10:00"}]
    assert owner.put("/rigs/{rig}/places/beck-site", {"spot": form["spot"], "plain": hours}).status_code == 200
    wished = {"place": "beck-site", "on": "2026-09-08", "time": "14:00", "plug": True}  # a Tuesday
    assert owner.post("/rigs/{rig}/plan/stops/on", wished).status_code == 204
    (fixed,) = [stop for stop in owner.get("/rigs/{rig}/plan").body["stops"] if stop["fixed"]]
    assert (fixed["arrive"]["date"], fixed["arrive"]["time"], fixed["plug"]) == ("2026-09-08", "14:00", True)
    assert fixed["closed"] == "By the book Beck site is closed then."
    late = owner.post("/rigs/{rig}/plan/stops/on", wished | {"on": "2027-09-08"})
    assert late.status_code == 422


def a_ticket(owner, place="beck-site", arrive="2026-09-05T20:30:00+01:00"):
    made = owner.post("/rigs/{rig}/tickets", {"place": place, "arrive": arrive})
    assert made.status_code == 200, made.body
    return owner.get(f"/rigs/{{rig}}/tickets/{made.body['id']}").body


def test_a_ticket_that_is_ticked_writes_the_log_and_half_done_is_half_done(owner, book):
    ticket = a_ticket(owner)
    tasks = {task["id"]: task for task in ticket["tasks"]}
    before = owner.get("/rigs/{rig}/horizon").body
    left = ticket["left"]
    logged = owner.log({"event": tasks["empty-grey"]["event"]}).body["entries"][0]
    now = owner.get(f"/rigs/{{rig}}/tickets/{ticket['id']}").body
    done = {task["id"]: task for task in now["tasks"]}
    assert (done["empty-grey"]["done"], now["left"]) == (logged["id"], left - 1)
    assert done["fill-fresh"]["done"] is None
    after = owner.get("/rigs/{rig}/horizon").body
    level = {lane["id"]: lane["level"] for lane in after["lanes"]}
    assert float(level["grey"].split()[0]) < 3.0
    assert level["fresh"] == {lane["id"]: lane["level"] for lane in before["lanes"]}["fresh"]
    owner.remove(logged)
    assert owner.get(f"/rigs/{{rig}}/tickets/{ticket['id']}").body["left"] == left


def test_a_ticket_stays_as_it_was_written_and_is_written_once(owner, book):
    ticket, again = a_ticket(owner), a_ticket(owner)
    assert again["id"] == ticket["id"]
    owner.log({"event": {"type": "fill", "store": "fresh", "full": True}})
    later = owner.get(f"/rigs/{{rig}}/tickets/{ticket['id']}").body
    assert [task["words"] for task in later["tasks"]] == [task["words"] for task in ticket["tasks"]]


def test_a_ticket_of_an_outing_has_its_places_in_order_and_is_written_anew_before_it_is_begun(owner, book):
    owner.delete("/rigs/{rig}/places/beck-site")  # which has all in one place
    plan = owner.get("/rigs/{rig}/plan").body
    outing = next(each for each in plan["outings"] if len(each["stops"]) > 1)
    first, second = (plan["stops"][n] for n in outing["stops"][:2])
    ticket = a_ticket(owner, first["place"], first["arrive"]["at"])
    assert ticket["headline"].startswith(f"{first['name']} and {second['name']}")
    assert [task["id"] for task in ticket["tasks"]].count("take-out") == 1
    places = [task["at"] for task in ticket["tasks"] if task["at"]]
    assert places == sorted(places, key=[first["name"], second["name"]].index)
    assert (ticket["changed"], ticket["can_rewrite"]) == (None, False)
    # the tap is gone from the book
    owner.delete("/rigs/{rig}/places/quarry-tap")
    owner.get("/rigs/{rig}/plan")
    later = owner.get(f"/rigs/{{rig}}/tickets/{ticket['id']}").body
    assert (later["changed"], later["can_rewrite"]) == ("The plan has changed since this was written.", True)
    anew = {"id": ticket["id"]}
    assert owner.post("/rigs/{rig}/plan/ticket", anew).status_code == 204
    written = owner.get(f"/rigs/{{rig}}/tickets/{ticket['id']}").body
    assert written["headline"].startswith("Old drain, ")
    # once it is begun it stays as it is, and asks for nothing
    owner.log({"event": {"type": "dump", "store": "grey"}})
    begun = owner.get(f"/rigs/{{rig}}/tickets/{ticket['id']}").body
    assert (begun["changed"], begun["can_rewrite"]) == (None, False)
    assert owner.post("/rigs/{rig}/plan/ticket", anew).status_code == 422


def test_a_stop_that_is_dragged_is_answered_and_nothing_is_kept(owner, book):
    before = owner.get("/rigs/{rig}/plan").body
    stop = before["stops"][-1]
    ref = {"place": stop["place"], "plug": stop["plug"]}
    late = (datetime.fromisoformat(stop["arrive"]["at"]) + timedelta(days=1)).isoformat()
    here = ref | {"arrive": stop["arrive"]["at"]}
    answer = owner.post("/rigs/{rig}/plan/try", {"stop": ref | {"arrive": late}, "instead_of": here}).body
    assert "that it holds" in answer["words"]
    assert answer["lanes"]
    nowhere = owner.post("/rigs/{rig}/plan/try", {"stop": here, "instead_of": here | {"place": "moon"}}).body
    assert nowhere["words"] is None
    assert owner.get("/rigs/{rig}/plan").body == before


def test_prices_are_in_the_money_that_was_said(owner, book):
    assert owner.put("/rigs/{rig}/plan/currency", {"currency": "euro"}).status_code == 422
    assert owner.put("/rigs/{rig}/plan/currency", {"currency": "EUR"}).status_code == 204
    plan = owner.get("/rigs/{rig}/plan").body
    assert plan["currency"] == "EUR"
    assert " EUR with the fuel" in plan["detail"]
    site = next(each for each in owner.get("/rigs/{rig}/places").body["spots"] if each["id"] == "beck-site")
    assert "3 EUR to enter" in site["limits"]
    assert json.loads(owner.get("/rigs/{rig}/export").content)["rig"]["currency"] == "EUR"


def test_after_the_stop_the_place_knows_what_was_different_and_the_visit_is_kept(owner, book):
    ticket = a_ticket(owner)
    note = {"place": "beck-site", "on": "2026-09-05", "text": "Tap ran dry."}
    visit = {"place": "beck-site", "arrived": ticket["opened"]["at"], "left": "2026-09-05T21:15:00+01:00"}
    answer = owner.write({"note": note}, {"day": {"on": "2026-09-05", "facts": {"visit": visit}}})
    assert [each["state"] for each in answer.body["writes"]] == ["kept", "kept"]
    site = next(each for each in owner.get("/rigs/{rig}/places").body["spots"] if each["id"] == "beck-site")
    assert site["notes"] == ["Sat 5 Sep 2026: Tap ran dry."]
    assert owner.get(f"/rigs/{{rig}}/tickets/{ticket['id']}").body["over"]
    refused = owner.write({"note": note | {"place": "nowhere"}}).body["writes"][0]
    assert refused["state"] == "refused"
    missing = owner.write({"day": {"on": "2026-09-05", "facts": {"visit": {"place": "nowhere"}}}}).body["writes"][0]
    assert missing["state"] == "refused"


def test_a_note_that_is_sent_twice_is_kept_once(owner, book):
    write = {"id": str(uuid4()), "note": {"place": "old-drain", "on": "2026-09-05", "text": "Key at the office."}}
    for _ in range(2):
        assert owner.write(write).body["writes"][0]["state"] == "kept"
    drain = next(each for each in owner.get("/rigs/{rig}/places").body["spots"] if each["id"] == "old-drain")
    assert len(drain["notes"]) == 1


def test_the_calendar_has_the_stops_the_chores_and_the_first_line(owner, book):
    file = owner.get("/rigs/{rig}/calendar.ics").content
    # a library that had no part in writing it
    read = vobject.readOne(file.decode())
    plan = owner.get("/rigs/{rig}/plan").body
    begins = {event.uid.value: event.dtstart.value for event in read.vevent_list}
    stops = [uid for uid in begins if "-stop-" in uid]
    assert len(stops) == len(plan["stops"]) > 0
    leaves = datetime.fromisoformat(plan["stops"][0]["leave"]["at"])
    assert min(begins[uid] for uid in stops) == leaves.replace(microsecond=0)
    assert any(uid.endswith("first-line@lodeline") for uid in begins)
    assert all(event.valarm.action.value == "DISPLAY" for event in read.vevent_list)
    again = icalendar.Calendar.from_ical(owner.get("/rigs/{rig}/calendar.ics").content)
    assert {str(event["uid"]) for event in again.walk("VEVENT")} == set(begins)


def test_a_feed_is_read_at_its_address_until_it_is_renewed_or_its_member_leaves(owner, book, as_user, rig):
    stranger = Client()
    path = owner.post("/rigs/{rig}/calendar", {}).body["path"]
    answer = stranger.get(path)
    assert (answer.status_code, answer["Content-Type"]) == (200, "text/calendar; charset=utf-8")
    assert b"BEGIN:VCALENDAR" in answer.content
    assert b"GEO" not in answer.content  # where it stands is said only if its maker wants that
    renewed = owner.post("/rigs/{rig}/calendar", {"positions": True}).body["path"]
    assert b"GEO:" in stranger.get(renewed).content
    assert renewed != path
    assert [stranger.get(each).status_code for each in (path, renewed)] == [404, 200]
    assert owner.get("/rigs/{rig}/calendar").body == {"exists": True, "positions": True, "path": None}
    crew = as_user("crew")
    theirs = crew.post("/rigs/{rig}/calendar", {}).body["path"]
    crew.post("/rigs/{rig}/leave")
    assert stranger.get(theirs).status_code == 404
    owner.delete("/rigs/{rig}/calendar")
    assert stranger.get(renewed).status_code == 404
    assert stranger.post(renewed).status_code in (403, 404)
    assert stranger.get("/calendar/wrong.ics").status_code == 404


def test_another_rigs_places_and_tickets_are_not_there(owner, book, as_user):
    ticket = a_ticket(owner)
    stranger = as_user("stranger")
    stranger.rig = Rig.objects.get(pk=stranger.post("/imports", EXAMPLE).body["rig"])
    assert stranger.get(f"/rigs/{{rig}}/tickets/{ticket['id']}").status_code == 404
    assert stranger.get("/rigs/{rig}/places/beck-site").status_code == 404
    assert stranger.get("/rigs/{rig}/places").body["spots"] == []


def test_looking_back_says_what_was_agreed(owner, rig):
    owner.post("/rigs/{rig}/agreed", {"lever": "wipe-plates", "until": "2026-09-12"})
    assert owner.get("/rigs/{rig}/review").body["agreed"] == [
        "Wipe plates before washing, or use paper ones, Sat 5 Sep to Sat 12 Sep: too early to say."
    ]
