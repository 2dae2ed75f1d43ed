"""Local days through the API and the ledger: five zones, and both changes of clocks."""

from datetime import date, timedelta
from itertools import pairwise

import pytest

# west, east, southern, half-hour, no change of clocks: the evening of the log, and days before it to log on; a day
# on which the clocks change is among them where there is one
CASES = [
    ("America/Denver", date(2026, 3, 9)),
    ("America/Denver", date(2026, 11, 2)),
    ("Europe/Berlin", date(2026, 3, 30)),
    ("Europe/Berlin", date(2026, 10, 26)),
    ("Pacific/Auckland", date(2026, 4, 6)),
    ("Pacific/Auckland", date(2026, 9, 28)),
    ("Australia/Adelaide", date(2026, 4, 6)),
    ("Australia/Adelaide", date(2026, 10, 5)),
    ("Asia/Kolkata", date(2026, 3, 9)),
]
TIMES = ("00:05", "02:30", "12:00", "20:15", "23:55")


@pytest.fixture
def aboard(owner, monkeypatch):
    """A fresh rig that lives in a zone, at nine in the evening of a date."""

    def make(zone: str, today: date):
        monkeypatch.setenv("LODELINE_NOW", f"{today + timedelta(days=2)}T12:00:00+00:00")
        answers = {
            "name": "Wren",
            "timezone": zone,
            "units": "metric",
            "adults": 1,
            "chemistry": "lfp",
            "battery_ah": 100,
            "solar_watts": 200,
            "fresh": 100,
            "grey": 50,
            "toilet": "none",
            "gas": 0,
            "fuel": 0,
        }
        made = owner.post("/rigs/set-up", answers).body
        owner.rig.pk = made["id"]
        return owner

    return make


@pytest.mark.parametrize(("zone", "today"), CASES, ids=lambda case: str(case))
def test_an_entry_keeps_the_date_and_time_it_was_given(aboard, zone, today):
    api = aboard(zone, today)
    dates = [today - timedelta(days=back) for back in range(4)]
    given = [(str(on), time) for on in dates for time in TIMES]
    batch = [{"event": {"type": "shower", "count": 1}, "on": on, "time": time} for on, time in given]
    answer = api.log(*batch)
    assert answer.status_code == 200, answer.body
    days = {day["date"]: day for day in api.get("/rigs/{rig}/log").body["days"]}
    for on in dates:
        shown = [(entry["at"]["date"], entry["at"]["time"]) for entry in days[str(on)]["entries"]]
        assert [each[0] for each in shown] == [str(on)] * len(TIMES)
        # a time that the clocks skip is the same moment an hour later
        assert [each[1] for each in shown if each[1] != "03:30"] == [time for time in TIMES if (str(on), time) in shown]
        assert sum(each[1] in TIMES for each in shown) >= len(TIMES) - 1
    exported = api.get("/rigs/{rig}/export").content
    assert api.post("/rigs/{rig}/import/preview", exported).status_code == 200  # every entry on its own day


@pytest.mark.parametrize(("zone", "today"), CASES, ids=lambda case: str(case))
def test_an_evenings_fill_and_reading_are_in_the_sums_of_that_evening(aboard, zone, today):
    api = aboard(zone, today)
    before, change = today - timedelta(days=2), today - timedelta(days=1)
    api.log(
        {"reading": {"store": "fresh", "text": "40 L"}, "on": str(before), "time": "20:00"},
        {"event": {"type": "fill", "store": "fresh", "full": True}, "on": str(change), "time": "21:30"},
        {"reading": {"store": "fresh", "text": "99 L"}, "on": str(change), "time": "22:00"},
    )
    days = {day["date"]: day for day in api.get("/rigs/{rig}/log").body["days"]}
    (fresh,) = [row for row in days[str(change)]["sums"] if row["store"] == "fresh"]
    assert fresh["moved"].startswith("+")
    assert float(fresh["moved"].removeprefix("+").split()[0]) > 50
    assert float(fresh["end"].split()[0]) > 95
    (after,) = [row for row in days[str(today)]["sums"] if row["store"] == "fresh"]
    assert after["moved"] is None


@pytest.mark.parametrize(("zone", "today"), CASES, ids=lambda case: str(case))
def test_a_correction_without_a_time_leaves_the_entry_where_it_is(aboard, zone, today):
    api = aboard(zone, today)
    on = str(today - timedelta(days=1))
    entry = api.log({"reading": {"store": "fresh", "text": "50 L"}, "on": on, "time": "23:30"}).body["entries"][0]
    corrected = api.correct(entry, {"reading": {"store": "fresh", "text": "55 L"}})
    assert corrected["at"] == entry["at"]
    moved = {"reading": {"store": "fresh", "text": "55 L"}, "on": on, "time": "01:15"}
    corrected = api.correct(entry, moved)
    assert (corrected["at"]["date"], corrected["at"]["time"]) == (on, "01:15")
    alone = api.correct(entry, {"on": on, "time": "22:05"})
    assert (alone["at"]["time"], alone["words"]) == ("22:05", corrected["words"])


@pytest.mark.parametrize(("zone", "today"), CASES, ids=lambda case: str(case))
def test_the_days_of_the_horizon_join_and_are_as_long_as_the_clocks_make_them(aboard, zone, today):
    api = aboard(zone, today)
    strip = api.get("/rigs/{rig}/horizon").body
    days = strip["days"]
    assert days[0]["starts_at"] == strip["starts_at"]
    assert days[-1]["ends_at"] == strip["ends_at"]
    for earlier, later in pairwise(days):
        assert earlier["ends_at"] == later["starts_at"]
    for day in days:
        assert day["starts_at"].startswith(f"{day['date']}T00:00:00")
