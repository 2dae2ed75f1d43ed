"""Logging: what is understood, kept, corrected, and what it changes."""

import pytest

from lodeline.logbook.models import Change, Event, Reading


def lane(api, store):
    return next(each for each in api.get("/rigs/{rig}/horizon").body["lanes"] if each["id"] == store)


def test_an_evening_changes_the_lane_and_the_sentence(owner):
    before = owner.get("/rigs/{rig}/horizon").body
    assert "Urine bottle" in before["headline"]
    done = owner.do("dump", store="urine").body["entries"][0]
    assert done["words"] == "Urine bottle emptied"
    after = owner.get("/rigs/{rig}/horizon").body
    assert after["headline"] != before["headline"]
    assert lane(owner, "urine")["past"][-1]["level"] < 0.5


def test_a_reading_is_understood_fitted_and_kept(owner):
    entry = owner.read("fresh", "1/3").body["entries"][0]
    assert entry["heard"]["words"] == "mark 1/3: 46 to 94 L"
    assert entry["heard"]["fits"] is True
    row = Reading.objects.get(uuid=entry["id"])
    assert (row.method, row.value, row.text) == ("step", 0.33, "1/3")


def test_a_round_says_in_what_each_store_was_read_last_and_what_a_coarse_gauge_can_show(owner):
    def shown(store, text):
        assert owner.read(store, text).status_code == 200
        stores = {each["id"]: each for each in owner.get("/rigs/{rig}/round").body["stores"]}
        return stores[store]["last_in"], [mark["label"] for mark in stores[store]["marks"]]

    eighths = ["0", "1/8", "1/4", "3/8", "1/2", "5/8", "3/4", "7/8", "1"]
    assert [shown("diesel", text) for text in ("7/8", "60 L", "full")] == [
        ("%", eighths),
        ("L", eighths),
        (None, eighths),
    ]
    assert [shown("house", text)[0] for text in ("13.2 V", "80%")] == [None, None]  # 13 may be either
    assert shown("grey", "1/3") == (None, ["0", "1/3", "2/3", "1"])


def test_understanding_keeps_nothing(owner):
    count = Reading.objects.count()
    assert owner.post("/rigs/{rig}/understand", {"store": "gas", "text": "10.9 kg"}).status_code == 200
    assert Reading.objects.count() == count


def test_what_does_not_fit_is_said_and_kept_all_the_same(owner):
    entry = owner.read("house", "12%").body["entries"][0]
    assert entry["heard"]["fits"] is False
    assert "Does not fit" in entry["heard"]["fit_words"]
    assert Reading.objects.filter(uuid=entry["id"]).exists()


def test_volts_on_charge_are_explained(owner):
    heard = owner.post("/rigs/{rig}/understand", {"store": "house", "text": "14.2V"}).body
    assert "being charged" in heard["words"]
    assert "not full yet" in heard["words"] or "nearly full" in heard["words"]


READ, DID = "reading", "event"


@pytest.mark.parametrize(
    ("entry", "place", "label", "says"),
    [
        ({READ: {"store": "fresh", "text": "lots"}}, "text", "Reading", "not understood"),
        ({READ: {"store": "gray", "text": "1/3"}}, "store", "Store", "no store"),
        ({READ: {"store": "fresh", "text": "1/3"}, "on": "2026-09-06", "time": "20:00"}, "at", "Time", "future"),
        ({DID: {"type": "dump", "store": "fresh"}}, "event.store", "Store", "cannot be emptied"),
        ({DID: {"type": "wash"}}, "type", "What was done", "not something that is done"),
        ({DID: {"type": "drive"}}, "event.hours", "Hours", "is missing"),
        ({DID: {"type": "drive", "hours": 26}}, "event.hours", "Hours", "more than a day has"),
        ({DID: {"type": "fill", "store": "fresh", "amount": 999}}, "event.amount", "Amount", "more than"),
        ({DID: {"type": "move", "store": "grey", "amount": 5}}, "event.from", "From", "has no reserve"),
        ({}, "entry", "", "is missing"),
    ],
)
def test_what_is_refused_names_its_place_and_does_not_stop_the_others(owner, entry, place, label, says):
    good = {"add": {READ: {"store": "fresh", "text": "1/3"}}}
    counts = Reading.objects.count(), Event.objects.count()
    before, refused, after = owner.write(good, {"add": entry}, good).body["writes"]
    assert [before["state"], refused["state"], after["state"]] == ["kept", "refused", "kept"]
    assert refused["place"] == place
    assert label in refused["label"]
    assert says in refused["problem"]
    assert (Reading.objects.count(), Event.objects.count()) == (counts[0] + 2, counts[1])


@pytest.mark.parametrize(
    ("write", "place", "says"),
    [
        ({"add": {READ: {"store": "fresh"}}}, "writes[1].add.reading.text", "is missing"),
        ({"add": {READ: {"store": "fresh", "text": "1/3", "colour": 1}}}, "writes[1].add.reading.colour", "unknown"),
        ({"id": "seven", "add": {}}, "writes[1].id", ""),
        ({"made_at": "yesterday", "add": {}}, "writes[1].made_at", "with its offset"),
    ],
)
def test_a_write_of_the_wrong_shape_is_named_and_nothing_is_kept(owner, write, place, says):
    count = Reading.objects.count()
    answer = owner.write({"add": {READ: {"store": "fresh", "text": "1/3"}}}, write)
    assert answer.status_code == 422
    assert answer.body["place"] == place
    assert says in answer.body["problem"]
    assert Reading.objects.count() == count


@pytest.mark.parametrize(
    ("body", "status"),
    [
        (b"{", 422),
        (b'{"writes": [], "writes": []}', 422),
        (b'{"text": "\\ud800"}', 422),
        (b"\xff", 422),
        (b'{"writes": NaN}', 422),
        (b"[]", 422),
        (b"null", 422),
        (b'{"writes": []}', 422),
    ],
)
def test_broken_bodies_are_refused_not_crashed_on(owner, body, status):
    answer = owner.post("/rigs/{rig}/writes", body)
    assert answer.status_code == status
    assert answer.body["problem"]


def test_an_unknown_type_of_event_is_never_taken_for_another(owner):
    for event in ({"type": "sauna"}, {"type": "sauna", "store": "fresh", "hours": 1}):
        assert owner.write({"add": {DID: event}}).body["writes"][0]["state"] == "refused"
    assert not Event.objects.filter(type="sauna").exists()


def test_a_correction_keeps_what_stood_before_and_the_history_says_it_in_sentences(owner, rig):
    first = owner.read("urine", "20%").body["entries"][0]
    owner.correct(first, {"reading": {"store": "urine", "text": "90%"}})
    owner.remove(first)
    history = [each["words"] for each in owner.get("/rigs/{rig}/log/2026-09-05/history").body]
    assert history == [
        "owner removed Urine bottle: 7.2 L, 90 %",
        "owner corrected Urine bottle: 1.6 L, 20 % to Urine bottle: 7.2 L, 90 %",
        "owner logged Urine bottle: 1.6 L, 20 %",
    ]
    assert not Reading.objects.filter(uuid=first["id"]).exists()


def test_a_move_is_corrected_as_a_move(owner):
    move = owner.do("move", source="reserve", target="fresh", amount=5).body["entries"][0]
    assert move["words"] == "5.0 L from the reserve to Fresh water"
    event = move["event"] | {"amount": 8}
    corrected = owner.correct(move, {"event": event})
    assert corrected["words"] == "8.0 L from the reserve to Fresh water"
    assert corrected["at"] == move["at"]


def test_an_event_is_corrected_as_it_would_be_sent(owner):
    days = owner.get("/rigs/{rig}/log").body["days"]
    drive = next(e for day in days for e in day["entries"] if e["words"].startswith("Drove"))
    assert (drive["event"]["hours"], drive["event"]["distance"]) == (1.5, 84)
    changed = {"event": drive["event"] | {"hours": 2.0}, "on": drive["at"]["date"], "time": drive["at"]["time"]}
    corrected = owner.correct(drive, changed)
    assert (corrected["words"], corrected["at"]["time"]) == ("Drove 2 h, 84 km", drive["at"]["time"])
    days = owner.get("/rigs/{rig}/log").body["days"]
    stands = next(e for day in days for e in day["entries"] if (e["kind"], e["id"]) == ("event", drive["id"]))
    assert (stands["words"], stands["at"]) == (corrected["words"], corrected["at"])
    history = owner.get(f"/rigs/{{rig}}/log/{drive['at']['date']}/history").body
    assert history[0]["words"] == "owner corrected Drove 1 h 30 min, 84 km to Drove 2 h, 84 km"


def test_every_write_raises_the_revision(owner, rig):
    writes = [
        lambda: owner.read("fresh", "1/3"),
        lambda: owner.do("shower", count=1),
        lambda: owner.day("2026-09-05", sky="wet"),
        lambda: owner.plan("2026-09-07", sky="wet"),
        lambda: owner.change_rig(name="Other"),
    ]
    for write in writes:
        before, stamp = rig.revision, rig.stamp
        write()
        rig.refresh_from_db()
        assert rig.revision > before
        assert rig.stamp != stamp
    before = rig.revision
    owner.change_rig()  # saved as it stands, it is as it was
    rig.refresh_from_db()
    assert rig.revision == before


def test_days_are_kept_in_base_units_and_shown_in_the_users(owner, rig):
    owner.change_rig(units="us")
    owner.day("2026-09-05", temp_min=50, temp_max=68, water=10)
    day = rig.days.get(date="2026-09-05")
    assert (day.temp_min_c, day.temp_max_c) == (pytest.approx(10), pytest.approx(20))
    assert day.water_l == pytest.approx(37.85411784)
    shown = owner.get("/rigs/{rig}/round").body
    assert (shown["day"]["temp_min"], shown["temp_unit"], shown["day"]["water"]) == (50, "°F", 10)
    assert lane(owner, "fresh")["level"].endswith(" gal")


def test_a_day_changes_only_in_what_was_given(owner, rig):
    owner.day("2026-09-04", note="Windy.")
    day = rig.days.get(date="2026-09-04")
    assert (day.note, day.sky, day.water_l) == ("Windy.", "mixed", 31)
    assert Change.objects.filter(rig=rig, kind="day").count() == 1
    history = owner.get("/rigs/{rig}/log/2026-09-04/history").body
    assert history[0]["words"] == 'owner changed note to "Windy.", was not known'


def test_the_plan_moves_the_lanes(owner):
    before = lane(owner, "fresh")
    assert owner.plan("2026-09-06", crew_aboard=9)["state"] == "kept"
    assert lane(owner, "fresh")["p50_at"] < before["p50_at"]
    past = owner.plan("2026-09-01", sky="wet")
    assert (past["state"], "is past" in past["problem"]) == ("refused", True)
