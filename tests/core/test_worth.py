"""By how much a reading now would narrow the days left of the whole rig."""

from dataclasses import replace

from lodeline.core.catalogue import GaugeKind, Served
from lodeline.core.rig import Gauge
from tests.builders import FRESH, FUEL, GAS, PANEL, a_fill, a_log, a_reading, a_rig, a_store, at, forecast


def worth(rig, log, now):
    return forecast(rig, log, (), now, n_paths=4000).worth_days


def test_a_store_that_never_runs_out_is_worth_nothing_however_badly_it_is_known():
    rig = a_rig(FRESH, replace(FUEL, heats=False))
    gains = worth(rig, a_log(a_fill(0), a_reading(0, 0.5, "fraction", "diesel"), days=3), at(3))
    assert gains["diesel"] < 0.02
    assert gains["fresh"] > 0.05


def test_it_is_worth_more_the_finer_the_gauge_and_the_longer_the_last_reading_is_ago():
    sight = replace(FRESH, capacity=300.0, gauge=Gauge(GaugeKind.SENSOR, (), 0.01))
    panel = replace(sight, gauge=PANEL)
    log = a_log(a_fill(0), days=6)
    assert worth(a_rig(sight), log, at(6))["fresh"] > worth(a_rig(panel), log, at(6))["fresh"] + 0.05
    assert worth(a_rig(sight), log, at(6))["fresh"] > worth(a_rig(sight), log, at(1))["fresh"] + 0.05


def test_a_chore_does_not_narrow_the_days_left():
    urine = a_store("urine", 8.0, "urine", served=Served.HERE)
    log = a_log(a_fill(0), a_reading(0, 0.2, "fraction", "urine"), days=2)
    assert worth(a_rig(replace(FRESH, capacity=60.0), urine), log, at(2))["urine"] < 0.03


def test_a_bottle_is_worth_weighing_where_nobody_knows_what_it_burns():
    heats = replace(GAS, heats=True)
    log = a_log(a_reading(0, 14.0, "gross", "gas"), days=5, temp_min_c=-8.0, temp_max_c=-2.0)
    assert worth(a_rig(heats), log, at(5))["gas"] > 0.3
