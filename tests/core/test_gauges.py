"""What a gauge is found to be worth."""

from dataclasses import replace

import numpy as np
import pytest

from lodeline.core.catalogue import GaugeKind
from lodeline.core.rig import Gauge
from lodeline.core.tracking.gauges import learned_gauge
from lodeline.core.tracking.track import track
from tests.builders import BANK, FRESH, a_fill, a_log, a_reading, a_rig, at

SENSOR = replace(FRESH, gauge=Gauge(GaugeKind.SENSOR, (), 0.01))


def read_daily(miss, cycles=10, store=SENSOR):
    """A tank filled every seventh day and metered; its sensor off by ``miss(share)`` on each reading."""
    entries = []
    for cycle in range(cycles):
        entries.append(a_fill(7 * cycle, hour=20))
        for day in range(1, 7):
            share = 1 - 0.12 * day
            entries.append(a_reading(7 * cycle + day, min(1.0, max(0.0, share + miss(share))), "fraction"))
    log = a_log(*entries, water_l=12.0)
    return learned_gauge(track(a_rig(store), log, at(7 * cycles - 1, 21))["fresh"])


def test_a_steady_sensor_that_reads_high_is_told_from_one_that_scatters():
    rng = np.random.default_rng(4)
    high, loose = read_daily(lambda share: 0.06), read_daily(lambda share: float(rng.normal(0, 0.06)))
    assert high.bias == pytest.approx(0.06, abs=0.025)
    assert high.error < 0.02
    assert abs(loose.bias) < 0.035  # about half of a single miss
    assert loose.error == pytest.approx(0.06, abs=0.025)


def test_one_outlier_does_not_make_a_gauge_bad():
    outliers = iter([*[0.0] * 30, 0.5, *[0.0] * 60])
    assert read_daily(lambda share: next(outliers)).error < 0.02


def test_nothing_is_said_of_a_gauge_by_a_handful_of_readings():
    few = read_daily(lambda share: 0.0, cycles=1)
    assert few.error is None
    assert not few.enough


def test_a_full_charge_sets_the_shunt_right_and_drift_comes_back_with_the_days():
    def bias_sd(*entries, until):
        return learned_gauge(track(a_rig(BANK), a_log(*entries, days=until), at(until, 21))["house"]).bias_sd

    start = a_reading(0, 0.7, "fraction", "house")
    full = a_reading(10, None, "full", "house")
    assert bias_sd(start, full, until=10) < 0.5 * bias_sd(start, until=10)
    assert bias_sd(start, full, until=10) < bias_sd(start, full, until=30)
