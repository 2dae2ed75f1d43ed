"""Battery arithmetic and tables: arithmetic; W. Peukert 1897 as in battery handbooks; common practice rest volts."""

import pytest

from lodeline.core.catalogue import Chemistry, VoltsState
from lodeline.core.energy.bank import peukert_hours, state_of_charge
from lodeline.core.rig import Layout, Store
from tests.builders import a_bank

# Common practice, tables differ by 0.05 V: 12 V lead at rest, 25 degrees C; four LFP cells.
LEAD = [
    (12.73, 100),
    (12.62, 90),
    (12.50, 80),
    (12.37, 70),
    (12.24, 60),
    (12.10, 50),
    (11.96, 40),
    (11.81, 30),
    (11.66, 20),
    (11.51, 10),
]
LFP = [
    (13.6, 100),
    (13.4, 99),
    (13.3, 90),
    (13.2, 70),
    (13.1, 40),
    (13.0, 30),
    (12.9, 20),
    (12.8, 17),
    (12.5, 14),
    (12.0, 9),
    (10.0, 0),
]


def bank(chemistry: Chemistry, volts: float) -> Store:
    return a_bank(chemistry, volts=volts)


@pytest.mark.parametrize(("volts", "percent"), LEAD)
@pytest.mark.parametrize("blocks", [1, 2, 4])
def test_flooded_rest_volts(volts, percent, blocks):
    meaning = state_of_charge(bank(Chemistry.FLOODED, 12.0 * blocks), volts * blocks, VoltsState.REST)
    assert meaning.soc == pytest.approx(percent / 100, abs=meaning.sd)


@pytest.mark.parametrize(("volts", "percent"), LEAD)
def test_agm_stands_about_a_tenth_of_a_volt_higher_at_the_top(volts, percent):
    meaning = state_of_charge(bank(Chemistry.AGM, 12.0), volts + 0.1 * percent / 100, VoltsState.REST)
    assert meaning.soc == pytest.approx(percent / 100, abs=0.01)


@pytest.mark.parametrize(("volts", "percent"), LFP)
@pytest.mark.parametrize("blocks", [1, 2, 4])
def test_lfp_rest_volts(volts, percent, blocks):
    meaning = state_of_charge(bank(Chemistry.LFP, 12.8 * blocks), volts * blocks, VoltsState.REST)
    assert meaning.soc == pytest.approx(percent / 100, abs=0.001)
    # near the top LFP stands at like volts too: more than lead's 7 points
    assert meaning.sd == (0.2 if 20 <= percent <= 90 else 0.12 if percent > 90 else 0.07)


def test_series_adds_volts_and_parallel_adds_amp_hours():
    layout = Layout(unit_v=6, unit_ah=225, series=2, parallel=3)
    assert (layout.bank_v, layout.bank_ah) == (12, 675)


@pytest.mark.parametrize(("amps", "hours"), [(10.0, 8.71), (5.0, 20.0)])
def test_peukert(amps, hours):
    # 100 Ah at the 20 h rate, k = 1.2, printed to three figures
    assert peukert_hours(100, 20, 1.2, amps) == pytest.approx(hours, abs=0.005)
