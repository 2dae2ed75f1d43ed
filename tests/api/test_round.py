"""Logging: what is understood, kept, corrected, and what it changes."""

import pytest

from lodeline.logbook.models import Change, Reading


def lane(api, store):
    return next(each for each in api.get("/rigs/{rig}/horizon").said["lanes"] if each["id"] == store)


def test_an_evening_changes_the_lane_and_the_sentence(owner):
    before = owner.get("/rigs/{rig}/horizon").said
    assert "Urine bottle" in before["headline"]
    done = owner.post("/rigs/{rig}/events", {"type": "dump", "store": "urine"})
    assert done.said["words"] == "Urine bottle emptied"
    after = owner.get("/rigs/{rig}/horizon").said
    assert after["headline"] != before["headline"]
    assert lane(owner, "urine")["level"] < 0.5


def test_a_reading_is_understood_fitted_and_kept(owner):
    heard = owner.post("/rigs/{rig}/readings", {"store": "fresh", "text": "1/3"})
    assert heard.said["words"] == "mark 1/3: between 46 L and 94 L"
    assert heard.said["fits"] is True
    row = Reading.objects.get(pk=heard.said["id"])
    assert (row.method, row.value, row.text) == ("step", 0.33, "1/3")


def test_understanding_keeps_nothing(owner):
    count = Reading.objects.count()
    assert owner.post("/rigs/{rig}/understand", {"store": "gas", "text": "10.9 kg"}).status_code == 200
    assert Reading.objects.count() == count


def test_what_hardly_fits_is_said_and_kept_all_the_same(owner):
    heard = owner.post("/rigs/{rig}/readings", {"store": "house", "text": "12%"})
    assert heard.said["fits"] is False
    assert "Hardly fits" in heard.said["fit_words"]
    assert Reading.objects.filter(pk=heard.said["id"]).exists()


def test_volts_on_charge_are_explained(owner):
    heard = owner.post("/rigs/{rig}/understand", {"store": "house", "text": "14.2V"}).said
    assert "being charged" in heard["words"]
    assert heard["fits"] is None


@pytest.mark.parametrize(
    ("path", "body", "place", "says"),
    [
        ("readings", {"store": "fresh", "text": "lots"}, "text", "not understood"),
        ("readings", {"store": "gray", "text": "1/3"}, "store", "no store"),
        ("readings", {"store": "fresh"}, "text", "is missing"),
        ("readings", {"store": "fresh", "text": "1/3", "colour": 1}, "colour", "unknown key"),
        ("readings", {"store": "fresh", "text": "1/3", "at": "2026-09-06T20:00:00+01:00"}, "at", "future"),
        ("readings", {"store": "fresh", "text": "1/3", "at": "yesterday"}, "at", "with its offset"),
        ("events", {"type": "dump", "store": "fresh"}, "event.store", "cannot be dumped"),
        ("events", {"type": "wash"}, "type", "not something that is done"),
        ("events", {"type": "drive"}, "event.hours", "is missing"),
        ("events", {"type": "fill", "store": "fresh", "amount": 999}, "event.amount", "more than"),
        ("events", {"type": "move", "store": "grey", "amount": 5}, "event.from", "has no reserve"),
    ],
)
def test_bad_input_names_its_place(owner, path, body, place, says):
    answer = owner.post(f"/rigs/{{rig}}/{path}", body)
    assert answer.status_code == 422
    assert answer.said["place"] == place
    assert says in answer.said["problem"]


@pytest.mark.parametrize(
    "body",
    [b"{", b'{"store": "fresh", "store": "grey"}', b'{"text": "\\ud800"}', b"\xff", b"[]", b"null", b'{"text": NaN}'],
)
def test_broken_bodies_are_refused_not_crashed_on(owner, body):
    assert owner.post("/rigs/{rig}/readings", body).status_code in (400, 422)


def test_a_correction_keeps_what_stood_before(owner, rig):
    first = owner.post("/rigs/{rig}/readings", {"store": "urine", "text": "20%"}).said["id"]
    owner.put(f"/rigs/{{rig}}/readings/{first}", {"store": "urine", "text": "90%"})
    owner.delete(f"/rigs/{{rig}}/readings/{first}")
    history = owner.get("/rigs/{rig}/log/2026-09-05/history").said
    assert [(row["action"], row["by"]) for row in history] == [
        ("removed", "owner"),
        ("corrected", "owner"),
        ("logged", "owner"),
    ]
    assert history[1]["old"]["value"] == 0.2
    assert history[1]["new"]["value"] == 0.9
    assert history[0]["old"]["value"] == 0.9
    assert not Reading.objects.filter(pk=first).exists()


def test_an_event_is_corrected_as_it_would_be_sent(owner):
    drive = next(
        e for day in owner.get("/rigs/{rig}/log").said["days"] for e in day["entries"] if e["words"].startswith("Drove")
    )
    assert (drive["event"]["hours"], drive["event"]["distance"]) == (1.5, 84)
    said = owner.put(f"/rigs/{{rig}}/events/{drive['id']}", drive["event"] | {"hours": 2.0, "at": drive["at"]}).said
    assert said["words"] == "Drove 2 h, 84 km"


def test_every_write_raises_the_revision(owner, rig):
    writes = [
        lambda: owner.post("/rigs/{rig}/readings", {"store": "fresh", "text": "1/3"}),
        lambda: owner.post("/rigs/{rig}/events", {"type": "shower", "count": 1}),
        lambda: owner.put("/rigs/{rig}/days/2026-09-05", {"sky": "wet"}),
        lambda: owner.put("/rigs/{rig}/outlook/2026-09-07", {"sky": "wet"}),
        lambda: owner.put("/rigs/{rig}", owner.get("/rigs/{rig}").said["doc"]),
    ]
    for write in writes:
        before = rig.revision
        assert write().status_code in (200, 204)
        rig.refresh_from_db()
        assert rig.revision > before


def test_days_are_kept_in_base_units_and_shown_in_the_users(owner, rig):
    owner.put("/rigs/{rig}", owner.get("/rigs/{rig}").said["doc"] | {"units": "us"})
    owner.put("/rigs/{rig}/days/2026-09-05", {"temp_min": 50, "temp_max": 68, "water": 10})
    day = rig.days.get(date="2026-09-05")
    assert (day.temp_min_c, day.temp_max_c) == (pytest.approx(10), pytest.approx(20))
    assert day.water_l == pytest.approx(37.85411784)
    said = owner.get("/rigs/{rig}/round").said
    assert (said["temp_min"], said["temp_unit"], said["water"]) == (50, "°F", 10)
    assert lane(owner, "fresh")["unit"] == "gal"


def test_a_day_changes_only_in_what_was_given(owner, rig):
    owner.put("/rigs/{rig}/days/2026-09-04", {"note": "Windy."})
    day = rig.days.get(date="2026-09-04")
    assert (day.note, day.sky, day.water_l) == ("Windy.", "mixed", 31)
    assert Change.objects.filter(rig=rig, kind="day").count() == 1


def test_the_outlook_moves_the_lanes(owner):
    before = lane(owner, "fresh")
    answer = owner.put("/rigs/{rig}/outlook/2026-09-06", {"crew_aboard": 9})
    after = next(each for each in answer.said["lanes"] if each["id"] == "fresh")
    assert after["p50_at"] < before["p50_at"]
    assert owner.put("/rigs/{rig}/outlook/2026-09-01", {"sky": "wet"}).status_code == 422
