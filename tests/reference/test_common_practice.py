"""Expected use before a log exists lies in the ranges of common practice; the floors of Sphere 2018 (memory)."""

import pytest

from lodeline.core.rig import Crew
from lodeline.core.tracking.use import expected_use
from tests.builders import a_rig, a_store


def per_day(kind: str, capacity: float, crew: Crew) -> float:
    store = a_store(kind, capacity)
    return float(expected_use(a_rig(store, crew=crew), store).mean[0])


@pytest.mark.parametrize(
    ("kind", "capacity", "adults", "low", "high"),
    [
        ("fresh", 100.0, 1, 12.0, 20.0),  # a careful single person 12 to 15 L, careless ones three times that
        ("cassette", 19.0, 2, 19 / 3, 19 / 2),  # 18 to 20 L last two people two to three days
        ("urine", 8.0, 2, 8 / 3, 8 / 2),  # an 8 L bottle lasts two people two to three days
        ("black", 80.0, 1, 3.0, 8.0),  # 3 to 8 L a person a day
        ("solids", 70.0, 2, 70 / 28, 70 / 21),  # three to four weeks for two
        ("gas", 9.0, 2, 9 / 56, 9 / 42),  # a 9 kg bottle lasts six to eight weeks of cooking
    ],
)
def test_expected_use_is_common_practice(kind, capacity, adults, low, high):
    assert low <= per_day(kind, capacity, Crew(adults)) <= high


def test_nobody_is_expected_to_live_under_the_survival_floor():
    # Sphere Handbook 2018 (memory): 2.5 to 3 L a person a day to drink and eat
    assert per_day("fresh", 20.0, Crew(2)) / 2 > 3.0


def test_urine_lies_in_the_clinical_range():
    # clinical reference range (memory): 0.8 to 2 L a day an adult
    assert 0.8 <= per_day("urine", 8.0, Crew(1)) <= 2.0
