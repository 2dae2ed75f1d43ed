"""NIST SP 811 (2008) appendix B and Handbook 44 appendix C: factors exact by definition."""

import pytest

from lodeline.core.catalogue import System, shown, typed_unit


@pytest.mark.parametrize(
    ("text", "system", "unit", "exact"),
    [
        ("gal", System.US, "L", 3.785411784),
        ("gal", System.UK, "L", 4.54609),
        ("lb", System.US, "kg", 0.45359237),
        ("mi", System.UK, "km", 1.609344),
    ],
)
def test_factors_are_exact(text, system, unit, exact):
    assert typed_unit(text, system) == (unit, exact)


def test_water_weighs_8_34_lb_a_us_gallon():
    # Handbook 44, from 1 kg/L: printed to three figures
    gallon_kg = 1 / shown("L", System.US).factor
    assert gallon_kg * shown("kg", System.US).factor == pytest.approx(8.345, abs=0.005)


def test_celsius_to_fahrenheit():
    # NIST SP 811 B.9: t/degF = 1.8 t/degC + 32
    assert shown("degC", System.US).to_shown(-40.0) == -40.0
    assert shown("degC", System.US).to_base(212.0) == pytest.approx(100.0)
