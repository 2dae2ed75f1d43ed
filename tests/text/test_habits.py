"""Numbers, dates and times as their reader writes them."""

from datetime import date, datetime

from lodeline.text.display import METRIC, number
from lodeline.text.habits import Habits, exact, figure, read_by
from lodeline.text.times import clock, date_words, days_words, short_date

AT = datetime(2026, 12, 3, 20, 5)  # noqa: DTZ001


def test_numbers_dates_and_times_follow_their_reader():
    assert (figure(1234.5, 1), exact(12.8), number(1234.5), clock(AT)) == ("1,234.5", "12.8", "1,234", "20:05")
    with read_by(Habits.told("clock=12, dates=month, numbers=comma")):
        assert (figure(1234.5, 1), exact(12.8), clock(AT)) == ("1.234,5", "12,8", "8:05 pm")
        assert (short_date(AT.date()), date_words(AT.date())) == ("Thu, Dec 3", "Thursday, December 3")
        assert METRIC.amount(2.5, "L") == "2,5 L"
        assert days_words(2.5) == "2,5 days"
        assert number(0.0, 1) == "0"
    with read_by(Habits.told("numbers=space")):
        assert figure(1234.5, 1) == "1\N{NARROW NO-BREAK SPACE}234,5"
    assert short_date(date(2026, 12, 3)) == "Thu 3 Dec"


def test_noon_and_midnight_by_twelve_hours():
    with read_by(Habits(hours_24=False)):
        assert [clock(AT.replace(hour=hour)) for hour in (0, 11, 12, 13)] == [
            "12:05 am",
            "11:05 am",
            "12:05 pm",
            "1:05 pm",
        ]


def test_what_is_not_known_of_a_reader_is_as_usual():
    for told in ("", "clock=13, numbers=roman", "=;=", "clock"):
        assert Habits.told(told) == Habits()
