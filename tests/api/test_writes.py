"""Writes: kept exactly once, whatever is sent again; nothing put over what another hand has set meanwhile."""

from datetime import datetime, timedelta
from uuid import uuid4

import pytest

from lodeline.logbook.models import Event, Reading
from tests.api.conftest import NOW

FRESH = {"reading": {"store": "fresh", "text": "1/3"}}


def state(answer):
    return [each["state"] for each in answer.body["writes"]]


@pytest.fixture
def crew(as_user):
    return as_user("crew")


@pytest.fixture
def entry(owner):
    return owner.read("urine", "20%").body["entries"][0]


def ref(entry):
    return {"kind": entry["kind"], "id": entry["id"]}


def test_what_is_sent_again_is_answered_and_not_kept_again(owner, rig):
    writes = [
        {"id": str(uuid4()), "add": FRESH},
        {"id": str(uuid4()), "add": {"event": {"type": "shower", "count": 1}}},
        {"id": str(uuid4()), "day": {"on": "2026-09-05", "facts": {"sky": "wet"}}},
        {"id": str(uuid4()), "plan": {"on": "2026-09-07", "facts": {"sky": "wet"}}},
    ]
    before = Reading.objects.count(), Event.objects.count()
    first = owner.write(*writes).body
    rig.refresh_from_db()
    revision, day = rig.revision, rig.days.get(date="2026-09-05").sky
    again = owner.write(*writes).body
    assert again == first
    rig.refresh_from_db()
    assert (rig.revision, rig.days.get(date="2026-09-05").sky) == (revision, day)
    assert (Reading.objects.count(), Event.objects.count()) == (before[0] + 1, before[1] + 1)


def test_correcting_and_removing_are_done_once_too(owner, entry, rig):
    correct = {
        "id": str(uuid4()),
        "saw": 99,
        "correct": {"entry": ref(entry), "to": {"reading": {"store": "urine", "text": "90%"}}},
    }
    first = owner.write(correct).body["writes"]
    owner.correct(entry, {"reading": {"store": "urine", "text": "50%"}})
    assert state(owner.write(correct)) == ["kept"]
    assert Reading.objects.get(uuid=entry["id"]).value == 0.5  # the later correction stands
    assert first[0]["entry"]["words"] == "Urine bottle: 7.2 L, 90 %"
    remove = {"id": str(uuid4()), "remove": ref(entry)}
    assert state(owner.write(remove)) == state(owner.write(remove)) == ["kept"]
    assert not Reading.objects.filter(uuid=entry["id"]).exists()


def test_an_id_that_was_used_for_something_else_is_refused(owner):
    id = str(uuid4())
    assert state(owner.write({"id": id, "add": FRESH}, {"id": id, "add": FRESH})) == ["kept", "kept"]
    (other,) = owner.write({"id": id, "add": {"reading": {"store": "fresh", "text": "2/3"}}}).body["writes"]
    assert (other["state"], other["problem"]) == ("refused", "this id was used for something else")
    assert Reading.objects.filter(sent=id).count() == 1


def test_one_that_is_refused_twice_in_a_list_is_refused_twice(owner):
    id = str(uuid4())
    bad = {"id": id, "add": {"reading": {"store": "fresh", "text": "lots"}}}
    first, second = owner.write(bad, bad).body["writes"]
    assert first == second
    assert first["state"] == "refused"


def test_what_is_kept_is_answered_as_kept_though_its_levels_cannot_be_derived(owner, monkeypatch):
    def broken(*_: object) -> None:
        raise ZeroDivisionError

    monkeypatch.setattr("lodeline.api.writes.levels_soon", broken)
    count = Reading.objects.count()
    (kept,) = owner.write({"add": FRESH}).body["writes"]
    assert (kept["state"], kept["entry"]["heard"]) == ("kept", None)
    assert Reading.objects.count() == count + 1


def test_an_entry_is_spoken_of_by_the_id_that_the_device_gave_it(owner):
    id = str(uuid4())
    to = {"reading": {"store": "fresh", "text": "2/3"}}
    sent = {"kind": "reading", "sent": id}
    writes = [{"id": id, "add": FRESH}, {"correct": {"entry": sent, "to": to}, "after": [id], "saw": 1}]
    added, corrected = owner.write(*writes).body["writes"]
    assert corrected["entry"]["id"] == added["entry"]["id"]
    assert corrected["entry"]["words"].startswith("Fresh water: mark 2/3")
    assert state(owner.write({"remove": sent})) == ["kept"]
    assert not Reading.objects.filter(uuid=added["entry"]["id"]).exists()


def test_what_another_hand_changed_meanwhile_is_answered_not_replaced(owner, crew, entry, rig):
    saw = rig.revision + 1
    crew.correct(entry, {"reading": {"store": "urine", "text": "60%"}})
    mine = {"entry": ref(entry), "to": {"reading": {"store": "urine", "text": "90%"}}}
    for write in ({"correct": mine, "saw": saw}, {"remove": ref(entry), "saw": saw}):
        (stale,) = owner.write(write).body["writes"]
        assert (stale["state"], stale["stands"]) == ("stale", "Urine bottle: 4.8 L, 60 %, 20:30")
    assert Reading.objects.get(uuid=entry["id"]).value == 0.6
    assert state(owner.write({"correct": mine, "saw": stale["revision"]})) == ["kept"]  # having seen it, one chooses
    assert state(owner.write({"remove": ref(entry), "saw": 10**15})) == ["kept"]  # whatever stands there


def test_two_hands_set_different_facts_of_a_day_and_both_stand(owner, crew, rig):
    saw = rig.revision
    assert crew.day("2026-09-05", sky="wet")["state"] == "kept"
    other, same = (
        {"day": {"on": "2026-09-05", "facts": facts}, "saw": saw} for facts in ({"crew_aboard": 3}, {"sky": "clear"})
    )
    kept, stale = owner.write(other, same).body["writes"]
    assert (kept["state"], stale["state"]) == ("kept", "stale")
    assert "sky wet" in stale["stands"]
    day = rig.days.get(date="2026-09-05")
    assert (day.sky, day.crew_aboard) == ("wet", 3)
    assert state(owner.write(same | {"saw": rig.revision + 9})) == ["kept"]


def test_what_a_device_set_twice_without_a_signal_is_not_stale_to_itself(owner, rig):
    first, second = str(uuid4()), str(uuid4())
    facts = [{"day": {"on": "2026-09-05", "facts": {"temp_max": degrees}}, "saw": rig.revision} for degrees in (20, 25)]
    assert state(owner.write(facts[0] | {"id": first})) == ["kept"]
    assert state(owner.write(facts[1] | {"id": second, "after": [first]})) == ["kept"]
    assert rig.days.get(date="2026-09-05").temp_max_c == 25
    assert state(owner.write(facts[0] | {"id": str(uuid4())})) == ["stale"]  # as one that saw neither


def test_what_waited_on_a_device_is_not_written_by_whoever_is_signed_in_there_now(owner, crew):
    count = Reading.objects.count()
    body = {"writes": [{"id": str(uuid4()), "add": FRESH}]}
    path = f"/api/rigs/{owner.rig.pk}/writes"
    other = crew.client.post(path, body, "application/json", headers={"X-Lodeline-Account": "owner"})
    assert (other.status_code, Reading.objects.count()) == (401, count)
    own = owner.client.post(path, body, "application/json", headers={"X-Lodeline-Account": "owner"})
    assert (own.status_code, Reading.objects.count()) == (200, count + 1)


def test_what_replaces_must_say_what_it_saw(owner, entry):
    for write in ({"remove": ref(entry)}, {"day": {"on": "2026-09-05", "facts": {"sky": "wet"}}}):
        (refused,) = owner.write(write | {"saw": None}).body["writes"]
        assert (refused["state"], refused["place"]) == ("refused", "saw")


def test_a_rig_is_not_put_over_a_later_one(owner, crew):
    seen = owner.get("/rigs/{rig}").body
    assert owner.change_rig(name="Sanderling II").status_code == 200
    stale = owner.put(f"/rigs/{{rig}}?saw={seen['revision']}", seen["doc"] | {"units": "us"})
    assert stale.status_code == 409
    assert "changed meanwhile" in stale.body["problem"]
    assert stale.body["stands"]["doc"]["name"] == "Sanderling II"
    crew.read("fresh", "1/3")  # an entry changes nothing of the document
    now = stale.body["stands"]
    assert owner.put(f"/rigs/{{rig}}?saw={now['revision']}", now["doc"] | {"units": "us"}).status_code == 200
    assert owner.get("/rigs/{rig}").body["doc"]["units"] == "us"


def minutes_ago(minutes, **more):
    at = datetime.fromisoformat(NOW) - timedelta(minutes=minutes)
    return {"made_at": at.isoformat(), "ago_s": minutes * 60, "add": FRESH} | more


def test_what_waited_has_the_time_at_which_it_was_made(owner):
    (kept,) = owner.write(minutes_ago(90)).body["writes"]
    assert kept["entry"]["at"]["time"] == "19:00"
    assert kept["entry"]["device_at"] is None


def test_a_device_whose_clock_is_off_is_asked_about_and_nothing_is_lost(owner):
    """Three hours ahead, sent at once; and one whose clock was set right while it waited."""
    ahead = minutes_ago(-180, ago_s=0)
    behind = minutes_ago(300, ago_s=-60)
    kept = owner.write(ahead, behind).body["writes"]
    assert [each["entry"]["at"]["time"] for each in kept] == ["20:30", "20:30"]
    assert [each["entry"]["device_at"]["time"] for each in kept] == ["23:30", "15:30"]
    shown = owner.get("/rigs/{rig}/round").body["entries"]
    asked = [each for each in shown if each["device_at"]]
    assert len(asked) == 2
    settled = owner.correct(asked[1], {"on": "2026-09-05", "time": "15:30"})
    assert settled["at"]["time"] == "15:30"
    shown = owner.get("/rigs/{rig}/round").body["entries"]
    assert sum(each["device_at"] is not None for each in shown) == 1


def test_two_readings_of_a_store_within_minutes_are_both_kept_and_shown_as_such(owner, crew):
    owner.read("fresh", "1/3")
    crew.read("fresh", "2/3")
    crew.read("gas", "10.9 kg")
    lines = owner.get("/rigs/{rig}/round").body["entries"]
    near = {each["words"].split(":")[0]: each["near"] for each in lines if each["near"]}
    assert set(near) == {"Fresh water"}
    assert any("by crew: mark 2/3" in (each["near"] or "") for each in lines)
    assert {each["by"] for each in lines if each["words"].startswith("Fresh water: mark")} >= {"owner", "crew"}


def test_a_thousand_readings_within_minutes_are_said_of_in_a_bounded_answer(owner):
    """Each names its two nearest and a count; the rest of the day is asked for, or in the export."""
    for _ in range(5):
        owner.log(*({"reading": {"store": "fresh", "text": f"{n % 100} %"}} for n in range(200)))
    tonight, page = owner.get("/rigs/{rig}/round").body, owner.get("/rigs/{rig}/log").body["days"][0]
    assert len(tonight["entries"]) == 60
    assert tonight["earlier"].startswith("94")
    assert "and 997 more times" in tonight["entries"][-1]["near"]
    assert (len(page["entries"]), page["earlier"]) == (100, page["earlier"])
    all_of_it = owner.get("/rigs/{rig}/log?days=1&entries=2000").body["days"][0]
    assert (len(all_of_it["entries"]), all_of_it["earlier"]) == (100 + page["earlier"], 0)
    lanes = owner.get("/rigs/{rig}/horizon").body["lanes"]
    assert all(len(lane["readings"]) <= 600 for lane in lanes)
    assert len(owner.get("/rigs/{rig}/round").content) < 100_000


def test_a_day_has_so_many_hours(owner):
    on = {"on": "2026-09-04", "time": "08:00"}
    charge = {"event": {"type": "shore", "hours": 20}} | on
    assert state(owner.write({"add": charge}, {"add": charge})) == ["kept", "refused"]
    assert Event.objects.filter(type="shore", hours=20).count() == 1
